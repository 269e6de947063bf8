using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace Jovitar.Server.Tests;

/// <summary>Photos drawn by lot for every visit: the same page for everybody, and one draw on all that belongs to it.</summary>
public sealed partial class LotPageTests
{
    [GeneratedRegex("data-id=\"([^\"]+)\"")]
    private static partial Regex Ids();

    static string[] FramesOf(string html) => [.. Ids().Matches(html).Select(m => m.Groups[1].Value)];

    [Fact]
    public async Task A_handful_is_the_same_on_the_page_in_what_follows_and_about_a_photo_and_the_page_is_one_for_all()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, _, _) = await site.PublishedAsync(owner, 9);
        var page = (await (await owner.PostAsJsonAsync("/api/pages", new { title = "By lot" })).ReadAsync()).GetProperty("id").GetString()!;
        var tagged = await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p, add = new[] { "pier" }, remove = Array.Empty<string>() })).ReadAsync();
        Assert.Equal(9, tagged.GetProperty("photos").GetInt32());
        var tag = $"{await site.ScalarAsync<Guid>("select id from tag")}";
        await (await owner.DraftAsync(page, "by-lot", Drafts.Page(
            "By lot",
            Drafts.Photos(Drafts.Source("albums", albums: [album], most: 4, byLot: true), tags: [tag]),
            Drafts.Photos(Drafts.Source("tag", tag: tag, byLot: true), tags: [tag], number: 4)))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        var visitor = site.Visitor();

        // The page itself is drawn by none: it is the same for whoever asks, and for browsers without scripts it has an order.
        var plain = await visitor.GetAsync("/by-lot");
        var html = await plain.Content.ReadAsStringAsync();
        Assert.Equal(2, Regex.Count(html, "data-lots=\"9999\""));
        Assert.Equal(2, Regex.Count(html, "<noscript><a"));
        Assert.Equal([.. p[..4], .. FramesOf(html)[4..]], FramesOf(html));
        Assert.Equal(p.Order(), FramesOf(html)[4..].Order());
        Assert.Single(Regex.Matches(html, "<nav class=\"filter [^>]* data-filter=\"2\""));
        using var again = new HttpRequestMessage(HttpMethod.Get, "/by-lot") { Headers = { IfNoneMatch = { plain.Headers.ETag! } } };
        Assert.Equal(HttpStatusCode.NotModified, (await visitor.SendAsync(again)).StatusCode);

        async Task<string[]> ViewAsync(string asked) =>
            [.. (await (await visitor.GetAsync($"/site/view/by-lot?width=900&window=1280&{asked}")).ReadAsync()).GetProperty("frames").EnumerateArray().Select(f => f.GetProperty("id").GetString()!)];
        var draws = new HashSet<string>();
        foreach (var lot in Enumerable.Range(1, 12))
        {
            var drawn = await visitor.GetStringAsync($"/by-lot?lot={lot}");
            Assert.DoesNotContain("data-lots", drawn, StringComparison.Ordinal);
            var (handful, all) = (FramesOf(drawn)[..4], FramesOf(drawn)[4..]);
            Assert.Equal(p.Order(), all.Order());
            Assert.Equal(handful, await ViewAsync($"at=0&count=10&lot={lot}"));
            string[] inParts = [.. await ViewAsync($"in=2&at=0&count=3&lot={lot}"), .. await ViewAsync($"in=2&at=3&count=10&lot={lot}")];
            Assert.Equal(all, inParts);
            var alone = await visitor.GetStringAsync($"/by-lot/photo/{handful[1]}?lot={lot}");
            Assert.Contains($"/photo/{handful[0]}?lot={lot}\" rel=\"prev\"", alone, StringComparison.Ordinal);
            Assert.Contains($"/photo/{handful[2]}?lot={lot}\" rel=\"next\"", alone, StringComparison.Ordinal);
            Assert.Contains($"href=\"/by-lot?lot={lot}", alone, StringComparison.Ordinal);
            draws.Add(string.Join(' ', handful));
        }

        Assert.True(draws.Count > 8);
        // What is no lot draws nothing; a page without any knows none.
        foreach (var none in (string[])["0", "-3", "10000", "x", "99999999999"])
        {
            Assert.Equal(p[..4], FramesOf(await visitor.GetStringAsync($"/by-lot?lot={none}"))[..4]);
        }

        var notes = (await (await owner.GetAsync($"/api/pages/{page}/notes")).ReadAsync()).GetProperty("blocks").EnumerateArray().Select(b => b.GetProperty("shows").GetInt32());
        Assert.Equal([4, 9], notes);
        await (await owner.DraftAsync(page, "by-lot", Drafts.Page("By lot", Drafts.Photos(album)))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        Assert.DoesNotContain("lot=", await visitor.GetStringAsync("/by-lot?lot=7"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_album_that_every_visit_finds_in_another_order_is_drawn_on_its_own_page_and_where_it_stands_in_its_order()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, page, address) = await site.PublishedAsync(owner, 8);
        var line = await (await owner.GetAsync($"/api/albums/{album}")).ReadAsync();
        var standing = line.GetProperty("standing").Deserialize<Dictionary<string, object?>>()!;
        var category = (await (await owner.PostAsJsonAsync("/api/categories", new { name = "Regattas" })).ReadAsync()).GetProperty("id").GetString();
        standing["categories"] = new[] { new { category, putFirst = false } };
        line = (await (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{album}/standing", standing, line.GetProperty("version").GetInt64())).ReadAsync()).GetProperty("album");
        var own = $"/album/{standing["address"]}";
        var visitor = site.Visitor();
        Assert.DoesNotContain("data-lots", await visitor.GetStringAsync(own) + await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        standing["byLot"] = true;
        var said = await (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{album}/standing", standing, line.GetProperty("version").GetInt64())).ReadAsync();
        foreach (var at in (string[])[own, $"/{address}"])
        {
            Assert.Single(Regex.Matches(await visitor.GetStringAsync(at), "data-lots=\"9999\""));
            var draws = new HashSet<string>();
            foreach (var lot in Enumerable.Range(1, 6))
            {
                var drawn = FramesOf(await visitor.GetStringAsync($"{at}?lot={lot}"));
                Assert.Equal(p.Order(), drawn.Order());
                draws.Add(string.Join(' ', drawn));
            }

            Assert.True(draws.Count > 4);
        }

        // In an order that the block says it is not drawn; a largest number is a handful of all.
        await (await owner.DraftAsync(page, address, Drafts.Page(
            "Trial album", Drafts.Photos(Drafts.Source("albums", albums: [album], sort: "name")), Drafts.Photos(Drafts.Source("albums", albums: [album], most: 3), number: 4)))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        var handfuls = new HashSet<string>();
        foreach (var lot in Enumerable.Range(1, 12))
        {
            var drawn = FramesOf(await visitor.GetStringAsync($"/{address}?lot={lot}"));
            Assert.Equal(p, drawn[..8]);
            Assert.Equal(3, drawn[8..].Intersect(p).Count());
            handfuls.UnionWith(drawn[8..]);
        }

        Assert.Equal(p.Order(), handfuls.Order());
        await owner.UndoAsync(said);
        Assert.DoesNotContain("data-lots", await visitor.GetStringAsync(own), StringComparison.Ordinal);
    }

    [Fact]
    public async Task One_photo_that_stands_for_an_album_is_drawn_and_all_of_the_album_is_walked_from_it()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, _, _) = await site.PublishedAsync(owner, 5);
        var page = (await (await owner.PostAsJsonAsync("/api/pages", new { title = "Drawn" })).ReadAsync()).GetProperty("id").GetString()!;
        async Task<string> PublishedAsync(string press, string? photo = null)
        {
            await (await owner.DraftAsync(page, "drawn", Drafts.Page(
                "Drawn", Drafts.Text("Look."), Drafts.Block("photo", 3, new { photo, album, line = "", press, link = Drafts.Nowhere, byLot = true })))).ReadAsync();
            await (await owner.PublishAsync(page)).ReadAsync();
            return await site.Visitor().GetStringAsync("/drawn");
        }

        var plain = await PublishedAsync("open");
        Assert.Contains("class=\"alone drawn\"", plain, StringComparison.Ordinal);
        Assert.Contains("#w1{aspect-ratio:", plain, StringComparison.Ordinal);
        Assert.Equal([p[0]], FramesOf(plain));
        var draws = new HashSet<string>();
        foreach (var lot in Enumerable.Range(1, 20))
        {
            var drawn = Assert.Single(FramesOf(await site.Visitor().GetStringAsync($"/drawn?lot={lot}")));
            var walked = (await (await site.Visitor().GetAsync($"/site/view/drawn?width=900&at=0&count=9&lot={lot}")).ReadAsync()).GetProperty("frames").EnumerateArray().Select(f => f.GetProperty("id").GetString()!).ToArray();
            Assert.Equal(drawn, walked[0]);
            Assert.Equal(p.Order(), walked.Order());
            draws.Add(drawn);
        }

        Assert.Equal(p.Order(), draws.Order());
        // One that was chosen, or that is not walked, is drawn by nothing.
        foreach (var other in new[] { await PublishedAsync("open", p[3]), await PublishedAsync("nothing") })
        {
            Assert.DoesNotContain("data-lots", other, StringComparison.Ordinal);
            Assert.DoesNotContain("class=\"alone drawn\"", other, StringComparison.Ordinal);
        }
    }
}
