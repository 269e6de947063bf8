using Jovitar.Core.Layout;
using Jovitar.Core.Photos;

namespace Jovitar.Core.Pages;

/// <summary>A line that visitors have.</summary>
/// <param name="Bits">A second.</param>
/// <param name="RoundTrip">Seconds there and back.</param>
public sealed record VisitorsLine(string Name, double Bits, double RoundTrip)
{
    /// <summary>Usual lines (common practice): a weak mobile one, a good mobile one, one at home.</summary>
    public static readonly IReadOnlyList<VisitorsLine> Usual = [new("weak", 1.6e6, 0.15), new("mobile", 9e6, 0.085), new("home", 50e6, 0.02)];

    /// <summary>Before the first byte there and back go: the connection, its encryption, the question.</summary>
    const int RoundTrips = 3;

    /// <summary>Seconds until so many bytes are there.</summary>
    public double Seconds(long bytes) => (RoundTrips * RoundTrip) + (bytes * 8 / Bits);
}

/// <summary>A picture on a page in a window.</summary>
/// <param name="Top">CSS pixels from the page's upper edge.</param>
/// <param name="Across">How wide the page says that it stands, CSS pixels: the browser chooses by that.</param>
/// <param name="Away">It is not in the window even where its place is: further along a strip, or a slide that follows.</param>
public sealed record PictureOnPage(string Picture, int PixelsAcross, double Top, double Bottom, double Across, bool Away);

/// <summary>What a page weighs in a window.</summary>
/// <param name="First">Bytes of what the first screen needs.</param>
/// <param name="All">Bytes of everything, once one has looked at all.</param>
public sealed record PageWeight(string Device, long First, long All)
{
    /// <summary>Adds up what the pictures of a page weigh in a window.</summary>
    /// <param name="page">Bytes of the page without its pictures: HTML, styles, scripts, fonts.</param>
    /// <param name="bytes">Bytes of a rendition of a picture.</param>
    public static PageWeight Of(Window window, long page, IEnumerable<PictureOnPage> pictures, Func<string, int, long> bytes)
    {
        var (first, all) = (page, page);
        var counted = new HashSet<(string, int)>();
        // Once it is there it is there: what is seen first counts first.
        foreach (var picture in pictures.OrderBy(p => p.Away || p.Top >= window.Height))
        {
            var rendition = Chosen(picture.PixelsAcross, picture.Across, window.Density);
            if (counted.Add((picture.Picture, rendition)))
            {
                var size = bytes(picture.Picture, rendition);
                all += size;
                first += picture.Away || picture.Top >= window.Height || picture.Bottom <= 0 ? 0 : size;
            }
        }

        return new PageWeight(window.Device, first, all);
    }

    /// <summary>
    /// The rendition that a browser takes of those it may choose from: the smallest with a pixel for each of the screen's, else the
    /// largest. The HTML standard leaves that to it (4.8.4.3, "implementation-defined"); the tests see Chromium do so.
    /// </summary>
    /// <param name="pixelsAcross">Of the photo.</param>
    /// <param name="across">How wide it stands, CSS pixels, above 0.</param>
    public static int Chosen(int pixelsAcross, double across, double density)
    {
        var there = Renditions.For(pixelsAcross);
        return there.FirstOrDefault(r => Renditions.PixelsAcross(r, pixelsAcross) >= across * density, there[^1]);
    }
}
