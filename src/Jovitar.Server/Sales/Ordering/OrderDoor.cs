using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Corrections;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Printing;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Invoicing;
using Jovitar.Server.Sales.Payments;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>An order as those who sell find it, of all that belongs to it.</summary>
internal sealed class OrderDoor(OrderStore orders, OrderListStore list, ShopStore shops, PaymentStore payments, RefundStore refunds, InvoiceStore invoices)
{
    /// <summary>Answers a change of an order.</summary>
    public async Task<Results<Ok<OrderKept>, NotFound<Problem>, Conflict<Problem>, Stale>> AnswerAsync(OrderId order, OrderOutcome outcome, Done done, CancellationToken ct) => outcome switch
    {
        OrderOutcome.Stale => Problems.Stale("order"),
        OrderOutcome.CannotBe => Problems.Conflict("cannot-be", "That cannot be done with the order where it stands."),
        OrderOutcome.Written when await FindAsync(order, ct) is { } seen => TypedResults.Ok(new OrderKept(seen, done)),
        _ => Problems.Gone("order"),
    };

    /// <returns>Null when it is not there.</returns>
    public async Task<OrderSeen?> FindAsync(OrderId id, CancellationToken ct)
    {
        if (await orders.FindAsync(id, ct) is not { } order)
        {
            return null;
        }

        var (placed, photos) = (order.Placed, await list.PhotosAsync(order.Placed.Lines.Select(l => l.Photo), ct));
        var (shop, written) = ((await shops.ReadAsync(ct)).Shop, await invoices.OfAsync(id, ct));
        var (paid, refundable) = (await payments.OfAsync(id, ct), await refunds.OfAsync(order, ct));
        return new OrderSeen(
            order.Id, order.Number, order.At, placed.Buyer.Name, placed.Buyer.Email, placed.Way.IsSent ? placed.Buyer.Lines(placed.Home) : [], placed.Message,
            [.. placed.Lines.Select((l, i) => Line(l, photos.GetValueOrDefault(l.Photo), order.Fetched.ElementAtOrDefault(i), shop.Prints))],
            placed.Goods.ToString(), [.. OrderSums.Parts(placed)], placed.Total.Said, placed.Way.Delivery, order.Standing.State, order.Paid, OrderWords.Standing(order.Standing), order.Standing.Next,
            [.. OrderWords.Payments([.. paid.Select(p => p.Standing)], order.Standing), .. OrderWords.WentBack(placed.Total with { Minor = order.Returned }, refundable.OnItsWay)],
            refundable.Most?.ToString(), refundable.By is not null, [.. written.Select(i => new InvoiceSeen(i.Number, i.Called, i.Kind, i.Written, i.Amount.Said))], InvoiceStore.CanBeAsked(order, shop.Invoices, written), order.Note,
            order.Forgotten, order.CanForget, written.Count > 0 ? written.Max(i => shop.Forgetting.LastYear(i.Written)) : null, await list.OthersAsync(id, ct), order.Version);
    }

    static OrderedLine Line(PlacedLine line, OrderedPhoto? photo, int fetched, PrintRule rule)
    {
        var size = photo is null ? default : new PixelSize(photo.Width, photo.Height);
        var fit = photo is null ? null : line.FitOn(size, photo.Focus);
        return new OrderedLine(
            photo, line.Called, line.FileName, line.Gallery, line.Bought, line.Option.Kind, line.Count, line.Each.ToString(), line.Amount.ToString(),
            fit is null ? null : FitCrop.Of(fit, size), fit is { } print ? (int)Math.Floor(print.PixelsPerInch) : null,
            photo is null ? null : PrintSeen.Of(PrintFile.Of(line, size, photo.Focus, rule)), fetched);
    }
}
