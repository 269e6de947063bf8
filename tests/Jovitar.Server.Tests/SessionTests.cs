using System.Net;
using System.Net.Http.Json;

namespace Jovitar.Server.Tests;

/// <summary>Signing in, staying so, and being out: on several processes, behind a proxy, and against those who guess.</summary>
public sealed class SessionTests
{
    [Fact]
    public async Task Guesses_made_at_the_same_moment_all_count_and_a_stranger_does_not_lock_the_owner_out()
    {
        await using var site = await Site.StartAsync(workers: 0);
        await site.OwnerAsync();
        var stranger = site.Visitor();
        await Site.TokenAsync(stranger);
        Task<HttpResponseMessage> GuessAsync(string email, string password = "wrong") => stranger.PostAsJsonAsync("/api/session", new { email, password });
        var answers = await Task.WhenAll(Enumerable.Range(0, 30).Select(i => GuessAsync("odile@example.test", $"guess {i}")));
        Assert.Equal(5, answers.Count(a => a.StatusCode == HttpStatusCode.Unauthorized));
        Assert.Equal(25, answers.Count(a => a.StatusCode == HttpStatusCode.TooManyRequests));
        // From an address the owner has signed in at before, strangers' guesses from elsewhere do not count against them.
        await using (var elsewhere = site.Db.CreateCommand("update try_count set key = replace(key, right(key, 1), 'x') where key not like 'e %'; update session set address = ''"))
        {
            await elsewhere.ExecuteNonQueryAsync();
        }

        Assert.Equal(HttpStatusCode.NoContent, (await GuessAsync("odile@example.test", "ten characters and more")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await GuessAsync(new string('x', 8000))).StatusCode);
    }

    [Fact]
    public async Task Signing_out_ends_the_session_and_a_new_password_ends_all_others()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var here = await site.OwnerAsync();
        var elsewhere = await site.OwnerAsync();
        var stolen = await site.OwnerAsync();
        var editor = await site.EditorAsync("Tomas");
        var account = await (await here.GetAsync("/api/account")).ReadAsync();
        Assert.Equal(3, account.GetProperty("sessions").GetArrayLength());
        Assert.Single(account.GetProperty("sessions").EnumerateArray(), s => s.GetProperty("here").GetBoolean());
        // The cookie is kept by whoever has it; what it stands for is gone.
        using (var leave = new HttpRequestMessage(HttpMethod.Delete, "/api/session"))
        {
            Assert.Equal(HttpStatusCode.NoContent, (await elsewhere.SendAsync(leave)).StatusCode);
        }

