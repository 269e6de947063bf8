using System.Text;

namespace Jovitar.Core.Describing;

/// <summary>What is found in words and put in its stead.</summary>
/// <param name="Find">Not empty; it means itself.</param>
/// <param name="MatchCase">Large and small letters differ.</param>
/// <param name="WholeWords">Only where no letter or digit stands right before or after it.</param>
public sealed record Replacing(string Find, string With, bool MatchCase, bool WholeWords)
{
    public const int Longest = 1000;

    /// <summary>The text with every place replaced, from its beginning on; what was put in is not looked at again.</summary>
    public string In(string text)
    {
        var how = MatchCase ? StringComparison.Ordinal : StringComparison.OrdinalIgnoreCase;
        StringBuilder? anew = null;
        var done = 0;
        for (var at = text.IndexOf(Find, how); at >= 0; at = text.IndexOf(Find, at, how))
        {
            var end = at + Find.Length;
            if (!Fits(text, at, end))
            {
                at++;
                continue;
            }

            (anew ??= new StringBuilder()).Append(text, done, at - done).Append(With);
            done = at = end;
        }

        return anew is null ? text : anew.Append(text, done, text.Length - done).ToString();
    }

    bool Fits(string text, int at, int end) => IsBoundary(text, at) && IsBoundary(text, end) && (!WholeWords || (!IsWord(Before(text, at)) && !IsWord(After(text, end))));

    /// <summary>Not within a surrogate pair, and not between a letter and the accents that follow it.</summary>
    static bool IsBoundary(string text, int at) =>
        at == 0 || at == text.Length || (!char.IsLowSurrogate(text[at]) && !IsMark(After(text, at)));

    static bool IsMark(Rune? rune) => rune is { } r && Rune.GetUnicodeCategory(r) is System.Globalization.UnicodeCategory.NonSpacingMark or System.Globalization.UnicodeCategory.EnclosingMark;

    static bool IsWord(Rune? rune) => rune is { } r && (Rune.IsLetterOrDigit(r) || IsMark(r));

    static Rune? Before(string text, int at) => at > 0 && Rune.DecodeLastFromUtf16(text.AsSpan(0, at), out var rune, out _) == System.Buffers.OperationStatus.Done ? rune : null;

    static Rune? After(string text, int at) => at < text.Length && Rune.DecodeFromUtf16(text.AsSpan(at), out var rune, out _) == System.Buffers.OperationStatus.Done ? rune : null;
}
