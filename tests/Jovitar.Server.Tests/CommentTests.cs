using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using Jovitar.Core.Comments;
using Jovitar.Server.Comments;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What visitors say about photos: at the photos' own pages, once staff have read it.</summary>
public sealed class CommentTests
{
    static Task<HttpResponseMessage> SayAsync(HttpClient visitor, string photo, string words, string name = "Ines", string trap = "") =>
        visitor.PostAsync($"/night/photo/{photo}", new FormUrlEncodedContent(new Dictionary<string, string> { ["name"] = name, ["words"] = words, ["about"] = trap }));

    static async Task<JsonElement> ListAsync(HttpClient staff, string state = "waiting") => await (await staff.GetAsync($"/api/comments?state={state}")).ReadAsync();

    static string[] WordsOf(JsonElement list) => [.. list.GetProperty("comments").EnumerateArray().Select(c => c.GetProperty("words").GetString()!)];

    static string[] IdsOf(JsonElement list) => [.. list.GetProperty("comments").EnumerateArray().Select(c => c.GetProperty("id").GetString()!)];

    static async Task<JsonElement> DecideAsync(HttpClient staff, bool shown, params string[] comments) =>
        await (await staff.PostAsJsonAsync("/api/comments/decide", new { comments, shown })).ReadAsync();

    static string[] SaidOn(string html) => [.. Regex.Matches(html, "<p class=\"said\">(.*?)</p>", RegexOptions.Singleline).Select(m => WebUtility.HtmlDecode(m.Groups[1].Value))];

    /// <summary>A site with a page of one album, whose photos may be talked of.</summary>
    static async Task<(Site Site, HttpClient Owner, HttpClient Visitor, string[] Photos, string Album)> NightAsync(int photos, bool comments = true, bool ratings = false)
    {
        var (site, owner, visitor, p) = await StartAsync(photos);
        var album = await MakeAsync(owner, "Night", p);
        await (await StandAsync(owner, album, comments: comments, ratings: ratings)).ReadAsync();
        await owner.ShownAsync(null, "night", Drafts.Page("Night", Drafts.Photos(album)));
        return (site, owner, visitor, p, album);
    }

    [Fact]
    public async Task What_is_said_may_be_for_those_alone_whom_the_site_knows()
    {
        var (site, owner, visitor, p, album) = await NightAsync(2, ratings: true);
        await using var _ = site;
        var member = await MemberSteps.MemberAsync(site, owner, "Ada");
        await (await StandAsync(owner, album, talkKnown: true)).ReadAsync();
        Assert.Contains("Let visitors who came by an entry link or signed in comment on and rate the photos of “Night”.", await owner.GetStringAsync("/api/acts"), StringComparison.Ordinal);
        // Whoever asks first: others have neither its sign nor its place, and no form of their own takes anything.
        foreach (var (browser, may) in ((HttpClient, bool)[])[(visitor, false), (member, true), (visitor, false), (site.Visitor(), false), (member, true)])
        {
            Assert.Equal(may, (await browser.GetStringAsync("/night")).Contains("data-talk=\"comments\"", StringComparison.Ordinal));
            Assert.Equal(may, (await browser.GetStringAsync($"/night/photo/{p[0]}")).Contains("id=\"talk\"", StringComparison.Ordinal));
        }

        Assert.Equal(HttpStatusCode.NotFound, (await SayAsync(visitor, p[0], "From outside")).StatusCode);
        Assert.Equal(HttpStatusCode.SeeOther, (await SayAsync(member, p[0], "From within")).StatusCode);
        Assert.Equal(["From within"], WordsOf(await ListAsync(owner)));
        // An album that lets everyone, in which it is as well, lets everyone.
        await (await StandAsync(owner, await MakeAsync(owner, "Open", p[..1]), comments: true)).ReadAsync();
        Assert.Equal(HttpStatusCode.SeeOther, (await SayAsync(visitor, p[0], "From outside")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await SayAsync(visitor, p[1], "From outside")).StatusCode);
    }

