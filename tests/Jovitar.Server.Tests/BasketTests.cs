using System.Net;
using static Jovitar.Server.Tests.BuyingSteps;
using static Jovitar.Server.Tests.MemberSteps;

namespace Jovitar.Server.Tests;

/// <summary>Baskets: a visitor's own on every device of theirs, and as large as they may be.</summary>
public sealed class BasketTests
{
    [Fact]
    public async Task Who_signs_in_finds_their_basket_everywhere()
    {
        await using var sale = await SaleAsync(2);
        var phone = await MemberAsync(sale.Site, sale.Owner, "Ada");
        await AddAsync(phone, sale, sale.Photos[0], sale.Print, "2");
        var link = await LinkAsync(sale.Owner, await IdAsync(sale.Owner, "Ada"));
        var desktop = sale.Site.Visitor();
        await AddAsync(desktop, sale, sale.Photos[0], sale.Print);
        await AddAsync(desktop, sale, sale.Photos[1], sale.File);
        Assert.Equal(HttpStatusCode.SeeOther, (await UseAsync(desktop, link)).StatusCode);
        // What was put in before comes along: three prints and a file, on both.
        Assert.Contains("EUR 17.00", await desktop.GetStringAsync("/basket"), StringComparison.Ordinal);
        Assert.Contains("EUR 17.00", await phone.GetStringAsync("/basket"), StringComparison.Ordinal);
        Assert.Equal(1, await sale.Site.ScalarAsync<long>("select count(*) from basket"));
        var kept = await (await phone.GetAsync("/site/account/kept.json")).ReadAsync();
        Assert.Equal([3, 1], kept.GetProperty("in the basket").EnumerateArray().Select(l => l.GetProperty("count").GetInt32()));
        var lines = await LinesAsync(phone);
        await FormAsync(phone, "/basket/lines", ($"count-{lines[0]}", "5"), ($"count-{lines[1]}", "0"));
        Assert.Contains("EUR 17.00", await desktop.GetStringAsync("/basket"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(desktop, await CheckOutAsync(desktop))).StatusCode);
        Assert.Empty(await LinesAsync(phone));
        var ordered = Assert.Single((await (await phone.GetAsync("/site/account/kept.json")).ReadAsync()).GetProperty("ordered").EnumerateArray().ToArray());
        Assert.Equal(("7 Ropewalk", "21.50"), (ordered.GetProperty("street").GetString(), ordered.GetProperty("total").GetString()));
    }

    [Fact]
    public async Task What_there_is_no_room_for_comes_along_once_there_is()
    {
        await using var sale = await SaleAsync(2);
        var member = await MemberAsync(sale.Site, sale.Owner, "Ada");
        await AddAsync(member, sale, sale.Photos[0], sale.Print);
        await sale.Site.WriteAsync(
            """
            insert into basket_line (id, basket, album, photo, option, count, added)
            select gen_random_uuid(), l.basket, l.album, l.photo, gen_random_uuid(), 1, now()
              from basket_line as l, generate_series(1, 498)
            """);
        var other = sale.Site.Visitor();
        await AddAsync(other, sale, sale.Photos[1], sale.Print);
        await AddAsync(other, sale, sale.Photos[1], sale.File);
        Assert.Equal(HttpStatusCode.SeeOther, (await UseAsync(other, await LinkAsync(sale.Owner, await IdAsync(sale.Owner, "Ada")))).StatusCode);
        Assert.Contains("EUR 8.00", await other.GetStringAsync("/basket"), StringComparison.Ordinal);
        Assert.Contains("EUR 8.00", await other.GetStringAsync("/basket"), StringComparison.Ordinal);
        await sale.Site.WriteAsync($"delete from basket_line where option not in ('{sale.Print}', '{sale.File}')");
        Assert.Contains("EUR 13.00", await other.GetStringAsync("/basket"), StringComparison.Ordinal);
        Assert.Equal(1, await sale.Site.ScalarAsync<long>("select count(*) from basket"));
    }

    [Fact]
    public async Task A_basket_holds_as_much_as_it_holds_and_orders_all_of_it()
    {
        await using var sale = await SaleAsync(1);
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        // As many other things as there is room for.
        await FillAsync(sale, 499);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await AddAsync(visitor, sale, sale.Photos[0], sale.File)).StatusCode);
        Assert.Equal(HttpStatusCode.SeeOther, (await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "2")).StatusCode);
        // A form of all of them is read.
        Assert.Equal(HttpStatusCode.SeeOther, (await FormAsync(visitor, "/basket/lines", [.. (await LinesAsync(visitor)).Select(l => ($"count-{l}", "4"))])).StatusCode);
        Assert.Contains("EUR 16.00", await visitor.GetStringAsync("/basket"), StringComparison.Ordinal);
        foreach (var count in new[] { "0", "-1", "1001", "many", "" })
        {
            Assert.Equal(HttpStatusCode.UnprocessableEntity, (await AddAsync(visitor, sale, sale.Photos[0], sale.Print, count)).StatusCode);
        }

        await sale.Site.WriteAsync("update basket set changed = now() - interval '61 days'");
        await sale.Site.Part<Sales.Ordering.BasketStore>().ForgetAsync(DateTimeOffset.UtcNow, CancellationToken.None);
        Assert.Equal(0, await sale.Site.ScalarAsync<long>("select count(*) from basket_line"));
    }
}
