using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Photos;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Photos;

internal sealed record RepeatGroups(IReadOnlyList<RepeatGroup> Groups);

/// <summary>Which photos of a group are kept; the rest is left out everywhere.</summary>
public sealed record GroupDecision([Required, AtMost(Hand.Most)] IReadOnlyList<PhotoId> Group, [Required, AtMost(Hand.Most)] IReadOnlyList<PhotoId> Keep);

/// <summary>Near repeats, side by side.</summary>
internal static class RepeatEndpoints
{
    const int GroupsAtOnce = 60;

    public static void MapRepeats(this IEndpointRouteBuilder api)
    {
        var repeats = api.MapGroup("/repeats").RequireAuthorization(Security.Editors).WithTags("Photos");
        repeats.MapGet("", Groups).WithSummary("Groups of photos that look nearly the same and are not decided on");
        repeats.MapGet("/{photo}", GroupOf).WithSummary("What looks nearly the same as one photo, decided on or not; no group when nothing does");
        repeats.MapPost("/decision", Decide).WithSummary("Keeps some of a group and leaves the rest out everywhere").ProducesProblem(400);
    }

    static async Task<Ok<RepeatGroups>> Groups(RepeatStore store, CancellationToken ct) => TypedResults.Ok(new RepeatGroups(await store.GroupsAsync(GroupsAtOnce, ct)));

    static async Task<Ok<RepeatGroups>> GroupOf(PhotoId photo, RepeatStore store, CancellationToken ct) =>
        TypedResults.Ok(new RepeatGroups(await store.GroupOfAsync(photo, ct) is { } group ? [group] : []));

    static async Task<Results<Ok<Done>, BadRequest<Problem>>> Decide(GroupDecision body, Actor who, RepeatStore store, CancellationToken ct) =>
        body.Keep.Count == 0 || body.Keep.Except(body.Group).Any()
            ? Problems.Invalid("Keep at least one photo of the group.")
            : TypedResults.Ok(await store.DecideAsync(who, body.Group, body.Keep, ct));
}
