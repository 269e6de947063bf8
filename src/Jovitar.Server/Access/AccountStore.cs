using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access;

internal sealed record Account(Guid Id, string Email, string Name, string PasswordHash);

/// <summary>People of the workroom, and the wrong tries at signing in as them.</summary>
internal sealed class AccountStore(NpgsqlDataSource db, TimeProvider clock)
{
    public const int TriesAMinute = 5;

    public async Task<bool> AnyAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand("select exists (select from account)");
        return (bool)(await command.ExecuteScalarAsync(ct))!;
    }

    public async Task<Account?> FindAsync(string email, CancellationToken ct)
    {
        await using var command = db.Command("select id, email, name, password_hash from account where email_key = @key", ("key", Key(email)));
        return await command.FirstAsync(r => new Account(r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3)), ct);
    }

    /// <summary>Makes the owner's account and names the site; null when there is an account already.</summary>
    public async Task<Account?> MakeOwnerAsync(string email, string name, string passwordHash, string siteTitle, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        // Two first visitors at once: the lock lets only one of them see an empty table.
        await tx.RunAsync("lock table account in exclusive mode", ct);
        var account = new Account(Guid.CreateVersion7(clock.GetUtcNow()), email.Trim(), name.Trim(), passwordHash);
        var made = await tx.RunAsync(
            """
            insert into account (id, email, email_key, name, password_hash, made)
            select @id, @email, @key, @name, @hash, @now
             where not exists (select from account)
            """,
            ct, ("id", account.Id), ("email", account.Email), ("key", Key(email)), ("name", account.Name), ("hash", passwordHash), ("now", clock.GetUtcNow()));
        if (made == 0)
        {
            return null;
        }

        await tx.RunAsync("update site set title = @title, version = version + 1", ct, ("title", siteTitle.Trim()));
        await tx.CommitAsync(ct);
        return account;
    }

    /// <summary>How long this account must wait after too many wrong tries; null when it may try.</summary>
    public async Task<TimeSpan?> WaitAsync(string email, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var command = db.Command(
            "select tried from sign_in_try where email_key = @key and tried > @since order by tried desc limit @most",
            ("key", Key(email)), ("since", now.AddMinutes(-1)), ("most", TriesAMinute));
        var tries = await command.AllAsync(r => r.GetFieldValue<DateTimeOffset>(0), ct);
        return tries.Count < TriesAMinute ? null : tries[^1].AddMinutes(1) - now;
    }

    public async Task NoteWrongTryAsync(string email, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await tx.RunAsync("insert into sign_in_try (email_key, tried) values (@key, @now)", ct, ("key", Key(email)), ("now", clock.GetUtcNow()));
        await tx.RunAsync("delete from sign_in_try where tried < @old", ct, ("old", clock.GetUtcNow().AddHours(-1)));
        await tx.CommitAsync(ct);
    }

    static string Key(string email) => email.Trim().ToLowerInvariant();
}
