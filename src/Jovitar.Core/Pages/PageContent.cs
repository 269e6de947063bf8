using System.Diagnostics.CodeAnalysis;
using System.Globalization;
using System.Text;
using Jovitar.Core.Layout;

namespace Jovitar.Core.Pages;

/// <summary>What is set on a page: kept once as the draft and once, copied by publishing, as visitors have it.</summary>
/// <param name="Heading">The heading visitors read.</param>
/// <param name="Text">Words beneath it, Markdown (CommonMark).</param>
/// <param name="Layout">How the photos stand.</param>
/// <param name="FilterCategories">Categories offered in the filter bar, in their order.</param>
/// <param name="FilterTags">Tags offered in the filter bar, in their order.</param>
public sealed record PageContent(
    string Heading, string Text, LayoutSettings Layout, IReadOnlyList<CategoryId> FilterCategories, IReadOnlyList<TagId> FilterTags)
{
    public const int LongestHeading = 200;
    public const int LongestText = 20_000;

    /// <summary>Most entries of one kind in a filter bar.</summary>
    public const int MostFilters = 100;

    /// <summary>What is wrong, a sentence a field; empty when it may be kept.</summary>
    public IReadOnlyDictionary<string, string> Faults()
    {
        var faults = new Dictionary<string, string>();
        if (string.IsNullOrWhiteSpace(Heading))
        {
            faults["heading"] = "A page needs a heading.";
        }
        else if (Heading.Length > LongestHeading)
        {
            faults["heading"] = $"The heading may have {LongestHeading} characters.";
        }

        if (Text.Length > LongestText)
        {
            faults["text"] = $"The text may have {LongestText:#,0} characters.";
        }

        if (FilterCategories.Count > MostFilters)
        {
            faults["filterCategories"] = $"A filter bar may have {MostFilters} categories.";
        }

        if (FilterTags.Count > MostFilters)
        {
            faults["filterTags"] = $"A filter bar may have {MostFilters} tags.";
        }

        return faults;
    }
}

/// <summary>The last part of a page's address: lower-case letters, digits and single hyphens.</summary>
public sealed record PageAddress
{
    public const int Longest = 80;

    /// <summary>Names that the site itself uses.</summary>
    static readonly HashSet<string> Taken = ["api", "workroom", "i", "assets", "health", "openapi", "site", "preview", "photo", "favicon"];

    PageAddress(string value) => Value = value;

    public string Value { get; }

    /// <summary>Reads an address as someone typed it.</summary>
    /// <param name="fault">A sentence when it cannot be one.</param>
    public static bool TryParse(string? text, [NotNullWhen(true)] out PageAddress? address, out string fault)
    {
        address = null;
        var value = (text ?? "").Trim().Trim('/').ToLowerInvariant();
        if (value.Length is 0 or > Longest || value.StartsWith('-') || value.EndsWith('-') || value.Contains("--", StringComparison.Ordinal)
            || value.Any(c => c is not ((>= 'a' and <= 'z') or (>= '0' and <= '9') or '-')))
        {
            fault = "An address is made of small letters, digits and single hyphens, like kite-festival-2026.";
            return false;
        }

        if (Taken.Contains(value))
        {
            fault = $"“{value}” is used by the site itself. Choose another address.";
            return false;
        }

        fault = "";
        address = new PageAddress(value);
        return true;
    }

    /// <summary>An address made from a heading: accents dropped, other characters turned to hyphens.</summary>
    public static PageAddress From(string heading)
    {
        var made = new StringBuilder();
        foreach (var c in heading.Normalize(NormalizationForm.FormD).ToLowerInvariant())
        {
            if (c is (>= 'a' and <= 'z') or (>= '0' and <= '9'))
            {
                made.Append(c);
            }
            else if (CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark && c is not ('\'' or '’') && made.Length > 0 && made[^1] != '-')
            {
                made.Append('-');
            }
        }

        var value = made.ToString(0, Math.Min(made.Length, Longest)).Trim('-');
        return TryParse(value, out var address, out _) ? address : new PageAddress(value.Length == 0 ? "page" : $"{value}-page");
    }

    public override string ToString() => Value;
}
