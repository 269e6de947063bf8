namespace Jovitar.Core.Pages;

/// <summary>What happens when a photo among others is pressed. Kept by name.</summary>
public enum PressTo
{
    /// <summary>It opens large, and the others are walked from there.</summary>
    Viewer,

    /// <summary>It leads where its own link does; a photo without one opens large.</summary>
    Link,

    /// <summary>It leads to the page of the album that it stands in; where visitors have none, it opens large.</summary>
    Album,
    Nothing,
}

/// <summary>When a photo bears a small sign that says what a press does. Kept by name.</summary>
public enum SignWhen
{
    Never,

    /// <summary>While the pointer or the keyboard is on it; on what is touched, always.</summary>
    Hover,
    Always,
}

/// <summary>What is told of a photo. Kept by name.</summary>
public enum PhotoWord
{
    Title,
    Caption,
    Place,

    /// <summary>The day it was taken.</summary>
    Date,
    Camera,
    Credit,
    Licence,

    /// <summary>The name of its file, without what says of which kind that is.</summary>
    FileName,
}

/// <summary>In what form visitors may save a photo. Kept by name.</summary>
public enum Saving
{
    Nothing,

    /// <summary>As many pixels on its longer side as the largest rendition has across.</summary>
    Large,

    /// <summary>In its full size, as it is corrected: the original where it is not.</summary>
    Full,
}

/// <summary>What a press on a photo of a block does, what says so before, and what stands in the viewer.</summary>
/// <param name="Drawing">The owner's own sign, as <see cref="SignDrawing.Clean"/> gives it; empty for ours.</param>
/// <param name="Words">What is told of a photo in the viewer and on its own page.</param>
public sealed record PressSettings(PressTo To, SignWhen Sign, string Drawing, IReadOnlyList<PhotoWord> Words, Saving Save)
{
    public static readonly PressSettings Usual = new(PressTo.Viewer, SignWhen.Never, "", [PhotoWord.Title, PhotoWord.Caption, PhotoWord.Credit, PhotoWord.Licence], Saving.Nothing);

    /// <summary>What a press on a photo does, and where it leads; null where it leads nowhere else.</summary>
    /// <param name="own">The photo's own link; empty for none.</param>
    /// <param name="album">Where the page of its album is; null where visitors have none.</param>
    public (PressTo To, string? Href) Of(string own, string? album) => To switch
    {
        PressTo.Nothing => (PressTo.Nothing, null),
        PressTo.Link when own.Length > 0 && LinkTo.Href(own) is { } link => (PressTo.Link, link),
        PressTo.Album when album is not null => (PressTo.Album, album),
        _ => (PressTo.Viewer, null),
    };

    /// <summary>Each word once, and of a drawing only what is drawn.</summary>
    public PressSettings Whole() => this with { Words = [.. Words.Distinct().Order()], Drawing = SignDrawing.Clean(Drawing) ?? "" };

    /// <summary>What is wrong with it, a sentence; null when it may be kept.</summary>
    public string? Fault() =>
        Drawing.Length == 0 ? null
        : Drawing.Length > SignDrawing.Longest ? "The drawing of a sign may have 20 KB. Simplify it, or take a smaller one."
        : SignDrawing.Clean(Drawing) is null ? "That is no drawing that can be a sign: it must be an SVG with shapes and a viewBox."
        : null;
}
