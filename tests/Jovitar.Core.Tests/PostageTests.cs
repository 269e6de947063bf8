using System.Globalization;
using System.Text.Json;
using CsCheck;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Tests;

/// <summary>What sending costs by weight and by zone.</summary>
public sealed class PostageTests
{
    static readonly Currency Euro = Currency.Find("EUR")!;

    static Money Amount(string text) => Money.Read(text, Euro)!.Value;

    /// <summary>A rate as the tables have it: “4.50”, “6.00 each”, “4.50, over 500 6.90, over 2000 no”; “no” where nothing is sent.</summary>
    static PostageRate? Rate(string text)
    {
        var parts = text.Split(", ");
        if (parts[0] == "no")
        {
            return null;
        }

        return new PostageRate(Amount(parts[0].Split(' ')[0]), parts[0].EndsWith("each", StringComparison.Ordinal))
        {
            Heavier = [.. parts.Skip(1).Select(p => p.Split(' ')).Select(p => new WeightStep(int.Parse(p[1], CultureInfo.InvariantCulture), p[2] == "no" ? null : Amount(p[2])))],
        };
    }

    /// <summary>Reckoned by hand: a parcel of so many things and grams, with 100 g of packing.</summary>
    [Theory]
    // Below the first weight, at it and over it: packing counts.
    [InlineData("4.50, over 500 6.90, over 2000 12.00", 1, 300, "4.50")]
    [InlineData("4.50, over 500 6.90, over 2000 12.00", 1, 400, "4.50")]
    [InlineData("4.50, over 500 6.90, over 2000 12.00", 1, 401, "6.90")]
    [InlineData("4.50, over 500 6.90, over 2000 12.00", 3, 1900, "6.90")]
    [InlineData("4.50, over 500 6.90, over 2000 12.00", 3, 1901, "12.00")]
    [InlineData("4.50, over 500 6.90, over 2000 12.00", 900, 9_000_000_000, "12.00")]
    // Written in another order they are the same.
    [InlineData("4.50, over 2000 12.00, over 500 6.90", 1, 401, "6.90")]
    // What is too heavy is not sent, and what is written beyond that is nothing.
    [InlineData("4.50, over 2000 no", 1, 1900, "4.50")]
    [InlineData("4.50, over 2000 no", 1, 1901, null)]
    [InlineData("4.50, over 2000 no, over 5000 20.00", 1, 6000, null)]
    // What nobody weighed weighs nothing.
    [InlineData("4.50, over 500 6.90", 50, 0, "4.50")]
    // For each thing, whatever it weighs.
    [InlineData("6.00 each", 4, 40_000, "24.00")]
    [InlineData("6.00 each, over 500 9.00", 4, 40_000, "24.00")]
    [InlineData("no", 1, 100, null)]
    public void A_parcel_costs_by_what_it_weighs(string rate, int things, long grams, string? costs)
    {
        var (parcel, elsewhere) = (new Parcel(things, grams), new Postage("IE") { Elsewhere = Rate(rate), Packing = 100 }.AsKept());
        var (atHome, express) = (new Postage("IE") { AtHome = Rate(rate), Packing = 100 }.AsKept(), new Postage("IE") { Express = Rate(rate), Packing = 100 }.AsKept());
        foreach (var (postage, to) in new[] { (elsewhere, "FR"), (atHome, "IE"), (express, "IE"), (new Postage("IE") { Zones = [new PostageZone(["FR"], Rate(rate))], Packing = 100 }.AsKept(), "FR") })
        {
            Assert.Equal(costs, postage.Ways(parcel, Amount("20"), Country.Find(to)).SingleOrDefault()?.Costs.ToString());
        }
    }

    static readonly Postage Zoned = new Postage("IE")
    {
        AtHome = Rate("4.50"),
        FreeFrom = Amount("60"),
        Zones = [new PostageZone(["GB", "FR"], Rate("8.00"), IsFree: true), new PostageZone(["US", "CA"], Rate("12.00, over 1000 no")), new PostageZone(["RU"], Rate("no"))],
        Elsewhere = Rate("15.00"),
        Collected = "At the workshop.",
    }.AsKept();

    [Theory]
    [InlineData("IE", "20", 100, "4.50")]
    [InlineData("FR", "20", 100, "8.00")]
    [InlineData("FR", "60", 100, "0.00")]
    [InlineData("US", "60", 100, "12.00")]
    [InlineData("US", "60", 1001, null)]
    [InlineData("RU", "60", 100, null)]
    [InlineData("NZ", "60", 100, "15.00")]
    public void A_country_is_reached_by_its_zone_and_else_as_everywhere(string to, string goods, long grams, string? costs) =>
        Assert.Equal(costs, Zoned.Ways(new Parcel(1, grams), Amount(goods), Country.Find(to)).SingleOrDefault(w => w.Delivery == Delivery.Post)?.Costs.ToString());

