using System.Diagnostics;
using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using Jovitar.Bench;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Albums;
using Jovitar.Core.Clearance;
using Jovitar.Core.Describing;
using Jovitar.Core.Layout;
using Jovitar.Core.Narrowings;
using Jovitar.Server.Acts;
using Jovitar.Server.Albums;
using Jovitar.Server.Bins;
using Jovitar.Server.Clearance;
using Jovitar.Server.Describing;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Pages;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

// Figures taken inside a process or by watching a server: the modes are below.
switch (args)
{
    case ["layout"]:
        MeasureLayout();
        return 0;
    case ["access"]:
        MeasureAccess();
        return 0;
    case ["sheet", var connection]:
        await MeasureSheetAsync(connection);
        return 0;
    case ["acts", var connection]:
        await MeasureActsAsync(connection);
        return 0;
    case ["hostile", var hostileAddress, var hostileProcess]:
        await HostileTrial.RunAsync(hostileAddress, int.Parse(hostileProcess, CultureInfo.InvariantCulture), (above, after) =>
        {
            Say("memory of the server at its highest over a folder of hostile files, above idle", above, "MiB", null, null, "<= 400");
            Say("memory of the server a while after them, above idle", after, "MiB", null, null, "<= 100");
        });
        return 0;
    case ["repeats", var connection]:
        await MeasureRepeatsAsync(connection);
        return 0;
    case ["intake", var address, var connection, var process, var folder, var times]:
        var outcome = await IntakeTrial.RunAsync(address, connection, int.Parse(process, CultureInfo.InvariantCulture), folder, int.Parse(times, CultureInfo.InvariantCulture), onlySheet: times != "1");
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{outcome.Sheet} {outcome.Complete} {outcome.Idle} {outcome.Most}"));
        return 0;
    default:
        Console.Error.WriteLine("Say what to measure: layout, access, sheet CONNECTION, acts CONNECTION, repeats CONNECTION, hostile ADDRESS PROCESS, or intake ADDRESS CONNECTION PROCESS FOLDER TIMES.");
        return 1;
}

// One line a figure. The goal is about the ratio where there is one, else about the value.
static void Say(string name, double value, string unit, string? against = null, double? ratio = null, string? goal = null)
{
    bool? ok = null;
    if (goal?.Split(' ') is [var sign, var text])
    {
        var (found, wanted) = (ratio ?? value, double.Parse(text, CultureInfo.InvariantCulture));
        ok = sign == "<=" ? found <= wanted : found >= wanted;
    }

    Console.WriteLine(JsonSerializer.Serialize(new { name, value = Math.Round(value, 4), unit, against, ratio = ratio is { } r ? Math.Round(r, 3) : (double?)null, goal, ok }, new JsonSerializerOptions { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping }));
}

// The middle of many runs, milliseconds.
static double Middle(int runs, Action act)
{
    var times = new double[runs];
    for (var i = 0; i < runs; i++)
    {
        var start = Stopwatch.GetTimestamp();
        act();
        times[i] = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
    }

    Array.Sort(times);
    return times[runs / 2];
}

static void MeasureLayout()
{
    var random = new Random(5);
    double[] shapes = [1.5, 1.5, 1.5, 2 / 3.0, 4 / 3.0, 1, 16 / 9.0, 2.35];
    var ten = Enumerable.Range(0, 10_000).Select(_ => shapes[random.Next(shapes.Length)]).ToArray();
    bool[] turn = [.. Enumerable.Range(0, 10_000).Select(i => i % MosaicLarge.Turn == 0)];
    foreach (var kind in (LayoutKind[])[LayoutKind.Rows, LayoutKind.Columns, LayoutKind.Grid, LayoutKind.Mosaic])
    {
        var settings = new LayoutSettings(kind, kind == LayoutKind.Mosaic ? 180 : 240, 6);
        var name = kind.ToString().ToLowerInvariant();
        Middle(60, () => settings.Place(ten.AsSpan(0, 1000), 1200, turn.AsSpan(0, 1000)));
        var small = Middle(101, () => settings.Place(ten.AsSpan(0, 1000), 1200, turn.AsSpan(0, 1000)));
        var large = Middle(101, () => settings.Place(ten, 1200, turn));
        Say($"{name} layout of 10,000 photos", large, "ms", "one frame of the screen, 16 ms", large / 16, kind == LayoutKind.Mosaic ? "<= 2" : "<= 1");
        Say($"{name} layout of 10,000 photos", large, "ms", "1,000 photos", large / small, "<= 12");
    }
}

