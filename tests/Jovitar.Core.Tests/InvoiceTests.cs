using System.Text.Json;
using CsCheck;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Tests;

/// <summary>Which invoices and credit notes an order has, and what stands on them.</summary>
public sealed class InvoiceTests
{
    static readonly Currency Euro = Currency.Find("EUR")!;

    static readonly InvoiceRule Sound = new(AreWritten: true, "Marram Bay Kite Guild\nThe sail loft\nMarram Bay", "0042", "G-", 118, "Thank you.");

    static OrderStanding Standing(OrderState state, bool isPaid) => new(state, isPaid, Delivery.Post);

    /// <summary>An order over a sum, with the tax that is in it.</summary>
    static PlacedOrder Order(long total, long taxed) => new(
        new Buyer("Nell Garrow", "nell@example.test", "7 Ropewalk", "", "X91", "Hollin Quay", "", "IE"), "", [], new DeliveryWay(Delivery.Post, new Money(0, Euro), ""), Taxes(total, taxed), new Money(total, Euro),
        new Money(total, Euro), "IE", "Pay into the account.");

    static TaxSum Taxes(long gross, long tax) => new(TaxKind.Included, "VAT", [new TaxPart(23, new Money(gross, Euro), new Money(tax, Euro))]);

    static Invoice Paper(InvoiceKind kind = InvoiceKind.Invoice, long amount = 2250, long tax = 421) => new(
        kind, "G-118", new DateOnly(2026, 3, 9), "Marram Bay", Sound.Seller, "0042", "Thank you.", 1004, new DateOnly(2026, 3, 1), new DateOnly(2026, 3, 4), Order(2250, 421), kind == InvoiceKind.Invoice ? null : new InvoiceNamed("G-117", new DateOnly(2026, 3, 8)),
        new Money(amount, Euro), Taxes(amount, tax));

    // Of an order over 100.00: where it stands, when it is to have its invoice, what went back, what its papers come to; what is written.
    [Theory]
    [InlineData(OrderState.Placed, false, InvoiceTime.WhenDue, 0, 0, "")]
    [InlineData(OrderState.InWork, false, InvoiceTime.WhenDue, 0, 0, "")]
    [InlineData(OrderState.Placed, true, InvoiceTime.WhenDue, 0, 0, "+10000")]
    [InlineData(OrderState.Sent, false, InvoiceTime.WhenDue, 0, 0, "+10000")]
    [InlineData(OrderState.Collected, false, InvoiceTime.WhenDue, 0, 0, "+10000")]
    [InlineData(OrderState.Sent, true, InvoiceTime.Never, 0, 0, "")]
    [InlineData(OrderState.Placed, false, InvoiceTime.Now, 0, 0, "+10000")]
    [InlineData(OrderState.Cancelled, false, InvoiceTime.Now, 0, 0, "")]
    // Written once.
    [InlineData(OrderState.Sent, true, InvoiceTime.WhenDue, 0, 10000, "")]
    // What goes back is taken back, once; what went back before the invoice, as well; what went back whole needs none.
    [InlineData(OrderState.Sent, true, InvoiceTime.WhenDue, 2500, 10000, "-2500")]
    [InlineData(OrderState.Sent, true, InvoiceTime.WhenDue, 2500, 7500, "")]
    [InlineData(OrderState.Sent, true, InvoiceTime.WhenDue, 10000, 7500, "-7500")]
    [InlineData(OrderState.Sent, true, InvoiceTime.WhenDue, 2500, 0, "+10000 -2500")]
    [InlineData(OrderState.Sent, true, InvoiceTime.WhenDue, 10000, 0, "")]
    // Cancelled: nothing is owed any more, whether its money has gone back yet or not.
    [InlineData(OrderState.Cancelled, false, InvoiceTime.Now, 0, 10000, "-10000")]
    [InlineData(OrderState.Cancelled, true, InvoiceTime.WhenDue, 2500, 7500, "-7500")]
    [InlineData(OrderState.Cancelled, true, InvoiceTime.WhenDue, 10000, 0, "")]
    // Where that is taken back, it is written anew, whole.
    [InlineData(OrderState.Placed, true, InvoiceTime.WhenDue, 0, 4000, "-4000 +10000")]
    [InlineData(OrderState.Placed, true, InvoiceTime.WhenDue, 3000, 4000, "-4000 +10000 -3000")]
    // Where none are written any more, what was is still taken back.
    [InlineData(OrderState.Cancelled, false, InvoiceTime.Never, 0, 10000, "-10000")]
    public void An_order_has_the_papers_that_come_to_what_it_is_owed_for(OrderState state, bool isPaid, InvoiceTime time, long returned, long balance, string written) =>
        Assert.Equal(written, string.Join(' ', Billing.Next(Standing(state, isPaid), time, 10000, returned, balance).Select(s => FormattableString.Invariant($"{(s.Kind == InvoiceKind.Invoice ? '+' : '-')}{s.Amount}"))));

