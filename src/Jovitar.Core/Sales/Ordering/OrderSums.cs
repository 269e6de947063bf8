using Jovitar.Core.Sales.Coupons;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Sales.Ordering;

/// <summary>A part of a sum, in words.</summary>
public sealed record SumPart(string Words, string Amount);

/// <summary>What an order's sum is made of besides its goods, in words.</summary>
public static class OrderSums
{
    /// <summary>What comes on top of the goods, or is taken off.</summary>
    public static IEnumerable<SumPart> OnTop(PlacedOrder order) => OnTop(order.Way, order.Off, order.Tax);

    /// <summary>The same, of what is about to be ordered.</summary>
    public static IEnumerable<SumPart> OnTop(DeliveryWay way, IReadOnlyList<CouponOff> off, TaxSum tax)
    {
        if (way.Delivery != Delivery.Files)
        {
            yield return new SumPart(OrderLetters.Called(way.Delivery), way.Costs.ToString());
        }

        foreach (var coupon in off)
        {
            yield return new SumPart(OrderLetters.Called(coupon), OrderLetters.Less(coupon.Amount));
        }

        foreach (var part in tax.Kind == TaxKind.Added ? Named(tax) : [])
        {
            yield return part;
        }
    }

    /// <summary>What of the sum is tax.</summary>
    public static IEnumerable<SumPart> Within(TaxSum tax) => tax.Kind == TaxKind.Included ? Named(tax) : [];

    static IEnumerable<SumPart> Named(TaxSum tax) => tax.Named.Select(part => new SumPart(tax.Called(part), part.Amount.ToString()));

    /// <summary>The same, and what is within the sum.</summary>
    public static IEnumerable<SumPart> Parts(PlacedOrder order) => OnTop(order).Concat(Within(order.Tax));
}
