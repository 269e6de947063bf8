using System.Net;
using System.Net.Http.Json;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>The addresses of what albums and categories have for pages.</summary>
public sealed class AddressTests
{
    [Fact]
    public async Task Addresses_go_by_the_title_until_somebody_knows_them_and_old_ones_lead_on_however_often_they_change()
    {
        var (site, owner, visitor, p) = await StartAsync(2);
        await using var _ = site;
        var album = await MakeAsync(owner, "import of monday", [p[0]]);
        async Task<string> AddressAsync(string id) => (await AlbumAsync(owner, id)).GetProperty("standing").GetProperty("address").GetString()!;
        Assert.Equal("import-of-monday", await AddressAsync(album));
        var line = await AlbumAsync(owner, album);
        await (await owner.SendAsync(HttpMethod.Patch, $"/api/albums/{album}", new { title = "Über die Düne" }, line.GetProperty("version").GetInt64())).ReadAsync();
        Assert.Equal("uber-die-dune", await AddressAsync(album));
        await (await StandAsync(owner, album, [await CategoryAsync(owner, "Dunes")])).ReadAsync();
        line = await AlbumAsync(owner, album);
        await (await owner.SendAsync(HttpMethod.Patch, $"/api/albums/{album}", new { title = "Otherwise" }, line.GetProperty("version").GetInt64())).ReadAsync();
        // Visitors know it by now: it stays.
        Assert.Equal("uber-die-dune", await AddressAsync(album));
        await (await StandAsync(owner, album, address: "dune")).ReadAsync();
        await (await StandAsync(owner, album, address: "the-dune")).ReadAsync();
        foreach (var old in new[] { "uber-die-dune", "dune" })
        {
            var answer = await visitor.GetAsync($"/album/{old}");
            Assert.Equal((HttpStatusCode.MovedPermanently, "/album/the-dune"), (answer.StatusCode, answer.Headers.Location?.ToString()));
        }

        var second = await MakeAsync(owner, "The dune", [p[1]]);
        Assert.Equal("the-dune-2", await AddressAsync(second));
        var taken = await StandAsync(owner, second, address: "the-dune");
        Assert.Equal(HttpStatusCode.BadRequest, taken.StatusCode);
        Assert.Contains("Another album has the address", await taken.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.BadRequest, (await StandAsync(owner, second, address: "no good!")).StatusCode);
        // A page and a category may be called the same: each kind has addresses of its own.
        Assert.Equal("the-dune", (await LineAsync(owner, await CategoryAsync(owner, "The dune"))).GetProperty("page").GetProperty("address").GetString());
    }

    [Fact]
    public async Task A_category_has_an_address_of_its_own_choosing_and_the_second_of_two_who_say_where_an_album_stands_is_told()
    {
        var (site, owner, visitor, p) = await StartAsync(1);
        await using var _ = site;
        var (tides, dunes) = (await CategoryAsync(owner, "Tides"), await CategoryAsync(owner, "Dunes"));
        var taken = await SetAsync(owner, tides, page: new { address = "dunes", beneath = true, sort = "newest" });
        Assert.Equal((HttpStatusCode.Conflict, true), (taken.StatusCode, (await taken.Content.ReadAsStringAsync()).Contains("Another category has the address", StringComparison.Ordinal)));
        Assert.Equal(HttpStatusCode.BadRequest, (await SetAsync(owner, tides, page: new { address = "High and low", beneath = true, sort = "newest" })).StatusCode);
        await (await SetAsync(owner, tides, page: new { address = "high-and-low", beneath = true, sort = "newest" })).ReadAsync();
        var answer = await visitor.GetAsync("/category/tides");
        Assert.Equal((HttpStatusCode.MovedPermanently, "/category/high-and-low"), (answer.StatusCode, answer.Headers.Location?.ToString()));

        var album = await MakeAsync(owner, "Trial", p);
        var read = (await AlbumAsync(owner, album)).GetProperty("version").GetInt64();
        await (await StandAsync(owner, album, [dunes])).ReadAsync();
        var body = new { address = "trial", dated = (string?)null, shown = true, putFirst = false, opens = (string?)null, byLot = false, comments = false, ratings = false, talkKnown = false, categories = new[] { new { category = tides, putFirst = false } }, tags = Array.Empty<string>() };
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{album}/standing", body, read)).StatusCode);
        Assert.Equal(["Trial"], await IndexAsync(visitor, "/category/dunes"));
    }

    [Fact]
    public async Task Things_of_one_name_that_come_back_from_the_bin_together_have_an_address_each()
    {
        var (site, owner, _, _) = await StartAsync(1);
        await using var __ = site;
        foreach (var kind in (string[])["category", "album"])
        {
            var list = kind == "album" ? "albums" : "categories";
            async Task<string> MadeAsync() => kind == "album" ? await MakeAsync(owner, "Tides", []) : await CategoryAsync(owner, "Tides");
            var binned = new List<string>();
            for (var n = 0; n < 3; n++)
            {
                binned.Add(await MadeAsync());
                await (await owner.DeleteAsync($"/api/{list}/{binned[n]}")).ReadAsync();
            }

            await MadeAsync();
            await (await owner.PostAsJsonAsync("/api/bin/restore", new { things = binned.Select(id => new { kind, id }) })).ReadAsync();
            var addresses = await site.ScalarAsync<string>($"select string_agg(address, ' ' order by address) from {kind} where binned is null");
            Assert.Equal(4, addresses.Split(' ').Distinct().Count());
            Assert.Contains("tides", addresses.Split(' '));
        }
    }

    [Fact]
    public async Task Many_at_once_who_make_albums_and_categories_of_one_name_get_an_address_each()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await Task.WhenAll(Enumerable.Range(0, 12).Select(async n => await (n % 2 == 0
            ? await owner.PostAsJsonAsync("/api/albums", new { workingName = "Kites" })
            : await owner.PostAsJsonAsync("/api/categories", new { name = "Kites", parent = (string?)null })).ReadAsync()));
        var expected = string.Join(' ', ((string[])["kites", .. Enumerable.Range(2, 5).Select(n => $"kites-{n}")]).Order(StringComparer.Ordinal));
        foreach (var table in (string[])["album", "category"])
        {
            Assert.Equal(expected, await site.ScalarAsync<string>($"select string_agg(address, ' ' order by address collate \"C\") from {table}"));
        }
    }
}
