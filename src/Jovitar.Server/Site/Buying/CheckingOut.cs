using Jovitar.Core.People;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Access;
using Jovitar.Server.People;
using Jovitar.Server.Platform.Mailing;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Sales.Payments;
using Jovitar.Server.Site.Contributions;
using Jovitar.Server.Site.Entering;

namespace Jovitar.Server.Site.Buying;

/// <summary>Visitors order what is in their basket: one page, with or without an account, and no script is needed.</summary>
internal static class CheckingOut
{
    public const string Path = $"{BuyingEndpoints.BasketPath}/check-out";

    /// <summary>What the form says where its buyer pays online.</summary>
    public const string Now = "now";

    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapCheckingOut(this IEndpointRouteBuilder site)
    {
        site.MapGet(Path, Show);
        site.MapPost(Path, Order);
    }

    static async Task Show(HttpContext http, SiteShop shop, SiteDoor door, BasketStore baskets, PaymentDesk desk, PayingDoor paying, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await OpenAsync(http, shop, door, baskets, ct) is var (_, seen))
        {
            await AnswerAsync(http, door, paying, Asked(seen, Buyer.Nobody with { Country = seen.Shop.Postage.Home }, null, "", LinkSecret.New(), desk, paysLater: false), ct);
        }
    }

    /// <summary>What whoever asks is about to buy; with nothing to be bought they are led to their basket.</summary>
    static async Task<(Basket Basket, BasketSeen Seen)?> OpenAsync(HttpContext http, SiteShop shop, SiteDoor door, BasketStore baskets, CancellationToken ct)
    {
        if (await shop.OpenAsync(ct) is { } open && await BuyingEndpoints.TheirsAsync(http, baskets, ct) is { } theirs && await baskets.FindAsync(theirs, ct) is { } basket
            && await shop.SeenAsync(open, basket, await door.SightAsync(http, ct), ct) is var seen && seen.Bought.Any())
        {
            return (basket, seen);
        }

        EnteringEndpoints.See(http, BuyingEndpoints.BasketPath);
        return null;
    }

    static ToCheckOut Asked(BasketSeen seen, Buyer buyer, Delivery? chosen, string message, string secret, PaymentDesk desk, bool paysLater)
    {
        var ways = seen.Shop.Postage.Ways(seen.Parcel, seen.Sum.Goods, Country.Find(buyer.Country));
        return new ToCheckOut(seen, buyer, seen.Shop.Countries(seen.Parcel), ways, ways.Select(w => (Delivery?)w.Delivery).FirstOrDefault(w => w == chosen) ?? ways.Select(w => (Delivery?)w.Delivery).FirstOrDefault(), message, secret,
            desk.Service is not null && seen.Shop.IsPaidOnline, paysLater, new Dictionary<string, string>());
    }

    static async Task Order(
        HttpContext http, SiteShop shop, SiteDoor door, BasketStore baskets, OrderStore orders, PaymentDesk desk, PayingDoor paying, TryCount tries, LetterLimit letters, MailSettings mail, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await BuyingEndpoints.FormAsync(http, door, tries, ct) is not { } form)
        {
            return;
        }

        string Of(string field) => form[field].ToString();
        var secret = Of("order");
        if (LinkSecret.Hash(secret) is not { } hash)
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
            return;
        }

        // Pressed once more: it was placed by the first press.
        if (await orders.HasAsync(hash, ct))
        {
            await SeeAsync(http, secret, hash, asksToPay: Of("pay") == Now, orders, paying, ct);
            return;
        }

        if (await OpenAsync(http, shop, door, baskets, ct) is not var (basket, seen))
        {
            return;
        }

        var asked = Asked(
            seen, new Buyer(Of("name"), Of("email"), Of("street"), Of("further"), Of("postcode"), Of("town"), Of("region"), Of("country")), Enum.TryParse<Delivery>(Of("way"), out var way) ? way : null, Of("message").ReplaceLineEndings("\n"), secret, desk,
            paysLater: Of("pay") == "later");
        if (Of("act") != "order")
        {
            await AnswerAsync(http, door, paying, asked, ct);
            return;
        }

        asked = asked with { Faults = Faults(asked, way), IsChanged = Of("seen") != seen.Mark, IsElsewhere = asked.AsksCountry && Of("at") != Of("country") };
        if (asked.Faults.Count > 0 || asked.IsChanged || asked.IsElsewhere)
        {
            http.Response.StatusCode = asked.IsChanged || asked.IsElsewhere ? StatusCodes.Status409Conflict : StatusCodes.Status422UnprocessableEntity;
            await AnswerAsync(http, door, paying, asked, ct);
            return;
        }

        if (await BuyingEndpoints.OrdersTooMuchAsync(http, tries, ct))
        {
            return;
        }

        if (mail.IsSet && await letters.WaitAsync(asked.Buyer.Email, http.Connection.RemoteIpAddress, ct) is { } pause)
        {
            http.Response.StatusCode = StatusCodes.Status429TooManyRequests;
            await AnswerAsync(http, door, paying, asked with { Faults = new Dictionary<string, string> { ["email"] = $"So many letters went there that the next must wait {Math.Max(1, Math.Ceiling(pause.TotalMinutes))} minutes." } }, ct);
            return;
        }

        var order = seen.Order(asked.Buyer, asked.Message, asked.Ways.First(w => w.Delivery == way));
        var sold = basket with { Lines = [.. basket.Lines.Where(l => seen.Bought.Any(b => b.Id == l.Id))], Coupons = seen.UsedBy(order) };
        var placed = await orders.PlaceAsync(sold, order, secret, hash, ContributingPages.AccountOf(http), door.Origin.TextOf(http.Request), seen.Shop.Invoices.ForOrders, ct);
        if (placed == PlacingOutcome.CouponUsed)
        {
            http.Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            var once = string.Join(" or ", sold.Coupons.Where(c => c.Coupon.IsOnceEach).Select(c => c.Coupon.Code));
            await AnswerAsync(http, door, paying, asked with { Faults = new Dictionary<string, string> { ["email"] = $"Each buyer can use the coupon {once} once, and with this address it was used before. Take it out of the basket." } }, ct);
            return;
        }

        if (placed == PlacingOutcome.Changed)
        {
            EnteringEndpoints.See(http, BuyingEndpoints.BasketPath);
            return;
        }

        BasketCookie.Tell(http, 0);
        await SeeAsync(http, secret, hash, asked.Online && !asked.PaysLater, orders, paying, ct);
    }

    /// <summary>Leads a buyer to where they pay, or to their order.</summary>
    static async Task SeeAsync(HttpContext http, string secret, byte[] hash, bool asksToPay, OrderStore orders, PayingDoor paying, CancellationToken ct)
    {
        var page = asksToPay && await orders.FindAsync(hash, ct) is { } order ? (await paying.OpenAsync(http, secret, order, ct)).Page : null;
        PayingDoor.See(http, page, $"{OrderStore.Path}/{secret}");
    }

    static Dictionary<string, string> Faults(ToCheckOut asked, Delivery way)
    {
        var chosen = asked.Ways.FirstOrDefault(w => w.Delivery == way);
        var faults = new Dictionary<string, string>(asked.Basket.Shop.Faults(asked.Buyer, chosen));
        if (chosen is null)
        {
            faults["way"] = asked.Ways.Count > 0 ? "Choose how it comes to you." : asked.NoWay;
        }

        if (PlacedOrder.MessageFault(asked.Message) is { } message)
        {
            faults["message"] = message;
        }

        return faults;
    }

    static async Task AnswerAsync(HttpContext http, SiteDoor door, PayingDoor paying, ToCheckOut asked, CancellationToken ct) =>
        await SiteEndpoints.SendAsync(http, paying.LetFormsLead(await door.Renderer.CheckOutPageAsync(asked, ct), asked.Online), ct);
}
