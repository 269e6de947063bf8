using Jovitar.Server.Platform;

namespace Jovitar.Server.Clearance;

/// <summary>Ends clearance on the day after its last.</summary>
internal sealed class ClearanceWorker(ClearanceStore store, TimeProvider clock, ILogger<ClearanceWorker> log) : RegularWorker(TimeSpan.FromSeconds(4), "The end of clearances", clock, log)
{
    protected override Task DoAsync(DateTimeOffset now, CancellationToken ct) => store.EndAsync(DateOnly.FromDateTime(now.UtcDateTime), ct);
}
