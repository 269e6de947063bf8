using System.Collections.Concurrent;
using Jovitar.Core.Access;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Server.Access;
using Jovitar.Server.Platform.Storing;
using Microsoft.Extensions.Caching.Memory;

namespace Jovitar.Server.Site;

/// <summary>Finds renditions for requests: whether visitors may have them, and their bytes, made at once when it is not there yet.</summary>
internal sealed class RenditionService(AccessStore access, Storage storage) : IDisposable
{
    /// <summary>A photo that was public a moment ago still is: a decision in favour is kept this long, a refusal never.</summary>
    static readonly TimeSpan Kept = TimeSpan.FromSeconds(5);

    readonly MemoryCache decisions = new(new MemoryCacheOptions { SizeLimit = 100_000 });
    readonly ConcurrentDictionary<string, Lazy<Task>> making = new();

    /// <summary>Renditions made for requests keep off each other's processors.</summary>
    readonly SemaphoreSlim hands = new(Environment.ProcessorCount);

    /// <summary>A rendition, or null when there is none or this viewer may not have it.</summary>
    public async Task<Stored?> FindAsync(string hash, int width, Viewer viewer, CancellationToken ct)
    {
        if (hash.Length != 64 || !hash.All(char.IsAsciiHexDigitLower) || !Renditions.Widths.Contains(width))
        {
            return null;
        }

        if (await KnownAsync(hash, width) is { } known)
        {
            return known;
        }

        if (await access.PhotoAsync(Convert.FromHexString(hash), ct) is not var (photo, originalWidth) || !access.May(viewer, Right.See, photo))
        {
            return null;
        }

        if (access.May(Viewer.Nobody, Right.See, photo))
        {
            decisions.Set(hash, true, new MemoryCacheEntryOptions { Size = 1, AbsoluteExpirationRelativeToNow = Kept });
        }

        var key = StorageKeys.Rendition(hash, width);
        if (await storage.FindAsync(key) is { } there)
        {
            return there;
        }

        return Renditions.For(originalWidth).Contains(width) && await MakeAsync(hash, width, key) ? await storage.FindAsync(key) : null;
    }

    /// <summary>A rendition that is known to be public and there; null when that must be looked up first.</summary>
    public ValueTask<Stored?> KnownAsync(string hash, int width) =>
        decisions.TryGetValue(hash, out bool _) ? storage.FindAsync(StorageKeys.Rendition(hash, width)) : ValueTask.FromResult<Stored?>(null);

    async Task<bool> MakeAsync(string hash, int width, string key)
    {
        var task = making.GetOrAdd(key, _ => new Lazy<Task>(() => Task.Run(async () =>
        {
            await hands.WaitAsync();
            try
            {
                if (await storage.FindAsync(key) is null)
                {
                    using var original = await storage.LocalAsync(StorageKeys.Original(hash)) ?? throw new PictureException("The original is not there.", cutShort: false);
                    foreach (var made in Picture.Render(original.Path, [width]))
                    {
                        await storage.PutMadeAsync(key, made.Bytes, CancellationToken.None);
                    }
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
