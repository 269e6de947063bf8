using System.Net;
using System.Net.Http.Json;
using static Jovitar.Server.Tests.ContributionSteps;
using static Jovitar.Server.Tests.MemberSteps;

namespace Jovitar.Server.Tests;

/// <summary>Photos that visitors send in: they wait apart from everything, become photos when they are accepted, and stay their sender's.</summary>
public sealed class ContributionTests
{
    [Fact]
    public async Task What_is_sent_by_a_link_waits_apart_from_everything_and_is_a_photo_with_its_words_once_it_is_accepted()
    {
        await using var site = await Site.StartAsync();
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var album = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Regatta" })).ReadAsync()).GetProperty("id").GetString()!;
        var path = await LinkAsync(owner, album: album, agree: "I took these.", ends: DateTimeOffset.UtcNow.AddDays(3));
        var html = await visitor.GetStringAsync(path);
        Assert.Contains("From a boat, please.", html, StringComparison.Ordinal);
        Assert.Contains("Up to 20 photographs at once, until", html, StringComparison.Ordinal);

        var sent = await BeginAsync(visitor, path);
        var bytes = Acts.Photo(7);
        var first = Id(await (await AddAsync(visitor, sent, bytes, "../../boat 1.jpg")).ReadAsync());
        var second = Id(await (await AddAsync(visitor, sent, Acts.Photo(8), "boat 2.jpg")).ReadAsync());
        // The same bytes are one photo, however often they come.
        Assert.Equal(first, Id(await (await AddAsync(visitor, sent, bytes, "again.jpg")).ReadAsync()));
        (await visitor.PutAsJsonAsync($"{sent}/photos/{first}", new { title = " The\nstart ", caption = "Number 7 first.\r\n" })).EnsureSuccessStatusCode();
        (await visitor.PutAsJsonAsync($"{sent}/order", new { photos = new[] { second, first } })).EnsureSuccessStatusCode();

        // Before it is sent nobody else knows of it.
        Assert.Empty(await WaitingAsync(owner));
        var faulty = await SendAsync(visitor, sent, name: " ", email: "nowhere", agreed: false);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, faulty.StatusCode);
        Assert.Equal(["name", "email", "agreed"], System.Text.Json.JsonDocument.Parse(await faulty.Content.ReadAsStringAsync()).RootElement.GetProperty("fields").EnumerateObject().Select(f => f.Name));
        Assert.Equal(HttpStatusCode.NoContent, (await SendAsync(visitor, sent, words: "From the committee boat.")).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await SendAsync(visitor, sent)).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await AddAsync(visitor, sent, Acts.Photo(9))).StatusCode);

        var line = Assert.Single(await WaitingAsync(owner));
        Assert.Equal(("Silke", "Regatta", "Regatta", 2), (line.GetProperty("name").GetString(), line.GetProperty("link").GetString(), line.GetProperty("albumName").GetString(), line.GetProperty("waiting").GetInt32()));
        Assert.Equal(2, (await (await owner.GetAsync("/api/desk/figures")).ReadAsync()).GetProperty("contributed").GetInt32());
        var shown = await ShownAsync(owner, Id(line));
        Assert.Equal(("From the committee boat.", "I took these.", "boat 1.jpg"), (shown.GetProperty("words").GetString(), shown.GetProperty("agreed").GetString(), shown.GetProperty("photos")[1].GetProperty("fileName").GetString()));
        Assert.Equal([second, first], shown.GetProperty("photos").EnumerateArray().Select(Id));
        // Nothing of it is anywhere: no photo, no original, no rendition that the site would hand out.
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo"));
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "originals"), "*", SearchOption.AllDirectories));
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "renditions"), "*", SearchOption.AllDirectories));
        foreach (var width in (int[])[480, 1600])
        {
            Assert.Equal("image/webp", (await owner.GetAsync($"/api/contributions/photos/{first}/{width}")).Content.Headers.ContentType!.MediaType);
            var own = await visitor.GetAsync($"{sent}/photos/{first}/{width}.webp");
            Assert.Equal(("image/webp", "private, no-store"), (own.Content.Headers.ContentType!.MediaType, own.Headers.CacheControl!.ToString().Replace("no-store, private", "private, no-store", StringComparison.Ordinal)));
        }

        await site.VerifyAsync();
        Assert.Equal(2, await DecideAsync(owner, Id(line), "accept", [first, second, Guid.NewGuid().ToString()]));
        Assert.Equal(0, await DecideAsync(owner, Id(line), "accept", [first, second]));
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 2);
        Assert.Equal(
            "|The start/Number 7 first./Silke", await site.ScalarAsync<string>(
                $"select string_agg(case when p.title = '' then '' else p.title || '/' || p.caption || '/' || p.credit end, '|' order by ap.place) from album_photo as ap join photo as p on p.id = ap.photo where ap.album = '{album}'"));
        Assert.Equal(["accepted", "accepted"], States(await StateAsync(visitor, sent)));
        Assert.Equal("2 photographs are taken.", (await StateAsync(visitor, sent)).GetProperty("standing").GetString());
        Assert.Contains("Accepted 2 photos of Silke.", await owner.GetStringAsync("/api/acts"), StringComparison.Ordinal);
        Assert.Contains("Took in what Silke sent.", await owner.GetStringAsync("/api/acts"), StringComparison.Ordinal);
        // Its bytes lie once, and its sender still sees what they sent.
        Assert.DoesNotContain(Directory.GetFiles(Path.Combine(site.Data, "sent")), f => !f.EndsWith(".webp", StringComparison.Ordinal));
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync($"{sent}/photos/{first}/480.webp")).StatusCode);
        await site.UntilAsync("select count(*) from photo where stage = 2", 2);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task What_is_refused_its_sender_reads_why_and_it_can_be_accepted_after_all_as_long_as_its_bytes_are_kept()
    {
        await using var site = await Site.StartAsync();
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var (sent, photos) = await SentAsync(visitor, await LinkAsync(owner), photos: 3);
        var id = Id(Assert.Single(await WaitingAsync(owner)));
        Assert.Equal(2, await DecideAsync(owner, id, "refuse", photos[..2], " We have this view already. "));
        var state = await StateAsync(visitor, sent);
        Assert.Equal(["refused", "refused", "waiting"], States(state));
        Assert.Equal("We have this view already.", state.GetProperty("photos")[0].GetProperty("reason").GetString());
        Assert.Equal(HttpStatusCode.Conflict, (await visitor.PutAsJsonAsync($"{sent}/photos/{photos[0]}", new { title = "Please", caption = "" })).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await visitor.DeleteAsync($"{sent}/photos/{photos[0]}")).StatusCode);
        Assert.Equal(1, await DecideAsync(owner, id, "accept", [photos[0]]));
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 1);

        // A month later what was refused is gone, and what was begun and never sent, after a week.
        var draft = await BeginAsync(visitor, (await LinksAsync(owner))[0].GetProperty("path").GetString()!);
        await (await AddAsync(visitor, draft, Acts.Photo(70))).ReadAsync();
        await site.WriteAsync("update contribution_photo set decided = now() - interval '31 days' where state = 'Refused'; update contribution set begun = now() - interval '8 days' where sent is null");
        await site.Part<Contributions.Admission>().ForgetAsync(default);
        Assert.Equal(0, await DecideAsync(owner, id, "accept", [photos[1]]));
        Assert.False((await ShownAsync(owner, id)).GetProperty("photos")[1].GetProperty("hasPicture").GetBoolean());
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"{sent}/photos/{photos[1]}/480.webp")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"{draft}/state")).StatusCode);
        // What waits: its bytes and two pictures; what was accepted: two pictures.
        Assert.Equal(5, Directory.GetFiles(Path.Combine(site.Data, "sent")).Length);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task What_cannot_be_a_photo_is_refused_with_a_sentence_and_leaves_nothing()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var sent = await BeginAsync(visitor, await LinkAsync(owner));
        foreach (var (bytes, says) in ((byte[], string)[])[([], "empty"), ("no picture"u8.ToArray(), "not a picture"), (Acts.Photo(1)[..5000], "end"), ("<svg xmlns='http://www.w3.org/2000/svg'/>"u8.ToArray(), "picture")])
        {
            var answer = await AddAsync(visitor, sent, bytes);
            Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
            Assert.Contains(says, await answer.Content.ReadAsStringAsync(), StringComparison.OrdinalIgnoreCase);
        }

        Assert.Equal(HttpStatusCode.Conflict, (await SendAsync(visitor, sent)).StatusCode);
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "sent")));
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "arriving")));
        await site.WriteAsync("update site set max_bytes = 20000");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await AddAsync(visitor, sent, Acts.Photo(2))).StatusCode);
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "arriving")));
    }

    [Fact]
    public async Task By_a_link_that_ended_or_was_withdrawn_nothing_more_comes_and_what_was_sent_stays()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var path = await LinkAsync(owner);
        var (sent, _) = await SentAsync(visitor, path);
        var begun = await BeginAsync(visitor, path);
        await (await AddAsync(visitor, begun, Acts.Photo(3))).ReadAsync();
        await site.WriteAsync("update contribution_link set ends = now() - interval '1 second'");
        async Task IsShutAsync()
        {
            Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync(path)).StatusCode);
            Assert.Equal(HttpStatusCode.NotFound, (await visitor.PostAsync(path, null)).StatusCode);
            Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync(path)).StatusCode);
            Assert.Equal(HttpStatusCode.Conflict, (await AddAsync(visitor, begun, Acts.Photo(4))).StatusCode);
            Assert.Equal(HttpStatusCode.Conflict, (await SendAsync(visitor, begun)).StatusCode);
            Assert.Equal(["waiting", "waiting"], States(await StateAsync(visitor, sent)));
        }

        await IsShutAsync();
        // One that ended can be opened again; a stale wish is told so, and one that is withdrawn is gone.
        var line = (await LinksAsync(owner))[0];
        Assert.False(line.GetProperty("isOpen").GetBoolean());
        var wish = new { title = "Regatta", words = "", agree = "", album = (string?)null, ends = (DateTimeOffset?)null, forMembers = false, most = 5 };
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await owner.SendAsync(HttpMethod.Put, $"/api/contribution-links/{Id(line)}", wish, 7)).StatusCode);
        (await owner.SendAsync(HttpMethod.Put, $"/api/contribution-links/{Id(line)}", wish, 1)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync(path)).StatusCode);
        (await owner.DeleteAsync($"/api/contribution-links/{Id(line)}")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, (await owner.DeleteAsync($"/api/contribution-links/{Id(line)}")).StatusCode);
        await IsShutAsync();
        Assert.Empty(await LinksAsync(owner));
        Assert.Equal("Regatta", Assert.Single(await WaitingAsync(owner)).GetProperty("link").GetString());
        // None that never was, and nothing that is no secret.
        foreach (var other in (string[])["/send/" + new string('a', 43), "/send/x", "/send/%20"])
        {
            Assert.False((await visitor.GetAsync(other)).IsSuccessStatusCode);
        }
    }

    [Fact]
    public async Task However_many_come_at_once_no_more_are_taken_than_may_be()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var sent = await BeginAsync(visitor, await LinkAsync(owner, most: 3));
        var answers = await Task.WhenAll(Enumerable.Range(0, 8).Select(i => AddAsync(visitor, sent, Acts.Photo(20 + i, 300, 200))));
        Assert.Equal(3, answers.Count(a => a.IsSuccessStatusCode));
        Assert.All(answers.Where(a => !a.IsSuccessStatusCode), a => Assert.Equal(HttpStatusCode.Conflict, a.StatusCode));
        Assert.Contains("3 photos can be sent at once.", await answers.First(a => !a.IsSuccessStatusCode).Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(9, Directory.GetFiles(Path.Combine(site.Data, "sent")).Length);
        // It is sent once, and whoever presses twice is told.
        var sends = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => SendAsync(visitor, sent)));
        Assert.Single(sends, s => s.IsSuccessStatusCode);
        Assert.Equal(3, Assert.Single(await WaitingAsync(owner)).GetProperty("waiting").GetInt32());
        // So much waits that no more is taken, whoever sends.
        await site.WriteAsync("update contribution_photo set bytes = 8::bigint << 30");
        var more = await BeginAsync(site.Visitor(), (await LinksAsync(owner))[0].GetProperty("path").GetString()!);
        Assert.Contains("no more are taken for now", await (await AddAsync(visitor, more, Acts.Photo(40))).Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Of_one_who_decides_while_the_sender_takes_back_one_is_first()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var path = await LinkAsync(owner);
        for (var i = 0; i < 6; i++)
        {
            var (sent, photos) = await SentAsync(visitor, path, photos: 1, seed: 600 + i);
            var id = Id((await WaitingAsync(owner))[0]);
            var accept = DecideAsync(owner, id, "accept", photos);
            var back = visitor.DeleteAsync($"{sent}/photos/{photos[0]}");
            var (count, answer) = (await accept, (await back).StatusCode);
            // Taken back first, there is nothing to accept; accepted first, it is taken back all the same.
            Assert.Equal(HttpStatusCode.NoContent, answer);
            Assert.InRange(count, 0, 1);
            Assert.Equal(["withdrawn"], States(await StateAsync(visitor, sent)));
        }

        await site.UntilAsync("select count(*) from contribution_photo where state = 'Accepted'", 0);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo where binned is null"));
        Assert.DoesNotContain(Directory.GetFiles(Path.Combine(site.Data, "sent")), f => !f.EndsWith(".webp", StringComparison.Ordinal));
    }

    [Fact]
    public async Task What_was_accepted_comes_in_once_however_many_processes_there_are_and_after_one_of_them_is_gone()
    {
        await using var site = await Site.StartAsync();
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        site.Process(workers: 1);
        site.Process(workers: 1);
        var (_, photos) = await SentAsync(visitor, await LinkAsync(owner, most: 12), photos: 12);
        var id = Id(Assert.Single(await WaitingAsync(owner)));
        // In parts, by several at once, some of them named twice.
        var counts = await Task.WhenAll(photos.Chunk(4).Concat([photos[..6], photos]).Select(part => DecideAsync(owner, id, "accept", part)));
        Assert.Equal(12, counts.Sum());
        await site.UntilAsync("select count(*) from contribution_photo where is_in", 12);
        Assert.Equal(12, await site.ScalarAsync<long>("select count(*) from photo"));
        Assert.Equal(12, await site.ScalarAsync<long>("select count(*) from intake_file where outcome = 'arrived'"));
        // As if one had been killed after the photo was made and before its bytes here went: nothing comes twice, and they go.
        var left = Path.Combine(site.Data, "sent", Guid.Parse(photos[0]).ToString("N"));
        await File.WriteAllBytesAsync(left, Acts.Photo(500));
        File.SetLastWriteTimeUtc(left, DateTime.UtcNow.AddHours(-1));
        await site.Part<Contributions.SentFiles>().SweepAsync(default);
        Assert.False(File.Exists(left));
        await site.UntilAsync("select count(*) from photo where stage = 2", 12);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Bytes_that_are_gone_or_altered_are_found_and_whoever_sent_them_is_asked_for_them_again()
    {
        await using var site = await Site.StartAsync();
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var (sent, photos) = await SentAsync(visitor, await LinkAsync(owner), photos: 2);
        string PathOf(int photo) => Path.Combine(site.Data, "sent", Guid.Parse(photos[photo]).ToString("N"));
        File.Delete(PathOf(0));
        await File.AppendAllTextAsync(PathOf(1), "altered");
        await File.WriteAllTextAsync(Path.Combine(site.Data, "sent", $"{Guid.NewGuid():N}"), "nobody's");
        File.SetLastWriteTimeUtc(Directory.GetFiles(Path.Combine(site.Data, "sent")).First(f => File.ReadAllBytes(f).Length == 8), DateTime.UtcNow.AddHours(-1));
        await using var said = new StringWriter();
        Assert.False(await Verify.DataCheck.RunAsync(site.Data, site.Connection, said, CancellationToken.None));
        foreach (var trouble in (string[])["1 photos that were sent in are missing:", "1 photos that were sent in are not what came:", "1 files among what was sent in that no row speaks of:"])
        {
            Assert.Contains(trouble, said.ToString(), StringComparison.Ordinal);
        }

        await DecideAsync(owner, Id((await WaitingAsync(owner))[0]), "accept", photos[..1]);
        await site.UntilAsync("select count(*) from contribution_photo where state = 'Refused'", 1);
        Assert.Equal("Its file was lost here. Please send it again.", (await StateAsync(visitor, sent)).GetProperty("photos")[0].GetProperty("reason").GetString());
    }

    [Fact]
    public async Task On_a_closed_site_nothing_is_taken_and_whoever_is_seen_as_finds_what_they_would()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var path = await LinkAsync(owner, forMembers: true);
        // Staff try what they made, under their own name, and see to it.
        var (sent, _) = await SentAsync(owner, path, photos: 1);
        Assert.True((await StateAsync(owner, sent)).GetProperty("isKnown").GetBoolean());
        Assert.Equal("Odile", Assert.Single(await WaitingAsync(owner)).GetProperty("name").GetString());
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"{sent}/state")).StatusCode);
        // Seen as anybody, a link for members asks to sign in; nothing is begun meanwhile.
        await owner.PostAsync("/site/as", new FormUrlEncodedContent(new Dictionary<string, string> { ["as"] = "anybody" }));
        Assert.Equal(HttpStatusCode.Forbidden, (await owner.GetAsync(path)).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await owner.PostAsync(path, null)).StatusCode);

        var open = await LinkAsync(owner, "For all");
        var begun = await BeginAsync(visitor, open);
        await site.WriteAsync("update site set is_open = false");
        // That it is closed was written past the server, which asks again in a moment.
        for (var end = DateTime.UtcNow.AddSeconds(60); (await visitor.GetAsync(open)).StatusCode != HttpStatusCode.ServiceUnavailable;)
        {
            Assert.True(DateTime.UtcNow < end, "the closed site stayed open");
        }

        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await AddAsync(visitor, begun, Acts.Photo(1))).StatusCode);
        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await SendAsync(visitor, begun)).StatusCode);
    }
}
