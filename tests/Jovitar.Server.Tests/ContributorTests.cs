using System.Net;
using System.Net.Http.Json;
using static Jovitar.Server.Tests.ContributionSteps;
using static Jovitar.Server.Tests.MemberSteps;

namespace Jovitar.Server.Tests;

/// <summary>Members who send photos in: a place of their own, albums of their own, and nothing of anybody else's.</summary>
public sealed class ContributorTests
{
    const string Yours = "/sent/yours";

    [Fact]
    public async Task A_member_has_a_place_of_their_own_once_they_may_send_photos_in()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var wren = await MemberAsync(site, owner, "Wren");
        Assert.DoesNotContain("<form method=\"post\" action=\"/sent/yours\">", await wren.GetStringAsync(Yours), StringComparison.Ordinal);
        Assert.Equal(Yours, await BeginAsync(wren, Yours));
        Assert.DoesNotContain(Yours, await wren.GetStringAsync("/sign-in"), StringComparison.Ordinal);
        await ContributesAsync(owner, await IdAsync(owner, "Wren"), "waits");
        Assert.Contains(Yours, await wren.GetStringAsync("/sign-in"), StringComparison.Ordinal);
        Assert.Contains("<form method=\"post\" action=\"/sent/yours\">", await wren.GetStringAsync(Yours), StringComparison.Ordinal);

