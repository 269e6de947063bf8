using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Corrections;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Forgetting;
using Jovitar.Core.Sales.Coupons;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Payments;
using Jovitar.Core.Sales.Printing;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Tests;

/// <summary>How the site sells, who buys, and what becomes of an order.</summary>
public sealed class ShopTests
{
    static readonly ShopSaid Sound = new(
        IsOpen: true, "eur", new PostageSaid("IE", "4,50", "", "60", FreeIsOver: true, FreeByExpress: true, FreeAbroad: true, Abroad.No, "9.00", " At the workshop. "), new TaxSaid(TaxKind.Included, "23", " VAT "), " Pay. ");

    [Fact]
    public void It_is_kept_without_what_does_not_go_with_the_rest()
    {
        var (shop, wrong, _) = Sound.Read();
        Assert.Null(wrong);
        Assert.Equal(
            new ShopSaid(true, "EUR", new PostageSaid("IE", "4.50", "", "60.00", FreeIsOver: true, FreeByExpress: false, FreeAbroad: false, Abroad.No, "", "At the workshop."), new TaxSaid(TaxKind.Included, "23", "VAT"), "Pay.", Prints: new PrintRule(), Invoices: new InvoiceRule(), Forgetting: new ForgettingRule()),
            ShopSaid.Of(shop!));
        Assert.Equal(shop, ShopSaid.Of(shop!).Read().Shop);
    }

    [Fact]
    public void What_is_wrong_is_said_of_its_field()
    {
        static string? Field(ShopSaid said) => said.Read() is { Shop: null, Wrong: not null, Field: var field } ? field ?? "all of it" : null;
        Assert.Equal("currency", Field(Sound with { Currency = "XXY" }));
        Assert.Equal("atHome", Field(Sound with { Postage = Sound.Postage with { AtHome = "four" } }));
        Assert.Equal("freeFrom", Field(Sound with { Postage = Sound.Postage with { FreeFrom = "-1" } }));
        Assert.Equal("abroadCosts", Field(Sound with { Postage = Sound.Postage with { Abroad = Abroad.Flat, AbroadCosts = "" } }));
        Assert.Equal("percent", Field(Sound with { Tax = Sound.Tax with { Percent = "much" } }));
        foreach (var wrong in new[]
        {
            Sound with { Tax = Sound.Tax with { Percent = "0" } }, Sound with { Tax = Sound.Tax with { Percent = "101" } }, Sound with { Tax = Sound.Tax with { Percent = "7.777" } }, Sound with { Tax = Sound.Tax with { Name = " " } },
            Sound with { Postage = Sound.Postage with { Home = "XX" } }, Sound with { Postage = Sound.Postage with { Collected = new string('x', 301) } },
            Sound with { Payment = new string('x', 1001) }, Sound with { Postage = null! }, Sound with { Tax = null! },
        })
        {
            Assert.Equal("all of it", Field(wrong));
        }
    }

    [Fact]
    public void It_opens_only_once_buyers_know_how_it_comes_to_them_and_how_they_pay()
    {
        Assert.NotNull((Sound with { Payment = "" }).Read().Wrong);
        Assert.NotNull((Sound with { Postage = Sound.Postage with { Home = "" } }).Read().Wrong);
        Assert.NotNull((Sound with { Postage = Sound.Postage with { AtHome = "", Collected = "" } }).Read().Wrong);
        Assert.Null((Sound with { Postage = Sound.Postage with { AtHome = "" } }).Read().Wrong);
        // What is closed may be as unfinished as it likes.
        Assert.Null((Sound with { IsOpen = false, Payment = "", Postage = new PostageSaid("", "", "", "", false, false, false, Abroad.No, "", "") }).Read().Wrong);
    }

