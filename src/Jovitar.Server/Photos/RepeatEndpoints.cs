using System.Security.Claims;
using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Photos;

internal sealed record RepeatGroups(IReadOnlyList<RepeatGroup> Groups);

/// <summary>Which photos of a group are kept; the rest is left out everywhere.</summary>
internal sealed record GroupDecision(IReadOnlyList<PhotoId> Group, IReadOnlyList<PhotoId> Keep);

internal sealed record Decided(IReadOnlyList<DecisionMark> Before);

internal sealed record Bin(IReadOnlyList<BinnedPhoto> Photos);

internal sealed record BinChange(int Count, IReadOnlyList<PhotoId> Photos);

/// <summary>Near repeats, side by side, and the bin.</summary>
internal static class RepeatEndpoints
{
    const int GroupsAtOnce = 60;
    const int BinnedAtOnce = 1000;

    public static void MapRepeats(this IEndpointRouteBuilder api)
    {
        var repeats = api.MapGroup("/repeats").RequireAuthorization(Security.Editors).WithTags("Photos");
        repeats.MapGet("", Groups).WithSummary("Groups of photos that look nearly the same and are not decided on");
        repeats.MapPost("/decision", Decide).WithSummary("Keeps some of a group and leaves the rest out everywhere").ProducesProblem(400);
        repeats.MapPost("/decision/undo", Undo).WithSummary("Takes a decision on a group back");
        var bin = api.MapGroup("/bin").RequireAuthorization(Security.Editors).WithTags("Photos");
        bin.MapGet("", List).WithSummary("What waits in the bin");
        bin.MapPost("", Throw).WithSummary("Throws photos into the bin");
        bin.MapPost("/restore", Restore).WithSummary("Takes photos back out of the bin");
        bin.MapDelete("", Empty).WithSummary("Empties the bin for good");
    }

    static async Task<Ok<RepeatGroups>> Groups(RepeatStore store, CancellationToken ct) => TypedResults.Ok(new RepeatGroups(await store.GroupsAsync(GroupsAtOnce, ct)));

    static async Task<Results<Ok<Decided>, BadRequest<Problem>>> Decide(GroupDecision body, RepeatStore store, CancellationToken ct) =>
        body.Keep.Count == 0 || body.Keep.Except(body.Group).Any()
            ? Problems.Invalid("Keep at least one photo of the group.")
            : TypedResults.Ok(new Decided(await store.DecideAsync(body.Group, body.Keep, ct)));

    static async Task<NoContent> Undo(Decided body, RepeatStore store, CancellationToken ct)
    {
        await store.ReopenAsync([.. body.Before.Where(m => m.Decision is "" or "keep" or "doubt" or "leave_out")], ct);
        return TypedResults.NoContent();
    }

    static async Task<Ok<Bin>> List(BinStore store, CancellationToken ct) => TypedResults.Ok(new Bin(await store.ListAsync(BinnedAtOnce, ct)));

    static async Task<Ok<BinChange>> Throw(PhotoList body, ClaimsPrincipal user, BinStore store, CancellationToken ct)
    {
        var thrown = await store.ThrowAsync([.. body.Photos.Take(PhotoEndpoints.MostInHand)], user.Identity?.Name ?? "", ct);
        return TypedResults.Ok(new BinChange(thrown.Count, thrown));
    }

    static async Task<Ok<BinChange>> Restore(PhotoList body, BinStore store, CancellationToken ct) =>
        TypedResults.Ok(new BinChange(await store.RestoreAsync([.. body.Photos.Take(PhotoEndpoints.MostInHand)], ct), body.Photos));

    static async Task<Ok<BinChange>> Empty(BinStore store, CancellationToken ct) => TypedResults.Ok(new BinChange(await store.EmptyAsync(ct), []));
}
