using Jovitar.Core;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>For whom a page is made.</summary>
/// <param name="Albums">Those that they see somewhere, asked for when they are needed, once.</param>
internal sealed record Seeing(Sight Sight, Lazy<Task<IReadOnlyList<AlbumId>>> Albums);

/// <summary>The photos of blocks: albums joined, picked by hand, or gathered from what visitors find anyway.</summary>
internal sealed class SiteSources(NpgsqlDataSource db, CategoryStore categories, SitePhotos visitors, SiteLinks links, AccessStore access, IndexKeeper keeper)
{
    /// <summary>What is gathered without a largest number being said.</summary>
    public const int UsualMost = 500;

    /// <summary>From so many, those that come first, what is drawn by lot is drawn.</summary>
    public const int MostInALot = 2000;

    public Seeing Seeing(Sight sight, CancellationToken ct) => new(sight, new(() => SeenAlbumsAsync(sight, ct)));

    /// <summary>The photos of an album in its order, as visitors find them.</summary>
    public Task<IReadOnlyList<SitePhoto>> OfAlbumAsync(AlbumId album, Sight sight, CancellationToken ct) => OfAlbumsAsync([album], sight, ct);

    /// <summary>Those of some albums that every visit finds in another order.</summary>
    public async Task<IReadOnlySet<AlbumId>> ByLotAsync(IReadOnlyList<AlbumId> albums, CancellationToken ct)
    {
        if (albums.Count == 0)
        {
            return new HashSet<AlbumId>();
        }

        await using var command = db.Command("select id from album where id = any(@albums) and by_lot", ("albums", albums.Values()));
        return (await command.AllAsync(r => new AlbumId(r.Get<Guid>("id")), ct)).ToHashSet();
    }

    /// <summary>Photos that somebody has put on a page one by one, those that are for visitors.</summary>
    public async Task<IReadOnlyDictionary<PhotoId, SitePhoto>> SingleAsync(IEnumerable<PhotoId> photos, Sight sight, CancellationToken ct) =>
        photos.Distinct().ToArray() is { Length: > 0 } wanted ? (await PickedAsync(wanted, sight, ct)).ToDictionary(p => p.Id) : new Dictionary<PhotoId, SitePhoto>();

    /// <summary>The photos of a source as visitors find them.</summary>
    public async Task<IReadOnlyList<SitePhoto>> PhotosAsync(PhotosSource source, Seeing seeing, CancellationToken ct)
    {
        var found = source.Kind switch
        {
            SourceKind.Albums => await OfAlbumsAsync(source.Albums, seeing.Sight, ct),
            SourceKind.Picked => await PickedAsync(source.Photos, seeing.Sight, ct),
            _ => await GatheredAsync(source, seeing, ct),
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

        return !source.ByLot && source.Most is { } most && found.Count > most ? [.. found.Take(most)] : found;
    }

    /// <summary>Albums joined in their order, each photo once, where one comes upon it first.</summary>
    async Task<IReadOnlyList<SitePhoto>> OfAlbumsAsync(IReadOnlyList<AlbumId> albums, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {SitePhotos.Columns}, x.shown
              from (
                select ap.photo, min(array[(not a.shown)::int, o.n, ap.place]) as first, bool_or(a.shown) as shown
                  from unnest(@albums) with ordinality as o(album, n)
                  join (
                    select id, shown and {AccessStore.LetsIn("album")} as shown
                      from album
                     where id = any(@albums) and binned is null) as a on a.id = o.album
                  join album_photo as ap on ap.album = a.id
                 group by ap.photo) as x
              join photo as p on p.id = x.photo
             order by x.first, p.id
            """,
            ("albums", albums.Values()), ("shut", sight.Shut), ("marking", sight.Marking));
        return [.. (await command.AllAsync(r => visitors.Read(r, SitePhotos.OnPage(r.Get<bool>("shown")), sight), ct)).OfType<SitePhoto>()];
    }

    async Task<IReadOnlyList<SitePhoto>> PickedAsync(IReadOnlyList<PhotoId> photos, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {SitePhotos.Columns}
              from unnest(@photos) with ordinality as o(photo, n)
              join photo as p on p.id = o.photo
             order by o.n
            """,
            ("photos", photos.Values()), ("shut", sight.Shut), ("marking", sight.Marking));
        return [.. (await command.AllAsync(r => visitors.Read(r, SitePhotos.OnPage(isShown: true), sight), ct)).OfType<SitePhoto>()];
    }

