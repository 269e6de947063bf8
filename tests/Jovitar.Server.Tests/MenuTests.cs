using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace Jovitar.Server.Tests;

/// <summary>The site's menu: at the head of every page, in its order, and of what visitors can open only.</summary>
public sealed partial class MenuTests
{
    static object Entry(int n, string words, string kind, string? thing, string address = "", params object[] beneath) =>
        new { id = new Guid(n, 0, 0, new byte[8]), words, link = new { kind, thing, address }, entries = beneath };

    static async Task<JsonElement> WriteAsync(HttpClient owner, params object[] entries) =>
        await (await owner.SendAsync(HttpMethod.Put, "/api/menu", new { entries }, (await (await owner.GetAsync("/api/menu")).ReadAsync()).GetProperty("edited").GetInt64())).ReadAsync();

    [GeneratedRegex("<nav class=\"menu\".*?</nav>", RegexOptions.Singleline)]
    private static partial Regex Menus();

    [GeneratedRegex("<(?:a href=\"([^\"]+)\"|summary)>([^<]+)<")]
    private static partial Regex Entries();

    /// <summary>What stands in the menu of a page: where it leads, and its words.</summary>
    static async Task<string[]> SeenAsync(HttpClient visitor, string path) =>
        [.. Entries().Matches(Menus().Match(await visitor.GetStringAsync(path)).Value).Select(m => $"{m.Groups[1].Value} {m.Groups[2].Value}".Trim())];

    [Fact]
    public async Task The_menu_stands_on_every_page_follows_what_it_leads_to_and_names_nothing_that_is_not_for_visitors()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, photos, page, address) = await site.PublishedAsync(owner, 1);
        var draft = (await (await owner.PostAsJsonAsync("/api/pages", new { title = "A draft" })).ReadAsync()).GetProperty("id").GetString();
        var category = (await (await owner.PostAsJsonAsync("/api/categories", new { name = "Season" })).ReadAsync()).GetProperty("id").GetString();
        var visitor = site.Visitor();
        Assert.Empty(await SeenAsync(visitor, $"/{address}"));
        var tag = (await visitor.GetAsync($"/{address}")).Headers.ETag!.Tag;
        var written = await WriteAsync(
            owner,
            Entry(1, "", "page", page),
            Entry(2, "Drafts", "page", draft),
            Entry(3, "More", "address", null, "", Entry(4, "", "category", category), Entry(5, "Elsewhere", "address", null, "https://example.org/")),
            Entry(6, "Empty", "address", null, "", Entry(7, "", "album", album)));
        Assert.NotEqual(tag, (await visitor.GetAsync($"/{address}")).Headers.ETag!.Tag);
        string[] expected = [$"/{address} Trial album", "More", "/category/season Season", "https://example.org/ Elsewhere"];
        foreach (var path in (string[])[$"/{address}", "/", $"/{address}/photo/{photos[0]}"])
        {
            Assert.Equal(expected, await SeenAsync(visitor, path));
        }

        // Another address and another title are followed; out of view it is gone, and with it what held nothing else.
        await (await owner.DraftAsync(page, "moved", Drafts.Of("Another title", album))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        Assert.Equal("/moved Another title", (await SeenAsync(visitor, "/moved"))[0]);
        await WriteAsync(owner, Entry(1, "", "page", page), Entry(6, "Empty", "address", null, "", Entry(7, "", "category", category)));
        Assert.Equal(["/moved Another title", "Empty", "/category/season Season"], await SeenAsync(visitor, "/moved"));
        var line = (await (await owner.GetAsync("/api/categories")).ReadAsync()).GetProperty("categories")[0];
        await (await owner.SendAsync(HttpMethod.Put, $"/api/categories/{category}", new { name = "Season", parent = (string?)null, shown = false }, line.GetProperty("version").GetInt64())).ReadAsync();
        Assert.Equal(["/moved Another title"], await SeenAsync(visitor, "/moved"));
        await (await owner.PostAsync($"/api/pages/{page}/withdraw", null)).ReadAsync();
        Assert.Empty(await SeenAsync(visitor, "/"));
        Assert.NotEqual(JsonValueKind.Undefined, written.ValueKind);
    }

    [Fact]
    public async Task A_menu_is_taken_back_refused_when_it_was_changed_meanwhile_and_when_it_cannot_be()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var first = await WriteAsync(owner, Entry(1, "One", "address", null, "/one"));
        await owner.UndoAsync(first);
        var now = await (await owner.GetAsync("/api/menu")).ReadAsync();
        Assert.Equal(0, now.GetProperty("entries").GetArrayLength());
        await WriteAsync(owner, Entry(1, "One", "address", null, "/one"));
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await owner.SendAsync(HttpMethod.Put, "/api/menu", new { entries = Array.Empty<object>() }, now.GetProperty("edited").GetInt64())).StatusCode);
        foreach (var wrong in (object[])[
            Entry(1, "One", "address", null, "javascript:alert(1)"), Entry(1, new string('a', 61), "address", null, "/"), Entry(1, "One", "address", null, "/", Entry(1, "Two", "address", null, "/")),
            Entry(1, "One", "address", null, "/", Entry(2, "Two", "address", null, "/", Entry(3, "Three", "address", null, "/")))])
        {
            var edited = (await (await owner.GetAsync("/api/menu")).ReadAsync()).GetProperty("edited").GetInt64();
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.SendAsync(HttpMethod.Put, "/api/menu", new { entries = new[] { wrong } }, edited)).StatusCode);
        }
    }
}
