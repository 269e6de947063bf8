using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Jovitar.Core;
using Jovitar.Core.Corrections;
using Jovitar.Core.Filtering;
using Jovitar.Core.Pages;
using Jovitar.Core.Access;
using Jovitar.Server.Access;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>A photo as visitors have it.</summary>
/// <param name="Focus">What stays in view where it is cropped to its place; null for its middle.</param>
public sealed record SitePhoto(PhotoId Id, string Picture, int Width, int Height, string Title, string Caption, string Alt, string Credit, Spot? Focus)
{
    /// <summary>The classes of the style sheet that keep the focus in view, to a tenth of the picture: inline styles are closed by the page's policy.</summary>
    public string? FocusClass => Focus is { } f ? string.Create(CultureInfo.InvariantCulture, $"x{Math.Round(f.X * 10)} y{Math.Round(f.Y * 10)}") : null;

    public double Shape => (double)Width / Height;

    /// <summary>What a photo is called where a name is needed and it has no title.</summary>
    public string Name => Title.Length > 0 ? Title : "Untitled photograph";
}

/// <summary>A page with all that visitors can see on it.</summary>
public sealed record SitePage(PageId Id, string Address, PageContent Content, IReadOnlyList<SitePhoto> Photos, FilterBar Bar)
{
    /// <summary>Which photos stand on it, in their order and as they are corrected, and which buttons: a page that was opened before they changed has another.</summary>
    public string Mark { get; } = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"{string.Join(' ', Photos.Select(p => $"{p.Id} {p.Picture}"))}/{string.Join(' ', Bar.Entries.Select(e => e.Key))}")))[..16];
}

/// <summary>A published page as the start page lists it.</summary>
public sealed record SiteEntry(string Address, string Heading, int Photos, SitePhoto? Cover);

/// <summary>Where a page is, and which of its states visitors get.</summary>
internal sealed record PageVersion(PageId Id, long Version, long Site, string Address, PageThing Thing);

/// <summary>What visitors' pages are made of.</summary>
internal sealed class SiteStore(NpgsqlDataSource db, CategoryStore categories, AccessStore access)
{
    const string PhotoColumns =
        $"""
        p.id, p.picture, p.width, p.height, p.title, p.caption, p.alt, p.correction::text as correction,
          coalesce(nullif(p.credit, ''), p.creator) as credit, {AccessStore.PhotoColumns}
        """;

    static SitePhoto ReadPhoto(NpgsqlDataReader r) => new(
        new PhotoId(r.Get<Guid>("id")), r.Get<string>("picture"), r.Get<int>("width"), r.Get<int>("height"), r.Get<string>("title"), r.Get<string>("caption"), r.Get<string>("alt"), r.Get<string>("credit"), CorrectionText.Seen(r.MaybeText("correction")));

    /// <summary>Whether visitors may see a photo that stands on a published page: the decision, with what this row says.</summary>
    bool IsForVisitors(NpgsqlDataReader r) => access.May(Viewer.Nobody, Right.See, AccessStore.Photo(r, publishedPages: 1, drafts: 0));

