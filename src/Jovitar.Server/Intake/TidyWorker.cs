using Jovitar.Server.Intake.Archives;
using Jovitar.Server.Intake.Uploads;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>Sets right what killed processes leave behind: uploads complete but not taken in, originals without a row, halves nobody goes on with.</summary>
internal sealed class TidyWorker(UploadStore uploads, UnpackingStore archives, Receiver receiver, Originals originals, Storage storage, NpgsqlDataSource db, TimeProvider clock, ILogger<TidyWorker> log) : BackgroundService
{
    static readonly TimeSpan Every = TimeSpan.FromMinutes(1);

    static readonly TimeSpan Untouched = TimeSpan.FromSeconds(5);

    /// <summary>No request that is still at work takes so long between its last byte and its row.</summary>
    static readonly TimeSpan Quiet = TimeSpan.FromMinutes(2);

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

        // An upload is held while somebody is at it, so one that nobody has touched for seconds may be ended here.
        foreach (var upload in await uploads.UnfinishedAsync(Untouched, ct))
        {
            try
            {
                await UploadEndpoints.FinishAsync(upload, uploads, receiver, storage, ct);
            }
            catch (Exception e) when (e is not (NpgsqlException or OperationCanceledException))
            {
                // One that cannot be ended does not keep the others from it; it expires in its time.
                log.LogError(e, "The upload of {File} could not be ended", upload.Incoming.FileName);
            }
        }

        await originals.SettleAsync(Quiet, ct);
        await archives.GiveUpTakenBackAsync(UploadStore.Life, ct);

        await uploads.SweepAsync(ct);
        storage.SweepArriving(Quiet, clock.GetUtcNow(), await uploads.AwaitedAsync(ct));
    }
}
