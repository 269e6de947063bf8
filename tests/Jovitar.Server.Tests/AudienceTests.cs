using System.Net;
using System.Net.Http.Json;
using Jovitar.Core;
using Jovitar.Core.Favourites;
using Jovitar.Core.Photos;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What is not for everyone: seen at no door by others, seen by those who were let in, and by nobody once that is taken back.</summary>
public sealed class AudienceTests
{
    static async Task<(string[] Doors, string[] Listings)> DoorsAsync(HttpClient owner, string[] photos)
    {
        var hash = await HashAsync(owner, photos[1]);
        return (
            [$"/both/photo/{photos[1]}", $"/album/night/photo/{photos[1]}", $"/i/{hash}/{Renditions.Recipe}-480.webp"],
            ["/both", "/album/night", "/category/festival", "/", "/site/view/both?width=900&lot=1", "/site/view/album/night?width=900&lot=1", $"/favourites/{MarkedPhotos.Of([.. photos.Select(id => new PhotoId(Guid.Parse(id)))]).Address}"]);
    }

    /// <summary>What programs and other websites ask for: they hold nothing, whoever asks.</summary>
    static string[] ForPrograms(string hash) => ["/sitemap/1.xml", "/album/night/feed.xml", "/category/festival/feed.xml", "/embed/both", "/embed/album/night", "/site/view/embed/both?width=900&lot=1", "/oembed?url=http://localhost/album/night", $"/i/{hash}/{Renditions.Recipe}-card.jpg"];

    static async Task<bool> NamesAsync(HttpClient visitor, string path, string photo, string hash)
    {
        var answer = await visitor.GetAsync(path);
        var text = await answer.Content.ReadAsStringAsync();
        return text.Contains(photo, StringComparison.Ordinal) || text.Contains(hash, StringComparison.Ordinal) || text.Contains("Night", StringComparison.Ordinal) || (path.EndsWith(".jpg", StringComparison.Ordinal) && answer.IsSuccessStatusCode);
    }

    /// <summary>Says whom a thing is for, and lets somebody in; what they are then, and how that is taken back.</summary>
    static async Task<(HttpClient Visitor, Func<Task> TakeBack)> LetInAsync(Site site, HttpClient owner, string kind, string thing, string who)
    {
        if (who == "holders")
        {
            (await SayAsync(owner, kind, thing, who)).EnsureSuccessStatusCode();
            var (holder, entry) = (site.Visitor(), await EntryAsync(owner, kind, thing));
            Assert.Equal(HttpStatusCode.SeeOther, await EnterAsync(holder, entry.Secret));
            return (holder, async () => (await owner.DeleteAsync($"/api/entries/{entry.Id}")).EnsureSuccessStatusCode());
        }

        var group = await MemberSteps.GroupAsync(owner, "Juniors");
        (await SayAsync(owner, kind, thing, who, chosen: who == "chosen" ? [group] : [])).EnsureSuccessStatusCode();
        var member = await MemberSteps.MemberAsync(site, owner, "Ada", group);
        var id = await MemberSteps.IdAsync(owner, "Ada");
        return (member, async () => (await (who == "chosen" ? owner.PatchAsJsonAsync($"/api/members/{id}", new { outOf = new[] { group } }) : owner.DeleteAsync($"/api/members/{id}"))).EnsureSuccessStatusCode());
    }

