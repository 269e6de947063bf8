using Jovitar.Core.Corrections;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Platform.Mailing;
using Jovitar.Server.Sales.Invoicing;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Site.Drawing;

namespace Jovitar.Server.Site.Buying;

/// <summary>Shows an order to its buyer.</summary>
internal sealed class OrderShowing(ShownPhotos shown, PayingDoor paying, InvoiceStore invoices, SiteDoor door, MailSettings mail, TimeProvider clock)
{
    /// <summary>For so long after it was placed whoever opens it is thanked.</summary>
    static readonly TimeSpan New = TimeSpan.FromMinutes(10);

    /// <param name="isBeingPaid">Its buyer has come back from paying, and nothing was heard of it yet.</param>
    /// <param name="fault">Why it could not be paid just now; null for no such thing.</param>
    public async Task SendAsync(HttpContext http, string secret, KeptOrder order, bool isBeingPaid, string? fault, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        var photos = (await shown.OfAsync([.. order.Placed.Lines.Select(l => l.Photo).Distinct()], await door.SightAsync(http, ct), ct)).ToDictionary(p => p.Id);
        var lines = order.Placed.Lines.Select((line, i) =>
        {
            var photo = photos.GetValueOrDefault(line.Photo);
            var fit = photo is null ? null : line.FitOn(new PixelSize(photo.Width, photo.Height), photo.Focus);
            if (!line.Option.IsFile)
            {
                return new OrderLineSeen(line, photo, fit, null, "");
            }

            var terms = TermsOf(order, i);
            return Refusal(terms, now) is { } refusal ? new OrderLineSeen(line, photo, fit, null, refusal) : new OrderLineSeen(line, photo, fit, $"{OrderStore.Path}/{secret}/files/{i + 1}", Left(terms));
        });
        var page = new ToSeeOrder(
            order.Number, order.At, order.Placed, order.Standing, [.. lines], await paying.IsOfferedAsync(order, ct) ? $"{OrderStore.Path}/{secret}/pay" : null, isBeingPaid, fault,
            order.Returned > 0 ? order.Placed.Total with { Minor = order.Returned } : null,
            [.. (await invoices.OfAsync(order.Id, ct)).Select(i => new OrderPaper($"{Invoice.TitleOf(i.Kind)} {i.Called}", $"{OrderStore.Path}/{secret}/invoices/{i.Number}"))], now - order.At < New, mail.IsSet);
        await SiteEndpoints.SendAsync(http, paying.LetFormsLead(await door.Renderer.OrderPageAsync(page, ct), leads: page.Pay is not null), ct);
    }

    /// <param name="i">Of the line, from 0.</param>
    public static FileTerms TermsOf(KeptOrder order, int i) => new(order.Placed.Lines[i].Option, order.Standing.State, order.Paid, order.Fetched[i]);

    /// <summary>Why a file is not handed out; null where it is.</summary>
    public static string? Refusal(FileTerms terms, DateTimeOffset now) => terms.At(now) switch
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
}
