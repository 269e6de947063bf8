using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace Jovitar.Server.Tests;

/// <summary>Pages made of blocks, and what visitors find of them.</summary>
public sealed partial class BlockTests
{
    [GeneratedRegex("data-id=\"([^\"]+)\"")]
    private static partial Regex Ids();

    static string[] FramesOf(string html) => [.. Ids().Matches(html).Select(m => m.Groups[1].Value)];

    static async Task<string> MadeAsync(HttpClient owner, string title) => (await (await owner.PostAsJsonAsync("/api/pages", new { title })).ReadAsync()).GetProperty("id").GetString()!;

    static async Task<string> AlbumAsync(HttpClient owner, string name, params string[] photos)
    {
        var album = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = name })).ReadAsync()).GetProperty("id").GetString()!;
        await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos", new { photos })).ReadAsync();
        return album;
    }

    /// <summary>Writes and publishes a page.</summary>
    /// <returns>Where it is.</returns>
    static async Task<string> PublishedAsync(HttpClient owner, string page, object draft, string? address = null)
    {
        address ??= (await owner.PageAsync(page)).GetProperty("address").GetString()!;
        await (await owner.DraftAsync(page, address, draft)).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        return $"/{address}";
    }

    static async Task<bool> IsPublicAsync(Site site, string photo) =>
        (await site.Visitor().GetAsync(Core.Photos.Renditions.Address(await site.ScalarAsync<string>($"select picture from photo where id = '{photo}'"), 480))).StatusCode == HttpStatusCode.OK;

    [Fact]
    public async Task A_page_begins_with_its_heading_and_shows_visitors_each_block_that_was_put_on_it()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, _, _) = await site.PublishedAsync(owner, 3);
        var page = await MadeAsync(owner, "The season");
        Assert.Equal(["heading"], (await owner.PageAsync(page)).GetProperty("draft").GetProperty("blocks").EnumerateArray().Select(b => b.GetProperty("kind").GetString()));
        var path = await PublishedAsync(owner, page, Drafts.Page(
            "The season",
            Drafts.Text("Wind from the **south-west**."),
            Drafts.Photos(album),
            Drafts.Block("beside", 4, new
            {
                blocks = new[]
                {
                    Drafts.Block("photo", 5, new { photo = p[1], album = (string?)null, line = "The long spiral", press = "open", link = Drafts.Nowhere, byLot = false }),
                    Drafts.Text("Beside it.", 6),
                },
            }),
            Drafts.Block("divider", 7, new { line = true }),
            Drafts.Block("index", 8, new { of = "pages", category = (string?)null, beneath = true, albums = Array.Empty<string>(), sort = "newest", most = (int?)null, across = 2, dates = true, counts = true, descriptions = false }),
            Drafts.Block("button", 9, new { words = "Write to us", link = new { kind = "address", thing = (string?)null, address = "mailto:guild@example.org" } })));
        var html = await site.Visitor().GetStringAsync(path);
        Assert.Contains("<h1 class=\"large\">The season</h1>", html, StringComparison.Ordinal);
        Assert.Contains("<strong>south-west</strong>", html, StringComparison.Ordinal);
        Assert.Equal([.. p, p[1]], FramesOf(html));
        Assert.Contains($"href=\"{path}/photo/{p[1]}?in=2\"", html, StringComparison.Ordinal);
        Assert.Contains("The long spiral", html, StringComparison.Ordinal);
        Assert.Contains("class=\"beside n2\"", html, StringComparison.Ordinal);
        Assert.Contains("class=\"block divider line", html, StringComparison.Ordinal);
        Assert.Contains("Trial album", html, StringComparison.Ordinal);
        Assert.Contains("href=\"mailto:guild@example.org\"", html, StringComparison.Ordinal);
        // Nothing of the workroom stands in it.
        Assert.DoesNotContain("data-block", html, StringComparison.Ordinal);
        var alone = await site.Visitor().GetStringAsync($"{path}/photo/{p[1]}?in=2");
        Assert.DoesNotContain("rel=\"next\"", alone, StringComparison.Ordinal);
        Assert.Contains("rel=\"next\"", await site.Visitor().GetStringAsync($"{path}/photo/{p[1]}"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_is_picked_is_public_with_the_page_and_what_is_gathered_must_be_public_elsewhere()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, shown, _, _) = await site.PublishedAsync(owner, 1);
        var intake = await owner.IntakeAsync();
        var hidden = new string[2];
        for (var i = 0; i < 2; i++)
        {
            hidden[i] = (await owner.BringAsync(intake, $"h{i}.jpg", Acts.Photo(100 + i))).GetProperty("photo").GetString()!;
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready'", 3);
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = shown.Concat(hidden), add = new[] { "pier" }, remove = Array.Empty<string>() })).ReadAsync();
        var tag = $"{await site.ScalarAsync<Guid>("select id from tag")}";
        var page = await MadeAsync(owner, "Gathered");
        var path = await PublishedAsync(owner, page, Drafts.Page("Gathered", Drafts.Photos(Drafts.Source("tag", tag: tag)), Drafts.Photos(Drafts.Source("newest"), number: 4)));
        Assert.Equal([shown[0], shown[0]], FramesOf(await site.Visitor().GetStringAsync(path)));
        Assert.False(await IsPublicAsync(site, hidden[0]));
        Assert.False(await IsPublicAsync(site, hidden[1]));
        // Picked by hand it is there, and the audience line of the photo says so.
        await PublishedAsync(owner, page, Drafts.Page("Gathered", Drafts.Photos(Drafts.Source("tag", tag: tag)), Drafts.Photos(Drafts.Source("picked", photos: [hidden[1]]), number: 4)));
        Assert.Equal([shown[0], hidden[1]], FramesOf(await site.Visitor().GetStringAsync(path)));
        Assert.True(await IsPublicAsync(site, hidden[1]));
        Assert.False(await IsPublicAsync(site, hidden[0]));
        var audience = (await (await owner.GetAsync($"/api/photos/{hidden[1]}")).ReadAsync()).GetProperty("audience");
        Assert.Equal("Everyone can see this, on one page.", audience.GetProperty("sentence").GetString());
        // A tag that is put on a public photo later is followed; a page of drafts publishes nothing.
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = shown, add = Array.Empty<string>(), remove = new[] { tag } })).ReadAsync();
        Assert.Equal([hidden[1]], FramesOf(await site.Visitor().GetStringAsync(path)));
        await (await owner.PostAsync($"/api/pages/{page}/withdraw", null)).ReadAsync();
        await Task.Delay(TimeSpan.FromSeconds(6));
        Assert.False(await IsPublicAsync(site, hidden[1]));
        audience = (await (await owner.GetAsync($"/api/photos/{hidden[1]}")).ReadAsync()).GetProperty("audience");
        Assert.Equal("Only staff can see this; its page is a draft.", audience.GetProperty("sentence").GetString());
    }

    [Fact]
    public async Task Albums_are_joined_without_doubles_in_their_order_or_in_another_and_up_to_a_number()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (one, p, _, _) = await site.PublishedAsync(owner, 4);
        var two = await AlbumAsync(owner, "Two", p[3], p[1]);
        await (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{one}/order", new { photos = new[] { p[2] }, position = 0 }, (await (await owner.GetAsync($"/api/albums/{one}")).ReadAsync()).GetProperty("version").GetInt64())).ReadAsync();
        var page = await MadeAsync(owner, "Joined");
        async Task<string[]> ShownAsync(string? sort = null, bool reversed = false, int? most = null, params string[] albums)
        {
            var path = await PublishedAsync(owner, page, Drafts.Page("Joined", Drafts.Photos(Drafts.Source("albums", albums, sort: sort, reversed: reversed, most: most))));
            return FramesOf(await site.Visitor().GetStringAsync(path));
        }

        Assert.Equal([p[3], p[1], p[2], p[0]], await ShownAsync(albums: [two, one]));
        Assert.Equal([p[2], p[0], p[1], p[3]], await ShownAsync(albums: [one, two]));
        Assert.Equal([p[3], p[1], p[0], p[2]], await ShownAsync(reversed: true, albums: [one, two]));
        Assert.Equal([p[0], p[1]], await ShownAsync(sort: "name", most: 2, albums: [one, two]));
        Assert.Equal([p[3], p[2]], await ShownAsync(sort: "name", reversed: true, most: 2, albums: [two, one]));
        // An album out of view shows none of its photos, but those that the other has, too.
        var standing = (await (await owner.GetAsync($"/api/albums/{two}")).ReadAsync());
        await site.WriteAsync($"update album set shown = false where id = '{one}'");
        Assert.Equal([p[3], p[1]], await ShownAsync(albums: [one, two, Guid.NewGuid().ToString()]));
        Assert.NotEqual(JsonValueKind.Undefined, standing.ValueKind);
    }

    [Fact]
    public async Task Two_who_work_on_different_blocks_lose_nothing_and_on_the_same_the_second_is_told()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var page = await MadeAsync(owner, "Two editors");
        var began = Drafts.Page("Two editors", Drafts.Text("First", 2), Drafts.Text("Second", 3));
        var edited = (await (await owner.DraftAsync(page, "two", began)).ReadAsync()).GetProperty("page").GetProperty("edited").GetInt64();
        var was = new { address = "two", draft = began };
        await (await owner.DraftAsync(page, "two", Drafts.Page("Two editors", Drafts.Text("First, theirs", 2), Drafts.Text("Second", 3), Drafts.Text("Third, theirs", 4)), was, edited)).ReadAsync();
        var mine = Drafts.Page("Two editors", Drafts.Text("First", 2), Drafts.Text("Second, mine", 3));
        // Who does not say what he began with is told that it has changed.
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await owner.DraftAsync(page, "two", mine, null, edited)).StatusCode);
        var merged = (await (await owner.DraftAsync(page, "two", mine, was, edited)).ReadAsync()).GetProperty("page");
        string[] Texts(JsonElement of) => [.. of.GetProperty("draft").GetProperty("blocks").EnumerateArray().Where(b => b.GetProperty("kind").GetString() == "text").Select(b => b.GetProperty("words").GetString()!)];
        Assert.Equal(["First, theirs", "Second, mine", "Third, theirs"], Texts(merged));

        var clash = Drafts.Page("Two editors", Drafts.Text("First, mine", 2), Drafts.Text("Second", 3));
        var told = await owner.DraftAsync(page, "two", clash, was, edited);
        Assert.Equal(HttpStatusCode.Conflict, told.StatusCode);
        Assert.Equal([Drafts.Text("", 2)["id"]], JsonDocument.Parse(await told.Content.ReadAsStringAsync()).RootElement.GetProperty("fields").EnumerateObject().Select(f => f.Name));
        Assert.Equal(["First, theirs", "Second, mine", "Third, theirs"], Texts(await owner.PageAsync(page)));
        var over = await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address = "two", draft = clash, was, over = true }, edited)).ReadAsync();
        Assert.Equal(["First, mine", "Second, mine", "Third, theirs"], Texts(over.GetProperty("page")));
        // What was typed in one go is taken back in one.
        await owner.UndoAsync(over);
        Assert.Equal(["First, theirs", "Second", "Third, theirs"], Texts(await owner.PageAsync(page)));
        // The address of one and the blocks of the other.
        await (await owner.DraftAsync(page, "moved", began, was, (await owner.PageAsync(page)).GetProperty("edited").GetInt64())).ReadAsync();
        Assert.Equal("moved", (await (await owner.DraftAsync(page, "two", began, was, edited)).ReadAsync()).GetProperty("page").GetProperty("address").GetString());
    }

    [Fact]
    public async Task Many_photos_come_in_parts_that_together_are_all_and_without_scripts_on_further_pages()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var album = await AlbumAsync(owner, "Many");
        await site.WriteAsync(
            $"""
            insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, state, stage, title)
            select gen_random_uuid(), sha256(g::text::bytea), g || '.jpg', 'image/jpeg', 1, 300 + (g * 37 % 400), 400, now(), 'ready', 2, 'Title ' || g from generate_series(1, 500) as g;
            insert into album_photo (album, photo, place) select '{album}', id, row_number() over (order by file_name) << 32 from photo;
            """);
        var all = (await site.ScalarAsync<string>($"select string_agg(photo::text, ' ' order by place) from album_photo where album = '{album}'")).Split(' ');
        var page = await MadeAsync(owner, "Many");
        var path = await PublishedAsync(owner, page, Drafts.Of("Many", album));
        var visitor = site.Visitor();
        var html = await visitor.GetStringAsync(path);
        Assert.Equal(all[..60], FramesOf(html));
        Assert.Contains("500 photographs", html, StringComparison.Ordinal);
        Assert.True(html.Length < 120_000, $"{html.Length} characters");

        // Scripts off: each part leads to the next, and together they are the album.
        var (walked, next) = (new List<string>(), path);
        for (var n = 0; n < 20 && next is not null; n++)
        {
            var part = await visitor.GetStringAsync(next);
            walked.AddRange(FramesOf(part));
            next = Further().Match(part) is { Success: true } m ? WebUtility.HtmlDecode(m.Groups[1].Value) : null;
        }

        Assert.Equal(all, walked);

        // Scripts on: parts by place and by height are the same photos in the same places.
        async Task<JsonElement> ViewAsync(string part) => await (await visitor.GetAsync($"/site/view{path}?width=1200&window=1280&{part}")).ReadAsync();
        var whole = new List<JsonElement>();
        for (var at = 0; at < 500; at += 240)
        {
            whole.AddRange((await ViewAsync($"at={at}&count=240")).GetProperty("frames").EnumerateArray());
        }

        Assert.Equal(all, whole.Select(f => f.GetProperty("id").GetString()));
        var height = (await ViewAsync("at=0&count=1")).GetProperty("height").GetDouble();
        var found = new Dictionary<int, string>();
        for (double top = 0; top < height; top += 900)
        {
            foreach (var frame in (await ViewAsync($"top={top}&bottom={top + 900}")).GetProperty("frames").EnumerateArray())
            {
                var box = frame.GetProperty("box");
                Assert.True(box.GetProperty("y").GetDouble() <= top + 900 && box.GetProperty("y").GetDouble() + box.GetProperty("height").GetDouble() >= top);
                found[frame.GetProperty("place").GetInt32()] = frame.GetRawText();
            }
        }

        Assert.Equal(whole.Select(f => f.GetRawText()), found.OrderBy(f => f.Key).Select(f => f.Value));
        // The first of them stand where the page has them before any script runs, in the height of all.
        Assert.Contains($"#w1{{aspect-ratio:1200/{Math.Round(height, 2).ToString(System.Globalization.CultureInfo.InvariantCulture)}}}", html, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/site/view{path}?width=1200&in=2")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await visitor.GetAsync($"/site/view{path}?width=NaN")).StatusCode);
        Assert.Empty((await ViewAsync("at=9999&count=240")).GetProperty("frames").EnumerateArray());
        Assert.Empty((await ViewAsync("at=0&count=-5")).GetProperty("frames").EnumerateArray());
        Assert.Equal(all[..60], FramesOf(await visitor.GetStringAsync($"{path}?from=9999")));
    }

    [GeneratedRegex("href=\"([^\"]+)\" rel=\"next\"")]
    private static partial Regex Further();

    [Fact]
    public async Task Links_follow_what_they_lead_to_and_what_is_gone_or_private_leaves_no_gap()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, there, _) = await site.PublishedAsync(owner, 2);
        var page = await MadeAsync(owner, "Links");
        object Leading(string kind, string thing) => Drafts.Block("button", 5, new { words = "Go there", link = new { kind, thing, address = "" } });
        var path = await PublishedAsync(owner, page, Drafts.Page("Links", Leading("page", there)));
        var visitor = site.Visitor();
        async Task<string?> HrefAsync() => Leads().Match(await visitor.GetStringAsync(path)) is { Success: true } m ? m.Groups[1].Value : null;
        Assert.Equal("/trial-album", await HrefAsync());
        var line = await owner.PageAsync(there);
        await (await owner.DraftAsync(there, "elsewhere", Drafts.Of("Trial album", album))).ReadAsync();
        Assert.Equal("/elsewhere", await HrefAsync());
        await (await owner.PostAsync($"/api/pages/{there}/withdraw", null)).ReadAsync();
        Assert.Null(await HrefAsync());
        await (await owner.PublishAsync(there)).ReadAsync();
        Assert.Equal("/elsewhere", await HrefAsync());
        await (await owner.DeleteAsync($"/api/pages/{there}")).ReadAsync();
        Assert.Null(await HrefAsync());
        string[] expected = [.. p, p[0]];
        // An album in the bin takes along the page made for it alone; from others it is gone without a gap.
        await PublishedAsync(owner, page, Drafts.Page("Links", Drafts.Text("Words stay."), Drafts.Photos(album), Drafts.Block("photo", 6, new { photo = (string?)null, album, line = "", press = "open", link = Drafts.Nowhere, byLot = false })));
        Assert.Equal(expected, FramesOf(await visitor.GetStringAsync(path)));
        var removed = await (await owner.DeleteAsync($"/api/albums/{album}")).ReadAsync();
        var html = await visitor.GetStringAsync(path);
        Assert.Empty(FramesOf(html));
        Assert.Contains("Words stay.", html, StringComparison.Ordinal);
        Assert.Equal(0, await site.ScalarAsync<int>($"select (binned is not null)::int from page where id = '{page}'"));
        await owner.UndoAsync(removed);
        Assert.Equal(expected, FramesOf(await visitor.GetStringAsync(path)));
        Assert.NotEqual(JsonValueKind.Undefined, line.ValueKind);
    }

    [GeneratedRegex("class=\"button\" href=\"([^\"]+)\"")]
    private static partial Regex Leads();

    [Fact]
    public async Task Typing_on_a_draft_makes_no_new_version_for_visitors_and_whatever_is_shown_does()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (one, p, page, address) = await site.PublishedAsync(owner, 2);
        var two = await AlbumAsync(owner, "Two");
        var draft = Drafts.Page("Fresh", Drafts.Photos(one), Drafts.Photos(two, number: 4));
        var path = await PublishedAsync(owner, page, draft, address);
        var visitor = site.Visitor();
        async Task<string> TagAsync() => (await visitor.GetAsync(path)).Headers.ETag!.Tag;
        var tag = await TagAsync();
        await (await owner.DraftAsync(page, address, Drafts.Page("Typing", Drafts.Photos(one), Drafts.Photos(two, number: 4)))).ReadAsync();
        Assert.Equal(tag, await TagAsync());
        await (await owner.PostAsJsonAsync($"/api/albums/{two}/photos", new { photos = p[..1] })).ReadAsync();
        Assert.NotEqual(tag, await TagAsync());
        string[] both = [p[0], p[1], p[0]];
        Assert.Equal(both, FramesOf(await visitor.GetStringAsync(path)));
        tag = await TagAsync();
        var version = (await (await owner.GetAsync($"/api/photos/{p[1]}")).ReadAsync()).GetProperty("version").GetInt64();
        await (await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{p[1]}", new { title = "Renamed" }, version)).ReadAsync();
        Assert.NotEqual(tag, await TagAsync());
        Assert.Contains("Renamed", await visitor.GetStringAsync(path), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Pages_are_copied_whole_and_blocks_to_other_pages_and_each_is_taken_back()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var page = await MadeAsync(owner, "One");
        await (await owner.DraftAsync(page, "one", Drafts.Page("One", Drafts.Text("Words")))).ReadAsync();
        var copy = await (await owner.PostAsync($"/api/pages/{page}/copy", null)).ReadAsync();
        Assert.Equal(("One, copy", "one-copy", false), (copy.GetProperty("draft").GetProperty("title").GetString(), copy.GetProperty("address").GetString(), copy.GetProperty("published").GetBoolean()));
        var id = copy.GetProperty("id").GetString()!;
        int Blocks(JsonElement of) => of.GetProperty("draft").GetProperty("blocks").GetArrayLength();
        var added = await (await owner.PostAsJsonAsync($"/api/pages/{id}/blocks", new { block = Drafts.Text("Words") })).ReadAsync();
        Assert.Equal((2, 3), (Blocks(await owner.PageAsync(page)), Blocks(await owner.PageAsync(id))));
        await owner.UndoAsync(added);
        Assert.Equal(2, Blocks(await owner.PageAsync(id)));
        // The history says which was which.
        var acts = (await (await owner.GetAsync("/api/acts")).ReadAsync()).GetProperty("acts").EnumerateArray().Select(a => a.GetProperty("sentence").GetString()).ToArray();
        Assert.Contains("Added a text to page “One, copy”.", acts);
        Assert.Contains("Made a page, “One, copy”.", acts);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync($"/api/pages/{id}/blocks", new { block = Drafts.Text(new string('a', 20_001)) })).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsJsonAsync($"/api/pages/{Guid.NewGuid()}/blocks", new { block = Drafts.Text("a") })).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsync($"/api/pages/{Guid.NewGuid()}/copy", null)).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/pages", new { title = " " })).StatusCode);
    }

    [Fact]
    public async Task A_page_of_the_first_form_is_read_as_blocks_wherever_it_stands_and_undo_brings_it_back()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, page, address) = await site.PublishedAsync(owner, 2);
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p[..1], add = new[] { "pier" }, remove = Array.Empty<string>() })).ReadAsync();
        await site.WriteAsync(
            $$"""
            update page
               set published = jsonb_build_object('heading', 'The first form', 'text', 'Some *words*', 'layout', jsonb_build_object('kind', 'columns', 'size', 320, 'gap', 4),
                     'filterCategories', '[]'::jsonb, 'filterTags', jsonb_build_array((select id from tag))),
                   version = version + 1
             where id = '{{page}}';
            update page set draft = published where id = '{{page}}';
            """);
        var visitor = site.Visitor();
        var html = await visitor.GetStringAsync($"/{address}");
        Assert.Contains(">The first form</h1>", html, StringComparison.Ordinal);
        Assert.Contains("<em>words</em>", html, StringComparison.Ordinal);
        Assert.Contains("pier", html, StringComparison.Ordinal);
        Assert.Equal(p, FramesOf(html));
        Assert.Contains("The first form", await visitor.GetStringAsync("/"), StringComparison.Ordinal);
        var opened = await owner.PageAsync(page);
        var blocks = opened.GetProperty("draft").GetProperty("blocks");
        Assert.Equal(["heading", "text", "photos"], blocks.EnumerateArray().Select(b => b.GetProperty("kind").GetString()));
        Assert.Equal(320, blocks[2].GetProperty("layout").GetProperty("columns").GetProperty("size").GetInt32());
        var written = await (await owner.DraftAsync(page, address, Drafts.Of("Another", album))).ReadAsync();
        await owner.UndoAsync(written);
        Assert.Equal("The first form", (await owner.PageAsync(page)).GetProperty("draft").GetProperty("title").GetString());
    }

    [Fact]
    public async Task A_photo_that_leads_elsewhere_makes_no_album_public_and_shows_the_cover_of_one_that_is()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (shown, p, _, _) = await site.PublishedAsync(owner, 1);
        var intake = await owner.IntakeAsync();
        var hidden = (await owner.BringAsync(intake, "h.jpg", Acts.Photo(70))).GetProperty("photo").GetString()!;
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 2);
        var album = await AlbumAsync(owner, "Hidden", hidden);
        var page = await MadeAsync(owner, "Covers");
        object For(string of, string press, int number) => Drafts.Block("photo", number, new { photo = (string?)null, album = of, line = "", press, link = new { kind = "address", thing = (string?)null, address = "/" }, byLot = false });
        var path = await PublishedAsync(owner, page, Drafts.Page("Covers", For(album, "link", 2), For(album, "nothing", 3), For(shown, "link", 4)));
        var pictures = await site.Visitor().GetStringAsync(path);
        async Task<string> PictureAsync(string photo) => await site.ScalarAsync<string>($"select picture from photo where id = '{photo}'");
        Assert.DoesNotContain(await PictureAsync(hidden), pictures, StringComparison.Ordinal);
        Assert.Contains(await PictureAsync(p[0]), pictures, StringComparison.Ordinal);
        Assert.False(await IsPublicAsync(site, hidden));
        // Pressed to walk the album, it stands there with all of it.
        await PublishedAsync(owner, page, Drafts.Page("Covers", For(album, "open", 2)));
        Assert.Equal([hidden], FramesOf(await site.Visitor().GetStringAsync(path)));
        Assert.True(await IsPublicAsync(site, hidden));
    }

    [Fact]
    public async Task A_place_says_which_photos_are_too_small_for_it()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 2);
        await site.WriteAsync($"update photo set own_width = 4000, own_height = 3000 where id = '{p[1]}'");
        var wide = Drafts.Block("photo", 2, new { photo = (string?)null, album = (string?)null, line = "", press = "open", link = Drafts.Nowhere, byLot = false });
        wide["frame"] = Drafts.Framed(Drafts.Ground(), "window");
        var small = (await (await owner.PostAsJsonAsync("/api/pages/small", new { block = wide, photos = p })).ReadAsync()).GetProperty("photos").EnumerateArray().Single();
        // 900 pixels where 1,280 stand.
        Assert.Equal((p[0], "desktop", true), (small.GetProperty("photo").GetString(), small.GetProperty("device").GetString(), small.GetProperty("blurred").GetBoolean()));
    }
}
