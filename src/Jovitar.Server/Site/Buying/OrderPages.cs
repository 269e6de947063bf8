using Jovitar.Core.People;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Invoicing;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Sales.Papers;
using Jovitar.Server.Sales.Payments;
using Jovitar.Server.Site.Entering;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Site.Buying;

/// <summary>What the link of an order opens: this order and nothing else, and its files once they are paid.</summary>
internal static class OrderPages
{
    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapOrderPages(this IEndpointRouteBuilder site)
    {
        site.MapGet($"{OrderStore.Path}/{{secret}}", Show);
        site.MapPost($"{OrderStore.Path}/{{secret}}/pay", Pay);
        site.MapGet($"{OrderStore.Path}/{{secret}}/files/{{line:int}}", Fetch);
        site.MapGet($"{OrderStore.Path}/{{secret}}/invoices/{{number:int}}", Invoice);
    }

    static async Task<KeptOrder?> FindAsync(string secret, OrderStore orders, CancellationToken ct) => LinkSecret.Hash(secret) is { } hash ? await orders.FindAsync(hash, ct) : null;

    /// <param name="paid">Its buyer has come back from paying, whatever they did there.</param>
    static async Task Show(string secret, string? paid, HttpContext http, OrderStore orders, PaymentStore payments, OrderShowing showing, SiteDoor door, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await FindAsync(secret, orders, ct) is not { } order)
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
            return;
        }

        var isOpen = false;
        if (paid is not null && order.Standing.CanBePaid)
        {
            isOpen = await payments.IsOpenAsync(order.Id, ct);
            // The service was asked meanwhile, or has told of it.
            order = (await orders.FindAsync(order.Id, ct))!;
        }

        await showing.SendAsync(http, secret, order, isOpen && order.Standing.CanBePaid, null, ct);
    }

    /// <summary>Leads a buyer to where they pay.</summary>
    static async Task Pay(string secret, HttpContext http, OrderStore orders, PayingDoor paying, OrderShowing showing, SiteDoor door, TryCount tries, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await BuyingEndpoints.FormAsync(http, door, tries, ct) is null)
        {
            return;
        }

        if (await FindAsync(secret, orders, ct) is not { } order)
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
            return;
        }

        var (page, fault) = await paying.OpenAsync(http, secret, order, ct);
        if (fault is null)
        {
            PayingDoor.See(http, page, $"{OrderStore.Path}/{secret}");
            return;
        }

        http.Response.StatusCode = StatusCodes.Status503ServiceUnavailable;
        await showing.SendAsync(http, secret, order, isBeingPaid: false, fault, ct);
    }

    static async Task<Results<FileContentHttpResult, NotFound<Problem>>> Invoice(string secret, int number, HttpContext http, OrderStore orders, InvoiceStore invoices, PaperStore papers, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        return await FindAsync(secret, orders, ct) is { } order && await invoices.FindAsync(order.Id, number, ct) is { } invoice
            ? PaperEndpoints.Shown(http, (await papers.InvoicesAsync(ct))(invoice), invoice.FileName)
            : Problems.Gone("invoice");
    }

    static async Task<Results<FileStreamHttpResult, NotFound<Problem>, JsonHttpResult<Problem>>> Fetch(string secret, int line, HttpContext http, OrderStore orders, SavingDoor saving, TimeProvider clock, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await FindAsync(secret, orders, ct) is not { } order || order.Placed.Lines.ElementAtOrDefault(line - 1) is not { Option: { IsFile: true } option } sold)
        {
            return Problems.Gone("file");
        }

        if (OrderShowing.Refusal(OrderShowing.TermsOf(order, line - 1), clock.GetUtcNow()) is { } refusal)
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
