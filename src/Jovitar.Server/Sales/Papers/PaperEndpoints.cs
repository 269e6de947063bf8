using System.Globalization;
using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Sales.Papers;

/// <summary>What is printed on paper to make and to pack orders.</summary>
internal static class PaperEndpoints
{
    /// <summary>They are links, and stand in no description. A browser shows them, and prints them from there.</summary>
    public static void MapPapers(this IEndpointRouteBuilder api)
    {
        var orders = api.MapGroup("/orders").RequireAuthorization(Security.Editors).WithTags("Orders").ExcludeFromDescription();
        orders.MapGet("/pick-list.pdf", PickList).WithSummary("What is to be made and gathered for the orders that are to be printed by now");
        orders.MapGet("/{order}/packing-slip.pdf", Slip).WithSummary("What lies in the parcel of an order");
    }

    static async Task<FileContentHttpResult> PickList(HttpContext http, PaperStore papers, CancellationToken ct) => Shown(http, await papers.PickListAsync(ct), "pick list.pdf");

    static async Task<Results<FileContentHttpResult, NotFound<Problem>>> Slip(OrderId order, HttpContext http, OrderStore store, PaperStore papers, CancellationToken ct) =>
        await store.FindAsync(order, ct) is { } found ? Shown(http, await papers.SlipAsync(found, ct), string.Create(CultureInfo.InvariantCulture, $"order {found.Number}, packing slip.pdf")) : Problems.Gone("order");

    /// <summary>A paper that a browser shows, and that is called so where somebody saves it.</summary>
    /// <param name="name">Plain letters, digits and signs.</param>
    public static FileContentHttpResult Shown(HttpContext http, byte[] paper, string name)
    {
        http.Response.Headers.CacheControl = "private, no-store";
        http.Response.Headers.ContentSecurityPolicy = Security.OfPdf;
        http.Response.Headers.ContentDisposition = $"inline; filename=\"{name}\"";
        return TypedResults.Bytes(paper, "application/pdf");
    }
}
