using System.Globalization;
using CsCheck;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Coupons;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Tests;

/// <summary>What coupons take off, and when they take nothing.</summary>
public sealed class CouponTests
{
    static readonly Currency Euro = Currency.Find("EUR")!;

    static Money Amount(string text) => Money.Read(text, Euro)!.Value;

    static readonly DateOnly Today = new(2026, 12, 1);

    /// <summary>A coupon as the tables have it: “A 10%”, “B 5.00”, “C post express abroad”, each with “with” where it goes with others.</summary>
    static Coupon CouponOf(string text)
    {
        var words = text.Split(' ');
        var off = words[1];
        return new Coupon(words[0].PadRight(Coupon.ShortestCode, '1'), off.EndsWith('%') ? CouponKind.Percent : off == "post" ? CouponKind.Postage : CouponKind.Amount)
        {
            Percent = off.EndsWith('%') ? decimal.Parse(off[..^1], CultureInfo.InvariantCulture) : 0,
            Amount = char.IsDigit(off[^1]) ? Amount(off) : null,
            ByExpress = words.Contains("express"),
            Abroad = words.Contains("abroad"),
            GoesWithOthers = words.Contains("with"),
            From = words.Contains("from") ? Amount(words[Array.IndexOf(words, "from") + 1]) : null,
            Begins = words.Contains("begins") ? DateOnly.Parse(words[Array.IndexOf(words, "begins") + 1], CultureInfo.InvariantCulture) : null,
            Ends = words.Contains("ends") ? DateOnly.Parse(words[Array.IndexOf(words, "ends") + 1], CultureInfo.InvariantCulture) : null,
            Uses = words.Contains("uses") ? int.Parse(words[Array.IndexOf(words, "uses") + 1], CultureInfo.InvariantCulture) : null,
            IsOff = words.Contains("off"),
        };
    }

    static Coupon[] CouponsOf(string text) => text.Length == 0 ? [] : [.. text.Split("; ").Select(CouponOf)];

    static Wanted[] Goods(string price) => [new(new SaleOption(Guid.NewGuid(), OptionKind.Other) { Name = "It", Price = Amount(price) }, 1)];

    /// <summary>Sent for 4.50 at home, 11.00 by express, 9.00 abroad, free from 60.00 at home.</summary>
    static readonly Postage Rules = new Postage("IE") { AtHome = new PostageRate(Amount("4.50")), Express = new PostageRate(Amount("11")), FreeFrom = Amount("60"), Elsewhere = new PostageRate(Amount("9")), Collected = "At the workshop." }.AsKept();

    static DeliveryWay Way(Money goods, string to, Delivery by) => Rules.Ways(new Parcel(1, 0), goods, Country.Find(to)).Single(w => w.Delivery == by);

