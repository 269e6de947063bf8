using System.Globalization;
using CsCheck;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Tests;

/// <summary>Tax by what is bought and by where its buyer is: examples reckoned by hand, and a plain reckoner.</summary>
public sealed class TaxTests
{
    static readonly Currency Euro = Currency.Find("EUR")!;

    static Money Amount(string text) => Money.Read(text, Euro)!.Value;

    /// <summary>Lines as the table has them: “60.00; 30.00 reduced; 12.00 none; 5.00 file”.</summary>
    static TaxedLine[] Lines(string text) => [.. text.Split("; ").Select(l => l.Split(' ')).Select(l => new TaxedLine(
        l.Contains("reduced") ? TaxClass.Reduced : l.Contains("none") ? TaxClass.None : TaxClass.Standard, Amount(l[0]).Minor, !l.Contains("file")))];

    /// <summary>Terms as the table has them: “in 20/5.5”, “on 20”, “in 20 by line”.</summary>
    static TaxTerms Terms(string text)
    {
        var words = text.Split(' ');
        var rates = words[1].Split('/').Select(r => decimal.Parse(r, CultureInfo.InvariantCulture)).ToArray();
        return new TaxTerms(words[0] == "in" ? TaxKind.Included : TaxKind.Added, "VAT", new TaxRates(rates[0], rates.Length > 1 ? rates[1] : null), words.Length > 2);
    }

    static string Said(TaxSum sum) => string.Join("; ", sum.Parts.Select(p => $"{Percents.Digits(p.Percent)} of {p.Gross}: {p.Amount}"));

