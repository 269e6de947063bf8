using System.Net;
using System.Net.Sockets;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access;

/// <summary>A key that was counted.</summary>
/// <param name="Since">When its window began.</param>
internal sealed record Counted(string Key, DateTimeOffset Since, int Tries);

/// <summary>Counts what is tried from outside before it is done, in one statement, so that what is tried at the same moment, also at another process, all counts.</summary>
internal sealed class TryCount(NpgsqlDataSource db, TimeProvider clock)
{
    /// <summary>No window is longer; what is older is forgotten.</summary>
    static readonly TimeSpan Longest = TimeSpan.FromHours(1);

    /// <summary>Where somebody is, as far as tries are counted by it: who has one address of IPv6 has all of its /64 (RFC 6177 §2).</summary>
    public static string Network(IPAddress? address)
    {
        address = address is { IsIPv4MappedToIPv6: true } ? address.MapToIPv4() : address;
        if (address is not { AddressFamily: AddressFamily.InterNetworkV6 })
        {
            return $"{address}";
        }

        var bytes = address.GetAddressBytes();
        bytes.AsSpan(8).Clear();
        return $"{new IPAddress(bytes)}/64";
    }

    /// <summary>Counts a try at each key. A window that is over begins anew.</summary>
    public async Task<IReadOnlyList<Counted>> CountAsync(IReadOnlyList<string> keys, TimeSpan window, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var command = db.Command(
            """
            insert into try_count as c (key, since, tries)
            select key, @now, 1
              from unnest(@keys) as key
             order by key
            on conflict (key) do update
              set tries = case when c.since <= @window then 1 else c.tries + 1 end,
                  since = case when c.since <= @window then excluded.since else c.since end
            returning key, since, tries
            """,
            ("keys", keys.ToArray()), ("now", now), ("window", now - window));
        return await command.AllAsync(r => new Counted(r.Get<string>("key"), r.Get<DateTimeOffset>("since"), r.Get<int>("tries")), ct);
    }

    /// <summary>Counts a try at each key, of which so many are let through within a window.</summary>
    /// <returns>How long it must wait; null when it is let through.</returns>
    public async Task<TimeSpan?> WaitAsync(TimeSpan window, CancellationToken ct, params (string Key, int Most)[] keys)
    {
        var most = keys.ToDictionary(k => k.Key, k => k.Most);
        var over = (await CountAsync([.. most.Keys], window, ct)).Where(c => c.Tries > most[c.Key]).ToArray();
        return over.Length == 0 ? null : over.Max(c => c.Since) + window - clock.GetUtcNow();
    }

    /// <summary>Forgets whatever is old, and a key.</summary>
    public async Task ForgetAsync(CancellationToken ct, string key = "")
    {
        await using var command = db.Command("delete from try_count where key = @key or since < @old", ("key", key), ("old", clock.GetUtcNow() - Longest));
        await command.ExecuteNonQueryAsync(ct);
    }
}
