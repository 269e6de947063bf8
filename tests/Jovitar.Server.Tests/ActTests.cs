using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Npgsql;

namespace Jovitar.Server.Tests;

/// <summary>Every change is an act; acts are taken back by the server, for whoever asks, as far as nothing was changed since.</summary>
public sealed class ActTests
{
    static async Task<JsonElement> GetAsync(HttpClient client, string address) => await (await client.GetAsync(address)).ReadAsync();

    static async Task<JsonElement> WordsAsync(HttpClient client, string photo, object change)
    {
        var version = (await GetAsync(client, $"/api/photos/{photo}")).GetProperty("version").GetInt64();
        return await (await client.SendAsync(HttpMethod.Patch, $"/api/photos/{photo}", change, version)).ReadAsync();
    }

    [Fact]
    public async Task No_table_of_what_people_made_can_be_written_past_the_acts()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await owner.BringAsync(await owner.IntakeAsync(), "one.jpg", Acts.Photo(1));
        await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Trial" })).ReadAsync();
        await using (var said = site.Db.CreateCommand("insert into comment (id, photo, name, words, said) select gen_random_uuid(), id, 'x', 'x', now() from photo"))
        {
            Assert.Equal(1, await said.ExecuteNonQueryAsync());
        }

        await using (var tracked = site.Db.CreateCommand("select count(*) from act_tracked"))
        {
            Assert.Equal(27L, await tracked.ExecuteScalarAsync());
        }

        foreach (var sql in (string[])
            ["update photo set title = 'x'", "update photo set decision = 'keep'", "update photo set binned = now()", "delete from photo", "insert into tag (id, name, key) values (gen_random_uuid(), 'x', 'x')",
             "insert into album (id, working_name, made) values (gen_random_uuid(), 'x', now())", "insert into category (id, name, place) values (gen_random_uuid(), 'x', 0)", "insert into narrowing (id, name, search, made) values (gen_random_uuid(), 'x', 'rating=5', now())", "update intake set credit = 'x'",
             "update album set rule = ''", "update album set unsold = array[id]", "insert into price_list (id, name, currency, limits, sells_small, options, made) values (gen_random_uuid(), 'x', 'EUR', '{}', false, '[]', now())", "update menu set entries = '[1]'", "update theme set published = '{}'", "update watermark set key = 'x'", "update shop set is_open = true", "update watermark set unmarked = 'Nobody'", "update site set title = 'x'", "update site set is_open = not is_open", "update comment set state = 'Shown'", "insert into album_without (album, photo) select a.id, p.id from album as a cross join photo as p", "insert into album_photo (album, photo, place) select a.id, p.id, 0 from album as a cross join photo as p"])
        {
            await using var past = site.Db.CreateCommand(sql);
            var refused = await Assert.ThrowsAsync<PostgresException>(() => past.ExecuteNonQueryAsync());
            Assert.Equal("JV001", refused.SqlState);
        }

