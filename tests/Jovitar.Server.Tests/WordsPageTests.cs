using System.Net;
using System.Text.RegularExpressions;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>The words that stand with the photos of a page, where, and what becomes of touched photos.</summary>
public sealed class WordsPageTests
{
    static Task<string> ShowAsync(HttpClient owner, string? page, string album, object words, object? touch = null, object? layout = null) =>
        owner.ShownAsync(page, "worded", Drafts.Page("Worded", Drafts.Photos(Drafts.Source("albums", albums: [album]), words: words, touch: touch, layout: layout)));

    /// <summary>The words at each photo of a page: where, and what they say.</summary>
    static string[] WordsOf(string html) =>
    [
        .. Regex.Matches(html, "<a class=\"frame\"(.*?)</a>", RegexOptions.Singleline).Select(m => string.Join(' ',
            Regex.Matches(m.Value, "<span class=\"frame-words (\\w+)\"( aria-hidden=\"true\")?>(.*?)</span></span>", RegexOptions.Singleline)
                .Select(p => $"{p.Groups[1].Value}{(p.Groups[2].Success ? "(said)" : "")}: {string.Join(" | ", Regex.Matches(p.Groups[3].Value + "</span>", "<span class=\"(one|two)\">([^<]*)</span>").Select(w => $"{w.Groups[1].Value} {WebUtility.HtmlDecode(w.Groups[2].Value)}"))}"))),
    ];

