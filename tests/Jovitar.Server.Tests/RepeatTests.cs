using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using NetVips;

namespace Jovitar.Server.Tests;

public sealed class RepeatTests
{
    /// <summary>A scene with shapes of its own, and the same scene scaled and saved again.</summary>
    static byte[] Scene(int seed, int width = 900, int quality = 90)
    {
        using var worley = Image.Worley(900, 600, cellSize: 150, seed: seed);
        using var scaled = worley.Cast(Enums.BandFormat.Uchar).Resize(width / 900.0);
        using var colour = scaled.Bandjoin(scaled, scaled).Copy(interpretation: Enums.Interpretation.Srgb);
        return colour.JpegsaveBuffer(q: quality);
    }

    static async Task<JsonElement> GroupsAsync(HttpClient owner) => (await (await owner.GetAsync("/api/repeats")).ReadAsync()).GetProperty("groups");

    static async Task<string[]> OfAsync(HttpClient owner, string photo) =>
        [.. (await (await owner.GetAsync($"/api/repeats/{photo}")).ReadAsync()).GetProperty("groups").EnumerateArray().SelectMany(g => g.GetProperty("photos").EnumerateArray()).Select(p => p.GetProperty("id").GetString()!)];

    static async Task<int> AlikeAsync(HttpClient owner, string photo) => (await (await owner.GetAsync($"/api/photos/{photo}")).ReadAsync()).GetProperty("alike").GetInt32();

    [Fact]
    public async Task Nearly_the_same_is_pointed_out_decided_on_once_and_left_out_of_every_page()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, _, page, address) = await site.PublishedAsync(owner, 1);
        var intake = await owner.IntakeAsync(album);
        string[] names = ["scene.jpg", "small.jpg", "poor.jpg", "other.jpg"];
        byte[][] bytes = [Scene(1), Scene(1, 500), Scene(1, 900, 30), Scene(2)];
        var photos = new List<string>();
        for (var i = 0; i < names.Length; i++)
        {
            photos.Add((await owner.BringAsync(intake, names[i], bytes[i])).GetProperty("photo").GetString()!);
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 5);
        var groups = await GroupsAsync(owner);
        Assert.Equal(1, groups.GetArrayLength());
        var group = groups[0].GetProperty("photos");
        Assert.Equal(["poor.jpg", "scene.jpg", "small.jpg"], group.EnumerateArray().Select(p => p.GetProperty("fileName").GetString()).Order());
        Assert.All(group.EnumerateArray(), p => Assert.True(p.GetProperty("sharpness").GetDouble() > 0));
        Assert.Contains("5 photographs", await (await site.Visitor().GetAsync($"/{address}")).Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var decision = await owner.PostAsJsonAsync("/api/repeats/decision", new { group = photos[..3], keep = photos[..1] });
        var decided = await decision.ReadAsync();
        Assert.Equal(0, (await GroupsAsync(owner)).GetArrayLength());
        // Decided on, they are still seen together from each of them, but from no other; its plate says how many.
        foreach (var one in photos[..3])
        {
            Assert.Equal(photos[..3].Order(), (await OfAsync(owner, one)).Order());
        }

        Assert.Empty(await OfAsync(owner, photos[3]));
        Assert.Empty(await OfAsync(owner, $"{Guid.NewGuid()}"));
        Assert.Equal((2, 0), (await AlikeAsync(owner, photos[0]), await AlikeAsync(owner, photos[3])));
        Assert.Contains("3 photographs", await (await site.Visitor().GetAsync($"/{address}")).Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var hash = await site.ScalarAsync<string>($"select encode(hash, 'hex') from photo where id = '{photos[1]}'");
        Assert.Equal(HttpStatusCode.NotFound, (await site.Visitor().GetAsync($"/i/{hash}/1-480.webp")).StatusCode);
        Assert.Equal("Only staff can see this; it is left out everywhere.", (await (await owner.GetAsync($"/api/photos/{photos[1]}")).ReadAsync()).GetProperty("audience").GetProperty("sentence").GetString());
        await owner.UndoAsync(decided);
        Assert.Equal(1, (await GroupsAsync(owner)).GetArrayLength());
        Assert.Contains("5 photographs", await (await site.Visitor().GetAsync($"/{address}")).Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/repeats/decision", new { group = photos[..3], keep = Array.Empty<string>() })).StatusCode);
        Assert.NotEmpty(page);
    }

    [Fact]
    public async Task Of_pictures_that_become_ready_at_once_none_is_missed()
    {
        await using var site = await Site.StartAsync(workers: 8);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var scenes = Enumerable.Range(0, 12).Select(n => (Name: $"{n}.jpg", Bytes: Scene(1, 900, 40 + n))).ToArray();
        await Task.WhenAll(scenes.Select(s => owner.BringAsync(intake, s.Name, s.Bytes)));
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 12);
        Assert.Equal(66, await site.ScalarAsync<long>("select count(*) from photo_near"));
    }

    [Fact]
    public async Task Candidates_come_from_the_indexes_and_are_those_a_comparison_of_all_pairs_finds()
    {
        await using var site = await Site.StartAsync(workers: 0);
        await site.WriteAsync("""
            insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, state, stage, arrived, look, taken)
            select gen_random_uuid(), sha256(int4send(g)), g || '.jpg', 'image/jpeg', 1, 100, 100, 'ready', 2, now(),
                   (('x' || substr(md5(g::text), 1, 16))::bit(64))::bigint, timestamp '2026-01-01' + make_interval(secs => g * 20)
              from generate_series(1, 20000) as g;
            -- Near ones: a thousand whose hash differs from another's in a few bits.
            insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, state, stage, arrived, look, taken)
            select gen_random_uuid(), sha256(int4send(-g)), g || 'b.jpg', 'image/jpeg', 1, 100, 100, 'ready', 2, now(),
                   (('x' || substr(md5((g * 20)::text), 1, 16))::bit(64))::bigint # (1::bigint << (g % 63)) # (1::bigint << (g * 7 % 61)) # (1::bigint << (g * 3 % 59)), null
              from generate_series(1, 1000) as g;
            analyze photo
            """);

        await using var some = site.Db.CreateCommand("select id, look, taken from photo where file_name like '%b.jpg' limit 25");
        foreach (var (id, look, taken) in await Platform.Database.AllAsync(some, r => (r.GetGuid(0), r.GetInt64(1), r.IsDBNull(2) ? (DateTime?)null : r.GetDateTime(2)), CancellationToken.None))
        {
            var found = await Photos.RepeatStore.CandidatesAsync((sql, p) => Platform.Database.Command(site.Db, sql, p), new(id), (ulong)look, taken, CancellationToken.None);
            await using var all = site.Db.CreateCommand($"select id from photo where id <> '{id}' and bit_count((look # {look})::bit(64)) <= 7");
            var expected = await Platform.Database.AllAsync(all, r => r.GetGuid(0), CancellationToken.None);
            Assert.NotEmpty(expected);
            Assert.Equal(expected.Order(), found.Select(f => f.Photo.Value).Order());
        }

        await using var plan = site.Db.CreateCommand("explain select id from photo where look is not null and ((look & 65535) = any('{1,2,3}'::bigint[]) or ((look >> 16) & 65535) = any('{4,5,6}'::bigint[]))");
        Assert.DoesNotContain(await Platform.Database.AllAsync(plan, r => r.GetString(0), CancellationToken.None), line => line.Contains("Seq Scan", StringComparison.Ordinal));
    }
}
