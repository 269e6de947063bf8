using System.Net;
using System.Net.Http.Json;
using System.Xml.Linq;

namespace Jovitar.Server.Tests;

/// <summary>Posts: in their list and in the feed, by their days; what is unlisted is in neither.</summary>
public sealed class PostTests
{
    static readonly XNamespace Atom = "http://www.w3.org/2005/Atom";

    static Dictionary<string, object?> Index(string of, int? most = null, int number = 8) =>
        Drafts.Block("index", number, new { of, category = (string?)null, beneath = true, albums = Array.Empty<string>(), sort = "newest", most, across = 2, dates = true, counts = false, descriptions = true });

    static async Task<(string Id, string Address)> MakeAsync(HttpClient owner, string title, string? posted, bool unlisted = false, string description = "", params object[] blocks)
    {
        var made = await (await owner.PostAsJsonAsync("/api/pages", new { title })).ReadAsync();
        var (id, address) = (made.GetProperty("id").GetString()!, made.GetProperty("address").GetString()!);
        await (await owner.DraftAsync(id, address, Drafts.Post(title, posted, blocks, unlisted, description))).ReadAsync();
        await (await owner.PublishAsync(id)).ReadAsync();
        return (id, address);
    }

    static string[] TitlesIn(string html) => [.. System.Text.RegularExpressions.Regex.Matches(html, "<strong>([^<]*)</strong>").Select(m => m.Groups[1].Value)];

