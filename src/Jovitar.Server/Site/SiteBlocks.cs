using Jovitar.Core;
using Jovitar.Core.Files;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Server.Files;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>Makes of the blocks of a page what visitors find there now. What is gone, or not for them, leaves no gap.</summary>
internal sealed class SiteBlocks(NpgsqlDataSource db, CategoryStore categories, SiteSources sources, SiteIndexStore indexes, SiteBars bars, SiteLinks links, FileStore files)
{
    /// <summary>What the blocks of one page have in common while they are read.</summary>
    /// <param name="Seen">The albums that visitors see somewhere.</param>
    sealed record Reading(string Title, DateOnly? Posted, SiteLinks.Found Links, IReadOnlyDictionary<FileId, NamedFile> Files, Lazy<Task<IReadOnlyList<AlbumId>>> Seen)
    {
        public int Walks { get; set; }

        public bool HasHeading { get; set; }
    }

    public async Task<IReadOnlyList<SiteBlock>> OfAsync(PageContent content, CancellationToken ct)
    {
        var reading = new Reading(content.Title, content.Posted, await links.OfAsync(content.All().Select(LinkOf).OfType<LinkTo>(), ct), await files.NamedAsync([.. content.All().SelectMany(FilesOf)], ct), sources.Seen(ct));
        var blocks = new List<SiteBlock>();
        foreach (var block in content.Blocks)
        {
            if (block is BesideBlock beside)
            {
                var inner = new List<SiteBlock>();
                foreach (var each in beside.Blocks)
                {
                    inner.Add(await OfAsync(each, beside.Blocks.Count, reading, ct));
                }

                blocks.Add(new SiteBeside(beside.Id, beside.Frame, inner));
            }
            else
            {
                blocks.Add(await OfAsync(block, 1, reading, ct));
            }
        }

        return blocks;
    }

    static LinkTo? LinkOf(Block block) => block switch { ButtonBlock button => button.Link, PhotoBlock { Press: PhotoPress.Link } photo => photo.Link, _ => null };

    static IEnumerable<FileId> FilesOf(Block block) => block switch
    {
        FilesBlock files => files.Files.Select(f => f.File),
        SoundBlock { File: { } sound } => [sound],
        VideoBlock { From: VideoFrom.File, File: { } video } => [video],
        _ => [],
    };

    async Task<SiteBlock> OfAsync(Block block, int beside, Reading reading, CancellationToken ct)
    {
        switch (block)
        {
            case HeadingBlock heading:
                var level = !reading.HasHeading ? 1 : heading.Size == HeadingSize.Small ? 3 : 2;
                reading.HasHeading = true;
                return new SiteHeading(block.Id, block.Frame, beside, heading.Words.Length == 0 ? reading.Title : heading.Words, heading.Size, level, level == 1 ? reading.Posted : null);
            case TextBlock text:
                return new SiteText(block.Id, block.Frame, beside, text.Words);
            case PhotoBlock photo:
                return await PhotoAsync(photo, beside, reading, ct);
            case PhotosBlock photos:
                var shown = await sources.PhotosAsync(photos.Source, reading.Seen, ct);
                // A handful is narrowed no further: what a button says it finds would not be what stands there.
                var handful = photos.Source.ByLot ? photos.Source.Most : null;
                var bar = handful is null ? await bars.OfAsync(photos.Bar, shown, ct) : SiteBars.None(shown);
                return new SitePhotosBlock(block.Id, block.Frame, beside, new Walk(++reading.Walks, photos.Layout, shown, bar, photos.Source.ByLot, handful));
            case IndexBlock index:
                var entries = await EntriesAsync(index, reading.Seen, ct);
                return new SiteCovers(block.Id, block.Frame, beside, index.Most is { } most ? [.. entries.Take(most)] : entries, index.Across, index.Dates, index.Counts, index.Descriptions, HasFeed: index.Of == IndexKind.Posts);
            case FilesBlock offered:
                return new SiteFiles(block.Id, block.Frame, beside, [.. offered.Files.Select(f => FileOf(f.File, f.Words, reading)).OfType<SiteFile>()]);
            case SoundBlock sound:
                return new SiteSound(block.Id, block.Frame, beside, FileOf(sound.File, sound.Line, reading, FileKind.Sound), sound.Line);
            case VideoBlock video:
                return new SiteVideo(
                    block.Id, block.Frame, beside, video.From == VideoFrom.File ? FileOf(video.File, video.Line, reading, FileKind.Video) : null, video.Elsewhere, video.Shape,
                    video.Still is { } still ? await sources.OneAsync(still, ct) : null, video.Line);
            case ContactBlock contact:
                return new SiteContact(block.Id, block.Frame, beside, contact);
            case ButtonBlock button:
                return new SiteButton(block.Id, block.Frame, beside, button.Words, reading.Links.Href(button.Link));
            case DividerBlock divider:
                return new SiteDivider(block.Id, block.Frame, beside, divider.Line);
            default:
                throw new NotSupportedException($"{block.GetType().Name} does not stand beside others.");
        }
    }

