using Jovitar.Core.Access;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Site.Finding;

/// <summary>What search engines may be told of: what everybody can open and finds in lists, and the photos there.</summary>
internal sealed class SiteMapStore(NpgsqlDataSource db, SitePhotos visitors, AccessStore access)
{
    /// <summary>Every page that is listed: the start page, pages, and those that albums and categories have by themselves; always in the same order.</summary>
    public async Task<IReadOnlyList<MappedPage>> PagesAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            $"""
            select 'page' as kind, pg.id, pg.address, true as in_view, 0 as on_pages, 0 as on_drafts, 0 as on_own, 0 as out_of_view
              from page as pg
             where pg.published is not null and pg.binned is null and pg.published -> 'unlisted' is distinct from 'true'
            union all
            select 'category', c.id, c.address, c.in_view, 0, 0, 0, 0
              from category as c
             where c.binned is null
            union all
            select 'album', a.id, a.address, false, pages.*
              from album as a
             cross join lateral (
               {AccessStore.ShownOnOfAlbums} and oa.id = a.id) as pages
             where a.binned is null
             order by 2
            """);
        var found = await command.AllAsync(
            r => Enum.Parse<SiteKind>(r.Get<string>("kind"), ignoreCase: true) is var kind && access.May(
                Viewer.Nobody, Right.See,
                kind switch
                {
                    SiteKind.Page => new PageThing(Binned: false, Published: true, Changed: false),
                    SiteKind.Category => new CategoryThing(Binned: false, r.Get<bool>("in_view")),
                    // Its own page, not those that were made for it.
                    _ => (Thing)new AlbumThing(Binned: false, AccessStore.On(r) with { Pages = 0 }),
                })
                    ? new MappedPage(r.Get<Guid>("id"), PageVersion.PathOf(kind, r.Get<string>("address")))
                    : null,
            ct);
        return [new MappedPage(Guid.Empty, "/"), .. found.OfType<MappedPage>()];
    }

    /// <summary>The photos that were put on some pages, by the page: those of its albums in their order, and those that stand there by themselves.</summary>
    public async Task<ILookup<Guid, MappedPhoto>> PhotosAsync(IReadOnlyList<MappedPage> pages, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            with stands as (
              select pt.page as thing, ap.photo, pt.place * 1000000000::bigint + ap.place as place, a.shown
                from page_thing as pt
                join album as a on a.id = pt.thing and a.binned is null
                join album_photo as ap on ap.album = a.id
               where pt.page = any(@pages) and pt.live and pt.shows and pt.kind = 'album'
              union all
              select pt.page, pt.thing, pt.place * 1000000000::bigint, true
                from page_thing as pt
               where pt.page = any(@pages) and pt.live and pt.shows and pt.kind = 'photo'
              union all
              select ap.album, ap.photo, ap.place, a.shown
                from album as a
                join album_photo as ap on ap.album = a.id
               where a.id = any(@pages) and a.binned is null),
            few as (
              select s.*, row_number() over (partition by s.thing order by s.place, s.photo) as n
                from (
                  select distinct on (thing, photo) thing, photo, place, shown
                    from stands
                   order by thing, photo, shown desc, place) as s)
            select p.picture, p.width, {AccessStore.PhotoColumns}, f.thing, f.shown
              from few as f
              join photo as p on p.id = f.photo
             where f.n <= @most
             order by f.thing, f.n
            """,
            ("pages", pages.Select(p => p.Id).ToArray()), ("most", SiteMap.MostImages));
        var rows = await command.AllAsync(r => (Of: r.Get<Guid>("thing"), Photo: visitors.Sees(r, SitePhotos.OnPage(r.Get<bool>("shown"))) ? new MappedPhoto(r.Get<string>("picture"), r.Get<int>("width")) : null), ct);
        return rows.Where(r => r.Photo is not null).ToLookup(r => r.Of, r => r.Photo!);
    }
}
