using System.Net;
using static Jovitar.Server.Tests.BuyingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Whoever sells finds an order by its number, or by whose it is.</summary>
public sealed class OrderSearchTests
{
    static async Task<string> FoundAsync(Sale sale, string words, string which = "all") =>
        string.Join(' ', (await OrdersAsync(sale.Owner, $"{which}&q={Uri.EscapeDataString(words)}")).Select(o => o.GetProperty("number").GetInt64()));

    [Fact]
    public async Task Orders_are_found_by_any_part_of_number_name_and_address()
    {
        await using var sale = await SaleAsync(1);
        foreach (var (name, email) in new[] { ("Nell Garrow", "nell@example.test"), ("Ruben O’Neill", "ruben@example.test"), ("100 % Sailcloth", "shop_two@example.test") })
        {
            var visitor = sale.Site.Visitor();
            await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
            Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(visitor, await CheckOutAsync(visitor), name: name, email: email)).StatusCode);
        }

        Assert.Equal("1003 1002 1001", await FoundAsync(sale, " "));
        Assert.Equal("1001", await FoundAsync(sale, "GARROW"));
        Assert.Equal("1001", await FoundAsync(sale, "nell@"));
        Assert.Equal("1002", await FoundAsync(sale, "1002"));
        Assert.Equal("1003 1002 1001", await FoundAsync(sale, "example.test"));
        // What stands for anything elsewhere stands for itself here.
        Assert.Equal("1003", await FoundAsync(sale, "%"));
        Assert.Equal("1003", await FoundAsync(sale, "shop_two"));
        Assert.Equal("", await FoundAsync(sale, "ruben_example"));
        // What else its buyer ordered stands beside an order, however the address was written.
        async Task<string> OthersAsync(int number)
        {
            var id = (await OrdersAsync(sale.Owner)).Single(o => o.GetProperty("number").GetInt64() == number).GetProperty("id").GetString();
            var others = (await (await sale.Owner.GetAsync($"/api/orders/{id}")).ReadAsync()).GetProperty("others");
            return $"{others.GetProperty("count")}: {string.Join(' ', others.GetProperty("latest").EnumerateArray().Select(o => o.GetProperty("number").GetInt64()))}";
        }

        foreach (var email in Enumerable.Repeat("Ruben@Example.test", 6))
        {
            var again = sale.Site.Visitor();
            await AddAsync(again, sale, sale.Photos[0], sale.File);
            Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(again, await CheckOutAsync(again), way: "Files", name: "Ruben", email: email)).StatusCode);
        }

        Assert.Equal(("0: ", "6: 1009 1008 1007 1006 1005", "6: 1008 1007 1006 1005 1004"), (await OthersAsync(1001), await OthersAsync(1002), await OthersAsync(1009)));
        // Within those that are asked for.
        var first = (await OrdersAsync(sale.Owner)).Single(o => o.GetProperty("number").GetInt64() == 1001).GetProperty("id").GetString()!;
        (await StepAsync(sale.Owner, first, "cancel")).EnsureSuccessStatusCode();
        Assert.Equal(("", "1001"), (await FoundAsync(sale, "garrow", "open"), await FoundAsync(sale, "garrow")));
        // Who is forgotten is found no more.
        await sale.Owner.SendAsync(HttpMethod.Post, $"/api/orders/{first}/forget", new { }, (await (await sale.Owner.GetAsync($"/api/orders/{first}")).ReadAsync()).GetProperty("version").GetInt64());
        Assert.Equal(("", "1001"), (await FoundAsync(sale, "garrow"), await FoundAsync(sale, "1001")));
        Assert.Equal(HttpStatusCode.BadRequest, (await sale.Owner.GetAsync($"/api/orders?q={new string('x', 201)}")).StatusCode);
    }
}
