using System.Net;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.People;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access.Entries;

/// <summary>An entry link or a passcode, as those have it who hand it out.</summary>
/// <param name="Name">For whom it is.</param>
/// <param name="Secret">What a passcode says; of a link what stands at the end of its address.</param>
/// <param name="Ends">Good until then; null for as long as it is not withdrawn.</param>
/// <param name="Most">So many browsers may come in with it; null for as many as there are.</param>
/// <param name="Uses">So many came in.</param>
/// <param name="IsGood">It lets in now whoever has it.</param>
public sealed record EntryLine(Guid Id, string Name, EntryKind Kind, string Secret, DateTimeOffset Made, string MadeBy, DateTimeOffset? Ends, int? Most, int Uses, DateTimeOffset? LastUsed, bool IsGood);

/// <summary>A browser that came in.</summary>
/// <param name="Network">Where it came from, shortened.</param>
internal sealed record EntryUse(DateTimeOffset At, string Browser, string Network);

/// <summary>How the making of an entry ended.</summary>
internal enum EntryOutcome
{
    Made,
    Gone,

    /// <summary>There are as many as there may be.</summary>
    Full,
}

/// <summary>What an entry opens.</summary>
/// <param name="Kind">"page", "album" or "category".</param>
/// <param name="Name">As visitors call it.</param>
internal sealed record EntryOpens(string Kind, Guid Thing, string Name);

/// <summary>What an entry link leads to.</summary>
/// <param name="Thing">The page, album or category.</param>
internal sealed record EntryFound(Guid Id, Guid Thing, string Kind);

/// <summary>Entry links and passcodes, and who came in with them.</summary>
internal sealed class EntryStore(NpgsqlDataSource db, ActRunner acts, TimeProvider clock)
{
    /// <summary>Where entry links are, from the site's root.</summary>
    public const string Path = "/enter";

    /// <summary>The condition that an entry called <c>e</c> lets its holders in.</summary>
    public const string IsGood = "e.revoked is null and (e.ends is null or e.ends > @now)";

    /// <summary>So many of one thing there are at once, those included that have ended and were not withdrawn.</summary>
    public const int MostOfOne = 200;

    const int MostUses = 200;
    const int LongestBrowser = 200;

