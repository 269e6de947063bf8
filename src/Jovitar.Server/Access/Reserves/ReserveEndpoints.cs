using Jovitar.Core.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Access.Reserves;

/// <summary>For whom an album or a category reserves what visitors do with photos besides seeing them.</summary>
/// <param name="Called">The groups and members that something is for.</param>
/// <param name="Above">What the categories that it stands in reserve besides, a sentence each.</param>
internal sealed record ReserveShown(string Name, Reserved Reserved, IReadOnlyList<Chosen> Called, IReadOnlyList<string> Above);

/// <param name="Was">What it was when it was looked at.</param>
public sealed record ReserveWish(Reserved Reserved, Reserved Was);

/// <summary>What is reserved of the photos of albums and categories.</summary>
internal static class ReserveEndpoints
{
    public static void MapReserves(this IEndpointRouteBuilder api)
    {
        var reserves = api.MapGroup("/reserves/{kind}/{thing}").RequireAuthorization(Security.Editors).WithTags("Audiences");
        reserves.MapGet("", Show).WithSummary("For whom an album or a category reserves what visitors do with its photos");
        reserves.MapPut("", Say).WithSummary("Says for whom it is; visitors have it at once");
    }

    static async Task<Results<Ok<ReserveShown>, NotFound<Problem>>> Show(string kind, Guid thing, ReserveStore store, SightStore sights, CancellationToken ct) =>
        ReserveStore.IsKind(kind) && await store.FindAsync(kind, thing, ct) is { } own
            ? TypedResults.Ok(new ReserveShown(own.Name, own.Reserved, own.Called, [.. (await sights.EveryoneAsync(ct)).Gates.Reserves.Of(own.Above).Select(ReserveWords.Above)]))
            : Problems.Gone("thing");

    static async Task<Results<Ok<Done>, NotFound<Problem>, BadRequest<Problem>, Conflict<Problem>>> Say(string kind, Guid thing, ReserveWish body, Actor who, ReserveStore store, CancellationToken ct)
    {
        if (body.Reserved.Fault() is { } fault)
        {
            return Problems.Invalid(fault);
        }

        var (outcome, done) = ReserveStore.IsKind(kind) ? await store.SayAsync(who, kind, thing, body.Reserved, body.Was, ct) : (ReserveOutcome.Gone, Done.Nothing);
        return outcome switch
        {
            ReserveOutcome.Stale => Problems.Taken("Somebody else said what is reserved while you looked, or who was chosen is gone. Look again before you say it.", "reserved"),
            ReserveOutcome.Gone => Problems.Gone("thing"),
            _ => TypedResults.Ok(done),
        };
    }
}
