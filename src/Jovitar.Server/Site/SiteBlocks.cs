using Jovitar.Core;
using Jovitar.Core.Files;
using Jovitar.Core.Filtering;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Albums;
using Jovitar.Server.Files;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>Makes of the blocks of a page what visitors find there now. What is gone, or not for them, leaves no gap.</summary>
internal sealed class SiteBlocks(NpgsqlDataSource db, CategoryStore categories, SiteSources sources, SiteIndexStore indexes, SiteBars bars, SiteLinks links, FileStore files, PhotoColours colours, SiteOffers offers)
{
    /// <summary>What the blocks of one page have in common while they are read.</summary>
    /// <param name="Gap">Between photos, CSS pixels, where a block does not say how far apart they stand.</param>
    /// <param name="Single">The photos that stand on it one by one.</param>
    /// <param name="ByLot">Of the albums whose order is that of a block, those that every visit finds in another one.</param>
    /// <param name="Offers">What those albums offer that stand alone in a block.</param>
    sealed record Reading(string Title, DateOnly? Posted, int Gap, SiteLinks.Found Links, IReadOnlyDictionary<FileId, NamedFile> Files, IReadOnlyDictionary<PhotoId, SitePhoto> Single, IReadOnlySet<AlbumId> ByLot, IReadOnlyDictionary<AlbumId, AlbumOffered> Offers, Seeing Seeing)
    {
        public int Walks { get; set; }

        public int Grounds { get; set; }

        /// <summary>Of the last heading that is not a small one; 0 before the first.</summary>
        public int Level { get; set; }
    }

    /// <param name="look">Of the site that the page is of.</param>
    public async Task<IReadOnlyList<SiteBlock>> OfAsync(PageContent content, Look look, Sight sight, CancellationToken ct)
    {
        var all = content.All().ToArray();
        var reading = new Reading(
            content.Title, content.Posted, content.Look.On(look).Gap, await links.OfAsync(all.Select(LinkOf).OfType<LinkTo>(), sight, ct), await files.NamedAsync([.. all.SelectMany(FilesOf)], ct), await sources.SingleAsync(all.SelectMany(PhotosOf), sight, ct),
            await sources.ByLotAsync([.. all.OfType<PhotosBlock>().Select(p => p.Source.InOrderOf).OfType<AlbumId>()], ct),
            await offers.OfAsync([.. all.OfType<PhotosBlock>().Select(p => p.Source.Alone).OfType<AlbumId>()], ct), sources.Seeing(sight, ct));
        var blocks = new List<SiteBlock>();
        foreach (var band in Band.Of(content.Blocks))
        {
            var frame = band.Blocks[0].Frame;
            if (await GroundAsync(band, reading) is not { } ground)
            {
                foreach (var block in band.Blocks)
                {
                    blocks.Add(await OfAsync(block, new BlockPlace(block.Frame), reading, ct));
                }

                continue;
            }

            var on = new List<SiteBlock>();
            foreach (var block in band.Blocks)
            {
                // The ground is as wide as its first block is said to be, which takes all of it.
                var within = on.Count == 0 || block.Frame.Width == BlockWidth.Window ? block.Frame with { Width = BlockWidth.Full } : block.Frame;
                on.Add(await OfAsync(block, new BlockPlace(within, Around: frame.Width), reading, ct));
            }

            blocks.Add(new SiteBand(band.Blocks[0].Id, new BlockPlace(frame), ground, on));
        }

        return blocks;
    }

    /// <summary>What lies behind blocks; nothing where that is a photo that is gone or not for visitors.</summary>
    async Task<SiteGround?> GroundAsync(Band band, Reading reading)
    {
        if (band.Ground is not { } ground)
        {
            return null;
        }

        var words = ground.Words is { } said ? Colour.Parse(said) : null;
        var wanted = band.Blocks.Max(Band.WantedOf) ?? 1;
        if (ground.Kind == GroundKind.Colour)
        {
            return new SiteGround(++reading.Grounds, ground, null, WordsOver.OverColour(words, Colour.Parse(ground.Colour) ?? Colour.Paper, wanted));
        }

        return ground.Photo is { } id && reading.Single.GetValueOrDefault(id) is { } photo
            ? new SiteGround(++reading.Grounds, ground, photo, WordsOver.OverPhoto(words, await colours.OfAsync(photo.Picture), ground.Veil, wanted))
            : null;
    }

