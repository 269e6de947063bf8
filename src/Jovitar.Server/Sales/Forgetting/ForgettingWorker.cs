using Jovitar.Server.Platform;

namespace Jovitar.Server.Sales.Forgetting;

/// <summary>Forgets who bought, as the shop says, and whom invoices name once the law asks for it no longer.</summary>
internal sealed class ForgettingWorker(ForgettingStore store, TimeProvider clock, ILogger<ForgettingWorker> log) : RegularWorker(TimeSpan.FromHours(1), "Forgetting who bought", clock, log)
{
    protected override Task DoAsync(DateTimeOffset now, CancellationToken ct) => store.ForgetAsync(now, ct);
}
