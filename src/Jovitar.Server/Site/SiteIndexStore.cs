using System.Security.Cryptography;
using System.Text;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Albums;
using Jovitar.Core.Pages;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Jovitar.Server.Site.Finding;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>Which of the pages a list has.</summary>
public enum PagesWanted
{
    /// <summary>Those that are no posts.</summary>
    Pages,
    Posts,
    All,
}

/// <summary>Indexes of albums and categories: covers that lead on, each filled by what stands there now.</summary>
internal sealed class SiteIndexStore(NpgsqlDataSource db, CategoryStore categories, SitePhotos visitors, SiteSources sources, AccessStore access)
{
    /// <summary>So many photos of its own a category's page shows at most.</summary>
    public const int MostPhotos = 500;

    /// <summary>So many photos of a category's own are looked at for its cover.</summary>
    const int MostTried = 12;

    /// <summary>What the cover of an album called <c>a</c> opens other than its own page: the page said, else the one made for it that still shows it.</summary>
    const string OpensPage =
        """
        (select pg.address
           from page as pg
          where pg.binned is null and pg.published is not null and pg.id <> all(@shut)
            and (pg.id = a.opens or a.opens is distinct from a.id and pg.album = a.id and exists (
              select from page_thing as pt where pt.page = pg.id and pt.live and pt.shows and pt.thing = a.id))
          order by pg.id = a.opens desc nulls last, pg.made
          limit 1)
        """;

    /// <summary>An album as an index lists it.</summary>
    sealed record Listed(AlbumId Id, string Path, string Title, string Description, DateOnly? Dated, DateOnly Made, long? Place, bool PutFirst);

    /// <summary>What visitors find of an album.</summary>
    /// <param name="Covers">Photos that suit it as a cover, the best first; only the chosen one where they see it.</param>
    sealed record Found(int Count, IReadOnlyList<Guid> Covers)
    {
        public static readonly Found Nothing = new(0, []);
    }

    /// <summary>An entry whose cover is still to be picked among those that suit it.</summary>
    public sealed record Uncovered(SiteEntry Entry, IReadOnlyList<Guid> Covers);

    /// <summary>Gives entries their covers: each the best that no entry before it has, as far as there is one.</summary>
    public async Task<IReadOnlyList<SiteEntry>> CoverAsync(IReadOnlyList<Uncovered> entries, Sight sight, CancellationToken ct)
    {
        var used = new HashSet<Guid>();
        var picked = entries.Select(e =>
        {
            Guid? best = e.Covers.Count == 0 ? null : e.Covers.FirstOrDefault(c => !used.Contains(c), e.Covers[0]);
            used.Add(best ?? Guid.Empty);
            return best;
        }).ToArray();
        await using var read = db.Command($"select {SitePhotos.Columns} from photo as p where p.id = any(@ids)", ("ids", picked.OfType<Guid>().Distinct().ToArray()), ("shut", sight.Shut), ("marking", sight.Marking));
        var photos = (await read.AllAsync(r => visitors.Read(r, SitePhotos.OnPage(isShown: true), sight), ct)).OfType<SitePhoto>().ToDictionary(p => p.Id.Value);
        return [.. entries.Zip(picked, (e, cover) => e.Entry with { Cover = cover is { } id ? photos.GetValueOrDefault(id) : null })];
    }

    /// <summary>The albums that stand in some categories, in the order the index of one of them has.</summary>
    public async Task<(IReadOnlyList<Uncovered> Entries, IReadOnlyList<AlbumId> Albums)> AlbumsAsync(CategoryId of, IReadOnlyList<CategoryId> within, IndexSort sort, Sight sight, CancellationToken ct)
    {
        var listed = await ListedAsync(
            """
            a.id in (select ac.album from album_category as ac where ac.category = any(@within))
            """,
            visitors.FindsAlbum, sight, ct, ("within", within.Values()), ("of", of.Value));
        return (await EntriesAsync(listed, sort, sight, ct), [.. listed.Select(a => a.Id)]);
    }

    /// <summary>Albums that were chosen, in their order, those that visitors see.</summary>
    public async Task<IReadOnlyList<Uncovered>> ChosenAsync(IReadOnlyList<AlbumId> albums, Sight sight, CancellationToken ct)
    {
        var listed = (await ListedAsync("a.id = any(@chosen)", visitors.SeesAlbum, sight, ct, ("of", null), ("chosen", albums.Values()))).ToDictionary(a => a.Id);
        var chosen = albums.Where(listed.ContainsKey).Select((a, i) => listed[a] with { Place = i, PutFirst = false });
        return await EntriesAsync([.. chosen], IndexSort.Hand, sight, ct);
    }

