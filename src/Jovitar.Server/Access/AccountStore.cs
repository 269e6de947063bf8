using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Identity;
using Npgsql;

namespace Jovitar.Server.Access;

internal sealed record Account(Guid Id, string Email, string Name, Role Role, string PasswordHash);

/// <summary>People of the workroom.</summary>
internal sealed class AccountStore(NpgsqlDataSource db, ActRunner acts, TimeProvider clock)
{
    const string Columns = "id, email, name, role, password_hash";

    public async Task<bool> AnyAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand("select exists (select from account)");
        return (bool)(await command.ExecuteScalarAsync(ct))!;
    }

    public Task<Account?> FindAsync(string email, CancellationToken ct) => FindAsync($"select {Columns} from account where email_key = @key", ("key", Key(email)), ct);

    public Task<Account?> FindAsync(Guid id, CancellationToken ct) => FindAsync($"select {Columns} from account where id = @id", ("id", id), ct);

    /// <summary>A hash to check against when the account does not exist, so that an answer takes as long either way.</summary>
    static readonly string NobodysHash = new PasswordHasher<Account>().HashPassword(null!, Guid.NewGuid().ToString());

    /// <summary>The account that an address and a password open together; null when they belong to none.</summary>
    public async Task<Account?> VerifiedAsync(string email, string password, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        var account = await FindAsync(email, ct);
        // Who never chose a password has none that could be right: that, too, takes as long as any other.
        var hash = account is { PasswordHash.Length: > 0 } ? account.PasswordHash : NobodysHash;
        return hasher.VerifyHashedPassword(account!, hash, password) != PasswordVerificationResult.Failed ? account : null;
    }

    async Task<Account?> FindAsync(string sql, (string, object?) parameter, CancellationToken ct)
    {
        await using var command = db.Command(sql, parameter);
        return await command.FirstAsync(
            r => new Account(r.Get<Guid>("id"), r.Get<string>("email"), r.Get<string>("name"), Enum.Parse<Role>(r.Get<string>("role")), r.Get<string>("password_hash")), ct);
    }

    /// <summary>Makes the owner's account and names the site; null when there is an account already.</summary>
    /// <param name="siteTitle">On one line.</param>
    public async Task<Account?> MakeOwnerAsync(string email, string name, string passwordHash, string siteTitle, CancellationToken ct)
    {
        var account = new Account(Guid.CreateVersion7(clock.GetUtcNow()), email.Trim(), name.Trim(), Role.Owner, passwordHash);
        var (made, _) = await acts.RunAsync(
            new Actor(account.Id, account.Name), ActKind.MadeSite,
            async act =>
            {
                // Two first visitors at once: the lock lets only one of them see an empty table.
                await act.RunAsync("lock table account in exclusive mode", ct);
                var inserted = await act.RunAsync(
                    """
                    insert into account (id, email, email_key, name, role, password_hash, made)
                    select @id, @email, @key, @name, @role, @hash, @now
                     where not exists (select from account)
                    """,
                    ct, ("id", account.Id), ("email", account.Email), ("key", Key(email)), ("name", account.Name), ("role", account.Role.ToString()), ("hash", passwordHash), ("now", act.Now));
                if (inserted == 0)
                {
                    return act.Drop(false);
                }

                await act.RunAsync("update site set title = @title", ct, ("title", siteTitle));
                act.Says = _ => FrontWords.Made(siteTitle);
                return true;
            },
            ct);
        return made ? account : null;
    }

    /// <summary>Gives an account a new password; every other browser that is signed in to it is signed out, and no link in a letter signs in to it any more.</summary>
    public async Task ChangePasswordAsync(Guid account, string passwordHash, Guid? thisSession, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await tx.RunAsync("update account set password_hash = @hash where id = @id", ct, ("id", account), ("hash", passwordHash));
        await tx.RunAsync("delete from way_in where account = @id", ct, ("id", account));
        await tx.RunAsync("delete from session where account = @id and id is distinct from @this::uuid", ct, ("id", account), ("this", thisSession));
        await tx.CommitAsync(ct);
    }

    public static string Key(string email) => email.Trim().ToLowerInvariant();
}
