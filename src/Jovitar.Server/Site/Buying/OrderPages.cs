using Jovitar.Core.Corrections;
using Jovitar.Core.People;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Site.Drawing;
using Jovitar.Server.Site.Entering;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Site.Buying;

/// <summary>What the link of an order opens: this order and nothing else, and its files once they are paid.</summary>
internal static class OrderPages
{
    /// <summary>For so long after it was placed whoever opens it is thanked.</summary>
    static readonly TimeSpan New = TimeSpan.FromMinutes(10);

    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapOrderPages(this IEndpointRouteBuilder site)
    {
        site.MapGet($"{OrderStore.Path}/{{secret}}", Show);
        site.MapGet($"{OrderStore.Path}/{{secret}}/files/{{line:int}}", Fetch);
    }

    static async Task<KeptOrder?> FindAsync(string secret, OrderStore orders, CancellationToken ct) => LinkSecret.Hash(secret) is { } hash ? await orders.FindAsync(hash, ct) : null;

    static async Task Show(string secret, HttpContext http, OrderStore orders, ShownPhotos shown, SiteDoor door, MailSettings mail, TimeProvider clock, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await FindAsync(secret, orders, ct) is not { } order)
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
            return;
        }

        var now = clock.GetUtcNow();
        var photos = (await shown.OfAsync([.. order.Placed.Lines.Select(l => l.Photo).Distinct()], await door.SightAsync(http, ct), ct)).ToDictionary(p => p.Id);
        var lines = order.Placed.Lines.Select((line, i) =>
        {
            var photo = photos.GetValueOrDefault(line.Photo);
            var fit = photo is null ? null : line.Option.FitOf(new PixelSize(photo.Width, photo.Height), line.Middle ?? photo.Focus);
            if (line.Option.Kind != OptionKind.Digital)
            {
                return new OrderLineSeen(line, photo, fit, null, "");
            }

            var terms = TermsOf(order, i);
            return Refusal(terms, now) is { } refusal ? new OrderLineSeen(line, photo, fit, null, refusal) : new OrderLineSeen(line, photo, fit, $"{OrderStore.Path}/{secret}/files/{i + 1}", Left(terms));
        });
        await SiteEndpoints.SendAsync(http, await door.Renderer.OrderPageAsync(new ToSeeOrder(order.Number, order.At, order.Placed, order.Standing, [.. lines], now - order.At < New, mail.IsSet), ct), ct);
    }

    /// <param name="i">Of the line, from 0.</param>
    static FileTerms TermsOf(KeptOrder order, int i) => new(order.Placed.Lines[i].Option, order.Standing.State, order.Paid, order.Fetched[i]);

    /// <summary>Why a file is not handed out; null where it is.</summary>
    static string? Refusal(FileTerms terms, DateTimeOffset now) => terms.At(now) switch
    {
        NotFetched.Cancelled => "The order was cancelled.",
        NotFetched.NotPaid => "To be fetched here as soon as it is paid.",
        NotFetched.TooLate => $"It was there for {terms.Option.Days} days, until {Day(terms.Until)}.",
        NotFetched.TooOften => terms.Fetched == 1 ? "It was fetched." : $"It was fetched {terms.Fetched} times.",
        _ => null,
    };

    static string Left(FileTerms terms) =>
        string.Join(", ", new[] { terms.Left is { } left ? (left == 1 ? "once more" : $"{left} times more") : "", terms.Until is null ? "" : $"until {Day(terms.Until)}" }.Where(w => w.Length > 0));

    static string Day(DateTimeOffset? at) => at is { } then ? SiteDates.Whole(DateOnly.FromDateTime(then.UtcDateTime)) : "";

    static async Task<Results<FileStreamHttpResult, NotFound<Problem>, JsonHttpResult<Problem>>> Fetch(string secret, int line, HttpContext http, OrderStore orders, SavingDoor saving, TimeProvider clock, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await FindAsync(secret, orders, ct) is not { } order || order.Placed.Lines.ElementAtOrDefault(line - 1) is not { Option: { Kind: OptionKind.Digital } option } sold)
        {
            return Problems.Gone("file");
        }

        if (Refusal(TermsOf(order, line - 1), clock.GetUtcNow()) is { } refusal)
        {
            return Problems.Json(StatusCodes.Status403Forbidden, "forbidden", refusal);
        }

        if (saving.IsBusy)
        {
            http.Response.Headers.RetryAfter = "10";
            return Problems.Json(StatusCodes.Status503ServiceUnavailable, "busy", "Many are saving photos just now. Try again in a moment.");
        }

        if (await saving.SoldAsync(sold.Photo, option.LongestEdge, ct) is not var (name, bytes))
        {
            return Problems.Gone("file");
        }

        // Counted once it is there: what could not be made was not fetched.
        if (!Heads.IsHead(http) && !await orders.FetchAsync(order.Id, line, option.Downloads, ct))
        {
            await bytes.DisposeAsync();
            return Problems.Json(StatusCodes.Status403Forbidden, "forbidden", "It was fetched as often as it may be.");
        }

        return TypedResults.Stream(bytes, "application/octet-stream", name);
    }
}