static void MeasureAccess()
{
    var trial = new AccessTrial();
    Middle(3, trial.Decide);
    var time = Middle(9, trial.Decide);
    Say($"decisions over {AccessTrial.Photos:N0} photos behind {AccessTrial.Gates} gates, of which {trial.Seen:N0} are seen", AccessTrial.Photos / time * 1000, "decisions/s", null, null, ">= 1000000");
}

static async Task MeasureRepeatsAsync(string connection)
{
    await using var db = NpgsqlDataSource.Create(connection);
    await using var pick = db.CreateCommand("select id, look, taken from photo where look is not null order by md5(id::text) limit 200");
    var photos = await pick.AllAsync(r => (Id: new PhotoId(r.GetGuid(0)), Look: (ulong)r.GetInt64(1), Taken: r.Maybe<DateTime>(2)), CancellationToken.None);
    async Task<double> P50Async(Func<(PhotoId Id, ulong Look, DateTime? Taken), Task> act)
    {
        var times = new List<double>();
        foreach (var photo in photos.Concat(photos))
        {
            var start = Stopwatch.GetTimestamp();
            await act(photo);
            times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }

        return times.Skip(photos.Count).Order().ElementAt(photos.Count / 2);
    }

    var bare = await P50Async(async photo =>
    {
        await using var read = db.Command("select id, look, taken from photo where id = @id", ("id", photo.Id.Value));
        await read.AllAsync(r => r.GetGuid(0), CancellationToken.None);
    });
    var near = await P50Async(photo => RepeatStore.CandidatesAsync((sql, parameters) => db.Command(sql, parameters), photo.Id, photo.Look, photo.Taken, CancellationToken.None));
    await using var count = db.CreateCommand("select count(*) from photo where look is not null");
    var many = (long)(await count.ExecuteScalarAsync())!;
    Say(string.Create(CultureInfo.InvariantCulture, $"near repeats of one photo among {many:#,0}"), near, "ms", "a primary-key read", near / bare, "<= 20");
}

