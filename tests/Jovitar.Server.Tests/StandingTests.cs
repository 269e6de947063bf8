using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Where albums stand, and the pages that they and categories have by themselves.</summary>
public sealed class StandingTests
{
    [Fact]
    public async Task An_album_in_a_category_has_a_page_by_itself_and_out_of_view_nothing_of_it_is_seen_anywhere()
    {
        var (site, owner, visitor, p) = await StartAsync(3);
        await using var _ = site;
        var album = await MakeAsync(owner, "Night flight", p[..2]);
        var picture = $"/i/{(await (await owner.GetAsync($"/api/photos/{p[0]}")).ReadAsync()).GetProperty("picture").GetString()}/1-480.webp";
        // It stands nowhere yet, and so nobody sees it; the Desk says so.
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/album/night-flight"));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, picture));
        Assert.Equal("Night flight", (await (await owner.GetAsync("/api/desk")).ReadAsync()).GetProperty("nowhere")[0].GetProperty("workingName").GetString());
        Assert.Equal("Only staff can see this; it stands in no category and on no page.", (await AlbumAsync(owner, album)).GetProperty("audience").GetProperty("sentence").GetString());

        var festival = await CategoryAsync(owner, "Festival");
        var night = await CategoryAsync(owner, "Night", festival);
        var stood = await (await StandAsync(owner, album, [night], dated: "2026-06-13", tags: ["kites", "Lit"])).ReadAsync();
        Assert.Equal("Everyone can see this, on one page.", stood.GetProperty("album").GetProperty("audience").GetProperty("sentence").GetString());
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/album/night-flight"));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, picture));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, $"/album/night-flight/photo/{p[0]}"));
        Assert.Equal(2, (await (await visitor.GetAsync("/site/view/album/night-flight?width=900")).ReadAsync()).GetProperty("frames").GetArrayLength());
        Assert.Equal(["Night flight"], await IndexAsync(visitor, "/category/festival"));
        Assert.Equal(["Night flight"], await IndexAsync(visitor, "/category/night"));
        Assert.Equal(["Festival"], await IndexAsync(visitor, "/"));
        Assert.Contains("13 June 2026, 2 photographs", await visitor.GetStringAsync("/category/night"), StringComparison.Ordinal);
        Assert.Equal(0, (await (await owner.GetAsync("/api/desk")).ReadAsync()).GetProperty("nowhere").GetArrayLength());
        // A photo that comes into it stands there untouched.
        await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos", new { photos = new[] { p[2] } })).ReadAsync();
        Assert.Contains("3 photographs", await visitor.GetStringAsync("/category/festival"), StringComparison.Ordinal);

        // The category above goes out of view, and all beneath it with it; then the album by its one switch.
        var hidden = await (await SetAsync(owner, festival, shown: false)).ReadAsync();
        Assert.Equal([HttpStatusCode.NotFound, HttpStatusCode.NotFound, HttpStatusCode.NotFound], [await GetAsync(visitor, "/category/night"), await GetAsync(visitor, "/album/night-flight"), await GetAsync(visitor, $"/album/night-flight/photo/{p[0]}")]);
        await owner.UndoAsync(hidden);
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/album/night-flight"));
        var page = await (await owner.PostAsJsonAsync("/api/pages", new { album })).ReadAsync();
        var (id, address) = (page.GetProperty("id").GetString()!, page.GetProperty("address").GetString()!);
        await (await owner.PublishAsync(id)).ReadAsync();
        Assert.Contains("3 photographs", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        var out_ = await (await StandAsync(owner, album, shown: false)).ReadAsync();
        Assert.Equal("Only staff can see this; it is out of view.", out_.GetProperty("album").GetProperty("audience").GetProperty("sentence").GetString());
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/album/night-flight"));
        Assert.DoesNotContain("data-id", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        Assert.Empty(await IndexAsync(visitor, "/category/night"));
        Assert.Equal("Only staff can see this; its album is out of view.", (await (await owner.GetAsync($"/api/photos/{p[0]}")).ReadAsync()).GetProperty("audience").GetProperty("sentence").GetString());
        // A decision in favour is kept for some seconds, no longer.
        for (var end = DateTime.UtcNow.AddSeconds(20); await GetAsync(visitor, picture) == HttpStatusCode.OK && DateTime.UtcNow < end;)
        {
            await Task.Delay(200);
        }

        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, picture));
        Assert.Equal("Took album “Night flight” out of view.", await site.ScalarAsync<string>("select sentence from act where within is null order by id desc limit 1"));
        await owner.UndoAsync(out_.GetProperty("done"));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/album/night-flight"));
        Assert.Equal(["kites", "Lit"], (await AlbumAsync(owner, album)).GetProperty("standing").GetProperty("tags").EnumerateArray().Select(t => t.GetString()));
    }

