using Jovitar.Core;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Intake.Archives;

/// <summary>A ZIP to be unpacked.</summary>
/// <param name="Stored">Its name among what arrives.</param>
/// <param name="Token">What it must still be claimed by when progress is written down.</param>
internal sealed record Unpacking(Guid Id, Guid Token, IntakeId Intake, int Number, string FileName, string Stored, int Attempts);

/// <summary>ZIPs that wait to be unpacked, and how far each has come.</summary>
internal sealed class UnpackingStore(NpgsqlDataSource db, TimeProvider clock)
{
    public const string Channel = "archive_waiting";

    public async Task<Unpacking?> ClaimAsync(TimeSpan lease, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var command = db.Command(
            """
            update unpacking as u
               set claimed_until = @until, claim = @token, attempts = attempts + 1
              from (
                select z.id
                  from unpacking as z
                  join intake as i on i.id = z.intake and i.taken_back is null
                 where z.ended is null and (z.claimed_until is null or z.claimed_until < @now)
                 order by z.begun
                 limit 1
                   for no key update of z skip locked) as next
             where u.id = next.id
            returning u.id, u.claim, u.intake, u.number, u.file_name, u.stored, u.attempts
            """,
            ("now", now), ("until", now + lease), ("token", Guid.NewGuid()));
        return await command.FirstAsync(
            r => new Unpacking(
                r.Get<Guid>("id"), r.Get<Guid>("claim"), new IntakeId(r.Get<Guid>("intake")), r.Get<int>("number"), r.Get<string>("file_name"), r.Get<string>("stored"), r.Get<short>("attempts")),
            ct);
    }

    /// <summary>Says how far it has come, and holds the claim; false when its intake was taken back, or another goes on with it.</summary>
    public async Task<bool> ProgressAsync(Unpacking work, int entries, int done, TimeSpan lease, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            update unpacking as u
               set entries = @entries, done = @done, claimed_until = @until
              from intake as i
             where u.id = @id and u.claim = @token and u.ended is null and i.id = u.intake and i.taken_back is null
            """,
            ("id", work.Id), ("token", work.Token), ("entries", entries), ("done", done), ("until", clock.GetUtcNow() + lease));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }

    /// <summary>ZIPs of intakes that were taken back long ago are not gone on with any more.</summary>
    public async Task GiveUpTakenBackAsync(TimeSpan after, CancellationToken ct)
    {
        await using var command = db.Command(
            "update unpacking as u set ended = @now, claim = null from intake as i where i.id = u.intake and u.ended is null and i.taken_back < @before",
            ("now", clock.GetUtcNow()), ("before", clock.GetUtcNow() - after));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Entries that are written down already: an interrupted ZIP goes on behind them.</summary>
    public async Task<IReadOnlySet<int>> DoneAsync(Guid id, CancellationToken ct)
    {
        await using var command = db.Command("select entry from intake_file where unpacking = @id", ("id", id));
        return (await command.AllAsync(r => r.GetInt32(0), ct)).ToHashSet();
    }

    /// <returns>False when another goes on with it.</returns>
    public async Task<bool> EndAsync(Unpacking work, CancellationToken ct)
    {
        await using var command = db.Command(
            "update unpacking set ended = @now, claimed_until = null, claim = null where id = @id and claim = @token and ended is null", ("id", work.Id), ("token", work.Token), ("now", clock.GetUtcNow()));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }

    /// <summary>Gives a claim back until a moment from now.</summary>
    /// <param name="counts">Whether it counts as a try: what went wrong may be the ZIP's fault.</param>
    public async Task ReleaseAsync(Unpacking work, TimeSpan wait, bool counts, CancellationToken ct)
    {
        await using var command = db.Command(
                """
                update unpacking
                   set claimed_until = @until, attempts = case when @counts then attempts else greatest(attempts - 1, 0) end
                 where id = @id and claim = @token
                """,
            ("id", work.Id), ("token", work.Token), ("counts", counts), ("until", clock.GetUtcNow() + wait));
        await command.ExecuteNonQueryAsync(ct);
    }
}