    [Fact]
    public void Buyers_read_why_it_costs_what_it_costs_and_why_it_cannot_be_sent()
    {
        var weighed = new Postage("IE") { AtHome = Rate("4.50, over 500 6.90, over 10000 no"), Elsewhere = Rate("6.00 each"), Packing = 150 };
        string? Why(Postage postage, string to, long grams) => postage.Ways(new Parcel(3, grams), Amount("1"), Country.Find(to)).SingleOrDefault(w => w.Delivery == Delivery.Post)?.Sentence;
        Assert.Equal("It weighs 600 g with its packing.", Why(weighed, "IE", 450));
        Assert.Equal("It weighs 2.4 kg with its packing.", Why(weighed, "IE", 2250));
        Assert.Equal("6.00 for each of 3 sent abroad.", Why(weighed, "FR", 2250));
        Assert.Equal("Sent abroad.", Why(Zoned, "FR", 100));
        Assert.Equal("Sent abroad. It weighs 100 g with its packing.", Why(Zoned, "US", 100));
        Assert.Equal("It weighs 12.4 kg with its packing; up to 10 kg are sent to Ireland.", weighed.NoWay(new Parcel(1, 12_250), Country.Find("IE")));
        Assert.Equal("It weighs 1.001 kg with its packing; up to 1 kg are sent to United States.", Zoned.NoWay(new Parcel(1, 1001), Country.Find("US")));
        Assert.Equal("Nothing is sent to Russia.", Zoned.NoWay(new Parcel(1, 1), Country.Find("RU")));
        // By express something heavier goes, too.
        Assert.Equal("It weighs 30 kg with its packing; up to 20 kg are sent to Ireland.", new Postage("IE") { AtHome = Rate("4.50, over 2000 no"), Express = Rate("9.00, over 20000 no") }.NoWay(new Parcel(1, 30_000), Country.Find("IE")));
    }

    [Fact]
    public void Whoever_can_only_come_for_it_reads_why_it_is_not_sent()
    {
        static string? Why(Postage postage, Parcel parcel, string to) => postage.NotSent(postage.Ways(parcel, Amount("1"), Country.Find(to)), parcel, Country.Find(to));
        Assert.Equal("Nothing is sent to Russia.", Why(Zoned, new Parcel(1, 1), "RU"));
        Assert.Equal("It weighs 1.001 kg with its packing; up to 1 kg are sent to United States.", Why(Zoned, new Parcel(1, 1001), "US"));
        Assert.Null(Why(Zoned, new Parcel(1, 1), "US"));
        Assert.Null(Why(Zoned, new Parcel(0, 0), "RU"));
        // A shop that sends nothing to anybody has nothing to explain; one where nothing can be had at all has.
        Assert.Null(Why(new Postage("IE") { Collected = "Here." }, new Parcel(1, 1), "IE"));
        Assert.Equal("Nothing is sent to Ireland.", Why(new Postage("IE"), new Parcel(1, 1), "IE"));
    }

    [Fact]
    public void Countries_of_a_zone_to_which_nothing_is_sent_are_not_offered()
    {
        var shop = new Shop(true, Euro, Zoned with { Collected = "" }, Tax.None, "Pay.");
        Assert.Equal((248, false), (shop.Countries(new Parcel(1, 300)).Count, shop.Countries(new Parcel(1, 300)).Any(c => c.Code == "RU")));
        Assert.Equal(["IE", "FR", "GB"], (shop with { Postage = new Postage("IE") { AtHome = Rate("1"), Zones = [new PostageZone(["GB", "FR"], Rate("8.00"))] } }).Countries(new Parcel(1, 300)).Select(c => c.Code));
        // A shop that sends to one zone only opens.
        Assert.Null(new Shop(true, Euro, new Postage("IE") { Zones = [new PostageZone(["FR"], Rate("8.00"))] }, Tax.None, "Pay.").Fault());
        Assert.NotNull(new Shop(true, Euro, new Postage("IE") { Zones = [new PostageZone([], Rate("8.00"))] }, Tax.None, "Pay.").Fault());
    }

    static readonly PostageSaid Said = new(
        "IE", "4,50", "", "60", FreeIsOver: false, FreeByExpress: false, FreeAbroad: false, Abroad.Flat, "15", "", HomeHeavier: [new(2000, "12"), new(500, "6.90")], AbroadHeavier: [new(5000, "")],
        Zones: [new(["fr", "GB", "IE"], Abroad.PerItem, "8", IsFree: true, [new(500, "9")]), new(["RU"], Abroad.No, "7", IsFree: true)], Packing: 150);

