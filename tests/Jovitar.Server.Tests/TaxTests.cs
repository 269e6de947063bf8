using System.Net;
using System.Text.RegularExpressions;
using static Jovitar.Server.Tests.BuyingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What of an order is tax, by what is bought and by where its buyer is: on every page, in what is kept, and on paper.</summary>
public sealed partial class TaxTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("jovitar-taxes").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    /// <summary>A shop in Ireland that sends anywhere for 9.00, at home for 4.50: 23 %, 13.5 % on what is reduced; 20 % and 5.5 % in France, none elsewhere.</summary>
    static object Shop(string kind = "included", string french = "20", bool isByLine = false) => new
    {
        isOpen = true,
        currency = "EUR",
        postage = Postage(collected: "At the sail loft.", abroad: "flat", abroadCosts: "9.00"),
        tax = new { kind, percent = "23", name = "VAT", reduced = "13.5", places = new[] { new { countries = new[] { "FR" }, percent = french, reduced = "5.5" } }, elsewhere = new { percent = "0", reduced = "" }, isByLine },
        payment = "Pay into the account.",
        isPaidOnline = false,
        invoices = new { areWritten = true, seller = "Marram Bay Kite Guild\nThe sail loft", taxNumber = "", prefix = "G-", first = 118, foot = "" },
    };

    /// <summary>Prints are taxed at the reduced rate, files at the usual one.</summary>
    static async Task<Sale> SaleAsync(object shop)
    {
        var sale = await BuyingSteps.SaleAsync(2, shop);
        var options = new object[] { new { id = sale.Print, kind = "print", size = "10x15 cm", price = "30.00", tax = "reduced" }, new { id = sale.File, kind = "digital", longestEdge = 600, price = "12.00" } };
        var version = (await (await sale.Owner.GetAsync($"/api/prices/{sale.List}")).ReadAsync()).GetProperty("version").GetInt64();
        await (await sale.Owner.SendAsync(HttpMethod.Put, $"/api/prices/{sale.List}", new { name = "Prints", currency = "EUR", limits = new { good = 300, fair = 200, least = 120 }, sellsSmall = false, options }, version)).ReadAsync();
        return sale;
    }

    static async Task<string> FromAsync(HttpClient visitor, string country) => Plain(await (await OrderAsync(visitor, await CheckOutAsync(visitor), country: country, act: "look")).Content.ReadAsStringAsync());

    static string Plain(string html) => Spaces().Replace(Tags().Replace(WebUtility.HtmlDecode(html), " "), " ");

    [GeneratedRegex("<[^>]*>")]
    private static partial Regex Tags();

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();

    [Fact]
    public async Task An_order_is_taxed_where_it_goes_and_its_invoice_and_the_books_name_each_rate()
    {
        await using var sale = await SaleAsync(Shop());
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        await AddAsync(visitor, sale, sale.Photos[1], sale.File);
        Assert.Contains("Prices include VAT.", await visitor.GetStringAsync("/basket"), StringComparison.Ordinal);
        // At home, 34.50 with the postage of the print: × 13.5 / 113.5 = 4.103…; 12.00 × 23 / 123 = 2.243… Collected it is taxed there, too.
        var home = await FromAsync(visitor, "IE");
        Assert.Contains("To pay EUR 46.50 including 23 % VAT in 12.00 2.24 including 13.5 % VAT in 34.50 4.10", home, StringComparison.Ordinal);
        // In France 39.00 × 5.5 / 105.5 = 2.033…; 12.00 × 20 / 120.
        var france = await FromAsync(visitor, "FR");
        Assert.Contains("To pay EUR 51.00 including 20 % VAT in 12.00 2.00 including 5.5 % VAT in 39.00 2.03", france, StringComparison.Ordinal);
        Assert.Contains("To pay EUR 42.00 including 23 % VAT in 12.00 2.24 including 13.5 % VAT in 30.00 3.57", france, StringComparison.Ordinal);
        Assert.Contains("To pay EUR 51.00 without VAT 0.00", await FromAsync(visitor, "NO"), StringComparison.Ordinal);

        var page = (await OrderAsync(visitor, await CheckOutAsync(visitor), country: "FR")).Headers.Location!.ToString();
        Assert.Contains("including 5.5 % VAT in 39.00 2.03", Plain(await visitor.GetStringAsync(page)), StringComparison.Ordinal);
        var order = Assert.Single(await OrdersAsync(sale.Owner)).GetProperty("id").GetString()!;
        var seen = await (await sale.Owner.GetAsync($"/api/orders/{order}")).ReadAsync();
        Assert.Equal(["Post 9.00", "including 20 % VAT in 12.00 2.00", "including 5.5 % VAT in 39.00 2.03"], seen.GetProperty("sum").EnumerateArray().Select(p => $"{p.GetProperty("words").GetString()} {p.GetProperty("amount").GetString()}"));
        Assert.Equal(403, await sale.Site.ScalarAsync<long>("select taxed from sale_order"));

        (await StepAsync(sale.Owner, order, "pay")).EnsureSuccessStatusCode();
        await sale.Site.UntilAsync("select count(*) from sale_order where to_bill", 0);
        var path = Path.Combine(folder, "invoice.pdf");
        await File.WriteAllBytesAsync(path, await sale.Owner.GetByteArrayAsync($"/api/orders/{order}/invoices/118"));
        var words = Spaces().Replace(await Poppler.WordsAsync(path), " ");
        Assert.Contains("Total EUR 51.00 Without tax 46.97 20 % VAT on 10.00 2.00 5.5 % VAT on 36.97 2.03", words, StringComparison.Ordinal);
        var rows = (await sale.Owner.GetStringAsync("/api/invoices/table.csv")).Split("\r\n");
        Assert.Contains("FR,10.00,20,2.00,12.00,EUR", rows[1], StringComparison.Ordinal);
        Assert.Contains("FR,36.97,5.5,2.03,39.00,EUR", rows[2], StringComparison.Ordinal);
        Assert.Contains(",20 + 5.5,4.03,in it,51.00,", await sale.Owner.GetStringAsync("/api/orders/table.csv"), StringComparison.Ordinal);
        await sale.Site.VerifyAsync();
    }

    [Fact]
    public async Task Who_buys_files_alone_is_asked_where_they_are_only_where_it_matters()
    {
        await using var sale = await SaleAsync(Shop());
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.File);
        var page = await CheckOutAsync(visitor);
        var nowhere = await OrderAsync(visitor, page, way: "Files", country: "XX");
        Assert.Contains("Say in which country.", await nowhere.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(visitor, page, way: "Files", country: "FR")).StatusCode);
        // Nothing of the address is kept but the country.
        Assert.Equal("FR||", await sale.Site.ScalarAsync<string>("select concat(content -> 'buyer' ->> 'country', '|', content -> 'buyer' ->> 'street', '|', content -> 'buyer' ->> 'town') from sale_order"));
        Assert.Equal(200, await sale.Site.ScalarAsync<long>("select taxed from sale_order"));

        (await ShopAsync(sale.Owner, BuyingSteps.Shop(tax: "included", percent: "23"))).EnsureSuccessStatusCode();
        await AddAsync(visitor, sale, sale.Photos[0], sale.File);
        Assert.DoesNotContain("name=\"country\"", await visitor.GetStringAsync("/basket/check-out"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Nobody_orders_for_a_country_of_which_they_have_not_seen_the_sum_nor_at_a_rate_that_has_changed_since()
    {
        await using var sale = await SaleAsync(Shop("added"));
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        var page = await CheckOutAsync(visitor);
        // Where no script looks when a country is chosen: 39.00 and 5.5 % of it.
        var elsewhere = await OrderAsync(visitor, page, country: "FR", at: "IE");
        var said = Plain(await elsewhere.Content.ReadAsStringAsync());
        Assert.Equal((HttpStatusCode.Conflict, true, true), (elsewhere.StatusCode, said.Contains("This is what your order comes to in France.", StringComparison.Ordinal), said.Contains("5.5 % VAT 2.15 To pay EUR 41.15", StringComparison.Ordinal)));
        (await ShopAsync(sale.Owner, Shop("added", french: "21"))).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Conflict, (await OrderAsync(visitor, page, country: "FR")).StatusCode);
        Assert.Empty(await OrdersAsync(sale.Owner));
        Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(visitor, await CheckOutAsync(visitor), country: "FR")).StatusCode);
        Assert.Equal("EUR 41.15", Assert.Single(await OrdersAsync(sale.Owner)).GetProperty("total").GetString());
    }

    [Fact]
    public async Task The_shop_says_what_is_wrong_with_a_rate_and_which_options_are_reduced_by_none()
    {
        await using var sale = await SaleAsync(Shop());
        async Task<int> ReducedAsync() => (await (await sale.Owner.GetAsync("/api/shop")).ReadAsync()).GetProperty("reduced").GetInt32();
        Assert.Equal(0, await ReducedAsync());
        (await ShopAsync(sale.Owner, BuyingSteps.Shop(tax: "included", percent: "23"))).EnsureSuccessStatusCode();
        Assert.Equal(1, await ReducedAsync());
        var wrong = await ShopAsync(sale.Owner, Shop(french: "much"));
        Assert.Equal((HttpStatusCode.BadRequest, true), (wrong.StatusCode, (await wrong.Content.ReadAsStringAsync()).Contains("places0", StringComparison.Ordinal)));
        Assert.Equal(HttpStatusCode.BadRequest, (await ShopAsync(sale.Owner, Shop(french: null!))).StatusCode);
        // The history tells of it.
        (await ShopAsync(sale.Owner, Shop())).EnsureSuccessStatusCode();
        (await ShopAsync(sale.Owner, Shop("added"))).EnsureSuccessStatusCode();
        Assert.Equal(1, await sale.Site.ScalarAsync<long>("select count(*) from act where sentence = 'Said which tax goes with orders: without VAT.'"));
    }
}
