using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using static Jovitar.Server.Tests.BuyingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What was sold: only what is paid and not cancelled, when it was paid, and of which photo.</summary>
public sealed class SoldTests
{
    static async Task<JsonElement> SoldAsync(HttpClient staff, string query = "?year=2026") => await (await staff.GetAsync($"/api/sold{query}")).ReadAsync();

    static string? Of(JsonElement sums, string part) => sums.GetProperty(part).ToString();

    /// <summary>Prints at 4.00 that cost 1.50, and files at 5.00 of which nobody said what they cost.</summary>
    static async Task CostAsync(Sale sale)
    {
        var version = (await (await sale.Owner.GetAsync($"/api/prices/{sale.List}")).ReadAsync()).GetProperty("version").GetInt64();
        var options = new object[] { new { id = sale.Print, kind = "print", size = "10x15 cm", price = "4.00", cost = "1.50" }, new { id = sale.File, kind = "digital", longestEdge = 600, price = "5.00" } };
        await (await sale.Owner.SendAsync(HttpMethod.Put, $"/api/prices/{sale.List}", new { name = "Prints", currency = "EUR", limits = new { good = 300, fair = 200, least = 120 }, sellsSmall = false, options }, version)).ReadAsync();
    }

    [Fact]
    public async Task What_is_paid_counts_in_its_month_and_what_is_not_or_is_cancelled_does_not()
    {
        await using var sale = await SaleAsync(2, Shop(tax: "included", percent: "23"));
        await CostAsync(sale);
        var visitor = sale.Site.Visitor();
        async Task<string> OrderedAsync(params (string Photo, string Option, string Count)[] lines)
        {
            foreach (var (photo, option, count) in lines)
            {
                await AddAsync(visitor, sale, photo, option, count);
            }

            Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(visitor, await CheckOutAsync(visitor))).StatusCode);
            return (await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString()!;
        }

        var march = await OrderedAsync((sale.Photos[0], sale.Print, "3"), (sale.Photos[1], sale.Print, "1"));
        var december = await OrderedAsync((sale.Photos[1], sale.Print, "1"), (sale.Photos[1], sale.File, "1"));
        var cancelled = await OrderedAsync((sale.Photos[0], sale.Print, "9"));
        await OrderedAsync((sale.Photos[0], sale.Print, "9"));
        foreach (var order in new[] { march, december, cancelled })
        {
            await (await StepAsync(sale.Owner, order, "pay")).ReadAsync();
        }

