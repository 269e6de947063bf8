using System.Globalization;
using Jovitar.Core.Corrections;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Papers;
using Jovitar.Core.Themes;
using PdfSharp.Drawing;
using PdfSharp.Fonts;
using PdfSharp.Pdf;

namespace Jovitar.Server.Sales.Papers;

/// <summary>A picture on a paper: JPEG, and the part of it that is shown, shares of its sides.</summary>
internal sealed record PaperPicture(byte[] Jpeg, PixelSize Size, FitCrop? Crop);

/// <summary>How words stand on a paper.</summary>
/// <param name="Size">Points.</param>
internal readonly record struct PaperType(double Size, bool IsStrong = false, bool IsQuiet = false)
{
    /// <summary>A line's height, in parts of its letters' size.</summary>
    const double Leading = 1.35;

    /// <summary>Points of an inch (ISO 32000-1 §8.3.2.3).</summary>
    const double Points = 72;

    /// <summary>Millimetres.</summary>
    public double Letters => Size * (double)PaperSize.Inch / Points;

    /// <summary>How high a line is, millimetres.</summary>
    public double Line => Letters * Leading;
}

/// <summary>A document that is drawn from its top to its end, page by page. Measures are millimetres.</summary>
internal sealed class Paper : IDisposable
{
    public const double Left = 25;

    /// <summary>Where an address begins, from the top: in the window of an envelope (DIN 5008, form B).</summary>
    const double Window = 50;

    const double Right = 20;
    const double Top = 18;
    const double Bottom = 22;

    static readonly XColor Ink = Of(Colour.Ink);
    static readonly XColor Quiet = XColor.FromArgb(0x5c, 0x5c, 0x5c);
    static readonly XColor Line = XColor.FromArgb(0xc4, 0xc4, 0xc4);

    // For the whole process, once, before the first font is asked for.
    static Paper() => GlobalFontSettings.FontResolver = new PaperFonts();

    readonly PdfDocument document = new();
    readonly Dictionary<byte[], XImage> pictures = [];
    readonly PaperFormat format;
    readonly XColor accent;
    readonly string site;
    readonly string title;
    XGraphics page;

    /// <param name="title">What the paper is, at the head of every page but the first, and in the document's properties.</param>
    public Paper(string site, string title, PaperFormat format, Colour accent)
    {
        (this.site, this.title, this.format, this.accent) = (site, title, format, Of(accent));
        document.Info.Title = $"{site}, {title}";
        document.Info.Creator = "Jovitar";
        page = Begin();
        Words(site, Left, Top, Width, new PaperType(11, IsStrong: true));
        Rule(Top + 7, accented: true);
        Y = Top + 12;
    }

    static XColor Of(Colour colour) => XColor.FromArgb(colour.R, colour.G, colour.B);

    /// <summary>From margin to margin.</summary>
    public double Width => format.Width - Left - Right;

    /// <summary>Where what comes next begins.</summary>
    public double Y { get; set; }

    XGraphics Begin()
    {
        var made = document.AddPage();
        (made.Width, made.Height) = (XUnit.FromMillimeter(format.Width), XUnit.FromMillimeter(format.Height));
        return XGraphics.FromPdfPage(made, XGraphicsUnit.Millimeter);
    }

    /// <summary>Begins another page where so much does not stand on this one any more.</summary>
    /// <returns>Whether it did.</returns>
    public bool Need(double height)
    {
        if (Y + height <= format.Height - Bottom)
        {
            return false;
        }

        page.Dispose();
        page = Begin();
        Words(title, Left, Top, Width, new PaperType(9, IsQuiet: true));
        Rule(Top + 6);
        Y = Top + 9;
        return true;
    }

    /// <summary>A line from margin to margin.</summary>
    public void Rule(double y, bool accented = false) => page.DrawLine(new XPen(accented ? accent : Line, accented ? 0.5 : 0.15), Left, y, Left + Width, y);

    /// <summary>A line that stands beside words: they are somebody's.</summary>
    public void Bar(double y, double height) => page.DrawLine(new XPen(accent, 0.7), Left + 0.35, y, Left + 0.35, y + height);

    /// <summary>An empty square, to be ticked by hand.</summary>
    public void Box(double x, double y, double side) => page.DrawRectangle(new XPen(Quiet, 0.25), x, y, side, side);

    /// <summary>Writes words, broken into lines where they are wider than their place; a word that is wider is cut.</summary>
    /// <param name="most">Lines at most; what remains is left out, and a sign says so.</param>
    /// <returns>How high they stand.</returns>
    public double Words(string text, double x, double y, double width, PaperType type, bool isRight = false, int most = int.MaxValue)
    {
        var brush = new XSolidBrush(type.IsQuiet ? Quiet : Ink);
        var height = type.Line;
        var lines = Broken(text, width, type, most);
        foreach (var (i, (line, font)) in lines.Index())
        {
            page.DrawString(line, font, brush, new XRect(x, y + (i * height), width, height), isRight ? XStringFormats.CenterRight : XStringFormats.CenterLeft);
        }

        return lines.Count * height;
    }

    /// <summary>How high words stand.</summary>
    public double HeightOf(string text, double width, PaperType type) => Broken(text, width, type, int.MaxValue).Count * type.Line;

    // Where a page is measured in millimetres so are its letters.
    static XFont FontOf(string text, PaperType type) => new(PaperFonts.For(text, type.IsStrong), type.Letters, XFontStyleEx.Regular);

