using System.Net;
using System.Text.Json;
using System.Text.RegularExpressions;
using CsCheck;
using Jovitar.Server.Site.Drawing;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What pages tell those who find them, list them and pass links to them on.</summary>
public sealed class ToldTests
{
    static string? Meta(string html, string name) =>
        Regex.Match(html, $"<meta (?:name|property)=\"{Regex.Escape(name)}\" content=\"([^\"]*)\" ?/?>") is { Success: true } found ? WebUtility.HtmlDecode(found.Groups[1].Value) : null;

    static string? Canonical(string html) => Regex.Match(html, "<link rel=\"canonical\" href=\"([^\"]*)\" ?/?>") is { Success: true } found ? WebUtility.HtmlDecode(found.Groups[1].Value) : null;

    /// <summary>What a page is about, read as a browser reads the element: to the first end tag of a script.</summary>
    static JsonElement DataOf(string html) => JsonDocument.Parse(Regex.Match(html, "<script type=\"application/ld\\+json\">(.*?)</script", RegexOptions.Singleline).Groups[1].Value).RootElement;

    [Fact]
    public async Task A_shared_link_to_a_page_or_a_photo_has_its_own_title_sentence_and_picture()
    {
        var (site, owner, visitor, p) = await StartAsync(2);
        await using var _ = site;
        var album = await MakeAsync(owner, "All", p);
        string? page = null;
        async Task SayAsync(string description, string text = "**Two days**, one [night](https://x.example).") =>
            page = await owner.ShownAsync(page, "told", Drafts.Post("Told & shared", null, [Drafts.Text(text), Drafts.Photos(Drafts.Source("albums", albums: [album]))], description: description));

        await SayAsync("What happened in June.");
        var html = await visitor.GetStringAsync("/told?show=nothing&from=1");
        Assert.Equal(("http://localhost/told", "http://localhost/told", "What happened in June.", "What happened in June."), (Canonical(html), Meta(html, "og:url"), Meta(html, "description"), Meta(html, "og:description")));
        Assert.Equal(("Told & shared", "Trial", "summary_large_image"), (Meta(html, "og:title"), Meta(html, "og:site_name"), Meta(html, "twitter:card")));
        var picture = await visitor.GetAsync(new Uri(Meta(html, "og:image")!).PathAndQuery);
        Assert.Equal((HttpStatusCode.OK, "image/jpeg"), (picture.StatusCode, picture.Content.Headers.ContentType!.MediaType));
        using var shown = NetVips.Image.NewFromBuffer(await picture.Content.ReadAsByteArrayAsync());
        Assert.Equal(($"{shown.Width}", $"{shown.Height}"), (Meta(html, "og:image:width"), Meta(html, "og:image:height")));

        // Nobody wrote one: how its words begin, without what marks them; without words how many photos there are.
        await SayAsync("");
        Assert.Equal("Two days, one night.", Meta(await visitor.GetStringAsync("/told"), "description"));
        await SayAsync("", "");
        Assert.Equal("2 photographs.", Meta(await visitor.GetStringAsync("/told"), "description"));

        // A photo tells its own, whatever was chosen on the way to it.
        await WriteAsync(owner, p[1], "title", "Red \"delta\"");
        await WriteAsync(owner, p[1], "caption", "Over the dunes,\nat noon.");
        var single = await visitor.GetStringAsync($"/told/photo/{p[1]}?order=oldest");
        Assert.Equal(($"http://localhost/told/photo/{p[1]}", "Red \"delta\"", "Over the dunes, at noon."), (Canonical(single), Meta(single, "og:title"), Meta(single, "description")));
        Assert.NotEqual(Meta(html, "og:image"), Meta(single, "og:image"));
        Assert.Equal("A photograph of “Told & shared”", Meta(await visitor.GetStringAsync($"/told/photo/{p[0]}"), "description"));

        // The start page tells of the site; what is not there, and what is not for everybody, of nothing.
        var start = await visitor.GetStringAsync("/");
        Assert.Equal(("http://localhost/", "Trial"), (Canonical(start), Meta(start, "og:title")));
        Assert.Null(Canonical(await (await visitor.GetAsync("/nowhere")).Content.ReadAsStringAsync()));
        var preview = await owner.GetStringAsync($"/preview/{page}");
        Assert.Null(Canonical(preview));
        Assert.DoesNotContain("ld+json", preview, StringComparison.Ordinal);
        Assert.Contains("Disallow: /workroom", await visitor.GetStringAsync("/robots.txt"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_photos_of_a_page_are_described_for_programs_and_nothing_written_ends_the_description()
    {
        var (site, owner, visitor, p) = await StartAsync(2);
        await using var _ = site;
        var album = await MakeAsync(owner, "All", p);
        foreach (var (field, text) in ((string, string)[])
            [("title", "</script><script>alert(1)</script>"), ("caption", "<!--"), ("creator", "Ines Calloway"), ("credit", "Marram Bay Kite Guild"), ("copyright", "© 2026 Guild"), ("licence", "https://creativecommons.org/licenses/by/4.0/"), ("place", "Marram Bay")])
        {
            await WriteAsync(owner, p[0], field, text);
        }

        await owner.ShownAsync(null, "told", Drafts.Page("</script><img src=x>", Drafts.Photos(Drafts.Source("albums", albums: [album]), press: Drafts.Press(words: ["place"]))));
        var html = await visitor.GetStringAsync("/told");
        Assert.DoesNotContain("<img src=x>", html, StringComparison.Ordinal);
        Assert.DoesNotContain("<script>alert", html, StringComparison.Ordinal);
        var gallery = DataOf(html);
        Assert.Equal(("ImageGallery", "</script><img src=x>", "http://localhost/told"), (gallery.GetProperty("@type").GetString(), gallery.GetProperty("name").GetString(), gallery.GetProperty("url").GetString()));
        Assert.Equal(2, gallery.GetProperty("image").GetArrayLength());
        var image = DataOf(await visitor.GetStringAsync($"/told/photo/{p[0]}"));
        Assert.Equal("https://schema.org", image.GetProperty("@context").GetString());
        Assert.Equal("ImageObject", image.GetProperty("@type").GetString());
        Assert.Equal(("Ines Calloway", "Marram Bay Kite Guild", "© 2026 Guild", "https://creativecommons.org/licenses/by/4.0/", "Marram Bay"), (
            image.GetProperty("creator").GetProperty("name").GetString(), image.GetProperty("creditText").GetString(), image.GetProperty("copyrightNotice").GetString(), image.GetProperty("license").GetString(),
            image.GetProperty("contentLocation").GetProperty("name").GetString()));
        // What it points at is there, as large as it says.
        foreach (var name in (string[])["contentUrl", "thumbnailUrl", "url", "acquireLicensePage"])
        {
            Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, new Uri(image.GetProperty(name).GetString()!).PathAndQuery));
        }

        // Where it is not told where a photo was taken, programs are not told, either.
        await WriteAsync(owner, p[1], "place", "Marram Bay");
        await (await StandAsync(owner, album, [await CategoryAsync(owner, "Kites")])).ReadAsync();
        Assert.False(DataOf(await visitor.GetStringAsync("/album/all")).GetProperty("image")[1].TryGetProperty("contentLocation", out JsonElement _));
    }

    [Fact]
    public async Task The_picture_beside_a_link_is_of_a_form_that_everybody_reads_and_of_what_everyone_may_see()
    {
        var (site, owner, visitor, p) = await StartAsync(2);
        await using var _ = site;
        async Task<string> CardAsync(string photo) => $"/i/{(await (await owner.GetAsync($"/api/photos/{photo}")).ReadAsync()).GetProperty("picture").GetString()}/1-card.jpg";
        var (seen, unseen) = (await CardAsync(p[0]), await CardAsync(p[1]));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, seen));
        await owner.ShownAsync(null, "told", Drafts.Page("Told", Drafts.Photos(await MakeAsync(owner, "One", [p[0]]))));
        var card = await visitor.GetAsync(seen);
        Assert.Equal((HttpStatusCode.OK, "image/jpeg", "public, max-age=31536000, immutable"), (card.StatusCode, card.Content.Headers.ContentType!.MediaType, card.Headers.CacheControl!.ToString()));
        // The marks that a JPEG begins with (ITU-T T.81, B.1.1.3).
        Assert.Equal([0xFF, 0xD8, 0xFF], (await card.Content.ReadAsByteArrayAsync())[..3]);
        var again = new HttpRequestMessage(HttpMethod.Get, seen) { Headers = { IfNoneMatch = { card.Headers.ETag! } } };
        Assert.Equal(HttpStatusCode.NotModified, (await visitor.SendAsync(again)).StatusCode);
        foreach (var nothing in (string[])[unseen, seen.Replace("/1-", "/2-", StringComparison.Ordinal), "/i/nothing/1-card.jpg"])
        {
            Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, nothing));
        }

        await site.VerifyAsync();
    }

    [Fact]
    public async Task No_level_of_headings_is_left_out_and_a_category_without_words_is_told_of_by_its_albums()
    {
        var (site, owner, visitor, p) = await StartAsync(1);
        await using var _ = site;
        static object Heading(string words, string size, int number) => Drafts.Block("heading", number, new { words, size });
        await owner.ShownAsync(null, "told", Drafts.Page("Told", Heading("One", "small", 2), Heading("Two", "small", 3), Heading("Three", "large", 4), Heading("Four", "small", 5), Heading("Five", "middle", 6)));
        Assert.Equal(["h1", "h2", "h2", "h2", "h3", "h2"], Regex.Matches(await visitor.GetStringAsync("/told"), "<(h[1-6])").Select(m => m.Groups[1].Value));
        var kites = await CategoryAsync(owner, "Kites");
        await (await StandAsync(owner, await MakeAsync(owner, "Low tide", p), [kites])).ReadAsync();
        Assert.Equal("Low tide", Meta(await visitor.GetStringAsync("/category/kites"), "description"));
    }

    [Fact]
    public void The_beginning_of_a_text_is_one_line_that_ends_at_a_word() =>
        Gen.OneOf(Gen.String[Gen.Char["abc  \n.,é"], 0, 600], Gen.String[0, 400]).Sample(words =>
        {
            var begun = Told.Begin(words);
            Assert.True(begun.Length <= 200);
            Assert.DoesNotContain('\n', begun);
            Assert.False(begun.EndsWith("  ", StringComparison.Ordinal));
            var whole = string.Join(' ', words.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
            Assert.True(begun == whole || (begun.EndsWith('…') && whole.StartsWith(begun[..^1], StringComparison.Ordinal)));
        });
}
