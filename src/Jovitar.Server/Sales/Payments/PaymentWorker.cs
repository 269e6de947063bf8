using Jovitar.Server.Platform;

namespace Jovitar.Server.Sales.Payments;

/// <summary>Asks the payment service about what it has not told: a notice may be lost, and a buyer never come back.</summary>
internal sealed class PaymentWorker(PaymentStore payments, RefundStore refunds, PaymentDesk desk, PaymentSettings settings, TimeProvider clock, ILogger<PaymentWorker> log) : RegularWorker(settings.Pause, "Asking after payments", clock, log)
{
    /// <summary>Whoever asked for a refund is still waiting for the answer until then.</summary>
    static readonly TimeSpan AnswerTime = TimeSpan.FromMinutes(1);

    /// <summary>After so many without an answer the service is away.</summary>
    const int Enough = 3;

    protected override async Task DoAsync(DateTimeOffset now, CancellationToken ct)
    {
        if (desk.Service is not { } service)
        {
            return;
        }

        // One that gets no answer keeps no other waiting.
        await UntilAwayAsync(await payments.DueAsync(now, ct), payment => payments.LookAsync(payment, ct));
        await UntilAwayAsync(await refunds.DueAsync(service.Name, now - AnswerTime, ct), refund => refunds.DoAsync(refund, ct));
    }

    async Task UntilAwayAsync<T>(IReadOnlyList<T> due, Func<T, Task> ask)
    {
        var failed = 0;
        foreach (var one in due)
        {
            try
            {
                await ask(one);
            }
            catch (PaymentsRefuseException e)
            {
                log.LogWarning("The payment service refused: {Reason}", e.Message);
            }
            catch (PaymentsAwayException e)
            {
                log.LogInformation("Asking after payments waits: {Reason}", e.Message);
                if (++failed == Enough)
                {
                    return;
                }
            }
        }
    }
}
