namespace Jovitar.Core.Layout;

/// <summary>A window that pages are looked at in, CSS pixels.</summary>
/// <param name="Margins">What stands beside a block in it, both sides together.</param>
/// <param name="Density">Pixels of its screen to a CSS pixel, each way.</param>
public sealed record Window(string Device, int Width, int Height, int Margins, double Density)
{
    /// <summary>Typical windows of a phone, a tablet and a desktop (common practice).</summary>
    public static readonly IReadOnlyList<Window> Usual = [new("phone", 390, 844, 32, 3), new("tablet", 820, 1180, 56, 2), new("desktop", 1280, 800, 80, 1)];

    /// <summary>The widest that a block of photos becomes.</summary>
    public const int WidestBlock = 1760;

    /// <summary>How wide a block is in it.</summary>
    public int Block => Math.Min(Width - Margins, WidestBlock);
}

/// <summary>A photo that has fewer pixels than the place it fills.</summary>
/// <param name="Photo">Its number among those placed.</param>
/// <param name="Device">Where that is worst.</param>
/// <param name="Share">How many of the pixels it needs there it has, on a screen with one pixel to a CSS pixel; below 1 it is blurred on any screen.</param>
public sealed record SmallPhoto(int Photo, string Device, double Share)
{
    /// <summary>Even an ordinary screen shows it larger than it is.</summary>
    public bool IsBlurred => Share < PixelNotes.Enough;
}

/// <summary>Which photos are too small for the places they fill.</summary>
public static class PixelNotes
{
    /// <summary>A few pixels less nobody sees.</summary>
    public const double Enough = 0.95;

    /// <summary>Sharp screens have two pixels to a CSS pixel each way (common practice).</summary>
    public const double Sharp = 2;

    /// <summary>Photos with fewer pixels than their place on a sharp screen, those that lack most first.</summary>
    /// <param name="sizes">Width and height of each photo as it is shown, pixels, above 0.</param>
    /// <param name="large">Which take more room in a mosaic; empty for none.</param>
    /// <param name="widths">How wide the block is in a window, CSS pixels.</param>
    public static IReadOnlyList<SmallPhoto> Of(BlockLayout layout, IReadOnlyList<(int Width, int Height)> sizes, bool[] large, IEnumerable<Window> windows, Func<Window, double> widths)
    {
        var worst = new SmallPhoto?[sizes.Count];
        double[] shapes = [.. sizes.Select(s => (double)s.Width / s.Height)];
        foreach (var window in windows)
        {
            var boxes = layout.Pictures(shapes, window, widths(window), large);
            for (var i = 0; i < boxes.Count; i++)
            {
                // Cropped to its place, a photo fills it both ways.
                var share = Math.Min(sizes[i].Width / boxes[i].Width, sizes[i].Height / boxes[i].Height);
                if (share < Enough * Sharp && (worst[i] is not { } before || share < before.Share))
                {
                    worst[i] = new SmallPhoto(i, window.Device, share);
                }
            }
        }

        return [.. worst.OfType<SmallPhoto>().OrderBy(s => s.Share)];
    }
}