    [Fact]
    public void Whatever_becomes_of_an_order_its_papers_follow_and_their_taxes_with_them()
    {
        var happenings = Gen.Select(Gen.Enum<OrderState>(), Gen.Bool, Gen.Enum<InvoiceTime>(), Gen.Long[0, 12_000]).List[1, 8];
        Gen.Select(Gen.Long[1, 10_000], Gen.Int[0, 4000], happenings).Sample((total, percent, walk) =>
        {
            var order = Order(total, (long)decimal.Round(total * percent / (10_000m + percent)));
            var written = new List<(InvoiceStep Step, long Tax)>();
            long Balance() => Billing.Balance(written.Select(w => (w.Step.Kind, w.Step.Amount)));
            foreach (var (state, isPaid, time, returned) in walk)
            {
                foreach (var step in Billing.Next(Standing(state, isPaid), time, total, returned, Balance()))
                {
                    // An invoice is of the whole, and written only where none stands; what is taken back begins where the last part ended.
                    Assert.True(step.Amount > 0 && (step.Kind == InvoiceKind.Invoice ? (step.Begins, step.Amount) == (0, total) && Balance() == 0 : step.Begins == total - Balance() && step.Ends <= total));
                    written.Add((step, Billing.TaxOf(order, step).Minor));
                }

                var (comes, owed) = (Balance(), state == OrderState.Cancelled ? 0 : Math.Max(0, total - returned));
                Assert.True(comes <= owed);
                // It is owed and not written only where it is not due.
                Assert.True(comes == owed || (time != InvoiceTime.Now && !(time == InvoiceTime.WhenDue && (isPaid || state is OrderState.Sent or OrderState.Collected))));
                Assert.Empty(Billing.Next(Standing(state, isPaid), time, total, returned, comes));
                var taxes = written.Sum(w => w.Step.Kind == InvoiceKind.Invoice ? w.Tax : -w.Tax);
                Assert.InRange(taxes, 0, comes);
                // What was taken back whole leaves no cent of tax.
                Assert.True(comes != 0 || taxes == 0);
                Assert.True(comes != total || taxes == order.Taxed.Minor);
            }
        });
    }

    static long TaxWithin(PlacedOrder order, long from, long to) => Billing.TaxOf(order, new InvoiceStep(InvoiceKind.CreditNote, to - from, from)).Minor;

    [Fact]
    public void The_taxes_of_parts_are_the_tax_of_the_whole()
    {
        // 100.00 with 18.70 in it, taken back in three parts and what is left: 33.33 has 6.2327 in it, 66.66 has 12.4654, 99.99 has 18.698.
        var order = Order(10000, 1870);
        Assert.Equal([623, 624, 623, 0], new[] { (0, 3333), (3333, 6666), (6666, 9999), (9999, 10000) }.Select(p => TaxWithin(order, p.Item1, p.Item2)));
        Assert.Equal(1870, TaxWithin(order, 0, 10000));
        Assert.Equal(0, TaxWithin(Order(0, 0), 0, 0));
        // Sums of which no product fits 64 bits.
        Assert.Equal(2_500_000_000_000_000, TaxWithin(Order(20_000_000_000_000_000, 5_000_000_000_000_000), 0, 10_000_000_000_000_000));
    }

