using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Sales;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Sales;

/// <param name="Was">What it sold by when it was looked at.</param>
public sealed record SellingWish(Selling Selling, Selling Was);

/// <summary>Options that photos are sold without, and with again.</summary>
public sealed record SellPhotos(
    [Required, AtMost(PriceList.Most)] IReadOnlyList<Guid> Without, [Required, AtMost(PriceList.Most)] IReadOnlyList<Guid> With, IReadOnlyList<PhotoId>? Photos = null, bool? InHand = null) : Reach(Photos, InHand);

/// <summary>Sales galleries: what albums and photos are sold by, and how they fit it.</summary>
internal static class SellingEndpoints
{
    public static void MapSelling(this IEndpointRouteBuilder api)
    {
        var albums = api.MapGroup("/albums/{album}").RequireAuthorization(Security.Editors).WithTags("Prices");
        albums.MapGet("/selling", Show).WithSummary("The price list that an album sells by, and which of its options are not offered here");
        albums.MapPut("/selling", Say).WithSummary("Says what an album sells by");
        albums.MapGet("/fit", Fit).WithSummary("How an album's photos fit the options that it sells by");
        api.MapPost("/photos/selling", SayPhotos).RequireAuthorization(Security.Editors).WithTags("Prices").WithSummary("Says of photos in hand which options they are sold without");
    }

    static async Task<Results<Ok<Selling>, NotFound<Problem>>> Show(AlbumId album, SellingStore store, CancellationToken ct) =>
        await store.FindAsync(album, ct) is { } selling ? TypedResults.Ok(selling) : Problems.Gone("album");

    static async Task<Results<Ok<Done>, NotFound<Problem>, BadRequest<Problem>, Conflict<Problem>>> Say(AlbumId album, SellingWish body, Actor who, SellingStore store, CancellationToken ct)
    {
        if (body.Selling.Without.Count > PriceList.Most)
        {
            return Problems.Invalid($"A price list has {PriceList.Most} options at most.");
        }

        var (outcome, done) = await store.SayAsync(who, album, body.Selling, body.Was, ct);
        return outcome switch
        {
            SellingOutcome.Stale => Problems.Taken("Somebody else said what this album sells by while you looked. Look again before you say it.", "selling"),
            SellingOutcome.NoList => Problems.Gone("price list"),
            SellingOutcome.Written => TypedResults.Ok(done),
            _ => Problems.Gone("album"),
        };
    }

    /// <param name="at">The place of the first photo that is listed, 0 = first.</param>
    /// <param name="nothing">Only photos of which nothing is offered.</param>
    static async Task<Results<Ok<FitList>, NotFound<Problem>>> Fit(AlbumId album, int? at, bool? nothing, FitStore store, CancellationToken ct) =>
        await store.ListAsync(album, Math.Max(0, at ?? 0), nothing ?? false, ct) is { } list ? TypedResults.Ok(list) : Problems.Gone("sales gallery");

    static async Task<Ok<Done>> SayPhotos(SellPhotos body, Actor who, HandStore hand, SellingStore store, CancellationToken ct) =>
        TypedResults.Ok(await store.SayAsync(who, await hand.ReachedAsync(who, body, ct), body.Without, body.With, ct));
}
