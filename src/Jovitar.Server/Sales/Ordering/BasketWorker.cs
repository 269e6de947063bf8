using Jovitar.Server.Platform;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>Removes baskets that nobody has touched for long.</summary>
internal sealed class BasketWorker(BasketStore store, TimeProvider clock, ILogger<BasketWorker> log) : RegularWorker(TimeSpan.FromHours(1), "Removing old baskets", clock, log)
{
    protected override Task DoAsync(DateTimeOffset now, CancellationToken ct) => store.ForgetAsync(now, ct);
}
