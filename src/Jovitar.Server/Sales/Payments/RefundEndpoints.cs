using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Sales.Payments;

/// <summary>Money that is to go back.</summary>
/// <param name="Amount">Digits with a point or a comma.</param>
public sealed record RefundWanted([Required] string Amount);

/// <summary>Refunds. Money goes back by an owner's word alone.</summary>
internal static class RefundEndpoints
{
    public static void MapRefunds(this IEndpointRouteBuilder api) => api.MapPost("/orders/{order}/refunds", Refund)
        .RequireAuthorization(Security.Owners).NeedsVersion().WithTags("Orders").WithSummary("Gives money of an order back, by the service it came by; what came otherwise is noted as given back");

    static async Task<Results<Ok<OrderKept>, NotFound<Problem>, Conflict<Problem>, Stale>> Refund(
        OrderId order, RefundWanted body, [FromHeader(Name = "If-Match")] long version, Actor who, RefundStore refunds, OrderDoor door, CancellationToken ct)
    {
        var (outcome, wrong, done) = await refunds.RefundAsync(who, order, body.Amount, version, ct);
        return wrong is null ? await door.AnswerAsync(order, outcome, done, ct) : Problems.Conflict("cannot-be", wrong);
    }
}
