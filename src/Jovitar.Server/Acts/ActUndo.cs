using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Acts;

/// <summary>A field that was left as it is because it was changed since.</summary>
/// <param name="Name">What the thing is called.</param>
/// <param name="Field">The field, in words.</param>
internal sealed record LeftAlone(string Name, string Field);

/// <summary>What taking an act back came to.</summary>
/// <param name="Left">Some of what was left alone; <paramref name="LeftCount"/> says how much it was.</param>
internal sealed record Undone(string Sentence, IReadOnlyList<LeftAlone> Left, int LeftCount);

/// <summary>Why an act is not taken back.</summary>
internal enum UndoRefusal
{
    None,
    Gone,
    AlreadyUndone,
    CannotBe,

    /// <summary>Something else has taken its place: an address, a name.</summary>
    InTheWay,
}

/// <summary>
/// Takes acts back: an act of its own that puts every field back to what it was before, as long as it still is what the act made
/// of it. What it works on is known from act_tracked alone, so that it holds for every kind of thing there is and will be.
/// </summary>
internal sealed class ActUndo(ActRunner acts)
{
    const int MostNamed = 12;

    /// <summary>In the order in which rows are locked; links come after both their ends.</summary>
    static readonly string[] Order = ["narrowing", "kept_settings", "price_list", "intake", "tag", "category", "album", "photo", "file", "page", "menu", "theme", "site", "person", "comment", "shop", "coupon", "sale_order"];

    /// <summary>What a thing is called, by kind.</summary>
    static readonly Dictionary<string, string> Names = new(StringComparer.Ordinal)
    {
        ["photo"] = "coalesce(nullif(t.title, ''), t.file_name)",
        ["album"] = "t.working_name",
        ["category"] = "t.name",
        ["tag"] = "t.name",
        ["page"] = "page_title(t.draft)",
        ["file"] = "t.file_name",
        ["intake"] = "'an intake'",
        ["narrowing"] = "t.name",
        ["kept_settings"] = "t.name",
        ["price_list"] = "t.name",
        ["menu"] = "'the menu'",
        ["theme"] = "'the look'",
        ["watermark"] = "'the watermark'",
        ["site"] = "'the site'",
        ["person"] = "t.name",
        ["shop"] = "'the shop'",
        ["coupon"] = "'the coupon ' || t.code",
        ["sale_order"] = "'order ' || t.number",
        ["comment"] = "'a comment of ' || t.name",
    };

    static readonly string[] AudienceFields = ["audience", "seen_from", "seen_until", "chosen"];
    static readonly string[] MarkingFields = ["unmarked", "unmarked_for"];

    /// <summary>Fields that say one thing together: where one of them was changed since, none of them goes back.</summary>
    static readonly Dictionary<string, string[][]> Together = new(StringComparer.Ordinal)
    {
        ["photo"] = [["clearance", "cleared_by", "cleared_until"]],
        ["person"] = [["says", "until", "said_by"]],
        ["page"] = [["published", "published_at", "number"], ["planned", "planned_at"], AudienceFields],
        ["album"] = [AudienceFields, MarkingFields, ["price_list", "unsold"]],
        ["price_list"] = [["currency", "options"]],
        ["category"] = [AudienceFields, MarkingFields],
        ["watermark"] = [["settings", "key"], MarkingFields],
        ["coupon"] = [["code", "content"]],
        ["sale_order"] = [["state", "paid"]],
    };

    /// <summary>The condition that a field, and what says one thing together with it, is what the act made of it: of a row <c>t</c>, a change <c>c</c> and what it led to, <c>a</c>.</summary>
    static string IsStill(string kind, string field)
    {
        var all = Together.GetValueOrDefault(kind)?.FirstOrDefault(g => g.Contains(field)) ?? [field];
        return string.Join(" and ", all.Select(f => $"(not c.before ? '{f}' or t.{f} is not distinct from a.{f})"));
    }

    /// <summary>What a thing of a kind is called, of a row called <c>t</c>.</summary>
    public static string NameOf(string kind) => Names[kind];

