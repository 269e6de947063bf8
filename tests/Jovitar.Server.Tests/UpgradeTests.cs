using System.Net;
using System.Net.Http.Json;
using System.Reflection;
using System.Text.Json;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.Tests;

/// <summary>A site that the second version made (migrations 0001 and 0002) opens in this one, and nothing of it is lost.</summary>
public sealed class UpgradeTests
{
    static readonly string[] Photos = [.. Enumerable.Range(1, 4).Select(n => $"0000000{n}-0000-7000-8000-000000000000")];

    const string Album = "aaaaaaaa-0000-7000-8000-000000000000", Page = "bbbbbbbb-0000-7000-8000-000000000000", Intake = "cccccccc-0000-7000-8000-000000000000", Pier = "dddddddd-0000-7000-8000-000000000000",
        Festival = "eeeeeeee-0000-7000-8000-000000000000", Night = "eeeeeeee-0001-7000-8000-000000000000";

    /// <summary>What stood in such a database: four photos, the last of them in the bin, in an album with a published page.</summary>
    const string Before =
        $$$"""
        insert into account (id, email, email_key, name, password_hash, made) values (gen_random_uuid(), 'odile@example.test', 'odile@example.test', 'Odile', @password, now());
        update site set title = 'Trial';
        insert into album (id, working_name, title, cover, made) values ('{{{Album}}}', 'Season', 'The season', null, now());
        insert into category (id, parent, name, place) values ('{{{Festival}}}', null, 'Festival', 0), ('{{{Night}}}', '{{{Festival}}}', 'Night', 0),
          ('eeeeeeee-0002-7000-8000-000000000001', '{{{Festival}}}', 'Night', 1), ('eeeeeeee-0003-7000-8000-000000000002', '{{{Festival}}}', 'Night', 2);
        insert into tag (id, name, key) values ('{{{Pier}}}', 'pier', 'pier');
        insert into photo (id, hash, file_name, media_type, bytes, width, height, state, stage, title, credit, copyright, licence, arrived, tag_words)
        select ('0000000' || n || '-0000-7000-8000-000000000000')::uuid, sha256(n::text::bytea), n || '.jpg', 'image/jpeg', 1, 3, 2, case n when 4 then 'binned' else 'ready' end, 2, 'Title ' || n, 'Kite Guild', 'the file says', 'all rights', now(), case n when 4 then '' else 'pier' end
          from generate_series(1, 4) as n;
        insert into album_photo (album, photo, place) values ('{{{Album}}}', '00000003-0000-7000-8000-000000000000', 0), ('{{{Album}}}', '00000001-0000-7000-8000-000000000000', 1), ('{{{Album}}}', '00000002-0000-7000-8000-000000000000', 3);
        insert into photo_tag (photo, tag) select id, '{{{Pier}}}' from photo where state = 'ready';
        insert into photo_category (photo, category) select id, '{{{Night}}}' from photo where state = 'ready';
        insert into bin (photo, binned, binned_by, state, held) values ('00000004-0000-7000-8000-000000000000', now(), 'Odile', 'ready', '{"albums": [{"album": "{{{Album}}}", "place": 2}], "tags": ["{{{Pier}}}"], "categories": ["{{{Night}}}"], "covers": ["{{{Album}}}"]}');
        insert into page (id, album, address, draft, published, published_at, edited, published_edit, made)
        values ('{{{Page}}}', '{{{Album}}}', 'season', '{"heading": "Season, unfinished", "text": "", "layout": {"kind": "rows", "size": 240, "gap": 6}, "filterCategories": [], "filterTags": []}', '{"heading": "The season", "text": "", "layout": {"kind": "rows", "size": 240, "gap": 6}, "filterCategories": [], "filterTags": []}', now(), 5, 4, now());
        insert into page_former_address (address, page) values ('season-2025', '{{{Page}}}');
        insert into intake (id, album, begun, begun_by, credit, licence, tags, categories) values ('{{{Intake}}}', '{{{Album}}}', now(), 'Odile', 'Kite Guild', 'all rights', '{pier}', '{{{{Night}}}}');
        insert into intake_file (intake, file_name, photo, outcome, came, bytes) select '{{{Intake}}}', file_name, id, 'arrived', now(), 1 from photo order by file_name;
        insert into watched_folder (id, path, subfolders, made, made_by) values (gen_random_uuid(), '/watched/Club computer/', true, now(), 'Odile');
        insert into upload (id, intake, file_name, bytes, begun, expires) values (gen_random_uuid(), '{{{Intake}}}', 'half.jpg', 1000, now(), now() + interval '7 days');
        """;

