using System.Diagnostics;
using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Site;
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

    static async Task<string[]> ZipAsync(HttpClient browser, string path)
    {
        var answer = await browser.GetAsync(path);
        Assert.Equal((HttpStatusCode.OK, "application/zip"), (answer.StatusCode, answer.Content.Headers.ContentType!.MediaType));
        using var zip = new ZipArchive(await answer.Content.ReadAsStreamAsync());
        return [.. zip.Entries.Select(e => e.FullName)];
    }

    [Fact]
    public async Task All_of_an_album_is_one_ZIP_of_what_its_asker_sees_and_of_nothing_more()
    {
        var (site, owner, visitor, p, album, _) = await NightAsync();
        await using var __ = site;
        var member = await MemberAsync(site, owner, "Ada");
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(member, "/album/night/save"));
        (await OfferAsync(owner, album, saves: "large", knownSave: "full")).EnsureSuccessStatusCode();
        Assert.Contains("Save all 3 photographs", await member.GetStringAsync("/album/night"), StringComparison.Ordinal);
        Assert.Equal(3, (await ZipAsync(member, "/album/night/save")).Distinct().Count());
        Assert.Equal(3, (await ZipAsync(member, "/both/save?in=1")).Length);
        using (var head = new HttpRequestMessage(HttpMethod.Head, "/album/night/save"))
        {
            Assert.Equal(HttpStatusCode.OK, (await member.SendAsync(head)).StatusCode);
        }

        // Everyone saves one by one, and what is no walk of the page is nothing.
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(visitor, "/album/night/save"));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(member, "/album/night/save?in=2"));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(member, "/album/nowhere/save"));
        // A photo for staff only, and one that is left out, do not leave among the others.
        (await owner.PostAsJsonAsync("/api/photos/audience", new { photos = new[] { p[0] }, audience = new { who = "staff" } })).EnsureSuccessStatusCode();
        Assert.Equal(2, (await ZipAsync(member, "/album/night/save")).Length);
        (await SayAsync(owner, "album", album, "staff")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(member, "/album/night/save"));
    }

    [Fact]
    public async Task Whoever_fetches_everything_at_once_and_slowly_keeps_nobody_else_out()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var door = site.Part<SavingDoor>();
        var (one, other) = (new KnownAs(Guid.NewGuid(), null), new KnownAs(null, Guid.NewGuid()));
        using var first = door.BeginAll(one);
        var second = door.BeginAll(one);
        Assert.NotNull(first);
        Assert.NotNull(second);
        Assert.Null(door.BeginAll(one));
        using var others = door.BeginAll(other);
        Assert.NotNull(others);
        // Given back once, however often.
        second.Dispose();
        second.Dispose();
        using var again = door.BeginAll(one);
        Assert.NotNull(again);
        Assert.Null(door.BeginAll(one));
        var rest = Enumerable.Range(0, 8).Select(_ => door.BeginAll(new KnownAs(Guid.NewGuid(), null))).ToArray();
        Assert.Equal(5, rest.Count(r => r is not null));
    }

    /// <summary>The ZIP is made while it is fetched: whoever is let go in the middle of it gets no more.</summary>
    [Fact]
    public async Task What_is_withdrawn_while_a_ZIP_is_made_does_not_leave_any_more()
    {
        var (site, owner, _, p, album, _) = await NightAsync(4);
        await using var __ = site;
        var member = await MemberAsync(site, owner, "Ada");
        (await OfferAsync(owner, album, knownSave: "full")).EnsureSuccessStatusCode();
        // The second one's original is a pipe into which nothing is written: the ZIP waits there for as long as this wants.
        var original = Directory.GetFiles(Path.Combine(site.Data, "originals"), await HashAsync(owner, p[1]), SearchOption.AllDirectories).Single();
        var kept = await File.ReadAllBytesAsync(original);
        File.Delete(original);
        using (var made = Process.Start("mkfifo", original))
        {
            await made.WaitForExitAsync();
        }

        var pipe = new FileStream(original, FileMode.Open, FileAccess.ReadWrite, FileShare.ReadWrite);
        using var answer = await member.GetAsync("/album/night/save", HttpCompletionOption.ResponseHeadersRead);
        await using var body = await answer.Content.ReadAsStreamAsync();
        var beginning = new byte[1];
        await body.ReadExactlyAsync(beginning);
        (await owner.DeleteAsync($"/api/members/{await IdAsync(owner, "Ada")}")).EnsureSuccessStatusCode();
        File.Delete(original);
        await File.WriteAllBytesAsync(original, kept);
        await pipe.DisposeAsync();
        using var all = new MemoryStream();
        all.Write(beginning);
        await body.CopyToAsync(all);
        all.Position = 0;
        using var zip = new ZipArchive(all);
        Assert.InRange(zip.Entries.Count(e => e.FullName.EndsWith(".jpg", StringComparison.Ordinal)), 1, 2);
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
