using Jovitar.Server.Acts;
using Jovitar.Server.Platform;

namespace Jovitar.Server.Bins;

/// <summary>
/// What follows when things go into the bin or come back, whoever does it: a page goes with its album, categories go with the one
/// above, and rows that link what went to others are held until both are back.
/// </summary>
internal sealed class BinListener : IActListener
{
    /// <summary>Tables of links: the column of one end and its table, the column of the other and its table, and their fields out of what is held.</summary>
    static readonly (string Table, string Thing, string One, string Other, string Two, string Fields, string Held)[] Links =
    [
        ("photo_tag", "photo", "photo", "tag", "tag", "said_by", "h.value ->> 'said_by'"),
        ("photo_category", "photo", "photo", "category", "category", "said_by", "h.value ->> 'said_by'"),
        ("album_photo", "album", "album", "photo", "photo", "place, said_by", "(h.value ->> 'place')::bigint, coalesce(h.value ->> 'said_by', 'person')"),
        ("album_without", "album", "album", "photo", "photo", "said_by", "h.value ->> 'said_by'"),
        ("album_category", "album", "album", "category", "category", "place, put_first, said_by", "(h.value ->> 'place')::bigint, (h.value ->> 'put_first')::boolean, h.value ->> 'said_by'"),
        ("album_tag", "album", "album", "tag", "tag", "said_by", "h.value ->> 'said_by'"),
        ("album_file", "album", "album", "file", "file", "place", "(h.value ->> 'place')::bigint"),
    ];

    /// <summary>What has a cover, and what a cover that waits is held as.</summary>
    static readonly (string Table, string HeldAs)[] Covered = [("category", "category_cover"), ("album", "cover")];

    sealed record Moved(string Kind, Guid Id);

    public async Task FollowAsync(Act act, IReadOnlySet<string> kinds, CancellationToken ct)
    {
        if (!BinStore.Kinds.Any(kinds.Contains))
        {
            return;
        }

        var went = await MovedAsync(act, "c.after ->> 'binned' is not null and c.before ->> 'binned' is null and c.before is not null", ct);
        if (went.Count > 0)
        {
            await WithThemAsync(act, went, ct);
            await HoldAsync(act, [.. went.Select(w => w.Id)], ct);
        }

        var back = await MovedAsync(act, "c.before ->> 'binned' is not null and c.after ? 'binned' and c.after ->> 'binned' is null", ct);
        if (back.Count > 0)
        {
            await BackWithThemAsync(act, back, ct);
            await LetGoAsync(act, [.. back.Select(b => b.Id)], ct);
        }

        if (kinds.Contains("category"))
        {
            await OutOfBinAsync(act, ct);
        }

        foreach (var covered in Covered.Where(c => kinds.Contains(c.Table)))
        {
            await HoldCoversAsync(act, covered, "t.id in (select c.thing from act_change as c where c.act = @act and c.after ? 'cover')", ct);
        }
    }

    /// <summary>A category that comes to stand beneath one in the bin stands at the top instead: it came back before that one, or was moved back to it.</summary>
    static Task<int> OutOfBinAsync(Act act, CancellationToken ct) => act.RunAsync(
        """
        update category as c
           set parent = null, version = c.version + 1
          from category as above
         where c.id in (select x.thing from act_change as x where x.act = @act and x.kind = 'category')
           and c.binned is null and above.id = c.parent and above.binned is not null
        """,
        ct, ("act", act.Id.Value));

    /// <summary>A cover in the bin waits until it is back.</summary>
    static async Task HoldCoversAsync(Act act, (string Table, string HeldAs) covered, string which, CancellationToken ct, params (string, object?)[] parameters)
    {
        await act.RunAsync(
            $"""
            insert into held (kind, thing, other, value)
            select '{covered.HeldAs}', t.id, t.cover, '{"{}"}'
              from {covered.Table} as t
              join photo as p on p.id = t.cover and p.binned is not null
             where {which}
            on conflict (kind, thing, other) do nothing
            """,
            ct, [("act", act.Id.Value), .. parameters]);
        await act.RunAsync(
            $"""
            update {covered.Table} as t
               set cover = null, version = t.version + 1
              from photo as p
             where p.id = t.cover and p.binned is not null
               and {which}
            """,
            ct, [("act", act.Id.Value), .. parameters]);
    }

    static async Task<List<Moved>> MovedAsync(Act act, string which, CancellationToken ct)
    {
        await using var command = act.Command(
            $"select c.kind, c.thing from act_change as c where c.act = @act and c.kind = any(@kinds) and {which}", ("act", act.Id.Value), ("kinds", BinStore.Kinds.ToArray()));
        return await command.AllAsync(r => new Moved(r.Get<string>("kind"), r.Get<Guid>("thing")), ct);
    }

    static Guid[] Of(IEnumerable<Moved> all, string kind) => [.. all.Where(m => m.Kind == kind).Select(m => m.Id)];

