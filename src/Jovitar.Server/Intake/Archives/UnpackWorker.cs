using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Intake.Archives;

/// <summary>Unpacks ZIPs, one at a time in each process, and goes on with those a killed process left.</summary>
internal sealed class UnpackWorker(UnpackingStore store, Unpacker unpacker, NpgsqlDataSource db, WorkerSettings settings, ILogger<UnpackWorker> log) : BackgroundService
{
    static readonly TimeSpan Pause = TimeSpan.FromSeconds(2);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await using var bell = new Bell(db, UnpackingStore.Channel, stoppingToken);
        while (!stoppingToken.IsCancellationRequested)
        {
            if (!await UnpackOneAsync(stoppingToken))
            {
                await bell.WaitAsync(Pause);
            }
        }
    }

    async Task<bool> UnpackOneAsync(CancellationToken stop)
    {
        Unpacking? work = null;
        try
        {
            work = await store.ClaimAsync(settings.Lease, stop);
            if (work is null)
            {
                return false;
            }

            if (work.Attempts > WorkerSettings.MostAttempts)
            {
                await unpacker.GiveUpAsync(work, stop);
                return true;
            }

            await unpacker.UnpackAsync(work, settings.Lease, stop);
            return true;
        }
        catch (Exception e) when (e is IOException or NpgsqlException or OperationCanceledException)
        {
            // Disk full, database gone, or shutting down: what is unpacked stays, the rest is tried again.
            log.LogInformation("Unpacking {File} was interrupted: {Reason}", work?.FileName ?? "a ZIP", e.Message);
            if (work is not null)
            {
                await ReleaseAsync(work, counts: false);
            }

            return false;
        }
        catch (Exception e)
        {
            // Not foreseen: it counts as a try, and after three it is given up with a sentence. The next ZIP is not kept waiting.
            log.LogError(e, "Unpacking {File} went wrong", work?.FileName ?? "a ZIP");
            if (work is not null)
            {
                await ReleaseAsync(work, counts: true);
            }

            return work is not null;
        }
    }

    async Task ReleaseAsync(Unpacking work, bool counts)
    {
        try
        {
            await store.ReleaseAsync(work, Pause, counts, CancellationToken.None);
        }
        catch (NpgsqlException)
        {
            // The claim runs out by itself.
        }
    }
}
