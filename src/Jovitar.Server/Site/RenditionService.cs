using System.Collections.Concurrent;
using Jovitar.Core.Access;
using Jovitar.Core.Corrections;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Watermarks;
using Microsoft.Extensions.Caching.Memory;

namespace Jovitar.Server.Site;

/// <summary>Finds renditions for requests: whether visitors may have them, and their bytes, made at once when it is not there yet.</summary>
internal sealed class RenditionService(AccessStore access, WatermarkStore watermarks, Storage storage) : IDisposable
{
    /// <summary>What somebody might have a moment ago they may have still: a decision in favour is kept this long, a refusal never.</summary>
    static readonly TimeSpan Kept = TimeSpan.FromSeconds(3);

    /// <summary>How well the picture beside a link is kept, 1 to 100.</summary>
    const int CardQuality = 82;

    readonly MemoryCache decisions = new(new MemoryCacheOptions { SizeLimit = 100_000 });
    readonly ConcurrentDictionary<string, Lazy<Task>> making = new();

    /// <summary>Renditions made for requests keep off each other's processors.</summary>
    readonly SemaphoreSlim hands = new(Environment.ProcessorCount);

    /// <summary>A rendition, or null when there is none or who asks may not have it.</summary>
    /// <remarks>
    /// Visitors get photos as they are corrected now, with the watermark where they get them so, and no other picture of the same original.
    /// Who may see originals gets the uncorrected one too, and what is still there of earlier corrections and watermarks.
    /// </remarks>
    public Task<Stored?> FindAsync(string picture, int width, Sight sight, CancellationToken ct) =>
        Renditions.Widths.Contains(width)
            ? FindAsync(picture, StorageKeys.Rendition(picture, width), size => Renditions.For(size.Width).Contains(width), (path, correction, stamp) => Picture.Render(path, [width], correction, stamp)[0].Bytes, sight, ct, width)
            : Task.FromResult<Stored?>(null);

    /// <summary>The picture that others show beside a link, or null when there is none or not everyone may have it.</summary>
    public Task<Stored?> CardAsync(string picture, Sight everyone, CancellationToken ct) =>
        FindAsync(picture, StorageKeys.Card(picture), _ => true, (path, correction, stamp) => Picture.Jpeg(path, Renditions.CardEdge, CardQuality, correction, stamp), everyone, ct);

    /// <param name="width">Of a rendition, pixels; null for what is always made from the original.</param>
    async Task<Stored?> FindAsync(string picture, string key, Func<PixelSize, bool> isMade, Func<string, Correction, Stamp?, byte[]> make, Sight sight, CancellationToken ct, int? width = null)
    {
        if (!PictureName.TryRead(picture, out var name))
        {
            return null;
        }

        if (await KnownAsync(picture, key, sight) is { } known)
        {
            return known;
        }

        var photos = await access.PicturesAsync(Convert.FromHexString(name.Hash), sight, ct);
        var seen = photos.FirstOrDefault(p => p.Correction.Key == name.Key && access.MarkOf(p.Thing, sight) == name.Mark && access.May(sight.Viewer, Right.See, p.Thing));
        if (seen is null && !photos.Any(p => access.May(sight.Viewer, Right.SeeOriginal, p.Thing)))
        {
            return null;
        }

        if (seen is not null && !sight.Viewer.IsStaff)
        {
            decisions.Set((picture, sight.Key), true, new MemoryCacheEntryOptions { Size = 1, AbsoluteExpirationRelativeToNow = Kept });
        }

        if (await storage.FindAsync(key) is { } there)
        {
            return there;
        }

        var correction = name.Key.Length == 0 ? Correction.None : seen?.Correction;
        if (correction is null || Framing.Size(correction, photos[0].Original) is var size && !isMade(size))
        {
            return null;
        }

        if (name.Mark.Length == 0)
        {
            return await MakeAsync(StorageKeys.Original(name.Hash), path => make(path, correction, null), key) ? await storage.FindAsync(key) : null;
        }

        // Another watermark has taken its place since: nothing is made with this one any more.
        if (await watermarks.StampAsync(name.Mark, ct) is not { } stamp)
        {
            return null;
        }

        var wider = width is { } across ? await WiderAsync(name, across, size.Width) : null;
        return await MakeAsync(wider ?? StorageKeys.Original(name.Hash), path => wider is null ? make(path, correction, stamp) : Picture.Marked(path, width!.Value, stamp), key) ? await storage.FindAsync(key) : null;
    }

    /// <summary>A rendition that is there and that they are known to be let have; null when that must be looked up first.</summary>
    public ValueTask<Stored?> KnownAsync(string picture, int width, Sight sight) => KnownAsync(picture, StorageKeys.Rendition(picture, width), sight);

    ValueTask<Stored?> KnownAsync(string picture, string key, Sight sight) => !sight.Viewer.IsStaff && decisions.TryGetValue((picture, sight.Key), out bool _) ? storage.FindAsync(key) : ValueTask.FromResult<Stored?>(null);

    /// <summary>The nearest wider rendition without watermark that is there, from which one is made in a part of the time that the original would take.</summary>
    async Task<string?> WiderAsync(PictureName name, int width, int originalWidth)
    {
        foreach (var wider in Renditions.Above(width, originalWidth))
        {
            if (StorageKeys.Rendition(name.Unmarked.ToString(), wider) is var key && await storage.FindAsync(key) is not null)
            {
                return key;
            }
        }

        return null;
    }

    /// <param name="from">What it is made from, as it is stored.</param>
    async Task<bool> MakeAsync(string from, Func<string, byte[]> make, string key)
    {
        var task = making.GetOrAdd(key, _ => new Lazy<Task>(() => Task.Run(async () =>
        {
            await hands.WaitAsync();
            try
            {
                if (await storage.FindAsync(key) is null)
                {
                    using var original = await storage.LocalAsync(from) ?? throw new PictureException("The original is not there.", cutShort: false);
                    await storage.PutMadeAsync(key, make(original.Path), CancellationToken.None);
                }
            }
            finally
            {
                hands.Release();
                making.TryRemove(key, out Lazy<Task>? _);
            }
        })));
        try
        {
            await task.Value;
            return true;
        }
        catch (PictureException)
        {
            return false;
        }
    }

    public void Dispose()
    {
        decisions.Dispose();
        hands.Dispose();
    }
}
