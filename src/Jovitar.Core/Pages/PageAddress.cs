using System.Diagnostics.CodeAnalysis;
using System.Globalization;
using System.Text;

namespace Jovitar.Core.Pages;

/// <summary>The last part of a page's address: lower-case letters, digits and single hyphens.</summary>
public sealed record PageAddress
{
    public const int Longest = 80;

    /// <summary>Names that the site itself uses.</summary>
    static readonly HashSet<string> Taken = ["api", "workroom", "i", "assets", "health", "openapi", "site", "preview", "photo", "favicon", "oembed"];

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
