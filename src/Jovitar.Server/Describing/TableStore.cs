using System.Globalization;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Describing;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Acts;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Describing;

/// <summary>What a file of words says, and what writing it would come to.</summary>
/// <param name="Encoding">How its letters were read; Doubtful says that this was guessed.</param>
/// <param name="Columns">Those that are known here.</param>
/// <param name="Unknown">Those that are passed over.</param>
/// <param name="Rows">So many rows it has besides the header.</param>
/// <param name="ByName">So many photos are known by their file name alone.</param>
/// <param name="Changed">So many photos would change.</param>
/// <param name="Rejected">The first of those that are not written; <paramref name="RejectedCount"/> says how many.</param>
internal sealed record TablePreview(
    string Encoding, bool Doubtful, string Separator, IReadOnlyList<string> Columns, IReadOnlyList<string> Unknown, int Rows, int Matched, int ByName, int Changed, int Cut, int RejectedCount,
    IReadOnlyList<RejectedRow> Rejected, IReadOnlyList<DescribingExample> Examples);

/// <summary>Words as the file of a spreadsheet (RFC 4180): out, and in again.</summary>
internal sealed class TableStore(NpgsqlDataSource db, SheetStore sheet, RowStore rows)
{
    const int AtOnce = 2000;
    const int MostNamed = 50;
    const int Examples = 3;

    /// <summary>Writes the words of photos with a header, UTF-8 with a mark so that spreadsheets know it, in their order.</summary>
    public async Task WriteAsync(IReadOnlyList<PhotoId> photos, Stream to, CancellationToken ct)
    {
        var gathering = new Gathering(to);
        await using var csv = new CsvRows(gathering);
        await csv.AddAsync(WordsTable.Columns);
        foreach (var some in photos.Chunk(AtOnce))
        {
            await using var command = db.Command(
                $"""
                select p.id, encode(p.hash, 'hex') as hash, p.file_name, p.people, p.rating, p.taken,
                       {string.Join(", ", WordFields.All.Select(f => $"p.{WordFields.Name(f)}"))},
                       {TagStore.NamesOfPhoto} as tags
                  from unnest(@ids) with ordinality as w(id, n)
                  join photo as p on p.id = w.id
                 where p.binned is null
                 order by w.n
                """,
                ("ids", some.Values()));
            foreach (var cells in await command.AllAsync(Cells, ct))
            {
                await csv.AddAsync(cells);
            }

            await csv.FlushAsync();
            await gathering.FlushAsync(ct);
        }

        await csv.FlushAsync();
        await gathering.FlushAsync(ct);
    }

    static string[] Cells(NpgsqlDataReader r) =>
    [
        r.Get<Guid>("id").ToString(), r.Get<string>("hash"), WordsTable.Cell(r.Get<string>("file_name")), .. WordFields.All.Select(f => WordsTable.Cell(r.Get<string>(WordFields.Name(f)))),
        WordsTable.Cell(WordsTable.Several(r.Get<string[]>("people"))), WordsTable.Cell(WordsTable.Several(r.Get<string[]>("tags"))), r.Get<short>("rating").ToString(CultureInfo.InvariantCulture), WordsTable.Date(r.Maybe<DateTime>("taken")),
    ];

    /// <summary>What a file says, and what writing it would come to.</summary>
    /// <returns>The preview, or a sentence that says why the file cannot be read.</returns>
    public async Task<(TablePreview? Preview, string? Wrong)> PreviewAsync(CsvText csv, bool clears, CancellationToken ct)
    {
        var (read, wrong) = await ReadAsync(csv, clears, ct);
        if (read is null)
        {
            return (null, wrong);
        }

        var (changed, cut) = (0, 0);
        var examples = new List<(Described Photo, DescribedAnew Anew)>();
        foreach (var some in read.Rows.Chunk(AtOnce))
        {
            var now = (await DescribingStore.ReadAsync(db, [.. some.Select(r => new PhotoId(r.Photo))], ct)).ToDictionary(p => p.Photo.Id);
            foreach (var row in some.Where(r => now.ContainsKey(r.Photo)))
            {
                var (photo, _, rating) = now[row.Photo];
                var anew = row.Of(photo);
                var tagged = row.Tags is not null && !TagName.All(row.Tags).Select(t => t.Key).Order().SequenceEqual(TagName.All(photo.Tags).Select(t => t.Key).Order());
                changed += anew.Changes || tagged || (row.Rating is { } stars && stars != rating) ? 1 : 0;
                cut += anew.Cut ? 1 : 0;
                if (anew.Changes && examples.Count < Examples)
                {
                    examples.Add((photo, anew));
                }
            }
        }

        return (
            new TablePreview(
                read.Encoding, read.Doubtful, read.Separator, read.Known, read.Unknown, read.Count, read.Rows.Count, read.ByName, changed, cut, read.Rejected.Count, [.. read.Rejected.OrderBy(r => r.Line).Take(MostNamed)],
                await DescribingStore.ExamplesAsync(sheet, examples, ct)),
            null);
    }

