using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales.Coupons;
using Jovitar.Server.Access;
using Jovitar.Server.Sales.Coupons;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Site.Entering;

namespace Jovitar.Server.Site.Buying;

/// <summary>Visitors type a coupon into their basket, and take one out. No script is needed.</summary>
internal static class UsingCoupons
{
    /// <summary>Where a coupon is typed, or taken out.</summary>
    public const string Path = $"{BuyingEndpoints.BasketPath}/coupons";

    /// <summary>So many are typed into one basket, and from one network, within <see cref="BuyingEndpoints.Window"/>: codes are not found by trying, and a club behind one line types the same.</summary>
    const int TypedIntoBasket = 20;
    const int TypedFromPlace = 240;

    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapUsingCoupons(this IEndpointRouteBuilder site) => site.MapPost(Path, Type);

    static async Task Type(HttpContext http, SiteShop shop, SiteStore store, SiteDoor door, BasketStore baskets, CouponStore coupons, TryCount tries, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await BuyingEndpoints.FormAsync(http, door, tries, ct) is not { } form)
        {
            return;
        }

        if (await shop.OpenAsync(ct) is not { } open || await BuyingEndpoints.TheirsAsync(http, baskets, ct) is not { } theirs || await baskets.FindAsync(theirs, ct) is not { } basket)
        {
            EnteringEndpoints.See(http, BuyingEndpoints.BasketPath);
            return;
        }

        if (CouponId.TryParse(form["out"], null, out var gone))
        {
            await baskets.TakeCouponOutAsync(theirs, gone, ct);
            EnteringEndpoints.See(http, BuyingEndpoints.BasketPath);
            return;
        }

        if (await BuyingEndpoints.IsTooMuchAsync(http, tries, BuyingEndpoints.Window, ct, ($"c {basket.Id}", TypedIntoBasket), (BuyingEndpoints.Place(http, "c"), TypedFromPlace)))
        {
            return;
        }

        var typed = Text.Cut(form["code"].ToString(), Coupon.LongestCode * 2);
        if (await FaultAsync(typed, basket, theirs) is { } fault)
        {
            http.Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            await BuyingEndpoints.AnswerBasketAsync(http, shop, store, door, baskets, new TypedCoupon(typed, fault), ct);
            return;
        }

        EnteringEndpoints.See(http, BuyingEndpoints.BasketPath);

        async Task<string?> FaultAsync(string typed, Basket basket, BasketOf theirs)
        {
            var code = Coupon.CodeOf(typed);
            if (code.Length == 0)
            {
                return "Type the code of a coupon.";
            }

            if (await coupons.FindAsync(code, ct) is not { } coupon)
            {
                return "There is no such coupon. Look whether it is typed as it stands.";
            }

            // What may become good yet goes in, and says there what it lacks.
            var seen = await shop.SeenAsync(open, basket with { Coupons = [.. basket.Coupons.Where(c => c.Id != coupon.Id), coupon] }, await door.SightAsync(http, ct), ct);
            var asked = seen.Coupons[^1];
            return asked.Refusal is not CouponRefusal.None and not CouponRefusal.TooLittle ? CouponWords.Refused(asked.Kept.Coupon, asked.Refusal, seen.Sum.Goods)
                : seen.Coupons.FirstOrDefault(c => c.Refusal == CouponRefusal.NotTogether) is { } other ? $"The coupon {other.Kept.Coupon.Code} goes with no other. Take it out first."
                : await baskets.AddCouponAsync(theirs, coupon.Id, ct) switch
                {
                    BasketOutcome.Full => $"A basket holds {CouponRule.MostInBasket} coupons. Take one out first.",
                    BasketOutcome.Gone => "It is not good any more.",
                    _ => null,
                };
        }
    }
}
