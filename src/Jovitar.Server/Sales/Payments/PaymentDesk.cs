using Stripe;

namespace Jovitar.Server.Sales.Payments;

/// <summary>The payment service that buyers pay at.</summary>
/// <param name="Service">Null where none is set up.</param>
internal sealed record PaymentDesk(IPayments? Service)
{
    /// <summary>Who has done, for the history, what it tells.</summary>
    public const string Worker = "The payment service";

    /// <summary>A buyer waits no longer for a page to pay at.</summary>
    static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    public static PaymentDesk Of(PaymentSettings settings)
    {
        if (settings.Service is not { } service)
        {
            return new PaymentDesk(Service: null);
        }

        var http = new HttpClient(new SocketsHttpHandler { AllowAutoRedirect = false, ConnectTimeout = TimeSpan.FromSeconds(5), PooledConnectionLifetime = TimeSpan.FromMinutes(5) }) { Timeout = Patience };
        return new PaymentDesk(service.Address is null ? new CardPayments(new StripeClient(service.Key, httpClient: new SystemNetHttpClient(http)), service) : new SimulatedPayments(http, service));
    }
}