    [Fact]
    public void Countries_are_those_to_which_something_comes()
    {
        var shop = Sound.Read().Shop! with { Postage = new Postage("IE") { AtHome = new PostageRate(new Money(450, Currency.Find("EUR")!)) } };
        Assert.Equal(["Ireland"], shop.Countries(new Parcel(1, 0)).Select(c => c.Name));
        // ISO 3166-1 has 249 countries and territories.
        Assert.Equal(249, Country.All.Count);
        var abroad = (shop with { Postage = shop.Postage with { Elsewhere = shop.Postage.AtHome } }).Countries(new Parcel(1, 0));
        Assert.Equal((249, "IE"), (abroad.Count, abroad[0].Code));
        Assert.Equal(Country.All.Select(c => c.Code), Country.All.Select(c => c.Code).Distinct());
        Assert.Null(Country.Find("EU"));
        Assert.Equal("Ireland", Country.Find(" ie ")!.Name);
    }

    static readonly Buyer Nell = new("Nell Garrow", "nell@example.test", "7 Ropewalk", "", "X91 A0B1", "Hollin Quay", "", "IE");

    [Theory]
    [InlineData("name", " ")]
    [InlineData("email", "nell")]
    [InlineData("street", "")]
    [InlineData("postcode", "")]
    [InlineData("town", "")]
    [InlineData("country", "XX")]
    public void What_is_missing_of_a_buyer_is_said_of_its_field(string field, string value)
    {
        Assert.Empty(Nell.Faults(isSent: true));
        var wrong = field switch { "name" => Nell with { Name = value }, "email" => Nell with { Email = value }, "street" => Nell with { Street = value }, "postcode" => Nell with { Postcode = value }, "town" => Nell with { Town = value }, _ => Nell with { Country = value } };
        Assert.Equal([field], wrong.Faults(isSent: true).Keys);
        // Who comes and collects it says who they are, and not where they live.
        Assert.Equal(field is "name" or "email" ? [field] : [], wrong.Faults(isSent: false).Keys);
    }

    [Fact]
    public void An_address_has_what_its_country_has()
    {
        Assert.Empty((Nell with { Country = "HK", Postcode = "" }).Faults(isSent: true));
        Assert.Equal(["region"], (Nell with { Country = "US", Postcode = "04101" }).Faults(isSent: true).Keys);
        Assert.Equal(["Nell Garrow", "7 Ropewalk", "X91 A0B1 Hollin Quay"], Nell.Lines("IE"));
        Assert.Equal(["Nell Garrow", "7 Ropewalk", "X91 A0B1 Hollin Quay", "Ireland"], Nell.Lines("FR"));
        Assert.Equal(Buyer.Nobody with { Name = "Nell Garrow", Email = "nell@example.test" }, Nell.AsKept(isSent: false));
    }

    [Theory]
    [InlineData(OrderState.Placed, false, Delivery.Post, "Pay Begin Send Cancel")]
    [InlineData(OrderState.Placed, true, Delivery.Post, "Begin Send Cancel")]
    [InlineData(OrderState.Placed, true, Delivery.Collect, "Begin HandOver Cancel")]
    [InlineData(OrderState.InWork, false, Delivery.Express, "Pay Send Cancel")]
    [InlineData(OrderState.Sent, false, Delivery.Post, "Pay")]
    [InlineData(OrderState.Sent, true, Delivery.Post, "")]
    [InlineData(OrderState.Collected, false, Delivery.Collect, "Pay")]
    [InlineData(OrderState.Cancelled, false, Delivery.Post, "")]
    public void From_where_an_order_stands_it_goes_on(OrderState state, bool paid, Delivery delivery, string next)
    {
        var standing = new OrderStanding(state, paid, delivery);
        Assert.Equal(next, string.Join(' ', standing.Next));
        foreach (var step in Enum.GetValues<OrderStep>())
        {
            Assert.Equal(standing.Next.Contains(step), standing.After(step) is not null);
        }
    }

