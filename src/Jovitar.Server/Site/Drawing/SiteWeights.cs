using System.Collections.Concurrent;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;
using Jovitar.Server.Platform.Storing;

namespace Jovitar.Server.Site.Drawing;

/// <summary>How much a page is to fetch on a device, and how long that takes.</summary>
/// <param name="First">Bytes of what the first screen needs.</param>
/// <param name="All">Bytes of everything, once one has looked at all.</param>
/// <param name="FirstSeconds">Of the first screen, a number a line, the slowest first.</param>
/// <param name="AllSeconds">Of everything.</param>
internal sealed record DeviceWeight(string Device, long First, long All, IReadOnlyList<double> FirstSeconds, IReadOnlyList<double> AllSeconds);

/// <summary>Weighs pages as visitors would get them: every picture in the rendition that a browser takes for its place.</summary>
internal sealed class SiteWeights(Storage storage, SiteAssets built)
{
    /// <summary>Bytes of a rendition that is not made yet, a pixel.</summary>
    const double BytesAPixel = 0.1;

    /// <summary>Compressed bytes of a page's HTML, and of each photo in it.</summary>
    const int Html = 1600, HtmlAPhoto = 190;

    /// <summary>Renditions never change under their names.</summary>
    readonly ConcurrentDictionary<(string Picture, int Width), long> sizes = new();

    /// <summary>What a page weighs on each usual device.</summary>
    /// <param name="families">All type that it is set in.</param>
    public IReadOnlyList<DeviceWeight> Of(SitePage page, IReadOnlyList<TypeFamily> families) => [.. Window.Usual.Select(window =>
    {
        var own = Html + (HtmlAPhoto * page.Walks.Sum(w => Math.Min(w.Count, w.More.AtFirst())));
        var weight = PageWeight.Of(window, built.BytesOf(families) + own, PicturesOnPage.Of(page, window), BytesOf);
        return new DeviceWeight(
            window.Device, weight.First, weight.All, [.. VisitorsLine.Usual.Select(l => Math.Round(l.Seconds(weight.First), 2))], [.. VisitorsLine.Usual.Select(l => Math.Round(l.Seconds(weight.All), 2))]);
    })];

    long BytesOf(string picture, int width)
    {
        if (sizes.TryGetValue((picture, width), out var known))
        {
            return known;
        }

        if (storage.Find(StorageKeys.Rendition(picture, width)) is not { } there)
        {
            return (long)(width * width * 0.7 * BytesAPixel);
        }

        // Many pages later there are many: they are known again soon enough.
        if (sizes.Count > 500_000)
        {
            sizes.Clear();
        }

        return sizes[(picture, width)] = there.Bytes;
    }
}
