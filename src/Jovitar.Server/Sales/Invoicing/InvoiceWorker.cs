using Jovitar.Server.Platform;

namespace Jovitar.Server.Sales.Invoicing;

/// <summary>Writes invoices and credit notes of orders of which something has changed: whoever changed it, and whatever broke off since.</summary>
internal sealed class InvoiceWorker(InvoiceStore invoices, TimeProvider clock, ILogger<InvoiceWorker> log) : RegularWorker(TimeSpan.FromSeconds(1), "Writing invoices", clock, log)
{
    protected override Task DoAsync(DateTimeOffset now, CancellationToken ct) => invoices.SettleAsync(ct);
}
