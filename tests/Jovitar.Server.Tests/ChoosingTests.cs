using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.MemberSteps;
using static Jovitar.Server.Tests.OfferSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Favourites that an album asks of those whom it knows: who chooses, how many, when it is done, and what nobody learns from it.</summary>
public sealed class ChoosingTests
{
    /// <summary>An album for holders that asks for favourites, a client who came in by a link, and one photo elsewhere.</summary>
    static async Task<(Site Site, HttpClient Owner, HttpClient Client, string[] Photos, string Album, string Secret)> AskedAsync(int photos = 4, int? most = null)
    {
        var (site, owner, client, p, album, _) = await NightAsync(photos);
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        await AskAsync(owner, album, most);
        var (_, secret) = await EntryAsync(owner, "album", album);
        Assert.Equal(HttpStatusCode.SeeOther, await EnterAsync(client, secret));
        return (site, owner, client, p, album, secret);
    }

    [Fact]
    public async Task A_client_chooses_on_one_device_goes_on_on_another_and_says_that_it_is_done()
    {
        var (site, owner, phone, p, album, secret) = await AskedAsync(4, most: 2);
        await using var _ = site;
        var html = await phone.GetStringAsync("/album/night");
        Assert.Contains($"data-choosing=\"{album}\"", html, StringComparison.Ordinal);
        Assert.Contains("Please mark the photographs that you would have.", html, StringComparison.Ordinal);
        Assert.Contains("Up to 2.", html, StringComparison.Ordinal);
        Assert.Contains($"data-choosing=\"{album}\"", await phone.GetStringAsync($"/album/night/photo/{p[0]}"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NoContent, await MarkAsync(phone, album, p[2]));
        Assert.Equal(HttpStatusCode.NoContent, await MarkAsync(phone, album, p[2]));
        var desktop = site.Visitor();
        Assert.Equal(HttpStatusCode.SeeOther, await EnterAsync(desktop, secret));
        Assert.Equal(HttpStatusCode.NoContent, await MarkAsync(desktop, album, p[0]));
        Assert.Equal([p[2], p[0]], await ChosenAsync(phone, album));
        var refused = await phone.PutAsync($"/site/choosing/{album}/{p[1]}", null);
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
        Assert.Equal("You may choose 2. Let go of one first.", (await refused.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("title").GetString());
        Assert.Equal(HttpStatusCode.NoContent, await LetGoAsync(phone, album, p[2]));
        Assert.Equal(HttpStatusCode.NoContent, await MarkAsync(phone, album, p[1]));

        // Until then whoever asked sees that it goes on; from then on it waits for them, and nobody changes it.
        var line = Assert.Single(await ChoicesAsync(owner, album));
        Assert.Equal(("The Harrow family", 2, false), (line.GetProperty("name").GetString(), line.GetProperty("photos").GetInt32(), line.GetProperty("isMember").GetBoolean()));
        Assert.Equal(0, (await (await owner.GetAsync("/api/desk")).ReadAsync()).GetProperty("sent").GetArrayLength());
        Assert.Equal(HttpStatusCode.NoContent, (await SendAsync(phone, album, " Without the dog, please. ")).StatusCode);
        foreach (var browser in (HttpClient[])[phone, desktop])
        {
            Assert.Equal(HttpStatusCode.Conflict, await LetGoAsync(browser, album, p[0]));
            Assert.Equal(HttpStatusCode.Conflict, (await SendAsync(browser, album)).StatusCode);
            Assert.True((await StateAsync(browser, album)).GetProperty("isSent").GetBoolean());
        }

        var desk = await (await owner.GetAsync("/api/desk")).ReadAsync();
        var sent = Assert.Single(desk.GetProperty("sent").EnumerateArray().ToArray());
        Assert.Equal(("Without the dog, please.", 1), (sent.GetProperty("words").GetString(), desk.GetProperty("figures").GetProperty("sent").GetInt32()));
        var id = sent.GetProperty("id").GetString();
        var shown = await (await owner.GetAsync($"/api/choices/{id}")).ReadAsync();
        Assert.Equal([p[0], p[1]], shown.GetProperty("photos").EnumerateArray().Select(f => f.GetProperty("id").GetString()));
        var table = await owner.GetStringAsync($"/api/choices/{id}/photos.csv");
        Assert.Equal(3, table.Trim().Split("\r\n").Length);
        (await owner.PostAsync($"/api/choices/{id}/noted", null)).EnsureSuccessStatusCode();
        Assert.Equal(0, (await (await owner.GetAsync("/api/desk")).ReadAsync()).GetProperty("sent").GetArrayLength());

        Assert.Contains("Noted the favourites of “The Harrow family” of “Night”.", await owner.GetStringAsync("/api/acts"), StringComparison.Ordinal);
        var counted = await (await owner.GetAsync($"/api/albums/{album}/choices")).ReadAsync();
        Assert.Equal((1, 1), (counted.GetProperty("all").GetInt32(), counted.GetProperty("sent").GetInt32()));

        // Only whoever asked lets them change it again, and the history says so.
        (await owner.PostAsync($"/api/choices/{id}/reopen", null)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NoContent, await LetGoAsync(desktop, album, p[0]));
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsync($"/api/choices/{id}/reopen", null)).StatusCode);
        Assert.Contains("Let “The Harrow family” change their favourites of “Night” again.", await owner.GetStringAsync("/api/acts"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Members_choose_each_for_themselves_and_nobody_sees_what_another_chose()
    {
        var (site, owner, visitor, p, album, _) = await NightAsync();
        await using var __ = site;
        await AskAsync(owner, album);
        var (ada, finn) = (await MemberAsync(site, owner, "Ada"), await MemberAsync(site, owner, "Finn"));
        Assert.Equal(HttpStatusCode.NoContent, await MarkAsync(ada, album, p[0]));
        Assert.Equal(HttpStatusCode.NoContent, await MarkAsync(finn, album, p[1]));
        Assert.Equal([p[0]], await ChosenAsync(ada, album));
        Assert.Equal([p[1]], await ChosenAsync(finn, album));
        Assert.Equal(["Ada", "Finn"], (await ChoicesAsync(owner, album)).Select(c => c.GetProperty("name").GetString()).Order());

        // Who is nobody in particular is not asked, and neither are staff for themselves.
        Assert.DoesNotContain("data-choosing", await visitor.GetStringAsync("/album/night"), StringComparison.Ordinal);
        foreach (var other in (HttpClient[])[visitor, owner])
        {
            Assert.Equal(HttpStatusCode.NotFound, await GetAsync(other, $"/site/choosing/{album}"));
            Assert.Equal(HttpStatusCode.NotFound, await MarkAsync(other, album, p[0]));
            Assert.Equal(HttpStatusCode.NotFound, (await SendAsync(other, album)).StatusCode);
        }

        // Who chose stays known by name also when they are a member no longer; what they chose is not lost.
        (await owner.DeleteAsync($"/api/members/{await IdAsync(owner, "Ada")}")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, await MarkAsync(ada, album, p[1]));
        Assert.Contains(await ChoicesAsync(owner, album), c => c.GetProperty("name").GetString() == "Ada" && c.GetProperty("photos").GetInt32() == 1);
    }

    [Fact]
    public async Task Only_what_they_see_of_that_album_is_chosen_and_what_they_see_no_longer_takes_no_room()
    {
        var (site, owner, client, p, album, _) = await AskedAsync(4, most: 2);
        await using var __ = site;
        var hidden = await owner.PostAsJsonAsync("/api/photos/audience", new { photos = new[] { p[3] }, audience = new { who = "staff" } });
        Assert.True(hidden.IsSuccessStatusCode, await hidden.Content.ReadAsStringAsync());
        // Of another album, for staff only, and none at all.
        foreach (var photo in (string[])[p[4], p[3], Guid.NewGuid().ToString()])
        {
            Assert.Equal(HttpStatusCode.NotFound, await MarkAsync(client, album, photo));
        }

        Assert.Equal(HttpStatusCode.NoContent, await MarkAsync(client, album, p[0]));
        Assert.Equal(HttpStatusCode.NoContent, await MarkAsync(client, album, p[1]));
        Assert.Equal(HttpStatusCode.Conflict, await MarkAsync(client, album, p[2]));
        (await owner.PostAsJsonAsync("/api/photos/audience", new { photos = new[] { p[0] }, audience = new { who = "staff" } })).EnsureSuccessStatusCode();
        Assert.Equal([p[1]], await ChosenAsync(client, album));
        Assert.Equal(HttpStatusCode.NoContent, await MarkAsync(client, album, p[2]));
        Assert.Equal([p[1], p[2]], await ChosenAsync(client, album));
        // An album that does not ask, and one that they do not see.
        var day = await site.ScalarAsync<string>("select id::text from album where working_name = 'Day'");
        Assert.Equal(HttpStatusCode.NotFound, await MarkAsync(client, day, p[4]));
        await AskAsync(owner, day);
        (await SayAsync(owner, "album", day, "holders")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, await MarkAsync(client, day, p[4]));
    }

    [Fact]
    public async Task However_many_press_at_once_no_more_are_chosen_than_may_be_and_it_is_sent_once()
    {
        var (site, owner, client, p, album, secret) = await AskedAsync(12, most: 5);
        await using var _ = site;
        var browsers = new[] { client, site.Visitor(), site.Visitor() };
        foreach (var browser in browsers[1..])
        {
            await EnterAsync(browser, secret);
        }

        var marked = await Task.WhenAll(p[..12].Select((photo, i) => MarkAsync(browsers[i % 3], album, photo)));
        Assert.Equal(5, marked.Count(m => m == HttpStatusCode.NoContent));
        Assert.Equal(5, (await ChosenAsync(client, album)).Length);
        Assert.Single(await ChoicesAsync(owner, album));
        var sent = await Task.WhenAll(browsers.Select(b => SendAsync(b, album)));
        Assert.Single(sent, s => s.StatusCode == HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task Whoever_loses_the_album_or_comes_too_late_chooses_no_more()
    {
        var (site, owner, client, p, album, _) = await AskedAsync();
        await using var __ = site;
        Assert.Equal(HttpStatusCode.Conflict, (await SendAsync(client, album)).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, await MarkAsync(client, album, p[0]));
        await AskAsync(owner, album, until: DateTimeOffset.UtcNow.AddMinutes(-1).ToString("O"));
        var late = await client.PutAsync($"/site/choosing/{album}/{p[1]}", null);
        Assert.Equal(HttpStatusCode.Conflict, late.StatusCode);
        Assert.StartsWith("This was possible until", (await late.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("title").GetString(), StringComparison.Ordinal);
        Assert.Equal([p[0]], await ChosenAsync(client, album));
        await AskAsync(owner, album);
        // The entry is withdrawn: nothing of it is left to them, and to whoever asked all of it.
        var entry = (await ReadAsync(owner, "album", album)).GetProperty("entries")[0].GetProperty("id").GetString();
        (await owner.DeleteAsync($"/api/entries/{entry}")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, await MarkAsync(client, album, p[1]));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(client, $"/site/choosing/{album}"));
        Assert.Single(await ChoicesAsync(owner, album));
    }

    [Fact]
    public async Task What_is_sent_from_another_website_or_is_too_long_is_not_taken()
    {
        var (site, _, client, p, album, _) = await AskedAsync();
        await using var __ = site;
        using var request = new HttpRequestMessage(HttpMethod.Put, $"/site/choosing/{album}/{p[0]}");
        request.Headers.Add("Sec-Fetch-Site", "cross-site");
        Assert.Equal(HttpStatusCode.BadRequest, (await client.SendAsync(request)).StatusCode);
        Assert.Empty(await ChosenAsync(client, album));
        await MarkAsync(client, album, p[0]);
        Assert.Equal(HttpStatusCode.BadRequest, (await SendAsync(client, album, new string('x', 2001))).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await SendAsync(client, album, "<script>alert(1)</script>")).StatusCode);
        var answer = await client.GetAsync($"/site/choosing/{album}");
        Assert.Contains("no-store", answer.Headers.CacheControl!.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Staff_who_look_as_the_client_see_what_was_chosen_and_change_nothing()
    {
        var (site, owner, client, p, album, _) = await AskedAsync();
        await using var __ = site;
        await MarkAsync(client, album, p[0]);
        var entry = (await ReadAsync(owner, "album", album)).GetProperty("entries")[0].GetProperty("id").GetString();
        Assert.Equal(HttpStatusCode.SeeOther, (await owner.PostAsync("/site/as", new FormUrlEncodedContent(new Dictionary<string, string> { ["as"] = $"holder-{entry}", ["to"] = "/album/night" }))).StatusCode);
        Assert.Equal([p[0]], await ChosenAsync(owner, album));
        Assert.Equal(HttpStatusCode.Forbidden, await MarkAsync(owner, album, p[1]));
        Assert.Equal(HttpStatusCode.Forbidden, (await SendAsync(owner, album)).StatusCode);
        Assert.Equal([p[0]], await ChosenAsync(client, album));
    }
}
