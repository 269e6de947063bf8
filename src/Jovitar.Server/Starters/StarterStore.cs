using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Corrections;
using Jovitar.Core.Photos;
using Jovitar.Core.Starters;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Starters;

/// <summary>A starter with the owner's albums in its places.</summary>
/// <param name="Albums">In their order.</param>
/// <param name="Most">How many it takes at most.</param>
/// <param name="Pictures">Of what would stand there, the most telling first.</param>
internal sealed record StarterOffer(Starter Starter, string Title, IReadOnlyList<AlbumId> Albums, int Most, IReadOnlyList<string> Pictures);

/// <summary>Matches starters with the albums there are, and makes pages of them.</summary>
internal sealed class StarterStore(NpgsqlDataSource db, SettingsStore settings, AccessStore access, PageStore pages)
{
    /// <summary>So many albums, those dated or made last, are looked at.</summary>
    const int MostAlbums = 60;

    /// <summary>So many photos of an album say how much it holds.</summary>
    const int MostCounted = 500;

    /// <summary>So many photos of an album tell its shapes.</summary>
    const int MostPhotos = 120;

    /// <summary>So many of an offer are shown.</summary>
    const int MostPictures = 12;

    /// <summary>All starters with the albums that suit them best.</summary>
    public async Task<IReadOnlyList<StarterOffer>> OffersAsync(CancellationToken ct)
    {
        var held = await HeldAsync(null, ct);
        var matched = Enum.GetValues<Starter>().Select(s => (Starter: s, Albums: StarterMatch.Of(s, held))).ToArray();
        var seen = await SeenAsync([.. matched.SelectMany(m => m.Albums).Select(a => a.Id).Distinct()], ct);
        var site = await settings.ReadAsync(ct);
        return [.. matched.Select(m => Offer(m.Starter, m.Albums, seen, site))];
    }

    /// <summary>A starter with albums that were chosen for it.</summary>
    public async Task<StarterOffer> OfferAsync(Starter starter, IReadOnlyList<AlbumId> albums, CancellationToken ct)
    {
        var held = await ChosenAsync(starter, albums, ct);
        return Offer(starter, held, await SeenAsync([.. held.Select(a => a.Id)], ct), await settings.ReadAsync(ct));
    }

    /// <summary>Makes a draft page of a starter.</summary>
    /// <param name="albums">In its places.</param>
    public async Task<PageId> MakeAsync(Actor who, Starter starter, IReadOnlyList<AlbumId> albums, CancellationToken ct)
    {
        var held = await ChosenAsync(starter, albums, ct);
        var seen = await SeenAsync([.. held.Select(a => a.Id)], ct);
        var site = await settings.ReadAsync(ct);
        AlbumSeen[] places = [.. held.Select(a => new AlbumSeen(a, [.. seen[a.Id]]))];
        return await pages.MakeAsync(
            who, StarterMatch.IsOfAlbum(starter) && held.Count > 0 ? held[0].Id : null, next => new StarterPage(site.Title, site.Tagline, next).Of(starter, places), ct);
    }

    static StarterOffer Offer(Starter starter, IReadOnlyList<AlbumHeld> albums, ILookup<AlbumId, PhotoHeld> seen, SiteSettings site)
    {
        // From each album in turn, the best of each first.
        var best = albums.Select(a => StarterPage.Telling(starter, seen[a.Id]).ToArray()).ToArray();
        var pictures = Enumerable.Range(0, MostPictures).SelectMany(n => best.Where(b => n < b.Length).Select(b => b[n].Picture)).Distinct().Take(MostPictures);
        return new StarterOffer(starter, StarterPage.Title(starter, site.Title, albums), [.. albums.Select(a => a.Id)], StarterMatch.Most(starter), [.. pictures]);
    }

    /// <summary>Those of some albums that are there, in the order in which they were chosen, as many as the starter takes.</summary>
    async Task<IReadOnlyList<AlbumHeld>> ChosenAsync(Starter starter, IReadOnlyList<AlbumId> albums, CancellationToken ct)
    {
        var wanted = albums.Distinct().Take(StarterMatch.Most(starter)).ToArray();
        var held = (await HeldAsync([.. wanted.Select(a => a.Value)], ct)).ToDictionary(a => a.Id);
        return [.. wanted.Where(held.ContainsKey).Select(a => held[a])];
    }

    async Task<IReadOnlyList<AlbumHeld>> HeldAsync(Guid[]? only, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            with newest as (
              select a.id, coalesce(nullif(a.title, ''), a.working_name) as title, a.description, a.dated, a.made, a.rule
                from album as a
               where a.binned is null and (@only::uuid[] is null or a.id = any(@only::uuid[]))
               order by coalesce(a.dated, a.made::date) desc, a.id desc
               limit @most)
            select n.id, n.title, n.description, n.rule is not null as fills_itself,
                   coalesce(n.dated, held.last::date, n.made::date) as day, coalesce(held.last::date - held.first::date + 1, 0) as days,
                   held.photos, held.loved,
                   exists (
                     select
                       from page_thing as pt
                       join page as pg on pg.id = pt.page
                      where pt.thing = n.id and pt.shows and pg.binned is null) as on_page
              from newest as n
             cross join lateral (
               select count(*) as photos, count(*) filter (where p.rating >= @loved) as loved, min(p.taken) as first, max(p.taken) as last
                 from (select photo from album_photo where album = n.id limit @counted) as ap
                 join photo as p on p.id = ap.photo
                where p.decision <> @out and p.state = 'ready') as held
            """,
            ("only", only), ("most", MostAlbums), ("counted", MostCounted), ("loved", AlbumHeld.LeastLoved), ("out", Decisions.LeaveOut));
        return await command.AllAsync(
            r => new AlbumHeld(
                new AlbumId(r.Get<Guid>("id")), r.Get<string>("title"), r.Get<string>("description"), r.Get<DateOnly>("day"), r.Get<int>("days"), (int)r.Get<long>("photos"), (int)r.Get<long>("loved"), r.Get<bool>("fills_itself"), r.Get<bool>("on_page")),
            ct);
    }

    async Task<ILookup<AlbumId, PhotoHeld>> SeenAsync(IReadOnlyList<AlbumId> albums, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select a.id as album, p.id, p.picture, p.width, p.height, p.rating, {AccessStore.PhotoColumns}
              from unnest(@albums) as a(id)
             cross join lateral (
               select ap.photo, ap.place
                 from album_photo as ap
                 join photo as q on q.id = ap.photo
                where ap.album = a.id and q.decision <> @out and q.state = 'ready'
                order by ap.place, ap.photo
                limit @most) as h
              join photo as p on p.id = h.photo
             order by a.id, h.place, p.id
            """,
            ("albums", albums.Select(a => a.Value).ToArray()), ("out", Decisions.LeaveOut), ("most", MostPhotos));
        var all = await command.AllAsync(
            r => (
                Album: new AlbumId(r.Get<Guid>("album")), Seen: access.May(Viewer.Somebody, Right.See, AccessStore.Photo(r, new ShownOn(1), GateList.None)),
                Photo: new PhotoHeld(new PhotoId(r.Get<Guid>("id")), r.Get<string>("picture"), new PixelSize(r.Get<int>("width"), r.Get<int>("height")), r.Get<short>("rating"))),
            ct);
        return all.Where(s => s.Seen).ToLookup(s => s.Album, s => s.Photo);
    }
}
