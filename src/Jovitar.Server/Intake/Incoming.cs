using Jovitar.Core;

namespace Jovitar.Server.Intake;

/// <summary>Something on its way in: what it is called, where it lay, and which entry of a ZIP or which upload it was.</summary>
/// <param name="Path">The folders it lay in, <c>day 2/pier</c>; empty for none.</param>
internal sealed record Incoming(string FileName, string Path = "")
{
    const int LongestName = 200;
    const int LongestPath = 600;

    public Guid? Unpacking { get; init; }

    public int? Entry { get; init; }

    public UploadId? Upload { get; init; }

    /// <summary>When it was changed last, as its computer says, milliseconds since 1970; null when nobody says.</summary>
    public long? Changed { get; init; }

    /// <summary>What was done to its name, a sentence; null when it is as it came.</summary>
    public string? Remark { get; init; }

    /// <summary>A name and a path as a browser or a ZIP gives them, cleaned of what no file is called.</summary>
    public static Incoming Named(string name, string? path = null)
    {
        var parts = $"{path}/{name}".Split('/', '\\').Select(Text.Name).Where(p => p.Length > 0 && p is not ("." or "..")).ToArray();
        var file = parts.Length == 0 ? "unnamed" : parts[^1];
        var folders = string.Join('/', parts.SkipLast(1));
        var cut = file.Length > LongestName || folders.Length > LongestPath;
        return new Incoming(Text.CutFront(file, LongestName), Text.Cut(folders, LongestPath))
        {
            Remark = cut ? $"Its name was longer than {LongestName} characters, or its folders' than {LongestPath}, and was cut." : null,
        };
    }
}
