using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace Jovitar.Server.Tests;

/// <summary>How the site looks: worked on as a draft, put on every page at once, and taken back.</summary>
public sealed partial class ThemePageTests
{
    static object Light(string? ground = null, string? text = null, string? accent = null) => new { ground, text, accent, line = (string?)null };

    static async Task<JsonElement> ReadAsync(HttpClient owner) => await (await owner.GetAsync("/api/theme")).ReadAsync();

    static long EditedOf(JsonElement theme) => theme.GetProperty("opened").GetProperty("edited").GetInt64();

    static async Task<JsonElement> WriteAsync(HttpClient owner, object theme) =>
        await (await owner.SendAsync(HttpMethod.Put, "/api/theme", theme, EditedOf(await ReadAsync(owner)))).ReadAsync();

    static async Task<JsonElement> PublishAsync(HttpClient owner) =>
        await (await owner.SendAsync(HttpMethod.Post, "/api/theme/publishing", new { }, EditedOf(await ReadAsync(owner)))).ReadAsync();

    [GeneratedRegex("<style>(:root\\{.*?)</style>")]
    private static partial Regex Styles();

    /// <summary>The values of the theme that a page came with, after the policy let its style sheet be.</summary>
    static async Task<string> StyleAsync(HttpClient visitor, string path)
    {
        var answer = await visitor.GetAsync(path);
        var css = Styles().Match(await answer.Content.ReadAsStringAsync()).Groups[1].Value;
        Assert.Contains($"'sha256-{Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(css)))}'", answer.Headers.GetValues("Content-Security-Policy").Single(), StringComparison.Ordinal);
        return css;
    }