    /// <summary>The page at an address, or the one that stood there before.</summary>
    public async Task<PageVersion?> FindAsync(string address, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select pg.id, pg.version, s.version as site, pg.published is not null as published, pg.address,
                   pg.binned is not null as is_binned, 0 as former
              from page as pg
             cross join site as s
             where pg.address = @address and pg.binned is null
            union all
            select pg.id, pg.version, s.version, pg.published is not null, pg.address, pg.binned is not null, 1
              from page_former_address as f
              join page as pg on pg.id = f.page
             cross join site as s
             where f.address = @address
             order by former
            """,
            ("address", address));
        return await command.FirstAsync(
            r => new PageVersion(
                new PageId(r.Get<Guid>("id")), r.Get<long>("version"), r.Get<long>("site"), r.Get<string>("address"), new PageThing(r.Get<bool>("is_binned"), r.Get<bool>("published"), Changed: false)),
            ct);
    }

    /// <summary>Reads a page as visitors have it, or its draft.</summary>
    public async Task<SitePage?> ReadAsync(PageId id, bool draft, CancellationToken ct)
    {
        await using var command = db.Command($"select album, address, {(draft ? "draft" : "published")}::text as content from page where id = @id and binned is null", ("id", id.Value));
        if (await command.FirstAsync(r => Tuple.Create(r.Get<Guid>("album"), r.Get<string>("address"), r.MaybeText("content")), ct) is not ({ } album, { } address, { } json))
        {
            return null;
        }

        var content = PageStore.Read(json);
        await using var photos = db.Command(
            $"""
            select {PhotoColumns}
              from album_photo as ap
              join photo as p on p.id = ap.photo
             where ap.album = @album
             order by ap.place, ap.photo
            """,
            ("album", album));
        var shown = (await photos.AllAsync(r => IsForVisitors(r) ? ReadPhoto(r) : null, ct)).OfType<SitePhoto>().ToList();
        return new SitePage(id, address, content, shown, await BarAsync(album, content, shown, ct));
    }

    async Task<FilterBar> BarAsync(Guid album, PageContent content, List<SitePhoto> photos, CancellationToken ct)
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

    /// <summary>
    /// The published pages, the newest first, and what changes with anything the start page shows. Photos are counted by what the
    /// decision depends on; which of the counts are visitors' is decided, not asked of the database.
    /// </summary>
    public async Task<(IReadOnlyList<SiteEntry> Entries, string Version)> StartAsync(CancellationToken ct)
    {
        await using var pages = db.CreateCommand(
            """
            select pg.id, pg.address, pg.published ->> 'heading' as heading, pg.version, pg.album, a.cover
              from page as pg
              join album as a on a.id = pg.album
             where pg.published is not null and pg.binned is null
             order by pg.published_at desc, pg.id desc
            """);
        var rows = await pages.AllAsync(
            r => (Id: r.Get<Guid>("id"), Address: r.Get<string>("address"), Heading: r.Get<string>("heading"), Version: r.Get<long>("version"), Album: r.Get<Guid>("album"), Cover: r.MaybeId("cover")), ct);
        await using var groups = db.Command(
            $"""
            select ap.album, {AccessStore.PhotoColumns}, count(*) as count, min(ap.place) as first,
                   (array_agg(p.id order by ap.place, ap.photo))[1] as photo,
                   coalesce(bool_or(p.id = a.cover), false) as has_cover
              from album_photo as ap
              join photo as p on p.id = ap.photo
              join album as a on a.id = ap.album
             where ap.album = any(@albums)
             group by ap.album, p.state, p.decision, p.binned is not null
            """,
            ("albums", rows.Select(r => r.Album).Distinct().ToArray()));
        var counted = (await groups.AllAsync(
            r => (Album: r.Get<Guid>("album"), Shown: IsForVisitors(r), Count: (int)r.Get<long>("count"), First: r.Get<long>("first"), Photo: r.Get<Guid>("photo"), HasCover: r.Get<bool>("has_cover")), ct))
            .Where(g => g.Shown).ToLookup(g => g.Album);
        var covers = rows.ToDictionary(r => r.Id, r => r.Cover is { } chosen && counted[r.Album].Any(g => g.HasCover) ? chosen : counted[r.Album].OrderBy(g => g.First).Select(g => (Guid?)g.Photo).FirstOrDefault());
        await using var read = db.Command($"select {PhotoColumns} from photo as p where p.id = any(@ids)", ("ids", covers.Values.OfType<Guid>().ToArray()));
        var photos = (await read.AllAsync(r => ReadPhoto(r), ct)).ToDictionary(p => p.Id.Value);
        var entries = rows.Select(r => new SiteEntry(r.Address, r.Heading, counted[r.Album].Sum(g => g.Count), covers[r.Id] is { } cover ? photos.GetValueOrDefault(cover) : null)).ToArray();
        var versions = string.Join(' ', rows.Select(r => $"{r.Id}:{r.Version}"));
        return (entries, Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(versions)))[..24]);
    }
}
