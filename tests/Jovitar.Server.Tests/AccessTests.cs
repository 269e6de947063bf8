using System.Net;
using System.Net.Http.Json;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;

namespace Jovitar.Server.Tests;

public sealed class AccessTests
{
    [Theory]
    [InlineData("GET", "/api/desk")]
    [InlineData("GET", "/api/photos")]
    [InlineData("GET", "/api/photos/counts")]
    [InlineData("GET", "/api/albums")]
    [InlineData("GET", "/api/pages")]
    [InlineData("GET", "/api/categories")]
    [InlineData("GET", "/api/prices")]
    [InlineData("POST", "/api/photos/selling")]
    [InlineData("GET", "/api/tags")]
    [InlineData("GET", "/api/intakes")]
    [InlineData("POST", "/api/albums")]
    [InlineData("POST", "/api/intakes")]
    [InlineData("POST", "/api/photos/tags")]
    public async Task The_workrooms_API_is_closed_to_visitors(string method, string address)
    {
        await using var site = await Site.StartAsync(workers: 0);
        var visitor = site.Visitor();
        await Site.TokenAsync(visitor);
        Assert.Equal(HttpStatusCode.Unauthorized, (await visitor.SendAsync(new HttpMethod(method), address, method == "GET" ? null : new { })).StatusCode);
    }

    [Theory]
    [InlineData("192.0.2.7", "192.0.2.7")]
    [InlineData("::ffff:192.0.2.7", "192.0.2.7")]
    [InlineData("2001:db8:0:7:1:2:3:4", "2001:db8:0:7::/64")]
    [InlineData(null, "")]
    public void Who_has_one_address_of_a_network_is_counted_as_all_of_it(string? address, string network) =>
        Assert.Equal(network, TryCount.Network(address is null ? null : IPAddress.Parse(address)));

