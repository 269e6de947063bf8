using Jovitar.Core;
using Jovitar.Core.Starters;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Starters;

internal sealed record StarterOffers(IReadOnlyList<StarterOffer> Starters);

/// <summary>Albums that are to stand in a starter's places, in their order.</summary>
public sealed record StarterChoice(Starter Starter, [AtMost(50)] IReadOnlyList<AlbumId> Albums);

/// <summary>Pages laid out ready to begin from.</summary>
internal static class StarterEndpoints
{
    public static void MapStarters(this IEndpointRouteBuilder api)
    {
        var starters = api.MapGroup("/starters").RequireAuthorization(Security.Editors).WithTags("Starters");
        starters.MapGet("", List).WithSummary("The starters, each with the albums that suit it best");
        starters.MapPost("/offer", Offer).WithSummary("A starter as it would be with other albums; nothing is made");
        starters.MapPost("", Make).WithSummary("Makes a draft page of a starter");
    }

    static async Task<Ok<StarterOffers>> List(StarterStore store, CancellationToken ct) => TypedResults.Ok(new StarterOffers(await store.OffersAsync(ct)));

    static async Task<Ok<StarterOffer>> Offer(StarterChoice body, StarterStore store, CancellationToken ct) => TypedResults.Ok(await store.OfferAsync(body.Starter, body.Albums, ct));

    static async Task<Results<Ok<OpenedPage>, NotFound<Problem>>> Make(StarterChoice body, Actor who, StarterStore store, PageStore pages, CancellationToken ct) =>
        await pages.FindAsync(await store.MakeAsync(who, body.Starter, body.Albums, ct), ct) is { } page ? TypedResults.Ok(page) : Problems.Gone("page");
}
