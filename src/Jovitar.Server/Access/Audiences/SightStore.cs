using Jovitar.Core.Access;
using Jovitar.Core.Watermarks;
using Jovitar.Server.Access.Entries;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.Extensions.Caching.Memory;
using Npgsql;

namespace Jovitar.Server.Access.Audiences;

/// <summary>Says where those who ask stand before the gates: it knows them from a moment ago, and from now on where anything was done here.</summary>
internal sealed class SightStore(NpgsqlDataSource db, ActRunner acts, TimeProvider clock) : IDisposable
{
    /// <summary>What others do, and what a time does that comes, is seen after this.</summary>
    static readonly TimeSpan Kept = TimeSpan.FromSeconds(1);

    /// <summary>What everyone meets at a moment.</summary>
    sealed record Snapshot(long Acts, DateTimeOffset At, Sight Everyone);

    readonly MemoryCache holders = new(new MemoryCacheOptions { SizeLimit = 50_000 });
    readonly SemaphoreSlim reading = new(1);
    Snapshot? known;

    /// <summary>Where everyone stands who holds nothing.</summary>
    public async ValueTask<Sight> EveryoneAsync(CancellationToken ct) => (await SnapshotAsync(ct)).Everyone;

    /// <summary>Where the visitor stands who asks. What they get then, and not everyone, nothing between may keep, nor their browser.</summary>
    public async ValueTask<Sight> OfAsync(HttpContext http, CancellationToken ct)
    {
        if (Known(http) is { } known)
        {
            return known;
        }

        var sight = await LookAsync(http, ct);
        if (!sight.IsEveryone)
        {
            http.Items[typeof(Sight)] = sight;
            KeepNowhere(http);
        }

        return sight;
    }

    /// <summary>Where the visitor stands by now, for an answer that takes long: who was let go meanwhile stands where everyone does.</summary>
    public async ValueTask<Sight> AgainAsync(HttpContext http, CancellationToken ct)
    {
        if (Known(http) is { IsSeenAs: true } seen)
        {
            return seen;
        }

        var snapshot = await SnapshotAsync(ct);
        var member = http.User.Member();
        return await StandingAsync(http, snapshot, member is { } account && await IsMemberAsync(account, ct) ? member : null, ct);
    }

    async Task<bool> IsMemberAsync(Guid account, CancellationToken ct)
    {
        await using var command = db.Command("select 1 from account where id = @account and role = 'Member'", ("account", account));
        return await command.ExecuteScalarAsync(ct) is not null;
    }

    /// <param name="member">Who is signed in; null for nobody.</param>
    async ValueTask<Sight> StandingAsync(HttpContext http, Snapshot snapshot, Guid? member, CancellationToken ct)
    {
        var holder = snapshot.Everyone.Gates.All.Count == 0 ? null : EntryCookie.Holder(http.Request);
        return member is null && holder is null ? snapshot.Everyone : await SomebodyAsync(snapshot, member, holder, ct);
    }

    static Sight? Known(HttpContext http) => http.Items.TryGetValue(typeof(Sight), out var found) ? (Sight)found! : null;

    /// <summary>Has staff who ask stand where somebody else does, for this request.</summary>
    /// <returns>Who that is, within a sentence; null where there is nobody like that any more.</returns>
    public async Task<string?> StandAsAsync(HttpContext http, SeenAs wanted, CancellationToken ct)
    {
        var snapshot = await SnapshotAsync(ct);
        await using var command = db.Command(
            $$"""
            select e.name, array[e.thing] as holds, '{}'::uuid[] as groups
              from entry as e
             where e.id = @who and @kind = 'Holder' and {{EntryStore.IsGood}}
            union all
            select name, '{}', array[id] from member_group where id = @who and @kind = 'Group'
            union all
            select a.name, '{}', array(select m."group" from member_of as m where m.account = a.id)
              from account as a
             where a.id = @who and a.role = 'Member' and @kind = 'Person'
            union all
            select '', '{}', '{}' where @kind in ('Anybody', 'Member')
            """,
            ("who", wanted.Who), ("kind", wanted.Kind.ToString()), ("now", snapshot.At));
        if (await command.FirstAsync(r => Tuple.Create(r.Get<string>("name"), r.Get<Guid[]>("holds"), r.Get<Guid[]>("groups")), ct) is not var (name, holds, groups))
        {
            return null;
        }

        var viewer = wanted.Kind is VisitorKind.Anybody or VisitorKind.Holder ? Viewer.Nobody with { Holds = holds.ToHashSet() } : Alike.Member(wanted.Who, groups);
        http.Items[typeof(Sight)] = Sight.Of(viewer, snapshot.Everyone.Gates, snapshot.At, snapshot.Everyone) with
        {
            IsSeenAs = true,
            Member = wanted.Kind == VisitorKind.Person ? wanted.Who : null,
            Held = [.. holds.Select(thing => new HeldEntry(wanted.Who, thing))],
        };
        KeepNowhere(http);
        return wanted.Said(name);
    }

