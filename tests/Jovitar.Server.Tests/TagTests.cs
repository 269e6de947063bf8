using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Tags are renamed, made one, and thrown away where nothing has them.</summary>
public sealed class TagTests
{
    static async Task<(string Id, string Name, int Photos)[]> AllAsync(HttpClient who, string query = "") =>
        [.. (await (await who.GetAsync($"/api/tags/all{query}")).ReadAsync()).GetProperty("tags").EnumerateArray().Select(Of)];

    static (string Id, string Name, int Photos) Of(JsonElement tag) => (tag.GetProperty("id").GetString()!, tag.GetProperty("name").GetString()!, tag.GetProperty("photos").GetInt32());

    static async Task TagAsync(HttpClient who, IEnumerable<string> photos, params string[] add) =>
        await (await who.PostAsJsonAsync("/api/photos/tags", new { photos, add, remove = Array.Empty<string>() })).ReadAsync();

    static async Task<Dictionary<string, string>> NamedAsync(HttpClient who) => (await AllAsync(who)).ToDictionary(t => t.Name, t => t.Id);

    static Task<HttpResponseMessage> RenameAsync(HttpClient who, string tag, string was, string name) => who.SendAsync(HttpMethod.Patch, $"/api/tags/{tag}", new { name, was });

    static async Task<string[]> FoundAsync(HttpClient who, string query) =>
        [.. (await (await who.GetAsync($"/api/photos?sort=name&{query}")).ReadAsync()).GetProperty("photos").EnumerateArray().Select(p => p.GetProperty("fileName").GetString()!)];

    static async Task<string> SentenceAsync(HttpResponseMessage answer) => JsonDocument.Parse(await answer.Content.ReadAsStringAsync()).RootElement.GetProperty("title").GetString()!;

