namespace Jovitar.Core.Layout;

/// <summary>The wanted height of the photos of a row, the gap between boxes and between rows, and the room beneath each photo that belongs to its box, CSS pixels.</summary>
public readonly record struct RowsSettings(double Height, double Gap, double Under = 0);

/// <summary>Breaks photos into rows of nearly equal height, every full row exactly as wide as the block.</summary>
/// <remarks>
/// Least sum of squared deviation from the wanted height (<see cref="Cost"/>) over all ways to break, found by dynamic programming
/// as Knuth and Plass break lines (Software: Practice and Experience 11, 1981). Rows get lower and
/// dearer with every photo once they are below the wanted height, so few are tried: the work grows with n·k for about k photos a row.
/// A row that could be two, neither above the wanted height, always is two: wanted over actual height, less 1, at least adds up where
/// rows are joined, and a square of a sum is more than the sum of squares.
/// The last row is not stretched: it stands at the wanted height, or lower when it would not fit.
/// </remarks>
public static class RowsLayout
{
    /// <summary>No row holds more photos than this, whatever their shapes.</summary>
    public const int MostInRow = 64;

    /// <summary>Places photos in rows.</summary>
    /// <param name="shapes">Aspect ratios, width over height, each above 0.</param>
    /// <param name="width">Width to fill, CSS pixels, above 0.</param>
    /// <param name="settings">Wanted height above 0, gap and room 0 or more.</param>
    /// <exception cref="ArgumentOutOfRangeException">A shape, the width or the height is not above 0.</exception>
    public static Placed Place(ReadOnlySpan<double> shapes, double width, RowsSettings settings)
    {
        if (shapes.IsEmpty)
        {
            return Placed.Nothing;
        }

        var starts = Break(shapes, width, settings);
        var boxes = new Box[shapes.Length];
        double y = 0;
        for (var row = 0; row < starts.Count; row++)
        {
            var from = starts[row];
            var to = row + 1 < starts.Count ? starts[row + 1] : shapes.Length;
            var height = HeightToFill(shapes[from..to], width, settings.Gap);
            var last = to == shapes.Length;
            if (last)
            {
                height = Math.Min(height, settings.Height);
            }

            double x = 0;
            for (var i = from; i < to; i++)
            {
                boxes[i] = new Box(x, y, shapes[i] * height, height + settings.Under);
                x += boxes[i].Width + settings.Gap;
            }

            y += height + settings.Under + settings.Gap;
        }

        return new Placed(boxes, y - settings.Gap);
    }

    /// <summary>The index of the first photo of each row in the best break.</summary>
    public static IReadOnlyList<int> Break(ReadOnlySpan<double> shapes, double width, RowsSettings settings)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(width);
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(settings.Height);
        var count = shapes.Length;
        // best[i]: least cost of placing photos i and after; next[i]: where the row that begins at i ends.
        var best = new double[count + 1];
        var next = new int[count + 1];
        for (var from = count - 1; from >= 0; from--)
        {
            (best[from], next[from]) = (double.MaxValue, from + 1);
            double sum = 0;
            for (var to = from + 1; to <= count && to - from <= MostInRow; to++)
            {
                ArgumentOutOfRangeException.ThrowIfNegativeOrZero(shapes[to - 1]);
                sum += shapes[to - 1];
                var height = (width - (settings.Gap * (to - from - 1))) / sum;
                if (height <= 0)
                {
                    break;
                }

                // From here on rows only get lower and dearer: none can be part of a better break.
                var alone = Cost(height, settings.Height, to == count);
                if (height < settings.Height && alone >= best[from])
                {
                    break;
                }

                var cost = alone + best[to];
                if (cost < best[from])
                {
                    (best[from], next[from]) = (cost, to);
                }
            }
        }

        var starts = new List<int>();
        for (var i = 0; i < count; i = next[i])
        {
            starts.Add(i);
        }

        return starts;
    }

    /// <summary>
    /// What a row costs: the square of by how much the higher of its height and the wanted one exceeds the lower, as a share of the lower.
    /// So neither too high nor too low is ever cheap. A last row that need not be shrunk costs nothing.
    /// </summary>
    public static double Cost(double height, double wanted, bool last)
    {
        var excess = (height > wanted ? height / wanted : wanted / height) - 1;
        return last && height > wanted ? 0 : excess * excess;
    }

    /// <summary>The height at which photos with these shapes and gaps fill the width exactly.</summary>
    public static double HeightToFill(ReadOnlySpan<double> shapes, double width, double gap)
    {
        double sum = 0;
        foreach (var shape in shapes)
        {
            sum += shape;
        }

        return (width - (gap * (shapes.Length - 1))) / sum;
    }
}
