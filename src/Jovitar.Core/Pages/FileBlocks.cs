using System.Text.Json.Serialization;

namespace Jovitar.Core.Pages;

/// <summary>A file that visitors may save.</summary>
/// <param name="Words">What it is called there; empty for the file's own name.</param>
public sealed record OfferedFile(FileId File, string Words)
{
    public const int Longest = 200;
}

/// <summary>Files for visitors to save. They are public because they stand here.</summary>
/// <param name="Files">In their order.</param>
public sealed record FilesBlock(BlockId Id, BlockFrame Frame, IReadOnlyList<OfferedFile> Files) : Block(Id, Frame)
{
    public const int Most = 100;

    public override string? Fault() =>
        Files.Count > Most ? $"A block may have {Most} files."
        : Files.Any(f => f.Words.Length > OfferedFile.Longest) ? $"What a file is called may have {OfferedFile.Longest} characters."
        : null;
}

/// <summary>A sound of one's own, played where it stands.</summary>
/// <param name="File">Null for none yet.</param>
/// <param name="Line">Words above it.</param>
public sealed record SoundBlock(BlockId Id, BlockFrame Frame, FileId? File, string Line) : Block(Id, Frame)
{
    public override string? Fault() => Line.Length > PhotoBlock.LongestLine ? $"The line of a sound may have {PhotoBlock.LongestLine} characters." : null;
}

/// <summary>Where a video lies. Kept by name.</summary>
public enum VideoFrom
{
    /// <summary>It is a file of one's own.</summary>
    File,

    /// <summary>Elsewhere: nothing is asked of that address before a visitor says so.</summary>
    Address,
}

/// <summary>The shape of a video's frame. Kept by name.</summary>
public enum VideoShape
{
    /// <summary>16 to 9.</summary>
    Wide,

    /// <summary>4 to 3.</summary>
    Classic,
    Square,

    /// <summary>9 to 16.</summary>
    Upright,
}

/// <summary>A video.</summary>
/// <param name="File">Of one's own; null for none yet. Kept while the video lies elsewhere.</param>
/// <param name="Address">Where it lies elsewhere: a page that may stand in a frame, or a video file; empty for nowhere yet.</param>
/// <param name="Still">The photo that stands there until it is played; null for none.</param>
/// <param name="Line">Words beneath it.</param>
public sealed record VideoBlock(BlockId Id, BlockFrame Frame, VideoFrom From, FileId? File, string Address, VideoShape Shape, PhotoId? Still, string Line) : Block(Id, Frame)
{
    /// <summary>Width by height of a frame.</summary>
    public static double ShapeOf(VideoShape shape) => shape switch
    {
        VideoShape.Wide => 16.0 / 9,
        VideoShape.Classic => 4.0 / 3,
        VideoShape.Square => 1,
        _ => 9.0 / 16,
    };

    /// <summary>Where the video lies if it lies elsewhere; null where that is nowhere. Only https: nobody between can see or change what is shown.</summary>
    [JsonIgnore]
    public Uri? Elsewhere => From == VideoFrom.Address ? Read(Address) : null;

    /// <summary>Browsers play what is at the address by themselves, as far as its name tells; else it is a page that stands in a frame.</summary>
    public static bool IsPlayed(Uri elsewhere) => Path.GetExtension(elsewhere.AbsolutePath).ToLowerInvariant() is ".mp4" or ".m4v" or ".mov" or ".webm" or ".ogv";

    static Uri? Read(string address) =>
        Uri.TryCreate(address.Trim(), UriKind.Absolute, out var uri) && uri.Scheme == "https" && uri.UserInfo.Length == 0 && uri.HostNameType is UriHostNameType.Dns or UriHostNameType.IPv4 ? uri : null;

    public override string? Fault() =>
        Line.Length > PhotoBlock.LongestLine ? $"The line beneath a video may have {PhotoBlock.LongestLine} characters."
        : Address.Length > LinkTo.Longest ? $"An address may have {LinkTo.Longest:#,0} characters."
        : From == VideoFrom.Address && Address.Length > 0 && Elsewhere is null ? "The address of a video begins with https://."
        : null;
}

/// <summary>How visitors reach somebody. What is empty is left out.</summary>
/// <param name="Name">Of a person or a place.</param>
/// <param name="Where">A postal address, a line each.</param>
/// <param name="Phone">As it is to be read.</param>
/// <param name="Mail">A mail address.</param>
public sealed record ContactBlock(BlockId Id, BlockFrame Frame, string Name, string Where, string Phone, string Mail) : Block(Id, Frame)
{
    public const int LongestLine = 120;
    public const int LongestWhere = 500;
    public const int LongestPhone = 40;

    /// <summary>Longest mail address that can be delivered to (RFC 5321 §4.5.3.1.3, without the angle brackets).</summary>
    public const int LongestMail = 254;

    /// <summary>Nobody could be reached by it.</summary>
    [JsonIgnore]
    public bool IsEmpty => Name.Length + Where.Length + Phone.Length + Mail.Length == 0;

    /// <summary>The number as a link dials it (RFC 3966): digits, and a plus before them. A zero in brackets is not dialled where a number begins with a plus.</summary>
    [JsonIgnore]
    public string Dialled
    {
        get
        {
            var digits = string.Concat(Phone.Replace("(0)", Phone.Contains('+', StringComparison.Ordinal) ? "" : "0", StringComparison.Ordinal).Where(char.IsAsciiDigit));
            return Phone.TrimStart(' ', '(').StartsWith('+') ? $"+{digits}" : digits;
        }
    }

    public override string? Fault() =>
        Name.Length > LongestLine ? $"A name may have {LongestLine} characters."
        : Where.Length > LongestWhere ? $"A postal address may have {LongestWhere} characters."
        : Phone.Length > LongestPhone || Phone.Any(c => !char.IsAsciiDigit(c) && !" +-()/.".Contains(c, StringComparison.Ordinal)) ? "A telephone number has digits, spaces and + - ( ) / . alone."
        : Mail.Length > 0 && !IsMail(Mail) ? "A mail address is like name@example.org."
        : null;

    static bool IsMail(string mail) =>
        mail.Length <= LongestMail && mail.Split('@') is [{ Length: > 0 }, { Length: > 0 } domain] && !mail.Any(c => char.IsWhiteSpace(c) || char.IsControl(c) || "?&#%<>\"\\,;:()[]".Contains(c, StringComparison.Ordinal))
        && domain.Split('.') is { Length: > 1 } parts && parts.All(p => p.Length > 0);
}
