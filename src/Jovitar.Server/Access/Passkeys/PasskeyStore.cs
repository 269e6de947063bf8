using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Identity;
using Npgsql;

namespace Jovitar.Server.Access.Passkeys;

/// <summary>A passkey of an account.</summary>
/// <param name="Id">As it stands in an address (RFC 4648 §5).</param>
/// <param name="Name">The device and program it was made with.</param>
/// <param name="Used">When it signed in last; null for never.</param>
internal sealed record PasskeyLine(string Id, string Name, DateTimeOffset Made, DateTimeOffset? Used);

/// <summary>
/// The passkeys of accounts. It is the store that the platform's passkeys ask (<see cref="PasskeyHandler{TUser}"/>), as far as they
/// ask it: accounts themselves are written by their own.
/// </summary>
internal sealed class PasskeyStore(NpgsqlDataSource db, AccountStore accounts, TimeProvider clock) : IUserPasskeyStore<Account>
{
    /// <summary>Of one account.</summary>
    public const int Most = 20;

    const string Columns = "id, account, public_key, sign_count, transports, is_backup_eligible, is_backed_up, name, made, used";

    public async Task<IReadOnlyList<PasskeyLine>> ListAsync(Guid account, CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns} from passkey where account = @account order by made", ("account", account));
        return await command.AllAsync(
            r => new PasskeyLine(System.Buffers.Text.Base64Url.EncodeToString(r.Get<byte[]>("id")), r.Get<string>("name"), r.Get<DateTimeOffset>("made"), r.Maybe<DateTimeOffset>("used")), ct);
    }

    /// <summary>Puts a passkey on an account.</summary>
    /// <returns>False where the account has as many as it may, or the passkey is there already.</returns>
    public async Task<bool> AddAsync(Guid account, UserPasskeyInfo passkey, string name, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            insert into passkey (id, account, public_key, sign_count, transports, is_backup_eligible, is_backed_up, name, made)
            select @id, @account, @key, @count, @transports, @eligible, @backed_up, @name, @now
             where (select count(*) from passkey where account = @account) < @most
            on conflict do nothing
            """,
            ("id", passkey.CredentialId), ("account", account), ("key", passkey.PublicKey), ("count", (long)passkey.SignCount), ("transports", passkey.Transports ?? []),
            ("eligible", passkey.IsBackupEligible), ("backed_up", passkey.IsBackedUp), ("name", name), ("now", clock.GetUtcNow()), ("most", Most));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }

    /// <summary>Notes that a passkey signed in.</summary>
    /// <returns>False where it was taken off meanwhile, or somebody else used it with a later count.</returns>
    public async Task<bool> UsedAsync(UserPasskeyInfo passkey, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            update passkey
               set sign_count = @count, is_backed_up = @backed_up, used = @now
             where id = @id and (sign_count < @count or @count = 0)
            """,
            ("id", passkey.CredentialId), ("count", (long)passkey.SignCount), ("backed_up", passkey.IsBackedUp), ("now", clock.GetUtcNow()));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }

    /// <summary>Takes a passkey off.</summary>
    /// <returns>False where it is not there, or not theirs.</returns>
    public async Task<bool> RemoveAsync(Guid account, byte[] id, CancellationToken ct)
    {
        await using var command = db.Command("delete from passkey where id = @id and account = @account", ("id", id), ("account", account));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }

    /// <summary>Notes that a challenge was answered, so that nobody who heard the answer gives it again.</summary>
    /// <returns>False where it was answered already.</returns>
    public async Task<bool> AnswerAsync(byte[] hash, DateTimeOffset until, CancellationToken ct)
    {
        await using var forget = db.Command("delete from answered_challenge where until < @now", ("now", clock.GetUtcNow()));
        await forget.ExecuteNonQueryAsync(ct);
        await using var command = db.Command("insert into answered_challenge (hash, until) values (@hash, @until) on conflict do nothing", ("hash", hash), ("until", until));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }

    public Task<string> GetUserIdAsync(Account user, CancellationToken cancellationToken) => Task.FromResult(user.Id.ToString());

    public Task<string?> GetUserNameAsync(Account user, CancellationToken cancellationToken) => Task.FromResult<string?>(user.Email);

    public Task<string?> GetNormalizedUserNameAsync(Account user, CancellationToken cancellationToken) => Task.FromResult<string?>(AccountStore.Key(user.Email));

    public async Task<Account?> FindByIdAsync(string userId, CancellationToken cancellationToken) => Guid.TryParse(userId, out var id) ? await accounts.FindAsync(id, cancellationToken) : null;

    public Task<Account?> FindByNameAsync(string normalizedUserName, CancellationToken cancellationToken) => accounts.FindAsync(normalizedUserName, cancellationToken);

    public async Task<IList<UserPasskeyInfo>> GetPasskeysAsync(Account user, CancellationToken cancellationToken)
    {
        await using var command = db.Command($"select {Columns} from passkey where account = @account order by made", ("account", user.Id));
        return await command.AllAsync(Info, cancellationToken);
    }

    public async Task<Account?> FindByPasskeyIdAsync(byte[] credentialId, CancellationToken cancellationToken)
    {
        await using var command = db.Command("select account from passkey where id = @id", ("id", credentialId));
        return await command.ExecuteScalarAsync(cancellationToken) is Guid account ? await accounts.FindAsync(account, cancellationToken) : null;
    }

    public async Task<UserPasskeyInfo?> FindPasskeyAsync(Account user, byte[] credentialId, CancellationToken cancellationToken)
    {
        await using var command = db.Command($"select {Columns} from passkey where id = @id and account = @account", ("id", credentialId), ("account", user.Id));
        return await command.FirstAsync(Info, cancellationToken);
    }

    /// <summary>How it was vouched for when it was made is not kept: any device is good here.</summary>
    static UserPasskeyInfo Info(NpgsqlDataReader r) => new(
        r.Get<byte[]>("id"), r.Get<byte[]>("public_key"), r.Get<DateTimeOffset>("made"), (uint)r.Get<long>("sign_count"), r.Get<string[]>("transports"), isUserVerified: true,
        r.Get<bool>("is_backup_eligible"), r.Get<bool>("is_backed_up"), attestationObject: [], clientDataJson: []);

    public Task AddOrUpdatePasskeyAsync(Account user, UserPasskeyInfo passkey, CancellationToken cancellationToken) => throw Elsewhere();

    public Task RemovePasskeyAsync(Account user, byte[] credentialId, CancellationToken cancellationToken) => throw Elsewhere();

    public Task SetUserNameAsync(Account user, string? userName, CancellationToken cancellationToken) => throw Elsewhere();

    public Task SetNormalizedUserNameAsync(Account user, string? normalizedName, CancellationToken cancellationToken) => throw Elsewhere();

    public Task<IdentityResult> CreateAsync(Account user, CancellationToken cancellationToken) => throw Elsewhere();

    public Task<IdentityResult> UpdateAsync(Account user, CancellationToken cancellationToken) => throw Elsewhere();

    public Task<IdentityResult> DeleteAsync(Account user, CancellationToken cancellationToken) => throw Elsewhere();

    static NotSupportedException Elsewhere() => new("Accounts and their passkeys are not written through the platform's own store.");

    public void Dispose()
    {
    }
}
