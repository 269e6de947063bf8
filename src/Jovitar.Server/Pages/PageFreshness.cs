using Jovitar.Server.Acts;

namespace Jovitar.Server.Pages;

/// <summary>Pages follow from acts: whatever a page shows that was changed raises its version, and an address it had leads to the one it has.</summary>
internal sealed class PageFreshness : IActListener
{
    public async Task FollowAsync(Act act, IReadOnlySet<string> kinds, CancellationToken ct)
    {
        // What a filter bar named is named by its new name to visitors, too.
        await act.ReplaceAsync("page", "draft", "edited = edited + 1", ct);
        await act.ReplaceAsync("page", "published", "version = version + 1", ct);
        if (kinds.Contains("page"))
        {
            await AddressesAsync(act, ct);
        }

        await act.RunAsync(
            """
            with concerned as (
              select c.thing as page
                from act_change as c
               where c.act = @act and c.kind = 'page'
              union
              select pg.id
                from act_change as c
                join page as pg on pg.album = c.thing
               where c.act = @act and c.kind in ('album', 'album_photo')
              union
              select pg.id
                from act_change as c
                join album_photo as ap on ap.photo = c.thing
                join page as pg on pg.album = ap.album
               where c.act = @act and c.kind in ('photo', 'photo_tag', 'photo_category')
              union
              select pg.id
                from page as pg
               where exists (select from act_change as c where c.act = @act and c.kind in ('category', 'tag') and c.before is not null)),
            locked as (
              select pg.id from page as pg join concerned as c on c.page = pg.id order by pg.id for no key update of pg)
            update page as pg
               set version = pg.version + 1
              from locked
             where pg.id = locked.id
            """,
            ct, ("act", act.Id.Value));
    }

    /// <summary>A former address gives way to whoever uses it now; one that visitors knew leads to the new one.</summary>
    static async Task AddressesAsync(Act act, CancellationToken ct)
    {
        await act.RunAsync(
            """
            delete from page_former_address as f
             using act_change as c
             where c.act = @act and c.kind = 'page' and f.address = c.after ->> 'address'
            """,
            ct, ("act", act.Id.Value));
        await act.RunAsync(
            """
            insert into page_former_address (address, page)
            select c.before ->> 'address', pg.id
              from act_change as c
              join page as pg on pg.id = c.thing and pg.published is not null
             where c.act = @act and c.kind = 'page' and c.before ? 'address' and c.after ? 'address'
               and not exists (select from page as other where other.address = c.before ->> 'address' and other.binned is null)
            on conflict (address) do update set page = excluded.page
            """,
            ct, ("act", act.Id.Value));
    }
}
