using Jovitar.Core.Layout;
using Jovitar.Core.Pages;

namespace Jovitar.Server.Site.Drawing;

/// <summary>Where the pictures of a page stand in a window, about: what is written takes about the room that it usually does.</summary>
internal static class PicturesOnPage
{
    /// <summary>Between covers, CSS pixels across and down.</summary>
    const double CoverGap = 32, CoverRowGap = 42;

    /// <summary>The share of the window's width that a page says a cover takes, in hundredths; on a phone nearly all.</summary>
    public static int CoverShare(int across, int beside) => OnPhone / (across * beside);

    /// <summary>As <see cref="CoverShare"/>, on a phone.</summary>
    public const int OnPhone = 92;

    /// <summary>Windows that are not wider have covers one beneath the other, CSS pixels.</summary>
    public const int WidestPhone = 699;

    public static IReadOnlyList<PictureOnPage> Of(SitePage page, Window window)
    {
        var found = new List<PictureOnPage>();
        Stand(page.Blocks, page.Bare ? 0 : BlockHeight.Head(window), window, first: true, found);
        return found;
    }

    /// <summary>Notes the pictures of blocks beneath each other.</summary>
    /// <returns>Where the last of them ends.</returns>
    static double Stand(IReadOnlyList<SiteBlock> blocks, double y, Window window, bool first, List<PictureOnPage> found)
    {
        var end = y;
        foreach (var block in blocks)
        {
            end = Stand(block, y, window, first, found);
            y = end + (block is SiteHeading ? BlockHeight.BeneathHeading : BlockHeight.Beneath(window));
            first = false;
        }

        return end;
    }

    /// <summary>Notes the pictures of blocks side by side; on a phone they stand beneath each other.</summary>
    static double Beside(SiteBeside beside, double y, Window window, bool first, List<PictureOnPage> found)
    {
        if (BlockLayout.DeviceOf(window.Width) == Device.Phone)
        {
            return Stand(beside.Blocks, y, window, first, found);
        }

        return beside.Blocks.Select(b => Stand(b, y, window, first, found)).Append(y).Max();
    }

    /// <summary>Notes the photo behind blocks and what stands on it, which stands at its foot where it is higher.</summary>
    static double Band(SiteBand band, double y, Window window, List<PictureOnPage> found)
    {
        var (pad, on) = (BlockHeight.GroundEdge(band.Place is { Beside: 1, Frame.Width: BlockWidth.Window }, window), new List<PictureOnPage>());
        var high = Stand(band.Blocks, 0, window, first: false, on);
        var least = band.On.Ground.LeastHeight * window.Height;
        var top = y + pad + Math.Max(0, least - high - (2 * pad));
        if (band.On.Photo is { } photo)
        {
            found.Add(new PictureOnPage(photo.Picture, photo.Width, y, top + high + pad, BackdropWidth(band.Place, window), Away: false));
        }

        found.AddRange(on.Select(p => p with { Top = p.Top + top, Bottom = p.Bottom + top }));
        return top + high + pad;
    }

    /// <summary>How wide a page says that a photo is drawn which lies behind blocks: on a phone, where grounds are high, wider than the window.</summary>
    static double BackdropWidth(BlockPlace place, Window window) => window.Width * (BlockLayout.DeviceOf(window.Width) == Device.Phone ? BackdropOnPhone / 100.0 : place.Share);

    /// <summary>The width of a photo behind blocks on a phone, hundredths of the window's.</summary>
    public const int BackdropOnPhone = 180;

