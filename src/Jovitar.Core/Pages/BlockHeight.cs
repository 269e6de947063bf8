using Jovitar.Core.Layout;

namespace Jovitar.Core.Pages;

/// <summary>How high what is written stands, about: what the site's style sheet says, and as many letters a line as usual. CSS pixels.</summary>
public static class BlockHeight
{
    public const double Button = 49;

    public const double Divider = 34;

    /// <summary>The controls of a sound.</summary>
    public const double Player = 54;

    /// <summary>A file to save.</summary>
    public const double File = 49;

    /// <summary>A contact: a line for each that is said.</summary>
    public static double Contact(ContactBlock contact) =>
        27.9 * (new[] { contact.Name, contact.Phone, contact.Mail }.Count(s => s.Length > 0) + contact.Where.Split('\n', StringSplitOptions.RemoveEmptyEntries).Length);

    /// <summary>The head of every page with the site's title and its menu.</summary>
    public static double Head(Window window) => BlockLayout.DeviceOf(window.Width) == Device.Tablet ? 90 : 58;

    /// <summary>The air beneath a block.</summary>
    public static double Beneath(Window window) => Math.Clamp(window.Width * 0.03, 25.6, 41.6);

    /// <summary>Between the upper and lower edges of a ground and what stands on it.</summary>
    /// <param name="isWide">It is as wide as the window.</param>
    public static double GroundEdge(bool isWide, Window window) => BlockPlace.Pad(window) * (isWide ? 1.8 : 1.25);

    /// <summary>The air beneath a heading: what follows belongs to it.</summary>
    public const double BeneathHeading = 20;

    /// <summary>The air that a heading has above it besides.</summary>
    /// <param name="first">It begins the page.</param>
    public static double AboveHeading(HeadingSize size, bool first, Window window) => first ? Math.Clamp(window.Width * 0.06, 37, 77) : size == HeadingSize.Small ? 4 : 20;

    /// <summary>A heading.</summary>
    public static double Heading(string words, HeadingSize size, double width, Window window)
    {
        var letter = size switch
        {
            HeadingSize.Large => Math.Clamp(window.Width * 0.052, 33.6, 64),
            HeadingSize.Middle => Math.Clamp(window.Width * 0.03, 24, 36.8),
            _ => 20.8,
        };
        return Lines(words, Math.Min(width, 928), letter * 0.52) * letter * 1.08;
    }

    /// <summary>A text.</summary>
    public static double Text(string words, double width)
    {
        const double Line = 27.9;
        var paragraphs = words.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        return paragraphs.Sum(p => (Lines(p, Math.Min(width, 576), 8.6) * Line) + 12) - (paragraphs.Length > 0 ? 12 : 0);
    }

    /// <summary>The words beneath a cover or a photo.</summary>
    public static double Beneath(int lines) => lines == 0 ? 0 : 11 + (lines * 24);

    /// <summary>The line in which visitors type words and choose an order.</summary>
    public const double Finding = 46;

    /// <summary>A filter bar with the line that says how many are shown; on a phone its parts stand beneath each other.</summary>
    /// <param name="isFolded">It is a drop-down.</param>
    public static double Bar(int buttons, double width, bool isFolded)
    {
        var isNarrow = width < 560;
        return buttons == 0 ? 0 : isFolded ? 82 : 38 + ((Math.Ceiling(buttons * 160 / width) + (isNarrow ? 1 : 0)) * (isNarrow ? 40 : 34));
    }

    static double Lines(string words, double width, double letter) => Math.Max(1, Math.Ceiling(words.Length * letter / width));
}
