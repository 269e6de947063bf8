using System.Globalization;
using Jovitar.Core.Narrowings;

namespace Jovitar.Core.Sales.Printing;

/// <summary>What print files are called: the order, the line, how many, what of, and the photo; in letters that every disk and every lab takes.</summary>
public static class PrintFileName
{
    const int LongestPart = 40;

    /// <param name="line">From 1.</param>
    /// <param name="lines">So many the order has.</param>
    /// <param name="fileName">Of the photo's original.</param>
    /// <returns>"1004-02-3x-20x30cm-print-img-1234.jpg": files of an order stand in its order, and no two are called alike.</returns>
    public static string Of(long order, int line, int lines, int count, SaleOption option, string fileName)
    {
        var digits = Math.Max(2, lines.ToString(CultureInfo.InvariantCulture).Length);
        var size = option.Size?.Said.Replace(" ", "", StringComparison.Ordinal).Replace('×', 'x') ?? "";
        var parts = new[] { size, option.Name.Length > 0 ? option.Name : option.Kind.ToString(), Path.GetFileNameWithoutExtension(fileName) }.Select(Plain).Where(p => p.Length > 0);
        return string.Join('-', [order.ToString(CultureInfo.InvariantCulture), line.ToString($"D{digits}", CultureInfo.InvariantCulture), $"{count}x", .. parts]) + ".jpg";
    }

    /// <summary>Small Latin letters and digits, as words are looked for, and a hyphen between them.</summary>
    static string Plain(string text) => Text.Cut(string.Join('-', WordIndex.Fold(text).Select(word => string.Concat(word.Where(char.IsAsciiLetterOrDigit))).Where(word => word.Length > 0)), LongestPart).Trim('-');
}
