using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Albums that fill themselves by a rule, and albums kept in an order.</summary>
public sealed class FillingTests
{
    static async Task<JsonElement> AlbumAsync(HttpClient who, string album) => await (await who.GetAsync($"/api/albums/{album}")).ReadAsync();

    static async Task<HttpResponseMessage> FillAsync(HttpClient who, string album, string? search, string sort = "taken", int most = 500, bool reversed = false) =>
        await who.SendAsync(HttpMethod.Put, $"/api/albums/{album}/filling", new { search, most, sort, reversed }, (await AlbumAsync(who, album)).GetProperty("version").GetInt64());

    static async Task<string> MakeAsync(HttpClient who, string name, object? filling = null) =>
        (await (await who.PostAsJsonAsync("/api/albums", new { workingName = name, filling })).ReadAsync()).GetProperty("id").GetString()!;

    static Task<HttpResponseMessage> TagAsync(HttpClient who, IEnumerable<string> photos, string? add, Guid? remove = null) =>
        who.PostAsJsonAsync("/api/photos/tags", new { photos, add = add is null ? Array.Empty<string>() : [add], remove = remove is { } tag ? new[] { tag } : [] });

    /// <summary>What stands in an album, in its order.</summary>
    static Task<string[]> HoldsAsync(Site site, string album) =>
        site.ScalarAsync<string[]>($"select coalesce(array_agg(photo::text order by place, photo), '{{}}') from album_photo where album = '{album}'");

    /// <summary>Waits until an album holds this.</summary>
    static async Task BecomesAsync(Site site, string album, params string[] wanted)
    {
        var holds = await HoldsAsync(site, album);
        for (var end = DateTime.UtcNow.AddSeconds(20); !holds.SequenceEqual(wanted) && DateTime.UtcNow < end; holds = await HoldsAsync(site, album))
        {
            await Task.Delay(50);
        }

        Assert.Equal(wanted, holds);
    }

    static async Task<(Site Site, HttpClient Owner, string[] Photos)> StartAsync(int count)
    {
        var (site, owner, _, photos) = await StandingSteps.StartAsync(count);
        return (site, owner, photos);
    }

