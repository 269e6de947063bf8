using System.Net.Http.Headers;
using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Payments;

namespace Jovitar.Server.Sales.Payments;

/// <summary>The simulated payment service that ships with the site, for the demo, for trials and for the tests.</summary>
internal sealed class SimulatedPayments(HttpClient http, PaymentService service) : IPayments
{
    sealed record Told(Guid Key, string? State, string? Paid, string? Returned, string? Currency, string? Id, string? Page);

    public string Name => "simulated";

    public string Pages => service.Address!.GetLeftPart(UriPartial.Authority);

    public async Task<PaymentPlace> OpenAsync(PaymentAsked asked, CancellationToken ct)
    {
        var told = await SendAsync(
            HttpMethod.Post, "payments", new { key = asked.Id.Value, amount = asked.Amount.ToString(), currency = asked.Amount.Currency.Code, title = asked.Title, back = asked.Back, notices = asked.Notices }, ct);
        return told is { Id: { } reference, Page: { } page } ? new PaymentPlace(reference, page) : throw new PaymentsAwayException("The payment service named no page to pay at.");
    }

    public async Task<IReadOnlyList<PaymentNotice>> AskAsync(PaymentId payment, string reference, CancellationToken ct) =>
        [.. Notices(await SendAsync(HttpMethod.Get, $"payments/{payment}", null, ct)).Where(n => n.Payment == payment)];

    public Task RefundAsync(RefundId refund, PaymentId payment, string reference, Money amount, CancellationToken ct) =>
        SendAsync(HttpMethod.Post, $"payments/{payment}/refunds", new { key = refund.Value, amount = amount.ToString() }, ct);

    public ReadNotice Read(string body, IHeaderDictionary headers, DateTimeOffset now)
    {
        var signature = NoticeSignature.Check(service.Secret, headers["Notice-Time"].ToString(), headers["Notice-Signature"].ToString(), body, now);
        return signature != Signature.Good ? ReadNotice.Refused(signature) : new ReadNotice(signature, [.. Notices(Parse(body))]);
    }

    static Told? Parse(string body)
    {
        try
        {
            return JsonSerializer.Deserialize<Told>(body, JsonSerializerOptions.Web);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    static IEnumerable<PaymentNotice> Notices(Told? told)
    {
        if (told?.Currency is null || Currency.Find(told.Currency) is not { } currency)
        {
            yield break;
        }

        var payment = new PaymentId(told.Key);
        if (told.State == "ended")
        {
            yield return new PaymentNotice(payment, PaymentNews.Ended, null);
        }

        if (told.Paid is not null && Money.Read(told.Paid, currency, long.MaxValue) is { Minor: > 0 } paid)
        {
            yield return new PaymentNotice(payment, PaymentNews.Paid, paid);
        }

        if (told.Returned is not null && Money.Read(told.Returned, currency, long.MaxValue) is { Minor: > 0 } returned)
        {
            yield return new PaymentNotice(payment, PaymentNews.Refunded, returned);
        }
    }

    async Task<Told?> SendAsync(HttpMethod method, string path, object? body, CancellationToken ct)
    {
        try
        {
            using var request = new HttpRequestMessage(method, new Uri(service.Address!, path)) { Content = body is null ? null : JsonContent.Create(body) };
            request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", service.Key);
            using var answer = await http.SendAsync(request, ct);
            if (PaymentsRefuseException.Is(answer.StatusCode))
            {
                throw new PaymentsRefuseException($"The payment service refuses that ({(int)answer.StatusCode}).");
            }

            answer.EnsureSuccessStatusCode();
            return await answer.Content.ReadFromJsonAsync<Told>(JsonSerializerOptions.Web, ct);
        }
        catch (Exception e) when (e is HttpRequestException or JsonException || (e is OperationCanceledException && !ct.IsCancellationRequested))
        {
            throw new PaymentsAwayException("The payment service does not answer.", e);
        }
    }
}
