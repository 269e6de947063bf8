using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace Jovitar.Server.Platform;

/// <summary>A row of a file that is not written, and why.</summary>
/// <param name="Line">Where it stands, 1 = the header.</param>
internal sealed record RejectedRow(int Line, string Reason);

/// <summary>A row as it stands in the file.</summary>
internal sealed record CsvLine(int Number, string[] Cells);

/// <summary>A spreadsheet's file (RFC 4180), read as far as that needs no knowledge of what it says.</summary>
/// <param name="Encoding">How its letters were read; Doubtful says that this was guessed.</param>
/// <param name="Header">The names of the first row, in small letters.</param>
/// <param name="Lines">The rows behind the first.</param>
/// <param name="Rejected">Those that are none.</param>
internal sealed record CsvText(string Encoding, bool Doubtful, string Separator, CsvLine First, IReadOnlyList<string> Header, IReadOnlyList<CsvLine> Lines, List<RejectedRow> Rejected)
{
    /// <summary>Encodings that a file may be said to have, by their IANA names.</summary>
    static readonly IReadOnlyList<string> Encodings = ["utf-8", "utf-16", "windows-1252", "iso-8859-1", "iso-8859-15", "windows-1250", "windows-1251", "macintosh"];

    static readonly string[] Separators = [",", ";", "\t"];

    static readonly Encoding Strict = new UTF8Encoding(encoderShouldEmitUTF8Identifier: false, throwOnInvalidBytes: true);

    /// <summary>Reads the body of a request.</summary>
    /// <param name="encoding">What the file is said to be written in; null where nobody said.</param>
    public static async Task<(CsvText? Csv, string? Wrong)> ReadAsync(HttpRequest request, string? encoding, CancellationToken ct)
    {
        if (encoding is not null && !Encodings.Contains(encoding))
        {
            return (null, "There is no such encoding.");
        }

        var bytes = new MemoryStream();
        await request.Body.CopyToAsync(bytes, ct);
        return Read(bytes.ToArray(), encoding);
    }

    /// <summary>Reads a file.</summary>
    /// <param name="said">What it is said to be written in; null where nobody said.</param>
    /// <returns>The file, or a sentence that says why it cannot be read.</returns>
    public static (CsvText? Csv, string? Wrong) Read(byte[] file, string? said)
    {
        if (Decode(file, said) is not var (text, encoding, doubtful))
        {
            return (null, "The file is not written in this encoding.");
        }

        var separator = SeparatorOf(text);
        var (lines, rejected) = LinesOf(text, separator);
        return lines is not [var first, .. var rest] ? (null, "The file has no rows.")
            : (new CsvText(encoding, doubtful, separator, first, [.. first.Cells.Select(c => c.Trim().ToLowerInvariant())], rest, rejected), null);
    }

    /// <summary>The columns of the first row that are known.</summary>
    /// <returns>Where each stands; or a sentence when two have the same name.</returns>
    public (IReadOnlyDictionary<string, int> At, string? Wrong) Columns(IReadOnlyList<string> all)
    {
        var known = Header.Where(all.Contains).Distinct().ToArray();
        return Header.Count(known.Contains) != known.Length ? (new Dictionary<string, int>(), "Two columns have the same name.")
            : (known.ToDictionary(c => c, c => Header.TakeWhile(h => h != c).Count()), null);
    }

    /// <summary>The names of the first row that are not known, as they stand there.</summary>
    public IReadOnlyList<string> Unknown(IReadOnlyList<string> all) => [.. First.Cells.Where((_, i) => !all.Contains(Header[i]))];

    /// <summary>Letters by the mark at the start, else as UTF-8 if it is that, else by what western spreadsheets write.</summary>
    static (string Text, string Encoding, bool Doubtful)? Decode(byte[] file, string? said)
    {
        try
        {
            foreach (var marked in (Encoding[])[System.Text.Encoding.UTF8, System.Text.Encoding.Unicode, System.Text.Encoding.BigEndianUnicode])
            {
                if (file.AsSpan().StartsWith(marked.Preamble))
                {
                    return (marked.GetString(file.AsSpan(marked.Preamble.Length)), marked.WebName, false);
                }
            }

            if (said is not null)
            {
                var chosen = CodePagesEncodingProvider.Instance.GetEncoding(said, EncoderFallback.ExceptionFallback, DecoderFallback.ExceptionFallback)
                    ?? System.Text.Encoding.GetEncoding(said, EncoderFallback.ExceptionFallback, DecoderFallback.ExceptionFallback);
                return (chosen.GetString(file), said, false);
            }

            return (Strict.GetString(file), "utf-8", false);
        }
        catch (DecoderFallbackException)
        {
            return said is not null ? null : (CodePagesEncodingProvider.Instance.GetEncoding(1252)!.GetString(file), "windows-1252", true);
        }
    }

    /// <summary>What stands between cells: what the first row has most of.</summary>
    static string SeparatorOf(string text)
    {
        var first = text[..Math.Max(0, text.AsSpan().IndexOfAny('\r', '\n') is >= 0 and var end ? end : text.Length)];
        return Separators.MaxBy(s => first.Split(s).Length)!;
    }

    static (List<CsvLine> Lines, List<RejectedRow> Rejected) LinesOf(string text, string separator)
    {
        var (lines, rejected) = (new List<CsvLine>(), new List<RejectedRow>());
        var bad = false;
        using var parser = new CsvParser(new StringReader(text), new CsvConfiguration(CultureInfo.InvariantCulture) { Delimiter = separator, BadDataFound = _ => bad = true, IgnoreBlankLines = true });
        for (var line = 1; parser.Read(); line = parser.RawRow + 1)
        {
            if (bad)
            {
                rejected.Add(new RejectedRow(line, "A quotation mark stands where none may stand."));
                bad = false;
                continue;
            }

            if (lines.Count > 0 && parser.Record!.Length > lines[0].Cells.Length && parser.Record.Skip(lines[0].Cells.Length).Any(c => c.Length > 0))
            {
                rejected.Add(new RejectedRow(line, "It has more cells than the first row has names."));
                continue;
            }

            lines.Add(new CsvLine(line, parser.Record!));
        }

        return (lines, rejected);
    }
}

/// <summary>A spreadsheet's file being written (RFC 4180), UTF-8 with a mark so that spreadsheets know it.</summary>
internal sealed class CsvRows : IAsyncDisposable
{
    readonly StreamWriter text;
    readonly CsvWriter csv;

    public CsvRows(Stream to)
    {
        text = new StreamWriter(to, new UTF8Encoding(encoderShouldEmitUTF8Identifier: true), leaveOpen: true);
        csv = new CsvWriter(text, new CsvConfiguration(CultureInfo.InvariantCulture) { NewLine = "\r\n" });
    }

    public async Task AddAsync(IEnumerable<string> cells)
    {
        foreach (var cell in cells)
        {
            csv.WriteField(cell);
        }

        await csv.NextRecordAsync();
    }

    public Task FlushAsync() => csv.FlushAsync();

    public async ValueTask DisposeAsync()
    {
        await csv.DisposeAsync();
        await text.DisposeAsync();
    }
}