        await (await StepAsync(sale.Owner, cancelled, "cancel")).ReadAsync();
        // The last minute of a year is that year's, as UTC has it.
        await sale.Site.WriteAsync($"update sale_order set paid = '2026-03-09 12:00+00' where id = '{march}'");
        await sale.Site.WriteAsync($"update sale_order set paid = '2026-12-31 23:59:59+00', returned = 250 where id = '{december}'");
        var sold = await SoldAsync(sale.Owner);
        var months = sold.GetProperty("months").EnumerateArray().ToArray();
        // 4 × 4.00 + 4.50; 4.00 + 5.00 + 4.50. Tax: 20.50 × 23 / 123 = 3.833…, 13.50 × 23 / 123 = 2.524….
        Assert.Equal(("1", "4", "16.00", "4.50", "3.83", "20.50", "0.00"), (Of(months[2], "orders"), Of(months[2], "pieces"), Of(months[2], "goods"), Of(months[2], "postage"), Of(months[2], "tax"), Of(months[2], "total"), Of(months[2], "returned")));
        Assert.Equal(("1", "13.50", "2.50"), (Of(months[11], "orders"), Of(months[11], "total"), Of(months[11], "returned")));
        Assert.Equal(("2", "34.00", "6.35"), (Of(sold.GetProperty("whole"), "orders"), Of(sold.GetProperty("whole"), "total"), Of(sold.GetProperty("whole"), "tax")));
        // Five prints, of which 2.50 stay each; of the file nobody said what it costs.
        Assert.Equal(
            ["10 × 15 cm print 5 20.00 12.50", "File, 600 pixels 1 5.00 "],
            sold.GetProperty("options").EnumerateArray().Select(o => $"{Of(o, "called")} {Of(o, "pieces")} {Of(o, "amount")} {Of(o, "stays")}"));
        Assert.Equal(
            [(sale.Photos[1], "13.00", "5.00", true), (sale.Photos[0], "12.00", "7.50", false)],
            sold.GetProperty("photos").EnumerateArray().Select(p => (Of(p, "id"), Of(p, "amount"), Of(p, "stays"), p.GetProperty("isInPart").GetBoolean())));
        // Another year, and another currency, have nothing of it.
        Assert.Equal("0", Of((await SoldAsync(sale.Owner, "?year=2025")).GetProperty("whole"), "orders"));
        Assert.Equal("0", Of((await SoldAsync(sale.Owner, "?year=2026&currency=gbp")).GetProperty("whole"), "orders"));
        Assert.Equal(HttpStatusCode.BadRequest, (await sale.Owner.GetAsync("/api/sold?year=0")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await sale.Owner.GetAsync("/api/sold?currency=money")).StatusCode);
        await sale.Site.VerifyAsync();
    }

    [Fact]
    public async Task A_photo_that_is_removed_for_good_is_still_named_by_what_it_was_called()
    {
        await using var sale = await SaleAsync(1);
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        var order = (await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString()!;
        await (await StepAsync(sale.Owner, order, "pay")).ReadAsync();
        await (await StepAsync(sale.Owner, order, "send")).ReadAsync();
        var called = Of((await SoldAsync(sale.Owner, "")).GetProperty("photos")[0], "called");
        (await sale.Owner.PostAsJsonAsync("/api/bin", new { photos = sale.Photos })).EnsureSuccessStatusCode();
        await sale.Owner.EmptyBinAsync();
        var photo = (await SoldAsync(sale.Owner, "")).GetProperty("photos")[0];
        Assert.Equal((called, JsonValueKind.Null, "4.00"), (Of(photo, "called"), photo.GetProperty("photo").ValueKind, Of(photo, "amount")));
    }

    /// <summary>Orders of before this was kept of each have it from their content.</summary>
    [Fact]
    public async Task What_was_ordered_before_is_summed_as_well()
    {
        await using var sale = await SaleAsync(1, Shop(tax: "added", percent: "20"));
        await CostAsync(sale);
        await CouponAsync(sale.Owner, Coupon("FIVE", "amount", "5"));
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "3");
        await AddAsync(visitor, sale, sale.Photos[0], sale.File);
        await FormAsync(visitor, "/basket/coupons", ("code", "five"));
        await OrderAsync(visitor, await CheckOutAsync(visitor));
        const string Sums = "select concat_ws(' ', goods, taken_off, postage, taxed) from sale_order";
        const string Lines = "select string_agg(concat_ws(' ', option, count, amount, coalesce(cost::text, 'none')), ', ' order by place) from sale_order_line";
        var (sums, lines) = (await sale.Site.ScalarAsync<string>(Sums), await sale.Site.ScalarAsync<string>(Lines));
        Assert.Equal("1700 500 450 330", sums);
        Assert.Equal($"{sale.Print} 3 1200 450, {sale.File} 1 500 none", lines);
        // As the migration found them, and its own statements.
        await sale.Site.WriteAsync("update sale_order set goods = 0, taken_off = 0, postage = 0, taxed = 0");
        await sale.Site.WriteAsync("alter table sale_order_line alter column option drop not null");
        await sale.Site.WriteAsync("update sale_order_line set option = null, count = 0, amount = 0, cost = null");
        var script = await File.ReadAllTextAsync(Path.Combine(ServerProcess.Root(), "src/Jovitar.Server/Migrations/0048_sold.sql"));
        await sale.Site.WriteAsync(script[script.IndexOf("create function", StringComparison.Ordinal)..script.IndexOf("create index", StringComparison.Ordinal)]);
        Assert.Equal((sums, lines), (await sale.Site.ScalarAsync<string>(Sums), await sale.Site.ScalarAsync<string>(Lines)));
    }
}
