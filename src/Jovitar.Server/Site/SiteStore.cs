using Jovitar.Core;
using Jovitar.Core.Filtering;
using Jovitar.Core.Access;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;
using Jovitar.Server.Access;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Jovitar.Server.Site.Finding;
using Jovitar.Server.Taxonomy;
using Jovitar.Server.Themes;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>What visitors' pages are made of.</summary>
internal sealed class SiteStore(NpgsqlDataSource db, CategoryStore categories, SiteIndexStore indexes, SiteSources sources, SiteBlocks blocks, SiteFavourites favourites, VersionStore versions, ThemeStore themes)
{
    /// <summary>The address of a page, whoever may see it; null where there is none.</summary>
    public async Task<string?> AddressAsync(PageId page, CancellationToken ct)
    {
        await using var command = db.Command("select address from page where id = @page", ("page", page.Value));
        return (string?)await command.ExecuteScalarAsync(ct);
    }

    /// <summary>What is at an address, or stood there before.</summary>
    public async Task<PageVersion?> FindAsync(SiteKind kind, string address, CancellationToken ct)
    {
        if (kind == SiteKind.Favourites)
        {
            return await favourites.FindAsync(address, ct);
        }

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
    /// <param name="look">Of a site that looks otherwise than visitors have it; null for as they have it.</param>
    public async Task<SitePage?> PageAsync(PageId id, bool draft, CancellationToken ct, Look? look = null)
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
        return await OfAsync(content, PageVersion.PathOf(SiteKind.Page, address), look, ct);
    }

    /// <summary>Reads a page as visitors had it at a version; its albums as they are now.</summary>
    public async Task<SitePage?> VersionAsync(PageId id, int number, CancellationToken ct) =>
        await versions.FindAsync(id, number, ct) is { } content ? await OfAsync(content, "/", null, ct) : null;

    async Task<SitePage> OfAsync(PageContent content, string path, Look? look, CancellationToken ct) =>
        new(path, content.Title, content.Description, await blocks.OfAsync(content, look ?? await LookAsync(ct), ct), content.Unlisted, content.Wide, content.Bare) { Look = content.Look };

    async Task<Look> LookAsync(CancellationToken ct) => (await themes.PublishedAsync(ct)).Look();

    /// <summary>Reads what an album has for a page by itself.</summary>
    public async Task<SitePage?> AlbumAsync(Guid id, CancellationToken ct)
    {
        await using var command = db.Command("select address, coalesce(nullif(title, ''), working_name) as heading, description, by_lot from album where id = @id and binned is null", ("id", id));
        if (await command.FirstAsync(r => Tuple.Create(r.Get<string>("address"), r.Get<string>("heading"), r.Get<string>("description"), r.Get<bool>("by_lot")), ct) is not var (address, heading, text, byLot))
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
        return Own(SiteKind.Album, address, heading, text, above, [], [], await sources.OfAlbumAsync(new AlbumId(id), ct), await LookAsync(ct), byLot);
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
        var seenAlbums = await sources.SeenAlbumsAsync(ct);
        var children = await indexes.CategoriesAsync(seen, id, seenAlbums, ct);
        // Where the albums of those beneath stand here themselves, their categories are named, not shown once more.
        return Own(
            SiteKind.Category, address, name, text, above,
            beneath ? [.. children.Select(c => new SiteLink(c.Entry.Path, c.Entry.Heading))] : [],
            await indexes.CoverAsync(beneath ? albums.Entries : [.. children, .. albums.Entries], ct), await indexes.OthersAsync(within, albums.Albums, seenAlbums, ct), await LookAsync(ct)) with
        { Albums = albums.Albums };
    }

    static SitePage Own(
        SiteKind kind, string address, string heading, string text, List<SiteLink> above, IReadOnlyList<SiteLink> beneath, IReadOnlyList<SiteEntry> index, IReadOnlyList<SitePhoto> photos, Look look, bool byLot = false)
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
                .. photos.Count > 0 || index.Count == 0 ? (SiteBlock[])[new SitePhotosBlock(default, usual, new Walk(1, BlockLayout.Usual.Spaced(look.Gap), photos, FilterBar.None(photos.Count), byLot))] : [],
            ])
        {
            Feed = $"{PageVersion.PathOf(kind, address)}/{PhotoFeeds.Name}",
        };
    }
}
