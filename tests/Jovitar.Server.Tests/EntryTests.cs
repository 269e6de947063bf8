using System.Net;
using System.Net.Http.Json;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Entry links and passcodes: what they open, how often, for how long, and what of them cannot be guessed, planted or replayed.</summary>
public sealed class EntryTests
{
    [Fact]
    public async Task A_page_for_holders_asks_for_the_passcode_and_leads_on_to_where_one_wanted_to_go()
    {
        var (site, owner, visitor, p, _, _) = await NightAsync();
        await using var __ = site;
        var page = await site.ScalarAsync<string>("select id::text from page where address = 'both'");
        (await SayAsync(owner, "page", page, "holders")).EnsureSuccessStatusCode();
        var asked = await visitor.GetAsync($"/both/photo/{p[0]}?in=1");
        var html = await asked.Content.ReadAsStringAsync();
        Assert.Equal(HttpStatusCode.Forbidden, asked.StatusCode);
        Assert.DoesNotContain("name=\"passcode\"", html, StringComparison.Ordinal);
        Assert.DoesNotContain("Both", html, StringComparison.Ordinal);
        var (_, passcode) = await EntryAsync(owner, "page", page, "passcode");
        Assert.Contains("name=\"passcode\"", await TextAsync(visitor, $"/both/photo/{p[0]}?in=1"), StringComparison.Ordinal);
        var wrong = await TypeAsync(visitor, "abcd-efgh-jkmn", "/both");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, wrong.StatusCode);
        Assert.Contains("role=\"alert\"", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var right = await TypeAsync(visitor, $" {passcode.ToUpperInvariant().Replace('-', ' ')} ", $"/both/photo/{p[0]}?in=1");
        Assert.Equal((HttpStatusCode.SeeOther, $"/both/photo/{p[0]}?in=1"), (right.StatusCode, right.Headers.Location!.OriginalString));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/both"));
        // The album has a page of its own, which is for everyone still.
        Assert.Equal(HttpStatusCode.OK, await GetAsync(site.Visitor(), "/album/night"));
    }

