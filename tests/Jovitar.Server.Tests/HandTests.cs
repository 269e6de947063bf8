using System.Net;
using System.Net.Http.Json;

namespace Jovitar.Server.Tests;

/// <summary>Photos in hand: a person's own, and reached by every verb, however many.</summary>
public sealed class HandTests
{
    static async Task<string[]> HeldAsync(HttpClient who) => [.. (await (await who.GetAsync("/api/hand")).ReadAsync()).GetProperty("photos").EnumerateArray().Select(e => e.GetString()!)];

    static async Task<string[]> FoundAsync(HttpClient who, string query, string how = "take")
    {
        if (how == "take")
        {
            (await who.DeleteAsync("/api/hand")).EnsureSuccessStatusCode();
        }

        return [.. (await (await who.PostAsJsonAsync($"/api/hand/found?{query}", new { how })).ReadAsync()).GetProperty("photos").EnumerateArray().Select(e => e.GetString()!)];
    }

    [Fact]
    public async Task All_found_are_taken_up_in_the_order_of_the_sheet()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, _, _) = await site.PublishedAsync(owner, 4);
        Assert.Equal(p, await FoundAsync(owner, "sort=name"));
        Assert.Equal(p.Reverse(), await FoundAsync(owner, "sort=name&reversed=true"));
        var version = (await (await owner.GetAsync($"/api/albums/{album}")).ReadAsync()).GetProperty("version").GetInt64();
        await (await owner.SendAsync(HttpMethod.Put, $"/api/albums/{album}/order", new { photos = new[] { p[3] }, position = 0 }, version)).ReadAsync();
        Assert.Equal([p[3], p[0], p[1], p[2]], await FoundAsync(owner, $"album={album}&sort=place"));
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[0] } })).ReadAsync();
        // What lies in the bin is passed over, and in hand again when it is back.
        Assert.Equal([p[3], p[1], p[2]], await HeldAsync(owner));
        Assert.Equal([p[3], p[1], p[2]], await FoundAsync(owner, $"album={album}&sort=place"));
        Assert.Empty(await FoundAsync(owner, "album=gone"));
    }

    [Fact]
    public async Task A_hand_is_a_persons_own_on_every_machine_and_is_turned_round()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 5);
        (await owner.PostAsJsonAsync("/api/hand", new { take = new[] { p[3], p[1] } })).EnsureSuccessStatusCode();
        (await owner.PostAsJsonAsync("/api/hand", new { take = new[] { p[1], p[4] }, letGo = new[] { p[0] } })).EnsureSuccessStatusCode();
        Assert.Equal([p[3], p[1], p[4]], await HeldAsync(owner));
        // The same person elsewhere holds the same; another holds nothing.
        site.Process(workers: 0);
        Assert.Equal([p[3], p[1], p[4]], await HeldAsync(await site.OwnerAsync()));
        Assert.Empty(await HeldAsync(await site.EditorAsync("Tomas")));
        Assert.Equal([p[1]], (await (await owner.PostAsJsonAsync("/api/hand/among", new { photos = p[..3] })).ReadAsync()).GetProperty("photos").EnumerateArray().Select(e => e.GetString()));
        Assert.Equal([p[0], p[2]], await FoundAsync(owner, "sort=name", "turn"));
        Assert.Equal([p[1], p[3], p[4]], await FoundAsync(owner, "sort=name", "turn"));
        Assert.Empty(await FoundAsync(owner, "sort=name", "let_go"));
        (await owner.PutAsJsonAsync("/api/hand", new { photos = new[] { p[2], p[0], p[2] } })).EnsureSuccessStatusCode();
        Assert.Equal([p[2], p[0]], await HeldAsync(owner));
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/hand/found", new { how = "eat" })).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/hand", new { take = Enumerable.Repeat(p[0], 5001) })).StatusCode);
    }

    /// <summary>Who is not signed in has no hand, and the doors of words and copies are shut to them.</summary>
    [Fact]
    public async Task A_visitor_has_no_hand_and_describes_nothing()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 1);
        var visitor = site.Visitor();
        (HttpMethod Method, string Address)[] doors =
        [
            (HttpMethod.Get, "/api/hand"), (HttpMethod.Post, "/api/hand"), (HttpMethod.Put, "/api/hand"), (HttpMethod.Delete, "/api/hand"), (HttpMethod.Post, "/api/hand/found"), (HttpMethod.Post, "/api/hand/among"), (HttpMethod.Get, "/api/hand/download"),
            (HttpMethod.Post, "/api/words"), (HttpMethod.Post, "/api/words/preview"), (HttpMethod.Post, "/api/words/summary"), (HttpMethod.Get, "/api/words/people"), (HttpMethod.Post, "/api/words/rows"), (HttpMethod.Put, "/api/words/rows"),
            (HttpMethod.Get, "/api/words/table.csv"), (HttpMethod.Get, $"/api/photos/{p[0]}/written"),
        ];
        foreach (var (method, address) in doors)
        {
            Assert.True((await visitor.SendAsync(method, address, method == HttpMethod.Get ? null : new { photos = p })).StatusCode is HttpStatusCode.Unauthorized or HttpStatusCode.BadRequest or HttpStatusCode.Forbidden, $"{method} {address}");
        }

        Assert.Empty(await HeldAsync(owner));
        Assert.Equal("", await site.ScalarAsync<string>($"select title from photo where id = '{p[0]}'"));
    }

    [Fact]
    public async Task Every_verb_reaches_more_photos_than_are_named_one_by_one()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        await site.WriteAsync(
            "insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, state, stage) select gen_random_uuid(), sha256(g::text::bytea), g || '.jpg', 'image/jpeg', 1, 3, 2, now(), 'ready', 2 from generate_series(1, 6000) as g");
        var held = await (await owner.PostAsJsonAsync("/api/hand/found", new { how = "take" })).ReadAsync();
        Assert.Equal((6000, 5000), (held.GetProperty("count").GetInt32(), held.GetProperty("photos").GetArrayLength()));
        async Task<int> DoneAsync(string address, object body)
        {
            var answer = await (await owner.PostAsJsonAsync(address, body)).ReadAsync();
            return (answer.TryGetProperty("done", out var done) ? done : answer).GetProperty("photos").GetInt32();
        }

        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = Enumerable.Repeat(Guid.NewGuid(), 5001), decision = "keep" })).StatusCode);
        Assert.Equal(6000, await DoneAsync("/api/photos/decision", new { inHand = true, decision = "keep" }));
        Assert.Equal(6000, await DoneAsync("/api/photos/tags", new { inHand = true, add = new[] { "many" }, remove = Array.Empty<string>() }));
        var category = (await (await owner.PostAsJsonAsync("/api/categories", new { name = "All", parent = (string?)null })).ReadAsync()).GetProperty("id").GetString()!;
        Assert.Equal(6000, await DoneAsync("/api/photos/categories", new { inHand = true, add = new[] { category }, remove = Array.Empty<string>() }));
        var album = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "All" })).ReadAsync()).GetProperty("id").GetString()!;
        Assert.Equal(6000, await DoneAsync($"/api/albums/{album}/photos", new { inHand = true }));
        Assert.Equal(6000, await DoneAsync($"/api/albums/{album}/photos/removal", new { inHand = true }));
        Assert.Equal(6000, await DoneAsync("/api/bin", new { inHand = true }));
        // Neither named nor in hand: nothing is reached.
        Assert.Equal(0, await DoneAsync("/api/photos/decision", new { decision = "doubt" }));
        Assert.Equal(0, await DoneAsync("/api/photos/decision", new { inHand = true, decision = "doubt" }));
    }

    /// <summary>A hand against a plain list: whatever is done to it in two processes, and by two people, is what one would hold.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public async Task A_hand_is_what_one_would_hold_whatever_is_done(int seed)
    {
        await using var site = await Site.StartAsync();
        var one = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(one, 7);
        site.Process(workers: 0);
        var two = await site.OwnerAsync();
        var tomas = await site.EditorAsync("Tomas");
        (await tomas.PutAsJsonAsync("/api/hand", new { photos = p[..2] })).EnsureSuccessStatusCode();
        var dice = new Random(seed);
        var held = new List<string>();
        var binned = new HashSet<string>();
        string[] Some() => [.. p.Where(_ => dice.Next(3) == 0)];
        for (var i = 0; i < 60; i++)
        {
            var who = dice.Next(2) == 0 ? one : two;
            var some = Some();
            switch (dice.Next(8))
            {
                case 0 or 1:
                    (await who.PostAsJsonAsync("/api/hand", new { take = some })).EnsureSuccessStatusCode();
                    held.AddRange(some.Except(held));
                    break;
                case 2:
                    (await who.PostAsJsonAsync("/api/hand", new { letGo = some })).EnsureSuccessStatusCode();
                    held.RemoveAll(some.Contains);
                    break;
                case 3:
                    (await who.PutAsJsonAsync("/api/hand", new { photos = some.Reverse() })).EnsureSuccessStatusCode();
                    held = [.. some.Reverse()];
                    break;
                case 4:
                    (await who.PostAsJsonAsync("/api/hand/found?sort=name", new { how = "turn" })).EnsureSuccessStatusCode();
                    var here = p.Where(id => !binned.Contains(id)).ToArray();
                    held = [.. held.Where(binned.Contains), .. here.Except(held)];
                    break;
                case 5:
                    (await who.PostAsJsonAsync("/api/hand/found?sort=name", new { how = "take" })).EnsureSuccessStatusCode();
                    held.AddRange(p.Where(id => !binned.Contains(id)).Except(held));
                    break;
                case 6:
                    await (await who.PostAsJsonAsync("/api/bin", new { photos = some })).ReadAsync();
                    binned.UnionWith(some);
                    break;
                default:
                    await (await who.PostAsJsonAsync("/api/bin/restore", new { things = binned.Select(id => new { kind = "photo", id }) })).ReadAsync();
                    binned.Clear();
                    break;
            }

            Assert.Equal(held.Where(id => !binned.Contains(id)), await HeldAsync(dice.Next(2) == 0 ? one : two));
        }

        Assert.Equal(p[..2].Where(id => !binned.Contains(id)), await HeldAsync(tomas));
    }
}