    [Fact]
    public async Task Posts_stand_newest_first_in_their_list_and_in_the_feed_and_no_page_does()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, _, _) = await site.PublishedAsync(owner, 1);
        var visitor = site.Visitor();
        await MakeAsync(owner, "Second", "2026-05-02", description: "Rain & <wind>");
        await MakeAsync(owner, "Third", "2026-06-14", false, "", Drafts.Photos(Drafts.Source("picked", photos: photos)));
        await MakeAsync(owner, "First", "2025-12-24");
        await MakeAsync(owner, "Hidden", "2026-07-01", unlisted: true);
        await MakeAsync(owner, "No post", null);
        var (_, list) = await MakeAsync(owner, "News", null, blocks: [Index("posts")]);
        var (_, pages) = await MakeAsync(owner, "Pages", null, blocks: [Index("pages")]);
        var html = await visitor.GetStringAsync($"/{list}");
        Assert.Equal(["Third", "Second", "First"], TitlesIn(html));
        Assert.Contains("14 June 2026", html, StringComparison.Ordinal);
        Assert.Contains("""<a href="/feed.xml">""", html, StringComparison.Ordinal);
        Assert.Equal(["News", "No post", "Pages", "Trial album"], TitlesIn(await visitor.GetStringAsync($"/{pages}")).Order(StringComparer.Ordinal));
        // A post says its day under its heading, a page none.
        Assert.Contains("""<time datetime="2026-05-02">2 May 2026</time>""", await visitor.GetStringAsync("/second"), StringComparison.Ordinal);
        Assert.DoesNotContain("<time", await visitor.GetStringAsync("/no-post"), StringComparison.Ordinal);

        // RFC 4287: a feed has an id, a title and when it was changed; so has each entry, and a link.
        var answer = await visitor.GetAsync("/feed.xml");
        Assert.Equal("application/atom+xml", answer.Content.Headers.ContentType!.MediaType);
        var feed = XDocument.Parse(await answer.Content.ReadAsStringAsync()).Root!;
        Assert.Equal(Atom + "feed", feed.Name);
        var entries = feed.Elements(Atom + "entry").ToArray();
        Assert.Equal(["Third", "Second", "First"], entries.Select(e => e.Element(Atom + "title")!.Value));
        foreach (var each in entries.Prepend(feed))
        {
            Assert.True(Uri.TryCreate(each.Element(Atom + "id")!.Value, UriKind.Absolute, out _));
            Assert.True(DateTimeOffset.TryParse(each.Element(Atom + "updated")!.Value, out _));
            Assert.All(each.Elements(Atom + "link"), l => Assert.True(Uri.TryCreate(l.Attribute("href")!.Value, UriKind.Absolute, out _)));
        }

        Assert.NotEmpty(feed.Elements(Atom + "author"));
        Assert.Equal(3, entries.Select(e => e.Element(Atom + "id")!.Value).Distinct().Count());
        Assert.StartsWith("2026-06-14", entries[0].Element(Atom + "published")!.Value, StringComparison.Ordinal);
        Assert.EndsWith("/third", entries[0].Element(Atom + "link")!.Attribute("href")!.Value, StringComparison.Ordinal);
        Assert.Contains("<p>Rain &amp; &lt;wind&gt;</p>", entries[1].Element(Atom + "content")!.Value, StringComparison.Ordinal);
        // The picture of a post is where it is said to be.
        var picture = System.Text.RegularExpressions.Regex.Match(entries[0].Element(Atom + "content")!.Value, "src=\"([^\"]+)\"").Groups[1].Value;
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync(new Uri(picture).AbsolutePath)).StatusCode);
        using var again = new HttpRequestMessage(HttpMethod.Get, "/feed.xml");
        again.Headers.IfNoneMatch.Add(answer.Headers.ETag!);
        Assert.Equal(HttpStatusCode.NotModified, (await visitor.SendAsync(again)).StatusCode);
    }

    [Fact]
    public async Task What_is_unlisted_opens_at_its_address_and_stands_nowhere_else()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var visitor = site.Visitor();
        var (id, address) = await MakeAsync(owner, "Quiet corner", null, unlisted: true);
        var (_, list) = await MakeAsync(owner, "Everything", null, blocks: [Index("pages"), Index("posts", number: 9)]);
        var html = await visitor.GetStringAsync($"/{address}");
        Assert.Contains("Quiet corner", html, StringComparison.Ordinal);
        Assert.Contains("""<meta name="robots" content="noindex">""", html, StringComparison.Ordinal);
        Assert.DoesNotContain("Quiet corner", await visitor.GetStringAsync("/"), StringComparison.Ordinal);
        Assert.DoesNotContain("Quiet corner", await visitor.GetStringAsync($"/{list}"), StringComparison.Ordinal);
        // Listed again, it is where it was looked for.
        await (await owner.DraftAsync(id, address, Drafts.Post("Quiet corner", "2026-03-01", []))).ReadAsync();
        Assert.Equal(["the day that it is a post of", "whether lists and the feed have it"], (await (await owner.GetAsync($"/api/pages/{id}/changes")).ReadAsync()).GetProperty("changes").EnumerateArray().Select(c => c.GetProperty("what").GetString()));
        await (await owner.PublishAsync(id)).ReadAsync();
        Assert.Contains("Quiet corner", await visitor.GetStringAsync($"/{list}"), StringComparison.Ordinal);
        Assert.Contains("Quiet corner", await visitor.GetStringAsync("/feed.xml"), StringComparison.Ordinal);
        Assert.Contains("1 March 2026", await visitor.GetStringAsync("/"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Characters_that_xml_cannot_hold_break_no_feed_and_a_list_has_so_many_as_it_was_told()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (id, _) = await MakeAsync(owner, "Bell\u0007 and \U0001FA81", "2026-02-01", description: "Vertical\u000btab");
        await MakeAsync(owner, "Older", "2026-01-01");
        Assert.Contains('\u0007', (await owner.PageAsync(id)).GetProperty("draft").GetProperty("title").GetString()!);
        var entries = XDocument.Parse(await site.Visitor().GetStringAsync("/feed.xml")).Root!.Elements(Atom + "entry").ToArray();
        Assert.Equal(["Bell and \U0001FA81", "Older"], entries.Select(e => e.Element(Atom + "title")!.Value));
        Assert.Equal("<p>Verticaltab</p>", entries[0].Element(Atom + "content")!.Value);
        var (_, list) = await MakeAsync(owner, "The newest", null, blocks: [Index("posts", most: 1)]);
        Assert.StartsWith("Bell", Assert.Single(TitlesIn(await site.Visitor().GetStringAsync($"/{list}"))), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_feed_without_posts_is_a_feed()
    {
        await using var site = await Site.StartAsync();
        await site.OwnerAsync();
        Assert.Empty(XDocument.Parse(await site.Visitor().GetStringAsync("/feed.xml")).Root!.Elements(Atom + "entry"));
    }
}
