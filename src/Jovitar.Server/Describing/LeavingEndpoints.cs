using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Describing;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Describing;

/// <summary>Photos that leave with their words. These are links that a browser saves, so they are asked for by GET.</summary>
internal static class LeavingEndpoints
{
    public static void MapLeaving(this IEndpointRouteBuilder api)
    {
        var leaving = api.MapGroup("").RequireAuthorization(Security.Editors).WithTags("Describing").ExcludeFromDescription();
        leaving.MapGet("/hand/download", Hand).WithSummary("What is in hand as a ZIP, with the words in every file");
        leaving.MapGet("/photos/{photo}/written", One).WithSummary("An original with its words in it");
    }

    static async Task<Results<PushStreamHttpResult, BadRequest<Problem>, JsonHttpResult<Problem>>> Hand(
        [Range(16, 20_000)] int? edge, [Range(1, 100)] int? quality, bool? position, HttpContext http, Actor who, AccessStore access, HandStore hand, SettingsStore settings, LeavingStore store, CancellationToken ct)
    {
        if (MayNot(http, access, position) is { } refused)
        {
            return refused;
        }

        var photos = await hand.ReachedAsync(who, new Reach(InHand: true), ct);
        if (photos.Count == 0)
        {
            return Problems.Invalid("Nothing is in hand.");
        }

        http.Response.Headers.CacheControl = "private, no-store";
        var form = new LeavingForm(edge, quality ?? 85, position == true);
        var name = new LeavingNames().Next($"{(await settings.ReadAsync(ct)).Title}, {ActWords.Photos(photos.Count)}.zip");
        return TypedResults.Stream(to => store.ZipAsync(photos, form, to, http.RequestAborted), "application/zip", name);
    }

    static async Task<Results<FileStreamHttpResult, NotFound<Problem>, JsonHttpResult<Problem>>> One(PhotoId photo, bool? position, HttpContext http, AccessStore access, LeavingStore store, CancellationToken ct)
    {
        if (MayNot(http, access, position) is { } refused)
        {
            return refused;
        }

        if (await access.PhotoAsync(photo, Sight.Somebody, ct) is not { } thing || !access.May(http.User.Viewer(), Right.SeeOriginal, thing) || await store.OneAsync(photo, position == true, ct) is not var (name, bytes))
        {
            return Problems.Gone("photo");
        }

        http.Response.Headers.CacheControl = "private, no-store";
        return TypedResults.Stream(bytes, "application/octet-stream", name);
    }

    /// <summary>Where photos were taken leaves only when the owner says so.</summary>
    static JsonHttpResult<Problem>? MayNot(HttpContext http, AccessStore access, bool? position) =>
        position == true && !access.May(http.User.Viewer(), Right.SendPosition, new TheWorkroom())
            ? Problems.Json(StatusCodes.Status403Forbidden, "forbidden", "Where photos were taken leaves only when the owner says so.")
            : null;
}
