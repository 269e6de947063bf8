using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Photos;

/// <summary>Who may see several photos by themselves.</summary>
public sealed record PhotosAudience(Audience Audience, IReadOnlyList<PhotoId>? Photos = null, bool? InHand = null) : Reach(Photos, InHand);

/// <summary>Exceptions: photos that are for fewer than what they stand in.</summary>
internal static class ExceptionEndpoints
{
    public static void MapExceptions(this IEndpointRouteBuilder api) =>
        api.MapPost("/photos/audience", Say).RequireAuthorization(Security.Editors).WithTags("Audiences").WithSummary("Says of photos in hand who may see them, of those who can see where they stand; visitors have it at once");

    static async Task<Results<Ok<Done>, NotFound<Problem>, BadRequest<Problem>, Conflict<Problem>>> Say(PhotosAudience body, Actor who, HandStore hand, PhotoAudienceStore photos, CancellationToken ct)
    {
        if (body.Audience.FaultOf("photo") is { } fault)
        {
            return AudienceEndpoints.Wrong(fault);
        }

        var (outcome, done) = await photos.SayAsync(who, await hand.ReachedAsync(who, body, ct), body.Audience, was: null, ct);
        return AudienceEndpoints.Ended(outcome, done);
    }
}