    /// <summary>A kind of thing whose changes are recorded, as act_tracked has it, with the fields that do not follow from others.</summary>
    sealed record Tracked(string Kind, string Thing, string? Other, string[] Fields, string[] Words, string? Gone, string[] Ends)
    {
        /// <summary>The condition that a row of the table is the one a change speaks of.</summary>
        public string Same => Other is null ? $"t.{Thing} = c.thing" : $"t.{Thing} = c.thing and t.{Other} = c.other";
    }

    public async Task<(UndoRefusal Refusal, Undone? Undone, Done Done)> UndoAsync(Actor who, ActId id, CancellationToken ct)
    {
        try
        {
            var ((refusal, undone), done) = await acts.RunAsync(who, ActKind.TookBack, act => UndoAsync(act, id, ct), ct);
            return (refusal, undone, done);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return (UndoRefusal.InTheWay, null, Done.Nothing);
        }
    }

    static async Task<(UndoRefusal, Undone?)> UndoAsync(Act act, ActId id, CancellationToken ct)
    {
        await using var find = act.Command("select kind, sentence, undone_by from act where id = @id for update", ("id", id.Value));
        var row = await find.FirstAsync(r => Tuple.Create(Enum.Parse<ActKind>(r.Get<string>("kind")), r.Get<string>("sentence"), r.MaybeId("undone_by")), ct);
        if (row is null)
        {
            return act.Drop<(UndoRefusal, Undone?)>((UndoRefusal.Gone, null));
        }

        var (kind, sentence, undoneBy) = row;
        if (undoneBy is not null || !ActKinds.CanUndo(kind))
        {
            return act.Drop<(UndoRefusal, Undone?)>((undoneBy is not null ? UndoRefusal.AlreadyUndone : UndoRefusal.CannotBe, null));
        }

        act.Undoes = id;
        act.Says = _ => ActWords.TookBack(sentence);
        var kinds = await TrackedAsync(act, id, ct);
        await LockAsync(act, id, kinds, ct);
        var left = new List<LeftAlone>();
        var leftCount = 0;
        if (kinds.Any(k => Addresses.Kinds.Contains(k.Kind)))
        {
            await Addresses.HoldAsync(act, ct);
        }

        foreach (var kept in Addresses.Kinds)
        {
            // Those whose address the act changed, too, get back the one they had before it.
            await using var binned = act.Command(
                "select thing from act_change where act = @id and kind = @kind and after ->> 'binned' is not null and not before ? 'address'", ("id", id.Value), ("kind", kept));
            await Addresses.FreeThoseBackAsync(act, kept, await binned.AllAsync(r => r.GetGuid(0), ct), ct);
        }

        foreach (var k in kinds)
        {
            leftCount += await LeftAloneAsync(act, id, k, left, ct);
            await FieldsBackAsync(act, id, k, ct);
            if (k.Other is null)
            {
                await UnmakeAsync(act, id, k, ct);
            }
        }

        if (kinds.Any(k => k.Kind == "category") && await IsKnottedAsync(act, ct))
        {
            return act.Drop<(UndoRefusal, Undone?)>((UndoRefusal.InTheWay, null));
        }

        foreach (var k in kinds.Where(k => k.Other is not null))
        {
            await UnlinkAsync(act, id, k, ct);
            await RelinkAsync(act, id, k, ct);
        }

        return (UndoRefusal.None, new Undone(sentence, left, leftCount));
    }

    /// <summary>Whether a category would stand beneath itself.</summary>
    static async Task<bool> IsKnottedAsync(Act act, CancellationToken ct)
    {
        await using var command = act.Command(
            """
            with recursive reached as (
              select id from category where parent is null
              union
              select c.id from category as c join reached as r on c.parent = r.id)
            select exists (select from category as c where not exists (select from reached as r where r.id = c.id))
            """);
        return (bool)(await command.ExecuteScalarAsync(ct))!;
    }