        // What workers note of renditions is no change of what people made.
        await using var upkeep = site.Db.CreateCommand("update photo set claimed_until = now(), stage = 1, sharpness = 2, wanted = true");
        Assert.Equal(1, await upkeep.ExecuteNonQueryAsync());
    }

    /// <summary>Every table that an act can change has the triggers; so a table that is added to the record without them is found.</summary>
    [Fact]
    public async Task Every_tracked_table_notes_what_is_made_changed_and_taken_away()
    {
        await using var site = await Site.StartAsync(workers: 0);
        await using var missing = site.Db.CreateCommand(
            """
            select t.kind || ' ' || w.name
              from act_tracked as t
             cross join (values ('act_made'), ('act_changed'), ('act_taken')) as w(name)
             -- Of near repeats and comments only the decision is people's; of orders, what is done with them.
             where t.kind not in ('photo_near', 'comment', 'sale_order')
               and not exists (select from pg_trigger as g join pg_class as c on c.oid = g.tgrelid where c.relname = t.kind and g.tgname = w.name and g.tgenabled = 'O')
            """);
        Assert.Null(await missing.ExecuteScalarAsync());
    }

    [Fact]
    public async Task An_act_says_who_did_what_to_how_many_and_can_be_taken_back_by_another_after_a_restart()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 3);
        var tagged = await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p, add = new[] { "pier" }, remove = Array.Empty<string>() })).ReadAsync();
        Assert.Equal(3, tagged.GetProperty("photos").GetInt32());
        var line = (await GetAsync(owner, "/api/acts")).GetProperty("acts")[0];
        Assert.Equal(("Tagged 3 photos “pier”.", "Odile", 3, true), (line.GetProperty("sentence").GetString(), line.GetProperty("who").GetString(), line.GetProperty("photos").GetInt32(), line.GetProperty("canUndo").GetBoolean()));

        // Another process, another editor.
        site.Process(workers: 0);
        var editor = await site.EditorAsync("Tomas");
        var undone = await editor.UndoAsync(tagged);
        Assert.Equal(0, undone.GetProperty("undone").GetProperty("leftCount").GetInt32());
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo_tag"));
        Assert.Equal("", await site.ScalarAsync<string>("select string_agg(tag_words, '') from photo"));
        // The tag that it had made is not left over.
        Assert.Equal(0, (await GetAsync(owner, "/api/tags")).GetProperty("tags").GetArrayLength());
        var acts = (await GetAsync(owner, "/api/acts")).GetProperty("acts");
        Assert.Equal(("Took back: tagged 3 photos “pier”.", "Tomas"), (acts[0].GetProperty("sentence").GetString(), acts[0].GetProperty("who").GetString()));
        Assert.Equal((true, false), (acts[1].GetProperty("takenBack").GetBoolean(), acts[1].GetProperty("canUndo").GetBoolean()));
        var again = await editor.PostAsync($"/api/acts/{tagged.GetProperty("act").GetString()}/undo", null);
        Assert.Equal(HttpStatusCode.Conflict, again.StatusCode);
        // The taking back is taken back in its turn, and then the first act again.
        await owner.UndoAsync(undone);
        Assert.Equal(3, await site.ScalarAsync<long>("select count(*) from photo_tag"));
        await owner.UndoAsync(tagged);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo_tag"));
    }

    [Fact]
    public async Task A_field_that_was_changed_since_is_left_alone_and_named_and_the_rest_goes_back()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 1);
        await WordsAsync(owner, p[0], new { title = "First", caption = "First caption" });
        var editor = await site.EditorAsync("Tomas");
        var second = await WordsAsync(editor, p[0], new { title = "Second", caption = "Second caption" });
        await WordsAsync(owner, p[0], new { title = "Third" });
        var undone = (await editor.UndoAsync(second)).GetProperty("undone");
        Assert.Equal(1, undone.GetProperty("leftCount").GetInt32());
        Assert.Equal(("Third", "title"), (undone.GetProperty("left")[0].GetProperty("name").GetString(), undone.GetProperty("left")[0].GetProperty("field").GetString()));
        var plate = await GetAsync(owner, $"/api/photos/{p[0]}");
        Assert.Equal(("Third", "First caption"), (plate.GetProperty("title").GetString(), plate.GetProperty("caption").GetString()));
    }

    [Fact]
    public async Task Words_typed_in_one_go_are_one_act_and_words_typed_back_are_none()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 1);
        await WordsAsync(owner, p[0], new { title = "A" });
        await WordsAsync(owner, p[0], new { title = "A quiet" });
        var last = await WordsAsync(owner, p[0], new { title = "A quiet morning", caption = "Before the wind" });
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from act where kind = 'Words'"));
        Assert.Equal("Wrote caption and title of “A quiet”.", (await GetAsync(owner, "/api/acts")).GetProperty("acts")[0].GetProperty("sentence").GetString());
        await owner.UndoAsync(last);
        Assert.Equal("", (await GetAsync(owner, $"/api/photos/{p[0]}")).GetProperty("title").GetString());
        await WordsAsync(owner, p[0], new { title = "Typed" });
        await WordsAsync(owner, p[0], new { title = "" });
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from act_change as c join act as a on a.id = c.act where a.kind = 'Words' and a.undone_by is null"));
    }

    [Fact]
    public async Task A_photos_history_tells_what_happened_to_it_and_what_its_words_were()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var path = Path.Combine(AppContext.BaseDirectory, "../../../../../demo/photos");
        var bytes = await File.ReadAllBytesAsync(Directory.GetFiles(path, "*.jpg").Order().First());
        var photo = (await owner.BringAsync(await owner.IntakeAsync(), "demo.jpg", bytes)).GetProperty("photo").GetString()!;
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 1);
        var plate = await GetAsync(owner, $"/api/photos/{photo}");
        Assert.Equal("file", plate.GetProperty("said").GetProperty("title").GetString());
        Assert.All(plate.GetProperty("tags").EnumerateArray(), t => Assert.Equal("file", t.GetProperty("saidBy").GetString()));
        await WordsAsync(owner, photo, new { title = "Ours" });
        Assert.Equal("person", (await GetAsync(owner, $"/api/photos/{photo}")).GetProperty("said").GetProperty("title").GetString());
        var events = (await GetAsync(owner, $"/api/photos/{photo}/history")).GetProperty("events").EnumerateArray().ToArray();
        Assert.Equal(["words", "read", "arrived"], events.Select(e => e.GetProperty("kind").GetString()));
        Assert.Equal(["Odile", "intake", "Odile"], events.Select(e => e.GetProperty("who").GetString()));
        var change = events[0].GetProperty("changes").EnumerateArray().Single();
        Assert.Equal(("title", "Nine o'clock, wind from the south-west", "Ours"), (change.GetProperty("field").GetString(), change.GetProperty("before").GetString(), change.GetProperty("after").GetString()));
        // The word goes back to what the file says, and is the file's again.
        await (await owner.PostAsync($"/api/acts/{events[0].GetProperty("id").GetString()}/undo", null)).ReadAsync();
        Assert.Equal("file", (await GetAsync(owner, $"/api/photos/{photo}")).GetProperty("said").GetProperty("title").GetString());
    }

    [Fact]
    public async Task Taking_back_publishing_brings_back_what_visitors_had_and_taking_back_withdrawing_never_publishes_a_draft()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var visitor = site.Visitor();
        var (_, _, page, address) = await site.PublishedAsync(owner, 1);
        async Task<JsonElement> EditAsync(string heading)
        {
            var line = await GetAsync(owner, $"/api/pages/{page}");
            var draft = Drafts.Of(heading, line.GetProperty("album").GetString());
            return await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address, draft }, line.GetProperty("edited").GetInt64())).ReadAsync();
        }

        await EditAsync("Second version");
        var published = await (await owner.PublishAsync(page)).ReadAsync();
        Assert.Contains("Second version", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        await owner.UndoAsync(published);
        var before = await visitor.GetStringAsync($"/{address}");
        Assert.Contains("Trial album", before, StringComparison.Ordinal);
        Assert.True((await GetAsync(owner, $"/api/pages/{page}")).GetProperty("changed").GetBoolean());

        await EditAsync("Unfinished");
        var withdrawn = await (await owner.PostAsync($"/api/pages/{page}/withdraw", null)).ReadAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/{address}")).StatusCode);
        await owner.UndoAsync(withdrawn);
        var again = await visitor.GetStringAsync($"/{address}");
        Assert.Contains("Trial album", again, StringComparison.Ordinal);
        Assert.DoesNotContain("Unfinished", again, StringComparison.Ordinal);
        // Publishing names the draft that was read: a colleague's edit in between is not published.
        var read = (await GetAsync(owner, $"/api/pages/{page}")).GetProperty("edited").GetInt64();
        await EditAsync("A colleague's");
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await owner.SendAsync(HttpMethod.Post, $"/api/pages/{page}/publish", null, read)).StatusCode);
        Assert.Equal(HttpStatusCode.PreconditionRequired, (await owner.PostAsync($"/api/pages/{page}/publish", null)).StatusCode);
    }

    [Fact]
    public async Task An_album_in_the_bin_comes_back_with_order_cover_page_and_address()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var visitor = site.Visitor();
        var (album, p, page, address) = await site.PublishedAsync(owner, 4);
        async Task<string[]> OrderAsync() => [.. (await GetAsync(owner, $"/api/photos?album={album}&sort=place")).GetProperty("photos").EnumerateArray().Select(e => e.GetProperty("id").GetString()!)];
        var version = (await GetAsync(owner, $"/api/albums/{album}")).GetProperty("version").GetInt64();
        await (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{album}/order", new { photos = new[] { p[3] }, position = 0 }, version)).ReadAsync();
        version = (await GetAsync(owner, $"/api/albums/{album}")).GetProperty("version").GetInt64();
        await (await owner.SendAsync(HttpMethod.Patch, $"/api/albums/{album}", new { cover = p[2] }, version)).ReadAsync();
        await (await owner.DeleteAsync($"/api/albums/{album}")).ReadAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync($"/api/albums/{album}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/{address}")).StatusCode);
        var thing = (await GetAsync(owner, "/api/bin")).GetProperty("things").EnumerateArray().Single();
        Assert.Equal(("album", "Trial album", 4), (thing.GetProperty("kind").GetString(), thing.GetProperty("name").GetString(), thing.GetProperty("photos").GetInt32()));

        // One of its photos goes into the bin, too, and comes back after the album: it still finds its place.
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[1] } })).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/bin/restore", new { things = new[] { new { kind = "album", id = album } } })).ReadAsync();
        Assert.Equal([p[3], p[0], p[2]], await OrderAsync());
        await (await owner.PostAsJsonAsync("/api/bin/restore", new { things = new[] { new { kind = "photo", id = p[1] } } })).ReadAsync();
        Assert.Equal([p[3], p[0], p[1], p[2]], await OrderAsync());
        Assert.Equal(p[2], (await GetAsync(owner, $"/api/albums/{album}")).GetProperty("chosenCover").GetString());
        Assert.Equal(page, (await GetAsync(owner, $"/api/albums/{album}")).GetProperty("page").GetString());
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync($"/{address}")).StatusCode);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_page_that_comes_back_finds_its_address_taken_and_gets_one_beside_it()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, _, page, address) = await site.PublishedAsync(owner, 1);
        var removed = await (await owner.DeleteAsync($"/api/pages/{page}")).ReadAsync();
        var other = await (await owner.PostAsJsonAsync("/api/pages", new { album })).ReadAsync();
        Assert.Equal(address, other.GetProperty("address").GetString());
        await owner.UndoAsync(removed);
        var back = (await GetAsync(owner, $"/api/pages/{page}")).GetProperty("address").GetString()!;
        Assert.StartsWith(address, back, StringComparison.Ordinal);
        Assert.NotEqual(address, back);
        Assert.Equal(HttpStatusCode.OK, (await site.Visitor().GetAsync($"/{back}")).StatusCode);
    }

    [Fact]
    public async Task Categories_tags_and_files_go_to_the_bin_and_come_back_as_they_were()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, _, _) = await site.PublishedAsync(owner, 2);
        async Task<string> MakeAsync(string name, string? parent) => (await (await owner.PostAsJsonAsync("/api/categories", new { name, parent })).ReadAsync()).GetProperty("id").GetString()!;
        var festival = await MakeAsync("Festival", null);
        var night = await MakeAsync("Night", festival);
        await (await owner.PostAsJsonAsync("/api/photos/categories", new { photos = p, add = new[] { festival, night }, remove = Array.Empty<string>() })).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p, add = new[] { "pier" }, remove = Array.Empty<string>() })).ReadAsync();
        var tag = (await GetAsync(owner, "/api/tags")).GetProperty("tags")[0].GetProperty("id").GetString();
        var file = await owner.BringAsync(await owner.IntakeAsync(album), "notes.txt", "what was said at the meeting, word for word"u8.ToArray());
        Assert.Equal("kept", file.GetProperty("outcome").GetString());
        var document = (await GetAsync(owner, "/api/files")).GetProperty("files")[0].GetProperty("id").GetString()!;

        var category = await (await owner.DeleteAsync($"/api/categories/{festival}")).ReadAsync();
        await (await owner.DeleteAsync($"/api/tags/{tag}")).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/bin", new { files = new[] { document } })).ReadAsync();
        Assert.Equal(0, (await GetAsync(owner, "/api/categories")).GetProperty("categories").GetArrayLength());
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo_tag"));
        Assert.Equal("", await site.ScalarAsync<string>("select string_agg(tag_words, '') from photo"));
        Assert.Equal(0, (await GetAsync(owner, "/api/files")).GetProperty("files").GetArrayLength());
        var kinds = (await GetAsync(owner, "/api/bin")).GetProperty("things").EnumerateArray().Select(t => $"{t.GetProperty("kind").GetString()} {t.GetProperty("name").GetString()} {t.GetProperty("photos").GetInt32()}");
        Assert.Equal(["file notes.txt 0", "tag pier 2", "category Festival 2"], kinds);

        await owner.UndoAsync(category);
        await (await owner.PostAsJsonAsync("/api/bin/restore", new { things = new[] { new { kind = "tag", id = tag }, new { kind = "file", id = (string?)document } } })).ReadAsync();
        var lines = (await GetAsync(owner, "/api/categories")).GetProperty("categories").EnumerateArray().Select(c => (c.GetProperty("name").GetString(), c.GetProperty("depth").GetInt32(), c.GetProperty("photos").GetInt32()));
        Assert.Equal([("Festival", 0, 2), ("Night", 1, 2)], lines);
        Assert.Equal("pierpier", await site.ScalarAsync<string>("select string_agg(tag_words, '') from photo"));
        Assert.Equal(1, (await GetAsync(owner, "/api/files")).GetProperty("files")[0].GetProperty("albums").GetArrayLength());
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from held"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from bin"));
    }

    [Fact]
    public async Task An_act_over_many_photos_is_a_handful_of_statements_and_goes_back_whole()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await site.WriteAsync(
            "insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, state, stage) select gen_random_uuid(), sha256(g::text::bytea), g || '.jpg', 'image/jpeg', 1, 3, 2, now(), 'ready', 2 from generate_series(1, 5000) as g");
        await using var read = site.Db.CreateCommand("select array_agg(id::text) from photo");
        var all = (string[])(await read.ExecuteScalarAsync())!;
        await using (var reset = site.Db.CreateCommand("select pg_stat_reset()"))
        {
            await reset.ExecuteNonQueryAsync();
        }

        var album = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "All" })).ReadAsync()).GetProperty("id").GetString();
        var put = await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos", new { photos = all })).ReadAsync();
        Assert.Equal(5000, put.GetProperty("done").GetProperty("photos").GetInt32());
        var tagged = await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = all, add = new[] { "everything" }, remove = Array.Empty<string>() })).ReadAsync();
        Assert.Equal(5000, await site.ScalarAsync<long>("select count(*) from photo where tag_words = 'everything'"));
        await owner.UndoAsync(tagged);
        await owner.UndoAsync(put);
        Assert.Equal(0, await site.ScalarAsync<long>("select (select count(*) from photo_tag) + (select count(*) from album_photo) + (select count(*) from photo where tag_words <> '')"));
    }

    /// <summary>What notes changes keeps its plan with the connection: one made for a single photo must not compare each row with every other when thousands change.</summary>
    [Fact]
    public async Task What_notes_changes_never_joins_rows_in_loops()
    {
        await using var site = await Site.StartAsync();
        Assert.Equal(
            0,
            await site.ScalarAsync<long>(
                """
                select count(*)
                  from pg_trigger as t
                  join pg_proc as f on f.oid = t.tgfoid
                 where not t.tgisinternal and t.tgoldtable is not null and t.tgnewtable is not null
                   and not coalesce('enable_nestloop=off' = any(f.proconfig), false)
                """));
        Assert.Equal(
            await site.ScalarAsync<long>("select count(*) from act_tracked"),
            await site.ScalarAsync<long>("select count(*) from pg_trigger where tgname = 'act_changed' and tgoldtable is not null and tgnewtable is not null"));
    }
}
