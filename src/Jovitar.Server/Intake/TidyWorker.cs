using Jovitar.Server.Intake.Uploads;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>Sets right what killed processes leave behind: uploads complete but not taken in, originals without a row, halves nobody goes on with.</summary>
internal sealed class TidyWorker(UploadStore uploads, Receiver receiver, Storage storage, NpgsqlDataSource db, TimeProvider clock, ILogger<TidyWorker> log) : BackgroundService
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

            await Task.Delay(Every, clock, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }

    async Task TidyAsync(CancellationToken ct)
    {
        // An upload is held while somebody is at it, so one that nobody has touched for seconds may be ended here.
        foreach (var upload in await uploads.UnfinishedAsync(Untouched, ct))
        {
            await UploadEndpoints.FinishAsync(upload, uploads, receiver, storage, ct);
        }

        foreach (var hash in storage.Unsettled(Quiet, clock.GetUtcNow()))
        {
            await using var known = db.Command("select exists (select from photo where hash = decode(@hash, 'hex')) or exists (select from file where hash = decode(@hash, 'hex'))", ("hash", hash));
            storage.Resolve(hash, (bool)(await known.ExecuteScalarAsync(ct))!);
        }

        await uploads.SweepAsync(ct);
        storage.SweepArriving(Quiet, clock.GetUtcNow(), await uploads.AwaitedAsync(ct));
    }
}
