using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using Jovitar.Core.Acts;
using Jovitar.Core.Clearance;
using Jovitar.Core.Describing;
using Jovitar.Server.Acts;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Clearance;

/// <summary>A person on the list, or one whom photos show and of whom the list says nothing.</summary>
/// <param name="Says">One of <see cref="Consents"/>.</param>
/// <param name="Until">The last day of a yes.</param>
/// <param name="Version">Counts what was written of the person; expected by the next write. 0 for one who is not on the list.</param>
/// <param name="Photos">So many photos show the person.</param>
/// <param name="Picture">Of one of them.</param>
internal sealed record PersonLine(string Name, string Says, DateOnly? Until, string By, long Version, int Photos, string? Picture, int Width, int Height);

/// <summary>A part of the list of persons.</summary>
/// <param name="Found">So many are found.</param>
/// <param name="All">So many there are, those whom photos show and of whom the list says nothing with them.</param>
internal sealed record PersonList(IReadOnlyList<PersonLine> Persons, int Found, int All, int Yes, int No, int Nothing);

/// <summary>What a file says of persons, and what writing it would come to.</summary>
/// <param name="Rows">So many rows it has besides the header.</param>
/// <param name="Read">So many persons are read from them.</param>
/// <param name="Changed">So many of those are new on the list, or say something else now.</param>
/// <param name="Lost">So many photos no visitor would see any more.</param>
/// <param name="Freed">So many photos would no longer be held because somebody on them says no.</param>
/// <param name="Rejected">The first of those that are not written; RejectedCount says how many.</param>
internal sealed record PersonPreview(
    string Encoding, bool Doubtful, IReadOnlyList<string> Unknown, int Rows, int Read, int Yes, int No, int Changed, int Lost, int Freed, int RejectedCount, IReadOnlyList<RejectedRow> Rejected);

/// <summary>What writing a file of persons came to.</summary>
internal sealed record PersonsDone(Done Done, int Changed, int RejectedCount);

/// <summary>The list of persons, and what each says of being shown.</summary>
internal sealed class PersonStore(NpgsqlDataSource db, ActRunner acts, IndexKeeper keeper)
{
    /// <summary>So many stand in one answer.</summary>
    public const int Step = 60;

    const int MostNamed = 50;

    sealed record Row(string Name, string Says, DateOnly? Until, string By, long Version, int Photos);

    /// <summary>A part of the list, by name.</summary>
    /// <param name="says">Those alone who say yes, no, or nothing; null for all.</param>
    /// <param name="words">In their names; empty for all.</param>
    /// <param name="from">0 = first.</param>
    public async Task<PersonList> ListAsync(string? says, string words, int from, CancellationToken ct)
    {
        var all = await RowsAsync(ct);
        var wanted = Persons.Key(words.Trim());
        static string Group(Row row) => row.Says is Consents.Yes or Consents.No ? row.Says : Consents.Nothing;
        var found = all.Where(r => (says is null || Group(r) == says) && Persons.Key(r.Name).Contains(wanted, StringComparison.Ordinal)).ToArray();
        var some = found.Skip(from).Take(Step).ToArray();
        var pictures = await PicturesAsync([.. some.Where(r => r.Photos > 0).Select(r => r.Name)], ct);
        return new PersonList(
            [
                .. some.Select(r => pictures.TryGetValue(Persons.Key(r.Name), out var p)
                    ? new PersonLine(r.Name, r.Says, r.Until, r.By, r.Version, r.Photos, p.Picture, p.Width, p.Height)
                    : new PersonLine(r.Name, r.Says, r.Until, r.By, r.Version, r.Photos, null, 0, 0)),
            ],
            found.Length, all.Count, all.Count(r => Group(r) == Consents.Yes), all.Count(r => Group(r) == Consents.No), all.Count(r => Group(r) == Consents.Nothing));
    }

    /// <summary>Whom photos show or the list names, those shown most first.</summary>
    /// <param name="words">In their names; empty for all.</param>
    public async Task<IReadOnlyList<(string Name, int Photos)>> KnownAsync(string words, CancellationToken ct)
    {
        var wanted = Persons.Key(words.Trim());
        return [.. (await RowsAsync(ct)).Where(r => Persons.Key(r.Name).Contains(wanted, StringComparison.Ordinal)).OrderByDescending(r => r.Photos).Select(r => (r.Name, r.Photos))];
    }

