namespace Jovitar.Core.Photos;

/// <summary>The sizes in which photos are made ready for pages.</summary>
public static class Renditions
{
    /// <summary>The width the sheet works with; made before all others, however small the original.</summary>
    public const int Sheet = 480;

    /// <summary>Raised when renditions would come out otherwise; part of their addresses, which therefore never change meaning.</summary>
    public const int Recipe = 1;

    /// <summary>All widths, pixels, ascending.</summary>
    public static readonly IReadOnlyList<int> Widths = [240, 480, 960, 1600, 2560];

    /// <summary>The widths a photo of this width gets: those it is at least as large as, and always the sheet's.</summary>
    public static IReadOnlyList<int> For(int originalWidth) => [.. Widths.Where(w => w <= originalWidth || w == Sheet)];

    /// <summary>The widths that are made once a photo has come to a stage: 0 none, 1 the sheet's, 2 all.</summary>
    public static IReadOnlyList<int> There(int stage, int originalWidth) => stage switch
    {
        0 => [],
        1 => [Sheet],
        _ => For(originalWidth),
    };

    /// <summary>The widths from which one with a watermark can be made, the nearest first: wider ones without.</summary>
    public static IEnumerable<int> Above(int width, int originalWidth) => For(originalWidth).Where(w => w > width && w <= originalWidth);

    /// <summary>The pixels across that a rendition named by a width really has: no photo is blown up.</summary>
    public static int PixelsAcross(int rendition, int originalWidth) => Math.Min(rendition, originalWidth);

    /// <summary>The address of a rendition: named by the original's content, its correction and the recipe, so it may be kept forever.</summary>
    /// <param name="picture">A <see cref="PictureName"/>.</param>
    public static string Address(string picture, int width) => $"/i/{picture}/{Recipe}-{width}.webp";

    /// <summary>The longer edge of the picture that others show beside a link, pixels: as wide as they show it on a dense screen (common practice).</summary>
    public const int CardEdge = 1200;

    /// <summary>The address of the picture beside a link: JPEG, for not all who show links read WebP.</summary>
    /// <param name="picture">A <see cref="PictureName"/>.</param>
    public static string CardAddress(string picture) => $"/i/{picture}/{Recipe}-card.jpg";

    /// <summary>How large the picture beside a link is, pixels.</summary>
    /// <param name="shape">Width by height.</param>
    public static (int Width, int Height) CardSize(int originalWidth, double shape)
    {
        var width = Math.Min(originalWidth, shape >= 1 ? CardEdge : (int)Math.Max(1, Math.Round(CardEdge * shape)));
        return (width, (int)Math.Max(1, Math.Round(width / shape)));
    }
}
