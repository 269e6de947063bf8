using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Jovitar.Core.Photos;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Exceptions: photos that are for fewer than what they stand in.</summary>
public sealed class PhotoAudienceTests
{
    static async Task<JsonElement> OfThemAsync(HttpClient owner, string who, string[] photos, params Guid[] chosen)
    {
        var answer = await owner.PostAsJsonAsync("/api/photos/audience", new { photos, audience = new { who, chosen } });
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        return await answer.ReadAsync();
    }

    static async Task<(string Sentence, string Why)> LineAsync(HttpClient owner, string photo)
    {
        var line = (await (await owner.GetAsync($"/api/photos/{photo}")).ReadAsync()).GetProperty("audience");
        return (line.GetProperty("sentence").GetString()!, string.Join(' ', line.GetProperty("why").EnumerateArray().Select(w => w.GetString())));
    }

    [Fact]
    public async Task A_photo_for_members_is_gone_for_others_at_every_door_and_the_page_closes_the_gap()
    {
        var (site, owner, visitor, p, _, _) = await NightAsync();
        await using var __ = site;
        var member = await MemberSteps.MemberAsync(site, owner, "Ada");
        var hash = await HashAsync(owner, p[1]);
        string[] doors = [$"/both/photo/{p[1]}", $"/album/night/photo/{p[1]}", $"/i/{hash}/{Renditions.Recipe}-480.webp", $"/i/{hash}/{Renditions.Recipe}-card.jpg"];
        string[] listings = ["/both", "/album/night", "/category/festival", "/", "/site/view/both?width=900&lot=1", "/site/view/album/night?width=900&lot=1"];
        string[] forPrograms = ["/sitemap/1.xml", "/album/night/feed.xml", "/embed/both", "/embed/album/night", "/site/view/embed/both?width=900&lot=1", "/oembed?url=http://localhost/album/night"];
        async Task<bool> NamesAsync(HttpClient client, string path) => await TextAsync(client, path) is var text && (text.Contains(p[1], StringComparison.Ordinal) || text.Contains(hash, StringComparison.Ordinal));
        foreach (var door in doors)
        {
            Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, door));
        }

        (await SayAsync(owner, "photo", p[1], "members")).EnsureSuccessStatusCode();
        foreach (var door in doors)
        {
            Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, door));
        }

        foreach (var path in listings.Concat(forPrograms))
        {
            Assert.False(await NamesAsync(visitor, path), $"{path} tells everyone of it");
        }

        // What is left of the page is whole, and its numbers are those of what is left.
        Assert.Contains(p[0], await TextAsync(visitor, "/album/night"), StringComparison.Ordinal);
        async Task<int> ManyAsync(HttpClient client) => (await (await client.GetAsync("/site/view/both?width=900&lot=1")).ReadAsync()).GetProperty("shown").GetInt32();
        Assert.Equal((2, 3), (await ManyAsync(visitor), await ManyAsync(member)));
        foreach (var path in doors[..3].Concat(listings[..2]))
        {
            var answer = await member.GetAsync(path);
            Assert.True(answer is { IsSuccessStatusCode: true, Headers.CacheControl: { NoStore: true, Private: true } }, $"{path} answers a member {answer.StatusCode}");
        }

        Assert.True(await NamesAsync(member, "/both"));
        foreach (var path in forPrograms)
        {
            Assert.False(await NamesAsync(member, path), $"{path} tells others what only members see");
        }

        (await SayAsync(owner, "photo", p[1], "everyone")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, doors[0]));
    }

    [Fact]
    public async Task It_only_narrows_and_each_place_says_so_in_the_same_words()
    {
        var (site, owner, _, p, album, _) = await NightAsync();
        await using var __ = site;
        var (juniors, parents) = (await MemberSteps.GroupAsync(owner, "Juniors"), await MemberSteps.GroupAsync(owner, "Parents"));
        await MemberSteps.AddAsync(owner, "Ada, ada@example.test", juniors);
        await MemberSteps.AddAsync(owner, "Bo, bo@example.test", parents);
        (await SayAsync(owner, "photo", p[1], "chosen", chosen: [juniors])).EnsureSuccessStatusCode();
        var (sentence, why) = await LineAsync(owner, p[1]);
        Assert.Equal("The group “Juniors” can see this.", sentence);
        Assert.Contains("The photo itself is for the group “Juniors”.", why, StringComparison.Ordinal);
        async Task<string> SeeingAsync() => string.Join(' ', (await (await owner.GetAsync($"/api/viewers/photo/{p[1]}")).ReadAsync()).GetProperty("window").EnumerateArray().Select(m => m.GetProperty("name").GetString()));
        Assert.Equal("Ada", await SeeingAsync());

        // The album is for others: nobody is both, and the photo lets in nobody whom the album does not.
        (await SayAsync(owner, "album", album, "chosen", chosen: [parents])).EnsureSuccessStatusCode();
        Assert.Equal("", await SeeingAsync());
        (await SayAsync(owner, "photo", p[1], "everyone")).EnsureSuccessStatusCode();
        Assert.Equal("Bo", await SeeingAsync());

        // Of what a member sees, and of a page before it is published, it is counted as well.
        (await SayAsync(owner, "album", album, "everyone")).EnsureSuccessStatusCode();
        await OfThemAsync(owner, "staff", [p[0], p[1]]);
        Assert.Equal("Only staff can see this; the photo itself is for staff only.", (await LineAsync(owner, p[0])).Sentence);
        var sight = (await (await owner.GetAsync($"/api/members/{await MemberSteps.IdAsync(owner, "Ada")}/sight")).ReadAsync()).GetProperty("things").EnumerateArray().Single();
        Assert.Equal(("Night", 1, 3), (sight.GetProperty("name").GetString(), sight.GetProperty("seen").GetInt32(), sight.GetProperty("photos").GetInt32()));
        var page = await site.ScalarAsync<Guid>("select id from page where address = 'both'");
        var some = (await (await owner.GetAsync($"/api/pages/{page}/unseen")).ReadAsync()).GetProperty("forSome").EnumerateArray().Single();
        Assert.Equal(("2 are for some alone. The photos themselves are for staff only.", 2), (some.GetProperty("said").GetString(), some.GetProperty("photos").GetArrayLength()));
    }

    [Fact]
    public async Task Before_it_is_so_it_is_said_who_gains_and_who_loses()
    {
        var (site, owner, _, p, album, _) = await NightAsync();
        await using var __ = site;
        async Task<string> ForecastAsync(string photo, string who) =>
            (await (await owner.PostAsJsonAsync($"/api/audiences/photo/{photo}/forecast", new { audience = new { who }, was = (await ReadAsync(owner, "photo", photo)).GetProperty("audience") })).ReadAsync())
            .GetProperty("sentence").GetString()!;
        Assert.Equal("Everyone but members loses this photo.", await ForecastAsync(p[0], "members"));
        (await SayAsync(owner, "album", album, "members")).EnsureSuccessStatusCode();
        (await SayAsync(owner, "photo", p[0], "staff")).EnsureSuccessStatusCode();
        Assert.Equal("Everyone whom the places where it stands let in gains this photo.", await ForecastAsync(p[0], "everyone"));
        Assert.Equal(["The album “Night” is for members."], (await ReadAsync(owner, "photo", p[0])).GetProperty("above").EnumerateArray().Select(a => a.GetString()));
        await (await StandAsync(owner, album, shown: false)).ReadAsync();
        await site.WriteAsync($"update page set binned = now() where address = 'both'");
        Assert.Equal("No visitor sees this photo as it is; this holds once they could.", await ForecastAsync(p[0], "everyone"));
    }

    [Fact]
    public async Task Of_many_it_is_said_at_once_and_taken_back_whole_and_the_same_is_one_gate()
    {
        var (site, owner, visitor, p, _, _) = await NightAsync();
        await using var __ = site;
        var juniors = await MemberSteps.GroupAsync(owner, "Juniors");
        var first = await OfThemAsync(owner, "chosen", [p[0], p[1]], juniors);
        var second = await OfThemAsync(owner, "chosen", [p[1], p[2]], juniors);
        Assert.Equal((2, 1), (first.GetProperty("photos").GetInt32(), second.GetProperty("photos").GetInt32()));
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from photo_gate"));
        Assert.Contains("Made 2 photos be seen by the group “Juniors”.", await TextAsync(owner, "/api/acts"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, $"/both/photo/{p[2]}"));
        // A group that photos are for is not removed over them.
        var refused = await owner.DeleteAsync($"/api/groups/{juniors}");
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
        Assert.Contains("is for this group", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        // Each is taken back by itself; what was said twice goes back with the first.
        (await owner.PostAsync($"/api/acts/{second.GetProperty("act").GetString()}/undo", null)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, $"/both/photo/{p[2]}"));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, $"/both/photo/{p[1]}"));
        (await owner.PostAsync($"/api/acts/{first.GetProperty("act").GetString()}/undo", null)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, $"/both/photo/{p[1]}"));
        (await owner.DeleteAsync($"/api/groups/{juniors}")).EnsureSuccessStatusCode();
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Two_who_say_different_things_of_one_do_not_overrule_each_other_and_no_entry_leads_to_a_photo()
    {
        var (site, owner, _, p, _, _) = await NightAsync();
        await using var __ = site;
        var was = (await ReadAsync(owner, "photo", p[0])).GetProperty("audience");
        Task<HttpResponseMessage> Put(string who) => owner.PutAsJsonAsync($"/api/audiences/photo/{p[0]}", new { audience = new { who }, was });
        var answers = await Task.WhenAll(Put("staff"), Put("members"));
        Assert.Equal([HttpStatusCode.OK, HttpStatusCode.Conflict], answers.Select(a => a.StatusCode).Order());
        // The same said of many at once by two is one gate all the same.
        await Task.WhenAll(Enumerable.Range(0, 6).Select(i => OfThemAsync(owner, i % 2 == 0 ? "members" : "staff", [p[i % 3]])));
        Assert.InRange(await site.ScalarAsync<long>("select count(*) from photo_gate"), 1, 2);

        var holders = await SayAsync(owner, "photo", p[0], "holders");
        Assert.Equal(HttpStatusCode.BadRequest, holders.StatusCode);
        Assert.Contains("Put it into an album that is.", await holders.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsJsonAsync($"/api/audiences/photo/{p[0]}/entries", new { name = "Somebody", kind = "link" })).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/photos/audience", new { photos = new[] { p[0] }, audience = new { who = "chosen" } })).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsJsonAsync("/api/photos/audience", new { photos = Array.Empty<string>(), audience = new { who = "staff" } })).StatusCode);
        (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[0] } })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(owner, $"/api/audiences/photo/{p[0]}"));
    }
}
