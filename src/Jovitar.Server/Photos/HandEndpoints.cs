using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Photos;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Photos;

/// <summary>What becomes of the photos of a sheet: they are taken up beside what is in hand, let go, or turned round.</summary>
public sealed record HandFound([Required, OneOf(HandFound.Take, HandFound.LetGo, HandFound.Turn)] string How)
{
    internal const string Take = "take";
    internal const string LetGo = "let_go";
    internal const string Turn = "turn";
}

/// <summary>Photos to take up, and photos to let go.</summary>
public sealed record HandChange([AtMost(Hand.Most)] IReadOnlyList<PhotoId>? Take = null, [AtMost(Hand.Most)] IReadOnlyList<PhotoId>? LetGo = null);

/// <summary>What one has in hand.</summary>
internal static class HandEndpoints
{
    public static void MapHand(this IEndpointRouteBuilder api)
    {
        var hand = api.MapGroup("/hand").RequireAuthorization(Security.Editors).WithTags("Photos");
        hand.MapGet("", Show).WithSummary("The photos in hand");
        hand.MapPost("", Change).WithSummary("Takes photos up and lets photos go");
        hand.MapPut("", Set).WithSummary("Holds these photos and no others, in this order");
        hand.MapDelete("", Clear).WithSummary("Lets everything go");
        hand.MapPost("/found", Found).WithSummary("Takes up all photos of a sheet, lets them go, or turns them round");
        hand.MapPost("/among", Among).WithSummary("Which of these photos are in hand");
    }

    static async Task<Ok<HandHeld>> Show(Actor who, HandStore store, CancellationToken ct) => TypedResults.Ok(await store.ReadAsync(who, ct));

    static async Task<NoContent> Change(HandChange body, Actor who, HandStore store, CancellationToken ct)
    {
        await store.LetGoAsync(who, body.LetGo ?? [], ct);
        await store.TakeAsync(who, body.Take ?? [], ct);
        return TypedResults.NoContent();
    }

    static async Task<NoContent> Set(PhotoList body, Actor who, HandStore store, CancellationToken ct)
    {
        await store.SetAsync(who, body.Photos, ct);
        return TypedResults.NoContent();
    }

    static async Task<NoContent> Clear(Actor who, HandStore store, CancellationToken ct)
    {
        await store.SetAsync(who, [], ct);
        return TypedResults.NoContent();
    }

    static async Task<Ok<HandHeld>> Found([AsParameters] SheetQuery query, HandFound body, Actor who, SheetStore sheet, HandStore store, CancellationToken ct)
    {
        var found = await sheet.FoundAsync(query, int.MaxValue, ct);
        await (body.How switch
        {
            HandFound.LetGo => store.LetGoAsync(who, found, ct),
            HandFound.Turn => store.TurnAsync(who, found, ct),
            _ => store.TakeAsync(who, found, ct),
        });
        return TypedResults.Ok(await store.ReadAsync(who, ct));
    }

    static async Task<Ok<PhotoList>> Among(PhotoList body, Actor who, HandStore store, CancellationToken ct) => TypedResults.Ok(new PhotoList(await store.AmongAsync(who, body.Photos, ct)));
}
