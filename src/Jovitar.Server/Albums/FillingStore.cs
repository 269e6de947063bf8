using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Albums;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Photos;
using Jovitar.Server.Acts;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Albums;

/// <summary>An album that keeps itself.</summary>
internal sealed record KeepingItself(AlbumId Id, Filling Filling, long Version);

/// <summary>How albums keep themselves: what is said of it, and what follows.</summary>
internal sealed class FillingStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>Told when there may be something to fill.</summary>
    public const string Channel = "album_filling";

    static readonly Actor Worker = Actor.Worker("Albums");

    public static Filling Read(NpgsqlDataReader r) => InOrder(new Filling(
        r.MaybeText("rule") is { } rule ? SheetAddress.Read(rule).Narrowing : null, r.Maybe<int>("most") ?? Filling.Largest, Enum.Parse<SheetSort>(r.Get<string>("sort"), ignoreCase: true), r.Get<bool>("reversed")));

    /// <summary>What was asked for.</summary>
    public static Filling Read(AlbumFilling asked) => InOrder(new Filling(asked.Search is { } search ? SheetAddress.Read(search).Narrowing : null, asked.Most, asked.Sort, asked.Reversed));

    public static AlbumFilling Line(Filling filling) => new(filling.Rule?.ToString(), filling.Rule is null ? Filling.Largest : filling.Most, filling.Sort, filling.Reversed);

    /// <summary>A rule has its photos in an order, for the largest number goes by it.</summary>
    static Filling InOrder(Filling filling) => filling is { Rule: not null, Sort: SheetSort.Place } ? filling with { Sort = SheetSort.Taken } : filling;

    /// <summary>Says how an album keeps itself. One that is picked by hand from now on keeps what it holds.</summary>
    /// <returns>Besides the outcome: why it cannot be so, a sentence, when it cannot.</returns>
    public async Task<(AlbumOutcome Outcome, string? Fault, Done Done)> SayAsync(Actor who, AlbumId id, Filling filling, long expected, CancellationToken ct)
    {
        var ((outcome, fault), done) = await acts.RunAsync<(AlbumOutcome, string?)>(
            who, ActKind.Filling,
            async act =>
            {
                var (taken, name) = await AlbumStore.TakeAsync(act, id, expected, ct);
                if (taken != AlbumOutcome.Written)
                {
                    return act.Drop<(AlbumOutcome, string?)>((taken, null));
                }

                if (filling.Rule is { } rule && await FaultAsync(act, id, rule, ct) is { } fault)
                {
                    return act.Drop<(AlbumOutcome, string?)>((AlbumOutcome.Written, fault));
                }

                await using var find = act.Command("select rule is not null from album where id = @id", ("id", id.Value));
                var had = (bool)(await find.ExecuteScalarAsync(ct))!;
                act.Says = _ => Core.Acts.ActWords.Filling(name, filling.Rule is not null, had);
                await WriteAsync(act, id, filling, ct);
                return (AlbumOutcome.Written, null);
            },
            ct);
        return (outcome, fault, done);
    }

    /// <summary>Writes how a locked album keeps itself.</summary>
    public static async Task WriteAsync(Act act, AlbumId id, Filling filling, CancellationToken ct)
    {
        if (filling.Sort != SheetSort.Place)
        {
            await act.RunAsync(
                "update album_photo as ap set by_hand = ap.place from album as a where a.id = @id and a.sort = 'place' and ap.album = a.id", ct, ("id", id.Value));
        }

        await act.RunAsync(
            """
            update album
               set filling_act = case
                     when (rule, most, sort, reversed) is distinct from (@rule::text, @most::int, @sort, @reversed) then @act
                     else filling_act end,
                   rule = @rule::text, most = @most::int, sort = @sort, reversed = @reversed, version = version + 1
             where id = @id
            """,
            ct,
            ("id", id.Value), ("act", act.Id.Value), ("rule", filling.Rule?.ToString()), ("most", filling.Rule is null ? null : filling.Most),
            ("sort", filling.Sort.ToString().ToLowerInvariant()), ("reversed", filling.Sort != SheetSort.Place && filling.Reversed));
        if (filling.Rule is null)
        {
            await act.RunAsync("update album_photo set said_by = @person where album = @id and said_by = @rule", ct, ("id", id.Value), ("person", Said.Person), ("rule", Said.Rule));
            await act.RunAsync("delete from album_without where album = @id", ct, ("id", id.Value));
        }
    }

    /// <summary>Why an album cannot be filled by a rule; null when it can.</summary>
    public static async Task<string?> FaultAsync(Act act, AlbumId id, Narrowing rule, CancellationToken ct)
    {
        // Two who fill albums from each other at once would otherwise not see it.
        await act.RunAsync("select pg_advisory_xact_lock(@work)", ct, ("work", Alone.SayingRules));
        await using var command = act.Command("select id, working_name, rule from album where rule is not null and binned is null and id <> @id", ("id", id.Value));
        return Filling.Fault(
            id.Value, rule, await command.AllAsync(r => (r.Get<Guid>("id"), r.Get<string>("working_name"), SheetAddress.Read(r.Get<string>("rule")).Narrowing), ct));
    }

    /// <summary>Lets photos that are held out of an album in again, if its rule finds them.</summary>
    public async Task<(AlbumOutcome Outcome, Done Done)> LetInAsync(Actor who, AlbumId id, IReadOnlyList<PhotoId> photos, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.PutIn,
        async act =>
        {
            var (taken, name) = await AlbumStore.TakeAsync(act, id, null, ct);
            if (taken != AlbumOutcome.Written)
            {
                return act.Drop(taken);
            }

            act.Says = tally => Core.Acts.ActWords.LetIn(tally, name);
            await LetInAsync(act, id, photos, ct);
            await act.RunAsync("update album set version = version + 1 where id = @id", ct, ("id", id.Value));
            return taken;
        },
        ct);

    public static Task<int> LetInAsync(Act act, AlbumId id, IReadOnlyList<PhotoId> photos, CancellationToken ct) =>
        act.RunAsync("delete from album_without where album = @id and photo = any(@photos)", ct, ("id", id.Value), ("photos", photos.Values()));

    /// <summary>Photos held out of an album, the first of them.</summary>
    public async Task<IReadOnlyList<PhotoId>> WithoutAsync(AlbumId id, int most, CancellationToken ct)
    {
        await using var command = db.Command("select photo from album_without where album = @id order by photo limit @most", ("id", id.Value), ("most", most));
        return await command.AllAsync(r => new PhotoId(r.GetGuid(0)), ct);
    }

    /// <summary>Albums that keep themselves. One whose rule asks for another of them is left as it is: the two might never come to rest.</summary>
    public async Task<IReadOnlyList<KeepingItself>> AllAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            """
            select id, rule, most, sort, reversed, version
              from album
             where (rule is not null or sort <> 'place') and binned is null
            """);
        var all = await command.AllAsync(r => new KeepingItself(new AlbumId(r.Get<Guid>("id")), Read(r), r.Get<long>("version")), ct);
        var filled = all.Where(a => a.Filling.Rule is not null).Select(a => a.Id.Value).ToHashSet();
        return [.. all.Where(a => a.Filling.Rule is not { } rule || !Filling.Asks(rule).Any(filled.Contains))];
    }

    /// <summary>Which of some albums hold any of some photos, or had something taken out of them since this was asked last.</summary>
    public async Task<IReadOnlySet<AlbumId>> TouchedAsync(IReadOnlyCollection<AlbumId> albums, Guid[] photos, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            with room as (
              delete from album_touched returning album)
            select album from room
            union
            select album from album_photo where photo = any(@photos) and album = any(@albums)
            """,
            ("photos", photos), ("albums", albums.Select(a => a.Value).ToArray()));
        return (await command.AllAsync(r => new AlbumId(r.GetGuid(0)), ct)).ToHashSet();
    }

    /// <summary>Brings an album to what its rule finds and its order says now. What it writes is part of the act that said so.</summary>
    /// <returns>Whether it wrote anything.</returns>
    public async Task<bool> FillAsync(AlbumId id, PhotoIndex index, CancellationToken ct)
    {
        var (_, done) = await acts.RunAsync(
            Worker, ActKind.Filled,
            async act =>
            {
                await using var take = act.Command(
                    """
                    select working_name, rule, most, sort, reversed, (select act.id from act where act.id = filling_act) as said
                      from album
                     where id = @id and binned is null
                       for no key update
                    """,
                    ("id", id.Value));
                if (await take.FirstAsync(r => Tuple.Create(r.Get<string>("working_name"), Read(r), r.MaybeId("said")), ct) is not var (name, filling, said) || filling is { Rule: null, Sort: SheetSort.Place })
                {
                    return act.Drop(false);
                }

                await using var without = act.Command("select photo from album_without where album = @id", ("id", id.Value));
                var held = (await without.AllAsync(r => r.GetGuid(0), ct)).ToHashSet();
                await using var stand = act.Command("select photo, place, said_by from album_photo where album = @id order by place, photo", ("id", id.Value));
                var before = await stand.AllAsync(r => (Photo: r.Get<Guid>("photo"), Place: r.Get<long>("place"), IsByRule: r.Get<string>("said_by") == Said.Rule), ct);
                var (came, went) = await WriteAsync(act, id, before, Wanted(filling, index, held, before.Where(b => !b.IsByRule).Select(b => b.Photo).ToHashSet()), ct);
                if (came is null)
                {
                    return act.Drop(false);
                }

                act.Within = said is { } by ? new ActId(by) : null;
                act.Says = _ => Core.Acts.ActWords.Filled(name, came.Value, went);
                await act.RunAsync($"notify {ActRunner.Channel}", ct);
                return true;
            },
            ct);
        return done.Act is not null;
    }

    static IReadOnlyList<Guid> Wanted(Filling filling, PhotoIndex index, HashSet<Guid> held, HashSet<Guid> byHand)
    {
        var down = filling.Sort.Down(filling.Reversed);
        return index.InOrder(
            filling.Rule is { } rule ? filling.Holds(index.Window(rule, filling.Sort, down, 0, filling.Most + held.Count + byHand.Count).Photos, held, byHand) : byHand, filling.Sort, down);
    }

    /// <returns>How many came and went; null when everything stands as it should.</returns>
    static async Task<(int? Came, int Went)> WriteAsync(
        Act act, AlbumId id, List<(Guid Photo, long Place, bool IsByRule)> before, IReadOnlyList<Guid> wanted, CancellationToken ct)
    {
        var stood = before.ToDictionary(b => b.Photo, b => b.Place);
        var stays = wanted.ToHashSet();
        // What was put in by hand goes by hand; it may just not be known to the index yet.
        var gone = before.Where(b => b.IsByRule && !stays.Contains(b.Photo)).Select(b => b.Photo).ToArray();
        var places = Places.Assign([.. wanted.Select(p => new Standing<Guid>(p, stood.TryGetValue(p, out var place) ? place : null))]);
        if (gone.Length == 0 && places.Count == 0)
        {
            return (null, 0);
        }

        // Also those that only move: one that goes into the bin meanwhile must not be put back by that.
        await act.LockAsync("photo", places.Select(p => p.Thing), ct);
        await act.RunAsync("delete from album_photo where album = @id and photo = any(@gone)", ct, ("id", id.Value), ("gone", gone));
        await using var put = act.Command(
            """
            with put as (
              insert into album_photo (album, photo, place, said_by)
              select @id, p.id, m.place, @rule
                from unnest(@photos, @places) as m(photo, place)
                join photo as p on p.id = m.photo and p.binned is null
              on conflict (album, photo) do update set place = excluded.place
              returning photo)
            select count(*) from put where photo <> all(@stood)
            """,
            ("id", id.Value), ("photos", places.Select(p => p.Thing).ToArray()), ("places", places.Select(p => p.Place).ToArray()), ("rule", Said.Rule), ("stood", stood.Keys.ToArray()));
        return ((int)(long)(await put.ExecuteScalarAsync(ct))!, gone.Length);
    }
}