    /// <summary>Notes the pictures of a block.</summary>
    /// <returns>Where it ends.</returns>
    static double Stand(SiteBlock block, double y, Window window, bool first, List<PictureOnPage> found)
    {
        var width = block.Place.Width(window);
        switch (block)
        {
            case SiteBeside beside:
                return Beside(beside, y, window, first, found);
            case SiteBand band:
                return Band(band, y, window, found);
            case SiteHeading heading:
                return y + BlockHeight.AboveHeading(heading.Size, first, window) + BlockHeight.Heading(heading.Words, heading.Size, width, window) + (heading.Posted is null ? 0 : 32);
            case SiteText text:
                return y + BlockHeight.Text(text.Words, width);
            case SiteButton:
                return y + BlockHeight.Button;
            case SiteDivider:
                return y + BlockHeight.Divider;
            case SitePhotoBlock { Photo: { } photo } one:
                var height = width / photo.Shape;
                found.Add(new PictureOnPage(photo.Picture, photo.Width, y, y + height, SaidOf(block, window), Away: false));
                return y + height + BlockHeight.Beneath(one.Line.Length > 0 ? 1 : 0);
            case SiteVideo { Source: not null } video:
                var frame = width / VideoBlock.ShapeOf(video.Shape);
                if (video.Still is { } still)
                {
                    found.Add(new PictureOnPage(still.Picture, still.Width, y, y + frame, SaidOf(block, window), Away: false));
                }

                return y + frame + BlockHeight.Beneath(video.Line.Length > 0 ? 1 : 0);
            case SiteSound { File: not null } sound:
                return y + BlockHeight.Player + BlockHeight.Beneath(sound.Line.Length > 0 ? 1 : 0);
            case SiteFiles files:
                return y + (files.Files.Count * BlockHeight.File);
            case SiteContact contact:
                return y + BlockHeight.Contact(contact.Contact);
            case SitePhotosBlock { Walk.Photos.Count: > 0 } photos:
                var bar = BlockHeight.Bar(photos.Walk.Bar.Entries.Count, width, photos.Walk.BarSet.Folded.Contains(BlockLayout.DeviceOf(window.Width)));
                return Photos(photos.Walk, y + bar + (photos.Walk.HasFinding ? BlockHeight.Finding : 0), width, window, found);
            case SiteCovers covers:
                return Covers(covers, y, width, window, found);
            default:
                return y;
        }
    }

    /// <summary>As wide as the page says that a photo stands that fills its block, which is about as wide as it does.</summary>
    static double SaidOf(SiteBlock block, Window window) => BlockLayout.DeviceOf(window.Width) == Device.Phone ? window.Width : window.Width * block.Place.Share;

    static double Photos(Walk walk, double y, double width, Window window, List<PictureOnPage> found)
    {
        var view = new Narrowed(walk, Choices.None, "", draft: true).On(BlockLayout.DeviceOf(window.Width));
        var (shapes, large, layout) = (view.Shapes, view.Large, walk.Layout);
        if (shapes.Length == 0)
        {
            return y;
        }

        if (layout.RunsAlong())
        {
            var pictures = layout.Pictures(shapes, window, width, large);
            var (x, high) = (0.0, pictures.Max(p => p.Height));
            for (var i = 0; i < pictures.Count; i++)
            {
                var photo = view.At(i);
                // Cropped to its frame, a wide photo is drawn wider than that.
                var across = layout.Crops() ? Math.Max(pictures[i].Width, pictures[i].Height * photo.Shape) : pictures[i].Width;
                found.Add(new PictureOnPage(photo.Picture, photo.Width, y, y + high, across, Away: layout.Kind == LayoutKind.Slides ? i > 0 : x >= width));
                x += pictures[i].Width;
            }

            return y + high + 52;
        }

        var settings = walk.SettingsOn(BlockLayout.DeviceOf(window.Width));
        var placed = settings.Place(shapes, width, large);
        for (var i = 0; i < placed.Boxes.Count; i++)
        {
            var (photo, box) = (view.At(i), placed.Boxes[i]);
            found.Add(new PictureOnPage(photo.Picture, photo.Width, y + box.Y, y + box.Bottom, layout.Kind == LayoutKind.List ? settings.SizeIn(width) : box.Width, Away: false));
        }

        return y + placed.Height;
    }

    static double Covers(SiteCovers covers, double y, double width, Window window, List<PictureOnPage> found)
    {
        var across = BlockLayout.DeviceOf(window.Width) switch { Device.Phone => 1, Device.Tablet => Math.Min(2, covers.Across), _ => covers.Across };
        var each = (width - (CoverGap * (across - 1))) / across;
        var lines = 1 + (covers.Dates || covers.Counts ? 1 : 0) + (covers.Descriptions ? 2 : 0);
        var row = (each * 2 / 3) + BlockHeight.Beneath(lines) + CoverRowGap;
        for (var i = 0; i < covers.Entries.Count; i++)
        {
            if (covers.Entries[i].Cover is { } cover)
            {
                var top = y + (i / across * row);
                var said = window.Width * (window.Width <= WidestPhone ? OnPhone : CoverShare(covers.Across, covers.Place.Beside)) / 100.0;
                found.Add(new PictureOnPage(cover.Picture, cover.Width, top, top + (each * 2 / 3), said, Away: false));
            }
        }

        return y + (Math.Ceiling((double)covers.Entries.Count / across) * row);
    }
}
