using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace Jovitar.Server.Tests;

/// <summary>Every layout as visitors get it, and what older pages say of none of them.</summary>
public sealed class LayoutPageTests
{
    static string[] FramesOf(string html) => [.. Regex.Matches(html, """<a class="frame"[^>]*data-id="([^"]+)""").Select(m => m.Groups[1].Value)];

    /// <param name="Shows">Publishes the photos in a layout, and gives the page as visitors get it.</param>
    sealed record Made(Site Site, HttpClient Owner, string[] Photos, string Page, string Address, Func<object, Task<string>> Shows) : IAsyncDisposable
    {
        public ValueTask DisposeAsync() => Site.DisposeAsync();

        public async Task<JsonElement> ViewAsync(string query) => await (await Site.Visitor().GetAsync($"/site/view/{Address}?{query}")).ReadAsync();
    }

    /// <summary>A page of twelve photos: the fourth is tall, the sixth wide, the others 3:2; the third is rated, the second has words.</summary>
    static async Task<Made> StartAsync()
    {
        var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, photos, page, address) = await site.PublishedAsync(owner, 12);
        await site.WriteAsync(
            $"""
            update photo set own_width = 3000, own_height = 2000;
            update photo set own_width = 1000, own_height = 2000 where id = '{photos[3]}';
            update photo set own_width = 3000, own_height = 1000 where id = '{photos[5]}';
            """);
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = photos[2..3], rating = 5 })).ReadAsync();
        var version = (await (await owner.GetAsync($"/api/photos/{photos[1]}")).ReadAsync()).GetProperty("version").GetInt64();
        await (await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{photos[1]}", new { title = "<The pier>", caption = "Low & tide" }, version)).ReadAsync();
        return new Made(site, owner, photos, page, address, async layout =>
        {
            await (await owner.DraftAsync(page, address, Drafts.Page("Season", Drafts.Photos(Drafts.Source("albums", [album]), layout: layout)))).ReadAsync();
            await owner.PublishAsync(page);
            return await site.Visitor().GetStringAsync($"/{address}");
        });
    }

    [Fact]
    public async Task A_page_whose_album_was_emptied_stands_in_every_layout()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, page, address) = await site.PublishedAsync(owner, 2);
        var blocks = ((string[])["rows", "columns", "grid", "mosaic", "list", "strip", "slides"]).Select(object (kind, n) => Drafts.Photos(Drafts.Source("albums", albums: [album]), number: n + 2, layout: Drafts.Layout(kind))).ToArray();
        await (await owner.DraftAsync(page, address, Drafts.Page("Emptied", blocks))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        Assert.Contains(p[0], await site.Visitor().GetStringAsync($"/{address}"), StringComparison.Ordinal);
        await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos/removal", new { photos = p })).ReadAsync();
        foreach (var (client, at) in new[] { (site.Visitor(), $"/{address}"), (owner, $"/preview/{page}"), (owner, $"/api/pages/{page}/notes"), (site.Visitor(), $"/site/view/{address}?in=5&width=900&at=0&count=9") })
        {
            var answer = await client.GetAsync(at);
            Assert.True(answer.StatusCode == HttpStatusCode.OK, $"{at} answers {answer.StatusCode}");
            Assert.DoesNotContain(p[0], await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task A_strip_stands_in_one_row_as_high_as_was_said_and_says_how_it_moves()
    {
        await using var made = await StartAsync();
        var html = await made.Shows(Drafts.Layout("strip", height: "half", pace: "slow", loops: true));
        Assert.Equal(made.Photos, FramesOf(html));
        Assert.Matches("""<div class="run" data-run="strip" data-turn="fade" data-pace="slow" data-arrows data-loops>""", html);
        Assert.Contains("""class="frames strip" role="group" aria-label="Photographs side by side" tabindex="0" data-walk="1""", html, StringComparison.Ordinal);
        // On a phone no higher than a 3:2 is that is as wide as the block: 358 px.
        Assert.Contains("@media (max-width:599px){#w1{--high:min(238.67px,max(140px,50svh));--gap:6px}}", html, StringComparison.Ordinal);
        Assert.DoesNotContain("data-bands", html, StringComparison.Ordinal);
        var equal = await made.Shows(Drafts.Layout("strip", height: "tallest"));
        Assert.Contains("frames strip equal", equal, StringComparison.Ordinal);
        // The tallest, 1:2, is 480 px high at 240.
        Assert.Contains("(min-width:1024px) and (max-width:1599px){#w1{--each:240px;--high:480px;--gap:6px}}", equal, StringComparison.Ordinal);
        Assert.DoesNotContain("data-loops", equal, StringComparison.Ordinal);
        var view = await made.ViewAsync("at=10&count=60&width=1200");
        Assert.Equal(made.Photos[10..], view.GetProperty("frames").EnumerateArray().Select(f => f.GetProperty("id").GetString()));
    }

    [Fact]
    public async Task Slides_stand_in_a_frame_that_is_said_or_that_the_tallest_needs()
    {
        await using var made = await StartAsync();
        var tallest = await made.Shows(Drafts.Layout("slides", turn: "zoom"));
        Assert.Equal(made.Photos, FramesOf(tallest));
        Assert.Contains("""data-run="slides" data-turn="zoom" data-pace="still" data-arrows>""", tallest, StringComparison.Ordinal);
        Assert.Contains("#w1{aspect-ratio:0.5}", tallest, StringComparison.Ordinal);
        Assert.Contains("frames slides whole", tallest, StringComparison.Ordinal);
        Assert.Contains("#w1{aspect-ratio:1.7778}", await made.Shows(Drafts.Layout("slides", cell: new { across = 16, down = 9 })), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_list_has_the_words_of_its_photos_beside_them()
    {
        await using var made = await StartAsync();
        var html = await made.Shows(Drafts.Layout("list"));
        Assert.Equal(made.Photos, FramesOf(html));
        Assert.Contains("""<span class="frame-words aside"><span class="one">&lt;The pier&gt;</span><span class="two">Low &amp; tide</span></span></a>""", html, StringComparison.Ordinal);
        // 240 px of 3:2 are 160 high: five lines of a caption.
        Assert.Contains("{--picture:240px;--lines:5}", html, StringComparison.Ordinal);
        Assert.Matches("""sizes="\(max-width:599px\) 38.55vw,""", html);
    }

    [Fact]
    public async Task In_a_mosaic_the_photo_rated_highest_stands_large_and_another_once_another_is()
    {
        await using var made = await StartAsync();
        await made.Shows(Drafts.Layout("mosaic", size: 140));
        async Task<(string Largest, string Mark)> LargestAsync()
        {
            var view = await made.ViewAsync("width=1200");
            var frames = view.GetProperty("frames").EnumerateArray().Where(f => f.GetProperty("height").GetInt32() == 2000 && f.GetProperty("width").GetInt32() == 3000);
            return (frames.MaxBy(f => f.GetProperty("box").GetProperty("height").GetDouble()).GetProperty("id").GetString()!, view.GetProperty("mark").GetString()!);
        }

        var (largest, mark) = await LargestAsync();
        Assert.Equal(made.Photos[2], largest);
        Assert.DoesNotContain("rating", (await made.ViewAsync("width=1200")).GetRawText(), StringComparison.Ordinal);
        await (await made.Owner.PostAsJsonAsync("/api/photos/decision", new { photos = made.Photos[2..3], rating = 0 })).ReadAsync();
        await (await made.Owner.PostAsJsonAsync("/api/photos/decision", new { photos = made.Photos[8..9], rating = 4 })).ReadAsync();
        var (next, other) = await LargestAsync();
        Assert.Equal(made.Photos[8], next);
        // Who opened the page before gets it anew.
        Assert.NotEqual(mark, other);
        await made.Shows(Drafts.Layout("mosaic", size: 140, large: "chosen", chosen: made.Photos[10..11]));
        Assert.Equal(made.Photos[10], (await LargestAsync()).Largest);
    }

    [Fact]
    public async Task The_margin_knows_which_photos_are_too_small_for_a_window_high_strip_and_none_in_a_list()
    {
        await using var made = await StartAsync();
        await made.Site.WriteAsync("update photo set own_width = 600, own_height = 400");
        async Task<(int Blurred, int Sharp)> NotesAsync(object layout)
        {
            await made.Shows(layout);
            var notes = (await (await made.Owner.GetAsync($"/api/pages/{made.Page}/notes")).ReadAsync()).GetProperty("blocks").EnumerateArray().Single(b => b.GetProperty("shows").ValueKind == JsonValueKind.Number);
            return (notes.GetProperty("blurred").GetInt32(), notes.GetProperty("onlySharp").GetInt32());
        }

        Assert.Equal((0, 0), await NotesAsync(Drafts.Layout("list")));
        Assert.Equal((12, 0), await NotesAsync(Drafts.Layout("strip", height: "whole")));
        // 400 px high they are 600 wide: as many pixels as on any screen, half as many as a sharp one has.
        Assert.Equal((0, 12), await NotesAsync(Drafts.Layout("strip", size: 400)));
    }

    [Fact]
    public async Task A_page_of_the_second_form_knows_no_other_layouts_and_opens_with_the_usual_settings_of_them()
    {
        await using var made = await StartAsync();
        await made.Shows(Drafts.Layout("columns", size: 320));
        await made.Site.WriteAsync(
            """
            update page
               set draft = jsonb_set(jsonb_set(draft, '{schema}', '2'), '{blocks,1,layout}', (draft #> '{blocks,1,layout}') - array['cells', 'mosaic', 'large', 'list', 'strip', 'along', 'slides']),
                   published = jsonb_set(jsonb_set(published, '{schema}', '2'), '{blocks,1,layout}', (published #> '{blocks,1,layout}') - array['cells', 'mosaic', 'large', 'list', 'strip', 'along', 'slides']),
                   version = version + 1
            """);
        Assert.Equal(made.Photos, FramesOf(await made.Site.Visitor().GetStringAsync($"/{made.Address}")));
        var layout = (await made.Owner.PageAsync(made.Page)).GetProperty("draft").GetProperty("blocks")[1].GetProperty("layout");
        Assert.Equal((320, 180, "rating", "fade"), (
            layout.GetProperty("columns").GetProperty("size").GetInt32(), layout.GetProperty("mosaic").GetProperty("size").GetInt32(),
            layout.GetProperty("large").GetProperty("by").GetString(), layout.GetProperty("slides").GetProperty("turn").GetString()));
        // What is sent as it was read is nothing new.
        Assert.Empty((await (await made.Owner.GetAsync($"/api/pages/{made.Page}/changes")).ReadAsync()).GetProperty("changes").EnumerateArray());
    }

    [Fact]
    public async Task A_layout_without_its_settings_is_refused_with_a_sentence()
    {
        await using var made = await StartAsync();
        await made.Shows(Drafts.Layout("rows"));
        var answer = await made.Owner.DraftAsync(made.Page, made.Address, Drafts.Page("Season", Drafts.Photos(Drafts.Source("albums"), layout: new { kind = "strip" })));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var many = Enumerable.Range(0, 501).Select(_ => Guid.NewGuid().ToString()).ToArray();
        var crowded = await made.Owner.DraftAsync(made.Page, made.Address, Drafts.Page("Season", Drafts.Photos(Drafts.Source("albums"), layout: Drafts.Layout("mosaic", large: "chosen", chosen: many))));
        Assert.Contains("500 photos of a mosaic", await crowded.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_a_device_leaves_out_stands_on_every_other_and_is_counted_and_walked_on_none_where_it_is_not()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, page, address) = await site.PublishedAsync(owner, 5);
        var source = Drafts.Source("albums", albums: [album]);
        object Page(object absent) => Drafts.Page("Season", Drafts.Photos(source, absent: absent));
        await (await owner.DraftAsync(page, address, Page(Drafts.Absent()))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        // The second not on a phone and a desktop, the fourth not on a phone, the last nowhere.
        await (await owner.DraftAsync(page, address, Page(Drafts.Absent([p[1], p[3], p[4]], [p[4]], [p[1], p[4]])))).ReadAsync();
        var changes = (await (await owner.GetAsync($"/api/pages/{page}/changes")).ReadAsync()).ToString();
        Assert.Contains("on which devices they stand", changes, StringComparison.Ordinal);
        await (await owner.PublishAsync(page)).ReadAsync();
        var visitor = site.Visitor();
        var html = await visitor.GetStringAsync($"/{address}");
        Assert.Equal(p[..4], FramesOf(html));
        Assert.Equal(["phone desktop", "phone"], Regex.Matches(html, "data-absent=\"([^\"]+)").Select(m => m.Groups[1].Value));
        Assert.Contains("<span class=\"on-phone\">2 photographs</span><span class=\"on-tablet\">4 photographs</span><span class=\"on-desktop\">3 photographs</span>", html, StringComparison.Ordinal);
        Assert.Contains("data-shown=\"2,4,3\"", html, StringComparison.Ordinal);
        async Task<string[]> ViewAsync(int window) =>
            [.. (await (await visitor.GetAsync($"/site/view/{address}?width=300&window={window}&at=0&count=9")).ReadAsync()).GetProperty("frames").EnumerateArray().Select(f => f.GetProperty("id").GetString()!)];
        Assert.Equal([p[0], p[2]], await ViewAsync(390));
        Assert.Equal(p[..4], await ViewAsync(820));
        Assert.Equal([p[0], p[2], p[3]], await ViewAsync(1280));
        var alone = await visitor.GetStringAsync($"/{address}/photo/{p[0]}");
        Assert.Contains($"/photo/{p[2]}\" rel=\"next\" class=\"on-phone on-desktop\"", alone, StringComparison.Ordinal);
        Assert.Contains($"/photo/{p[1]}\" rel=\"next\" class=\"on-tablet\"", alone, StringComparison.Ordinal);
        // Found by its address, one that is left out here leads back into those that are not.
        Assert.Contains($"/photo/{p[2]}\" rel=\"next\">", await visitor.GetStringAsync($"/{address}/photo/{p[1]}"), StringComparison.Ordinal);

        // Small ones are named where they stand.
        await site.WriteAsync($"update photo set own_width = 300, own_height = 200 where id = '{p[1]}'");
        await (await owner.DraftAsync(page, address, Page(Drafts.Absent(phone: [p[1]], desktop: [p[1]])))).ReadAsync();
        var small = (await (await owner.GetAsync($"/api/pages/{page}/notes")).ReadAsync()).GetProperty("blocks")[0].GetProperty("small").EnumerateArray().Single(s => s.GetProperty("photo").GetString() == p[1]);
        Assert.Equal("tablet", small.GetProperty("device").GetString());

        // Where a device shows none of them, nothing of the block is seen there.
        await (await owner.DraftAsync(page, address, Page(Drafts.Absent(tablet: p)))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        Assert.Contains("left not-on-tablet\"", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);

        var of = await (await owner.PostAsJsonAsync("/api/pages/photos", new { block = Drafts.Photos(source), from = 3 })).ReadAsync();
        Assert.Equal((5, p[3]), (of.GetProperty("total").GetInt32(), of.GetProperty("photos")[0].GetProperty("id").GetString()));
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/pages/photos", new { block = Drafts.Photos(Drafts.Source("albums", most: 0)) })).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await visitor.PostAsJsonAsync("/api/pages/photos", new { block = Drafts.Photos(source) })).StatusCode);
        var many = Enumerable.Range(0, 501).Select(_ => $"{Guid.NewGuid()}").ToArray();
        Assert.Contains("500 photos of a block", await (await owner.DraftAsync(page, address, Page(Drafts.Absent(tablet: many)))).Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_page_of_the_fifth_form_has_every_photo_on_every_device_and_is_published_as_it_was()
    {
        await using var made = await StartAsync();
        var before = await made.Shows(Drafts.Layout("rows"));
        await made.Site.WriteAsync(
            """
            update page
               set draft = jsonb_set(jsonb_set(draft, '{schema}', '5'), '{blocks,1}', (draft #> '{blocks,1}') - 'absent' - 'more' - 'press'),
                   published = jsonb_set(jsonb_set(published, '{schema}', '5'), '{blocks,1}', (published #> '{blocks,1}') - 'absent' - 'more' - 'press'),
                   version = version + 1
            """);
        Assert.Equal(before, await made.Site.Visitor().GetStringAsync($"/{made.Address}"));
        Assert.Empty((await (await made.Owner.GetAsync($"/api/pages/{made.Page}/changes")).ReadAsync()).GetProperty("changes").EnumerateArray());
        // Who has it open since before that sends it without: that is told, and nothing is lost.
        var older = Drafts.Photos(Drafts.Source("albums"));
        older.Remove("absent");
        Assert.Equal(HttpStatusCode.BadRequest, (await made.Owner.DraftAsync(made.Page, made.Address, Drafts.Page("Season", older))).StatusCode);
    }
}
