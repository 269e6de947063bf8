using System.Net;
using System.Net.Http.Json;
using static Jovitar.Server.Tests.BuyingSteps;
using static Jovitar.Server.Tests.PaymentSteps;

namespace Jovitar.Server.Tests;

/// <summary>Buyers pay online: exactly once, whatever the service tells, when, and how often.</summary>
public sealed class PaymentTests : IAsyncLifetime
{
    Standin standin = null!;

    public async Task InitializeAsync() => standin = await Standin.StartAsync(Path.GetTempPath());

    public async Task DisposeAsync() => await standin.DisposeAsync();

    [Fact]
    public async Task A_buyer_is_led_to_the_service_and_back_to_an_order_that_is_paid()
    {
        await using var sale = await PaidSaleAsync(standin, mails: true);
        var (order, page, payment) = await OrderToPayAsync(sale);
        // Whoever comes back without having paid is told so, and can pay still.
        var waits = WebUtility.HtmlDecode(await sale.Visitor.GetStringAsync($"{order}?paid=look"));
        Assert.Contains("Nothing of your payment is known yet", waits, StringComparison.Ordinal);
        Assert.Contains("Pay EUR 8.50 online", waits, StringComparison.Ordinal);
        // Browsers let its form lead there, and no other page's.
        var policy = (await sale.Visitor.GetAsync(order)).Headers.GetValues("Content-Security-Policy").Single();
        Assert.Contains($"form-action 'self' {standin.Address};", policy, StringComparison.Ordinal);
        Assert.Contains("form-action 'self';", (await sale.Visitor.GetAsync("/basket")).Headers.GetValues("Content-Security-Policy").Single(), StringComparison.Ordinal);
        // A second press leads to the same page.
        Assert.Equal(page, (await FormAsync(sale.Visitor, $"{order}/pay")).Headers.Location!.ToString());
        await standin.PayAsync(page);
        Assert.Equal(HttpStatusCode.NoContent, await TellAsync(sale, Paid(payment)));
        var shown = WebUtility.HtmlDecode(await sale.Visitor.GetStringAsync(order));
        Assert.Contains(">Paid</p>", shown, StringComparison.Ordinal);
        Assert.DoesNotContain("online</button>", shown, StringComparison.Ordinal);
        Assert.Equal(["EUR 8.50 paid online"], Money(await SeenAsync(sale)));
        var letters = await standin.LettersAsync(3);
        Assert.Contains(letters, l => l.Subject == "Your order 1001 from Trial is paid" && l.To.Contains("nell@example.test", StringComparison.Ordinal));
        Assert.DoesNotContain(letters, l => l.Subject.Contains("looked at", StringComparison.Ordinal));
        // What is paid is not opened anew.
        Assert.Equal(order, (await FormAsync(sale.Visitor, $"{order}/pay")).Headers.Location!.ToString());
        var act = (await (await sale.Owner.GetAsync("/api/acts")).ReadAsync()).GetProperty("acts").EnumerateArray().First(a => a.GetProperty("sentence").GetString() == "Order 1001: it was paid online.");
        Assert.Equal(HttpStatusCode.Conflict, (await sale.Owner.PostAsJsonAsync($"/api/acts/{act.GetProperty("id").GetString()}/undo", new { })).StatusCode);
        await sale.Site.VerifyAsync();
    }

    [Fact]
    public async Task In_a_storm_of_notices_one_payment_is_one()
    {
        await using var sale = await PaidSaleAsync(standin);
        var (_, _, payment) = await OrderToPayAsync(sale);
        var told = await Task.WhenAll(Enumerable.Range(0, 40).Select(i => TellAsync(sale, i % 4 == 3 ? new { key = payment, state = "ended", currency = "EUR" } : Paid(payment))));
        Assert.All(told, status => Assert.Equal(HttpStatusCode.NoContent, status));
        Assert.Equal(1, await sale.Site.ScalarAsync<long>("select count(*) from payment where state = 'Paid'"));
        Assert.Equal(1, await sale.Site.ScalarAsync<long>("select count(*) from act where sentence = 'Order 1001: it was paid online.'"));
        Assert.True((await SeenAsync(sale)).GetProperty("paid").ValueKind is not System.Text.Json.JsonValueKind.Null);
    }

