using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Words of many photos at once, and every word of one.</summary>
public sealed class DescribingTests
{
    static object Text(string text) => new { text };

    static object Write(string field, params object[] pattern) => new { write = new { field, pattern } };

    static async Task<JsonElement> DescribeAsync(HttpClient who, object? photos, params object[] changes) =>
        await (await who.PostAsJsonAsync("/api/words", new { changes, photos, inHand = photos is null })).ReadAsync();

    static async Task<JsonElement> PlateAsync(HttpClient who, string photo) => await (await who.GetAsync($"/api/photos/{photo}")).ReadAsync();

    [Fact]
    public async Task A_pattern_is_shown_on_examples_written_as_one_act_and_taken_back()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 5);
        object[] pattern = [Text("Kite "), new { counter = new { digits = 2, from = 9, eachDay = false } }, Text(" of "), new { told = "album" }];
        var preview = await (await owner.PostAsJsonAsync("/api/words/preview", new { photos = p, changes = new[] { Write("title", pattern) } })).ReadAsync();
        Assert.Equal((5, 5, 0), (preview.GetProperty("reached").GetInt32(), preview.GetProperty("changed").GetInt32(), preview.GetProperty("lacks").GetInt32()));
        Assert.Equal(["Kite 09 of Trial album", "Kite 10 of Trial album", "Kite 11 of Trial album"], preview.GetProperty("examples").EnumerateArray().Select(e => e.GetProperty("words")[0].GetProperty("after").GetString()));
        Assert.Equal(p[..3], preview.GetProperty("examples").EnumerateArray().Select(e => e.GetProperty("photo").GetProperty("id").GetString()));
        // Nothing of it is written yet.
        Assert.Equal("", (await PlateAsync(owner, p[0])).GetProperty("title").GetString());

        var before = await PlateAsync(owner, p[1]);
        var done = await DescribeAsync(owner, p.Reverse(), Write("title", pattern), Write("credit", Text("The guild")));
        Assert.Equal(5, done.GetProperty("done").GetProperty("photos").GetInt32());
        var plate = await PlateAsync(owner, p[1]);
        Assert.Equal(("Kite 12 of Trial album", "The guild", "person"), (plate.GetProperty("title").GetString(), plate.GetProperty("credit").GetString(), plate.GetProperty("said").GetProperty("title").GetString()));
        Assert.Equal(before.GetProperty("version").GetInt64() + 1, plate.GetProperty("version").GetInt64());
        var history = await (await owner.GetAsync("/api/acts")).ReadAsync();
        Assert.Equal("Wrote title, wrote credit of 5 photos.", history.GetProperty("acts")[0].GetProperty("sentence").GetString());

        // Another writes one of them meanwhile: hers stands, the rest goes back.
        var tomas = await site.EditorAsync("Tomas");
        await (await tomas.SendAsync(HttpMethod.Patch, $"/api/photos/{p[2]}", new { title = "The red one" }, (await PlateAsync(tomas, p[2])).GetProperty("version").GetInt64())).ReadAsync();
        var undone = await owner.UndoAsync(done);
        Assert.Equal(1, undone.GetProperty("undone").GetProperty("leftCount").GetInt32());
        Assert.Equal(["", "", "The red one", "", ""], await Task.WhenAll(p.Select(async id => (await PlateAsync(owner, id)).GetProperty("title").GetString()!)));
        Assert.All(await Task.WhenAll(p.Select(id => PlateAsync(owner, id))), q => Assert.Equal("", q.GetProperty("credit").GetString()));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Many_thousand_photos_in_hand_are_described_in_their_order_and_back_again()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        await site.WriteAsync(
            "insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, state, stage) select gen_random_uuid(), sha256(g::text::bytea), to_char(g, 'FM00000') || '.jpg', 'image/jpeg', 1, 3, 2, now(), 'ready', 2 from generate_series(1, 12000) as g");
        await (await owner.PostAsJsonAsync("/api/hand/found?sort=name", new { how = "take" })).ReadAsync();
        var done = await DescribeAsync(owner, null, Write("title", new { counter = new { digits = 5, from = 1, eachDay = false } }), Write("caption", new { told = "fileName" }));
        Assert.Equal(12000, done.GetProperty("done").GetProperty("photos").GetInt32());
        Assert.Equal(12000, await site.ScalarAsync<long>("select count(*) from photo where title = replace(file_name, '.jpg', '') and caption = title and version = 2"));
        // What is found by words follows.
        Assert.Equal(1, (await (await owner.GetAsync("/api/photos?q=07777")).ReadAsync()).GetProperty("total").GetInt32());
        await owner.UndoAsync(done);
        Assert.Equal(12000, await site.ScalarAsync<long>("select count(*) from photo where title = '' and caption = '' and said = '{}'"));
        var summary = await (await owner.PostAsJsonAsync("/api/words/summary", new { inHand = true })).ReadAsync();
        Assert.Equal(12000, summary.GetProperty("photos").GetInt32());
    }

    [Fact]
    public async Task A_server_killed_in_the_midst_of_a_change_has_written_all_of_it_or_nothing()
    {
        await using var site = await Site.StartAsync();
        await site.WriteAsync(
            "insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, state, stage) select gen_random_uuid(), sha256(g::text::bytea), g || '.jpg', 'image/jpeg', 1, 3, 2, now(), 'ready', 2 from generate_series(1, 20000) as g; delete from act_change");
        var written = new List<long>();
        for (var tried = 0; tried < 4; tried++)
        {
            var mark = $"Round {tried}";
            var (process, owner) = await ServerProcess.StartAsync(site, ("Jovitar__Workers", "0"));
            if (tried == 0)
            {
                await (await owner.PostAsJsonAsync("/api/hand/found", new { how = "take" })).ReadAsync();
            }

            var going = owner.PostAsJsonAsync("/api/words", new { inHand = true, changes = new[] { Write("title", Text(mark)) } });
            // In the midst of it, at one place or another; the last one is let through.
            await Task.WhenAny(going, Task.Delay(tried == 3 ? 60_000 : 80 + (350 * tried)));
            process.Kill();
            await process.WaitForExitAsync();
            process.Dispose();
            owner.Dispose();
            // What the killed server had open in the database ends by itself.
            await site.UntilAsync("select count(*) from pg_stat_activity where datname = current_database() and state <> 'idle' and pid <> pg_backend_pid()", 0);
            written.Add(await site.ScalarAsync<long>($"select count(*) from photo where title = '{mark}'"));
            Assert.True(written[^1] is 0 or 20000, $"{written[^1]} of 20000 were written.");
            Assert.Equal(written[^1], await site.ScalarAsync<long>($"select count(*) from act_change as c join act as a on a.id = c.act where c.after ->> 'title' = '{mark}'"));
            Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from act_change as c where not exists (select from act as a where a.id = c.act)"));
        }

        Assert.Equal(20000, written[^1]);
    }

    [Fact]
    public async Task Dates_people_and_letters_are_changed_and_what_lies_in_the_bin_stays()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 4);
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[3] } })).ReadAsync();
        await DescribeAsync(owner, p, new { taken = new { local = "2026-06-13T12:00:00", offset = (int?)null } }, Write("title", Text("OVER THE PIER")));
        var shift = await DescribeAsync(
            owner, p, new { zone = new { from = "Europe/London", to = "Europe/Berlin" } }, new { recase = new { fields = new[] { "title" }, casing = "title" } }, new { people = new { add = new[] { "Ines Harrow", "Tam" }, remove = Array.Empty<string>() } },
            new { replace = new { fields = new[] { "title", "caption" }, find = "pier", with = "Mole", matchCase = false, wholeWords = true } });
        Assert.Equal(3, shift.GetProperty("done").GetProperty("photos").GetInt32());
        var plate = await PlateAsync(owner, p[0]);
        Assert.Equal(("2026-06-13T13:00:00", 120, "Over the Mole"), (plate.GetProperty("taken").GetString(), plate.GetProperty("takenOffsetMinutes").GetInt32(), plate.GetProperty("title").GetString()));
        Assert.Equal(["Ines Harrow", "Tam"], plate.GetProperty("people").EnumerateArray().Select(e => e.GetString()));
        Assert.Equal(3, (await (await owner.GetAsync("/api/photos?people=Ines%20Harrow")).ReadAsync()).GetProperty("total").GetInt32());
        Assert.Equal(3, (await (await owner.GetAsync("/api/photos?q=harrow")).ReadAsync()).GetProperty("total").GetInt32());
        var summary = await (await owner.PostAsJsonAsync("/api/words/summary", new { photos = p })).ReadAsync();
        Assert.Equal([("Ines Harrow", 3), ("Tam", 3)], summary.GetProperty("people").EnumerateArray().Select(e => (e.GetProperty("name").GetString()!, e.GetProperty("photos").GetInt32())));
        Assert.Equal("2026-06-13T13:00:00", summary.GetProperty("takenFirst").GetString());
        var title = summary.GetProperty("words").EnumerateArray().Single(w => w.GetProperty("field").GetString() == "title");
        Assert.Equal((1, "Over the Mole", 3), (title.GetProperty("values").GetInt32(), title.GetProperty("commonest")[0].GetProperty("value").GetString(), title.GetProperty("commonest")[0].GetProperty("photos").GetInt32()));
        await owner.UndoAsync(shift);
        plate = await PlateAsync(owner, p[0]);
        Assert.Equal(("2026-06-13T12:00:00", JsonValueKind.Null, 0), (plate.GetProperty("taken").GetString(), plate.GetProperty("takenOffsetMinutes").ValueKind, plate.GetProperty("people").GetArrayLength()));
        Assert.Equal("", await site.ScalarAsync<string>($"select title from photo where id = '{p[3]}'"));
    }

    [Fact]
    public async Task Every_word_of_a_plate_is_written_and_taken_back_and_two_name_different_people()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 1);
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 1);
        var first = await PlateAsync(owner, p[0]);
        var written = await (await owner.SendAsync(
            HttpMethod.Patch, $"/api/photos/{p[0]}",
            new
            {
                creator = "Odile",
                copyright = "© 2026 The guild",
                licence = "Ask us",
                origin = "The guild's archive",
                place = "Marram Bay",
                link = "https://guild.example/kites",
                taken = new { local = "1998-08-01T10:00:00", offset = -60 },
                position = new { latitude = 54.25, longitude = -3.5 },
                addPeople = new[] { "Ines" },
            },
            first.GetProperty("version").GetInt64())).ReadAsync();
        var plate = written.GetProperty("plate");
        Assert.Equal(
            ("Odile", "© 2026 The guild", "Ask us", "The guild's archive", "Marram Bay", "https://guild.example/kites"),
            (plate.GetProperty("creator").GetString(), plate.GetProperty("copyright").GetString(), plate.GetProperty("licence").GetString(), plate.GetProperty("origin").GetString(), plate.GetProperty("place").GetString(), plate.GetProperty("link").GetString()));
        Assert.Equal(("1998-08-01T10:00:00", -60, 54.25, -3.5), (plate.GetProperty("taken").GetString(), plate.GetProperty("takenOffsetMinutes").GetInt32(), plate.GetProperty("latitude").GetDouble(), plate.GetProperty("longitude").GetDouble()));
        // A read of the file that comes late does not write over what a person said.
        await site.WriteAsync("update photo set state = 'waiting', stage = 0, attempts = 0, claimed_until = null, claim = null");
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 1);
        Assert.Equal("1998-08-01T10:00:00", (await PlateAsync(owner, p[0])).GetProperty("taken").GetString());
        await owner.UndoAsync(written);
        var back = await PlateAsync(owner, p[0]);
        Assert.Equal(first.GetProperty("taken").ToString(), back.GetProperty("taken").ToString());
        Assert.Equal(JsonValueKind.Null, back.GetProperty("latitude").ValueKind);
        Assert.Equal("", back.GetProperty("place").GetString());
        // People are named and taken off whatever the version: each says only theirs.
        var tomas = await site.EditorAsync("Tomas");
        await Task.WhenAll(
            owner.SendAsync(HttpMethod.Patch, $"/api/photos/{p[0]}", new { addPeople = new[] { "Tam" } }, 1),
            tomas.SendAsync(HttpMethod.Patch, $"/api/photos/{p[0]}", new { addPeople = new[] { "Odile" }, removePeople = new[] { "INES" } }, 1));
        Assert.Equal(["Odile", "Tam"], (await PlateAsync(owner, p[0])).GetProperty("people").EnumerateArray().Select(e => e.GetString()!).Order());
        foreach (var wrong in new object[]
        {
            new { link = "javascript:alert(1)" }, new { position = new { latitude = 91, longitude = 0 } }, new { taken = new { local = "0001-01-01T00:00:00" } }, new { addPeople = new[] { new string('x', 121) } }, new { place = new string('x', 301) },
        })
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{p[0]}", wrong, back.GetProperty("version").GetInt64())).StatusCode);
        }
    }

    [Fact]
    public async Task What_makes_no_sense_is_refused_with_a_sentence_and_changes_nothing()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 1);
        object[] wrong =
        [
            new { }, new { write = new { field = "title", pattern = new[] { new { text = "a", told = "before" } } } }, Write("title", new { }), Write("title", Text(new string('x', 301))), Write("title", Text("a\0b")),
            Write("colour", Text("x")), Write("title", new { counter = new { digits = 9, from = 1, eachDay = false } }), Write("title", new { counter = new { digits = 1, from = -1, eachDay = false } }), Write("title", new { taken = "stardate" }),
            Write("title", [.. Enumerable.Repeat(Text("x"), 25)]), new { replace = new { fields = new[] { "title" }, find = "", with = "x" } }, new { replace = new { fields = Array.Empty<string>(), find = "a", with = "x" } },
            new { replace = new { fields = new[] { "link" }, find = "a", with = "x" } }, new { replace = new { fields = new[] { "title", "title" }, find = "a", with = "x" } }, new { recase = new { fields = new[] { "title" }, casing = "camel" } },
            new { shift = new { seconds = long.MaxValue } }, new { shift = new { seconds = long.MinValue } }, new { zone = new { from = "UTC", to = "Moon/Tycho" } }, new { zone = new { from = "../../etc/passwd", to = "UTC" } },
            new { taken = new { local = "9999-12-31T23:59:59" } }, new { people = new { add = new[] { new string('x', 121) }, remove = Array.Empty<string>() } }, new { shift = new { seconds = 1 }, taken = new { local = "2026-01-01T00:00:00" } },
        ];
        foreach (var change in wrong)
        {
            foreach (var address in new[] { "/api/words", "/api/words/preview" })
            {
                var answer = await owner.PostAsJsonAsync(address, new { photos = p, changes = new[] { change } });
                Assert.True(answer.StatusCode == HttpStatusCode.BadRequest, $"{JsonSerializer.Serialize(change)}: {answer.StatusCode}");
            }
        }

        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/words", new { photos = p, changes = Array.Empty<object>() })).StatusCode);
        using var half = new StringContent("""{"changes":[{"write":{"field":"title","pattern":[{"text":"\ud83d"}]}}]}""", System.Text.Encoding.UTF8, "application/json");
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsync("/api/words", half)).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/words", new { photos = p, changes = Enumerable.Repeat(Write("title", Text("x")), 13) })).StatusCode);
        // Script, text that runs the other way, and emoji are words like any other.
        foreach (var text in new[] { "<script>alert(1)</script>", "مهرجان الطائرات الورقية", "🪁👩‍👩‍👧‍👦" })
        {
            await DescribeAsync(owner, p, Write("title", Text(text)));
            Assert.Equal(text, (await PlateAsync(owner, p[0])).GetProperty("title").GetString());
        }

        // Named twice, a photo is one photo.
        Assert.Equal(1, (await (await owner.PostAsJsonAsync("/api/words/preview", new { photos = new[] { p[0], p[0] }, changes = new[] { Write("title", Text("Twice")) } })).ReadAsync()).GetProperty("reached").GetInt32());
        Assert.Equal(1, (await (await owner.PostAsJsonAsync("/api/words/rows", new { photos = new[] { p[0], p[0] } })).ReadAsync()).GetProperty("rows").GetArrayLength());

        // Who is not signed in changes nothing, and photos that are not there are none.
        Assert.Equal(HttpStatusCode.Unauthorized, (await site.Visitor().PostAsJsonAsync("/api/words/summary", new { photos = p })).StatusCode);
        Assert.Equal(0, (await DescribeAsync(owner, new[] { Guid.NewGuid() }, Write("title", Text("x")))).GetProperty("done").GetProperty("photos").GetInt32());
    }

    /// <summary>Several describe the same photos at once while others throw them away and take them back: each act is whole, and all of them taken back leave nothing.</summary>
    [Fact]
    public async Task Bulk_changes_of_the_same_photos_and_photos_thrown_away_meanwhile_get_along()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var tomas = await site.EditorAsync("Tomas");
        await site.WriteAsync(
            "insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, state, stage) select gen_random_uuid(), sha256(g::text::bytea), to_char(g, 'FM0000') || '.jpg', 'image/jpeg', 1, 3, 2, now(), 'ready', 2 from generate_series(1, 600) as g");
        await using var all = site.Db.CreateCommand("select array_agg(id::text order by file_name) from photo");
        var photos = (string[])(await all.ExecuteScalarAsync())!;
        var dice = new Random(11);
        string[] Mixed() => [.. photos.OrderBy(_ => dice.Next())];
        var acts = new List<Task<JsonElement>>();
        for (var round = 0; round < 6; round++)
        {
            var (a, b, c) = (Mixed(), Mixed(), Mixed()[..60]);
            acts.Add(DescribeAsync(owner, a, Write("title", Text($"A{round} "), new { counter = new { digits = 3, from = 1, eachDay = false } })));
            acts.Add(DescribeAsync(tomas, b, Write("title", Text($"B{round}")), new { people = new { add = new[] { $"P{round}" }, remove = Array.Empty<string>() } }));
            acts.Add(Task.Run(async () => await (await tomas.PostAsJsonAsync("/api/bin", new { photos = c })).ReadAsync()));
            await Task.WhenAll(acts.TakeLast(3));
            // Whichever came last, all photos that were here say the same of it: no act is half done.
            Assert.InRange(await site.ScalarAsync<long>("select count(distinct left(title, 2)) from photo where binned is null"), 1, 1);
            Assert.Equal(0, await site.ScalarAsync<long>($"select count(*) from photo where binned is null and not 'P{round}' = any(people)"));
            // Numbers of one act are each given once.
            Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from (select title from photo where title like 'A%' group by title having count(*) > 1) as twice"));
        }

        foreach (var act in acts.Select(t => t.Result).OrderByDescending(a => (a.TryGetProperty("done", out var done) ? done : a).GetProperty("act").GetString()))
        {
            var done = act.TryGetProperty("done", out var within) ? within : act;
            await (await owner.PostAsync($"/api/acts/{done.GetProperty("act").GetString()}/undo", null)).ReadAsync();
        }

        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo where binned is not null"));
    }

    /// <summary>Somebody types on a plate while another describes all: the one who types is told, and writes theirs over it only when they say so.</summary>
    [Fact]
    public async Task Who_types_on_a_plate_is_told_of_a_bulk_change_and_loses_nothing()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var tomas = await site.EditorAsync("Tomas");
        var (_, p, _, _) = await site.PublishedAsync(owner, 2);
        var read = (await PlateAsync(tomas, p[0])).GetProperty("version").GetInt64();
        await DescribeAsync(owner, p, Write("caption", Text("All of them")));
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await tomas.SendAsync(HttpMethod.Patch, $"/api/photos/{p[0]}", new { title = "Mine" }, read)).StatusCode);
        // Tags and people are said whatever the version: they take nothing from anybody.
        await (await tomas.SendAsync(HttpMethod.Patch, $"/api/photos/{p[0]}", new { addTags = new[] { "mine" }, addPeople = new[] { "Tam" } }, read)).ReadAsync();
        var now = (await PlateAsync(tomas, p[0])).GetProperty("version").GetInt64();
        await (await tomas.SendAsync(HttpMethod.Patch, $"/api/photos/{p[0]}", new { title = "Mine" }, now)).ReadAsync();
        var plate = await PlateAsync(owner, p[0]);
        Assert.Equal(("Mine", "All of them", 1, 1), (plate.GetProperty("title").GetString(), plate.GetProperty("caption").GetString(), plate.GetProperty("tags").GetArrayLength(), plate.GetProperty("people").GetArrayLength()));
    }

    [Fact]
    public async Task People_are_offered_by_how_often_they_are_shown_and_found_by_any_part_of_their_name()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 3);
        async Task<string[]> OfferedAsync(string typed) => [.. (await (await owner.GetAsync($"/api/words/people?typed={typed}")).ReadAsync()).GetProperty("people").EnumerateArray().Select(e => $"{e.GetProperty("value").GetString()} {e.GetProperty("photos").GetInt32()}")];
        Assert.Empty(await OfferedAsync(""));
        await DescribeAsync(owner, p[..1], new { people = new { add = new[] { "Odile Brandt", "Tam Ö." }, remove = Array.Empty<string>() } });
        await DescribeAsync(owner, p, new { people = new { add = new[] { "Ines Harrow" }, remove = Array.Empty<string>() } });
        Assert.Equal(["Ines Harrow 3", "Odile Brandt 1", "Tam Ö. 1"], await OfferedAsync(""));
        Assert.Equal(["Ines Harrow 3", "Odile Brandt 1"], (await OfferedAsync("r")).Order());
        Assert.Equal(["Tam Ö. 1"], await OfferedAsync("%C3%B6"));
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = p[..1] })).ReadAsync();
        Assert.Equal(["Ines Harrow 2"], await OfferedAsync(""));
    }
}
