using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Photos, albums, categories, tags and pages as the workroom works with them.</summary>
public sealed class WorkTests
{
    static string Id(JsonElement e) => e.GetProperty("id").GetString()!;

    [Fact]
    public async Task A_stale_write_is_refused_and_changes_nothing()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, _, _) = await site.PublishedAsync(owner, 1);
        var path = $"/api/photos/{photos[0]}";
        var version = (await (await owner.GetAsync(path)).ReadAsync()).GetProperty("version").GetInt64();
        var first = await (await owner.SendAsync(HttpMethod.Patch, path, new { title = "Mine", addTags = new[] { "Delta", " delta" } }, version)).ReadAsync();
        Assert.Equal("Mine", first.GetProperty("plate").GetProperty("title").GetString());
        Assert.Single(first.GetProperty("plate").GetProperty("tags").EnumerateArray());
        var second = await owner.SendAsync(HttpMethod.Patch, path, new { title = "Late" }, version);
        Assert.Equal(HttpStatusCode.PreconditionFailed, second.StatusCode);
        Assert.Contains("still here", await second.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal("Mine", (await (await owner.GetAsync(path)).ReadAsync()).GetProperty("title").GetString());
    }

    [Fact]
    public async Task Photos_are_ordered_taken_out_and_put_back_in_an_album()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, _, _) = await site.PublishedAsync(owner, 5);
        async Task<string[]> OrderAsync() => [.. (await (await owner.GetAsync($"/api/photos?album={album}&sort=place")).ReadAsync()).GetProperty("photos").EnumerateArray().Select(Id)];
        async Task<long> VersionAsync() => (await (await owner.GetAsync($"/api/albums/{album}")).ReadAsync()).GetProperty("version").GetInt64();

        await (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{album}/order", new { photos = new[] { p[3], p[4] }, position = 0 }, await VersionAsync())).ReadAsync();
        Assert.Equal([p[3], p[4], p[0], p[1], p[2]], await OrderAsync());
        var moved = await (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{album}/order", new { photos = new[] { p[3] }, before = p[1] }, await VersionAsync())).ReadAsync();
        Assert.Equal([p[4], p[0], p[3], p[1], p[2]], await OrderAsync());
        var stale = await owner.SendAsync(HttpMethod.Put, $"/api/albums/{album}/order", new { photos = new[] { p[0] }, position = 0 }, moved.GetProperty("version").GetInt64() - 1);
        Assert.Equal(HttpStatusCode.PreconditionFailed, stale.StatusCode);
        var out1 = await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos/removal", new { photos = new[] { p[0], p[2] } })).ReadAsync();
        Assert.Equal([p[4], p[3], p[1]], await OrderAsync());
        await owner.UndoAsync(out1);
        Assert.Equal([p[4], p[0], p[3], p[1], p[2]], await OrderAsync());
    }

    [Fact]
    public async Task Windows_of_the_sheet_follow_one_another_without_gap_or_repeat_in_every_order()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await site.WriteAsync(
            """
            insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, taken, state, stage)
            select gen_random_uuid(), sha256(g::text::bytea), 'N' || (g % 50) || '.jpg', 'image/jpeg', 1, 3, 2, now() - make_interval(secs => g % 7), timestamp '2020-01-01' + make_interval(mins => g % 90), 'ready', 2 from generate_series(1, 500) as g
            """);

        foreach (var order in (string[])["sort=taken", "sort=taken&reversed=true", "sort=arrived", "sort=name", "sort=name&reversed=true", "q=n1&sort=name"])
        {
            var (seen, total) = (new List<string>(), 1);
            while (seen.Count < total)
            {
                var window = await (await owner.GetAsync($"/api/photos?{order}&at={seen.Count}")).ReadAsync();
                total = window.GetProperty("total").GetInt32();
                seen.AddRange(window.GetProperty("photos").EnumerateArray().Select(Id));
            }

            Assert.Equal(total, seen.Count);
            Assert.Equal(seen.Count, seen.Distinct().Count());
            var middle = await (await owner.GetAsync($"/api/photos/{seen[40]}/neighbours?{order}")).ReadAsync();
            Assert.Equal((seen[39], seen[41], 41), (middle.GetProperty("before").GetString(), middle.GetProperty("after").GetString(), middle.GetProperty("position").GetInt32()));
            var between = await (await owner.GetAsync($"/api/photos/between?{order}&one={seen[30]}&other={seen[10]}")).ReadAsync();
            Assert.Equal(seen[10..31], between.GetProperty("photos").EnumerateArray().Select(e => e.GetString()!));
        }
    }

    [Fact]
    public async Task Search_looks_through_titles_captions_file_names_and_tags()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 3);
        async Task<string[]> FindAsync(string q) => [.. (await (await owner.GetAsync($"/api/photos?q={Uri.EscapeDataString(q)}")).ReadAsync()).GetProperty("photos").EnumerateArray().Select(Id)];
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = new[] { p[0] }, add = new[] { "Night Flight" }, remove = Array.Empty<string>() })).ReadAsync();
        var version = (await (await owner.GetAsync($"/api/photos/{p[1]}")).ReadAsync()).GetProperty("version").GetInt64();
        await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{p[1]}", new { title = "100% wind_y", caption = "Åse" }, version);
        Assert.Equal([p[0]], await FindAsync("FLIGHT night"));
        Assert.Equal([p[1]], await FindAsync("100% wind_"));
        Assert.Equal([p[1]], await FindAsync("åse"));
        Assert.Equal([p[2]], await FindAsync("p2.jpg"));
        Assert.Empty(await FindAsync("'; drop table photo; --"));
        Assert.Empty(await FindAsync("%" + "x"));
    }

    [Fact]
    public async Task Tagging_says_what_changed_and_two_at_once_make_one_tag()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 4);
        var marks = await Task.WhenAll(Enumerable.Range(0, 4).Select(i => owner.PostAsJsonAsync("/api/photos/tags", new { photos = new[] { p[i] }, add = new[] { "new tag", "Other" }, remove = Array.Empty<string>() })));
        Assert.All(marks, m => Assert.Equal(HttpStatusCode.OK, m.StatusCode));
        Assert.Equal(2, await site.ScalarAsync<long>("select count(*) from tag"));
        var again = await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p, add = new[] { "NEW TAG" }, remove = Array.Empty<string>() })).ReadAsync();
        Assert.Equal(0, again.GetProperty("photos").GetInt32());
        Assert.Equal(System.Text.Json.JsonValueKind.Null, again.GetProperty("act").ValueKind);
        var tags = await (await owner.GetAsync("/api/tags?typed=new")).ReadAsync();
        Assert.Equal(4, tags.GetProperty("tags")[0].GetProperty("photos").GetInt32());
    }

    [Fact]
    public async Task A_tag_that_narrows_is_named_however_rare_it_is()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await site.WriteAsync("insert into tag (id, name, key) select gen_random_uuid(), 'tag ' || g, 'tag ' || g from generate_series(1, 400) as g");
        await site.WriteAsync("insert into tag (id, name, key) values ('99999999-0000-7000-8000-000000000000', 'zz the rarest', 'zz the rarest')");
        const string Rare = "99999999-0000-7000-8000-000000000000";
        async Task<string[]> IdsAsync(string query) => [.. (await (await owner.GetAsync($"/api/tags{query}")).ReadAsync()).GetProperty("tags").EnumerateArray().Select(t => t.GetProperty("id").GetString()!)];
        var first = await IdsAsync("");
        Assert.DoesNotContain(Rare, first);
        var also = await IdsAsync($"?also={Rare}");
        Assert.Equal(Rare, also[0]);
        Assert.Equal(first.Length, also.Length);
        Assert.Equal([Rare], await IdsAsync("?typed=rarest"));
    }

    [Fact]
    public async Task Categories_form_a_tree_that_no_move_can_knot()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        async Task<string> MakeAsync(string name, string? parent) => Id(await (await owner.PostAsJsonAsync("/api/categories", new { name, parent })).ReadAsync());
        var festival = await MakeAsync("Festival", null);
        var night = await MakeAsync("Night", festival);
        var shop = await MakeAsync("Workshop", null);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.SendAsync(HttpMethod.Put, $"/api/categories/{festival}", new { name = "Festival", parent = night }, 1)).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await owner.SendAsync(HttpMethod.Put, $"/api/categories/{shop}", new { name = "Shop", parent = (string?)null, place = 0 }, 1)).StatusCode);
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await owner.SendAsync(HttpMethod.Put, $"/api/categories/{shop}", new { name = "Again", parent = (string?)null }, 1)).StatusCode);
        var lines = (await (await owner.GetAsync("/api/categories")).ReadAsync()).GetProperty("categories").EnumerateArray().Select(c => (c.GetProperty("name").GetString(), c.GetProperty("depth").GetInt32()));
        Assert.Equal([("Shop", 0), ("Festival", 0), ("Night", 1)], lines);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/categories", new { name = "  " })).StatusCode);
    }

    [Fact]
    public async Task Many_are_decided_on_and_rated_at_once_and_taken_back_but_for_what_was_decided_since()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, address) = await site.PublishedAsync(owner, 4);
        async Task<string[]> FoundAsync(string query) => [.. (await (await owner.GetAsync($"/api/photos?sort=name&{query}")).ReadAsync()).GetProperty("photos").EnumerateArray().Select(Id)];
        var kept = await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p, decision = "keep" })).ReadAsync();
        Assert.Equal(4, kept.GetProperty("photos").GetInt32());
        Assert.Equal(System.Text.Json.JsonValueKind.Null, (await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p, decision = "keep" })).ReadAsync()).GetProperty("act").ValueKind);
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p[..1], decision = "leave_out" })).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p[1..3], rating = 5 })).ReadAsync();
        Assert.Equal(p[1..], await FoundAsync("decision=keep"));
        Assert.Equal(p[1..3], await FoundAsync("rating=5"));
        Assert.DoesNotContain(p[0], await site.Visitor().GetStringAsync($"/{address}"), StringComparison.Ordinal);
        var undone = await owner.UndoAsync(kept);
        Assert.Equal(1, undone.GetProperty("undone").GetProperty("leftCount").GetInt32());
        Assert.Equal(p[..1], await FoundAsync("notDecision=none"));
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p, rating = 6 })).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p, decision = "perhaps" })).StatusCode);
    }
}
