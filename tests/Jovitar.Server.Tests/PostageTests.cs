using System.Net;
using static Jovitar.Server.Tests.BuyingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What buyers pay for sending by weight and by zone.</summary>
public sealed class PostageTests
{
    static object Weighed(string britain = "8.00") => new
    {
        home = "IE",
        atHome = "4.50",
        express = "",
        freeFrom = "",
        freeIsOver = false,
        freeByExpress = false,
        freeAbroad = false,
        abroad = "no",
        abroadCosts = "",
        collected = "",
        homeHeavier = new[] { new { over = 500, costs = "6.90" }, new { over = 2000, costs = "" } },
        zones = new[] { new { countries = new[] { "GB" }, kind = "flat", costs = britain, isFree = false } },
        packing = 100,
    };

    static async Task<int> UnweighedAsync(Sale sale) => (await (await sale.Owner.GetAsync("/api/shop")).ReadAsync()).GetProperty("unweighed").GetInt32();

    static async Task WeighAsync(Sale sale, int grams)
    {
        var list = await (await sale.Owner.GetAsync($"/api/prices/{sale.List}")).ReadAsync();
        var options = new object[] { new { id = sale.Print, kind = "print", size = "10x15 cm", price = "4.00", weight = grams }, new { id = sale.File, kind = "digital", longestEdge = 600, price = "5.00", weight = grams } };
        var body = new { name = "Prints", currency = "EUR", limits = new { good = 300, fair = 200, least = 120 }, sellsSmall = false, options };
        await (await sale.Owner.SendAsync(HttpMethod.Put, $"/api/prices/{sale.List}", body, list.GetProperty("version").GetInt64())).ReadAsync();
    }

    [Fact]
    public async Task An_order_costs_to_send_what_it_weighs_and_is_not_sent_where_it_is_too_heavy()
    {
        await using var sale = await SaleAsync(1);
        Assert.Equal(0, await UnweighedAsync(sale));
        (await ShopAsync(sale.Owner, Shop(postage: Weighed()))).EnsureSuccessStatusCode();
        // The print; files are not sent.
        Assert.Equal(1, await UnweighedAsync(sale));
        await WeighAsync(sale, 200);
        Assert.Equal(0, await UnweighedAsync(sale));

        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "2");
        await AddAsync(visitor, sale, sale.Photos[0], sale.File);
        // 2 × 200 g and 100 g of packing are 500 g: 8.00 + 5.00 + 4.50.
        var light = await visitor.GetStringAsync("/basket/check-out");
        Assert.Contains("EUR 17.50", light, StringComparison.Ordinal);
        Assert.Contains("It weighs 500 g with its packing.", light, StringComparison.Ordinal);
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        Assert.Contains("EUR 23.90", await visitor.GetStringAsync("/basket/check-out"), StringComparison.Ordinal);
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "7");
        var page = await CheckOutAsync(visitor);
        var heavy = await OrderAsync(visitor, page);
        Assert.Equal((HttpStatusCode.UnprocessableEntity, true), (heavy.StatusCode, (await heavy.Content.ReadAsStringAsync()).Contains("It weighs 2.1 kg with its packing; up to 2 kg are sent to Ireland.", StringComparison.Ordinal)));
        Assert.Empty(await OrdersAsync(sale.Owner));
        // To the zone it goes, whatever it weighs; to a country without one nothing does.
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await OrderAsync(visitor, page, country: "FR")).StatusCode);
        Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(visitor, page, country: "GB")).StatusCode);
        // 10 × 4.00 + 5.00 + 8.00.
        Assert.Equal("EUR 53.00", Assert.Single(await OrdersAsync(sale.Owner)).GetProperty("total").GetString());
    }

    [Fact]
    public async Task A_zone_that_costs_something_else_between_page_and_order_is_asked_about()
    {
        await using var sale = await SaleAsync(1, Shop(postage: Weighed()));
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        var page = await CheckOutAsync(visitor);
        (await ShopAsync(sale.Owner, Shop(postage: Weighed("9.00")))).EnsureSuccessStatusCode();
        var asked = await OrderAsync(visitor, page, country: "GB");
        Assert.Contains("EUR 13.00", await asked.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Empty(await OrdersAsync(sale.Owner));
        // What is wrong with a zone is said of it.
        var wrong = await (await ShopAsync(sale.Owner, Shop(postage: Weighed("much")))).Content.ReadAsStringAsync();
        Assert.Contains("zones0", wrong, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.BadRequest, (await ShopAsync(sale.Owner, Shop(postage: Weighed(null!)))).StatusCode);
    }
}