static async Task MeasureActsAsync(string connection)
{
    const int Many = 10_000;
    await using var db = NpgsqlDataSource.Create(connection);
    var acts = new ActRunner(db, [new BinListener(), new TagWords(), new PageFreshness()], TimeProvider.System);
    var undo = new ActUndo(acts);
    var ct = CancellationToken.None;
    const string Update = "update photo set decision = @decision, version = version + 1 where id = any(@ids)";
    await using var pick = db.Command("select id from photo order by md5(id::text) limit @many", ("many", Many));
    var ids = (await pick.AllAsync(r => r.GetGuid(0), ct)).ToArray();
    async Task<double> TimeAsync(Func<int, Task> act)
    {
        var times = new List<double>();
        for (var i = 0; i < 7; i++)
        {
            var start = Stopwatch.GetTimestamp();
            await act(i);
            times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }

        return times.Order().ElementAt(times.Count / 2);
    }

    async Task TidyAsync()
    {
        await using var vacuum = db.CreateCommand("vacuum analyze photo");
        await vacuum.ExecuteNonQueryAsync();
    }

    var bare = await TimeAsync(async i =>
    {
        await using var tx = await db.BeginAsync(ct);
        await tx.RunAsync("set local session_replication_role = replica", ct);
        await tx.RunAsync(Update, ct, ("ids", ids), ("decision", i % 2 == 0 ? "keep" : ""));
        await tx.CommitAsync(ct);
    });
    await TidyAsync();
    // As in a server that has been at work: the connections have written single photos before, and keep their plans.
    for (var i = 0; i < 10; i++)
    {
        await acts.RunAsync(Actor.Worker("bench"), ActKind.Decided, a => a.RunAsync(Update, ct, ("ids", ids[..1]), ("decision", i % 2 == 0 ? "doubt" : "keep")), ct);
    }

    var done = new List<ActId>();
    var act = await TimeAsync(async i =>
    {
        var (_, made) = await acts.RunAsync(Actor.Worker("bench"), ActKind.Decided, a =>
        {
            a.Says = tally => $"Decided on {ActWords.Photos(tally.Photos)}.";
            return a.RunAsync(Update, ct, ("ids", ids), ("decision", i % 2 == 0 ? "doubt" : "keep"));
        }, ct);
        done.Add(made.Act!.Value);
    });
    await TidyAsync();
    var back = await TimeAsync(i => undo.UndoAsync(Actor.Worker("bench"), done[^(i + 1)], ct));
    await TidyAsync();
    // Words that differ from photo to photo, worked out by a pattern; beside them the same words by a bare UPDATE.
    var bareWords = await TimeAsync(async i =>
    {
        await using var tx = await db.BeginAsync(ct);
        await tx.RunAsync("set local session_replication_role = replica", ct);
        await tx.RunAsync(
            "update photo as p set title = w.title, version = version + 1 from unnest(@ids, @titles) as w(id, title) where p.id = w.id", ct,
            ("ids", ids), ("titles", ids.Select((_, n) => $"Kite {n}, {i}").ToArray()));
        await tx.CommitAsync(ct);
    });
    await TidyAsync();
    using var keeper = new IndexKeeper(db, TimeProvider.System);
    var describing = new DescribingStore(db, acts, new SheetStore(db, keeper));
    var described = new List<ActId>();
    var words = await TimeAsync(async i =>
    {
        var pattern = new WriteWord(WordField.Title, [new PatternPart(Text: $"{i} "), new PatternPart(Counter: new Counter(5, 1, false)), new PatternPart(Text: " of "), new PatternPart(Told: Told.FileName)]);
        described.Add((await describing.WriteAsync(Actor.Worker("bench"), [pattern], [.. ids.Select(PhotoId.From)], ct)).Done.Act!.Value);
    });
    await TidyAsync();
    var wordsBack = await TimeAsync(i => undo.UndoAsync(Actor.Worker("bench"), described[^(i + 1)], ct));
    await TidyAsync();
    // What one person says reaches all photos that name them; beside it the same note by a bare UPDATE.
    await acts.RunAsync(Actor.Worker("bench"), ActKind.Words, a => a.RunAsync("update photo set people = '{Bench}' where id = any(@ids)", ct, ("ids", ids)), ct);
    await TidyAsync();
    var bareNote = await TimeAsync(async i =>
    {
        await using var tx = await db.BeginAsync(ct);
        await tx.RunAsync("set local session_replication_role = replica", ct);
        await tx.RunAsync("update photo set people_say = @say where id = any(@ids)", ct, ("ids", ids), ("say", i % 2 == 0 ? "" : "no"));
        await tx.CommitAsync(ct);
    });
    await TidyAsync();
    var persons = new PersonStore(db, acts, new Jovitar.Server.Access.AccessStore(db, TimeProvider.System), keeper);
    var said = await TimeAsync(i => persons.WriteAsync(Actor.Worker("bench"), new PersonSaid("bench", i % 2 == 0 ? Consents.No : Consents.Yes, null, ""), i, ct));
    await acts.RunAsync(Actor.Worker("bench"), ActKind.Words, a => a.RunAsync("update photo set people = '{}' where id = any(@ids)", ct, ("ids", ids)), ct);
    await TidyAsync();
    var (upkeep, held) = await UpkeepAsync(db, acts, keeper, ids, ct);
    Say("what a person says, over 10,000 photos that name them", said, "ms", "the bare UPDATE", said / bareNote, "<= 8");
    Say("titles by a pattern over 10,000 photos", words, "ms", "the bare UPDATE", words / bareWords, "<= 8");
    Say("undo of titles over 10,000 photos", wordsBack, "ms", "the bare UPDATE", wordsBack / bareWords, "<= 8");
    Say("act over 10,000 photos", act, "ms", "the bare UPDATE", act / bare, "<= 8");
    Say("undo of an act over 10,000 photos", back, "ms", "the bare UPDATE", back / bare, "<= 8");
    Say($"ten albums that fill themselves, {held:#,0} photos in them, after 10,000 photos were decided on", upkeep, "ms", null, null, "<= 5000");
}