    /// <summary>Lists what went, and takes along what hangs on it.</summary>
    static async Task WithThemAsync(Act act, List<Moved> went, CancellationToken ct)
    {
        await NoteAsync(act, went, within: null, ct);
        foreach (var (kind, sql) in new[]
        {
            // A page that was made for an album and shows nothing else goes with it; others close the gap.
            ("page",
             """
             update page as pg
                set binned = @now
              where pg.album = any(@ids) and pg.binned is null
                and not exists (
                  select
                    from page_thing as pt
                   where pt.page = pg.id and pt.kind in ('album', 'photo', 'site') and pt.thing <> pg.album)
             returning pg.id, pg.album as within
             """),
            ("category",
             """
             with recursive beneath as (
               select c.id, c.parent as within from category as c where c.parent = any(@ids) and c.binned is null
               union
               select c.id, b.within from category as c join beneath as b on c.parent = b.id where c.binned is null)
             update category as c set binned = @now, version = version + 1 from beneath as b where c.id = b.id returning c.id, b.within
             """),
        })
        {
            var above = Of(went, kind == "page" ? "album" : "category");
            if (above.Length == 0)
            {
                continue;
            }

            await using var along = act.Command(sql, ("ids", above), ("now", act.Now));
            var more = await along.AllAsync(r => (Moved: new Moved(kind, r.Get<Guid>("id")), Within: r.Get<Guid>("within")), ct);
            foreach (var group in more.GroupBy(m => m.Within))
            {
                await NoteAsync(act, [.. group.Select(g => g.Moved)], group.Key, ct);
            }

            went.AddRange(more.Select(m => m.Moved));
        }
    }

    static Task<int> NoteAsync(Act act, IReadOnlyList<Moved> things, Guid? within, CancellationToken ct) => act.RunAsync(
        """
        insert into bin (kind, thing, binned, binned_by, act, within)
        select t.kind, t.thing, @now, @who, @act, @within::uuid
          from unnest(@kinds, @things) as t(kind, thing)
        on conflict (kind, thing) do update
          set binned = excluded.binned, binned_by = excluded.binned_by, act = excluded.act, within = excluded.within
        """,
        ct, ("kinds", things.Select(t => t.Kind).ToArray()), ("things", things.Select(t => t.Id).ToArray()), ("now", act.Now), ("who", act.Who.Name), ("act", act.Id.Value), ("within", within));

    /// <summary>Moves the links of what went to where they wait.</summary>
    static async Task HoldAsync(Act act, Guid[] ids, CancellationToken ct)
    {
        foreach (var link in Links)
        {
            await act.RunAsync(
                $"""
                with gone as (
                  delete from {link.Table} where {link.Thing} = any(@ids) or {link.Other} = any(@ids)
                  returning {link.Thing} as thing, {link.Other} as other, to_jsonb({link.Table}) as value)
                insert into held (kind, thing, other, value)
                select '{link.Table}', thing, other, value
                  from gone
                on conflict (kind, thing, other) do update set value = excluded.value
                """,
                ct, ("ids", ids));
        }

        foreach (var covered in Covered)
        {
            await HoldCoversAsync(act, covered, "t.cover = any(@ids)", ct, ("ids", ids));
        }
    }

    /// <summary>Brings back what went along, and what must be there for it.</summary>
    static async Task BackWithThemAsync(Act act, List<Moved> back, CancellationToken ct)
    {
        // A page stands on an album: they come back together.
        await using var albums = act.Command("select a.id from page as pg join album as a on a.id = pg.album where pg.id = any(@ids) and a.binned is not null", ("ids", Of(back, "page")));
        back.AddRange((await albums.AllAsync(r => new Moved("album", r.GetGuid(0)), ct)).Distinct());
        await using var along = act.Command("select b.kind, b.thing from bin as b where b.within = any(@ids)", ("ids", back.Select(b => b.Id).ToArray()));
        back.AddRange(await along.AllAsync(r => new Moved(r.Get<string>("kind"), r.Get<Guid>("thing")), ct));
        foreach (var kind in BinStore.Kinds)
        {
            await BinStore.UnmarkAsync(act, kind, Of(back, kind), ct);
        }

        await act.RunAsync("delete from bin where thing = any(@ids)", ct, ("ids", back.Select(b => b.Id).ToArray()));
    }

    /// <summary>Puts held links back whose two ends are both here.</summary>
    static async Task LetGoAsync(Act act, Guid[] ids, CancellationToken ct)
    {
        foreach (var link in Links)
        {
            // The other ends first: one that comes back or goes this very moment must be seen as it is then.
            await act.RunAsync(
                $"""
                select
                  from held as h
                  join {link.One} as one on one.id = h.thing
                  join {link.Two} as two on two.id = h.other
                 where h.kind = '{link.Table}' and (h.thing = any(@ids) or h.other = any(@ids))
                 order by one.id, two.id
                   for no key update of one, two
                """,
                ct, ("ids", ids));
            await act.RunAsync(
                $"""
                with back as (
                  delete from held as h
                   using {link.One} as one, {link.Two} as two
                   where h.kind = '{link.Table}' and (h.thing = any(@ids) or h.other = any(@ids))
                     and one.id = h.thing and one.binned is null and two.id = h.other and two.binned is null
                  returning h.thing, h.other, h.value)
                insert into {link.Table} ({link.Thing}, {link.Other}, {link.Fields})
                select h.thing, h.other, {link.Held}
                  from back as h
                on conflict do nothing
                """,
                ct, ("ids", ids));
        }

        foreach (var (table, heldAs) in Covered)
        {
            await act.RunAsync(
                $"""
                with back as (
                  delete from held as h
                   using {table} as t, photo as p
                   where h.kind = '{heldAs}' and (h.thing = any(@ids) or h.other = any(@ids))
                     and t.id = h.thing and t.binned is null and p.id = h.other and p.binned is null
                  returning h.thing, h.other)
                update {table} as t
                   set cover = b.other, version = t.version + 1
                  from back as b
                 where t.id = b.thing and t.cover is null
                """,
                ct, ("ids", ids));
        }
    }
}
