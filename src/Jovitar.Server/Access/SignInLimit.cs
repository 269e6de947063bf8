using System.Net;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access;

/// <summary>
/// Counts tries at signing in before the password is looked at, in one statement, so that guesses made at the same moment all
/// count. By account and address together, by address, and by account; the last does not hold for an address from which this
/// account was signed in to, so that strangers elsewhere never lock its owner out.
/// </summary>
internal sealed class SignInLimit(NpgsqlDataSource db, TimeProvider clock)
{
    /// <summary>Tries a minute at one account from one address.</summary>
    public const int AtAccountFromAddress = 5;

    /// <summary>Tries a minute from one address, at whatever account: a class behind one line may sign in together.</summary>
    public const int FromAddress = 40;

    /// <summary>Tries a minute at one account from everywhere.</summary>
    public const int AtAccount = 20;

    static readonly TimeSpan Window = TimeSpan.FromMinutes(1);

    /// <summary>Counts a try.</summary>
    /// <returns>How long it must wait; null when the password may be looked at.</returns>
    public async Task<TimeSpan?> CountAsync(string email, IPAddress? address, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var command = db.Command(
            """
            with counted as (
              insert into sign_in_count as c (key, since, tries)
              select key, @now, 1
                from unnest(@keys) as key
               order by key
              on conflict (key) do update
                set tries = case when c.since <= @window then 1 else c.tries + 1 end,
                    since = case when c.since <= @window then excluded.since else c.since end
              returning key, since, tries)
            select c.key, c.since, c.tries,
                   exists (
                     select from session as s join account as a on a.id = s.account
                      where a.email_key = @email and s.address = @address) as known
              from counted as c
            """,
            ("keys", Keys(email, address)), ("now", now), ("window", now - Window), ("email", AccountStore.Key(email)), ("address", address?.ToString() ?? ""));
        var counted = await command.AllAsync(r => (Key: r.Get<string>("key"), Since: r.Get<DateTimeOffset>("since"), Tries: r.Get<int>("tries"), Known: r.Get<bool>("known")), ct);
        var over = counted.Where(c => c.Tries > Most(c.Key) && !(c.Key.StartsWith('e') && c.Known)).ToArray();
        return over.Length == 0 ? null : over.Max(c => c.Since) + Window - now;
    }

    /// <summary>The password was right: tries at this account from this address begin anew.</summary>
    public async Task ClearAsync(string email, IPAddress? address, CancellationToken ct)
    {
        await using var command = db.Command(
            "delete from sign_in_count where key = @key or since < @old", ("key", Keys(email, address)[0]), ("old", clock.GetUtcNow().AddHours(-1)));
        await command.ExecuteNonQueryAsync(ct);
    }

    static string[] Keys(string email, IPAddress? address) => [$"b {AccountStore.Key(email)} {address}", $"a {address}", $"e {AccountStore.Key(email)}"];

    static int Most(string key) => key[0] switch
    {
        'b' => AtAccountFromAddress,
        'a' => FromAddress,
        _ => AtAccount,
    };
}
