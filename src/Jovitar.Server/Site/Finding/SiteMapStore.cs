using Jovitar.Core.Access;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Site.Finding;

/// <summary>What search engines may be told of: what everybody can open and finds in lists, and the photos there.</summary>
internal sealed class SiteMapStore(NpgsqlDataSource db, SitePhotos visitors, AccessStore access, SightStore sights)
{
    /// <summary>Every page that is listed: the start page, pages, and those that albums and categories have by themselves; always in the same order.</summary>
    public async Task<IReadOnlyList<MappedPage>> PagesAsync(CancellationToken ct)
    {
        var everyone = await sights.EveryoneAsync(ct);
        await using var command = db.Command(
            $"""
            select 'page' as kind, t.id, t.address, {AccessStore.ThingColumns("page")}
              from page as t
             where t.published is not null and t.binned is null and t.published -> 'unlisted' is distinct from 'true'
            union all
            select 'category', t.id, t.address, {AccessStore.ThingColumns("category")}
              from category as t
             where t.binned is null
            union all
            select 'album', t.id, t.address, {AccessStore.ThingColumns("album")}
              from album as t
             {AccessStore.ThingJoins("album")}
             where t.binned is null
             order by 2
            """,
            ("shut", everyone.Shut));
        var found = await command.AllAsync(
            r =>
            {
                var thing = AccessStore.ThingOf(r.Get<string>("kind"), r, everyone.Gates);
                // Its own page, not those that were made for it.
                return access.May(everyone.Viewer, Right.Find, thing is AlbumThing album ? SiteStore.OnItsOwn(album) : thing)
                    ? new MappedPage(r.Get<Guid>("id"), PageVersion.PathOf(Enum.Parse<SiteKind>(r.Get<string>("kind"), ignoreCase: true), r.Get<string>("address")))
                    : null;
            },
            ct);
        return [new MappedPage(Guid.Empty, "/"), .. found.OfType<MappedPage>()];
    }

    /// <summary>The photos that were put on some pages, by the page: those of its albums in their order, and those that stand there by themselves.</summary>
    public async Task<ILookup<Guid, MappedPhoto>> PhotosAsync(IReadOnlyList<MappedPage> pages, CancellationToken ct)
    {
        var everyone = await sights.EveryoneAsync(ct);
        await using var command = db.Command(
            $"""
            with stands as (
              select pt.page as thing, ap.photo, pt.place * 1000000000::bigint + ap.place as place,
                     a.shown and {AccessStore.LetsIn("a")} as shown
                from page_thing as pt
                join album as a on a.id = pt.thing and a.binned is null
                join album_photo as ap on ap.album = a.id
               where pt.page = any(@pages) and pt.live and pt.shows and pt.kind = 'album'
              union all
              select pt.page, pt.thing, pt.place * 1000000000::bigint, true
                from page_thing as pt
               where pt.page = any(@pages) and pt.live and pt.shows and pt.kind = 'photo'
              union all
              select ap.album, ap.photo, ap.place, a.shown and {AccessStore.LetsIn("a")}
                from album as a
                join album_photo as ap on ap.album = a.id
               where a.id = any(@pages) and a.binned is null),
            few as (
              select s.*, row_number() over (partition by s.thing order by s.place, s.photo) as n
                from (
                  select distinct on (thing, photo) thing, photo, place, shown
                    from stands
                   order by thing, photo, shown desc, place) as s)
            select p.picture, p.width, {AccessStore.PhotoColumns}, {AccessStore.MarkColumn}, f.thing, f.shown
              from few as f
              join photo as p on p.id = f.photo
             where f.n <= @most
             order by f.thing, f.n
            """,
            ("pages", pages.Select(p => p.Id).ToArray()), ("most", SiteMap.MostImages), ("shut", everyone.Shut), ("marking", everyone.Marking));
        var rows = await command.AllAsync(r => (Of: r.Get<Guid>("thing"), Photo: visitors.PictureOf(r, SitePhotos.OnPage(r.Get<bool>("shown")), everyone) is { } picture ? new MappedPhoto(picture, r.Get<int>("width")) : null), ct);
        return rows.Where(r => r.Photo is not null).ToLookup(r => r.Of, r => r.Photo!);
    }
}
