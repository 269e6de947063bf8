using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>What pages must stand: many blocks, everything on them gone at once, one album on many of them, a process killed while it publishes.</summary>
public sealed class PageFaultTests
{
    static async Task<string> MadeAsync(HttpClient owner, object body) => (await (await owner.PostAsJsonAsync("/api/pages", body)).ReadAsync()).GetProperty("id").GetString()!;

    [Fact]
    public async Task Sixty_blocks_stand_and_when_everything_they_show_is_gone_for_good_visitors_see_the_rest()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, there, _) = await site.PublishedAsync(owner, 3);
        var category = (await (await owner.PostAsJsonAsync("/api/categories", new { name = "Season" })).ReadAsync()).GetProperty("id").GetString()!;
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p, add = new[] { "pier" }, remove = Array.Empty<string>() })).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/photos/categories", new { photos = p, add = new[] { category }, remove = Array.Empty<string>() })).ReadAsync();
        var tag = $"{await site.ScalarAsync<Guid>("select id from tag")}";
        object Link(string kind, string thing) => new { kind, thing, address = "" };
        var blocks = Enumerable.Range(2, 59).Select(object (n) => (n % 8) switch
        {
            0 => Drafts.Text($"Words {n} stay.", n),
            1 => Drafts.Photos(album, [category], [tag], number: n),
            2 => Drafts.Photos(Drafts.Source("picked", photos: p), number: n),
            3 => Drafts.Photos(Drafts.Source("category", category: category), number: n),
            4 => Drafts.Block("photo", n, new { photo = p[n % 3], album, line = "", press = "link", link = Link("category", category), byLot = false }),
            5 => Drafts.Block("index", n, new { of = "albums", category, beneath = true, albums = new[] { album }, sort = "title", most = 4, across = 4, dates = true, counts = true, descriptions = true }),
            6 => Drafts.Block("button", n, new { words = "There", link = Link("page", there) }),
            _ => Drafts.Photos(Drafts.Source("tag", tag: tag), number: n),
        }).ToArray();
        var page = await MadeAsync(owner, new { title = "Sixty" });
        await (await owner.DraftAsync(page, "sixty", Drafts.Page("Sixty", blocks))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        var visitor = site.Visitor();
        Assert.Contains(p[0], await visitor.GetStringAsync("/sixty"), StringComparison.Ordinal);
        var notes = (await (await owner.GetAsync($"/api/pages/{page}/notes")).ReadAsync()).GetProperty("blocks").EnumerateArray().ToArray();
        Assert.Equal(0, (await (await owner.GetAsync("/api/desk")).ReadAsync()).GetProperty("lacking").GetArrayLength());
        Assert.DoesNotContain(notes, n => n.GetProperty("shows") is { ValueKind: JsonValueKind.Number } shows && shows.GetInt32() == 0);

        async Task StandsAsync()
        {
            var answer = await visitor.GetAsync("/sixty");
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            var html = await answer.Content.ReadAsStringAsync();
            Assert.Contains("Words 8 stay.", html, StringComparison.Ordinal);
            Assert.DoesNotContain(p[0], html, StringComparison.Ordinal);
            Assert.DoesNotContain("class=\"button\"", html, StringComparison.Ordinal);
            Assert.Equal(HttpStatusCode.OK, (await owner.GetAsync($"/preview/{page}")).StatusCode);
            var told = (await (await owner.GetAsync($"/api/pages/{page}/notes")).ReadAsync()).GetProperty("blocks").EnumerateArray();
            Assert.All(told, n => Assert.True(n.GetProperty("shows") is { ValueKind: JsonValueKind.Null } ? n.GetProperty("leadsNowhere").GetBoolean() : n.GetProperty("shows").GetInt32() == 0));
            Assert.Equal(60, (await owner.PageAsync(page)).GetProperty("draft").GetProperty("blocks").GetArrayLength());
        }

        await owner.DeleteAsync($"/api/pages/{there}");
        await owner.DeleteAsync($"/api/albums/{album}");
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = p })).ReadAsync();
        await owner.DeleteAsync($"/api/categories/{category}");
        await owner.DeleteAsync($"/api/tags/{tag}");
        await StandsAsync();
        // The Desk names the page, with what it lacks: an album, three photos, a category, a tag, a page.
        async Task<int> LackingAsync() => (await (await owner.GetAsync("/api/desk")).ReadAsync()).GetProperty("lacking").EnumerateArray().Single(l => l.GetProperty("title").GetString() == "Sixty").GetProperty("things").GetInt32();
        Assert.Equal(7, await LackingAsync());
        await owner.EmptyBinAsync();
        Assert.Equal(7, await LackingAsync());
        Assert.Equal(0, await site.ScalarAsync<long>("select (select count(*) from photo) + (select count(*) from album) + (select count(*) from category)"));
        await StandsAsync();
        await site.VerifyAsync();
    }

    [Fact]
    public async Task One_album_on_forty_pages_changed_by_one_act_is_fresh_on_all_of_them_whoever_asks_at_once()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var album = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Everywhere" })).ReadAsync()).GetProperty("id").GetString()!;
        await site.WriteAsync(
            $"""
            insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, state, stage, title)
            select gen_random_uuid(), sha256(g::text::bytea), g || '.jpg', 'image/jpeg', 1, 600, 400, now(), 'ready', 2, 'Before' from generate_series(1, 600) as g;
            insert into album_photo (album, photo, place) select '{album}', id, row_number() over (order by file_name) << 32 from photo;
            """);
        for (var n = 0; n < 40; n++)
        {
            await (await owner.PublishAsync(await MadeAsync(owner, new { album, title = $"Page {n}" }))).ReadAsync();
        }

        var visitor = site.Visitor();
        var before = await Task.WhenAll(Enumerable.Range(0, 40).Select(async n => (await visitor.GetAsync($"/page-{n}")).Headers.ETag!.Tag));
        await site.WriteAsync("update photo set title = 'After'");
        var photos = (await site.ScalarAsync<string>("select string_agg(id::text, ' ') from photo")).Split(' ');
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos, add = new[] { "all" }, remove = Array.Empty<string>() })).ReadAsync();
        // Eight visitors at once on each of them get the same new page.
        var answers = await Task.WhenAll(Enumerable.Range(0, 320).Select(async i =>
        {
            var answer = await visitor.GetAsync($"/page-{i % 40}");
            Assert.True(answer.IsSuccessStatusCode, $"{(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}");
            return (Page: i % 40, Tag: answer.Headers.ETag!.Tag, Html: await answer.Content.ReadAsStringAsync());
        }));
        foreach (var group in answers.GroupBy(a => a.Page))
        {
            Assert.NotEqual(before[group.Key], Assert.Single(group.Select(a => a.Tag).Distinct()));
            Assert.Contains("After", Assert.Single(group.Select(a => a.Html).Distinct()), StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task Killed_while_it_publishes_what_was_planned_each_page_goes_out_once_and_whole()
    {
        await using var site = await Site.StartAsync(process: false);
        var (process, owner) = await ServerProcess.StartAsync(site);
        const int Many = 30;
        for (var n = 0; n < Many; n++)
        {
            var page = await MadeAsync(owner, new { title = $"Planned {n}" });
            await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}/plan", new { at = DateTimeOffset.UtcNow.AddHours(1) }, 1)).ReadAsync();
        }

        await site.WriteAsync("update page set planned_at = now() - interval '1 second'");
        while (await site.ScalarAsync<long>("select count(*) from page_version") == 0)
        {
            await Task.Delay(2);
        }

        // SIGKILL in the midst of them; two others take over at once.
        process.Kill();
        await process.WaitForExitAsync();
        var others = await Task.WhenAll(ServerProcess.StartAsync(site), ServerProcess.StartAsync(site));
        await site.UntilAsync("select count(*) from page where planned_at is null and published is not null", Many);
        Assert.Equal(Many, await site.ScalarAsync<long>("select count(*) from page_version"));
        Assert.Equal(Many, await site.ScalarAsync<long>("select count(*) from act where who = 'The plan'"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from page as pg where not exists (select from page_version as v where v.page = pg.id and v.number = pg.number and v.content = pg.published)"));
        foreach (var (other, _) in others)
        {
            other.Kill();
            other.Dispose();
        }

        process.Dispose();
    }
}
