using System.Net;
using System.Net.Http.Json;
using Jovitar.Core.Access;
using Jovitar.Core.Photos;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Albums for everyone with their link: whoever has it sees them, and nothing that one comes upon leads there.</summary>
public sealed class WithLinkTests
{
    static async Task<string> LinkAsync(HttpClient owner, string album) => new Uri((await ReadAsync(owner, "album", album)).GetProperty("link").GetString()!).AbsolutePath;

    [Fact]
    public async Task Whoever_has_the_link_sees_it_and_nothing_else_leads_there()
    {
        var (site, owner, visitor, p, _, category) = await NightAsync();
        await using var __ = site;
        var hidden = await MakeAsync(owner, "Proofs", p[..2]);
        await (await StandAsync(owner, hidden, categories: [category])).ReadAsync();
        await site.WriteAsync("update page set binned = now() where address = 'both'");
        await (await StandAsync(owner, await site.ScalarAsync<Guid>("select id from album where working_name = 'Night'") is var night ? $"{night}" : "", shown: false)).ReadAsync();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/album/proofs"));
        Assert.Contains("Proofs", await TextAsync(visitor, "/category/festival"), StringComparison.Ordinal);

        (await SayAsync(owner, "album", hidden, "withLink")).EnsureSuccessStatusCode();
        var link = await LinkAsync(owner, hidden);
        Assert.True(HiddenAddress.Is(link), link);
        var page = await TextAsync(visitor, link);
        Assert.Contains(p[0], page, StringComparison.Ordinal);
        Assert.Contains("noindex", page, StringComparison.Ordinal);
        var hash = await HashAsync(owner, p[0]);
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, $"/i/{hash}/{Renditions.Recipe}-480.webp"));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, $"{link}/photo/{p[0]}"));
        // Its former address is nobody's, and no list has it, nor its photos.
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/album/proofs"));
        string[] lists = ["/", "/category/festival", "/sitemap/1.xml", "/category/festival/feed.xml", "/site/view/category/festival?width=900"];
        foreach (var list in lists)
        {
            var text = await TextAsync(visitor, list);
            Assert.True(!text.Contains(link[7..], StringComparison.Ordinal) && !text.Contains(hash, StringComparison.Ordinal) && !text.Contains("Proofs", StringComparison.Ordinal), $"{list} leads there");
        }

        var gathered = await owner.ShownAsync(null, "gathered", Drafts.Page("All of it", Drafts.Photos(Drafts.Source("category", category: category))));
        Assert.DoesNotContain(hash, await TextAsync(visitor, "/gathered"), StringComparison.Ordinal);
        Assert.NotNull(gathered);
        async Task<string?> LineAsync() => (await AlbumAsync(owner, hidden)).GetProperty("audience").GetProperty("sentence").GetString();
        Assert.Equal("Everyone with its link can see this.", await LineAsync());
        // Where somebody puts it, it is, and that is said.
        await owner.ShownAsync(null, "by-hand", Drafts.Page("By hand", Drafts.Photos(hidden)));
        Assert.Contains(hash, await TextAsync(visitor, "/by-hand"), StringComparison.Ordinal);
        Assert.Equal("Everyone can see this, on one page where it was put by hand, and its own page with its link.", await LineAsync());
        var forecast = await owner.PostAsJsonAsync($"/api/audiences/album/{hidden}/forecast", new { audience = new { who = "withLink", chosen = Array.Empty<Guid>() }, was = new { who = "staff", chosen = Array.Empty<Guid>() } });
        Assert.Contains("Everyone who has its link gains this album. On the page where it was put by hand it stays.", await forecast.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Its_time_ends_and_another_link_is_another_one()
    {
        var (site, owner, visitor, _, album, _) = await NightAsync();
        await using var __ = site;
        await site.WriteAsync("update page set binned = now() where address = 'both'");
        (await SayAsync(owner, "album", album, "withLink", until: "2031-01-01T00:00:00Z")).EnsureSuccessStatusCode();
        var first = await LinkAsync(owner, album);
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, first));
        // Another time is no other link.
        (await SayAsync(owner, "album", album, "withLink", until: "2032-01-01T00:00:00Z")).EnsureSuccessStatusCode();
        Assert.Equal(first, await LinkAsync(owner, album));
        (await SayAsync(owner, "album", album, "withLink", from: "2020-01-01T00:00:00Z", until: "2021-01-01T00:00:00Z")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, first));
        (await SayAsync(owner, "album", album, "staff")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, first));
        var said = await (await SayAsync(owner, "album", album, "withLink")).ReadAsync();
        var second = await LinkAsync(owner, album);
        Assert.NotEqual(first, second);
        Assert.Equal((HttpStatusCode.NotFound, HttpStatusCode.OK), (await GetAsync(visitor, first), await GetAsync(visitor, second)));
        // Taken back, it is for staff again, and the link is none.
        (await owner.PostAsync($"/api/acts/{said.GetProperty("act").GetString()}/undo", null)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, second));
        // For everyone again it is found where it was left, by whoever finds it.
        (await SayAsync(owner, "album", album, "everyone")).EnsureSuccessStatusCode();
        Assert.Contains("Night", await TextAsync(visitor, "/category/festival"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Who_looked_at_it_before_does_not_write_its_former_address_back()
    {
        var (site, owner, visitor, _, album, category) = await NightAsync();
        await using var __ = site;
        var line = await AlbumAsync(owner, album);
        (await SayAsync(owner, "album", album, "withLink")).EnsureSuccessStatusCode();
        var link = await LinkAsync(owner, album);
        var stale = await owner.SendAsync(HttpMethod.Put, $"/api/albums/{album}/standing", line.GetProperty("standing"), line.GetProperty("version").GetInt64());
        Assert.Equal(HttpStatusCode.PreconditionFailed, stale.StatusCode);
        Assert.Equal((HttpStatusCode.NotFound, HttpStatusCode.OK), (await GetAsync(visitor, "/album/night"), await GetAsync(visitor, link)));
        // What is drafted with an index of the category has it no more than visitors do.
        var index = Drafts.Block("index", 4, new { of = "category", category, albums = Array.Empty<string>(), beneath = true, sort = "newest", across = 3, dates = true, counts = true, descriptions = false, most = (int?)null });
        var page = await owner.ShownAsync(null, "index", Drafts.Page("Index", index));
        foreach (var text in (string[])[await TextAsync(owner, $"/preview/{page}"), await TextAsync(visitor, "/index")])
        {
            Assert.True(text.Contains("Day", StringComparison.Ordinal) && !text.Contains(link[7..], StringComparison.Ordinal), "an index leads there, or is empty");
        }
    }

    [Theory]
    [InlineData("page")]
    [InlineData("category")]
    [InlineData("photo")]
    public async Task Only_an_album_is_found_so(string kind)
    {
        var (site, owner, _, p, _, category) = await NightAsync();
        await using var __ = site;
        var thing = kind switch { "page" => $"{await site.ScalarAsync<Guid>("select id from page where address = 'both'")}", "category" => category, _ => p[0] };
        var answer = await SayAsync(owner, kind, thing, "withLink");
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("Only an album can be for everyone with its link.", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }
}
