namespace Jovitar.Core.Intake;

/// <summary>
/// Sidecars: files of XMP that lie in the same folder as a photo and say its words. They bear the photo's whole name with
/// <c>.xmp</c> behind it, or <c>.xmp</c> in place of its ending (common practice).
/// </summary>
public static class SidecarNames
{
    const string Ending = ".xmp";

    /// <summary>The largest sidecar, bytes: words are short, yet programs keep small pictures in them, too.</summary>
    public const long Most = 4L << 20;

    public static bool IsSidecar(string fileName) => fileName.Length > Ending.Length && fileName.EndsWith(Ending, StringComparison.OrdinalIgnoreCase);

    /// <summary>What a sidecar lies beside: the photo's name, or its name without ending, in small letters.</summary>
    /// <exception cref="ArgumentException">The name is no sidecar's.</exception>
    public static string Beside(string sidecar) =>
        IsSidecar(sidecar) ? sidecar[..^Ending.Length].ToLowerInvariant() : throw new ArgumentException("A sidecar's name ends with .xmp.", nameof(sidecar));

    /// <summary>What its sidecars may lie beside, the closest first: the photo's name, and its name without ending.</summary>
    public static IReadOnlyList<string> Of(string photo)
    {
        var name = photo.ToLowerInvariant();
        var stem = Path.GetFileNameWithoutExtension(name);
        return stem.Length == 0 || stem == name ? [name] : [name, stem];
    }

    /// <summary>What a photo and all its sidecars have in common, whichever way those are called: the name up to its first dot, in small letters.</summary>
    public static string Common(string fileName) => fileName.ToLowerInvariant().Split('.')[0];
}
