using Jovitar.Core.Corrections;
using Jovitar.Core.Layout;
using Jovitar.Core.Sales.Ordering;

namespace Jovitar.Core.Sales.Printing;

/// <summary>The file that something is printed from: exactly as large as the print, the part that its buyer chose, and the bleed round it.</summary>
/// <param name="Size">With the bleed, pixels.</param>
/// <param name="Bleed">Round each edge, pixels.</param>
/// <param name="Part">The part of the photo that fills the file, the photo's pixels. It may reach over the photo's edges: there the photo is mirrored, and white where white is left.</param>
/// <param name="PixelsPerInch">Of the file.</param>
/// <param name="Fit">How the photo comes onto the print; null where nobody knows how large that is, and the file is the whole photo.</param>
public sealed record PrintFile(PixelSize Size, int Bleed, Box Part, int PixelsPerInch, PrintFit? Fit)
{
    /// <summary>A file never has more pixels: what would has fewer an inch, as prints so large are looked at from further away.</summary>
    public const long MostPixels = 150_000_000;

    /// <summary>Nor is a side longer, pixels: JPEG counts to 65,535 (ITU-T T.81 B.2.2), and encoders stop a little before.</summary>
    public const int MostSide = 65_000;

    const double Inch = (double)PaperSize.Inch;

    /// <summary>It has more pixels than the photo has to give.</summary>
    public bool IsEnlarged => Fit is { } fit && PixelsPerInch > Math.Ceiling(fit.PixelsPerInch);

    /// <summary>White is left at the left and the right of the photo.</summary>
    public bool IsWhiteBeside => Fit is { IsWhole: true, Crop.X: < -LeastWhite };

    /// <summary>White is left above and below the photo.</summary>
    public bool IsWhiteAbove => Fit is { IsWhole: true, Crop.Y: < -LeastWhite };

    /// <summary>Less white is none, as of a photo that has the paper's own shape: the photo's pixels.</summary>
    const double LeastWhite = 0.5;

    /// <summary>The file of a line of an order; null for one that is fetched and not printed.</summary>
    /// <param name="photo">As it is corrected.</param>
    /// <param name="focus">The photo's own, where its buyer has moved nothing.</param>
    public static PrintFile? Of(PlacedLine line, PixelSize photo, Spot? focus, PrintRule rule) => Of(line.Option, photo, line.Middle ?? focus, rule, line.IsWhole);

    /// <summary>The file of an option; null for one that is fetched and not printed.</summary>
    /// <param name="photo">As it is corrected.</param>
    /// <param name="middle">What stays in the middle when some is cut off; null for the photo's own.</param>
    /// <param name="isWhole">White is left instead.</param>
    public static PrintFile? Of(SaleOption option, PixelSize photo, Spot? middle, PrintRule rule, bool isWhole = false) =>
        option.IsFile ? null
        : option.FitOf(photo, middle, isWhole) is { } fit ? Of(fit, rule)
        : new PrintFile(photo, 0, new Box(0, 0, photo.Width, photo.Height), rule.PixelsPerInch, null);

    /// <summary>The file of a print. What is kept of it, once the bleed is cut off, is what its buyer was shown.</summary>
    public static PrintFile Of(PrintFit fit, PrintRule rule)
    {
        var (wide, high) = ((fit.Area.WholeWidth + (2 * rule.Bleed)) / Inch, (fit.Area.WholeHeight + (2 * rule.Bleed)) / Inch);
        var perInch = (int)Math.Min(rule.PixelsPerInch, Math.Min(Math.Sqrt(MostPixels / (wide * high)), MostSide / Math.Max(wide, high)));
        int Pixels(double millimetres) => (int)Math.Round(millimetres / Inch * perInch);
        var (width, height, bleed) = (Math.Max(1, Pixels(fit.Area.WholeWidth)), Math.Max(1, Pixels(fit.Area.WholeHeight)), Pixels(rule.Bleed));
        // The photo's pixels in one of the file's.
        var (x, y) = (fit.Crop.Width / width, fit.Crop.Height / height);
        var part = new Box(fit.Crop.X - (bleed * x), fit.Crop.Y - (bleed * y), fit.Crop.Width + (2 * bleed * x), fit.Crop.Height + (2 * bleed * y));
        return new PrintFile(new PixelSize(width + (2 * bleed), height + (2 * bleed)), bleed, part, perInch, fit);
    }
}
