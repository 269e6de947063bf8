using System.Globalization;
using System.Net;
using System.Security.Cryptography;
using System.Text;
using System.Web;
using Jovitar.Core;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Payments;
using Jovitar.Server.Sales.Payments;
using Microsoft.AspNetCore.Http;
using Stripe;

namespace Jovitar.Server.Tests;

/// <summary>The card service's own client, against answers in the shapes that its published API description has (objects checkout.session, charge, refund, event).</summary>
public sealed class CardPaymentTests
{
    const string Secret = "whsec_trial";

    static readonly PaymentId Id = new(Guid.Parse("019a0000-0000-7000-8000-000000000001"));

    static Money Eur(long cents) => new(cents, Currency.Find("EUR")!);

    /// <summary>Answers as the service would, and keeps what it was asked.</summary>
    sealed class Answers(params (HttpStatusCode Status, string Body)[] answers) : HttpMessageHandler
    {
        int next;

        public List<(string What, System.Collections.Specialized.NameValueCollection Form, string? Once, string? Key)> Asked { get; } = [];

        protected override async Task<HttpResponseMessage> SendAsync(HttpRequestMessage request, CancellationToken cancellationToken)
        {
            var form = HttpUtility.ParseQueryString(request.Content is null ? request.RequestUri!.Query : await request.Content.ReadAsStringAsync(cancellationToken));
            Asked.Add(($"{request.Method} {request.RequestUri!.AbsolutePath}", form, request.Headers.TryGetValues("Idempotency-Key", out var once) ? once.Single() : null, request.Headers.Authorization?.ToString()));
            var (status, body) = answers[Math.Min(next++, answers.Length - 1)];
            return new HttpResponseMessage(status) { Content = new StringContent(body, Encoding.UTF8, "application/json") };
        }
    }

    static CardPayments Cards(HttpMessageHandler answers) =>
        new(new StripeClient("sk_trial", httpClient: new SystemNetHttpClient(new HttpClient(answers), maxNetworkRetries: 0)), new PaymentService(null, "sk_trial", Secret));

    static string Session(string status = "open", string paid = "unpaid", string more = "") =>
        $$"""
        {"id":"cs_1","object":"checkout.session","url":"https://pay.example.test/cs_1","status":"{{status}}","payment_status":"{{paid}}","amount_total":3900,"currency":"eur",
         "client_reference_id":"{{Id}}","metadata":{"payment":"{{Id}}"},"mode":"payment"{{more}}}
        """;

    [Fact]
    public async Task A_payment_is_opened_with_its_amount_and_by_its_own_name_once()
    {
        using var answers = new Answers((HttpStatusCode.OK, Session()));
        var place = await Cards(answers).OpenAsync(new PaymentAsked(Id, Eur(3900), "Order 1001 from Trial", "nell@example.test", "https://site.test/order/x?paid=look", "unused"), CancellationToken.None);
        Assert.Equal(new PaymentPlace("cs_1", "https://pay.example.test/cs_1"), place);
        var (what, form, once, key) = Assert.Single(answers.Asked);
        Assert.Equal(("POST /v1/checkout/sessions", Id.ToString(), "Bearer sk_trial"), (what, once, key));
        foreach (var (field, value) in new[]
        {
            ("mode", "payment"), ("line_items[0][price_data][currency]", "eur"), ("line_items[0][price_data][unit_amount]", "3900"), ("line_items[0][quantity]", "1"), ("line_items[0][price_data][product_data][name]", "Order 1001 from Trial"),
            ("customer_email", "nell@example.test"), ("success_url", "https://site.test/order/x?paid=look"), ("cancel_url", "https://site.test/order/x?paid=look"), ("metadata[payment]", Id.ToString()), ("payment_intent_data[metadata][payment]", Id.ToString()),
        })
        {
            Assert.Equal(value, form[field]);
        }
    }

