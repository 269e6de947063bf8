using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Sales.Payments;
using Jovitar.Server.Site.Drawing;
using Jovitar.Server.Site.Entering;

namespace Jovitar.Server.Site.Buying;

/// <summary>Leads buyers to the page of the payment service where they pay their order.</summary>
internal sealed class PayingDoor(PaymentStore payments, PaymentDesk desk, ShopStore shops, SiteOrigin origin, ILogger<PayingDoor> log)
{
    const string OwnForms = "form-action 'self'";

    /// <summary>Whether an order can be paid online: late, too, and also while the shop is closed.</summary>
    public async Task<bool> IsOfferedAsync(KeptOrder order, CancellationToken ct) => order.Standing.CanBePaid && desk.Service is not null && (await shops.ReadAsync(ct)).Shop.IsPaidOnline;

    /// <summary>Has the forms of a page lead to where buyers pay; else browsers let them lead nowhere but here (Content Security Policy, form-action).</summary>
    /// <param name="leads">One of its forms does.</param>
    public Rendered LetFormsLead(Rendered page, bool leads) => leads && desk.Service is { } service ? page with { Policy = page.Policy.Replace(OwnForms, $"{OwnForms} {service.Pages}", StringComparison.Ordinal) } : page;

    /// <summary>Leads a buyer to where they pay: an address that the service has told, or a path of this site.</summary>
    public static void See(HttpContext http, string? page, string otherwise)
    {
        EnteringEndpoints.See(http, otherwise);
        if (page is not null)
        {
            http.Response.Headers.Location = page;
        }
    }

    /// <summary>Opens a payment of an order.</summary>
    /// <param name="secret">Of the link that opens the order.</param>
    /// <returns>Where it is paid, null for nowhere; and why not, where that is to be said.</returns>
    public async Task<(string? Page, string? Fault)> OpenAsync(HttpContext http, string secret, KeptOrder order, CancellationToken ct)
    {
        if (!await IsOfferedAsync(order, ct))
        {
            return (null, null);
        }

        try
        {
            var site = origin.TextOf(http.Request);
            return (await payments.OpenAsync(order, $"{site}{OrderStore.Path}/{secret}?paid=look", $"{site}{NoticeEndpoints.Path}", ct), null);
        }
        catch (PaymentsAwayException)
        {
            return (null, "The payment service does not answer just now. Your order is placed; try again in a moment.");
        }
        catch (PaymentsRefuseException e)
        {
            log.LogWarning("A payment could not be opened: {Reason}", e.Message);
            return (null, "The payment service does not take this payment. Your order is placed; ask those who sell how else you can pay.");
        }
    }
}
