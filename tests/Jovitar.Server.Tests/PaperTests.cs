using System.Net;
using System.Net.Http.Json;
using static Jovitar.Server.Tests.BuyingSteps;
using static Jovitar.Server.Tests.Poppler;

namespace Jovitar.Server.Tests;

/// <summary>Packing slips and pick lists, read back by Poppler's tools.</summary>
public sealed class PaperTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("jovitar-papers").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    /// <summary>Fetches a paper.</summary>
    /// <returns>Its words page by page, and where it lies.</returns>
    async Task<(string[] Pages, string Path)> ReadAsync(HttpClient staff, string address)
    {
        var answer = await staff.GetAsync($"/api/orders/{address}");
        Assert.Equal((HttpStatusCode.OK, "application/pdf"), (answer.StatusCode, answer.Content.Headers.ContentType?.MediaType));
        Assert.True(answer.Headers.CacheControl is { Private: true, NoStore: true });
        Assert.Equal("inline", answer.Content.Headers.ContentDisposition?.DispositionType);
        var path = Path.Combine(folder, $"{Guid.NewGuid():N}.pdf");
        await File.WriteAllBytesAsync(path, await answer.Content.ReadAsByteArrayAsync());
        return ((await WordsAsync(path)).Split('\f')[..^1], path);
    }

    static async Task<string> LatestAsync(Sale sale) => (await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString()!;

    [Fact]
    public async Task A_packing_slip_says_where_it_goes_and_what_is_in_it_and_no_prices()
    {
        await using var sale = await SaleAsync();
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "3");
        await AddAsync(visitor, sale, sale.Photos[1], sale.File);
        await OrderAsync(visitor, await CheckOutAsync(visitor), name: "Łucja Ğanem", town: "Μυτιλήνη", message: "Для Надежды,\nplease.");
        var (pages, path) = await ReadAsync(sale.Owner, $"{await LatestAsync(sale)}/packing-slip.pdf");
        var words = Assert.Single(pages);
        // Letters of the Latin, the Greek and the Cyrillic alphabet alike.
        foreach (var said in new[] { "Łucja Ğanem", "7 Ropewalk", "X91 Μυτιλήνη", "Order 1001", "by post", "3 ×", "10 × 15 cm print", "Night", "Not in the parcel", "File, 600 pixels", "Для Надежды,", "please.", "1 of 1" })
        {
            Assert.Contains(said, words, StringComparison.Ordinal);
        }

        Assert.DoesNotContain("4.00", words, StringComparison.Ordinal);
        Assert.DoesNotContain("EUR", words, StringComparison.Ordinal);
        // Every font is within it, and one picture, of what is in the parcel; the paper is that of the country it is sent from.
        Assert.All((await RunAsync("pdffonts", path)).Split('\n', StringSplitOptions.RemoveEmptyEntries)[2..], font => Assert.Contains(" yes yes ", font, StringComparison.Ordinal));
        Assert.Equal(3, (await RunAsync("pdfimages", "-list", path)).Split('\n', StringSplitOptions.RemoveEmptyEntries).Length);
        Assert.Contains("(A4)", await RunAsync("pdfinfo", path), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Every_Latin_letter_has_its_shape_and_what_has_none_breaks_nothing()
    {
        await using var sale = await SaleAsync();
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        // One to a line: a line is set in one font. Long s is in neither, nor are the last ones.
        var letters = Enumerable.Range(0xA1, 0x17F - 0xA1).Where(c => c != 0xAD).Select(c => ((char)c).ToString()).Append("€").Append("„…”").Append("–").ToArray();
        await OrderAsync(visitor, await CheckOutAsync(visitor), name: "さくら 🙂 שלום", message: string.Join('\n', letters));
        var (pages, _) = await ReadAsync(sale.Owner, $"{await LatestAsync(sale)}/packing-slip.pdf");
        var words = string.Join('\n', pages).Normalize(System.Text.NormalizationForm.FormKC);
        Assert.Equal([], letters.Where(l => !words.Contains(l.Normalize(System.Text.NormalizationForm.FormKC), StringComparison.Ordinal)));
    }

    [Fact]
    public async Task Long_names_and_long_orders_stay_within_the_paper()
    {
        await using var sale = await SaleAsync(photos: 20);
        var visitor = sale.Site.Visitor();
        foreach (var photo in sale.Photos[..20])
        {
            await (await sale.Owner.PostAsJsonAsync("/api/words", new { photos = new[] { photo }, changes = new[] { new { write = new { field = "title", pattern = new[] { new { text = new string('W', 190) } } } } } })).ReadAsync();
            await AddAsync(visitor, sale, photo, sale.Print);
        }

        await OrderAsync(visitor, await CheckOutAsync(visitor), name: new string('n', 120), message: string.Join('\n', Enumerable.Range(1, 40).Select(i => $"line {i} {new string('m', 15)}")));
        var (pages, path) = await ReadAsync(sale.Owner, $"{await LatestAsync(sale)}/packing-slip.pdf");
        Assert.Equal(3, pages.Length);
        Assert.Equal(20, pages.Sum(p => p.Split("10 × 15 cm print").Length - 1));
        Assert.All(pages.Index(), p => Assert.Contains($"{p.Index + 1} of 3", p.Item, StringComparison.Ordinal));
        Assert.Contains("Order 1001, packing slip", pages[1], StringComparison.Ordinal);
        Assert.Equal(40, Enumerable.Range(1, 40).Count(i => pages.Any(p => p.Contains($"line {i} m", StringComparison.Ordinal))));
        // No letter lies outside: every word's box ends before the margin, points.
        foreach (var word in (await RunAsync("pdftotext", "-bbox", path, "-")).Split("xMax=\"").Skip(1))
        {
            Assert.InRange(double.Parse(word[..word.IndexOf('"', StringComparison.Ordinal)], System.Globalization.CultureInfo.InvariantCulture), 0, 595.3 - 54);
        }
    }

    [Fact]
    public async Task A_pick_list_gathers_what_is_made_alike_of_all_that_is_to_be_printed()
    {
        await using var sale = await SaleAsync();
        Assert.Contains("Nothing is to be made.", (await ReadAsync(sale.Owner, "pick-list.pdf")).Pages[0], StringComparison.Ordinal);
        for (var i = 0; i < 3; i++)
        {
            await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        }

        foreach (var order in (await OrdersAsync(sale.Owner)).Skip(1))
        {
            (await StepAsync(sale.Owner, order.GetProperty("id").GetString()!, "pay")).EnsureSuccessStatusCode();
        }

        var (pages, path) = await ReadAsync(sale.Owner, "pick-list.pdf");
        var words = Assert.Single(pages);
        Assert.Contains("2 pieces of 2 orders", words, StringComparison.Ordinal);
        Assert.Contains("10 × 15 cm print", words, StringComparison.Ordinal);
        Assert.Contains("Order 1001", words, StringComparison.Ordinal);
        Assert.Contains("Order 1002", words, StringComparison.Ordinal);
        Assert.Contains("line 1", words, StringComparison.Ordinal);
        Assert.DoesNotContain("Order 1003", words, StringComparison.Ordinal);
        // One photo, twice: its picture lies in it once.
        Assert.Single((await RunAsync("pdfimages", "-list", path)).Split('\n', StringSplitOptions.RemoveEmptyEntries)[2..].Select(l => l.Split(' ', StringSplitOptions.RemoveEmptyEntries)[10]).Distinct());

        // Letter, where offices use that.
        (await ShopAsync(sale.Owner, Shop(postage: new { home = "US", atHome = "4.50", express = "", freeFrom = "", freeIsOver = false, freeByExpress = false, freeAbroad = false, abroad = "no", abroadCosts = "", collected = "" }))).EnsureSuccessStatusCode();
        Assert.Contains("(letter)", await RunAsync("pdfinfo", (await ReadAsync(sale.Owner, "pick-list.pdf")).Path), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_thousand_orders_are_printed_in_one_go_the_eldest_first()
    {
        await using var sale = await SaleAsync();
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        await sale.Site.WriteAsync(
            """
            insert into sale_order (id, number, secret, basket, placed, name, email, content, currency, total, things, delivery, paid)
            select gen_random_uuid(), o.number + n, sha256(n::text::bytea), o.basket, o.placed + n * interval '1 second', o.name, o.email,
                   o.content, o.currency, o.total, o.things, o.delivery, case when n % 6 > 0 then now() end
              from sale_order as o, generate_series(1, 1300) as n
            """);
        // Of 1,300 five sixths are paid: 1,084.
        Assert.Equal(1000, (await (await sale.Owner.GetAsync("/api/orders")).ReadAsync()).GetProperty("toPrint").GetInt32());
        var (pages, _) = await ReadAsync(sale.Owner, "pick-list.pdf");
        Assert.Contains("1,000 pieces of 1,000 orders", pages[0], StringComparison.Ordinal);
        Assert.Equal(1000, pages.Sum(p => p.Split("Order ").Length - 1));
        Assert.Contains("Order 1002", pages[0], StringComparison.Ordinal);
        // The thousandth that is paid is the 1,200th but one in six: 1001 + 1199.
        Assert.Contains("Order 2200", pages[^1], StringComparison.Ordinal);
    }

    [Fact]
    public async Task Papers_are_for_those_who_sell()
    {
        await using var sale = await SaleAsync();
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        var order = await LatestAsync(sale);
        var member = await MemberSteps.MemberAsync(sale.Site, sale.Owner, "Ada");
        foreach (var address in new[] { "pick-list.pdf", $"{order}/packing-slip.pdf" })
        {
            Assert.Equal(HttpStatusCode.Unauthorized, (await sale.Site.Visitor().GetAsync($"/api/orders/{address}")).StatusCode);
            Assert.Contains((await member.GetAsync($"/api/orders/{address}")).StatusCode, (HttpStatusCode[])[HttpStatusCode.Forbidden, HttpStatusCode.Unauthorized]);
        }

        Assert.Equal(HttpStatusCode.NotFound, (await sale.Owner.GetAsync($"/api/orders/{Guid.NewGuid()}/packing-slip.pdf")).StatusCode);
    }
}
