using Jovitar.Server.Platform;

namespace Jovitar.Server.Pages;

/// <summary>Publishes pages at the times that were planned.</summary>
internal sealed class PlanWorker(VersionStore versions, TimeProvider clock, ILogger<PlanWorker> log) : RegularWorker(TimeSpan.FromSeconds(2), "Publishing what was planned", clock, log)
{
    protected override Task DoAsync(DateTimeOffset now, CancellationToken ct) => versions.PublishDueAsync(now, ct);
}
