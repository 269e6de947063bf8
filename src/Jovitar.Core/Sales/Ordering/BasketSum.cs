using Jovitar.Core.Sales.Coupons;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Sales.Ordering;

/// <summary>So many of an option, of one photo.</summary>
public sealed record Wanted(SaleOption Option, int Count)
{
    /// <summary>So many of one thing are bought at most.</summary>
    public const int MostCount = 1000;
}

/// <summary>What a line comes to.</summary>
/// <param name="Each">One of it.</param>
public readonly record struct LineSum(Money Each, Money Amount);

/// <summary>What a basket comes to, part by part.</summary>
/// <param name="Lines">As they stand.</param>
/// <param name="Goods">All lines together.</param>
/// <param name="Way">How it comes to its buyer; null while that is open.</param>
/// <param name="Off">What coupons take off goods and postage.</param>
/// <param name="Tax">Within the total, or what comes on top, as the tax says.</param>
/// <param name="Total">What is paid.</param>
public sealed record BasketSum(IReadOnlyList<LineSum> Lines, Money Goods, DeliveryWay? Way, IReadOnlyList<CouponOff> Off, TaxSum Tax, Money Total)
{
    /// <summary>So many lines a basket has at most.</summary>
    public const int MostLines = 500;

    /// <summary>What is left of goods and postage once coupons have taken off; tax goes by it.</summary>
    public Money Left => Off.Aggregate(Way is null ? Goods : Goods + Way.Costs, (left, coupon) => left - coupon.Amount);


    /// <summary>Sums a basket. What an option costs each goes by how many of it are bought in all, of whichever photos.</summary>
    /// <param name="coupons">Those that take something off; tax goes by what is left.</param>
    /// <exception cref="InvalidOperationException">An option has no price, or another currency.</exception>
    public static BasketSum Of(IReadOnlyList<Wanted> lines, Currency currency, DeliveryWay? way, TaxTerms tax, IEnumerable<Coupon>? coupons = null)
    {
        var counts = lines.GroupBy(l => l.Option.Id).ToDictionary(g => g.Key, g => g.Sum(l => l.Count));
        LineSum[] sums =
        [
            .. lines.Select(l => l.Option.Each(counts[l.Option.Id]) is { } each ? new LineSum(each, each.Times(l.Count)) : throw new InvalidOperationException($"“{l.Option.Called}” has no price.")),
        ];
        var goods = sums.Aggregate(new Money(0, currency), (sum, line) => sum + line.Amount);
        var off = CouponRule.Off(coupons ?? [], goods, way);
        var postage = (way?.Costs ?? goods with { Minor = 0 }) - off.Postage;
        var taxed = tax.Of([.. lines.Zip(sums, (line, sum) => new TaxedLine(line.Option.Tax, sum.Amount.Minor, !line.Option.IsFile))], off.Goods, postage);
        var left = goods - off.Goods + postage;
        return new BasketSum(sums, goods, way, off.Each, taxed, tax.Kind == TaxKind.Added ? left with { Minor = checked(left.Minor + taxed.Minor) } : left);
    }
}
