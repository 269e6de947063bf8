using Jovitar.Core;
using Jovitar.Core.Albums;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Albums;

/// <param name="Was">What it offered when it was looked at.</param>
public sealed record OffersWish(AlbumOffers Offers, AlbumOffers Was);

/// <summary>What visitors may do with an album's photos besides seeing them.</summary>
internal static class OfferEndpoints
{
    public static void MapOffers(this IEndpointRouteBuilder api)
    {
        var offers = api.MapGroup("/albums/{album}/offers").RequireAuthorization(Security.Editors).WithTags("Albums");
        offers.MapGet("", Show).WithSummary("What visitors may do with an album's photos besides seeing them");
        offers.MapPut("", Say).WithSummary("Says what they may; visitors have it at once");
    }

    static async Task<Results<Ok<AlbumOffers>, NotFound<Problem>>> Show(AlbumId album, OfferStore store, CancellationToken ct) =>
        await store.FindAsync(album, ct) is { } offers ? TypedResults.Ok(offers) : Problems.Gone("album");

    static async Task<Results<Ok<Done>, NotFound<Problem>, BadRequest<Problem>, Conflict<Problem>>> Say(AlbumId album, OffersWish body, Actor who, OfferStore store, CancellationToken ct)
    {
        if (body.Offers.Faults() is { Count: > 0 } faults)
        {
            return Problems.Invalid(faults.First().Value, faults);
        }

        var (outcome, done) = await store.SayAsync(who, album, body.Offers, body.Was, ct);
        return outcome switch
        {
            AlbumOutcome.Stale => Problems.Taken("Somebody else said what visitors may do here while you looked. Look again before you say it.", "offers"),
            AlbumOutcome.Written => TypedResults.Ok(done),
            _ => Problems.Gone("album"),
        };
    }
}
