using System.Net;
using static Jovitar.Server.Tests.BuyingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Limited editions: whoever presses when, no more are sold than there are.</summary>
public sealed class EditionTests
{
    /// <summary>Makes the prints of a sale an edition.</summary>
    static async Task LimitAsync(Sale sale, int edition)
    {
        var version = (await (await sale.Owner.GetAsync($"/api/prices/{sale.List}")).ReadAsync()).GetProperty("version").GetInt64();
        var options = new object[] { new { id = sale.Print, kind = "print", size = "10x15 cm", price = "4.00", edition }, new { id = sale.File, kind = "digital", longestEdge = 600, price = "5.00" } };
        await (await sale.Owner.SendAsync(HttpMethod.Put, $"/api/prices/{sale.List}", new { name = "Prints", currency = "EUR", limits = new { good = 300, fair = 200, least = 120 }, sellsSmall = false, options }, version)).ReadAsync();
    }

    static async Task<string> ReadAsync(HttpClient visitor, string address) => WebUtility.HtmlDecode(await visitor.GetStringAsync(address));

    [Fact]
    public async Task The_last_of_an_edition_is_one_buyer_s()
    {
        await using var sale = await SaleAsync(2);
        await LimitAsync(sale, 3);
        var buyers = await Task.WhenAll(Enumerable.Range(0, 6).Select(async i =>
        {
            var visitor = sale.Site.Visitor();
            await AddAsync(visitor, sale, sale.Photos[0], sale.Print, i == 0 ? "2" : "1");
            return (Visitor: visitor, Page: await CheckOutAsync(visitor));
        }));
        var answers = await Task.WhenAll(buyers.Select(b => OrderAsync(b.Visitor, b.Page)));
        Assert.All(answers, a => Assert.Contains(a.StatusCode, new[] { HttpStatusCode.SeeOther, HttpStatusCode.Conflict }));
        var sold = await sale.Site.ScalarAsync<long>("select sum(count)::bigint from sale_order_line");
        // Two and one, or one and one and one; two are not sold where one is left.
        Assert.InRange(sold, 2, 3);
        var fresh = sale.Site.Visitor();
        if (sold == 2)
        {
            await AddAsync(fresh, sale, sale.Photos[0], sale.Print);
            Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(fresh, await CheckOutAsync(fresh))).StatusCode);
        }

        Assert.Equal(3, await sale.Site.ScalarAsync<long>("select sum(count)::bigint from sale_order_line"));
        // Numbers of orders have no gap over those who came too late.
        var orders = await OrdersAsync(sale.Owner);
        Assert.Equal(Enumerable.Range(1001, orders.Length), orders.Select(o => o.GetProperty("number").GetInt32()).Order());
        Assert.DoesNotContain(sale.Print, await ReadAsync(fresh, $"/buy/{sale.Album}/{sale.Photos[0]}"), StringComparison.Ordinal);
        Assert.Contains("3 are left of it.", await ReadAsync(fresh, $"/buy/{sale.Album}/{sale.Photos[1]}"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await AddAsync(fresh, sale, sale.Photos[0], sale.Print)).StatusCode);
        var fit = await (await sale.Owner.GetAsync($"/api/albums/{sale.Album}/fit")).ReadAsync();
        Assert.Equal(
            [(sale.Photos[0], "soldOut"), (sale.Photos[1], "no")],
            fit.GetProperty("listed").EnumerateArray().Select(p => (p.GetProperty("id").GetString(), p.GetProperty("cells")[0].GetProperty("why").GetString())).OrderBy(p => Array.IndexOf(sale.Photos, p.Item1)));
        // Who cancels gives them back.
        await (await StepAsync(sale.Owner, orders[0].GetProperty("id").GetString()!, "cancel")).ReadAsync();
        Assert.Contains("left of it.", await ReadAsync(fresh, $"/buy/{sale.Album}/{sale.Photos[0]}"), StringComparison.Ordinal);
        await sale.Site.VerifyAsync();
    }

    [Fact]
    public async Task Who_has_more_in_the_basket_than_are_left_is_told()
    {
        await using var sale = await SaleAsync(1);
        await LimitAsync(sale, 3);
        var visitor = sale.Site.Visitor();
        var more = await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "4");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, more.StatusCode);
        Assert.Contains("3 are left of it.", WebUtility.HtmlDecode(await more.Content.ReadAsStringAsync()), StringComparison.Ordinal);
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "3");
        await AddAsync(visitor, sale, sale.Photos[0], sale.File);
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        var basket = await ReadAsync(visitor, "/basket");
        Assert.Contains("2 are left of it. It is not in the sum until you say fewer.", basket, StringComparison.Ordinal);
        Assert.Contains("EUR 5.00", basket, StringComparison.Ordinal);
        await FormAsync(visitor, "/basket/lines", ($"count-{(await LinesAsync(visitor))[0]}", "2"));
        Assert.Contains("EUR 13.00", await ReadAsync(visitor, "/basket"), StringComparison.Ordinal);
        // One who looked while there were two, and orders when there is one.
        var page = await CheckOutAsync(visitor);
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        Assert.Equal(HttpStatusCode.Conflict, (await OrderAsync(visitor, page)).StatusCode);
        Assert.Equal(2, (await OrdersAsync(sale.Owner)).Length);
    }
}
