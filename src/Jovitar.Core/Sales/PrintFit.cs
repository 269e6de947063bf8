using Jovitar.Core.Corrections;
using Jovitar.Core.Layout;

namespace Jovitar.Core.Sales;

/// <summary>What a print, a wrap or a card takes of a picture.</summary>
/// <param name="Width">Of what is seen from the front, millimetres.</param>
/// <param name="Height">The same.</param>
/// <param name="Edge">How much more goes round each edge of a wrap, millimetres; 0 where nothing does.</param>
public readonly record struct PrintArea(double Width, double Height, double Edge = 0)
{
    /// <summary>With what goes round the edges, millimetres.</summary>
    public double WholeWidth => Width + (2 * Edge);

    /// <inheritdoc cref="WholeWidth"/>
    public double WholeHeight => Height + (2 * Edge);

    /// <summary>The same by a quarter round.</summary>
    public PrintArea Turned() => new(Height, Width, Edge);
}

/// <summary>How large a picture is for a print.</summary>
public enum PrintGrade
{
    TooSmall,
    Poor,
    Fair,
    Good,
}

/// <summary>From how many pixels an inch on a picture is how good: the usual thresholds are common practice.</summary>
/// <param name="Least">Below it a picture is too small.</param>
public sealed record PrintLimits(int Good = 300, int Fair = 200, int Least = 120)
{
    /// <summary>The finest that any printer prints, pixels an inch.</summary>
    const int Most = 1200;

    /// <summary>What is wrong with them; null for nothing.</summary>
    public string? Fault() => Least < 1 || Good > Most || Least > Fair || Fair > Good ? $"Pixels an inch go up from “too small” to “good”, and to {Most} at most." : null;

    public PrintGrade Of(double perInch) =>
        // What a thousandth of a pixel is missing of is not told apart.
        Math.Round(perInch, 3) is var p && p >= Good ? PrintGrade.Good : p >= Fair ? PrintGrade.Fair : p >= Least ? PrintGrade.Poor : PrintGrade.TooSmall;
}

/// <summary>How a picture comes onto a print: it fills it, and what stands over is cut off; or all of it is there, and white is left beside it.</summary>
/// <param name="Area">What it is printed on, turned as the picture stands.</param>
/// <param name="Crop">The part of the picture that is printed, with what goes round the edges; its pixels. Where white is left, it reaches over the picture's edges.</param>
/// <param name="Lost">The share of the picture that is cut off, 0 to 1.</param>
/// <param name="Round">The share of the picture that goes round the edges, 0 to 1.</param>
/// <param name="PixelsPerInch">Of the picture on the print.</param>
public sealed record PrintFit(PrintArea Area, Box Crop, double Lost, double Round, double PixelsPerInch)
{
    const double Inch = (double)PaperSize.Inch;

    /// <summary>What differs by less is the same, as far as numbers with a point can tell.</summary>
    const double Alike = 1e-9;

    /// <summary>How a picture fits a print that may be turned: the way it loses less by, and of two alike the one as the print is named.</summary>
    /// <param name="picture">As it is corrected, pixels.</param>
    /// <param name="middle">What stays in the middle as far as that can be, from the upper left corner (0 to 1); null for the picture's own.</param>
    /// <exception cref="ArgumentOutOfRangeException">A side of the picture or of the print is nothing, or less.</exception>
    public static PrintFit Of(PixelSize picture, PrintArea area, Spot? middle = null)
    {
        var (upright, turned) = (On(picture, area, middle), On(picture, area.Turned(), middle));
        return turned.Lost < upright.Lost - Alike ? turned : upright;
    }

    /// <summary>All of the picture is there, and white is left at two of its edges.</summary>
    public bool IsWhole { get; init; }

    /// <summary>How a picture stands whole on a print that may be turned: the way it is larger by, and of two alike the one as the print is named.</summary>
    /// <param name="picture">As it is corrected, pixels.</param>
    /// <exception cref="ArgumentOutOfRangeException">A side of the picture or of the print is nothing, or less.</exception>
    public static PrintFit Whole(PixelSize picture, PrintArea area)
    {
        var (upright, turned) = (WholeOn(picture, area), WholeOn(picture, area.Turned()));
        return turned.PixelsPerInch < upright.PixelsPerInch * (1 - Alike) ? turned : upright;
    }

    static PrintFit WholeOn(PixelSize picture, PrintArea area)
    {
        Check(picture, area);
        // Pixels a millimetre: the larger edge fills the print.
        var scale = Math.Max(picture.Width / area.WholeWidth, picture.Height / area.WholeHeight);
        var (width, height) = (area.WholeWidth * scale, area.WholeHeight * scale);
        return new PrintFit(area, new Box((picture.Width - width) / 2, (picture.Height - height) / 2, width, height), 0, 0, scale * Inch) { IsWhole = true };
    }

    static void Check(PixelSize picture, PrintArea area)
    {
        if (picture.Width <= 0 || picture.Height <= 0 || area.Width <= 0 || area.Height <= 0 || area.Edge < 0)
        {
            throw new ArgumentOutOfRangeException(nameof(picture), "A picture and a print have a size.");
        }
    }

    /// <summary>Less of a picture is not worth a word, nor a choice.</summary>
    const double Worth = 0.005;

    /// <summary>Something is cut off that is worth a word.</summary>
    public bool IsCut => Lost >= Worth;

    /// <summary>Something goes round the edges that is worth a word.</summary>
    public bool GoesRound => Round >= Worth;

    /// <summary>What is cut off is at the picture's sides, not above and below.</summary>
    public bool CutsSides(PixelSize picture) => Crop.Width / picture.Width < Crop.Height / picture.Height;

    /// <summary>The spot that stays in the middle when the printed part is moved.</summary>
    /// <param name="at">0 to the left or upper end of the picture, 1 to the other one.</param>
    public Spot MovedTo(double at, PixelSize picture)
    {
        var (wide, high) = (Crop.Width / picture.Width, Crop.Height / picture.Height);
        return new Spot((at * (1 - wide)) + (wide / 2), (at * (1 - high)) + (high / 2));
    }

    static PrintFit On(PixelSize picture, PrintArea area, Spot? middle)
    {
        Check(picture, area);
        var (wide, high) = (area.WholeWidth, area.WholeHeight);
        // Pixels a millimetre: the smaller edge fills the print.
        var scale = Math.Min(picture.Width / wide, picture.Height / high);
        var (width, height) = (Math.Min(picture.Width, wide * scale), Math.Min(picture.Height, high * scale));
        var at = middle ?? new Spot(0.5, 0.5);
        var printed = width * height / ((double)picture.Width * picture.Height);
        return new PrintFit(
            area, new Box(Start(at.X, picture.Width, width), Start(at.Y, picture.Height, height), width, height), Math.Max(0, 1 - printed), printed * (1 - (area.Width * area.Height / (wide * high))), scale * Inch);
    }

    /// <summary>Where a part begins that has a spot in its middle, and stays within the whole.</summary>
    static double Start(double spot, double whole, double part) => Math.Clamp((spot * whole) - (part / 2), 0, whole - part);
}
