using Jovitar.Core;
using Jovitar.Core.Filtering;
using Jovitar.Core.Pages;
using Jovitar.Core.Intake;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>The site's own settings.</summary>
public sealed record SiteSettings(string Title, string Tagline, IntakeLimits Limits, long Version);

/// <summary>A photo as visitors have it.</summary>
public sealed record SitePhoto(PhotoId Id, string Hash, int Width, int Height, string Title, string Caption, string Alt, string Credit)
{
    public double Shape => (double)Width / Height;

    /// <summary>What a photo is called where a name is needed and it has no title.</summary>
    public string Name => Title.Length > 0 ? Title : "Untitled photograph";
}

/// <summary>A page with all that visitors can see on it.</summary>
public sealed record SitePage(PageId Id, string Address, PageContent Content, IReadOnlyList<SitePhoto> Photos, FilterBar Bar);

/// <summary>A published page as the start page lists it.</summary>
public sealed record SiteEntry(string Address, string Heading, int Photos, SitePhoto? Cover);

/// <summary>Where a page is, and which of its states visitors get.</summary>
internal sealed record PageVersion(PageId Id, long Version, long Site, bool Published, string Address);

/// <summary>What visitors' pages are made of.</summary>
internal sealed class SiteStore(NpgsqlDataSource db, TaxonomyStore taxonomy)
{
    const string PhotoColumns = "p.id, encode(p.hash, 'hex'), p.width, p.height, p.title, p.caption, p.alt, coalesce(nullif(p.credit, ''), p.creator)";

    static SitePhoto ReadPhoto(NpgsqlDataReader r, int at = 0) =>
        new(new PhotoId(r.GetGuid(at)), r.GetString(at + 1), r.GetInt32(at + 2), r.GetInt32(at + 3), r.GetString(at + 4), r.GetString(at + 5), r.GetString(at + 6), r.GetString(at + 7));

    public async Task<SiteSettings> SettingsAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand("select title, tagline, max_bytes, max_megapixels, version, max_sound_bytes, max_video_bytes, max_document_bytes, max_archive_bytes from site");
        return (await command.FirstAsync(r => new SiteSettings(r.GetString(0), r.GetString(1), new IntakeLimits(r.GetInt64(2), r.GetInt32(3), r.GetInt64(5), r.GetInt64(6), r.GetInt64(7), r.GetInt64(8)), r.GetInt64(4)), ct))!;
    }

    /// <summary>The page at an address, or the one that stood there before.</summary>
    public async Task<PageVersion?> FindAsync(string address, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select pg.id, pg.version, s.version, pg.published is not null, pg.address from page as pg cross join site as s where pg.address = @address
            union all
            select pg.id, pg.version, s.version, pg.published is not null, pg.address
              from page_former_address as f join page as pg on pg.id = f.page cross join site as s where f.address = @address
            """,
            ("address", address));
        return await command.FirstAsync(r => new PageVersion(new PageId(r.GetGuid(0)), r.GetInt64(1), r.GetInt64(2), r.GetBoolean(3), r.GetString(4)), ct);
    }

    /// <summary>Reads a page as visitors have it, or its draft.</summary>
    public async Task<SitePage?> ReadAsync(PageId id, bool draft, CancellationToken ct)
    {
        await using var command = db.Command($"select album, address, {(draft ? "draft" : "published")}::text from page where id = @id", ("id", id.Value));
        var row = await command.FirstAsync(r => Tuple.Create(r.GetGuid(0), r.GetString(1), r.MaybeText(2)), ct);
        if (row?.Item3 is null)
        {
            return null;
        }

        var content = PageStore.Read(row.Item3);
        await using var photos = db.Command(
            $"select {PhotoColumns} from album_photo as ap join photo as p on p.id = ap.photo where ap.album = @album and p.state = 'ready' and p.decision <> 'leave_out' order by ap.place", ("album", row.Item1));
        var shown = await photos.AllAsync(r => ReadPhoto(r), ct);
        return new SitePage(id, row.Item2, content, shown, await BarAsync(row.Item1, content, shown, ct));
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
                "select t.id, t.name, pt.photo from tag as t join photo_tag as pt on pt.tag = t.id join album_photo as ap on ap.photo = pt.photo and ap.album = @album where t.id = any(@tags)",
                ("album", album), ("tags", content.FilterTags.Select(t => t.Value).ToArray()));
            var held = (await command.AllAsync(r => (Tag: new TagId(r.GetGuid(0)), Name: r.GetString(1), Photo: new PhotoId(r.GetGuid(2))), ct)).Where(r => places.ContainsKey(r.Photo)).ToLookup(r => r.Tag);
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
        var lines = await taxonomy.CategoriesAsync(ct);
        var names = lines.ToDictionary(l => l.Id);
        var tree = new CategoryTree(lines.Select((l, i) => new CategoryNode(l.Id, l.Parent, l.Name, i)));
        await using var command = db.Command(
            "select pc.category, pc.photo from photo_category as pc join album_photo as ap on ap.photo = pc.photo where ap.album = @album", ("album", album));
        var held = (await command.AllAsync(r => (Category: new CategoryId(r.GetGuid(0)), Photo: new PhotoId(r.GetGuid(1))), ct)).Where(r => places.ContainsKey(r.Photo)).ToLookup(r => r.Category, r => places[r.Photo]);
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

    /// <summary>The published pages, the newest first, and a number that changes with anything the start page shows.</summary>
    public async Task<(IReadOnlyList<SiteEntry> Entries, long Version)> StartAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            $"""
            select pg.address, pg.published ->> 'heading', pg.version, (select count(*) from album_photo as n join photo as q on q.id = n.photo where n.album = pg.album and q.state = 'ready' and q.decision <> 'leave_out'), {PhotoColumns}
              from page as pg
              join album as a on a.id = pg.album
              left join lateral (
                select * from photo as c
                 where c.id = coalesce((select k.id from photo as k where k.id = a.cover and k.state = 'ready' and k.decision <> 'leave_out'),
                   (select ap.photo from album_photo as ap join photo as f on f.id = ap.photo where ap.album = a.id and f.state = 'ready' and f.decision <> 'leave_out' order by ap.place limit 1))) as p on true
             where pg.published is not null
             order by pg.published_at desc, pg.id desc
            """);
        long version = 0;
        var entries = await command.AllAsync(
            r =>
            {
                version += r.GetInt64(2);
                return new SiteEntry(r.GetString(0), r.GetString(1), (int)r.GetInt64(3), r.IsDBNull(4) ? null : ReadPhoto(r, 4));
            },
            ct);
        return (entries, (version * 1000) + entries.Count);
    }

    /// <summary>Whether a photo stands on a published page, and how wide its original is; null when there is no such photo.</summary>
    public async Task<(bool Public, int Width)?> RenditionAsync(string hash, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select exists (select from album_photo as ap join page as pg on pg.album = ap.album where ap.photo = p.id and pg.published is not null and p.decision <> 'leave_out' and p.state <> 'binned'), p.width
              from photo as p where p.hash = decode(@hash, 'hex')
            """,
            ("hash", hash));
        await using var reader = await command.ExecuteReaderAsync(ct);
        return await reader.ReadAsync(ct) ? (reader.GetBoolean(0), reader.GetInt32(1)) : null;
    }
}