    [Fact]
    public void Every_order_comes_to_an_end_and_no_step_is_done_twice()
    {
        void Walk(OrderStanding standing, OrderStep[] done)
        {
            Assert.True(done.Length <= Enum.GetValues<OrderStep>().Length);
            Assert.Equal(done.Distinct(), done);
            foreach (var step in standing.Next)
            {
                Walk(standing.After(step)!.Value, [.. done, step]);
            }

            Assert.True(standing.Next.Count > 0 || standing.State is OrderState.Sent or OrderState.Collected or OrderState.Cancelled);
            Assert.False(string.IsNullOrEmpty(OrderWords.Standing(standing)));
        }

        foreach (var delivery in Enum.GetValues<Delivery>())
        {
            Walk(new OrderStanding(OrderState.Placed, false, delivery), []);
        }
    }

    [Theory]
    [InlineData(OrderState.Placed, null, 0, 0, NotFetched.NotPaid)]
    [InlineData(OrderState.Placed, 0, 0, 0, NotFetched.No)]
    [InlineData(OrderState.Sent, 0, 2, 30, NotFetched.No)]
    [InlineData(OrderState.Sent, 0, 3, 30, NotFetched.TooOften)]
    [InlineData(OrderState.Sent, 0, 0, 31, NotFetched.TooLate)]
    [InlineData(OrderState.Sent, 5, 0, 31, NotFetched.No)]
    [InlineData(OrderState.Cancelled, 0, 0, 0, NotFetched.Cancelled)]
    public void A_file_is_handed_out_from_its_payment_on_as_often_and_as_long_as_it_was_sold(OrderState state, int? paidOn, int fetched, int day, NotFetched why)
    {
        var began = DateTimeOffset.UnixEpoch;
        var file = new SaleOption(Guid.NewGuid(), OptionKind.Digital) { Downloads = 3, Days = 30 };
        Assert.Equal(why, new FileTerms(file, state, paidOn is { } paid ? began.AddDays(paid) : null, fetched).At(began.AddDays(day)));
        // One that says nothing of it is there for ever, once it is paid.
        var always = new FileTerms(file with { Downloads = null, Days = null }, OrderState.Placed, began, 500);
        Assert.Equal((NotFetched.No, null, null), (always.At(began.AddYears(20)), always.Left, always.Until));
    }

    [Fact]
    public void What_is_cut_off_is_moved_to_either_end()
    {
        // 900 by 600 pixels on a square: a third is cut off at the sides.
        var picture = new PixelSize(900, 600);
        var fit = PrintFit.Of(picture, new PrintArea(100, 100));
        Assert.True(fit.CutsSides(picture));
        Assert.False(PrintFit.Of(new PixelSize(600, 900), new PrintArea(100, 100)).CutsSides(new PixelSize(600, 900)));
        foreach (var (at, x) in new[] { (0.0, 0.0), (0.5, 150), (1, 300) })
        {
            var moved = PrintFit.Of(picture, new PrintArea(100, 100), fit.MovedTo(at, picture)).Crop;
            Assert.Equal((x, 600), (Math.Round(moved.X, 6), Math.Round(moved.Width, 6)));
        }
    }

    [Fact]
    public void What_a_buyer_says_is_words_and_not_too_many()
    {
        Assert.Null(PlacedOrder.MessageFault("Before the twelfth,\nplease."));
        Assert.NotNull(PlacedOrder.MessageFault("a\0b"));
        Assert.NotNull(PlacedOrder.MessageFault(new string('x', 1001)));
    }

