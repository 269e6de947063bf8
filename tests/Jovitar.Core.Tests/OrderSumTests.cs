using System.Globalization;
using System.Text.RegularExpressions;
using CsCheck;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Tests;

/// <summary>What orders come to: a table of examples reckoned by hand, and a plain reckoner over random baskets.</summary>
public sealed partial class OrderSumTests
{
    static readonly Currency Euro = Currency.Find("EUR")!;

    static Money Amount(string text) => Money.Read(text, Euro)!.Value;

    /// <summary>Lines as the table has them: “3 x 4.00 (5: 3.40)” with what they cost from a number on, “2+3 x” for two lines of one option, “file” for what is not sent.</summary>
    static Wanted[] Lines(string text) => [.. text.Split("; ").SelectMany(line =>
    {
        var said = LinePattern().Match(line);
        Assert.True(said.Success, line);
        var option = new SaleOption(Guid.NewGuid(), said.Groups["file"].Success ? OptionKind.Digital : OptionKind.Other)
        {
            Name = "It",
            Price = Amount(said.Groups["price"].Value),
            Breaks = [.. said.Groups["from"].Captures.Zip(said.Groups["each"].Captures, (from, each) => new PriceBreak(int.Parse(from.Value, CultureInfo.InvariantCulture), Amount(each.Value)))],
        };
        return said.Groups["counts"].Value.Split('+').Select(count => new Wanted(option, int.Parse(count, CultureInfo.InvariantCulture)));
    })];

    [GeneratedRegex(@"^(?<counts>[\d+]+) x (?<file>file )?(?<price>[\d.]+)( \(((?<from>\d+): (?<each>[\d.]+)(, )?)+\))?$")]
    private static partial Regex LinePattern();

    /// <summary>A shop in Ireland as the table has it: “home 4.50, free from 60, tax in 23”.</summary>
    static (Postage Postage, Tax Tax) ShopOf(string text)
    {
        var (postage, tax) = (new Postage("IE"), Tax.None);
        foreach (var said in text.Split(", "))
        {
            var last = said[(said.LastIndexOf(' ') + 1)..];
            (postage, tax) = said[..Math.Max(0, said.LastIndexOf(' '))] switch
            {
                "home" => (postage with { AtHome = new PostageRate(Amount(last)) }, tax),
                "express" => (postage with { Express = new PostageRate(Amount(last)) }, tax),
                "free from" => (postage with { FreeFrom = Amount(last) }, tax),
                "free over" => (postage with { FreeFrom = Amount(last), FreeIsOver = true }, tax),
                "free" when last == "express" => (postage with { FreeByExpress = true }, tax),
                "free" when last == "abroad" => (postage with { FreeElsewhere = true }, tax),
                "abroad flat" => (postage with { Elsewhere = new PostageRate(Amount(last)) }, tax),
                "abroad each" => (postage with { Elsewhere = new PostageRate(Amount(last), IsPerThing: true) }, tax),
                "tax in" => (postage, new Tax(TaxKind.Included, decimal.Parse(last, CultureInfo.InvariantCulture), "VAT")),
                "tax on" => (postage, new Tax(TaxKind.Added, decimal.Parse(last, CultureInfo.InvariantCulture), "VAT")),
                "" when last == "collect" => (postage with { Collected = "At the workshop." }, tax),
                _ => throw new ArgumentException(said),
            };
        }

        return (postage.AsKept(), tax);
    }

