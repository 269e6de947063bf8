using System.Net;
using System.Net.Http.Json;
using System.Text.RegularExpressions;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Imaging.Writing;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What a press on a photo of a block does, what says so before, what is told of it, and who may save it.</summary>
public sealed class PressPageTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("jovitar-saving").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    /// <summary>Publishes a page at <c>/presses</c>, or shows it anew.</summary>
    static Task<string> DrawAsync(HttpClient owner, string? page, params object[] blocks) => owner.ShownAsync(page, "presses", Drafts.Page("Presses", blocks));

    /// <summary>The same, of the photos of some albums.</summary>
    static Task<string> ShowAsync(HttpClient owner, string? page, string[] albums, object press) => DrawAsync(owner, page, Drafts.Photos(Drafts.Source("albums", albums: albums), press: press));

    /// <summary>Where each photo of a page leads, and what says so.</summary>
    static string[] LeadsOf(string html) =>
    [
        .. Regex.Matches(html, "<a class=\"frame\"(.*?)</a>", RegexOptions.Singleline).Select(m =>
        {
            string? Of(string pattern) => Regex.Match(m.Value, pattern) is { Success: true } found ? WebUtility.HtmlDecode(found.Groups[1].Value) : null;
            var href = Of(" href=\"([^\"]*)\"");
            return $"{(href?.Contains("/photo/", StringComparison.Ordinal) == true ? "opens" : href ?? "nothing")} {Of("<use href=\"([^\"]*)\"")} {Of("says\">([^<]*)<")}".TrimEnd();
        }),
    ];

    [Fact]
    public async Task A_press_leads_to_the_photos_own_link_to_its_album_or_nowhere_and_a_sign_says_so()
    {
        var (site, owner, visitor, p) = await StartAsync(4);
        await using var _ = site;
        var (first, second) = (await MakeAsync(owner, "First", p[..3]), await MakeAsync(owner, "Second", p[1..]));
        await WriteAsync(owner, p[0], "link", "https://kites.example/delta?a=1&b=2");
        await WriteAsync(owner, p[1], "link", "mailto:odile@marrambay.example");
        var page = await DrawAsync(owner, null, Drafts.Photos(Drafts.Source("albums", albums: [first, second]), press: Drafts.Press("link", "always")));
        var html = await visitor.GetStringAsync("/presses");
        Assert.Equal(["https://kites.example/delta?a=1&b=2 #sign-link leads to kites.example", "mailto:odile@marrambay.example #sign-link leads to odile@marrambay.example", "opens #sign-viewer", "opens #sign-viewer"], LeadsOf(html));
        Assert.Contains("<symbol id=\"sign-link\"", html, StringComparison.Ordinal);
        // The script is told the same.
        var told = (await (await visitor.GetAsync("/site/view/presses?width=1200")).ReadAsync()).GetProperty("frames").EnumerateArray().Select(f => f.GetProperty("press")).ToArray();
        Assert.Equal(["https://kites.example/delta?a=1&b=2 False", "mailto:odile@marrambay.example False", " True", " True"], told.Select(t => $"{t.GetProperty("href").GetString()} {t.GetProperty("opens").GetBoolean()}"));
        // Wherever it leads, the photo has its own page.
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, $"/presses/photo/{p[0]}"));
        var before = Regex.Match(html, "data-mark=\"([0-9a-f]+)\"").Groups[1].Value;

        // An album's page is there once the album stands in a category; of two the first joined.
        await ShowAsync(owner, page, [first, second], Drafts.Press("album", "hover"));
        Assert.Equal(["opens #sign-viewer", "opens #sign-viewer", "opens #sign-viewer", "opens #sign-viewer"], LeadsOf(await visitor.GetStringAsync("/presses")));
        var category = await CategoryAsync(owner, "Kites");
        await (await StandAsync(owner, second, [category])).ReadAsync();
        Assert.Equal(["opens #sign-viewer", "/album/second #sign-album leads to its album", "/album/second #sign-album leads to its album", "/album/second #sign-album leads to its album"], LeadsOf(await visitor.GetStringAsync("/presses")));
        await (await StandAsync(owner, first, [category])).ReadAsync();
        html = await visitor.GetStringAsync("/presses");
        Assert.Equal(["/album/first", "/album/first", "/album/first", "/album/second"], LeadsOf(html).Select(l => l.Split(' ')[0]));
        Assert.Contains("frames hinted\"", html, StringComparison.Ordinal);
        Assert.NotEqual(before, Regex.Match(html, "data-mark=\"([0-9a-f]+)\"").Groups[1].Value);
        // Without its category in view an album has no page: no press leads there.
        await (await SetAsync(owner, category, shown: false)).ReadAsync();
        Assert.Equal(["opens", "opens", "opens", "opens"], LeadsOf(await visitor.GetStringAsync("/presses")).Select(l => l.Split(' ')[0]));

        await ShowAsync(owner, page, [first, second], Drafts.Press("nothing", "always"));
        Assert.Equal(["nothing", "nothing", "nothing", "nothing"], LeadsOf(await visitor.GetStringAsync("/presses")));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_sign_of_the_owners_own_is_reduced_to_its_shapes_before_it_is_kept()
    {
        var (site, owner, visitor, p) = await StartAsync(1);
        await using var _ = site;
        var album = await MakeAsync(owner, "All", p);
        var drawing = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9' onload='alert(1)'><script>alert(2)</script><path d='M1 1h7' fill='red'/><a href='javascript:alert(3)'><circle r='1'/></a></svg>";
        var page = await DrawAsync(owner, null, Drafts.Photos(Drafts.Source("albums", albums: [album]), press: Drafts.Press("viewer", "always", drawing)));
        Assert.Equal("<svg viewBox=\"0 0 9 9\"><path d=\"M1 1h7\" fill=\"currentColor\"/></svg>", (await owner.PageAsync(page)).GetProperty("draft").GetProperty("blocks")[1].GetProperty("press").GetProperty("drawing").GetString());
        var html = await visitor.GetStringAsync("/presses");
        Assert.Contains("<symbol id=\"sign-w1\" viewBox=\"0 0 9 9\"><path d=\"M1 1h7\" fill=\"currentColor\"/></symbol>", html, StringComparison.Ordinal);
        Assert.Equal(["opens #sign-w1"], LeadsOf(html));
        Assert.DoesNotContain("alert", html, StringComparison.Ordinal);
        // Even what came into the database by another way is cleaned where it becomes part of a page.
        await site.WriteAsync("""update page set published = jsonb_set(published, '{blocks,1,press,drawing}', '"<svg viewBox=\"0 0 1 1\"><path d=\"M0 0\" onclick=\"alert(4)\"/></svg>"'), version = version + 1""");
        // What was found a moment ago is looked for again after any act.
        await MakeAsync(owner, "Another", p);
        html = await visitor.GetStringAsync("/presses");
        Assert.Contains("<symbol id=\"sign-w1\" viewBox=\"0 0 1 1\"><path d=\"M0 0\"/></symbol>", html, StringComparison.Ordinal);
        var edited = (await owner.PageAsync(page)).GetProperty("edited").GetInt64();
        var refused = await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address = "presses", draft = Drafts.Page("Presses", Drafts.Photos(Drafts.Source("albums", albums: [album]), press: Drafts.Press(drawing: "<svg/>"))) }, edited);
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Contains("no drawing that can be a sign", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Opened_a_photo_tells_what_it_is_set_to_tell_apart_from_the_page()
    {
        var (site, owner, visitor, p) = await StartAsync(1);
        await using var _ = site;
        var album = await MakeAsync(owner, "All", p);
        foreach (var (field, text) in ((string, string)[])[("title", "Red delta"), ("caption", "Over the dunes."), ("place", "Marram Bay"), ("credit", "Odile Brandt"), ("licence", "CC BY 4.0")])
        {
            await WriteAsync(owner, p[0], field, text);
        }

        await (await owner.PostAsJsonAsync("/api/words", new { photos = p, changes = new[] { new { taken = new { local = "2026-06-13T14:05:00", offset = 60 } } } })).ReadAsync();
        async Task<(string Title, string Lines)> TellsAsync()
        {
            var single = Regex.Match(await visitor.GetStringAsync($"/presses/photo/{p[0]}"), "<div class=\"single-words\">(.*?)<nav", RegexOptions.Singleline).Groups[1].Value;
            return (Regex.Match(single, "<h1( class=\"unseen\")?>").Groups[1].Value, string.Join('|', Regex.Matches(single, "<p[^>]*>([^<]+)</p>").Select(m => WebUtility.HtmlDecode(m.Groups[1].Value))));
        }

        var page = await DrawAsync(owner, null, Drafts.Photos(Drafts.Source("albums", albums: [album])));
        Assert.Equal(("", "Over the dunes.|Odile Brandt · CC BY 4.0"), await TellsAsync());
        await ShowAsync(owner, page, [album], Drafts.Press(words: ["date", "place", "licence"]));
        Assert.Equal((" class=\"unseen\"", "Marram Bay · 13 June 2026|CC BY 4.0"), await TellsAsync());
        var html = await visitor.GetStringAsync("/presses");
        Assert.Contains("data-hides=\"title caption\"", html, StringComparison.Ordinal);
        Assert.Contains("data-facts=\"Marram Bay &#xB7; 13 June 2026\"", html, StringComparison.Ordinal);
        // A word that is written later is told at once.
        await WriteAsync(owner, p[0], "licence", "All rights reserved");
        Assert.Equal("Marram Bay · 13 June 2026|All rights reserved", (await TellsAsync()).Lines);
    }

    [Fact]
    public async Task Visitors_save_a_photo_where_a_page_offers_it_with_its_words_and_without_the_place_on_earth()
    {
        await using var site = await Site.StartAsync();
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var intake = await owner.IntakeAsync();
        var plain = Path.Combine(folder, "plain.jpg");
        await File.WriteAllBytesAsync(plain, Acts.Photo(1, 3200, 2000));
        using var made = new MemoryStream();
        await using (var placed = await WordsWriter.MakeAsync(plain, new LeavingWords { Title = "Before", Position = new Position(54.25, -3.5) }, Path.Combine(folder, "scratch"), CancellationToken.None))
        {
            await placed!.CopyToAsync(made);
        }

        string[] p = [(await owner.BringAsync(intake, "one.jpg", made.ToArray())).GetProperty("photo").GetString()!, (await owner.BringAsync(intake, "two.jpg", Acts.Photo(2))).GetProperty("photo").GetString()!];
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 2);
        var (album, other) = (await MakeAsync(owner, "Offered", p[..1]), await MakeAsync(owner, "Elsewhere", p[1..]));
        await WriteAsync(owner, p[0], "title", "Red delta");
        string At(string photo, int walk = 1) => $"/presses/photo/{photo}/save?in={walk}";
        async Task<(string Path, string Name)> SavedAsync(string address)
        {
            var answer = await visitor.GetAsync(address);
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            Assert.True(answer.Headers.CacheControl is { NoStore: true });
            var path = Path.Combine(folder, $"{Guid.NewGuid():N}.jpg");
            await File.WriteAllBytesAsync(path, await answer.Content.ReadAsByteArrayAsync());
            return (path, answer.Content.Headers.ContentDisposition!.FileName!.Trim('"'));
        }

        (int, int) Size(string path) => Picture.Measure(path) is var size ? (size.Width, size.Height) : default;
        object Photos(string of, int number, string save) => Drafts.Photos(Drafts.Source("albums", albums: [of]), number: number, press: Drafts.Press(save: save));
        var page = await DrawAsync(owner, null, Photos(album, 3, "large"), Photos(other, 4, "nothing"));
        var html = await visitor.GetStringAsync("/presses");
        Assert.Equal(1, Regex.Count(html, " data-save"));
        Assert.Contains($"<a href=\"/presses/photo/{p[0]}/save?in=1\" download>", await visitor.GetStringAsync($"/presses/photo/{p[0]}"), StringComparison.Ordinal);
        var (large, name) = await SavedAsync(At(p[0]));
        Assert.Equal(("one.jpg", (2560, 1600)), (name, Size(large)));
        Assert.Equal("Red delta", MetadataReader.Read(large).Words.Title);
        Assert.False(MetadataReader.SaysWhere(large));

        // What stands beside it is not offered, nor by the name of the block that is.
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(visitor, At(p[1], 2)));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, At(p[1], 1)));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, At(p[0], 2)));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, $"/nowhere/photo/{p[0]}/save"));

        // In full size it is the original with its words; cropped, never what was cropped away.
        await DrawAsync(owner, page, Photos(album, 3, "full"));
        var (full, _) = await SavedAsync(At(p[0]));
        Assert.Equal((3200, 2000), Size(full));
        Assert.False(MetadataReader.SaysWhere(full));
        await (await owner.PostAsJsonAsync("/api/corrections", new { photos = p[..1], crop = new { x = 0.25, y = 0, width = 0.5, height = 1 } })).ReadAsync();
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 2);
        Assert.Equal((1600, 2000), Size((await SavedAsync(At(p[0]))).Path));

        // Left out, it is gone for saving, too, and so it is with the page.
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p[..1], decision = "leave_out" })).ReadAsync();
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, At(p[0])));
    }
}
