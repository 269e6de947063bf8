using System.Net;
using System.Net.Http.Json;
using System.ServiceModel.Syndication;
using System.Xml;
using System.Xml.Linq;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>The photos of albums and categories as feed readers have them, read by the parser of System.ServiceModel.Syndication.</summary>
public sealed class PhotoFeedTests
{
    static readonly XNamespace Media = "http://search.yahoo.com/mrss/";

    static async Task<SyndicationFeed> ReadAsync(HttpClient visitor, string path)
    {
        using var xml = XmlReader.Create(await visitor.GetStreamAsync(path));
        return SyndicationFeed.Load(xml);
    }

    static string? MediaOf(SyndicationItem item, string name, string? attribute = null)
    {
        var element = item.ElementExtensions.Where(e => e.OuterNamespace == Media.NamespaceName && e.OuterName == name).Select(e => e.GetObject<XElement>()).FirstOrDefault();
        return attribute is null ? element?.Value : element?.Attribute(attribute)?.Value;
    }

    [Fact]
    public async Task An_album_and_a_category_are_followed_by_their_newest_photos_with_words_and_pictures()
    {
        var (site, owner, visitor, p) = await StartAsync(3);
        await using var _ = site;
        var album = await MakeAsync(owner, "First flights", p);
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/album/first-flights/feed.xml"));
        var category = await CategoryAsync(owner, "Kites");
        await (await StandAsync(owner, album, [category])).ReadAsync();
        await WriteAsync(owner, p[1], "title", "Red <delta> & more");
        await WriteAsync(owner, p[1], "caption", "Over the dunes");
        await WriteAsync(owner, p[1], "credit", "Ines Calloway");

        var feed = await ReadAsync(visitor, "/album/first-flights/feed.xml");
        Assert.Equal("First flights · Trial", feed.Title.Text);
        Assert.Equal("http://localhost/album/first-flights", feed.Id);
        Assert.Equal("http://localhost/album/first-flights/feed.xml", feed.Links.Single(l => l.RelationshipType == "self").Uri.AbsoluteUri);
        // What came last stands first.
        var arrived = await site.ScalarAsync<string>("select string_agg(id::text, ' ' order by arrived desc, id) from photo");
        Assert.Equal(arrived.Split(' ').Select(id => $"urn:uuid:{id}"), feed.Items.Select(i => i.Id));
        var red = feed.Items.Single(i => i.Id == $"urn:uuid:{p[1]}");
        Assert.Equal(("Red <delta> & more", "Red <delta> & more", "Over the dunes", "Ines Calloway"), (red.Title.Text, MediaOf(red, "title"), MediaOf(red, "description"), MediaOf(red, "credit")));
        Assert.Equal("Untitled photograph", feed.Items.First(i => i != red).Title.Text);
        // Where it leads is there, and so are the pictures, as large as is said.
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, red.Links.Single().Uri.PathAndQuery));
        var picture = await visitor.GetAsync(new Uri(MediaOf(red, "content", "url")!).PathAndQuery);
        Assert.Equal(MediaOf(red, "content", "type"), picture.Content.Headers.ContentType!.MediaType);
        using var shown = NetVips.Image.NewFromBuffer(await picture.Content.ReadAsByteArrayAsync());
        Assert.Equal(($"{shown.Width}", $"{shown.Height}"), (MediaOf(red, "content", "width"), MediaOf(red, "content", "height")));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, new Uri(MediaOf(red, "thumbnail", "url")!).PathAndQuery));

        // The category has the same photos, on the pages that they have in their album; both pages say where to follow them.
        var gathered = await ReadAsync(visitor, "/category/kites/feed.xml");
        Assert.Equal(feed.Items.Select(i => (i.Id, i.Links.Single().Uri)), gathered.Items.Select(i => (i.Id, i.Links.Single().Uri)));
        foreach (var path in (string[])["/album/first-flights", "/category/kites"])
        {
            Assert.Contains($"type=\"application/atom+xml\" title=\"{(path[1] == 'a' ? "First flights" : "Kites")}\" href=\"{path}/feed.xml\"", WebUtility.HtmlDecode(await visitor.GetStringAsync(path)), StringComparison.Ordinal);
        }

        await site.VerifyAsync();
    }

    [Fact]
    public async Task What_is_not_for_visitors_is_in_no_feed_and_what_did_not_change_is_not_sent_again()
    {
        var (site, owner, visitor, p) = await StartAsync(2);
        await using var _ = site;
        var album = await MakeAsync(owner, "First", p);
        var category = await CategoryAsync(owner, "Kites");
        await (await StandAsync(owner, album, [category])).ReadAsync();
        foreach (var path in (string[])["/album/first/feed.xml", "/category/kites/feed.xml"])
        {
            var tag = (await visitor.GetAsync(path)).Headers.ETag!;
            using var again = new HttpRequestMessage(HttpMethod.Get, path) { Headers = { IfNoneMatch = { tag } } };
            Assert.Equal(HttpStatusCode.NotModified, (await visitor.SendAsync(again)).StatusCode);
            Assert.Equal(2, (await ReadAsync(visitor, path)).Items.Count());
        }

        await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[0] } })).ReadAsync();
        Assert.Equal([$"urn:uuid:{p[1]}"], (await ReadAsync(visitor, "/album/first/feed.xml")).Items.Select(i => i.Id));
        Assert.Equal([$"urn:uuid:{p[1]}"], (await ReadAsync(visitor, "/category/kites/feed.xml")).Items.Select(i => i.Id));
        await (await SetAsync(owner, category, shown: false)).ReadAsync();
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/category/kites/feed.xml"));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/album/first/feed.xml"));
    }
}
