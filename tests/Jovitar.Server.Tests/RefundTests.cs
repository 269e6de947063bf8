using System.Net;
using static Jovitar.Server.Tests.BuyingSteps;
using static Jovitar.Server.Tests.PaymentSteps;

namespace Jovitar.Server.Tests;

/// <summary>Money goes back: never more than came, and once, whatever breaks off meanwhile.</summary>
public sealed class RefundTests : IAsyncLifetime
{
    Standin standin = null!;

    public async Task InitializeAsync() => standin = await Standin.StartAsync(Path.GetTempPath());

    public async Task DisposeAsync() => await standin.DisposeAsync();

    async Task<(PaidSale Sale, string Order, Guid Payment)> PaidAsync(bool mails = false)
    {
        var sale = await PaidSaleAsync(standin, mails: mails);
        var (order, page, payment) = await OrderToPayAsync(sale);
        await standin.PayAsync(page);
        await TellAsync(sale, Paid(payment));
        return (sale, order, payment);
    }

    [Fact]
    public async Task Parts_go_back_by_the_service_until_nothing_is_left()
    {
        var (sale, order, payment) = await PaidAsync(mails: true);
        await using var _ = sale;
        var seen = await SeenAsync(sale);
        foreach (var (amount, says) in new[] { ("9", "At most EUR 8.50 can go back."), ("0", "Say how much is to go back, up to EUR 8.50."), ("much", "Say how much is to go back, up to EUR 8.50.") })
        {
            var refused = await RefundAsync(sale.Owner, seen, amount);
            Assert.Equal((HttpStatusCode.Conflict, true), (refused.StatusCode, (await refused.Content.ReadAsStringAsync()).Contains(says, StringComparison.Ordinal)));
        }

        var back = await (await RefundAsync(sale.Owner, seen, "3,50")).ReadAsync();
        Assert.Equal("Paid, refunded in part", back.GetProperty("order").GetProperty("standing").GetString());
        Assert.Equal("5.00", back.GetProperty("order").GetProperty("refundable").GetString());
        Assert.Equal(["EUR 8.50 paid online", "EUR 3.50 refunded"], Money(back.GetProperty("order")));
        // Pressed by somebody who has not seen it.
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await RefundAsync(sale.Owner, seen, "3.50")).StatusCode);
        Assert.Contains("Refunded</th><td>3.50", await sale.Visitor.GetStringAsync(order), StringComparison.Ordinal);
        // The service's notice of it comes after, twice, and changes nothing.
        await TellAsync(sale, Paid(payment, returned: "3.50"));
        await TellAsync(sale, Paid(payment, returned: "3.50"));
        Assert.Equal(350, await sale.Site.ScalarAsync<long>("select returned from sale_order"));
        // More went back there, by hand, than was asked for here.
        await TellAsync(sale, Paid(payment, returned: "6.00"));
        Assert.Equal("2.50", (await SeenAsync(sale)).GetProperty("refundable").GetString());
        Assert.Equal("Paid, refunded in part", (await SeenAsync(sale)).GetProperty("standing").GetString());
        await TellAsync(sale, Paid(payment, returned: "8.50"));
        seen = await SeenAsync(sale);
        Assert.Equal(("Paid, refunded", System.Text.Json.JsonValueKind.Null), (seen.GetProperty("standing").GetString(), seen.GetProperty("refundable").ValueKind));
        Assert.Equal(HttpStatusCode.Conflict, (await RefundAsync(sale.Owner, seen, "1")).StatusCode);
        Assert.Contains(await standin.LettersAsync(4), l => l.Subject == "EUR 3.50 of your order 1001 from Trial is refunded");
        Assert.Equal(HttpStatusCode.Forbidden, (await RefundAsync(await sale.Site.EditorAsync("Tomas"), seen, "1")).StatusCode);
        await sale.Site.VerifyAsync();
    }

    [Fact]
    public async Task Two_who_give_back_all_of_it_at_once_give_it_back_once()
    {
        var (sale, _, _) = await PaidAsync();
        await using var __ = sale;
        var seen = await SeenAsync(sale);
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(async _ => (await RefundAsync(sale.Owner, seen, "8.50")).StatusCode));
        Assert.Single(answers, HttpStatusCode.OK);
        Assert.Equal(1, await sale.Site.ScalarAsync<long>("select count(*) from refund"));
    }

    [Fact]
    public async Task While_the_service_is_away_it_is_on_its_way_and_is_asked_for_again_and_once()
    {
        var (sale, _, _) = await PaidAsync();
        await using var __ = sale;
        await standin.SetAsync("payments", new { isAway = true });
        var asked = (await (await RefundAsync(sale.Owner, await SeenAsync(sale), "5.00")).ReadAsync()).GetProperty("order");
        Assert.Equal(["EUR 8.50 paid online", "EUR 5.00 is on its way back"], Money(asked));
        Assert.Equal(("3.50", "Paid"), (asked.GetProperty("refundable").GetString(), asked.GetProperty("standing").GetString()));
        await standin.SetAsync("payments", new { isAway = false });
        await using (var earlier = sale.Site.Db.CreateCommand("update refund set made = made - interval '10 minutes'"))
        {
            await earlier.ExecuteNonQueryAsync();
        }

        await sale.Site.UntilAsync("select returned from sale_order", 500);
        Assert.Equal(["EUR 8.50 paid online", "EUR 5.00 refunded"], Money(await SeenAsync(sale)));
        // A server that died after the service had done it asks once more, by the same name: nothing more goes back.
        await using (var died = sale.Site.Db.CreateCommand("update refund set state = 'Asked'"))
        {
            await died.ExecuteNonQueryAsync();
        }

        await sale.Site.UntilAsync("select count(*) from refund where state = 'Done'", 1);
        Assert.Equal(500, await sale.Site.ScalarAsync<long>("select returned from sale_order"));
    }

    [Fact]
    public async Task What_the_service_refuses_is_said_and_can_be_tried_otherwise()
    {
        var sale = await PaidSaleAsync(standin);
        await using var _ = sale;
        // Told as paid here, and not there: the service gives nothing back.
        var (_, _, payment) = await OrderToPayAsync(sale);
        await TellAsync(sale, Paid(payment));
        var refused = await RefundAsync(sale.Owner, await SeenAsync(sale), "8.50");
        Assert.Equal((HttpStatusCode.Conflict, true), (refused.StatusCode, (await refused.Content.ReadAsStringAsync()).Contains("The payment service refuses that", StringComparison.Ordinal)));
        var seen = await SeenAsync(sale);
        Assert.Equal("8.50", seen.GetProperty("refundable").GetString());
        Assert.Equal(0, await sale.Site.ScalarAsync<long>("select returned from sale_order"));
    }

    [Fact]
    public async Task What_came_by_transfer_goes_back_by_hand_and_is_noted()
    {
        await using var sale = await SaleAsync();
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        var id = (await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString()!;
        async Task<System.Text.Json.JsonElement> Order() => await (await sale.Owner.GetAsync($"/api/orders/{id}")).ReadAsync();
        // Nothing has come, so nothing goes back.
        Assert.Equal(HttpStatusCode.Conflict, (await RefundAsync(sale.Owner, await Order(), "1")).StatusCode);
        (await StepAsync(sale.Owner, id, "pay")).EnsureSuccessStatusCode();
        var order = await Order();
        Assert.Equal(("8.50", false), (order.GetProperty("refundable").GetString(), order.GetProperty("goesByService").GetBoolean()));
        (await RefundAsync(sale.Owner, order, "8.50")).EnsureSuccessStatusCode();
        Assert.Equal(("Paid, refunded", "EUR 8.50 refunded"), ((await Order()).GetProperty("standing").GetString(), Assert.Single(Money(await Order()))));
        Assert.Equal(HttpStatusCode.Conflict, (await RefundAsync(sale.Owner, await Order(), "0.01")).StatusCode);
        // Bookkeeping has it as it stands.
        var table = (await sale.Owner.GetStringAsync("/api/orders/table.csv")).Trim('\uFEFF').Split("\r\n");
        var day = DateTime.UtcNow.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        Assert.Equal($"1001,{day},{day},\"Paid, refunded\",Nell Garrow,nell@example.test,IE,1,4.00,4.50,0.00,,,0.00,,8.50,8.50,EUR", table[1]);
        Assert.Equal(3, table.Length);
        Assert.Equal(2, (await sale.Owner.GetStringAsync("/api/orders/table.csv?year=2020")).Split("\r\n").Length);
        Assert.Equal(HttpStatusCode.BadRequest, (await sale.Owner.GetAsync("/api/orders/table.csv?year=0")).StatusCode);
    }
}