    /// <summary>Reckoned by hand: goods, then what is taken off, tax in the sum or on top of it, and the total.</summary>
    [Theory]
    // Shares of the goods, never of the postage; 33.33 × 10 % = 3.333, 0.05 × 50 % = 0.025 goes up, 19.99 × 12.5 % = 2.49875.
    [InlineData("30.00", "A 10%", "IE", Delivery.Post, "", "3.00", "31.50", "0.00")]
    [InlineData("33.33", "A 10%", "IE", Delivery.Collect, "", "3.33", "30.00", "0.00")]
    [InlineData("0.05", "A 50%", "IE", Delivery.Collect, "", "0.03", "0.02", "0.00")]
    [InlineData("19.99", "A 12.5%", "IE", Delivery.Collect, "", "2.50", "17.49", "0.00")]
    [InlineData("30.00", "A 100%", "IE", Delivery.Post, "", "30.00", "4.50", "0.00")]
    [InlineData("30.00", "A 100%", "IE", Delivery.Collect, "", "30.00", "0.00", "0.00")]
    // Amounts, as far as there are goods.
    [InlineData("30.00", "A 5.00", "IE", Delivery.Post, "", "5.00", "29.50", "0.00")]
    [InlineData("3.00", "A 5.00", "IE", Delivery.Post, "", "3.00", "4.50", "0.00")]
    // Each share is of all goods, amounts of what is left: 30 − 3 − 6 − 5.
    [InlineData("30.00", "A 10% with; B 20% with; C 5.00 with", "IE", Delivery.Collect, "", "3.00 6.00 5.00", "16.00", "0.00")]
    [InlineData("30.00", "A 60% with; B 60% with", "IE", Delivery.Collect, "", "18.00 12.00", "0.00", "0.00")]
    [InlineData("30.00", "A 60% with; B 60% with; C 5.00 with", "IE", Delivery.Post, "", "18.00 12.00", "4.50", "0.00")]
    // Postage: at home; by express and abroad only where that is said; nothing where it is free or collected.
    [InlineData("30.00", "A post", "IE", Delivery.Post, "", "4.50", "30.00", "0.00")]
    [InlineData("30.00", "A post", "IE", Delivery.Express, "", "", "41.00", "0.00")]
    [InlineData("30.00", "A post express", "IE", Delivery.Express, "", "11.00", "30.00", "0.00")]
    [InlineData("30.00", "A post", "FR", Delivery.Post, "", "", "39.00", "0.00")]
    [InlineData("30.00", "A post abroad", "FR", Delivery.Post, "", "9.00", "30.00", "0.00")]
    [InlineData("60.00", "A post", "IE", Delivery.Post, "", "", "60.00", "0.00")]
    [InlineData("30.00", "A post", "IE", Delivery.Collect, "", "", "30.00", "0.00")]
    [InlineData("30.00", "A post with; B post with; C 10% with", "IE", Delivery.Post, "", "3.00 4.50", "27.00", "0.00")]
    // Free from 60.00 goes by the goods before coupons: 60 − 6 is sent for nothing.
    [InlineData("60.00", "A 10%", "IE", Delivery.Post, "", "6.00", "54.00", "0.00")]
    // Tax is of what is left: 31.50 × 23 / 123 = 5.890…, 31.50 × 20 / 100.
    [InlineData("30.00", "A 10%", "IE", Delivery.Post, "in 23", "3.00", "31.50", "5.89")]
    [InlineData("30.00", "A 10%", "IE", Delivery.Post, "on 20", "3.00", "37.80", "6.30")]
    [InlineData("30.00", "A 100%", "IE", Delivery.Collect, "on 20", "30.00", "0.00", "0.00")]
    public void Coupons_take_off(string price, string coupons, string to, Delivery by, string tax, string off, string total, string taxed)
    {
        var said = tax.Length == 0 ? Tax.None : new Tax(tax.StartsWith("in", StringComparison.Ordinal) ? TaxKind.Included : TaxKind.Added, decimal.Parse(tax[3..], CultureInfo.InvariantCulture), "VAT");
        var sum = BasketSum.Of(Goods(price), Euro, Way(Amount(price), to, by), said.Terms("IE", null), CouponsOf(coupons));
        Assert.Equal((off, total, taxed), (string.Join(' ', sum.Off.Select(o => o.Amount)), sum.Total.ToString(), new Money(sum.Tax.Minor, Euro).ToString()));
    }

    [Fact]
    public void Before_it_is_known_how_an_order_comes_a_coupon_of_postage_takes_nothing_off() =>
        Assert.Equal(["A11"], BasketSum.Of(Goods("30"), Euro, null, TaxTerms.None, CouponsOf("A 10% with; B post with")).Off.Select(o => o.Code));

    /// <summary>Each with how many orders have used it, for goods of 30.00, on 1 December 2026.</summary>
    [Theory]
    [InlineData("A 10%", 0, CouponRefusal.None)]
    [InlineData("A 10% off", 0, CouponRefusal.Off)]
    [InlineData("A 10% begins 2026-12-01", 0, CouponRefusal.None)]
    [InlineData("A 10% begins 2026-12-02", 0, CouponRefusal.TooEarly)]
    [InlineData("A 10% ends 2026-12-01", 0, CouponRefusal.None)]
    [InlineData("A 10% ends 2026-11-30", 0, CouponRefusal.TooLate)]
    [InlineData("A 10% uses 3", 2, CouponRefusal.None)]
    [InlineData("A 10% uses 3", 3, CouponRefusal.UsedUp)]
    [InlineData("A 10% uses 3", 4, CouponRefusal.UsedUp)]
    [InlineData("A 10% from 30.00", 0, CouponRefusal.None)]
    [InlineData("A 10% from 30.01", 0, CouponRefusal.TooLittle)]
    // What nobody can use at all is said before what is missing.
    [InlineData("A 10% from 30.01 ends 2026-11-30", 0, CouponRefusal.TooLate)]
    public void A_coupon_is_refused(string coupon, int used, CouponRefusal refusal) => Assert.Equal([refusal], CouponRule.Refusals([(CouponOf(coupon), used)], Amount("30"), Today));

    [Theory]
    [InlineData("A 10% with; B 5.00 with", "None None")]
    [InlineData("A 10% with; B 5.00", "None NotTogether")]
    [InlineData("A 10%; B 5.00", "NotTogether NotTogether")]
    // What could not be used anyway stands in nobody's way.
    [InlineData("A 10% off; B 5.00", "Off None")]
    [InlineData("A 10% ends 2026-01-01 with; B 5.00; C post from 99", "TooLate None TooLittle")]
    public void Coupons_go_together_only_where_they_say_so(string coupons, string refusals) =>
        Assert.Equal(refusals, string.Join(' ', CouponRule.Refusals([.. CouponsOf(coupons).Select(c => (c, 0))], Amount("30"), Today)));

