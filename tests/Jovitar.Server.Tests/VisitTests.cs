using System.Net;
using System.Net.Http.Json;

namespace Jovitar.Server.Tests;

/// <summary>Visits are counted by day, without anything of who visits, and what is most viewed goes by them.</summary>
public sealed class VisitTests
{
    const string Browser = "Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0";

    static async Task<HttpResponseMessage> LookAsync(HttpClient who, string path, string agent = Browser, HttpMethod? method = null, string? purpose = null)
    {
        using var request = new HttpRequestMessage(method ?? HttpMethod.Get, path);
        request.Headers.TryAddWithoutValidation("User-Agent", agent);
        if (purpose is not null)
        {
            request.Headers.Add("Sec-Purpose", purpose);
        }

        return await who.SendAsync(request);
    }

    static string Of(string thing) => $"select coalesce(sum(views), 0) from view_day where thing = '{thing}'";

    [Fact]
    public async Task A_look_at_a_page_or_a_photo_counts_and_robots_staff_and_what_is_fetched_ahead_do_not()
    {
        await using var site = await Site.StartAsync();
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var (_, p, page, address) = await site.PublishedAsync(owner, 2);
        Assert.Equal(HttpStatusCode.OK, (await LookAsync(visitor, $"/{address}")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await LookAsync(visitor, $"/{address}/photo/{p[0]}")).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await LookAsync(visitor, $"/site/seen/{p[0]}", method: HttpMethod.Post)).StatusCode);
        // None of these.
        await LookAsync(visitor, $"/{address}", "ExampleBot/1.0 (+https://crawler.example)");
        await LookAsync(visitor, $"/{address}", "");
        await LookAsync(visitor, $"/{address}", purpose: "prefetch");
        await LookAsync(owner, $"/{address}");
        await LookAsync(owner, $"/site/seen/{p[0]}", method: HttpMethod.Post);
        await LookAsync(visitor, $"/{address}-that-is-not");
        await LookAsync(visitor, $"/site/seen/{Guid.NewGuid()}", method: HttpMethod.Post);
        Assert.Equal(HttpStatusCode.BadRequest, (await LookAsync(visitor, "/site/seen/nothing", method: HttpMethod.Post)).StatusCode);
        // Who has the page already looks at it again.
        var tag = (await visitor.GetAsync($"/{address}")).Headers.ETag!;
        using var again = new HttpRequestMessage(HttpMethod.Get, $"/{address}");
        again.Headers.TryAddWithoutValidation("User-Agent", Browser);
        again.Headers.IfNoneMatch.Add(tag);
        var fresh = await visitor.SendAsync(again);
        Assert.Equal(HttpStatusCode.NotModified, fresh.StatusCode);
        Assert.DoesNotContain("Set-Cookie", fresh.Headers.Select(h => h.Key));

        await site.UntilAsync(Of(page), 2);
        await site.UntilAsync(Of(p[0]), 2);
        Assert.Equal(2, await site.ScalarAsync<long>("select count(*) from view_day"));
        Assert.Equal(2, (await (await owner.GetAsync($"/api/photos/{p[0]}")).ReadAsync()).GetProperty("views").GetInt32());
        // What a process has counted is written as it ends.
        await LookAsync(visitor, $"/{address}/photo/{p[1]}");
        site.Process(workers: 0);
        await site.UntilAsync(Of(p[1]), 1);
    }

    [Fact]
    public async Task The_most_viewed_come_first_and_an_album_of_them_follows_without_its_page_changing_at_every_look()
    {
        await using var site = await Site.StartAsync();
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var (_, p, _, address) = await site.PublishedAsync(owner, 4);
        var most = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Most viewed", filling = new { search = "", most = 2, sort = "views", reversed = false } })).ReadAsync()).GetProperty("id").GetString()!;
        foreach (var (photo, times) in new[] { (p[2], 3), (p[0], 2), (p[3], 1) })
        {
            for (var n = 0; n < times; n++)
            {
                await LookAsync(visitor, $"/site/seen/{photo}", method: HttpMethod.Post);
            }
        }

        await site.UntilAsync($"select count(*) from photo_views where (photo, views) in (('{p[2]}', 3), ('{p[0]}', 2), ('{p[3]}', 1))", 3);
        var sheet = (await (await owner.GetAsync("/api/photos?sort=views")).ReadAsync()).GetProperty("photos").EnumerateArray().Select(f => f.GetProperty("id").GetString()!);
        Assert.Equal([p[2], p[0], p[3], p[1]], sheet);
        await site.UntilAsync($"select count(*) from album_photo where album = '{most}' and photo in ('{p[2]}', '{p[0]}')", 2);
        Assert.Equal(p[2], await site.ScalarAsync<string>($"select photo::text from album_photo where album = '{most}' order by place limit 1"));
        // A look alone changes no page, and none is made anew.
        var tag = (await visitor.GetAsync($"/{address}")).Headers.ETag;
        await LookAsync(visitor, $"/{address}/photo/{p[1]}");
        await site.UntilAsync(Of(p[1]), 1);
        Assert.Equal(tag, (await visitor.GetAsync($"/{address}")).Headers.ETag);
        // Removed for good, nothing is left of its visits.
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[2] } })).ReadAsync();
        await site.UntilAsync($"select count(*) from album_photo where album = '{most}' and photo = '{p[3]}'", 1);
        await (await owner.PostAsJsonAsync("/api/bin/empty", new { until = DateTimeOffset.UtcNow.AddMinutes(1) })).ReadAsync();
        Assert.Equal(0, await site.ScalarAsync<long>($"{Of(p[2])}"));
        await site.VerifyAsync();
    }
}
