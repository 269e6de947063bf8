using System.Net;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.Extensions.Caching.Memory;
using Npgsql;

namespace Jovitar.Server.Access;

/// <summary>Who a cookie's session belongs to.</summary>
internal sealed record SignedIn(Guid Session, Guid Account, string Name, Role Role);

/// <summary>A browser that is signed in.</summary>
/// <param name="Browser">What it calls itself.</param>
/// <param name="Here">It is the one that asks.</param>
internal sealed record SessionLine(Guid Id, string Browser, string Address, DateTimeOffset Made, DateTimeOffset Seen, bool Here);

/// <summary>Sessions are rows: listed, ended, gone with a changed password.</summary>
internal sealed class SessionStore(NpgsqlDataSource db, ActRunner acts, TimeProvider clock) : IDisposable
{
    /// <summary>
    /// A member's session that was good a moment ago is so still, unless anything was done here since: a page of theirs is a hundred
    /// pictures, each asked for with their cookie. What others end is ended after this; staff are looked up anew each time.
    /// </summary>
    static readonly TimeSpan Kept = TimeSpan.FromSeconds(1);

    readonly MemoryCache members = new(new MemoryCacheOptions { SizeLimit = 50_000 });

    /// <summary>A browser that is not used for so long is signed out.</summary>
    public static readonly TimeSpan Life = TimeSpan.FromDays(14);

    /// <summary>So exactly is kept when it was used last.</summary>
    static readonly TimeSpan SeenEvery = TimeSpan.FromMinutes(5);

    /// <summary>Only an owner is believed: what letters lead to, also those to owners, is never what an editor made up.</summary>
    const string NoteOrigin =
        """
        insert into known_origin (address, seen)
        select @origin, @now
         where @origin <> '' and exists (select from account where id = @account and role = 'Owner')
        on conflict (address) do update set seen = excluded.seen
        """;

    const int LongestBrowser = 200;
    const int MostListed = 100;

    /// <param name="origin">Where the site was reached.</param>
    public async Task<Guid> BeginAsync(Guid account, string browser, IPAddress? address, string origin, CancellationToken ct)
    {
        var id = Guid.NewGuid();
        var now = clock.GetUtcNow();
        await using var tx = await db.BeginAsync(ct);
        await tx.RunAsync(
            """
            insert into session (id, account, made, seen, expires, address, browser)
            values (@id, @account, @now, @now, @expires, @address, @browser)
            """,
            ct, ("id", id), ("account", account), ("now", now), ("expires", now + Life), ("address", address?.ToString() ?? ""), ("browser", Text.Cut(Text.Name(browser), LongestBrowser)));
        await tx.RunAsync("delete from session where expires < @now", ct, ("now", now));
        await tx.RunAsync(NoteOrigin, ct, ("account", account), ("origin", origin), ("now", now));
        await tx.CommitAsync(ct);
        return id;
    }

    /// <summary>Whose session this is; null when it was ended or has run out.</summary>
    /// <param name="origin">Where the site was reached; empty where that is not to be noted.</param>
    public async Task<SignedIn?> FindAsync(Guid id, string origin, CancellationToken ct)
    {
        var (now, finished) = (clock.GetUtcNow(), acts.Finished);
        if (members.TryGetValue(id, out (SignedIn Who, long Acts) known) && known.Acts == finished)
        {
            return known.Who;
        }

        await using var command = db.Command(
            """
            select s.seen, a.id as account, a.name, a.role
              from session as s
              join account as a on a.id = s.account
             where s.id = @id and s.expires > @now
            """,
            ("id", id), ("now", now));
        if (await command.FirstAsync(r => Tuple.Create(r.Get<DateTimeOffset>("seen"), new SignedIn(id, r.Get<Guid>("account"), r.Get<string>("name"), Enum.Parse<Role>(r.Get<string>("role")))), ct) is not var (seen, found))
        {
            return null;
        }

        if (now - seen > SeenEvery)
        {
            await using var note = db.Command("update session set seen = @now, expires = @expires where id = @id", ("id", id), ("now", now), ("expires", now + Life));
            await note.ExecuteNonQueryAsync(ct);
            await using var place = db.Command(NoteOrigin, ("account", found.Account), ("origin", origin), ("now", now));
            await place.ExecuteNonQueryAsync(ct);
        }

        return found.Role == Role.Member ? members.Set(id, (Who: found, Acts: finished), new MemoryCacheEntryOptions { Size = 1, AbsoluteExpirationRelativeToNow = Kept }).Who : found;
    }

    public async Task<IReadOnlyList<SessionLine>> ListAsync(Guid account, Guid here, CancellationToken ct)
    {
        await using var command = db.Command(
            "select id, browser, address, made, seen from session where account = @account and expires > @now order by seen desc limit @most",
            ("account", account), ("now", clock.GetUtcNow()), ("most", MostListed));
        return await command.AllAsync(
            r => new SessionLine(r.Get<Guid>("id"), r.Get<string>("browser"), r.Get<string>("address"), r.Get<DateTimeOffset>("made"), r.Get<DateTimeOffset>("seen"), r.Get<Guid>("id") == here), ct);
    }

    /// <summary>Ends a session of an account.</summary>
    /// <returns>False when it is not there, or not theirs.</returns>
    public async Task<bool> EndAsync(Guid account, Guid session, CancellationToken ct)
    {
        await using var command = db.Command("delete from session where id = @id and account = @account", ("id", session), ("account", account));
        var ended = await command.ExecuteNonQueryAsync(ct) == 1;
        members.Remove(session);
        return ended;
    }

    /// <summary>Ends all sessions of an account but one.</summary>
    public async Task EndOthersAsync(Guid account, Guid here, CancellationToken ct)
    {
        await using var command = db.Command("delete from session where account = @account and id <> @here returning id", ("account", account), ("here", here));
        foreach (var ended in await command.AllAsync(r => r.Get<Guid>("id"), ct))
        {
            members.Remove(ended);
        }
    }

    public void Dispose() => members.Dispose();
}