    [Fact]
    public async Task Originals_drafts_and_renditions_of_unpublished_photos_are_closed_to_visitors()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var visitor = site.Visitor();
        var (_, photos, page, address) = await site.PublishedAsync(owner, 1);
        var hash = await site.ScalarAsync<string>("select encode(hash, 'hex') from photo");
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync($"/i/{hash}/1-480.webp")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync($"/{address}")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await visitor.GetAsync($"/api/photos/{photos[0]}/original")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await visitor.GetAsync($"/preview/{page}")).StatusCode);

        var hidden = await owner.BringAsync(await owner.IntakeAsync(), "hidden.jpg", Acts.Photo(77));
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 2);
        var bare = $"/i/{hidden.GetProperty("picture").GetString()}/1-480.webp";
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync(bare)).StatusCode);
        // Staff have an address of their own, which nothing between keeps; under the visitors' even they do not get it.
        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync(bare)).StatusCode);
        var own = $"/api/renditions/{hidden.GetProperty("picture").GetString()}/480";
        var forStaff = await owner.GetAsync(own);
        Assert.Equal(HttpStatusCode.OK, forStaff.StatusCode);
        Assert.True(forStaff.Headers.CacheControl is { Private: true, MaxAge.TotalDays: < 2 });
        Assert.Equal(HttpStatusCode.Unauthorized, (await visitor.GetAsync(own)).StatusCode);
        foreach (var path in (string[])["/originals", "/../originals", $"/i/{hash}/1-481.webp", $"/i/{hash}/2-480.webp", "/i/..%2f..%2fx/1-480.webp"])
        {
            Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync(path)).StatusCode);
        }
    }

    [Fact]
    public async Task An_unsafe_request_without_the_right_token_is_refused()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var token = owner.DefaultRequestHeaders.GetValues("X-Jovitar-Forgery").Single();
        owner.DefaultRequestHeaders.Remove("X-Jovitar-Forgery");
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/albums", new { workingName = "x" })).StatusCode);
        owner.DefaultRequestHeaders.Add("X-Jovitar-Forgery", token[..^4] + "AAAA");
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/albums", new { workingName = "x" })).StatusCode);
        // Another visitor's token does not fit either.
        var other = site.Visitor();
        await Site.TokenAsync(other);
        owner.DefaultRequestHeaders.Remove("X-Jovitar-Forgery");
        owner.DefaultRequestHeaders.Add("X-Jovitar-Forgery", other.DefaultRequestHeaders.GetValues("X-Jovitar-Forgery").Single());
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/albums", new { workingName = "x" })).StatusCode);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from album"));
    }

    [Fact]
    public async Task After_five_wrong_tries_one_waits_even_with_the_right_password()
    {
        await using var site = await Site.StartAsync(workers: 0);
        await site.OwnerAsync();
        var visitor = site.Visitor();
        await Site.TokenAsync(visitor);
        for (var i = 0; i < 5; i++)
        {
            Assert.Equal(HttpStatusCode.Unauthorized, (await visitor.PostAsJsonAsync("/api/session", new { email = "ODILE@example.test ", password = $"wrong {i}" })).StatusCode);
        }

        var waits = await visitor.PostAsJsonAsync("/api/session", new { email = "odile@example.test", password = "ten characters and more" });
        Assert.Equal(HttpStatusCode.TooManyRequests, waits.StatusCode);
        Assert.InRange(waits.Headers.RetryAfter!.Delta!.Value.TotalSeconds, 1, 60);
        await using (var later = site.Db.CreateCommand("update try_count set since = since - interval '61 seconds'"))
        {
            await later.ExecuteNonQueryAsync();
        }

        Assert.Equal(HttpStatusCode.NoContent, (await visitor.PostAsJsonAsync("/api/session", new { email = "odile@example.test", password = "ten characters and more" })).StatusCode);
    }

    [Fact]
    public async Task Only_the_first_visitor_makes_the_owner()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var visitors = Enumerable.Range(0, 4).Select(_ => site.Visitor()).ToArray();
        foreach (var visitor in visitors)
        {
            await Site.TokenAsync(visitor);
        }

        var answers = await Task.WhenAll(visitors.Select((v, i) => v.PostAsJsonAsync("/api/owner", new { siteTitle = "S", name = "N", email = $"a{i}@example.test", password = "long enough password" })));
        Assert.Single(answers, a => a.StatusCode == HttpStatusCode.NoContent);
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from account"));
    }

    [Fact]
    public async Task Every_answer_carries_a_policy_without_inline_script_and_cookies_are_closed_to_script()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var visitor = site.Visitor();
        foreach (var path in (string[])["/", "/workroom", "/nothing-here", "/api/session"])
        {
            var policy = (await visitor.GetAsync(path)).Headers.GetValues("Content-Security-Policy").Single();
            Assert.Contains("script-src 'self';", policy, StringComparison.Ordinal);
            Assert.DoesNotContain("unsafe", policy, StringComparison.Ordinal);
        }

        await Site.TokenAsync(visitor);
        var made = await visitor.PostAsJsonAsync("/api/owner", new { siteTitle = "S", name = "N", email = "a@example.test", password = "long enough password" });
        Assert.All(made.Headers.GetValues("Set-Cookie"), c => Assert.Contains("httponly", c, StringComparison.OrdinalIgnoreCase));
        Assert.All(made.Headers.GetValues("Set-Cookie"), c => Assert.Contains("samesite", c, StringComparison.OrdinalIgnoreCase));
    }

    [Fact]
    public async Task Migrations_run_from_nothing_twice_and_refuse_a_newer_database()
    {
        await using var site = await Site.StartAsync(workers: 0, empty: true);
        Database.Migrate(site.Connection);
        await using (var newer = site.Db.CreateCommand("insert into schema_version (scriptname, applied) values ('Jovitar.Server.Migrations.9999_later.sql', now())"))
        {
            await newer.ExecuteNonQueryAsync();
        }

        Assert.Throws<NewerDataException>(() => Database.Migrate(site.Connection));
    }

    [Fact]
    public async Task Health_says_whether_the_database_answers()
    {
        await using var site = await Site.StartAsync(workers: 0);
        Assert.Equal(HttpStatusCode.OK, (await site.Visitor().GetAsync("/health/live")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await site.Visitor().GetAsync("/health/ready")).StatusCode);
    }
}