    /// <summary>A text in lines that are no wider than their place. What somebody has written in lines of its own is set in fonts of its own.</summary>
    List<(string Line, XFont Font)> Broken(string text, double width, PaperType type, int most)
    {
        var lines = text.ReplaceLineEndings("\n").Split('\n').SelectMany(paragraph => Broken(paragraph, width, FontOf(paragraph, type))).ToList();
        if (lines.Count <= most)
        {
            return lines;
        }

        var (last, font) = lines[most - 1];
        while (last.Length > 0 && page.MeasureString($"{last} …", font).Width > width)
        {
            last = last[..^(char.IsLowSurrogate(last[^1]) ? 2 : 1)];
        }

        return [.. lines[..(most - 1)], ($"{last} …".TrimStart(), font)];
    }

    List<(string Line, XFont Font)> Broken(string paragraph, double width, XFont font)
    {
        double Wide(string part) => page.MeasureString(part, font).Width;
        var lines = new List<(string Line, XFont Font)>();
        var line = "";
        foreach (var word in paragraph.Split(' ').SelectMany(word => Pieces(word, width, Wide)))
        {
            var longer = line.Length == 0 ? word : $"{line} {word}";
            if (line.Length > 0 && Wide(longer) > width)
            {
                lines.Add((line, font));
                longer = word;
            }

            line = longer;
        }

        lines.Add((line, font));
        return lines;
    }

    /// <summary>A word, or parts of it where it is wider than a line.</summary>
    static List<string> Pieces(string word, double width, Func<string, double> wide)
    {
        var (start, runes) = (0, StringInfo.ParseCombiningCharacters(word));
        if (wide(word) <= width)
        {
            return [word];
        }

        var pieces = new List<string>();
        foreach (var end in runes.Skip(1).Append(word.Length))
        {
            if (end - start > 1 && wide(word[start..end]) > width)
            {
                var before = runes.Last(r => r < end);
                if (before > start)
                {
                    pieces.Add(word[start..before]);
                    start = before;
                }
            }
        }

        pieces.Add(word[start..]);
        return pieces;
    }

    /// <summary>Whom it is for, where the window of an envelope shows it, and beside that what it is.</summary>
    /// <param name="to">Line by line.</param>
    /// <param name="called">Its number; empty where the title says it.</param>
    /// <param name="about">What else is told of it, in lines.</param>
    /// <param name="sender">Who sends it, in one line that the window shows, too; empty for none.</param>
    public void Head(IEnumerable<string> to, string title, string called, string about, string sender = "")
    {
        Words(sender, Left, Window - 6, 84, new PaperType(6.5, IsQuiet: true), most: 1);
        var sent = Words(string.Join('\n', to), Left, Window, 80, new PaperType(11));
        var (right, width) = (Left + 100, Width - 100);
        var told = Words(title, right, Window - 2, width, new PaperType(20, IsStrong: true));
        if (called.Length > 0)
        {
            told += Words(called, right, Window - 1 + told, width, new PaperType(13, IsStrong: true)) + 1;
        }

        told += Words(about, right, Window - 1 + told, width, new PaperType(9.5, IsQuiet: true));
        Y = Window + Math.Max(sent, told) + 16;
    }

    /// <summary>Writes words from margin to margin, over as many pages as they need; none where there are none.</summary>
    /// <param name="isQuoted">They are somebody's.</param>
    public void Paragraph(string words, bool isQuoted = false)
    {
        if (words.Trim().Length == 0)
        {
            return;
        }

        var (indent, type) = (isQuoted ? 4 : 0, new PaperType(10));
        foreach (var line in words.ReplaceLineEndings("\n").Split('\n'))
        {
            var high = HeightOf(line, Width - indent, type);
            Need(high);
            if (isQuoted)
            {
                Bar(Y, high);
            }

            Y += Words(line, Left + indent, Y, Width - indent, type);
        }

        Y += 5;
    }

    /// <summary>Draws a picture, whole or the part that is shown, as large as its place takes, in its middle.</summary>
    public void Picture(PaperPicture picture, double x, double y, double width, double height)
    {
        if (!pictures.TryGetValue(picture.Jpeg, out var image))
        {
            pictures[picture.Jpeg] = image = XImage.FromStream(new MemoryStream(picture.Jpeg));
        }

        var crop = picture.Crop ?? new FitCrop(0, 0, 1, 1);
        var shape = crop.Width * picture.Size.Width / (crop.Height * picture.Size.Height);
        var wide = Math.Min(width, height * shape);
        var seen = new XRect(x + ((width - wide) / 2), y + ((height - (wide / shape)) / 2), wide, wide / shape);
        var state = page.Save();
        page.IntersectClip(seen);
        page.DrawImage(image, seen.X - (crop.X * seen.Width / crop.Width), seen.Y - (crop.Y * seen.Height / crop.Height), seen.Width / crop.Width, seen.Height / crop.Height);
        page.Restore(state);
    }

    /// <summary>The document, with what stands at the foot of every page.</summary>
    public byte[] Finish()
    {
        page.Dispose();
        foreach (var (i, each) in document.Pages.Cast<PdfPage>().Index())
        {
            using (page = XGraphics.FromPdfPage(each, XGraphicsPdfPageOptions.Append, XGraphicsUnit.Millimeter))
            {
                var y = format.Height - Bottom + 8;
                Words(site, Left, y, Width - 30, new PaperType(8, IsQuiet: true), most: 1);
                Words(string.Create(CultureInfo.InvariantCulture, $"{i + 1} of {document.PageCount}"), Left, y, Width, new PaperType(8, IsQuiet: true), isRight: true);
            }
        }

        using var made = new MemoryStream();
        document.Save(made, closeStream: false);
        return made.ToArray();
    }

    public void Dispose()
    {
        foreach (var image in pictures.Values)
        {
            image.Dispose();
        }

        page.Dispose();
        document.Dispose();
    }
}