    /// <summary>Reckoned by hand, line by line.</summary>
    [Theory]
    // Goods alone and with postage.
    [InlineData("1 x 12.00", "home 4.50", "IE", Delivery.Post, "12.00", "4.50", "0.00", "16.50")]
    [InlineData("3 x 12.00", "home 4.50", "IE", Delivery.Post, "36.00", "4.50", "0.00", "40.50")]
    [InlineData("1 x 12.00; 2 x 4.00", "home 4.50", "IE", Delivery.Post, "20.00", "4.50", "0.00", "24.50")]
    [InlineData("1000 x 0.05", "home 4.50", "IE", Delivery.Post, "50.00", "4.50", "0.00", "54.50")]
    [InlineData("1000 x 9999999.99", "home 4.50", "IE", Delivery.Post, "9999999990.00", "4.50", "0.00", "9999999994.50")]
    // More of one option, of one photo or of several.
    [InlineData("4 x 4.00 (5: 3.40, 12: 3.20)", "home 4.50", "IE", Delivery.Post, "16.00", "4.50", "0.00", "20.50")]
    [InlineData("5 x 4.00 (5: 3.40, 12: 3.20)", "home 4.50", "IE", Delivery.Post, "17.00", "4.50", "0.00", "21.50")]
    [InlineData("11 x 4.00 (5: 3.40, 12: 3.20)", "home 4.50", "IE", Delivery.Post, "37.40", "4.50", "0.00", "41.90")]
    [InlineData("12 x 4.00 (5: 3.40, 12: 3.20)", "home 4.50", "IE", Delivery.Post, "38.40", "4.50", "0.00", "42.90")]
    [InlineData("3+2 x 4.00 (5: 3.40)", "home 4.50", "IE", Delivery.Post, "17.00", "4.50", "0.00", "21.50")]
    [InlineData("3 x 4.00 (5: 3.40); 2 x 4.00 (5: 3.40)", "home 4.50", "IE", Delivery.Post, "20.00", "4.50", "0.00", "24.50")]
    // Free from a value, and over it.
    [InlineData("5 x 12.00", "home 4.50, free from 60", "IE", Delivery.Post, "60.00", "0.00", "0.00", "60.00")]
    [InlineData("5 x 12.00", "home 4.50, free over 60", "IE", Delivery.Post, "60.00", "4.50", "0.00", "64.50")]
    [InlineData("6 x 12.00", "home 4.50, free over 60", "IE", Delivery.Post, "72.00", "0.00", "0.00", "72.00")]
    [InlineData("1 x 299.99", "home 4.50, free from 300", "IE", Delivery.Post, "299.99", "4.50", "0.00", "304.49")]
    [InlineData("1 x 300.00", "home 4.50, free from 300", "IE", Delivery.Post, "300.00", "0.00", "0.00", "300.00")]
    [InlineData("1 x 300.00", "home 4.50, free over 300", "IE", Delivery.Post, "300.00", "4.50", "0.00", "304.50")]
    [InlineData("1 x 300.01", "home 4.50, free over 300", "IE", Delivery.Post, "300.01", "0.00", "0.00", "300.01")]
    [InlineData("1 x 1.00", "home 4.50, free from 0", "IE", Delivery.Post, "1.00", "0.00", "0.00", "1.00")]
    // Express is free only where that is said.
    [InlineData("5 x 12.00", "home 4.50, express 11.00, free from 60", "IE", Delivery.Express, "60.00", "11.00", "0.00", "71.00")]
    [InlineData("5 x 12.00", "home 4.50, express 11.00, free from 60, free express", "IE", Delivery.Express, "60.00", "0.00", "0.00", "60.00")]
    [InlineData("1 x 12.00", "express 11.00", "IE", Delivery.Express, "12.00", "11.00", "0.00", "23.00")]
    // Abroad: for an order, or for each thing; free only where that is said.
    [InlineData("4 x 20.00", "home 4.50, abroad flat 9.00", "FR", Delivery.Post, "80.00", "9.00", "0.00", "89.00")]
    [InlineData("4 x 20.00", "home 4.50, abroad each 6.00", "FR", Delivery.Post, "80.00", "24.00", "0.00", "104.00")]
    [InlineData("2 x 20.00; 3 x file 5.00", "home 4.50, abroad each 6.00", "FR", Delivery.Post, "55.00", "12.00", "0.00", "67.00")]
    [InlineData("4 x 20.00", "home 4.50, free from 60, abroad flat 9.00", "FR", Delivery.Post, "80.00", "9.00", "0.00", "89.00")]
    [InlineData("4 x 20.00", "home 4.50, free from 60, free abroad, abroad each 6.00", "FR", Delivery.Post, "80.00", "0.00", "0.00", "80.00")]
    [InlineData("1 x 12.00", "abroad flat 9.00", "FR", Delivery.Post, "12.00", "9.00", "0.00", "21.00")]
    // Collected, and files.
    [InlineData("1 x 12.00", "home 4.50, collect", "IE", Delivery.Collect, "12.00", "0.00", "0.00", "12.00")]
    [InlineData("1 x 12.00", "home 4.50, collect", "FR", Delivery.Collect, "12.00", "0.00", "0.00", "12.00")]
    [InlineData("2 x file 5.00", "home 4.50", "IE", Delivery.Files, "10.00", "0.00", "0.00", "10.00")]
    [InlineData("1 x file 5.00; 1 x 12.00", "home 4.50", "IE", Delivery.Post, "17.00", "4.50", "0.00", "21.50")]
    [InlineData("1 x 0.00", "home 4.50, collect, tax in 23", "IE", Delivery.Collect, "0.00", "0.00", "0.00", "0.00")]
    // Tax: in the sum (45.80 × 23 / 123 = 8.564…) or on top of it (45.80 × 20 / 100), postage with it.
    [InlineData("1 x 41.30", "home 4.50, tax in 23", "IE", Delivery.Post, "41.30", "4.50", "8.56", "45.80")]
    [InlineData("1 x 41.30", "home 4.50, tax on 20", "IE", Delivery.Post, "41.30", "4.50", "9.16", "54.96")]
    // 100 × 19 / 119 = 15.966…; 10 × 5.5 / 105.5 = 0.521…; 9.99 × 7.7 / 100 = 0.769…
    [InlineData("1 x 100.00", "collect, tax in 19", "IE", Delivery.Collect, "100.00", "0.00", "15.97", "100.00")]
    [InlineData("1 x 10.00", "collect, tax in 5.5", "IE", Delivery.Collect, "10.00", "0.00", "0.52", "10.00")]
    [InlineData("1 x 9.99", "collect, tax on 7.7", "IE", Delivery.Collect, "9.99", "0.00", "0.77", "10.76")]
    // Halves go up: 0.20 × 12.5 / 100 = 0.025. Once for the order, not once a line: 1.05 × 10 / 100 = 0.105, while three lines of 0.035 would come to 0.12.
    [InlineData("1 x 0.20", "collect, tax on 12.5", "IE", Delivery.Collect, "0.20", "0.00", "0.03", "0.23")]
    [InlineData("1 x 0.35; 1 x 0.35; 1 x 0.35", "collect, tax on 10", "IE", Delivery.Collect, "1.05", "0.00", "0.11", "1.16")]
    [InlineData("1 x 5.00", "collect, tax on 100", "IE", Delivery.Collect, "5.00", "0.00", "5.00", "10.00")]
    // Postage is free by the value of the goods, before tax is put on top: 54.00 is not 60, though 64.80 is more.
    [InlineData("1 x 54.00", "home 4.50, free from 60, tax on 20", "IE", Delivery.Post, "54.00", "4.50", "11.70", "70.20")]
    public void An_order_comes_to(string lines, string shop, string to, Delivery by, string goods, string postage, string tax, string total)
    {
        var (wanted, (rules, taxed)) = (Lines(lines), ShopOf(shop));
        var terms = taxed.Terms("IE", null);
        var before = BasketSum.Of(wanted, Euro, null, terms);
        var way = Assert.Single(rules.Ways(Parcel.Of(wanted), before.Goods, Country.Find(to)), w => w.Delivery == by);
        var sum = BasketSum.Of(wanted, Euro, way, terms);
        Assert.Equal((goods, postage, tax, total), (sum.Goods.ToString(), sum.Way!.Costs.ToString(), new Money(sum.Tax.Minor, Euro).ToString(), sum.Total.ToString()));
    }

