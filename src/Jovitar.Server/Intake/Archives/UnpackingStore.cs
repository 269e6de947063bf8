using Jovitar.Core;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Intake.Archives;

/// <summary>A ZIP to be unpacked.</summary>
/// <param name="Stored">Its name among what arrives.</param>
internal sealed record Unpacking(Guid Id, IntakeId Intake, int Number, string FileName, string Stored, int Attempts);

/// <summary>ZIPs that wait to be unpacked, and how far each has come.</summary>
internal sealed class UnpackingStore(NpgsqlDataSource db, TimeProvider clock)
{
    public const string Channel = "archive_waiting";

    public async Task<Unpacking?> ClaimAsync(TimeSpan lease, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var command = db.Command(
            """
            update unpacking as u set claimed_until = @until, attempts = attempts + 1
              from (select id from unpacking where ended is null and (claimed_until is null or claimed_until < @now) order by begun limit 1 for update skip locked) as next
             where u.id = next.id
            returning u.id, u.intake, u.number, u.file_name, u.stored, u.attempts
            """,
            ("now", now), ("until", now + lease));
        return await command.FirstAsync(r => new Unpacking(r.GetGuid(0), new IntakeId(r.GetGuid(1)), r.GetInt32(2), r.GetString(3), r.GetString(4), r.GetInt16(5)), ct);
    }

    /// <summary>Says how far it has come, and holds the claim; false when somebody ended it.</summary>
    public async Task<bool> ProgressAsync(Guid id, int entries, int done, TimeSpan lease, CancellationToken ct)
    {
        await using var command = db.Command(
            "update unpacking set entries = @entries, done = @done, claimed_until = @until where id = @id and ended is null",
            ("id", id), ("entries", entries), ("done", done), ("until", clock.GetUtcNow() + lease));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }

    /// <summary>Entries that are written down already: an interrupted ZIP goes on behind them.</summary>
    public async Task<IReadOnlySet<int>> DoneAsync(Guid id, CancellationToken ct)
    {
        await using var command = db.Command("select entry from intake_file where unpacking = @id", ("id", id));
        return (await command.AllAsync(r => r.GetInt32(0), ct)).ToHashSet();
    }

    public async Task EndAsync(Guid id, CancellationToken ct)
    {
        await using var command = db.Command("update unpacking set ended = @now, claimed_until = null where id = @id", ("id", id), ("now", clock.GetUtcNow()));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Gives a claim back: for now it cannot be worked on.</summary>
    public async Task ReleaseAsync(Guid id, TimeSpan wait, CancellationToken ct)
    {
        await using var command = db.Command("update unpacking set claimed_until = @until, attempts = greatest(attempts - 1, 0) where id = @id", ("id", id), ("until", clock.GetUtcNow() + wait));
        await command.ExecuteNonQueryAsync(ct);
    }
}
