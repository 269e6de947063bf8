using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Jovitar.Core.Photos;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.MemberSteps;
using static Jovitar.Server.Tests.OfferSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What albums and categories reserve of what is offered: for groups, for members, for nobody.</summary>
public sealed class ReserveTests
{
    static async Task<JsonElement> ReservedAsync(HttpClient staff, string kind, string thing) => await (await staff.GetAsync($"/api/reserves/{kind}/{thing}")).ReadAsync();

    static object Whom(string who, params Guid[] chosen) => new { who, chosen };

    static async Task<HttpResponseMessage> ReserveAsync(HttpClient staff, string kind, string thing, object? save = null, object? saveFull = null, object? talk = null, object? choose = null, JsonElement? was = null)
    {
        var everyone = Whom("everyone");
        return await staff.PutAsJsonAsync(
            $"/api/reserves/{kind}/{thing}",
            new { reserved = new { save = save ?? everyone, saveFull = saveFull ?? everyone, talk = talk ?? everyone, choose = choose ?? everyone }, was = was ?? (await ReservedAsync(staff, kind, thing)).GetProperty("reserved") });
    }

    static async Task<int> WidthAsync(HttpClient browser, string path)
    {
        using var picture = NetVips.Image.NewFromBuffer(await browser.GetByteArrayAsync(path));
        return picture.Width;
    }

