using System.Diagnostics;
using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Words as a spreadsheet's file, out and in again, and as a table that is typed down.</summary>
public sealed class TableTests
{
    static async Task<JsonElement> PostAsync(HttpClient who, string address, byte[] file)
    {
        using var content = new ByteArrayContent(file);
        content.Headers.ContentType = new MediaTypeHeaderValue("text/csv");
        return await (await who.PostAsync(address, content)).ReadAsync();
    }

    static async Task<(HttpStatusCode Status, string Text)> RefusedAsync(HttpClient who, byte[] file, string query = "")
    {
        using var content = new ByteArrayContent(file);
        content.Headers.ContentType = new MediaTypeHeaderValue("text/csv");
        var answer = await who.PostAsync($"/api/words/table/preview{query}", content);
        return (answer.StatusCode, await answer.Content.ReadAsStringAsync());
    }

    static string Rejected(JsonElement preview) => string.Join('|', preview.GetProperty("rejected").EnumerateArray().Select(r => $"{r.GetProperty("line").GetInt32()} {r.GetProperty("reason").GetString()}"));

    static async Task<JsonElement> PlateAsync(HttpClient who, string photo) => await (await who.GetAsync($"/api/photos/{photo}")).ReadAsync();

    /// <summary>Python's own csv module (Python Software Foundation, the standard library) as the program on the other side.</summary>
    static string Python(string program, string input)
    {
        var start = new ProcessStartInfo("/usr/bin/python3", ["-c", program]) { RedirectStandardInput = true, RedirectStandardOutput = true, RedirectStandardError = true, StandardInputEncoding = new UTF8Encoding(false), StandardOutputEncoding = Encoding.UTF8 };
        start.Environment["PYTHONIOENCODING"] = "utf-8";
        using var process = Process.Start(start)!;
        process.StandardInput.Write(input);
        process.StandardInput.Close();
        var output = process.StandardOutput.ReadToEnd();
        Assert.True(process.WaitForExit(30_000) && process.ExitCode == 0, process.StandardError.ReadToEnd());
        return output;
    }

