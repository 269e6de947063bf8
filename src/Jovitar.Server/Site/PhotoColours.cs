using Jovitar.Core.Photos;
using Jovitar.Core.Themes;
using Jovitar.Imaging;
using Jovitar.Server.Platform.Storing;
using Microsoft.Extensions.Caching.Memory;

namespace Jovitar.Server.Site;

/// <summary>The colours of photos that lie behind words, from their smallest renditions.</summary>
internal sealed class PhotoColours(Storage storage) : IDisposable
{
    /// <summary>What is reckoned with where a picture has not been drawn yet.</summary>
    static readonly IReadOnlyList<Colour> Unknown = [new(0x77, 0x77, 0x77)];

    readonly MemoryCache known = new(new MemoryCacheOptions { SizeLimit = 500 });

    /// <summary>The colours of a picture, some hundreds spread over it, as if there were no watermark on it; a middle grey while it is not there.</summary>
    public async Task<IReadOnlyList<Colour>> OfAsync(string name)
    {
        var picture = PictureName.TryRead(name, out var read) ? read.Unmarked.ToString() : name;
        if (known.TryGetValue(picture, out IReadOnlyList<Colour>? before))
        {
            return before!;
        }

        using var rendition = await storage.LocalAsync(StorageKeys.Rendition(picture, Renditions.Sheet));
        if (rendition is not { } there)
        {
            return Unknown;
        }

        try
        {
            var rgb = await Task.Run(() => Imaging.Look.Colours(there.Path));
            return known.Set(picture, (IReadOnlyList<Colour>)[.. rgb.Chunk(3).Select(c => new Colour(c[0], c[1], c[2]))], new MemoryCacheEntryOptions { Size = 1 });
        }
        catch (PictureException)
        {
            return Unknown;
        }
    }

    public void Dispose() => known.Dispose();
}
