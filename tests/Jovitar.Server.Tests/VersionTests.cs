using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Versions of pages: what visitors had, what they get, and when.</summary>
public sealed class VersionTests
{
    static async Task<JsonElement[]> VersionsAsync(HttpClient owner, string page) => [.. (await (await owner.GetAsync($"/api/pages/{page}/versions")).ReadAsync()).GetProperty("versions").EnumerateArray()];

    static async Task<JsonElement> PlanAsync(HttpClient owner, string page, DateTimeOffset at) =>
        await (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}/plan", new { at }, (await owner.PageAsync(page)).GetProperty("edited").GetInt64())).ReadAsync();

    [Fact]
    public async Task Each_publishing_is_a_numbered_version_that_can_be_looked_at_and_taken_back_as_the_draft()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, _, page, address) = await site.PublishedAsync(owner, 1);
        await (await owner.PublishAsync(page)).ReadAsync();
        Assert.Single(await VersionsAsync(owner, page));
        await (await owner.DraftAsync(page, address, Drafts.Of("Second", album, "Some words"))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        var versions = await VersionsAsync(owner, page);
        Assert.Equal([(2, "Second", 3, true), (1, "Trial album", 2, false)], versions.Select(v => (v.GetProperty("number").GetInt32(), v.GetProperty("title").GetString()!, v.GetProperty("blocks").GetInt32(), v.GetProperty("current").GetBoolean())));
        Assert.All(versions, v => Assert.Equal("Odile", v.GetProperty("by").GetString()));
        Assert.Contains("Trial album", await owner.GetStringAsync($"/preview/{page}?version=1"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync($"/preview/{page}?version=9")).StatusCode);
        Assert.NotEqual(HttpStatusCode.OK, (await site.Visitor().GetAsync($"/preview/{page}?version=1")).StatusCode);

        var back = await (await owner.PostAsync($"/api/pages/{page}/versions/1/back", null)).ReadAsync();
        Assert.Equal("Trial album", back.GetProperty("page").GetProperty("draft").GetProperty("title").GetString());
        var visitor = site.Visitor();
        Assert.Contains("Second", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        var published = await (await owner.PublishAsync(page)).ReadAsync();
        Assert.Contains("Trial album", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        Assert.Equal([3, 2, 1], (await VersionsAsync(owner, page)).Select(v => v.GetProperty("number").GetInt32()));
        // Undo gives visitors the version before; none is lost, and the next has a number of its own.
        await owner.UndoAsync(published);
        Assert.Contains("Second", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        Assert.Equal([false, true, false], (await VersionsAsync(owner, page)).Select(v => v.GetProperty("current").GetBoolean()));
        await (await owner.PublishAsync(page)).ReadAsync();
        Assert.Equal(4, (await owner.PageAsync(page)).GetProperty("version").GetInt32());
        await (await owner.PostAsync($"/api/pages/{page}/withdraw", null)).ReadAsync();
        Assert.All(await VersionsAsync(owner, page), v => Assert.False(v.GetProperty("current").GetBoolean()));
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsync($"/api/pages/{page}/versions/9/back", null)).StatusCode);
    }

    [Fact]
    public async Task What_publishing_would_change_is_said_before()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, _, page, address) = await site.PublishedAsync(owner, 1);
        async Task<string[]> ChangesAsync() => [.. (await (await owner.GetAsync($"/api/pages/{page}/changes")).ReadAsync()).GetProperty("changes").EnumerateArray()
            .Select(c => $"{c.GetProperty("kind").GetString()} {c.GetProperty("what").GetString()}: {string.Join(", ", c.GetProperty("parts").EnumerateArray().Select(p => p.GetString()))}")];
        Assert.Empty(await ChangesAsync());
        await (await owner.DraftAsync(page, address, Drafts.Of("Trial album", album))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        await (await owner.DraftAsync(page, address, Drafts.Page("Another title", Drafts.Photos(Drafts.Source("albums", [album], most: 5), size: 300), Drafts.Text("New", 9)))).ReadAsync();
        Assert.Equal(["changed the title or the sentence for search engines: ", "added a text: ", "changed photos: which photos, the layout"], await ChangesAsync());
        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync($"/api/pages/{Guid.NewGuid()}/changes")).StatusCode);
    }

    [Fact]
    public async Task What_says_one_thing_together_is_taken_back_together_or_not_at_all()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, _, page, address) = await site.PublishedAsync(owner, 1);
        // Planned, and planned again as it is for another time: the first plan is not half taken back.
        await (await owner.DraftAsync(page, address, Drafts.Of("Second", album))).ReadAsync();
        var first = await PlanAsync(owner, page, DateTimeOffset.UtcNow.AddHours(1));
        var later = DateTimeOffset.UtcNow.AddHours(2);
        var second = await PlanAsync(owner, page, later);
        await owner.UndoAsync(first);
        Assert.Equal(later, (await owner.PageAsync(page)).GetProperty("plannedAt").GetDateTimeOffset(), TimeSpan.FromMilliseconds(1));
        await owner.UndoAsync(second);
        Assert.Equal(later.AddHours(-1), (await owner.PageAsync(page)).GetProperty("plannedAt").GetDateTimeOffset(), TimeSpan.FromMinutes(1));
        await (await owner.DeleteAsync($"/api/pages/{page}/plan")).ReadAsync();

        // Published, something else, and the same once more: it has another number now, and stays.
        var published = await (await owner.PublishAsync(page)).ReadAsync();
        await (await owner.DraftAsync(page, address, Drafts.Of("Third", album))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        await (await owner.DraftAsync(page, address, Drafts.Of("Second", album))).ReadAsync();
        await (await owner.PublishAsync(page)).ReadAsync();
        await owner.UndoAsync(published);
        Assert.Equal([(4, "Second", true), (3, "Third", false), (2, "Second", false), (1, "Trial album", false)], (await VersionsAsync(owner, page)).Select(v => (v.GetProperty("number").GetInt32(), v.GetProperty("title").GetString()!, v.GetProperty("current").GetBoolean())));
        Assert.Contains("Second", await site.Visitor().GetStringAsync($"/{address}"), StringComparison.Ordinal);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task What_was_planned_goes_out_at_its_time_as_it_was_then_by_one_of_two_processes_only()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, _, page, address) = await site.PublishedAsync(owner, 1);
        await (await owner.DraftAsync(page, address, Drafts.Of("Planned", album))).ReadAsync();
        await PlanAsync(owner, page, DateTimeOffset.UtcNow.AddHours(1));
        Assert.NotEqual(JsonValueKind.Null, (await owner.PageAsync(page)).GetProperty("plannedAt").ValueKind);
        // Worked on afterwards: that is not in what was planned.
        await (await owner.DraftAsync(page, address, Drafts.Of("Not yet", album))).ReadAsync();
        var visitor = site.Visitor();
        Assert.Contains("Trial album", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        site.Process(1);
        await site.WriteAsync($"update page set planned_at = now() - interval '1 minute' where id = '{page}'");
        await site.UntilAsync($"select count(*) from page where id = '{page}' and planned_at is null", 1);
        // The other process may have published it: what others do is seen a second later.
        for (var tries = 0; tries < 20 && !(await visitor.GetStringAsync($"/{address}")).Contains("Planned", StringComparison.Ordinal); tries++)
        {
            await Task.Delay(250);
        }

        Assert.Contains("Planned", await visitor.GetStringAsync($"/{address}"), StringComparison.Ordinal);
        var opened = await owner.PageAsync(page);
        Assert.Equal(("Not yet", 2, true), (opened.GetProperty("draft").GetProperty("title").GetString(), opened.GetProperty("version").GetInt32(), opened.GetProperty("changed").GetBoolean()));
        Assert.Equal([2, 1], (await VersionsAsync(owner, page)).Select(v => v.GetProperty("number").GetInt32()));
        Assert.Equal("The plan", (await VersionsAsync(owner, page))[0].GetProperty("by").GetString());
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from act where who = 'The plan'"));
    }

    [Fact]
    public async Task A_plan_is_called_off_by_a_press_by_undo_by_publishing_at_once_and_by_withdrawing()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var page = (await (await owner.PostAsJsonAsync("/api/pages", new { title = "Planned" })).ReadAsync()).GetProperty("id").GetString()!;
        async Task<bool> IsPlannedAsync() => (await owner.PageAsync(page)).GetProperty("plannedAt").ValueKind != JsonValueKind.Null;
        var later = DateTimeOffset.UtcNow.AddDays(2);
        await PlanAsync(owner, page, later);
        await (await owner.DeleteAsync($"/api/pages/{page}/plan")).ReadAsync();
        Assert.False(await IsPlannedAsync());
        await owner.UndoAsync(await PlanAsync(owner, page, later));
        Assert.False(await IsPlannedAsync());
        await PlanAsync(owner, page, later);
        await (await owner.PublishAsync(page)).ReadAsync();
        Assert.False(await IsPlannedAsync());
        await PlanAsync(owner, page, later);
        await (await owner.PostAsync($"/api/pages/{page}/withdraw", null)).ReadAsync();
        Assert.False(await IsPlannedAsync());
        // A time that has passed is refused in words, and so is a draft that was changed since it was read.
        var edited = (await owner.PageAsync(page)).GetProperty("edited").GetInt64();
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}/plan", new { at = DateTimeOffset.UtcNow.AddMinutes(-1) }, edited)).StatusCode);
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}/plan", new { at = later }, edited - 1)).StatusCode);
    }
}
