using Jovitar.Core;
using Jovitar.Core.Favourites;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Favourites;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Site.Favourites;

/// <param name="Words">What the visitor says with it.</param>
public sealed record ChoiceSent([Words(Choosing.LongestWords)] string? Words = null);

/// <summary>Favourites that an album asks of visitors whom the site knows.</summary>
internal static class ChoosingEndpoints
{
    /// <summary>What one visitor does in a minute; who walks an album with a finger on the key does less.</summary>
    const int ChangesAMinute = 600;

    public static void MapChoosing(this IEndpointRouteBuilder app)
    {
        var site = app.MapGroup("/site/choosing/{album}").AllowAnonymous().WithTags("Site");
        site.MapGet("", Show).WithSummary("What a visitor has chosen of an album that asks for their favourites");
        site.MapPut("/{photo}", (AlbumId album, PhotoId photo, HttpContext http, SightStore sights, SiteChoices choices, TryCount tries, CancellationToken ct) => Mark(album, photo, true, http, sights, choices, tries, ct))
            .WithSummary("Chooses a photo");
        site.MapDelete("/{photo}", (AlbumId album, PhotoId photo, HttpContext http, SightStore sights, SiteChoices choices, TryCount tries, CancellationToken ct) => Mark(album, photo, false, http, sights, choices, tries, ct))
            .WithSummary("Lets go of a photo that was chosen");
        site.MapPost("/sent", Send).WithSummary("Says that the visitor is done, and tells whoever asked");
    }

    static async Task<Results<Ok<ChoosingState>, NotFound<Problem>>> Show(AlbumId album, HttpContext http, SightStore sights, SiteChoices choices, CancellationToken ct)
    {
        SightStore.KeepNowhere(http);
        return await choices.StateAsync(album, await sights.OfAsync(http, ct), ct) is { } state ? TypedResults.Ok(state) : Problems.Gone("album");
    }

    static async Task<Results<NoContent, NotFound<Problem>, JsonHttpResult<Problem>>> Mark(
        AlbumId album, PhotoId photo, bool chosen, HttpContext http, SightStore sights, SiteChoices choices, TryCount tries, CancellationToken ct) =>
        await VisitorForm.RefusedAsync(http, tries, "f", ChangesAMinute, ct) ?? Answer(await choices.MarkAsync(album, photo, chosen, await sights.OfAsync(http, ct), ct));

    static async Task<Results<NoContent, NotFound<Problem>, JsonHttpResult<Problem>>> Send(AlbumId album, ChoiceSent body, HttpContext http, SightStore sights, SiteChoices choices, TryCount tries, CancellationToken ct) =>
        await VisitorForm.RefusedAsync(http, tries, "f", ChangesAMinute, ct) ?? Answer(await choices.SendAsync(album, (body.Words ?? "").Trim(), await sights.OfAsync(http, ct), ct));

    static Results<NoContent, NotFound<Problem>, JsonHttpResult<Problem>> Answer(ChoiceTaken taken) =>
        !taken.Asked ? Problems.Gone("photo")
        : taken.Refusal is { } refusal ? Problems.Json(StatusCodes.Status409Conflict, "refused", ChoosingWords.Refused(refusal, taken.Choosing!))
        : TypedResults.NoContent();
}
