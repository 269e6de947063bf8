namespace Jovitar.Core.Intake;

/// <summary>Why something that was brought did not become a photo or a file.</summary>
public enum IntakeProblem
{
    Empty,
    TooManyBytes,
    NotAPicture,
    UnknownPicture,
    UnknownKind,
    TooManyPixels,
    CutShort,
    Unreadable,
    TriedTooOften,
    ArchiveUnreadable,
    ArchiveLocked,
    ArchiveTooMany,
    ArchiveTooLarge,
    ArchiveTooDense,
    ArchivePath,
    NotUnpacked,
    OriginalMissing,
    Unforeseen,
    ExpandsTooFar,
    TooManyAtOnce,
    SidecarUnreadable,
}

/// <summary>The site's limits for what comes in.</summary>
/// <param name="Bytes">Largest photo, bytes.</param>
/// <param name="Megapixels">Most pixels of a photo, millions.</param>
/// <param name="SoundBytes">Largest sound file, bytes.</param>
/// <param name="VideoBytes">Largest video, bytes.</param>
/// <param name="DocumentBytes">Largest document or text, bytes.</param>
/// <param name="ArchiveBytes">Largest ZIP, bytes; what it holds may come to ten times as much.</param>
public sealed record IntakeLimits(
    long Bytes = 200L << 20, int Megapixels = 200, long SoundBytes = 200L << 20, long VideoBytes = 2L << 30, long DocumentBytes = 50L << 20, long ArchiveBytes = 16L << 30)
{
    /// <summary>The largest of all: more than this is not even received.</summary>
    public long Most => Math.Max(Math.Max(Bytes, SoundBytes), Math.Max(Math.Max(VideoBytes, DocumentBytes), ArchiveBytes));
}

/// <summary>A refusal in words for the person who brought the file.</summary>
public static class IntakeRefusal
{
    /// <summary>What is wrong, and what helps.</summary>
    /// <param name="bytes">The limit in question when it is not that of photos, bytes.</param>
    public static string Sentence(IntakeProblem problem, IntakeLimits limits, long? bytes = null)
    {
        var what = What(problem, limits, bytes);
        return Remedy(problem) is { Length: > 0 } remedy ? $"{what} {remedy}" : what;
    }

    /// <summary>One sentence that says what is wrong.</summary>
    public static string What(IntakeProblem problem, IntakeLimits limits, long? bytes = null) => problem switch
    {
        IntakeProblem.Empty => "The file is empty: it has no bytes at all.",
        IntakeProblem.TooManyBytes => $"The file is larger than {(bytes ?? limits.Bytes) / 1048576:#,0} MB, the most this site takes of its kind.",
        IntakeProblem.NotAPicture => "This is not a picture, whatever its name says.",
        IntakeProblem.UnknownPicture => "This kind of picture is not taken.",
        IntakeProblem.UnknownKind => "This kind of file is not taken.",
        IntakeProblem.TooManyPixels => $"The picture has more than {limits.Megapixels} million pixels, the most this site takes.",
        IntakeProblem.TooManyAtOnce => "The picture is saved in a way that only opens all at once, and it has too many pixels for that.",
        IntakeProblem.CutShort => "The file is cut short: its end is missing.",
        IntakeProblem.Unreadable => "The picture is damaged and cannot be read.",
        IntakeProblem.ArchiveUnreadable => "The ZIP is damaged and cannot be unpacked to its end.",
        IntakeProblem.ArchiveLocked => "This file in the ZIP is locked with a password.",
        IntakeProblem.ArchiveTooMany => $"The ZIP holds more than {ArchiveRules.MostEntries:#,0} files.",
        IntakeProblem.ArchiveTooLarge => "What the ZIP holds is larger than this site takes in one.",
        IntakeProblem.ArchiveTooDense => "This file in the ZIP grows far beyond what photographs do when it is unpacked; it was left alone.",
        IntakeProblem.ArchivePath => "This file in the ZIP has a name that leads out of its folder; it was left alone.",
        IntakeProblem.NotUnpacked => "Not a photo, so it was not unpacked.",
        IntakeProblem.OriginalMissing => "Its original is not where it was kept.",
        IntakeProblem.Unforeseen => "Something went wrong here that was not foreseen; it has been noted.",
        IntakeProblem.ExpandsTooFar => "Something in this file grows far beyond what photographs hold when it is read; it was left alone.",
        IntakeProblem.SidecarUnreadable => "This should be a photo’s sidecar, but it is not XMP or is damaged, so its words are not known.",
        _ => "Work on this photo stopped three times without an end. The original is kept.",
    };

    /// <summary>One sentence that says what helps; empty when nothing does.</summary>
    public static string Remedy(IntakeProblem problem) => problem switch
    {
        IntakeProblem.Empty or IntakeProblem.CutShort or IntakeProblem.Unreadable => "Copy it again from the camera or card.",
        IntakeProblem.NotAPicture => "Photos are taken as JPEG, PNG, WebP, TIFF, AVIF or GIF.",
        IntakeProblem.UnknownPicture => "Save it as JPEG, PNG, WebP, TIFF, AVIF or GIF and bring it again.",
        IntakeProblem.UnknownKind => "Besides photos, sound, video, PDF, office documents and text are kept.",
        IntakeProblem.TooManyBytes or IntakeProblem.TooManyPixels => "Save a smaller version and bring that.",
        IntakeProblem.TooManyAtOnce => "Save it as a JPEG that is not progressive, or as TIFF, and bring that.",
        IntakeProblem.ArchiveUnreadable => "Make the ZIP again, or bring its folder as it is.",
        IntakeProblem.ArchiveLocked => "Unpack it yourself and bring what is in it.",
        IntakeProblem.ArchiveTooMany or IntakeProblem.ArchiveTooLarge => "Make several smaller ones, or bring the folder as it is.",
        IntakeProblem.ArchiveTooDense or IntakeProblem.ArchivePath => "If you trust it, unpack it yourself and bring it by itself.",
        IntakeProblem.NotUnpacked => "Bring it by itself to keep it as a file.",
        IntakeProblem.OriginalMissing => "Bring it again.",
        IntakeProblem.Unforeseen => "Bring it again; if that does not help, tell whoever looks after the server.",
        IntakeProblem.ExpandsTooFar => "Save it again with another program and bring that.",
        IntakeProblem.SidecarUnreadable => "Save the words beside the photo again and bring that.",
        IntakeProblem.TriedTooOften => "Try it again, or bring it in another format.",
        _ => "",
    };
}
