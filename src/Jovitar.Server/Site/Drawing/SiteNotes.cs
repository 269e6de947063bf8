using Jovitar.Core;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;
using Jovitar.Server.Narrowings;

namespace Jovitar.Server.Site.Drawing;

/// <summary>A photo that has fewer pixels than the place it fills on a page.</summary>
/// <param name="Device">Where that is worst: phone, tablet or desktop.</param>
/// <param name="Blurred">On any screen; else on sharp ones only.</param>
internal sealed record SmallOnPage(PhotoId Photo, string Picture, string Name, string Device, bool Blurred);

/// <summary>Words over a ground.</summary>
/// <param name="Words">What they are written in, as <c>#rrggbb</c>.</param>
/// <param name="Ratio">Their contrast, 1 to 21.</param>
/// <param name="Wanted">What is asked for.</param>
/// <param name="Nearest">The nearest colour that is enough; null where theirs is, or none.</param>
/// <param name="Veil">The thinnest veil that is enough, percent; null where theirs is, or none.</param>
internal sealed record WordsOnGround(string Words, double Ratio, double Wanted, bool IsEnough, string? Nearest, int? Veil)
{
    public static WordsOnGround Of(SiteGround ground)
    {
        var over = ground.Over;
        // Rounded down: what falls short by a little is not said to be there.
        return new WordsOnGround(over.Words.ToString(), Math.Floor(over.Ratio * 10) / 10, over.Wanted, over.IsEnough, over.Nearest?.ToString(), over.ThinnestVeil);
    }
}

/// <summary>Words with the photos of a block that cannot be read well, on the device where they are worst.</summary>
/// <param name="Device">Phone, tablet or desktop.</param>
/// <param name="Ratio">Their contrast, 1 to 21.</param>
/// <param name="Wanted">What is asked for.</param>
/// <param name="Nearest">The nearest colour that is enough; null where none is.</param>
/// <param name="Dense">How much of the photo their ground must hide, percent, so that they can be read as they are; null where that does not help.</param>
internal sealed record WordsOnPhotos(Device Device, double Ratio, double Wanted, string? Nearest, int? Dense)
{
    /// <param name="behind">The grounds that the block may stand on; empty where nobody knows what lies behind each word.</param>
    public static WordsOnPhotos? Of(Walk walk, IReadOnlyList<Colour> behind)
    {
        if (walk.Layout.Kind == LayoutKind.List)
        {
            return null;
        }

        var worst = Enum.GetValues<Device>().Select(d => (Device: d, Set: walk.Words.On(d))).SelectMany(d => Ways(d.Set, behind).Select(w => (d.Device, w.Over, w.Dense))).Where(w => !w.Over.IsEnough).OrderBy(w => w.Over.Ratio).ThenByDescending(w => w.Device);
        return worst.Select(w => new WordsOnPhotos(w.Device, Math.Floor(w.Over.Ratio * 10) / 10, w.Over.Wanted, w.Over.Nearest?.ToString(), w.Dense)).FirstOrDefault();
    }

    static IEnumerable<(WordsOver Over, int? Dense)> Ways(WordsSet set, IReadOnlyList<Colour> behind)
    {
        if (set.IsOver())
        {
            yield return (set.OverPhotos(), set.LeastDense());
        }

        if (set.Has(WordsWhen.Turned))
        {
            yield return (set.OnGround(Colour.Ink), null);
        }

        // Without a colour of their own they are written as all words on that ground.
        if (set.Has(WordsWhen.Under) && (set.Ground is not null || (set.Colour is not null && behind.Count > 0)))
        {
            yield return (set.OnGround(behind), null);
        }
    }
}

