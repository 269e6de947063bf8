using Jovitar.Server.Acts;
using Jovitar.Server.Opening;
using Jovitar.Server.Platform;
using Jovitar.Server.Themes;
using Jovitar.Server.Watermarks;

namespace Jovitar.Server.Pages;

/// <summary>
/// Pages follow from acts: whatever a page shows that was changed raises its version, and an address it had leads to the one it has.
/// The pages that albums and categories have by themselves do the same.
/// </summary>
internal sealed class PageFreshness : IActListener
{
    /// <summary>Kinds of things that nothing on any page goes by.</summary>
    static readonly string[] Elsewhere = ["narrowing", "kept_settings", "price_list", "shop", "coupon", "sale_order", "theme", "site", "intake", "file", "album_file", "photo_near", "person", "comment"];

    /// <summary>Fields of a category that decide which others are in view.</summary>
    static readonly string[] Tree = ["shown", "parent", "binned"];

    /// <summary>What stands on pages and may be thrown in the bin.</summary>
    static readonly string[] Thrown = ["album", "photo", "category", "tag", "file"];

    public async Task FollowAsync(Act act, IReadOnlySet<string> kinds, CancellationToken ct)
    {
        // What a filter bar named is named by its new name to visitors, too.
        await act.ReplaceAsync("page", "draft", "edited = edited + 1", ct);
        await act.ReplaceAsync("page", "published", "version = version + 1", ct);
        await act.ReplaceAsync("page", "planned", "edited = edited + 1", ct);
        foreach (var kind in Addresses.Kinds.Where(kinds.Contains))
        {
            await Addresses.FollowAsync(act, kind, ct);
        }

        var albums = await PageThings.FollowAsync(act, ct);
        await act.RunAsync(
            """
            with concerned as (
              select c.thing as page
                from act_change as c
               where c.act = @act and c.kind = 'page' and (c.before ?| @seen or c.after ?| @seen)
              union
              select pt.page
                from act_change as c
                join page_thing as pt on pt.live and pt.thing = c.thing
               where c.act = @act
                 and c.kind in ('album', 'album_photo', 'album_category', 'photo', 'photo_tag', 'photo_category', 'file', 'page')
                 and (c.kind <> 'page' or c.before ?| @seen or c.after ?| @seen)
              union
              select pt.page
                from act_change as c
                join album_photo as ap on ap.photo = c.thing
                join page_thing as pt on pt.live and pt.thing = ap.album
               where c.act = @act and c.kind in ('photo', 'photo_tag', 'photo_category')
              union
              select pt.page
                from page_thing as pt
               where pt.live and pt.kind in ('category', 'tag')
                 and exists (select from act_change as c where c.act = @act and c.kind in ('category', 'tag') and c.before is not null)
              union
              -- An album has a page of its own while a category that it stands in is in view.
              select pt.page
                from page_thing as pt
               where pt.live and pt.kind = 'album'
                 and exists (
                   select from act_change as c where c.act = @act and c.kind = 'category' and (c.before ?| @tree or c.after ?| @tree))
              union
              -- What a page gathers from the whole site may be another after anything.
              select pt.page
                from page_thing as pt
               where pt.live and pt.thing = @site
                 and exists (select from act_change as c where c.act = @act and c.kind <> all(@elsewhere)
                   and (c.kind <> 'page' or c.before ?| @seen or c.after ?| @seen))),
            locked as (
              select pg.id from page as pg join concerned as c on c.page = pg.id order by pg.id for no key update of pg)
            update page as pg
               set version = pg.version + 1
              from locked
             where pg.id = locked.id
            """,
            ct, ("act", act.Id.Value), ("site", Guid.Empty), ("elsewhere", Elsewhere), ("seen", PageThings.Seen), ("tree", Tree));
        act.Lacking = Thrown.Any(kinds.Contains) ? await LackingAsync(act, ct) : Lacking.Nothing;
        await OwnPagesAsync(act, kinds, albums, ct);
        await MenuStore.FollowAsync(act, kinds, ct);
        await ThemeStore.FollowAsync(act, kinds, ct);
        await FrontStore.FollowAsync(act, kinds, ct);
        await MarkingStore.FollowAsync(act, kinds, ct);
    }