    [Fact]
    public void It_is_read_as_it_is_written_and_written_as_it_was_read()
    {
        var (postage, wrong, _) = Said.Read(Euro);
        Assert.Null(wrong);
        Assert.Equal(
            new PostageSaid(
                "IE", "4.50", "", "60.00", FreeIsOver: false, FreeByExpress: false, FreeAbroad: false, Abroad.Flat, "15.00", "", HomeHeavier: [new(500, "6.90"), new(2000, "12.00")], AbroadHeavier: [new(5000, "")],
                Zones: [new(["FR", "GB"], Abroad.PerItem, "8.00", IsFree: true), new(["RU"], Abroad.No, "", IsFree: false)], Packing: 150).Json(),
            PostageSaid.Of(postage!).Json());
        Assert.Equal(postage, PostageSaid.Of(postage!).Read(Euro).Postage);
        Assert.True(postage!.GoesByWeight);
        Assert.NotEqual(postage, postage with { Zones = [.. postage.Zones.Take(1)] });
        Assert.NotEqual(postage, postage with { AtHome = postage.AtHome! with { Heavier = [] } });
    }

    [Fact]
    public void What_is_wrong_with_it_is_said_of_its_field()
    {
        static string? Field(PostageSaid said) => said.Read(Euro).Field;
        static PostageSaid Zone(PostageZoneSaid zone) => Said with { Zones = [new(["FR"], Abroad.No, "", false), zone] };
        Assert.Equal("atHome", Field(Said with { HomeHeavier = [new(500, "much")] }));
        Assert.Equal("abroadCosts", Field(Said with { AbroadHeavier = [null!] }));
        Assert.Equal("zones1", Field(Zone(new(["GB"], Abroad.Flat, "", false))));
        Assert.Equal("zones1", Field(Zone(new(["GB"], Abroad.Flat, "8", false, [new(1, "x")]))));
        Assert.Equal("zones1", Field(Zone(new(["GB"], (Abroad)7, "8", false))));
        Assert.Equal("zones", Field(Zone(null!)));
        Assert.Equal("zones", Field(Zone(new(null!, Abroad.No, "", false))));
        foreach (var wrong in new[]
        {
            Zone(new(["FR"], Abroad.No, "", false)), Zone(new(["XX"], Abroad.No, "", false)), Zone(new(["GB"], Abroad.Flat, "8", false, [new(0, "9")])), Said with { HomeHeavier = [new(500, "1"), new(500, "2")] },
            Said with { HomeHeavier = [new(100_001, "1")] }, Said with { HomeHeavier = [.. Enumerable.Range(1, 9).Select(n => new WeightStepSaid(n, "1"))] }, Said with { Packing = -1 }, Said with { Packing = 20_001 },
            Said with { Zones = [.. Enumerable.Range(0, 21).Select(_ => new PostageZoneSaid([], Abroad.No, "", false))] },
        })
        {
            Assert.NotNull(wrong.Read(Euro).Postage?.Fault());
        }
    }

    [Fact]
    public void Only_what_is_sent_is_weighed()
    {
        static Wanted Of(OptionKind kind, int? weight, int count) => new(new SaleOption(Guid.NewGuid(), kind) { Name = "It", Weight = weight }, count);
        Assert.Equal(new Parcel(6, 2 * 120), Parcel.Of([Of(OptionKind.Other, 120, 2), Of(OptionKind.Other, null, 4), Of(OptionKind.Digital, 900, 3)]));
        Assert.Equal(new Parcel(1000 * 500, 50_000_000_000), Parcel.Of(Enumerable.Repeat(Of(OptionKind.Other, 100_000, 1000), 500)));
        Assert.Equal(["0 g", "999 g", "1 kg", "1.05 kg", "1,200 kg"], new long[] { 0, 999, 1000, 1050, 1_200_000 }.Select(Parcel.Said));
    }

    /// <summary>Thought out anew: of all weights that are passed, the heaviest says what it costs.</summary>
    [Fact]
    public void Any_parcel_costs_what_plain_reckoning_says() => Gen.Select(Gen.Select(Gen.Int[1, 40], Gen.Int[-1, 50]).Array[0, 8], Gen.Int[0, 4000], Gen.Int[0, 500]).Sample(
        (steps, grams, packing) =>
        {
            steps = [.. steps.DistinctBy(s => s.Item1)];
            var rate = new PostageRate(new Money(7, Euro)) { Heavier = [.. steps.Select(s => new WeightStep(s.Item1 * 100, s.Item2 < 0 ? null : new Money(s.Item2, Euro)))] };
            var costs = 7;
            for (var passed = 1; passed <= grams + packing; passed++)
            {
                foreach (var step in steps)
                {
                    costs = costs >= 0 && passed == (step.Item1 * 100) + 1 ? step.Item2 : costs;
                }
            }

            var way = new Postage("IE") { AtHome = rate, Packing = packing }.AsKept().Ways(new Parcel(1, grams), new Money(0, Euro), null).SingleOrDefault();
            Assert.Equal(costs, way?.Costs.Minor ?? -1);
        },
        iter: 2000);
}

file static class Written
{
    /// <summary>Records with lists are the same where all that stands in them is.</summary>
    public static string Json(this PostageSaid said) => JsonSerializer.Serialize(said);
}
