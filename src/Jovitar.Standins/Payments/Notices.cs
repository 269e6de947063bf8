using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace Jovitar.Standins.Payments;

/// <summary>Tells the site what has become of payments, again and again until it has heard.</summary>
internal sealed class Notices(Till till, HttpClient http)
{
    /// <summary>Pauses between one try and the next.</summary>
    static readonly TimeSpan[] Pauses = [TimeSpan.Zero, TimeSpan.FromMilliseconds(300), TimeSpan.FromSeconds(1), TimeSpan.FromSeconds(5), TimeSpan.FromSeconds(30), TimeSpan.FromMinutes(3)];

    /// <summary>How often the same is told in a storm.</summary>
    const int Storm = 20;

    /// <summary>Tells as the mood is.</summary>
    public void Tell(Payment payment, Told told)
    {
        _ = till.Mood switch
        {
            Mood.Silent => Task.CompletedTask,
            Mood.Late => AfterAsync(till.Delay, payment, told),
            Mood.Storm => Task.WhenAll(Enumerable.Range(0, Storm).Select(i => SendAsync(payment, i % 4 == 3 ? told with { State = "ended", Paid = null } : told))),
            _ => SendAsync(payment, told),
        };
    }

    async Task AfterAsync(TimeSpan delay, Payment payment, Told told)
    {
        await Task.Delay(delay);
        await SendAsync(payment, told);
    }

    async Task SendAsync(Payment payment, Told told)
    {
        var body = JsonSerializer.Serialize(told, JsonSerializerOptions.Web);
        foreach (var pause in Pauses)
        {
            await Task.Delay(pause);
            var seconds = DateTimeOffset.UtcNow.ToUnixTimeSeconds().ToString(CultureInfo.InvariantCulture);
            using var request = new HttpRequestMessage(HttpMethod.Post, payment.Asked.Notices) { Content = new StringContent(body, Encoding.UTF8, "application/json") };
            request.Headers.Add("Notice-Time", seconds);
            request.Headers.Add("Notice-Signature", Convert.ToHexStringLower(HMACSHA256.HashData(Encoding.UTF8.GetBytes(till.Secret), Encoding.UTF8.GetBytes($"{seconds}.{body}"))));
            try
            {
                using var answer = await http.SendAsync(request);
                if (answer.IsSuccessStatusCode)
                {
                    return;
                }
            }
            catch (Exception e) when (e is HttpRequestException or TaskCanceledException)
            {
                // The site is away; it is told again.
            }
        }
    }
}
