using Jovitar.Server.Platform;

namespace Jovitar.Server.Sales.Payments;

/// <summary>Asks the payment service about what it has not told: a notice may be lost, and a buyer never come back.</summary>
internal sealed class PaymentWorker(PaymentStore payments, RefundStore refunds, PaymentDesk desk, PaymentSettings settings, TimeProvider clock, ILogger<PaymentWorker> log) : RegularWorker(settings.Pause, "Asking after payments", clock, log)
{
    /// <summary>Whoever asked for a refund is still waiting for the answer until then.</summary>
    static readonly TimeSpan AnswerTime = TimeSpan.FromMinutes(1);

    protected override async Task DoAsync(DateTimeOffset now, CancellationToken ct)
    {
        if (desk.Service is null)
        {
            return;
        }

        try
        {
            foreach (var payment in await payments.DueAsync(now, ct))
            {
                await payments.LookAsync(payment, ct);
            }

            foreach (var refund in await refunds.DueAsync(now - AnswerTime, ct))
            {
                await AskAsync(refund, ct);
            }
        }
        catch (PaymentsAwayException e)
        {
            log.LogInformation("Asking after payments waits: {Reason}", e.Message);
        }
    }

    async Task AskAsync(AskedRefund refund, CancellationToken ct)
    {
        try
        {
            await refunds.DoAsync(refund, ct);
        }
        catch (PaymentsRefuseException e)
        {
            log.LogWarning("A refund was refused: {Reason}", e.Message);
        }
    }
}
