using Jovitar.Core;
using Jovitar.Core.Filtering;
using Jovitar.Core.Pages;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>Filter bars: what the photos of a block belong to, the words they are found by, the orders they can be put in.</summary>
internal sealed class SiteBars(NpgsqlDataSource db, CategoryStore categories, SitePhotos visitors, IndexKeeper keeper)
{
    /// <summary>The bar of a block.</summary>
    /// <param name="photos">All photos of the block.</param>
    public async Task<FilterBar> OfAsync(BarSettings bar, PhotosSource source, IReadOnlyList<SitePhoto> photos, Seeing seeing, CancellationToken ct)
    {
        if (photos.Count == 0 || !bar.HasButtons())
        {
            return FilterBar.None(photos.Count);
        }

        var places = photos.Select((p, i) => (p.Id, i)).ToDictionary(t => t.Id, t => t.i);
        var inCategories = bar.Things(BarKind.Category).Any() ? await InCategoriesAsync(places, ct) : [];
        var tree = inCategories.Count > 0 ? (await categories.TreeAsync(ct)).InView(seeing.Sight.IsShut) : new CategoryTree([]);
        var tags = bar.Things(BarKind.Tag).ToArray() is { Length: > 0 } some ? await InTagsAsync(some, places, ct) : [];
        var albums = await AlbumsAsync(bar, source, seeing) is { Length: > 0 } joined ? await InAlbumsAsync(joined, places, seeing.Sight, ct) : [];
        return BarButtons.Of(bar, photos.Count, new Holdings(tree, inCategories.ToLookup(h => h.Category, h => h.Photo), tags, albums));
    }

    /// <summary>The words by which visitors find photos of a block; null where they cannot.</summary>
    public async Task<PhotoSearch?> SearchAsync(BarSettings bar, IReadOnlyList<SitePhoto> photos, CancellationToken ct)
    {
        if (photos.Count == 0 || bar.Off || bar.Search.Fields.Count == 0)
        {
            return null;
        }

        await using var command = db.Command(
            """
            select concat_ws(' ', case when 'Title' = any(@fields) then p.title end, case when 'Caption' = any(@fields) then p.caption end,
                     case when 'Tags' = any(@fields) then p.tag_words end, case when 'Place' = any(@fields) then p.place end,
                     case when 'People' = any(@fields) then array_to_string(p.people, ' ') end,
                     case when 'FileName' = any(@fields) then p.file_name end) as words
              from unnest(@photos) with ordinality as o(photo, n)
              left join photo as p on p.id = o.photo
             order by o.n
            """,
            ("photos", photos.Select(p => p.Id.Value).ToArray()), ("fields", bar.Search.Fields.Select(f => f.ToString()).ToArray()));
        return new PhotoSearch([.. await command.AllAsync(r => r.Get<string>("words"), ct)]);
    }

    /// <summary>The orders that visitors may choose, with the numbers of all photos in each.</summary>
    public async Task<IReadOnlyList<(BarOrder Order, int[] Photos)>> OrdersAsync(BarSettings bar, IReadOnlyList<SitePhoto> photos, CancellationToken ct)
    {
        if (photos.Count == 0 || bar.Off || bar.Orders.Count == 0)
        {
            return [];
        }

        var places = photos.Select((p, i) => (p.Id.Value, i)).ToDictionary(t => t.Value, t => t.i);
        var index = await keeper.CurrentAsync(ct);
        return [.. bar.Orders.Select(order =>
        {
            var (sort, down) = order.Sheet();
            int[] known = [.. index.InOrder(places.Keys, sort, down).Select(id => places[id])];
            // One that has arrived since the index was read stands last rather than nowhere.
            return (order, (int[])[.. known, .. Enumerable.Range(0, photos.Count).Except(known)]);
        })];
    }

    async Task<IReadOnlyList<(CategoryId Category, int Photo)>> InCategoriesAsync(Dictionary<PhotoId, int> places, CancellationToken ct)
    {
        await using var command = db.Command("select category, photo from photo_category where photo = any(@photos)", ("photos", places.Keys.Values()));
        return await command.AllAsync(r => (new CategoryId(r.Get<Guid>("category")), places[new PhotoId(r.Get<Guid>("photo"))]), ct);
    }

    async Task<Dictionary<TagId, Held>> InTagsAsync(Guid[] tags, Dictionary<PhotoId, int> places, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select t.id, t.name, pt.photo
              from tag as t
              join photo_tag as pt on pt.tag = t.id and pt.photo = any(@photos)
             where t.id = any(@tags)
            """,
            ("photos", places.Keys.Values()), ("tags", tags));
        return ByThing(await command.AllAsync(r => (r.Get<Guid>("id"), r.Get<string>("name"), places[new PhotoId(r.Get<Guid>("photo"))]), ct), TagId.From);
    }

    /// <summary>The albums that may have a button: those joined in the block, in their order; where photos are gathered, those that visitors see somewhere.</summary>
    static async Task<AlbumId[]> AlbumsAsync(BarSettings bar, PhotosSource source, Seeing seeing)
    {
        var wanted = bar.Things(BarKind.Album).Select(AlbumId.From).ToArray();
        var each = bar.Buttons().Any(b => b.Kind == BarKind.EachAlbum);
        return source.Kind == SourceKind.Albums ? [.. source.Albums.Where(a => each || wanted.Contains(a))]
            : wanted.Length == 0 ? []
            : [.. wanted.Intersect(await seeing.Albums.Value)];
    }

    /// <summary>Those of some albums whose photos a page may show, in their order.</summary>
    async Task<IReadOnlyList<(AlbumId Album, Held Held)>> InAlbumsAsync(AlbumId[] albums, Dictionary<PhotoId, int> places, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select a.id, coalesce(nullif(a.title, ''), a.working_name) as heading,
                   a.shown and {AccessStore.LetsIn("a")} as shown, a.binned is not null as is_binned, ap.photo
              from album as a
              join album_photo as ap on ap.album = a.id and ap.photo = any(@photos)
             where a.id = any(@albums)
            """,
            ("photos", places.Keys.Values()), ("albums", albums.Values()), ("shut", sight.Shut));
        var held = ByThing(
            (await command.AllAsync(
                r => visitors.SeesOnPage(r.Get<bool>("shown"), r.Get<bool>("is_binned"), sight)
                    ? (r.Get<Guid>("id"), r.Get<string>("heading"), places[new PhotoId(r.Get<Guid>("photo"))])
                    : ((Guid, string, int)?)null,
                ct)).OfType<(Guid, string, int)>(),
            AlbumId.From);
        return [.. albums.Where(held.ContainsKey).Select(a => (a, held[a]))];
    }

    static Dictionary<TId, Held> ByThing<TId>(IEnumerable<(Guid Thing, string Name, int Photo)> held, Func<Guid, TId> id)
        where TId : notnull =>
        held.GroupBy(h => h.Thing).ToDictionary(g => id(g.Key), g => new Held(g.First().Name, [.. g.Select(h => h.Photo)]));
}