    async Task<SiteBeside> BesideAsync(BesideBlock block, BlockPlace place, Reading reading, CancellationToken ct)
    {
        var inner = new List<SiteBlock>();
        foreach (var each in block.Blocks)
        {
            var cell = new BlockPlace(each.Frame, block.Blocks.Count, place.Around);
            inner.Add(await GroundAsync(new Band(each.Frame.Ground.Begins ? each.Frame.Ground : null, [each]), reading) is { } ground
                ? new SiteBand(each.Id, cell, ground, [await OfAsync(each, cell with { IsCard = true }, reading, ct)])
                : await OfAsync(each, cell, reading, ct));
        }

        return new SiteBeside(block.Id, place, inner);
    }

    static LinkTo? LinkOf(Block block) => block switch { ButtonBlock button => button.Link, PhotoBlock { Press: PhotoPress.Link } photo => photo.Link, _ => null };

    /// <summary>The photos that stand in a block by themselves, and behind it.</summary>
    static IEnumerable<PhotoId> PhotosOf(Block block) =>
        new[] { block.Frame.Ground is { Kind: GroundKind.Photo, Photo: { } behind } ? behind : (PhotoId?)null, block switch { PhotoBlock photo => photo.Photo, VideoBlock video => video.Still, _ => null } }.OfType<PhotoId>();

    static IEnumerable<FileId> FilesOf(Block block) => block switch
    {
        FilesBlock files => files.Files.Select(f => f.File),
        SoundBlock { File: { } sound } => [sound],
        VideoBlock { From: VideoFrom.File, File: { } video } => [video],
        _ => [],
    };

    async Task<SiteBlock> OfAsync(Block block, BlockPlace place, Reading reading, CancellationToken ct)
    {
        switch (block)
        {
            case BesideBlock beside:
                return await BesideAsync(beside, place, reading, ct);
            case HeadingBlock heading:
                // No level is left out on the way down (WCAG 2.2, technique G141): small ones stand beneath the last that is not.
                var level = reading.Level == 0 ? 1 : heading.Size == HeadingSize.Small ? reading.Level + 1 : 2;
                reading.Level = heading.Size == HeadingSize.Small ? Math.Max(1, reading.Level) : level;
                return new SiteHeading(block.Id, place, heading.Words.Length == 0 ? reading.Title : heading.Words, heading.Size, level, level == 1 ? reading.Posted : null);
            case TextBlock text:
                return new SiteText(block.Id, place, text.Words);
            case PhotoBlock photo:
                return await PhotoAsync(photo, place, reading, ct);
            case PhotosBlock photos:
                var source = photos.Source.InOrderOf is { } album && reading.ByLot.Contains(album) ? photos.Source with { ByLot = true } : photos.Source;
                var nowhere = photos.Absent.Everywhere();
                IReadOnlyList<SitePhoto> shown = [.. (await sources.PhotosAsync(source, reading.Seeing, ct)).Where(p => !nowhere.Contains(p.Id))];
                // A handful is narrowed no further: what a button says it finds would not be what stands there.
                var handful = source.ByLot ? source.Most : null;
                var bar = handful is null ? await bars.OfAsync(photos.Bar, source, shown, reading.Seeing, ct) : FilterBar.None(shown.Count);
                var walk = new Walk(++reading.Walks, photos.Layout.Spaced(reading.Gap), shown, bar, source.ByLot, handful, photos.Absent, photos.More)
                {
                    BarSet = photos.Bar,
                    Press = photos.Press,
                    Words = photos.Words,
                    Touch = photos.Touch,
                    AlbumPages = photos.Press.To == PressTo.Album ? await sources.AlbumPagesAsync(source, shown, reading.Seeing, ct) : new Dictionary<PhotoId, string>(),
                };
                walk = offers.Offered(walk, source.Alone, reading.Offers, reading.Seeing.Sight);
                return new SitePhotosBlock(
                    block.Id, place, handful is not null ? walk : walk with { Search = await bars.SearchAsync(photos.Bar, shown, ct), Orders = await bars.OrdersAsync(photos.Bar, shown, ct) },
                    photos.Source);
            case IndexBlock index:
                var entries = await EntriesAsync(index, reading.Seeing, ct);
                return new SiteCovers(block.Id, place, index.Most is { } most ? [.. entries.Take(most)] : entries, index.Across, index.Dates, index.Counts, index.Descriptions, HasFeed: index.Of == IndexKind.Posts);
            case FilesBlock offered:
                return new SiteFiles(block.Id, place, [.. offered.Files.Select(f => FileOf(f.File, f.Words, reading)).OfType<SiteFile>()]);
            case SoundBlock sound:
                return new SiteSound(block.Id, place, FileOf(sound.File, sound.Line, reading, FileKind.Sound), sound.Line);
            case VideoBlock video:
                return new SiteVideo(
                    block.Id, place, video.From == VideoFrom.File ? FileOf(video.File, video.Line, reading, FileKind.Video) : null, video.Elsewhere, video.Shape,
                    video.Still is { } still ? reading.Single.GetValueOrDefault(still) : null, video.Line);
            case ContactBlock contact:
                return new SiteContact(block.Id, place, contact);
            case ButtonBlock button:
                return new SiteButton(block.Id, place, button.Words, reading.Links.Href(button.Link));
            case DividerBlock divider:
                return new SiteDivider(block.Id, place, divider.Line);
            default:
                throw new NotSupportedException($"{block.GetType().Name} does not stand beside others.");
        }
    }