    [Fact]
    public void What_is_wrong_with_how_they_are_written_is_said()
    {
        Assert.Null(Sound.Fault());
        Assert.Null(new InvoiceRule().Fault());
        foreach (var wrong in new[]
        {
            Sound with { Seller = "Marram Bay Kite Guild" }, Sound with { Seller = " \n \n" }, Sound with { Seller = string.Join('\n', Enumerable.Repeat("line", 9)) }, Sound with { Seller = new string('x', 401) }, Sound with { TaxNumber = new string('1', 41) },
            Sound with { Foot = new string('x', 601) }, Sound with { Foot = "\0" }, Sound with { Prefix = "2026-" + new string('x', 8) }, Sound with { Prefix = "G 1" }, Sound with { Prefix = "№-" }, Sound with { Prefix = "G1" }, Sound with { First = 0 },
            Sound with { First = 1_000_000_000 },
        })
        {
            Assert.NotNull(wrong.Fault());
        }

        // What is not written yet may be unfinished.
        Assert.Null((Sound with { AreWritten = false, Seller = "" }).Fault());
        Assert.Equal(Sound, (Sound with { Seller = " Marram Bay Kite Guild\r\n\r\nThe sail loft \nMarram Bay\n", Prefix = " G-", Foot = "\nThank you.\n" }).AsKept());
        Assert.Equal("G-118", Sound.Call(118));
        Assert.Equal((InvoiceTime.WhenDue, InvoiceTime.Never), (Sound.ForOrders, new InvoiceRule().ForOrders));
        Assert.Equal((InvoiceTime.Now, InvoiceTime.Never), (Sound.Of(InvoiceTime.Now), new InvoiceRule().Of(InvoiceTime.Now)));
    }

    [Fact]
    public void One_is_read_as_it_was_written()
    {
        foreach (var paper in new[] { Paper(), Paper(InvoiceKind.CreditNote, 450, 84) with { Paid = null } })
        {
            var read = JsonSerializer.Deserialize<InvoiceSaid>(JsonSerializer.Serialize(InvoiceSaid.Of(paper)))!.Read();
            Assert.Equal(paper, read with { Placed = read.Placed with { Lines = paper.Placed.Lines, Off = paper.Placed.Off } });
        }
    }

    [Fact]
    public void It_goes_to_an_address_where_one_is_known()
    {
        Assert.Equal(["Nell Garrow", "7 Ropewalk", "X91 Hollin Quay"], Paper().To);
        var fetched = Paper() with { Placed = Order(2250, 421) with { Buyer = Buyer.Nobody with { Name = "Nell Garrow", Email = "nell@example.test" } } };
        Assert.Equal(["Nell Garrow", "nell@example.test"], fetched.To);
        Assert.Equal("Marram Bay Kite Guild · The sail loft · Marram Bay", fetched.Sender);
    }

    [Fact]
    public void Its_letter_says_what_comes_with_it_and_whether_anything_is_to_be_done()
    {
        Assert.Contains("It is paid; nothing is to be done.", OrderLetters.Invoiced(Paper()).Text, StringComparison.Ordinal);
        Assert.Contains("Pay into the account.", OrderLetters.Invoiced(Paper() with { Paid = null }).Text, StringComparison.Ordinal);
        Assert.Contains("It is paid online", OrderLetters.Invoiced(Paper() with { Paid = null, Placed = Order(2250, 421) with { Payment = "" } }).Text, StringComparison.Ordinal);
        var back = OrderLetters.Invoiced(Paper(InvoiceKind.CreditNote, 450, 84));
        Assert.Equal("Credit note G-118 for your order 1004 from Marram Bay", back.Subject);
        Assert.Contains("This takes back a part of invoice G-117 of 8 March 2026, which was over EUR 22.50.", back.Text, StringComparison.Ordinal);
        Assert.Contains("This takes back invoice G-117 of 8 March 2026 as a whole.", OrderLetters.Invoiced(Paper(InvoiceKind.CreditNote)).Text, StringComparison.Ordinal);
    }