    [Fact]
    public async Task What_is_not_signed_by_the_service_or_is_old_is_not_heard()
    {
        await using var sale = await PaidSaleAsync(standin);
        var (_, _, payment) = await OrderToPayAsync(sale);
        foreach (var bad in new[] { Notice(Paid(payment), secret: "another"), Notice(Paid(payment), ago: TimeSpan.FromMinutes(6)), Notice(Paid(payment), ago: TimeSpan.FromMinutes(-6)) })
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await sale.Visitor.SendAsync(bad)).StatusCode);
        }

        using var turned = Notice(Paid(payment, "0.01"));
        turned.Content = Notice(Paid(payment)).Content;
        Assert.Equal(HttpStatusCode.BadRequest, (await sale.Visitor.SendAsync(turned)).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await sale.Visitor.PostAsync("/payments/notices", new StringContent("{}"))).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await sale.Visitor.PostAsync("/payments/notices", new StringContent(new string('x', 300_000)))).StatusCode);
        // Signed, but nothing that says anything.
        foreach (var empty in new object[] { new { }, new { key = payment }, new { key = payment, state = "paid", paid = "lots", currency = "EUR" }, new { key = payment, state = "paid", paid = "-8.50", currency = "EUR" }, new { key = payment, state = "paid", paid = "8.50", currency = "gold" }, "paid", 5 })
        {
            Assert.Equal(HttpStatusCode.NoContent, await TellAsync(sale, empty));
        }

        // Of another site that is paid at the same service.
        Assert.Equal(HttpStatusCode.NoContent, await TellAsync(sale, Paid(Guid.NewGuid())));
        Assert.Equal("Open", await sale.Site.ScalarAsync<string>("select state from payment"));
        // Where no service is set up there is no door.
        Assert.Equal(HttpStatusCode.NotFound, (await sale.Sale.Owner.SendAsync(Notice(Paid(payment)))).StatusCode);
    }

    /// <summary>A real server, reached by the service's own notices: at once, late, in a storm, of another amount; and one that is dead when they come.</summary>
    [Fact]
    public async Task The_service_itself_is_heard_however_it_tells_and_by_a_server_that_was_killed_meanwhile()
    {
        await using var sale = await PaidSaleAsync(standin);
        (string, string)[] settings = [("Jovitar__Payments", standin.Address), ("Jovitar__PaymentsKey", "a key"), ("Jovitar__PaymentsSecret", Standin.Secret), ("Jovitar__PaymentsAskedEvery", "00:00:00.3")];
        var (process, staff) = await ServerProcess.StartAsync(sale.Site, settings);
        using var visitor = new HttpClient(new SocketsHttpHandler { AllowAutoRedirect = false, CookieContainer = new CookieContainer() }) { BaseAddress = staff.BaseAddress };
        var real = sale with { Visitor = visitor };
        var paid = 0;
        foreach (var (mood, seconds) in new[] { ("pays", 0.0), ("late", 0.5), ("storm", 0) })
        {
            await standin.SetAsync("payments", new { mood, seconds });
            await standin.PayAsync((await OrderToPayAsync(real)).Page, "leave");
            await sale.Site.UntilAsync("select count(*) from sale_order where paid is not null", ++paid);
        }

        await standin.SetAsync("payments", new { mood = "wrong" });
        await standin.PayAsync((await OrderToPayAsync(real)).Page);
        await sale.Site.UntilAsync("select count(*) from payment where state = 'Wrong' and came = 425", 1);
        // Killed between the payment and its notice.
        await standin.SetAsync("payments", new { mood = "pays" });
        var (_, page, _) = await OrderToPayAsync(real);
        process.Kill();
        await process.WaitForExitAsync();
        process.Dispose();
        staff.Dispose();
        await standin.PayAsync(page, "leave");
        await using (var earlier = sale.Site.Db.CreateCommand("update payment set opened = opened - interval '10 minutes' where state = 'Open'"))
        {
            await earlier.ExecuteNonQueryAsync();
        }

        await sale.Site.UntilAsync("select count(*) from sale_order where paid is not null", ++paid);
        Assert.Equal(paid, await sale.Site.ScalarAsync<long>("select count(*) from act where sentence like 'Order %: it was paid online.'"));
    }

    /// <summary>A key that is not let in says nothing of the payment: it stays open, and is asked about again.</summary>
    [Fact]
    public async Task A_service_that_lets_us_in_no_more_ends_no_payment()
    {
        await using var sale = await PaidSaleAsync(standin);
        var (order, page, _) = await OrderToPayAsync(sale);
        await standin.PayAsync(page);
        await standin.SetAsync("payments", new { key = "another key" });
        await sale.Visitor.GetStringAsync($"{order}?paid=look");
        Assert.Equal("Open", await sale.Site.ScalarAsync<string>("select state from payment"));
        await standin.SetAsync("payments", new { key = "a key" });
        await using (var earlier = sale.Site.Db.CreateCommand("update payment set asked = asked - interval '1 minute'"))
        {
            await earlier.ExecuteNonQueryAsync();
        }

        Assert.Contains(">Paid</p>", await sale.Visitor.GetStringAsync($"{order}?paid=look"), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("8.49", "EUR", "EUR 8.49 came online where EUR 8.50 was asked")]
    [InlineData("8.50", "USD", "USD 8.50 came online where EUR 8.50 was asked")]
    [InlineData("850.00", "EUR", "EUR 850.00 came online where EUR 8.50 was asked")]
    public async Task What_was_not_asked_pays_nothing_and_those_who_sell_are_told(string came, string currency, string says)
    {
        await using var sale = await PaidSaleAsync(standin, mails: true);
        var (order, _, payment) = await OrderToPayAsync(sale);
        Assert.Equal(HttpStatusCode.NoContent, await TellAsync(sale, Paid(payment, came, currency)));
        Assert.Equal([says], Money(await SeenAsync(sale)));
        Assert.Contains("Waits for payment", await sale.Visitor.GetStringAsync(order), StringComparison.Ordinal);
        Assert.Contains(await standin.LettersAsync(3), l => l.Subject == "Trial: a payment of order 1001 is to be looked at" && l.Text.Contains("The order does not count as paid.", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_notice_that_is_lost_is_asked_for_by_who_comes_back_and_by_itself()
    {
        await using var sale = await PaidSaleAsync(standin);
        var (order, page, _) = await OrderToPayAsync(sale);
        await standin.PayAsync(page);
        Assert.Contains(">Paid</p>", await sale.Visitor.GetStringAsync($"{order}?paid=look"), StringComparison.Ordinal);
        // Another buyer never comes back.
        var (_, left, _) = await OrderToPayAsync(sale);
        await standin.PayAsync(left, "leave");
        await using (var earlier = sale.Site.Db.CreateCommand("update payment set opened = opened - interval '10 minutes' where state = 'Open'"))
        {
            await earlier.ExecuteNonQueryAsync();
        }

        await sale.Site.UntilAsync("select count(*) from sale_order where paid is not null", 2);
        // One who does not pay at all can still, at a new page.
        var (unpaid, ended, _) = await OrderToPayAsync(sale);
        await standin.PayAsync(ended, "end");
        var version = (await SeenAsync(sale)).GetProperty("version").GetInt64();
        await sale.Visitor.GetStringAsync($"{unpaid}?paid=look");
        // Nothing has become of the order, and nothing stands in the history.
        Assert.Equal(version, (await SeenAsync(sale)).GetProperty("version").GetInt64());
        Assert.Equal(["A payment online was begun and not made"], Money(await SeenAsync(sale)));
        var anew = (await FormAsync(sale.Visitor, $"{unpaid}/pay")).Headers.Location!.ToString();
        Assert.NotEqual(ended, anew);
        Assert.StartsWith(standin.Address, anew, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Of_many_presses_at_once_one_payment_is_opened()
    {
        await using var sale = await PaidSaleAsync(standin);
        var (order, page, _) = await OrderToPayAsync(sale);
        await standin.PayAsync(page, "end");
        await sale.Visitor.GetStringAsync($"{order}?paid=look");
        var pages = await Task.WhenAll(Enumerable.Range(0, 8).Select(async _ => (await FormAsync(sale.Visitor, $"{order}/pay")).Headers.Location!.ToString()));
        Assert.NotEqual(page, Assert.Single(pages.Distinct()));
        Assert.Equal(2, await sale.Site.ScalarAsync<long>("select count(*) from payment"));
    }

    [Fact]
    public async Task While_the_service_is_away_orders_are_placed_and_are_paid_later()
    {
        await using var sale = await PaidSaleAsync(standin);
        await standin.SetAsync("payments", new { isAway = true });
        await AddAsync(sale.Visitor, sale.Sale, sale.Sale.Photos[0], sale.Sale.Print);
        var form = await CheckOutAsync(sale.Visitor);
        var order = (await OrderAsync(sale.Visitor, form, pay: "now")).Headers.Location!.ToString();
        Assert.Equal($"/order/{form.Order}", order);
        var away = await FormAsync(sale.Visitor, $"{order}/pay");
        Assert.Equal((HttpStatusCode.ServiceUnavailable, true), (away.StatusCode, WebUtility.HtmlDecode(await away.Content.ReadAsStringAsync()).Contains("Your order is placed; try again in a moment.", StringComparison.Ordinal)));
        await standin.SetAsync("payments", new { isAway = false });
        Assert.StartsWith(standin.Address, (await FormAsync(sale.Visitor, $"{order}/pay")).Headers.Location!.ToString(), StringComparison.Ordinal);
        // From another page nobody is led there.
        using var elsewhere = new HttpRequestMessage(HttpMethod.Post, $"{order}/pay") { Content = new FormUrlEncodedContent([]) };
        elsewhere.Headers.Add("Sec-Fetch-Site", "cross-site");
        Assert.Equal(HttpStatusCode.NotFound, (await sale.Visitor.SendAsync(elsewhere)).StatusCode);
    }

    [Fact]
    public async Task Money_that_comes_for_what_is_cancelled_or_paid_already_is_told_and_can_go_back()
    {
        await using var sale = await PaidSaleAsync(standin, mails: true);
        var (order, _, payment) = await OrderToPayAsync(sale);
        var id = (await SeenAsync(sale)).GetProperty("id").GetString()!;
        (await StepAsync(sale.Owner, id, "cancel")).EnsureSuccessStatusCode();
        Assert.DoesNotContain("online</button>", await sale.Visitor.GetStringAsync(order), StringComparison.Ordinal);
        await TellAsync(sale, Paid(payment));
        var seen = await SeenAsync(sale);
        Assert.Equal(("cancelled", "8.50", true), (seen.GetProperty("state").GetString(), seen.GetProperty("refundable").GetString(), seen.GetProperty("goesByService").GetBoolean()));
        Assert.Contains(await standin.LettersAsync(4), l => l.Text.Contains("EUR 8.50 came for an order that is cancelled.", StringComparison.Ordinal));
        // Paid by transfer, while the page to pay at was open.
        var (_, _, second) = await OrderToPayAsync(sale);
        id = (await SeenAsync(sale)).GetProperty("id").GetString()!;
        var noted = await (await StepAsync(sale.Owner, id, "pay")).ReadAsync();
        await TellAsync(sale, Paid(second));
        Assert.Contains(await standin.LettersAsync(8), l => l.Text.Contains("EUR 8.50 came for an order that was paid already.", StringComparison.Ordinal));
        // That the transfer was noted is taken back: what was paid online is paid all the same.
        await sale.Owner.UndoAsync(noted.GetProperty("done"));
        Assert.Equal("Paid", (await SeenAsync(sale)).GetProperty("standing").GetString());
    }

    [Fact]
    public async Task A_shop_may_be_paid_online_alone_and_without_a_service_by_no_one()
    {
        await using var sale = await PaidSaleAsync(standin, payment: "");
        await AddAsync(sale.Visitor, sale.Sale, sale.Sale.Photos[0], sale.Sale.Print);
        Assert.Contains("Order, and pay online", await sale.Visitor.GetStringAsync("/basket/check-out"), StringComparison.Ordinal);
        Assert.True((await (await sale.Owner.GetAsync("/api/shop")).ReadAsync()).GetProperty("hasPayments").GetBoolean());
        Assert.False((await (await sale.Sale.Owner.GetAsync("/api/shop")).ReadAsync()).GetProperty("hasPayments").GetBoolean());
        // Another process has no service: nobody is led anywhere.
        Assert.Equal(HttpStatusCode.BadRequest, (await ShopAsync(sale.Owner, Shop(payment: ""))).StatusCode);
    }
}
