using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Passkeys against devices that do wrong: elsewhere, unasked, heard before, of somebody else.</summary>
public sealed class PasskeyTests
{
    static async Task<HttpClient> VisitorAsync(Site site)
    {
        var visitor = site.Visitor();
        visitor.DefaultRequestHeaders.Add("Origin", "http://localhost");
        await Site.TokenAsync(visitor);
        return visitor;
    }

    static async Task<(string Options, string State)> BeginAsync(HttpClient client, string address, object? body = null)
    {
        var answer = await client.PostAsJsonAsync(address, body ?? new { });
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        var begun = await answer.ReadAsync();
        return (begun.GetProperty("options").GetString()!, begun.GetProperty("state").GetString()!);
    }

    static Task<(string Options, string State)> BeginMakingAsync(HttpClient client) => BeginAsync(client, "/api/account/passkeys/begin", new { current = "ten characters and more" });

    static async Task<HttpStatusCode> PutOnAsync(HttpClient client, string state, string credential) =>
        (await client.PostAsJsonAsync("/api/account/passkeys", new { state, credential, name = "A phone" })).StatusCode;

    static async Task<HttpStatusCode> EnterAsync(Site site, PasskeyDevice device)
    {
        var visitor = await VisitorAsync(site);
        var (options, state) = await BeginAsync(visitor, "/api/session/passkey/begin");
        return (await visitor.PostAsJsonAsync("/api/session/passkey", new { state, credential = device.Answer(options) })).StatusCode;
    }

    static async Task<(HttpClient Owner, PasskeyDevice Device)> WithPasskeyAsync(Site site)
    {
        var owner = await site.OwnerAsync();
        owner.DefaultRequestHeaders.Add("Origin", "http://localhost");
        var device = new PasskeyDevice();
        var (options, state) = await BeginMakingAsync(owner);
        Assert.Equal(HttpStatusCode.NoContent, await PutOnAsync(owner, state, device.Make(options)));
        return (owner, device);
    }

    [Fact]
    public async Task A_passkey_lets_its_owner_in_past_the_second_step_and_nobody_who_answers_wrongly()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var (owner, device) = await WithPasskeyAsync(site);
        using var kept = device;
        await using (var on = site.Db.CreateCommand("insert into second_step (account, secret, since) select id, 'secret', now() from account"))
        {
            await on.ExecuteNonQueryAsync();
        }

        Assert.Equal(HttpStatusCode.NoContent, await EnterAsync(site, device));
        device.Origin = "http://evil.example.test";
        Assert.Equal(HttpStatusCode.BadRequest, await EnterAsync(site, device));
        (device.Origin, device.Site) = ("http://localhost", "evil.example.test");
        Assert.Equal(HttpStatusCode.BadRequest, await EnterAsync(site, device));
        (device.Site, device.Asks) = ("localhost", false);
        Assert.Equal(HttpStatusCode.BadRequest, await EnterAsync(site, device));
        // A copy of it counts from where the copy was made (§6.1.1).
        (device.Asks, device.Count) = (true, 0);
        Assert.Equal(HttpStatusCode.BadRequest, await EnterAsync(site, device));
        device.Count = 10;
        Assert.Equal(HttpStatusCode.NoContent, await EnterAsync(site, device));
        using var stranger = new PasskeyDevice();
        stranger.Make((await BeginMakingAsync(owner)).Options);
        Assert.Equal(HttpStatusCode.BadRequest, await EnterAsync(site, stranger));
        Assert.Equal(HttpStatusCode.NotFound, (await owner.DeleteAsync($"/api/account/passkeys/{stranger.Id}")).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await owner.DeleteAsync($"/api/account/passkeys/{device.Id}")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, await EnterAsync(site, device));
    }

    [Fact]
    public async Task A_question_is_answered_once_by_whom_it_was_asked()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var (owner, device) = await WithPasskeyAsync(site);
        using var kept = device;
        var visitor = await VisitorAsync(site);
        var (options, state) = await BeginAsync(visitor, "/api/session/passkey/begin");
        var credential = device.Answer(options);
        var others = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => VisitorAsync(site)));
        var answers = await Task.WhenAll(others.Select(o => o.PostAsJsonAsync("/api/session/passkey", new { state, credential })));
        Assert.Single(answers, a => a.StatusCode == HttpStatusCode.NoContent);
        Assert.Equal(3, answers.Count(a => a.StatusCode == HttpStatusCode.BadRequest));

        // What one was asked another does not answer, nor does it sign anybody in.
        var editor = await site.EditorAsync("Tomas");
        editor.DefaultRequestHeaders.Add("Origin", "http://localhost");
        using var another = new PasskeyDevice();
        var (toOwner, ownersState) = await BeginMakingAsync(owner);
        var made = another.Make(toOwner);
        Assert.Equal(HttpStatusCode.BadRequest, await PutOnAsync(editor, ownersState, made));
        Assert.Equal(HttpStatusCode.BadRequest, (await visitor.PostAsJsonAsync("/api/session/passkey", new { state = ownersState, credential = made })).StatusCode);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from passkey where account <> (select id from account where role = 'Owner')"));
        // One that is another's already is not put on a second account.
        var (toEditor, editorsState) = await BeginMakingAsync(editor);
        Assert.Equal(HttpStatusCode.BadRequest, await PutOnAsync(editor, editorsState, device.Make(toEditor)));
        Assert.Equal(HttpStatusCode.BadRequest, (await editor.PostAsJsonAsync("/api/account/passkeys/begin", new { current = "not this one" })).StatusCode);
    }

    /// <summary>Whatever comes in place of an answer is refused in words.</summary>
    [Fact]
    public async Task What_is_no_answer_is_refused_and_breaks_nothing()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var (_, device) = await WithPasskeyAsync(site);
        using var kept = device;
        var visitor = await VisitorAsync(site);
        var chance = new Random(20261128);
        for (var i = 0; i < 40; i++)
        {
            var (options, state) = await BeginAsync(visitor, "/api/session/passkey/begin");
            var good = device.Answer(options);
            var at = chance.Next(good.Length);
            var bad = (i % 4) switch
            {
                0 => good[..at],
                1 => good.Remove(at, 1),
                2 => good.Insert(at, $"{(char)chance.Next(' ', '~')}"),
                _ => new[] { "", "null", "[]", "{}", "7", "\"x\"", """{"id":null}""", """{"id":"","rawId":"","type":"public-key","response":{}}""", good.Replace("public-key", "key", StringComparison.Ordinal), new string('[', 300) }[i / 4],
            };
            var answer = await visitor.PostAsJsonAsync("/api/session/passkey", new { state, credential = bad });
            Assert.True((int)answer.StatusCode < 500, $"{bad}: {answer.StatusCode}");
            if (answer.StatusCode == HttpStatusCode.NoContent)
            {
                // Only where what was changed says nothing: the same answer all the same.
                Assert.Equal(JsonDocument.Parse(good).RootElement.GetProperty("response").GetProperty("signature").GetString(), JsonDocument.Parse(bad).RootElement.GetProperty("response").GetProperty("signature").GetString());
                visitor = await VisitorAsync(site);
            }

            await using var forget = site.Db.CreateCommand("delete from try_count");
            await forget.ExecuteNonQueryAsync();
        }

        Assert.Equal(HttpStatusCode.NoContent, await EnterAsync(site, device));
    }
}