// Ten albums whose rules ask for what an act over many photos changes: until each holds what it should. Half of the time most of what they hold changes.
static async Task<(double Milliseconds, long Held)> UpkeepAsync(NpgsqlDataSource db, ActRunner acts, IndexKeeper keeper, Guid[] ids, CancellationToken ct)
{
    var (filling, albums) = (new FillingStore(db, acts), new List<AlbumId>());
    SheetSort[] sorts = [SheetSort.Taken, SheetSort.Arrived, SheetSort.Name, SheetSort.Rating, SheetSort.Title];
    for (var n = 0; n < 10; n++)
    {
        var id = new AlbumId(Guid.CreateVersion7());
        var kept = Narrowing.Read(name => name == "decision" ? n < 5 ? "keep" : "doubt" : null);
        await acts.RunAsync(Actor.Worker("bench"), ActKind.MadeAlbum, async act =>
        {
            act.Says = _ => "Made an album.";
            await act.RunAsync("insert into album (id, working_name, made) values (@id, 'Bench', @now)", ct, ("id", id.Value), ("now", act.Now));
            await FillingStore.WriteAsync(act, id, new Filling(kept, 500, sorts[n % 5], false), ct);
            return 0;
        }, ct);
        albums.Add(id);
    }

    var times = new List<double>();
    for (var round = 0; round < 7; round++)
    {
        await acts.RunAsync(Actor.Worker("bench"), ActKind.Decided, act =>
        {
            act.Says = _ => "Decided.";
            return act.RunAsync("update photo set decision = @decision, version = version + 1 where id = any(@ids)", ct, ("ids", ids), ("decision", round % 2 == 0 ? "keep" : "doubt"));
        }, ct);
        var start = Stopwatch.GetTimestamp();
        var index = await keeper.CurrentAsync(ct);
        foreach (var album in albums)
        {
            await filling.FillAsync(album, index, ct);
        }

        times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
    }

    await using var count = db.Command("select count(*) from album_photo where album = any(@albums)", ("albums", albums.Select(a => a.Value).ToArray()));
    var held = (long)(await count.ExecuteScalarAsync(ct))!;
    await acts.RunAsync(Actor.Worker("bench"), ActKind.Binned, act =>
    {
        act.Says = _ => "Threw albums away.";
        return act.RunAsync("update album set binned = @now where id = any(@albums)", ct, ("now", act.Now), ("albums", albums.Select(a => a.Value).ToArray()));
    }, ct);
    return (times.Order().ElementAt(times.Count / 2), held);
}

