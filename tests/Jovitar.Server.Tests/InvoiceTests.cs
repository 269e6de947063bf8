using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using static Jovitar.Server.Tests.BuyingSteps;
using static Jovitar.Server.Tests.PaymentSteps;

namespace Jovitar.Server.Tests;

/// <summary>Invoices and credit notes: written once, with numbers without gaps, for those who may have them; read back by Poppler's tools.</summary>
public sealed partial class InvoiceTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("jovitar-invoices").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    static object Invoices(bool areWritten = true, string seller = "Marram Bay Kite Guild\nThe sail loft\nMarram Bay", string prefix = "G-", long first = 118, string foot = "What is sold pays for twine.") =>
        new { areWritten, seller, taxNumber = "MB 0042", prefix, first, foot };

    /// <summary>A shop that is as others are, and writes invoices.</summary>
    static object Shop(object? invoices = null, string tax = "included", string percent = "23", bool isPaidOnline = false) => new
    {
        isOpen = true,
        currency = "EUR",
        postage = Postage(collected: "At the sail loft."),
        tax = new { kind = tax, percent, name = "VAT" },
        payment = "Pay into the account.",
        isPaidOnline,
        invoices = invoices ?? Invoices(),
    };

    static async Task<JsonElement> OneAsync(HttpClient staff, string order) => await (await staff.GetAsync($"/api/orders/{order}")).ReadAsync();

    static async Task<string> LatestAsync(Sale sale) => (await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString()!;

    /// <summary>What was written of an order: numbers, and over how much.</summary>
    static string[] Written(JsonElement order) =>
        [.. order.GetProperty("invoices").EnumerateArray().Select(i => $"{i.GetProperty("kind").GetString()} {i.GetProperty("called").GetString()} {i.GetProperty("amount").GetString()}")];

    /// <summary>Waits until the site has looked at what has changed.</summary>
    static Task SettledAsync(Site site) => site.UntilAsync("select count(*) from sale_order where to_bill", 0);

    async Task<string> WordsAsync(HttpResponseMessage answer)
    {
        Assert.Equal((HttpStatusCode.OK, "application/pdf"), (answer.StatusCode, answer.Content.Headers.ContentType?.MediaType));
        Assert.True(answer.Headers.CacheControl?.NoStore);
        return await WordsAsync(await answer.Content.ReadAsByteArrayAsync());
    }

    async Task<string> WordsAsync(byte[] pdf)
    {
        var path = Path.Combine(folder, $"{Guid.NewGuid():N}.pdf");
        await File.WriteAllBytesAsync(path, pdf);
        return Spaces().Replace(await Poppler.WordsAsync(path), " ");
    }

    [GeneratedRegex("[ ]+")]
    private static partial Regex Spaces();

    [Fact]
    public async Task An_order_that_is_paid_has_its_invoice_and_what_goes_back_a_credit_note()
    {
        await using var sale = await SaleAsync(shop: Shop());
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "3");
        await AddAsync(visitor, sale, sale.Photos[1], sale.File);
        var page = (await OrderAsync(visitor, await CheckOutAsync(visitor), name: "Łucja Ğanem", message: "For the club’s eyes.")).Headers.Location!.ToString();
        var order = await LatestAsync(sale);
        Assert.Empty(Written(await OneAsync(sale.Owner, order)));
        (await StepAsync(sale.Owner, order, "pay")).EnsureSuccessStatusCode();
        await SettledAsync(sale.Site);
        Assert.Equal(["invoice G-118 EUR 21.50"], Written(await OneAsync(sale.Owner, order)));
        (await StepAsync(sale.Owner, order, "send")).EnsureSuccessStatusCode();
        await SettledAsync(sale.Site);
        Assert.Single(Written(await OneAsync(sale.Owner, order)));
        Assert.Equal("Order 1001: wrote invoice G-118.", await sale.Site.ScalarAsync<string>("select sentence from act where kind = 'Invoices'"));
        Assert.Equal("The shop", await sale.Site.ScalarAsync<string>("select who from act where kind = 'Invoices'"));

        var words = await WordsAsync(await sale.Owner.GetAsync($"/api/orders/{order}/invoices/118"));
        var today = DateTimeOffset.UtcNow.ToString("d MMMM yyyy", System.Globalization.CultureInfo.InvariantCulture);
        // 3 prints for 4.00 each, a file for 5.00, postage of 4.50; 21.50 × 23 / 123 = 4.02.
        foreach (var said in new[]
        {
            "Marram Bay Kite Guild · The sail loft · Marram Bay", "Łucja Ğanem", "7 Ropewalk", "X91 Hollin Quay", "Invoice", "G-118", today, $"Order 1001 of {today}", "Tax number MB 0042", "3 × 10 × 15 cm print 4.00 12.00", "1 × File, 600 pixels 5.00 5.00", "Together 17.00",
            "Post 4.50", "Total EUR 21.50", "Without tax 17.48", "23 % VAT 4.02", $"Paid on {today}.", "What is sold pays for twine.", "1 of 1",
        })
        {
            Assert.Contains(said, words, StringComparison.Ordinal);
        }

        Assert.DoesNotContain("For the club", words, StringComparison.Ordinal);
        Assert.DoesNotContain("Pay into the account", words, StringComparison.Ordinal);

        (await RefundAsync(sale.Owner, await OneAsync(sale.Owner, order), "5.00")).EnsureSuccessStatusCode();
        await SettledAsync(sale.Site);
        Assert.Equal(["invoice G-118 EUR 21.50", "creditNote G-119 EUR 5.00"], Written(await OneAsync(sale.Owner, order)));
        words = await WordsAsync(await sale.Owner.GetAsync($"/api/orders/{order}/invoices/119"));
        // 4.02 × 5 / 21.50 = 0.93.
        foreach (var said in new[] { "Credit note", "G-119", $"This takes back a part of invoice G-118 of {today}, which was over EUR 21.50.", "To your credit EUR 5.00", "Without tax 4.07", "23 % VAT 0.93" })
        {
            Assert.Contains(said, words, StringComparison.Ordinal);
        }

        // Its buyer finds both, by the link of the order alone.
        var html = await visitor.GetStringAsync(page);
        Assert.Contains($"href=\"{page}/invoices/118\"", html, StringComparison.Ordinal);
        Assert.Contains(">Credit note G-119<", html, StringComparison.Ordinal);
        Assert.Contains("Total EUR 21.50", await WordsAsync(await sale.Site.Visitor().GetAsync($"{page}/invoices/118")), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_a_coupon_takes_off_stands_on_the_invoice()
    {
        await using var sale = await SaleAsync(1, Shop());
        await CouponAsync(sale.Owner, Coupon("FIVE", "amount", "5"));
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "3");
        await FormAsync(visitor, "/basket/coupons", ("code", "five"));
        await OrderAsync(visitor, await CheckOutAsync(visitor));
        var order = await LatestAsync(sale);
        (await StepAsync(sale.Owner, order, "pay")).EnsureSuccessStatusCode();
        await SettledAsync(sale.Site);
        var words = await WordsAsync(await sale.Owner.GetAsync($"/api/orders/{order}/invoices/118"));
        // 12.00 + 4.50 − 5.00, and 11.50 × 23 / 123 of it tax.
        foreach (var said in new[] { "Together 12.00", "Post 4.50", "Coupon FIVE −5.00", "Total EUR 11.50", "23 % VAT 2.15", "Without tax 9.35" })
        {
            Assert.Contains(said, words, StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task One_is_written_before_it_is_due_where_somebody_asks_and_taken_back_where_the_order_is_cancelled()
    {
        await using var sale = await SaleAsync(shop: Shop());
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        var order = await LatestAsync(sale);
        var seen = await OneAsync(sale.Owner, order);
        Assert.True(seen.GetProperty("canBeInvoiced").GetBoolean());
        var version = seen.GetProperty("version").GetInt64();
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await sale.Owner.SendAsync(HttpMethod.Post, $"/api/orders/{order}/invoices", new { }, version + 1)).StatusCode);
        var kept = await (await sale.Owner.SendAsync(HttpMethod.Post, $"/api/orders/{order}/invoices", new { }, version)).ReadAsync();
        Assert.Equal(["invoice G-118 EUR 8.50"], Written(kept.GetProperty("order")));
        Assert.False(kept.GetProperty("order").GetProperty("canBeInvoiced").GetBoolean());
        Assert.Contains("Pay into the account.", await WordsAsync(await sale.Owner.GetAsync($"/api/orders/{order}/invoices/118")), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Conflict, (await sale.Owner.SendAsync(HttpMethod.Post, $"/api/orders/{order}/invoices", new { }, version + 1)).StatusCode);

        var cancelled = await (await StepAsync(sale.Owner, order, "cancel")).ReadAsync();
        await SettledAsync(sale.Site);
        Assert.Equal(["invoice G-118 EUR 8.50", "creditNote G-119 EUR 8.50"], Written(await OneAsync(sale.Owner, order)));
        Assert.Contains("This takes back invoice G-118", await WordsAsync(await sale.Owner.GetAsync($"/api/orders/{order}/invoices/119")), StringComparison.Ordinal);
        // Where that was a mistake it is written anew: what was written stays.
        await sale.Owner.UndoAsync(cancelled);
        await SettledAsync(sale.Site);
        Assert.Equal(["invoice G-118 EUR 8.50", "creditNote G-119 EUR 8.50", "invoice G-120 EUR 8.50"], Written(await OneAsync(sale.Owner, order)));
        // Acts that wrote them are not taken back.
        var act = await sale.Site.ScalarAsync<Guid>("select id from act where kind = 'Invoices' order by id limit 1");
        Assert.Equal(HttpStatusCode.Conflict, (await sale.Owner.PostAsJsonAsync($"/api/acts/{act}/undo", new { })).StatusCode);
    }

    [Fact]
    public async Task Orders_that_came_before_have_none_unless_somebody_asks_and_what_was_written_stays()
    {
        await using var sale = await SaleAsync();
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        var old = await LatestAsync(sale);
        (await StepAsync(sale.Owner, old, "pay")).EnsureSuccessStatusCode();
        await SettledAsync(sale.Site);
        Assert.False((await OneAsync(sale.Owner, old)).GetProperty("canBeInvoiced").GetBoolean());
        Assert.Equal(HttpStatusCode.Conflict, (await sale.Owner.SendAsync(HttpMethod.Post, $"/api/orders/{old}/invoices", new { }, 2)).StatusCode);
        (await ShopAsync(sale.Owner, Shop(Invoices(first: 7), tax: "none", percent: ""))).EnsureSuccessStatusCode();
        await SettledAsync(sale.Site);
        Assert.Empty(Written(await OneAsync(sale.Owner, old)));
        (await sale.Owner.SendAsync(HttpMethod.Post, $"/api/orders/{old}/invoices", new { }, 2)).EnsureSuccessStatusCode();
        Assert.Equal(7, (await (await sale.Owner.GetAsync("/api/shop")).ReadAsync()).GetProperty("lastInvoice").GetInt64());
        var before = await WordsAsync(await sale.Owner.GetAsync($"/api/orders/{old}/invoices/7"));
        Assert.DoesNotContain("tax", before.Replace("Tax number", "", StringComparison.Ordinal), StringComparison.OrdinalIgnoreCase);

        // Another seller, another beginning, another title: what was written says what it said; numbers go on.
        (await ShopAsync(sale.Owner, Shop(Invoices(seller: "Somebody else\nElsewhere", prefix: "2027-X", first: 500), tax: "added", percent: "10"))).EnsureSuccessStatusCode();
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        var next = await LatestAsync(sale);
        (await StepAsync(sale.Owner, next, "send")).EnsureSuccessStatusCode();
        await SettledAsync(sale.Site);
        // 4.00 and 4.50, 10 % on top.
        Assert.Equal(["invoice 2027-X8 EUR 9.35"], Written(await OneAsync(sale.Owner, next)));
        Assert.Equal(before, await WordsAsync(await sale.Owner.GetAsync($"/api/orders/{old}/invoices/7")));
        // Where none are written any more, what was is still taken back, and nothing new comes.
        (await ShopAsync(sale.Owner, Shop(Invoices(areWritten: false), tax: "none", percent: ""))).EnsureSuccessStatusCode();
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        (await StepAsync(sale.Owner, await LatestAsync(sale), "pay")).EnsureSuccessStatusCode();
        (await StepAsync(sale.Owner, old, "cancel")).EnsureSuccessStatusCode();
        await SettledAsync(sale.Site);
        Assert.Equal(["Invoice G-7", "Invoice 2027-X8", "CreditNote G-9"], await sale.Site.ScalarAsync<string[]>("select array(select kind || ' ' || called from invoice order by number)"));
    }

    [Fact]
    public async Task They_are_for_those_who_sell_and_for_the_buyer_of_the_order_alone()
    {
        await using var sale = await SaleAsync(shop: Shop());
        var visitor = sale.Site.Visitor();
        var (first, second) = (await BuyAsync(visitor, sale, sale.Print), await BuyAsync(visitor, sale, sale.File, way: "Files"));
        foreach (var order in await OrdersAsync(sale.Owner))
        {
            (await StepAsync(sale.Owner, order.GetProperty("id").GetString()!, "pay")).EnsureSuccessStatusCode();
        }

        await SettledAsync(sale.Site);
        var of = await sale.Site.ScalarAsync<long[]>("select array(select i.number from invoice as i join sale_order as o on o.id = i.sale_order order by o.number)");
        await WordsAsync(await visitor.GetAsync($"{first}/invoices/{of[0]}"));
        // Of who had nothing sent there is no address: their e-mail stands in its place.
        Assert.Contains("nell@example.test", await WordsAsync(await visitor.GetAsync($"{second}/invoices/{of[1]}")), StringComparison.Ordinal);
        foreach (var wrong in new[] { $"{first}/invoices/{of[1]}", $"{second}/invoices/{of[0]}", $"{first}/invoices/0", $"{first}/invoices/-1", $"{first}/invoices/99999999999999999999", $"/order/nothing/invoices/{of[0]}", $"{first}x/invoices/{of[0]}" })
        {
            Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync(wrong)).StatusCode);
        }

        var (one, other) = ((await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString(), (await OrdersAsync(sale.Owner))[1].GetProperty("id").GetString());
        Assert.Equal(HttpStatusCode.NotFound, (await sale.Owner.GetAsync($"/api/orders/{one}/invoices/{of[0]}")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await sale.Owner.GetAsync($"/api/orders/{other}/invoices/{of[0]}")).StatusCode);
        foreach (var door in new[] { $"/api/orders/{other}/invoices/{of[0]}", "/api/invoices/table.csv", "/api/invoices/papers.zip" })
        {
            Assert.Equal(HttpStatusCode.Unauthorized, (await visitor.GetAsync(door)).StatusCode);
        }
    }

    [Fact]
    public async Task Whoever_presses_at_once_has_one_and_numbers_have_no_gaps()
    {
        const int Orders = 12;
        await using var sale = await SaleAsync(shop: Shop());
        for (var n = 0; n < Orders; n++)
        {
            await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        }

        var orders = (await OrdersAsync(sale.Owner)).Select(o => o.GetProperty("id").GetString()!).ToArray();
        await Parallel.ForEachAsync(
            orders.SelectMany(o => new[] { (o, "ask"), (o, "ask"), (o, "pay") }), new ParallelOptions { MaxDegreeOfParallelism = 8 },
            async (each, _) => await (each.Item2 == "pay" ? StepAsync(sale.Owner, each.o, "pay", 1) : sale.Owner.SendAsync(HttpMethod.Post, $"/api/orders/{each.o}/invoices", new { }, 1)));
        await SettledAsync(sale.Site);
        foreach (var order in orders.Take(4))
        {
            (await StepAsync(sale.Owner, order, "cancel")).EnsureSuccessStatusCode();
        }

        await SettledAsync(sale.Site);
        // Each was pressed three times over the same version: one of them went through, and either has an invoice come of it.
        Assert.Equal(Orders, await sale.Site.ScalarAsync<long>("select count(distinct sale_order) from invoice where kind = 'Invoice'"));
        Assert.Equal(Orders + 4, await sale.Site.ScalarAsync<long>("select count(*) from invoice"));
        Assert.Equal((118L, 118L + Orders + 3), (await sale.Site.ScalarAsync<long>("select min(number) from invoice"), await sale.Site.ScalarAsync<long>("select max(number) from invoice")));
        await sale.Site.VerifyAsync();
    }

    [Fact]
    public async Task What_came_twice_and_goes_back_takes_no_invoice_back()
    {
        await using var standin = await Standin.StartAsync(Path.GetTempPath());
        await standin.SetAsync("payments", new { mood = "silent", isAway = false });
        var bare = await SaleAsync(shop: Shop(isPaidOnline: true));
        bare.Site.Process(workers: 0, payments: standin.Address);
        await using var sale = new PaidSale(bare, standin, bare.Site.Visitor(), await bare.Site.OwnerAsync());
        var (_, page, payment) = await OrderToPayAsync(sale);
        var order = (await SeenAsync(sale)).GetProperty("id").GetString()!;
        // It is noted as paid by hand, and then it is paid online as well.
        (await StepAsync(sale.Owner, order, "pay")).EnsureSuccessStatusCode();
        await standin.PayAsync(page);
        await TellAsync(sale, Paid(payment));
        await SettledAsync(sale.Site);
        (await RefundAsync(sale.Owner, await SeenAsync(sale), "8.50")).EnsureSuccessStatusCode();
        await sale.Site.UntilAsync("select returned from sale_order", 850);
        await SettledAsync(sale.Site);
        var seen = await SeenAsync(sale);
        Assert.Equal(["invoice G-118 EUR 8.50"], Written(seen));
        Assert.Equal("Paid", seen.GetProperty("standing").GetString());
    }

    [Fact]
    public async Task Its_buyer_has_it_by_letter_and_what_came_with_that_is_forgotten_once_it_has_left()
    {
        await using var standin = await Standin.StartAsync(Path.GetTempPath());
        await using var sale = await SaleAsync(shop: Shop(), mail: standin.MailPort);
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        var order = await LatestAsync(sale);
        (await StepAsync(sale.Owner, order, "send")).EnsureSuccessStatusCode();
        // One to the buyer and one to the owner when it was placed.
        var letter = Assert.Single(await standin.LettersAsync(3), l => l.Subject == "Invoice G-118 for your order 1001 from Trial");
        Assert.Contains("nell@example.test", letter.To, StringComparison.Ordinal);
        Assert.Contains("invoice G-118 over EUR 8.50", letter.Text, StringComparison.Ordinal);
        Assert.Contains("Pay into the account.", letter.Text, StringComparison.Ordinal);
        var (name, bytes) = await standin.PaperAsync(letter.Subject);
        Assert.Equal("invoice G-118.pdf", name);
        Assert.Contains("Total EUR 8.50", await WordsAsync(bytes), StringComparison.Ordinal);
        (await StepAsync(sale.Owner, order, "pay")).EnsureSuccessStatusCode();
        (await RefundAsync(sale.Owner, await OneAsync(sale.Owner, order), "8.50")).EnsureSuccessStatusCode();
        var back = Assert.Single(await standin.LettersAsync(5), l => l.Subject == "Credit note G-119 for your order 1001 from Trial");
        Assert.Contains("This takes back invoice G-118 of", back.Text, StringComparison.Ordinal);
        await sale.Site.UntilAsync("select count(*) from letter where due is not null or paper is not null", 0);
    }

    [Fact]
    public async Task Bookkeeping_takes_a_year_along_as_a_table_and_on_paper()
    {
        await using var sale = await SaleAsync(shop: Shop(Invoices(prefix: "A/")));
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        (await StepAsync(sale.Owner, await LatestAsync(sale), "pay")).EnsureSuccessStatusCode();
        await SettledAsync(sale.Site);
        (await RefundAsync(sale.Owner, await OneAsync(sale.Owner, await LatestAsync(sale)), "8.50")).EnsureSuccessStatusCode();
        await SettledAsync(sale.Site);
        var rows = (await sale.Owner.GetStringAsync("/api/invoices/table.csv")).TrimStart('\uFEFF').Split("\r\n", StringSplitOptions.RemoveEmptyEntries);
        Assert.Equal(3, rows.Length);
        Assert.EndsWith(",6.91,23,1.59,8.50,EUR", rows[1], StringComparison.Ordinal);
        Assert.Contains(",A/118,", rows[2], StringComparison.Ordinal);
        Assert.EndsWith(",-6.91,23,-1.59,-8.50,EUR", rows[2], StringComparison.Ordinal);
        var answer = await sale.Owner.GetAsync("/api/invoices/papers.zip");
        using var zip = new ZipArchive(await answer.Content.ReadAsStreamAsync());
        Assert.Equal(["invoice A-118.pdf", "credit note A-119.pdf", $"invoices {DateTime.UtcNow.Year}.csv"], zip.Entries.Select(e => e.Name));
        using var paper = new MemoryStream();
        await using (var packed = await zip.Entries[1].OpenAsync())
        {
            await packed.CopyToAsync(paper);
        }

        Assert.Contains("This takes back invoice A/118", await WordsAsync(paper.ToArray()), StringComparison.Ordinal);
        Assert.Single((await sale.Owner.GetStringAsync("/api/invoices/table.csv?year=2001")).Split("\r\n", StringSplitOptions.RemoveEmptyEntries));
        Assert.Equal(HttpStatusCode.BadRequest, (await sale.Owner.GetAsync("/api/invoices/papers.zip?year=0")).StatusCode);
    }

    [Fact]
    public async Task What_is_wrong_with_how_they_are_written_is_said_and_nothing_is_kept()
    {
        await using var sale = await SaleAsync();
        foreach (var wrong in new[] { Invoices(seller: "One line"), Invoices(prefix: "A 1"), Invoices(first: 0), Invoices(foot: new string('x', 601)) })
        {
            var answer = await ShopAsync(sale.Owner, Shop(wrong));
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            Assert.NotEmpty((await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("fields").GetProperty("invoices").GetString()!);
        }

        Assert.Equal(HttpStatusCode.BadRequest, (await ShopAsync(sale.Owner, Shop(new { areWritten = true, seller = (string?)null }))).StatusCode);
        Assert.False((await (await sale.Owner.GetAsync("/api/shop")).ReadAsync()).GetProperty("shop").GetProperty("invoices").GetProperty("areWritten").GetBoolean());
    }
}