/// <summary>What the software notices of a block.</summary>
/// <param name="Shows">How many photos or covers visitors find in it; null for blocks that have none.</param>
/// <param name="Picture">The first of them.</param>
/// <param name="Advice">Which layout suits its photos; null where there is none to choose.</param>
/// <param name="Small">Photos that are too small for their places, those that lack most first; the first of them.</param>
/// <param name="WithoutWords">How many photos have no words for those who cannot see them.</param>
/// <param name="LeadsNowhere">A link of it leads to nothing that visitors can open.</param>
/// <param name="Over">How well words can be read over the ground that begins with it; null where none does.</param>
/// <param name="Written">Words with its photos that cannot be read well; null where all can.</param>
/// <param name="Look">What comes of the page's look and what is otherwise in the block; null where nothing is.</param>
/// <param name="Unreadable">What of that cannot be read well where visitors may see it.</param>
/// <param name="OnGround">It stands on a ground, whose colours its words have.</param>
/// <param name="Held">Photos of it that no visitor sees for want of clearance; null where there are none.</param>
internal sealed record BlockNotes(
    BlockId Block, int? Shows, string? Picture, LayoutAdvice? Advice, IReadOnlyList<SmallOnPage> Small, int Blurred, int OnlySharp, int WithoutWords, bool LeadsNowhere, WordsOnGround? Over = null, WordsOnPhotos? Written = null, Look? Look = null,
    IReadOnlyList<Unreadable>? Unreadable = null, bool OnGround = false, HeldPhotos? Held = null)
{
    const int MostNamed = 60;

    /// <param name="behind">The colours that it may stand on; empty where that is a photo.</param>
    public static BlockNotes? Of(SiteBlock block, IReadOnlyList<Colour> behind) => block switch
    {
        SitePhotosBlock photos => Photos(photos) with { Written = WordsOnPhotos.Of(photos.Walk, behind) },
        SitePhotoBlock photo => Photo(photo),
        SiteCovers covers => Nothing(block) with { Shows = covers.Entries.Count, Picture = covers.Entries.Select(e => e.Cover?.Picture).FirstOrDefault(p => p is not null) },
        SiteFiles files => Nothing(block) with { Shows = files.Files.Count },
        SiteSound sound => Nothing(block) with { Shows = sound.File is null ? 0 : 1 },
        SiteVideo video => Video(video),
        SiteContact contact => Nothing(block) with { Shows = contact.Contact.IsEmpty ? 0 : 1 },
        SiteButton button => Nothing(block) with { LeadsNowhere = button.Href is null },
        _ => null,
    };

    static BlockNotes Nothing(SiteBlock block) => Nothing(block.Id);

    /// <summary>The notes of a block of which there is nothing to notice.</summary>
    public static BlockNotes Nothing(BlockId block) => new(block, null, null, null, [], 0, 0, 0, false);

    static BlockNotes Photos(SitePhotosBlock block)
    {
        var photos = block.Walk.Photos;
        return Sized(block, photos, TooSmall(block)) with { Shows = block.Walk.Count, Advice = LayoutAdvice.For([.. photos.Select(p => p.Shape)]) };
    }

    /// <summary>The photos that are too small for their places, by their numbers in the walk, each where that is worst of the devices that show it.</summary>
    static IReadOnlyList<SmallPhoto> TooSmall(SitePhotosBlock block)
    {
        var walk = block.Walk;
        return
        [
            .. Window.Usual
                .SelectMany(window =>
                {
                    // Of what is drawn by lot any may stand there.
                    var without = walk.Without(BlockLayout.DeviceOf(window.Width));
                    int[] there = [.. Enumerable.Range(0, walk.Photos.Count).Where(i => !without.Contains(i))];
                    var large = walk.Layout.Kind == LayoutKind.Mosaic ? walk.Layout.Large.Of([.. there.Select(i => (walk.Photos[i].Id, walk.Photos[i].Rating))]) : [];
                    return PixelNotes.Of(walk.Layout, [.. there.Select(i => (walk.Photos[i].Width, walk.Photos[i].Height))], large, [window], block.Place.Width).Select(s => s with { Photo = there[s.Photo] });
                })
                .GroupBy(s => s.Photo).Select(g => g.MinBy(s => s.Share)!).OrderBy(s => s.Share).ThenBy(s => s.Photo),
        ];
    }

    static BlockNotes Photo(SitePhotoBlock block)
    {
        if (block.Photo is not { } photo)
        {
            return Nothing(block) with { Shows = 0 };
        }

        return Alone(block, photo);
    }

    static BlockNotes Video(SiteVideo block) => (block.Still is { } still ? Alone(block, still) : Nothing(block)) with { Shows = block.Source is null ? 0 : 1 };

    /// <summary>It fills the block's width.</summary>
    static BlockNotes Alone(SiteBlock block, SitePhoto photo)
    {
        var small = Window.Usual.Select(w => new SmallPhoto(0, w.Device, photo.Width / block.Place.Width(w))).MinBy(s => s.Share)!;
        return Sized(block, [photo], small.Share < PixelNotes.Enough * PixelNotes.Sharp ? [small] : []);
    }

    static BlockNotes Sized(SiteBlock block, IReadOnlyList<SitePhoto> photos, IReadOnlyList<SmallPhoto> small) => Nothing(block) with
    {
        Shows = photos.Count,
        Picture = photos.Count > 0 ? photos[0].Picture : null,
        Small = [.. small.Take(MostNamed).Select(s => (Small: s, Photo: photos[s.Photo])).Select(s => new SmallOnPage(s.Photo.Id, s.Photo.Picture, s.Photo.Name, s.Small.Device, s.Small.IsBlurred))],
        Blurred = small.Count(s => s.IsBlurred),
        OnlySharp = small.Count(s => !s.IsBlurred),
        WithoutWords = photos.Count(p => p.Alt.Length == 0),
    };
}

