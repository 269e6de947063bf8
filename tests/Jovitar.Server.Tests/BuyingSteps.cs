using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using static Jovitar.Server.Tests.AudienceSteps;

namespace Jovitar.Server.Tests;

/// <summary>An album that is sold: prints of 10 by 15 cm for 4.00, 3.40 from 5 on, and files of 600 pixels for 5.00, twice within 30 days.</summary>
internal sealed record Sale(Site Site, HttpClient Owner, string Album, string[] Photos, string List, string Print, string File) : IAsyncDisposable
{
    public ValueTask DisposeAsync() => Site.DisposeAsync();
}

/// <summary>Steps of tests in which visitors buy.</summary>
internal static partial class BuyingSteps
{
    public static object Postage(string atHome = "4.50", string collected = "", string abroad = "no", string abroadCosts = "", string freeFrom = "") => new
    {
        home = "IE",
        atHome,
        express = "",
        freeFrom,
        freeIsOver = false,
        freeByExpress = false,
        freeAbroad = false,
        abroad,
        abroadCosts,
        collected,
    };

    public static object Shop(bool isOpen = true, string currency = "EUR", object? postage = null, string payment = "Pay into the account.", string tax = "none", string percent = "", bool isPaidOnline = false) =>
        new { isOpen, currency, postage = postage ?? Postage(), tax = new { kind = tax, percent, name = "VAT" }, payment, isPaidOnline };

    public static async Task<HttpResponseMessage> ShopAsync(HttpClient owner, object shop) =>
        await owner.SendAsync(HttpMethod.Put, "/api/shop", shop, (await (await owner.GetAsync("/api/shop")).ReadAsync()).GetProperty("edited").GetInt64());

    /// <summary>Writes the prices of a sale.</summary>
    public static async Task PriceAsync(Sale sale, string print, string file = "5.00") => await PriceAsync(sale.Owner, sale.List, sale.Print, sale.File, print, file);

    static async Task PriceAsync(HttpClient owner, string list, string print, string file, string printPrice, string filePrice)
    {
        var version = (await (await owner.GetAsync($"/api/prices/{list}")).ReadAsync()).GetProperty("version").GetInt64();
        var options = new object[]
        {
            new { id = print, kind = "print", size = "10x15 cm", price = printPrice, breaks = new[] { new { from = 5, each = "3.40" } } }, new { id = file, kind = "digital", longestEdge = 600, price = filePrice, downloads = 2, days = 30 },
        };
        await (await owner.SendAsync(HttpMethod.Put, $"/api/prices/{list}", new { name = "Prints", currency = "EUR", limits = new { good = 300, fair = 200, least = 120 }, sellsSmall = false, options }, version)).ReadAsync();
    }

    /// <summary>An album called Night at /album/night, which is sold, in a shop that is open.</summary>
    public static async Task<Sale> SaleAsync(int photos = 2, object? shop = null, int? mail = null)
    {
        var (site, owner, _, p, album, _) = await NightAsync(photos, scale: 10, mail);
        var list = (await (await owner.PostAsJsonAsync("/api/prices", new { name = "Prints", currency = "EUR" })).ReadAsync()).GetProperty("seen").GetProperty("id").GetString()!;
        var (print, file) = (Guid.NewGuid().ToString(), Guid.NewGuid().ToString());
        await PriceAsync(owner, list, print, file, "4.00", "5.00");
        (await owner.PutAsJsonAsync($"/api/albums/{album}/selling", new { selling = new { list, without = Array.Empty<string>() }, was = new { list = (string?)null, without = Array.Empty<string>() } })).EnsureSuccessStatusCode();
        (await ShopAsync(owner, shop ?? Shop())).EnsureSuccessStatusCode();
        return new Sale(site, owner, album, p, list, print, file);
    }

    /// <summary>A coupon, as it is written: 10 % for everybody.</summary>
    public static object Coupon(string code = "CLUB10", string kind = "percent", string off = "10", string from = "", string ends = "", string uses = "", bool isOnceEach = false, bool goesWithOthers = false, bool isOff = false) =>
        new { code, kind, off, currency = "EUR", byExpress = false, abroad = false, from, begins = "", ends, uses, isOnceEach, goesWithOthers, isOff, note = "" };

