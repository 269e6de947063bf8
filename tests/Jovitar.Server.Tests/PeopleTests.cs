using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using Jovitar.Core.People;

namespace Jovitar.Server.Tests;

/// <summary>Who works on a site: asked by a letter, let in once, and out at once.</summary>
public sealed partial class PeopleTests
{
    [GeneratedRegex(@"http://\S+/workroom/(?:invited|way-in)#(\S+)")]
    private static partial Regex Link();

    static string SecretOf(string text) => Link().Match(text) is { Success: true } found ? found.Groups[1].Value : throw new InvalidOperationException($"There is no link in “{text}”.");

    static async Task<string> InviteAsync(HttpClient owner, string email = "nell@example.test", string name = "Nell", string role = "editor")
    {
        var answer = await owner.PostAsJsonAsync("/api/people/invitations", new { name, email, role });
        Assert.True(answer.StatusCode == HttpStatusCode.OK, await answer.Content.ReadAsStringAsync());
        return SecretOf((await answer.ReadAsync()).GetProperty("link").GetString()!);
    }

    static async Task<HttpClient> VisitorAsync(Site site)
    {
        var visitor = site.Visitor();
        await Site.TokenAsync(visitor);
        return visitor;
    }

    static Task<HttpResponseMessage> TakeUpAsync(HttpClient visitor, string secret, string name = "Nell", string password = "a kite and a long tail") =>
        visitor.PostAsJsonAsync("/api/invitation", new { secret, name, password });

    static async Task<JsonElement> PeopleAsync(HttpClient owner) => await (await owner.GetAsync("/api/people")).ReadAsync();

    static Guid IdOf(JsonElement people, string name) => people.GetProperty("people").EnumerateArray().Single(p => p.GetProperty("name").GetString() == name).GetProperty("id").GetGuid();

