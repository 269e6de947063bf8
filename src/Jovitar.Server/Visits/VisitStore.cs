using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Visits;

/// <summary>Visits as they are kept: so many of a thing on a day, and the sum of each photo's.</summary>
internal sealed class VisitStore(NpgsqlDataSource db)
{
    /// <summary>Adds visits of a day. What is not there (any more) is passed over.</summary>
    public async Task AddAsync(DateOnly day, IReadOnlyDictionary<Guid, int> visits, CancellationToken ct)
    {
        // In the order of their ids, so that two processes that write at once wait for each other and never in a circle.
        var sorted = visits.OrderBy(v => v.Key.ToString(), StringComparer.Ordinal).ToArray();
        await using var command = db.Command(
            """
            insert into view_day (thing, day, views)
            select w.thing, @day, w.views
              from unnest(@things, @views) with ordinality as w(thing, views, n)
             where exists (select from photo where id = w.thing)
                or exists (select from page where id = w.thing)
                or exists (select from album where id = w.thing)
                or exists (select from category where id = w.thing)
             order by w.n
            on conflict (thing, day) do update set views = view_day.views + excluded.views
            """,
            ("day", day), ("things", sorted.Select(v => v.Key).ToArray()), ("views", sorted.Select(v => v.Value).ToArray()));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Sums up the visits of photos that were looked at since a day; what is most viewed goes by it from then on. The work grows with those, not with the library.</summary>
    /// <returns>How many photos have another sum than before.</returns>
    public async Task<int> SumAsync(DateOnly since, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            with summed as (
              insert into photo_views (photo, views)
              select p.id, sum(v.views)::int
                from (select distinct thing from view_day where day >= @since) as seen
                join photo as p on p.id = seen.thing
                join view_day as v on v.thing = p.id
               group by p.id
               order by p.id
              on conflict (photo) do update set views = excluded.views where photo_views.views <> excluded.views
              returning photo),
            touched as (
              select photo_touch(array(select photo from summed))),
            -- Pages that go by views have other photos now.
            turned as (
              update page
                 set version = version + 1
               where exists (select from summed)
                 and id in (
                   select pg.id
                     from page as pg
                    where pg.id in (select pt.page from page_thing as pt where pt.live and pt.kind = 'site')
                      and pg.published::text ~ '"(mostViewed|views)"'
                    order by pg.id
                      for no key update)
              returning id)
            select (select count(*) from summed), (select count(*) from touched), (select count(*) from turned)
            """,
            ("since", since));
        return (int)(long)(await command.ExecuteScalarAsync(ct))!;
    }
}