    [Fact]
    public async Task An_index_has_those_put_first_ahead_and_the_rest_by_date_by_title_or_as_they_were_placed()
    {
        var (site, owner, visitor, p) = await StartAsync(4);
        await using var _ = site;
        var season = await CategoryAsync(owner, "Season");
        var albums = new Dictionary<string, string>();
        foreach (var (name, i) in new[] { "Delta", "Alpha", "Charlie", "Bravo" }.Select((n, i) => (n, i)))
        {
            albums[name] = await MakeAsync(owner, name, [p[i]]);
            await (await StandAsync(owner, albums[name], [season], dated: $"2026-0{i + 1}-01")).ReadAsync();
        }

        Assert.Equal(["Bravo", "Charlie", "Alpha", "Delta"], await IndexAsync(visitor, "/category/season"));
        async Task<JsonElement> SortAsync(string sort) => await (await SetAsync(owner, season, page: new { address = "season", beneath = true, sort })).ReadAsync();
        await SortAsync("oldest");
        Assert.Equal(["Delta", "Alpha", "Charlie", "Bravo"], await IndexAsync(visitor, "/category/season"));
        await SortAsync("title");
        Assert.Equal(["Alpha", "Bravo", "Charlie", "Delta"], await IndexAsync(visitor, "/category/season"));
        await (await StandAsync(owner, albums["Charlie"], [season], first: [season])).ReadAsync();
        Assert.Equal(["Charlie", "Alpha", "Bravo", "Delta"], await IndexAsync(visitor, "/category/season"));
        await (await StandAsync(owner, albums["Delta"], putFirst: true)).ReadAsync();
        Assert.Equal(["Charlie", "Delta", "Alpha", "Bravo"], await IndexAsync(visitor, "/category/season"));
        // Put first everywhere, it leads the start page, too.
        Assert.Equal(["Delta", "Season"], await IndexAsync(visitor, "/"));
        await (await StandAsync(owner, albums["Delta"], putFirst: false)).ReadAsync();
        await (await StandAsync(owner, albums["Charlie"], [season])).ReadAsync();

        await SortAsync("hand");
        // Nobody has placed any: they go by title until somebody does.
        Assert.Equal(["Alpha", "Bravo", "Charlie", "Delta"], await IndexAsync(visitor, "/category/season"));
        var moved = await (await owner.PutAsJsonAsync($"/api/albums/in/{season}/order", new { album = albums["Delta"], before = albums["Bravo"] })).ReadAsync();
        Assert.Equal(["Alpha", "Delta", "Bravo", "Charlie"], await IndexAsync(visitor, "/category/season"));
        await (await owner.PutAsJsonAsync($"/api/albums/in/{season}/order", new { album = albums["Alpha"] })).ReadAsync();
        Assert.Equal(["Delta", "Bravo", "Charlie", "Alpha"], await IndexAsync(visitor, "/category/season"));
        var listed = (await (await owner.GetAsync($"/api/albums/in/{season}")).ReadAsync()).GetProperty("albums").EnumerateArray().Select(a => a.GetProperty("workingName").GetString());
        Assert.Equal(["Delta", "Bravo", "Charlie", "Alpha"], listed);
        Assert.NotNull(moved.GetProperty("act").GetString());
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PutAsJsonAsync($"/api/albums/in/{season}/order", new { album = season })).StatusCode);
        await SortAsync("newest");
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PutAsJsonAsync($"/api/albums/in/{season}/order", new { album = albums["Alpha"] })).StatusCode);
    }

    [Fact]
    public async Task A_category_shows_those_beneath_it_or_their_covers_and_photos_of_its_own_only_where_they_are_seen_anyway()
    {
        var (site, owner, visitor, p) = await StartAsync(4);
        await using var _ = site;
        var festival = await CategoryAsync(owner, "Festival");
        var night = await CategoryAsync(owner, "Night", festival);
        var album = await MakeAsync(owner, "Lanterns", [p[0]]);
        await (await StandAsync(owner, album, [night])).ReadAsync();
        // Two photos of the category itself: one stands in an album elsewhere that visitors see, one nowhere.
        var elsewhere = await CategoryAsync(owner, "Elsewhere");
        await (await StandAsync(owner, await MakeAsync(owner, "Others", [p[1]]), [elsewhere])).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/photos/categories", new { photos = new[] { p[0], p[1], p[2] }, add = new[] { festival }, remove = Array.Empty<string>() })).ReadAsync();
        var page = await visitor.GetStringAsync("/category/festival");
        Assert.Equal(["Lanterns"], Headings().Matches(page).Select(m => m.Groups[1].Value));
        Assert.Contains("""<a href="/category/night">Night</a>""", page, StringComparison.Ordinal);
        // Not the one that an album on this very page holds, nor the one that stands nowhere.
        Assert.Equal([false, true, false, false], p.Select(id => page.Contains($"data-id=\"{id}\"", StringComparison.Ordinal)));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, $"/category/festival/photo/{p[2]}"));
        await (await SetAsync(owner, festival, page: new { address = "festival", beneath = false, sort = "newest" })).ReadAsync();
        Assert.Equal(["Night"], await IndexAsync(visitor, "/category/festival"));
        // Empty categories are listed nowhere.
        await CategoryAsync(owner, "Nothing yet");
        Assert.Equal(["Festival", "Elsewhere"], await IndexAsync(visitor, "/"));
    }

    [Fact]
    public async Task A_cover_opens_the_page_that_was_made_for_an_album_unless_told_otherwise_and_is_the_highest_rated_unless_chosen()
    {
        var (site, owner, visitor, p) = await StartAsync(3);
        await using var _ = site;
        var album = await MakeAsync(owner, "Strand", p);
        var category = await CategoryAsync(owner, "Beach");
        await (await StandAsync(owner, album, [category])).ReadAsync();
        async Task<string> PictureAsync(string photo) => (await (await owner.GetAsync($"/api/photos/{photo}")).ReadAsync()).GetProperty("picture").GetString()!;
        async Task<string> CoverAsync() => (await AlbumAsync(owner, album)).GetProperty("cover").GetProperty("picture").GetString()!;
        Assert.Equal(await PictureAsync(p[0]), await CoverAsync());
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p[1..], rating = 4 })).ReadAsync();
        // The first of the highest, here and for visitors.
        Assert.Equal(await PictureAsync(p[1]), await CoverAsync());
        Assert.Contains(await PictureAsync(p[1]), await visitor.GetStringAsync("/category/beach"), StringComparison.Ordinal);
        Assert.Contains("href=\"/album/strand\"", await visitor.GetStringAsync("/category/beach"), StringComparison.Ordinal);
        await (await owner.SendAsync(HttpMethod.Patch, $"/api/albums/{album}", new { cover = p[2] }, (await AlbumAsync(owner, album)).GetProperty("version").GetInt64())).ReadAsync();
        Assert.Contains(await PictureAsync(p[2]), await visitor.GetStringAsync("/category/beach"), StringComparison.Ordinal);

        var page = await (await owner.PostAsJsonAsync("/api/pages", new { album })).ReadAsync();
        await (await owner.PublishAsync(page.GetProperty("id").GetString()!)).ReadAsync();
        Assert.Contains($"href=\"/{page.GetProperty("address").GetString()}\"", await visitor.GetStringAsync("/category/beach"), StringComparison.Ordinal);
        await (await StandAsync(owner, album, opens: album)).ReadAsync();
        Assert.Contains("href=\"/album/strand\"", await visitor.GetStringAsync("/category/beach"), StringComparison.Ordinal);

        // The cover of a category may be any photo that visitors see; in the bin it gives way to one that suits, and is back with it.
        await (await SetAsync(owner, category, page: new { address = "beach", cover = p[0], beneath = true, sort = "newest" })).ReadAsync();
        Assert.Contains(await PictureAsync(p[0]), await visitor.GetStringAsync("/"), StringComparison.Ordinal);
        var picture = await PictureAsync(p[0]);
        var binned = await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[0] } })).ReadAsync();
        Assert.DoesNotContain(picture, await visitor.GetStringAsync("/"), StringComparison.Ordinal);
        await owner.UndoAsync(binned);
        Assert.Contains(picture, await visitor.GetStringAsync("/"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_page_made_of_a_category_shows_what_stands_there_and_its_cover_opens_it_while_visitors_have_it()
    {
        var (site, owner, visitor, p) = await StartAsync(3);
        await using var _ = site;
        var beach = await CategoryAsync(owner, "Beach");
        await (await StandAsync(owner, await MakeAsync(owner, "Strand", p), [beach])).ReadAsync();
        await (await owner.SendAsync(HttpMethod.Put, $"/api/categories/{beach}", new { name = "Beach", parent = (string?)null, description = "Sand and *wind*." }, (await LineAsync(owner, beach)).GetProperty("version").GetInt64())).ReadAsync();
        async Task<bool> OpensAsync(string path) => (await visitor.GetStringAsync("/")).Contains($"href=\"{path}\"", StringComparison.Ordinal);
        var made = await (await owner.PostAsJsonAsync("/api/pages", new { category = beach })).ReadAsync();
        var (page, address) = (made.GetProperty("id").GetString()!, made.GetProperty("address").GetString()!);
        Assert.Equal(page, (await LineAsync(owner, beach)).GetProperty("page").GetProperty("opens").GetString());
        // A draft is nobody's: the cover opens the category's own page until it is published.
        Assert.True(await OpensAsync("/category/beach"));
        await (await owner.PublishAsync(page)).ReadAsync();
        Assert.True(await OpensAsync($"/{address}"));
        var html = await visitor.GetStringAsync($"/{address}");
        Assert.Contains("Sand and <em>wind</em>.", html, StringComparison.Ordinal);
        Assert.Contains("href=\"/album/strand\"", html, StringComparison.Ordinal);
        // Renamed, it is opened there; withdrawn, it is not any more.
        await (await owner.DraftAsync(page, "the-beach", made.GetProperty("draft"))).ReadAsync();
        Assert.True(await OpensAsync("/the-beach"));
        await (await owner.PostAsync($"/api/pages/{page}/withdraw", null)).ReadAsync();
        Assert.True(await OpensAsync("/category/beach"));
        await (await owner.PublishAsync(page)).ReadAsync();
        var set = await (await SetAsync(owner, beach, page: new { address = "beach", beneath = true, sort = "newest" })).ReadAsync();
        Assert.True(await OpensAsync("/category/beach"));
        await owner.UndoAsync(set);
        Assert.True(await OpensAsync("/the-beach"));
        var binned = await (await owner.DeleteAsync($"/api/pages/{page}")).ReadAsync();
        Assert.True(await OpensAsync("/category/beach"));
        // While it is in the bin something else is said of the category: it is opened again once it is back.
        await (await SetAsync(owner, beach, page: new { address = "beach", beneath = false, sort = "title", opens = page })).ReadAsync();
        await owner.UndoAsync(binned);
        Assert.True(await OpensAsync("/the-beach"));
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsJsonAsync("/api/pages", new { category = Guid.NewGuid() })).StatusCode);
        // An album's cover opens whichever page is said.
        await (await StandAsync(owner, (await AlbumsAsync(owner))[0], opens: page)).ReadAsync();
        Assert.Contains("href=\"/the-beach\"", await visitor.GetStringAsync("/category/beach"), StringComparison.Ordinal);
    }

    static async Task<string[]> AlbumsAsync(HttpClient who) => [.. (await (await who.GetAsync("/api/albums")).ReadAsync()).GetProperty("albums").EnumerateArray().Select(a => a.GetProperty("id").GetString()!)];

    [Fact]
    public async Task The_Desk_names_photos_that_no_button_of_a_page_finds_and_the_sheet_shows_them()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, page, address) = await site.PublishedAsync(owner, 3);
        Assert.Equal(0, (await (await owner.GetAsync("/api/desk")).ReadAsync()).GetProperty("unreached").GetArrayLength());
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p[..1], add = new[] { "pier" }, remove = Array.Empty<string>() })).ReadAsync();
        var tag = await site.ScalarAsync<Guid>("select id from tag");
        var line = await (await owner.GetAsync($"/api/pages/{page}")).ReadAsync();
        var draft = Drafts.Of("The pier", line.GetProperty("album").GetString(), tags: [tag.ToString()]);
        await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address, draft }, line.GetProperty("edited").GetInt64())).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        var unreached = (await (await owner.GetAsync("/api/desk")).ReadAsync()).GetProperty("unreached")[0];
        Assert.Equal(("The pier", 2), (unreached.GetProperty("title").GetString(), unreached.GetProperty("photos").GetInt32()));
        var sheet = await (await owner.GetAsync($"/api/photos?{unreached.GetProperty("search").GetString()}")).ReadAsync();
        Assert.Equal(p[1..].Order(), sheet.GetProperty("photos").EnumerateArray().Select(f => f.GetProperty("id").GetString()!).Order());
        // Mended there: tagged, they are found.
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p[1..], add = new[] { "pier" }, remove = Array.Empty<string>() })).ReadAsync();
        Assert.Equal(0, (await (await owner.GetAsync("/api/desk")).ReadAsync()).GetProperty("unreached").GetArrayLength());
    }

    [Fact]
    public async Task Merging_tags_takes_albums_along_and_a_tag_of_an_album_alone_is_not_unused()
    {
        var (site, owner, _, p) = await StartAsync(1);
        await using var __ = site;
        var album = await MakeAsync(owner, "Trial", p);
        await (await StandAsync(owner, album, tags: ["kite", "delta"])).ReadAsync();
        Assert.Equal(0, (await (await owner.GetAsync("/api/tags/all")).ReadAsync()).GetProperty("unused").GetInt32());
        var (kite, delta) = (await site.ScalarAsync<Guid>("select id from tag where key = 'kite'"), await site.ScalarAsync<Guid>("select id from tag where key = 'delta'"));
        var merged = await (await owner.PostAsJsonAsync($"/api/tags/{delta}/merging", new { others = new[] { kite } })).ReadAsync();
        Assert.Equal(["delta"], (await AlbumAsync(owner, album)).GetProperty("standing").GetProperty("tags").EnumerateArray().Select(t => t.GetString()));
        await owner.UndoAsync(merged);
        Assert.Equal(["delta", "kite"], (await AlbumAsync(owner, album)).GetProperty("standing").GetProperty("tags").EnumerateArray().Select(t => t.GetString()));
    }

    [Fact]
    public async Task Own_pages_are_fresh_after_whatever_they_show_was_changed_and_otherwise_as_they_were()
    {
        var (site, owner, visitor, p) = await StartAsync(3);
        await using var _ = site;
        var (season, away) = (await CategoryAsync(owner, "Season"), await CategoryAsync(owner, "Away"));
        var night = await CategoryAsync(owner, "Night", season);
        var album = await MakeAsync(owner, "Lanterns", p[..1]);
        await (await StandAsync(owner, album, [night])).ReadAsync();
        await (await StandAsync(owner, await MakeAsync(owner, "Elsewhere", p[2..]), [away])).ReadAsync();
        var paths = new[] { "/album/lanterns", "/category/night", "/category/season", "/category/away", "/" };
        async Task<string[]> TagsAsync() => await Task.WhenAll(paths.Select(async path => (await visitor.GetAsync(path)).Headers.ETag!.Tag));
        async Task ChangesAsync(Func<Task> act, params string[] wanted)
        {
            var before = await TagsAsync();
            await act();
            var after = await TagsAsync();
            Assert.Equal(wanted, paths.Where((_, i) => before[i] != after[i]));
        }

        await ChangesAsync(() => Task.CompletedTask);
        await ChangesAsync(
            async () => await (await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{p[0]}", new { title = "Lit" }, (await (await owner.GetAsync($"/api/photos/{p[0]}")).ReadAsync()).GetProperty("version").GetInt64())).ReadAsync(),
            "/album/lanterns", "/category/night", "/category/season", "/");
        await ChangesAsync(async () => await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos", new { photos = p[1..2] })).ReadAsync(), "/album/lanterns", "/category/night", "/category/season", "/");
        // A photo that stands nowhere changes nothing that anybody sees.
        await ChangesAsync(async () => await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p[2..], add = new[] { "kite" }, remove = Array.Empty<string>() })).ReadAsync());
        // A category that is renamed is named so on the pages of its albums.
        var line = await LineAsync(owner, night);
        await ChangesAsync(
            async () => await (await owner.SendAsync(HttpMethod.Put, $"/api/categories/{night}", new { name = "By night", parent = season }, line.GetProperty("version").GetInt64())).ReadAsync(), paths);
        Assert.Contains("By night", await visitor.GetStringAsync("/album/lanterns"), StringComparison.Ordinal);
        Assert.Contains("Lit", await visitor.GetStringAsync("/album/lanterns"), StringComparison.Ordinal);
    }
}
