using Jovitar.Core;
using Jovitar.Core.Layout;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>Makes of the blocks of a page what visitors find there now. What is gone, or not for them, leaves no gap.</summary>
internal sealed class SiteBlocks(NpgsqlDataSource db, CategoryStore categories, SitePhotos visitors, SiteIndexStore indexes, SiteBars bars, SiteLinks links, IndexKeeper keeper)
{
    /// <summary>What is gathered without a largest number being said.</summary>
    public const int UsualMost = 500;

    /// <summary>What the blocks of one page have in common while they are read.</summary>
    sealed record Reading(string Title, SiteLinks.Found Links)
    {
        public int Walks { get; set; }

        public bool HasHeading { get; set; }
    }

    public async Task<IReadOnlyList<SiteBlock>> OfAsync(PageContent content, CancellationToken ct)
    {
        var reading = new Reading(content.Title, await links.OfAsync(content.All().Select(LinkOf).OfType<LinkTo>(), ct));
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

    async Task<SiteBlock> OfAsync(Block block, int beside, Reading reading, CancellationToken ct)
    {
        switch (block)
        {
            case HeadingBlock heading:
                var level = !reading.HasHeading ? 1 : heading.Size == HeadingSize.Small ? 3 : 2;
                reading.HasHeading = true;
                return new SiteHeading(block.Id, block.Frame, beside, heading.Words.Length == 0 ? reading.Title : heading.Words, heading.Size, level);
            case TextBlock text:
                return new SiteText(block.Id, block.Frame, beside, text.Words);
            case PhotoBlock photo:
                return await PhotoAsync(photo, beside, reading, ct);
            case PhotosBlock photos:
                var shown = await PhotosAsync(photos.Source, ct);
                return new SitePhotosBlock(block.Id, block.Frame, beside, new Walk(++reading.Walks, photos.Layout, shown, await bars.OfAsync(photos.Bar, shown, ct)));
            case IndexBlock index:
                var entries = await EntriesAsync(index, ct);
                return new SiteCovers(block.Id, block.Frame, beside, index.Most is { } most ? [.. entries.Take(most)] : entries, index.Across, index.Dates, index.Counts, index.Descriptions);
            case ButtonBlock button:
                return new SiteButton(block.Id, block.Frame, beside, button.Words, reading.Links.Href(button.Link));
            case DividerBlock divider:
                return new SiteDivider(block.Id, block.Frame, beside, divider.Line);
            default:
                throw new NotSupportedException($"{block.GetType().Name} does not stand beside others.");
        }
    }

    async Task<SitePhotoBlock> PhotoAsync(PhotoBlock block, int beside, Reading reading, CancellationToken ct)
    {
        var album = block.Album is { } of ? await PhotosAsync(PhotosSource.Of(of), ct) : [];
        var own = block.Photo is { } one ? await PhotosAsync(PhotosSource.Of() with { Kind = SourceKind.Picked, Photos = [one] }, ct) : [];
        var photo = own.Count > 0 ? own[0] : block.Photo is null && block.Album is { } covered ? await CoverAsync(covered, album, ct) : null;
        // A photo that stands for an album begins the walk, whether it is in the album or not.
        IReadOnlyList<SitePhoto> walked = photo is null ? [] : [photo, .. album.Where(p => p.Id != photo.Id)];
        if (album.Any(p => p.Id == photo?.Id))
        {
            walked = album;
        }

        var walk = block.Press == PhotoPress.Open && photo is not null ? new Walk(++reading.Walks, BlockLayout.Usual, walked, SiteBars.None(walked)) : null;
        return new SitePhotoBlock(block.Id, block.Frame, beside, photo, block.Line, walk, block.Press == PhotoPress.Link ? reading.Links.Href(block.Link) : null);
    }

    /// <summary>An album's cover, if visitors see it; else the first of its photos.</summary>
    async Task<SitePhoto?> CoverAsync(AlbumId album, IReadOnlyList<SitePhoto> photos, CancellationToken ct)
    {
        await using var command = db.Command("select cover from album where id = @album", ("album", album.Value));
        var cover = await command.ExecuteScalarAsync(ct) as Guid?;
        return photos.FirstOrDefault(p => p.Id.Value == cover) ?? (photos.Count > 0 ? photos[0] : null);
    }

    /// <summary>The photos of a source as visitors find them.</summary>
    public async Task<IReadOnlyList<SitePhoto>> PhotosAsync(PhotosSource source, CancellationToken ct)
    {
        var found = source.Kind switch
        {
            SourceKind.Albums => await OfAlbumsAsync(source.Albums, ct),
            SourceKind.Picked => await PickedAsync(source.Photos, ct),
            _ => await GatheredAsync(source, ct),
        };
        if (source.Publishes && source.Sort is { } sort)
        {
            var known = found.ToDictionary(p => p.Id.Value);
            found = [.. (await keeper.CurrentAsync(ct)).InOrder(known.Keys, sort, sort.Down(source.Reversed)).Select(id => known[id])];
        }
        else if (source.Publishes && source.Reversed)
        {
            found = [.. found.Reverse()];
        }

        return source.Most is { } most && found.Count > most ? [.. found.Take(most)] : found;
    }

    /// <summary>Albums joined in their order, each photo once, where one comes upon it first.</summary>
    async Task<IReadOnlyList<SitePhoto>> OfAlbumsAsync(IReadOnlyList<AlbumId> albums, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {SitePhotos.Columns}, x.shown
              from (
                select ap.photo, min(array[(not a.shown)::int, o.n, ap.place]) as first, bool_or(a.shown) as shown
                  from unnest(@albums) with ordinality as o(album, n)
                  join album as a on a.id = o.album and a.binned is null
                  join album_photo as ap on ap.album = a.id
                 group by ap.photo) as x
              join photo as p on p.id = x.photo
             order by x.first, p.id
            """,
            ("albums", albums.Values()));
        return [.. (await command.AllAsync(r => visitors.Sees(r, SitePhotos.OnPage(r.Get<bool>("shown"))) ? SitePhotos.Read(r) : null, ct)).OfType<SitePhoto>()];
    }

    async Task<IReadOnlyList<SitePhoto>> PickedAsync(IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {SitePhotos.Columns}
              from unnest(@photos) with ordinality as o(photo, n)
              join photo as p on p.id = o.photo
             order by o.n
            """,
            ("photos", photos.Values()));
        return [.. (await command.AllAsync(r => visitors.Sees(r, SitePhotos.OnPage(isShown: true)) ? SitePhotos.Read(r) : null, ct)).OfType<SitePhoto>()];
    }

