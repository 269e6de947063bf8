using System.Globalization;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Clearance;
using Jovitar.Core.Describing;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
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
/// <param name="Lost">So many photos that visitors see they would not see any more.</param>
/// <param name="Gained">So many photos they would come to see.</param>
/// <param name="Rejected">The first of those that are not written; RejectedCount says how many.</param>
internal sealed record PersonPreview(
    string Encoding, bool Doubtful, IReadOnlyList<string> Unknown, int Rows, int Read, int Yes, int No, int Changed, int Lost, int Gained, int RejectedCount, IReadOnlyList<RejectedRow> Rejected);

/// <summary>What writing a file of persons came to.</summary>
internal sealed record PersonsDone(Done Done, int Changed, int RejectedCount);

/// <summary>The list of persons, and what each says of being shown.</summary>
internal sealed class PersonStore(NpgsqlDataSource db, ActRunner acts, AccessStore access, IndexKeeper keeper)
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
    public async Task<IReadOnlyList<(string Name, int Photos)>> KnownAsync(string words, int most, CancellationToken ct)
    {
        var wanted = Persons.Key(words.Trim());
        var shown = (await ShownAsync(ct)).Where(s => s.Key.Contains(wanted, StringComparison.Ordinal)).ToDictionary();
        await using var command = db.Command(
            "select name from person where struck is null and position(person_key(@words) in key) > 0 order by key limit @most", ("words", words.Trim()), ("most", most));
        var listed = await command.AllAsync(r => r.GetString(0), ct);
        return [.. shown.Values.OrderByDescending(s => s.Photos).Concat(listed.Where(n => !shown.ContainsKey(Persons.Key(n))).Select(n => (Name: n, Photos: 0))).Take(most)];
    }

    /// <summary>Whom photos show, by the keys of their names; of one name in several cases the commonest.</summary>
    async Task<Dictionary<string, (string Name, int Photos)>> ShownAsync(CancellationToken ct)
    {
        var shown = new Dictionary<string, (string Name, int Photos)>(StringComparer.Ordinal);
        foreach (var (name, photos) in (await keeper.CurrentAsync(ct)).People())
        {
            var key = Persons.Key(name);
            shown[key] = shown.TryGetValue(key, out var known) ? (known.Name, known.Photos + photos) : (name, photos);
        }

        return shown;
    }

    /// <summary>Everybody on the list, and everybody whom photos show.</summary>
    async Task<IReadOnlyList<Row>> RowsAsync(CancellationToken ct)
    {
        var shown = await ShownAsync(ct);
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
        await using (var csv = new CsvRows(to))
        {
            await csv.AddAsync(PersonTable.Columns);
            foreach (var row in await RowsAsync(ct))
            {
                await csv.AddAsync(PersonTable.Cells(new PersonSaid(row.Name, row.Says, row.Until, row.By)));
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

        var names = persons.Select(p => p.Name).ToArray();
        var ((changed, fits, lost, gained), _) = await acts.RunAsync(
            who, ActKind.Clearance,
            async act =>
            {
                var before = await NamingAsync(act, names, ct);
                var rows = await WriteAsync(act, persons, ct);
                var after = await NamingAsync(act, names, ct);
                var (gone, come) = await MovedAsync(act, before, after, ct);
                return act.Drop((rows, await FitsAsync(act, ct), gone, come));
            },
            ct);
        if (!fits)
        {
            return (null, TooMany);
        }

        return (
            new PersonPreview(
                csv.Encoding, csv.Doubtful, csv.Unknown(PersonTable.Known), csv.Lines.Count, persons.Count, persons.Count(p => p.Says == Consents.Yes), persons.Count(p => p.Says == Consents.No), changed, lost, gained,
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

        var (changed, done) = await acts.RunAsync<int?>(
            who, ActKind.Clearance,
            async act =>
            {
                var rows = await WriteAsync(act, persons, ct);
                act.Says = tally => ClearanceWords.Table(tally, rows, name);
                return await FitsAsync(act, ct) ? rows : act.Drop<int?>(null);
            },
            ct);
        return changed is { } written ? (new PersonsDone(done, written, csv.Rejected.Count), null) : (null, TooMany);
    }

    static readonly string TooMany = string.Create(CultureInfo.InvariantCulture, $"The list has at most {PersonTable.MostPersons:#,0} persons.");

    static async Task<bool> FitsAsync(Act act, CancellationToken ct)
    {
        await using var command = act.Command("select count(*) <= @most from (select from person where struck is null limit @most + 1) as listed", ("most", (long)PersonTable.MostPersons));
        return (bool)(await command.ExecuteScalarAsync(ct))!;
    }

    /// <summary>Photos that name any of some persons, each as if it stood on a page.</summary>
    static async Task<IReadOnlyDictionary<Guid, PhotoThing>> NamingAsync(Act act, string[] names, CancellationToken ct)
    {
        await using var command = act.Command(
            $$"""
            select p.id, {{AccessStore.PhotoColumns}}
              from photo as p
             where p.people <> '{}' and person_keys(p.people) && person_keys(@names)
            """,
            ("names", names));
        return (await command.AllAsync(r => KeyValuePair.Create(r.Get<Guid>("id"), AccessStore.Photo(r, new ShownOn(1), GateList.None)), ct)).ToDictionary();
    }

    /// <summary>How many photos visitors saw and would not see any more, and how many they would come to see.</summary>
    async Task<(int Gone, int Come)> MovedAsync(Act act, IReadOnlyDictionary<Guid, PhotoThing> before, IReadOnlyDictionary<Guid, PhotoThing> after, CancellationToken ct)
    {
        bool Sees(PhotoThing photo) => access.May(Viewer.Somebody, Right.See, photo);
        var moved = before.Keys.Where(p => Sees(before[p]) != Sees(after[p])).ToArray();
        await using var command = act.Command($"select p.id, {AccessStore.PhotoOnColumns} from photo as p {AccessStore.PhotoShownOn} where p.id = any(@moved)", ("moved", moved), ("shut", Sight.Somebody.Shut));
        var shown = await command.AllAsync(r => (Id: r.Get<Guid>("id"), On: AccessStore.On(r)), ct);
        return (shown.Count(p => Sees(before[p.Id] with { On = p.On })), shown.Count(p => Sees(after[p.Id] with { On = p.On })));
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

        var (persons, rejected) = PersonTable.All(csv.Lines.Select(l => (l.Number, (Func<string, string?>)(column => at.TryGetValue(column, out var i) ? l.Cells.ElementAtOrDefault(i) : null))));
        csv.Rejected.AddRange(rejected.Select(r => new RejectedRow(r.Line, r.Why)));
        return (persons, null);
    }
}