    [Fact]
    public async Task What_has_become_of_one_is_asked_for()
    {
        async Task<IReadOnlyList<PaymentNotice>> Ask(string session) => await Cards(new Answers((HttpStatusCode.OK, session))).AskAsync(Id, "cs_1", CancellationToken.None);
        Assert.Empty(await Ask(Session()));
        // Confirmed, but the money is days away.
        Assert.Empty(await Ask(Session("complete")));
        Assert.Equal([new PaymentNotice(Id, PaymentNews.Paid, Eur(3900))], await Ask(Session("complete", "paid")));
        Assert.Equal([new PaymentNotice(Id, PaymentNews.Ended, null)], await Ask(Session("expired")));
        const string Charged = ",\"payment_intent\":{\"id\":\"pi_1\",\"object\":\"payment_intent\",\"latest_charge\":{\"id\":\"ch_1\",\"object\":\"charge\",\"amount_refunded\":1200,\"currency\":\"eur\"}}";
        Assert.Equal([new PaymentNotice(Id, PaymentNews.Paid, Eur(3900)), new PaymentNotice(Id, PaymentNews.Refunded, Eur(1200))], await Ask(Session("complete", "paid", Charged)));
    }

    [Fact]
    public async Task Money_goes_back_by_its_own_name_once()
    {
        using var answers = new Answers((HttpStatusCode.OK, Session("complete", "paid", ",\"payment_intent\":\"pi_1\"")), (HttpStatusCode.OK, "{\"id\":\"re_1\",\"object\":\"refund\",\"amount\":1200,\"currency\":\"eur\",\"status\":\"succeeded\"}"));
        var refund = new RefundId(Guid.CreateVersion7());
        await Cards(answers).RefundAsync(refund, Id, "cs_1", Eur(1200), CancellationToken.None);
        var (what, form, once, _) = answers.Asked[1];
        Assert.Equal(("POST /v1/refunds", refund.ToString(), "pi_1", "1200"), (what, once, form["payment_intent"], form["amount"]));
    }

    [Fact]
    public async Task What_is_refused_is_told_from_what_is_away()
    {
        const string Card = "{\"error\":{\"type\":\"invalid_request_error\",\"message\":\"No such session\"}}";
        async Task Ask(HttpStatusCode status, string body) => await Cards(new Answers((status, body))).AskAsync(Id, "cs_1", CancellationToken.None);
        Assert.Contains("No such session", (await Assert.ThrowsAsync<PaymentsRefuseException>(() => Ask(HttpStatusCode.NotFound, Card))).Message, StringComparison.Ordinal);
        foreach (var (status, body) in new[] { (HttpStatusCode.TooManyRequests, Card), (HttpStatusCode.Unauthorized, Card), (HttpStatusCode.Forbidden, Card), (HttpStatusCode.Conflict, Card), (HttpStatusCode.InternalServerError, Card), (HttpStatusCode.BadGateway, "<html>"), (HttpStatusCode.OK, "garbage") })
        {
            await Assert.ThrowsAsync<PaymentsAwayException>(() => Ask(status, body));
        }
    }

    static ReadNotice Read(string body, string secret = Secret, int ago = 0)
    {
        var now = DateTimeOffset.UtcNow;
        var seconds = now.ToUnixTimeSeconds() - ago;
        // As the service's published description of signatures has it: HMAC-SHA256 over the time, a point and the body.
        var signature = Convert.ToHexStringLower(HMACSHA256.HashData(Encoding.UTF8.GetBytes(secret), Encoding.UTF8.GetBytes(string.Create(CultureInfo.InvariantCulture, $"{seconds}.{body}"))));
        return Cards(new Answers()).Read(body, new HeaderDictionary { ["Stripe-Signature"] = $"t={seconds},v1={signature}" }, now);
    }

    static string Event(string type, string what) => $$$"""{"id":"evt_1","object":"event","api_version":"2020-08-27","created":1764504000,"type":"{{{type}}}","data":{"object":{{{what}}}}}""";

