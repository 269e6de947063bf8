using Jovitar.Core.Corrections;
using Jovitar.Core.Layout;

namespace Jovitar.Core.Sales;

/// <summary>What a print, a wrap or a card takes of a picture.</summary>
/// <param name="Width">Of what is seen from the front, millimetres.</param>
/// <param name="Height">The same.</param>
/// <param name="Edge">How much more goes round each edge of a wrap, millimetres; 0 where nothing does.</param>
public readonly record struct PrintArea(double Width, double Height, double Edge = 0)
{
    /// <summary>Millimetres of an inch (ISO 80000-3).</summary>
    public const double Inch = 25.4;

    /// <summary>With what goes round the edges, millimetres.</summary>
    public double WholeWidth => Width + (2 * Edge);

    /// <inheritdoc cref="WholeWidth"/>
    public double WholeHeight => Height + (2 * Edge);

    /// <summary>The same turned by a quarter.</summary>
    public PrintArea Turned => new(Height, Width, Edge);
}

/// <summary>How a picture of another shape comes onto a print.</summary>
public enum PrintWay
{
    /// <summary>It fills the print; what stands over is cut off.</summary>
    Crop,

    /// <summary>The whole of it is there, with paper left beside it.</summary>
    Border,
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
public sealed record PrintLimits(int Good = 300, int Fair = 200, int Least = 120)
{
    public PrintGrade Of(double perInch) =>
        // What a thousandth of a pixel is missing of is not told apart.
        Math.Round(perInch, 3) is var p && p >= Good ? PrintGrade.Good : p >= Fair ? PrintGrade.Fair : p >= Least ? PrintGrade.Poor : PrintGrade.TooSmall;
}

/// <summary>How a picture fits a print.</summary>
/// <param name="Area">What it is printed on, turned as the picture stands.</param>
/// <param name="Crop">The part of the picture that is printed, its pixels.</param>
/// <param name="Lost">The share of the picture that is cut off, 0 to 1.</param>
/// <param name="PixelsPerInch">Of the picture on the print.</param>
/// <param name="Picture">Where it stands on the print with all that goes round its edges, millimetres from the upper left corner.</param>
public sealed record PrintFit(PrintArea Area, Box Crop, double Lost, double PixelsPerInch, Box Picture)
{
    /// <summary>What differs by less is the same, as far as numbers with a point can tell.</summary>
    const double Alike = 1e-9;

    /// <summary>The share of the picture that is seen from the front, 0 to 1: the rest is cut off, or goes round the edges.</summary>
    public double Front => (1 - Lost) * Within(Picture.X, Picture.Width, Area.Width) * Within(Picture.Y, Picture.Height, Area.Height);

    /// <summary>The share of a length that lies on the front.</summary>
    double Within(double from, double length, double front) => Math.Max(0, Math.Min(from + length, Area.Edge + front) - Math.Max(from, Area.Edge)) / length;

    /// <summary>How a picture fits a print that may be turned: the way it loses less by, with a border the way it is larger, and of two alike the one as the print is named.</summary>
    /// <param name="picture">As it is corrected, pixels.</param>
    /// <param name="middle">What stays in the middle as far as that can be, from the upper left corner (0 to 1); null for the picture's own.</param>
    public static PrintFit Of(PixelSize picture, PrintArea area, PrintWay way, Spot? middle = null)
    {
        var (upright, turned) = (On(picture, area, way, middle), On(picture, area.Turned, way, middle));
        // The larger it is printed, the fewer of its pixels come onto an inch.
        var isBetter = way == PrintWay.Crop ? turned.Lost < upright.Lost - Alike : turned.PixelsPerInch < upright.PixelsPerInch - Alike;
        return isBetter ? turned : upright;
    }

    /// <summary>The same on a print as it lies.</summary>
    public static PrintFit On(PixelSize picture, PrintArea area, PrintWay way, Spot? middle = null)
    {
        if (picture.Width <= 0 || picture.Height <= 0 || area.Width <= 0 || area.Height <= 0 || area.Edge < 0)
        {
            throw new ArgumentOutOfRangeException(nameof(picture), "A picture and a print have a size.");
        }

        var (wide, high) = (area.WholeWidth, area.WholeHeight);
        // Pixels a millimetre: a crop has the smaller edge fill the print, a border the larger.
        var scale = way == PrintWay.Crop ? Math.Min(picture.Width / wide, picture.Height / high) : Math.Max(picture.Width / wide, picture.Height / high);
        var (cut, left) = (Math.Min(picture.Width, wide * scale), Math.Min(picture.Height, high * scale));
        var at = middle ?? new Spot(0.5, 0.5);
        var crop = new Box(Start(at.X, picture.Width, cut), Start(at.Y, picture.Height, left), cut, left);
        var (printedWide, printedHigh) = (cut / scale, left / scale);
        return new PrintFit(
            area, crop, Math.Max(0, 1 - (cut * left / ((double)picture.Width * picture.Height))), scale * PrintArea.Inch,
            new Box((wide - printedWide) / 2, (high - printedHigh) / 2, printedWide, printedHigh));
    }

    /// <summary>Where a part begins that has a spot in its middle, and stays within the whole.</summary>
    static double Start(double spot, double whole, double part) => Math.Clamp((spot * whole) - (part / 2), 0, whole - part);
}