    /// <summary>What each rate is of, the tax with it, and the tax: reckoned by hand.</summary>
    [Theory]
    // 60 × 20 / 120; 30 × 5.5 / 105.5 = 1.563…
    [InlineData("60.00; 30.00 reduced", "in 20/5.5", "0.00", "0.00", "20 of 60.00: 10.00; 5.5 of 30.00: 1.56")]
    [InlineData("30.00 reduced; 60.00", "in 20/5.5", "0.00", "0.00", "20 of 60.00: 10.00; 5.5 of 30.00: 1.56")]
    // Postage of 9.00 is 6.00 of the one and 3.00 of the other: 66 × 20 / 120; 33 × 5.5 / 105.5 = 1.720…
    [InlineData("60.00; 30.00 reduced", "in 20/5.5", "0.00", "9.00", "20 of 66.00: 11.00; 5.5 of 33.00: 1.72")]
    // On top of it: 66 × 0.2; 33 × 0.055 = 1.815, and halves go up.
    [InlineData("60.00; 30.00 reduced", "on 20/5.5", "0.00", "9.00", "20 of 79.20: 13.20; 5.5 of 34.82: 1.82")]
    // A coupon takes the same share off both: 54.00 and 27.00; of 10.00, 6.67 and 3.33.
    [InlineData("60.00; 30.00 reduced", "in 20/5.5", "9.00", "0.00", "20 of 54.00: 9.00; 5.5 of 27.00: 1.41")]
    [InlineData("60.00; 30.00 reduced", "in 20/5.5", "10.00", "0.00", "20 of 53.33: 8.89; 5.5 of 26.67: 1.39")]
    // Both: 54.00 and 27.00 bring 6.00 and 3.00 of postage with them.
    [InlineData("60.00; 30.00 reduced", "in 20/5.5", "9.00", "9.00", "20 of 60.00: 10.00; 5.5 of 30.00: 1.56")]
    // Postage goes by what is sent: 24.50 × 5.5 / 105.5 = 1.277…; a file of 10.00 has none of it.
    [InlineData("10.00 file; 20.00 reduced", "in 20/5.5", "0.00", "4.50", "20 of 10.00: 1.67; 5.5 of 24.50: 1.28")]
    // What is not taxed bears its share of postage, too.
    [InlineData("24.00; 12.00 none", "in 20", "0.00", "0.00", "20 of 24.00: 4.00; 0 of 12.00: 0.00")]
    [InlineData("24.00; 12.00 none", "in 20", "0.00", "4.50", "20 of 27.00: 4.50; 0 of 13.50: 0.00")]
    [InlineData("12.00 none", "on 20", "0.00", "4.50", "0 of 16.50: 0.00")]
    // Where nothing is reduced, all is taxed alike; where nothing is taxed, nothing is.
    [InlineData("60.00; 30.00 reduced", "in 20", "0.00", "0.00", "20 of 90.00: 15.00")]
    [InlineData("60.00; 30.00 reduced", "on 0", "0.00", "9.00", "0 of 99.00: 0.00")]
    // Rounded once for a rate, 0.105, or for each line, three times 0.035; postage is rounded by itself then: 3 × 1.666… and 0.75.
    [InlineData("0.35; 0.35; 0.35", "on 10", "0.00", "0.00", "10 of 1.16: 0.11")]
    [InlineData("0.35; 0.35; 0.35", "on 10 by line", "0.00", "0.00", "10 of 1.17: 0.12")]
    [InlineData("10.00; 10.00; 10.00", "in 20", "0.00", "4.50", "20 of 34.50: 5.75")]
    [InlineData("10.00; 10.00; 10.00", "in 20 by line", "0.00", "4.50", "20 of 34.50: 5.76")]
    // Line by line a coupon of 1.00 takes 0.33, 0.34 and 0.33 off: 9.67 / 6 = 1.611…, 9.66 / 6 = 1.61.
    [InlineData("10.00; 10.00; 10.00", "in 20 by line", "1.00", "0.00", "20 of 29.00: 4.83")]
    // Nothing left to pay but postage, shared as ever: 3 / 6; 1.5 × 5.5 / 105.5 = 0.078… Nothing at all.
    [InlineData("60.00; 30.00 reduced", "in 20/5.5", "90.00", "4.50", "20 of 3.00: 0.50; 5.5 of 1.50: 0.08")]
    [InlineData("0.00; 0.00 reduced", "in 20/5.5", "0.00", "4.50", "20 of 2.25: 0.38; 5.5 of 2.25: 0.12")]
    [InlineData("0.00", "on 20", "0.00", "4.50", "20 of 5.40: 0.90")]
    [InlineData("30.00", "in 20", "30.00", "0.00", "20 of 0.00: 0.00")]
    [InlineData("0.00; 0.00 reduced", "in 20/5.5", "0.00", "0.00", "20 of 0.00: 0.00")]
    [InlineData("30.00; 0.00 reduced", "in 20/5.5", "0.00", "0.00", "20 of 30.00: 5.00")]
    public void The_tax_of_an_order_is(string lines, string terms, string off, string postage, string parts) => Assert.Equal(parts, Said(Terms(terms).Of(Lines(lines), Amount(off), Amount(postage))));

    static readonly Gen<(TaxedLine[] Lines, TaxTerms Terms, long Off, long Postage)> Orders =
        from lines in Gen.Select(Gen.Enum<TaxClass>(), Gen.Long[0, 40_000], Gen.Bool).Array[1, 6]
        from rates in Gen.Select(Gen.Int[0, 4000], Gen.Int[1, 4000], Gen.Bool, Gen.Bool, Gen.Bool)
        from off in Gen.Int[0, 100]
        from postage in Gen.Int[0, 3000]
        select (
            lines.Select(l => new TaxedLine(l.Item1, l.Item2, l.Item3)).ToArray(),
            new TaxTerms(rates.Item3 ? TaxKind.Included : TaxKind.Added, "VAT", new TaxRates(rates.Item1 / 100m, rates.Item4 ? rates.Item2 / 100m : null), rates.Item5),
            lines.Sum(l => l.Item2) * off / 100, lines.Any(l => l.Item3) ? postage : 0L);