    /// <summary>A site whose database is as the second version left it.</summary>
    static async Task<Site> OlderAsync()
    {
        var site = await Site.StartAsync(process: false, empty: true);
        var assembly = Assembly.GetAssembly(typeof(Database))!;
        await using var connection = await site.Db.OpenConnectionAsync();
        async Task RunAsync(string sql, params (string, object?)[] parameters)
        {
            await using var command = new Npgsql.NpgsqlCommand(sql, connection).With(parameters);
            await command.ExecuteNonQueryAsync();
        }

        await RunAsync("create table schema_version (schemaversionsid serial primary key, scriptname varchar(255) not null, applied timestamp not null)");
        foreach (var name in assembly.GetManifestResourceNames().Where(n => n.EndsWith(".sql", StringComparison.Ordinal)).Order(StringComparer.Ordinal).Take(2))
        {
            await using var script = assembly.GetManifestResourceStream(name)!;
            await RunAsync(await new StreamReader(script).ReadToEndAsync());
            await RunAsync("insert into schema_version (scriptname, applied) values (@name, now())", ("name", name));
        }

        foreach (var statement in Before.Split(";\n", StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            await RunAsync(statement, statement.Contains("@password", StringComparison.Ordinal) ? [("password", new PasswordHasher<object>().HashPassword(new object(), "ten characters and more"))] : []);
        }

        return site;
    }

    static async Task<JsonElement> GetAsync(HttpClient who, string address) => await (await who.GetAsync(address)).ReadAsync();

    static async Task<string[]> OrderAsync(HttpClient who) =>
        [.. (await GetAsync(who, $"/api/photos?album={Album}&sort=place")).GetProperty("photos").EnumerateArray().Select(p => p.GetProperty("id").GetString()!)];

    [Fact]
    public async Task Its_people_sign_in_its_pages_stand_and_its_order_is_kept()
    {
        await using var site = await OlderAsync();
        site.Process(0);
        var owner = await site.OwnerAsync();
        Assert.Equal("owner", (await GetAsync(owner, "/api/session")).GetProperty("role").GetString());
        Assert.Equal([Photos[2], Photos[0], Photos[1]], await OrderAsync(owner));
        var line = await GetAsync(owner, $"/api/pages/{Page}");
        Assert.True(line.GetProperty("changed").GetBoolean());
        var visitor = site.Visitor();
        var shown = await visitor.GetStringAsync("/season");
        Assert.Contains("The season", shown, StringComparison.Ordinal);
        Assert.DoesNotContain("unfinished", shown, StringComparison.Ordinal);
        Assert.Equal("/season", (await visitor.GetAsync("/season-2025")).Headers.Location?.OriginalString);
        var categories = (await GetAsync(owner, "/api/categories")).GetProperty("categories").EnumerateArray().Select(c => (c.GetProperty("name").GetString(), c.GetProperty("depth").GetInt32(), c.GetProperty("photos").GetInt32()));
        Assert.Equal([("Festival", 0, 0), ("Night", 1, 3), ("Night", 1, 0), ("Night", 1, 0)], categories);
        // A photo can be moved between two of those that stood at 0 and 1 before.
        var version = (await GetAsync(owner, $"/api/albums/{Album}")).GetProperty("version").GetInt64();
        await (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{Album}/order", new { photos = new[] { Photos[1] }, position = 1 }, version)).ReadAsync();
        Assert.Equal([Photos[2], Photos[1], Photos[0]], await OrderAsync(owner));
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from album_photo where place not in (0, 1::bigint << 32, 2::bigint << 32, 3::bigint << 32)"));
    }

    [Fact]
    public async Task What_lay_in_its_bin_comes_back_to_where_it_stood()
    {
        await using var site = await OlderAsync();
        site.Process(0);
        var owner = await site.OwnerAsync();
        var thing = (await GetAsync(owner, "/api/bin")).GetProperty("things").EnumerateArray().Single();
        Assert.Equal(("photo", "Title 4", "Odile"), (thing.GetProperty("kind").GetString(), thing.GetProperty("name").GetString(), thing.GetProperty("binnedBy").GetString()));
        await (await owner.PostAsJsonAsync("/api/bin/restore", new { things = new[] { new { kind = "photo", id = Photos[3] } } })).ReadAsync();
        Assert.Equal([Photos[2], Photos[0], Photos[3], Photos[1]], await OrderAsync(owner));
        var plate = await GetAsync(owner, $"/api/photos/{Photos[3]}");
        Assert.Equal("pier", plate.GetProperty("tags")[0].GetProperty("name").GetString());
        Assert.Equal(1, plate.GetProperty("categories").GetArrayLength());
        Assert.Equal("ready", plate.GetProperty("state").GetString());
        Assert.Equal(Photos[3], (await GetAsync(owner, $"/api/albums/{Album}")).GetProperty("chosenCover").GetString());
        Assert.Equal(0, await site.ScalarAsync<long>("select (select count(*) from bin) + (select count(*) from held)"));
    }

    [Fact]
    public async Task What_its_intakes_said_is_known_and_taken_back_when_they_say_otherwise()
    {
        await using var site = await OlderAsync();
        site.Process(0);
        var owner = await site.OwnerAsync();
        // A person wrote another credit since: that stays.
        var version = (await GetAsync(owner, $"/api/photos/{Photos[0]}")).GetProperty("version").GetInt64();
        await (await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{Photos[0]}", new { credit = "Ines Calloway" }, version)).ReadAsync();
        await (await owner.SendAsync(HttpMethod.Put, $"/api/intakes/{Intake}/about", new { album = (string?)null, tags = new[] { "strand" }, categories = Array.Empty<string>(), credit = "", copyright = "", licence = "free", origin = "" })).ReadAsync();
        foreach (var (photo, credit) in ((string, string)[])[(Photos[0], "Ines Calloway"), (Photos[1], "")])
        {
            var plate = await GetAsync(owner, $"/api/photos/{photo}");
            Assert.Equal((credit, "the file says"), (plate.GetProperty("credit").GetString(), plate.GetProperty("copyright").GetString()));
            Assert.Equal(["strand"], plate.GetProperty("tags").EnumerateArray().Select(t => t.GetProperty("name").GetString()));
            Assert.Equal(0, plate.GetProperty("categories").GetArrayLength());
        }

        Assert.Empty(await OrderAsync(owner));
        Assert.Equal(3, await site.ScalarAsync<long>("select count(*) from photo where licence = 'free' and binned is null"));
    }

    [Fact]
    public async Task From_then_on_its_changes_are_acts_and_what_was_on_its_way_begins_anew()
    {
        await using var site = await OlderAsync();
        site.Process(0);
        var owner = await site.OwnerAsync();
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from act"));
        var tagged = await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = Photos[..3], add = new[] { "wind" }, remove = new[] { Pier } })).ReadAsync();
        Assert.Equal("Tagged 3 photos “wind” and took “pier” off.", (await GetAsync(owner, "/api/acts")).GetProperty("acts")[0].GetProperty("sentence").GetString());
        await owner.UndoAsync(tagged);
        Assert.Equal(3, await site.ScalarAsync<long>("select count(*) from photo where tag_words = 'pier'"));
        var removed = await (await owner.DeleteAsync($"/api/albums/{Album}")).ReadAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await site.Visitor().GetAsync("/season")).StatusCode);
        await owner.UndoAsync(removed);
        Assert.Equal(HttpStatusCode.OK, (await site.Visitor().GetAsync("/season")).StatusCode);
        var address = $"/api/uploads/{await site.ScalarAsync<Guid>("select id from upload")}";
        Assert.Equal(0, await owner.OffsetAsync(address));
        Assert.Equal("/watched/Club computer", await site.ScalarAsync<string>("select path from watched_folder"));
    }
}
