using System.Collections.Concurrent;
using Jovitar.Core.Access;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Microsoft.Extensions.Caching.Memory;

namespace Jovitar.Server.Site;

/// <summary>Finds renditions for requests: whether visitors may have them, and the file, made at once when it is not there yet.</summary>
internal sealed class RenditionService(AccessStore access, Storage storage) : IDisposable
{
    /// <summary>A photo that was public a moment ago still is: a decision in favour is kept this long, a refusal never.</summary>
    static readonly TimeSpan Kept = TimeSpan.FromSeconds(5);

    readonly MemoryCache decisions = new(new MemoryCacheOptions { SizeLimit = 100_000 });
    readonly ConcurrentDictionary<string, Lazy<Task>> making = new();

    /// <summary>Renditions made for requests keep off each other's processors.</summary>
    readonly SemaphoreSlim hands = new(Environment.ProcessorCount);

    /// <summary>The file of a rendition, or null when there is none or this viewer may not have it.</summary>
    public async Task<string?> FindAsync(string hash, int width, Viewer viewer, CancellationToken ct)
    {
        if (hash.Length != 64 || !hash.All(char.IsAsciiHexDigitLower) || !Renditions.Widths.Contains(width))
        {
            return null;
        }

        var path = storage.Rendition(hash, width);
        if (decisions.TryGetValue(hash, out bool _) && File.Exists(path))
        {
            return path;
        }

        if (await access.PhotoAsync(Convert.FromHexString(hash), ct) is not var (photo, originalWidth) || !access.May(viewer, Right.See, photo))
        {
            return null;
        }

        if (access.May(Viewer.Nobody, Right.See, photo))
        {
            decisions.Set(hash, true, new MemoryCacheEntryOptions { Size = 1, AbsoluteExpirationRelativeToNow = Kept });
        }

        if (File.Exists(path))
        {
            return path;
        }

        return Renditions.For(originalWidth).Contains(width) && await MakeAsync(hash, width, path) ? path : null;
    }

    /// <summary>The file of a rendition that is known to be public and there; null when that must be looked up first.</summary>
    public FileInfo? Known(string hash, int width) =>
        decisions.TryGetValue(hash, out bool _) && new FileInfo(storage.Rendition(hash, width)) is { Exists: true } file ? file : null;

    async Task<bool> MakeAsync(string hash, int width, string path)
    {
        var task = making.GetOrAdd(path, _ => new Lazy<Task>(() => Task.Run(async () =>
        {
            await hands.WaitAsync();
            try
            {
                if (!File.Exists(path))
                {
                    Picture.Render(storage.Original(hash), [new RenditionTarget(width, path)]);
                }
            }
            finally
            {
                hands.Release();
                making.TryRemove(path, out Lazy<Task>? _);
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