        Assert.Equal(2, (await (await here.GetAsync("/api/account")).ReadAsync()).GetProperty("sessions").GetArrayLength());
        Assert.Equal(HttpStatusCode.BadRequest, (await here.PutAsJsonAsync("/api/account/password", new { current = "not this", password = "another long password" })).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await here.PutAsJsonAsync("/api/account/password", new { current = "ten characters and more", password = "short" })).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await stolen.GetAsync("/api/desk")).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await here.PutAsJsonAsync("/api/account/password", new { current = "ten characters and more", password = "another long password" })).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await stolen.GetAsync("/api/desk")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await here.GetAsync("/api/desk")).StatusCode);
        // One who may do less from now on may do less with the cookie they have.
        await using (var demote = site.Db.CreateCommand("update account set role = 'None' where name = 'Tomas'"))
        {
            await demote.ExecuteNonQueryAsync();
        }

        Assert.Equal(HttpStatusCode.Forbidden, (await editor.GetAsync("/api/desk")).StatusCode);
    }

    [Fact]
    public async Task Behind_a_proxy_that_is_named_cookies_are_secure_and_nobody_else_is_believed()
    {
        await using var site = await Site.StartAsync(workers: 0);
        async Task<bool> SecureAsync(HttpClient client)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, "/api/session");
            request.Headers.Add("X-Forwarded-Proto", "https");
            request.Headers.Add("X-Forwarded-For", "203.0.113.7");
            return (await client.SendAsync(request)).Headers.GetValues("Set-Cookie").All(c => c.Contains("secure", StringComparison.OrdinalIgnoreCase));
        }

        Assert.False(await SecureAsync(site.Visitor()));
        var (process, client) = await ServerProcess.StartAsync(site, ("Jovitar__Proxies", "127.0.0.1"));
        try
        {
            using var fresh = new HttpClient { BaseAddress = client.BaseAddress };
            Assert.True(await SecureAsync(fresh));
        }
        finally
        {
            process.Kill();
            client.Dispose();
        }
    }

    static async Task<(string Secret, string Used, string[] Codes)> PutOnAsync(HttpClient owner)
    {
        var secret = (await (await owner.PostAsJsonAsync("/api/account/second-step", new { current = "ten characters and more" })).ReadAsync()).GetProperty("secret").GetString()!;
        var used = Phone.Shows(secret);
        var codes = (await (await owner.PutAsJsonAsync("/api/account/second-step", new { code = used })).ReadAsync()).GetProperty("codes").EnumerateArray().Select(c => c.GetString()!).ToArray();
        return (secret, used, codes);
    }

    [Fact]
    public async Task With_a_second_step_a_password_alone_signs_nobody_in_and_each_code_does_once()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        // Begun is not on: the password is enough, and a second beginning makes the first code nothing.
        var first = (await (await owner.PostAsJsonAsync("/api/account/second-step", new { current = "ten characters and more" })).ReadAsync()).GetProperty("secret").GetString()!;
        await site.OwnerAsync();
        var (secret, used, codes) = await PutOnAsync(owner);
        Assert.NotEqual(first, secret);
        Assert.Equal(HttpStatusCode.Conflict, (await owner.PostAsJsonAsync("/api/account/second-step", new { current = "ten characters and more" })).StatusCode);

        async Task<HttpResponseMessage> EnterAsync(string code, string password = "ten characters and more")
        {
            var visitor = site.Visitor();
            await Site.TokenAsync(visitor);
            await site.WriteAsync("delete from try_count");
            return await visitor.PostAsJsonAsync("/api/session", new { email = "odile@example.test", password, code });
        }

        var asked = await EnterAsync("");
        Assert.Equal(HttpStatusCode.Unauthorized, asked.StatusCode);
        Assert.Contains("urn:jovitar:second-step", await asked.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.False(asked.Headers.TryGetValues("Set-Cookie", out var cookies) && cookies.Any(c => c.Contains("session", StringComparison.OrdinalIgnoreCase)));
        // Who does not know the password is not told that there is a second step, whatever code they send.
        Assert.Contains("urn:jovitar:wrong", await (await EnterAsync(Phone.Shows(secret, 1), "guess")).Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Unauthorized, (await EnterAsync(used)).StatusCode);
        // One code at many doors at once opens one of them.
        var next = Phone.Shows(secret, 1);
        var many = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => EnterAsync(next)));
        Assert.Equal(1, many.Count(a => a.StatusCode == HttpStatusCode.NoContent));
        many = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => EnterAsync(codes[0])));
        Assert.Equal(1, many.Count(a => a.StatusCode == HttpStatusCode.NoContent));
        Assert.Equal(7, (await (await owner.GetAsync("/api/account")).ReadAsync()).GetProperty("secondStep").GetProperty("rescueLeft").GetInt32());

        // Off again, with the password and a code, and by nobody else.
        await site.WriteAsync("delete from try_count");
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/account/second-step/off", new { current = "guess", code = codes[1] })).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/account/second-step/off", new { current = "ten characters and more", code = codes[0] })).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await owner.PostAsJsonAsync("/api/account/second-step/off", new { current = "ten characters and more", code = codes[1] })).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await EnterAsync("")).StatusCode);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Guessing_the_second_step_is_guessing()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var (secret, _, codes) = await PutOnAsync(owner);
        await site.WriteAsync("update session set address = ''; delete from try_count");
        var thief = site.Visitor();
        await Site.TokenAsync(thief);
        var right = new[] { Phone.Shows(secret), Phone.Shows(secret, 1) };
        var answers = await Task.WhenAll(Enumerable.Range(0, 20).Select(i => thief.PostAsJsonAsync("/api/session", new { email = "odile@example.test", password = "ten characters and more", code = right.Contains($"00000{i % 10}") ? "000099" : $"00000{i % 10}" })));
        Assert.Equal((5, 15), (answers.Count(a => a.StatusCode == HttpStatusCode.Unauthorized), answers.Count(a => a.StatusCode == HttpStatusCode.TooManyRequests)));
        // Neither what the phone shows nor what is on paper opens the door until a minute is over.
        Assert.Equal(HttpStatusCode.TooManyRequests, (await thief.PostAsJsonAsync("/api/session", new { email = "odile@example.test", password = "ten characters and more", code = codes[0] })).StatusCode);
    }
}
