using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Taxes;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Invoicing;
using Jovitar.Server.Sales.Payments;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>A country, as an address names it.</summary>
/// <param name="Code">Two letters (ISO 3166-1).</param>
internal sealed record CountryNamed(string Code, string Name);

/// <summary>How the site sells, and what can be chosen.</summary>
/// <param name="HasPayments">There is a payment service, so that buyers can pay online.</param>
/// <param name="LastInvoice">The running number of the last invoice; 0 while there is none.</param>
/// <param name="Unweighed">So many options that are sold weigh nobody knows how much, where postage goes by weight; else 0.</param>
/// <param name="Reduced">So many options that are sold are taxed at the reduced rate, where none is said; else 0.</param>
/// <param name="Edited">Expected by the next write.</param>
internal sealed record ShopSeen(ShopSaid Shop, IReadOnlyList<CountryNamed> Countries, IReadOnlyList<string> Currencies, bool HasPayments, long LastInvoice, int Unweighed, int Reduced, long Edited);

/// <summary>Reads how the site sells, and what can be chosen.</summary>
internal sealed class ShopShowing(ShopStore store, PriceStore prices, InvoiceStore invoices, PaymentDesk desk)
{
    public async Task<ShopSeen> SeenAsync(CancellationToken ct)
    {
        var opened = await store.ReadAsync(ct);
        var (byWeight, unreduced) = (opened.Shop.Postage.GoesByWeight, opened.Shop.Tax is { Kind: not TaxKind.None, Reduced: null });
        var sold = byWeight || unreduced ? await prices.SellingAsync(ct) : [];
        return new ShopSeen(
            ShopSaid.Of(opened.Shop), [.. Country.All.Select(c => new CountryNamed(c.Code, c.Name))], [.. Currency.All.Select(c => c.Code)], desk.Service is not null, await invoices.LastAsync(ct),
            byWeight ? sold.Sum(l => l.Unweighed) : 0, unreduced ? sold.Sum(l => l.Reduced) : 0, opened.Edited);
    }
}

/// <summary>The shop as it is kept now, and the act that did it.</summary>
internal sealed record ShopKept(ShopSeen Seen, Done Done);

/// <summary>How the site sells.</summary>
internal static class ShopEndpoints
{
    public static void MapShop(this IEndpointRouteBuilder api)
    {
        var shop = api.MapGroup("/shop").RequireAuthorization(Security.Editors).WithTags("Shop");
        shop.MapGet("", Show).WithSummary("What sending costs, tax, how buyers pay, and whether the shop is open");
        shop.MapPut("", Write).RequireAuthorization(Security.Owners).NeedsVersion().WithSummary("Makes the shop another; visitors have it at once");
    }

    static async Task<Ok<ShopSeen>> Show(ShopShowing showing, CancellationToken ct) => TypedResults.Ok(await showing.SeenAsync(ct));

    static async Task<Results<Ok<ShopKept>, BadRequest<Problem>, Stale>> Write(ShopSaid body, [FromHeader(Name = "If-Match")] long version, Actor who, ShopStore store, ShopShowing showing, CancellationToken ct)
    {
        var (shop, wrong, field) = body.Read();
        if (shop is null)
        {
            return Problems.Invalid(wrong!, field is null ? null : new Dictionary<string, string> { [field] = wrong! });
        }

        return await store.WriteAsync(who, shop, version, ct) is { } done ? TypedResults.Ok(new ShopKept(await showing.SeenAsync(ct), done)) : Problems.Stale("shop");
    }
}