    /// <summary>Everybody on the list, and everybody whom photos show.</summary>
    async Task<IReadOnlyList<Row>> RowsAsync(CancellationToken ct)
    {
        var shown = new Dictionary<string, (string Name, int Photos)>(StringComparer.Ordinal);
        foreach (var (name, photos) in (await keeper.CurrentAsync(ct)).People())
        {
            // Of one name in several cases the commonest is shown.
            var key = Persons.Key(name);
            shown[key] = shown.TryGetValue(key, out var known) ? (known.Name, known.Photos + photos) : (name, photos);
        }

        await using var command = db.CreateCommand("select name, says, until, said_by, version from person where struck is null");
        var rows = await command.AllAsync(
            r => new Row(
                r.Get<string>("name"), r.Get<string>("says"), r.Maybe<DateOnly>("until"), r.Get<string>("said_by"), r.Get<long>("version"),
                shown.Remove(Persons.Key(r.Get<string>("name")), out var known) ? known.Photos : 0),
            ct);
        return [.. rows.Concat(shown.Values.Select(s => new Row(s.Name, Consents.Nothing, null, "", 0, s.Photos))).OrderBy(r => Persons.Key(r.Name), StringComparer.Ordinal)];
    }

    async Task<IReadOnlyDictionary<string, (string Picture, int Width, int Height)>> PicturesAsync(IReadOnlyList<string> names, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select n.name, p.picture, p.width, p.height
              from unnest(@names) as n(name)
             cross join lateral (
               select q.picture, q.width, q.height
                 from photo as q
                where q.people <> '{}' and person_keys(q.people) && array[person_key(n.name)] and q.binned is null and q.stage > 0
                order by cardinality(q.people), q.id
                limit 1) as p
            """,
            ("names", names.ToArray()));
        var found = await command.AllAsync(r => (Key: Persons.Key(r.Get<string>("name")), Picture: r.Get<string>("picture"), Width: r.Get<int>("width"), Height: r.Get<int>("height")), ct);
        return found.DistinctBy(f => f.Key).ToDictionary(f => f.Key, f => (f.Picture, f.Width, f.Height));
    }

    /// <summary>Writes what a person says; one who is not on the list yet is put there.</summary>
    /// <param name="expected">The version that was read; 0 for one who is not on the list.</param>
    /// <returns>What was done; null when somebody else has written it since.</returns>
    public async Task<Done?> WriteAsync(Actor who, PersonSaid person, long expected, CancellationToken ct)
    {
        var (written, done) = await acts.RunAsync(
            who, ActKind.Clearance,
            async act =>
            {
                act.Says = tally => ClearanceWords.Person(tally, person, expected == 0);
                (string, object?)[] says = [("name", person.Name), ("says", person.Says), ("until", person.Until), ("by", person.By)];
                var rows = expected == 0
                    ? await act.RunAsync(
                        """
                        insert into person (id, name, says, until, said_by)
                        values (@id, @name, @says, @until::date, @by)
                        on conflict (key) where struck is null do nothing
                        """,
                        ct, [.. says, ("id", Guid.CreateVersion7(act.Now))])
                    : await act.RunAsync(
                        """
                        update person
                           set name = @name, says = @says, until = @until::date, said_by = @by, version = version + 1
                         where key = person_key(@name) and struck is null and version = @expected
                        """,
                        ct, [.. says, ("expected", expected)]);
                return rows == 1 || act.Drop(false);
            },
            ct);
        return written ? done : null;
    }

    /// <summary>Strikes a person off the list; photos of them are as if nothing had been said.</summary>
    /// <returns>What was done; null when somebody else has written something of the person since.</returns>
    public async Task<Done?> StrikeAsync(Actor who, string name, long expected, CancellationToken ct)
    {
        var (struck, done) = await acts.RunAsync(
            who, ActKind.Clearance,
            async act =>
            {
                act.Says = tally => ClearanceWords.Struck(tally, name);
                var rows = await act.RunAsync(
                    "update person set struck = @now where key = person_key(@name) and struck is null and version = @expected", ct, ("now", act.Now), ("name", name), ("expected", expected));
                return rows == 1 || act.Drop(false);
            },
            ct);
        return struck ? done : null;
    }

    /// <summary>Writes the list with a header, UTF-8 with a mark so that spreadsheets know it, by name: everybody whom photos show, too.</summary>
    public async Task<byte[]> TableAsync(CancellationToken ct)
    {
        var to = new MemoryStream();
        await using (var text = new StreamWriter(to, new UTF8Encoding(encoderShouldEmitUTF8Identifier: true), leaveOpen: true))
        await using (var csv = new CsvWriter(text, new CsvConfiguration(CultureInfo.InvariantCulture) { NewLine = "\r\n" }))
        {
            foreach (var cells in (await RowsAsync(ct)).Select(r => PersonTable.Cells(new PersonSaid(r.Name, r.Says, r.Until, r.By))).Prepend(PersonTable.Columns))
            {
                foreach (var cell in cells)
                {
                    csv.WriteField(cell);
                }

                await csv.NextRecordAsync();
            }
        }

        return to.ToArray();
    }

    /// <summary>What a file says, and what writing it would come to: it is written, looked at, and not kept.</summary>
    public async Task<(PersonPreview? Preview, string? Wrong)> PreviewAsync(Actor who, CsvText csv, CancellationToken ct)
    {
        var (persons, wrong) = Read(csv);
        if (persons is null)
        {
            return (null, wrong);
        }

        var ((changed, lost, freed), _) = await acts.RunAsync(
            who, ActKind.Clearance,
            async act =>
            {
                var before = await HeldAsync(act, ct);
                var rows = await WriteAsync(act, persons, ct);
                var after = await HeldAsync(act, ct);
                return act.Drop((rows, after.Count(p => !before.Contains(p)), before.Count(p => !after.Contains(p))));
            },
            ct);
        return (
            new PersonPreview(
                csv.Encoding, csv.Doubtful, csv.Unknown(PersonTable.Known), csv.Lines.Count, persons.Count, persons.Count(p => p.Says == Consents.Yes), persons.Count(p => p.Says == Consents.No), changed, lost, freed,
                csv.Rejected.Count, [.. csv.Rejected.OrderBy(r => r.Line).Take(MostNamed)]),
            null);
    }

    /// <summary>Writes what a file says, as one act; who is not in it stays as they are.</summary>
    public async Task<(PersonsDone? Done, string? Wrong)> TakeInAsync(Actor who, CsvText csv, string name, CancellationToken ct)
    {
        var (persons, wrong) = Read(csv);
        if (persons is null)
        {
            return (null, wrong);
        }

        var (changed, done) = await acts.RunAsync(
            who, ActKind.Clearance,
            async act =>
            {
                var rows = await WriteAsync(act, persons, ct);
                act.Says = tally => ClearanceWords.Table(tally, rows, name);
                return rows;
            },
            ct);
        return (new PersonsDone(done, changed, csv.Rejected.Count), null);
    }

    /// <summary>Photos on which somebody says no.</summary>
    static async Task<HashSet<Guid>> HeldAsync(Act act, CancellationToken ct)
    {
        await using var command = act.Command("select id from photo where people_say = 'no'");
        return [.. await command.AllAsync(r => r.GetGuid(0), ct)];
    }

    /// <returns>How many are new on the list, or say something else now.</returns>
    static Task<int> WriteAsync(Act act, IReadOnlyList<PersonSaid> persons, CancellationToken ct) => act.RunAsync(
        """
        insert into person as p (id, name, says, until, said_by)
        select distinct on (person_key(w.name)) w.id, w.name, w.says, w.until, w.by
          from unnest(@ids, @names, @says, @untils, @bys) with ordinality as w(id, name, says, until, by, n)
         order by person_key(w.name), w.n
        on conflict (key) where struck is null do update
           set name = excluded.name, says = excluded.says, until = excluded.until, said_by = excluded.said_by, version = p.version + 1
         where (p.name, p.says, p.until, p.said_by) is distinct from (excluded.name, excluded.says, excluded.until, excluded.said_by)
        """,
        ct,
        ("ids", persons.Select(_ => Guid.CreateVersion7(act.Now)).ToArray()), ("names", persons.Select(p => p.Name).ToArray()), ("says", persons.Select(p => p.Says).ToArray()),
        ("untils", persons.Select(p => p.Until).ToArray()), ("bys", persons.Select(p => p.By).ToArray()));

    /// <summary>The persons of a file; those rows that are none are noted as rejected.</summary>
    static (IReadOnlyList<PersonSaid>? Persons, string? Wrong) Read(CsvText csv)
    {
        var (at, twice) = csv.Columns(PersonTable.Known);
        if ((twice ?? PersonTable.Lacks([.. at.Keys])) is { } wrong)
        {
            return (null, wrong);
        }

        if (csv.Lines.Count > PersonTable.MostRows)
        {
            return (null, string.Create(CultureInfo.InvariantCulture, $"A file has at most {PersonTable.MostRows:#,0} persons; part it into several."));
        }

        var (persons, seen) = (new List<PersonSaid>(), new Dictionary<string, (int At, int Line)>(StringComparer.Ordinal));
        foreach (var line in csv.Lines)
        {
            var (person, not) = PersonTable.Read(column => at.TryGetValue(column, out var i) ? line.Cells.ElementAtOrDefault(i) : null);
            if (person is null)
            {
                csv.Rejected.Add(new RejectedRow(line.Number, not!));
            }
            else if (seen.TryGetValue(Persons.Key(person.Name), out var known))
            {
                // Of two rows a no is never the one that is passed over.
                var refuses = person.Says == Consents.No && persons[known.At].Says != Consents.No;
                persons[known.At] = refuses ? person : persons[known.At];
                csv.Rejected.Add(new RejectedRow(refuses ? known.Line : line.Number, $"The same person stands in line {(refuses ? line.Number : known.Line)}{(refuses ? " and says no there" : " already")}."));
            }
            else
            {
                seen[Persons.Key(person.Name)] = (persons.Count, line.Number);
                persons.Add(person);
            }
        }

        return (persons, null);
    }
}
