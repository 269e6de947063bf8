using Jovitar.Server.Intake.Archives;
using Jovitar.Server.Intake.Uploads;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>Sets right what killed processes leave behind: uploads complete but not taken in, originals without a row, halves nobody goes on with.</summary>
internal sealed class TidyWorker(
    UploadStore uploads, UploadTaker taker, UnpackingStore archives, Originals originals, Arrivals arrivals, Storage storage, IndexKeeper index, NpgsqlDataSource db, TimeProvider clock, ILogger<TidyWorker> log) : BackgroundService
{
    static readonly TimeSpan Every = TimeSpan.FromMinutes(1);

    /// <summary>Nobody sends so slowly that nothing of a file comes for so long.</summary>
    static readonly TimeSpan Stalled = TimeSpan.FromDays(1);

    bool adopted;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await TidyAsync(stoppingToken);
            }
            catch (Exception e) when (e is NpgsqlException or IOException or OperationCanceledException)
            {
                log.LogInformation("Tidying waits: {Reason}", e.Message);
            }
            catch (Exception e)
            {
                log.LogError(e, "Tidying went wrong; it is tried again in a minute");
            }

            await Task.Delay(Every, clock, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }

    async Task TidyAsync(CancellationToken ct)
    {
        // One process tidies at a time.
        await using var alone = await Alone.TryAsync(db, Alone.Tidying, ct);
        if (alone is null)
        {
            return;
        }

        foreach (var hash in storage.TakeOldMarks())
        {
            await originals.DoubtAsync(Convert.FromHexString(hash), ct);
        }

        if (!adopted)
        {
            await uploads.AdoptAsync(ct);
            adopted = true;
        }

        // An upload is claimed while somebody takes it in, so one that is whole and nobody's may be taken in here.
        foreach (var upload in await uploads.UnfinishedAsync(ct))
        {
            try
            {
                await taker.TakeAsync(upload, ct);
            }
            catch (Exception e) when (e is not (NpgsqlException or OperationCanceledException))
            {
                // One that cannot be taken in does not keep the others from it; it expires in its time.
                log.LogError(e, "The upload of {File} could not be taken in", upload.Incoming.FileName);
            }
        }

        await originals.SettleAsync(Arrivals.Quiet, ct);
        await archives.GiveUpTakenBackAsync(UploadStore.Life, ct);

        await index.SweepAsync(ct);
        await uploads.SweepAsync(ct);
        await arrivals.SweepAsync(clock.GetUtcNow(), await uploads.AwaitedAsync(ct), ct);
        await storage.DropUnfinishedAsync(clock.GetUtcNow() - Stalled);
    }
}