    /// <summary>A file by its words or its name; null when it is not there, or not what the block plays.</summary>
    static SiteFile? FileOf(FileId? id, string words, Reading reading, FileKind? kind = null) =>
        id is { } wanted && reading.Files.GetValueOrDefault(wanted) is { } file && (kind is null || file.Kind == kind)
            ? new SiteFile(file.Path, words.Length > 0 ? words : Path.GetFileNameWithoutExtension(file.FileName), file.Kind, file.Bytes)
            : null;

    async Task<SitePhotoBlock> PhotoAsync(PhotoBlock block, BlockPlace place, Reading reading, CancellationToken ct)
    {
        var album = block.Album is { } of && (!block.ShowsSeenCover || (await reading.Seeing.Albums.Value).Contains(of)) ? await sources.OfAlbumAsync(of, reading.Seeing.Sight, ct) : [];
        var photo = block.Photo is { } one ? reading.Single.GetValueOrDefault(one) : block.Album is { } covered ? await CoverAsync(covered, album, ct) : null;
        // A photo that stands for an album begins the walk, whether it is in the album or not.
        IReadOnlyList<SitePhoto> walked = photo is null ? [] : album.Any(p => p.Id == photo.Id) ? album : [photo, .. album];
        var walk = block.Press == PhotoPress.Open && photo is not null ? new Walk(++reading.Walks, BlockLayout.Usual, walked, FilterBar.None(walked.Count), block.IsDrawn) : null;
        return new SitePhotoBlock(block.Id, place, photo, block.Line, walk, block.Press == PhotoPress.Link ? reading.Links.Href(block.Link) : null);
    }

    /// <summary>An album's cover, if visitors see it; else the first of its photos.</summary>
    async Task<SitePhoto?> CoverAsync(AlbumId album, IReadOnlyList<SitePhoto> photos, CancellationToken ct)
    {
        await using var command = db.Command("select cover from album where id = @album", ("album", album.Value));
        var cover = await command.ExecuteScalarAsync(ct) as Guid?;
        return photos.FirstOrDefault(p => p.Id.Value == cover) ?? (photos.Count > 0 ? photos[0] : null);
    }

    async Task<IReadOnlyList<SiteEntry>> EntriesAsync(IndexBlock index, Seeing seeing, CancellationToken ct)
    {
        switch (index.Of)
        {
            case IndexKind.Albums:
                return await indexes.CoverAsync(await indexes.ChosenAsync(index.Albums, seeing.Sight, ct), seeing.Sight, ct);
            case IndexKind.Pages:
                return await indexes.CoverAsync(await indexes.PagesAsync(PagesWanted.Pages, index.Most, seeing, ct), seeing.Sight, ct);
            case IndexKind.Posts:
                return await indexes.CoverAsync(await indexes.PagesAsync(PagesWanted.Posts, index.Most, seeing, ct), seeing.Sight, ct);
            case IndexKind.Categories:
                return await indexes.CoverAsync(await indexes.CategoriesAsync((await categories.TreeAsync(ct)).InView(seeing.Sight.IsShut), null, seeing, ct), seeing.Sight, ct);
            default:
                if (index.Category is not { } category)
                {
                    return [];
                }

                IReadOnlyList<CategoryId> within = [.. (await categories.TreeAsync(ct)).InView(seeing.Sight.IsShut).WithDescendants(category)];
                return within.Count == 0 ? [] : await indexes.CoverAsync((await indexes.AlbumsAsync(category, index.Beneath ? within : [category], index.Sort, seeing.Sight, ct)).Entries, seeing.Sight, ct);
        }
    }
}
