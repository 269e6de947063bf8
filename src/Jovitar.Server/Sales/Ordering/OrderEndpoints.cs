using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Corrections;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Printing;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Npgsql;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>A photo that was ordered, as it is now.</summary>
/// <param name="IsBinned">It lies in the bin.</param>
internal sealed record OrderedPhoto(PhotoId Id, string Picture, int Width, int Height, IReadOnlyList<int> Renditions, Spot? Focus, bool IsBinned)
{
    public static OrderedPhoto Read(NpgsqlDataReader r) => new(
        new PhotoId(r.Get<Guid>("id")), r.Get<string>("picture"), r.Get<int>("width"), r.Get<int>("height"), Core.Photos.Renditions.There(r.Get<short>("stage"), r.Get<int>("width")),
        CorrectionText.Seen(r.MaybeText("correction")), r.Get<bool>("is_binned"));
}

/// <summary>The file that a line is printed from.</summary>
/// <param name="Width">Pixels, with what is cut off.</param>
/// <param name="Height">The same.</param>
/// <param name="IsEnlarged">The photo has fewer pixels than that.</param>
internal sealed record PrintSeen(int Width, int Height, int PixelsPerInch, bool IsEnlarged)
{
    public static PrintSeen? Of(PrintFile? file) => file is null ? null : new(file.Size.Width, file.Size.Height, file.PixelsPerInch, file.IsEnlarged);
}

/// <summary>A line of an order, for those who sell.</summary>
/// <param name="Photo">Null where it was removed for good.</param>
/// <param name="Crop">The part of it that is printed, shares of its sides; null where nothing is.</param>
/// <param name="PixelsPerInch">On the print; null where nothing is printed.</param>
/// <param name="Print">Null where it has no print file.</param>
internal sealed record OrderedLine(
    OrderedPhoto? Photo, string Called, string FileName, string Gallery, string Option, OptionKind Kind, int Count, string Each, string Amount, FitCrop? Crop, int? PixelsPerInch, PrintSeen? Print, int Fetched);

/// <summary>An invoice or a credit note, among those of an order.</summary>
/// <param name="Called">Its number, as it stands on it.</param>
/// <param name="Amount">With its currency.</param>
internal sealed record InvoiceSeen(long Number, string Called, InvoiceKind Kind, DateTimeOffset Written, string Amount);

/// <summary>An order, for those who sell.</summary>
/// <param name="Address">Where it goes, line by line; empty where it is not sent.</param>
/// <param name="Sum">What comes on top of the goods, or is taken off.</param>
/// <param name="Standing">Where it stands, in words.</param>
/// <param name="Next">What can be done with it, what usually comes next first.</param>
/// <param name="Money">What came and went back, in words.</param>
/// <param name="Refundable">How much can go back, in digits; null for nothing.</param>
/// <param name="GoesByService">It goes back by the payment service, else by hand.</param>
/// <param name="Invoices">What was written of it, the first one first.</param>
/// <param name="CanBeInvoiced">Somebody can have its invoice written now.</param>
/// <param name="Forgotten">When its buyer was.</param>
/// <param name="CanForget">They can be.</param>
/// <param name="NamedUntil">The last year in which an invoice of it names them; null for none.</param>
/// <param name="Others">What else its buyer ordered.</param>
/// <param name="Version">Expected by the next write.</param>
internal sealed record OrderSeen(
    OrderId Id, long Number, DateTimeOffset At, string Name, string Email, IReadOnlyList<string> Address, string Message, IReadOnlyList<OrderedLine> Lines, string Goods, IReadOnlyList<SumPart> Sum, string Total, Delivery Delivery,
    OrderState State, DateTimeOffset? Paid, string Standing, IReadOnlyList<OrderStep> Next, IReadOnlyList<string> Money, string? Refundable, bool GoesByService,
    IReadOnlyList<InvoiceSeen> Invoices, bool CanBeInvoiced, string Note, DateTimeOffset? Forgotten, bool CanForget, int? NamedUntil, OthersOfBuyer Others, long Version);

/// <summary>An order as it is now, and the act that did it.</summary>
internal sealed record OrderKept(OrderSeen Order, Done Done);

/// <summary>An order with its new link, which is shown this once.</summary>
internal sealed record OrderLinked(OrderSeen Order, Done Done, string Link);

