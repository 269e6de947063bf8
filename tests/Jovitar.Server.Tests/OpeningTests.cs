using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Jovitar.Server.Access;
using Microsoft.AspNetCore.Routing;

namespace Jovitar.Server.Tests;

/// <summary>A site's front: its name, whether visitors may come in, and the path from a new site to an open one.</summary>
public sealed class OpeningTests
{
    static async Task<JsonElement> FrontAsync(HttpClient client) => await (await client.GetAsync("/api/site")).ReadAsync();

    static object Front(string title = "Trial", string tagline = "", bool open = true, string meanwhile = "", bool listed = true, string? start = null, bool favourites = false) => new { title, tagline, isOpen = open, meanwhile, isListed = listed, startsAt = start, hasFavourites = favourites };

    static async Task<HttpResponseMessage> SayAsync(HttpClient client, object front, long? version = null) =>
        await client.SendAsync(HttpMethod.Put, "/api/site", front, version ?? (await FrontAsync(client)).GetProperty("edited").GetInt64());

    static HttpRequestMessage Asking(string path, string accept = "text/html")
    {
        var request = new HttpRequestMessage(HttpMethod.Get, path);
        request.Headers.Add("Accept", accept);
        return request;
    }

    [Fact]
    public async Task A_new_site_is_closed_until_its_owner_opens_it()
    {
        await using var site = await Site.StartAsync(workers: 0, empty: true);
        var visitor = site.Visitor();
        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await visitor.GetAsync("/")).StatusCode);
        await Site.TokenAsync(visitor);
        // Past the tests' own way of making an owner, which opens the site as well.
        (await visitor.PostAsJsonAsync("/api/owner", new { siteTitle = " Marram\nBay ", name = "Odile", email = "odile@example.test", password = "ten characters and more" })).EnsureSuccessStatusCode();
        await Site.TokenAsync(visitor);
        var front = (await FrontAsync(visitor)).GetProperty("front");
        Assert.Equal(("Marram Bay", false), (front.GetProperty("title").GetString(), front.GetProperty("isOpen").GetBoolean()));
        Assert.Equal("fill", (await (await visitor.PutAsJsonAsync("/api/site/first-hour", new { isOn = true, isDressed = true })).ReadAsync()).GetProperty("path").GetProperty("next").GetString());
    }

    [Fact]
    public async Task No_door_of_a_closed_site_lets_visitors_in_and_staff_find_all_as_it_will_be()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, photos, page, address) = await site.PublishedAsync(owner, 2);
        var picture = (await (await owner.GetAsync($"/api/photos/{photos[0]}")).ReadAsync()).GetProperty("picture").GetString();
        var rendition = $"/i/{picture}/{Core.Photos.Renditions.Recipe}-480.webp";
        var visitor = site.Visitor();
        string[] paths = ["/", $"/{address}", $"/{address}/photo/{photos[0]}", rendition, $"/i/{picture}/{Core.Photos.Renditions.Recipe}-card.jpg", $"/site/view/{address}?width=800", $"/embed/{address}", "/feed.xml", "/robots.txt", "/sitemap.xml", "/sitemap/1.xml", "/nowhere", $"/oembed?url=http://localhost/{address}"];
        foreach (var path in paths.Where(p => p != "/nowhere"))
        {
            using var before = await visitor.SendAsync(Asking(path));
            Assert.True(before.IsSuccessStatusCode, $"{path} answered {before.StatusCode} while the site was open");
        }

        Assert.Equal(HttpStatusCode.OK, (await SayAsync(owner, Front(open: false))).StatusCode);
        foreach (var path in paths)
        {
            using var answer = await visitor.SendAsync(Asking(path));
            Assert.True(answer.StatusCode == HttpStatusCode.ServiceUnavailable, $"{path} answers {answer.StatusCode}");
            Assert.True(answer.Headers.CacheControl?.NoStore == true, $"{path} may be kept");
            Assert.DoesNotContain(picture!, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }

        // Staff find it as it will be; nothing on the way keeps it, and nobody gets it because staff did.
        foreach (var path in (string[])["/", $"/{address}", rendition])
        {
            using var answer = await owner.SendAsync(Asking(path));
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            Assert.Equal("no-store, private", $"{answer.Headers.CacheControl}");
            using var after = await visitor.SendAsync(Asking(path));
            Assert.Equal(HttpStatusCode.ServiceUnavailable, after.StatusCode);
        }

        Assert.Contains("Only staff can see this page until the site is opened.", await owner.GetStringAsync($"/api/pages/{page}"), StringComparison.Ordinal);
        Assert.Contains("Only staff can see this until the site is opened.", await owner.GetStringAsync($"/api/photos/{photos[0]}"), StringComparison.Ordinal);
        Assert.Contains("Only staff can see this until the site is opened.", await owner.GetStringAsync("/api/albums"), StringComparison.Ordinal);
        // A person with an account and no part in the workroom is a visitor.
        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await (await site.AccountAsync("Nobody", "None")).GetAsync($"/{address}")).StatusCode);

        Assert.Equal(HttpStatusCode.OK, (await SayAsync(owner, Front())).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync(rendition)).StatusCode);
        Assert.Contains("public", $"{(await visitor.GetAsync(rendition)).Headers.CacheControl}", StringComparison.Ordinal);
        _ = album;
    }

    [Fact]
    public async Task Only_doors_that_need_not_wait_say_that_they_are_always_open()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var always = site.Part<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
            .Where(e => e.Metadata.GetMetadata<AlwaysOpen>() is not null)
            .Select(e => $"/{e.RoutePattern.RawText!.Trim('/')}").Distinct().Order(StringComparer.Ordinal);
        Assert.Equal(["/api/invitation", "/api/invitation/look", "/api/owner", "/api/session", "/api/session/passkey", "/api/session/passkey/begin", "/api/way-in", "/api/way-in/look", "/api/way-in/use", "/embed.js", "/health/live", "/health/ready", "/logo/{picture}.webp", "/openapi/{documentName}.json", "/payments/notices", "/workroom", "/workroom/{**station}"], always);
    }

    [Fact]
    public async Task What_visitors_read_meanwhile_are_the_owners_own_words()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var visitor = site.Visitor();
        await SayAsync(owner, Front("The <Guild>", open: false));
        var usual = await (await visitor.SendAsync(Asking("/"))).Content.ReadAsStringAsync();
        Assert.Contains("This site is not open yet.", usual, StringComparison.Ordinal);
        Assert.Contains("<h1 class=\"large\">The &lt;Guild&gt;</h1>", usual, StringComparison.Ordinal);
        Assert.Contains("noindex", usual, StringComparison.Ordinal);
        Assert.DoesNotContain("feed.xml", usual, StringComparison.Ordinal);
        await SayAsync(owner, Front("The <Guild>", open: false, meanwhile: "We open on *1 May*. <script>alert(1)</script>"));
        var own = await (await visitor.SendAsync(Asking("/whatever"))).Content.ReadAsStringAsync();
        Assert.Contains("We open on <em>1 May</em>.", own, StringComparison.Ordinal);
        Assert.DoesNotContain("<script>alert", own, StringComparison.Ordinal);
        Assert.DoesNotContain("not open yet", own, StringComparison.Ordinal);
        // Who asks for a picture is sent none, and no page in its place.
        Assert.Equal("", await (await visitor.SendAsync(Asking("/nowhere", "image/webp"))).Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task Its_name_is_another_everywhere_at_once_and_comes_back_when_the_act_is_taken_back()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, _, _, address) = await site.PublishedAsync(owner, 1);
        var visitor = site.Visitor();
        Assert.Contains("Trial</title>", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        var written = await (await SayAsync(owner, Front("  Sandling Rowers ", "On the water\nsince 1904"))).ReadAsync();
        Assert.Equal("Sandling Rowers", written.GetProperty("front").GetProperty("front").GetProperty("title").GetString());
        Assert.Contains("Sandling Rowers</title>", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        Assert.Contains("On the water since 1904", await visitor.GetStringAsync("/"), StringComparison.Ordinal);
        Assert.Contains("Sandling Rowers", await visitor.GetStringAsync("/feed.xml"), StringComparison.Ordinal);
        (await owner.PostAsJsonAsync($"/api/acts/{written.GetProperty("done").GetProperty("act").GetString()}/undo", new { })).EnsureSuccessStatusCode();
        Assert.Contains("Trial</title>", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        Assert.Equal("", (await FrontAsync(owner)).GetProperty("front").GetProperty("tagline").GetString());
    }

    [Fact]
    public async Task What_was_read_is_written_over_only_while_nobody_else_has_written_and_only_by_the_owner()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var version = (await FrontAsync(owner)).GetProperty("edited").GetInt64();
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(i => SayAsync(owner, Front($"Trial {i}"), version)));
        Assert.Equal(1, answers.Count(a => a.StatusCode == HttpStatusCode.OK));
        Assert.Equal(5, answers.Count(a => a.StatusCode == HttpStatusCode.PreconditionFailed));
        var editor = await site.EditorAsync("Tomas");
        Assert.Equal(HttpStatusCode.Forbidden, (await SayAsync(editor, Front(open: false))).StatusCode);
        var bad = await SayAsync(owner, Front("  "));
        Assert.Equal(HttpStatusCode.BadRequest, bad.StatusCode);
        Assert.Contains("Give the site a name.", await bad.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.StartsWith("Trial ", (await FrontAsync(owner)).GetProperty("front").GetProperty("title").GetString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_site_that_is_not_to_be_listed_says_so_with_everything_it_sends()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, _, address) = await site.PublishedAsync(owner, 1);
        var picture = (await (await owner.GetAsync($"/api/photos/{photos[0]}")).ReadAsync()).GetProperty("picture").GetString();
        string[] paths = ["/", $"/{address}", $"/i/{picture}/{Core.Photos.Renditions.Recipe}-480.webp", "/feed.xml"];
        var visitor = site.Visitor();
        // Twice, for what was public a moment ago is sent on a shorter way.
        foreach (var path in (string[])[.. paths, .. paths])
        {
            Assert.False((await visitor.GetAsync(path)).Headers.Contains("X-Robots-Tag"), path);
        }

        Assert.Contains("Sitemap:", await visitor.GetStringAsync("/robots.txt"), StringComparison.Ordinal);
        await SayAsync(owner, Front(listed: false));
        foreach (var path in (string[])[.. paths, .. paths])
        {
            Assert.Equal("noindex", (await visitor.GetAsync(path)).Headers.GetValues("X-Robots-Tag").Single());
        }

        Assert.DoesNotContain("Sitemap:", await visitor.GetStringAsync("/robots.txt"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Visitors_begin_at_the_page_that_was_chosen_while_it_is_published()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, page, address) = await site.PublishedAsync(owner, 2);
        var visitor = site.Visitor();
        Assert.DoesNotContain($"/{address}/photo/{photos[0]}", await visitor.GetStringAsync("/"), StringComparison.Ordinal);
        var done = (await (await SayAsync(owner, Front(start: page))).ReadAsync()).GetProperty("done").GetProperty("act").GetString();
        using (var start = await visitor.GetAsync("/"))
        {
            var html = await start.Content.ReadAsStringAsync();
            Assert.Contains($"/{address}/photo/{photos[0]}", html, StringComparison.Ordinal);
            // One page at two addresses: those who gather pages take its own.
            Assert.Contains($"rel=\"canonical\" href=\"http://localhost/{address}\"", html, StringComparison.Ordinal);
            using var again = new HttpRequestMessage(HttpMethod.Get, "/");
            again.Headers.TryAddWithoutValidation("If-None-Match", start.Headers.ETag!.ToString());
            Assert.Equal(HttpStatusCode.NotModified, (await visitor.SendAsync(again)).StatusCode);
        }

        (await owner.PostAsJsonAsync($"/api/pages/{page}/withdraw", new { })).EnsureSuccessStatusCode();
        Assert.DoesNotContain($"{photos[0]}", await visitor.GetStringAsync("/"), StringComparison.Ordinal);
        (await owner.PostAsJsonAsync($"/api/acts/{done}/undo", new { })).EnsureSuccessStatusCode();
        Assert.Equal(JsonValueKind.Null, (await FrontAsync(owner)).GetProperty("front").GetProperty("startsAt").ValueKind);
        // A page that is not there is none to begin at.
        Assert.Equal(HttpStatusCode.OK, (await SayAsync(owner, Front(start: Guid.NewGuid().ToString()))).StatusCode);
        Assert.Equal(JsonValueKind.Null, (await FrontAsync(owner)).GetProperty("front").GetProperty("startsAt").ValueKind);
    }

    [Fact]
    public async Task The_first_hour_goes_by_what_is_there()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        await SayAsync(owner, Front(open: false));
        async Task<string?> NextAsync() => (await (await owner.GetAsync("/api/site/first-hour")).ReadAsync()).GetProperty("path").GetProperty("next").GetString();
        Assert.Equal("dress", await NextAsync());
        var theme = await (await owner.GetAsync("/api/theme")).ReadAsync();
        await owner.SendAsync(HttpMethod.Put, "/api/theme", Drafts.Theme("lantern"), theme.GetProperty("opened").GetProperty("edited").GetInt64());
        Assert.Equal("fill", await NextAsync());
        await site.PublishedAsync(owner, 1);
        Assert.Equal("open", await NextAsync());
        await SayAsync(owner, Front());
        Assert.Null(await NextAsync());
        Assert.False((await (await owner.PutAsJsonAsync("/api/site/first-hour", new { isOn = false, isDressed = false })).ReadAsync()).GetProperty("isOn").GetBoolean());
    }
}
