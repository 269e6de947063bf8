using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using Jovitar.Core.Photos;
using NetVips;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.MemberSteps;
using static Jovitar.Server.Tests.OfferSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>The watermark: on what whom gets it, in every form in which a photo leaves, and nowhere else.</summary>
public sealed partial class WatermarkTests
{
    [GeneratedRegex("/i/([0-9a-f]{64}[0-9a-w-]*)/")]
    private static partial Regex Pictures();

    static readonly Guid Everything = Guid.Empty;

    static object Words(string words, string place = "bottomRight", int size = 20, object? picture = null, string kind = "words") =>
        new { kind, words, lettering = "plain", picture, place, size, strength = 90, inset = 4 };

    static async Task<JsonElement> ShownAsync(HttpClient owner) => await (await owner.GetAsync("/api/watermark")).ReadAsync();

    static async Task<HttpResponseMessage> PutAsync(HttpClient owner, object watermark, long? version = null)
    {
        using var put = new HttpRequestMessage(HttpMethod.Put, "/api/watermark") { Content = JsonContent.Create(watermark) };
        put.Headers.TryAddWithoutValidation("If-Match", $"{version ?? (await ShownAsync(owner)).GetProperty("edited").GetInt64()}");
        return await owner.SendAsync(put);
    }

    static async Task<HttpResponseMessage> SpareAsync(HttpClient owner, string kind, string thing, string who, params Guid[] chosen) =>
        await owner.PutAsJsonAsync($"/api/markings/{kind}/{thing}", new { marking = new { who, chosen }, was = (await (await owner.GetAsync($"/api/markings/{kind}/{thing}")).ReadAsync()).GetProperty("marking").GetProperty("marking") });

    /// <summary>The pictures that a page shows, each once.</summary>
    static async Task<string[]> PicturesAsync(HttpClient browser, string path) => [.. Pictures().Matches(await TextAsync(browser, path)).Select(m => m.Groups[1].Value).Distinct()];

    static string At(string picture, int width = 480) => $"/i/{picture}/{Renditions.Recipe}-{width}.webp";

    /// <summary>How much two pictures of the same photo differ at most in their lower right part, and in their upper half, 0 to 255.</summary>
    static (double Corner, double Above) Apart(byte[] one, byte[] other)
    {
        using var a = Image.NewFromBuffer(one);
        using var b = Image.NewFromBuffer(other);
        Assert.Equal((a.Width, a.Height), (b.Width, b.Height));
        using var apart = (a - b).Abs();
        return (apart.Crop(a.Width / 2, a.Height / 2, a.Width / 2, a.Height / 2).Max(), apart.Crop(0, 0, a.Width, a.Height / 2).Avg());
    }

    /// <summary>A site with an album whose photos are large enough for a watermark, which spares members.</summary>
    static async Task<(Site Site, HttpClient Owner, HttpClient Visitor, HttpClient Member, string[] Photos, string Album, string Category)> MarkedAsync(string spares = "members")
    {
        var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var photos = new string[3];
        for (var i = 0; i < photos.Length; i++)
        {
            photos[i] = (await owner.BringAsync(intake, $"p{i}.jpg", Acts.Photo(i, 1200, 800))).GetProperty("photo").GetString()!;
        }

        await site.UntilAsync("select count(*) from photo where stage = 2", photos.Length);
        var (album, category) = (await MakeAsync(owner, "Night", photos[..2]), await CategoryAsync(owner, "Festival"));
        await (await StandAsync(owner, album, categories: [category])).ReadAsync();
        await (await StandAsync(owner, await MakeAsync(owner, "Day", photos[1..]), categories: [category])).ReadAsync();
        (await PutAsync(owner, Words("Marram Bay"))).EnsureSuccessStatusCode();
        (await SpareAsync(owner, "album", album, spares)).EnsureSuccessStatusCode();
        return (site, owner, site.Visitor(), await MemberAsync(site, owner, "Ada"), photos, album, category);
    }

