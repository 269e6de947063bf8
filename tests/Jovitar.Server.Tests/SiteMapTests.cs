using System.Net;
using System.Net.Http.Json;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using Jovitar.Server.Site.Finding;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What search engines are told of: all that everybody finds, and nothing else.</summary>
public sealed class SiteMapTests
{
    static readonly XNamespace Protocol = "http://www.sitemaps.org/schemas/sitemap/0.9";
    static readonly XNamespace Image = "http://www.google.com/schemas/sitemap-image/1.1";

    /// <summary>The pages of the map with how many images each has, as a program reads it: from robots.txt on.</summary>
    static async Task<Dictionary<string, string[]>> MapAsync(HttpClient visitor)
    {
        static string PathOf(string address) => new Uri(address).PathAndQuery;
        var start = Regex.Match(await visitor.GetStringAsync("/robots.txt"), @"^Sitemap: (\S+)$", RegexOptions.Multiline).Groups[1].Value;
        var index = XDocument.Parse(await visitor.GetStringAsync(PathOf(start))).Root!;
        Assert.Equal(Protocol + "sitemapindex", index.Name);
        var found = new Dictionary<string, string[]>();
        foreach (var part in index.Elements(Protocol + "sitemap").Elements(Protocol + "loc"))
        {
            var answer = await visitor.GetAsync(PathOf(part.Value));
            Assert.Equal("application/xml", answer.Content.Headers.ContentType!.MediaType);
            var set = XDocument.Parse(await answer.Content.ReadAsStringAsync()).Root!;
            Assert.Equal(Protocol + "urlset", set.Name);
            foreach (var url in set.Elements(Protocol + "url"))
            {
                found.Add(PathOf(url.Element(Protocol + "loc")!.Value), [.. url.Elements(Image + "image").Elements(Image + "loc").Select(l => PathOf(l.Value))]);
            }
        }

        return found;
    }

    [Fact]
    public async Task The_map_has_what_everybody_finds_and_every_address_in_it_opens()
    {
        var (site, owner, visitor, p) = await StartAsync(5);
        await using var _ = site;
        Assert.Equal(["/"], (await MapAsync(visitor)).Keys);
        var (own, paged, hidden) = (await MakeAsync(owner, "Own", p[..3]), await MakeAsync(owner, "Paged", p[1..4]), await MakeAsync(owner, "Hidden", p[4..]));
        var category = await CategoryAsync(owner, "Kites");
        await (await StandAsync(owner, own, [category])).ReadAsync();
        await (await StandAsync(owner, hidden, [category], shown: false)).ReadAsync();
        await owner.ShownAsync(null, "season", Drafts.Page("Season", Drafts.Photos(paged)));
        await owner.ShownAsync(null, "aside", Drafts.Post("Aside", null, [Drafts.Photos(own)], unlisted: true));
        var map = await MapAsync(visitor);
        Assert.Equal(["/", "/album/own", "/category/kites", "/season"], map.Keys.Order(StringComparer.Ordinal));
        Assert.Equal([0, 3, 0, 3], map.OrderBy(m => m.Key, StringComparer.Ordinal).Select(m => m.Value.Length));
        foreach (var address in map.Keys.Concat(map.Values.SelectMany(v => v)))
        {
            Assert.True(await GetAsync(visitor, address) == HttpStatusCode.OK, address);
        }

        // A photo that is left out leaves the map; so does an album that is taken out of view.
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p[1..2], decision = "leave_out" })).ReadAsync();
        map = await MapAsync(visitor);
        Assert.Equal((2, 2), (map["/album/own"].Length, map["/season"].Length));
        await (await StandAsync(owner, own, shown: false)).ReadAsync();
        Assert.Equal(["/", "/category/kites", "/season"], (await MapAsync(visitor)).Keys.Order(StringComparer.Ordinal));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/sitemap/2.xml"));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/sitemap/0.xml"));
    }

    [Fact]
    public void No_part_of_the_map_has_more_images_than_fifty_thousand_and_no_page_more_than_a_thousand()
    {
        Assert.Equal([1, 1, 1, 2, 3], ((int[])[0, 1, 50, 51, 150]).Select(SiteMap.Parts));
        Assert.Equal(50_000, SiteMap.MostPages * SiteMap.MostImages);
        var root = new Uri("https://kites.example/");
        var index = XDocument.Parse(System.Text.Encoding.UTF8.GetString(SiteMap.Index(root, 3))).Root!;
        Assert.Equal(["https://kites.example/sitemap/1.xml", "https://kites.example/sitemap/2.xml", "https://kites.example/sitemap/3.xml"], index.Descendants(Protocol + "loc").Select(l => l.Value));
        var page = new MappedPage(Guid.NewGuid(), "/a&b");
        var photos = Enumerable.Range(0, 1200).Select(n => new MappedPhoto($"{n:x64}", 3000)).ToLookup(_ => page.Id);
        var part = XDocument.Parse(System.Text.Encoding.UTF8.GetString(SiteMap.Part(root, [page], photos))).Root!;
        Assert.Equal("https://kites.example/a&b", part.Element(Protocol + "url")!.Element(Protocol + "loc")!.Value);
        Assert.Equal(SiteMap.MostImages, part.Descendants(Image + "image").Count());
        Assert.EndsWith("-2560.webp", part.Descendants(Image + "loc").First().Value, StringComparison.Ordinal);
    }
}