    [Fact]
    public async Task Words_go_out_and_come_back_through_another_languages_library_and_nothing_is_lost_or_run()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 4);
        string[] titles = ["=SUM(A1:A9)", "“Quoted”, with \"more\"; and\ttabs", "夕暮れ 🪁 مهرجان", "'=already"];
        foreach (var (id, title) in p.Zip(titles))
        {
            await (await owner.PostAsJsonAsync("/api/words", new
            {
                photos = new[] { id },
                changes = new object[]
                {
                    new { write = new { field = "title", pattern = new[] { new { text = title } } } }, new { write = new { field = "caption", pattern = new[] { new { text = "First line\nsecond, line" } } } },
                    new { people = new { add = new[] { "Ines Harrow", "Tam" }, remove = Array.Empty<string>() } }, new { taken = new { local = "2026-06-13T14:05:09" } },
                },
            })).ReadAsync();
        }

        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p, add = new[] { "Delta", "-minus" }, remove = Array.Empty<string>() })).ReadAsync();
        var bytes = await owner.GetByteArrayAsync("/api/words/table.csv");
        Assert.True(bytes.AsSpan().StartsWith(Encoding.UTF8.Preamble));
        var text = Encoding.UTF8.GetString(bytes.AsSpan(3));
        Assert.Equal(4, p.Count(id => text.Contains(id, StringComparison.Ordinal)));
        // No cell begins with what a spreadsheet would run.
        var cells = JsonSerializer.Deserialize<string[][]>(Python("import csv,sys,json; print(json.dumps(list(csv.reader(sys.stdin.read().splitlines(keepends=True)))))", text))!;
        Assert.DoesNotContain(cells.SelectMany(r => r), c => c.Length > 0 && "=+-@\t\r".Contains(c[0], StringComparison.Ordinal));

        // It comes back as it went, and nothing changes.
        var same = await PostAsync(owner, "/api/words/table/preview", bytes);
        Assert.Equal((4, 4, 0, 0, "utf-8"), (same.GetProperty("rows").GetInt32(), same.GetProperty("matched").GetInt32(), same.GetProperty("changed").GetInt32(), same.GetProperty("rejectedCount").GetInt32(), same.GetProperty("encoding").GetString()));

        // The other side changes each title and writes its own file, with its own quoting and line ends.
        var changed = Python(
            "import csv,sys; rows=list(csv.DictReader(sys.stdin.read().splitlines(keepends=True))); w=csv.DictWriter(sys.stdout,rows[0].keys(),quoting=csv.QUOTE_ALL,delimiter=';',lineterminator='\\n'); w.writeheader(); [w.writerow({**r,'title':r['title']+' (2)','tags':'Delta; new one','rating':'4'}) for r in rows]",
            text);
        var preview = await PostAsync(owner, "/api/words/table/preview", Encoding.UTF8.GetBytes(changed));
        Assert.Equal((4, ";", 0), (preview.GetProperty("changed").GetInt32(), preview.GetProperty("separator").GetString(), preview.GetProperty("unknown").GetArrayLength()));
        var done = await PostAsync(owner, "/api/words/table?name=guild.csv", Encoding.UTF8.GetBytes(changed));
        Assert.Equal(4, done.GetProperty("done").GetProperty("photos").GetInt32());
        var plates = await Task.WhenAll(p.Select(id => PlateAsync(owner, id)));
        Assert.Equal(titles.Select(t => $"{t} (2)"), plates.Select(q => q.GetProperty("title").GetString()));
        Assert.All(plates, q => Assert.Equal("First line\nsecond, line", q.GetProperty("caption").GetString()));
        Assert.All(plates, q => Assert.Equal(["Delta", "new one"], q.GetProperty("tags").EnumerateArray().Select(t => t.GetProperty("name").GetString()!)));
        Assert.All(plates, q => Assert.Equal((4, "2026-06-13T14:05:09", 2), (q.GetProperty("rating").GetInt32(), q.GetProperty("taken").GetString(), q.GetProperty("people").GetArrayLength())));
        Assert.Equal("Wrote words from “guild.csv” on 4 photos.", (await (await owner.GetAsync("/api/acts")).ReadAsync()).GetProperty("acts")[0].GetProperty("sentence").GetString());
        await owner.UndoAsync(done);
        plates = await Task.WhenAll(p.Select(id => PlateAsync(owner, id)));
        Assert.Equal(titles, plates.Select(q => q.GetProperty("title").GetString()));
        Assert.All(plates, q => Assert.Equal(["-minus", "Delta"], q.GetProperty("tags").EnumerateArray().Select(t => t.GetProperty("name").GetString()!)));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Rows_are_matched_by_id_then_by_hash_then_by_name_and_what_is_not_is_named_with_its_line()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var p = new List<string>();
        foreach (var (name, seed) in new[] { ("a.jpg", 1), ("b.jpg", 2), ("twice.jpg", 3), ("twice.jpg", 4), ("gone.jpg", 5) })
        {
            p.Add((await owner.BringAsync(intake, name, Acts.Photo(seed, 90, 60))).GetProperty("photo").GetString()!);
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready'", 5);
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[4] } })).ReadAsync();
        var hash = await site.ScalarAsync<string>($"select encode(hash, 'hex') from photo where id = '{p[2]}'");
        var csv = $"""
            Title,ID,Hash,File Name,Colour,Rating,Date taken,Link,Tags
            By id,{p[0]},,,red,,,,
            By hash,,{hash.ToUpperInvariant()},,,,,,
            By name,,,B.JPG,,5,2026-06-13 14:05,https://guild.example,"one; two; ONE"
            Twice,,,twice.jpg,,,,,
            Again,{p[0]},,,,,,,
            Gone,,,gone.jpg,,,,,
            Wrong,{p[3]},,,,six,,,
            Wrong,{p[3]},,,,,yesterday,,
            Wrong,{p[3]},,,,,,javascript:x,
            Long,{p[3]},,,,,,,,,,over
            "unended,{p[3]},,,,
            """.Replace("\n", "\r\n", StringComparison.Ordinal);
        var preview = await PostAsync(owner, "/api/words/table/preview", Encoding.UTF8.GetBytes(csv));
        Assert.Equal(
            "5 2 photos are called “twice.jpg”; say which by its id.|6 The same photo stands in line 2 already.|7 No photo here is this one.|8 “six” is no rating; it is 0 to 5.|9 The same photo stands in line 8 already.|10 The same photo stands in line 8 already.|11 It has more cells than the first row has names.|12 No photo here is this one.",
            Rejected(preview));
        Assert.Equal((3, 1, 3), (preview.GetProperty("matched").GetInt32(), preview.GetProperty("byName").GetInt32(), preview.GetProperty("changed").GetInt32()));
        Assert.Equal(["Colour"], preview.GetProperty("unknown").EnumerateArray().Select(e => e.GetString()!));
        await PostAsync(owner, "/api/words/table", Encoding.UTF8.GetBytes(csv));
        Assert.Equal(["By id", "By name", "By hash", ""], await Task.WhenAll(p.Take(4).Select(async id => (await PlateAsync(owner, id)).GetProperty("title").GetString()!)));
        var b = await PlateAsync(owner, p[1]);
        Assert.Equal((5, "2026-06-13T14:05:00", 2), (b.GetProperty("rating").GetInt32(), b.GetProperty("taken").GetString(), b.GetProperty("tags").GetArrayLength()));
        foreach (var (row, reason) in new[] { ($"x,{p[3]},yesterday,", "“yesterday” is no date; it is written 2026-06-13 14:05:00."), ($"x,{p[3]},,javascript:x", "“javascript:x” is no link.") })
        {
            Assert.Equal($"2 {reason}", Rejected(await PostAsync(owner, "/api/words/table/preview", Encoding.UTF8.GetBytes($"title,id,date taken,link\n{row}\n"))));
        }

        // Blank cells leave a word as it is, unless they are to clear it.
        var blank = Encoding.UTF8.GetBytes($"id,title\n{p[0]},\n");
        Assert.Equal(0, (await PostAsync(owner, "/api/words/table", blank)).GetProperty("done").GetProperty("photos").GetInt32());
        Assert.Equal(1, (await PostAsync(owner, "/api/words/table?clears=true", blank)).GetProperty("done").GetProperty("photos").GetInt32());
        Assert.Equal("", (await PlateAsync(owner, p[0])).GetProperty("title").GetString());
    }

    [Fact]
    public async Task A_file_in_another_encoding_is_guessed_said_and_chosen_and_what_is_no_table_is_refused_in_words()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 1);
        Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);
        async Task<string> TitleAsync(byte[] file, string query = "")
        {
            var preview = await PostAsync(owner, $"/api/words/table/preview{query}", file);
            return $"{preview.GetProperty("encoding").GetString()} {preview.GetProperty("doubtful").GetBoolean()} {preview.GetProperty("examples")[0].GetProperty("words")[0].GetProperty("after").GetString()}";
        }

        var csv = $"id;title\r\n{p[0]};Håjs à l’été\r\n";
        Assert.Equal("utf-8 False Håjs à l’été", await TitleAsync(Encoding.UTF8.GetBytes(csv)));
        Assert.Equal("utf-16 False Håjs à l’été", await TitleAsync([.. Encoding.Unicode.Preamble, .. Encoding.Unicode.GetBytes(csv)]));
        Assert.Equal("windows-1252 True Håjs à l’été", await TitleAsync(Encoding.GetEncoding(1252).GetBytes(csv)));
        Assert.Equal("macintosh False Håjs à l’été", await TitleAsync(Encoding.GetEncoding("macintosh").GetBytes(csv), "?encoding=macintosh"));
        Assert.Equal("windows-1251 False Воздушный змей", await TitleAsync(Encoding.GetEncoding(1251).GetBytes($"id\ttitle\n{p[0]}\tВоздушный змей\n"), "?encoding=windows-1251"));
        Assert.Contains("not written in this encoding", (await RefusedAsync(owner, Encoding.GetEncoding(1252).GetBytes(csv), "?encoding=utf-8")).Text, StringComparison.Ordinal);
        Assert.Contains("no such encoding", (await RefusedAsync(owner, [], "?encoding=utf-7")).Text, StringComparison.Ordinal);
        Assert.Contains("no rows", (await RefusedAsync(owner, [])).Text, StringComparison.Ordinal);
        Assert.Contains("names no photo", (await RefusedAsync(owner, "title,caption\nx,y\n"u8.ToArray())).Text, StringComparison.Ordinal);
        Assert.Contains("same name", (await RefusedAsync(owner, "id,title,Title\nx,y,z\n"u8.ToArray())).Text, StringComparison.Ordinal);
        // Whatever bytes there are: an answer, never a fault.
        var dice = new Random(7);
        for (var i = 0; i < 40; i++)
        {
            var noise = new byte[dice.Next(1, 4000)];
            dice.NextBytes(noise);
            Assert.Equal(HttpStatusCode.BadRequest, (await RefusedAsync(owner, noise)).Status);
            Assert.InRange((int)(await RefusedAsync(owner, [.. "id,title\n"u8, .. noise])).Status, 200, 400);
        }

        Assert.Equal(HttpStatusCode.Unauthorized, (await RefusedAsync(site.Visitor(), Encoding.UTF8.GetBytes(csv))).Status);
    }

    /// <summary>What a file would come to counts whatever it would change: also where only ratings or tags differ.</summary>
    [Fact]
    public async Task A_file_that_differs_in_ratings_or_tags_alone_is_a_change_and_one_that_does_not_is_none()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 3);
        async Task<int> ChangedAsync(string csv) => (await PostAsync(owner, "/api/words/table/preview", Encoding.UTF8.GetBytes(csv))).GetProperty("changed").GetInt32();
        async Task<int> WrittenAsync(string csv) => (await PostAsync(owner, "/api/words/table", Encoding.UTF8.GetBytes(csv))).GetProperty("done").GetProperty("photos").GetInt32();
        foreach (var csv in new[] { $"id,rating\n{p[0]},4\n{p[1]},0\n{p[2]},2\n", $"id,tags\n{p[0]},Delta; sea\n{p[1]},Delta\n{p[2]},\n", $"id,rating,tags\n{p[0]},4,SEA;  delta\n{p[1]},1,\n{p[2]},2,new\n" })
        {
            var foreseen = await ChangedAsync(csv);
            Assert.Equal(2, foreseen);
            Assert.Equal(foreseen, await WrittenAsync(csv));
            Assert.Equal(0, await ChangedAsync(csv));
            Assert.Equal(0, await WrittenAsync(csv));
        }

        Assert.Equal(["4", "1", "2"], await Task.WhenAll(p.Select(async id => (await PlateAsync(owner, id)).GetProperty("rating").ToString())));
    }

    [Fact]
    public async Task Two_hundred_thousand_rows_are_read_and_matched()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        await site.WriteAsync(
            "insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, state, stage) select gen_random_uuid(), sha256(g::text::bytea), to_char(g, 'FM000000') || '.jpg', 'image/jpeg', 1, 3, 2, now(), 'ready', 2 from generate_series(1, 3000) as g");
        var csv = new StringBuilder("file name,title,caption\n");
        for (var i = 1; i <= 200_000; i++)
        {
            csv.Append(System.Globalization.CultureInfo.InvariantCulture, $"{i:000000}.jpg,Kite {i},\"A caption, such as people write them, of kite {i}\"\n");
        }

        var done = await PostAsync(owner, "/api/words/table", Encoding.UTF8.GetBytes(csv.ToString()));
        Assert.Equal(3000, done.GetProperty("done").GetProperty("photos").GetInt32());
        Assert.Equal(3000, await site.ScalarAsync<long>("select count(*) from photo where title = 'Kite ' || ltrim(replace(file_name, '.jpg', ''), '0')"));
        await owner.UndoAsync(done);
        Assert.Equal(3000, await site.ScalarAsync<long>("select count(*) from photo where title = '' and caption = ''"));
    }

    [Fact]
    public async Task Rows_that_are_typed_are_one_act_and_a_row_out_of_date_is_left_and_named()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 3);
        async Task<JsonElement[]> RowsAsync() => [.. (await (await owner.PostAsJsonAsync("/api/words/rows", new { photos = p })).ReadAsync()).GetProperty("rows").EnumerateArray()];
        var read = await RowsAsync();
        Assert.Equal(p, read.Select(r => r.GetProperty("photo").GetProperty("id").GetString()));
        // Somebody else writes one of them meanwhile.
        var tomas = await site.EditorAsync("Tomas");
        await (await tomas.SendAsync(HttpMethod.Patch, $"/api/photos/{p[1]}", new { title = "Theirs" }, read[1].GetProperty("version").GetInt64())).ReadAsync();
        var done = await (await owner.SendAsync(HttpMethod.Put, "/api/words/rows", new
        {
            rows = p.Select((id, i) => new { photo = id, version = read[i].GetProperty("version").GetInt64(), words = new Dictionary<string, string> { ["title"] = $"Mine {i}", ["caption"] = " x\r\ny " } }),
        })).ReadAsync();
        Assert.Equal([p[1]], done.GetProperty("stale").EnumerateArray().Select(e => e.GetString()!));
        Assert.Equal(["Mine 0", "Theirs", "Mine 2"], (await RowsAsync()).Select(r => r.GetProperty("words").GetProperty("title").GetString()!));
        Assert.Equal("x\ny", (await RowsAsync())[0].GetProperty("words").GetProperty("caption").GetString());
        await owner.UndoAsync(done);
        Assert.Equal(["", "Theirs", ""], (await RowsAsync()).Select(r => r.GetProperty("words").GetProperty("title").GetString()!));
        foreach (var wrong in new object[]
        {
            new { rows = new[] { new { photo = p[0], version = 1, words = new Dictionary<string, string> { ["link"] = "nowhere" } } } }, new { rows = new[] { new { photo = p[0], version = 1, words = new Dictionary<string, string> { ["title"] = new('x', 20_001) } } } },
            new { rows = new[] { new { photo = p[0], version = 1, words = new Dictionary<string, string>() }, new { photo = p[0], version = 1, words = new Dictionary<string, string>() } } }, new { rows = new[] { new { photo = p[0], version = 1, words = new Dictionary<string, string> { ["colour"] = "x" } } } },
        })
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.SendAsync(HttpMethod.Put, "/api/words/rows", wrong)).StatusCode);
        }
    }
}
