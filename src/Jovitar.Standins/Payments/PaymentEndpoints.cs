using System.Globalization;
using System.Text.Encodings.Web;

namespace Jovitar.Standins.Payments;

/// <summary>Settings of the simulation; null leaves a setting as it is.</summary>
/// <param name="Seconds">How long a late notice is on its way.</param>
/// <param name="Key">What it wants to be told from now on.</param>
internal sealed record TillSettings(Mood? Mood, double? Seconds, bool? IsAway, string? Key);

/// <summary>A payment service: a page where its buyer pays or does not, and notices about it that are signed (HMAC, RFC 2104).</summary>
internal static class PaymentEndpoints
{
    public static void MapPayments(this IEndpointRouteBuilder app)
    {
        var payments = app.MapGroup("/payments").AddEndpointFilter(async (context, next) =>
        {
            var till = context.HttpContext.RequestServices.GetRequiredService<Till>();
            return till.IsAway ? Results.StatusCode(StatusCodes.Status503ServiceUnavailable)
                : context.HttpContext.Request.Headers.Authorization != $"Bearer {till.Key}" ? Results.Unauthorized()
                : await next(context);
        });
        payments.MapPost("", (Asked asked, HttpRequest request, Till till) => till.Open(asked).Told(Address(request)));
        payments.MapGet("/{key:guid}", (Guid key, HttpRequest request, Till till) => till.Find(key) is { } payment ? Results.Ok(payment.Told(Address(request))) : Results.NotFound());
        payments.MapPost("/{key:guid}/refunds", Refund);
        app.MapGet("/pay/{id}", (string id, Till till) => till.Find(id) is { } payment ? Page(payment, said: "") : Results.NotFound());
        app.MapPost("/pay/{id}", Pay).DisableAntiforgery();
        app.MapPut("/standin/payments", (TillSettings settings, Till till) =>
        {
            till.Mood = settings.Mood ?? till.Mood;
            till.Delay = settings.Seconds is { } seconds ? TimeSpan.FromSeconds(seconds) : till.Delay;
            till.IsAway = settings.IsAway ?? till.IsAway;
            till.Key = settings.Key ?? till.Key;
            return Results.NoContent();
        });
    }

    static string Address(HttpRequest request) => $"{request.Scheme}://{request.Host}";

    static IResult Refund(Guid key, RefundAsked asked, HttpRequest request, Till till, Notices notices)
    {
        if (till.Find(key) is not { } payment || !decimal.TryParse(asked.Amount, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var amount))
        {
            return Results.NotFound();
        }

        if (!payment.Refund(asked.Key, amount))
        {
            return Results.UnprocessableEntity();
        }

        var told = payment.Told(Address(request));
        notices.Tell(payment, told);
        return Results.Ok(told);
    }

    static async Task<IResult> Pay(string id, HttpRequest request, Till till, Notices notices)
    {
        if (till.Find(id) is not { } payment)
        {
            return Results.NotFound();
        }

        switch ((await request.ReadFormAsync())["act"].ToString())
        {
            case "pay":
                if (payment.Pay(wrongly: till.Mood == Mood.Wrong))
                {
                    notices.Tell(payment, payment.Told(Address(request)));
                }

                return Results.Redirect(payment.Asked.Back);
            case "decline":
                return Page(payment, "The card was declined. Take another one, or go back.");
            case "end":
                payment.End();
                notices.Tell(payment, payment.Told(Address(request)));
                return Results.Redirect(payment.Asked.Back);
            case "leave":
                return Page(payment, payment.Pay(wrongly: false) ? Left(payment, request, notices) : "");
            default:
                return Page(payment, "");
        }
    }

    static string Left(Payment payment, HttpRequest request, Notices notices)
    {
        notices.Tell(payment, payment.Told(Address(request)));
        return "It is paid, and you did not go back to the shop.";
    }

    static IResult Page(Payment payment, string said) => Results.Content(
        $$"""
        <!doctype html>
        <html lang="en">
        <meta charset="utf-8">
        <meta name="viewport" content="width=device-width">
        <title>Simulated payment</title>
        <style>
          body { margin: 0 auto; max-width: 30rem; padding: 3rem 1.25rem; font: 1rem/1.5 Georgia, serif; color: #26221c; background: #f6f2ea; }
          h1 { font-weight: 400; font-size: 2rem; margin: 0 0 .5rem; }
          form { margin-top: 1.5rem; padding: 1.5rem 1.75rem; background: #fffdf8; border: 1px solid #d9d0bf; display: grid; gap: .75rem; }
          button { font: inherit; padding: .6rem 1rem; border: 1px solid #8a7f6c; background: none; text-align: left; cursor: pointer; }
          button:first-of-type { background: #6d2144; border-color: #6d2144; color: #fff; }
          .said { font-weight: 700; }
          a { color: #6d2144; }
        </style>
        <h1>{{payment.Asked.Currency}} {{payment.Asked.Amount}}</h1>
        <p>{{HtmlEncoder.Default.Encode(payment.Asked.Title)}}. This service is simulated: no money moves, and no card is asked for.</p>
        <p class="said" role="status">{{said}}</p>
        {{(payment.Paid is null && !payment.IsEnded ? Buttons : $"<p><a href=\"{HtmlEncoder.Default.Encode(payment.Asked.Back)}\">Back to the order</a></p>")}}
        """,
        "text/html; charset=utf-8");

    const string Buttons =
        """
        <form method="post">
          <button name="act" value="pay">Pay, and go back</button>
          <button name="act" value="decline">A card that is declined</button>
          <button name="act" value="leave">Pay, and never go back</button>
          <button name="act" value="end">Do not pay</button>
        </form>
        """;
}
