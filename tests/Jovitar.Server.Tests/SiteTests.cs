using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>What visitors get.</summary>
public sealed class SiteTests
{
    static async Task<(JsonElement Page, object Draft)> DraftAsync(HttpClient owner, string page, string heading, string text, string[] categories, string[] tags)
    {
        var line = await (await owner.GetAsync($"/api/pages/{page}")).ReadAsync();
        return (line, Drafts.Of(heading, line.GetProperty("album").GetString(), text, categories, tags));
    }

    [Fact]
    public async Task The_notes_of_a_page_say_which_layout_suits_which_photos_are_too_small_and_how_many_have_no_words()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, page, _) = await site.PublishedAsync(owner, 2);
        async Task<JsonElement> NotesAsync() => (await (await owner.GetAsync($"/api/pages/{page}/notes")).ReadAsync()).GetProperty("blocks").EnumerateArray().Single();
        // In rows 260 px high a 3:2 is 390 wide: 300 pixels are too few anywhere, 600 on screens with two to a CSS pixel.
        await site.WriteAsync("update photo set own_width = 300, own_height = 200");
        var notes = await NotesAsync();
        Assert.Equal(("grid", 2), (notes.GetProperty("advice").GetProperty("kind").GetString(), notes.GetProperty("withoutWords").GetInt32()));
        Assert.Equal((2, 0), (notes.GetProperty("blurred").GetInt32(), notes.GetProperty("onlySharp").GetInt32()));
        Assert.Equal(p.Order(), notes.GetProperty("small").EnumerateArray().Select(s => s.GetProperty("photo").GetString()!).Order());
        await site.WriteAsync("update photo set own_width = 600, own_height = 400");
        notes = await NotesAsync();
        Assert.Equal((0, 2), (notes.GetProperty("blurred").GetInt32(), notes.GetProperty("onlySharp").GetInt32()));
        await site.WriteAsync("update photo set own_width = 3000, own_height = 2000, alt = 'a kite'");
        notes = await NotesAsync();
        Assert.Equal((0, 0), (notes.GetProperty("blurred").GetInt32() + notes.GetProperty("onlySharp").GetInt32(), notes.GetProperty("withoutWords").GetInt32()));
        Assert.Equal(HttpStatusCode.Unauthorized, (await site.Visitor().GetAsync($"/api/pages/{page}/notes")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync($"/api/pages/{Guid.NewGuid()}/notes")).StatusCode);
    }

    [Fact]
    public async Task A_draft_is_not_there_for_visitors_until_it_is_published_and_again_after_it_is_withdrawn()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var visitor = site.Visitor();
        var (_, _, page, address) = await site.PublishedAsync(owner);
        Assert.Contains("Trial album", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        var (line, draft) = await DraftAsync(owner, page, "New heading", "", [], []);
        await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address, draft }, line.GetProperty("edited").GetInt64())).ReadAsync();
        Assert.DoesNotContain("New heading", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        Assert.Contains("New heading", await owner.GetStringAsync($"/preview/{page}"), StringComparison.Ordinal);
        await owner.PublishAsync(page);
        Assert.Contains("New heading", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        Assert.Contains("New heading", await visitor.GetStringAsync("/"), StringComparison.Ordinal);
        await owner.PostAsync($"/api/pages/{page}/withdraw", null);
        var gone = await visitor.GetAsync($"/{address}");
        Assert.Equal(HttpStatusCode.NotFound, gone.StatusCode);
        Assert.Contains("There is no page here", await gone.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/site/view/{address}?width=1000")).StatusCode);
    }

    [Fact]
    public async Task A_page_answers_304_until_a_photo_on_it_changes()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var visitor = site.Visitor();
        var (_, photos, _, address) = await site.PublishedAsync(owner);
        await site.UntilAsync("select count(*) from photo where stage = 2", 3);
        var tag = (await visitor.GetAsync($"/{address}")).Headers.ETag!;
        using var again = new HttpRequestMessage(HttpMethod.Get, $"/{address}");
        again.Headers.IfNoneMatch.Add(tag);
        var kept = await visitor.SendAsync(again);
        Assert.Equal(HttpStatusCode.NotModified, kept.StatusCode);
        Assert.False(kept.Headers.Contains("Content-Security-Policy"), "a browser would forget that the page's own style sheet is allowed");
        var version = (await (await owner.GetAsync($"/api/photos/{photos[1]}")).ReadAsync()).GetProperty("version").GetInt64();
        await (await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{photos[1]}", new { alt = "Now described" }, version)).ReadAsync();
        using var changed = new HttpRequestMessage(HttpMethod.Get, $"/{address}");
        changed.Headers.IfNoneMatch.Add(tag);
        var fresh = await visitor.SendAsync(changed);
        Assert.Equal(HttpStatusCode.OK, fresh.StatusCode);
        Assert.Contains("alt=\"Now described\"", await fresh.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Renditions_may_be_kept_for_a_year_and_one_that_is_missing_is_made_when_asked_for()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        await site.PublishedAsync(owner, 1);
        await site.UntilAsync("select count(*) from photo where stage = 2", 1);
        var hash = await site.ScalarAsync<string>("select encode(hash, 'hex') from photo");
        var file = Directory.GetFiles(Path.Combine(site.Data, "renditions"), "*-240.webp", SearchOption.AllDirectories).Single();
        var before = await File.ReadAllBytesAsync(file);
        File.Delete(file);
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => site.Visitor().GetAsync($"/i/{hash}/1-240.webp")));
        Assert.All(answers, a => Assert.Equal(HttpStatusCode.OK, a.StatusCode));
        Assert.Equal(240, NetVips.Image.NewFromBuffer(before).Width);
        Assert.True(answers[0].Headers.CacheControl is { Public: true, MaxAge.TotalDays: >= 365 });
        Assert.Contains("immutable", answers[0].Headers.CacheControl!.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Script_in_any_text_comes_out_as_text()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, photos, page, address) = await site.PublishedAsync(owner, 1);
        const string evil = "\"><script>alert(1)</script><img src=x onerror=alert(2)>";
        var version = (await (await owner.GetAsync($"/api/photos/{photos[0]}")).ReadAsync()).GetProperty("version").GetInt64();
        await (await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{photos[0]}", new { title = evil, caption = evil, alt = evil, credit = evil, addTags = new[] { evil } }, version)).ReadAsync();
        var tag = (await (await owner.GetAsync("/api/tags")).ReadAsync()).GetProperty("tags")[0].GetProperty("id").GetString()!;
        var (line, draft) = await DraftAsync(owner, page, evil, $"{evil}\n\n[a](javascript:alert(3)) **strong** <b onclick=x>b</b>", [], [tag]);
        await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address, draft }, line.GetProperty("edited").GetInt64())).ReadAsync();
        await owner.PublishAsync(page);
        foreach (var path in (string[])[$"/{address}", $"/{address}/photo/{photos[0]}", "/"])
        {
            var html = await site.Visitor().GetStringAsync(path);
            Assert.DoesNotContain("<script>alert", html, StringComparison.Ordinal);
            Assert.DoesNotContain("<img src=x", html, StringComparison.Ordinal);
            Assert.DoesNotContain("javascript:", html, StringComparison.Ordinal);
            Assert.DoesNotContain("<b onclick", html, StringComparison.Ordinal);
        }

        Assert.Contains("<strong>strong</strong>", await site.Visitor().GetStringAsync($"/{address}"), StringComparison.Ordinal);
        Assert.NotNull(album);
    }

    [Fact]
    public async Task The_filter_narrows_by_link_and_by_view_alike()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, page, address) = await site.PublishedAsync(owner, 4);
        async Task<string> CategoryAsync(string name, string? parent) => (await (await owner.PostAsJsonAsync("/api/categories", new { name, parent })).ReadAsync()).GetProperty("id").GetString()!;
        var festival = await CategoryAsync("Festival", null);
        var night = await CategoryAsync("Night flight", festival);
        await owner.PostAsJsonAsync("/api/photos/categories", new { photos = new[] { p[0], p[1] }, add = new[] { night }, remove = Array.Empty<string>() });
        await owner.PostAsJsonAsync("/api/photos/categories", new { photos = new[] { p[2] }, add = new[] { festival }, remove = Array.Empty<string>() });
        await owner.PostAsJsonAsync("/api/photos/tags", new { photos = new[] { p[1], p[2], p[3] }, add = new[] { "delta" }, remove = Array.Empty<string>() });
        var tag = (await (await owner.GetAsync("/api/tags")).ReadAsync()).GetProperty("tags")[0].GetProperty("id").GetString()!;
        var (line, draft) = await DraftAsync(owner, page, "Filtered", "", [festival], [tag]);
        await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address, draft }, line.GetProperty("edited").GetInt64())).ReadAsync();
        await owner.PublishAsync(page);
        var visitor = site.Visitor();
        var view = await (await visitor.GetAsync($"/site/view/{address}?show=festival,delta&width=1000")).ReadAsync();
        Assert.Equal([p[1], p[2]], view.GetProperty("frames").EnumerateArray().Select(e => e.GetProperty("id").GetString()));
        Assert.Equal([("festival", 2), ("night-flight", 1), ("delta", 2)], view.GetProperty("buttons").EnumerateArray().Select(b => (b.GetProperty("key").GetString()!, b.GetProperty("count").GetInt32())));
        var html = await visitor.GetStringAsync($"/{address}?show=festival,delta");
        Assert.Contains("2 of 4 photographs", html, StringComparison.Ordinal);
        Assert.Equal([p[1], p[2]], p.Where(id => html.Contains($"data-id=\"{id}\"", StringComparison.Ordinal)));
        Assert.Contains("4 photographs", await visitor.GetStringAsync($"/{address}?show=unknown"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_changed_address_still_leads_there()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, page, address) = await site.PublishedAsync(owner, 1);
        var (line, draft) = await DraftAsync(owner, page, "Moved", "", [], []);
        await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address = "somewhere-else", draft }, line.GetProperty("edited").GetInt64())).ReadAsync();
        var old = await site.Visitor().GetAsync($"/{address}?show=x");
        Assert.Equal(HttpStatusCode.MovedPermanently, old.StatusCode);
        Assert.Equal("/somewhere-else?show=x", old.Headers.Location!.OriginalString);
        Assert.Equal(HttpStatusCode.OK, (await site.Visitor().GetAsync($"/somewhere-else/photo/{photos[0]}")).StatusCode);
        var other = await (await owner.PostAsJsonAsync("/api/pages", new { album = line.GetProperty("album").GetString() })).ReadAsync();
        var id = other.GetProperty("id").GetString()!;
        Assert.Equal(HttpStatusCode.Conflict, (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{id}", new { address = "somewhere-else", draft }, 1)).StatusCode);
        // A former address gives way to a page that is to stand there.
        await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{id}", new { address, draft }, 1)).ReadAsync();
        await (await owner.PublishAsync(id)).ReadAsync();
        Assert.Equal(HttpStatusCode.OK, (await site.Visitor().GetAsync($"/{address}")).StatusCode);
    }

    [Fact]
    public async Task A_category_out_of_view_has_no_button_nor_has_what_stands_beneath_it_and_its_photos_stay()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, page, address) = await site.PublishedAsync(owner);
        async Task<string> MadeAsync(string name, string? parent) => (await (await owner.PostAsJsonAsync("/api/categories", new { name, parent })).ReadAsync()).GetProperty("id").GetString()!;
        var festival = await MadeAsync("Regatta weeks", null);
        var (night, shop) = (await MadeAsync("Lamplight", festival), await MadeAsync("Print shop", null));
        async Task PutAsync(string category, params string[] some) => await (await owner.PostAsJsonAsync("/api/photos/categories", new { photos = some, add = new[] { category }, remove = Array.Empty<string>() })).ReadAsync();
        await PutAsync(festival, photos[0]);
        await PutAsync(night, photos[..2]);
        await PutAsync(shop, photos[2]);
        async Task<JsonElement[]> LinesAsync() => [.. (await (await owner.GetAsync("/api/categories")).ReadAsync()).GetProperty("categories").EnumerateArray()];
        // A parent's count says both: its own, and with what stands beneath it, each photo once.
        Assert.Equal([(1, 2), (2, 2), (1, 1)], (await LinesAsync()).Select(l => (l.GetProperty("photos").GetInt32(), l.GetProperty("withBeneath").GetInt32())));
        var (line, draft) = await DraftAsync(owner, page, "Trial", "", [festival, night, shop], []);
        await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address, draft }, line.GetProperty("edited").GetInt64())).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        using var visitor = site.Visitor();
        async Task<(bool, bool, bool, int)> SeenAsync()
        {
            var seen = await visitor.GetStringAsync($"/{address}");
            bool Has(string name) => seen.Contains(name, StringComparison.Ordinal);
            return (Has("Regatta weeks"), Has("Lamplight"), Has("Print shop"), photos.Count(Has));
        }

        async Task<JsonElement> SayAsync(string id, string name, object more)
        {
            var at = (await LinesAsync()).First(l => l.GetProperty("id").GetString() == id);
            var parent = at.GetProperty("parent").GetString();
            var body = JsonSerializer.SerializeToNode(more)!.AsObject();
            body["name"] = name;
            body["parent"] = parent;
            return await (await owner.SendAsync(HttpMethod.Put, $"/api/categories/{id}", body, at.GetProperty("version").GetInt64())).ReadAsync();
        }

        Assert.Equal((true, true, true, 3), await SeenAsync());
        var hidden = await SayAsync(festival, "Regatta weeks", new { shown = false });
        Assert.Equal("Took category “Regatta weeks” out of view.", await site.ScalarAsync<string>("select sentence from act order by id desc limit 1"));
        Assert.Equal((false, false, true, 3), await SeenAsync());
        Assert.Equal([festival, festival, null], (await LinesAsync()).Select(l => l.GetProperty("hiddenBy").GetString()));
        // What is said of it besides leaves it out of view.
        await SayAsync(festival, "Regatta weeks", new { description = " Two weeks in June " });
        Assert.Equal("Described category “Regatta weeks”.", await site.ScalarAsync<string>("select sentence from act order by id desc limit 1"));
        Assert.Equal(("Two weeks in June", festival), ((await LinesAsync())[0].GetProperty("description").GetString(), (await LinesAsync())[0].GetProperty("hiddenBy").GetString()));
        await owner.UndoAsync(hidden);
        Assert.Equal((true, true, true, 3), await SeenAsync());
        Assert.Equal("Two weeks in June", (await LinesAsync())[0].GetProperty("description").GetString());
        await SayAsync(night, "Lamplight", new { shown = false });
        Assert.Equal((true, false, true, 3), await SeenAsync());
    }
}
