using Jovitar.Core.Intake;

namespace Jovitar.Core.Files;

/// <summary>What a file that is not a photo is, for limits and for how it is handed out.</summary>
public enum FileKind
{
    Sound,
    Video,
    Pdf,
    Office,
    Text,
}

public static class FileKinds
{
    /// <summary>The largest file of a kind, bytes.</summary>
    public static long Most(FileKind kind, IntakeLimits limits) => kind switch
    {
        FileKind.Sound => limits.SoundBytes,
        FileKind.Video => limits.VideoBytes,
        _ => limits.DocumentBytes,
    };

    /// <summary>Whether a browser may show it in place. Office documents and text, which may be a page in disguise, are only ever saved.</summary>
    public static bool MayShow(FileKind kind) => kind is FileKind.Sound or FileKind.Video or FileKind.Pdf;
}
