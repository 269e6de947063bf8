using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Describing;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Site;

/// <summary>Photos that visitors save, where the page they stand on offers it.</summary>
internal static class SavingEndpoints
{
    public static void MapSaving(this IEndpointRouteBuilder app)
    {
        foreach (var kind in Enum.GetValues<SiteKind>())
        {
            app.MapGet($"{PageVersion.PathOf(kind, "{address}")}/photo/{{photo}}/save", (string address, PhotoId photo, [FromQuery(Name = "in")] int? walk, HttpContext http, SiteDoor door, SavingDoor saving, CancellationToken ct) =>
                SaveAsync(kind, address, photo, walk ?? 1, http, door, saving, ct)).AllowAnonymous().ExcludeFromDescription();
        }
    }

    static async Task<Results<FileStreamHttpResult, NotFound<Problem>, JsonHttpResult<Problem>>> SaveAsync(
        SiteKind kind, string address, PhotoId photo, int walk, HttpContext http, SiteDoor door, SavingDoor saving, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        var sight = await door.SightAsync(http, ct);
        if (await door.FindAsync(kind, address, sight, ct) is not { } version || await door.Renderer.ModelAsync(version) is not { } page
            || page.Walks.FirstOrDefault(w => w.Number == walk) is not { } here || here.Photos.All(p => p.Id != photo))
        {
            return Problems.Gone("photo");
        }

        if (saving.IsBusy)
        {
            http.Response.Headers.RetryAfter = "10";
            return Problems.Json(StatusCodes.Status503ServiceUnavailable, "busy", "Many are saving photos just now. Try again in a moment.");
        }

        var (allowed, found) = await saving.SaveAsync(photo, here.Press.Save, sight, ct);
        return !allowed ? Problems.Json(StatusCodes.Status403Forbidden, "forbidden", "This photo is not offered to be saved.")
            : found is var (name, bytes) ? TypedResults.Stream(bytes, "application/octet-stream", name)
            : Problems.Gone("photo");
    }
}

/// <summary>Lets photos out to visitors: whether they may have them, and a few at a time, for each is made when it is asked for.</summary>
internal sealed class SavingDoor(AccessStore access, LeavingStore leaving) : IDisposable
{
    /// <summary>So many may wait; others are told to come again.</summary>
    const int MostWaiting = 32;

    readonly SemaphoreSlim hands = new(Math.Max(1, Environment.ProcessorCount / 2));
    int waiting;

    public bool IsBusy => Volatile.Read(ref waiting) >= MostWaiting;

    /// <summary>A photo in the form that a page offers.</summary>
    /// <returns>Whether it may be saved there, and what it is called and its bytes; null when it is not here.</returns>
    public async Task<(bool Allowed, (string FileName, Stream Bytes)? Found)> SaveAsync(PhotoId photo, Saving offered, Sight sight, CancellationToken ct)
    {
        if (await access.PhotoAsync(photo, sight, ct) is not { } thing || !access.May(sight.Viewer, Right.Save, new PhotoToSave(thing, offered)))
        {
            return (false, null);
        }

        Interlocked.Increment(ref waiting);
        try
        {
            await hands.WaitAsync(ct);
        }
        finally
        {
            Interlocked.Decrement(ref waiting);
        }

        try
        {
            return (true, await leaving.SavedAsync(photo, offered == Saving.Full ? null : Renditions.Widths[^1], ct));
        }
        finally
        {
            hands.Release();
        }
    }

    public void Dispose() => hands.Dispose();
}