    [Fact]
    public void Amounts_of_another_currency_are_taken_off_nothing()
    {
        var pounds = Currency.Find("GBP")!;
        Assert.Equal([CouponRefusal.Off], CouponRule.Refusals([(CouponOf("A 5.00"), 0)], new Money(3000, pounds), Today));
        Assert.Equal([CouponRefusal.None], CouponRule.Refusals([(CouponOf("A 10%"), 0)], new Money(3000, pounds), Today));
    }

    static readonly Gen<(int[] Prices, Coupon[] Coupons, Tax Tax, Delivery By, bool Home)> Orders =
        from prices in Gen.Int[0, 4000].Array[1, 5]
        from coupons in Gen.Select(Gen.Enum<CouponKind>(), Gen.Int[1, 10_000], Gen.Bool, Gen.Bool).Array[0, 5]
        from tax in Gen.Select(Gen.Enum<TaxKind>(), Gen.Int[1, 4000])
        from way in Gen.Enum<Delivery>().Where(d => d != Delivery.Files)
        from home in Gen.Bool
        select (
            prices,
            coupons.Select((c, i) => new Coupon($"C{i:00}", c.Item1) { Percent = c.Item2 / 100m, Amount = c.Item1 == CouponKind.Amount ? new Money(c.Item2, Euro) : null, ByExpress = c.Item3, Abroad = c.Item4, GoesWithOthers = true }).ToArray(),
            tax.Item1 == TaxKind.None ? Tax.None : new Tax(tax.Item1, tax.Item2 / 100m, "VAT"), way, home || way == Delivery.Express);

    static BasketSum SumOf((int[] Prices, Coupon[] Coupons, Tax Tax, Delivery By, bool Home) order, IEnumerable<Coupon> coupons)
    {
        Wanted[] lines = [.. order.Prices.Select(p => new Wanted(new SaleOption(Guid.NewGuid(), OptionKind.Other) { Name = "It", Price = new Money(p, Euro) }, 1))];
        return BasketSum.Of(lines, Euro, Way(new Money(order.Prices.Sum(), Euro), order.Home ? "IE" : "FR", order.By), order.Tax.Terms("IE", null), coupons);
    }

    /// <summary>The same thing again, thought out anew: taken from a purse of goods and a purse of postage, in numbers with a point.</summary>
    static decimal Naive((int[] Prices, Coupon[] Coupons, Tax Tax, Delivery By, bool Home) order)
    {
        var goods = order.Prices.Sum() / 100m;
        var postage = order.By switch { Delivery.Collect => 0m, Delivery.Express => 11m, _ => order.Home ? goods >= 60 ? 0 : 4.5m : 9m };
        var left = goods;
        foreach (var coupon in order.Coupons)
        {
            left -= coupon.Kind == CouponKind.Percent ? Math.Floor((goods * coupon.Percent) + 0.5m) / 100 : coupon.Kind == CouponKind.Amount ? coupon.Amount!.Value.Minor / 100m : 0;
            postage = coupon.Kind == CouponKind.Postage && (order.Home || coupon.Abroad) && (order.By != Delivery.Express || coupon.ByExpress) ? 0 : postage;
        }

        return Math.Max(0, left) + postage;
    }

    [Fact]
    public void Any_order_comes_to_what_plain_reckoning_says_in_whatever_order_coupons_were_typed() => Orders.Sample(
        order =>
        {
            var sum = SumOf(order, order.Coupons);
            var before = sum.Goods.Minor + sum.Way!.Costs.Minor - sum.Off.Sum(o => o.Amount.Minor);
            Assert.Equal(Naive(order), before / 100m);
            Assert.Equal(sum.Total.Minor, order.Tax.Kind == TaxKind.Added ? before + sum.Tax.Minor : before);
            Assert.True(sum.Total.Minor >= 0 && sum.Tax.Minor >= 0);
            Assert.All(sum.Off, o => Assert.True(o.Amount.Minor > 0));
            Assert.Equal(sum.Off, SumOf(order, order.Coupons.Reverse()).Off);
        },
        iter: 3000);

    [Fact]
    public void No_coupon_makes_an_order_dearer() => Orders.Sample(
        order =>
        {
            var all = SumOf(order, order.Coupons).Total.Minor;
            for (var i = 0; i < order.Coupons.Length; i++)
            {
                Assert.True(all <= SumOf(order, order.Coupons.Where((_, n) => n != i)).Total.Minor);
            }
        },
        iter: 1000);

