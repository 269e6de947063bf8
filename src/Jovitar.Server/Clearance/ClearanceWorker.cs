using Npgsql;

namespace Jovitar.Server.Clearance;

/// <summary>Ends clearance on the day after its last. Any number of processes may do it at once.</summary>
internal sealed class ClearanceWorker(ClearanceStore store, TimeProvider clock, ILogger<ClearanceWorker> log) : BackgroundService
{
    static readonly TimeSpan Pause = TimeSpan.FromSeconds(4);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pause, clock);
        do
        {
            try
            {
                await store.EndAsync(DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime), stoppingToken);
            }
            catch (Exception e) when (e is NpgsqlException or IOException)
            {
                log.LogInformation("The end of clearances waits: {Reason}", e.Message);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                log.LogError(e, "Ending clearances went wrong; it is tried again");
            }
        }
        while (await timer.WaitForNextTickAsync(stoppingToken));
    }
}
