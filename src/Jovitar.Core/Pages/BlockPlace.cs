using Jovitar.Core.Layout;

namespace Jovitar.Core.Pages;

/// <summary>How wide a block is in a window. The site's style sheet says the same.</summary>
public static class BlockPlace
{
    /// <summary>Between blocks side by side, CSS pixels.</summary>
    public const int Gap = 32;

    /// <summary>The width of a block, CSS pixels. On a phone every block takes all there is.</summary>
    /// <param name="beside">How many stand side by side where it stands; 1 where it stands alone.</param>
    public static double Width(BlockFrame frame, int beside, Window window) =>
        frame.Width == BlockWidth.Window && beside == 1 ? window.Width
        : BlockLayout.DeviceOf(window.Width) == Device.Phone ? window.Block
        : beside > 1 ? (window.Block - (Gap * (beside - 1.0))) / beside
        : window.Block * frame.Share;

    /// <summary>Whether a photo has fewer pixels than its place in a block, on a sharp screen; where that is worst.</summary>
    /// <param name="beside">How many blocks stand side by side where it stands.</param>
    /// <param name="size">Its width and height, pixels.</param>
    /// <returns>Null when it is large enough everywhere.</returns>
    public static SmallPhoto? Small(Block block, int beside, (int Width, int Height) size)
    {
        double Wanted(Window window)
        {
            var across = Width(block.Frame, beside, window);
            return block is not PhotosBlock photos ? across : photos.Layout.PlaceOf((double)size.Width / size.Height, window, across).Width;
        }

        var worst = Window.Usual.Select(w => new SmallPhoto(0, w.Device, size.Width / Wanted(w))).MinBy(s => s.Share)!;
        return worst.Share < PixelNotes.Enough * PixelNotes.Sharp ? worst : null;
    }
}
