using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Filtering;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>What visitors' pages are made of.</summary>
internal sealed class SiteStore(NpgsqlDataSource db, CategoryStore categories, SitePhotos visitors, SiteIndexStore indexes)
{
    /// <summary>How an album's or a category's own page sets its photos.</summary>
    static readonly LayoutSettings Usual = new(LayoutKind.Rows, 260, 6);

    /// <summary>What is at an address, or stood there before.</summary>
    public async Task<PageVersion?> FindAsync(SiteKind kind, string address, CancellationToken ct)
    {
        var columns = kind switch
        {
            SiteKind.Page => "t.version, t.published is not null as published, 0 as on_own, 0 as on_pages, 0 as on_drafts, 0 as out_of_view, false as in_view",
            SiteKind.Album => "coalesce(v.version, 0) as version, false as published, pages.*, false as in_view",
            _ => "coalesce(v.version, 0) as version, false as published, 0 as on_own, 0 as on_pages, 0 as on_drafts, 0 as out_of_view, t.in_view",
        };
        var table = kind.ToString().ToLowerInvariant();
        var from =
            $"""
            {table} as t on t.id = f.thing
              left join shown_version as v on v.thing = t.id
             {(kind == SiteKind.Album ? $"cross join lateral ({AccessStore.ShownOnOfAlbums} and oa.id = t.id) as pages" : "")}
             cross join site as s
            """;
        await using var command = db.Command(
            $"""
            select t.id, t.address, s.version as site, t.binned is not null as is_binned, {columns}
              from (
                select id as thing, 0 as former from {table} where address = @address and binned is null
                union all
                select thing, 1 from former_address where kind = '{table}' and address = @address) as f
              join {from}
             order by f.former
             limit 1
            """,
            ("address", address));
        return await command.FirstAsync(
            r => new PageVersion(
                kind, r.Get<Guid>("id"), r.Get<long>("version"), r.Get<long>("site"), r.Get<string>("address"),
                kind switch
                {
                    SiteKind.Page => new PageThing(r.Get<bool>("is_binned"), r.Get<bool>("published"), Changed: false),
                    // Its own page, not those that were made for it: they have addresses and words of their own.
                    SiteKind.Album => new AlbumThing(r.Get<bool>("is_binned"), AccessStore.On(r) with { Pages = 0 }),
                    _ => new CategoryThing(r.Get<bool>("is_binned"), r.Get<bool>("in_view")),
                }),
            ct);
    }

    /// <summary>Reads a page as visitors have it, or its draft.</summary>
    public async Task<SitePage?> PageAsync(PageId id, bool draft, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select pg.album, a.shown, pg.address, pg.{(draft ? "draft" : "published")}::text as content
              from page as pg
              join album as a on a.id = pg.album
             where pg.id = @id and pg.binned is null
            """,
            ("id", id.Value));
        if (await command.FirstAsync(r => Tuple.Create(r.Get<Guid>("album"), r.Get<bool>("shown"), r.Get<string>("address"), r.MaybeText("content")), ct) is not ({ } album, { } isShown, { } address, { } json))
        {
            return null;
        }

        var content = PageStore.Read(json);
        var shown = await PhotosAsync(album, SitePhotos.OnPage(isShown), ct);
        return new SitePage(PageVersion.PathOf(SiteKind.Page, address), content, [], [], [], shown, await BarAsync(album, content, shown, ct));
    }

    /// <summary>Reads what an album has for a page by itself.</summary>
    public async Task<SitePage?> AlbumAsync(Guid id, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select a.address, coalesce(nullif(a.title, ''), a.working_name) as heading, a.description, pages.*
              from album as a
             cross join lateral (
               {AccessStore.ShownOnOfAlbums} and oa.id = a.id) as pages
             where a.id = @id and a.binned is null
            """,
            ("id", id));
        if (await command.FirstAsync(r => Tuple.Create(r.Get<string>("address"), r.Get<string>("heading"), r.Get<string>("description"), AccessStore.On(r)), ct) is not var (address, heading, text, on))
        {
            return null;
        }