    /// <summary>What a category, a tag, age, rating or views find among the photos that visitors come upon in some album.</summary>
    async Task<IReadOnlyList<SitePhoto>> GatheredAsync(PhotosSource source, Seeing seeing, CancellationToken ct)
    {
        var parts = new List<NarrowingPart>
        {
            new(PartKind.Album, false, [.. (await seeing.Albums.Value).Select(a => a.ToString())]),
        };
        if (seeing.Sight.ShutCategories() is { Count: > 0 } shut)
        {
            // A category's part takes in those beneath it, as its gate does.
            parts.Add(new NarrowingPart(PartKind.Category, true, [.. shut.Select(c => c.ToString())]));
        }

        parts.AddRange(ForVisitors.Shown((await access.SiteAsync(ct)).ClearanceNeeded));
        var usual = SheetSort.Taken;
        switch (source.Kind)
        {
            case SourceKind.Category:
                // One that is out of view shows nothing, wherever it is asked for.
                var within = source.Category is { } category ? (await categories.TreeAsync(ct)).InView(seeing.Sight.IsShut).WithDescendants(category) : [];
                parts.Add(new NarrowingPart(PartKind.Category, false, [.. within.Select(c => c.ToString())]));
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
        var found = (await keeper.CurrentAsync(ct)).Window(new Narrowing("", parts), sort, sort.Down(source.Reversed), 0, source.ByLot ? MostInALot : source.Most ?? UsualMost);
        return await PickedAsync([.. found.Photos.Select(PhotoId.From)], seeing.Sight, ct);
    }

    /// <summary>What is held for want of clearance of the photos that blocks ask for, by albums, a category or a tag; of those that ask otherwise nothing is said.</summary>
    public async Task<IReadOnlyDictionary<BlockId, HeldPhotos>> HeldAsync(IEnumerable<SitePhotosBlock> blocks, CancellationToken ct)
    {
        var (index, needed) = (await keeper.CurrentAsync(ct), (await access.SiteAsync(ct)).ClearanceNeeded);
        var held = new Dictionary<BlockId, HeldPhotos>();
        foreach (var block in blocks)
        {
            NarrowingPart? asks = block.Asks switch
            {
                { Kind: SourceKind.Albums, Albums: { Count: > 0 } albums } => new NarrowingPart(PartKind.Album, false, [.. albums.Select(a => a.ToString())]),
                { Kind: SourceKind.Category, Category: { } category } => new NarrowingPart(PartKind.Category, false, [category.ToString()]),
                { Kind: SourceKind.Tag, Tag: { } tag } => new NarrowingPart(PartKind.Tag, false, [tag.ToString()]),
                _ => null,
            };
            if (asks is not null && HeldPhotos.Among(asks, needed) is var among && HeldPhotos.Of(among, index.Count(among)) is { } some)
            {
                held[block.Id] = some;
            }
        }

        return held;
    }

    /// <summary>Of each photo the page of an album that it is in: of those that are joined the first, else the one dated or made last.</summary>
    public async Task<IReadOnlyDictionary<PhotoId, string>> AlbumPagesAsync(PhotosSource source, IReadOnlyList<SitePhoto> photos, Seeing seeing, CancellationToken ct)
    {
        var among = source.Kind == SourceKind.Albums ? source.Albums : await seeing.Albums.Value;
        var found = await links.OfAsync(among.Select(a => new LinkTo(LinkKind.Album, a.Value, "")), seeing.Sight, ct);
        var pages = among.Select(a => (Album: a, Page: found.Href(new LinkTo(LinkKind.Album, a.Value, "")))).Where(a => a.Page is not null).ToDictionary(a => a.Album.Value, a => a.Page!);
        await using var command = db.Command(
            """
            select distinct on (ap.photo) ap.photo, ap.album
              from unnest(@albums) with ordinality as o(album, n)
              join album as a on a.id = o.album and a.binned is null and a.shown
              join album_photo as ap on ap.album = o.album and ap.photo = any(@photos)
             order by ap.photo, case when @joined then o.n end, coalesce(a.dated, a.made::date) desc, a.id
            """,
            ("albums", pages.Keys.ToArray()), ("photos", photos.Select(p => p.Id.Value).ToArray()), ("joined", source.Kind == SourceKind.Albums));
        return (await command.AllAsync(r => (Photo: new PhotoId(r.Get<Guid>("photo")), Album: r.Get<Guid>("album")), ct)).ToDictionary(r => r.Photo, r => pages[r.Album]);
    }

    /// <summary>The albums that a visitor comes upon somewhere.</summary>
    public async Task<IReadOnlyList<AlbumId>> SeenAlbumsAsync(Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select a.id, {AccessStore.ByLink("a")}, pages.*
              from album as a
             cross join lateral (
               {AccessStore.ShownOnOfAlbums} and oa.id = a.id) as pages
             where a.binned is null
            """,
            ("shut", sight.Shut));
        return [.. (await command.AllAsync(r => visitors.FindsAlbum(r, sight) ? r.Get<Guid>("id") : Guid.Empty, ct)).Where(id => id != Guid.Empty).Select(AlbumId.From)];
    }
}
