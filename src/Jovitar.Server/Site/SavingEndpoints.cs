using System.Runtime.CompilerServices;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Describing;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;
using Jovitar.Core.Records;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Describing;
using Jovitar.Server.Platform;
using Jovitar.Server.Watermarks;
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
            app.MapGet($"{PageVersion.PathOf(kind, "{address}")}/save", (string address, [FromQuery(Name = "in")] int? walk, HttpContext http, SiteDoor door, SavingDoor saving, SightStore sights, CancellationToken ct) =>
                SaveAllAsync(kind, address, walk ?? 1, http, door, saving, sights, ct)).AllowAnonymous().ExcludeFromDescription();
        }
    }

    static async Task<Results<FileStreamHttpResult, NotFound<Problem>, JsonHttpResult<Problem>>> SaveAsync(
        SiteKind kind, string address, PhotoId photo, int walk, HttpContext http, SiteDoor door, SavingDoor saving, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        var sight = await door.SightAsync(http, ct);
        if (await FindAsync(kind, address, walk, sight, door, ct) is not var (version, _, here) || here.Photos.All(p => p.Id != photo))
        {
            return Problems.Gone("photo");
        }

        if (saving.IsBusy)
        {
            return Busy(http);
        }

        var (allowed, found) = await saving.SaveAsync(photo, here.Press.Save, sight, ct);
        if (found is not null)
        {
            door.Note(http, Recorded.Saved, version, sight, photo);
        }

        return !allowed ? Problems.Json(StatusCodes.Status403Forbidden, "forbidden", "This photo is not offered to be saved.")
            : found is var (name, bytes) ? TypedResults.Stream(bytes, "application/octet-stream", name)
            : Problems.Gone("photo");
    }

    static async Task<Results<PushStreamHttpResult, NotFound<Problem>, JsonHttpResult<Problem>>> SaveAllAsync(
        SiteKind kind, string address, int walk, HttpContext http, SiteDoor door, SavingDoor saving, SightStore sights, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        var sight = await door.SightAsync(http, ct);
        if (await FindAsync(kind, address, walk, sight, door, ct) is not var (version, page, here))
        {
            return Problems.Gone("page");
        }

        if (!here.SavesAll)
        {
            return Problems.Json(StatusCodes.Status403Forbidden, "forbidden", "These photos are not offered to be saved all at once.");
        }

        if (saving.IsBusy || sight.KnownTo(Core.Access.Access.GatesOf(version.Thing)) is not { } who || saving.BeginAll(who) is not { } turn)
        {
            return Busy(http);
        }

        http.Response.RegisterForDispose(turn);
        if (!Heads.IsHead(http))
        {
            door.Note(http, Recorded.SavedAll, version, sight);
        }

        IReadOnlyList<PhotoId> photos = [.. here.Photos.Select(p => p.Id)];
        return TypedResults.Stream(
            to => Heads.IsHead(http) ? Task.CompletedTask : LeavingStore.ZipSavedAsync(EachAsync(photos, http.RequestAborted), to, http.RequestAborted), "application/zip", new LeavingNames().Next($"{page.Title}.zip"));

        // Each is asked for anew when its turn comes: what was withdrawn meanwhile does not leave any more.
        async IAsyncEnumerable<(string FileName, Stream Bytes)?> EachAsync(IEnumerable<PhotoId> all, [EnumeratorCancellation] CancellationToken stop)
        {
            foreach (var photo in all)
            {
                var then = await sights.AgainAsync(http, stop);
                if (await FindAsync(kind, address, walk, then, door, stop) is var (_, _, now) && now.SavesAll && await saving.SaveAsync(photo, now.Press.Save, then, stop) is (true, var found))
                {
                    yield return found;
                }
            }
        }
    }

    static JsonHttpResult<Problem> Busy(HttpContext http)
    {
        http.Response.Headers.RetryAfter = "10";
        return Problems.Json(StatusCodes.Status503ServiceUnavailable, "busy", "Many are saving photos just now. Try again in a moment.");
    }

    /// <summary>The photos of a page that belong together, as a visitor has them now.</summary>
    static async Task<(PageVersion Version, SitePage Page, Walk Walk)?> FindAsync(SiteKind kind, string address, int walk, Sight sight, SiteDoor door, CancellationToken ct) =>
        await door.FindAsync(kind, address, sight, ct) is { } version && await door.Renderer.ModelAsync(version) is { } page && page.Walks.FirstOrDefault(w => w.Number == walk) is { } here ? (version, page, here) : null;
}

