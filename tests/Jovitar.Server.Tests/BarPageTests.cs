using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Filter bars as their authors arrange them: groups, their order and words, albums as buttons, what is chosen at first.</summary>
public sealed partial class BarPageTests
{
    [GeneratedRegex("data-key(?:=\"([^\"]*)\")?[^>]*?( aria-current=\"true\")?>([^<]*) <span class=\"count[^\"]*\">(\\d+)<")]
    private static partial Regex Pressed();

    /// <summary>The buttons of a page, as key: words count, with a star where one is chosen.</summary>
    static string[] ButtonsOf(string html) => [.. Pressed().Matches(html).Select(m => $"{m.Groups[1].Value}: {m.Groups[3].Value} {m.Groups[4].Value}{(m.Groups[2].Length > 0 ? " *" : "")}")];

    static Task<string> PageAsync(HttpClient owner, string title, params object[] blocks) => owner.ShownAsync(null, "bars", Drafts.Page(title, blocks));

    static Task<string> DrawAsync(HttpClient owner, string page, string title, params object[] blocks) => owner.ShownAsync(page, "bars", Drafts.Page(title, blocks));

    static Dictionary<string, object?> Joined(string[] albums, object bar) => Drafts.Photos(Drafts.Source("albums", albums: albums), bar: bar);