    [Fact]
    public async Task A_comment_waits_until_it_is_shown_and_what_was_decided_is_taken_back()
    {
        var (site, owner, visitor, p, album) = await NightAsync(2);
        await using var _ = site;
        var own = $"/night/photo/{p[0]}";
        var before = await visitor.GetAsync(own);
        Assert.Contains("<h2>Comments</h2>", await before.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        using var sent = await SayAsync(visitor, p[0], "Four seconds,\r\n<b>and</b> a steady wrist.");
        Assert.Equal((HttpStatusCode.SeeOther, $"{own}?sent=1#talk"), (sent.StatusCode, sent.Headers.Location!.OriginalString));
        var thanks = await visitor.GetStringAsync($"{own}?sent=1");
        Assert.Contains("Others read your comment once somebody of", thanks, StringComparison.Ordinal);
        Assert.Empty(SaidOn(thanks));

        // Staff find it, with the photo that it is about; the desk says that one waits.
        var waiting = await ListAsync(owner);
        Assert.Equal(["Four seconds,\n<b>and</b> a steady wrist."], WordsOf(waiting));
        Assert.Equal(p[0], waiting.GetProperty("comments")[0].GetProperty("photo").GetString());
        Assert.Equal(1, (await (await owner.GetAsync("/api/desk/figures")).ReadAsync()).GetProperty("commentsWaiting").GetInt32());
        Assert.Equal(HttpStatusCode.Unauthorized, (await visitor.GetAsync("/api/comments")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.GetAsync("/api/comments?state=1")).StatusCode);

        var shown = await DecideAsync(owner, true, IdsOf(waiting));
        var html = await visitor.GetStringAsync(own);
        Assert.Equal(["Four seconds,\n<b>and</b> a steady wrist."], SaidOn(html));
        Assert.DoesNotContain("<b>and</b>", html, StringComparison.Ordinal);
        Assert.Empty(SaidOn(await visitor.GetStringAsync($"/night/photo/{p[1]}")));
        // The tag that was right before is not any more.
        using var again = new HttpRequestMessage(HttpMethod.Get, own);
        again.Headers.IfNoneMatch.Add(before.Headers.ETag!);
        Assert.Equal(HttpStatusCode.OK, (await visitor.SendAsync(again)).StatusCode);

        (await owner.PostAsync($"/api/acts/{shown.GetProperty("act").GetString()}/undo", null)).EnsureSuccessStatusCode();
        Assert.Empty(SaidOn(await visitor.GetStringAsync(own)));
        Assert.Single(IdsOf(await ListAsync(owner)));
        // Decided twice by two people is decided once.
        await DecideAsync(owner, true, IdsOf(waiting));
        Assert.Equal(JsonValueKind.Null, (await DecideAsync(owner, true, IdsOf(waiting))).GetProperty("act").ValueKind);

        // Where nobody comments any more nothing of it is seen, and it is there when they do again.
        await (await StandAsync(owner, album, comments: false)).ReadAsync();
        Assert.DoesNotContain("id=\"talk\"", await visitor.GetStringAsync(own), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await SayAsync(visitor, p[0], "Too late")).StatusCode);
        await (await StandAsync(owner, album, comments: true)).ReadAsync();
        Assert.Single(SaidOn(await visitor.GetStringAsync(own)));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task What_is_wrong_with_a_comment_is_said_where_it_was_written_and_nothing_is_lost()
    {
        var (site, owner, visitor, p, _) = await NightAsync(1);
        await using var __ = site;
        using var nameless = await SayAsync(visitor, p[0], "A \"fine\" <kite>", name: " ");
        var html = await nameless.Content.ReadAsStringAsync();
        Assert.Equal(HttpStatusCode.UnprocessableEntity, nameless.StatusCode);
        Assert.Contains("Say who you are.", html, StringComparison.Ordinal);
        Assert.Contains("A &quot;fine&quot; &lt;kite&gt;</textarea>", html, StringComparison.Ordinal);
        using var tooLong = await SayAsync(visitor, p[0], new string('x', Comment.LongestWords + 1));
        Assert.Contains("This may have 2,000 characters.", await tooLong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        // A program that fills in everything is thanked, too.
        using var program = await SayAsync(visitor, p[0], "Cheap kites", trap: "https://kites.example");
        Assert.Equal(HttpStatusCode.SeeOther, program.StatusCode);
        foreach (var (body, status) in ((HttpContent, HttpStatusCode)[])
            [(JsonContent.Create(new { name = "Ines", words = "x" }), HttpStatusCode.BadRequest), (new FormUrlEncodedContent([new("words", "x")]), HttpStatusCode.UnprocessableEntity), (new FormUrlEncodedContent([new("words", new string('x', 40_000))]), HttpStatusCode.BadRequest),
             (new FormUrlEncodedContent(Enumerable.Range(0, 40).Select(i => new KeyValuePair<string, string>($"f{i}", "x"))), HttpStatusCode.BadRequest)])
        {
            using var answer = await visitor.PostAsync($"/night/photo/{p[0]}", body);
            Assert.Equal(status, answer.StatusCode);
            Assert.Equal(status == HttpStatusCode.BadRequest, (await answer.Content.ReadAsStringAsync()).Contains("This could not be read. Write it here, and send it again.", StringComparison.Ordinal));
        }

        // Nor does another website say anything in the name of who visits it.
        visitor.DefaultRequestHeaders.Add("Sec-Fetch-Site", "cross-site");
        Assert.Equal(HttpStatusCode.BadRequest, (await SayAsync(visitor, p[0], "Said by another website")).StatusCode);
        visitor.DefaultRequestHeaders.Remove("Sec-Fetch-Site");
        Assert.Empty(IdsOf(await ListAsync(owner)));
        Assert.Equal(HttpStatusCode.NotFound, (await SayAsync(visitor, $"{Guid.NewGuid()}", "Nowhere")).StatusCode);
    }

    [Fact]
    public async Task More_than_one_person_writes_in_a_minute_is_put_off_and_at_the_same_moment_too()
    {
        var (site, owner, visitor, p, _) = await NightAsync(1);
        await using var __ = site;
        var answers = await Task.WhenAll(Enumerable.Range(0, 20).Select(i => SayAsync(visitor, p[0], $"Comment {i}")));
        Assert.Equal(TalkStore.CommentsAMinute, answers.Count(a => a.StatusCode == HttpStatusCode.SeeOther));
        var put = answers.First(a => a.StatusCode == HttpStatusCode.TooManyRequests);
        Assert.Contains("Wait a minute, then send it again.", await put.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(TalkStore.CommentsAMinute, IdsOf(await ListAsync(owner)).Length);
        // Of what waits there is an end, whoever sends it.
        await site.WriteAsync($"insert into comment (id, photo, name, words, said) select gen_random_uuid(), '{p[0]}', 'x', 'x', now() from generate_series(1, {TalkStore.MostWaiting}); update try_count set since = since - interval '61 seconds'");
        using var full = await SayAsync(visitor, p[0], "One more");
        Assert.Equal(HttpStatusCode.ServiceUnavailable, full.StatusCode);
        Assert.Contains("One more</textarea>", await full.Content.ReadAsStringAsync(), StringComparison.Ordinal);

        // They are read in parts, the oldest first, each once.
        var (seen, behind) = (new List<string>(), "");
        for (var list = await ListAsync(owner); ; list = await ListAsync(owner, $"waiting{behind}"))
        {
            seen.AddRange(IdsOf(list));
            if (!list.GetProperty("further").GetBoolean())
            {
                break;
            }

            behind = $"&behind={seen[^1]}";
        }

        Assert.Equal(TalkStore.CommentsAMinute + TalkStore.MostWaiting, seen.Distinct().Count());
        Assert.Equal(seen.Count, seen.Distinct().Count());
    }

    [Fact]
    public async Task What_is_refused_is_read_by_staff_alone_until_the_owner_removes_it()
    {
        var (site, owner, visitor, p, _) = await NightAsync(1);
        await using var __ = site;
        foreach (var words in (string[])["First", "Second", "Third"])
        {
            await SayAsync(visitor, p[0], words);
        }

        var ids = IdsOf(await ListAsync(owner));
        var editor = await site.EditorAsync("Corentin");
        await DecideAsync(editor, false, ids[..2]);
        Assert.Equal(["Second", "First"], WordsOf(await ListAsync(owner, "refused")));
        // Shown after all.
        await DecideAsync(editor, true, ids[1]);
        Assert.Equal(["Second"], SaidOn(await visitor.GetStringAsync($"/night/photo/{p[0]}")));
        Assert.Equal(HttpStatusCode.Forbidden, (await editor.PostAsync("/api/comments/remove", null)).StatusCode);
        (await owner.PostAsync("/api/comments/remove", null)).EnsureSuccessStatusCode();
        Assert.Equal(2, await site.ScalarAsync<long>("select count(*) from comment"));
        Assert.Contains("Removed a refused comment for good.", await owner.GetStringAsync("/api/acts"), StringComparison.Ordinal);
        // What was refused of a photo in the bin waits for the photo; what waits there takes nobody's place.
        await DecideAsync(editor, false, ids[2]);
        await SayAsync(visitor, p[0], "Fourth");
        (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[0] } })).EnsureSuccessStatusCode();
        (await owner.PostAsync("/api/comments/remove", null)).EnsureSuccessStatusCode();
        Assert.Equal(3, await site.ScalarAsync<long>("select count(*) from comment"));
        var binned = await ListAsync(owner, "refused");
        Assert.Equal((0L, 0L, 0L, 0), (binned.GetProperty("waiting").GetInt64(), binned.GetProperty("shown").GetInt64(), binned.GetProperty("refused").GetInt64(), IdsOf(binned).Length));
        Assert.Equal(0, (await (await owner.GetAsync("/api/desk/figures")).ReadAsync()).GetProperty("commentsWaiting").GetInt32());
        // A photo that is gone takes along what was said about it.
        await owner.EmptyBinAsync();
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from comment"));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_visitor_rates_a_photo_once_and_nobody_learns_who()
    {
        var (site, owner, visitor, p, album) = await NightAsync(2, comments: false, ratings: true);
        await using var __ = site;
        Task<HttpResponseMessage> RateAsync(string photo, string who, int? value) => visitor.PostAsJsonAsync($"/site/rate/{photo}", new { visitor = who.PadRight(22, 'x'), value });
        async Task<string?> LineAsync(string photo, string who, int? value) => (await (await RateAsync(photo, who, value)).ReadAsync()).GetProperty("line").GetString();

        Assert.Equal("5.0 of 5, from 1 visitor", await LineAsync(p[0], "a", 5));
        Assert.Equal("4.0 of 5, from 2 visitors", await LineAsync(p[0], "b", 3));
        // Another mind in place of the one before.
        Assert.Equal("3.0 of 5, from 2 visitors", await LineAsync(p[0], "a", 3));
        Assert.Equal("3.0 of 5, from 1 visitor", await LineAsync(p[0], "a", null));
        Assert.Equal("", await LineAsync(p[0], "b", null));
        await Task.WhenAll(Enumerable.Range(0, 30).Select(i => RateAsync(p[0], $"{i % 3}", 1 + (i % 5))));
        Assert.Equal(3, await site.ScalarAsync<long>("select count(*) from visitor_rating"));
        await LineAsync(p[1], "a", 4);
        await LineAsync(p[0], "a", 4);
        // The same visitor is another at another photo.
        Assert.Equal(5, await site.ScalarAsync<long>("select count(distinct visitor) from visitor_rating"));
        Assert.Contains("of 5, from 4 visitors", await visitor.GetStringAsync($"/night/photo/{p[0]}"), StringComparison.Ordinal);
        Assert.DoesNotContain("<form", await visitor.GetStringAsync($"/night/photo/{p[0]}"), StringComparison.Ordinal);
        Assert.Contains("data-talk=\"ratings\"", await visitor.GetStringAsync("/night"), StringComparison.Ordinal);

        // On the plate, too.
        Assert.Contains("of 5, from 4 visitors", (await (await owner.GetAsync($"/api/photos/{p[0]}")).ReadAsync()).GetProperty("rated").GetString(), StringComparison.Ordinal);

        foreach (var (who, value) in ((string, int?)[])[("a", 0), ("a", 6), ("", 3), (new string('x', 23), 3)])
        {
            using var wrong = await visitor.PostAsJsonAsync($"/site/rate/{p[0]}", new { visitor = who.Length == 1 ? who.PadRight(22, 'x') : who, value });
            Assert.Equal(HttpStatusCode.BadRequest, wrong.StatusCode);
        }

        await site.WriteAsync($"update try_count set tries = {TalkStore.RatingsAMinute}");
        Assert.Equal(HttpStatusCode.TooManyRequests, (await RateAsync(p[0], "a", 3)).StatusCode);
        await site.WriteAsync("delete from try_count");
        // It is offered by an album that is in view; of two that hold the photo one is enough.
        var other = await MakeAsync(owner, "Other", p);
        await (await StandAsync(owner, album, ratings: false)).ReadAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await RateAsync(p[0], "a", 3)).StatusCode);
        await (await StandAsync(owner, other, ratings: true)).ReadAsync();
        Assert.Equal(HttpStatusCode.OK, (await RateAsync(p[0], "a", 3)).StatusCode);
        await (await StandAsync(owner, other, shown: false)).ReadAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await RateAsync(p[0], "a", 3)).StatusCode);
    }
}