    /// <summary>Writes what a file says, as one act.</summary>
    public async Task<(RowsDone? Done, string? Wrong)> TakeInAsync(Actor who, CsvText csv, string name, bool clears, CancellationToken ct)
    {
        var (read, wrong) = await ReadAsync(csv, clears, ct);
        return read is null ? (null, wrong) : (await rows.WriteAsync(who, read.Rows, tally => ActWords.FromTable(tally, name), ct), null);
    }

    sealed record Table(string Encoding, bool Doubtful, string Separator, IReadOnlyList<string> Known, IReadOnlyList<string> Unknown, int Count, int ByName, IReadOnlyList<WordsRow> Rows, IReadOnlyList<RejectedRow> Rejected);

    async Task<(Table? Table, string? Wrong)> ReadAsync(CsvText csv, bool clears, CancellationToken ct)
    {
        var (at, twice) = csv.Columns(WordsTable.Columns);
        if (twice is not null)
        {
            return (null, twice);
        }

        if (!at.Keys.Any(c => c is WordsTable.Id or WordsTable.Hash or WordsTable.FileName))
        {
            return (null, $"The first row names no photo: one column is called “{WordsTable.Id}”, “{WordsTable.Hash}” or “{WordsTable.FileName}”.");
        }

        var rejected = csv.Rejected;
        var (matched, byName) = await MatchAsync(csv.Lines, at, rejected, ct);
        var rows = new List<WordsRow>();
        var seen = new Dictionary<Guid, int>();
        foreach (var (line, photo) in matched)
        {
            if (!seen.TryAdd(photo, line.Number))
            {
                rejected.Add(new RejectedRow(line.Number, $"The same photo stands in line {seen[photo]} already."));
                continue;
            }

            var (row, wrong) = WordsTable.Read(photo, column => at.TryGetValue(column, out var i) ? line.Cells.ElementAtOrDefault(i) : null, clears);
            if (row is null)
            {
                rejected.Add(new RejectedRow(line.Number, wrong!));
                continue;
            }

            rows.Add(row);
        }

        return (new Table(csv.Encoding, csv.Doubtful, csv.Separator, [.. at.Keys], csv.Unknown(WordsTable.Columns), csv.Lines.Count, byName, rows, rejected), null);
    }

    /// <summary>Finds each row's photo: by its id, then by what it consists of, then by its file name where only one has it.</summary>
    async Task<(List<(CsvLine Line, Guid Photo)> Matched, int ByName)> MatchAsync(IReadOnlyList<CsvLine> lines, IReadOnlyDictionary<string, int> at, List<RejectedRow> rejected, CancellationToken ct)
    {
        string Cell(CsvLine line, string column) => at.TryGetValue(column, out var i) ? line.Cells.ElementAtOrDefault(i)?.Trim() ?? "" : "";
        static byte[]? Hash(string text)
        {
            try
            {
                return text.Length == 64 ? Convert.FromHexString(text) : null;
            }
            catch (FormatException)
            {
                return null;
            }
        }

        string Name(CsvLine line) => WordsTable.Said(Cell(line, WordsTable.FileName)).ToLowerInvariant();
        var matched = new List<(CsvLine, Guid)>();
        var byName = 0;
        foreach (var some in lines.Chunk(AtOnce))
        {
            await using var command = db.Command(
                """
                select id, case when part = 0 then encode(hash, 'hex') else '' end as hash, lower(file_name) as name
                  from photo
                 where binned is null and (id = any(@ids) or (hash = any(@hashes) and part = 0) or lower(file_name) = any(@names))
                """,
                ("ids", some.Select(l => Guid.TryParse(Cell(l, WordsTable.Id), out var id) ? id : Guid.Empty).ToArray()), ("hashes", some.Select(l => Hash(Cell(l, WordsTable.Hash))).OfType<byte[]>().ToArray()),
                ("names", some.Select(Name).Where(n => n.Length > 0 && Text.IsSound(n)).ToArray()));
            var there = await command.AllAsync(r => (Id: r.Get<Guid>("id"), Hash: r.Get<string>("hash"), Name: r.Get<string>("name")), ct);
            var (ids, hashes, names) = (there.Select(p => p.Id).ToHashSet(), there.Where(p => p.Hash.Length > 0).ToDictionary(p => p.Hash, p => p.Id), there.ToLookup(p => p.Name, p => p.Id));
            foreach (var line in some)
            {
                if (Guid.TryParse(Cell(line, WordsTable.Id), out var id) && ids.Contains(id))
                {
                    matched.Add((line, id));
                }
                else if (hashes.TryGetValue(Cell(line, WordsTable.Hash).ToLowerInvariant(), out var same))
                {
                    matched.Add((line, same));
                }
                else if (Name(line) is { Length: > 0 } name && names[name].ToArray() is { Length: > 0 } called)
                {
                    if (called.Length > 1)
                    {
                        rejected.Add(new RejectedRow(line.Number, $"{called.Length} photos are called “{Text.Cut(Cell(line, WordsTable.FileName), 80)}”; say which by its id."));
                        continue;
                    }

                    byName++;
                    matched.Add((line, called[0]));
                }
                else
                {
                    rejected.Add(new RejectedRow(line.Number, "No photo here is this one."));
                }
            }
        }

        return (matched, byName);
    }
}