    /// <summary>Makes a coupon.</summary>
    public static async Task<JsonElement> CouponAsync(HttpClient staff, object coupon) => (await (await staff.PostAsJsonAsync("/api/coupons", coupon)).ReadAsync()).GetProperty("seen");

    public static Task<HttpResponseMessage> FormAsync(HttpClient visitor, string address, params (string Name, string Value)[] fields) =>
        visitor.PostAsync(address, new FormUrlEncodedContent(fields.Select(f => KeyValuePair.Create(f.Name, f.Value))));

    /// <summary>Puts something into a basket.</summary>
    public static Task<HttpResponseMessage> AddAsync(HttpClient visitor, Sale sale, string photo, string option, string count = "1", string at = "") =>
        FormAsync(visitor, "/basket", ("album", sale.Album), ("photo", photo), ("option", option), ("count", count), ("at", at));

    /// <summary>Puts so many other things into the one basket, which has one line: options that there are not, so that they are not sold any more.</summary>
    public static Task FillAsync(Sale sale, int lines) => sale.Site.WriteAsync(
        $"""
        insert into basket_line (id, basket, album, photo, option, count, added)
        select gen_random_uuid(), l.basket, l.album, l.photo, gen_random_uuid(), 1, now()
          from basket_line as l, generate_series(1, {lines})
        """);

    /// <summary>The lines of the basket that a page shows, by their ids.</summary>
    public static async Task<string[]> LinesAsync(HttpClient visitor) => [.. CountField().Matches(await visitor.GetStringAsync("/basket")).Select(m => m.Groups[1].Value)];

    [GeneratedRegex("name=\"count-([0-9a-f-]+)\"")]
    private static partial Regex CountField();

    /// <summary>What a check-out page sends besides what is typed.</summary>
    public static async Task<(string Order, string Seen)> CheckOutAsync(HttpClient visitor)
    {
        var html = await visitor.GetStringAsync("/basket/check-out");
        return (HiddenField("order").Match(html).Groups[1].Value, HiddenField("seen").Match(html).Groups[1].Value);

        static Regex HiddenField(string name) => new($"name=\"{name}\" value=\"([^\"]+)\"");
    }

    /// <summary>Sends a check-out page.</summary>
    /// <param name="at">The country that it said the sum for; the one that is chosen unless said.</param>
    public static Task<HttpResponseMessage> OrderAsync(HttpClient visitor, (string Order, string Seen) page, string way = "Post", string name = "Nell Garrow", string email = "nell@example.test", string town = "Hollin Quay", string country = "IE", string message = "", string act = "order", string pay = "", string? at = null) => FormAsync(
        visitor, "/basket/check-out", ("order", page.Order), ("seen", page.Seen), ("act", act), ("way", way), ("name", name), ("email", email), ("street", "7 Ropewalk"), ("further", ""), ("postcode", "X91"), ("town", town), ("region", ""), ("country", country), ("at", at ?? country),
        ("message", message), ("pay", pay));

    /// <summary>Buys something, whole.</summary>
    /// <returns>Where the order is opened.</returns>
    public static async Task<string> BuyAsync(HttpClient visitor, Sale sale, string option, string way = "Post")
    {
        Assert.Equal(HttpStatusCode.SeeOther, (await AddAsync(visitor, sale, sale.Photos[0], option)).StatusCode);
        var answer = await OrderAsync(visitor, await CheckOutAsync(visitor), way);
        Assert.Equal(HttpStatusCode.SeeOther, answer.StatusCode);
        return answer.Headers.Location!.ToString();
    }

    public static async Task<JsonElement[]> OrdersAsync(HttpClient staff, string which = "all") => [.. (await (await staff.GetAsync($"/api/orders?which={which}")).ReadAsync()).GetProperty("orders").EnumerateArray()];

    /// <summary>Takes an order a step further.</summary>
    public static async Task<HttpResponseMessage> StepAsync(HttpClient staff, string order, string step, long? version = null) => await staff.SendAsync(
        HttpMethod.Post, $"/api/orders/{order}/steps", new { step }, version ?? (await (await staff.GetAsync($"/api/orders/{order}")).ReadAsync()).GetProperty("version").GetInt64());
}
