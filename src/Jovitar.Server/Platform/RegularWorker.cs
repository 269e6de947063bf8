using Npgsql;

namespace Jovitar.Server.Platform;

/// <summary>Does what falls due, again and again. Any number of processes may do it at once; what cannot be done now is tried again.</summary>
/// <param name="pause">Between one look and the next.</param>
/// <param name="what">What it does, for the log: “publishing what was planned”.</param>
internal abstract class RegularWorker(TimeSpan pause, string what, TimeProvider clock, ILogger log) : BackgroundService
{
    /// <summary>Does what is due at a time.</summary>
    protected abstract Task DoAsync(DateTimeOffset now, CancellationToken ct);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(pause, clock);
        do
        {
            try
            {
                await DoAsync(clock.GetUtcNow(), stoppingToken);
            }
            catch (Exception e) when (e is NpgsqlException or IOException)
            {
                log.LogInformation("{What} waits: {Reason}", what, e.Message);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                log.LogError(e, "{What} went wrong; it is tried again", what);
            }
        }
        while (await timer.WaitForNextTickAsync(stoppingToken));
    }
}
