using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Acts;

/// <summary>The one way to write: opens acts, lets the areas that follow from them follow, and closes them with their sentence.</summary>
internal sealed class ActRunner(NpgsqlDataSource db, IEnumerable<IActListener> listeners, TimeProvider clock)
{
    /// <summary>Told when an act is done that is not part of a larger one.</summary>
    public const string Channel = "act_done";

    long finished;

    /// <summary>How many acts this process has finished: what was read before is out of date when it is another number.</summary>
    public long Finished => Volatile.Read(ref finished);

    /// <summary>Does an act. A victim of a deadlock is done again.</summary>
    /// <param name="work">What it does; may be run more than once.</param>
    /// <returns>What the work answers, and what the act came to.</returns>
    public Task<(T Answer, Done Done)> RunAsync<T>(Actor who, ActKind kind, Func<Act, Task<T>> work, CancellationToken ct) => Database.AgainAsync(() => OnceAsync(who, kind, work, ct), ct);

    async Task<(T, Done)> OnceAsync<T>(Actor who, ActKind kind, Func<Act, Task<T>> work, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        var id = new ActId(Guid.CreateVersion7(now));
        await using var act = await db.BeginAsync((connection, transaction) => new Act(connection, transaction, id, who, kind, now), ct);
        await act.RunAsync("select set_config('jovitar.act', @id, true)", ct, ("id", id.ToString()));
        var answer = await work(act);
        if (act.IsDropped)
        {
            return (answer, Done.Nothing);
        }

        var kinds = await act.KindsAsync(ct);
        if (kinds.Count > 0)
        {
            foreach (var listener in listeners)
            {
                await listener.FollowAsync(act, kinds, ct);
                kinds = await act.KindsAsync(ct);
            }
        }

        var done = await CloseAsync(act, ct);
        await act.CommitAsync(ct);
        Interlocked.Increment(ref finished);
        return (answer, done);
    }

    static async Task<Done> CloseAsync(Act act, CancellationToken ct)
    {
        await FoldAsync(act, ct);
        if (act.GoesOn is { } thing && ActKinds.GoesOn(act.Kind))
        {
            await AbsorbAsync(act, thing, ct);
        }

        await using var count = act.Command(
            """
            with photos as (
              select distinct case when kind in ('album_photo', 'album_without') then other else thing end as id
                from act_change
               where act = @act and kind in ('photo', 'photo_tag', 'photo_category', 'photo_near', 'album_photo', 'album_without'))
            select (select count(*) from photos) as photos,
                   (select id from photos limit 1) as lead,
                   exists (select from act_change where act = @act) as changed
            """,
            ("act", act.Id.Value));
        var tally = (await count.FirstAsync(r => Tuple.Create((int)r.Get<long>("photos"), r.MaybeId("lead"), r.Get<bool>("changed")), ct))!;
        if (!tally.Item3 && !act.IsKept)
        {
            return Done.Nothing;
        }

        // Which fields differ is only of interest where one thing was changed.
        IReadOnlyList<string> fields = tally.Item1 > 1 ? [] : await FieldsAsync(act, ct);
        await act.RunAsync(
            """
            insert into act (id, made, account, who, kind, sentence, photos, lead, within, undoes)
            values (@id, @made, @account::uuid, @who, @kind, @sentence, @photos, @lead::uuid, @within::uuid, @undoes::uuid)
            """,
            ct,
            ("id", act.Id.Value), ("made", act.Now), ("account", act.Who.Account), ("who", act.Who.Name), ("kind", act.Kind.ToString()),
            ("sentence", act.Says(new ActTally(tally.Item1, fields))), ("photos", tally.Item1), ("lead", tally.Item2),
            ("within", act.Within?.Value), ("undoes", act.Undoes?.Value));
        if (act.Undoes is { } undone)
        {
            // Only now is it sure that anything was taken back. What that act had taken back itself stands again, and may be taken back again.
            await act.RunAsync("update act set undone_by = @act where id = @id", ct, ("act", act.Id.Value), ("id", undone.Value));
            await act.RunAsync("update act set undone_by = null where id = (select u.undoes from act as u where u.id = @id)", ct, ("id", undone.Value));
        }

        if (act.Within is null)
        {
            // What is part of a larger act is seen in the figures; a tab that reads everything again for each arrival would do nothing else.
            await act.RunAsync($"notify {Channel}", ct);
        }

        return new Done(act.Id, tally.Item1, act.Lacking);
    }

