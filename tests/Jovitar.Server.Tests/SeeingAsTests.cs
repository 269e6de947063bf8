using System.Net;
using System.Net.Http.Json;
using Jovitar.Core.Photos;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.MemberSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Staff look at the site as some visitor: they find what that one finds, are told so on every page, and change nothing.</summary>
public sealed class SeeingAsTests
{
    const string Mark = "You see the site as <strong>";

    static Task<HttpResponseMessage> BeginAsync(HttpClient staff, string who, string? kind = null, string? thing = null) =>
        staff.PostAsync("/site/as", new FormUrlEncodedContent(new Dictionary<string, string> { ["as"] = who, ["kind"] = kind ?? "", ["thing"] = thing ?? "" }));

    static Task<HttpResponseMessage> EndAsync(HttpClient staff, string to = "/") => staff.PostAsync("/site/as/end", new FormUrlEncodedContent(new Dictionary<string, string> { ["to"] = to }));

    [Fact]
    public async Task Staff_find_what_a_member_finds_each_page_says_so_and_it_ends_when_they_stop()
    {
        var (site, owner, visitor, p, album, _) = await NightAsync();
        await using var __ = site;
        var juniors = await GroupAsync(owner, "Juniors");
        var ada = await MemberAsync(site, owner, "Ada", juniors);
        (await SayAsync(owner, "album", album, "chosen", chosen: [juniors])).EnsureSuccessStatusCode();
        var picture = $"/i/{await HashAsync(owner, p[0])}/{Renditions.Recipe}-{Renditions.Sheet}.webp";

        // As they are, staff find what everyone does, and no page says anything.
        Assert.DoesNotContain(Mark, await TextAsync(owner, "/category/festival"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(owner, "/album/night"));
        var begun = await BeginAsync(owner, $"person-{await IdAsync(owner, "Ada")}", "album", album);
        Assert.Equal((HttpStatusCode.SeeOther, "/album/night"), (begun.StatusCode, begun.Headers.Location!.OriginalString));
        var answer = await owner.GetAsync("/album/night");
        var html = await answer.Content.ReadAsStringAsync();
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Contains($"{Mark}Ada</strong>", html, StringComparison.Ordinal);
        Assert.True(answer.Headers.CacheControl is { NoStore: true, Private: true }, "a page that is seen as somebody is kept");
        Assert.Null(answer.Headers.ETag);
        // But for the line it is the page that Ada has.
        var line = html[html.IndexOf("<aside", StringComparison.Ordinal)..(html.IndexOf("</aside>", StringComparison.Ordinal) + "</aside>".Length)];
        Assert.Equal(await TextAsync(ada, "/album/night"), html.Replace(line, "", StringComparison.Ordinal));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(owner, picture));
        // Also where there is nothing; and the workroom stays theirs.
        Assert.Contains(Mark, await TextAsync(owner, "/nowhere"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, await GetAsync(owner, "/api/albums"));
        Assert.DoesNotContain(Mark, await TextAsync(owner, "/workroom"), StringComparison.Ordinal);
        Assert.DoesNotContain(Mark, await TextAsync(owner, "/embed/category/festival"), StringComparison.Ordinal);

        // As others they are turned away where those are, and the line says as whom.
        Assert.Equal("/", (await BeginAsync(owner, "member")).Headers.Location!.OriginalString);
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(owner, "/album/night"));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(owner, picture));
        await BeginAsync(owner, "anybody");
        var away = await owner.GetAsync("/album/night");
        Assert.Equal(HttpStatusCode.Forbidden, away.StatusCode);
        Assert.Contains($"{Mark}a visitor who has not signed in</strong>", await away.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        await BeginAsync(owner, $"group-{juniors}");
        Assert.Contains($"{Mark}a member of the group “Juniors”</strong>", WebUtility.HtmlDecode(await TextAsync(owner, "/album/night")), StringComparison.Ordinal);
        // A browser that kept the page from before is not told that it is the same.
        await EndAsync(owner);
        using var again = new HttpRequestMessage(HttpMethod.Get, "/category/festival");
        again.Headers.IfNoneMatch.Add((await owner.GetAsync("/category/festival")).Headers.ETag!);
        await BeginAsync(owner, "anybody");
        Assert.Equal(HttpStatusCode.OK, (await owner.SendAsync(again)).StatusCode);
        Assert.Equal("/category/festival?x=1", (await EndAsync(owner, "/category/festival?x=1")).Headers.Location!.OriginalString);
        Assert.Equal("/", (await EndAsync(owner, "//evil.example")).Headers.Location!.OriginalString);
        Assert.DoesNotContain(Mark, await TextAsync(owner, "/category/festival"), StringComparison.Ordinal);
        Assert.DoesNotContain(Mark, await TextAsync(visitor, "/category/festival"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Who_holds_an_entry_is_seen_as_while_it_is_good_and_who_is_gone_not_at_all()
    {
        var (site, owner, _, _, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        var (entry, _) = await EntryAsync(owner, "album", album);
        await BeginAsync(owner, $"holder-{entry}");
        var html = WebUtility.HtmlDecode(await TextAsync(owner, "/album/night"));
        Assert.Contains($"{Mark}whoever holds the entry “The Harrow family”</strong>", html, StringComparison.Ordinal);
        Assert.Contains("You are here by invitation", html, StringComparison.Ordinal);
        // It counts as no use of it.
        Assert.Equal(0, (await ReadAsync(owner, "album", album)).GetProperty("entries")[0].GetProperty("uses").GetInt32());
        (await owner.DeleteAsync($"/api/entries/{entry}")).EnsureSuccessStatusCode();
        Assert.DoesNotContain(Mark, await TextAsync(owner, "/album/night"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(owner, "/album/night"));
        Assert.Equal(HttpStatusCode.BadRequest, (await BeginAsync(owner, "somebody")).StatusCode);
        Assert.Equal("/", (await BeginAsync(owner, "anybody", "account", album)).Headers.Location!.OriginalString);
        using var elsewhere = new HttpRequestMessage(HttpMethod.Post, "/site/as") { Content = new FormUrlEncodedContent(new Dictionary<string, string> { ["as"] = "anybody" }) };
        elsewhere.Headers.Add("Sec-Fetch-Site", "cross-site");
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.SendAsync(elsewhere)).StatusCode);
    }

    [Fact]
    public async Task Nothing_is_changed_meanwhile_and_to_nobody_else_is_the_cookie_worth_anything()
    {
        var (site, owner, visitor, p, album, _) = await NightAsync();
        await using var __ = site;
        var juniors = await GroupAsync(owner, "Juniors");
        var ada = await MemberAsync(site, owner, "Ada", juniors);
        var bo = await MemberAsync(site, owner, "Bo");
        (await SayAsync(owner, "album", album, "chosen", chosen: [juniors])).EnsureSuccessStatusCode();
        var cookie = $"jovitar-as=person-{await IdAsync(owner, "Ada")}";
        foreach (var other in (HttpClient[])[visitor, bo])
        {
            using var forged = new HttpRequestMessage(HttpMethod.Get, "/album/night");
            forged.Headers.Add("Cookie", cookie);
            var answer = await other.SendAsync(forged);
            Assert.NotEqual(HttpStatusCode.OK, answer.StatusCode);
            Assert.DoesNotContain(Mark, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
            Assert.True((await BeginAsync(other, "anybody")).StatusCode is HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden);
        }

        await BeginAsync(owner, $"person-{await IdAsync(owner, "Ada")}");
        var comment = new FormUrlEncodedContent(new Dictionary<string, string> { ["name"] = "Ada", ["words"] = "What a night" });
        var refused = await owner.PostAsync($"/album/night/photo/{p[0]}", comment);
        Assert.Equal(HttpStatusCode.Forbidden, refused.StatusCode);
        Assert.Contains("Nothing was changed", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Forbidden, (await owner.PostAsync($"/site/seen/{p[0]}", null)).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await owner.PostAsync("/site/leave", null)).StatusCode);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from comment"));
        // She herself is still signed in, and who she is now is what is seen as.
        Assert.Equal(HttpStatusCode.OK, await GetAsync(ada, "/album/night"));
        (await owner.PatchAsJsonAsync($"/api/members/{await IdAsync(owner, "Ada")}", new { outOf = new[] { juniors } })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(owner, "/album/night"));
        (await owner.DeleteAsync($"/api/members/{await IdAsync(owner, "Ada")}")).EnsureSuccessStatusCode();
        Assert.DoesNotContain(Mark, await TextAsync(owner, "/category/festival"), StringComparison.Ordinal);
    }
}
