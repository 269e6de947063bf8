using System.Globalization;
using System.Net;
using System.Text.Json;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Pages, albums and categories on other websites. The names and rules of answers are those of oEmbed 1.0 (oembed.com).</summary>
public sealed class EmbedTests
{
    static int FramesIn(string html) => Regex.Count(html, "<a class=\"frame\"");

    static string Policy(HttpResponseMessage answer) => answer.Headers.GetValues("Content-Security-Policy").Single();

    static async Task<JsonElement> OfferAsync(HttpClient visitor, string url, string more = "") =>
        JsonDocument.Parse(await visitor.GetStringAsync($"/oembed?url={Uri.EscapeDataString(url)}{more}")).RootElement;

    static async Task<(HttpStatusCode Status, string Body)> AskAsync(HttpClient visitor, string path)
    {
        var answer = await visitor.GetAsync(path);
        return (answer.StatusCode, await answer.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task Photos_stand_on_another_website_as_they_are_now_with_settings_of_their_own_and_lead_to_the_site()
    {
        var (site, owner, visitor, p) = await StartAsync(4);
        await using var _ = site;
        var album = await MakeAsync(owner, "First flights", p);
        await (await StandAsync(owner, album, [await CategoryAsync(owner, "Kites")])).ReadAsync();

        var answer = await visitor.GetAsync("/embed/album/first-flights");
        var html = await answer.Content.ReadAsStringAsync();
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        // Every website may frame this, and none any other page.
        Assert.Contains("frame-ancestors *;", Policy(answer), StringComparison.Ordinal);
        Assert.Contains("frame-ancestors 'self';", Policy(await visitor.GetAsync("/album/first-flights")), StringComparison.Ordinal);
        Assert.Equal(4, FramesIn(html));
        Assert.Contains($"href=\"/album/first-flights/photo/{p[0]}\"", html, StringComparison.Ordinal);
        Assert.Contains("<base target=\"_blank\"", html, StringComparison.Ordinal);
        Assert.DoesNotContain("site-head", html, StringComparison.Ordinal);
        Assert.DoesNotContain("All 4", html, StringComparison.Ordinal);

        var few = await visitor.GetStringAsync("/embed/album/first-flights?layout=grid&size=small&most=2");
        Assert.Equal(2, FramesIn(few));
        Assert.Contains("All 4 photographs at Trial", few, StringComparison.Ordinal);
        // What its script asks for is what stands there: two, in the same layout and places.
        var view = Regex.Match(few, "data-view=\"([^\"]*)\"").Groups[1].Value;
        var told = JsonDocument.Parse(await visitor.GetStringAsync($"{view}?layout=grid&size=small&most=2&width=700&window=700")).RootElement;
        Assert.Equal((2, 2), (told.GetProperty("shown").GetInt32(), told.GetProperty("frames").GetArrayLength()));
        Assert.Equal(Regex.Match(few, "data-mark=\"([^\"]*)\"").Groups[1].Value, told.GetProperty("mark").GetString());
        Assert.Equal($"/album/first-flights/photo/{p[0]}", told.GetProperty("frames")[0].GetProperty("href").GetString());
        Assert.NotEqual(told.GetProperty("height").GetDouble(), JsonDocument.Parse(await visitor.GetStringAsync($"{view}?most=2&width=700&window=700")).RootElement.GetProperty("height").GetDouble());

        // A line goes on working when the address changes, and leads to the new one.
        await (await StandAsync(owner, album, address: "first-kites-up")).ReadAsync();
        var moved = await visitor.GetStringAsync("/embed/album/first-flights");
        Assert.Contains($"href=\"/album/first-kites-up/photo/{p[0]}\"", moved, StringComparison.Ordinal);
        Assert.Equal("/embed/album/first-kites-up", (await (await owner.GetAsync("/api/embeds?of=/album/first-flights")).ReadAsync()).GetProperty("source").GetString());
        await (await StandAsync(owner, album, address: "first-flights")).ReadAsync();

        // It is live: what is taken out is gone, and who has it already is told that it changed.
        var before = (await visitor.GetAsync("/embed/album/first-flights")).Headers.ETag!;
        (await owner.SendAsync(HttpMethod.Post, $"/api/albums/{album}/photos/removal", new { photos = new[] { p[0] } })).EnsureSuccessStatusCode();
        var again = await visitor.SendAsync(new HttpRequestMessage(HttpMethod.Get, "/embed/album/first-flights") { Headers = { IfNoneMatch = { before } } });
        Assert.Equal((HttpStatusCode.OK, 3), (again.StatusCode, FramesIn(await again.Content.ReadAsStringAsync())));
        Assert.Equal(HttpStatusCode.NotModified, (await visitor.SendAsync(new HttpRequestMessage(HttpMethod.Get, "/embed/album/first-flights") { Headers = { IfNoneMatch = { again.Headers.ETag! } } })).StatusCode);

        // A category shows the covers of what stands in it, a page its photos without its words.
        Assert.Contains("href=\"/album/first-flights\"", await visitor.GetStringAsync("/embed/category/kites"), StringComparison.Ordinal);
        await owner.ShownAsync(null, "told", Drafts.Page("Told", Drafts.Text("Only on the page."), Drafts.Photos(album, number: 3), Drafts.Photos(album, number: 4)));
        var page = await visitor.GetStringAsync("/embed/told?most=1");
        Assert.DoesNotContain("Only on the page.", page, StringComparison.Ordinal);
        // Each block keeps the number that it has on the page, and with it the addresses of its photos.
        Assert.Contains($"href=\"/told/photo/{p[1]}\"", page, StringComparison.Ordinal);
        Assert.Contains($"href=\"/told/photo/{p[1]}?in=2\"", page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Nothing_stands_elsewhere_that_not_everybody_may_see_whoever_looks()
    {
        var (site, owner, visitor, p) = await StartAsync(2);
        await using var _ = site;
        var album = await MakeAsync(owner, "First flights", p);
        var category = await CategoryAsync(owner, "Kites");
        var made = await (await owner.SendAsync(HttpMethod.Post, "/api/pages", new { album })).ReadAsync();
        var draft = made.GetProperty("address").GetString();

        async Task HiddenAsync(string of)
        {
            // Staff who look get no more than visitors: their frame stands on the same website.
            foreach (var who in (HttpClient[])[visitor, owner])
            {
                var answer = await who.GetAsync($"/embed{of}");
                var html = await answer.Content.ReadAsStringAsync();
                Assert.Equal((HttpStatusCode.NotFound, 0), (answer.StatusCode, FramesIn(html)));
                // It says so on the other website instead of an error of the browser.
                Assert.Contains("frame-ancestors *;", Policy(answer), StringComparison.Ordinal);
                Assert.Contains("no longer shown here", html, StringComparison.Ordinal);
                Assert.DoesNotContain("First flights", html, StringComparison.Ordinal);
                Assert.Equal(HttpStatusCode.NotFound, await GetAsync(who, $"/site/view/embed{of}?width=700"));
                Assert.Equal(HttpStatusCode.NotFound, await GetAsync(who, $"/oembed?url=http://localhost{of}"));
                Assert.Equal(HttpStatusCode.NotFound, await GetAsync(who, $"/oembed?url=http://localhost{of}/photo/{p[0]}"));
            }

            Assert.Equal(HttpStatusCode.NotFound, await GetAsync(owner, $"/api/embeds?of={of}"));
        }

        await HiddenAsync($"/{draft}");
        await HiddenAsync("/album/first-flights");
        await (await StandAsync(owner, album, [category])).ReadAsync();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/embed/album/first-flights"));
        await (await StandAsync(owner, album, [category], shown: false)).ReadAsync();
        await HiddenAsync("/album/first-flights");
        await (await StandAsync(owner, album, [category], shown: true)).ReadAsync();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/embed/album/first-flights"));
        (await owner.SendAsync(HttpMethod.Delete, $"/api/albums/{album}", null)).EnsureSuccessStatusCode();
        await HiddenAsync("/album/first-flights");
        // A page without photos has nothing to show elsewhere.
        await owner.ShownAsync(null, "words", Drafts.Page("First flights in words", Drafts.Text("Words alone.")));
        Assert.DoesNotContain("oembed", await visitor.GetStringAsync("/words"), StringComparison.Ordinal);
        await HiddenAsync("/words");
    }

    [Fact]
    public async Task Programs_find_out_what_they_may_show_at_a_link_as_the_standard_has_it()
    {
        var (site, owner, visitor, p) = await StartAsync(3);
        await using var _ = site;
        await WriteAsync(owner, p[0], "title", "Red <delta> & \"more\"");
        await WriteAsync(owner, p[0], "credit", "Ines Calloway");
        await owner.ShownAsync(null, "told", Drafts.Page("Told & <b>shared</b>", Drafts.Photos(await MakeAsync(owner, "All", p))));

        // §4: pages say where to ask; the answers are those of their forms.
        var html = await visitor.GetStringAsync("/told");
        string Link(string type) => WebUtility.HtmlDecode(Regex.Match(html, $"<link rel=\"alternate\" type=\"{Regex.Escape(type)}\"[^>]* href=\"([^\"]*)\"").Groups[1].Value);
        var json = await visitor.GetAsync(new Uri(Link("application/json+oembed")).PathAndQuery);
        var xml = await visitor.GetAsync(new Uri(Link("text/xml+oembed")).PathAndQuery);
        Assert.Equal(("application/json", "text/xml"), (json.Content.Headers.ContentType!.MediaType, xml.Content.Headers.ContentType!.MediaType));
        Assert.Equal("*", json.Headers.GetValues("Access-Control-Allow-Origin").Single());
        var offer = JsonDocument.Parse(await json.Content.ReadAsStringAsync()).RootElement;
        Assert.Equal(("1.0", "rich", "Told & <b>shared</b>", "Trial", "http://localhost/"), (offer.GetProperty("version").GetString(), offer.GetProperty("type").GetString(), offer.GetProperty("title").GetString(), offer.GetProperty("provider_name").GetString(), offer.GetProperty("provider_url").GetString()));
        Assert.True(offer.GetProperty("width").GetInt32() > 0 && offer.GetProperty("height").GetInt32() > 0);
        var element = XDocument.Parse(await xml.Content.ReadAsStringAsync()).Root!;
        Assert.Equal("oembed", element.Name.LocalName);
        Assert.Equal(offer.EnumerateObject().Select(o => (o.Name, o.Value.ToString())), element.Elements().Select(e => (e.Name.LocalName, e.Value)));

        // It says the height that the page's own sheet has for that width, with the line beneath and what stands between; a usual column is one of the second band.
        foreach (var layout in (string[])["rows", "columns", "grid", "mosaic"])
        {
            var sheet = Regex.Match(await visitor.GetStringAsync($"/embed/told?layout={layout}"), @"@media \(min-width:600px\) and \(max-width:1023px\)\{#w1\{aspect-ratio:([\d.]+)/([\d.]+)\}").Groups;
            var stands = 720 * double.Parse(sheet[2].Value, CultureInfo.InvariantCulture) / double.Parse(sheet[1].Value, CultureInfo.InvariantCulture);
            Assert.InRange((await OfferAsync(visitor, $"http://localhost/told?layout={layout}")).GetProperty("height").GetInt32(), stands + 55, stands + 58);
        }

        // What it gives out to be pasted shows the page, and brings along a script that is there.
        var line = offer.GetProperty("html").GetString()!;
        Assert.Contains("title=\"Told &amp; &lt;b&gt;shared&lt;/b&gt;\"", line, StringComparison.Ordinal);
        var sources = Regex.Matches(line, " src=\"([^\"]*)\"").Select(m => new Uri(WebUtility.HtmlDecode(m.Groups[1].Value))).ToArray();
        Assert.Equal(3, FramesIn(await visitor.GetStringAsync(sources[0].PathAndQuery)));
        Assert.Equal("text/javascript", (await visitor.GetAsync(sources[1].PathAndQuery)).Content.Headers.ContentType!.MediaType);
        // The same with settings in the link; and the workroom's line is of the same frame.
        var set = (await OfferAsync(visitor, "http://localhost/told?layout=grid&most=2")).GetProperty("html").GetString()!;
        Assert.Contains("/embed/told?layout=grid&amp;most=2\"", set, StringComparison.Ordinal);
        var handed = await (await owner.GetAsync("/api/embeds?of=/told&layout=grid&most=2")).ReadAsync();
        Assert.Equal(("/embed/told?layout=grid&most=2", "http://localhost/told"), (handed.GetProperty("source").GetString(), handed.GetProperty("address").GetString()));
        Assert.Contains("src=\"http://localhost/embed/told?layout=grid&amp;most=2\"", handed.GetProperty("line").GetString(), StringComparison.Ordinal);

        // §2.2: no answer is larger than the asker has room for. A photo's own page is a photo, whose address and size are true.
        foreach (var (widest, most, more) in ((int?, int?, string)[])[(null, null, ""), (500, 500, "&maxwidth=500"), (300, 240, "&maxwidth=300&maxheight=170")])
        {
            var rich = await OfferAsync(visitor, "http://localhost/told", more);
            Assert.True(widest is null || rich.GetProperty("width").GetInt32() <= widest);
            var photo = await OfferAsync(visitor, $"http://localhost/told/photo/{p[0]}", more);
            Assert.Equal(("photo", "Red <delta> & \"more\"", "Ines Calloway"), (photo.GetProperty("type").GetString(), photo.GetProperty("title").GetString(), photo.GetProperty("author_name").GetString()));
            var picture = await visitor.GetAsync(new Uri(photo.GetProperty("url").GetString()!).PathAndQuery);
            using var shown = NetVips.Image.NewFromBuffer(await picture.Content.ReadAsByteArrayAsync());
            Assert.Equal((shown.Width, shown.Height), (photo.GetProperty("width").GetInt32(), photo.GetProperty("height").GetInt32()));
            Assert.True(most is null || shown.Width <= most, $"{shown.Width} for {more}");
        }

        // What XML has no place for is left out of it: an answer that cannot be read says nothing (XML 1.0 §2.2).
        await WriteAsync(owner, p[1], "title", "Two\u000bdeltas");
        Assert.Equal("Twodeltas", XDocument.Parse(await visitor.GetStringAsync($"/oembed?url=http://localhost/told/photo/{p[1]}&format=xml")).Root!.Element("title")!.Value);

        var tiny = await OfferAsync(visitor, $"http://localhost/told/photo/{p[0]}", "&maxwidth=20");
        Assert.Equal(("link", false, false), (tiny.GetProperty("type").GetString(), tiny.TryGetProperty("url", out JsonElement _), tiny.TryGetProperty("thumbnail_url", out JsonElement _)));
        Assert.Equal(20, (await OfferAsync(visitor, "http://localhost/told", "&maxheight=20")).GetProperty("height").GetInt32());

        // §2.3.4: 404 for what is not there, 501 for a form that there is not. Other websites are not answered for.
        foreach (var nothing in (string[])["", "?url=", "?url=http://localhost/", "?url=http://localhost/nowhere", "?url=http://elsewhere.example/told", "?url=http://localhost.example/told", "?url=ftp://localhost/told", "?url=http://localhost:81/told",
            "?url=http://localhost/told/photo/nothing", $"?url=http://localhost/told/photo/{Guid.Empty}", "?url=http://localhost/api/session", "?url=javascript:alert(1)", "?url=http://%5B"])
        {
            Assert.Equal(HttpStatusCode.NotFound, (await AskAsync(visitor, $"/oembed{nothing}")).Status);
        }

        Assert.Equal(HttpStatusCode.NotImplemented, (await AskAsync(visitor, "/oembed?url=http://localhost/told&format=yaml")).Status);
        Assert.Equal(HttpStatusCode.OK, (await AskAsync(visitor, "/oembed?url=https://localhost/told&maxwidth=many")).Status);
    }
}
