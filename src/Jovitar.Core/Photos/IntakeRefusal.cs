namespace Jovitar.Core.Photos;

/// <summary>Why a file cannot become a photo.</summary>
public enum IntakeProblem
{
    Empty,
    TooManyBytes,
    NotAPicture,
    UnknownPicture,
    TooManyPixels,
    CutShort,
    Unreadable,
    LineBroke,
    TriedTooOften,
}

/// <summary>The site's limits for what comes in.</summary>
/// <param name="Bytes">Largest file, bytes.</param>
/// <param name="Megapixels">Most pixels, millions.</param>
public sealed record IntakeLimits(long Bytes = 200L * 1024 * 1024, int Megapixels = 200);

/// <summary>A refusal in words for the person who brought the file.</summary>
public static class IntakeRefusal
{
    /// <summary>One sentence that says what is wrong and what helps.</summary>
    public static string Sentence(IntakeProblem problem, IntakeLimits limits) => problem switch
    {
        IntakeProblem.Empty => "The file is empty: it has no bytes at all. Copy it again from the camera or card.",
        IntakeProblem.TooManyBytes => $"The file is larger than {limits.Bytes / 1048576:#,0} MB, the most this site takes.",
        IntakeProblem.NotAPicture => "This is not a picture, whatever its name says. Photos are taken as JPEG, PNG, WebP, TIFF, AVIF or GIF.",
        IntakeProblem.UnknownPicture => "This kind of picture is not taken. Save it as JPEG, PNG, WebP, TIFF, AVIF or GIF and bring it again.",
        IntakeProblem.TooManyPixels => $"The picture has more than {limits.Megapixels} million pixels, the most this site takes.",
        IntakeProblem.CutShort => "The file is cut short: its end is missing. Copy it again from the camera or card.",
        IntakeProblem.Unreadable => "The picture is damaged and cannot be read. Copy it again from the camera or card.",
        IntakeProblem.LineBroke => "The line broke before all of the file had arrived. Nothing was kept; bring it again.",
        _ => "Work on this photo stopped three times without an end. The original is kept; try it again or bring it in another format.",
    };
}
