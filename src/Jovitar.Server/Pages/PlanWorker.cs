using Npgsql;

namespace Jovitar.Server.Pages;

/// <summary>Publishes pages at the times that were planned. Any number of processes may do it at once.</summary>
internal sealed class PlanWorker(VersionStore versions, TimeProvider clock, ILogger<PlanWorker> log) : BackgroundService
{
    static readonly TimeSpan Pause = TimeSpan.FromSeconds(2);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pause, clock);
        do
        {
            try
            {
                await versions.PublishDueAsync(clock.GetUtcNow(), stoppingToken);
            }
            catch (Exception e) when (e is NpgsqlException or IOException)
            {
                log.LogInformation("What was planned waits: {Reason}", e.Message);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                log.LogError(e, "Publishing what was planned went wrong; it is tried again");
            }
        }
        while (await timer.WaitForNextTickAsync(stoppingToken));
    }
}
