namespace Jovitar.Core.Sales.Figures;

/// <summary>What some orders come to, part by part: those that are paid and not cancelled.</summary>
/// <param name="Orders">So many.</param>
/// <param name="Pieces">So many of all their lines.</param>
/// <param name="TakenOff">By coupons.</param>
/// <param name="Tax">In the total.</param>
/// <param name="Total">What was paid.</param>
/// <param name="Returned">What went back of that.</param>
public sealed record SoldSums(int Orders, long Pieces, Money Goods, Money TakenOff, Money Postage, Money Tax, Money Total, Money Returned)
{
    public static SoldSums Nothing(Currency currency)
    {
        var zero = new Money(0, currency);
        return new(0, 0, zero, zero, zero, zero, zero, zero);
    }

    /// <summary>Both together.</summary>
    /// <exception cref="InvalidOperationException">The two are of different currencies.</exception>
    public static SoldSums operator +(SoldSums left, SoldSums right) => new(
        left.Orders + right.Orders, left.Pieces + right.Pieces, left.Goods + right.Goods, left.TakenOff + right.TakenOff, left.Postage + right.Postage, left.Tax + right.Tax, left.Total + right.Total, left.Returned + right.Returned);
}

/// <summary>A year of orders, by the month in which each was paid.</summary>
/// <param name="Months">All twelve, January first.</param>
/// <param name="Whole">All of them together.</param>
public sealed record SoldYear(IReadOnlyList<SoldSums> Months, SoldSums Whole)
{
    /// <param name="found">Those months of which there is something, each from 1; one may be there several times.</param>
    public static SoldYear Of(IEnumerable<(int Month, SoldSums Sums)> found, Currency currency)
    {
        var by = found.ToLookup(f => f.Month, f => f.Sums);
        SoldSums[] months = [.. Enumerable.Range(1, 12).Select(m => by[m].Aggregate(SoldSums.Nothing(currency), (sum, one) => sum + one))];
        return new SoldYear(months, months.Aggregate((sum, one) => sum + one));
    }

    /// <summary>How much of the best month each came to, 0 to 1.</summary>
    public IReadOnlyList<double> Shares
    {
        get
        {
            var most = Months.Max(m => m.Total.Minor);
            return [.. Months.Select(m => most == 0 ? 0 : (double)m.Total.Minor / most)];
        }
    }
}

/// <summary>What was sold of one thing.</summary>
/// <param name="Amount">What it was sold for, before coupons.</param>
/// <param name="Costed">As much of that as the seller has said the cost of.</param>
/// <param name="Costs">How much that cost.</param>
public readonly record struct SoldThing(long Pieces, Money Amount, Money Costed, Money Costs)
{
    /// <summary>What stays of that of which the cost was said, as with prices: what it was sold for less what it cost; null where nobody said what any of it costs.</summary>
    public Money? Stays => Costed.Minor == 0 && Costs.Minor == 0 ? null : Costed - Costs;

    /// <summary>Of some of it nobody said what it costs.</summary>
    public bool IsInPart => Stays is not null && Costed != Amount;
}
