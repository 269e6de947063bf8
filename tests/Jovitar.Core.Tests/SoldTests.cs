using CsCheck;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Figures;
using Jovitar.Core.Sales.Ordering;

namespace Jovitar.Core.Tests;

/// <summary>What was sold, summed.</summary>
public sealed class SoldTests
{
    static readonly Currency Euro = Currency.Find("EUR")!;

    static Money Cents(long cents) => new(cents, Euro);

    static SoldSums Sums(long total, int orders = 1) => SoldSums.Nothing(Euro) with { Orders = orders, Pieces = 2 * orders, Goods = Cents(total - 100), Postage = Cents(100), Total = Cents(total) };

    [Fact]
    public void A_year_has_all_its_months_and_each_as_long_as_what_it_came_to()
    {
        var year = SoldYear.Of([(3, Sums(1200)), (3, SoldSums.Nothing(Euro) with { Returned = Cents(50) }), (12, Sums(4800, 3))], Euro);
        Assert.Equal(12, year.Months.Count);
        Assert.Equal((1, 1200, 50), (year.Months[2].Orders, year.Months[2].Total.Minor, year.Months[2].Returned.Minor));
        Assert.Equal((4, 8, 6000, 5800), (year.Whole.Orders, year.Whole.Pieces, year.Whole.Total.Minor, year.Whole.Goods.Minor));
        Assert.Equal([0, 0, 0.25, 0, 0, 0, 0, 0, 0, 0, 0, 1], year.Shares);
        // Nothing sold is no month better than another.
        Assert.All(SoldYear.Of([], Euro).Shares, s => Assert.Equal(0, s));
    }

    [Theory]
    [InlineData(OrderState.Placed, true)]
    [InlineData(OrderState.InWork, true)]
    [InlineData(OrderState.Sent, true)]
    [InlineData(OrderState.Collected, true)]
    [InlineData(OrderState.Cancelled, false)]
    public void What_counts_is_sold_once_it_is_paid(OrderState state, bool counts)
    {
        var paid = new OrderStanding(state, IsPaid: true, Delivery.Post);
        Assert.Equal((counts, counts, false), (paid.Counts, paid.IsSold, (paid with { IsPaid = false }).IsSold));
    }

    [Fact]
    public void Currencies_are_never_counted_together() =>
        Assert.Throws<InvalidOperationException>(() => SoldYear.Of([(1, Sums(100)), (1, SoldSums.Nothing(Currency.Find("GBP")!))], Euro));

    [Fact]
    public void The_months_of_any_year_come_to_the_whole() => Gen.Select(Gen.Int[1, 12], Gen.Long[0, 1_000_000]).Array[0, 40].Sample(found =>
    {
        var year = SoldYear.Of(found.Select(f => (f.Item1, Sums(f.Item2 + 100))), Euro);
        Assert.Equal(found.Sum(f => f.Item2 + 100), year.Whole.Total.Minor);
        Assert.Equal(year.Whole.Total.Minor, year.Months.Sum(m => m.Total.Minor));
        Assert.All(year.Shares, s => Assert.InRange(s, 0, 1));
    });

    [Theory]
    // Sold for, of that with its cost said, what that cost: what stays, and whether of some of it nobody knows.
    [InlineData(1000, 1000, 300, 700, false)]
    [InlineData(1000, 600, 300, 300, true)]
    [InlineData(1000, 0, 0, null, false)]
    // Given away, and paid for by who sells.
    [InlineData(0, 0, 300, -300, false)]
    public void What_stays_is_of_what_has_its_cost_said(long amount, long costed, long costs, int? stays, bool inPart)
    {
        var sold = new SoldThing(2, Cents(amount), Cents(costed), Cents(costs));
        Assert.Equal((stays, inPart), ((int?)sold.Stays?.Minor, sold.IsInPart));
    }
}