public sealed record OrderStepped(OrderStep Step);

public sealed record OrderNoted([Required(AllowEmptyStrings = true), Words(OrderNoted.Longest)] string Note)
{
    internal const int Longest = 2000;
}

/// <summary>Orders.</summary>
internal static class OrderEndpoints
{
    public static void MapOrders(this IEndpointRouteBuilder api)
    {
        var orders = api.MapGroup("/orders").RequireAuthorization(Security.Editors).WithTags("Orders");
        orders.MapGet("", List).WithSummary("Orders: those of which something is to be done, those not paid, or all");
        orders.MapGet("/table.csv", Table).WithSummary("The orders of a year, as a spreadsheet’s file for bookkeeping");
        orders.MapGet("/{order}", Show).WithSummary("An order, with what was ordered and where it stands");
        orders.MapPost("/{order}/steps", Step).NeedsVersion().WithSummary("Takes an order a step further");
        orders.MapPut("/{order}/note", Note).NeedsVersion().WithSummary("Notes something of an order");
        orders.MapPost("/{order}/link", Link).NeedsVersion().WithSummary("Makes an order a new link; the former one opens nothing any more");
    }

    /// <param name="which">"open" for those of which something is to be done, "unpaid", or "all"; the first unless said.</param>
    /// <param name="q">Any part of a number, or of a buyer's name or address.</param>
    /// <param name="behind">The last one that is known.</param>
    static async Task<Results<Ok<OrderList>, BadRequest<Problem>>> List(string? which, [Words(200)] string? q, OrderId? behind, OrderListStore store, CancellationToken ct) =>
        Enum.TryParse<OrdersWanted>(which ?? nameof(OrdersWanted.Open), ignoreCase: true, out var wanted) && Enum.IsDefined(wanted) ? TypedResults.Ok(await store.ListAsync(wanted, (q ?? "").Trim(), behind, ct)) : Problems.Invalid("There are no such orders.");

    /// <param name="year">In which they were placed (UTC); this year unless said.</param>
    static Task<Results<PushStreamHttpResult, BadRequest<Problem>>> Table(int? year, HttpContext http, OrderTableStore tables, YearFile file) =>
        file.SendAsync(http, year, "orders", ".csv", "text/csv; charset=utf-8", (of, to) => tables.WriteAsync(of, to, http.RequestAborted));

    static async Task<Results<Ok<OrderSeen>, NotFound<Problem>>> Show(OrderId order, OrderDoor door, CancellationToken ct) =>
        await door.FindAsync(order, ct) is { } seen ? TypedResults.Ok(seen) : Problems.Gone("order");

    static async Task<Results<Ok<OrderKept>, NotFound<Problem>, Conflict<Problem>, Stale>> Step(OrderId order, OrderStepped body, [FromHeader(Name = "If-Match")] long version, Actor who, OrderStore store, OrderDoor door, CancellationToken ct)
    {
        var (outcome, done) = await store.StepAsync(who, order, body.Step, version, ct);
        return await door.AnswerAsync(order, outcome, done, ct);
    }

    static async Task<Results<Ok<OrderLinked>, NotFound<Problem>, Stale>> Link(
        OrderId order, [FromHeader(Name = "If-Match")] long version, HttpContext http, Actor who, OrderStore store, OrderDoor door, SiteOrigin origin, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        var (outcome, link, done) = await store.LinkAsync(who, order, origin.TextOf(http.Request), version, ct);
        return outcome == OrderOutcome.Stale ? Problems.Stale("order")
            : outcome == OrderOutcome.Written && await door.FindAsync(order, ct) is { } seen ? TypedResults.Ok(new OrderLinked(seen, done, link))
            : Problems.Gone("order");
    }

    static async Task<Results<Ok<OrderKept>, NotFound<Problem>, Conflict<Problem>, Stale>> Note(OrderId order, OrderNoted body, [FromHeader(Name = "If-Match")] long version, Actor who, OrderStore store, OrderDoor door, CancellationToken ct)
    {
        var (outcome, done) = await store.NoteAsync(who, order, body.Note.Trim(), version, ct);
        return await door.AnswerAsync(order, outcome, done, ct);
    }
}
