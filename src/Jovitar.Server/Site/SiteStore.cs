using Jovitar.Core;
using Jovitar.Core.Filtering;
using Jovitar.Core.Access;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Jovitar.Server.Site.Favourites;
using Jovitar.Server.Site.Finding;
using Jovitar.Server.Taxonomy;
using Jovitar.Server.Themes;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>What visitors' pages are made of.</summary>
internal sealed class SiteStore(NpgsqlDataSource db, CategoryStore categories, SiteIndexStore indexes, SiteSources sources, SiteBlocks blocks, SiteFavourites favourites, SiteOffers offers, VersionStore versions, ThemeStore themes, AccessStore access)
{
    /// <summary>The address of a page, whoever may see it; null where there is none.</summary>
    public async Task<string?> AddressAsync(PageId page, CancellationToken ct)
    {
        await using var command = db.Command("select address from page where id = @page", ("page", page.Value));
        return (string?)await command.ExecuteScalarAsync(ct);
    }

    /// <summary>Where a page, an album or a category is, from the site's root, whoever may see it; null where there is none. An album without a page of its own is at the first that was made for it.</summary>
    public async Task<string?> PathAsync(string kind, Guid thing, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select 'page' as kind, address from page where id = @thing and @kind = 'page'
            union all
            select 'category', address from category where id = @thing and @kind = 'category'
            union all
            (select case when own.is_there then 'album' else 'page' end, case when own.is_there then oa.address else pg.address end
               from album as oa
               left join page_thing as pt on pt.thing = oa.id and pt.live and pt.shows
               left join page as pg on pg.id = pt.page and pg.binned is null
              cross join lateral (select pg.address is null or {AccessStore.StandsInView} as is_there) as own
              where oa.id = @thing and @kind = 'album'
              order by pg.made nulls last
              limit 1)
            """,
            ("kind", kind), ("thing", thing));
        return await command.FirstAsync(r => PageVersion.PathOf(Enum.Parse<SiteKind>(r.Get<string>("kind"), ignoreCase: true), r.Get<string>("address")), ct);
    }

    /// <summary>What is at an address, or stood there before.</summary>
    /// <param name="sight">For whom it is looked for.</param>
    public async Task<PageVersion?> FindAsync(SiteKind kind, string address, Sight sight, CancellationToken ct)
    {
        if (kind == SiteKind.Favourites)
        {
            return await favourites.FindAsync(address, sight, ct);
        }

        var table = kind.ToString().ToLowerInvariant();
        var version = kind == SiteKind.Page ? "t.version" : "coalesce(v.version, 0)";
        await using var command = db.Command(
            $"""
            select t.id, t.address, s.version as site, {version} as version,
                   {AccessStore.ThingColumns(table)}
              from (
                select id as thing, 0 as former from {table} where address = @address and binned is null
                union all
                select thing, 1 from former_address where kind = '{table}' and address = @address) as f
              join {table} as t on t.id = f.thing
              left join shown_version as v on v.thing = t.id
             {AccessStore.ThingJoins(table)}
             cross join site as s
             order by f.former
             limit 1
            """,
            ("address", address), ("shut", sight.Shut));
        return await command.FirstAsync(
            r =>
            {
                var thing = AccessStore.ThingOf(table, r, sight.Gates);
                // Of an album its own page, not those that were made for it: they have addresses and words of their own.
                return new PageVersion(
                    kind, r.Get<Guid>("id"), r.Get<long>("version"), r.Get<long>("site"), r.Get<string>("address"), thing is AlbumThing album ? OnItsOwn(album) : thing)
                { Sight = sight };
            },
            ct);
    }

    /// <summary>An album as far as it has a page by itself.</summary>
    public static AlbumThing OnItsOwn(AlbumThing album) => album with { On = album.On with { Pages = 0 } };

    /// <summary>Reads a page as visitors have it, or its draft.</summary>
    /// <param name="look">Of a site that looks otherwise than visitors have it; null for as they have it.</param>
    public async Task<SitePage?> PageAsync(PageId id, bool draft, Sight sight, CancellationToken ct, Look? look = null)
    {
        await using var command = db.Command(
            $"""
            select pg.album, pg.address, pg.{(draft ? "draft" : "published")}::text as content
              from page as pg
             where pg.id = @id and pg.binned is null
            """,
            ("id", id.Value));
        if (await command.FirstAsync(r => Tuple.Create(r.MaybeId("album"), r.Get<string>("address"), r.MaybeText("content")), ct) is not var (album, address, json) || json is null)
        {
            return null;
        }

        var content = PageText.Read(json, album is { } of ? new AlbumId(of) : null);
        return await OfAsync(content, PageVersion.PathOf(SiteKind.Page, address), look, sight, ct);
    }

    /// <summary>Reads a page as visitors had it at a version; its albums as they are now.</summary>
    public async Task<SitePage?> VersionAsync(PageId id, int number, Sight sight, CancellationToken ct) =>
        await versions.FindAsync(id, number, ct) is { } content ? await OfAsync(content, "/", null, sight, ct) : null;

    async Task<SitePage> OfAsync(PageContent content, string path, Look? look, Sight sight, CancellationToken ct) =>
        new(path, content.Title, content.Description, await blocks.OfAsync(content, look ?? await LookAsync(ct), sight, ct), content.Unlisted, content.Wide, content.Bare) { Look = content.Look, Sight = sight };

    async Task<Look> LookAsync(CancellationToken ct) => (await themes.PublishedAsync(ct)).Look();

    /// <summary>Reads what an album has for a page by itself.</summary>
    public async Task<SitePage?> AlbumAsync(Guid id, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select a.address, coalesce(nullif(a.title, ''), a.working_name) as heading, a.description, a.by_lot, {AccessStore.ByLink("a")}
              from album as a
             where a.id = @id and a.binned is null
            """,
            ("id", id));
        if (await command.FirstAsync(r => Tuple.Create(r.Get<string>("address"), r.Get<string>("heading"), r.Get<string>("description"), r.Get<bool>("by_lot"), r.Get<bool>("by_link")), ct) is not var (address, heading, text, byLot, byLink))
        {
            return null;
        }