    [Theory]
    // While something of the order is to be done, whatever it is.
    [InlineData(OptionKind.Print, OrderState.Placed, null, 0, 0, true)]
    [InlineData(OptionKind.Digital, OrderState.InWork, null, 0, 0, true)]
    // A print that is sent needs nothing any more, nor what was cancelled.
    [InlineData(OptionKind.Print, OrderState.Sent, 0, 0, 1, false)]
    [InlineData(OptionKind.Digital, OrderState.Cancelled, 0, 0, 1, false)]
    // A file may be fetched for thirty days from when it was paid, and three times.
    [InlineData(OptionKind.Digital, OrderState.Sent, 0, 2, 30, true)]
    [InlineData(OptionKind.Digital, OrderState.Sent, 0, 3, 1, false)]
    [InlineData(OptionKind.Digital, OrderState.Sent, 0, 0, 31, false)]
    [InlineData(OptionKind.Digital, OrderState.Sent, null, 0, 1, false)]
    public void Orders_need_their_photos_as_long_as_something_of_them_is_to_be_done_or_fetched(OptionKind kind, OrderState state, int? paid, int fetched, int now, bool isNeeded)
    {
        var start = new DateTimeOffset(2026, 6, 1, 12, 0, 0, TimeSpan.Zero);
        var line = Order().Lines[0] with { Option = new SaleOption(Guid.NewGuid(), kind) { Size = kind == OptionKind.Print ? PaperSize.Read("A4") : null, Downloads = kind == OptionKind.Digital ? 3 : null, Days = kind == OptionKind.Digital ? 30 : null } };
        Assert.Equal(isNeeded, Needed.Is(line, new OrderStanding(state, paid is not null, Delivery.Post, Refunded.Nothing), paid is { } day ? start.AddDays(day) : null, fetched, start.AddDays(now)));
        // A file that is there for ever is there as long as the site has it.
        Assert.False(kind == OptionKind.Digital && state == OrderState.Sent && Needed.Is(line with { Option = line.Option with { Days = null } }, new OrderStanding(state, true, Delivery.Files, Refunded.Nothing), start, 0, start));
    }

    static PlacedOrder Order()
    {
        var euro = Currency.Find("EUR")!;
        var print = new SaleOption(Guid.NewGuid(), OptionKind.Print) { Size = PaperSize.Read("13 × 18 cm"), Price = new Money(650, euro), Breaks = [new PriceBreak(5, new Money(600, euro))] };
        var file = new SaleOption(Guid.NewGuid(), OptionKind.Digital) { Licence = "For yourself.", Downloads = 3, Days = 30, Price = new Money(500, euro) };
        return new PlacedOrder(
            Nell, "No bill, please.\nThanks.",
            [
                new PlacedLine(new PhotoId(Guid.NewGuid()), new AlbumId(Guid.NewGuid()), "Low water", "a.jpg", "Night flight", print, new Spot(0.25, 0.5), 2, new Money(650, euro)),
                new PlacedLine(new PhotoId(Guid.NewGuid()), new AlbumId(Guid.NewGuid()), "Low water", "a.jpg", "Night flight", file, null, 1, new Money(500, euro)),
            ],
            new DeliveryWay(Delivery.Post, new Money(450, euro), ""), new TaxSum(TaxKind.Included, "VAT", [new TaxPart(23, new Money(2250, euro), new Money(421, euro))]), new Money(1800, euro), new Money(2250, euro), "IE", "Pay into the account.");
    }

    [Fact]
    public void An_order_is_read_as_it_was_written()
    {
        var order = Order() with { Off = [new CouponOff("CLUB10", new Money(180, Order().Total.Currency))] };
        var read = PlacedSaid.Of(order).Read();
        Assert.Equal(order.Lines, read.Lines);
        Assert.Equal(order.Off, read.Off);
        Assert.Equal(order with { Lines = read.Lines, Off = read.Off }, read);
        // With a white border.
        var whole = order with { Lines = [order.Lines[0] with { IsWhole = true }, order.Lines[1]] };
        Assert.Equal(whole.Lines, PlacedSaid.Of(whole).Read().Lines);
        Assert.Contains("Low water, 13 × 18 cm print, with a white border, 2 pieces: 13.00", OrderLetters.Placed("Marram Bay", 1004, whole, "x").Text, StringComparison.Ordinal);
        // One of before there were coupons.
        Assert.Empty((PlacedSaid.Of(order) with { Off = null }).Read().Off);
        // A sum may be more than any price.
        var vast = order with { Total = order.Total with { Minor = 1000 * Money.Most } };
        Assert.Equal(vast.Total, PlacedSaid.Of(vast).Read().Total);
    }

