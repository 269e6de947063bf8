using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Payments;
using Stripe;
using Stripe.Checkout;

namespace Jovitar.Server.Sales.Payments;

/// <summary>Payments by card, on a page of the card service, through its official client.</summary>
internal sealed class CardPayments(IStripeClient client, PaymentService service) : IPayments
{
    /// <summary>Our own name of a payment, as the service keeps it with everything that belongs to it.</summary>
    const string Ours = "payment";

    /// <summary>The charge with what went back of it comes along with the session.</summary>
    static readonly SessionGetOptions Whole = new() { Expand = ["payment_intent.latest_charge"] };

    public string Name => "stripe";

    public string Pages => "https://checkout.stripe.com";

    public Task<PaymentPlace> OpenAsync(PaymentAsked asked, CancellationToken ct) => AskAsync(async () =>
    {
        Dictionary<string, string> ours = new() { [Ours] = asked.Id.ToString() };
        var session = await new SessionService(client).CreateAsync(
            new SessionCreateOptions
            {
                Mode = "payment",
                ClientReferenceId = asked.Id.ToString(),
                CustomerEmail = asked.Email,
                LineItems = [new SessionLineItemOptions { Quantity = 1, PriceData = new SessionLineItemPriceDataOptions { Currency = asked.Amount.Currency.Code.ToLowerInvariant(), UnitAmount = CardUnits.Of(asked.Amount), ProductData = new SessionLineItemPriceDataProductDataOptions { Name = asked.Title } } }],
                Metadata = ours,
                PaymentIntentData = new SessionPaymentIntentDataOptions { Metadata = ours },
                SuccessUrl = asked.Back,
                CancelUrl = asked.Back,
            },
            Once(asked.Id.Value), ct);
        return new PaymentPlace(session.Id, session.Url);
    });

    public Task<IReadOnlyList<PaymentNotice>> AskAsync(PaymentId payment, string reference, CancellationToken ct) => AskAsync(async () =>
    {
        var session = await new SessionService(client).GetAsync(reference, Whole, cancellationToken: ct);
        var heard = new List<PaymentNotice>(Of(payment, session));
        if (session.PaymentIntent?.LatestCharge is { AmountRefunded: > 0 } charge)
        {
            heard.Add(new PaymentNotice(payment, PaymentNews.Refunded, CardUnits.Read(charge.AmountRefunded, charge.Currency)));
        }

        return (IReadOnlyList<PaymentNotice>)heard;
    });

    public Task RefundAsync(RefundId refund, PaymentId payment, string reference, Money amount, CancellationToken ct) => AskAsync(async () =>
    {
        var session = await new SessionService(client).GetAsync(reference, cancellationToken: ct);
        return await new RefundService(client).CreateAsync(new RefundCreateOptions { PaymentIntent = session.PaymentIntentId, Amount = CardUnits.Of(amount), Metadata = new() { [Ours] = payment.ToString() } }, Once(refund.Value), ct);
    });

    public ReadNotice Read(string body, IHeaderDictionary headers, DateTimeOffset now)
    {
        try
        {
            EventUtility.ValidateSignature(body, headers["Stripe-Signature"].ToString(), service.Secret, (long)NoticeSignature.Tolerance.TotalSeconds, now.ToUnixTimeSeconds());
        }
        catch (StripeException)
        {
            return ReadNotice.Refused(Signature.Forged);
        }

        try
        {
            return new ReadNotice(Signature.Good, [.. Of(EventUtility.ParseEvent(body, throwOnApiVersionMismatch: false))]);
        }
        catch (Exception e) when (e is StripeException or JsonException or InvalidOperationException)
        {
            // Signed, but of a shape that its client does not read: nothing of ours.
            return ReadNotice.Refused(Signature.Good);
        }
    }

    static IEnumerable<PaymentNotice> Of(Event? told) => told?.Data?.Object switch
    {
        Session session when PaymentOf(session.Metadata) is { } payment => told!.Type == EventTypes.CheckoutSessionAsyncPaymentFailed ? [new PaymentNotice(payment, PaymentNews.Ended, null)] : Of(payment, session),
        Charge { AmountRefunded: > 0 } charge when PaymentOf(charge.Metadata) is { } payment => [new PaymentNotice(payment, PaymentNews.Refunded, CardUnits.Read(charge.AmountRefunded, charge.Currency))],
        _ => [],
    };

    /// <summary>A session is paid at once, or some days later by ways that take so long; it says which.</summary>
    static IEnumerable<PaymentNotice> Of(PaymentId payment, Session session) =>
        session.PaymentStatus == "paid" ? [new PaymentNotice(payment, PaymentNews.Paid, CardUnits.Read(session.AmountTotal, session.Currency))]
        : session.Status == "expired" ? [new PaymentNotice(payment, PaymentNews.Ended, null)]
        : [];

    static PaymentId? PaymentOf(Dictionary<string, string>? told) => told is not null && told.TryGetValue(Ours, out var name) && PaymentId.TryParse(name, null, out var payment) ? payment : null;

    static RequestOptions Once(Guid name) => new() { IdempotencyKey = name.ToString() };

    static async Task<T> AskAsync<T>(Func<Task<T>> ask)
    {
        try
        {
            return await ask();
        }
        catch (StripeException e) when (PaymentsRefuseException.Is(e.HttpStatusCode))
        {
            throw new PaymentsRefuseException($"The card service refuses that: {e.StripeError?.Message ?? e.Message}", e);
        }
        catch (Exception e) when (e is StripeException or HttpRequestException or TaskCanceledException { InnerException: TimeoutException })
        {
            throw new PaymentsAwayException("The card service does not answer.", e);
        }
    }
}