    /// <summary>The same for who finds out whether the answer is for everyone all the same, and says by <see cref="KeepNowhere"/> where it is not.</summary>
    public async ValueTask<Sight> LookAsync(HttpContext http, CancellationToken ct)
    {
        if (Known(http) is { } known)
        {
            return known;
        }

        return await StandingAsync(http, await SnapshotAsync(ct), http.User.Member(), ct);
    }

    /// <summary>Says of an answer that it is for few.</summary>
    public static void KeepNowhere(HttpContext http) => http.Response.OnStarting(() =>
    {
        http.Response.Headers.CacheControl = "private, no-store";
        http.Response.Headers.Append("Vary", "Cookie");
        return Task.CompletedTask;
    });

    /// <param name="member">Who is signed in; null for nobody.</param>
    /// <param name="holder">What their browser shows; null for nothing.</param>
    async Task<Sight> SomebodyAsync(Snapshot snapshot, Guid? member, byte[]? holder, CancellationToken ct)
    {
        var key = (member, Convert.ToHexStringLower(holder ?? []), snapshot.Acts, snapshot.Everyone.Key);
        if (holders.TryGetValue(key, out Sight? kept))
        {
            return kept!;
        }

        var holds = holder is null ? [] : await HoldsAsync(holder, snapshot.At, ct);
        var viewer = member is { } account ? Alike.Member(account, await GroupsAsync(account, ct)) : Viewer.Nobody;
        var sight = Sight.Of(viewer with { Holds = holds.Select(h => h.Thing).ToHashSet() }, snapshot.Everyone.Gates, snapshot.At, snapshot.Everyone) with { Member = member, Held = holds };
        return holders.Set(key, sight, new MemoryCacheEntryOptions { Size = 1, AbsoluteExpirationRelativeToNow = Kept });
    }