    [Fact]
    public async Task A_tag_is_renamed_everywhere_words_find_it_by_its_new_name_and_undo_names_it_back()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, _, _) = await site.PublishedAsync(owner, 3);
        await TagAsync(owner, photos[..2], "Kits");
        await TagAsync(owner, photos, "Delta");
        var named = await NamedAsync(owner);
        var renamed = await (await RenameAsync(owner, named["Kits"], "Kits", "  Box   kites ")).ReadAsync();
        Assert.Equal(["p0.jpg", "p1.jpg"], await FoundAsync(owner, "q=box%20kit"));
        Assert.Empty(await FoundAsync(owner, "q=kits"));
        Assert.Equal("Renamed tag “Kits” “Box kites”.", await site.ScalarAsync<string>("select sentence from act order by id desc limit 1"));
        // Another's, an old one's, none at all.
        var taken = await RenameAsync(owner, named["Kits"], "Box kites", "DELTA");
        Assert.Equal((HttpStatusCode.Conflict, "There is a tag “DELTA” already. Make the two one instead."), (taken.StatusCode, await SentenceAsync(taken)));
        var stale = await RenameAsync(owner, named["Kits"], "Kits", "Kites");
        Assert.Equal((HttpStatusCode.Conflict, "Somebody renamed this tag meanwhile."), (stale.StatusCode, await SentenceAsync(stale)));
        Assert.Equal(HttpStatusCode.BadRequest, (await RenameAsync(owner, named["Kits"], "Box kites", " \t ")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await RenameAsync(owner, Guid.NewGuid().ToString(), "x", "y")).StatusCode);
        // Its own in other letters.
        await (await RenameAsync(owner, named["Kits"], "Box kites", "BOX kites")).ReadAsync();
        (await owner.DeleteAsync($"/api/tags/{named["Delta"]}")).EnsureSuccessStatusCode();
        var inBin = await RenameAsync(owner, named["Kits"], "BOX kites", "Delta");
        Assert.Equal((HttpStatusCode.Conflict, "A tag “Delta” lies in the bin. Take it back, or empty the bin."), (inBin.StatusCode, await SentenceAsync(inBin)));
        await (await RenameAsync(owner, named["Kits"], "BOX kites", "Box kites")).ReadAsync();
        await owner.UndoAsync(renamed);
        Assert.Equal(["p0.jpg", "p1.jpg"], await FoundAsync(owner, "q=kits"));
    }

    [Fact]
    public async Task Tags_made_one_are_one_on_photos_in_rules_kept_narrowings_and_filter_bars_and_undo_parts_them()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, page, address) = await site.PublishedAsync(owner, 4);
        await TagAsync(owner, photos[..2], "kite");
        await TagAsync(owner, photos[1..3], "Kites");
        await TagAsync(owner, photos[3..], "kiting");
        var named = await NamedAsync(owner);
        var line = await owner.PageAsync(page);
        await (await owner.DraftAsync(page, address, Drafts.Of("Trial", line.GetProperty("album").GetString(), tags: [named["kite"], named["Kites"]]))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/narrowings", new { name = "Kites", search = $"tag={named["kite"]}" })).ReadAsync();
        var album = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Kites", filling = new { search = $"tag={named["kiting"]}", most = 9, sort = "name" } })).ReadAsync()).GetProperty("id").GetString();
        await site.UntilAsync($"select count(*) from album_photo where album = '{album}'", 1);

        var twins = (await (await owner.GetAsync("/api/tags/twins")).ReadAsync()).GetProperty("groups").EnumerateArray().Select(g => g.GetProperty("tags").EnumerateArray().Select(t => t.GetProperty("name").GetString()));
        Assert.Equal(["kite", "Kites"], Assert.Single(twins));
        var merged = await (await owner.PostAsJsonAsync($"/api/tags/{named["Kites"]}/merging", new { others = new[] { named["kite"], named["kiting"] } })).ReadAsync();
        Assert.Equal("Made “kite”, “kiting” and “Kites” one tag, “Kites”, on 3 photos.", await site.ScalarAsync<string>("select sentence from act where within is null order by id desc limit 1"));
        Assert.Equal([(named["Kites"], "Kites", 4)], await AllAsync(owner));
        await site.UntilAsync($"select count(*) from album_photo where album = '{album}'", 4);
        Assert.Equal(4, (await (await owner.GetAsync("/api/narrowings")).ReadAsync()).GetProperty("narrowings")[0].GetProperty("photos").GetInt32());
        // Visitors' filter bar has it once, for all four; nobody need publish anew.
        using var visitor = site.Visitor();
        var seen = await visitor.GetStringAsync($"/{address}");
        Assert.Contains("Kites", seen, StringComparison.Ordinal);
        Assert.Equal(named["Kites"], await site.ScalarAsync<string>($"select published #>> '{{blocks,1,bar,groups,1,buttons,0,thing}}' from page where id = '{page}'"));
        Assert.DoesNotContain(named["kite"], await site.ScalarAsync<string>($"select draft::text || published::text from page where id = '{page}'"), StringComparison.Ordinal);
        // Who types an old name again makes it anew, and nothing comes back with it.
        await TagAsync(owner, photos[..1], "kiting");
        Assert.Equal(1, (await AllAsync(owner, "?typed=kiting"))[0].Photos);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsJsonAsync($"/api/tags/{named["Kites"]}/merging", new { others = new[] { named["kite"] } })).StatusCode);

        await owner.UndoAsync(merged);
        Assert.Equal([("kite", 2), ("Kites", 2), ("kiting", 2)], (await AllAsync(owner)).Select(t => (t.Name, t.Photos)));
        Assert.Equal($"tag={named["kite"]}", await site.ScalarAsync<string>("select search from narrowing"));
        Assert.Equal($"tag={named["kiting"]}", await site.ScalarAsync<string>($"select rule from album where id = '{album}'"));
        await site.UntilAsync($"select count(*) from album_photo where album = '{album}'", 2);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Tags_that_nothing_has_are_counted_listed_and_thrown_away_in_one_act()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var photo = (await owner.BringAsync(await owner.IntakeAsync(), "p.jpg", Acts.Photo(1, 90, 60))).GetProperty("photo").GetString()!;
        await TagAsync(owner, [photo], "used");
        await site.WriteAsync("insert into tag (id, name, key) select gen_random_uuid(), 'Tag ' || to_char(g, 'FM000'), 'tag ' || to_char(g, 'FM000') from generate_series(1, 450) as g");
        var window = await (await owner.GetAsync("/api/tags/all?unused=true")).ReadAsync();
        Assert.Equal((450, 450, 200), (window.GetProperty("total").GetInt32(), window.GetProperty("unused").GetInt32(), window.GetProperty("tags").GetArrayLength()));
        var names = new List<string>();
        for (string? after = ""; after is not null;)
        {
            var next = await (await owner.GetAsync($"/api/tags/all?after={Uri.EscapeDataString(after)}")).ReadAsync();
            names.AddRange(next.GetProperty("tags").EnumerateArray().Select(t => t.GetProperty("name").GetString()!));
            after = next.GetProperty("next").GetString();
        }

        Assert.Equal([.. Enumerable.Range(1, 450).Select(g => $"Tag {g:000}"), "used"], names);
        var dropped = await (await owner.PostAsync("/api/tags/unused/removal", null)).ReadAsync();
        Assert.Equal(450, dropped.GetProperty("count").GetInt32());
        Assert.Equal("Threw 450 unused tags in the bin: “Tag 001”, “Tag 002” and 448 more.", await site.ScalarAsync<string>("select sentence from act where within is null order by id desc limit 1"));
        Assert.Equal(["used"], (await AllAsync(owner)).Select(t => t.Name));
        Assert.Equal(0, (await (await owner.PostAsync("/api/tags/unused/removal", null)).ReadAsync()).GetProperty("count").GetInt32());
        await owner.UndoAsync(dropped);
        Assert.Equal(450, await site.ScalarAsync<long>("select count(*) from tag where binned is null and name <> 'used'"));
    }

    [Fact]
    public async Task Two_who_merge_and_rename_the_same_tags_at_once_leave_nothing_broken()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var club = await Club.GatherAsync(site, 9);
        var dice = new Random(9);
        for (var n = 0; n < 5; n++)
        {
            await TagAsync(club.Anyone, club.Photos.Where(_ => dice.Next(2) == 0).Append(club.Photos[n]), $"tag {n}");
        }

        for (var round = 0; round < 6; round++)
        {
            var ids = await site.ScalarAsync<string[]>("select array_agg(id::text order by id) from tag");
            string Any() => ids[dice.Next(ids.Length)];
            var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(async n =>
            {
                using var answer = n switch
                {
                    0 or 1 or 2 => await club.Anyone.PostAsJsonAsync($"/api/tags/{Any()}/merging", new { others = new[] { Any(), Any() } }),
                    3 => await RenameAsync(club.Anyone, Any(), $"tag {dice.Next(5)}", $"tag {dice.Next(5)}"),
                    4 => await club.TakeOneBackAsync(),
                    _ => await club.DoAsync(),
                };
                return (answer.StatusCode, await answer.Content.ReadAsStringAsync());
            }));
            Assert.All(answers, a => Assert.True((int)a.Item1 < 500, a.Item2));
            Assert.Null(await club.FaultsAsync());
        }
    }
}