/// <summary>What the software notices of a page while somebody works on it, block by block.</summary>
/// <param name="Weights">What it weighs on each usual device.</param>
/// <param name="Look">What comes of the site's look and what is otherwise on the page.</param>
/// <param name="Unreadable">What of it cannot be read well where visitors may see it.</param>
internal sealed record PageNotes(IReadOnlyList<BlockNotes> Blocks, IReadOnlyList<DeviceWeight> Weights, Look Look, IReadOnlyList<Unreadable> Unreadable)
{
    /// <summary>The notes of a page as its draft is.</summary>
    /// <param name="above">How the site looks to visitors.</param>
    /// <param name="held">What of its blocks no visitor sees for want of clearance.</param>
    public static PageNotes Of(SitePage page, SiteWeights weights, Look above, IReadOnlyDictionary<BlockId, HeldPhotos> held)
    {
        var look = page.Look.On(above);
        var grounds = page.All.OfType<SiteBand>().ToDictionary(b => b.Id, b => WordsOnGround.Of(b.On));
        // Of grounds within grounds the inner one.
        var behind = page.All.OfType<SiteBand>().SelectMany(b => b.All.Select(i => (i.Id, b.On))).GroupBy(i => i.Id).ToDictionary(g => g.Key, g => g.Last().On);
        Colour[] site = [.. look.Seen().Select(s => Colour.Parse(s.Palette.Ground)).OfType<Colour>()];
        Colour[] Behind(BlockId id) => behind.GetValueOrDefault(id) is not { } ground ? site : ground.Photo is null && Colour.Parse(ground.Ground.Colour) is { } colour ? [colour] : [];
        BlockNotes? Noted(SiteBlock block)
        {
            var notes = BlockNotes.Of(block, Behind(block.Id));
            notes = notes is null ? null : notes with { Held = held.GetValueOrDefault(block.Id) };
            if (grounds.GetValueOrDefault(block.Id) is { } over)
            {
                notes = (notes ?? BlockNotes.Nothing(block.Id)) with { Over = over };
            }

            var (onGround, change) = (behind.ContainsKey(block.Id), block.Place.Frame.Look);
            if (onGround)
            {
                // Words have its colours, which are looked after there.
                (notes, change) = ((notes ?? BlockNotes.Nothing(block.Id)) with { OnGround = true }, change.WithoutColours());
            }

            if (change == LookChange.None)
            {
                return notes;
            }

            var own = change.On(look);
            return (notes ?? BlockNotes.Nothing(block.Id)) with { Look = own, Unreadable = [.. own.Unreadable().Except(look.Unreadable())] };
        }

        TypeFamily[] families = [.. look.Families(), .. page.All.Where(b => b is not SiteBand).SelectMany(b => b.Place.Frame.Look.On(look).Families())];
        return new PageNotes(
            [.. page.All.Where(b => b is not SiteBand).Select(Noted).OfType<BlockNotes>()],
            weights.Of(page, families), look, look.Unreadable());
    }
}