        await using var places = db.Command(
            """
            select c.address, c.name
              from album_category as ac
              join category as c on c.id = ac.category and c.in_view
             where ac.album = @id
             order by lower(c.name), c.id
            """,
            ("id", id));
        var above = await places.AllAsync(r => new SiteLink(PageVersion.PathOf(SiteKind.Category, r.Get<string>("address")), r.Get<string>("name")), ct);
        return Own(SiteKind.Album, address, new PageContent(heading, text, Usual, [], []), above, [], [], await PhotosAsync(id, on, ct));
    }

    /// <summary>Reads what a category has for a page by itself.</summary>
    public async Task<SitePage?> CategoryAsync(CategoryId id, CancellationToken ct)
    {
        var tree = await categories.TreeAsync(ct);
        await using var command = db.Command("select address, name, description, parent, beneath, sort from category where id = @id and in_view", ("id", id.Value));
        if (await command.FirstAsync(
            r => Tuple.Create(r.Get<string>("address"), r.Get<string>("name"), r.Get<string>("description"), r.MaybeId("parent"), r.Get<bool>("beneath"), Enum.Parse<Core.Albums.IndexSort>(r.Get<string>("sort"), ignoreCase: true)),
            ct) is not var (address, name, text, parent, beneath, sort))
        {
            return null;
        }

        await using var find = db.Command("select address, name from category where id = @parent", ("parent", parent));
        var above = await find.AllAsync(r => new SiteLink(PageVersion.PathOf(SiteKind.Category, r.Get<string>("address")), r.Get<string>("name")), ct);
        var seen = tree.InView();
        IReadOnlyList<CategoryId> within = beneath ? [.. seen.WithDescendants(id)] : [id];
        var albums = await indexes.AlbumsAsync(id, within, sort, ct);
        var seenAlbums = await indexes.SeenAlbumsAsync(ct);
        var children = await indexes.CategoriesAsync(seen, id, seenAlbums, ct);
        // Where the albums of those beneath stand here themselves, their categories are named, not shown once more.
        return Own(
            SiteKind.Category, address, new PageContent(name, text, Usual, [], []), above,
            beneath ? [.. children.Select(c => new SiteLink(c.Entry.Path, c.Entry.Heading))] : [],
            await indexes.CoverAsync(beneath ? albums.Entries : [.. children, .. albums.Entries], ct), await indexes.OthersAsync(within, albums.Albums, seenAlbums, ct));
    }

    static SitePage Own(
        SiteKind kind, string address, PageContent content, IReadOnlyList<SiteLink> above, IReadOnlyList<SiteLink> beneath, IReadOnlyList<SiteEntry> index, IReadOnlyList<SitePhoto> photos) =>
        new(PageVersion.PathOf(kind, address), content, above, beneath, index, photos, new FilterBar([], photos.Count, []));

    async Task<IReadOnlyList<SitePhoto>> PhotosAsync(Guid album, ShownOn on, CancellationToken ct)
    {
        await using var photos = db.Command(
            $"""
            select {SitePhotos.Columns}
              from album_photo as ap
              join photo as p on p.id = ap.photo
             where ap.album = @album
             order by ap.place, ap.photo
            """,
            ("album", album));
        return [.. (await photos.AllAsync(r => visitors.Sees(r, on) ? SitePhotos.Read(r) : null, ct)).OfType<SitePhoto>()];
    }

    async Task<FilterBar> BarAsync(Guid album, PageContent content, IReadOnlyList<SitePhoto> photos, CancellationToken ct)
    {
        var places = photos.Select((p, i) => (p.Id, i)).ToDictionary(t => t.Id, t => t.i);
        var entries = new List<FilterEntry>();
        var holds = new List<IReadOnlyCollection<int>>();
        var keys = new HashSet<string>();
        void Add(string name, FilterKind kind, int parent, IReadOnlyCollection<int> held)
        {
            var wish = PageAddress.From(name).Value;
            var key = wish;
            for (var n = 2; !keys.Add(key); n++)
            {
                key = $"{wish}-{n}";
            }

            entries.Add(new FilterEntry(key, name, kind, parent));
            holds.Add(held);
        }

        if (content.FilterCategories.Count > 0)
        {
            await AddCategoriesAsync(album, content, places, Add, entries, ct);
        }

        if (content.FilterTags.Count > 0)
        {
            await using var command = db.Command(
                """
                select t.id, t.name, pt.photo
                  from tag as t
                  join photo_tag as pt on pt.tag = t.id
                  join album_photo as ap on ap.photo = pt.photo and ap.album = @album
                 where t.id = any(@tags)
                """,
                ("album", album), ("tags", content.FilterTags.Values()));
            var held = (await command.AllAsync(r => (Tag: new TagId(r.Get<Guid>("id")), Name: r.Get<string>("name"), Photo: new PhotoId(r.Get<Guid>("photo"))), ct)).Where(r => places.ContainsKey(r.Photo)).ToLookup(r => r.Tag);
            foreach (var tag in content.FilterTags.Where(held.Contains))
            {
                Add(held[tag].First().Name, FilterKind.Tag, -1, [.. held[tag].Select(r => places[r.Photo])]);
            }
        }

        return new FilterBar(entries, photos.Count, holds);
    }

    /// <summary>The chosen categories and those beneath them, as far as photos of the page stand in them.</summary>
    async Task AddCategoriesAsync(
        Guid album, PageContent content, Dictionary<PhotoId, int> places, Action<string, FilterKind, int, IReadOnlyCollection<int>> add, List<FilterEntry> entries, CancellationToken ct)
    {
        // What is out of view has no button, nor has what stands beneath it.
        var tree = (await categories.TreeAsync(ct)).InView();
        var names = tree.InOrder().ToDictionary(n => n.Node.Id, n => n.Node);
        await using var command = db.Command(
            """
            select pc.category, pc.photo
              from photo_category as pc
              join album_photo as ap on ap.photo = pc.photo
             where ap.album = @album
            """,
            ("album", album));
        var held = (await command.AllAsync(r => (Category: new CategoryId(r.Get<Guid>("category")), Photo: new PhotoId(r.Get<Guid>("photo"))), ct))
            .Where(r => places.ContainsKey(r.Photo)).ToLookup(r => r.Category, r => places[r.Photo]);
        var stands = new Dictionary<CategoryId, int>();
        foreach (var chosen in content.FilterCategories.Where(names.ContainsKey))
        {
            foreach (var id in tree.WithDescendants(chosen))
            {
                if (stands.ContainsKey(id) || !tree.WithDescendants(id).Any(d => held[d].Any()))
                {
                    continue;
                }

                stands[id] = entries.Count;
                add(names[id].Name, FilterKind.Category, names[id].Parent is { } parent && id != chosen && stands.TryGetValue(parent, out var at) ? at : -1, [.. held[id]]);
            }
        }
    }
}