static async Task MeasureSheetAsync(string connection)
{
    await using var db = NpgsqlDataSource.Create(connection);
    using var keeper = new IndexKeeper(db, TimeProvider.System);
    var (sheet, counts) = (new SheetStore(db, keeper), new CountStore(db, keeper));
    var ct = CancellationToken.None;
    await using var count = db.CreateCommand("select count(*) from photo");
    var many = (long)(await count.ExecuteScalarAsync())!;
    var photos = many.ToString("#,0", CultureInfo.InvariantCulture);
    Guid[] ids;
    await using (var pick = db.CreateCommand($"select id from photo order by md5(id::text) limit {SheetStore.Step}"))
    await using (var reader = await pick.ExecuteReaderAsync())
    {
        var list = new List<Guid>();
        while (await reader.ReadAsync())
        {
            list.Add(reader.GetGuid(0));
        }

        ids = [.. list];
    }

    async Task<double> P95Async(Func<Task> act)
    {
        var times = new List<double>();
        for (var i = 0; i < 300; i++)
        {
            var start = Stopwatch.GetTimestamp();
            await act();
            if (i >= 100)
            {
                times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
            }
        }

        times.Sort();
        return times[times.Count * 95 / 100];
    }

    var bare = await P95Async(async () =>
    {
        await using var read = db.CreateCommand("select id, picture, file_name, title, width, height, state, failure from photo where id = any($1)");
        read.Parameters.Add(new NpgsqlParameter { Value = ids });
        await using var reader = await read.ExecuteReaderAsync();
        while (await reader.ReadAsync())
        {
            reader.GetString(1);
        }
    });
    Say($"bare primary-key read of as many rows as a window, {photos} photos, p95", bare, "ms");
    var tag = await ScalarAsync("select tag from photo_tag group by tag order by count(*) desc limit 1");
    var category = await ScalarAsync("select coalesce(c.parent, c.id) from category as c order by c.parent is null, c.name limit 1");
    var begun = Stopwatch.GetTimestamp();
    var memory = GC.GetTotalMemory(true);
    await keeper.CurrentAsync(ct);
    Say($"reading all that {photos} photos are found by, at the start of a process", Stopwatch.GetElapsedTime(begun).TotalSeconds, "s");
    Say($"memory that it takes, {photos} photos", (GC.GetTotalMemory(true) - memory) / 1048576.0, "MiB");
    var tree = new Dictionary<Guid, Guid?>();
    await using (var read = db.CreateCommand("select id, parent from category"))
    {
        tree = (await read.AllAsync(r => KeyValuePair.Create(r.GetGuid(0), r.Maybe<Guid>(1)), ct)).ToDictionary();
    }

    var queries = new (string Name, SheetQuery Query)[]
    {
        ("by date taken", new SheetQuery()), ("by name", new SheetQuery { Sort = "name" }), ("one tag", new SheetQuery { Tag = $"{tag}" }),
        ("a category and beneath", new SheetQuery { Category = $"{category}" }), ("search of two words", new SheetQuery { Q = "delta beach" }), ("without a title", new SheetQuery { Missing = "title", Sort = "rating" }),
        ("three parts, one turned round", new SheetQuery { NotTag = $"{tag}", Taken = "2016--2018", Decision = "none" }),
    };
    foreach (var (name, query) in queries)
    {
        var first = await P95Async(() => sheet.WindowAsync(query, 0, ct));
        Say($"first window of the sheet, {name}, {photos} photos, p95", first, "ms", "the bare read", first / bare, "<= 6");
        var total = (await sheet.WindowAsync(query, 0, ct)).Total;
        foreach (var (where, at) in ((string, int)[])[("middle", total / 2), ("end", total - SheetStore.Step)])
        {
            var later = await P95Async(() => sheet.WindowAsync(query, at, ct));
            Say($"window at the {where}, {name}, {photos} photos, p95", later, "ms", "the first window", later / first, "<= 1.5");
        }

        // As after every change: nothing of what was found before is kept.
        var fresh = await P95Async(async () =>
        {
            (await keeper.CurrentAsync(ct)).Tree(tree);
            await sheet.WindowAsync(query, 0, ct);
        });
        Say($"first window after a change, {name}, {photos} photos, p95", fresh, "ms", null, null, query.NotTag is null ? "<= 15" : null);
        var counted = await P95Async(async () =>
        {
            (await keeper.CurrentAsync(ct)).Tree(tree);
            await counts.CountAsync(query.Narrowing(), inBin: false, ct);
        });
        Say($"counts beside every choice after a change, {name}, {photos} photos, p95", counted, "ms", null, null, $"<= {(many > 100_000 ? 500 : 150)}");
    }

    var access = new Jovitar.Server.Access.AccessStore(db, TimeProvider.System);
    var noActs = new ActRunner(db, [], TimeProvider.System);
    var categories = new CategoryStore(db, null!, access, new Jovitar.Server.Access.Audiences.SightStore(db, noActs, TimeProvider.System), keeper);
    var desk = new Jovitar.Server.Desk.DeskStore(db, access, keeper, categories, new Jovitar.Server.Favourites.ChoiceListStore(db, noActs), TimeProvider.System);
    Say($"figures of the contents, {photos} photos, p95", await P95Async(() => desk.FiguresAsync(ct)), "ms", null, null, "<= 50");
    Say($"the desk, {photos} photos, p95", await P95Async(() => desk.StateAsync(ct)), "ms", null, null, "<= 50");
    Say($"tags with their counts, {photos} photos, p95", await P95Async(() => new TagStore(db, null!, keeper).TagsAsync("", [], 300, ct)), "ms");

    async Task<Guid> ScalarAsync(string sql)
    {
        await using var command = db.CreateCommand(sql);
        return (Guid)(await command.ExecuteScalarAsync())!;
    }
}