    [Theory]
    [InlineData("album", "holders")]
    [InlineData("category", "holders")]
    [InlineData("album", "members")]
    [InlineData("category", "chosen")]
    public async Task Behind_a_gate_nothing_is_found_at_any_door_until_one_is_let_in_and_nothing_once_that_is_taken_back(string kind, string who)
    {
        var (site, owner, visitor, p, album, category) = await NightAsync();
        await using var _ = site;
        await site.WriteAsync("update site set has_favourites = true");
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = new[] { p[1] }, rating = 5 })).ReadAsync();
        var thing = kind == "album" ? album : category;
        var hash = await HashAsync(owner, p[1]);
        var (doors, listings) = await DoorsAsync(owner, p);
        // It stands behind each of them until then, or the test would say nothing.
        foreach (var path in doors.Concat(listings).Concat(ForPrograms(hash)))
        {
            Assert.True(path.StartsWith("/i/", StringComparison.Ordinal) ? await GetAsync(visitor, path) == HttpStatusCode.OK : await NamesAsync(visitor, path, p[1], hash), $"{path} does not show it");
        }

        var (holder, takeBack) = await LetInAsync(site, owner, kind, thing, who);
        foreach (var path in doors.Concat(listings).Concat(ForPrograms(hash)))
        {
            Assert.False(await NamesAsync(visitor, path, p[1], hash) && !path.Contains("/album/night", StringComparison.Ordinal), $"{path} tells everyone of it");
            Assert.NotEqual(HttpStatusCode.OK, path.Contains($"photo/{p[1]}", StringComparison.Ordinal) || path.StartsWith("/i/", StringComparison.Ordinal) ? await GetAsync(visitor, path) : HttpStatusCode.NotFound);
        }

        foreach (var path in doors.Concat(listings))
        {
            var answer = await holder.GetAsync(path);
            Assert.True(answer.IsSuccessStatusCode, $"{path} answers who was let in {answer.StatusCode}");
            Assert.True(answer.Headers.CacheControl is { NoStore: true, Private: true, Public: false }, $"{path} may be kept");
            Assert.True(path.StartsWith("/i/", StringComparison.Ordinal) || await NamesAsync(holder, path, p[1], hash), $"{path} does not show it to who was let in");
        }

        foreach (var path in ForPrograms(hash))
        {
            Assert.False(await NamesAsync(holder, path, p[1], hash), $"{path} tells others what only one was let see");
        }

        await takeBack();
        foreach (var path in doors)
        {
            Assert.NotEqual(HttpStatusCode.OK, await GetAsync(holder, path));
        }
    }

    [Fact]
    public async Task What_only_staff_may_see_is_as_if_it_were_not_there()
    {
        var (site, owner, visitor, p, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "staff")).EnsureSuccessStatusCode();
        var (nothing, shut) = (await visitor.GetAsync("/album/none"), await visitor.GetAsync("/album/night"));
        Assert.Equal(HttpStatusCode.NotFound, shut.StatusCode);
        Assert.Equal(await nothing.Content.ReadAsStringAsync(), await shut.Content.ReadAsStringAsync());
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, $"/album/night/photo/{p[0]}"));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(owner, $"/api/renditions/{await HashAsync(owner, p[0])}/480"));
        // An entry to it opens nothing.
        var entry = await EntryAsync(owner, "album", album);
        await EnterAsync(visitor, entry.Secret);
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/album/night"));
    }

    [Fact]
    public async Task The_strictest_gate_wins_and_a_class_stays_on_the_list_of_the_school_for_those_who_may_see_it()
    {
        var (site, owner, visitor, _, album, school) = await NightAsync();
        await using var __ = site;
        var grade = await CategoryAsync(owner, "Class 3", school);
        await (await StandAsync(owner, album, categories: [school, grade])).ReadAsync();
        (await SayAsync(owner, "category", grade, "holders")).EnsureSuccessStatusCode();
        Assert.Equal(["Day"], (await IndexAsync(visitor, "/category/festival")).Where(h => h is "Day" or "Night"));
        Assert.Equal("Holders of an entry link to “Class 3” can see this.", (await AlbumAsync(owner, album)).GetProperty("audience").GetProperty("sentence").GetString());
        await EnterAsync(visitor, (await EntryAsync(owner, "category", grade)).Secret);
        Assert.Contains("Night", await IndexAsync(visitor, "/category/festival"));
        // Two gates on the way: one is not enough.
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        Assert.DoesNotContain("Night", await IndexAsync(visitor, "/category/festival"));
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(visitor, "/album/night"));
        Assert.Contains("the stricter wins", (await AlbumAsync(owner, album)).GetProperty("audience").GetProperty("why").ToString(), StringComparison.Ordinal);
        await EnterAsync(visitor, (await EntryAsync(owner, "album", album)).Secret);
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/album/night"));
    }

    [Fact]
    public async Task A_category_that_keeps_visitors_out_is_not_thrown_away_over_what_stands_in_it()
    {
        var (site, owner, visitor, _, album, category) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "category", category, "staff")).EnsureSuccessStatusCode();
        var refused = await owner.DeleteAsync($"/api/categories/{category}");
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/album/night"));
        // Nor is one beneath it, which guards what stands there by the one above alone.
        var beneath = await CategoryAsync(owner, "Evening", category);
        await (await StandAsync(owner, album, categories: [beneath])).ReadAsync();
        Assert.Equal(HttpStatusCode.Conflict, (await owner.DeleteAsync($"/api/categories/{beneath}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/album/night"));
        (await SayAsync(owner, "category", category, "everyone")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/album/night"));
        (await owner.DeleteAsync($"/api/categories/{category}")).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task Taken_back_in_one_process_it_is_over_in_another_within_five_seconds()
    {
        var (site, owner, _, p, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        var (entry, secret) = await EntryAsync(owner, "album", album);
        var picture = $"/i/{await HashAsync(owner, p[0])}/{Renditions.Recipe}-480.webp";
        site.Process(0);
        var elsewhere = site.Visitor();
        await EnterAsync(elsewhere, secret);
        Assert.Equal(HttpStatusCode.OK, await GetAsync(elsewhere, picture));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(elsewhere, "/album/night"));
        (await owner.DeleteAsync($"/api/entries/{entry}")).EnsureSuccessStatusCode();
        await Task.Delay(TimeSpan.FromSeconds(4.5));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(elsewhere, picture));
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(elsewhere, "/album/night"));
        // What was for everyone and is not any more, the same.
        var day = await site.ScalarAsync<string>("select id::text from album where working_name = 'Day'");
        var open = $"/i/{await HashAsync(owner, p[^1])}/{Renditions.Recipe}-480.webp";
        Assert.Equal(HttpStatusCode.OK, await GetAsync(elsewhere, open));
        (await SayAsync(owner, "album", day, "staff")).EnsureSuccessStatusCode();
        await Task.Delay(TimeSpan.FromSeconds(4.5));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(elsewhere, open));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(elsewhere, "/album/day"));
    }

    [Fact]
    public async Task Its_time_comes_and_goes_by_itself()
    {
        var (site, owner, visitor, _, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "everyone", from: "2200-01-01T00:00:00Z")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/album/night"));
        Assert.Equal("Only staff can see this until 1 January 2200, 00:00 UTC.", (await AlbumAsync(owner, album)).GetProperty("audience").GetProperty("sentence").GetString());
        (await SayAsync(owner, "album", album, "everyone", until: "2200-01-01T00:00:00Z")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/album/night"));
        // Nobody does anything after this: it ends by the clock.
        (await SayAsync(owner, "album", album, "everyone", until: DateTimeOffset.UtcNow.AddSeconds(2).ToString("O"))).EnsureSuccessStatusCode();
        for (var tries = 0; tries < 300 && await GetAsync(visitor, "/album/night") == HttpStatusCode.OK; tries++)
        {
            await Task.Delay(200);
        }

        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/album/night"));
    }

    [Fact]
    public async Task Two_who_say_different_things_at_once_do_not_overrule_each_other_and_each_change_can_be_taken_back()
    {
        var (site, owner, visitor, _, album, _) = await NightAsync();
        await using var __ = site;
        var was = (await ReadAsync(owner, "album", album)).GetProperty("audience");
        Task<HttpResponseMessage> Put(string who) => owner.PutAsJsonAsync($"/api/audiences/album/{album}", new { audience = new { who, from = (string?)null, until = (string?)null }, was });
        var answers = await Task.WhenAll(Put("staff"), Put("holders"));
        Assert.Equal([HttpStatusCode.OK, HttpStatusCode.Conflict], answers.Select(a => a.StatusCode).Order());
        var said = await answers.Single(a => a.IsSuccessStatusCode).ReadAsync();
        Assert.NotEqual(HttpStatusCode.OK, await GetAsync(visitor, "/album/night"));
        (await owner.PostAsync($"/api/acts/{said.GetProperty("act").GetString()}/undo", null)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/album/night"));
    }

    [Fact]
    public async Task A_file_of_a_page_for_holders_is_theirs_alone_also_in_part_and_a_copy_of_the_page_is_for_them_too()
    {
        var (site, owner, visitor, _, _, _) = await NightAsync();
        await using var __ = site;
        var intake = await owner.IntakeAsync();
        await owner.BringAsync(intake, "programme.pdf", "%PDF-1.4\n1 0 obj\n<<>>\nendobj\ntrailer\n<<>>\n%%EOF\n"u8.ToArray());
        var file = await site.ScalarAsync<string>("select id::text from file where file_name = 'programme.pdf'");
        var page = await owner.ShownAsync(null, "programme", Drafts.Page("Programme", Drafts.Block("files", 2, new { files = new[] { new { file, words = "The programme" } } })));
        var address = $"/file/{file}/programme.pdf";
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, address));
        (await SayAsync(owner, "page", page, "holders")).EnsureSuccessStatusCode();
        await Task.Delay(1100);
        HttpRequestMessage Part() => new(HttpMethod.Get, address) { Headers = { Range = new System.Net.Http.Headers.RangeHeaderValue(0, 3) } };
        Assert.Equal((HttpStatusCode.NotFound, HttpStatusCode.NotFound), (await GetAsync(visitor, address), (await visitor.SendAsync(Part())).StatusCode));
        await EnterAsync(visitor, (await EntryAsync(owner, "page", page)).Secret);
        var part = await visitor.SendAsync(Part());
        Assert.Equal((HttpStatusCode.PartialContent, true), (part.StatusCode, part.Headers.CacheControl!.NoStore));
        var copy = (await (await owner.PostAsync($"/api/pages/{page}/copy", null)).ReadAsync()).GetProperty("id").GetString()!;
        Assert.Equal("holders", (await ReadAsync(owner, "page", copy)).GetProperty("audience").GetProperty("who").GetString());
    }

    [Fact]
    public async Task What_a_change_would_do_is_said_of_the_thing_as_it_stands_there()
    {
        var (site, owner, _, _, album, category) = await NightAsync();
        await using var __ = site;
        async Task<string?> ForecastAsync(string kind, string thing, string who, string? until = null) => (await (await owner.PostAsJsonAsync(
            $"/api/audiences/{kind}/{thing}/forecast", new { audience = new { who, from = (string?)null, until }, was = (await ReadAsync(owner, kind, thing)).GetProperty("audience") })).ReadAsync()).GetProperty("sentence").GetString();
        Assert.Equal("Every visitor loses this album.", await ForecastAsync("album", album, "staff"));
        // Told by a clock two hours ahead.
        Assert.EndsWith("until 30 June 2199, 22:00 UTC.", await ForecastAsync("category", category, "holders", "2199-07-01T00:00:00+02:00"), StringComparison.Ordinal);
        (await SayAsync(owner, "category", category, "holders", until: "2199-07-01T00:00:00+02:00")).EnsureSuccessStatusCode();
        (await SayAsync(owner, "album", album, "staff")).EnsureSuccessStatusCode();
        Assert.Equal("Everyone whom its categories let in gains this album.", await ForecastAsync("album", album, "everyone"));
        var draft = (await (await owner.PostAsJsonAsync("/api/pages", new { title = "Draft" })).ReadAsync()).GetProperty("id").GetString()!;
        Assert.Equal("No visitor sees this page as it is; this holds once they could.", await ForecastAsync("page", draft, "staff"));
    }
}
