using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Sales.Forgetting;

/// <summary>Forgetting who bought.</summary>
internal static class ForgettingEndpoints
{
    public static void MapForgetting(this IEndpointRouteBuilder api) =>
        api.MapPost("/orders/{order}/forget", Forget).RequireAuthorization(Security.Owners).NeedsVersion().WithTags("Orders")
            .WithSummary("Forgets who bought, in all orders of the same address of which nothing is left to do; it cannot be taken back");

    static async Task<Results<Ok<OrderKept>, NotFound<Problem>, Conflict<Problem>, Stale>> Forget(OrderId order, [FromHeader(Name = "If-Match")] long version, Actor who, ForgettingStore store, OrderDoor door, CancellationToken ct)
    {
        var (outcome, done) = await store.ForgetAsync(who, order, version, ct);
        return await door.AnswerAsync(order, outcome, done, ct);
    }
}