    [Theory]
    [InlineData("//evil.example/")]
    [InlineData("https://evil.example/album/night")]
    [InlineData("/\\evil.example")]
    [InlineData("javascript:alert(1)")]
    [InlineData("/.//evil.example/")]
    [InlineData("/album/..//evil.example/")]
    [InlineData("/%2e//evil.example/")]
    [InlineData("/.\\/evil.example")]
    [InlineData("/album/night/../../workroom")]
    public async Task Nobody_is_led_away_from_the_site(string to)
    {
        var (site, owner, visitor, _, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        var (_, passcode) = await EntryAsync(owner, "album", album, "passcode");
        var answer = await TypeAsync(visitor, passcode, to);
        Assert.True(answer.StatusCode == HttpStatusCode.NotFound || (answer.Headers.Location!.OriginalString is var led && led.StartsWith('/') && !led.StartsWith("//", StringComparison.Ordinal) && new Uri(new Uri("http://here.example"), led).Host == "here.example"), $"{answer.StatusCode} {answer.Headers.Location}");
    }

    [Fact]
    public async Task A_passcode_of_one_album_opens_no_other()
    {
        var (site, owner, visitor, _, album, _) = await NightAsync();
        await using var __ = site;
        var day = await site.ScalarAsync<string>("select id::text from album where working_name = 'Day'");
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        (await SayAsync(owner, "album", day, "holders")).EnsureSuccessStatusCode();
        await EntryAsync(owner, "album", album, "passcode");
        var (_, ofDay) = await EntryAsync(owner, "album", day, "passcode");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await TypeAsync(visitor, ofDay)).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(visitor, "/album/night"));
        Assert.Equal(HttpStatusCode.SeeOther, (await TypeAsync(visitor, ofDay, "/album/day")).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(visitor, "/album/night"));
    }

    [Fact]
    public async Task Who_guesses_is_slowed_down_also_when_they_guess_all_at_once()
    {
        var (site, owner, _, _, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        var (_, passcode) = await EntryAsync(owner, "album", album, "passcode");
        var tries = await Task.WhenAll(Enumerable.Range(0, 60).Select(i => TypeAsync(site.Visitor(), $"abcd-efgh-{i:00}jk".Replace('0', 'x').Replace('1', 'y'))));
        Assert.True(tries.Count(t => t.StatusCode == HttpStatusCode.UnprocessableEntity) <= 30);
        Assert.Contains(tries, t => t.StatusCode == HttpStatusCode.TooManyRequests);
        // Not even the right one, for a while: or guessing would go on at full speed until it hits.
        Assert.Equal(HttpStatusCode.TooManyRequests, (await TypeAsync(site.Visitor(), passcode)).StatusCode);
        await site.WriteAsync("delete from try_count");
        Assert.Equal(HttpStatusCode.SeeOther, (await TypeAsync(site.Visitor(), passcode)).StatusCode);
    }

    [Fact]
    public async Task A_link_lets_in_as_many_browsers_as_it_may_and_no_more_however_they_race()
    {
        var (site, owner, _, _, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        var (id, secret) = await EntryAsync(owner, "album", album, most: 3);
        var browsers = Enumerable.Range(0, 12).Select(_ => site.Visitor()).ToArray();
        // Looked at by programs, it is not used up.
        foreach (var browser in browsers)
        {
            Assert.Equal(HttpStatusCode.OK, await GetAsync(browser, $"/enter/{secret}"));
        }

        var entered = await Task.WhenAll(browsers.Select(b => EnterAsync(b, secret)));
        Assert.Equal(3, entered.Count(e => e == HttpStatusCode.SeeOther));
        Assert.Equal(3, (await Task.WhenAll(browsers.Select(b => GetAsync(b, "/album/night")))).Count(s => s == HttpStatusCode.OK));
        // Who is in comes in again by the same link, and counts once.
        var inside = browsers[Array.IndexOf(entered, HttpStatusCode.SeeOther)];
        Assert.Equal(HttpStatusCode.SeeOther, await EnterAsync(inside, secret));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(site.Visitor(), $"/enter/{secret}"));
        var line = (await ReadAsync(owner, "album", album)).GetProperty("entries")[0];
        Assert.Equal((3, false), (line.GetProperty("uses").GetInt32(), line.GetProperty("isGood").GetBoolean()));
        Assert.Equal(3, (await (await owner.GetAsync($"/api/entries/{id}/uses")).ReadAsync()).GetProperty("uses").GetArrayLength());
    }

    [Fact]
    public async Task What_one_browser_showed_is_worth_nothing_once_it_came_in_again_or_left()
    {
        var (site, owner, _, _, album, category) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        static HttpClient With(Site site, string cookie)
        {
            var client = site.Visitor();
            client.DefaultRequestHeaders.Add("Cookie", cookie);
            return client;
        }

        static string CookieOf(HttpResponseMessage answer) => answer.Headers.GetValues("Set-Cookie").Single(c => c.StartsWith("jovitar-entry=", StringComparison.Ordinal)).Split(';')[0];
        var link = (await EntryAsync(owner, "album", album)).Secret;
        var first = await With(site, "jovitar-entry=none").PostAsync($"/enter/{link}", null);
        var planted = CookieOf(first);
        Assert.Contains("httponly", first.Headers.GetValues("Set-Cookie").Single(), StringComparison.OrdinalIgnoreCase);
        Assert.Equal(HttpStatusCode.OK, await GetAsync(With(site, planted), "/album/night"));
        // Whoever planted a cookie in another's browser has nothing of what the other is let in to afterwards.
        (await SayAsync(owner, "category", category, "holders")).EnsureSuccessStatusCode();
        var second = CookieOf(await With(site, planted).PostAsync($"/enter/{(await EntryAsync(owner, "category", category)).Secret}", null));
        Assert.NotEqual(planted, second);
        Assert.Equal(HttpStatusCode.OK, await GetAsync(With(site, second), "/album/night"));
        await Task.Delay(1100);
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(With(site, planted), "/album/night"));
        var left = await With(site, second).PostAsync("/site/leave", null);
        Assert.Equal("\"cache\"", left.Headers.GetValues("Clear-Site-Data").Single());
        await Task.Delay(1100);
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(With(site, second), "/album/night"));
    }

    [Fact]
    public async Task Secrets_stand_on_no_page_and_in_no_history()
    {
        var (site, owner, visitor, _, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        var (entry, passcode) = await EntryAsync(owner, "album", album, "passcode");
        var (sheet, secret) = await EntryAsync(owner, "album", album);
        Assert.DoesNotContain(secret, await (await owner.GetAsync("/api/acts")).Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(0, await site.ScalarAsync<long>($"select count(*) from act_change where before::text like '%{secret}%' or after::text like '%{passcode}%'"));
        Assert.Contains("no-referrer", (await visitor.GetAsync($"/enter/{secret}")).Headers.GetValues("Referrer-Policy"));
        Assert.Contains("svg", await owner.GetStringAsync($"/preview/entry/{sheet}"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Unauthorized, await GetAsync(visitor, $"/preview/entry/{entry}"));
        foreach (var bad in (string[])[new string('a', 43), "x", new string('é', 43), $"{secret}a"])
        {
            Assert.NotEqual(HttpStatusCode.OK, await GetAsync(visitor, $"/enter/{bad}"));
        }
    }

    [Fact]
    public async Task Of_one_thing_there_are_so_many_and_no_more_and_it_is_said_why()
    {
        var (site, owner, _, _, album, _) = await NightAsync();
        await using var __ = site;
        await site.WriteAsync(
            $"""
            insert into entry (id, thing, name, kind, secret, hash, made, made_by, ends)
            select gen_random_uuid(), '{album}', 'Many', 'Link', n::text, sha256(n::text::bytea), now(), 'The test', now() - interval '1 day' from generate_series(1, 200) as n
            """);
        var refused = await owner.PostAsJsonAsync($"/api/audiences/album/{album}/entries", new { name = "One more", kind = "link" });
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Contains("Withdraw some", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var first = (await ReadAsync(owner, "album", album)).GetProperty("entries")[0].GetProperty("id").GetString();
        (await owner.DeleteAsync($"/api/entries/{first}")).EnsureSuccessStatusCode();
        await EntryAsync(owner, "album", album);
        Assert.Equal(200, (await ReadAsync(owner, "album", album)).GetProperty("entries").GetArrayLength());
    }
}