        var festival = await CategoryAsync(owner, "Winter");
        var secret = await CategoryAsync(owner, "Board");
        (await owner.PutAsJsonAsync("/api/contributions/categories", new { categories = new[] { festival } })).EnsureSuccessStatusCode();
        var (sent, photos) = await SentAsync(wren, Yours, photos: 2, album: new { title = "Frost", category = festival, comments = true });
        var state = await StateAsync(wren, sent);
        Assert.True(state.GetProperty("isKnown").GetBoolean());
        Assert.Equal(["Winter"], state.GetProperty("categories").EnumerateArray().Select(c => c.GetProperty("name").GetString()));
        Assert.Contains("2 photographs wait to be looked at.", await wren.GetStringAsync(Yours), StringComparison.Ordinal);
        var line = Assert.Single(await WaitingAsync(owner));
        Assert.Equal(("Wren", "Frost", true, "Winter"), (line.GetProperty("name").GetString(), line.GetProperty("albumName").GetString(), line.GetProperty("isNewAlbum").GetBoolean(), line.GetProperty("categoryName").GetString()));
        Assert.Equal(1, await DecideAsync(owner, Id(line), "accept", photos[..1]));
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 1);
        Assert.Equal(
            "Frost true Winter 1",
            await site.ScalarAsync<string>("select a.title || ' ' || a.has_comments || ' ' || c.name || ' ' || (select count(*) from album_photo as ap where ap.album = a.id) from album as a join album_category as ac on ac.album = a.id join category as c on c.id = ac.category"));

        // More for the same album; into a category that is not offered, or an album of somebody else, nothing goes.
        var album = (await StateAsync(wren, await BeginAsync(wren, Yours))).GetProperty("albums")[0].GetProperty("id").GetString();
        var (_, more) = await SentAsync(wren, Yours, photos: 1, album: new { album }, seed: 800);
        var others = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "The board" })).ReadAsync()).GetProperty("id").GetString();
        var (_, astray) = await SentAsync(wren, Yours, photos: 1, album: new { album = others }, seed: 810);
        var (_, elsewhere) = await SentAsync(wren, Yours, photos: 1, album: new { title = "Mine", category = secret }, seed: 820);
        foreach (var one in await WaitingAsync(owner))
        {
            await DecideAsync(owner, Id(one), "accept", [.. more, .. astray, .. elsewhere]);
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready'", 4);
        Assert.Equal(2, await site.ScalarAsync<long>($"select count(*) from album_photo where album = '{album}'"));
        Assert.Equal(0, await site.ScalarAsync<long>($"select count(*) from album_photo where album = '{others}'"));
        Assert.Equal(0, await site.ScalarAsync<long>($"select count(*) from album_category where category = '{secret}'"));
    }

    [Fact]
    public async Task What_trusted_members_send_is_accepted_by_itself_but_not_what_they_send_by_a_link()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var wren = await MemberAsync(site, owner, "Wren");
        await ContributesAsync(owner, await IdAsync(owner, "Wren"), "trusted");
        var (sent, _) = await SentAsync(wren, Yours);
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 2);
        Assert.Equal(["accepted", "accepted"], States(await StateAsync(wren, sent)));
        Assert.Equal("Wren", await site.ScalarAsync<string>("select begun_by from intake"));
        var (byLink, _) = await SentAsync(wren, await LinkAsync(owner, forMembers: true), photos: 1, seed: 700);
        Assert.Equal(["waiting"], States(await StateAsync(wren, byLink)));
        Assert.Equal("Wren", Assert.Single(await WaitingAsync(owner)).GetProperty("name").GetString());
        // A link for members turns others away, to sign in.
        var turned = await site.Visitor().GetAsync((await LinksAsync(owner))[0].GetProperty("path").GetString());
        Assert.Equal(HttpStatusCode.Forbidden, turned.StatusCode);
        Assert.Contains("action=\"/site/sign-in\"", await turned.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        await ContributesAsync(owner, await IdAsync(owner, "Wren"), "no");
        Assert.Equal(Yours, await BeginAsync(wren, Yours));
    }

    [Fact]
    public async Task What_one_sent_nobody_else_sees_or_changes()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var (wren, finn) = (await MemberAsync(site, owner, "Wren"), await MemberAsync(site, owner, "Finn"));
        await ContributesAsync(owner, await IdAsync(owner, "Wren"), "waits");
        await ContributesAsync(owner, await IdAsync(owner, "Finn"), "waits");
        var (sent, photos) = await SentAsync(wren, Yours);
        var (byFinn, ofFinn) = await SentAsync(finn, Yours, seed: 900);
        var (byLink, ofLink) = await SentAsync(site.Visitor(), await LinkAsync(owner), seed: 950);
        async Task NothingAsync(HttpClient who, string where, string photo)
        {
            Assert.Equal(HttpStatusCode.NotFound, (await who.GetAsync($"{where}/state")).StatusCode);
            Assert.Equal(HttpStatusCode.NotFound, (await who.GetAsync($"{where}/photos/{photo}/480.webp")).StatusCode);
            Assert.Equal(HttpStatusCode.NotFound, (await AddAsync(who, where, Acts.Photo(1))).StatusCode);
            Assert.Equal(HttpStatusCode.NotFound, (await who.PutAsJsonAsync($"{where}/photos/{photo}", new { title = "x", caption = "" })).StatusCode);
            Assert.Equal(HttpStatusCode.NotFound, (await who.DeleteAsync($"{where}/photos/{photo}")).StatusCode);
            Assert.Equal(HttpStatusCode.NotFound, (await who.PutAsJsonAsync($"{where}/order", new { photos = new[] { photo } })).StatusCode);
            Assert.Equal(HttpStatusCode.NotFound, (await SendAsync(who, where)).StatusCode);
        }

        // Another member, nobody, and staff by the visitors' door; what a browser without an account was handed out is no id.
        foreach (var other in (HttpClient[])[finn, site.Visitor(), owner])
        {
            await NothingAsync(other, sent, photos[0]);
        }

        var id = await site.ScalarAsync<Guid>("select id from contribution where receipt is not null");
        await NothingAsync(wren, $"/sent/{id}", ofLink[0]);
        await NothingAsync(wren, "/sent/" + new string('a', 43), ofLink[0]);
        // One's own with a photo of another's.
        Assert.Equal(HttpStatusCode.Conflict, (await wren.PutAsJsonAsync($"{sent}/photos/{ofFinn[0]}", new { title = "Mine", caption = "" })).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await wren.DeleteAsync($"{sent}/photos/{ofFinn[0]}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await wren.GetAsync($"{sent}/photos/{ofFinn[0]}/480.webp")).StatusCode);
        Assert.Equal(["waiting", "waiting"], States(await StateAsync(finn, byFinn)));
        Assert.All((await StateAsync(finn, byFinn)).GetProperty("photos").EnumerateArray(), p => Assert.Equal("", p.GetProperty("title").GetString()));
        Assert.DoesNotContain(byFinn, await wren.GetStringAsync(Yours), StringComparison.Ordinal);

        // Another website's browser does nothing, whatever it knows.
        using var request = new HttpRequestMessage(HttpMethod.Delete, $"{byLink}/photos/{ofLink[0]}");
        request.Headers.Add("Sec-Fetch-Site", "cross-site");
        Assert.Equal(HttpStatusCode.BadRequest, (await site.Visitor().SendAsync(request)).StatusCode);
        // Members have no part in deciding, and neither does anybody.
        var line = (await WaitingAsync(owner))[0];
        Assert.Equal(HttpStatusCode.Forbidden, (await wren.GetAsync("/api/contributions")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await site.Visitor().GetAsync($"/api/contributions/photos/{photos[0]}/480")).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await wren.GetAsync($"/api/contributions/photos/{photos[0]}/480")).StatusCode);
        // Photos of another contribution are not decided on by the way.
        Assert.Equal(0, await DecideAsync(owner, Id(line), "accept", photos));

        // Who is no member any more comes to nothing of it; what waits waits on, under their name.
        (await owner.DeleteAsync($"/api/members/{await IdAsync(owner, "Wren")}")).EnsureSuccessStatusCode();
        await NothingAsync(wren, sent, photos[0]);
        Assert.Contains(await WaitingAsync(owner), c => c.GetProperty("name").GetString() == "Wren" && c.GetProperty("member").ValueKind == System.Text.Json.JsonValueKind.Null);
    }

    [Fact]
    public async Task Whoever_sent_a_photo_takes_it_back_also_after_it_was_accepted_but_none_that_was_here_before()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        // The first of what is sent is here already.
        var here = (await owner.BringAsync(await owner.IntakeAsync(), "here.jpg", Acts.Photo(500))).GetProperty("photo").GetString();
        var visitor = site.Visitor();
        var (sent, photos) = await SentAsync(visitor, await LinkAsync(owner), photos: 3);
        var id = Id((await WaitingAsync(owner))[0]);
        Assert.True((await ShownAsync(owner, id)).GetProperty("photos")[0].GetProperty("isHere").GetBoolean());
        await DecideAsync(owner, id, "accept", photos[..2]);
        await site.UntilAsync("select count(*) from contribution_photo where is_in", 2);
        var became = (await ShownAsync(owner, id)).GetProperty("photos")[1].GetProperty("photo").GetString();
        foreach (var photo in photos)
        {
            Assert.Equal(HttpStatusCode.NoContent, (await visitor.DeleteAsync($"{sent}/photos/{photo}")).StatusCode);
        }

        Assert.Equal(["withdrawn", "withdrawn", "withdrawn"], States(await StateAsync(visitor, sent)));
        // What somebody else brought since is theirs, too.
        var (again, since) = await SentAsync(visitor, (await LinksAsync(owner))[0].GetProperty("path").GetString()!, photos: 1, seed: 590);
        await DecideAsync(owner, Id((await WaitingAsync(owner)).Single(c => c.GetProperty("waiting").GetInt32() > 0 && Id(c) != id)), "accept", since);
        await site.UntilAsync("select count(*) from contribution_photo where is_in", 3);
        var both = (await owner.BringAsync(await owner.IntakeAsync(), "both.jpg", Acts.Photo(590))).GetProperty("photo").GetString();
        Assert.Equal(HttpStatusCode.NoContent, (await visitor.DeleteAsync($"{again}/photos/{since[0]}")).StatusCode);
        Assert.Equal(["withdrawn"], States(await StateAsync(visitor, again)));
        Assert.Equal(1, await site.ScalarAsync<long>($"select count(*) from photo where id = '{both}' and binned is null"));
        Assert.Equal(1, await site.ScalarAsync<long>($"select count(*) from photo where id = '{here}' and binned is null"));
        Assert.Equal(1, await site.ScalarAsync<long>($"select count(*) from photo where id = '{became}' and binned is not null"));
        Assert.Equal(1, await site.ScalarAsync<long>($"select count(*) from bin where thing = '{became}' and binned_by = 'Silke'"));
        Assert.Contains("Silke took “s1.jpg” back; it is in the bin.", await owner.GetStringAsync("/api/acts"), StringComparison.Ordinal);
        Assert.Empty(await WaitingAsync(owner));
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"{sent}/photos/{photos[2]}/480.webp")).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await visitor.DeleteAsync($"{sent}/photos/{photos[1]}")).StatusCode);
    }

    [Fact]
    public async Task Letters_say_that_something_waits_where_one_sees_to_it_and_what_became_of_it()
    {
        await using var standin = await Standin.StartAsync(Path.GetTempPath());
        await using var site = await Site.StartAsync(mail: standin.MailPort);
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var path = await LinkAsync(owner);
        var (_, photos) = await SentAsync(visitor, path, email: "silke@example.test");
        await SentAsync(visitor, path, photos: 1, name: "Odd", seed: 560);
        const string to = "select count(*) from letter where to_address = '{0}'";
        await site.UntilAsync(string.Format(null, to, "odile@example.test"), 1);
        Assert.Equal("Trial: photographs of Silke", await site.ScalarAsync<string>("select subject from letter where to_address = 'odile@example.test'"));
        await site.UntilAsync(string.Format(null, to, "silke@example.test"), 1);
        await DecideAsync(owner, Id((await WaitingAsync(owner)).Single(c => c.GetProperty("name").GetString() == "Silke")), "refuse", photos, "Too dark.");
        await site.WriteAsync("update contribution_photo set decided = decided - interval '5 minutes' where decided is not null");
        await site.UntilAsync(string.Format(null, to, "silke@example.test"), 2);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from contribution where told is not null and name = 'Odd'"));
        Assert.Equal("Trial: your photographs", await site.ScalarAsync<string>("select subject from letter where to_address = 'silke@example.test' order by made desc limit 1"));
        // What was decided while no letter left is no news when the first does.
        await site.WriteAsync("update contribution set told = null, email = 'late@example.test'; update contribution_photo set decided = now() - interval '4 days', state = 'Refused'");
        Assert.False(await site.Part<Contributions.Admission>().TellAsync(default));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from letter where to_address = 'late@example.test'"));
    }

    static async Task<string> CategoryAsync(HttpClient owner, string name) => (await (await owner.PostAsJsonAsync("/api/categories", new { name })).ReadAsync()).GetProperty("id").GetString()!;
}
