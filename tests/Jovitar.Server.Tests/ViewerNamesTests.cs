using System.Net;
using System.Text.Json;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.MemberSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Who can see a thing, and what somebody can see, by name.</summary>
public sealed class ViewerNamesTests
{
    static async Task<JsonElement> ViewersAsync(HttpClient staff, string kind, string thing, string query = "") => await (await staff.GetAsync($"/api/viewers/{kind}/{thing}?{query}")).ReadAsync();

    static IEnumerable<string> Names(JsonElement viewers) => viewers.GetProperty("window").EnumerateArray().Select(m => m.GetProperty("name").GetString()!);

    static string[] Why(JsonElement of, string what = "why") => [.. of.GetProperty(what).EnumerateArray().Select(w => w.GetString()!)];

    [Fact]
    public async Task Members_groups_and_holders_are_listed_with_why_they_do_not_see_it()
    {
        var (site, owner, _, p, album, category) = await NightAsync();
        await using var __ = site;
        var (juniors, parents) = (await GroupAsync(owner, "Juniors"), await GroupAsync(owner, "Parents"));
        await AddAsync(owner, "Ada, ada@example.test\nBo, bo@example.test", juniors);
        await AddAsync(owner, "Bo, bo@example.test\nCem, cem@example.test", parents);
        await AddAsync(owner, "Dan, dan@example.test");
        var open = await ViewersAsync(owner, "album", album);
        Assert.Empty(Why(open, "everyone"));
        Assert.Equal(["Ada", "Bo", "Cem", "Dan"], Names(open));

        (await SayAsync(owner, "album", album, "chosen", chosen: [juniors])).EnsureSuccessStatusCode();
        var viewers = await ViewersAsync(owner, "album", album);
        Assert.Equal(["The album “Night” is for the group “Juniors”."], Why(viewers, "everyone"));
        Assert.Equal(["Ada", "Bo"], Names(viewers));
        Assert.Equal((4, 2, 2), (viewers.GetProperty("members").GetInt32(), viewers.GetProperty("seeing").GetInt32(), viewers.GetProperty("found").GetInt32()));
        Assert.Equal(["Juniors 2 of 2", "Parents 1 of 2"], viewers.GetProperty("groups").EnumerateArray().Select(g => $"{g.GetProperty("name").GetString()} {g.GetProperty("seeing")} of {g.GetProperty("members")}"));
        Assert.Contains("Odile", string.Join(' ', Why(viewers, "staff")), StringComparison.Ordinal);
        var others = await ViewersAsync(owner, "album", album, "not=true");
        Assert.Equal(["Cem", "Dan"], Names(others));
        Assert.Equal(["The album “Night” is for the group “Juniors”."], Why(others.GetProperty("window")[0]));
        Assert.Equal(["Cem"], Names(await ViewersAsync(owner, "album", album, "not=true&count=1")));
        Assert.Equal(["Dan"], Names(await ViewersAsync(owner, "album", album, "not=true&from=1&count=1")));
        Assert.Equal(["Dan"], Names(await ViewersAsync(owner, "album", album, "not=true&q=DAN@")));
        // Of a photo the ways to it are asked about; of a page it is itself.
        Assert.Equal(["Ada", "Bo"], Names(await ViewersAsync(owner, "photo", p[0])));
        Assert.Equal(["The album “Night” is for the group “Juniors”."], Why((await ViewersAsync(owner, "photo", p[0], "not=true")).GetProperty("window")[0]));
        Assert.Equal(4, (await ViewersAsync(owner, "photo", p[^1])).GetProperty("seeing").GetInt32());

        // The stricter wins: who holds a link to the category is let in by it and not by the album.
        (await SayAsync(owner, "category", category, "holders")).EnsureSuccessStatusCode();
        await EntryAsync(owner, "category", category);
        viewers = await ViewersAsync(owner, "album", album);
        Assert.Equal(0, viewers.GetProperty("seeing").GetInt32());
        var entry = Assert.Single(viewers.GetProperty("entries").EnumerateArray().ToArray());
        Assert.Equal(("The Harrow family", "link"), (entry.GetProperty("name").GetString(), entry.GetProperty("kind").GetString()));
        Assert.Equal(["The album “Night” is for the group “Juniors”."], Why(entry));
        Assert.Empty(Why((await ViewersAsync(owner, "category", category)).GetProperty("entries")[0]));
        // What no visitor sees no member sees either.
        await (await StandAsync(owner, album, shown: false)).ReadAsync();
        Assert.Contains("It is out of view.", Why((await ViewersAsync(owner, "album", album, "not=true")).GetProperty("window")[0]));

        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(owner, $"/api/viewers/album/{Guid.NewGuid()}"));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(owner, $"/api/viewers/site/{album}"));
        Assert.Equal(HttpStatusCode.BadRequest, await GetAsync(owner, $"/api/viewers/album/{album}?count=1000"));
    }

    [Fact]
    public async Task What_a_member_sees_of_what_is_not_for_everyone_is_said_with_how_many_photos()
    {
        var (site, owner, _, p, album, category) = await NightAsync();
        await using var __ = site;
        var juniors = await GroupAsync(owner, "Juniors");
        await AddAsync(owner, "Ada, ada@example.test", juniors);
        await AddAsync(owner, "Bo, bo@example.test");
        var (ada, bo) = (await IdAsync(owner, "Ada"), await IdAsync(owner, "Bo"));
        async Task<string[]> SeenAsync(Guid member, string query = "") =>
            [.. (await (await owner.GetAsync($"/api/members/{member}/sight?{query}")).ReadAsync()).GetProperty("things").EnumerateArray()
                .Select(t => $"{t.GetProperty("kind").GetString()} {t.GetProperty("name").GetString()}: {(Why(t).Length == 0 ? "sees" : Why(t)[0])} {t.GetProperty("seen")}/{t.GetProperty("photos")}")];
        Assert.Empty(await SeenAsync(ada));

        (await SayAsync(owner, "album", album, "chosen", chosen: [juniors])).EnsureSuccessStatusCode();
        await site.WriteAsync($"update photo set clearance = 'not_cleared' where id = '{p[1]}'");
        Assert.Equal(["album Night: sees 2/3"], await SeenAsync(ada));
        Assert.Equal(["album Night: The album “Night” is for the group “Juniors”. 0/3"], await SeenAsync(bo));
        // What stands in a category that is for some is not for everyone either, nor what stands on a page alone that is.
        (await SayAsync(owner, "category", category, "members")).EnsureSuccessStatusCode();
        Assert.Equal(["album Day: sees 1/1", "category Festival: sees /", "album Night: sees 2/3"], await SeenAsync(ada));
        Assert.Equal(["category Festival: sees /"], await SeenAsync(ada, "from=1&count=1"));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(owner, $"/api/members/{Guid.NewGuid()}/sight"));
    }

    [Fact]
    public async Task Before_a_page_is_published_it_is_said_which_of_its_photos_visitors_will_not_see_and_why()
    {
        var (site, owner, _, p, album, category) = await NightAsync(photos: 5);
        await using var __ = site;
        var page = await owner.ShownAsync(null, "draft", Drafts.Page("Draft", Drafts.Photos(album), Drafts.Photos(Drafts.Source("picked", photos: [p[^1]]), number: 4)));
        async Task<(int All, string[] Hidden, string[] ForSome)> UnseenAsync()
        {
            var unseen = await (await owner.GetAsync($"/api/pages/{page}/unseen")).ReadAsync();
            string[] Said(string of) => [.. unseen.GetProperty(of).EnumerateArray().Select(u => $"{u.GetProperty("said").GetString()} [{u.GetProperty("photos").GetArrayLength()}]")];
            return (unseen.GetProperty("all").GetInt32(), Said("hidden"), Said("forSome"));
        }

        var (all, hidden, some) = await UnseenAsync();
        Assert.Equal(6, all);
        Assert.Empty(hidden.Concat(some));
        await site.WriteAsync($"update photo set clearance = 'not_cleared' where id = '{p[0]}'");
        await site.WriteAsync($"update photo set decision = 'leave_out' where id in ('{p[1]}', '{p[2]}')");
        await site.WriteAsync($"update photo set state = 'waiting' where id = '{p[3]}'");
        Assert.Equal(["2 are left out everywhere. [2]", "One is not cleared. [1]", "One is still being made ready. [0]"], (await UnseenAsync()).Hidden.Order());
        // An album for some, in a category for some: both are said, of what is not hidden anyway.
        (await SayAsync(owner, "album", album, "members")).EnsureSuccessStatusCode();
        (await SayAsync(owner, "category", category, "holders")).EnsureSuccessStatusCode();
        Assert.Equal("One is for some alone. The album “Night” is for members. The category “Festival” is for holders of an entry link or passcode. [1]", Assert.Single((await UnseenAsync()).ForSome));
        await (await StandAsync(owner, album, shown: false)).ReadAsync();
        Assert.Contains("One stands only in an album that is out of view. [1]", (await UnseenAsync()).Hidden);
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(owner, $"/api/pages/{Guid.NewGuid()}/unseen"));
    }
}
