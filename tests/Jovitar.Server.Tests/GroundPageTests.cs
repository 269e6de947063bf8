using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;
using NetVips;

namespace Jovitar.Server.Tests;

/// <summary>What lies behind blocks of a page, and settings of blocks that are kept under names.</summary>
public sealed partial class GroundPageTests
{
    /// <summary>The page's own style sheet, behind that of the theme.</summary>
    [GeneratedRegex("<style>(#.*?)</style>")]
    private static partial Regex Style();

    static byte[] Grey(int grey)
    {
        using var even = (Image.Black(900, 600, bands: 3) + grey).Cast(Enums.BandFormat.Uchar).Copy(interpretation: Enums.Interpretation.Srgb);
        return even.JpegsaveBuffer(q: 90);
    }

    static async Task<string> PageAsync(HttpClient owner, string title) => (await (await owner.PostAsJsonAsync("/api/pages", new { title })).ReadAsync()).GetProperty("id").GetString()!;

    [Fact]
    public async Task A_photo_behind_words_is_public_with_the_page_and_they_are_light_or_dark_by_what_it_is()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        await owner.BringAsync(intake, "night.jpg", Grey(30));
        await owner.BringAsync(intake, "snow.jpg", Grey(240));
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 2);
        async Task<(string Id, string Picture)> PhotoAsync(string name) => ($"{await site.ScalarAsync<Guid>($"select id from photo where file_name = '{name}'")}", await site.ScalarAsync<string>($"select picture from photo where file_name = '{name}'"));
        var (night, snow) = (await PhotoAsync("night.jpg"), await PhotoAsync("snow.jpg"));
        var page = await PageAsync(owner, "Grounds");
        object Draft(string photo, string kind = "photo") => Drafts.Page(
            "Grounds",
            Drafts.On(Drafts.Ground(kind, photo: photo, veil: 20, height: "half"), Drafts.Text("On the photo."), "window"),
            Drafts.On(Drafts.Ground("asAbove"), Drafts.Text("On it, too.", 3)),
            Drafts.Text("On the page.", 4));
        await (await owner.DraftAsync(page, "grounds", Draft(night.Id))).ReadAsync();
        var visitor = site.Visitor();
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/i/{night.Picture}/1-480.webp")).StatusCode);
        await (await owner.PublishAsync(page)).ReadAsync();
        var answer = await visitor.GetAsync("/grounds");
        var html = await answer.Content.ReadAsStringAsync();
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync($"/i/{night.Picture}/1-480.webp")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/i/{snow.Picture}/1-480.webp")).StatusCode);
        // Two texts within it, the third behind it.
        var (from, end) = (html.IndexOf("<div id=\"g1\" class=\"ground window left half-high\"", StringComparison.Ordinal), html.IndexOf("On the page.", StringComparison.Ordinal));
        Assert.InRange(html.IndexOf("On it, too.", StringComparison.Ordinal), from, end);
        Assert.Contains("</div>", html[html.IndexOf("On it, too.", StringComparison.Ordinal)..end], StringComparison.Ordinal);
        Assert.Matches("<img class=\"backdrop\"[^>]* alt(=\"\")?[ >]", html[from..end]);
        // Light words beneath a dark veil; the sheet that says so may be used (CSP level 3, hash-source).
        var css = Style().Match(html).Groups[1].Value;
        Assert.Equal($"#g1{{--ink:{Colour.Paper};--behind:{Colour.Ink}}}#g1>.veil{{background:{Colour.Ink};opacity:0.2}}", css);
        Assert.Contains(Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(css))), answer.Headers.GetValues("Content-Security-Policy").Single(), StringComparison.Ordinal);

        await (await owner.DraftAsync(page, "grounds", Draft(snow.Id))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        Assert.Contains($"#g1{{--ink:{Colour.Ink};--behind:{Colour.Paper}}}", await visitor.GetStringAsync("/grounds"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync($"/i/{snow.Picture}/1-480.webp")).StatusCode);

        // Gone, it leaves no gap: the words stand on the page.
        var thrown = await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { snow.Id } })).ReadAsync();
        Assert.Equal(1, thrown.GetProperty("lacking").GetProperty("pages").GetInt32());
        html = await visitor.GetStringAsync("/grounds");
        Assert.DoesNotContain("class=\"ground", html, StringComparison.Ordinal);
        Assert.Contains("On it, too.", html, StringComparison.Ordinal);
        await NotFoundAsync();
        await owner.UndoAsync(thrown);
        Assert.Contains("class=\"ground", await visitor.GetStringAsync("/grounds"), StringComparison.Ordinal);
        // Another kind is kept with the photo that was said, but does not show it.
        await (await owner.DraftAsync(page, "grounds", Draft(snow.Id, "colour"))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        await NotFoundAsync();

        // That a picture is public is remembered for some seconds.
        async Task NotFoundAsync()
        {
            for (var tries = 0; tries < 100 && (await visitor.GetAsync($"/i/{snow.Picture}/1-480.webp")).StatusCode != HttpStatusCode.NotFound; tries++)
            {
                await Task.Delay(200);
            }

            Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/i/{snow.Picture}/1-480.webp")).StatusCode);
        }
    }

    [Fact]
    public async Task Words_that_cannot_be_read_over_their_ground_are_noticed_with_what_helps()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        await owner.BringAsync(await owner.IntakeAsync(), "grey.jpg", Grey(128));
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 1);
        var grey = $"{await site.ScalarAsync<Guid>("select id from photo")}";
        var page = await PageAsync(owner, "Grounds");
        async Task<System.Text.Json.JsonElement[]> OverAsync(params object[] blocks)
        {
            await (await owner.DraftAsync(page, "grounds", Drafts.Page("Grounds", blocks))).ReadAsync();
            return [.. (await (await owner.GetAsync($"/api/pages/{page}/notes")).ReadAsync()).GetProperty("blocks").EnumerateArray()
                .Select(b => b.GetProperty("over")).Where(o => o.ValueKind == System.Text.Json.JsonValueKind.Object)];
        }

        var over = (await OverAsync(
            Drafts.On(Drafts.Ground("photo", photo: grey, veil: 0, words: "#fafafa"), Drafts.Text("Faint.")),
            Drafts.On(Drafts.Ground("colour", "#e8dfce", words: "#c9b999"), Drafts.Text("Faint, too.", 3)),
            Drafts.On(Drafts.Ground("colour", "#e8dfce"), Drafts.Text("Clear.", 4))))!;
        Assert.Equal(3, over.Length);
        // A middle grey under nearly white: 3.9 : 1 to 3.8 : 1 as the picture was packed.
        Assert.InRange(over[0].GetProperty("ratio").GetDouble(), 3.5, 4.1);
        Assert.Equal((4.5, false), (over[0].GetProperty("wanted").GetDouble(), over[0].GetProperty("isEnough").GetBoolean()));
        var veil = over[0].GetProperty("veil").GetInt32();
        Assert.InRange(veil, 5, 20);
        Assert.Equal((false, true), (over[1].GetProperty("isEnough").GetBoolean(), over[2].GetProperty("isEnough").GetBoolean()));
        var nearest = over[1].GetProperty("nearest").GetString()!;
        Assert.True(Colour.Contrast(Colour.Parse(nearest)!.Value, Colour.Parse("#e8dfce")!.Value) >= 4.5);
        Assert.Equal(System.Text.Json.JsonValueKind.Null, over[1].GetProperty("veil").ValueKind);

        over = await OverAsync(
            Drafts.On(Drafts.Ground("photo", photo: grey, veil: veil, words: "#fafafa"), Drafts.Text("Faint.")),
            Drafts.On(Drafts.Ground("colour", "#e8dfce", words: nearest), Drafts.Text("Faint, too.", 3)));
        Assert.All(over, o => Assert.True(o.GetProperty("isEnough").GetBoolean()));
        var fault = await owner.DraftAsync(page, "grounds", Drafts.Page("Grounds", Drafts.On(Drafts.Ground("colour", "red;}"), Drafts.Text("x"))));
        Assert.Equal(HttpStatusCode.BadRequest, fault.StatusCode);
    }

    [Fact]
    public async Task A_page_that_was_made_before_there_were_grounds_opens_and_is_published_as_it_was()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, _, page, address) = await site.PublishedAsync(owner, 2);
        var before = await site.Visitor().GetStringAsync($"/{address}");
        foreach (var column in (string[])["draft", "published"])
        {
            await site.WriteAsync($"update page set {column} = replace(regexp_replace({column}::text, ', \"ground\": {{[^}}]*}}|\"ground\": {{[^}}]*}}, ', '', 'g'), '\"schema\": {PageContent.Current}', '\"schema\": 4')::jsonb, version = version + 1");
        }

        Assert.False(await site.ScalarAsync<bool>("select draft::text like '%\"ground\": {%' or published::text like '%\"ground\": {%' or draft ->> 'schema' <> '4' from page"));
        site.Process(workers: 0);
        Assert.Equal(before, await site.Visitor().GetStringAsync($"/{address}"));
        var opened = await owner.PageAsync(page);
        Assert.Equal("none", opened.GetProperty("draft").GetProperty("blocks")[0].GetProperty("frame").GetProperty("ground").GetProperty("kind").GetString());
        Assert.False(opened.GetProperty("changed").GetBoolean());
    }

    [Fact]
    public async Task Settings_are_kept_under_a_name_put_on_other_blocks_of_the_kind_and_let_go()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, _, _) = await site.PublishedAsync(owner, 3);
        async Task<string[]> NamesAsync() => [.. (await (await owner.GetAsync("/api/kept-settings")).ReadAsync()).GetProperty("settings").EnumerateArray().Select(s => s.GetProperty("name").GetString()!)];
        async Task<HttpResponseMessage> KeepAsync(string name, object block) => await owner.PostAsJsonAsync("/api/kept-settings", new { name, block });
        var wall = Drafts.On(Drafts.Ground("colour", "#161616"), Drafts.Photos(Drafts.Source("albums", albums: [album]), layout: Drafts.Layout("mosaic", 333, 2, chosen: [p[0]]), more: new { by = "button", step = 12 }, press: Drafts.Press("nothing", save: "full")), "window");
        await (await KeepAsync("Dark wall", wall)).ReadAsync();
        await (await KeepAsync("Aside", Drafts.On(Drafts.Ground("colour"), Drafts.Text("Not kept."), "quarter"))).ReadAsync();
        Assert.Equal(["Aside", "Dark wall"], await NamesAsync());
        var id = (await (await owner.GetAsync("/api/kept-settings")).ReadAsync()).GetProperty("settings")[1].GetProperty("id").GetString();

        var other = Drafts.Photos(Drafts.Source("picked", photos: [p[1], p[2]]), layout: Drafts.Layout("rows", chosen: [p[2]]), number: 9);
        var set = (await (await owner.PostAsJsonAsync($"/api/kept-settings/{id}/on", new { block = other })).ReadAsync()).GetProperty("block");
        Assert.Equal((other["id"], "picked"), (set.GetProperty("id").GetString(), set.GetProperty("source").GetProperty("kind").GetString()));
        Assert.Equal(("mosaic", 333, "window", "#161616"), (
            set.GetProperty("layout").GetProperty("kind").GetString(), set.GetProperty("layout").GetProperty("mosaic").GetProperty("size").GetInt32(),
            set.GetProperty("frame").GetProperty("width").GetString(), set.GetProperty("frame").GetProperty("ground").GetProperty("colour").GetString()));
        // What visitors may save is allowed for photos, not for a look.
        Assert.Equal(("button", "nothing", "nothing"), (set.GetProperty("more").GetProperty("by").GetString(), set.GetProperty("press").GetProperty("to").GetString(), set.GetProperty("press").GetProperty("save").GetString()));
        // Which photos stand large is chosen among those that are there.
        Assert.Equal(p[2], set.GetProperty("layout").GetProperty("large").GetProperty("photos")[0].GetString());
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsJsonAsync($"/api/kept-settings/{id}/on", new { block = Drafts.Text("Of another kind.") })).StatusCode);

        // Kept anew under the same name, whatever its letters; undo brings the former settings back.
        var anew = await (await KeepAsync("dark WALL", Drafts.Photos(album))).ReadAsync();
        Assert.Equal(["Aside", "dark WALL"], await NamesAsync());
        await owner.UndoAsync(anew);
        Assert.Equal(["Aside", "Dark wall"], await NamesAsync());
        set = (await (await owner.PostAsJsonAsync($"/api/kept-settings/{id}/on", new { block = other })).ReadAsync()).GetProperty("block");
        Assert.Equal("mosaic", set.GetProperty("layout").GetProperty("kind").GetString());

        var gone = await (await owner.DeleteAsync($"/api/kept-settings/{id}")).ReadAsync();
        Assert.Equal(["Aside"], await NamesAsync());
        Assert.Equal(HttpStatusCode.NotFound, (await owner.DeleteAsync($"/api/kept-settings/{id}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsJsonAsync($"/api/kept-settings/{id}/on", new { block = other })).StatusCode);
        await owner.UndoAsync(gone);
        Assert.Equal(["Aside", "Dark wall"], await NamesAsync());
        Assert.Equal(HttpStatusCode.BadRequest, (await KeepAsync("", wall)).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await KeepAsync(new string('x', 81), wall)).StatusCode);
        await site.WriteAsync("insert into kept_settings (id, name, kind, block, made) select gen_random_uuid(), 'n' || n, 'text', '{}', now() from generate_series(1, 198) as n");
        Assert.Equal(HttpStatusCode.BadRequest, (await KeepAsync("One more", wall)).StatusCode);
        await (await KeepAsync("Dark wall", wall)).ReadAsync();
    }
}