    [Fact]
    public async Task Buttons_stand_in_the_authors_groups_and_order_under_the_authors_words()
    {
        var (site, owner, visitor, p) = await StartAsync(6);
        await using var _ = site;
        var album = await MakeAsync(owner, "All", p);
        var festival = await CategoryAsync(owner, "Festival");
        var night = await CategoryAsync(owner, "Night", festival);
        await (await owner.PostAsJsonAsync("/api/photos/categories", new { photos = p[..2], add = new[] { festival }, remove = Array.Empty<string>() })).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/photos/categories", new { photos = p[2..3], add = new[] { night }, remove = Array.Empty<string>() })).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p[1..5], add = new[] { "delta" }, remove = Array.Empty<string>() })).ReadAsync();
        var delta = $"{await site.ScalarAsync<Guid>("select id from tag")}";
        var bar = Drafts.Bar(
            [
                Drafts.Group([Drafts.Button("tag", delta, "Deltas & more"), Drafts.Button("category", night)], "Kites"),
                Drafts.Group([Drafts.Button("category", festival, "Two days", beneath: true)], one: true),
                Drafts.Group([Drafts.Button("category", festival)]),
            ],
            allWords: "Everything", align: "right", counts: false, folded: ["phone", "tablet"], still: ["phone"]);
        await PageAsync(owner, "Bars", Joined([album], bar));
        var html = await visitor.GetStringAsync("/bars");
        var bars = html.Split("<nav class=\"filter ")[1..];
        Assert.Equal(2, bars.Length);
        Assert.StartsWith("open right not-on-phone not-on-tablet\"", bars[0], StringComparison.Ordinal);
        Assert.StartsWith("folded right not-on-desktop\"", bars[1], StringComparison.Ordinal);
        string[] buttons = [": Everything 6 *", "deltas-more: Deltas &amp; more 4", "night: Night 1", "two-days: Two days 3", "night-2: Night 1", "festival: Festival 3"];
        Assert.Equal([.. buttons, .. buttons], ButtonsOf(html));
        Assert.Equal(2, Regex.Count(html, "<span class=\"of\" aria-hidden=\"true\">Kites</span>"));
        Assert.DoesNotContain("class=\"count\"", html, StringComparison.Ordinal);
        Assert.Contains("data-still=\"phone\"", html, StringComparison.Ordinal);

        // Of the second group one at a time: a child takes its parent's place. Of the first both.
        var chosen = await visitor.GetStringAsync("/bars?show=deltas-more,night,night-2,two-days");
        Assert.Equal([": Everything 6", "deltas-more: Deltas &amp; more 2 *", "night: Night 1 *", "two-days: Two days 2 *", "night-2: Night 1", "festival: Festival 2"], ButtonsOf(chosen)[..6]);
        Assert.Contains("2 of 6 photographs", chosen, StringComparison.Ordinal);
        Assert.Contains("href=\"/bars?show=deltas-more,night,night-2\" rel=\"nofollow\" data-key=\"night-2\"", chosen, StringComparison.Ordinal);
        Assert.Contains("<span class=\"says\" data-all=\"Everything\">Deltas &amp; more, Night, Two days</span>", chosen, StringComparison.Ordinal);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Each_joined_album_is_a_button_one_joined_later_by_itself_and_one_out_of_view_is_none()
    {
        var (site, owner, visitor, p) = await StartAsync(7);
        await using var _ = site;
        var (pier, dunes, tide) = (await MakeAsync(owner, "Pier", p[..3]), await MakeAsync(owner, "Dunes", p[2..5]), await MakeAsync(owner, "Tide", p[5..]));
        Dictionary<string, object?> Each(params string[] albums) => Joined(albums, Drafts.Bar([Drafts.Group([Drafts.Button("album", dunes, "In the dunes"), Drafts.Button("eachAlbum", null)], one: true)], all: false));
        var page = await PageAsync(owner, "Bars", Each(pier, dunes));
        Assert.Equal(["in-the-dunes: In the dunes 3", "pier: Pier 3"], ButtonsOf(await visitor.GetStringAsync("/bars")));
        await DrawAsync(owner, page, "Bars", Each(tide, pier, dunes));
        Assert.Equal(["in-the-dunes: In the dunes 3", "tide: Tide 2", "pier: Pier 3"], ButtonsOf(await visitor.GetStringAsync("/bars")));

        // The word of an album that is not joined says nothing; what it is called is nobody's business.
        await DrawAsync(owner, page, "Bars", Each(tide, pier));
        Assert.Equal(["tide: Tide 2", "pier: Pier 3"], ButtonsOf(await visitor.GetStringAsync("/bars")));
        await (await StandAsync(owner, pier, shown: false)).ReadAsync();
        var html = await visitor.GetStringAsync("/bars");
        Assert.Equal(["tide: Tide 2"], ButtonsOf(html));
        Assert.DoesNotContain("Pier", html, StringComparison.Ordinal);

        // A photo that comes into an album later is found by its button, and the page says so at once.
        await (await owner.PostAsJsonAsync($"/api/albums/{tide}/photos", new { photos = p[..1] })).ReadAsync();
        Assert.Equal(["tide: Tide 3"], ButtonsOf(await visitor.GetStringAsync("/bars")));
    }

    [Fact]
    public async Task Where_photos_are_gathered_only_albums_that_visitors_see_have_a_button()
    {
        var (site, owner, visitor, p) = await StartAsync(4);
        await using var _ = site;
        var (seen, secret) = (await MakeAsync(owner, "Seen", p), await MakeAsync(owner, "Secret", p[..2]));
        await PageAsync(owner, "Bars", Drafts.Photos(Drafts.Source("newest"), bar: Drafts.Bar([Drafts.Group([Drafts.Button("album", secret), Drafts.Button("album", seen), Drafts.Button("eachAlbum", null)])])));
        Assert.Empty(ButtonsOf(await visitor.GetStringAsync("/bars")));
        await (await StandAsync(owner, seen, [await CategoryAsync(owner, "Dunes")])).ReadAsync();
        var html = await visitor.GetStringAsync("/bars");
        Assert.Equal([": All 4 *", "seen: Seen 4"], ButtonsOf(html));
        Assert.DoesNotContain("Secret", html, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_page_opens_with_what_is_chosen_at_first_and_all_is_an_address_of_its_own()
    {
        var (site, owner, visitor, p) = await StartAsync(5);
        await using var _ = site;
        var (a, b) = (await MakeAsync(owner, "All", p[..2]), await MakeAsync(owner, "Best", p[2..]));
        var bar = Drafts.Bar([Drafts.Group([Drafts.Button("album", a), Drafts.Button("album", b, preset: true)])]);
        await PageAsync(owner, "Bars", Joined([a, b], bar));
        var html = await visitor.GetStringAsync("/bars");
        // An album that is called as the address says “all” has another key.
        Assert.Equal([": All 5", "all-2: All 2", "best: Best 3 *"], ButtonsOf(html));
        Assert.Contains("3 of 5 photographs", html, StringComparison.Ordinal);
        Assert.Contains("href=\"/bars?show=all\" data-key", html, StringComparison.Ordinal);
        Assert.Equal([": All 5 *", "all-2: All 2", "best: Best 3"], ButtonsOf(await visitor.GetStringAsync("/bars?show=all")));
        var view = await (await visitor.GetAsync("/site/view/bars?width=900&window=1280&at=0&count=10&show=all")).ReadAsync();
        Assert.Equal((5, true, "/bars?show=all"), (view.GetProperty("shown").GetInt32(), view.GetProperty("isAll").GetBoolean(), view.GetProperty("link").GetString()));
        Assert.Equal("/bars", view.GetProperty("buttons")[1].GetProperty("link").GetString());
    }

    [Fact]
    public async Task Words_buttons_and_orders_find_together_what_each_says_and_their_links_keep_the_others()
    {
        var (site, owner, visitor, p) = await StartAsync(6);
        await using var _ = site;
        var (a, b) = (await MakeAsync(owner, "Pier", p[..4]), await MakeAsync(owner, "Dunes", p[3..]));
        string[] titles = ["Café on the pier", "Long spiral", "cafe by night", "", "A cafeteria", "Zenith"];
        foreach (var n in Enumerable.Range(0, titles.Length))
        {
            await site.WriteAsync($"update photo set title = '{titles[n]}', taken = timestamp '2026-06-01' + interval '1 hour' * {(n * 5) % 6}, place = case when {n} = 3 then 'North Strand' else '' end, version = version + 1 where id = '{p[n]}'");
        }

        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = new[] { p[5] }, add = new[] { "kite" }, remove = Array.Empty<string>() })).ReadAsync();
        var bar = Drafts.Bar([Drafts.Group([Drafts.Button("eachAlbum", null)])], search: ["title", "place", "tags"], hint: "Look for", orders: ["newest", "oldest", "title"]);
        await PageAsync(owner, "Bars", Joined([a, b], bar));
        async Task<string[]> FoundAsync(string query) => [.. (await (await visitor.GetAsync($"/site/view/bars?width=900&window=1280&at=0&count=20&{query}")).ReadAsync()).GetProperty("frames").EnumerateArray().Select(f => f.GetProperty("id").GetString()!)];
        Assert.Equal([p[0], p[2], p[4]], await FoundAsync("find=CAFÉ"));
        Assert.Equal([p[0], p[2]], await FoundAsync("find=cafe&show=pier"));
        Assert.Equal([p[2]], await FoundAsync("find=night+caf&show=pier"));
        Assert.Equal([p[3]], await FoundAsync("find=strand"));
        Assert.Equal([p[5]], await FoundAsync("find=kite"));
        Assert.Empty(await FoundAsync("find=p0"));
        IReadOnlyList<string> newest = [.. Enumerable.Range(0, 6).OrderByDescending(n => n * 5 % 6).Select(n => p[n])];
        Assert.Equal(newest, await FoundAsync("order=newest"));
        Assert.Equal(newest.Reverse(), await FoundAsync("order=oldest"));
        Assert.Equal([p[4], p[2], p[0]], await FoundAsync("order=title&find=caf"));
        Assert.Equal(p, await FoundAsync("order=nonsense"));

        var html = await visitor.GetStringAsync("/bars?find=cafe&order=oldest&show=pier");
        Assert.Equal([": All 3", "pier: Pier 2 *", "dunes: Dunes 1"], ButtonsOf(html));
        Assert.Contains("<form role=\"search\" method=\"get\" action=\"/bars\">", html, StringComparison.Ordinal);
        Assert.Contains("<input type=\"hidden\" name=\"show\" value=\"pier\"", html, StringComparison.Ordinal);
        Assert.Contains("<input type=\"hidden\" name=\"order\" value=\"oldest\"", html, StringComparison.Ordinal);
        Assert.Contains("name=\"find\" value=\"cafe\" placeholder=\"Look for\"", html, StringComparison.Ordinal);
        Assert.Contains("href=\"/bars?show=pier,dunes&amp;find=cafe&amp;order=oldest\"", html, StringComparison.Ordinal);
        Assert.Contains("href=\"/bars?show=pier&amp;find=cafe&amp;order=title\"", html, StringComparison.Ordinal);
        Assert.Contains("class=\"clear\" href=\"/bars?show=pier&amp;order=oldest\"", html, StringComparison.Ordinal);
        // A photo's own page, and the way on from it, walk what was found.
        Assert.Contains($"/bars/photo/{p[0]}?show=pier&amp;find=cafe&amp;order=oldest", html, StringComparison.Ordinal);
        var alone = await visitor.GetStringAsync($"/bars/photo/{p[0]}?show=pier&find=cafe&order=oldest");
        Assert.Contains($"/photo/{p[2]}?show=pier", alone, StringComparison.Ordinal);

        var none = await visitor.GetStringAsync("/bars?find=nobody+<script>alert(1)</script>");
        Assert.Contains("data-none>No photograph fits all of that. <a class=\"whole\" href=\"/bars\">Show all</a>", none, StringComparison.Ordinal);
        Assert.DoesNotContain("<script>alert", none, StringComparison.Ordinal);
        Assert.Contains("data-none hidden>", html, StringComparison.Ordinal);
        // What is no text is refused before it comes here.
        foreach (var hostile in (string[])["find=%00", "find=%ED%A0%80", $"find={new string('k', 4000)}", "find=%27+or+1%3D1", "find=*&find=b&order=newest&order=title", "from=99999&find=cafe"])
        {
            Assert.Contains((await visitor.GetAsync($"/bars?{hostile}")).StatusCode, (HttpStatusCode[])[HttpStatusCode.OK, HttpStatusCode.BadRequest]);
        }
    }

