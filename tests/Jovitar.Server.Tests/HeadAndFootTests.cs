using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using NetVips;

namespace Jovitar.Server.Tests;

/// <summary>A picture in place of the site's title, and words at the end of every page.</summary>
public sealed class HeadAndFootTests
{
    const string Drawing = "<?xml version=\"1.0\"?><svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 40 20\"><path d=\"M0 10 20 0 40 10 20 20z\" fill=\"#a03\"/><script>alert(1)</script></svg>";

    static long EditedOf(JsonElement theme) => theme.GetProperty("opened").GetProperty("edited").GetInt64();

    static async Task<long> EditedAsync(HttpClient owner) => EditedOf(await (await owner.GetAsync("/api/theme")).ReadAsync());

    static async Task<HttpResponseMessage> BringAsync(HttpClient owner, byte[] file)
    {
        using var body = new ByteArrayContent(file) { Headers = { ContentType = new MediaTypeHeaderValue("application/octet-stream") } };
        return await owner.PostAsync("/api/theme/logos", body);
    }

    static async Task<HttpResponseMessage> SayAsync(HttpClient owner, object? logo, string? foot) =>
        await owner.SendAsync(HttpMethod.Put, "/api/theme", Drafts.Theme("catalogue", logo: logo, foot: foot), await EditedAsync(owner));

    static async Task<JsonElement> PublishAsync(HttpClient owner) => await (await owner.SendAsync(HttpMethod.Post, "/api/theme/publishing", new { }, await EditedAsync(owner))).ReadAsync();

    static object Of(JsonElement logo, int high) => new { picture = logo.GetProperty("picture").GetString(), width = 9999, height = 1, high };

    static string? ImageIn(string html) => Regex.Match(html, "<a class=\"site-title\" href=\"/\"><img [^>]*>") is { Success: true } found ? found.Value : null;

    static byte[] Pixels(int width, int height)
    {
        // Red at the left, and at the right nothing at all.
        using var red = Image.Black(width / 2, height, bands: 4).Linear([1, 1, 1, 1], [200, 0, 0, 255]).Cast(Enums.BandFormat.Uchar).Copy(interpretation: Enums.Interpretation.Srgb);
        using var whole = red.Embed(0, 0, width, height, Enums.Extend.Black);
        return whole.PngsaveBuffer();
    }

