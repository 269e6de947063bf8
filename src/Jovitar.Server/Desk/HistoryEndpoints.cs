using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Desk;

/// <summary>Some acts; <c>Before</c> asks for the ones before them, or is null at the end.</summary>
internal sealed record History(IReadOnlyList<ActLine> Acts, ActId? Before);

internal sealed record PhotoHistory(IReadOnlyList<PhotoEvent> Events);

/// <summary>What was taken back, and what was left alone because it was changed since.</summary>
internal sealed record UndoAnswer(Done Done, Undone Undone);

/// <summary>The history, and taking acts back.</summary>
internal static class HistoryEndpoints
{
    const int AtOnce = 60;
    const int OfOnePhoto = 60;

    public static void MapHistory(this IEndpointRouteBuilder api)
    {
        var acts = api.MapGroup("/acts").RequireAuthorization(Security.Editors).WithTags("Acts");
        acts.MapGet("", Latest).WithSummary("The latest acts, with who, when and how many");
        acts.MapPost("/{act}/undo", Undo).WithSummary("Takes an act back");
        api.MapGet("/photos/{photo}/history", OfPhoto).RequireAuthorization(Security.Editors).WithTags("Acts").WithSummary("What happened to a photo");
    }

    static async Task<Ok<History>> Latest(ActId? before, HistoryStore store, CancellationToken ct)
    {
        var lines = await store.LatestAsync(before, AtOnce, ct);
        return TypedResults.Ok(new History(lines, lines.Count == AtOnce ? lines[^1].Id : null));
    }

    static async Task<Ok<PhotoHistory>> OfPhoto(PhotoId photo, HistoryStore store, CancellationToken ct) =>
        TypedResults.Ok(new PhotoHistory(await store.OfPhotoAsync(photo, OfOnePhoto, ct)));

    static async Task<Results<Ok<UndoAnswer>, NotFound<Problem>, Conflict<Problem>>> Undo(ActId act, Actor who, ActUndo undo, CancellationToken ct)
    {
        var (refusal, undone, done) = await undo.UndoAsync(who, act, ct);
        return refusal switch
        {
            UndoRefusal.Gone => Problems.Gone("act"),
            UndoRefusal.AlreadyUndone => Problems.Conflict("undone", "This was taken back already."),
            UndoRefusal.CannotBe => Problems.Conflict("final", "This cannot be taken back."),
            UndoRefusal.InTheWay => Problems.Conflict("in-the-way", "Something else has taken its place meanwhile: an address or a name. Nothing was changed."),
            _ => TypedResults.Ok(new UndoAnswer(done, undone!)),
        };
    }
}