    /// <summary>What a browser came in with and is good, the latest first.</summary>
    async Task<IReadOnlyList<HeldEntry>> HoldsAsync(byte[] holder, DateTimeOffset now, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select e.id, e.thing
              from entry_use as u
              join entry as e on e.id = u.entry
             where u.holder = @holder and u.at > @since and {EntryStore.IsGood}
             order by u.at desc, e.id
            """,
            ("holder", holder), ("now", now), ("since", now - EntryCookie.Life));
        return await command.AllAsync(r => new HeldEntry(r.Get<Guid>("id"), r.Get<Guid>("thing")), ct);
    }

    /// <summary>The groups that a member is in.</summary>
    async Task<IReadOnlyList<Guid>> GroupsAsync(Guid member, CancellationToken ct)
    {
        await using var command = db.Command("select \"group\" from member_of where account = @member", ("member", member));
        return await command.AllAsync(r => r.Get<Guid>("group"), ct);
    }

    /// <summary>The same gates with what the groups and members are called that they are for.</summary>
    async Task<IEnumerable<Gate>> CalledAsync(IReadOnlyList<Gate> gates, CancellationToken ct)
    {
        var called = await CalledAsync(gates.SelectMany(g => g.Audience.Chosen), ct);
        return called.Count == 0 ? gates : gates.Select(g => g with { Called = [.. g.Audience.Chosen.Select(called.GetValueOrDefault).OfType<Chosen>()] });
    }

    async Task<Dictionary<Guid, Chosen>> CalledAsync(IEnumerable<Guid> chosen, CancellationToken ct)
    {
        Guid[] ids = [.. chosen.Distinct()];
        if (ids.Length == 0)
        {
            return [];
        }

        await using var command = db.Command(AudienceStore.ChosenOf, ("ids", ids));
        return (await command.AllAsync(AudienceStore.ReadChosen, ct)).ToDictionary(c => c.Id);
    }

    /// <summary>What has photos with the watermark, where there is one.</summary>
    async Task<MarkList> MarksAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            """
            with marking as (
              select @site as id, 'site' as kind, '' as name, unmarked, unmarked_for from watermark
              union all
              select id, 'album', working_name, unmarked, unmarked_for from album where binned is null
              union all
              select id, 'category', name, unmarked, unmarked_for from category where binned is null)
            select m.*, w.key
              from marking as m
             cross join watermark as w
             where m.unmarked <> 'Everyone' and w.key <> ''
            """,
            ("site", Mark.Site));
        var all = await command.AllAsync(
            r => (Key: r.Get<string>("key"), Mark: new Mark(r.Get<Guid>("id"), r.Get<string>("kind"), r.Get<string>("name"), new Whom(Enum.Parse<ForWhom>(r.Get<string>("unmarked"))) { Chosen = r.Get<Guid[]>("unmarked_for") })), ct);
        if (all.Count == 0)
        {
            return MarkList.None;
        }

        var called = await CalledAsync(all.SelectMany(m => m.Mark.Spared.Chosen), ct);
        return new MarkList(all[0].Key, all.Select(m => m.Mark with { Called = [.. m.Mark.Spared.Chosen.Select(called.GetValueOrDefault).OfType<Chosen>()] }));
    }

    /// <summary>What albums and categories reserve.</summary>
    async Task<ReserveList> ReservesAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            """
            select id, 'album' as kind, working_name as name, reserves::text from album where reserves <> '{}' and binned is null
            union all
            select id, 'category', name, reserves::text from category where reserves <> '{}' and binned is null
            """);
        var all = await command.AllAsync(r => new Reserve(r.Get<Guid>("id"), r.Get<string>("kind"), r.Get<string>("name"), ReservedText.Read(r.Get<string>("reserves"))), ct);
        var called = all.Count == 0 ? [] : await CalledAsync(all.SelectMany(r => r.For.Chosen), ct);
        return all.Count == 0 ? ReserveList.None : new ReserveList(all.Select(r => r with { Called = [.. r.For.Chosen.Select(called.GetValueOrDefault).OfType<Chosen>()] }));
    }

    bool IsGood(Snapshot? snapshot) => snapshot is not null && snapshot.Acts == acts.Finished && clock.GetUtcNow() - snapshot.At is var age && age >= TimeSpan.Zero && age < Kept;

    async ValueTask<Snapshot> SnapshotAsync(CancellationToken ct)
    {
        if (Volatile.Read(ref known) is var there && IsGood(there))
        {
            return there!;
        }

        await reading.WaitAsync(ct);
        try
        {
            if (IsGood(known))
            {
                return known!;
            }

            var (finished, now) = (acts.Finished, clock.GetUtcNow());
            await using var command = db.CreateCommand(
                """
                select id, 'page' as kind, page_title(coalesce(published, draft)) as name, audience, seen_from, seen_until, chosen
                  from page
                 where is_gate
                union all
                select id, 'album', working_name, audience, seen_from, seen_until, chosen from album where is_gate
                union all
                select id, 'category', name, audience, seen_from, seen_until, chosen from category where is_gate
                union all
                select g.id, 'photo', '', g.audience, g.seen_from, g.seen_until, g.chosen
                  from photo_gate as g
                 where exists (select from photo as p where p.own_gate = g.id)
                """);
            var all = await command.AllAsync(r => new Gate(r.Get<Guid>("id"), r.Get<string>("kind"), r.Get<string>("name"), AudienceStore.Read(r)), ct);
            var gates = new GateList(await CalledAsync(all, ct), await MarksAsync(ct), await ReservesAsync(ct));
            var snapshot = new Snapshot(finished, now, Sight.Of(Viewer.Nobody, gates, now));
            Volatile.Write(ref known, snapshot);
            return snapshot;
        }
        finally
        {
            reading.Release();
        }
    }

    public void Dispose()
    {
        holders.Dispose();
        reading.Dispose();
    }
}