    [Theory]
    [InlineData("home 4.50", "FR")]
    [InlineData("express 4.50", "FR")]
    [InlineData("abroad flat 4.50", "IE")]
    public void Where_nothing_is_sent_no_way_is_offered(string shop, string to) => Assert.Empty(ShopOf(shop).Postage.Ways(new Parcel(1, 0), Amount("500"), Country.Find(to)));

    [Fact]
    public void Currencies_are_counted_in_their_own_minor_units()
    {
        var (yen, dinar) = (Currency.Find("JPY")!, Currency.Find("KWD")!);
        static Wanted One(Currency currency, string price) => new(new SaleOption(Guid.NewGuid(), OptionKind.Other) { Name = "It", Price = Money.Read(price, currency) }, 1);
        Assert.Equal("1,320", $"{BasketSum.Of([One(yen, "1200")], yen, null, new TaxTerms(TaxKind.Added, "VAT", new TaxRates(10))).Total.Minor:N0}");
        Assert.Equal("1.384", BasketSum.Of([One(dinar, "1.318")], dinar, null, new TaxTerms(TaxKind.Added, "VAT", new TaxRates(5))).Total.ToString());
        Assert.Throws<InvalidOperationException>(() => BasketSum.Of([One(yen, "1200")], dinar, null, TaxTerms.None));
    }

    static readonly Gen<(Wanted[] Lines, Postage Postage, Tax Tax, Country To)> Baskets =
        from options in Gen.Select(Gen.Int[0, 3000], Gen.Int[2, 9], Gen.Int[0, 100], Gen.Bool).Array[1, 4]
        from counts in Gen.Select(Gen.Int[0, 3], Gen.Int[1, 12]).Array[1, 6]
        from rules in Gen.Select(Gen.Int[0, 900], Gen.Int[0, 20_000], Gen.Bool, Gen.Int[0, 2], Gen.Bool)
        from tax in Gen.Select(Gen.Enum<TaxKind>(), Gen.Int[1, 4000])
        from home in Gen.Bool
        select (
            LinesOf(options, counts),
            new Postage("IE") { AtHome = new PostageRate(Cents(rules.Item1)), Express = new PostageRate(Cents(rules.Item1 * 2)), FreeFrom = Cents(rules.Item2), FreeIsOver = rules.Item3, Elsewhere = rules.Item4 == 0 ? null : new PostageRate(Cents(rules.Item1), rules.Item4 == 2), FreeElsewhere = rules.Item5, FreeByExpress = rules.Item5 }.AsKept(),
            tax.Item1 == TaxKind.None ? Tax.None : new Tax(tax.Item1, tax.Item2 / 100m, "VAT"), Country.Find(home ? "IE" : "FR")!);

