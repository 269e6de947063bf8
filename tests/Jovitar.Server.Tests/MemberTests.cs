using System.Collections.Concurrent;
using System.Net;
using System.Net.Http.Json;
using System.Text.RegularExpressions;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.MemberSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Members: how they come to be, sign in and leave, and what is theirs alone.</summary>
public sealed partial class MemberTests
{
    [GeneratedRegex(@"http://\S+/sign-in/(\S+)")]
    private static partial Regex Link();

    [Fact]
    public async Task A_list_makes_members_once_puts_them_into_a_group_and_says_what_it_passed_over()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await site.EditorAsync("Tomas");
        var juniors = await GroupAsync(owner, "Juniors");
        var added = await AddAsync(owner, "name,e-mail\nAda Teal,ada@example.test\nBo <BO@example.test>\nnobody\nTomas, tomas@example.test\nAda again, Ada@Example.test", juniors);
        Assert.Equal((2, 2, 1, 0), (added.GetProperty("added").GetInt32(), added.GetProperty("joined").GetInt32(), added.GetProperty("working").GetInt32(), added.GetProperty("letters").GetInt32()));
        Assert.Equal(4, Assert.Single(added.GetProperty("refused").EnumerateArray().ToArray()).GetProperty("line").GetInt32());
        Assert.Equal("Made 2 members, and put all of them into the group “Juniors”.", await site.ScalarAsync<string>("select sentence from act where kind = 'Members' order by id desc limit 1"));
        // Those that are there already join another group, and no second letter, account or act comes of it.
        var parents = await GroupAsync(owner, "Parents");
        Assert.Equal(1, (await AddAsync(owner, "bo@example.test", parents)).GetProperty("joined").GetInt32());
        var acts = await site.ScalarAsync<long>("select count(*) from act");
        Assert.Equal(0, (await AddAsync(owner, "bo@example.test", parents)).GetProperty("joined").GetInt32());
        Assert.Equal(acts, await site.ScalarAsync<long>("select count(*) from act"));
        Assert.Equal(["Ada Teal", "Bo"], (await MembersAsync(owner)).GetProperty("members").EnumerateArray().Select(m => m.GetProperty("name").GetString()));
        Assert.Equal(1, (await MembersAsync(owner, $"group={parents}")).GetProperty("found").GetInt32());
        Assert.Equal(0, (await MembersAsync(owner, "q=%25")).GetProperty("found").GetInt32());
        Assert.Equal("name,e-mail,groups\r\nAda Teal,ada@example.test,Juniors\r\nBo,BO@example.test,Juniors; Parents\r\n", (await TextAsync(owner, "/api/members/list.csv")).TrimStart('\uFEFF'));
        // Staff are staff: they are in no list of members, and members are in none of staff.
        Assert.Equal(2, (await (await owner.GetAsync("/api/people")).ReadAsync()).GetProperty("people").GetArrayLength());
        Assert.Equal(HttpStatusCode.NotFound, (await owner.DeleteAsync($"/api/people/{await IdAsync(owner, "Bo")}")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/members", new { list = " \n " })).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/members", new { list = "c@example.test", group = Guid.NewGuid() })).StatusCode);
    }

    [Fact]
    public async Task A_member_comes_by_a_link_once_chooses_a_password_and_signs_out()
    {
        var (site, owner, visitor, p, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "members")).EnsureSuccessStatusCode();
        Assert.DoesNotContain("/sign-in", await TextAsync(visitor, "/category/festival"), StringComparison.Ordinal);
        await AddAsync(owner, "Ada, ada@example.test");
        Assert.Contains("href=\"/sign-in\"", await TextAsync(visitor, "/category/festival"), StringComparison.Ordinal);
        // Turned away with a place to sign in that says nothing of what there is.
        var away = await visitor.GetAsync($"/album/night/photo/{p[0]}?in=1");
        var html = await away.Content.ReadAsStringAsync();
        Assert.Equal(HttpStatusCode.Forbidden, away.StatusCode);
        Assert.Contains($"value=\"/album/night/photo/{p[0]}?in=1\"", html, StringComparison.Ordinal);
        Assert.DoesNotContain("Night", html, StringComparison.Ordinal);

        var secret = await LinkAsync(owner, await IdAsync(owner, "Ada"));
        // To look at it uses nothing up; a password too short neither; then it works once.
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, $"/sign-in/{secret}"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await UseAsync(visitor, secret, "short")).StatusCode);
        Assert.Equal(HttpStatusCode.SeeOther, (await UseAsync(visitor, secret, "a kite and a long tail")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await UseAsync(site.Visitor(), secret)).StatusCode);
        Assert.Contains("You are signed in as a member", await TextAsync(visitor, "/album/night"), StringComparison.Ordinal);
        Assert.Contains("You are Ada here", await TextAsync(visitor, "/sign-in"), StringComparison.Ordinal);
        // Neither the workroom nor its pictures are theirs.
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(visitor, "/api/albums"));
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(visitor, $"/api/renditions/{await HashAsync(owner, p[0])}/480"));
        var session = await (await visitor.GetAsync("/api/session")).ReadAsync();
        Assert.Equal((System.Text.Json.JsonValueKind.Null, "member"), (session.GetProperty("name").ValueKind, session.GetProperty("role").GetString()));

        var left = await visitor.PostAsync("/site/leave", null);
        Assert.Equal("\"cache\"", left.Headers.GetValues("Clear-Site-Data").Single());
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(visitor, "/album/night"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from session as s join account as a on a.id = s.account where a.role = 'Member'"));
        // By the password, and on to where they wanted to go; nowhere else.
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await SignInAsync(visitor, "ada@example.test", "another")).StatusCode);
        var signed = await SignInAsync(visitor, "Ada@Example.test", "a kite and a long tail", "/album/night");
        Assert.Equal((HttpStatusCode.SeeOther, "/album/night"), (signed.StatusCode, signed.Headers.Location!.OriginalString));
        Assert.Equal("/", (await SignInAsync(site.Visitor(), "ada@example.test", "a kite and a long tail", "//evil.example/")).Headers.Location!.OriginalString);
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/album/night"));
        // The workroom's own door sends them here.
        var workroom = site.Visitor();
        await Site.TokenAsync(workroom);
        Assert.Equal(HttpStatusCode.Forbidden, (await workroom.PostAsJsonAsync("/api/session", new { email = "ada@example.test", password = "a kite and a long tail" })).StatusCode);
        // And staff are sent there.
        Assert.Equal(HttpStatusCode.Forbidden, (await SignInAsync(site.Visitor(), "odile@example.test", "ten characters and more")).StatusCode);
    }

    [Fact]
    public async Task A_letter_brings_the_link_to_whoever_is_a_member_and_the_answer_does_not_say_who_is()
    {
        await using var standin = await Standin.StartAsync("prints");
        await using var site = await Site.StartAsync(workers: 0, mail: standin.MailPort);
        var owner = await site.OwnerAsync();
        var added = await AddAsync(owner, "Ada, ada@example.test", write: true);
        Assert.Equal(1, added.GetProperty("letters").GetInt32());
        var first = Link().Match((await standin.LettersAsync(1))[0].Text).Groups[1].Value;
        var visitor = site.Visitor();
        Assert.Equal(HttpStatusCode.SeeOther, (await UseAsync(visitor, first)).StatusCode);
        // Without a password of their own nothing typed is right, and it takes a hash to find out.
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await SignInAsync(site.Visitor(), "ada@example.test", " ")).StatusCode);
        var known = await SignInAsync(site.Visitor(), "ada@example.test", "", by: "letter");
        var unknown = await SignInAsync(site.Visitor(), "eva@example.test", "", by: "letter");
        Assert.Equal((known.StatusCode, (await known.Content.ReadAsStringAsync()).Replace("ada@", "eva@", StringComparison.Ordinal)), (unknown.StatusCode, await unknown.Content.ReadAsStringAsync()));
        var (to, subject, text) = (await standin.LettersAsync(2))[0];
        Assert.Contains("ada@example.test", to, StringComparison.Ordinal);
        Assert.Equal("Your way in to Trial", subject);
        Assert.Equal(HttpStatusCode.SeeOther, (await UseAsync(site.Visitor(), Link().Match(text).Groups[1].Value)).StatusCode);
        // A letter of staff opens no page of the site's.
        Assert.Equal(HttpStatusCode.OK, (await SignInAsync(site.Visitor(), "odile@example.test", "", by: "letter")).StatusCode);
        var staff = (await standin.LettersAsync(3))[0].Text;
        Assert.Equal(HttpStatusCode.NotFound, (await UseAsync(site.Visitor(), Regex.Match(staff, @"way-in#(\S+)").Groups[1].Value)).StatusCode);
    }

    [Fact]
    public async Task Who_leaves_is_out_at_once_in_every_process_and_a_group_that_something_is_for_stays()
    {
        var (site, owner, visitor, p, album, _) = await NightAsync();
        await using var __ = site;
        var juniors = await GroupAsync(owner, "Juniors");
        Assert.Equal(HttpStatusCode.BadRequest, (await SayAsync(owner, "album", album, "chosen")).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await SayAsync(owner, "album", album, "chosen", chosen: [Guid.NewGuid()])).StatusCode);
        (await SayAsync(owner, "album", album, "chosen", chosen: [juniors])).EnsureSuccessStatusCode();
        Assert.Equal("The group “Juniors” can see this.", (await AlbumAsync(owner, album)).GetProperty("audience").GetProperty("sentence").GetString());
        var (ada, bo) = (await MemberAsync(site, owner, "Ada", juniors), await MemberAsync(site, owner, "Bo"));
        var link = await LinkAsync(owner, await IdAsync(owner, "Ada"));
        Assert.Equal((HttpStatusCode.OK, HttpStatusCode.NotFound, HttpStatusCode.Forbidden), (await GetAsync(ada, "/album/night"), await GetAsync(bo, "/album/night"), await GetAsync(visitor, "/album/night")));
        Assert.Equal(HttpStatusCode.Conflict, (await owner.DeleteAsync($"/api/groups/{juniors}")).StatusCode);
        var rendition = $"/i/{await HashAsync(owner, p[0])}/{Core.Photos.Renditions.Recipe}-480.webp";
        Assert.Equal(HttpStatusCode.OK, await GetAsync(ada, rendition));
        (await owner.DeleteAsync($"/api/members/{await IdAsync(owner, "Ada")}")).EnsureSuccessStatusCode();
        Assert.Equal((HttpStatusCode.Forbidden, HttpStatusCode.NotFound), (await GetAsync(ada, "/album/night"), await GetAsync(ada, rendition)));
        Assert.Equal(HttpStatusCode.NotFound, (await UseAsync(site.Visitor(), link)).StatusCode);
        // Who has left is named no more, and the time is changed all the same.
        (await SayAsync(owner, "album", album, "chosen", until: "2199-01-01T00:00:00Z", chosen: [juniors, Guid.NewGuid()])).EnsureSuccessStatusCode();
        Assert.Equal(juniors, Assert.Single((await ReadAsync(owner, "album", album)).GetProperty("audience").GetProperty("chosen").EnumerateArray().ToArray()).GetGuid());
        // By name: one who is in no group.
        (await SayAsync(owner, "album", album, "chosen", chosen: [await IdAsync(owner, "Bo")])).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(bo, "/album/night"));
        (await owner.DeleteAsync($"/api/groups/{juniors}")).EnsureSuccessStatusCode();
        Assert.Equal("Bo can see this.", (await AlbumAsync(owner, album)).GetProperty("audience").GetProperty("sentence").GetString());
    }

    [Fact]
    public async Task A_member_who_is_asked_to_work_here_becomes_staff_and_two_who_change_groups_lose_nothing()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        Guid[] groups = [await GroupAsync(owner, "Juniors"), await GroupAsync(owner, "Parents"), await GroupAsync(owner, "Kites")];
        await AddAsync(owner, "Ada, ada@example.test", groups[0]);
        var ada = await IdAsync(owner, "Ada");
        Assert.Equal(HttpStatusCode.Conflict, (await owner.PostAsJsonAsync("/api/groups", new { name = "JUNIORS" })).StatusCode);
        var other = await site.EditorAsync("Tomas");
        await Task.WhenAll(
            owner.PatchAsJsonAsync($"/api/members/{ada}", new { into = new[] { groups[1] }, outOf = new[] { groups[0] } }),
            other.PatchAsJsonAsync($"/api/members/{ada}", new { into = new[] { groups[2] }, name = "Ada Teal" }));
        Assert.Equal(groups[1..].Order(), (await MembersAsync(owner)).GetProperty("members")[0].GetProperty("groups").EnumerateArray().Select(g => g.GetGuid()).Order());
        Assert.Contains("Put Ada into “Parents”, and took them out of “Juniors”.", await site.ScalarAsync<string>("select string_agg(replace(sentence, 'Ada Teal', 'Ada'), '|') from act where kind = 'Members'"), StringComparison.Ordinal);

        var invited = await (await owner.PostAsJsonAsync("/api/people/invitations", new { name = "Ada", email = "ada@example.test", role = "editor" })).ReadAsync();
        var visitor = site.Visitor();
        await Site.TokenAsync(visitor);
        (await visitor.PostAsJsonAsync("/api/invitation", new { secret = invited.GetProperty("link").GetString()!.Split('#')[1], name = "Ada", password = "a kite and a long tail" })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, "/api/albums"));
        Assert.Equal(0, (await MembersAsync(owner)).GetProperty("all").GetInt32());
        Assert.False(await site.ScalarAsync<bool>("select has_members from site"));
    }

    [Fact]
    public async Task Many_who_change_members_groups_and_audiences_at_once_get_answers_and_leave_nothing_broken()
    {
        var (site, owner, _, _, album, category) = await NightAsync();
        await using var __ = site;
        var other = await site.EditorAsync("Tomas");
        await AddAsync(owner, string.Join('\n', Enumerable.Range(0, 6).Select(n => $"m{n}@example.test")));
        var (answers, seen) = (new ConcurrentBag<(string What, HttpResponseMessage Answer)>(), new ConcurrentBag<Guid>());
        await Task.WhenAll(Enumerable.Range(0, 6).Select(async n =>
        {
            var (dice, who) = (new Random(n), n % 2 == 0 ? owner : other);
            for (var done = 0; done < 12; done++)
            {
                var groups = (await (await who.GetAsync("/api/groups")).ReadAsync()).GetProperty("all").EnumerateArray().Select(g => g.GetProperty("id").GetGuid()).ToArray();
                Array.ForEach(groups, seen.Add);
                var members = (await MembersAsync(who)).GetProperty("members").EnumerateArray().Select(m => m.GetProperty("id").GetGuid()).ToArray();
                Guid Any(Guid[] ids) => ids.Length == 0 ? Guid.NewGuid() : ids[dice.Next(ids.Length)];
                var (what, answer) = dice.Next(6) switch
                {
                    0 => ("makes a group", await who.PostAsJsonAsync("/api/groups", new { name = $"Group {dice.Next(4)}" })),
                    1 => ("removes a group", await who.DeleteAsync($"/api/groups/{Any(groups)}")),
                    2 => ("adds", await who.PostAsJsonAsync("/api/members", new { list = $"m{dice.Next(9)}@example.test\nm{dice.Next(9)}@example.test", group = groups.Length == 0 ? (Guid?)null : Any(groups) })),
                    3 => ("removes", await who.DeleteAsync($"/api/members/{Any(members)}")),
                    4 => ("moves", await who.PatchAsJsonAsync($"/api/members/{Any(members)}", new { name = $"Called {done}", into = new[] { Any(groups), Any(groups) }, outOf = new[] { Any(groups) } })),
                    _ => ("says", dice.Next(2) == 0 ? await SayAsync(who, "album", album, "chosen", chosen: [Any(groups), Any(members)]) : await SayAsync(who, "category", category, "chosen", chosen: [Any(groups)])),
                };
                answers.Add((what, answer));
            }
        }));
        Assert.All(answers, a => Assert.True((int)a.Answer.StatusCode < 500, $"{a.What}: {(int)a.Answer.StatusCode} {a.Answer.Content.ReadAsStringAsync().Result}"));
        Assert.Contains(answers, a => a.Answer.IsSuccessStatusCode);
        // No group that something is for was removed over it.
        var chosen = await site.ScalarAsync<Guid[]>("select array(select unnest(chosen) from album union select unnest(chosen) from category)");
        Assert.Subset((await site.ScalarAsync<Guid[]>("select array(select id from member_group)")).ToHashSet(), chosen.Intersect(seen).ToHashSet());
        Assert.Equal(await site.ScalarAsync<bool>("select exists (select from account where role = 'Member')"), await site.ScalarAsync<bool>("select has_members from site"));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_member_chooses_a_password_changes_it_by_the_present_one_and_signs_other_browsers_out()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var here = await MemberAsync(site, owner, "Ada");
        static async Task<HttpResponseMessage> ChangeAsync(HttpClient who, string password, string current = "") =>
            await who.PostAsync("/site/account/password", new FormUrlEncodedContent(new Dictionary<string, string> { ["current"] = current, ["password"] = password }));
        var page = await TextAsync(here, "/sign-in");
        Assert.Contains("You are Ada here.", page, StringComparison.Ordinal);
        Assert.DoesNotContain("present password", page, StringComparison.Ordinal);
        Assert.DoesNotContain("signed in as you", page, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await ChangeAsync(here, "short")).StatusCode);
        Assert.Contains("Your password is kept.", await (await ChangeAsync(here, "a kite and a long tail")).Content.ReadAsStringAsync(), StringComparison.Ordinal);

        // From now on the present one is asked for, and wrong tries are counted.
        var there = site.Visitor();
        Assert.Equal(HttpStatusCode.SeeOther, (await SignInAsync(there, "ada@example.test", "a kite and a long tail")).StatusCode);
        Assert.Contains("One other browser is signed in as you.", await TextAsync(here, "/sign-in"), StringComparison.Ordinal);
        Assert.Contains("not your present password", await (await ChangeAsync(here, "another kite and tail", "a guess")).Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.SeeOther, (await here.PostAsync("/site/account/others", null)).StatusCode);
        Assert.Contains("<h1 class=\"large\">Sign in</h1>", await TextAsync(there, "/sign-in"), StringComparison.Ordinal);
        Assert.Contains("You are Ada here.", await TextAsync(here, "/sign-in"), StringComparison.Ordinal);
        for (var n = 0; n < 4; n++)
        {
            await ChangeAsync(here, "another kite and tail", "a guess");
        }

        Assert.Equal(HttpStatusCode.TooManyRequests, (await ChangeAsync(here, "another kite and tail", "a kite and a long tail")).StatusCode);
        // To nobody else is it anything, staff included.
        foreach (var other in (HttpClient[])[there, owner])
        {
            Assert.Equal("/sign-in", (await ChangeAsync(other, "another kite and tail")).Headers.Location!.OriginalString);
            Assert.Equal("/sign-in", (await other.PostAsync("/site/account/others", null)).Headers.Location!.OriginalString);
        }

        Assert.Equal(HttpStatusCode.OK, await GetAsync(owner, "/api/albums"));
        using var elsewhere = new HttpRequestMessage(HttpMethod.Post, "/site/account/others");
        elsewhere.Headers.Add("Sec-Fetch-Site", "cross-site");
        Assert.Equal(HttpStatusCode.SeeOther, (await here.SendAsync(elsewhere)).StatusCode);
    }
}