    static async Task<IReadOnlyList<Tracked>> TrackedAsync(Act act, ActId id, CancellationToken ct)
    {
        await using var command = act.Command(
            """
            select t.kind, t.thing, t.other, t.words, t.gone, coalesce(t.ends, '{}') as ends,
                   array(select f from unnest(t.fields) with ordinality as x(f, n) where f <> all(t.follows) order by n) as fields
              from act_tracked as t
             where exists (select from act_change as c where c.act = @id and c.kind = t.kind)
            """,
            ("id", id.Value));
        var all = await command.AllAsync(
            r => new Tracked(
                r.Get<string>("kind"), r.Get<string>("thing"), r.MaybeText("other"), r.Get<string[]>("fields"), r.Get<string[]>("words"), r.MaybeText("gone"), r.Get<string[]>("ends")),
            ct);
        return [.. all.OrderBy(k => (uint)Array.IndexOf(Order, k.Kind)).ThenBy(k => k.Kind, StringComparer.Ordinal)];
    }

    /// <summary>Locks what will be written: the things themselves, and the ends of links.</summary>
    static async Task LockAsync(Act act, ActId id, IReadOnlyList<Tracked> kinds, CancellationToken ct)
    {
        await using var binned = act.Command("select distinct thing from act_change where act = @id and after ->> 'binned' is not null", ("id", id.Value));
        var back = (await binned.AllAsync(r => r.GetGuid(0), ct)).ToArray();
        foreach (var table in Order)
        {
            var columns = kinds.Where(k => k.Kind == table).Select(k => (k.Kind, Column: "thing"))
                .Concat(kinds.Where(k => k.Ends.Contains(table)).Select(k => (k.Kind, Column: k.Ends.ElementAtOrDefault(0) == table ? "thing" : "other"))).ToArray();
            if (table == "category" && kinds.Any(k => k.Kind == "category"))
            {
                // Two who move categories at once could otherwise tie a loop.
                await act.RunAsync("lock table category in share row exclusive mode", ct);
            }

            if (back.Length > 0 && table is not ("intake" or "narrowing" or "kept_settings" or "price_list" or "coupon"))
            {
                await act.LockBackAsync(table, [], back, ct);
            }

            if (table == "album" && kinds.Any(k => k.Kind == "page"))
            {
                // A page stands on its album: neither goes or comes back without the other being looked at.
                await act.RunAsync(
                    """
                    select
                      from album
                     where id in (select p.album from page as p join act_change as c on c.act = @id and c.kind = 'page' and c.thing = p.id)
                     order by id
                       for no key update
                    """,
                    ct, ("id", id.Value));
            }

            foreach (var (kind, column) in columns)
            {
                await act.RunAsync(
                    $"select from {table} where id in (select {column} from act_change where act = @id and kind = @kind) order by id for no key update", ct,
                    ("id", id.Value), ("kind", kind));
            }
        }
    }

    /// <summary>Notes fields that are not any more what the act made of them.</summary>
    static async Task<int> LeftAloneAsync(Act act, ActId id, Tracked k, List<LeftAlone> left, CancellationToken ct)
    {
        var fields = string.Join(", ", k.Fields.Select(f => $"('{f}', not ({IsStill(k.Kind, f)}))"));
        var name = k.Other is null ? Names[k.Kind] : "''";
        await using var command = act.Command(
            $"""
            select {name} as name, f.field, count(*) over () as all
              from act_change as c
              join {k.Kind} as t on {k.Same}
             cross join lateral jsonb_populate_record(null::{k.Kind}, c.after) as a
             cross join lateral (values {fields}) as f(field, differs)
             where c.act = @id and c.kind = '{k.Kind}' and c.before is not null and c.after is not null
               and c.before ? f.field and f.differs
             limit {MostNamed}
            """,
            ("id", id.Value));
        var found = await command.AllAsync(r => (Left: new LeftAlone(r.Get<string>("name"), ActWords.Field(r.Get<string>("field"))), All: (int)r.Get<long>("all")), ct);
        left.AddRange(found.Select(f => f.Left).Take(MostNamed - left.Count));
        return found.Count == 0 ? 0 : found[0].All;
    }

