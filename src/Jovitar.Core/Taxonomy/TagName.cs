using System.Diagnostics.CodeAnalysis;
using System.Globalization;
using System.Text;

namespace Jovitar.Core.Taxonomy;

/// <summary>A tag's name as people write it, and the key by which two ways of writing it are one tag.</summary>
public sealed record TagName
{
    public const int Longest = 80;

    TagName(string text, string key) => (Text, Key) = (text, key);

    /// <summary>As written, without outer spaces and with single inner ones.</summary>
    public string Text { get; }

    /// <summary>Lower case, Unicode normal form KC (UAX #15), single spaces: equal for all ways of writing one tag.</summary>
    public string Key { get; }

    /// <summary>Two ways of writing one tag are equal.</summary>
    public static readonly IEqualityComparer<TagName> ByKey = EqualityComparer<TagName>.Create((a, b) => a?.Key == b?.Key, t => t.Key.GetHashCode(StringComparison.Ordinal));

    /// <summary>Reads a tag; false when nothing is left of it or it is longer than <see cref="Longest"/>.</summary>
    public static bool TryParse(string? text, [NotNullWhen(true)] out TagName? name)
    {
        name = null;
        if (text is null)
        {
            return false;
        }

        var clean = new StringBuilder(text.Length);
        foreach (var c in text.Normalize(NormalizationForm.FormKC))
        {
            if (char.IsWhiteSpace(c) || char.IsControl(c) || CharUnicodeInfo.GetUnicodeCategory(c) == UnicodeCategory.Format)
            {
                if (clean.Length > 0 && clean[^1] != ' ')
                {
                    clean.Append(' ');
                }
            }
            else
            {
                clean.Append(c);
            }
        }

        var trimmed = clean.ToString().Trim();
        if (trimmed.Length is 0 or > Longest)
        {
            return false;
        }

        name = new TagName(trimmed, trimmed.ToLowerInvariant());
        return true;
    }

    /// <summary>Reads several tags; each once, those that cannot be read left out.</summary>
    public static IReadOnlyList<TagName> All(IEnumerable<string> texts)
    {
        var names = new List<TagName>();
        foreach (var text in texts)
        {
            if (TryParse(text, out var name) && names.TrueForAll(n => n.Key != name.Key))
            {
                names.Add(name);
            }
        }

        return names;
    }
}
