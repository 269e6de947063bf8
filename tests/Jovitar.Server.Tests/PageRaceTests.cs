using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Writes to pages that come too often, too deep, too many or at once.</summary>
public sealed class PageRaceTests
{
    static async Task<JsonElement> GetAsync(HttpClient who, string address) => await (await who.GetAsync(address)).ReadAsync();

    [Fact]
    public async Task A_page_renamed_there_and_back_leads_nowhere_in_a_circle()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var visitor = site.Visitor();
        var (_, _, page, one) = await site.PublishedAsync(owner, 1);
        async Task RenameAsync(string address)
        {
            var line = await GetAsync(owner, $"/api/pages/{page}");
            await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address, draft = line.GetProperty("draft") }, line.GetProperty("edited").GetInt64())).ReadAsync();
        }

        await RenameAsync("two");
        var there = await visitor.GetAsync($"/{one}");
        Assert.Equal("/two", there.Headers.Location!.OriginalString);
        Assert.True(there.Headers.CacheControl is { MaxAge.TotalMinutes: <= 5 });
        await RenameAsync(one);
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync($"/{one}")).StatusCode);
        Assert.Equal($"/{one}", (await visitor.GetAsync("/two")).Headers.Location!.OriginalString);
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from former_address"));
    }

    [Theory]
    [InlineData(200, ">")]
    [InlineData(120, "- ")]
    public async Task A_page_that_could_not_be_shown_is_not_saved(int times, string nested)
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var album = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "One" })).ReadAsync()).GetProperty("id").GetString();
        var page = await (await owner.PostAsJsonAsync("/api/pages", new { album })).ReadAsync();
        var id = page.GetProperty("id").GetString();
        async Task<HttpResponseMessage> SaveAsync(object draft) => await owner.SendAsync(HttpMethod.Put, $"/api/pages/{id}", new { address = "one", draft }, 1);
        var text = nested == ">" ? string.Concat(Enumerable.Repeat(nested, times)) + " deep" : string.Join('\n', Enumerable.Range(0, times).Select(i => new string(' ', i * 2) + "- deep"));
        var refused = await SaveAsync(Drafts.Of("One", text: text));
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Contains("nested too deeply", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.BadRequest, (await SaveAsync(new { schema = 2, title = "One", description = "", blocks = (object?[]?)null })).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await SaveAsync(new { schema = 2, title = "One", description = "", blocks = new object?[] { null } })).StatusCode);
        foreach (var lacking in (string[])["frame", "source", "layout", "bar", "absent", "kind"])
        {
            var block = Drafts.Photos($"{album}");
            block[lacking] = null;
            Assert.Equal(HttpStatusCode.BadRequest, (await SaveAsync(Drafts.Page("One", block))).StatusCode);
        }

        // What an earlier version saved so is shown all the same.
        await site.WriteAsync($"update page set draft = draft - 'filterCategories' || jsonb_build_object('heading', 'One', 'text', repeat('>', 200) || ' deep') - 'schema' where id = '{id}'");
        Assert.Equal(HttpStatusCode.OK, (await owner.GetAsync($"/preview/{id}")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await owner.GetAsync("/api/pages")).StatusCode);
    }

    [Fact]
    public async Task Twenty_who_add_blocks_to_one_page_at_once_lose_none()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var id = (await (await owner.PostAsJsonAsync("/api/pages", new { title = "Busy" })).ReadAsync()).GetProperty("id").GetString()!;
        var began = Drafts.Page("Busy");
        var edited = (await (await owner.DraftAsync(id, "busy", began)).ReadAsync()).GetProperty("page").GetProperty("edited").GetInt64();
        await Task.WhenAll(Enumerable.Range(2, 20).Select(async n =>
            await (await owner.DraftAsync(id, "busy", Drafts.Page("Busy", Drafts.Text($"Words {n}", n)), new { address = "busy", draft = began }, edited)).ReadAsync()));
        var words = (await owner.PageAsync(id)).GetProperty("draft").GetProperty("blocks").EnumerateArray().Skip(1).Select(b => b.GetProperty("words").GetString()!);
        Assert.Equal(Enumerable.Range(2, 20).Select(n => $"Words {n}").Order(), words.Order());
    }

    [Fact]
    public async Task Two_whose_blocks_are_together_more_than_a_page_may_have_are_told_and_neither_is_cut()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var id = (await (await owner.PostAsJsonAsync("/api/pages", new { title = "Full" })).ReadAsync()).GetProperty("id").GetString()!;
        var began = Drafts.Page("Full");
        var edited = (await (await owner.DraftAsync(id, "full", began)).ReadAsync()).GetProperty("page").GetProperty("edited").GetInt64();
        object Many(int from) => Drafts.Page("Full", [.. Enumerable.Range(from, 120).Select(n => Drafts.Text("", n))]);
        await (await owner.DraftAsync(id, "full", Many(2), new { address = "full", draft = began }, edited)).ReadAsync();
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await owner.DraftAsync(id, "full", Many(500), new { address = "full", draft = began }, edited)).StatusCode);
        Assert.Equal(121, (await owner.PageAsync(id)).GetProperty("draft").GetProperty("blocks").GetArrayLength());
    }

    [Fact]
    public async Task A_block_that_lacks_something_is_refused_wherever_it_is_sent()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var id = (await (await owner.PostAsJsonAsync("/api/pages", new { title = "One" })).ReadAsync()).GetProperty("id").GetString()!;
        foreach (var block in (object?[])[
            null, Drafts.Block("beside", 2, new { blocks = new object?[] { null } }), Drafts.Block("beside", 2, new { blocks = new[] { Drafts.Block("beside", 3, new { blocks = Array.Empty<object>() }) } }),
            Drafts.Block("beside", 2, new { blocks = new[] { Drafts.Text(new string('a', 20_001), 3) } }), Drafts.Block("nothing", 2, new { words = "" }),
            Drafts.Photos(Drafts.Source("albums", most: -1)), Drafts.Block("button", 2, new { words = "There", link = new { kind = "address", thing = (string?)null, address = "javascript:alert(1)" } })])
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync($"/api/pages/{id}/blocks", new { block })).StatusCode);
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/pages/small", new { block, photos = Array.Empty<string>() })).StatusCode);
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.DraftAsync(id, "one", new { schema = 2, title = "One", description = "", blocks = new[] { block } })).StatusCode);
        }

        Assert.Equal(1, (await owner.PageAsync(id)).GetProperty("draft").GetProperty("blocks").GetArrayLength());
    }
}