    [Fact]
    public async Task A_picture_stands_in_place_of_the_title_when_it_is_put_on_the_site_and_not_before()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, page, address) = await site.PublishedAsync(owner, 1);
        var visitor = site.Visitor();
        var brought = await (await BringAsync(owner, Pixels(900, 300))).ReadAsync();
        // As sharp as a dense screen needs at the largest height, and no larger.
        Assert.Equal((720, 240), (brought.GetProperty("width").GetInt32(), brought.GetProperty("height").GetInt32()));
        var picture = $"/logo/{brought.GetProperty("picture").GetString()}.webp";
        var written = await (await SayAsync(owner, Of(brought, 40), null)).ReadAsync();
        // How large it is the server knows.
        Assert.Equal(720, written.GetProperty("theme").GetProperty("look").GetProperty("logo").GetProperty("width").GetInt32());

        // A draft: staff have it, visitors neither on a page nor by its address.
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync(picture)).StatusCode);
        Assert.Null(ImageIn(await visitor.GetStringAsync($"/{address}")));
        Assert.NotNull(ImageIn(await owner.GetStringAsync($"/preview/{page}?look=draft")));
        Assert.Equal("no-store", (await owner.GetAsync(picture)).Headers.CacheControl!.ToString());

        var published = await PublishAsync(owner);
        foreach (var path in (string[])[$"/{address}", $"/{address}/photo/{photos[0]}", "/", "/nowhere"])
        {
            var html = await (await visitor.GetAsync(path)).Content.ReadAsStringAsync();
            Assert.Contains($"src=\"{picture}\" alt=\"Trial\" width=\"120\" height=\"40\"", ImageIn(html), StringComparison.Ordinal);
        }

        var shown = await visitor.GetAsync(picture);
        Assert.Equal(("image/webp", "public, max-age=31536000, immutable"), (shown.Content.Headers.ContentType!.MediaType, shown.Headers.CacheControl!.ToString()));
        using var seen = Image.NewFromBuffer(await shown.Content.ReadAsByteArrayAsync());
        // What could be seen through still can be.
        Assert.Equal((720, 240, 255.0, 0.0), (seen.Width, seen.Height, seen[180, 120][3], seen[600, 120][3]));

        // Taken back, the title stands there again, and the picture is nobody's.
        await owner.UndoAsync(published);
        Assert.Null(ImageIn(await visitor.GetStringAsync($"/{address}")));
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync(picture)).StatusCode);
    }

    [Fact]
    public async Task What_is_no_picture_for_a_head_is_refused_in_words_and_a_drawing_becomes_nothing_but_a_picture()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var drawn = await (await BringAsync(owner, Encoding.UTF8.GetBytes(Drawing))).ReadAsync();
        Assert.Equal((480, 240), (drawn.GetProperty("width").GetInt32(), drawn.GetProperty("height").GetInt32()));
        var bytes = await owner.GetByteArrayAsync($"/logo/{drawn.GetProperty("picture").GetString()}.webp");
        Assert.Equal("RIFF"u8, bytes.AsSpan(0, 4));
        // A picture that is smaller stays as it is.
        Assert.Equal(30, (await (await BringAsync(owner, Pixels(60, 30))).ReadAsync()).GetProperty("height").GetInt32());

        var whole = Acts.Photo(1);
        var damaged = whole[..(whole.Length / 2)];
        var bomb = Encoding.UTF8.GetBytes("<?xml version=\"1.0\"?><!DOCTYPE svg [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;&a;&a;&a;&a;&a;\"><!ENTITY c SYSTEM \"file:///etc/passwd\">]><svg xmlns=\"http://www.w3.org/2000/svg\" width=\"10\" height=\"10\"><text>&c;&b;</text></svg>");
        foreach (var (what, file) in ((string, byte[])[])[("nothing", []), ("words", "words"u8.ToArray()), ("a long line", Pixels(1400, 200)), ("damaged", damaged), ("a huge drawing", "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"90000\" height=\"90000\"/>"u8.ToArray()), ("PDF", "%PDF-1.4 <svg"u8.ToArray())])
        {
            var refused = await BringAsync(owner, file);
            Assert.True(refused.StatusCode == HttpStatusCode.BadRequest, $"{what}: {refused.StatusCode}");
            Assert.Contains("no picture that can stand in the head", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }

        Assert.True((await BringAsync(owner, bomb)).StatusCode is HttpStatusCode.BadRequest or HttpStatusCode.OK);
        Assert.Equal(HttpStatusCode.BadRequest, (await SayAsync(owner, new { picture = new string('a', 64), width = 10, height = 10, high = 40 }, null)).StatusCode);
        foreach (var name in (string[])["", "\0", "../logo", new string('A', 64), new string('a', 65)])
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await SayAsync(owner, new { picture = name, width = 10, height = 10, high = 40 }, null)).StatusCode);
        }

        // A photograph weighs what it needs, a drawing keeps every edge.
        var photo = await (await BringAsync(owner, Acts.Photo(3, 1200, 300))).ReadAsync();
        Assert.InRange((await owner.GetByteArrayAsync($"/logo/{photo.GetProperty("picture").GetString()}.webp")).Length, 1000, 60_000);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync("/logo/nothing.webp")).StatusCode);
        var bounded = await (await SayAsync(owner, Of(drawn, 9000), null)).ReadAsync();
        Assert.Equal(120, bounded.GetProperty("theme").GetProperty("look").GetProperty("logo").GetProperty("high").GetInt32());
    }

    [Fact]
    public async Task Words_stand_at_the_end_of_every_page_and_can_do_no_harm_there()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, _, _, address) = await site.PublishedAsync(owner, 1);
        var visitor = site.Visitor();
        static string FootOf(string html) => Regex.Match(html, "<footer class=\"site-foot\">(.*?)</footer>", RegexOptions.Singleline).Groups[1].Value;
        Assert.Contains("Trial", FootOf(await visitor.GetStringAsync($"/{address}")), StringComparison.Ordinal);

        (await SayAsync(owner, null, "Kite Guild, **North Strand**\n\n[Write to us](mailto:guild@x.example) <script>alert(1)</script> [x](javascript:alert(1))")).EnsureSuccessStatusCode();
        await PublishAsync(owner);
        foreach (var path in (string[])[$"/{address}", "/", "/nowhere"])
        {
            var foot = FootOf(await (await visitor.GetAsync(path)).Content.ReadAsStringAsync());
            Assert.Contains("<strong>North Strand</strong>", foot, StringComparison.Ordinal);
            Assert.Contains("href=\"mailto:guild@x.example\"", foot, StringComparison.Ordinal);
            Assert.DoesNotContain("<script", foot, StringComparison.Ordinal);
            Assert.DoesNotContain("href=\"javascript", foot, StringComparison.Ordinal);
        }

        var tooLong = await SayAsync(owner, null, new string('a', 2001));
        Assert.Equal(HttpStatusCode.BadRequest, tooLong.StatusCode);
        Assert.Contains("longer than 2000", await tooLong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        // Nothing but spaces is nothing.
        (await SayAsync(owner, null, "  \n ")).EnsureSuccessStatusCode();
        await PublishAsync(owner);
        Assert.Contains("Trial", FootOf(await visitor.GetStringAsync($"/{address}")), StringComparison.Ordinal);
    }
}
