using System.Globalization;
using System.Text;

namespace Jovitar.Core.Describing;

/// <summary>How large and small letters stand.</summary>
public enum Casing
{
    /// <summary>The first letter of each sentence is large, all others small.</summary>
    Sentence,

    /// <summary>The first letter of each word is large, but for little words within.</summary>
    Title,
    Lower,
    Upper,
}

/// <summary>Changes large and small letters. Words that mix both already (names such as McKay, abbreviations within a text that is not all large) stay as they are.</summary>
public static class Casings
{
    /// <summary>Articles, conjunctions and short prepositions of English, small within a title (common practice).</summary>
    static readonly HashSet<string> Little = new(StringComparer.Ordinal)
    {
        "a", "an", "and", "as", "at", "but", "by", "for", "from", "if", "in", "into", "nor", "of", "off", "on", "onto", "or", "out", "over", "the", "to", "up", "via", "with",
    };

    public static string Apply(Casing casing, string text) => casing switch
    {
        Casing.Lower => text.ToLowerInvariant(),
        Casing.Upper => text.ToUpperInvariant(),
        _ => Words(casing, text),
    };

    static string Words(Casing casing, string text)
    {
        // Where all is large, letters tell nothing of names.
        var shouted = !text.EnumerateRunes().Any(Rune.IsLower);
        var anew = new StringBuilder(text.Length);
        var begins = true;
        var last = LastWord(text);
        for (var at = 0; at < text.Length;)
        {
            var end = at;
            while (end < text.Length && IsOfWord(text, end))
            {
                end++;
            }

            if (end == at)
            {
                anew.Append(text[at]);
                begins |= text[at] is '.' or '!' or '?' or '…' or '\n' or ':' && (casing == Casing.Title || text[at] != ':');
                at++;
                continue;
            }

            var word = text[at..end];
            anew.Append(Word(casing, word, shouted, begins, at == last));
            begins = false;
            at = end;
        }

        return anew.ToString();
    }

    static string Word(Casing casing, string word, bool shouted, bool begins, bool isLast)
    {
        if (!shouted && IsMixed(word))
        {
            return word;
        }

        var small = word.ToLowerInvariant();
        return begins || (casing == Casing.Title && (isLast || !Little.Contains(small))) ? Capital(small) : small;
    }

    /// <summary>A large letter after the first, as in McKay and RAF.</summary>
    static bool IsMixed(string word) => word.Length > 1 && word.EnumerateRunes().Skip(1).Any(Rune.IsUpper);

    static string Capital(string word)
    {
        var first = StringInfo.GetNextTextElementLength(word);
        return word[..first].ToUpperInvariant() + word[first..];
    }

    static int LastWord(string text)
    {
        var at = text.Length;
        while (at > 0 && !IsOfWord(text, at - 1))
        {
            at--;
        }

        while (at > 0 && IsOfWord(text, at - 1))
        {
            at--;
        }

        return at;
    }

    /// <summary>Letters, digits, accents, halves of pairs, and the apostrophe within.</summary>
    static bool IsOfWord(string text, int at) =>
        char.IsLetterOrDigit(text[at]) || char.IsSurrogate(text[at]) || CharUnicodeInfo.GetUnicodeCategory(text[at]) is UnicodeCategory.NonSpacingMark
        || (text[at] is '\'' or '’' && at > 0 && at + 1 < text.Length && char.IsLetter(text[at - 1]) && char.IsLetter(text[at + 1]));
}