    /// <summary>Those of a thing that were not withdrawn, the latest first.</summary>
    public async Task<IReadOnlyList<EntryLine>> ListAsync(Guid thing, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {Columns}
              from entry as e
             where e.thing = @thing and e.revoked is null
             order by e.made desc, e.id
            """,
            ("thing", thing), ("now", clock.GetUtcNow()));
        return await command.AllAsync(Read, ct);
    }

    /// <summary>One that was not withdrawn, with what it opens, as visitors call it; null when it is not there.</summary>
    public async Task<(EntryLine Line, EntryOpens Opens)?> SheetAsync(Guid entry, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {Columns}, e.thing, o.kind as of, o.called
              from entry as e
              join (
                select id, 'page' as kind, page_title(coalesce(published, draft)) as called from page where binned is null
                union all
                select id, 'album', coalesce(nullif(title, ''), working_name) from album where binned is null
                union all
                select id, 'category', name from category where binned is null) as o on o.id = e.thing
             where e.id = @entry and e.revoked is null
            """,
            ("entry", entry), ("now", clock.GetUtcNow()));
        return await command.FirstAsync(r => Tuple.Create(Read(r), new EntryOpens(r.Get<string>("of"), r.Get<Guid>("thing"), r.Get<string>("called"))), ct) is var (line, opens) ? (line, opens) : null;
    }

    const string Columns = $"e.id, e.name, e.kind, e.secret, e.made, e.made_by, e.ends, e.most, e.uses, e.last_used, {IsGood} and (e.most is null or e.uses < e.most) as is_good";

    static EntryLine Read(NpgsqlDataReader r) => new(
        r.Get<Guid>("id"), r.Get<string>("name"), Enum.Parse<EntryKind>(r.Get<string>("kind")), r.Get<string>("secret"), r.Get<DateTimeOffset>("made"), r.Get<string>("made_by"), r.Maybe<DateTimeOffset>("ends"),
        r.Maybe<int>("most"), r.Get<int>("uses"), r.Maybe<DateTimeOffset>("last_used"), r.Get<bool>("is_good"));

    /// <summary>Who came in with one, the latest first; null when it is not there.</summary>
    public async Task<IReadOnlyList<EntryUse>?> UsesAsync(Guid entry, CancellationToken ct)
    {
        await using var there = db.Command("select 1 from entry where id = @entry and revoked is null", ("entry", entry));
        if (await there.ExecuteScalarAsync(ct) is null)
        {
            return null;
        }

        await using var command = db.Command("select at, browser, network from entry_use where entry = @entry order by at desc limit @most", ("entry", entry), ("most", MostUses));
        return await command.AllAsync(r => new EntryUse(r.Get<DateTimeOffset>("at"), r.Get<string>("browser"), r.Get<string>("network")), ct);
    }

    /// <summary>Makes one.</summary>
    public async Task<EntryOutcome> MakeAsync(Actor who, AudienceOf of, string name, EntryKind kind, DateTimeOffset? ends, int? most, CancellationToken ct) => (await acts.RunAsync(
        who, ActKind.Entry,
        async act =>
        {
            await using var find = act.Command($"select {AudienceStore.NameOf(of.Kind)} from {AudienceStore.TableOf(of.Kind)} where id = @id and binned is null for no key update", ("id", of.Thing));
            if (await find.ExecuteScalarAsync(ct) is not string called)
            {
                return act.Drop(EntryOutcome.Gone);
            }

            await using var count = act.Command("select count(*) from entry where thing = @id and revoked is null", ("id", of.Thing));
            if ((long)(await count.ExecuteScalarAsync(ct))! >= MostOfOne)
            {
                return act.Drop(EntryOutcome.Full);
            }

            act.IsKept = true;
            act.Says = _ => AudienceWords.MadeEntry(kind, name, of.Kind, called);
            var secret = EntrySecret.New(kind);
            await act.RunAsync(
                """
                insert into entry (id, thing, name, kind, secret, hash, made, made_by, ends, most)
                values (@id, @thing, @name, @kind, @secret, @hash, @now, @by, @ends::timestamptz, @most::int)
                """,
                ct, ("id", Guid.CreateVersion7(act.Now)), ("thing", of.Thing), ("name", name), ("kind", kind.ToString()), ("secret", secret), ("hash", EntrySecret.Hash(kind, secret)), ("now", act.Now), ("by", act.Who.Name),
                ("ends", ends), ("most", most));
            return EntryOutcome.Made;
        },
        ct)).Answer;

    /// <summary>Withdraws one: nobody comes in with it any more, nor is anybody in who did.</summary>
    /// <returns>False when it is not there.</returns>
    public async Task<bool> RevokeAsync(Actor who, Guid entry, CancellationToken ct) => (await acts.RunAsync(
        who, ActKind.Entry,
        async act =>
        {
            await using var revoke = act.Command("update entry set revoked = @now where id = @entry and revoked is null returning name, kind", ("entry", entry), ("now", act.Now));
            if (await revoke.FirstAsync(r => Tuple.Create(r.Get<string>("name"), Enum.Parse<EntryKind>(r.Get<string>("kind"))), ct) is not var (name, kind))
            {
                return act.Drop(false);
            }

            act.IsKept = true;
            act.Says = _ => AudienceWords.WithdrewEntry(kind, name);
            return true;
        },
        ct)).Answer;

    /// <summary>What a link leads to; null for one that is not good, or was used as often as it may be by others.</summary>
    /// <param name="holder">Who asks; null for who shows nothing.</param>
    public async Task<EntryFound?> LinkAsync(string secret, byte[]? holder, CancellationToken ct) =>
        EntrySecret.Hash(EntryKind.Link, secret) is { } hash ? await FindAsync("e.kind = 'Link' and e.hash = @hash", holder, ct, ("hash", hash)) : null;

    /// <summary>The passcode of one of some things; null where there is no such.</summary>
    public async Task<EntryFound?> PasscodeAsync(string typed, IReadOnlyList<Guid> things, byte[]? holder, CancellationToken ct) =>
        EntrySecret.Hash(EntryKind.Passcode, typed) is { } hash ? await FindAsync("e.kind = 'Passcode' and e.hash = @hash and e.thing = any(@things)", holder, ct, ("hash", hash), ("things", things.ToArray())) : null;

    /// <summary>Whether a passcode lets in through the gates of some things.</summary>
    public async Task<bool> HasPasscodeAsync(IReadOnlyList<Guid> things, CancellationToken ct)
    {
        await using var command = db.Command(
            $"select exists (select from entry as e where e.thing = any(@things) and e.kind = 'Passcode' and {IsGood})",
            ("things", things.ToArray()), ("now", clock.GetUtcNow()));
        return (bool)(await command.ExecuteScalarAsync(ct))!;
    }

    async Task<EntryFound?> FindAsync(string which, byte[]? holder, CancellationToken ct, params (string, object?)[] parameters)
    {
        await using var command = db.Command(
            $"""
            select e.id, e.thing, case when pg.id is not null then 'page' when a.id is not null then 'album' else 'category' end as kind
              from entry as e
              left join page as pg on pg.id = e.thing and pg.binned is null
              left join album as a on a.id = e.thing and a.binned is null
              left join category as c on c.id = e.thing and c.binned is null
             where {which} and {IsGood} and coalesce(pg.id, a.id, c.id) is not null
               and (e.most is null or e.uses < e.most or exists (select from entry_use as u where u.entry = e.id and u.holder = @holder))
            """,
            [.. parameters, ("now", clock.GetUtcNow()), ("holder", holder ?? [])]);
        return await command.FirstAsync(r => new EntryFound(r.Get<Guid>("id"), r.Get<Guid>("thing"), r.Get<string>("kind")), ct);
    }

    /// <summary>Lets a browser in.</summary>
    /// <param name="before">What it showed; that is worth nothing from now on.</param>
    /// <returns>What it shows from now on; null when others have come in as often as they may, or it was withdrawn, since it was found.</returns>
    public Task<string?> EnterAsync(EntryFound entry, byte[]? before, string browser, IPAddress? address, CancellationToken ct) => Database.AgainAsync(
        async () =>
        {
            var (at, secret) = (clock.GetUtcNow(), LinkSecret.New());
            var now = LinkSecret.Hash(secret);
            await using var tx = await db.BeginAsync(ct);
            await using var find = tx.Command(
                $"""
                select e.most, e.uses, exists (select from entry_use as u where u.entry = e.id and u.holder = @before) as was_in
                  from entry as e
                 where e.id = @id and {IsGood}
                   for no key update
                """,
                ("id", entry.Id), ("before", before ?? []), ("now", at));
            if (await find.FirstAsync(r => Tuple.Create(r.Maybe<int>("most"), r.Get<int>("uses"), r.Get<bool>("was_in")), ct) is not var (most, uses, wasIn) || (!wasIn && uses >= most))
            {
                return null;
            }

            await tx.RunAsync("update entry_use set holder = @now where holder = @before", ct, ("now", now), ("before", before ?? []));
            if (wasIn)
            {
                await tx.RunAsync("update entry_use set at = @at where holder = @now and entry = @entry", ct, ("at", at), ("now", now), ("entry", entry.Id));
            }
            else
            {
                await tx.RunAsync(
                    "insert into entry_use (id, entry, holder, at, browser, network) values (@id, @entry, @now, @at, @browser, @network)",
                    ct, ("id", Guid.CreateVersion7(at)), ("entry", entry.Id), ("now", now), ("at", at), ("browser", Text.Cut(Text.Name(browser), LongestBrowser)), ("network", ShortAddress.Of(address)));
            }

            await tx.RunAsync("delete from entry_use where at < @over", ct, ("over", at - EntryCookie.Life));
            await tx.RunAsync("update entry set uses = uses + @came, last_used = @at where id = @entry", ct, ("came", wasIn ? 0 : 1), ("at", at), ("entry", entry.Id));
            await tx.CommitAsync(ct);
            return secret;
        },
        ct);

    /// <summary>Forgets what a browser shows: it leaves.</summary>
    public async Task LeaveAsync(byte[] holder, CancellationToken ct)
    {
        await using var command = db.Command("update entry_use set holder = sha256(holder || id::text::bytea) where holder = @holder", ("holder", holder));
        await command.ExecuteNonQueryAsync(ct);
    }
}
