using Jovitar.Core.Filtering;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Server.Site.Drawing;

namespace Jovitar.Server.Site.Embedding;

/// <summary>What of a page stands in an embed: its photos and covers, one block beneath the other. Words and all else stay on the page, which it leads to.</summary>
internal static class EmbedBlocks
{
    /// <summary>All of the frame that it stands in.</summary>
    static BlockPlace PlaceOf(SiteBlock block) => new(BlockFrame.Usual with { Width = BlockWidth.Window, Look = block.Place.Frame.Look });

    /// <summary>Between blocks, and above the line beneath them, CSS pixels. The site's style sheet says the same.</summary>
    const int Gap = 16;

    /// <summary>The line that leads to the page, CSS pixels.</summary>
    const int Line = 40;

    /// <summary>Anything of it would stand in an embed.</summary>
    public static bool Has(SitePage page) => page.All.Any(IsShown);

    /// <summary>The page as an embed shows it; its photos keep the walks, and with them the addresses, that they have on the page.</summary>
    public static SitePage Of(SitePage page, Embed embed) => new(
        page.Path, page.Title, page.Description,
        [
            .. page.All.Where(IsShown).Select(b => b switch
            {
                SitePhotosBlock photos => photos with { Place = PlaceOf(b), Walk = Of(photos.Walk, embed) },
                SiteCovers covers => covers with { Place = PlaceOf(b), Entries = [.. covers.Entries.Take(embed.Most)], Across = embed.Across(covers.Across), HasFeed = false },
                _ => b with { Place = PlaceOf(b) },
            }),
        ])
    { Look = page.Look };

    /// <summary>How high an embed is in a width, about, CSS pixels: for what shows it before it says so itself.</summary>
    /// <param name="page">See <see cref="Of(SitePage, Embed)"/>.</param>
    /// <param name="width">CSS pixels, above 0.</param>
    public static int Height(SitePage page, int width)
    {
        var window = new Window("embed", width, Embed.Window, 0, 1);
        return Line + (int)Math.Ceiling(page.Blocks.Sum(b => Gap + b switch
        {
            SitePhotosBlock photos => Photos(photos.Walk, window),
            SitePhotoBlock { Photo: { } photo } => width / photo.Shape,
            SiteCovers covers => Covers(covers, window),
            _ => 0,
        }));
    }

    static double Photos(Walk walk, Window window)
    {
        var (layout, device) = (walk.Layout, BlockLayout.DeviceOf(window.Width));
        var on = new Narrowed(walk, Choices.None, "", draft: false).On(device);
        return layout.Kind switch
        {
            LayoutKind.Strip => StripLayout.Height(layout.Along.Height, layout.For(device).SizeIn(window.Width), on.Shapes, window, window.Width),
            LayoutKind.Slides => SlidesLayout.Frame(layout.Slides.Shape?.Shape(), on.Shapes, window, window.Width).Height,
            _ => PlacedFor(LayoutStyle.TypicalOf(window.Width).Width),
        };

        double PlacedFor(int width) => on.Stand(walk.SettingsOn(device), width, byPage: false).Height * window.Width / width;
    }

    /// <summary>Covers with their words, about: how many stand beside each other the site's style sheet says, and their shape.</summary>
    static double Covers(SiteCovers covers, Window window)
    {
        var across = Math.Min(covers.Across, BlockLayout.DeviceOf(window.Width) switch { Device.Phone => 1, Device.Tablet => 2, _ => covers.Across });
        var rows = Math.Ceiling((double)covers.Entries.Count / across);
        var (words, beside, beneath) = (covers.Descriptions ? 110 : 64, 32, 44);
        return (rows * (((window.Width - (beside * (across - 1.0))) / across * 2 / 3) + words)) + ((rows - 1) * beneath);
    }

    static bool IsShown(SiteBlock block) => block is SitePhotosBlock { Walk.Photos.Count: > 0 } or SitePhotoBlock { Photo: not null } or SiteCovers { Entries.Count: > 0 };

    /// <summary>What is drawn by lot is drawn from all, as on the page; else the first stand there. Nobody narrows them there, and none come later.</summary>
    static Walk Of(Walk walk, Embed embed)
    {
        IReadOnlyList<SitePhoto> photos = walk.ByLot || walk.Photos.Count <= embed.Most ? walk.Photos : [.. walk.Photos.Take(embed.Most)];
        return new Walk(walk.Number, embed.Of(walk.Layout), photos, FilterBar.None(photos.Count), walk.ByLot, walk.ByLot ? Math.Min(walk.Handful ?? int.MaxValue, embed.Most) : null, walk.Absent)
        {
            Press = walk.Press,
            Words = walk.Words,
            Touch = walk.Touch,
            AlbumPages = walk.AlbumPages,
        };
    }
}