    [Fact]
    public async Task An_album_takes_up_what_its_rule_finds_lets_go_what_it_finds_no_more_and_goes_by_its_largest_number()
    {
        var (site, owner, p) = await StartAsync(5);
        await using var _ = site;
        await (await TagAsync(owner, p[..2], "Kites")).ReadAsync();
        var id = await site.ScalarAsync<Guid>("select id from tag");
        var album = await MakeAsync(owner, "Kites", new { search = $"tag={id}&sort=name&nonsense=1", most = 3, sort = "arrived", reversed = false });
        // The newest first; what is in the act of the album's making goes with it.
        await BecomesAsync(site, album, p[1], p[0]);
        Assert.Equal($"tag={id}", (await AlbumAsync(owner, album)).GetProperty("filling").GetProperty("search").GetString());
        await (await TagAsync(owner, p[2..], "Kites")).ReadAsync();
        await BecomesAsync(site, album, p[4], p[3], p[2]);
        // What goes makes room for the next.
        await (await TagAsync(owner, [p[3]], null, id)).ReadAsync();
        await BecomesAsync(site, album, p[4], p[2], p[1]);
        var binned = await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[4] } })).ReadAsync();
        await BecomesAsync(site, album, p[2], p[1], p[0]);
        await owner.UndoAsync(binned);
        await BecomesAsync(site, album, p[4], p[2], p[1]);
        // None of that stands in the history of its own: it is part of what was said of the album.
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from act where kind = 'Filled' and within is null"));
        Assert.Equal("2 photos came into “Kites” by its rule.", await site.ScalarAsync<string>("select sentence from act where kind = 'Filled' order by id limit 1"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from act where kind = 'Filled' and who <> 'Albums'"));
        // Another rule, another order.
        await (await FillAsync(owner, album, "", "name")).ReadAsync();
        await BecomesAsync(site, album, p);
        await (await FillAsync(owner, album, "", "name", reversed: true, most: 2)).ReadAsync();
        await BecomesAsync(site, album, p[4], p[3]);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Photos_are_held_out_let_in_and_put_in_by_hand_and_each_is_taken_back()
    {
        var (site, owner, p) = await StartAsync(5);
        await using var _ = site;
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p[..4], decision = "keep" })).ReadAsync();
        var album = await MakeAsync(owner, "Kept", new { search = "decision=keep", most = 3, sort = "name" });
        await BecomesAsync(site, album, p[..3]);
        var held = await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos/removal", new { photos = new[] { p[1] } })).ReadAsync();
        await BecomesAsync(site, album, p[0], p[2], p[3]);
        Assert.Equal(1, (await AlbumAsync(owner, album)).GetProperty("without").GetInt32());
        Assert.Equal(p[1], (await (await owner.GetAsync($"/api/albums/{album}/photos/without")).ReadAsync()).GetProperty("photos")[0].GetProperty("id").GetString());
        await owner.UndoAsync(held);
        await BecomesAsync(site, album, p[..3]);
        await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos/removal", new { photos = new[] { p[1] } })).ReadAsync();
        var letIn = await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos/without/removal", new { photos = new[] { p[1] } })).ReadAsync();
        await BecomesAsync(site, album, p[..3]);
        await owner.UndoAsync(letIn);
        await BecomesAsync(site, album, p[0], p[2], p[3]);
        // Put in by hand it comes on top, in its place, whatever the rule says; and lets in what was held out.
        await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos", new { photos = new[] { p[4], p[1] } })).ReadAsync();
        await BecomesAsync(site, album, p);
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p, decision = "" })).ReadAsync();
        await BecomesAsync(site, album, p[1], p[4]);
        // Nobody moves by hand what is kept in an order.
        var version = (await AlbumAsync(owner, album)).GetProperty("version").GetInt64();
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{album}/order", new { photos = new[] { p[4] }, position = 0 }, version)).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.SendAsync(HttpMethod.Post, $"/api/albums/{album}/order", new { how = "reversed" }, version)).StatusCode);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Made_hand_picked_it_keeps_what_it_holds_and_undo_has_it_fill_itself_again()
    {
        var (site, owner, p) = await StartAsync(4);
        await using var _ = site;
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p[..3], decision = "keep" })).ReadAsync();
        var album = await MakeAsync(owner, "Kept", new { search = "decision=keep", most = 100, sort = "name" });
        await BecomesAsync(site, album, p[..3]);
        await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos/removal", new { photos = new[] { p[0] } })).ReadAsync();
        await BecomesAsync(site, album, p[1], p[2]);
        var picked = await (await FillAsync(owner, album, null, "place")).ReadAsync();
        Assert.Equal("Made album “Kept” hand-picked.", await site.ScalarAsync<string>("select sentence from act where within is null order by id desc limit 1"));
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = p, decision = "" })).ReadAsync();
        var version = (await AlbumAsync(owner, album)).GetProperty("version").GetInt64();
        var turned = await (await owner.SendAsync(HttpMethod.Post, $"/api/albums/{album}/order", new { how = "reversed" }, version)).ReadAsync();
        await BecomesAsync(site, album, p[2], p[1]);
        Assert.Equal(0, (await AlbumAsync(owner, album)).GetProperty("without").GetInt32());
        await owner.UndoAsync(turned);
        await BecomesAsync(site, album, p[1], p[2]);
        // Its rule finds what it finds now; what was held out is held out again.
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = new[] { p[0], p[3] }, decision = "keep" })).ReadAsync();
        await owner.UndoAsync(picked);
        await BecomesAsync(site, album, p[3]);
        Assert.Equal(1, (await AlbumAsync(owner, album)).GetProperty("without").GetInt32());
    }

    [Fact]
    public async Task A_hand_picked_album_is_kept_in_an_order_until_it_is_made_by_hand_again()
    {
        var (site, owner, p) = await StartAsync(4);
        await using var _ = site;
        var album = await MakeAsync(owner, "Programme");
        await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos", new { photos = new[] { p[2], p[0], p[1] } })).ReadAsync();
        await BecomesAsync(site, album, p[2], p[0], p[1]);
        await (await FillAsync(owner, album, null, "title")).ReadAsync();
        async Task TitleAsync(string photo, string title) => await (await owner.SendAsync(
            HttpMethod.Patch, $"/api/photos/{photo}", new { title }, (await (await owner.GetAsync($"/api/photos/{photo}")).ReadAsync()).GetProperty("version").GetInt64())).ReadAsync();
        await TitleAsync(p[1], "Anchors");
        await TitleAsync(p[2], "Boats");
        await BecomesAsync(site, album, p[1], p[2], p[0]);
        await TitleAsync(p[1], "Zephyr");
        await BecomesAsync(site, album, p[2], p[1], p[0]);
        await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos", new { photos = new[] { p[3] } })).ReadAsync();
        await TitleAsync(p[3], "Cranes");
        await BecomesAsync(site, album, p[2], p[3], p[1], p[0]);
        await (await FillAsync(owner, album, null, "place")).ReadAsync();
        await TitleAsync(p[3], "Aaa");
        var version = (await AlbumAsync(owner, album)).GetProperty("version").GetInt64();
        await (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{album}/order", new { photos = new[] { p[0] }, position = 0 }, version)).ReadAsync();
        await BecomesAsync(site, album, p[0], p[2], p[3], p[1]);
        // Kept in an order by mistake and taken back, it stands as it was made by hand; what came meanwhile stands behind.
        var kept = await (await FillAsync(owner, album, null, "name", reversed: true)).ReadAsync();
        await BecomesAsync(site, album, p[3], p[2], p[1], p[0]);
        await owner.UndoAsync(kept);
        await BecomesAsync(site, album, p[0], p[2], p[3], p[1]);
        var ruled = await (await FillAsync(owner, album, "", "name")).ReadAsync();
        await BecomesAsync(site, album, p);
        var more = (await owner.BringAsync(await owner.IntakeAsync(), "p9.jpg", Acts.Photo(9, 90, 60))).GetProperty("photo").GetString()!;
        await BecomesAsync(site, album, [.. p, more]);
        await owner.UndoAsync(ruled);
        await BecomesAsync(site, album, p[0], p[2], p[3], p[1]);
        version = (await AlbumAsync(owner, album)).GetProperty("version").GetInt64() - 1;
        // Shuffled it holds the same, once.
        var shuffled = await (await owner.SendAsync(HttpMethod.Post, $"/api/albums/{album}/order", new { how = "shuffled" }, version + 1)).ReadAsync();
        Assert.Equal(p.Order(), (await HoldsAsync(site, album)).Order());
        await owner.UndoAsync(shuffled);
        await BecomesAsync(site, album, p[0], p[2], p[3], p[1]);
    }

    [Fact]
    public async Task Photos_that_go_into_the_bin_while_their_album_is_put_in_order_stay_out_of_it()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var club = await Club.GatherAsync(site, 71);
        var dice = new Random(71);
        var (byHand, sorted) = (await MakeAsync(club.Anyone, "By hand"), await MakeAsync(club.Anyone, "Sorted"));
        foreach (var album in (string[])[byHand, sorted])
        {
            await (await club.Anyone.PostAsJsonAsync($"/api/albums/{album}/photos", new { photos = club.Photos })).ReadAsync();
        }

        for (var round = 0; round < 12; round++)
        {
            var some = club.Photos.Where(_ => dice.Next(2) == 0).Append(club.Photos[round % 9]).Distinct().ToArray();
            var version = (await AlbumAsync(club.Anyone, byHand)).GetProperty("version").GetInt64();
            var binning = club.Anyone.PostAsJsonAsync("/api/bin", new { photos = some });
            await Task.WhenAll(
                club.Anyone.SendAsync(HttpMethod.Post, $"/api/albums/{byHand}/order", new { how = "shuffled" }, version), FillAsync(club.Anyone, sorted, null, "name", reversed: round % 2 == 0), binning);
            await club.Anyone.SendAsync(HttpMethod.Post, $"/api/albums/{byHand}/order", new { how = "reversed" }, version + 1);
            Assert.Null(await club.FaultsAsync());
            await club.Anyone.UndoAsync(await (await binning).ReadAsync());
            Assert.Null(await club.FaultsAsync());
            Assert.Equal(9, (await HoldsAsync(site, byHand)).Length);
        }
    }

    [Fact]
    public async Task What_would_never_come_to_rest_is_refused_in_a_sentence()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var (picked, one, two) = (await MakeAsync(owner, "Picked"), await MakeAsync(owner, "One"), await MakeAsync(owner, "Two"));
        async Task RefusedAsync(Task<HttpResponseMessage> asked, string sentence)
        {
            var answer = await asked;
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            Assert.Equal(sentence, JsonDocument.Parse(await answer.Content.ReadAsStringAsync()).RootElement.GetProperty("title").GetString());
        }

        await RefusedAsync(FillAsync(owner, one, "album=none"), "An album cannot fill itself with photos that are in no album: once in it, they are not found any more.");
        await RefusedAsync(FillAsync(owner, one, $"notAlbum={one}"), "An album cannot be filled from itself.");
        await (await FillAsync(owner, one, $"notAlbum={picked},{two}")).ReadAsync();
        await RefusedAsync(FillAsync(owner, two, "decision=keep"), "“One” is filled from this album, so this one cannot fill itself.");
        await RefusedAsync(FillAsync(owner, picked, ""), "“One” is filled from this album, so this one cannot fill itself.");
        await RefusedAsync(owner.PostAsJsonAsync("/api/albums", new { workingName = "Three", filling = new { search = $"album={one}", most = 5, sort = "taken" } }), "“One” fills itself, so no other album can be filled from it.");
        Assert.Equal(3, await site.ScalarAsync<long>("select count(*) from album"));
        await RefusedAsync(FillAsync(owner, one, "q=%00"), "What is to fill the album cannot be read.");
        foreach (var body in (object[])[new { search = "", most = 0, sort = "taken" }, new { search = "", most = 50_001, sort = "taken" }, new { search = "", most = 5, sort = "weight" }, new { search = new string('q', 4001), most = 5, sort = "name" }])
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{one}/filling", body, 2)).StatusCode);
        }

        Assert.Equal(HttpStatusCode.PreconditionFailed, (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{one}/filling", new { search = "", most = 5, sort = "taken" }, 1)).StatusCode);

        // Two at once, each from the other's album: one of them is told.
        var (a, b) = (await MakeAsync(owner, "A"), await MakeAsync(owner, "B"));
        var both = await Task.WhenAll(FillAsync(owner, a, $"notAlbum={b}"), FillAsync(owner, b, $"notAlbum={a}"));
        Assert.Equal([HttpStatusCode.OK, HttpStatusCode.BadRequest], both.Select(r => r.StatusCode).Order());
    }

    [Fact]
    public async Task Visitors_see_what_came_by_the_rule_and_no_more_what_left()
    {
        var (site, owner, p) = await StartAsync(3);
        await using var _ = site;
        await (await TagAsync(owner, p[..1], "Shown")).ReadAsync();
        var id = await site.ScalarAsync<Guid>("select id from tag");
        var album = await MakeAsync(owner, "Shown", new { search = $"tag={id}", most = 10, sort = "name" });
        await BecomesAsync(site, album, p[0]);
        var page = await (await owner.PostAsJsonAsync("/api/pages", new { album })).ReadAsync();
        await (await owner.PublishAsync(page.GetProperty("id").GetString()!)).ReadAsync();
        using var visitor = site.Visitor();
        var address = $"/{page.GetProperty("address").GetString()}";
        async Task<(string? Tag, int Photos)> SeenAsync()
        {
            var seen = await visitor.GetAsync(address);
            return (seen.Headers.ETag?.Tag, p.Count((await seen.EnsureSuccessStatusCode().Content.ReadAsStringAsync()).Contains));
        }

        var before = await SeenAsync();
        Assert.Equal(1, before.Photos);
        await (await TagAsync(owner, p[1..], "Shown")).ReadAsync();
        await BecomesAsync(site, album, p);
        var after = await SeenAsync();
        Assert.Equal(3, after.Photos);
        Assert.NotEqual(before.Tag, after.Tag);
        await (await TagAsync(owner, p[..2], null, id)).ReadAsync();
        await BecomesAsync(site, album, p[2]);
        Assert.Equal(1, (await SeenAsync()).Photos);
    }

    /// <summary>What an album should hold, from the tables alone.</summary>
    static string Naive(string album, string fits, string sort, string way, int most) =>
        $"""
        with found as (
          select p.id from photo as p
           where p.binned is null and ({fits}) and not exists (select from album_without as o where o.album = '{album}' and o.photo = p.id)
             and not exists (select from album_photo as ap where ap.album = '{album}' and ap.photo = p.id and ap.said_by <> 'rule')
           order by {sort} {way}, p.id {way} limit {most})
        select coalesce(array_agg(p.id::text order by {sort} {way}, p.id {way}), '{"{}"}') from photo as p
         where p.id in (select id from found) or exists (select from album_photo as ap where ap.album = '{album}' and ap.photo = p.id and ap.said_by <> 'rule')
        """;

    [Theory]
    [InlineData(51)]
    [InlineData(52)]
    public async Task Whatever_people_do_and_take_back_albums_hold_what_a_naive_evaluation_of_their_rules_gives(int seed)
    {
        await using var site = await Site.StartAsync(workers: 0);
        site.Process(0);
        var club = await Club.GatherAsync(site, seed);
        var dice = new Random(seed);
        T Any<T>(params T[] things) => things[dice.Next(things.Length)];
        (string Sort, string Sql)[] sorts = [("taken", "coalesce(p.taken, p.arrived at time zone 'UTC')"), ("arrived", "p.arrived"), ("name", "lower(p.file_name) collate \"C\""), ("rating", "p.rating")];
        await (await TagAsync(club.Anyone, club.Photos.Take(4), "tag 1")).ReadAsync();
        (string Search, string Fits)[] rules =
        [
            ("", "true"), ("decision=keep", "p.decision = 'keep'"), ("notMissing=title", "p.title <> ''"), ("people=Ines", "'Ines' = any(p.people)"), ("rating=3,4,5", "p.rating >= 3"),
            ($"tag={await site.ScalarAsync<Guid>("select id from tag where key = 'tag 1'")}", "exists (select from photo_tag as pt join tag as t on t.id = pt.tag where pt.photo = p.id and t.key = 'tag 1')"),
            ("notTag=none&notDecision=leave_out", "exists (select from photo_tag as pt where pt.photo = p.id) and p.decision <> 'leave_out'"), ("q=caption", "p.caption ~* '\\mcaption'"),
        ];
        var albums = new Dictionary<string, string>();
        async Task SayAsync(HttpClient who, string? album)
        {
            var ((search, fits), (sort, sql), most, reversed) = (Any(rules), Any(sorts), dice.Next(1, 9), dice.Next(2) == 0);
            if (album is not null && await site.ScalarAsync<bool>($"select binned is not null from album where id = '{album}'"))
            {
                return;
            }

            album ??= await MakeAsync(who, $"Rule {albums.Count}", new { search, most, sort, reversed });
            await FillAsync(who, album, search, sort, most, reversed);
            albums[album] = Naive(album, fits, sql, sort is "name" == reversed ? "desc" : "asc", most);
        }

        for (var n = 0; n < 5; n++)
        {
            await SayAsync(club.Anyone, null);
        }

        var compared = 0;
        for (var round = 0; round < 10; round++)
        {
            for (var n = 0; n < 6; n++)
            {
                using var answer = await club.DoAsync();
                Assert.True((int)answer.StatusCode < 500, await answer.Content.ReadAsStringAsync());
            }

            using (var taken = await club.TakeOneBackAsync())
            {
                Assert.True((int)taken.StatusCode < 500, await taken.Content.ReadAsStringAsync());
            }

            foreach (var (album, naive) in albums)
            {
                // One that is in the bin holds nothing until it is back; one whose rule was taken back or said otherwise goes by what it says now.
                if (await site.ScalarAsync<bool>(
                    $"""
                    select binned is null and rule is not null and filling_act = (
                             select c.act from act_change as c
                              where c.thing = a.id and c.kind = 'album' and (c.after ? 'rule' or c.after ? 'sort' or c.after ? 'most' or c.after ? 'reversed')
                              order by c.act desc limit 1)
                      from album as a where id = '{album}'
                    """))
                {
                    await BecomesAsync(site, album, await site.ScalarAsync<string[]>(naive));
                    compared++;
                }
            }

            Assert.Null(await club.FaultsAsync());
            await SayAsync(club.Anyone, Any([.. albums.Keys]));
        }

        Assert.True(compared > 10, $"compared {compared} times");
    }
}
