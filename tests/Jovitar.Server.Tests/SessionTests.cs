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
}
