using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Contributions;

/// <summary>Brings in what was accepted, again and again.</summary>
internal sealed class ContributionWorker(Admission admission, SentFiles files, NpgsqlDataSource db, TimeProvider clock, ILogger<ContributionWorker> log) : RegularWorker(TimeSpan.FromSeconds(1), "What was sent in", clock, log)
{
    static readonly TimeSpan BetweenSweeps = TimeSpan.FromMinutes(10);

    readonly TimeProvider clock = clock;
    DateTimeOffset swept;

    protected override async Task DoAsync(DateTimeOffset now, CancellationToken ct)
    {
        await using var alone = await Alone.TryAsync(db, Alone.Admitting, ct);
        if (alone is null)
        {
            return;
        }

        while (await admission.NextAsync(ct))
        {
            await alone.StillAsync(ct);
        }

        while (await admission.TellAsync(ct))
        {
        }

        if (clock.GetUtcNow() - swept > BetweenSweeps)
        {
            await admission.ForgetAsync(ct);
            await files.SweepAsync(ct);
            swept = clock.GetUtcNow();
        }
    }
}
