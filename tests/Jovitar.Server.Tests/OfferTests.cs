using System.Net;
using System.Net.Http.Json;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.MemberSteps;
using static Jovitar.Server.Tests.OfferSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What an album offers besides being seen: saving its photos, to everyone or to those whom it knows.</summary>
public sealed class OfferTests
{
    [Fact]
    public async Task Those_whom_an_album_knows_save_what_everyone_may_not()
    {
        var (site, owner, visitor, p, album, _) = await NightAsync();
        await using var __ = site;
        var member = await MemberAsync(site, owner, "Ada");
        var save = $"/album/night/photo/{p[0]}/save";
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(member, save));
        (await OfferAsync(owner, album, knownSave: "full")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(member, save));
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(visitor, save));
        // What says so is on their page and on nobody else's, whoever asks first.
        foreach (var (browser, offered) in new[] { (visitor, false), (member, true), (visitor, false), (site.Visitor(), false), (member, true) })
        {
            Assert.Equal(offered, (await browser.GetStringAsync("/album/night")).Contains("data-save", StringComparison.Ordinal));
            Assert.Equal(offered, (await browser.GetStringAsync($"/album/night/photo/{p[0]}")).Contains("Save this photo", StringComparison.Ordinal));
        }

        // On a page where the album stands alone it is the same; a photo that stands there by another way is not offered.
        Assert.Equal(HttpStatusCode.OK, await GetAsync(member, $"/both/photo/{p[0]}/save"));
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(visitor, $"/both/photo/{p[0]}/save"));
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(member, $"/album/day/photo/{p[^1]}/save"));
        (await OfferAsync(owner, album, saves: "large", knownSave: "nothing")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, save));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(member, save));
    }

    [Fact]
    public async Task The_holder_of_a_link_to_something_that_is_open_to_everyone_is_nobody_in_particular()
    {
        var (site, owner, client, p, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        var (_, secret) = await EntryAsync(owner, "album", album);
        Assert.Equal(HttpStatusCode.SeeOther, await EnterAsync(client, secret));
        (await OfferAsync(owner, album, knownSave: "large")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await GetAsync(client, $"/album/night/photo/{p[0]}/save"));
        (await SayAsync(owner, "album", album, "everyone")).EnsureSuccessStatusCode();
        // Their page is everyone's, and nothing on it is for them alone.
        Assert.DoesNotContain("data-save", await client.GetStringAsync("/album/night"), StringComparison.Ordinal);
        Assert.DoesNotContain("data-save", await site.Visitor().GetStringAsync("/album/night"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(client, $"/album/night/photo/{p[0]}/save"));
    }

    [Fact]
    public async Task Two_who_say_it_at_once_do_not_overrule_each_other_and_it_is_taken_back_whole()
    {
        var (site, owner, _, _, album, _) = await NightAsync();
        await using var __ = site;
        var was = await OffersAsync(owner, album);
        var said = await owner.PutAsJsonAsync($"/api/albums/{album}/offers", new { offers = new { saves = "large", knownSave = "full", choosing = new { most = 20, until = (string?)null, asks = " Twenty for the book, please. " } }, was });
        Assert.Equal(HttpStatusCode.OK, said.StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await owner.PutAsJsonAsync($"/api/albums/{album}/offers", new { offers = new { saves = "full", knownSave = "full", choosing = (object?)null }, was })).StatusCode);
        var now = await OffersAsync(owner, album);
        Assert.Equal("Twenty for the book, please.", now.GetProperty("choosing").GetProperty("asks").GetString());
        Assert.Contains("Of “Night”: asked visitors whom it knows for their favourites, let everyone save photos as large as a page shows them, let those whom it knows save photos in full size.", await owner.GetStringAsync("/api/acts"), StringComparison.Ordinal);
        (await owner.PostAsync($"/api/acts/{(await said.ReadAsync()).GetProperty("act").GetString()}/undo", null)).EnsureSuccessStatusCode();
        Assert.Equal(was.ToString(), (await OffersAsync(owner, album)).ToString());
        foreach (var wrong in (object[])[new { most = 0, until = (string?)null, asks = "" }, new { most = 1001, until = (string?)null, asks = "" }, new { most = (int?)null, until = (string?)null, asks = new string('x', 401) }])
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await OfferAsync(owner, album, choosing: wrong)).StatusCode);
        }

        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(owner, $"/api/albums/{Guid.NewGuid()}/offers"));
    }
}
