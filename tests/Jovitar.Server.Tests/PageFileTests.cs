using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Files on pages: public with the page and with it alone, played in parts, and gone without a gap.</summary>
public sealed class PageFileTests
{
    static async Task<string> FileAsync(HttpClient owner, string name, byte[] bytes)
    {
        await owner.BringAsync(await owner.IntakeAsync(), name, bytes);
        return (await (await owner.GetAsync($"/api/files?typed={Uri.EscapeDataString(name)}")).ReadAsync()).GetProperty("files")[0].GetProperty("id").GetString()!;
    }

    static byte[] Pdf => [.. "%PDF-1.7\n"u8, .. new byte[3000]];

    static byte[] Sound => [.. "OggS"u8, .. Enumerable.Range(0, 5000).Select(i => (byte)i)];

    static byte[] Film => [0x1A, 0x45, 0xDF, 0xA3, .. "....webm"u8, .. new byte[4000]];

    static Dictionary<string, object?> Offers(params (string File, string Words)[] files) => Drafts.Block("files", 2, new { files = files.Select(f => new { file = f.File, words = f.Words }).ToArray() });

    static Dictionary<string, object?> Video(string from, string? file = null, string address = "", string? still = null) =>
        Drafts.Block("video", 4, new { from, file, address, shape = "wide", still, line = "The night" });

    static async Task<string> PageAsync(HttpClient owner, string title) => (await (await owner.PostAsJsonAsync("/api/pages", new { title })).ReadAsync()).GetProperty("id").GetString()!;

