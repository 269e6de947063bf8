using Jovitar.Core.Acts;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Forgetting;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Tests;

/// <summary>Who bought is forgotten: when they can be, when they are, and what stays.</summary>
public sealed class ForgettingTests
{
    [Theory]
    [InlineData(OrderState.Placed, true, false, false)]
    [InlineData(OrderState.InWork, true, false, false)]
    [InlineData(OrderState.Sent, true, false, true)]
    [InlineData(OrderState.Collected, true, false, true)]
    // It is still to be paid.
    [InlineData(OrderState.Sent, false, false, false)]
    [InlineData(OrderState.Collected, false, false, false)]
    [InlineData(OrderState.Cancelled, false, false, true)]
    [InlineData(OrderState.Cancelled, true, false, true)]
    // Money is on its way to them.
    [InlineData(OrderState.Cancelled, true, true, false)]
    [InlineData(OrderState.Sent, true, true, false)]
    public void Whoever_bought_can_be_forgotten_once_nothing_is_left_to_do(OrderState state, bool isPaid, bool isOnItsWayBack, bool can) =>
        Assert.Equal(can, ForgettingRule.CanForget(new OrderStanding(state, isPaid, Delivery.Post), isOnItsWayBack));

    static DateTimeOffset At(int year, int month, int day) => new(year, month, day, 0, 0, 0, TimeSpan.Zero);

    [Fact]
    public void Years_of_invoices_are_counted_from_the_end_of_the_year_in_which_they_were_written()
    {
        var rule = new ForgettingRule();
        // One of 2016 names its buyer until the end of 2026, whenever it was written in that year.
        Assert.Equal((2026, 2026), (rule.LastYear(At(2016, 1, 1)), rule.LastYear(At(2016, 12, 31))));
        Assert.Equal(At(2016, 1, 1), rule.WrittenBefore(At(2026, 12, 31)));
        Assert.Equal(At(2017, 1, 1), rule.WrittenBefore(At(2027, 1, 1)));
        Assert.Equal(At(2027, 1, 1), new ForgettingRule(InvoiceYears: 0).WrittenBefore(At(2027, 3, 9)));
    }

    [Fact]
    public void Orders_are_counted_from_when_they_were_placed_and_nobody_is_forgotten_where_nobody_said_so()
    {
        Assert.Null(new ForgettingRule().PlacedBefore(At(2026, 12, 1)));
        Assert.Equal(At(2024, 12, 1), new ForgettingRule(24).PlacedBefore(At(2026, 12, 1)));
        Assert.Equal(At(2027, 2, 28), new ForgettingRule(12).PlacedBefore(At(2028, 2, 29)));
    }

    [Fact]
    public void What_cannot_be_is_said()
    {
        Assert.All([new ForgettingRule(0), new ForgettingRule(241), new ForgettingRule(null, -1), new ForgettingRule(null, 31)], r => Assert.NotNull(r.Fault()));
        Assert.All([new ForgettingRule(), new ForgettingRule(240, 0), new ForgettingRule(1, 30)], r => Assert.Null(r.Fault()));
        Assert.Equal("Order 7: who bought is forgotten.", OrderWords.Forgot([7]));
        Assert.Equal("2 orders: who bought is forgotten.", OrderWords.Forgot([7, 8]));
    }

    [Fact]
    public void What_was_sold_stays_and_where_it_went_by_country()
    {
        var euro = Currency.Find("EUR")!;
        Money Amount(long cents) => new(cents, euro);
        var order = new PlacedOrder(
            new Buyer("Nell Garrow", "nell@example.test", "7 Ropewalk", "back door", "X91", "Hollin Quay", "Leinster", "FR"), "Ring twice.",
            [new PlacedLine(new PhotoId(Guid.NewGuid()), new AlbumId(Guid.NewGuid()), "Low water", "a.jpg", "Night flight", new SaleOption(Guid.NewGuid(), OptionKind.Other) { Name = "Mug", Price = Amount(900) }, null, 2, Amount(900))],
            new DeliveryWay(Delivery.Post, Amount(600), "Sent abroad.", IsAbroad: true), new TaxSum(TaxKind.Included, "VAT", [new TaxPart(23, Amount(2400), Amount(449))]), Amount(1800), Amount(2400), "IE", "Pay.");
        var forgotten = PlacedSaid.Of(order.Forgotten()).Read();
        Assert.Equal((Buyer.Nobody with { Country = "FR" }, ""), (forgotten.Buyer, forgotten.Message));
        Assert.True(forgotten.Buyer.IsForgotten && forgotten.Way.IsAbroad);
        Assert.Equal((order.Goods, order.Way.Costs, order.Taxed, order.Total), (forgotten.Goods, forgotten.Way.Costs, forgotten.Taxed, forgotten.Total));
        Assert.Equal(order.Lines, forgotten.Lines);
        var invoice = new Invoice(InvoiceKind.Invoice, "G-1", new DateOnly(2026, 1, 2), "Marram Bay", "The guild\nThe loft", "", "", 1001, new DateOnly(2026, 1, 1), null, order, null, order.Total, order.Tax);
        Assert.Equal(["Who bought is forgotten."], invoice.Forgotten().To);
        Assert.Equal((invoice.Called, invoice.Amount, invoice.Tax), (invoice.Forgotten().Called, invoice.Forgotten().Amount, invoice.Forgotten().Tax));
    }
}
