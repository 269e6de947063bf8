using System.Globalization;
using System.Net;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using static Jovitar.Server.Tests.BuyingSteps;

namespace Jovitar.Server.Tests;

/// <summary>A sale whose buyers pay online, at the simulated service.</summary>
/// <param name="Visitor">Of the process that knows the service.</param>
/// <param name="Owner">Signed in there.</param>
internal sealed record PaidSale(Sale Sale, Standin Standin, HttpClient Visitor, HttpClient Owner) : IAsyncDisposable
{
    public Site Site => Sale.Site;

    public ValueTask DisposeAsync() => Sale.DisposeAsync();
}

/// <summary>Steps of tests in which buyers pay online.</summary>
internal static class PaymentSteps
{
    /// <param name="mood">silent has the service tell nothing, so that the test tells it.</param>
    public static async Task<PaidSale> PaidSaleAsync(Standin standin, string mood = "silent", bool mails = false, string payment = "Pay into the account.")
    {
        await standin.SetAsync("payments", new { mood, isAway = false });
        var sale = await SaleAsync(shop: Shop(isPaidOnline: true, payment: payment));
        sale.Site.Process(workers: 0, mail: mails ? standin.MailPort : null, payments: standin.Address);
        return new PaidSale(sale, standin, sale.Site.Visitor(), await sale.Site.OwnerAsync());
    }

    /// <summary>Orders a print for 4.00 and postage of 4.50, to be paid online.</summary>
    /// <returns>Where the order is opened, where it is paid, and what its payment is called.</returns>
    public static async Task<(string Order, string Page, Guid Payment)> OrderToPayAsync(PaidSale sale)
    {
        await AddAsync(sale.Visitor, sale.Sale, sale.Sale.Photos[0], sale.Sale.Print);
        var form = await CheckOutAsync(sale.Visitor);
        var answer = await OrderAsync(sale.Visitor, form, pay: "now");
        Assert.Equal(HttpStatusCode.SeeOther, answer.StatusCode);
        var page = answer.Headers.Location!.ToString();
        Assert.StartsWith($"{sale.Standin.Address}/pay/", page, StringComparison.Ordinal);
        return ($"/order/{form.Order}", page, await sale.Site.ScalarAsync<Guid>("select id from payment order by id desc limit 1"));
    }

    /// <summary>A notice as the service writes them, signed by code of the test's own.</summary>
    public static HttpRequestMessage Notice(object told, string secret = Standin.Secret, TimeSpan ago = default)
    {
        var body = JsonSerializer.Serialize(told);
        var seconds = DateTimeOffset.UtcNow.Subtract(ago).ToUnixTimeSeconds().ToString(CultureInfo.InvariantCulture);
        var request = new HttpRequestMessage(HttpMethod.Post, "/payments/notices") { Content = new StringContent(body, Encoding.UTF8, "application/json") };
        request.Headers.Add("Notice-Time", seconds);
        request.Headers.Add("Notice-Signature", Convert.ToHexStringLower(HMACSHA256.HashData(Encoding.UTF8.GetBytes(secret), Encoding.UTF8.GetBytes($"{seconds}.{body}"))));
        return request;
    }

    public static object Paid(Guid key, string paid = "8.50", string currency = "EUR", string? returned = null) => new { key, state = "paid", paid, returned, currency };

    public static async Task<HttpStatusCode> TellAsync(PaidSale sale, object told) => (await sale.Visitor.SendAsync(Notice(told))).StatusCode;

    /// <summary>The only order, as those who sell find it.</summary>
    public static async Task<JsonElement> SeenAsync(PaidSale sale) =>
        await (await sale.Owner.GetAsync($"/api/orders/{(await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString()}")).ReadAsync();

    public static string[] Money(JsonElement order) => [.. order.GetProperty("money").EnumerateArray().Select(m => m.GetString()!)];

    public static async Task<HttpResponseMessage> RefundAsync(HttpClient who, JsonElement order, string amount) => await who.SendAsync(
        HttpMethod.Post, $"/api/orders/{order.GetProperty("id").GetString()}/refunds", new { amount }, order.GetProperty("version").GetInt64());
}