    [Fact]
    public async Task A_bar_that_is_off_is_kept_and_not_shown()
    {
        var (site, owner, visitor, p) = await StartAsync(2);
        await using var _ = site;
        var album = await MakeAsync(owner, "All", p);
        var page = await PageAsync(owner, "Bars", Joined([album], Drafts.Bar([Drafts.Group([Drafts.Button("eachAlbum", null)], "Where")], off: true)));
        Assert.DoesNotContain("data-filter", await visitor.GetStringAsync("/bars"), StringComparison.Ordinal);
        Assert.Equal("Where", (await owner.PageAsync(page)).GetProperty("draft").GetProperty("blocks")[1].GetProperty("bar").GetProperty("groups")[0].GetProperty("words").GetString());
    }

    [Fact]
    public async Task Bars_of_the_form_before_and_things_that_were_merged_have_their_buttons_once()
    {
        var (site, owner, visitor, p) = await StartAsync(3);
        await using var _ = site;
        var album = await MakeAsync(owner, "All", p);
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p[..1], add = new[] { "one" }, remove = Array.Empty<string>() })).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p[1..2], add = new[] { "two" }, remove = Array.Empty<string>() })).ReadAsync();
        var (one, two) = (await site.ScalarAsync<Guid>("select id from tag where name = 'one'"), await site.ScalarAsync<Guid>("select id from tag where name = 'two'"));
        var winter = await CategoryAsync(owner, "Winter");
        await (await owner.PostAsJsonAsync("/api/photos/categories", new { photos = p[..1], add = new[] { winter }, remove = Array.Empty<string>() })).ReadAsync();
        var page = await PageAsync(owner, "Bars", Drafts.Photos(album));
        await site.WriteAsync($$"""
            update page
               set draft = jsonb_set(draft, '{blocks,1,bar}', '{"categories": ["{{winter}}"], "tags": ["{{one}}", "{{two}}", "{{one}}"]}') || '{"schema": 6}',
                   published = jsonb_set(published, '{blocks,1,bar}', '{"categories": ["{{winter}}"], "tags": ["{{one}}", "{{two}}", "{{one}}"]}') || '{"schema": 6}',
                   version = version + 1
            """);
        Assert.Equal([": All 3 *", "winter: Winter 1", "one: one 1", "two: two 1"], ButtonsOf(await visitor.GetStringAsync("/bars")));
        var draft = (await owner.PageAsync(page)).GetProperty("draft");
        Assert.Equal(["category", "tag tag"], draft.GetProperty("blocks")[1].GetProperty("bar").GetProperty("groups").EnumerateArray().Select(g => string.Join(' ', g.GetProperty("buttons").EnumerateArray().Select(b => b.GetProperty("kind").GetString()))));

        // Saved again it is of today's form; then two of its tags become one.
        var edited = (await owner.PageAsync(page)).GetProperty("edited").GetInt64();
        await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address = "bars", draft }, edited)).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        Assert.True(await site.ScalarAsync<bool>($"select published -> 'blocks' -> 1 -> 'bar' ? 'groups' and published ->> 'schema' = '{Core.Pages.PageContent.Current}' from page"));
        await (await owner.PostAsJsonAsync($"/api/tags/{one}/merging", new { others = new[] { two } })).ReadAsync();
        Assert.Equal([": All 3 *", "winter: Winter 1", "one: one 2"], ButtonsOf(await visitor.GetStringAsync("/bars")));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task What_no_bar_can_be_is_refused_with_a_sentence_and_the_desk_counts_albums_among_the_buttons()
    {
        var (site, owner, _, p) = await StartAsync(3);
        await using var _ = site;
        var (a, b) = (await MakeAsync(owner, "First", p[..1]), await MakeAsync(owner, "Second", p[1..]));
        var page = await PageAsync(owner, "Bars", Joined([a, b], Drafts.Bar([Drafts.Group([Drafts.Button("album", a)])])));
        async Task<JsonElement> UnreachedAsync() => (await (await owner.GetAsync("/api/desk")).ReadAsync()).GetProperty("unreached");
        Assert.Equal(2, (await UnreachedAsync())[0].GetProperty("photos").GetInt32());
        await DrawAsync(owner, page, "Bars", Joined([a, b], Drafts.Bar([Drafts.Group([Drafts.Button("album", a), Drafts.Button("eachAlbum", null)])])));
        Assert.Equal(0, (await UnreachedAsync()).GetArrayLength());

        var edited = (await owner.PageAsync(page)).GetProperty("edited").GetInt64();
        foreach (var (bar, sentence) in ((object, string)[])
        [
            (Drafts.Bar([Drafts.Group([Drafts.Button("tag", null)])]), "names nothing"),
            (Drafts.Bar([Drafts.Group([Drafts.Button("eachAlbum", a)])]), "names nothing"),
            (Drafts.Bar([.. Enumerable.Range(0, 13).Select(_ => Drafts.Group([]))]), "12 groups"),
            (Drafts.Bar([Drafts.Group([.. Enumerable.Range(0, 201).Select(_ => Drafts.Button("tag", $"{Guid.NewGuid()}"))])]), "200 buttons"),
            (Drafts.Bar([Drafts.Group([Drafts.Button("album", a, new string('w', 61))])]), "60 characters"),
        ])
        {
            var refused = await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address = "bars", draft = Drafts.Page("Bars", Joined([a, b], bar)) }, edited);
            Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
            Assert.Contains(sentence, await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }

        // What lacks a part of it is refused, too, and does no harm.
        foreach (var bar in (object[])[new { }, new { groups = new object?[] { null } }, new { off = false, groups = Array.Empty<object>(), all = true, allWords = "", align = "left", counts = true, folded = Array.Empty<string>(), still = Array.Empty<string>(), search = (object?)null, orders = Array.Empty<string>() }, Drafts.Bar([Drafts.Group([Drafts.Button("nonsense", a)])])])
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address = "bars", draft = Drafts.Page("Bars", Joined([a, b], bar)) }, edited)).StatusCode);
        }
    }
}
