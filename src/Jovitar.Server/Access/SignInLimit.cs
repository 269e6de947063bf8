using System.Net;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access;

/// <summary>
/// Counts tries at signing in before the password is looked at: by account and address together, by address, and by account; the
/// last does not hold for an address from which this account was signed in to, so that strangers elsewhere never lock its owner out.
/// </summary>
internal sealed class SignInLimit(TryCount tries, NpgsqlDataSource db, TimeProvider clock)
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
        var counted = await tries.CountAsync(Keys(email, address), Window, ct);
        var over = counted.Where(c => c.Tries > Most(c.Key)).ToArray();
        // Whoever signed in to it from here before is not kept out by what strangers do elsewhere.
        if (over.Any(c => c.Key.StartsWith('e')) && await IsKnownAsync(email, address, ct))
        {
            over = [.. over.Where(c => !c.Key.StartsWith('e'))];
        }

        return over.Length == 0 ? null : over.Max(c => c.Since) + Window - now;
    }

    async Task<bool> IsKnownAsync(string email, IPAddress? address, CancellationToken ct)
    {
        await using var command = db.Command(
            "select exists (select from session as s join account as a on a.id = s.account where a.email_key = @email and s.address = @address)",
            ("email", AccountStore.Key(email)), ("address", address?.ToString() ?? ""));
        return (bool)(await command.ExecuteScalarAsync(ct))!;
    }

    /// <summary>The password was right: tries at this account from this address begin anew.</summary>
    public Task ClearAsync(string email, IPAddress? address, CancellationToken ct) => tries.ForgetAsync(ct, Keys(email, address)[0]);

    static string[] Keys(string email, IPAddress? address) => [$"b {AccountStore.Key(email)} {TryCount.Network(address)}", $"a {TryCount.Network(address)}", $"e {AccountStore.Key(email)}"];

    static int Most(string key) => key[0] switch
    {
        'b' => AtAccountFromAddress,
        'a' => FromAddress,
        _ => AtAccount,
    };
}