    [Fact]
    public async Task A_file_is_public_with_the_page_it_stands_on_and_no_longer()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (rules, sound) = (await FileAsync(owner, "rules 2026.pdf", Pdf), await FileAsync(owner, "wind.ogg", Sound));
        var page = await PageAsync(owner, "To save");
        await (await owner.DraftAsync(page, "to-save", Drafts.Page(
            "To save", Offers((rules, "The rules, on one page"), (sound, "")), Drafts.Block("sound", 3, new { file = sound, line = "What it sounds like" })))).ReadAsync();
        var visitor = site.Visitor();
        var address = $"/file/{rules}/rules%202026.pdf";
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync(address)).StatusCode);
        // Staff see the draft as it will be.
        Assert.Equal(HttpStatusCode.OK, (await owner.GetAsync(address)).StatusCode);
        await (await owner.PublishAsync(page)).ReadAsync();
        var html = await visitor.GetStringAsync("/to-save");
        Assert.Contains($"<a href=\"{address}\" download>The rules, on one page</a> <span>PDF, 3 KB</span>", html, StringComparison.Ordinal);
        Assert.Contains($"<audio controls preload=\"none\" src=\"/file/{sound}/wind.ogg\"", html, StringComparison.Ordinal);
        var answer = await visitor.GetAsync(address);
        Assert.Equal("application/pdf", answer.Content.Headers.ContentType!.MediaType);
        Assert.Equal(Pdf, await answer.Content.ReadAsByteArrayAsync());
        Assert.Contains("script-src 'none'", answer.Headers.GetValues("Content-Security-Policy").Single(), StringComparison.Ordinal);
        // Its original is still for staff alone, and a player asks for parts (RFC 9110 §14.2).
        Assert.Equal(HttpStatusCode.Unauthorized, (await visitor.GetAsync($"/api/files/{rules}/content")).StatusCode);
        using var part = new HttpRequestMessage(HttpMethod.Get, $"/file/{sound}/wind.ogg") { Headers = { Range = new RangeHeaderValue(100, 199) } };
        var ranged = await visitor.SendAsync(part);
        Assert.Equal(HttpStatusCode.PartialContent, ranged.StatusCode);
        Assert.Equal(Sound[100..200], await ranged.Content.ReadAsByteArrayAsync());

        // Staff read the names of several at once, of those that are there.
        var named = (await (await owner.GetAsync($"/api/files/named?id={rules}&id={Guid.NewGuid()}&id={sound}")).ReadAsync()).EnumerateArray().Select(f => f.GetProperty("fileName").GetString());
        Assert.Equal(["rules 2026.pdf", "wind.ogg"], named.Order());
        // In the bin it is gone for visitors, the page closes the gap, and who threw it is told where it stood; taken back, all is as before.
        var thrown = await (await owner.PostAsJsonAsync("/api/bin", new { files = new[] { rules } })).ReadAsync();
        Assert.Equal(["To save"], thrown.GetProperty("lacking").GetProperty("titles").EnumerateArray().Select(t => t.GetString()));
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync(address)).StatusCode);
        Assert.DoesNotContain(rules, await visitor.GetStringAsync("/to-save"), StringComparison.Ordinal);
        var lacking = (await (await owner.GetAsync("/api/desk")).ReadAsync()).GetProperty("lacking").EnumerateArray().Single();
        Assert.Equal(("To save", 1), (lacking.GetProperty("title").GetString(), lacking.GetProperty("things").GetInt32()));
        await owner.UndoAsync(thrown);
        Assert.Contains(rules, await visitor.GetStringAsync("/to-save"), StringComparison.Ordinal);

        await (await owner.PostAsJsonAsync($"/api/pages/{page}/withdraw", new { })).ReadAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync(address)).StatusCode);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_link_makes_a_file_public_wherever_it_stands()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var (rules, plan) = (await FileAsync(owner, "rules.pdf", Pdf), await FileAsync(owner, "plan (1).pdf", [.. Pdf, 1]));
        var page = await PageAsync(owner, "Links");
        var address = $"/file/{plan}/plan%20%281%29.pdf";
        await (await owner.DraftAsync(page, "links", Drafts.Page(
            "Links", Drafts.Text($"Look at [the plan]({address})."), Drafts.Block("button", 3, new { words = "The rules", link = new { kind = "file", thing = rules, address = "" } })))).ReadAsync();
        // In the draft it leads there already.
        Assert.Contains($"class=\"button\" href=\"/file/{rules}/rules.pdf\"", await owner.GetStringAsync($"/preview/{page}"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await site.Visitor().GetAsync(address)).StatusCode);
        await (await owner.PublishAsync(page)).ReadAsync();
        var html = await site.Visitor().GetStringAsync("/links");
        Assert.Contains($"href=\"{address}\"", html, StringComparison.Ordinal);
        Assert.Contains($"href=\"/file/{rules}/rules.pdf\"", html, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, (await site.Visitor().GetAsync(address)).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await site.Visitor().GetAsync($"/file/{rules}/whatever")).StatusCode);
        await (await owner.PostAsJsonAsync("/api/bin", new { files = new[] { rules } })).ReadAsync();
        Assert.DoesNotContain("class=\"button\"", await site.Visitor().GetStringAsync("/links"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_video_of_ones_own_waits_behind_its_still_and_one_elsewhere_names_its_host_in_the_policy_alone()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 1);
        var film = await FileAsync(owner, "night.webm", Film);
        var page = await PageAsync(owner, "Night");
        async Task<(string Html, string Policy)> PublishedAsync(Dictionary<string, object?> video)
        {
            await (await owner.DraftAsync(page, "night", Drafts.Page("Night", video))).ReadAsync();
            await (await owner.PublishAsync(page)).ReadAsync();
            var answer = await site.Visitor().GetAsync("/night");
            return (await answer.Content.ReadAsStringAsync(), answer.Headers.GetValues("Content-Security-Policy").Single());
        }

        var (html, policy) = await PublishedAsync(Video("file", film));
        Assert.Contains($"<video controls preload=\"metadata\" src=\"/file/{film}/night.webm\" aria-label=\"The night\">", html, StringComparison.Ordinal);
        Assert.Contains("media-src 'self' ;", policy, StringComparison.Ordinal);
        (html, _) = await PublishedAsync(Video("file", film, still: p[0]));
        Assert.DoesNotContain("<video", html, StringComparison.Ordinal);
        Assert.Contains($"<a class=\"play\" href=\"/file/{film}/night.webm\" data-play=\"video\"", html, StringComparison.Ordinal);
        Assert.Contains("sizes=\"(max-width:599px) 100vw,100vw\"", html, StringComparison.Ordinal);
        (html, policy) = await PublishedAsync(Video("address", film, "https://films.example/watch/1"));
        Assert.Contains("<a class=\"play\" href=\"https://films.example/watch/1\" data-play=\"frame\" target=\"_blank\" rel=\"noreferrer\"", html, StringComparison.Ordinal);
        Assert.Contains("It is loaded from films.example once you press play", html, StringComparison.Ordinal);
        Assert.Contains("frame-src 'self' https://films.example;", policy, StringComparison.Ordinal);
        Assert.DoesNotContain("<iframe", html, StringComparison.Ordinal);
        // While the video lies elsewhere, the file is not public.
        Assert.Equal(HttpStatusCode.NotFound, (await site.Visitor().GetAsync($"/file/{film}/night.webm")).StatusCode);
        (html, policy) = await PublishedAsync(Video("address", address: "https://films.münchen.example:8443/1.mp4"));
        Assert.Contains("data-play=\"video\"", html, StringComparison.Ordinal);
        Assert.Contains("media-src 'self' https://films.xn--mnchen-3ya.example:8443;", policy, StringComparison.Ordinal);
        // A sound is no video: what cannot be played there does not stand there.
        (html, _) = await PublishedAsync(Video("file", await FileAsync(owner, "wind.ogg", Sound)));
        Assert.DoesNotContain("class=\"film", html, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_page_without_the_sites_head_and_as_wide_as_the_window_says_how_one_is_reached()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var page = await PageAsync(owner, "Reach us");
        object Contact(string phone, string mail) => Drafts.Block("contact", 2, new { name = "Kite <Guild>", where = "Tern Lane\n\nMarram Bay", phone, mail });
        await (await owner.DraftAsync(page, "reach-us", Drafts.Post("Reach us", null, [Contact("+44 1632 960417", "guild@marrambay.example")], wide: true, bare: true))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        var html = await site.Visitor().GetStringAsync("/reach-us");
        Assert.Contains("<body class=\"choices-line head-sides wide\">", html, StringComparison.Ordinal);
        Assert.DoesNotContain("site-head", html, StringComparison.Ordinal);
        Assert.Contains("<strong>Kite &lt;Guild&gt;</strong>", html, StringComparison.Ordinal);
        Assert.Contains("<span>Tern Lane</span>", html, StringComparison.Ordinal);
        Assert.Contains("<a href=\"tel:+441632960417\">+44 1632 960417</a>", html.Replace("&#x2B;", "+", StringComparison.Ordinal), StringComparison.Ordinal);
        Assert.Contains("<a href=\"mailto:guild@marrambay.example\">", html, StringComparison.Ordinal);
        var refused = await owner.DraftAsync(page, "reach-us", Drafts.Page("Reach us", Contact("ask Odile", "")));
        Assert.Contains("A telephone number has digits", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        foreach (var (block, lacking) in new[] { (Drafts.Block("files", 2, new { files = Array.Empty<object>() }), "files"), (Video("file"), "address"), (Video("file"), "line"), (Drafts.Block("sound", 2, new { file = (string?)null, line = "" }), "line") })
        {
            block[lacking] = null;
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.DraftAsync(page, "reach-us", Drafts.Page("Reach us", block))).StatusCode);
        }
    }

    [Fact]
    public async Task Who_throws_things_in_the_bin_is_told_on_which_pages_they_stood()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, _, _) = await site.PublishedAsync(owner, 3);
        foreach (var title in (string[])["B", "A", "C", "D"])
        {
            var page = await PageAsync(owner, $"Page {title}");
            await (await owner.DraftAsync(page, $"page-{title.ToLowerInvariant()}", Drafts.Page($"Page {title}", title == "C" ? Drafts.Photos(Drafts.Source("picked", photos: [p[2]])) : Drafts.Photos(album)))).ReadAsync();
            if (title != "D")
            {
                await (await owner.PublishAsync(page)).ReadAsync();
            }
        }

        static (string, int) Said(JsonElement done) =>
            (string.Join(", ", done.GetProperty("lacking").GetProperty("titles").EnumerateArray().Select(t => t.GetString())), done.GetProperty("lacking").GetProperty("pages").GetInt32());
        // By itself on one, in the album on three, of which one was made for it.
        var thrown = await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[2] } })).ReadAsync();
        Assert.Equal(("Page A, Page B, Page C", 4), Said(thrown));
        await owner.UndoAsync(thrown);
        Assert.Equal(("Page A, Page B", 2), Said(await (await owner.DeleteAsync($"/api/albums/{album}")).ReadAsync()));
        // A page that only leads to the album lacks none of its photos.
        var leading = await PageAsync(owner, "Page E");
        var kept = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Kept" })).ReadAsync()).GetProperty("id").GetString()!;
        await (await owner.PostAsJsonAsync($"/api/albums/{kept}/photos", new { photos = new[] { p[1] } })).ReadAsync();
        await (await owner.DraftAsync(leading, "page-e", Drafts.Page("Page E", Drafts.Block("button", 2, new { words = "There", link = new { kind = "album", thing = kept, address = "" } })))).ReadAsync();
        await (await owner.PublishAsync(leading)).ReadAsync();
        thrown = await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[1] } })).ReadAsync();
        Assert.Equal(("", 0), Said(thrown));
        await owner.UndoAsync(thrown);
        Assert.Equal(("Page E", 1), Said(await (await owner.DeleteAsync($"/api/albums/{kept}")).ReadAsync()));
        // What is only taken out of an album is in no bin.
        var other = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Other" })).ReadAsync()).GetProperty("id").GetString()!;
        await (await owner.PostAsJsonAsync($"/api/albums/{other}/photos", new { photos = p })).ReadAsync();
        Assert.Equal(("", 0), Said((await (await owner.PostAsJsonAsync($"/api/albums/{other}/photos/removal", new { photos = p })).ReadAsync()).GetProperty("done")));
    }
}