        await using var places = db.Command(
            """
            select c.address, c.name
              from album_category as ac
              join category as c on c.id = ac.category and c.in_view and not c.gates && @shut
             where ac.album = @id
             order by lower(c.name), c.id
            """,
            ("id", id), ("shut", sight.Shut));
        var above = await places.AllAsync(r => new SiteLink(PageVersion.PathOf(SiteKind.Category, r.Get<string>("address")), r.Get<string>("name")), ct);
        var album = new AlbumId(id);
        var walk = WalkOf(await sources.OfAlbumAsync(album, sight, ct), await LookAsync(ct), byLot);
        return Own(SiteKind.Album, address, heading, text, above, [], [], offers.Offered(walk, album, await offers.OfAsync([album], ct), sight)) with { Unlisted = !access.May(sight.Viewer, Right.Find, new AlbumThing(Binned: false, SitePhotos.OnPage(isShown: true)) { ByLinkAlone = byLink }), Sight = sight };
    }

    /// <summary>Reads what a category has for a page by itself.</summary>
    public async Task<SitePage?> CategoryAsync(CategoryId id, Sight sight, CancellationToken ct)
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
        var seen = tree.InView(sight.IsShut);
        IReadOnlyList<CategoryId> within = beneath ? [.. seen.WithDescendants(id)] : [id];
        var albums = await indexes.AlbumsAsync(id, within, sort, sight, ct);
        var seeing = sources.Seeing(sight, ct);
        var children = await indexes.CategoriesAsync(seen, id, seeing, ct);
        // Where the albums of those beneath stand here themselves, their categories are named, not shown once more.
        return Own(
            SiteKind.Category, address, name, text, above,
            beneath ? [.. children.Select(c => new SiteLink(c.Entry.Path, c.Entry.Heading))] : [],
            await indexes.CoverAsync(beneath ? albums.Entries : [.. children, .. albums.Entries], sight, ct), WalkOf(await indexes.OthersAsync(within, albums.Albums, seeing, ct), await LookAsync(ct))) with
        { Albums = albums.Albums, Sight = sight };
    }

    /// <summary>Photos as they stand on a page that nobody has built.</summary>
    static Walk WalkOf(IReadOnlyList<SitePhoto> photos, Look look, bool byLot = false) => new(1, BlockLayout.Usual.Spaced(look.Gap), photos, FilterBar.None(photos.Count), byLot);

    static SitePage Own(
        SiteKind kind, string address, string heading, string text, List<SiteLink> above, IReadOnlyList<SiteLink> beneath, IReadOnlyList<SiteEntry> index, Walk walk)
    {
        var usual = new BlockPlace(BlockFrame.Usual);
        return new SitePage(
            PageVersion.PathOf(kind, address), heading, "",
            [
                .. above.Count > 0 ? (SiteBlock[])[new SiteWays(above, "In", "What this stands in")] : [],
                new SiteHeading(default, usual, heading, HeadingSize.Large, 1),
                .. text.Length > 0 ? (SiteBlock[])[new SiteText(default, usual, text)] : [],
                .. beneath.Count > 0 ? (SiteBlock[])[new SiteWays(beneath, "Within", "What stands beneath")] : [],
                .. index.Count > 0 ? (SiteBlock[])[new SiteCovers(default, usual, index, index.Count > 4 ? 3 : 2, Dates: true, Counts: true, Descriptions: false)] : [],
                .. walk.Photos.Count > 0 || index.Count == 0 ? (SiteBlock[])[new SitePhotosBlock(default, usual, walk)] : [],
            ])
        {
            Feed = $"{PageVersion.PathOf(kind, address)}/{PhotoFeeds.Name}",
        };
    }
}
