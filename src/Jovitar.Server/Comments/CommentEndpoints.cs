using Jovitar.Core.Comments;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Comments;

/// <param name="Shown">Whoever sees their photos reads them; else staff alone do.</param>
public sealed record CommentsDecided([AtMost(CommentEndpoints.Most)] IReadOnlyList<Guid> Comments, bool Shown);

/// <summary>Visitors' comments in the workroom.</summary>
internal static class CommentEndpoints
{
    /// <summary>So many are decided on in one go: all that may wait.</summary>
    public const int Most = TalkStore.MostWaiting;

    public static void MapComments(this IEndpointRouteBuilder api)
    {
        var comments = api.MapGroup("/comments").RequireAuthorization(Security.Editors).WithTags("Comments");
        comments.MapGet("", List).WithSummary("Comments of visitors in one state, a part of them, and how many there are in each");
        comments.MapPost("/decide", Decide).WithSummary("Shows comments to whoever sees their photos, or refuses them");
        comments.MapPost("/remove", Remove).RequireAuthorization(Security.Owners).WithSummary("Removes all refused comments for good");
    }

    /// <param name="state">"waiting", "shown" or "refused"; those that wait unless said.</param>
    /// <param name="behind">The last one that is known.</param>
    static async Task<Results<Ok<CommentList>, BadRequest<Problem>>> List(string? state, Guid? behind, CommentStore store, CancellationToken ct) =>
        Enum.GetValues<CommentState>().Where(s => s.ToString().Equals(state ?? nameof(CommentState.Waiting), StringComparison.OrdinalIgnoreCase)).ToArray() is [var found]
            ? TypedResults.Ok(await store.ListAsync(found, behind, ct))
            : Problems.Invalid("A comment is waiting, shown or refused.", new Dictionary<string, string> { ["state"] = "Say waiting, shown or refused." });

    static async Task<Ok<Done>> Decide(CommentsDecided body, Actor who, CommentStore store, CancellationToken ct) =>
        TypedResults.Ok(await store.DecideAsync(who, body.Comments, body.Shown, ct));

    static async Task<Ok<Done>> Remove(Actor who, CommentStore store, CancellationToken ct) => TypedResults.Ok(await store.RemoveAsync(who, ct));
}