    /// <param name="lists">Whether it has an album: those that were chosen by hand are seen, others found.</param>
    async Task<IReadOnlyList<Listed>> ListedAsync(string which, Func<NpgsqlDataReader, Sight, bool> lists, Sight sight, CancellationToken ct, params (string, object?)[] parameters)
    {
        await using var command = db.Command(
            $"""
            select a.id, a.address, coalesce(nullif(a.title, ''), a.working_name) as title, a.description, a.dated, a.made::date as made,
                   ac.place, a.put_first or coalesce(ac.put_first, false) as put_first, {OpensPage} as page,
                   {AccessStore.ByLink("a")}, pages.*
              from album as a
              left join album_category as ac on ac.album = a.id and ac.category = @of::uuid
             cross join lateral (
               {AccessStore.ShownOnOfAlbums} and oa.id = a.id) as pages
             where a.binned is null and {which}
            """,
            [.. parameters, ("shut", sight.Shut)]);
        var all = await command.AllAsync(
            r => lists(r, sight)
                ? new Listed(
                    new AlbumId(r.Get<Guid>("id")),
                    r.MaybeText("page") is { } page ? PageVersion.PathOf(SiteKind.Page, page) : PageVersion.PathOf(SiteKind.Album, r.Get<string>("address")),
                    r.Get<string>("title"), r.Get<string>("description"), r.Maybe<DateOnly>("dated"), r.Get<DateOnly>("made"), r.Maybe<long>("place"), r.Get<bool>("put_first"))
                : null,
            ct);
        return [.. all.OfType<Listed>()];
    }

    async Task<IReadOnlyList<Uncovered>> EntriesAsync(IReadOnlyList<Listed> listed, IndexSort sort, Sight sight, CancellationToken ct)
    {
        var found = await FoundInAsync(listed.Select(a => a.Id), sight, ct);
        var known = listed.ToDictionary(a => a.Id);
        return
        [
            .. AlbumIndex.Order(listed.Select(a => new IndexEntry(a.Id, a.Title, a.Dated ?? a.Made, a.Place, a.PutFirst)), sort)
                .Select(e => (Album: known[e.Album], Found: found.GetValueOrDefault(e.Album) ?? Found.Nothing))
                .Select(e => new Uncovered(new SiteEntry(e.Album.Path, e.Album.Title, 0, e.Found.Count, e.Album.Dated, null, e.Album.Description), e.Found.Covers)),
        ];
    }

    /// <summary>What visitors find of albums.</summary>
    async Task<Dictionary<AlbumId, Found>> FoundInAsync(IEnumerable<AlbumId> albums, Sight sight, CancellationToken ct)
    {
        var found = await FoundAsync(
            $"""
            select ap.album as of, ap.photo, ap.place, a.cover, a.shown and {AccessStore.LetsIn("a")} as shown
              from album_photo as ap
              join album as a on a.id = ap.album
             where ap.album = any(@of)
            """,
            [.. albums.Select(a => a.Value)], sight, ct);
        return found.ToDictionary(f => new AlbumId(f.Key), f => f.Value);
    }

    /// <summary>
    /// Of each album or page how many photos visitors see, and its covers: the chosen one, else of each rating the first, the highest
    /// first. Photos are counted by what the decision depends on; which of the counts are visitors' is decided, not asked of the database.
    /// </summary>
    /// <param name="photos">Their photos: of what, which, where, its chosen cover, whether it is in view.</param>
    async Task<Dictionary<Guid, Found>> FoundAsync(string photos, Guid[] of, Sight sight, CancellationToken ct)
    {
        await using var groups = db.Command(
            $"""
            with listed as (
              {photos})
            select l.of, {AccessStore.PhotoColumns}, p.rating, count(*) as count, min(l.place) as first,
                   (array_agg(p.id order by l.place, p.id))[1] as photo,
                   (array_agg(p.id order by l.place) filter (where p.id = l.cover))[1] as chosen, l.shown
              from listed as l
              join photo as p on p.id = l.photo
             group by l.of, l.shown, p.rating, {AccessStore.PhotoGroups}
            """,
            ("of", of), ("shut", sight.Shut));
        var seen = await groups.AllAsync(
            r => (
                Of: r.Get<Guid>("of"), Shown: visitors.Sees(r, SitePhotos.OnPage(r.Get<bool>("shown")), sight), Rating: r.Get<short>("rating"), Count: (int)r.Get<long>("count"), First: r.Get<long>("first"),
                Photo: r.Get<Guid>("photo"), Chosen: r.MaybeId("chosen")),
            ct);
        return seen.Where(g => g.Shown).GroupBy(g => g.Of).ToDictionary(
            g => g.Key,
            g => new Found(
                g.Sum(each => each.Count),
                g.OrderBy(each => each.First).Select(each => each.Chosen).FirstOrDefault(c => c is not null) is { } chosen
                    ? [chosen]
                    : [.. g.OrderByDescending(each => each.Rating).ThenBy(each => each.First).Select(each => each.Photo)]));
    }

