using Jovitar.Core.Layout;

namespace Jovitar.Core.Pages;

/// <summary>Where a block stands on a page, and so how wide it is in a window. The site's style sheet says the same.</summary>
/// <param name="Beside">How many stand side by side where it stands; 1 where it stands alone.</param>
/// <param name="Around">How wide the ground is that it stands on, with others or alone; null where it stands on the page.</param>
/// <param name="IsCard">It has a ground of its own while it stands beside others.</param>
public sealed record BlockPlace(BlockFrame Frame, int Beside = 1, BlockWidth? Around = null, bool IsCard = false)
{
    /// <summary>Between blocks side by side, CSS pixels.</summary>
    public const int Gap = 32;

    /// <summary>The share of the page's width that it takes, 0 to 1, about; the whole window counts as the page.</summary>
    public double Share => (Beside > 1 ? 1.0 / Beside : Frame.Share) * (Around is { } around ? (BlockFrame.Usual with { Width = around }).Share : 1);

    /// <summary>Between the edge of a ground and what stands on it, CSS pixels.</summary>
    public static double Pad(Window window) => Math.Clamp(window.Width * 0.03, 17, 44.2);

    /// <summary>How wide a ground is, CSS pixels.</summary>
    public static double GroundWidth(BlockWidth width, Window window) =>
        width == BlockWidth.Window ? window.Width
        : IsPhone(window) ? window.Block
        : window.Block * (BlockFrame.Usual with { Width = width }).Share;

    /// <summary>The width of the block, CSS pixels. On a phone every block takes all there is.</summary>
    public double Width(Window window)
    {
        // On a ground as wide as the window what stands there keeps to the page's margins.
        var room = Around is { } around && around != BlockWidth.Window ? GroundWidth(around, window) - (2 * Pad(window)) : window.Block;
        var width =
            Frame.Width == BlockWidth.Window && Beside == 1 && Around is null ? window.Width
            : IsPhone(window) ? room
            : Beside > 1 ? (room - (Gap * (Beside - 1.0))) / Beside
            : room * Frame.Share;
        return IsCard ? width - (2 * Pad(window)) : width;
    }

    /// <summary>Whether a photo has fewer pixels than its place in a block, on a sharp screen; where that is worst.</summary>
    /// <param name="size">Its width and height, pixels.</param>
    /// <returns>Null when it is large enough everywhere.</returns>
    public SmallPhoto? Small(Block block, (int Width, int Height) size)
    {
        double Wanted(Window window)
        {
            var across = Width(window);
            return block is not PhotosBlock photos ? across : photos.Layout.PlaceOf((double)size.Width / size.Height, window, across).Width;
        }

        var worst = Window.Usual.Select(w => new SmallPhoto(0, w.Device, size.Width / Wanted(w))).MinBy(s => s.Share)!;
        return worst.Share < PixelNotes.Enough * PixelNotes.Sharp ? worst : null;
    }

    static bool IsPhone(Window window) => BlockLayout.DeviceOf(window.Width) == Device.Phone;
}
