using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Sales.Invoicing;

/// <summary>Writes invoices and credit notes of orders of which something has changed: whoever changed it, and whatever broke off since.</summary>
internal sealed class InvoiceWorker(InvoiceStore invoices, TimeProvider clock, ILogger<InvoiceWorker> log) : RegularWorker(TimeSpan.FromSeconds(1), "Writing invoices", clock, log)
{
    protected override async Task DoAsync(DateTimeOffset now, CancellationToken ct)
    {
        foreach (var order in await invoices.DueAsync(ct))
        {
            try
            {
                await invoices.SettleAsync(order, ct);
            }
            catch (Exception e) when (e is not (OperationCanceledException or NpgsqlException))
            {
                // One that cannot be written keeps no other waiting.
                log.LogError(e, "The invoice of order {Order} could not be written; it is tried again", order);
            }
        }
    }
}
