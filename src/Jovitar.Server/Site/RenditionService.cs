using System.Collections.Concurrent;
using Jovitar.Core.Access;
using Jovitar.Core.Corrections;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform.Storing;
using Microsoft.Extensions.Caching.Memory;

namespace Jovitar.Server.Site;

/// <summary>Finds renditions for requests: whether visitors may have them, and their bytes, made at once when it is not there yet.</summary>
internal sealed class RenditionService(AccessStore access, Storage storage) : IDisposable
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
    /// Visitors get photos as they are corrected now, and no other picture of the same original. Who may see originals gets the
    /// uncorrected one too, and what is still there of earlier corrections.
    /// </remarks>
    public Task<Stored?> FindAsync(string picture, int width, Sight sight, CancellationToken ct) =>
        Renditions.Widths.Contains(width)
            ? FindAsync(picture, StorageKeys.Rendition(picture, width), size => Renditions.For(size.Width).Contains(width), (path, correction) => Picture.Render(path, [width], correction)[0].Bytes, sight, ct)
            : Task.FromResult<Stored?>(null);

    /// <summary>The picture that others show beside a link, or null when there is none or not everyone may have it.</summary>
    public Task<Stored?> CardAsync(string picture, Sight everyone, CancellationToken ct) =>
        FindAsync(picture, StorageKeys.Card(picture), _ => true, (path, correction) => Picture.Jpeg(path, Renditions.CardEdge, CardQuality, correction), everyone, ct);

    async Task<Stored?> FindAsync(string picture, string key, Func<PixelSize, bool> isMade, Func<string, Correction, byte[]> make, Sight sight, CancellationToken ct)
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
        var seen = photos.FirstOrDefault(p => p.Correction.Key == name.Key && access.May(sight.Viewer, Right.See, p.Thing));
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
        return correction is not null && isMade(Framing.Size(correction, photos[0].Original)) && await MakeAsync(name, path => make(path, correction), key)
            ? await storage.FindAsync(key)
            : null;
    }

    /// <summary>A rendition that is there and that they are known to be let have; null when that must be looked up first.</summary>
    public ValueTask<Stored?> KnownAsync(string picture, int width, Sight sight) => KnownAsync(picture, StorageKeys.Rendition(picture, width), sight);

    ValueTask<Stored?> KnownAsync(string picture, string key, Sight sight) => !sight.Viewer.IsStaff && decisions.TryGetValue((picture, sight.Key), out bool _) ? storage.FindAsync(key) : ValueTask.FromResult<Stored?>(null);

    async Task<bool> MakeAsync(PictureName name, Func<string, byte[]> make, string key)
    {
        var task = making.GetOrAdd(key, _ => new Lazy<Task>(() => Task.Run(async () =>
        {
            await hands.WaitAsync();
            try
            {
                if (await storage.FindAsync(key) is null)
                {
                    using var original = await storage.LocalAsync(StorageKeys.Original(name.Hash)) ?? throw new PictureException("The original is not there.", cutShort: false);
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