    /// <summary>The categories in view that stand beneath one, those that visitors find something in.</summary>
    /// <param name="seen">What visitors see of the tree.</param>
    /// <param name="parent">Null for the top.</param>
    public async Task<IReadOnlyList<Uncovered>> CategoriesAsync(CategoryTree seen, CategoryId? parent, Seeing seeing, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select c.id, c.address, c.cover, pg.address as page
              from category as c
              left join page as pg on pg.id = c.opens and pg.published is not null and pg.binned is null and pg.id <> all(@shut)
             where c.in_view and c.parent is not distinct from @parent::uuid
            """,
            ("parent", parent?.Value), ("shut", seeing.Sight.Shut));
        var rows = await command.AllAsync(
            r => (
                Id: new CategoryId(r.Get<Guid>("id")),
                Path: r.MaybeText("page") is { } page ? PageVersion.PathOf(SiteKind.Page, page) : PageVersion.PathOf(SiteKind.Category, r.Get<string>("address")), Chosen: r.MaybeId("cover")),
            ct);
        var facts = rows.ToDictionary(r => r.Id);
        var entries = new List<Uncovered>();
        foreach (var node in seen.InOrder().Select(n => n.Node).Where(n => n.Parent == parent && facts.ContainsKey(n.Id)))
        {
            var fact = facts[node.Id];
            IReadOnlyList<CategoryId> within = [.. seen.WithDescendants(node.Id)];
            var (albums, ids) = await AlbumsAsync(node.Id, within, IndexSort.Newest, seeing.Sight, ct);
            var others = await OthersAsync(within, ids, seeing, ct);
            if (albums.Count > 0 || others.Count > 0)
            {
                Guid[] chosen = fact.Chosen is { } cover && await IsSeenAsync(cover, seeing.Sight, ct) ? [cover] : [];
                entries.Add(new Uncovered(
                    new SiteEntry(fact.Path, node.Name, albums.Count, others.Count, null, null),
                    chosen.Length > 0 ? chosen : [.. albums.SelectMany(a => a.Covers.Take(1)), .. albums.SelectMany(a => a.Covers.Skip(1)), .. others.Take(MostTried).Select(p => p.Id.Value)]));
            }
        }

        return entries;
    }

    /// <summary>Photos that stand in categories and in none of the albums listed beside them, as far as visitors see them elsewhere: a category alone shows nobody anything.</summary>
    public async Task<IReadOnlyList<SitePhoto>> OthersAsync(IReadOnlyList<CategoryId> within, IReadOnlyList<AlbumId> beside, Seeing seeing, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {SitePhotos.Columns}
              from photo as p
             where p.id in (select pc.photo from photo_category as pc where pc.category = any(@within))
               and exists (select from album_photo as ap where ap.photo = p.id and ap.album = any(@seen))
               and not exists (select from album_photo as ap where ap.photo = p.id and ap.album = any(@beside))
             order by coalesce(p.taken, p.arrived at time zone 'UTC') desc, p.id desc
             limit @most
            """,
            ("within", within.Values()), ("beside", beside.Values()), ("seen", (await seeing.Albums.Value).Values()), ("shut", seeing.Sight.Shut), ("marking", seeing.Sight.Marking), ("most", MostPhotos * 2));
        var found = await command.AllAsync(r => visitors.Read(r, SitePhotos.OnPage(isShown: true), seeing.Sight), ct);
        return [.. found.OfType<SitePhoto>().Take(MostPhotos)];
    }

    /// <summary>Whether visitors see a photo somewhere.</summary>
    async Task<bool> IsSeenAsync(Guid id, Sight sight, CancellationToken ct) =>
        await access.PhotoAsync(new PhotoId(id), sight, ct) is { } photo && access.May(sight.Viewer, Right.See, photo);

    /// <summary>What changes with anything the start page shows.</summary>
    public async Task<string> StartVersionAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            """
            select pg.id, pg.version
              from page as pg
             where pg.published is not null and pg.binned is null
            union all
            select c.id, coalesce(v.version, 0)
              from category as c
              left join shown_version as v on v.thing = c.id
             where c.parent is null and c.in_view
            union all
            select a.id, coalesce(v.version, 0)
              from album as a
              left join shown_version as v on v.thing = a.id
             where a.put_first and a.binned is null
             order by 1
            """);
        var versions = await command.AllAsync(r => $"{r.GetGuid(0)}:{r.GetInt64(1)}", ct);
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(string.Join(' ', versions))))[..24];
    }

    /// <summary>What the start page shows: albums that are put first everywhere, then the pages, the newest first, then the categories at the top of the tree.</summary>
    public async Task<IReadOnlyList<SiteEntry>> StartAsync(Sight sight, CancellationToken ct)
    {
        var first = await EntriesAsync(await ListedAsync("a.put_first", visitors.FindsAlbum, sight, ct, ("of", null)), IndexSort.Newest, sight, ct);
        var seeing = sources.Seeing(sight, ct);
        var tops = await CategoriesAsync((await categories.TreeAsync(ct)).InView(sight.IsShut), null, seeing, ct);
        return await CoverAsync([.. first.Concat(await PagesAsync(PagesWanted.All, null, seeing, ct)).DistinctBy(e => e.Entry.Path), .. tops], sight, ct);
    }

    /// <summary>The pages that visitors can open and that are listed, the latest first; posts by the days that they are of.</summary>
    /// <param name="most">The largest number; null for all.</param>
    public async Task<IReadOnlyList<Uncovered>> PagesAsync(PagesWanted wanted, int? most, Seeing seeing, CancellationToken ct) =>
        [.. (await OpenAsync(wanted, most, seeing, ct)).Select(p => p.Entry)];

    /// <summary>The newest posts, for the feed.</summary>
    public async Task<IReadOnlyList<FeedEntry>> FeedAsync(Sight sight, CancellationToken ct)
    {
        var posts = await OpenAsync(PagesWanted.Posts, SiteFeed.Most, sources.Seeing(sight, ct), ct);
        return [.. posts.Zip(await CoverAsync([.. posts.Select(p => p.Entry)], sight, ct), (p, covered) => new FeedEntry(p.Id, p.Published, covered))];
    }

    async Task<IReadOnlyList<(Guid Id, DateTime Published, Uncovered Entry)>> OpenAsync(PagesWanted wanted, int? most, Seeing seeing, CancellationToken ct)
    {
        await using var pages = db.Command(
            """
            select pg.id, pg.address, page_title(pg.published) as title, pg.published ->> 'description' as description,
                   (pg.published ->> 'posted')::date as posted, coalesce(pg.published_at, pg.made) as published_at,
                   pg.published::text as content
              from page as pg
             where pg.published is not null and pg.binned is null and pg.id <> all(@shut)
               and pg.published -> 'unlisted' is distinct from 'true'
               and (@posts::boolean is null or (pg.published ->> 'posted' is not null) = @posts)
             order by case when @posts::boolean then pg.published ->> 'posted' end desc, pg.published_at desc, pg.id desc
             limit @most::int
            """,
            ("posts", wanted == PagesWanted.All ? null : wanted == PagesWanted.Posts), ("most", most), ("shut", seeing.Sight.Shut));
        var rows = await pages.AllAsync(
            r => (Id: r.Get<Guid>("id"), Address: r.Get<string>("address"), Title: r.Get<string>("title"), Description: r.MaybeText("description") ?? "", Posted: r.Maybe<DateOnly>("posted"),
                Published: r.Get<DateTime>("published_at"), Content: r.Get<string>("content")), ct);
        var found = await FoundAsync(
            $"""
            select distinct on (pt.page, photo.id) pt.page as of, photo.id as photo, pt.place * 1000000000::bigint + photo.place as place,
                   case when pt.kind = 'album' then a.cover else pt.thing end as cover,
                   coalesce(a.shown and {AccessStore.LetsIn("a")}, true) as shown
              from page_thing as pt
              left join album as a on pt.kind = 'album' and a.id = pt.thing and a.binned is null
             cross join lateral (
               select ap.photo as id, ap.place from album_photo as ap where ap.album = a.id
               union all
               select pt.thing, 0 where pt.kind = 'photo') as photo
             where pt.page = any(@of) and pt.live and pt.shows
             order by pt.page, photo.id, shown desc, pt.place
            """,
            [.. rows.Select(r => r.Id)], seeing.Sight, ct);
        foreach (var row in rows.Where(r => !found.ContainsKey(r.Id)))
        {
            // One that only gathers photos is known by the first of them; how many there are changes from day to day.
            if (PageText.Read(row.Content, null).All().OfType<PhotosBlock>().FirstOrDefault(b => !b.Source.Publishes) is { } gathers)
            {
                found[row.Id] = new Found(0, [.. (await sources.PhotosAsync(gathers.Source with { Most = MostTried }, seeing, ct)).Select(p => p.Id.Value)]);
            }
        }

        return [.. rows.Select(r =>
        {
            var shows = found.GetValueOrDefault(r.Id) ?? Found.Nothing;
            return (r.Id, r.Published, new Uncovered(new SiteEntry(PageVersion.PathOf(SiteKind.Page, r.Address), r.Title, 0, shows.Count, r.Posted, null, r.Description), shows.Covers));
        })];
    }
}
