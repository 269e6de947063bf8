using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using static Jovitar.Server.Tests.BuyingSteps;
using static Jovitar.Server.Tests.MemberSteps;

namespace Jovitar.Server.Tests;

/// <summary>Coupons: made by who sells, typed by who buys, and never used more often than they may be.</summary>
public sealed partial class CouponTests
{
    static async Task<HttpResponseMessage> WriteAsync(HttpClient owner, JsonElement seen, object coupon) =>
        await owner.SendAsync(HttpMethod.Put, $"/api/coupons/{seen.GetProperty("id").GetString()}", coupon, seen.GetProperty("version").GetInt64());

    static async Task<JsonElement> OneAsync(HttpClient owner, string code = "CLUB10") =>
        (await (await owner.GetAsync("/api/coupons")).ReadAsync()).GetProperty("coupons").EnumerateArray().Single(c => c.GetProperty("coupon").GetProperty("code").GetString() == code);

    static Task<HttpResponseMessage> TypeAsync(HttpClient visitor, string code) => FormAsync(visitor, "/basket/coupons", ("code", code));

    /// <summary>What a page answers, as people read it.</summary>
    static async Task<string> ReadAsync(HttpResponseMessage answer) => WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());

    static async Task<string> BasketAsync(HttpClient visitor) => await ReadAsync(await visitor.GetAsync("/basket"));

    [GeneratedRegex("name=\"out\" value=\"([0-9a-f-]+)\" aria-label=\"Take the coupon")]
    private static partial Regex OutButton();

    [Fact]
    public async Task A_coupon_is_typed_and_takes_off_what_it_says()
    {
        await using var sale = await SaleAsync(1, Shop(tax: "included", percent: "23"));
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "3");
        // While there is none nobody is asked for one.
        Assert.DoesNotContain("A coupon, if you have one", await BasketAsync(visitor), StringComparison.Ordinal);
        await CouponAsync(sale.Owner, Coupon());
        Assert.Contains("A coupon, if you have one", await BasketAsync(visitor), StringComparison.Ordinal);
        Assert.Equal("/basket", (await TypeAsync(visitor, " club 10")).Headers.Location!.ToString());
        Assert.Contains("<tr><th scope=\"row\">Coupon CLUB10</th><td>−1.20</td></tr>", await BasketAsync(visitor), StringComparison.Ordinal);
        Assert.Contains("EUR 10.80", await BasketAsync(visitor), StringComparison.Ordinal);
        var link = (await OrderAsync(visitor, await CheckOutAsync(visitor))).Headers.Location!.ToString();
        // 12.00 − 1.20 + 4.50, and 15.30 × 23 / 123 of it tax.
        var shown = await ReadAsync(await visitor.GetAsync(link));
        foreach (var said in new[] { "<td>−1.20</td>", "EUR 15.30", "2.86" })
        {
            Assert.Contains(said, shown, StringComparison.Ordinal);
        }

        Assert.Equal("EUR 15.30", Assert.Single(await OrdersAsync(sale.Owner)).GetProperty("total").GetString());
        Assert.Equal(1, (await OneAsync(sale.Owner)).GetProperty("used").GetInt32());
        var table = (await sale.Owner.GetStringAsync("/api/orders/table.csv")).Split("\r\n");
        Assert.Contains("1.20,CLUB10", table[1], StringComparison.Ordinal);
        // The next basket begins without it.
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        Assert.DoesNotContain("CLUB10", await BasketAsync(visitor), StringComparison.Ordinal);
        await sale.Site.VerifyAsync();
    }

    [Fact]
    public async Task What_takes_nothing_off_says_why()
    {
        await using var sale = await SaleAsync(1);
        var visitor = sale.Site.Visitor();
        Assert.Equal(HttpStatusCode.SeeOther, (await TypeAsync(visitor, "CLUB10")).StatusCode);
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        await CouponAsync(sale.Owner, Coupon("OVER", ends: "2020-01-01"));
        await CouponAsync(sale.Owner, Coupon("NOBODY", isOff: true));
        await CouponAsync(sale.Owner, Coupon("LOTS", from: "10", goesWithOthers: true));
        await CouponAsync(sale.Owner, Coupon("FREEPOST", "postage", "", goesWithOthers: true));
        await CouponAsync(sale.Owner, Coupon("ALONE"));
        foreach (var (typed, why) in new[] { ("", "Type the code of a coupon."), ("none", "There is no such coupon."), ("over", "It was good until 1 January 2020."), ("nobody", "It is not good any more."), ("<b>", "There is no such coupon.") })
        {
            var refused = await TypeAsync(visitor, typed);
            Assert.Equal((typed, HttpStatusCode.UnprocessableEntity), (typed, refused.StatusCode));
            Assert.Contains(why, await ReadAsync(refused), StringComparison.Ordinal);
        }

        Assert.Equal(HttpStatusCode.SeeOther, (await TypeAsync(visitor, "lots")).StatusCode);
        Assert.Contains("It is good for orders of EUR 10.00 and more: EUR 6.00 is missing.", await BasketAsync(visitor), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.SeeOther, (await TypeAsync(visitor, "freepost")).StatusCode);
        Assert.Contains("It takes the postage within the country off, but not of express post.", await BasketAsync(visitor), StringComparison.Ordinal);
        Assert.Contains("It goes with no other coupon.", await ReadAsync(await TypeAsync(visitor, "alone")), StringComparison.Ordinal);
        // Two more of it, and the first is good for something: 12.00 − 1.20, and 4.50 − 4.50.
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "2");
        var page = await ReadAsync(await visitor.GetAsync("/basket/check-out"));
        Assert.Contains("EUR 10.80", page, StringComparison.Ordinal);
        Assert.Contains("<tr><th scope=\"row\">Coupon FREEPOST</th><td>−4.50</td></tr>", page, StringComparison.Ordinal);
        var buttons = OutButton().Matches(await BasketAsync(visitor));
        Assert.Equal(2, buttons.Count);
        await FormAsync(visitor, "/basket/coupons", ("out", buttons[0].Groups[1].Value));
        Assert.DoesNotContain("LOTS", await BasketAsync(visitor), StringComparison.Ordinal);
        // One that is let go is in no basket any more.
        var free = await OneAsync(sale.Owner, "FREEPOST");
        await (await sale.Owner.SendAsync(HttpMethod.Delete, $"/api/coupons/{free.GetProperty("id").GetString()}", null, free.GetProperty("version").GetInt64())).ReadAsync();
        Assert.DoesNotContain("FREEPOST", await BasketAsync(visitor), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_coupon_that_is_another_by_now_is_asked_about()
    {
        await using var sale = await SaleAsync(1);
        var visitor = sale.Site.Visitor();
        var made = await CouponAsync(sale.Owner, Coupon());
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        await TypeAsync(visitor, "CLUB10");
        var page = await CheckOutAsync(visitor);
        await (await WriteAsync(sale.Owner, made, Coupon(off: "50"))).ReadAsync();
        var asked = await OrderAsync(visitor, page);
        Assert.Equal(HttpStatusCode.Conflict, asked.StatusCode);
        // 4.00 − 2.00 + 4.50.
        Assert.Contains("EUR 6.50", await ReadAsync(asked), StringComparison.Ordinal);
        page = await CheckOutAsync(visitor);
        await (await WriteAsync(sale.Owner, await OneAsync(sale.Owner), Coupon(off: "50", isOff: true))).ReadAsync();
        Assert.Equal(HttpStatusCode.Conflict, (await OrderAsync(visitor, page)).StatusCode);
        Assert.Empty(await OrdersAsync(sale.Owner));
        // Who looks has the whole price, and orders by it.
        Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(visitor, await CheckOutAsync(visitor))).StatusCode);
        Assert.Equal("EUR 8.50", Assert.Single(await OrdersAsync(sale.Owner)).GetProperty("total").GetString());
        Assert.Equal(0, (await OneAsync(sale.Owner)).GetProperty("used").GetInt32());
    }

    [Fact]
    public async Task The_last_use_of_a_coupon_is_one_buyer_s()
    {
        await using var sale = await SaleAsync(1);
        await CouponAsync(sale.Owner, Coupon(uses: "2"));
        var buyers = await Task.WhenAll(Enumerable.Range(0, 8).Select(async _ =>
        {
            var visitor = sale.Site.Visitor();
            await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
            await TypeAsync(visitor, "CLUB10");
            return (Visitor: visitor, Page: await CheckOutAsync(visitor));
        }));
        // All press at once, and each of them twice.
        var answers = await Task.WhenAll(buyers.SelectMany(b => new[] { b, b }).Select(b => OrderAsync(b.Visitor, b.Page)));
        Assert.All(answers, a => Assert.Contains(a.StatusCode, new[] { HttpStatusCode.SeeOther, HttpStatusCode.Conflict }));
        var orders = await OrdersAsync(sale.Owner);
        Assert.Equal(["EUR 8.10", "EUR 8.10"], orders.Select(o => o.GetProperty("total").GetString()));
        Assert.Equal((2, "Used up"), ((await OneAsync(sale.Owner)).GetProperty("used").GetInt32(), (await OneAsync(sale.Owner)).GetProperty("standing").GetString()));
        var late = sale.Site.Visitor();
        await AddAsync(late, sale, sale.Photos[0], sale.Print);
        Assert.Contains("It has been used as often as it may be.", await ReadAsync(await TypeAsync(late, "CLUB10")), StringComparison.Ordinal);
        // An order that is cancelled gives it back, and takes it again where that is taken back.
        var cancelled = await (await StepAsync(sale.Owner, orders[0].GetProperty("id").GetString()!, "cancel")).ReadAsync();
        Assert.Equal(HttpStatusCode.SeeOther, (await TypeAsync(late, "CLUB10")).StatusCode);
        await sale.Owner.UndoAsync(cancelled);
        Assert.Contains("It has been used as often as it may be.", await BasketAsync(late), StringComparison.Ordinal);
        await sale.Site.VerifyAsync();
    }

    [Fact]
    public async Task A_coupon_that_is_for_each_buyer_once_is_used_once_by_each()
    {
        await using var sale = await SaleAsync(1);
        await CouponAsync(sale.Owner, Coupon(isOnceEach: true));
        async Task<(HttpClient, HttpResponseMessage)> BuyAsync(string email)
        {
            var visitor = sale.Site.Visitor();
            await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
            await TypeAsync(visitor, "CLUB10");
            return (visitor, await OrderAsync(visitor, await CheckOutAsync(visitor), email: email));
        }

        Assert.Equal(HttpStatusCode.SeeOther, (await BuyAsync("nell@example.test")).Item2.StatusCode);
        Assert.Equal(HttpStatusCode.SeeOther, (await BuyAsync("perrin@example.test")).Item2.StatusCode);
        var (again, refused) = await BuyAsync("Nell@Example.test");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Contains("Each buyer can use the coupon CLUB10 once", await ReadAsync(refused), StringComparison.Ordinal);
        // What they typed is still there, and so is the basket.
        Assert.Contains("value=\"Nell Garrow\"", await ReadAsync(refused), StringComparison.Ordinal);
        await FormAsync(again, "/basket/coupons", ("out", OutButton().Match(await BasketAsync(again)).Groups[1].Value));
        Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(again, await CheckOutAsync(again), email: "Nell@Example.test")).StatusCode);
        Assert.Equal(["EUR 8.50", "EUR 8.10", "EUR 8.10"], (await OrdersAsync(sale.Owner)).Select(o => o.GetProperty("total").GetString()));
    }

    [Fact]
    public async Task What_costs_nothing_any_more_is_paid_at_once()
    {
        await using var sale = await SaleAsync(1);
        await CouponAsync(sale.Owner, Coupon(off: "100"));
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.File);
        await TypeAsync(visitor, "CLUB10");
        var order = (await OrderAsync(visitor, await CheckOutAsync(visitor), "Files")).Headers.Location!.ToString();
        Assert.Equal("Paid", Assert.Single(await OrdersAsync(sale.Owner)).GetProperty("standing").GetString());
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync($"{order}/files/1")).StatusCode);
    }

    [Fact]
    public async Task Coupons_come_along_where_somebody_signs_in()
    {
        await using var sale = await SaleAsync(1);
        await CouponAsync(sale.Owner, Coupon(goesWithOthers: true));
        await CouponAsync(sale.Owner, Coupon("MORE", "amount", "1", goesWithOthers: true));
        var phone = await MemberAsync(sale.Site, sale.Owner, "Ada");
        await AddAsync(phone, sale, sale.Photos[0], sale.Print);
        await TypeAsync(phone, "CLUB10");
        var desktop = sale.Site.Visitor();
        await AddAsync(desktop, sale, sale.Photos[0], sale.Print);
        await TypeAsync(desktop, "CLUB10");
        await TypeAsync(desktop, "MORE");
        Assert.Equal(HttpStatusCode.SeeOther, (await UseAsync(desktop, await LinkAsync(sale.Owner, await IdAsync(sale.Owner, "Ada")))).StatusCode);
        // 8.00 − 0.80 − 1.00.
        Assert.Contains("EUR 6.20", await BasketAsync(desktop), StringComparison.Ordinal);
        Assert.Contains("EUR 6.20", await BasketAsync(phone), StringComparison.Ordinal);
        var kept = await (await phone.GetAsync("/site/account/kept.json")).ReadAsync();
        Assert.Equal(["CLUB10", "MORE"], kept.GetProperty("coupons in the basket").EnumerateArray().Select(c => c.GetProperty("coupon").GetString()));
    }

    [Fact]
    public async Task A_basket_holds_a_few_coupons_and_codes_are_not_found_by_trying()
    {
        await using var sale = await SaleAsync(1);
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        for (var i = 0; i < 6; i++)
        {
            await CouponAsync(sale.Owner, Coupon($"CODE{i}", goesWithOthers: true));
            Assert.Equal(i < 5 ? HttpStatusCode.SeeOther : HttpStatusCode.UnprocessableEntity, (await TypeAsync(visitor, $"CODE{i}")).StatusCode);
        }

        var tried = await Task.WhenAll(Enumerable.Range(0, 60).Select(i => TypeAsync(visitor, $"GUESS{i}")));
        Assert.Contains(HttpStatusCode.TooManyRequests, tried.Select(t => t.StatusCode));
        Assert.Equal(HttpStatusCode.TooManyRequests, (await TypeAsync(visitor, "CODE5")).StatusCode);
        // Others behind the same line type theirs.
        var other = sale.Site.Visitor();
        await AddAsync(other, sale, sale.Photos[0], sale.Print);
        Assert.Equal(HttpStatusCode.SeeOther, (await TypeAsync(other, "CODE5")).StatusCode);
        // Who is kept from typing codes still buys.
        Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(visitor, await CheckOutAsync(visitor))).StatusCode);
    }

    [Fact]
    public async Task Coupons_are_written_and_taken_back_like_all_else()
    {
        await using var sale = await SaleAsync(1);
        var (owner, editor) = (sale.Owner, await sale.Site.EditorAsync("Tomas"));
        var made = await CouponAsync(editor, Coupon("club-10"));
        Assert.Equal("CLUB-10", made.GetProperty("coupon").GetProperty("code").GetString());
        Assert.Equal(HttpStatusCode.Conflict, (await owner.PostAsJsonAsync("/api/coupons", Coupon("Club-10"))).StatusCode);
        var wrong = await owner.PostAsJsonAsync("/api/coupons", Coupon("OTHER", "amount", "much"));
        Assert.Equal(HttpStatusCode.BadRequest, wrong.StatusCode);
        Assert.Contains("“much” is no amount in EUR.", await ReadAsync(wrong), StringComparison.Ordinal);
        var written = await (await WriteAsync(editor, made, Coupon("CLUB-10", off: "15"))).ReadAsync();
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await WriteAsync(owner, made, Coupon("CLUB-10", off: "20"))).StatusCode);
        Assert.Contains("The coupon CLUB-10 takes 15 % off instead of 10 %.", await owner.GetStringAsync("/api/acts"), StringComparison.Ordinal);
        await owner.UndoAsync(written);
        var now = await OneAsync(owner, "CLUB-10");
        Assert.Equal("10", now.GetProperty("coupon").GetProperty("off").GetString());
        var gone = await (await owner.SendAsync(HttpMethod.Delete, $"/api/coupons/{now.GetProperty("id").GetString()}", null, now.GetProperty("version").GetInt64())).ReadAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await WriteAsync(owner, now, Coupon())).StatusCode);
        Assert.Empty((await (await owner.GetAsync("/api/coupons")).ReadAsync()).GetProperty("coupons").EnumerateArray());
        await owner.UndoAsync(gone);
        Assert.Equal("10", (await OneAsync(owner, "CLUB-10")).GetProperty("coupon").GetProperty("off").GetString());
        await sale.Site.VerifyAsync();
    }
}