    [Fact]
    public void Its_notices_are_read_and_nobody_elses()
    {
        var paid = Event("checkout.session.completed", Session("complete", "paid"));
        Assert.Equal([new PaymentNotice(Id, PaymentNews.Paid, Eur(3900))], Read(paid).Notices);
        Assert.Empty(Read(Event("checkout.session.completed", Session("complete"))).Notices);
        Assert.Equal([new PaymentNotice(Id, PaymentNews.Paid, Eur(3900))], Read(Event("checkout.session.async_payment_succeeded", Session("complete", "paid"))).Notices);
        Assert.Equal([new PaymentNotice(Id, PaymentNews.Ended, null)], Read(Event("checkout.session.async_payment_failed", Session("complete"))).Notices);
        Assert.Equal([new PaymentNotice(Id, PaymentNews.Ended, null)], Read(Event("checkout.session.expired", Session("expired"))).Notices);
        Assert.Equal([new PaymentNotice(Id, PaymentNews.Refunded, Eur(1200))], Read(Event("charge.refunded", $$$"""{"id":"ch_1","object":"charge","amount_refunded":1200,"currency":"eur","metadata":{"payment":"{{{Id}}}"}}""")).Notices);
        // Of others who have the same account there, and of what is nothing of ours.
        Assert.Empty(Read(Event("checkout.session.completed", "{\"id\":\"cs_2\",\"object\":\"checkout.session\",\"payment_status\":\"paid\",\"amount_total\":1,\"currency\":\"eur\"}")).Notices);
        Assert.Empty(Read(Event("customer.created", "{\"id\":\"cus_1\",\"object\":\"customer\"}")).Notices);
        Assert.Equal(Signature.Good, Read(paid).Signature);
        Assert.Equal(Signature.Forged, Read(paid, "whsec_other").Signature);
        Assert.Equal(Signature.Forged, Read(paid, ago: 301).Signature);
        Assert.Equal(Signature.Forged, Cards(new Answers()).Read(paid, new HeaderDictionary(), DateTimeOffset.UtcNow).Signature);
        foreach (var senseless in new[] { "garbage", "", "null", "5", "[]", "{}", Event("checkout.session.completed", "null"), Event("checkout.session.completed", "5") })
        {
            Assert.Empty(Read(senseless).Notices);
        }
    }

    /// <summary>As the service's published list of currencies has it.</summary>
    [Theory]
    [InlineData("EUR", 3900, 3900)]
    [InlineData("JPY", 3900, 3900)]
    [InlineData("ISK", 3900, 390_000)]
    [InlineData("UGX", 3900, 390_000)]
    [InlineData("MGA", 3900, 39)]
    [InlineData("KWD", 3900, 3900)]
    [InlineData("MGA", 3901, null)]
    [InlineData("KWD", 3901, null)]
    public void Amounts_are_counted_as_the_service_counts_them(string code, long minor, int? units)
    {
        var money = new Money(minor, Currency.Find(code)!);
        if (units is not { } expected)
        {
            Assert.Throws<PaymentsRefuseException>(() => CardUnits.Of(money));
            return;
        }

        Assert.Equal((expected, money), (CardUnits.Of(money), CardUnits.Read(expected, code.ToLowerInvariant())));
    }

    [Theory]
    [InlineData("", "k", "s", null)]
    [InlineData("stripe", "k", "s", "")]
    [InlineData("Stripe ", "k", "s", "")]
    [InlineData("http://127.0.0.1:5091", "k", "s", "http://127.0.0.1:5091/")]
    public void A_service_is_named_in_the_settings(string service, string key, string secret, string? address) =>
        Assert.Equal(address, PaymentSettings.From(service, key, secret, TimeSpan.Zero).Service is { } found ? found.Address?.ToString() ?? "" : null);

    [Theory]
    [InlineData("stripe", "", "s")]
    [InlineData("stripe", "k", " ")]
    [InlineData("cards", "k", "s")]
    [InlineData("ftp://pay.test", "k", "s")]
    public void What_is_half_set_up_is_said_at_the_start(string service, string key, string secret) => Assert.Throws<InvalidOperationException>(() => PaymentSettings.From(service, key, secret, TimeSpan.Zero));
}