    [Theory]
    [InlineData("12,5", "12.5")]
    [InlineData(" 10.00 ", "10")]
    [InlineData("ten", null)]
    [InlineData("-5", null)]
    [InlineData("1e1", null)]
    [InlineData("", null)]
    public void Per_cent_are_read_as_they_are_typed_and_kept_without_zeros(string typed, string? digits)
    {
        var read = Percents.Read(typed);
        Assert.Equal(digits, read is { } percent ? Percents.Digits(Percents.AsKept(percent)) : null);
        Assert.Equal(digits, read is { } kept ? Percents.AsKept(kept).ToString(CultureInfo.InvariantCulture) : null);
    }

    [Theory]
    [InlineData("2026-12-01", 1)]
    [InlineData(" 2026-12-31 ", 31)]
    [InlineData("2026-02-30", null)]
    [InlineData("1.12.2026", null)]
    [InlineData("", null)]
    public void A_day_is_read_as_it_is_written(string typed, int? day) => Assert.Equal(day, Days.Read(typed)?.Day);

    [Theory]
    [InlineData("  club 10 ", "CLUB10")]
    [InlineData("été-26", "ÉTÉ-26")]
    public void Codes_are_kept_as_they_are_compared(string typed, string code) => Assert.Equal(code, Coupon.CodeOf(typed));

    static CouponSaid Said(CouponKind kind = CouponKind.Percent, string off = "10", string code = "CLUB10", string from = "", string begins = "", string ends = "", string uses = "") =>
        new(code, kind, off, "EUR", ByExpress: true, Abroad: true, from, begins, ends, uses, IsOnceEach: true, GoesWithOthers: true, IsOff: false, "For the club");

    [Fact]
    public void What_is_written_of_a_coupon_is_read_back()
    {
        CouponSaid[] written = [Said(), Said(CouponKind.Amount, "5,5", from: "30", begins: "2026-12-01", ends: "2026-12-31", uses: "50"), Said(CouponKind.Postage, "")];
        foreach (var said in written)
        {
            var coupon = said.Read().Coupon!;
            Assert.Equal(coupon, CouponSaid.Of(coupon, Euro).Read().Coupon);
        }

        // What does not go with its kind is not kept.
        Assert.False(written[0].Read().Coupon!.ByExpress);
        Assert.Equal("5.50", CouponSaid.Of(written[1].Read().Coupon!, Euro).Off);
    }

    public static TheoryData<CouponSaid, string?, string> Wrong => new()
    {
        { Said(code: "no"), null, "3 to 24 letters" },
        { Said(code: "10 %"), null, "3 to 24 letters" },
        { Said(off: ""), "off", "how many per cent" },
        { Said(off: "0"), null, "More than 0" },
        { Said(off: "100.01"), null, "More than 0" },
        { Said(off: "1.005"), null, "two digits" },
        { Said(CouponKind.Amount, ""), "off", "how much" },
        { Said(CouponKind.Amount, "0"), null, "how much" },
        { Said(CouponKind.Amount, "-5"), "off", "no amount" },
        { Said(from: "much"), "from", "no amount" },
        { Said(begins: "2026-02-30"), "begins", "no such day" },
        { Said(ends: "soon"), "ends", "no such day" },
        { Said(begins: "2026-12-02", ends: "2026-12-01"), null, "ends before it begins" },
        { Said(uses: "0"), null, "1 to 100,000" },
        { Said(uses: "many"), "uses", "1 to 100,000" },
        { Said() with { Currency = "XXX" }, "currency", "no such currency" },
        { Said() with { Kind = (CouponKind)9 }, null, "no such coupon" },
    };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void A_coupon_that_is_none_says_why(CouponSaid said, string? field, string why)
    {
        var (coupon, wrong, about) = said.Read();
        Assert.Null(coupon);
        Assert.Contains(why, wrong, StringComparison.Ordinal);
        Assert.Equal(field, about);
    }

    [Fact]
    public void Buyers_are_told_why_a_coupon_takes_nothing_off()
    {
        Assert.Equal("It is good for orders of EUR 40.00 and more: EUR 10.00 is missing.", CouponWords.Refused(CouponOf("A 10% from 40"), CouponRefusal.TooLittle, Amount("30")));
        Assert.Equal("It was good until 30 November 2026.", CouponWords.Refused(CouponOf("A 10% ends 2026-11-30"), CouponRefusal.TooLate, Amount("30")));
        Assert.Equal("", CouponWords.Refused(CouponOf("A 10%"), CouponRefusal.None, Amount("30")));
    }

    [Theory]
    [InlineData("A 10%", "A 12.5%", "The coupon A11 takes 12.5 % off instead of 10 %.")]
    [InlineData("A 5.00", "A 5.00 off", "Nobody can use the coupon A11 any more.")]
    [InlineData("A post", "B post", "The coupon A11 is B11 now.")]
    [InlineData("A post", "A post with", "Changed the coupon A11.")]
    public void The_history_says_what_was_changed(string before, string after, string says) => Assert.Equal(says, CouponWords.Changed(CouponOf(before), CouponOf(after)));
}