    [Fact]
    public async Task An_invitation_comes_by_letter_and_lets_one_in_once()
    {
        await using var standin = await Standin.StartAsync("prints");
        await using var site = await Site.StartAsync(workers: 0, mail: standin.MailPort);
        var owner = await site.OwnerAsync();
        var handed = await InviteAsync(owner, "Nell@Example.test");
        var (to, subject, text) = Assert.Single(await standin.LettersAsync(1));
        Assert.Contains("Nell@Example.test", to, StringComparison.Ordinal);
        Assert.Equal("Odile invites you to Trial", subject);
        Assert.Equal(handed, SecretOf(text));
        // Once it has left, nothing in the database lets anybody in.
        await site.UntilAsync("select count(*) from letter where sent is not null and body is null and due is null", 1);
        Assert.Equal(LinkSecret.Hash(handed), await site.ScalarAsync<byte[]>("select hash from invitation"));
        Assert.Equal("sent", (await PeopleAsync(owner)).GetProperty("invitations")[0].GetProperty("letter").GetString());

        var visitor = await VisitorAsync(site);
        var seen = await (await visitor.PostAsJsonAsync("/api/invitation/look", new { secret = handed })).ReadAsync();
        Assert.Equal(("Nell@Example.test", "editor", "Odile"), (seen.GetProperty("email").GetString(), seen.GetProperty("role").GetString(), seen.GetProperty("by").GetString()));
        Assert.Equal(HttpStatusCode.BadRequest, (await TakeUpAsync(visitor, handed, password: "short")).StatusCode);
        // Two at once: the link makes one account.
        var other = await VisitorAsync(site);
        var taken = await Task.WhenAll(TakeUpAsync(visitor, handed, "Nell Harrow"), TakeUpAsync(other, handed, "Somebody else"));
        Assert.Equal([HttpStatusCode.NoContent, HttpStatusCode.NotFound], taken.Select(t => t.StatusCode).Order());
        Assert.Equal(HttpStatusCode.NotFound, (await TakeUpAsync(await VisitorAsync(site), handed)).StatusCode);
        var editor = taken[0].StatusCode == HttpStatusCode.NoContent ? visitor : other;
        Assert.Equal(HttpStatusCode.OK, (await editor.GetAsync("/api/desk")).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await editor.GetAsync("/api/people")).StatusCode);
        Assert.Equal(2, (await PeopleAsync(owner)).GetProperty("people").GetArrayLength());
        Assert.Equal(2, await site.ScalarAsync<long>("select count(*) from act where kind = 'People'"));
    }

    [Fact]
    public async Task A_link_is_shut_by_the_next_one_by_taking_it_back_and_by_its_last_day()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var visitor = await VisitorAsync(site);
        async Task<HttpStatusCode> LookAsync(string secret) => (await visitor.PostAsJsonAsync("/api/invitation/look", new { secret })).StatusCode;
        var first = await InviteAsync(owner);
        Assert.Equal(HttpStatusCode.OK, await LookAsync(first));
        var second = await InviteAsync(owner, "NELL@example.test", role: "owner");
        Assert.Equal((HttpStatusCode.NotFound, HttpStatusCode.OK), (await LookAsync(first), await LookAsync(second)));
        var line = Assert.Single((await PeopleAsync(owner)).GetProperty("invitations").EnumerateArray());
        Assert.Equal(("owner", "none"), (line.GetProperty("role").GetString(), line.GetProperty("letter").GetString()));
        var again = SecretOf((await (await owner.PostAsync($"/api/people/invitations/{line.GetProperty("id").GetGuid()}/again", null)).ReadAsync()).GetProperty("link").GetString()!);
        Assert.Equal((HttpStatusCode.NotFound, HttpStatusCode.OK), (await LookAsync(second), await LookAsync(again)));
        await using (var later = site.Db.CreateCommand("update invitation set expires = now() - interval '1 second'"))
        {
            await later.ExecuteNonQueryAsync();
        }

        Assert.Equal((HttpStatusCode.NotFound, HttpStatusCode.NotFound), (await LookAsync(again), (await TakeUpAsync(visitor, again)).StatusCode));
        var back = await InviteAsync(owner);
        var id = (await PeopleAsync(owner)).GetProperty("invitations")[0].GetProperty("id").GetGuid();
        Assert.Equal(HttpStatusCode.NoContent, (await owner.DeleteAsync($"/api/people/invitations/{id}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await TakeUpAsync(visitor, back)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.DeleteAsync($"/api/people/invitations/{id}")).StatusCode);
        // Who is here already is not asked, nor is anybody made what nobody can be.
        Assert.Equal(HttpStatusCode.Conflict, (await owner.PostAsJsonAsync("/api/people/invitations", new { name = "Odile", email = " ODILE@example.test", role = "editor" })).StatusCode);
        foreach (var (name, email, role) in ((string, string, string)[])[("Nell", "nell@example.test", "none"), ("Nell", "not an address", "editor"), (" \t", "nell@example.test", "editor"), ("Nell", "nell@example.test\r\nBcc: all@example.test", "editor"), ("Nell", "a@example.test,b@example.test", "editor"), ("Nell", "<nell>@example.test", "editor")])
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/people/invitations", new { name, email, role })).StatusCode);
        }
    }

    [Fact]
    public async Task Two_owners_who_take_each_other_out_at_once_leave_one()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var other = await site.AccountAsync("Ilse", "Owner");
        var people = await PeopleAsync(owner);
        var (odile, ilse) = (IdOf(people, "Odile"), IdOf(people, "Ilse"));
        Assert.Equal(HttpStatusCode.Conflict, (await owner.PutAsJsonAsync($"/api/people/{odile}/role", new { role = "editor" })).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await owner.DeleteAsync($"/api/people/{odile}")).StatusCode);
        var answers = await Task.WhenAll(owner.DeleteAsync($"/api/people/{ilse}"), other.PutAsJsonAsync($"/api/people/{odile}/role", new { role = "editor" }));
        Assert.Single(answers, a => a.StatusCode == HttpStatusCode.NoContent);
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from account where role = 'Owner'"));
    }

    [Fact]
    public async Task Who_is_taken_out_is_out_at_once_in_every_process_and_hears_no_more_news()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var editor = await site.EditorAsync("Tomas");
        (await editor.PostAsJsonAsync("/api/intakes", new { })).EnsureSuccessStatusCode();
        using var listening = new HttpRequestMessage(HttpMethod.Get, "/api/desk/news");
        using var news = await editor.SendAsync(listening, HttpCompletionOption.ResponseHeadersRead);
        Assert.Equal(HttpStatusCode.OK, news.StatusCode);
        site.Process(workers: 0);
        var elsewhere = await site.OwnerAsync();
        var tomas = IdOf(await PeopleAsync(owner), "Tomas");
        Assert.Equal(HttpStatusCode.NoContent, (await elsewhere.DeleteAsync($"/api/people/{tomas}")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await editor.GetAsync("/api/desk")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await elsewhere.DeleteAsync($"/api/people/{tomas}")).StatusCode);
        // What was done stays, under the name.
        Assert.Equal("Tomas", await site.ScalarAsync<string>("select who from act where kind = 'Intake'"));
        // The line that was open ends by itself with the next piece of news after a few seconds.
        var read = news.Content.ReadAsStringAsync();
        for (var tries = 0; !read.IsCompleted && tries < 60; tries++)
        {
            await owner.PostAsJsonAsync("/api/albums", new { workingName = $"Album {tries}" });
            await Task.WhenAny(read, Task.Delay(500));
        }

        Assert.True(read.IsCompletedSuccessfully, "The news of who was taken out go on.");
    }

    /// <summary>They passed the door, and are gone before what they do is written.</summary>
    [Fact]
    public async Task Who_is_taken_out_in_the_middle_of_a_request_is_told_to_sign_in()
    {
        await using var site = await Site.StartAsync(workers: 0);
        await site.OwnerAsync();
        var editor = await site.EditorAsync("Tomas");
        await using var line = await site.Db.OpenConnectionAsync();
        await using var taking = await line.BeginTransactionAsync();
        await using var remove = new Npgsql.NpgsqlCommand("select set_config('jovitar.act', gen_random_uuid()::text, true); delete from account where name = 'Tomas'", line, taking);
        await remove.ExecuteNonQueryAsync();
        var asked = editor.PostAsJsonAsync("/api/albums", new { workingName = "Too late" });
        await site.UntilAsync("select count(*) from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'", 1);
        await taking.CommitAsync();
        Assert.Equal(HttpStatusCode.Unauthorized, (await asked).StatusCode);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from album"));
    }

    [Fact]
    public async Task An_owner_signs_somebody_out_and_takes_off_a_second_step_that_nobody_can_take_any_more()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var editor = await site.EditorAsync("Tomas");
        await using (var on = site.Db.CreateCommand("insert into second_step (account, secret, since) select id, 'secret', now() from account where name = 'Tomas'"))
        {
            await on.ExecuteNonQueryAsync();
        }

        var people = await PeopleAsync(owner);
        var tomas = IdOf(people, "Tomas");
        Assert.True(people.GetProperty("people").EnumerateArray().Single(p => p.GetProperty("id").GetGuid() == tomas).GetProperty("hasSecondStep").GetBoolean());
        Assert.Equal(HttpStatusCode.NoContent, (await owner.DeleteAsync($"/api/people/{tomas}/sessions")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await editor.GetAsync("/api/desk")).StatusCode);
        async Task<HttpStatusCode> EnterAsync() => (await (await VisitorAsync(site)).PostAsJsonAsync("/api/session", new { email = "tomas@example.test", password = "ten characters and more" })).StatusCode;
        Assert.Equal(HttpStatusCode.Unauthorized, await EnterAsync());
        Assert.Equal(HttpStatusCode.NoContent, (await owner.DeleteAsync($"/api/people/{tomas}/second-step")).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, await EnterAsync());
        Assert.Equal("Signed Tomas out everywhere. Took off the second step of Tomas.", await site.ScalarAsync<string>("select string_agg(sentence, ' ' order by id) from act where kind = 'People'"));
    }

    [Fact]
    public async Task Whoever_makes_a_site_ready_hands_it_over_and_is_out_once_the_other_has_come()
    {
        await using var standin = await Standin.StartAsync("prints");
        await using var site = await Site.StartAsync(workers: 0, mail: standin.MailPort);
        var helper = await site.OwnerAsync();
        var made = (await (await helper.PostAsJsonAsync("/api/albums", new { workingName = "Made ready" })).ReadAsync()).GetProperty("id").GetString();
        // To an owner, and to nobody less.
        Assert.Equal(HttpStatusCode.BadRequest, (await helper.PostAsJsonAsync("/api/people/invitations", new { name = "Nell", email = "nell@example.test", role = "editor", handsOver = true })).StatusCode);
        await (await helper.PostAsJsonAsync("/api/people/invitations", new { name = "Nell", email = "nell@example.test", role = "owner", handsOver = true })).ReadAsync();
        var line = Assert.Single((await PeopleAsync(helper)).GetProperty("invitations").EnumerateArray());
        Assert.True(line.GetProperty("handsOver").GetBoolean());
        // Sent again it still hands over; until it is taken up the helper works on.
        var secret = SecretOf((await (await helper.PostAsync($"/api/people/invitations/{line.GetProperty("id").GetGuid()}/again", null)).ReadAsync()).GetProperty("link").GetString()!);
        Assert.Equal("Trial is handed over to you", (await standin.LettersAsync(1))[0].Subject);
        var nell = await VisitorAsync(site);
        Assert.True((await (await nell.PostAsJsonAsync("/api/invitation/look", new { secret })).ReadAsync()).GetProperty("handsOver").GetBoolean());
        Assert.Equal(HttpStatusCode.OK, (await helper.GetAsync("/api/people")).StatusCode);
        Assert.True((await TakeUpAsync(nell, secret)).IsSuccessStatusCode);
        await Site.TokenAsync(nell);

        // The helper is out at once, in every browser; what they made stays, under their name.
        Assert.Equal(HttpStatusCode.Unauthorized, (await helper.GetAsync("/api/people")).StatusCode);
        await Site.TokenAsync(helper);
        Assert.Equal(HttpStatusCode.Unauthorized, (await helper.PostAsJsonAsync("/api/session", new { email = "odile@example.test", password = "ten characters and more" })).StatusCode);
        Assert.Equal(["Nell"], (await PeopleAsync(nell)).GetProperty("people").EnumerateArray().Select(p => p.GetProperty("name").GetString()!));
        var history = await nell.GetStringAsync("/api/acts");
        Assert.Contains("Took the site over from Odile.", history, StringComparison.Ordinal);
        Assert.Contains("Invited Nell to take the site over.", history, StringComparison.Ordinal);
        Assert.Contains(made!, await nell.GetStringAsync("/api/albums"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task One_who_is_no_owner_any_more_has_nothing_to_hand_over()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var second = await VisitorAsync(site);
        Assert.True((await TakeUpAsync(second, await InviteAsync(owner, "bram@example.test", "Bram", "owner"), "Bram")).IsSuccessStatusCode);
        await Site.TokenAsync(second);
        var answer = await owner.PostAsJsonAsync("/api/people/invitations", new { name = "Nell", email = "nell@example.test", role = "owner", handsOver = true });
        var secret = SecretOf((await answer.ReadAsync()).GetProperty("link").GetString()!);
        var odile = IdOf(await PeopleAsync(second), "Odile");
        (await second.PutAsJsonAsync($"/api/people/{odile}/role", new { role = "editor" })).EnsureSuccessStatusCode();
        Assert.True((await TakeUpAsync(await VisitorAsync(site), secret)).IsSuccessStatusCode);
        Assert.Contains((await PeopleAsync(second)).GetProperty("people").EnumerateArray(), p => p.GetProperty("name").GetString() == "Odile" && p.GetProperty("role").GetString() == "editor");
    }
}
