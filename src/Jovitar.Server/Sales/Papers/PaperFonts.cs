using Jovitar.Imaging;
using PdfSharp.Fonts;

namespace Jovitar.Server.Sales.Papers;

/// <summary>The fonts of papers: those that ship, and no others.</summary>
internal sealed class PaperFonts : IFontResolver
{
    /// <summary>The font that a text is set in: the plain one, or, where that lacks a letter of it, the one that has Greek and Cyrillic ones as well.</summary>
    public static string For(string text, bool isStrong) => !text.All(IsPlain) ? FontFiles.WideWords : isStrong ? FontFiles.Plain : FontFiles.Words;

    /// <summary>What the plain font lacks of Latin, the Latin-1 supplement and Latin Extended-A.</summary>
    const string Lacking = "¤¦¬\u00AD±²³µ¹¼½¾ĈĉĔĕĜĝĤĥĨĩĬĭĴĵĸĿŀŉŎŏŜŝŢţŦŧŨũſ";

    /// <summary>What it has besides.</summary>
    const string Besides = "–—‘’‚“”„•…€™";

    static bool IsPlain(char c) => (c < '\u0180' && !Lacking.Contains(c, StringComparison.Ordinal)) || Besides.Contains(c, StringComparison.Ordinal);

    public FontResolverInfo? ResolveTypeface(string familyName, bool isBold, bool isItalic) => new(familyName);

    public byte[]? GetFont(string faceName) => FontFiles.Read(faceName);
}
