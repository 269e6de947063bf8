namespace Jovitar.Core.Describing;

/// <summary>Names of files that leave together: no two of them the same on any disk, whatever the case.</summary>
public sealed class LeavingNames
{
    /// <summary>UTF-16 code units of a name, its ending and a number with it.</summary>
    const int Longest = 180;

    /// <summary>What disks do not take in names (Windows takes the least of them).</summary>
    const string NotTaken = "<>:\"/\\|?*";

    readonly HashSet<string> used = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>The next name: as it is, or with a number behind it.</summary>
    /// <param name="name">What it is called here.</param>
    /// <param name="ending">Another ending, with its dot; null for its own.</param>
    public string Next(string name, string? ending = null)
    {
        var clean = string.Concat(Text.Name(name).Select(c => NotTaken.Contains(c, StringComparison.Ordinal) ? '-' : c)).Trim().TrimEnd(' ', '.');
        var own = Path.GetExtension(clean);
        var bare = Text.Cut(own.Length is > 0 and < 12 ? clean[..^own.Length] : clean, Longest).TrimEnd(' ', '.');
        if (bare.Length == 0)
        {
            bare = "photo";
        }

        ending ??= own.Length < 12 ? own : "";
        var next = bare + ending;
        for (var n = 2; !used.Add(next); n++)
        {
            next = $"{bare} ({n}){ending}";
        }

        return next;
    }
}