    /// <summary>The same thing again, thought out anew: exact shares, rate by rate, in numbers with a point.</summary>
    static Dictionary<decimal, decimal> Naive(TaxedLine[] lines, TaxTerms terms, decimal off, decimal postage)
    {
        var all = lines.Sum(l => (decimal)l.Amount);
        decimal Left(TaxedLine line) => all == 0 ? 0 : line.Amount - (off * line.Amount / all);
        decimal RateOf(TaxedLine line) => line.Class == TaxClass.None ? 0 : line.Class == TaxClass.Reduced && terms.Rates.Reduced is { } reduced ? reduced : terms.Rates.Standard;
        var sent = lines.Where(l => l.IsSent).ToArray();
        var brought = sent.Sum(l => (decimal)l.Amount);
        var rates = sent.Select(RateOf).Distinct().Count();
        return lines.Select(RateOf).Distinct().ToDictionary(r => r, r => lines.Where(l => RateOf(l) == r).Sum(Left)
            + (sent.All(l => RateOf(l) != r) ? 0 : brought > 0 ? postage * sent.Where(l => RateOf(l) == r).Sum(l => (decimal)l.Amount) / brought : postage / rates));
    }

    [Fact]
    public void Any_order_is_taxed_as_plain_reckoning_says_and_its_parts_come_to_the_whole() => Orders.Sample(
        order =>
        {
            var (lines, terms, off, postage) = order;
            var sum = terms.Of(lines, new Money(off, Euro), new Money(postage, Euro));
            var left = lines.Sum(l => l.Amount) - off + postage;
            Assert.Equal(left + (terms.Kind == TaxKind.Added ? sum.Minor : 0), sum.Parts.Sum(p => p.Gross.Minor));
            Assert.Equal(sum.Parts.Select(p => p.Percent).Distinct().OrderDescending(), sum.Parts.Select(p => p.Percent));
            var naive = Naive(lines, terms, off, postage);
            foreach (var part in sum.Parts)
            {
                // Each line's share of a coupon and each rate's share of postage is off by less than a cent, and the tax of each by half a one.
                var basis = terms.Kind == TaxKind.Added ? part.Net.Minor : part.Gross.Minor;
                var reckoned = naive[part.Percent];
                Assert.True(left == 0 || Math.Abs(basis - reckoned) < lines.Length + 1);
                var tax = terms.Kind == TaxKind.Included ? basis - (basis / (1 + (part.Percent / 100))) : basis * part.Percent / 100;
                Assert.True(Math.Abs(part.Amount.Minor - tax) <= (terms.IsByLine ? (lines.Length + 1) / 2m : 0.5m) + 0.0001m);
                Assert.True(part.Amount.Minor >= 0 && part.Net.Minor >= 0);
            }
        },
        iter: 5000);

    [Fact]
    public void Shares_come_to_the_whole_and_none_is_off_by_a_unit() => Gen.Select(Gen.Long[0, 100_000], Gen.Long[0, 5000].Array[1, 8]).Sample((whole, weights) =>
    {
        var shares = Shares.Of(whole, weights);
        Assert.Equal(whole, shares.Sum());
        Assert.All(shares.Zip(weights), s => Assert.True(s.First >= 0 && (weights.Sum() == 0 || Math.Abs(s.First - ((decimal)whole * s.Second / weights.Sum())) < 1)));
    });

    static readonly Tax Shop = new(TaxKind.Included, 23, "VAT") { Reduced = 13.5m, Places = [new TaxPlace(["FR", "MC"], new TaxRates(20, 5.5m)), new TaxPlace(["DE"], new TaxRates(19))], Elsewhere = TaxRates.Nothing };

    [Theory]
    [InlineData("", "23 13.5 0")]
    [InlineData("IE", "23 13.5 0")]
    [InlineData("FR", "20 5.5 0")]
    [InlineData("MC", "20 5.5 0")]
    [InlineData("DE", "19 19 0")]
    [InlineData("NO", "0 0 0")]
    public void Rates_go_by_where_the_buyer_is(string to, string rates)
    {
        var terms = Shop.Terms("IE", to.Length == 0 ? null : Country.Find(to));
        Assert.Equal(rates, string.Join(' ', Enum.GetValues<TaxClass>().Select(c => Percents.Digits(terms.Rates.Of(c)))));
    }