    static Money Cents(int cents) => new(cents, Euro);

    static Wanted[] LinesOf((int Price, int From, int Off, bool File)[] options, (int Option, int Count)[] counts)
    {
        SaleOption[] made = [.. options.Select(o => new SaleOption(Guid.NewGuid(), o.File ? OptionKind.Digital : OptionKind.Other) { Name = "It", Price = Cents(o.Price), Breaks = [new PriceBreak(o.From, Cents(o.Price * (100 - o.Off) / 100))] })];
        return [.. counts.Select(c => new Wanted(made[c.Option % made.Length], c.Count))];
    }

    /// <summary>The same thing again, thought out anew: thing by thing, in numbers with a point.</summary>
    static (decimal Goods, decimal Postage, decimal Tax, decimal Total) Naive(Wanted[] lines, Postage rules, Tax tax, Country to, Delivery by)
    {
        decimal goods = 0, sent = 0;
        foreach (var line in lines)
        {
            for (var i = 0; i < line.Count; i++)
            {
                decimal inAll = 0;
                foreach (var other in lines)
                {
                    inAll += other.Option.Id == line.Option.Id ? other.Count : 0;
                }

                var price = line.Option.Price!.Value.Minor / 100m;
                foreach (var step in line.Option.Breaks)
                {
                    price = inAll >= step.From ? step.Each.Minor / 100m : price;
                }

                goods += price;
                sent += line.Option.Kind == OptionKind.Digital ? 0 : 1;
            }
        }

        var free = rules.FreeFrom is { } from && (goods > from.Minor / 100m || (goods == from.Minor / 100m && !rules.FreeIsOver));
        var postage = sent == 0 ? 0
            : to.Code != rules.Home ? free && rules.FreeElsewhere ? 0 : rules.Elsewhere!.Costs.Minor / 100m * (rules.Elsewhere.IsPerThing ? sent : 1)
            : by == Delivery.Express ? free && rules.FreeByExpress ? 0 : rules.Express!.Costs.Minor / 100m
            : free ? 0 : rules.AtHome!.Costs.Minor / 100m;
        var sum = goods + postage;
        var taxed = tax.Kind switch { TaxKind.Added => sum * tax.Percent / 100, TaxKind.Included => sum - (sum / (1 + (tax.Percent / 100))), _ => 0 };
        // To the cent, halves up.
        taxed = Math.Floor((taxed * 100) + 0.5m) / 100;
        return (goods, postage, taxed, tax.Kind == TaxKind.Added ? sum + taxed : sum);
    }

    [Fact]
    public void Any_basket_comes_to_what_plain_reckoning_says() => Baskets.Sample(
        basket =>
        {
            var (lines, rules, tax, to) = basket;
            var terms = tax.Terms("IE", null);
            var before = BasketSum.Of(lines, Euro, null, terms);
            Assert.Equal(before.Goods.Minor, before.Lines.Sum(l => l.Amount.Minor));
            foreach (var way in rules.Ways(Parcel.Of(lines), before.Goods, to))
            {
                var sum = BasketSum.Of(lines, Euro, way, terms);
                Assert.Equal(Naive(lines, rules, tax, to, way.Delivery), (sum.Goods.Minor / 100m, way.Costs.Minor / 100m, sum.Tax.Minor / 100m, sum.Total.Minor / 100m));
                Assert.True(sum.Total.Minor >= 0 && sum.Tax.Minor >= 0);
                // The parts that a buyer is shown come to the total.
                Assert.Equal(sum.Total.Minor, sum.Goods.Minor + way.Costs.Minor + (tax.Kind == TaxKind.Added ? sum.Tax.Minor : 0));
            }
        },
        iter: 3000);

    [Fact]
    public void Taking_a_line_out_makes_the_goods_no_dearer_where_more_never_come_to_less() => Baskets.Sample(
        basket =>
        {
            var plain = basket.Lines.Select(l => l with { Option = l.Option with { Breaks = [] } }).ToArray();
            var all = BasketSum.Of(plain, Euro, null, basket.Tax.Terms("IE", null)).Total.Minor;
            for (var i = 0; i < plain.Length; i++)
            {
                Assert.True(BasketSum.Of([.. plain.Where((_, n) => n != i)], Euro, null, basket.Tax.Terms("IE", null)).Total.Minor <= all);
            }
        },
        iter: 1000);
}
