using System.Globalization;
using System.Text;

namespace Jovitar.Core.Taxonomy;

/// <summary>Tags that are likely one: written with and without an accent, a hyphen, a space or a plural.</summary>
public static class TagTwins
{
    /// <summary>What near-twins have in common.</summary>
    /// <remarks>
    /// Letters and digits in small letters, Unicode normal form KD without marks (UAX #15), each word without the ending of a regular
    /// English plural: y for ies behind a consonant; without es behind s, x, z, ch, sh; without s else, but not behind s, u or i
    /// ("glass", "status", "tennis"). Words of up to three letters stay as they are. Different plurals of other languages are not seen.
    /// </remarks>
    public static string Likeness(string name)
    {
        var (all, word) = (new StringBuilder(), new StringBuilder());
        foreach (var c in name.Normalize(NormalizationForm.FormKD))
        {
            if (char.IsLetterOrDigit(c))
            {
                word.Append(char.ToLowerInvariant(c));
            }
            else if (CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark && c is not ('\'' or '’'))
            {
                all.Append(Singular(word.ToString()));
                word.Clear();
            }
        }

        return all.Append(Singular(word.ToString())).ToString();
    }

    /// <summary>Things whose names are near-twins, group by group, each in the order given.</summary>
    public static IReadOnlyList<IReadOnlyList<T>> Groups<T>(IEnumerable<T> things, Func<T, string> name) =>
        [.. things.GroupBy(t => Likeness(name(t))).Where(g => g.Key.Length > 0).Select(g => (IReadOnlyList<T>)[.. g]).Where(g => g.Count > 1)];

    static string Singular(string word)
    {
        bool Ends(string ending) => word.EndsWith(ending, StringComparison.Ordinal);
        if (word.Length <= 3)
        {
            return word;
        }

        if (Ends("ies") && word[^4] is not ('a' or 'e' or 'i' or 'o' or 'u'))
        {
            return word.Length == 4 ? word[..^1] : $"{word[..^3]}y";
        }

        return Ends("sses") || Ends("xes") || Ends("zes") || Ends("ches") || Ends("shes") ? word[..^2]
            : Ends("s") && word[^2] is not ('s' or 'u' or 'i') ? word[..^1] : word;
    }
}
