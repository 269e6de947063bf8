using System.Globalization;
using System.Text;

namespace Jovitar.Core;

/// <summary>Text as people write it: cut only between characters, without what cannot be seen.</summary>
public static class Text
{
    /// <summary>Cuts a text at a character (an extended grapheme cluster, UAX #29), so that no emoji, accent or flag is cut in two.</summary>
    /// <param name="most">Most UTF-16 code units that remain.</param>
    public static string Cut(string text, int most)
    {
        if (text.Length <= most)
        {
            return text;
        }

        var end = 0;
        while (end < text.Length)
        {
            var next = StringInfo.GetNextTextElementLength(text, end);
            if (end + next > most)
            {
                break;
            }

            end += next;
        }

        return text[..end];
    }

    /// <summary>The end of a text rather than its beginning: of a file's name, where its ending counts.</summary>
    public static string CutFront(string text, int most)
    {
        var start = 0;
        while (text.Length - start > most)
        {
            start += StringInfo.GetNextTextElementLength(text, start);
        }

        return text[start..];
    }

    /// <summary>A name as it may be shown: valid Unicode without control characters and without marks that turn the direction of what follows (UAX #9), which can make <c>gpj.exe</c> look like <c>exe.jpg</c>.</summary>
    public static string Name(string text)
    {
        var clean = new StringBuilder(text.Length);
        foreach (var rune in text.EnumerateRunes())
        {
            if (!Rune.IsControl(rune) && !TurnsDirection(rune.Value))
            {
                clean.Append(rune);
            }
        }

        return clean.ToString().Trim();
    }

    static bool TurnsDirection(int value) => value is 0x061C or 0x200E or 0x200F or (>= 0x202A and <= 0x202E) or (>= 0x2066 and <= 0x2069);

    /// <summary>Whether anything of a text can be seen: spaces, controls, marks that join or part (general categories Z and C, UAX #44), and letters that are blank by design cannot.</summary>
    public static bool IsSeen(string text) => text.EnumerateRunes().Any(rune =>
        rune.Value is not (0x115F or 0x1160 or 0x2800 or 0x3164 or 0xFFA0)
        && Rune.GetUnicodeCategory(rune) is not (UnicodeCategory.Control or UnicodeCategory.Format or UnicodeCategory.SpaceSeparator or UnicodeCategory.LineSeparator or UnicodeCategory.ParagraphSeparator));

    /// <summary>What is wrong with a text that somebody wrote into a field; null for nothing.</summary>
    /// <param name="most">Most UTF-16 code units.</param>
    public static string? Fault(string text, int most) =>
        text.Length > most ? string.Create(CultureInfo.InvariantCulture, $"This may have {most:N0} characters.")
        : !IsSound(text) ? "This text has characters in it that cannot be kept."
        : null;

    /// <summary>Whether a text can be kept: no NUL, no half of a surrogate pair.</summary>
    public static bool IsSound(string text)
    {
        for (var i = 0; i < text.Length; i++)
        {
            if (text[i] == '\0' || char.IsLowSurrogate(text[i]) || (char.IsHighSurrogate(text[i]) && (++i == text.Length || !char.IsLowSurrogate(text[i]))))
            {
                return false;
            }
        }

        return true;
    }
}
