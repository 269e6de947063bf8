using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.People;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Access.Audiences;

/// <summary>Who can see a thing, and what somebody can see, by name.</summary>
internal static class ViewerEndpoints
{
    const int MostListed = 100;
    const int Furthest = 1_000_000;

    public static void MapViewers(this IEndpointRouteBuilder api)
    {
        api.MapGet("/viewers/{kind}/{thing}", Of).RequireAuthorization(Security.Editors).WithTags("Audiences").WithSummary("Who can see a page, an album, a category or a photo, by name, and why others cannot");
        api.MapGet("/members/{member}/sight", SightOf).RequireAuthorization(Security.Editors).WithTags("Audiences").WithSummary("What a member can see of all that is not for everyone");
    }

    /// <param name="q">Any part of a name or an address of a member.</param>
    /// <param name="not">Lists those who cannot see it.</param>
    static async Task<Results<Ok<Viewers>, NotFound<Problem>>> Of(
        string kind, Guid thing, [Words(200)] string? q, bool? not, [Range(0, MemberRules.Most)] int? from, [Range(1, MostListed)] int? count, ViewerStore viewers, CancellationToken ct) =>
        (kind == "photo" || AudienceStore.Kinds.Contains(kind)) && await viewers.OfAsync(kind, thing, new MembersAsked(Text.Name(q ?? ""), not != true, from ?? 0, count ?? MostListed), ct) is { } found
            ? TypedResults.Ok(found)
            : Problems.Gone("thing");

    static async Task<Results<Ok<MemberSight>, NotFound<Problem>>> SightOf(Guid member, [Range(0, Furthest)] int? from, [Range(1, MostListed)] int? count, MemberSightStore sights, CancellationToken ct) =>
        await sights.OfAsync(member, from ?? 0, count ?? MostListed, ct) is { } found ? TypedResults.Ok(found) : Problems.Gone("member");
}