    [Fact]
    public void Who_collects_is_taxed_at_home_and_who_fetches_files_where_they_are()
    {
        var shop = new Shop(true, Euro, new Postage("IE"), Shop, "Pay.");
        decimal Rate(Delivery delivery) => shop.TaxFor(new DeliveryWay(delivery, Amount("0"), ""), Country.Find("FR")).Rates.Standard;
        Assert.Equal((23, 20, 20, 20), (Rate(Delivery.Collect), Rate(Delivery.Post), Rate(Delivery.Express), Rate(Delivery.Files)));
        // Before anybody has said where they are, at home.
        Assert.Equal(23, shop.TaxFor(null, null).Rates.Standard);
        // So who buys files alone is asked where they are, and that is all that is kept of it.
        var files = new Parcel(0, 0);
        Assert.Equal((true, false), (shop.AsksCountry(files), (shop with { Tax = new Tax(TaxKind.Included, 23, "VAT") }).AsksCountry(files)));
        Assert.Equal(249, shop.Countries(files).Count);
        var buyer = new Buyer("Nell", "nell@example.test", "7 Ropewalk", "", "X91", "Hollin Quay", "", "fr");
        Assert.Equal(Buyer.Nobody with { Name = "Nell", Email = "nell@example.test", Country = "FR" }, buyer.AsKept(isSent: false, isPlaced: true));
        Assert.Equal(["country"], (buyer with { Country = "", Street = "" }).Faults(isSent: false, isPlaced: true).Keys);
        Assert.Empty((buyer with { Country = "", Street = "" }).Faults(isSent: false));
        // So of whoever collects nothing is asked, and nothing kept.
        static DeliveryWay By(Delivery delivery) => new(delivery, Amount("0"), "");
        Assert.Equal(("FR", "", "FR"), (shop.Kept(buyer, By(Delivery.Files)).Country, shop.Kept(buyer, By(Delivery.Collect)).Country, shop.Kept(buyer, By(Delivery.Express)).Country));
        Assert.Equal((1, 0, 1, 0), (Wrong(By(Delivery.Files)), Wrong(By(Delivery.Collect)), Wrong(By(Delivery.Post)), Wrong(null)));
        int Wrong(DeliveryWay? way) => shop.Faults(buyer with { Country = "" }, way).Count;
    }

    [Fact]
    public void It_is_read_as_it_was_written_and_kept_without_what_does_not_go_with_the_rest()
    {
        Assert.Equal(Shop, TaxSaid.Of(Shop).Read().Tax!.AsKept("IE"));
        // Written before there were other rates.
        Assert.Equal(new Tax(TaxKind.Included, 23, "VAT"), System.Text.Json.JsonSerializer.Deserialize<TaxSaid>("""{"Kind":1,"Percent":"23","Name":"VAT"}""")!.Read().Tax!.AsKept("IE"));
        var odd = new TaxSaid(TaxKind.Added, "20,00", " VAT ", "20", [new TaxPlaceSaid(["fr", "IE", "FR"], "5,5")], new TaxRatesSaid("0"));
        Assert.Equal(new Tax(TaxKind.Added, 20, "VAT") { Places = [new TaxPlace(["FR"], new TaxRates(5.5m))], Elsewhere = TaxRates.Nothing }, odd.Read().Tax!.AsKept("IE"));
        Assert.Equal(Tax.None, (odd with { Kind = TaxKind.None }).Read().Tax!.AsKept("IE"));
        foreach (var (wrong, field) in new[]
        {
            (odd with { Percent = "much" }, "percent"), (odd with { Reduced = "less" }, "percent"), (odd with { Places = [null!] }, "places0"), (odd with { Places = [new TaxPlaceSaid(["FR"], "5"), new TaxPlaceSaid(["DE"], "")] }, "places1"),
            (odd with { Places = [new TaxPlaceSaid([null!], "5")] }, "places0"), (odd with { Elsewhere = new TaxRatesSaid("") }, "elsewhere"), (odd with { Elsewhere = new TaxRatesSaid("1", "x") }, "elsewhere"),
        })
        {
            Assert.Equal(field, wrong.Read().Field);
        }

        foreach (var wrong in new[]
        {
            Shop with { Reduced = 0 }, Shop with { Reduced = 101 }, Shop with { Places = [new TaxPlace(["XX"], new TaxRates(1))] }, Shop with { Places = [new TaxPlace(["FR"], new TaxRates(1)), new TaxPlace(["DE", "FR"], new TaxRates(2))] },
            Shop with { Places = [new TaxPlace(["FR"], new TaxRates(7.777m))] }, Shop with { Elsewhere = new TaxRates(101) }, Shop with { Places = [.. Enumerable.Repeat(new TaxPlace([], new TaxRates(1)), 101)] },
        })
        {
            Assert.NotNull(wrong.Fault());
        }

        Assert.Null(Shop.Fault());
    }