    /// <summary>The published pages on which visitors found what the act throws in the bin, by itself or in an album.</summary>
    static async Task<Lacking> LackingAsync(Act act, CancellationToken ct)
    {
        await using var command = act.Command(
            """
            with went as (
              select c.kind, c.thing
                from act_change as c
               where c.act = @act and c.before is not null and c.before ->> 'binned' is null and c.after ->> 'binned' is not null),
            things as (
              select thing, false as within from went
              union
              -- They are out of their albums by now; what only names or leads to those lacks nothing.
              select c.thing, true
                from act_change as c
               where c.act = @act and c.kind = 'album_photo' and c.after is null
                 and exists (select from went as w where w.kind = 'photo')),
            pages as (
              select distinct pg.id, page_title(pg.published) as title
                from things as t
                join page_thing as pt on pt.live and pt.thing = t.thing and (pt.shows or not t.within)
                join page as pg on pg.id = pt.page and pg.binned is null and pg.published is not null
               where exists (select from went))
            select title, count(*) over ()::int as pages
              from pages
             order by title, id
             limit 3
            """,
            ("act", act.Id.Value));
        var pages = await command.AllAsync(r => (Title: r.Get<string>("title"), Count: r.Get<int>("pages")), ct);
        return pages.Count == 0 ? Lacking.Nothing : new Lacking([.. pages.Select(p => p.Title)], pages[0].Count);
    }

    /// <summary>
    /// An album's own page follows its words and its photos; a category's the albums and photos in it and beneath it. Their versions
    /// are rows of their own, for who changes photos must not wait for who arranges their albums.
    /// </summary>
    static Task<int> OwnPagesAsync(Act act, IReadOnlySet<string> kinds, IReadOnlyList<Guid> onPages, CancellationToken ct) => act.RunAsync(
        $"""
        with recursive albums as (
          select c.thing as id
            from act_change as c
           where c.act = @act and c.kind in ('album', 'album_photo', 'album_category')
          union
          select ap.album
            from act_change as c
            join album_photo as ap on ap.photo = c.thing
           where c.act = @act and c.kind = 'photo'
          union
          select unnest(@pages)
          union
          -- They name the categories they stand in.
          select ac.album from album_category as ac where @tree),
        -- Photos of what came into view or went out of it stand on the pages of their own categories.
        appeared as (
          select c.thing as id
            from act_change as c
           where c.act = @act and (c.kind = 'album_category' or c.kind = 'album' and c.before ? 'shown')
          union
          select unnest(@pages)),
        categories as (
          select ac.category as id
            from albums as a
            join album_category as ac on ac.album = a.id
          union
          select c.other
            from act_change as c
           where c.act = @act and c.kind in ('album_category', 'photo_category')
          union
          select pc.category
            from act_change as c
            join photo_category as pc on pc.photo = case c.kind when 'photo' then c.thing else c.other end
           where c.act = @act and c.kind in ('photo', 'album_photo')
          union
          select pc.category
            from appeared as a
            join album_photo as ap on ap.album = a.id
            join photo_category as pc on pc.photo = ap.photo
          union
          select c.id from category as c where @tree
          union
          select above.parent
            from categories as below
            join category as above on above.id = below.id
           where above.parent is not null)
        insert into shown_version (thing, version)
        select id, 1 from albums union select id, 1 from categories
         order by id
        on conflict (thing) do update set version = shown_version.version + 1
        """,
        ct, ("act", act.Id.Value), ("tree", kinds.Contains("category")), ("pages", onPages.ToArray()));
}