    [Fact]
    public void It_says_when_what_it_is_about_comes()
    {
        var files = Paper() with { Placed = Order(2250, 421) with { Way = new DeliveryWay(Delivery.Files, new Money(0, Euro), "") } };
        Assert.Equal("Delivered on the day of this invoice, unless another was agreed.", Paper().Delivered);
        Assert.Equal("The files can be fetched since then.", files.Delivered);
        // Asked for before it is paid.
        Assert.Equal("The files can be fetched as soon as it is paid.", (files with { Paid = null }).Delivered);
    }

    [Fact]
    public void Bookkeeping_has_them_row_by_row()
    {
        Assert.Equal(InvoiceTable.Columns.Count, Assert.Single(InvoiceTable.Rows(Paper())).Count);
        Assert.Equal(["G-118", "Invoice", "2026-03-09", "1004", "", "Nell Garrow", "IE", "18.29", "23", "4.21", "22.50", "EUR"], Assert.Single(InvoiceTable.Rows(Paper())));
        Assert.Equal(["G-118", "Credit note", "2026-03-09", "1004", "G-117", "Nell Garrow", "IE", "-3.66", "23", "-0.84", "-4.50", "EUR"], Assert.Single(InvoiceTable.Rows(Paper(InvoiceKind.CreditNote, 450, 84))));
        var untaxed = Paper(tax: 0) with { Placed = Order(2250, 0) with { Tax = TaxSum.None }, Tax = TaxSum.None };
        Assert.Equal(["22.50", "", "0.00", "22.50"], Assert.Single(InvoiceTable.Rows(untaxed)).Skip(7).Take(4));
    }

    [Fact]
    public void The_history_names_them()
    {
        Assert.Equal("Order 1004: wrote invoice G-118 and credit note G-118 over EUR 4.50.", OrderWords.Wrote([Paper(), Paper(InvoiceKind.CreditNote, 450, 84)], 1004));
        var shop = new Shop(true, Euro, new Postage("IE"), Tax.None, "");
        Assert.Equal("Invoices are written of orders.", OrderWords.Changed(shop, shop with { Invoices = Sound }));
        Assert.Equal("No invoices are written of orders any more.", OrderWords.Changed(shop with { Invoices = Sound }, shop));
        Assert.Equal("Said what stands on invoices.", OrderWords.Changed(shop with { Invoices = Sound }, shop with { Invoices = Sound with { Foot = "" } }));
    }

    // Of an order over 8.50: what came by services, with p for what pays it and x for what came when it was paid already.
    [Theory]
    [InlineData("", 0)]
    [InlineData("850p", 0)]
    // Twice online; by hand first and then online; by hand and then twice.
    [InlineData("850p 850px", 850)]
    [InlineData("850px", 850)]
    [InlineData("850px 850px", 1700)]
    // Too little and too much pay nothing; what is beyond the price is beyond it all the same.
    [InlineData("500", 0)]
    [InlineData("1000", 150)]
    [InlineData("500 850p", 500)]
    [InlineData("500x", 500)]
    public void What_came_beyond_the_price_is_known(string came, long overpaid) => Assert.Equal(
        overpaid,
        Sales.Payments.Refunds.Overpaid(
            850,
            [.. came.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(c => new Sales.Payments.CameIn(long.Parse(c.TrimEnd('p', 'x'), System.Globalization.CultureInfo.InvariantCulture), c.Contains('p', StringComparison.Ordinal), c.EndsWith('x')))]));

    [Fact]
    public void What_came_beyond_the_price_goes_back_first()
    {
        Assert.Equal([0, 0, 5, 100], new[] { (0, 0), (100, 100), (105, 100), (100, 0) }.Select(r => Sales.Payments.Refunds.OfPrice(r.Item1, r.Item2)));
    }
}