/// <summary>Lets photos out to visitors: whether they may have them, and a few at a time, for each is made when it is asked for.</summary>
internal sealed class SavingDoor(AccessStore access, LeavingStore leaving, WatermarkStore watermarks) : IDisposable
{
    /// <summary>So many may wait; others are told to come again.</summary>
    const int MostWaiting = 32;

    /// <summary>So many fetch everything at once at the same time, and so many of one link or member: who reads slowly does not keep out all others.</summary>
    const int MostAll = 8;
    const int MostAllOfOne = 2;

    readonly Dictionary<KnownAs, int> alls = [];
    readonly SemaphoreSlim hands = new(Math.Max(1, Environment.ProcessorCount / 2));
    int waiting;

    public bool IsBusy => Volatile.Read(ref waiting) >= MostWaiting;

    /// <summary>A photo in the form that a page offers.</summary>
    /// <returns>Whether it may be saved there, and what it is called and its bytes; null when it is not here.</returns>
    public async Task<(bool Allowed, (string FileName, Stream Bytes)? Found)> SaveAsync(PhotoId photo, Saving offered, Sight sight, CancellationToken ct)
    {
        if (await access.PhotoAsync(photo, sight, ct) is not { } thing)
        {
            return (false, null);
        }

        var form = Reserve.Saves(thing.Reserves, sight.Viewer, offered);
        if (!access.May(sight.Viewer, Right.Save, new PhotoToSave(thing, form)))
        {
            return (false, null);
        }

        return await InTurnAsync<(bool, (string, Stream)?)>(
            async () =>
            {
                // Whoever gets it with the watermark gets it so in every form; where that is another by now, they ask again.
                var mark = access.MarkOf(thing, sight);
                var stamp = mark.Length == 0 ? null : await watermarks.StampAsync(mark, ct);
                return (true, mark.Length > 0 && stamp is null ? null : await leaving.SavedAsync(photo, form == Saving.Full ? null : Renditions.Widths[^1], stamp, ct));
            },
            ct);
    }

    /// <summary>A photo as it was sold: whoever paid for it gets it without the watermark, and also when the site does not show it any more, or it lies in the bin.</summary>
    /// <param name="edge">The longer edge, pixels; null for its full size.</param>
    /// <returns>What it is called and its bytes; null when it is not here.</returns>
    public Task<(string FileName, Stream Bytes)?> SoldAsync(PhotoId photo, int? edge, CancellationToken ct) => InTurnAsync(() => leaving.SavedAsync(photo, edge, null, ct, fromBin: true), ct);

    async Task<T> InTurnAsync<T>(Func<Task<T>> make, CancellationToken ct)
    {
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
            return await make();
        }
        finally
        {
            hands.Release();
        }
    }

    /// <summary>Takes one of the turns of those who fetch everything at once; null where all are taken, or as many as one may have.</summary>
    public IDisposable? BeginAll(KnownAs who)
    {
        lock (alls)
        {
            if (alls.Values.Sum() >= MostAll || alls.GetValueOrDefault(who) >= MostAllOfOne)
            {
                return null;
            }

            alls[who] = alls.GetValueOrDefault(who) + 1;
            return new Turn(this, who);
        }
    }

    void EndAll(KnownAs who)
    {
        lock (alls)
        {
            if (--alls[who] == 0)
            {
                alls.Remove(who);
            }
        }
    }

    sealed class Turn(SavingDoor door, KnownAs who) : IDisposable
    {
        int given;

        public void Dispose()
        {
            if (Interlocked.Exchange(ref given, 1) == 0)
            {
                door.EndAll(who);
            }
        }
    }

    public void Dispose() => hands.Dispose();
}
