using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.MemberSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Visitors ask to become members: where they may, what is learned of it, and who is one then.</summary>
public sealed class JoinTests
{
    static async Task<HttpResponseMessage> AskAsync(HttpClient visitor, string name, string email, string words = "") =>
        await visitor.PostAsync("/site/join", new FormUrlEncodedContent(new Dictionary<string, string> { ["name"] = name, ["email"] = email, ["words"] = words }));

    static async Task<JsonElement> WishesAsync(HttpClient staff) => await (await staff.GetAsync("/api/members/wishes")).ReadAsync();

    static async Task JoinAsync(HttpClient owner, string joining) => (await owner.PutAsJsonAsync("/api/members/joining", new { joining })).EnsureSuccessStatusCode();

    static Guid[] Ids(JsonElement wishes) => [.. wishes.GetProperty("waiting").EnumerateArray().Select(w => w.GetProperty("id").GetGuid())];

    [Fact]
    public async Task Who_asks_waits_is_accepted_into_a_group_or_refused_and_learns_of_nobody()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var (owner, editor, visitor) = (await site.OwnerAsync(), await site.EditorAsync("Tomas"), site.Visitor());
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/sign-in/join"));
        Assert.Equal(HttpStatusCode.NotFound, (await AskAsync(visitor, "Ada", "ada@example.test")).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await editor.PutAsJsonAsync("/api/members/joining", new { joining = "open" })).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PutAsJsonAsync("/api/members/joining", new { joining = "always" })).StatusCode);
        await JoinAsync(owner, "asked");
        Assert.Contains("/sign-in\"", await TextAsync(visitor, "/"), StringComparison.Ordinal);
        Assert.Contains("/sign-in/join", await TextAsync(visitor, "/sign-in"), StringComparison.Ordinal);

        await AddAsync(owner, "Bo, bo@example.test");
        var bo = await IdAsync(owner, "Bo");
        var mistyped = await AskAsync(visitor, " ", "nobody");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, mistyped.StatusCode);
        Assert.Contains("Say what you are called.", await mistyped.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        // Known and unknown get the same, but for what they typed; whoever asks twice waits once.
        var known = await (await AskAsync(visitor, "Bo", "BO@example.test")).Content.ReadAsStringAsync();
        var unknown = await (await AskAsync(visitor, "Ada", "ada@example.test", "We met <b>at</b> the regatta")).Content.ReadAsStringAsync();
        Assert.Equal(known.Replace("BO@", "ada@", StringComparison.Ordinal), unknown);
        Assert.Contains("Thank you", unknown, StringComparison.Ordinal);
        await AskAsync(visitor, "Ada again", "ADA@example.test");
        await AskAsync(visitor, "Cem", "cem@example.test");
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from account where name = 'Ada'"));
        var wishes = await WishesAsync(editor);
        Assert.Equal(["Bo True", "Ada False", "Cem False"], wishes.GetProperty("waiting").EnumerateArray().Select(w => $"{w.GetProperty("name").GetString()} {w.GetProperty("isKnown").GetBoolean()}"));
        Assert.Equal(3, (await (await owner.GetAsync("/api/desk/figures")).ReadAsync()).GetProperty("asking").GetInt32());

        var juniors = await GroupAsync(owner, "Juniors");
        Assert.Equal(HttpStatusCode.BadRequest, (await editor.PostAsJsonAsync("/api/members/wishes/accept", new { wishes = Ids(wishes)[..2], group = Guid.NewGuid() })).StatusCode);
        Assert.Equal(3, Ids(await WishesAsync(editor)).Length);
        var added = await (await editor.PostAsJsonAsync("/api/members/wishes/accept", new { wishes = Ids(wishes)[..2], group = juniors })).ReadAsync();
        Assert.Equal((1, 2), (added.GetProperty("added").GetInt32(), added.GetProperty("joined").GetInt32()));
        Assert.Equal((2, bo), ((await MembersAsync(owner, $"group={juniors}")).GetProperty("found").GetInt32(), await IdAsync(owner, "Bo")));
        (await editor.PostAsJsonAsync("/api/members/wishes/refuse", new { wishes = Ids(wishes)[2..] })).EnsureSuccessStatusCode();
        Assert.Equal("Did not make Cem a member, who asked.", await site.ScalarAsync<string>("select sentence from act where kind = 'Members' order by id desc limit 1"));
        Assert.Empty(Ids(await WishesAsync(owner)));
        // Who is a member already and asks again waits for nothing once somebody accepts it.
        await AskAsync(site.Visitor(), "Ada", "ada@example.test");
        await (await owner.PostAsJsonAsync("/api/members/wishes/accept", new { wishes = Ids(await WishesAsync(owner)) })).ReadAsync();
        Assert.Empty(Ids(await WishesAsync(owner)));
        await JoinAsync(owner, "closed");
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, "/sign-in/join"));
    }

    [Fact]
    public async Task Where_nobody_has_to_accept_it_a_letter_makes_a_member_of_who_is_none_and_lets_in_who_is_one()
    {
        await using var site = await Site.StartAsync(workers: 0, mail: 2525);
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        await JoinAsync(owner, "asked");
        await AskAsync(visitor, "Early", "early@example.test");
        await JoinAsync(owner, "open");
        await AddAsync(owner, "Bo, bo@example.test");
        await AskAsync(visitor, "Ada", "ada@example.test");
        await AskAsync(visitor, "Somebody who is not Bo", "bo@example.test");
        // The site answers by itself, each wish once: Ada becomes a member, and Bo, who is one, gets a link to sign in with.
        await site.UntilAsync("select (select count(*) from member_wish where is_free) + (select count(*) from way_in_wish)", 0);
        await site.UntilAsync("select count(*) from letter", 2);
        // Who asked while somebody had to accept it waits for that still.
        Assert.Equal("Early", Assert.Single((await WishesAsync(owner)).GetProperty("waiting").EnumerateArray().ToArray()).GetProperty("name").GetString());
        Assert.Equal(["Ada", "Bo"], (await MembersAsync(owner)).GetProperty("members").EnumerateArray().Select(m => m.GetProperty("name").GetString()));
        Assert.Equal("ada@example.test, bo@example.test", await site.ScalarAsync<string>("select string_agg(to_address, ', ' order by id) from letter"));
        // Whatever they call themselves, nobody is written that under the site's name.
        Assert.DoesNotContain("Ada", await site.ScalarAsync<string>("select string_agg(to_name || body, '') from letter where to_address = 'ada@example.test'"), StringComparison.Ordinal);
        Assert.Equal("Made one member.", await site.ScalarAsync<string>("select sentence from act where kind = 'Members' order by id desc limit 1"));
        Assert.DoesNotContain("Somebody who is not Bo", await site.ScalarAsync<string>("select string_agg(to_name || body, '') from letter"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Who_asked_for_a_letter_waits_for_staff_where_none_can_be_written_any_more()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await JoinAsync(owner, "open");
        await AskAsync(site.Visitor(), "Ada", "ada@example.test");
        await site.WriteAsync("update member_wish set is_free = true");
        var wishes = await WishesAsync(owner);
        Assert.Single(Ids(wishes));
        Assert.Equal(1, (await (await owner.PostAsJsonAsync("/api/members/wishes/accept", new { wishes = Ids(wishes) })).ReadAsync()).GetProperty("added").GetInt32());
        Assert.Empty(Ids(await WishesAsync(owner)));
    }

    [Fact]
    public async Task Nobody_fills_the_list_of_those_who_wait_nor_asks_for_letters_without_end()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        await JoinAsync(owner, "asked");
        await site.WriteAsync("insert into member_wish select gen_random_uuid(), n || '@example.test', n || '@example.test', 'N' || n, '', '', now(), false from generate_series(1, 499) as n");
        await AskAsync(visitor, "Ada", "ada@example.test");
        await AskAsync(visitor, "Bo", "bo@example.test");
        Assert.Equal(500, (await WishesAsync(owner)).GetProperty("all").GetInt32());
        Assert.Equal(100, Ids(await WishesAsync(owner)).Length);
        for (var n = 0; n < 2; n++)
        {
            Assert.Equal(HttpStatusCode.OK, (await AskAsync(visitor, "Ada", "ada@example.test")).StatusCode);
        }

        Assert.Equal(HttpStatusCode.TooManyRequests, (await AskAsync(visitor, "Ada", "ada@example.test")).StatusCode);
        using var elsewhere = new HttpRequestMessage(HttpMethod.Post, "/site/join") { Content = new FormUrlEncodedContent(new Dictionary<string, string> { ["name"] = "Cem", ["email"] = "cem@example.test" }) };
        elsewhere.Headers.Add("Sec-Fetch-Site", "cross-site");
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.SendAsync(elsewhere)).StatusCode);
    }
}
