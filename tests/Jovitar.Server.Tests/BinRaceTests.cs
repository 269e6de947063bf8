using System.Net.Http.Json;
using System.Text.Json;
using static Jovitar.Server.Tests.BuyingSteps;

namespace Jovitar.Server.Tests;

/// <summary>The bin while others work: what is emptied is what was shown, and what comes back finds its place and what hung on it.</summary>
public sealed class BinRaceTests
{
    static async Task<JsonElement> GetAsync(HttpClient client, string address) => await (await client.GetAsync(address)).ReadAsync();

    [Fact]
    public async Task Photos_sent_again_while_the_bin_is_emptied_keep_their_originals()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var bytes = Enumerable.Range(0, 40).Select(i => Acts.Photo(i, 120, 80)).ToArray();
        for (var round = 0; round < 3; round++)
        {
            var photos = new List<string>();
            for (var i = 0; i < bytes.Length; i++)
            {
                photos.Add((await owner.BringAsync(intake, $"{i}.jpg", bytes[i])).GetProperty("photo").GetString()!);
            }

            await (await owner.PostAsJsonAsync("/api/bin", new { photos })).ReadAsync();
            var emptying = owner.EmptyBinAsync();
            var again = Parallel.ForEachAsync(Enumerable.Range(0, bytes.Length), new ParallelOptions { MaxDegreeOfParallelism = 4 }, async (i, _) => await owner.BringAsync(intake, $"{i} again.jpg", bytes[i]));
            await Task.WhenAll(emptying, again);
            Assert.Equal(bytes.Length, await site.ScalarAsync<long>("select count(*) from photo where binned is null"));
            Assert.Equal(bytes.Length, site.Originals());
            await site.VerifyAsync();
        }
    }

    [Fact]
    public async Task Emptying_the_bin_removes_what_was_shown_and_leaves_what_came_after()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var photos = new List<string>();
        for (var i = 0; i < 4; i++)
        {
            photos.Add((await owner.BringAsync(intake, $"{i}.jpg", Acts.Photo(i, 120, 80))).GetProperty("photo").GetString()!);
        }

        await (await owner.PostAsJsonAsync("/api/bin", new { photos = photos[..3] })).ReadAsync();
        var seen = await GetAsync(owner, "/api/bin");
        Assert.Equal(3, seen.GetProperty("total").GetInt32());
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = photos[3..] })).ReadAsync();
        var emptied = await (await owner.PostAsJsonAsync("/api/bin/empty", new { until = seen.GetProperty("until").GetString() })).ReadAsync();
        Assert.Equal(3, emptied.GetProperty("count").GetInt32());
        Assert.Equal(photos[3], (await GetAsync(owner, "/api/bin")).GetProperty("things").EnumerateArray().Single().GetProperty("id").GetString());
        Assert.Equal(1, site.Originals());
        // What is removed for good is in no record any more, and cannot be brought back.
        Assert.Equal(0, await site.ScalarAsync<long>($"select count(*) from act_change where thing = '{photos[0]}' or other = '{photos[0]}'"));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task What_is_taken_back_while_the_bin_waits_to_be_emptied_keeps_its_place_and_its_history()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var photo = (await owner.BringAsync(await owner.IntakeAsync(), "kept.jpg", Acts.Photo(1))).GetProperty("photo").GetString()!;
        var tag = await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = new[] { photo }, add = new[] { "boats" }, remove = Array.Empty<string>() })).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { photo } })).ReadAsync();
        await using var line = await site.Db.OpenConnectionAsync();
        await using var looking = await line.BeginTransactionAsync();
        await using var look = new Npgsql.NpgsqlCommand("select from photo for update", line, looking);
        await look.ExecuteNonQueryAsync();
        const string Waiting = "select count(*) from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'";
        var restored = owner.PostAsJsonAsync("/api/bin/restore", new { things = new[] { new { kind = "photo", id = photo } } });
        await site.UntilAsync(Waiting, 1);
        var emptied = owner.EmptyBinAsync();
        await site.UntilAsync(Waiting, 2);
        await looking.CommitAsync();
        await (await restored).ReadAsync();
        Assert.Equal(0, (await emptied).GetProperty("count").GetInt32());
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from photo_tag"));
        await owner.UndoAsync(tag);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo_tag"));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task What_is_ordered_while_the_bin_is_emptied_is_there_to_be_printed()
    {
        await using var sale = await SaleAsync();
        var (site, owner, visitor) = (sale.Site, sale.Owner, sale.Site.Visitor());
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        var page = await CheckOutAsync(visitor);
        static string Waiting(string query) => $"select count(*) from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock' and query like '{query}%'";
        // The order was summed, and waits for its basket; the photo is thrown away.
        var (basket, number) = (await HeldAsync(site, "basket"), await HeldAsync(site, "order_count"));
        var ordered = OrderAsync(visitor, page);
        await site.UntilAsync(Waiting("select from basket"), 1);
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { sale.Photos[0] } })).ReadAsync();
        // It has its lines, and waits for its number; the bin is emptied.
        await basket.DisposeAsync();
        await site.UntilAsync(Waiting("update order_count"), 1);
        var emptied = owner.EmptyBinAsync();
        await site.UntilAsync(Waiting("select from photo"), 1);
        await number.DisposeAsync();
        Assert.Equal(System.Net.HttpStatusCode.SeeOther, (await ordered).StatusCode);
        var kept = await emptied;
        Assert.Equal((0, 1), (kept.GetProperty("count").GetInt32(), kept.GetProperty("needed").GetInt32()));
        Assert.Single(await OrdersAsync(owner));
        Assert.Equal(1, await site.ScalarAsync<long>($"select count(*) from photo where id = '{sale.Photos[0]}'"));
    }

    /// <summary>Holds the rows of a table until it is closed.</summary>
    static async Task<Npgsql.NpgsqlConnection> HeldAsync(Site site, string table)
    {
        var line = await site.Db.OpenConnectionAsync();
        var holding = await line.BeginTransactionAsync();
        await using var hold = new Npgsql.NpgsqlCommand($"select from {table} for update", line, holding);
        await hold.ExecuteNonQueryAsync();
        return line;
    }

    [Fact]
    public async Task What_comes_back_to_a_place_that_was_taken_meanwhile_stands_right_behind()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var album = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Order" })).ReadAsync()).GetProperty("id").GetString()!;
        var intake = await owner.IntakeAsync(album);
        async Task<string> BringAsync(int n) => (await owner.BringAsync(intake, $"{n}.jpg", Acts.Photo(n, 120, 80))).GetProperty("photo").GetString()!;
        async Task<(long Twice, long All)> PlacesAsync() => (
            await site.ScalarAsync<long>("select count(*) from (select album from album_photo group by album, place having count(*) > 1) as twice"), await site.ScalarAsync<long>("select count(*) from album_photo"));
        var (first, last) = (await BringAsync(1), await BringAsync(2));
        // Out of the bin: what arrived meanwhile took the end.
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { last } })).ReadAsync();
        var come = await BringAsync(3);
        await (await owner.PostAsJsonAsync("/api/bin/restore", new { things = new[] { new { kind = "photo", id = last } } })).ReadAsync();
        Assert.Equal((0, 3), await PlacesAsync());
        // Taken out, and put back by undo; twice, so that who makes way meets another.
        foreach (var one in new[] { come, last })
        {
            var taken = await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos/removal", new { photos = new[] { one } })).ReadAsync();
            await BringAsync(one == come ? 4 : 5);
            await owner.UndoAsync(taken);
        }

        Assert.Equal((0, 5), await PlacesAsync());
        Assert.Equal(first, (await site.ScalarAsync<Guid>("select photo from album_photo order by place limit 1")).ToString());
        await site.VerifyAsync();
    }
}