    /// <summary>
    /// What several statements of the act changed is one change: from what it was before the first to what it is after the last.
    /// What was made and taken away again, or changed and changed back, is none.
    /// </summary>
    static Task<int> FoldAsync(Act act, CancellationToken ct) => act.RunAsync(
        """
        with twice as materialized (
          select kind, thing, other from act_change where act = @act group by kind, thing, other having count(*) > 1),
        steps as (
          delete from act_change as c
           using twice as t
           where c.act = @act and c.kind = t.kind and c.thing = t.thing and c.other is not distinct from t.other
          returning c.kind, c.thing, c.other, c.before, c.after, c.step),
        ends as (
          select kind, thing, other,
                 (array_agg(before is null order by step))[1] as made,
                 (array_agg(after is null order by step desc))[1] as taken
            from steps
           group by kind, thing, other),
        befores as (
          select s.kind, s.thing, s.other, jsonb_object_agg(f.key, f.value order by s.step desc) as fields
            from steps as s
           cross join jsonb_each(s.before) as f
           group by s.kind, s.thing, s.other),
        afters as (
          select s.kind, s.thing, s.other, jsonb_object_agg(f.key, f.value order by s.step) as fields
            from steps as s
           cross join jsonb_each(s.after) as f
           group by s.kind, s.thing, s.other),
        whole as (
          select e.kind, e.thing, e.other, e.made, e.taken, coalesce(b.fields, '{}') as before, coalesce(a.fields, '{}') as after,
                 array(select f.key from jsonb_each(a.fields) as f where f.value is distinct from b.fields -> f.key) as differ
            from ends as e
            left join befores as b on b.kind = e.kind and b.thing = e.thing and b.other is not distinct from e.other
            left join afters as a on a.kind = e.kind and a.thing = e.thing and a.other is not distinct from e.other)
        insert into act_change (act, kind, thing, other, before, after)
        select @act, w.kind, w.thing, w.other,
               case
                 when w.made then null
                 when w.taken then w.before
                 else (select jsonb_object_agg(f.key, f.value)
                         from jsonb_each(w.before) as f
                        where f.key = any(w.differ) or substring(f.key from '^said\.(.*)$') = any(w.differ)) end,
               case
                 when w.taken then null
                 when w.made then w.after
                 else (select jsonb_object_agg(f.key, f.value) from jsonb_each(w.after) as f where f.key = any(w.differ)) end
          from whole as w
         where not (w.made and w.taken) and (w.made or w.taken or cardinality(w.differ) > 0)
        """,
        ct, ("act", act.Id.Value));

    static async Task<IReadOnlyList<string>> FieldsAsync(Act act, CancellationToken ct)
    {
        await using var read = act.Command(
                """
                select distinct f.key
                  from act_change as c cross
                  join jsonb_object_keys(c.after) as f(key)
                 where c.act = @act and c.before is not null and c.other is null
                 order by 1
                """,
            ("act", act.Id.Value));
        return await read.AllAsync(r => r.GetString(0), ct);
    }

    /// <summary>Words typed in one go are one act: what the same person wrote on this thing a moment ago becomes part of this act.</summary>
    static async Task AbsorbAsync(Act act, Guid thing, CancellationToken ct)
    {
        await using var find = act.Command(
            """
            select a.id
              from act as a
             where a.id = (select c.act from act_change as c where c.thing = @thing and c.act <> @act order by c.act desc limit 1)
               and a.account = @account::uuid
               and a.kind = @kind
               and a.made > @since
               and a.undone_by is null
               and a.undoes is null
               and not exists (select from act_change as c where c.act = a.id
                 and (c.thing <> @thing or c.other is not null or c.before is null or c.after is null))
               and not exists (select from act_change as c where c.act = @act
                 and (c.thing <> @thing or c.other is not null or c.before is null or c.after is null))
               for update
            """,
            ("thing", thing), ("act", act.Id.Value), ("account", act.Who.Account), ("kind", act.Kind.ToString()), ("since", act.Now - ActKinds.OneGo));
        if (await find.ExecuteScalarAsync(ct) is not Guid earlier)
        {
            return;
        }

        await act.RunAsync(
            """
            update act_change as n
               set before = n.before || o.before, after = o.after || n.after
              from act_change as o
             where n.act = @act and o.act = @earlier and n.kind = o.kind
            """,
            ct, ("act", act.Id.Value), ("earlier", earlier));
        // What was typed and then typed back is no change.
        await act.RunAsync(
            """
            update act_change as n
               set before = coalesce((select jsonb_object_agg(b.key, b.value) from jsonb_each(n.before) as b where b.value is distinct
                 from n.after -> b.key), '{}'),
                   after = coalesce((select jsonb_object_agg(a.key, a.value) from jsonb_each(n.after) as a where a.value is distinct
                     from n.before -> a.key), '{}')
             where n.act = @act
            """,
            ct, ("act", act.Id.Value));
        await act.RunAsync("delete from act_change where act = @act and after = '{}'", ct, ("act", act.Id.Value));
        await act.RunAsync("delete from act_change where act = @earlier", ct, ("earlier", earlier));
        await act.RunAsync("delete from act where id = @earlier", ct, ("earlier", earlier));
    }
}
