namespace Jovitar.Core.Intake;

/// <summary>What files are called, as far as it tells how large they may be. The content decides; this spares sending in vain.</summary>
public static class Endings
{
    static readonly Dictionary<string, Func<IntakeLimits, long>> Limits = new(StringComparer.OrdinalIgnoreCase);

    static Endings()
    {
        void Add(Func<IntakeLimits, long> limit, params ReadOnlySpan<string> endings)
        {
            foreach (var ending in endings)
            {
                Limits[ending] = limit;
            }
        }

        Add(l => l.Bytes, [.. Pictures]);
        Add(l => l.SoundBytes, ".mp3", ".m4a", ".ogg");
        Add(l => l.VideoBytes, ".mp4", ".webm");
        Add(l => l.DocumentBytes, ".pdf");
        Add(l => l.ArchiveBytes, ".zip");
        Add(_ => SidecarNames.Most, ".xmp");
    }

    /// <summary>What photos are called. A file that calls itself so and is none is refused rather than kept as something else.</summary>
    public static IReadOnlyList<string> Pictures { get; } = [".jpg", ".jpeg", ".jpe", ".png", ".webp", ".tif", ".tiff", ".avif", ".gif", ".heic", ".bmp", ".psd"];

    public static bool IsPicture(string fileName) => Pictures.Contains(Path.GetExtension(fileName), StringComparer.OrdinalIgnoreCase);

    /// <summary>The most bytes a file of this name may have.</summary>
    public static long Most(string fileName, IntakeLimits limits) => Limits.TryGetValue(Path.GetExtension(fileName), out var limit) ? limit(limits) : limits.Most;

    /// <summary>The same for every ending there is a limit of, for those who ask before they send.</summary>
    public static IReadOnlyDictionary<string, long> All(IntakeLimits limits) => Limits.ToDictionary(l => l.Key, l => l.Value(limits));
}