    [Fact]
    public void What_prices_have_in_them_is_said_with_the_rate_only_where_there_is_one()
    {
        Assert.Equal("including 23 % VAT", new Tax(TaxKind.Included, 23, "VAT").Said);
        Assert.Equal("without 7.7 % VAT", new Tax(TaxKind.Added, 7.7m, "VAT").Said);
        Assert.Equal(("including VAT", ""), (Shop.Said, Tax.None.Said));
        var two = Terms("in 20/5.5").Of(Lines("60.00; 30.00 reduced; 12.00 none"), Amount("0"), Amount("0"));
        Assert.Equal(["including 20 % VAT in 60.00", "including 5.5 % VAT in 30.00"], two.Named.Select(two.Called));
        var added = Terms("on 20/5.5").Of(Lines("60.00; 30.00 reduced"), Amount("0"), Amount("0"));
        Assert.Equal(["20 % VAT on 60.00", "5.5 % VAT on 30.00"], added.Named.Select(added.Called));
        var none = Terms("in 0").Of(Lines("60.00"), Amount("0"), Amount("0"));
        Assert.Equal(["without VAT"], none.Named.Select(none.Called));
        Assert.Equal(("20 + 5.5 + 0", ""), (two.Percent, TaxSum.None.Percent));
    }

    static PlacedOrder Placed(TaxSum tax, long total) => new(
        Buyer.Nobody with { Name = "Nell", Email = "nell@example.test", Country = "FR" }, "", [], new DeliveryWay(Delivery.Files, Amount("0"), ""), tax, new Money(total, Euro), new Money(total, Euro), "IE", "Pay.");

    [Fact]
    public void An_order_with_several_rates_is_read_as_it_was_written_and_named_to_its_buyer()
    {
        var order = Placed(Terms("in 20/5.5").Of(Lines("60.00; 30.00 reduced"), Amount("0"), Amount("0")), 9000);
        var read = PlacedSaid.Of(order).Read();
        Assert.Equal((order.Tax, "11.56"), (read.Tax, read.Taxed.ToString()));
        Assert.Contains("Total: EUR 90.00 (including 20 % VAT in 60.00: 10.00; including 5.5 % VAT in 30.00: 1.56)", OrderLetters.Placed("Marram Bay", 1004, order, "x").Text, StringComparison.Ordinal);
        Assert.Contains("Total: EUR 90.00 (without VAT: 0.00)", OrderLetters.Placed("Marram Bay", 1004, Placed(Terms("in 0").Of(Lines("90.00"), Amount("0"), Amount("0")), 9000), "x").Text, StringComparison.Ordinal);
    }