    [Fact]
    public async Task Who_is_not_spared_gets_it_at_every_door_and_the_picture_without_at_none()
    {
        var (site, owner, visitor, member, p, _, _) = await MarkedAsync();
        await using var __ = site;
        var (clean, other) = (await HashAsync(owner, p[0]), await HashAsync(owner, p[2]));
        var marked = (await PicturesAsync(visitor, "/album/night")).Single(n => n.StartsWith(clean, StringComparison.Ordinal));
        Assert.StartsWith($"{clean}-w", marked, StringComparison.Ordinal);
        string[] doors = ["/album/night", $"/album/night/photo/{p[0]}", "/", "/category/festival", "/site/view/album/night?width=900", "/sitemap/1.xml", "/album/night/feed.xml", "/embed/album/night", "/site/view/embed/album/night?width=900", "/oembed?url=http://localhost/album/night"];
        foreach (var door in doors)
        {
            var shown = await PicturesAsync(visitor, door);
            Assert.True(shown.Length > 0 && !shown.Contains(clean), $"{door} shows {string.Join(' ', shown)}");
        }

        // In every size, as a card, by range, with a tag of old, with HEAD.
        foreach (var width in Renditions.Widths)
        {
            Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, At(clean, width)));
            Assert.Equal(width <= 960 ? HttpStatusCode.OK : HttpStatusCode.NotFound, await GetAsync(visitor, At(marked, width)));
        }

        Assert.Equal((HttpStatusCode.NotFound, HttpStatusCode.OK), (await GetAsync(visitor, $"/i/{clean}/{Renditions.Recipe}-card.jpg"), await GetAsync(visitor, $"/i/{marked}/{Renditions.Recipe}-card.jpg")));
        foreach (var change in (Action<HttpRequestMessage>[])[r => r.Method = HttpMethod.Head, r => r.Headers.Range = new(0, 99), r => r.Headers.TryAddWithoutValidation("If-None-Match", $"\"{clean[..16]}-{Renditions.Recipe}-480\"")])
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, At(clean));
            change(request);
            Assert.Equal(HttpStatusCode.NotFound, (await visitor.SendAsync(request)).StatusCode);
        }

        // Names that somebody makes up are none, and the original is nobody's.
        foreach (var made in (string[])[$"{clean}-w{new string('0', 16)}", $"{clean}-w", $"{marked}0", $"{clean}-{new string('0', 16)}-w{marked[^16..]}", $"{other}-w{marked[^16..]}"])
        {
            Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, At(made)));
        }

        Assert.Equal((await owner.GetByteArrayAsync($"/api/renditions/{clean}/960")).Length, (await member.GetByteArrayAsync(At(clean, 960))).Length);
        var (corner, above) = Apart(await visitor.GetByteArrayAsync(At(marked, 960)), await member.GetByteArrayAsync(At(clean, 960)));
        Assert.True(corner > 60 && above < 4, $"apart by {corner} where it stands and {above} where not");
        Assert.True((await visitor.GetAsync(At(marked))).Headers.CacheControl is { Public: true, NoStore: false });
        // Whoever is spared gets it without, for themselves alone; with it they get nothing that would be theirs.
        Assert.True((await member.GetAsync(At(clean))).Headers.CacheControl is { NoStore: true, Private: true });
        Assert.Contains(clean, await PicturesAsync(member, "/album/night"));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(site.Visitor(), At(marked)));
    }

    [Fact]
    public async Task Staff_find_drafts_without_it_covers_and_all()
    {
        var (site, owner, visitor, _, p, album, category) = await MarkedAsync();
        await using var __ = site;
        var index = Drafts.Block("index", 4, new { of = "category", category, albums = Array.Empty<string>(), beneath = false, sort = "newest", across = 3, dates = true, counts = true, descriptions = false, most = (int?)null });
        var page = await owner.ShownAsync(null, "covers", Drafts.Page("Covers", Drafts.Photos(album), index));
        var clean = await HashAsync(owner, p[0]);
        Assert.DoesNotContain($"/i/{clean}/", await TextAsync(visitor, "/covers"), StringComparison.Ordinal);
        var draft = await TextAsync(owner, $"/preview/{page}");
        Assert.Contains("class=\"index ", draft, StringComparison.Ordinal);
        Assert.DoesNotContain("\"/i/", draft, StringComparison.Ordinal);
        Assert.Contains($"/api/renditions/{clean}/", draft, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_one_album_says_goes_with_its_photos_wherever_they_stand_and_the_stricter_wins()
    {
        var (site, owner, visitor, member, p, night, category) = await MarkedAsync();
        await using var __ = site;
        var (both, alone) = (await HashAsync(owner, p[1]), await HashAsync(owner, p[2]));
        async Task<(bool Both, bool Alone)> WithoutAsync(HttpClient browser) => await PicturesAsync(browser, "/album/day") is var shown ? (shown.Contains(both), shown.Contains(alone)) : default;
        Assert.Equal(((false, true), (true, true)), (await WithoutAsync(visitor), await WithoutAsync(member)));
        (await SpareAsync(owner, "category", category, "nobody")).EnsureSuccessStatusCode();
        Assert.Equal(((false, false), (false, false)), (await WithoutAsync(visitor), await WithoutAsync(member)));
        var why = string.Join(' ', (await (await owner.GetAsync($"/api/photos/{p[1]}")).ReadAsync()).GetProperty("audience").GetProperty("why").EnumerateArray().Select(w => w.GetString()));
        Assert.Contains("Visitors get it with the watermark. The album “Night” spares all members. The category “Festival” spares nobody. Who is to get it without must be spared by each of them: the stricter wins.", why, StringComparison.Ordinal);
        // Taken back, it is as it was: for those who have the page already, too.
        (await SpareAsync(owner, "category", category, "everyone")).EnsureSuccessStatusCode();
        Assert.Equal(((false, true), (true, true)), (await WithoutAsync(visitor), await WithoutAsync(member)));

        // What leaves the album leaves its watermark, what comes into it gets one, on pages where neither stood before.
        (await owner.PostAsJsonAsync($"/api/albums/{night}/photos", new { photos = new[] { p[2] } })).EnsureSuccessStatusCode();
        Assert.Equal((false, false), await WithoutAsync(visitor));
        (await owner.PostAsJsonAsync($"/api/albums/{night}/photos/removal", new { photos = new[] { p[1], p[2] } })).EnsureSuccessStatusCode();
        Assert.Equal((true, true), await WithoutAsync(visitor));
        // Of the site it is said of all there is.
        (await SpareAsync(owner, "site", $"{Everything}", "known")).EnsureSuccessStatusCode();
        Assert.Equal(((false, false), (true, true)), (await WithoutAsync(visitor), await WithoutAsync(member)));
    }

    [Fact]
    public async Task Groups_by_name_and_who_came_by_an_entry_link_are_spared_and_none_of_them_is_removed_over_it()
    {
        var (site, owner, visitor, member, p, album, category) = await MarkedAsync("known");
        await using var __ = site;
        var (clean, client) = (await HashAsync(owner, p[0]), site.Visitor());
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.SeeOther, await EnterAsync(client, (await EntryAsync(owner, "album", album)).Secret));
        Assert.Contains(clean, await PicturesAsync(client, "/album/night"));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(client, At(clean)));
        var juniors = await GroupAsync(owner, "Juniors");
        var junior = await MemberAsync(site, owner, "Bo", juniors);
        (await SayAsync(owner, "album", album, "everyone")).EnsureSuccessStatusCode();
        (await SpareAsync(owner, "album", album, "chosen", juniors)).EnsureSuccessStatusCode();
        foreach (var (browser, without) in ((HttpClient, bool)[])[(visitor, false), (member, false), (client, false), (junior, true)])
        {
            Assert.Equal(without, (await PicturesAsync(browser, "/album/night")).Contains(clean));
            Assert.Equal(without ? HttpStatusCode.OK : HttpStatusCode.NotFound, await GetAsync(browser, At(clean)));
        }

        var refused = await owner.DeleteAsync($"/api/groups/{juniors}");
        Assert.Contains("The album “Night” spares this group the watermark. Say first whom it spares instead.", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        // A category that puts it on what stands in it is not removed either.
        (await SpareAsync(owner, "category", category, "nobody")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Conflict, (await owner.DeleteAsync($"/api/categories/{category}")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await SpareAsync(owner, "album", album, "chosen")).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await SpareAsync(owner, "album", album, "chosen", Guid.NewGuid())).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PutAsJsonAsync($"/api/markings/page/{Guid.NewGuid()}", new { marking = new { who = "nobody", chosen = Array.Empty<Guid>() }, was = new { who = "everyone", chosen = Array.Empty<Guid>() } })).StatusCode);
    }

    [Fact]
    public async Task What_is_saved_has_it_in_full_size_too_and_the_original_never()
    {
        var (site, owner, visitor, member, p, album, _) = await MarkedAsync();
        await using var __ = site;
        (await OfferAsync(owner, album, saves: "full", knownSave: "full")).EnsureSuccessStatusCode();
        var save = $"/album/night/photo/{p[0]}/save";
        var (with, without) = (await visitor.GetByteArrayAsync(save), await member.GetByteArrayAsync(save));
        var (corner, above) = Apart(with, without);
        Assert.True(corner > 60 && above < 4, $"apart by {corner} where it stands and {above} where not");
        // Words and rights leave with it all the same.
        (await owner.PostAsJsonAsync("/api/words", new { photos = new[] { p[0] }, changes = new[] { new { write = new { field = "copyright", pattern = new[] { new { text = "© Odile Brandt" } } } } } })).EnsureSuccessStatusCode();
        Assert.Contains("Odile Brandt"u8.ToArray(), Windows(await visitor.GetByteArrayAsync(save), 12));
        (await OfferAsync(owner, album, saves: "large", knownSave: "large")).EnsureSuccessStatusCode();
        Assert.True(Apart(await visitor.GetByteArrayAsync(save), await member.GetByteArrayAsync(save)).Corner > 60);
    }

    static IEnumerable<byte[]> Windows(byte[] bytes, int length) => bytes.AsSpan().IndexOf("Odile Brandt"u8) is >= 0 and var at ? [bytes[at..(at + length)]] : [];

    [Fact]
    public async Task Another_watermark_has_other_pictures_at_once_and_the_former_ones_are_removed()
    {
        var (site, owner, visitor, _, p, _, _) = await MarkedAsync();
        await using var __ = site;
        var clean = await HashAsync(owner, p[0]);
        async Task<string> NowAsync() => (await PicturesAsync(visitor, "/album/night")).Single(n => n.StartsWith(clean, StringComparison.Ordinal));
        var first = await NowAsync();
        var before = await visitor.GetByteArrayAsync(At(first, 960));
        var edited = (await ShownAsync(owner)).GetProperty("edited").GetInt64();
        var written = await (await PutAsync(owner, Words("Another", place: "allOver"))).ReadAsync();
        var second = await NowAsync();
        Assert.NotEqual(first, second);
        Assert.Equal((HttpStatusCode.NotFound, HttpStatusCode.OK), (await GetAsync(visitor, At(first, 960)), await GetAsync(visitor, At(second, 960))));
        Assert.True(Apart(before, await visitor.GetByteArrayAsync(At(second, 960))).Above > 1);
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await PutAsync(owner, Words("Third"), edited)).StatusCode);
        bool IsThere(string picture) => Directory.EnumerateFiles(site.Data, $"{picture}-*", SearchOption.AllDirectories).Any();
        for (var i = 0; i < 200 && IsThere(first); i++)
        {
            await Task.Delay(100);
        }

        Assert.Equal((false, true, true), (IsThere(first), IsThere(second), IsThere(clean)));
        // Taken back, the first is there again; without any, photos are as they are.
        (await owner.PostAsync($"/api/acts/{written.GetProperty("done").GetProperty("act").GetString()}/undo", null)).EnsureSuccessStatusCode();
        Assert.Equal((first, HttpStatusCode.OK), (await NowAsync(), await GetAsync(visitor, At(first, 960))));
        // Who had the one that was taken back before them writes nothing over the one that is there.
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await PutAsync(owner, Words("Third"), written.GetProperty("watermark").GetProperty("edited").GetInt64())).StatusCode);
        (await PutAsync(owner, Words(""))).EnsureSuccessStatusCode();
        Assert.Equal((clean, HttpStatusCode.OK, HttpStatusCode.NotFound), (await NowAsync(), await GetAsync(visitor, At(clean)), await GetAsync(visitor, At(first))));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_picture_is_brought_and_what_nobody_could_see_is_refused_with_a_sentence()
    {
        var (site, owner, visitor, _, p, _, _) = await MarkedAsync();
        await using var __ = site;
        using var brought = new ByteArrayContent("<svg xmlns='http://www.w3.org/2000/svg' width='20' height='10'><circle cx='5' cy='5' r='5' fill='#e01010'/></svg>"u8.ToArray());
        brought.Headers.ContentType = new("application/octet-stream");
        var picture = await (await owner.PostAsync("/api/watermark/pictures", brought)).ReadAsync();
        (await PutAsync(owner, Words("", kind: "picture", picture: picture, place: "middle", size: 40))).EnsureSuccessStatusCode();
        var clean = await HashAsync(owner, p[0]);
        var marked = (await PicturesAsync(visitor, "/album/night")).Single(n => n.StartsWith(clean, StringComparison.Ordinal));
        using (var made = Image.NewFromBuffer(await visitor.GetByteArrayAsync(At(marked, 960))))
        {
            var seen = made.Getpoint((int)(made.Width * 0.43), made.Height / 2);
            Assert.True(seen[0] > 180 && seen[1] < 90, $"no red sign: {string.Join(' ', seen)}");
        }

        async Task<string> RefusedAsync(object watermark)
        {
            var answer = await PutAsync(owner, watermark);
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            return (await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("title").GetString()!;
        }

        Assert.Equal("The picture for the watermark is not there. Bring it once more.", await RefusedAsync(Words("", kind: "picture", picture: new { picture = new string('a', 64), width = 9, height = 9 })));
        Assert.Equal("Nothing could be seen of this watermark. Take other words, or another picture.", await RefusedAsync(Words("\u200B")));
        Assert.Equal("This may have 80 characters.", await RefusedAsync(Words(new string('w', 81))));
        using var text = new ByteArrayContent("no picture"u8.ToArray());
        text.Headers.ContentType = new("application/octet-stream");
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsync("/api/watermark/pictures", text)).StatusCode);
        // It is looked at before anybody has it, by staff alone.
        var preview = $"/api/watermark/preview/{p[0]}?kind=words&words=Try&lettering=hand&picture=&place=allOver&size=12&strength=50&inset=4";
        Assert.Equal(("image/webp", HttpStatusCode.Unauthorized), ((await owner.GetAsync(preview)).Content.Headers.ContentType!.MediaType, await GetAsync(visitor, preview)));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(owner, preview.Replace("allOver", "nowhere", StringComparison.Ordinal)));
    }
}
