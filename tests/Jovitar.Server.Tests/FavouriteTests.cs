using System.Net;
using System.Text.RegularExpressions;
using Jovitar.Core;
using Jovitar.Core.Favourites;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What visitors mark, opened by its address: only ever what they come upon anyway.</summary>
public sealed class FavouriteTests
{
    static async Task OfferAsync(HttpClient owner, bool offered)
    {
        var site = await (await owner.GetAsync("/api/site")).ReadAsync();
        var front = new { title = "Trial", tagline = "", isOpen = true, meanwhile = "", isListed = true, startsAt = (string?)null, hasFavourites = offered };
        (await owner.SendAsync(HttpMethod.Put, "/api/site", front, site.GetProperty("edited").GetInt64())).EnsureSuccessStatusCode();
    }

    static string PathOf(params string[] photos) => $"/favourites/{MarkedPhotos.Of([.. photos.Select(p => new PhotoId(Guid.Parse(p)))]).Address}";

    static string[] ShownIn(string html) => [.. Regex.Matches(html, "<a class=\"frame\"[^>]*data-id=\"([^\"]+)\"").Select(m => m.Groups[1].Value)];

    [Fact]
    public async Task What_is_marked_is_a_page_that_shows_what_visitors_come_upon_and_nothing_else()
    {
        var (site, owner, visitor, p) = await StartAsync(4);
        await using var _ = site;
        var album = await MakeAsync(owner, "First", p[..3]);
        var page = await owner.ShownAsync(null, "first", Drafts.Page("First", Drafts.Photos(album)));
        // Where marking is not offered there is nothing at such an address, and no page says that photos can be marked.
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, PathOf(p[0])));
        Assert.DoesNotContain("data-favourites", await visitor.GetStringAsync("/first"), StringComparison.Ordinal);
        await OfferAsync(owner, true);
        Assert.Contains($"data-favourites=\"{MarkedPhotos.Most}\"", await visitor.GetStringAsync("/first"), StringComparison.Ordinal);

        // In the order of marking; one that stands nowhere is not told of but by its number.
        var html = await visitor.GetStringAsync(PathOf(p[2], p[3], p[0]));
        Assert.Equal([p[2], p[0]], ShownIn(html));
        Assert.Contains("One photograph more was marked. It cannot be seen any more.", html, StringComparison.Ordinal);
        Assert.Contains("<meta name=\"robots\" content=\"noindex\">", html, StringComparison.Ordinal);
        // Each has a page among them, and the script is told the same.
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, $"{PathOf(p[2], p[0])}/photo/{p[0]}"));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, $"{PathOf(p[2], p[0])}/photo/{p[1]}"));
        var told = await (await visitor.GetAsync($"/site/view{PathOf(p[2], p[3], p[0])}?width=1200")).ReadAsync();
        Assert.Equal([p[2], p[0]], told.GetProperty("frames").EnumerateArray().Select(f => f.GetProperty("id").GetString()));
        // It may be saved where a page offers that, and this one does not.
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(visitor, $"{PathOf(p[0])}/photo/{p[0]}/save"));

        // A tag holds as long as what it shows does: words, and what can be seen.
        using var first = await visitor.GetAsync(PathOf(p[0], p[1]));
        async Task<HttpStatusCode> AgainAsync()
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, PathOf(p[0], p[1]));
            request.Headers.IfNoneMatch.Add(first.Headers.ETag!);
            using var answer = await visitor.SendAsync(request);
            return answer.StatusCode;
        }

        Assert.Equal(HttpStatusCode.NotModified, await AgainAsync());
        await WriteAsync(owner, p[1], "title", "Box kite");
        Assert.Equal(HttpStatusCode.OK, await AgainAsync());
        Assert.Contains("Box kite", await visitor.GetStringAsync(PathOf(p[0], p[1])), StringComparison.Ordinal);
        (await owner.SendAsync(HttpMethod.Post, $"/api/pages/{page}/withdraw", null)).EnsureSuccessStatusCode();
        var empty = await visitor.GetStringAsync(PathOf(p[0], p[1]));
        Assert.Empty(ShownIn(empty));
        Assert.Contains("None of these photographs can be seen any more.", empty, StringComparison.Ordinal);

        // Nothing else is an address, and a page of that name is one as before.
        foreach (var typed in (string[])["/favourites/x", $"{PathOf(p[0])}=", $"/favourites/{new string('A', 22 * 301)}"])
        {
            Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, typed));
        }

        await owner.ShownAsync(null, "favourites", Drafts.Page("Favourites of the year", Drafts.Photos(album)));
        Assert.Contains("Favourites of the year", await visitor.GetStringAsync("/favourites"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, $"/favourites/photo/{p[0]}"));
        Assert.Equal([p[0]], ShownIn(await visitor.GetStringAsync(PathOf(p[0]))));
        await OfferAsync(owner, false);
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, PathOf(p[0])));
        await site.VerifyAsync();
    }
}
