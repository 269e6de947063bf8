using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Starters: what is offered of the owner's albums, and the pages made of them.</summary>
public sealed class StarterTests
{
    static async Task<JsonElement> OfferAsync(HttpClient owner, string starter) =>
        (await (await owner.GetAsync("/api/starters")).ReadAsync()).GetProperty("starters").EnumerateArray().Single(s => s.GetProperty("starter").GetString() == starter);

    static IEnumerable<string?> Albums(JsonElement offer) => offer.GetProperty("albums").EnumerateArray().Select(a => a.GetString());

    [Fact]
    public async Task A_site_without_albums_is_offered_every_starter_and_nothing_that_is_not_its_own()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var offers = (await (await owner.GetAsync("/api/starters")).ReadAsync()).GetProperty("starters").EnumerateArray().ToArray();
        Assert.Equal(["eventReport", "classPage", "portfolio", "seasonOverview", "salesGallery", "contact", "clubHome"], offers.Select(o => o.GetProperty("starter").GetString()));
        Assert.All(offers, o => Assert.Equal((0, 0), (o.GetProperty("albums").GetArrayLength(), o.GetProperty("pictures").GetArrayLength())));
        foreach (var offer in offers)
        {
            var made = await owner.PostAsJsonAsync("/api/starters", new { starter = offer.GetProperty("starter").GetString(), albums = Array.Empty<string>() });
            Assert.Equal(HttpStatusCode.OK, made.StatusCode);
        }
    }

    [Fact]
    public async Task A_page_of_a_starter_is_a_draft_with_the_albums_chosen_and_visitors_find_it_when_it_is_published()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (shown, photos, _, _) = await site.PublishedAsync(owner, 3);
        var other = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Night flight" })).ReadAsync()).GetProperty("id").GetString();
        await site.WriteAsync($"update album set description = 'Lanterns over the bay.' where id = '{other}'");
        (await owner.PostAsJsonAsync($"/api/albums/{other}/photos", new { photos = photos.Take(2) })).EnsureSuccessStatusCode();
        // One that no page shows yet comes first, though the other has as many photos that are as new.
        var offer = await OfferAsync(owner, "eventReport");
        Assert.Equal([other], Albums(offer));
        Assert.Equal(2, offer.GetProperty("pictures").GetArrayLength());
        var otherwise = await (await owner.PostAsJsonAsync("/api/starters/offer", new { starter = "eventReport", albums = new[] { shown, other } })).ReadAsync();
        Assert.Equal([shown], Albums(otherwise));
        Assert.Equal(3, otherwise.GetProperty("pictures").GetArrayLength());

        var page = await (await owner.PostAsJsonAsync("/api/starters", new { starter = "eventReport", albums = new[] { other } })).ReadAsync();
        var (id, address) = (page.GetProperty("id").GetString(), page.GetProperty("address").GetString());
        Assert.Equal(("Night flight", "night-flight", false), (page.GetProperty("draft").GetProperty("title").GetString(), address, page.GetProperty("published").GetBoolean()));
        // The report is the album's own page; a page with a photo of it is not.
        (await owner.PostAsJsonAsync("/api/starters", new { starter = "contact", albums = new[] { other } })).EnsureSuccessStatusCode();
        Assert.Equal(1, await site.ScalarAsync<long>($"select count(*) from page where album = '{other}'"));
        Assert.Contains("Lanterns over the bay.", await owner.GetStringAsync($"/preview/{id}"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await site.Visitor().GetAsync($"/{address}")).StatusCode);
        (await owner.SendAsync(HttpMethod.Post, $"/api/pages/{id}/publish", new { }, page.GetProperty("edited").GetInt64())).EnsureSuccessStatusCode();
        var html = await site.Visitor().GetStringAsync($"/{address}");
        Assert.Contains("Lanterns over the bay.", html, StringComparison.Ordinal);
        Assert.Contains($"/{address}/photo/{photos[0]}", html, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_is_gone_left_out_or_binned_stands_in_no_starter()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, photos, _, _) = await site.PublishedAsync(owner, 2);
        await site.WriteAsync($"update photo set decision = 'leave_out' where id = '{photos[0]}'");
        Assert.Single((await OfferAsync(owner, "portfolio")).GetProperty("pictures").EnumerateArray());
        (await owner.DeleteAsync($"/api/albums/{album}")).EnsureSuccessStatusCode();
        Assert.Empty(Albums(await OfferAsync(owner, "portfolio")));
        var page = await (await owner.PostAsJsonAsync("/api/starters", new { starter = "portfolio", albums = new[] { album, Guid.NewGuid().ToString() } })).ReadAsync();
        Assert.DoesNotContain($"{album}", page.GetProperty("draft").GetRawText(), StringComparison.Ordinal);
    }
}
