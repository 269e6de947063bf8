using System.Globalization;

namespace Jovitar.Core.Layout;

/// <summary>Which layout suits photos, and why.</summary>
/// <param name="Kind">The layout.</param>
/// <param name="Sentence">One sentence that says so by the shapes at hand.</param>
public sealed record LayoutAdvice(LayoutKind Kind, string Sentence)
{
    /// <summary>Of what is cropped less than this nobody misses anything.</summary>
    const double Unmissed = 0.06;

    /// <summary>Cropped by more than this a photo shows something else.</summary>
    const double Missed = 0.15;

    /// <summary>A photo whose shorter side is less than this share of the middle one's is small beside it.</summary>
    const double Small = 0.6;

    static readonly (double Share, string Words)[] Shares =
        [(0.1, "a tenth"), (0.2, "a fifth"), (0.25, "a quarter"), (1 / 3.0, "a third"), (0.4, "two fifths"), (0.5, "half"), (2 / 3.0, "two thirds"), (0.75, "three quarters")];

    /// <summary>
    /// The layout that suits. Equal shapes stand in a grid, which crops nothing of them. Else it goes by the shorter side, which one
    /// sees a photo's size by: at one height an upright photo is narrow, at one width a wide one is low. The layout is taken that
    /// leaves fewer photos small beside the middle one, and of two that are as good rows, unless most are upright.
    /// </summary>
    /// <param name="shapes">Aspect ratios, width over height, each above 0.</param>
    /// <returns>Null when there is nothing to lay out.</returns>
    public static LayoutAdvice? For(ReadOnlySpan<double> shapes)
    {
        if (shapes.IsEmpty)
        {
            return null;
        }

        var all = shapes.ToArray();
        var cell = GridLayout.CellShape(shapes);
        var crops = all.Select(s => Cropped(s, cell)).ToArray();
        if (crops.Max() <= Unmissed)
        {
            return new LayoutAdvice(LayoutKind.Grid, all.Length == 1 ? "One photo stands well in any layout." : $"All {Number(all.Length)} have nearly one shape: a grid suits them and crops nothing.");
        }

        var (inRows, inColumns) = (SmallOnes([.. all.Select(s => Math.Min(s, 1))]), SmallOnes([.. all.Select(s => Math.Min(1 / s, 1))]));
        var upright = all.Count(s => s < 1);
        var kind = inRows != inColumns ? (inRows < inColumns ? LayoutKind.Rows : LayoutKind.Columns) : upright * 2 > all.Length ? LayoutKind.Columns : LayoutKind.Rows;
        return new LayoutAdvice(kind, $"{(kind == LayoutKind.Rows ? "Rows" : "Columns")} suit these shapes: {Against(all, crops, cell, kind == LayoutKind.Rows ? inColumns : inRows, kind)}.");
    }

    /// <summary>How much of a photo a cell cuts off, as a share of its width or height.</summary>
    public static double Cropped(double shape, double cell) => 1 - Math.Min(shape / cell, cell / shape);

    /// <summary>What speaks against the others, the grid before all.</summary>
    static string Against(double[] shapes, double[] crops, double cell, int smallElsewhere, LayoutKind kind)
    {
        var (cut, narrower) = (shapes.Zip(crops).Where(p => p.Second > Missed).ToArray(), 0);
        narrower = cut.Count(p => p.First < cell);
        var parts = new List<string>();
        if (cut.Length > 0)
        {
            var share = Share(cut.Average(p => p.Second));
            var (which, of) = narrower == cut.Length ? (Upright(cut), "height") : narrower == 0 ? ("wide ones", "width") : ("of them", "picture");
            parts.Add(of == "picture" ? $"a grid would crop {share} of {Number(cut.Length)} of them" : $"a grid would crop {share} of the {of} of {Number(cut.Length)} {(cut.Length == 1 ? which.Replace("ones", "one", StringComparison.Ordinal) : which)}");
        }
        else
        {
            parts.Add("a grid would crop a little of them");
        }

        if (smallElsewhere > 0)
        {
            parts.Add($"{(kind == LayoutKind.Rows ? "columns" : "rows")} would make {Number(smallElsewhere)} small");
        }

        return string.Join(", and ", parts);
    }

    static string Upright((double Shape, double)[] cut) => cut.All(c => c.Shape < 1) ? "upright ones" : "narrower ones";

    /// <summary>How many are small beside the middle one, by their shorter sides.</summary>
    static int SmallOnes(double[] sides)
    {
        var middle = sides.Order().ElementAt(sides.Length / 2);
        return sides.Count(s => s < Small * middle);
    }

    static string Share(double share) => Shares.MinBy(s => Math.Abs(s.Share - share)).Words;

    static string Number(int n) => n.ToString("#,0", CultureInfo.InvariantCulture);
}