    [Fact]
    public void Bookkeeping_has_a_row_for_each_rate_of_an_invoice()
    {
        var order = Placed(Terms("in 20/5.5").Of(Lines("60.00; 30.00 reduced"), Amount("0"), Amount("0")), 9000);
        var invoice = new Invoice(InvoiceKind.Invoice, "G-1", new DateOnly(2026, 3, 9), "Marram Bay", "The guild\nThe loft", "", "", 1004, new DateOnly(2026, 3, 1), null, order, null, order.Total, Billing.TaxOf(order, new InvoiceStep(InvoiceKind.Invoice, 9000, 0)));
        Assert.Equal(order.Tax, invoice.Tax);
        Assert.Equal(["G-1 50.00 20 10.00 60.00", "G-1 28.44 5.5 1.56 30.00"], InvoiceTable.Rows(invoice).Select(r => string.Join(' ', r.Where((_, i) => i is 0 or (> 6 and < 11)))));
        var read = InvoiceSaid.Of(invoice).Read();
        Assert.Equal((invoice.Tax, "78.44"), (read.Tax, read.Net.ToString()));
        // Who fetched files is named with the country that the tax goes by.
        Assert.Equal(["Nell", "nell@example.test", "France"], invoice.To);
        // What is not taxed where its buyer is says so.
        var untaxed = Placed(Terms("in 0").Of(Lines("90.00"), Amount("0"), Amount("0")), 9000);
        Assert.Equal(["90.00", "0", "0.00", "90.00"], Assert.Single(InvoiceTable.Rows(invoice with { Placed = untaxed, Tax = untaxed.Tax })).Skip(7).Take(4));
        // Half of it taken back: half of each.
        var back = Billing.TaxOf(order, new InvoiceStep(InvoiceKind.CreditNote, 4500, 0));
        Assert.Equal("20 of 30.00: 5.00; 5.5 of 15.00: 0.78", Said(back));
    }

    [Fact]
    public void However_an_invoice_is_taken_back_each_rate_comes_to_its_whole() => Gen.Select(Orders, Gen.Long[0, 100_000].Array[0, 6]).Sample((order, cuts) =>
    {
        var (lines, terms, off, postage) = order;
        var tax = terms.Of(lines, new Money(off, Euro), new Money(postage, Euro));
        var total = tax.Parts.Sum(p => p.Gross.Minor);
        long[] ends = [0, .. cuts.Where(c => c < total).Order(), total];
        var taken = ends.Zip(ends.Skip(1), (from, to) => Billing.TaxOf(Placed(tax, total), new InvoiceStep(InvoiceKind.CreditNote, to - from, from))).ToArray();
        Assert.All(taken.Zip(ends.Zip(ends.Skip(1))), t => Assert.Equal(t.Second.Second - t.Second.First, t.First.Parts.Sum(p => p.Gross.Minor)));
        Assert.Equal(tax.Parts, tax.Parts.Select((p, i) => new TaxPart(p.Percent, new Money(taken.Sum(t => t.Parts[i].Gross.Minor), Euro), new Money(taken.Sum(t => t.Parts[i].Amount.Minor), Euro))));
        Assert.All(taken, t => Assert.All(t.Parts, p => Assert.True(p.Amount.Minor >= 0 && p.Gross.Minor >= 0)));
        // Each is read as it was written, however small it is.
        Assert.All(taken.Zip(ends.Zip(ends.Skip(1))), t => Assert.Equal(t.First.Parts.Count, InvoiceSaid.Of(Note(Placed(tax, total), t.Second.Second - t.Second.First, t.First)).Read().Tax.Parts.Count));
    });

    static Invoice Note(PlacedOrder order, long amount, TaxSum tax) =>
        new(InvoiceKind.CreditNote, "G-2", new DateOnly(2026, 3, 9), "Marram Bay", "The guild\nThe loft", "", "", 1004, new DateOnly(2026, 3, 1), null, order, new InvoiceNamed("G-1", new DateOnly(2026, 3, 8)), new Money(amount, Euro), tax);
}