    [Fact]
    public async Task What_a_category_reserves_is_kept_from_others_wherever_its_photos_stand()
    {
        var (site, owner, visitor, p, album, category) = await NightAsync();
        await using var __ = site;
        var juniors = await GroupAsync(owner, "Juniors");
        var (ada, tam) = (await MemberAsync(site, owner, "Ada", juniors), await MemberAsync(site, owner, "Tam"));
        (await OfferAsync(owner, album, saves: "large", knownSave: "full", choosing: new { most = (int?)null, until = (string?)null, asks = "" })).EnsureSuccessStatusCode();
        var save = $"/album/night/photo/{p[0]}/save";
        Assert.Equal((HttpStatusCode.OK, HttpStatusCode.OK), (await GetAsync(visitor, save), await GetAsync(tam, save)));
        var said = await (await ReserveAsync(owner, "category", category, save: Whom("chosen", juniors), talk: Whom("members"), choose: Whom("chosen", juniors))).ReadAsync();

        // Saving: on the album's own page, on a page where it stands, and all at once.
        foreach (var (browser, may) in new[] { (visitor, false), (ada, true), (tam, false), (site.Visitor(), false), (ada, true) })
        {
            var status = may ? HttpStatusCode.OK : HttpStatusCode.Forbidden;
            Assert.Equal(status, await GetAsync(browser, save));
            Assert.Equal(status, await GetAsync(browser, $"/both/photo/{p[0]}/save"));
            Assert.Equal(status, await GetAsync(browser, "/album/night/save"));
            var page = await browser.GetStringAsync("/album/night");
            Assert.Equal(may, !page.Contains("data-kept", StringComparison.Ordinal));
            Assert.Equal(may, page.Contains("Save all 3 photographs", StringComparison.Ordinal));
            Assert.Equal(may, page.Contains("data-choosing", StringComparison.Ordinal));
            Assert.Equal(may, (await browser.GetStringAsync($"/album/night/photo/{p[0]}")).Contains("Save this photo", StringComparison.Ordinal));
            Assert.Equal(may ? HttpStatusCode.NoContent : HttpStatusCode.NotFound, await MarkAsync(browser, album, p[1]));
        }

        // Saying something: every member, and nobody else.
        Assert.DoesNotContain("data-talk", await visitor.GetStringAsync("/album/night"), StringComparison.Ordinal);
        Assert.Contains("data-talk", await tam.GetStringAsync("/album/night"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.PostAsJsonAsync($"/site/rate/{p[0]}", new { visitor = new string('x', 22), value = 4 })).StatusCode);

        // The album says what stands above it; taken back, everything is as it was.
        Assert.Equal("The category “Festival” reserves saving them for the group “Juniors”, saying something about them for all members, and choosing favourites among them for the group “Juniors”.", Assert.Single((await ReservedAsync(owner, "album", album)).GetProperty("above").EnumerateArray()).GetString());
        var removed = await owner.DeleteAsync($"/api/categories/{category}");
        Assert.Equal(HttpStatusCode.Conflict, removed.StatusCode);
        Assert.Contains("reserving nothing", await removed.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Contains("reserves something for this group", await (await owner.DeleteAsync($"/api/groups/{juniors}")).Content.ReadAsStringAsync(), StringComparison.Ordinal);
        await owner.UndoAsync(said);
        Assert.Equal((HttpStatusCode.OK, HttpStatusCode.OK), (await GetAsync(visitor, save), await GetAsync(tam, save)));
        Assert.DoesNotContain("data-kept", await visitor.GetStringAsync("/album/night"), StringComparison.Ordinal);
        Assert.Contains("data-talk", await visitor.GetStringAsync("/album/night"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Full_size_may_be_for_some_and_one_photo_that_comes_into_a_reserve_is_kept_alone()
    {
        var (site, owner, visitor, p, album, _) = await NightAsync();
        await using var __ = site;
        var tam = await MemberAsync(site, owner, "Tam");
        (await OfferAsync(owner, album, saves: "full", knownSave: "full")).EnsureSuccessStatusCode();
        string Save(int n) => $"/album/night/photo/{p[n]}/save";
        var wide = (await owner.BringAsync(await owner.IntakeAsync(album), "wide.jpg", Acts.Photo(77, 3000, 600))).GetProperty("photo").GetString()!;
        while (await site.ScalarAsync<string>($"select state from photo where id = '{wide}'") != "ready")
        {
            await Task.Delay(50);
        }

        var saved = $"/album/night/photo/{wide}/save";
        Assert.Equal((3000, 3000), (await WidthAsync(visitor, saved), await WidthAsync(tam, saved)));
        (await ReserveAsync(owner, "album", album, saveFull: Whom("members"))).EnsureSuccessStatusCode();
        Assert.Contains("Save all 4 photographs</a> in full size", await tam.GetStringAsync("/album/night"), StringComparison.Ordinal);
        Assert.Equal((Renditions.Widths[^1], 3000), (await WidthAsync(visitor, saved), await WidthAsync(tam, saved)));

        // One of three comes to stand in a category beneath one of which nothing may be saved.
        var proofs = await CategoryAsync(owner, "Proofs");
        var beneath = (await (await owner.PostAsJsonAsync("/api/categories", new { name = "Unpaid", parent = proofs })).ReadAsync()).GetProperty("id").GetString()!;
        (await ReserveAsync(owner, "category", proofs, save: Whom("nobody"))).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(tam, Save(1)));
        await (await owner.PostAsJsonAsync("/api/photos/categories", new { photos = new[] { p[1] }, add = new[] { beneath }, remove = Array.Empty<string>() })).ReadAsync();
        Assert.Equal((HttpStatusCode.Forbidden, HttpStatusCode.OK), (await GetAsync(tam, Save(1)), await GetAsync(tam, Save(2))));
        var page = await tam.GetStringAsync("/album/night");
        Assert.Single(System.Text.RegularExpressions.Regex.Matches(page, "data-kept"));
        Assert.Contains("Save all 3 photographs", page, StringComparison.Ordinal);
        using var zip = new System.IO.Compression.ZipArchive(await tam.GetStreamAsync("/album/night/save"));
        Assert.Equal(3, zip.Entries.Count);
        // And out of it again.
        await (await owner.PostAsJsonAsync("/api/photos/categories", new { photos = new[] { p[1] }, add = Array.Empty<string>(), remove = new[] { beneath } })).ReadAsync();
        Assert.DoesNotContain("data-kept", await tam.GetStringAsync("/album/night"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, await GetAsync(tam, Save(1)));
    }

    [Fact]
    public async Task Who_looked_before_somebody_else_said_it_does_not_overrule_them_and_nonsense_is_refused()
    {
        var (site, owner, _, _, album, category) = await NightAsync();
        await using var __ = site;
        var tomas = await site.EditorAsync("Tomas");
        var was = (await ReservedAsync(tomas, "album", album)).GetProperty("reserved");
        (await ReserveAsync(owner, "album", album, save: Whom("members"))).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Conflict, (await ReserveAsync(tomas, "album", album, save: Whom("nobody"), was: was)).StatusCode);
        Assert.Equal("members", (await ReservedAsync(tomas, "album", album)).GetProperty("reserved").GetProperty("save").GetProperty("who").GetString());
        Assert.Equal(HttpStatusCode.BadRequest, (await ReserveAsync(tomas, "album", album, save: Whom("chosen"))).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await ReserveAsync(tomas, "album", album, save: Whom("chosen", Guid.NewGuid()))).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await tomas.GetAsync($"/api/reserves/page/{category}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await ReserveAsync(tomas, "album", category, was: was)).StatusCode);
        Assert.Equal("Of the photos of album “Night”, reserved saving them for all members.", await site.ScalarAsync<string>("select sentence from act where kind = 'Offers' order by id desc limit 1"));
        await site.VerifyAsync();
    }
}
