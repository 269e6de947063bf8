using Jovitar.Imaging;
using PdfSharp.Fonts;

namespace Jovitar.Server.Sales.Papers;

/// <summary>The fonts of papers: those that ship, and no others.</summary>
internal sealed class PaperFonts : IFontResolver
{
    /// <summary>The font that a text is set in: the plain one, or, where that lacks a letter of it, the one that has Greek and Cyrillic ones as well.</summary>
    public static string For(string text, bool isStrong) => !text.All(IsPlain) ? FontFiles.WideWords : isStrong ? FontFiles.Plain : FontFiles.Words;

    /// <summary>Latin, the Latin-1 supplement and Latin Extended-A; dashes, quotation marks and the like; currencies.</summary>
    static bool IsPlain(char c) => c is < '\u0180' or (>= '\u2010' and <= '\u2026') or '\u2032' or '\u2033' or '€' or '™';

    public FontResolverInfo? ResolveTypeface(string familyName, bool isBold, bool isItalic) => new(familyName);

    public byte[]? GetFont(string faceName) => FontFiles.Read(faceName);
}
