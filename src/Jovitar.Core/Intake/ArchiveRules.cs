namespace Jovitar.Core.Intake;

/// <summary>What a ZIP may hold: enough for every real folder of photographs, too little for one made to do harm.</summary>
/// <remarks>
/// A photograph hardly shrinks when it is packed; deflate at its best makes 1032 bytes of one (RFC 1951 allows 258 bytes for
/// two bits), which only files made for the purpose reach. The limits are common practice.
/// </remarks>
public static class ArchiveRules
{
    /// <summary>Most files and folders.</summary>
    public const int MostEntries = 20_000;

    /// <summary>Bytes a packed byte may become.</summary>
    public const int MostRatio = 100;

    /// <summary>Below this size a file may be packed as densely as it likes, bytes.</summary>
    public const long RatioFrom = 1 << 20;

    /// <summary>How much larger than the ZIP all that it holds may be.</summary>
    public const int MostTimes = 10;

    /// <summary>Whether a file is packed more densely than any photograph.</summary>
    /// <param name="packed">Bytes in the ZIP.</param>
    /// <param name="unpacked">Bytes when unpacked, as declared or as counted so far.</param>
    public static bool IsTooDense(long packed, long unpacked) => unpacked > RatioFrom && unpacked / MostRatio > packed;

    /// <summary>Whether all that a ZIP declares to hold is too much.</summary>
    /// <param name="archive">Bytes of the ZIP.</param>
    /// <param name="unpacked">What each of its files says it comes to, bytes; as much as a 64-bit number holds, each.</param>
    public static bool IsTooLarge(long archive, IEnumerable<long> unpacked)
    {
        var most = (Int128)Math.Max(archive, RatioFrom) * MostTimes;
        Int128 sum = 0;
        return unpacked.Any(bytes => bytes < 0 || (sum += bytes) > most);
    }

    /// <summary>Whether a name stays inside the folder it is unpacked to: no way up, no root, no drive, no control characters.</summary>
    /// <param name="isLink">The entry is a symbolic link (its Unix mode says so).</param>
    public static bool IsSafe(string name, bool isLink) =>
        !isLink && name.Length is > 0 and <= 1000 && name[0] is not ('/' or '\\') && !name.Any(char.IsControl) && !(name.Length > 1 && name[1] == ':')
        && !name.Split('/', '\\').Contains("..");

    /// <summary>What computers put beside photographs for themselves, by name.</summary>
    public static IReadOnlyList<string> Litter { get; } = [".DS_Store", "Thumbs.db", "desktop.ini"];

    /// <summary>The same, by how names begin.</summary>
    public const string LitterBegins = "._";

    /// <summary>Whether nobody wants to be told of it.</summary>
    public static bool IsLitter(string name)
    {
        var parts = name.Split('/', '\\');
        return parts.Contains("__MACOSX") || Litter.Contains(parts[^1]) || parts[^1].StartsWith(LitterBegins, StringComparison.Ordinal);
    }
}