    [Fact]
    public void Its_letters_say_what_was_ordered_and_what_it_comes_to()
    {
        var letter = OrderLetters.Placed("Marram Bay", 1004, Order(), "https://example.test/order/x");
        Assert.Contains("Post: 4.50\nCoupon CLUB10: −1.80\nTotal", OrderLetters.Placed("Marram Bay", 1004, Order() with { Off = [new CouponOff("CLUB10", new Money(180, Order().Total.Currency))] }, "x").Text, StringComparison.Ordinal);
        Assert.Equal("Your order 1004 from Marram Bay", letter.Subject);
        Assert.Contains("Low water, 13 × 18 cm print, 2 pieces: 13.00", letter.Text, StringComparison.Ordinal);
        Assert.Contains("Post: 4.50\nTotal: EUR 22.50 (including 23 % VAT: 4.21)", letter.Text, StringComparison.Ordinal);
        Assert.Contains("Nell Garrow\n7 Ropewalk\nX91 A0B1 Hollin Quay", letter.Text, StringComparison.Ordinal);
        Assert.Contains("https://example.test/order/x", letter.Text, StringComparison.Ordinal);
        Assert.Contains("> No bill, please.\n> Thanks.", OrderLetters.Came("Marram Bay", "Odile", 1004, Order(), null).Text, StringComparison.Ordinal);
    }

    [Fact]
    public void Bookkeeping_has_every_part_of_the_sum_and_no_formulas()
    {
        var order = Order() with { Off = [new CouponOff("CLUB10", new Money(180, Order().Total.Currency)), new CouponOff("POSTFREE", new Money(450, Order().Total.Currency))] };
        var cells = OrderTable.Columns.Zip(OrderTable.Cells(1001, new DateTimeOffset(2026, 3, 1, 0, 30, 0, TimeSpan.FromHours(2)), null, new OrderStanding(OrderState.Placed, IsPaid: false, order.Way.Delivery), order with { Buyer = order.Buyer with { Name = "=1+1" } }, 150)).ToDictionary(c => c.First, c => c.Second);
        Assert.Equal(OrderTable.Columns.Count, cells.Count);
        // The day is that of UTC, as everywhere.
        Assert.Equal(("2026-02-28", "", "1.50"), (cells["placed"], cells["paid"], cells["refunded"]));
        Assert.NotEqual('=', cells["name"][0]);
        Assert.Equal(("6.30", "CLUB10 POSTFREE"), (cells["taken off"], cells["coupons"]));
        Assert.Equal((order.Goods.ToString(), order.Way.Costs.ToString(), order.Taxed.ToString(), order.Total.ToString()), (cells["goods"], cells["postage"], cells["tax"], cells["total"]));
    }

    [Fact]
    public void Only_what_somebody_sees_and_what_is_sold_is_bought_by_staff_too()
    {
        static bool May(Viewer viewer, AlbumThing album, bool sells) => Access.Access.Decide(viewer, Right.Buy, new AlbumToBuyFrom(album, sells), DateTimeOffset.UnixEpoch).Allowed;
        var (shown, hidden) = (new AlbumThing(false, new ShownOn(1)), new AlbumThing(false, new ShownOn(0)));
        Assert.True(May(Viewer.Nobody, shown, sells: true));
        Assert.False(May(Viewer.Nobody, shown, sells: false));
        Assert.False(May(Viewer.Nobody, hidden, sells: true));
        Assert.False(May(new Viewer(Role.Owner), shown, sells: false));
        Assert.True(May(new Viewer(Role.Editor), hidden, sells: true));
        Assert.False(Access.Access.Decide(Viewer.Nobody, Right.Buy, new TheWorkroom(), DateTimeOffset.UnixEpoch).Allowed);
    }
}