    [Fact]
    public async Task Each_line_says_what_was_chosen_where_it_was_chosen_and_a_photo_without_words_has_no_place_for_them()
    {
        var (site, owner, visitor, p) = await StartAsync(3);
        await using var _ = site;
        var album = await MakeAsync(owner, "All", p);
        await WriteAsync(owner, p[0], "title", "The <pier>");
        await WriteAsync(owner, p[0], "caption", "Low & tide");
        await WriteAsync(owner, p[0], "place", "Tern Lane");
        await WriteAsync(owner, p[1], "caption", "Only a caption");
        var page = await ShowAsync(owner, null, album, Drafts.Words(desktop: Drafts.Set("under", "touched"), phone: Drafts.Set("over", "turned")));
        var html = await visitor.GetStringAsync("/worded");
        Assert.Equal(["under: one The <pier> over: one The <pier> | two Low & tide back: two Low & tide", "over(said): two Only a caption back(said): two Only a caption", ""], WordsOf(html));
        Assert.Contains("data-words=\"under1 over12 back2\"", html, StringComparison.Ordinal);
        // A desktop has the first beneath and the second over; a phone shows neither of those.
        var desktop = Regex.Match(html, "@media \\(min-width:1024px\\) and \\(max-width:1599px\\)\\{#w1\\{aspect-ratio[^}]*\\}#w1\\{([^}]*)\\}").Groups[1].Value;
        Assert.Contains("--under:grid;--under-1:block;--over:grid;--over-2:-webkit-box", desktop, StringComparison.Ordinal);
        Assert.DoesNotContain("--back", desktop, StringComparison.Ordinal);
        Assert.Contains("--room:", desktop, StringComparison.Ordinal);
        var phone = Regex.Match(html, "@media \\(max-width:599px\\)\\{#w1\\{aspect-ratio[^}]*\\}#w1\\{([^}]*)\\}").Groups[1].Value;
        Assert.Contains("--over:grid;--over-1:block;--back:grid;--back-2:-webkit-box", phone, StringComparison.Ordinal);
        Assert.DoesNotContain("--room", phone, StringComparison.Ordinal);

        // The script is told the same lines, and boxes with the same room.
        var view = await (await visitor.GetAsync("/site/view/worded?width=1200&window=1280")).ReadAsync();
        Assert.Equal(["The <pier>|Low & tide", "|Only a caption", "|"], view.GetProperty("frames").EnumerateArray().Select(f => string.Join('|', f.GetProperty("lines").EnumerateArray().Select(l => l.GetString()))));
        var roomy = view.GetProperty("height").GetDouble();
        var onPhone = (await (await visitor.GetAsync("/site/view/worded?width=358&window=390")).ReadAsync()).GetProperty("height").GetDouble();

        await ShowAsync(owner, page, album, Drafts.Words(first: "place", second: null, desktop: Drafts.Set("over", "over")));
        html = await visitor.GetStringAsync("/worded");
        Assert.Equal(["over: one Tern Lane", "", ""], WordsOf(html));
        // One row of photos: it is lower by the room that a line, 15 px letters in 20.25 px, takes with 8 px of air.
        Assert.Equal(28.25, roomy - (await (await visitor.GetAsync("/site/view/worded?width=1200&window=1280")).ReadAsync()).GetProperty("height").GetDouble(), 0.02);
        Assert.Equal(onPhone, (await (await visitor.GetAsync("/site/view/worded?width=358&window=390")).ReadAsync()).GetProperty("height").GetDouble(), 0.02);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task The_name_of_a_file_is_told_only_where_it_was_chosen()
    {
        var (site, owner, visitor, p) = await StartAsync(1);
        await using var _ = site;
        var album = await MakeAsync(owner, "All", p);
        var name = await site.ScalarAsync<string>("select file_name from photo limit 1");
        var bare = Path.GetFileNameWithoutExtension(name);
        var page = await ShowAsync(owner, null, album, Drafts.Words(desktop: Drafts.Set("over", "over")));
        Assert.DoesNotContain(bare, await visitor.GetStringAsync("/worded") + await visitor.GetStringAsync($"/worded/photo/{p[0]}") + await visitor.GetStringAsync("/site/view/worded?width=1200"), StringComparison.Ordinal);
        await ShowAsync(owner, page, album, Drafts.Words(first: "fileName", desktop: Drafts.Set("over")));
        Assert.Equal([$"over: one {bare}"], WordsOf(await visitor.GetStringAsync("/worded")));
    }

    [Fact]
    public async Task A_list_has_its_words_aside_whenever_they_are_to_stand_elsewhere()
    {
        var (site, owner, visitor, p) = await StartAsync(1);
        await using var _ = site;
        var album = await MakeAsync(owner, "All", p);
        await WriteAsync(owner, p[0], "title", "Pier");
        await WriteAsync(owner, p[0], "place", "Tern Lane");
        var page = await ShowAsync(owner, null, album, Drafts.Words(second: "place", desktop: Drafts.Set("under", "turned")), layout: Drafts.Layout("list"));
        var html = await visitor.GetStringAsync("/worded");
        Assert.Equal(["aside: one Pier | two Tern Lane"], WordsOf(html));
        Assert.DoesNotContain("--under", html, StringComparison.Ordinal);
        await ShowAsync(owner, page, album, Drafts.Words(first: null, second: null), layout: Drafts.Layout("list"));
        Assert.Equal([""], WordsOf(await visitor.GetStringAsync("/worded")));
    }

    [Fact]
    public async Task What_is_no_colour_is_refused_and_keeps_what_was_there()
    {
        var (site, owner, visitor, p) = await StartAsync(1);
        await using var _ = site;
        var album = await MakeAsync(owner, "All", p);
        var page = await ShowAsync(owner, null, album, Drafts.Words(), Drafts.Touch(tint: "even", tintColour: "#6d2749"));
        Assert.Contains("--tint:rgb(109 39 73/50%)", await visitor.GetStringAsync("/worded"), StringComparison.Ordinal);
        foreach (var (words, touch) in new[] { (Drafts.Words(desktop: Drafts.Set("over", ground: "red}")), Drafts.Touch()), (Drafts.Words(), Drafts.Touch(tintColour: "#fff")) })
        {
            var answer = await owner.DraftAsync(page, "worded", Drafts.Page("Worded", Drafts.Photos(Drafts.Source("albums", albums: [album]), words: words, touch: touch)));
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            Assert.Contains("A colour is said by #", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }

        Assert.Contains("--tint:rgb(109 39 73/50%)", await visitor.GetStringAsync("/worded"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Words_that_cannot_be_read_are_noted_with_what_helps()
    {
        var (site, owner, _, p) = await StartAsync(1);
        await using var __ = site;
        var album = await MakeAsync(owner, "All", p);
        var page = await ShowAsync(owner, null, album, Drafts.Words(desktop: Drafts.Set("over"), phone: Drafts.Set("over", colour: "#fafafa", dense: 20)));
        async Task<string> NotedAsync()
        {
            var notes = await (await owner.GetAsync($"/api/pages/{page}/notes")).ReadAsync();
            var written = notes.GetProperty("blocks").EnumerateArray().Select(b => b.GetProperty("written")).First(w => w.ValueKind != System.Text.Json.JsonValueKind.Undefined);
            return written.ValueKind == System.Text.Json.JsonValueKind.Null ? "well" : $"{written.GetProperty("device").GetString()} {written.GetProperty("ratio").GetDouble() < 4.5} {written.GetProperty("dense")} {written.GetProperty("nearest").ValueKind}";
        }

        // Over a white photo 60 percent of ink make #737373 of it, which #fafafa reads over with 4.5 : 1; 59 make #767676, 4.4 : 1. No other colour reads at 20.
        Assert.Equal("phone True 60 Null", await NotedAsync());
        await ShowAsync(owner, page, album, Drafts.Words(desktop: Drafts.Set("over")));
        Assert.Equal("well", await NotedAsync());

        // Beneath the photos they stand on the ground of the site, whichever that is.
        await ShowAsync(owner, page, album, Drafts.Words(desktop: Drafts.Set("under", colour: "#444444")));
        Assert.Equal("well", await NotedAsync());
        await (await owner.SendAsync(HttpMethod.Put, "/api/theme", Drafts.Theme("lantern"), 1)).ReadAsync();
        Assert.Equal("well", await NotedAsync());
        await (await owner.SendAsync(HttpMethod.Post, "/api/theme/publishing", new { }, 2)).ReadAsync();
        Assert.Equal("desktop True  String", await NotedAsync());
    }

    [Fact]
    public async Task A_page_of_the_version_before_has_no_words_but_in_lists()
    {
        var (site, owner, visitor, p) = await StartAsync(1);
        await using var _ = site;
        var album = await MakeAsync(owner, "All", p);
        await WriteAsync(owner, p[0], "title", "Pier");
        await ShowAsync(owner, null, album, Drafts.Words(desktop: Drafts.Set("over")), Drafts.Touch(zoom: "in"), Drafts.Layout("list"));
        await site.WriteAsync("update page set draft = (draft #- '{blocks,1,words}' #- '{blocks,1,touch}') || '{\"schema\": 8}', published = (published #- '{blocks,1,words}' #- '{blocks,1,touch}') || '{\"schema\": 8}', version = version + 1");
        var html = await visitor.GetStringAsync("/worded");
        Assert.Equal(["aside(said): one Pier"], WordsOf(html));
        Assert.DoesNotContain("treated", html, StringComparison.Ordinal);
    }
}