    /// <summary>What a category, a tag, age, rating or views find among the photos that visitors come upon in some album.</summary>
    async Task<IReadOnlyList<SitePhoto>> GatheredAsync(PhotosSource source, CancellationToken ct)
    {
        var parts = new List<NarrowingPart>
        {
            new(PartKind.Album, false, [.. (await indexes.SeenAlbumsAsync(ct)).Select(a => a.ToString())]),
            new(PartKind.Decision, true, [Decisions.LeaveOut]),
        };
        var usual = SheetSort.Taken;
        switch (source.Kind)
        {
            case SourceKind.Category:
                // One that is out of view shows nothing, wherever it is asked for.
                var seen = source.Category is { } category ? (await categories.TreeAsync(ct)).InView().WithDescendants(category) : [];
                parts.Add(new NarrowingPart(PartKind.Category, false, [.. seen.Select(c => c.ToString())]));
                break;
            case SourceKind.Tag:
                parts.Add(new NarrowingPart(PartKind.Tag, false, source.Tag is { } tag ? [tag.ToString()] : []));
                break;
            case SourceKind.HighestRated:
                usual = SheetSort.Rating;
                break;
            case SourceKind.MostViewed:
                usual = SheetSort.Views;
                break;
            default:
                usual = SheetSort.Arrived;
                break;
        }

        var sort = source.Sort ?? usual;
        var found = (await keeper.CurrentAsync(ct)).Window(new Narrowing("", parts), sort, sort.Down(source.Reversed), 0, source.Most ?? UsualMost);
        return await PickedAsync([.. found.Photos.Select(PhotoId.From)], ct);
    }

    async Task<IReadOnlyList<SiteEntry>> EntriesAsync(IndexBlock index, CancellationToken ct)
    {
        switch (index.Of)
        {
            case IndexKind.Albums:
                return await indexes.CoverAsync(await indexes.ChosenAsync(index.Albums, ct), ct);
            case IndexKind.Pages:
                return await indexes.CoverAsync(await indexes.PagesAsync(ct), ct);
            case IndexKind.Categories:
                return await indexes.CoverAsync(await indexes.CategoriesAsync((await categories.TreeAsync(ct)).InView(), null, await indexes.SeenAlbumsAsync(ct), ct), ct);
            default:
                if (index.Category is not { } category)
                {
                    return [];
                }

                var seen = (await categories.TreeAsync(ct)).InView();
                IReadOnlyList<CategoryId> within = [.. seen.WithDescendants(category)];
                return within.Count == 0 ? [] : await indexes.CoverAsync((await indexes.AlbumsAsync(category, index.Beneath ? within : [category], index.Sort, ct)).Entries, ct);
        }
    }
}
