using Jovitar.Core;
using Jovitar.Core.Describing;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Sales.Printing;

/// <summary>The files that orders are printed from.</summary>
internal static class PrintEndpoints
{
    /// <summary>They are links, and stand in no description.</summary>
    public static void MapPrints(this IEndpointRouteBuilder api)
    {
        var orders = api.MapGroup("/orders").RequireAuthorization(Security.Editors).WithTags("Orders").ExcludeFromDescription();
        orders.MapGet("/prints.zip", All).WithSummary("The print files of orders that are to be printed by now, with a sheet that tells of them");
        orders.MapGet("/{order}/prints.zip", OfOrder).WithSummary("The print files of an order, with a sheet that tells of them");
        orders.MapGet("/{order}/prints/{line:int}", One).WithSummary("The print file of a line");
    }

    static async Task<PushStreamHttpResult> All(HttpContext http, OrderListStore orders, PrintFileStore prints, SettingsStore settings, CancellationToken ct) =>
        Sent(http, prints, await orders.ToPrintAsync(ct), $"{(await settings.ReadAsync(ct)).Title}, print files.zip");

    static async Task<Results<PushStreamHttpResult, NotFound<Problem>>> OfOrder(OrderId order, HttpContext http, OrderStore orders, PrintFileStore prints, CancellationToken ct) =>
        await orders.FindAsync(order, ct) is { } found ? Sent(http, prints, [found], $"order {found.Number}, print files.zip") : Problems.Gone("order");

    static PushStreamHttpResult Sent(HttpContext http, PrintFileStore prints, IReadOnlyList<KeptOrder> orders, string name)
    {
        http.Response.Headers.CacheControl = "private, no-store";
        return TypedResults.Stream(to => prints.ZipAsync(orders, to, http.RequestAborted), "application/zip", new LeavingNames().Next(name));
    }

    static async Task<Results<FileStreamHttpResult, NotFound<Problem>>> One(OrderId order, int line, HttpContext http, OrderStore orders, PrintFileStore prints, CancellationToken ct)
    {
        if (await orders.FindAsync(order, ct) is not { } found)
        {
            return Problems.Gone("order");
        }

        if (await prints.OneAsync(found, line, ct) is not var (name, bytes))
        {
            return Problems.Gone("photo");
        }

        http.Response.Headers.CacheControl = "private, no-store";
        return TypedResults.Stream(bytes, "image/jpeg", name);
    }
}
