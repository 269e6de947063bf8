using Jovitar.Core.Sales.Ordering;

namespace Jovitar.Core.Sales.Coupons;

/// <summary>Why a coupon takes nothing off.</summary>
public enum CouponRefusal
{
    /// <summary>It does.</summary>
    None,

    /// <summary>Nobody can use it, or not in this currency.</summary>
    Off,
    TooEarly,
    TooLate,

    /// <summary>As many orders have used it as may.</summary>
    UsedUp,

    /// <summary>The goods are worth less than it asks for.</summary>
    TooLittle,

    /// <summary>It goes with no other, and there is another.</summary>
    NotTogether,
}

/// <summary>What a coupon takes off an order.</summary>
public sealed record CouponOff(string Code, Money Amount);

/// <summary>What coupons take off an order.</summary>
/// <param name="Each">Those left out that take nothing.</param>
/// <param name="Goods">Off the goods, all together.</param>
/// <param name="Postage">Off postage.</param>
public sealed record CouponsOff(IReadOnlyList<CouponOff> Each, Money Goods, Money Postage);

/// <summary>
/// What coupons take off. Shares and amounts are of what the goods cost before anything is taken off, never more than that together; those of
/// postage take what the way costs. So it does not matter in which order they were typed, and none makes anything dearer: whether postage is
/// free goes by the goods before coupons, too.
/// </summary>
public static class CouponRule
{
    /// <summary>So many a basket holds.</summary>
    public const int MostInBasket = 5;

    /// <summary>Why each of some coupons takes nothing off; one that goes with no other does only where it is alone among those that could.</summary>
    /// <param name="typed">Each with how many orders have used it.</param>
    /// <param name="goods">What they cost before anything is taken off.</param>
    public static IReadOnlyList<CouponRefusal> Refusals(IReadOnlyList<(Coupon Coupon, int Used)> typed, Money goods, DateOnly today)
    {
        CouponRefusal[] own = [.. typed.Select(t => Alone(t.Coupon, t.Used, goods, today))];
        var good = own.Count(r => r == CouponRefusal.None);
        return [.. own.Select((refusal, i) => refusal == CouponRefusal.None && good > 1 && !typed[i].Coupon.GoesWithOthers ? CouponRefusal.NotTogether : refusal)];
    }

    static CouponRefusal Alone(Coupon coupon, int used, Money goods, DateOnly today) => Standing(coupon, used, goods.Currency, today) is not CouponRefusal.None and var refusal ? refusal
        : coupon.From is { } from && goods.Minor < from.Minor ? CouponRefusal.TooLittle
        : CouponRefusal.None;

    /// <summary>Why nobody can use a coupon, whatever they buy.</summary>
    /// <param name="used">How many orders have used it.</param>
    /// <param name="currency">In which is sold.</param>
    public static CouponRefusal Standing(Coupon coupon, int used, Currency currency, DateOnly today) =>
        coupon.IsOff || coupon.IsOtherThan(currency) ? CouponRefusal.Off
        : today < coupon.Begins ? CouponRefusal.TooEarly
        : today > coupon.Ends ? CouponRefusal.TooLate
        : used >= coupon.Uses ? CouponRefusal.UsedUp
        : CouponRefusal.None;

    /// <summary>What they take off: shares first, rounded once each, halves up; then amounts, as far as anything is left; then postage.</summary>
    /// <param name="coupons">Those that are not refused.</param>
    /// <param name="goods">What they cost before anything is taken off.</param>
    /// <param name="way">How the order comes; null while that is open.</param>
    public static CouponsOff Off(IEnumerable<Coupon> coupons, Money goods, DeliveryWay? way)
    {
        var (off, left, postage) = (new List<CouponOff>(), goods.Minor, way?.Costs.Minor ?? 0);
        foreach (var coupon in coupons.OrderBy(c => c.Kind).ThenBy(c => c.Code, StringComparer.Ordinal))
        {
            var minor = coupon.Kind switch
            {
                CouponKind.Percent => Math.Min(left, (long)decimal.Round(goods.Minor * coupon.Percent / 100, MidpointRounding.AwayFromZero)),
                CouponKind.Amount => Math.Min(left, coupon.Amount!.Value.Minor),
                _ => way is not null && Covers(coupon, way) ? postage : 0,
            };
            (left, postage) = coupon.Kind == CouponKind.Postage ? (left, postage - minor) : (left - minor, postage);
            if (minor > 0)
            {
                off.Add(new CouponOff(coupon.Code, goods with { Minor = minor }));
            }
        }

        return new CouponsOff(off, goods with { Minor = goods.Minor - left }, goods with { Minor = (way?.Costs.Minor ?? 0) - postage });
    }

    static bool Covers(Coupon coupon, DeliveryWay way) => (coupon.ByExpress || way.Delivery != Delivery.Express) && (coupon.Abroad || !way.IsAbroad);
}