    /// <summary>A file by its words or its name; null when it is not there, or not what the block plays.</summary>
    static SiteFile? FileOf(FileId? id, string words, Reading reading, FileKind? kind = null) =>
        id is { } wanted && reading.Files.GetValueOrDefault(wanted) is { } file && (kind is null || file.Kind == kind)
            ? new SiteFile(file.Path, words.Length > 0 ? words : Path.GetFileNameWithoutExtension(file.FileName), file.Kind, file.Bytes)
            : null;

    async Task<SitePhotoBlock> PhotoAsync(PhotoBlock block, int beside, Reading reading, CancellationToken ct)
    {
        var album = block.Album is { } of && (!block.ShowsSeenCover || (await reading.Seen.Value).Contains(of)) ? await sources.OfAlbumAsync(of, ct) : [];
        var photo = block.Photo is { } one ? await sources.OneAsync(one, ct) : block.Album is { } covered ? await CoverAsync(covered, album, ct) : null;
        // A photo that stands for an album begins the walk, whether it is in the album or not.
        IReadOnlyList<SitePhoto> walked = photo is null ? [] : album.Any(p => p.Id == photo.Id) ? album : [photo, .. album];
        var walk = block.Press == PhotoPress.Open && photo is not null ? new Walk(++reading.Walks, BlockLayout.Usual, walked, SiteBars.None(walked), block.IsDrawn) : null;
        return new SitePhotoBlock(block.Id, block.Frame, beside, photo, block.Line, walk, block.Press == PhotoPress.Link ? reading.Links.Href(block.Link) : null);
    }

    /// <summary>An album's cover, if visitors see it; else the first of its photos.</summary>
    async Task<SitePhoto?> CoverAsync(AlbumId album, IReadOnlyList<SitePhoto> photos, CancellationToken ct)
    {
        await using var command = db.Command("select cover from album where id = @album", ("album", album.Value));
        var cover = await command.ExecuteScalarAsync(ct) as Guid?;
        return photos.FirstOrDefault(p => p.Id.Value == cover) ?? (photos.Count > 0 ? photos[0] : null);
    }

    async Task<IReadOnlyList<SiteEntry>> EntriesAsync(IndexBlock index, Lazy<Task<IReadOnlyList<AlbumId>>> seen, CancellationToken ct)
    {
        switch (index.Of)
        {
            case IndexKind.Albums:
                return await indexes.CoverAsync(await indexes.ChosenAsync(index.Albums, ct), ct);
            case IndexKind.Pages:
                return await indexes.CoverAsync(await indexes.PagesAsync(PagesWanted.Pages, index.Most, seen, ct), ct);
            case IndexKind.Posts:
                return await indexes.CoverAsync(await indexes.PagesAsync(PagesWanted.Posts, index.Most, seen, ct), ct);
            case IndexKind.Categories:
                return await indexes.CoverAsync(await indexes.CategoriesAsync((await categories.TreeAsync(ct)).InView(), null, await seen.Value, ct), ct);
            default:
                if (index.Category is not { } category)
                {
                    return [];
                }

                IReadOnlyList<CategoryId> within = [.. (await categories.TreeAsync(ct)).InView().WithDescendants(category)];
                return within.Count == 0 ? [] : await indexes.CoverAsync((await indexes.AlbumsAsync(category, index.Beneath ? within : [category], index.Sort, ct)).Entries, ct);
        }
    }
}