    static async Task FieldsBackAsync(Act act, ActId id, Tracked k, CancellationToken ct)
    {
        var set = k.Fields.Select(f => $"{f} = case when c.before ? '{f}' and {IsStill(k.Kind, f)} then b.{f} else t.{f} end").ToList();
        if (k.Words.Length > 0)
        {
            // A word that goes back is again from where it was before.
            var origins = string.Join(" || ", k.Words.Select(
                f => $"case when c.before ? '{f}' and {IsStill(k.Kind, f)} then jsonb_build_object('{f}', coalesce(c.before -> 'said.{f}', 'null')) else '{{}}' end"));
            set.Add($"said = jsonb_strip_nulls(t.said || {origins})");
        }

        set.AddRange(Version(k.Kind));
        await act.RunAsync(
            $"""
            update {k.Kind} as t
               set {string.Join(",\n       ", set)}
              from act_change as c
             cross join lateral jsonb_populate_record(null::{k.Kind}, c.before) as b
             cross join lateral jsonb_populate_record(null::{k.Kind}, c.after) as a
             where c.act = @id and c.kind = '{k.Kind}' and c.before ?| @fields and c.after is not null and {k.Same}
            """,
            ct, ("id", id.Value), ("fields", k.Fields));
    }

    /// <summary>The column that tells others that what they have read is out of date.</summary>
    static IEnumerable<string> Version(string kind) => kind switch
    {
        "photo" or "album" or "category" or "narrowing" or "price_list" or "coupon" or "person" or "sale_order" => ["version = t.version + 1"],
        "page" or "menu" or "theme" or "watermark" or "shop" => ["edited = t.edited + 1"],
        _ => [],
    };

    /// <summary>What may have tags.</summary>
    static readonly string[] Tagged = ["photo", "album"];

    /// <summary>What the act made goes where what is thrown away goes.</summary>
    static async Task UnmakeAsync(Act act, ActId id, Tracked k, CancellationToken ct)
    {
        if (k.Gone is null)
        {
            return;
        }

        // A tag that others use by now stays.
        var used = k.Kind == "tag" ? string.Concat(Tagged.Select(l => $"and not exists (select from {l}_tag as pt where pt.tag = t.id and not exists (select from act_change as x where x.act = @id and x.kind = '{l}_tag' and x.thing = pt.{l} and x.other = pt.tag and x.before is null)) ")) : "";
        await act.RunAsync(
            $"""
            update {k.Kind} as t
               set {k.Gone} = @now
              from act_change as c
             where c.act = @id and c.kind = '{k.Kind}' and c.before is null and {k.Same} and t.{k.Gone} is null
               {used}
            """,
            ct, ("id", id.Value), ("now", act.Now));
    }

    static Task<int> UnlinkAsync(Act act, ActId id, Tracked k, CancellationToken ct) => act.RunAsync(
        $"delete from {k.Kind} as t using act_change as c where c.act = @id and c.kind = '{k.Kind}' and c.before is null and {k.Same}", ct, ("id", id.Value));

    /// <summary>Links what was linked, as far as both ends are here; where one is in the bin, the link is held until it comes back.</summary>
    static async Task RelinkAsync(Act act, ActId id, Tracked k, CancellationToken ct)
    {
        if (k.Ends is not [var one, var two])
        {
            return;
        }

        var fields = string.Join(", ", k.Fields);
        await act.RunAsync(
            $"""
            insert into {k.Kind} ({k.Thing}, {k.Other}, {fields})
            select c.thing, c.other, {string.Join(", ", k.Fields.Select(f => $"b.{f}"))}
              from act_change as c
              join {one} as one on one.id = c.thing and one.binned is null
              join {two} as two on two.id = c.other and two.binned is null
             cross join lateral jsonb_populate_record(null::{k.Kind}, c.before) as b
             where c.act = @id and c.kind = '{k.Kind}' and c.after is null
            on conflict do nothing
            """,
            ct, ("id", id.Value));
        await act.RunAsync(
            $"""
            insert into held (kind, thing, other, value)
            select c.kind, c.thing, c.other, c.before
              from act_change as c
              join {one} as one on one.id = c.thing
              join {two} as two on two.id = c.other
             where c.act = @id and c.kind = '{k.Kind}' and c.after is null and (one.binned is not null or two.binned is not null)
            on conflict (kind, thing, other) do update set value = excluded.value
            """,
            ct, ("id", id.Value));
    }
}