    [Fact]
    public async Task A_look_is_a_draft_until_it_is_put_on_the_site_and_then_it_is_on_every_page()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, page, address) = await site.PublishedAsync(owner, 1);
        var visitor = site.Visitor();
        string[] paths = [$"/{address}", $"/{address}/photo/{photos[0]}", "/", "/nothing-here"];
        foreach (var path in paths)
        {
            Assert.Contains("--paper:#fafafa;--ink:#161616", await StyleAsync(visitor, path), StringComparison.Ordinal);
        }

        var tag = (await visitor.GetAsync($"/{address}")).Headers.ETag!.Tag;
        var written = (await WriteAsync(owner, Drafts.Theme("chapbook", corners: new { topLeft = 3, topRight = 0, bottomRight = 99, bottomLeft = 0 }))).GetProperty("theme");
        Assert.False(written.GetProperty("opened").GetProperty("isPublished").GetBoolean());
        Assert.Equal(60, written.GetProperty("look").GetProperty("corners").GetProperty("bottomRight").GetInt32());
        // Visitors still have it as it was; staff see the draft where they ask for it.
        Assert.Equal(tag, (await visitor.GetAsync($"/{address}")).Headers.ETag!.Tag);
        Assert.Contains("--paper:#fafafa", await StyleAsync(owner, $"/preview/{page}"), StringComparison.Ordinal);
        Assert.Contains("--paper:#f5eedf", await StyleAsync(owner, $"/preview/{page}?look=draft"), StringComparison.Ordinal);

        var published = await PublishAsync(owner);
        Assert.True(published.GetProperty("theme").GetProperty("opened").GetProperty("isPublished").GetBoolean());
        Assert.NotEqual(tag, (await visitor.GetAsync($"/{address}")).Headers.ETag!.Tag);
        foreach (var path in paths)
        {
            var css = await StyleAsync(visitor, path);
            Assert.Contains("--paper:#f5eedf;--ink:#2c2018", css, StringComparison.Ordinal);
            Assert.Contains("--corners:3px 0px 60px 0px", css, StringComparison.Ordinal);
            Assert.Contains("--headings:\"Fraunces Variable\",serif", css, StringComparison.Ordinal);
        }

        // The fonts that are asked for ahead of time are those of the theme, and are there.
        var html = await visitor.GetStringAsync($"/{address}");
        var fonts = Regex.Matches(html, "<link rel=\"preload\" href=\"([^\"]+)\" as=\"font\"").Select(m => m.Groups[1].Value).ToArray();
        Assert.Equal(["fraunces", "literata"], fonts.Select(f => Regex.Match(f, "/assets/([a-z]+)-").Groups[1].Value).Order());
        Assert.All(fonts, f => Assert.Equal(HttpStatusCode.OK, visitor.GetAsync(f).Result.StatusCode));
        Assert.Contains("<body class=\"choices-line head-middle\">", html, StringComparison.Ordinal);

        // Taken back, visitors have what they had.
        await owner.UndoAsync(published);
        Assert.Contains("--paper:#fafafa", await StyleAsync(visitor, $"/{address}"), StringComparison.Ordinal);
        Assert.False((await ReadAsync(owner)).GetProperty("opened").GetProperty("isPublished").GetBoolean());
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_site_is_light_dark_or_as_the_visitors_device_is()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var visitor = site.Visitor();
        await WriteAsync(owner, Drafts.Theme("catalogue", "dark"));
        await PublishAsync(owner);
        var css = await StyleAsync(visitor, "/");
        Assert.StartsWith(":root{--paper:#161616", css, StringComparison.Ordinal);
        Assert.Contains("color-scheme:dark", css, StringComparison.Ordinal);
        Assert.DoesNotContain("@media", css, StringComparison.Ordinal);
        await WriteAsync(owner, Drafts.Theme("catalogue", "device"));
        await PublishAsync(owner);
        css = await StyleAsync(visitor, "/");
        Assert.StartsWith(":root{--paper:#fafafa", css, StringComparison.Ordinal);
        Assert.Matches("@media \\(prefers-color-scheme:dark\\)\\{:root\\{--paper:#161616", css);
    }

    [Fact]
    public async Task What_reads_badly_is_said_and_what_is_no_colour_is_refused()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var written = (await WriteAsync(owner, Drafts.Theme("catalogue", light: Light(text: "#999999")))).GetProperty("theme");
        var weak = written.GetProperty("unreadable").EnumerateArray().Single();
        Assert.Equal(("text", "#737373"), (weak.GetProperty("fault").GetProperty("part").GetString(), weak.GetProperty("fault").GetProperty("nearest").GetString()));
        foreach (var colour in (string[])["red", "#fff", "#fafafa}body{display:none", ""])
        {
            var answer = await owner.SendAsync(HttpMethod.Put, "/api/theme", Drafts.Theme("catalogue", light: Light(ground: colour)), EditedOf(await ReadAsync(owner)));
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            Assert.Contains("A colour is said by #", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }

        // What there is none of has no number either.
        foreach (var (field, value) in new (string, object)[] { ("name", 99), ("scheme", -1), ("headings", 4000) })
        {
            var sent = JsonSerializer.Deserialize<Dictionary<string, object?>>(JsonSerializer.Serialize(Drafts.Theme("catalogue")))!;
            sent[field] = value;
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.SendAsync(HttpMethod.Put, "/api/theme", sent, EditedOf(await ReadAsync(owner)))).StatusCode);
        }

        Assert.Equal("#999999", (await ReadAsync(owner)).GetProperty("opened").GetProperty("draft").GetProperty("light").GetProperty("text").GetString());
    }

    [Fact]
    public async Task Of_two_who_change_it_at_once_one_is_told_and_strangers_change_nothing()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var before = EditedOf(await ReadAsync(owner));
        var answers = await Task.WhenAll(Enumerable.Range(0, 8).Select(i => owner.SendAsync(HttpMethod.Put, "/api/theme", Drafts.Theme(i % 2 == 0 ? "bench" : "ledger"), before)));
        Assert.Equal(1, answers.Count(a => a.StatusCode == HttpStatusCode.OK));
        Assert.Equal(7, answers.Count(a => a.StatusCode == HttpStatusCode.PreconditionFailed));
        Assert.Equal(before + 1, EditedOf(await ReadAsync(owner)));
        var stale = await owner.SendAsync(HttpMethod.Post, "/api/theme/publishing", new { }, before);
        Assert.Equal(HttpStatusCode.PreconditionFailed, stale.StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await site.Visitor().GetAsync("/api/theme")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await site.Visitor().PutAsJsonAsync("/api/theme", Drafts.Theme("bench"))).StatusCode);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_page_that_looks_otherwise_does_so_alone_and_has_all_else_from_the_site()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, photos, _, plain) = await site.PublishedAsync(owner, 1);
        var visitor = site.Visitor();
        var before = await StyleAsync(visitor, $"/{plain}");
        var look = Drafts.Look(light: Light(ground: "#102030", text: "#f0f0f0"), choices: "pill", edge: 99, shadow: "held", viewer: "page");
        var page = await owner.ShownAsync(null, "night", Drafts.Post("Night", null, [Drafts.Photos(album)], look: look));
        foreach (var path in (string[])["/night", $"/night/photo/{photos[0]}"])
        {
            var css = await StyleAsync(visitor, path);
            Assert.Contains("--paper:#102030;--ink:#f0f0f0", css, StringComparison.Ordinal);
            Assert.Contains("color-scheme:dark", css, StringComparison.Ordinal);
            Assert.Contains("--edge:24px;--shadow:0 2px 4px", css, StringComparison.Ordinal);
            Assert.Contains("--stage:var(--paper)", css, StringComparison.Ordinal);
            Assert.Contains("<body class=\"choices-pill head-sides\">", await visitor.GetStringAsync(path), StringComparison.Ordinal);
        }

        Assert.Equal(before, await StyleAsync(visitor, $"/{plain}"));

        // The site looks otherwise: what the page says of itself stands, and all else follows.
        await WriteAsync(owner, Drafts.Theme("chapbook", light: Light(accent: "#005a9c"), edge: 3));
        await PublishAsync(owner);
        var after = await StyleAsync(visitor, "/night");
        Assert.Contains("--paper:#102030;--ink:#f0f0f0", after, StringComparison.Ordinal);
        Assert.Contains("--accent:#005a9c", after, StringComparison.Ordinal);
        Assert.Contains("--headings:Fraunces", after.Replace("\"", "", StringComparison.Ordinal), StringComparison.Ordinal);
        Assert.Contains("--edge:24px", after, StringComparison.Ordinal);
        Assert.Contains("--edge:3px", await StyleAsync(visitor, $"/{plain}"), StringComparison.Ordinal);

        // What cannot be read there is said of the page; of a colour that is none nothing is kept.
        var notes = await (await owner.GetAsync($"/api/pages/{page}/notes")).ReadAsync();
        Assert.Equal("accent", Assert.Single(notes.GetProperty("unreadable").EnumerateArray()).GetProperty("fault").GetProperty("part").GetString());
        Assert.Equal("fraunces", notes.GetProperty("look").GetProperty("headings").GetString());
        var refused = await owner.DraftAsync(page, "night", Drafts.Post("Night", null, [], look: Drafts.Look(light: Light(ground: "red"))));
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Equal(Core.Themes.Colour.Unknown, (await refused.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("fields").GetProperty("look").GetString());
    }

    [GeneratedRegex("#(b\\d+)\\{(.*?)\\}")]
    private static partial Regex RulesOfBlocks();

    [Fact]
    public async Task A_block_that_looks_otherwise_does_so_alone_and_keeps_the_colours_of_what_lies_behind_it()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, _, _, _) = await site.PublishedAsync(owner, 1);
        var visitor = site.Visitor();
        var look = Drafts.Look(light: Light(ground: "#102030", text: "#553300", accent: "#f0f0f0"), headings: "caveat", choices: "box", edge: 4, gap: 40);
        var page = await owner.ShownAsync(
            null, "parts",
            Drafts.Post(
                "Parts", null,
                [
                    Drafts.Text("As the page is", 2), Drafts.Looking(look, Drafts.Text("Otherwise", 3)), Drafts.Looking(look, Drafts.Text("On a ground", 4), Drafts.Ground("colour", "#203040")),
                    Drafts.Looking(Drafts.Look(choices: "pill"), Drafts.Photos(album, number: 5)),
                ]));
        var html = await visitor.GetStringAsync("/parts");
        Assert.Equal(["b1 Otherwise", "b2 On a ground"], Regex.Matches(html, "<div class=\"block words full left otherwise own-box\" id=\"(b\\d)\"[^>]*><p>(.*?)</p>").Select(m => $"{m.Groups[1].Value} {m.Groups[2].Value}"));
        Assert.Contains("<div class=\"block words full left\"><p>As the page is", html, StringComparison.Ordinal);
        Assert.Contains("photos full left otherwise own-pill\" id=\"b3\"", html, StringComparison.Ordinal);
        Assert.Contains("/caveat-latin-wght-", html, StringComparison.Ordinal);
        var rules = RulesOfBlocks().Matches(await StyleAsync(visitor, "/parts")).ToDictionary(m => m.Groups[1].Value, m => m.Groups[2].Value);
        // What lies behind it, and how far apart photos stand, is said elsewhere.
        Assert.Contains("--paper:#fafafa;--ink:#553300", rules["b1"], StringComparison.Ordinal);
        Assert.Equal(["--headings:\"Caveat Variable\",cursive", "--edge:4px"], rules["b2"].Split(';'));
        Assert.EndsWith(rules["b2"], rules["b1"], StringComparison.Ordinal);
        Assert.False(rules.ContainsKey("b3"));

        // Light or dark as a device is, it is itself in both.
        await WriteAsync(owner, Drafts.Theme("catalogue", "device"));
        await PublishAsync(owner);
        Assert.Matches("#b1\\{--paper:#fafafa;--ink:#553300[^}]*\\}@media \\(prefers-color-scheme:dark\\)\\{#b1\\{--paper:#161616;--ink:#ededed", await StyleAsync(visitor, "/parts"));

        // What reads badly in it is said of it, and not what reads badly on the whole page.
        var notes = (await (await owner.GetAsync($"/api/pages/{page}/notes")).ReadAsync()).GetProperty("blocks").EnumerateArray().ToDictionary(b => b.GetProperty("block").GetString()![..8]);
        Assert.Equal("accent", Assert.Single(notes["00000003"].GetProperty("unreadable").EnumerateArray()).GetProperty("fault").GetProperty("part").GetString());
        Assert.Empty(notes["00000004"].GetProperty("unreadable").EnumerateArray());
        Assert.Equal("caveat", notes["00000004"].GetProperty("look").GetProperty("headings").GetString());
    }

    [Fact]
    public async Task Photos_are_as_far_apart_as_theme_page_or_block_have_them()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, _, _, _) = await site.PublishedAsync(owner, 3);
        var visitor = site.Visitor();
        object Grid(int? gap) => Drafts.Photos(Drafts.Source("albums", albums: [album]), layout: Drafts.Layout("grid", 200, gap));
        await owner.ShownAsync(null, "of-the-site", Drafts.Page("Site", Grid(null)));
        await owner.ShownAsync(null, "of-the-page", Drafts.Post("Page", null, [Grid(null)], look: Drafts.Look(gap: 30)));
        var block = await owner.ShownAsync(null, "of-the-block", Drafts.Post("Block", null, [Grid(0)], look: Drafts.Look(gap: 30)));
        await (await StandingSteps.StandAsync(owner, album, [await StandingSteps.CategoryAsync(owner, "Kites")])).ReadAsync();
        var own = await site.ScalarAsync<string>($"select address from album where id = '{album}'");
        // Rows fill the width whatever is between them: what the view says of the first two tells how far apart they stand.
        async Task<double> ApartAsync(HttpClient who, string path)
        {
            var boxes = (await (await who.GetAsync($"{path}?width=900")).ReadAsync()).GetProperty("frames").EnumerateArray().Select(f => f.GetProperty("box")).ToArray();
            return Math.Round(boxes[1].GetProperty("x").GetDouble() - boxes[0].GetProperty("x").GetDouble() - boxes[0].GetProperty("width").GetDouble(), 1);
        }

        async Task AreAsync(params double[] expected) => Assert.Equal(expected, (double[])[await ApartAsync(visitor, "/site/view/of-the-site"), await ApartAsync(visitor, "/site/view/of-the-page"), await ApartAsync(visitor, "/site/view/of-the-block"), await ApartAsync(visitor, $"/site/view/album/{own}")]);

        await AreAsync(6, 30, 0, 6);
        await WriteAsync(owner, Drafts.Theme("catalogue", gap: 11));
        Assert.Equal((0, 11), (await ApartAsync(owner, $"/preview/{block}/look/view"), (await ReadAsync(owner)).GetProperty("look").GetProperty("gap").GetInt32()));
        await AreAsync(6, 30, 0, 6);
        await PublishAsync(owner);
        await AreAsync(11, 30, 0, 11);
    }

    [Fact]
    public async Task A_page_kept_before_pages_had_a_look_has_the_sites()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, _, page, address) = await site.PublishedAsync(owner, 1);
        await site.WriteAsync("update page set draft = (draft - 'look' #- '{blocks,0,frame,look}') || '{\"schema\": 9}', published = (published - 'look' #- '{blocks,0,frame,look}') || '{\"schema\": 9}'");
        var opened = await owner.PageAsync(page);
        Assert.Equal(JsonValueKind.Null, opened.GetProperty("draft").GetProperty("look").GetProperty("edge").ValueKind);
        Assert.Equal(JsonValueKind.Null, opened.GetProperty("draft").GetProperty("blocks")[0].GetProperty("frame").GetProperty("look").GetProperty("edge").ValueKind);
        Assert.Contains("--paper:#fafafa", await StyleAsync(site.Visitor(), $"/{address}"), StringComparison.Ordinal);
    }
}
