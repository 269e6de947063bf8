using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Jovitar.Server.Narrowings;

namespace Jovitar.Server.Tests;

/// <summary>Narrowings that are kept under a name.</summary>
public sealed class NarrowingTests
{
    static async Task<JsonElement[]> KeptAsync(HttpClient who) => [.. (await (await who.GetAsync("/api/narrowings")).ReadAsync()).GetProperty("narrowings").EnumerateArray()];

    static (string, string, int) Of(JsonElement kept) => (kept.GetProperty("name").GetString()!, kept.GetProperty("search").GetString()!, kept.GetProperty("photos").GetInt32());

    [Fact]
    public async Task A_narrowing_is_kept_found_again_renamed_let_go_and_each_is_taken_back()
    {
        await using var site = await Site.StartAsync();
        var (odile, tam) = (await site.OwnerAsync(), await site.EditorAsync("Tam"));
        var (album, photos, _, _) = await site.PublishedAsync(odile, 3);
        await (await odile.PostAsJsonAsync("/api/photos/decision", new { photos = photos[..2], decision = "keep" })).ReadAsync();
        var answer = await (await odile.PostAsJsonAsync("/api/narrowings", new { name = " To describe ", search = $"sort=NAME&album={album}&nonsense=1&decision=keep&reversed=true" })).ReadAsync();
        Assert.Equal(("To describe", $"album={album}&decision=keep&sort=name&reversed=true", 2), Of(answer.GetProperty("kept")));
        Assert.Equal(2, (await (await odile.GetAsync($"/api/photos/total?{answer.GetProperty("kept").GetProperty("search").GetString()}")).ReadAsync()).GetProperty("total").GetInt32());
        Assert.Equal(2, (await (await odile.GetAsync($"/api/photos?{answer.GetProperty("kept").GetProperty("search").GetString()}")).ReadAsync()).GetProperty("total").GetInt32());

        // It follows what is found now, for everybody of the staff.
        await (await odile.PostAsJsonAsync("/api/photos/decision", new { photos, decision = "keep" })).ReadAsync();
        var seen = Assert.Single(await KeptAsync(tam));
        Assert.Equal(3, seen.GetProperty("photos").GetInt32());
        var (address, version) = ($"/api/narrowings/{seen.GetProperty("id").GetString()}", seen.GetProperty("version").GetInt64());
        var renamed = await (await tam.SendAsync(HttpMethod.Patch, address, new { name = "Kept" }, version)).ReadAsync();
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await odile.SendAsync(HttpMethod.Patch, address, new { name = "Mine" }, version)).StatusCode);
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await odile.SendAsync(HttpMethod.Delete, address, null, version)).StatusCode);
        var gone = await (await odile.SendAsync(HttpMethod.Delete, address, null, version + 1)).ReadAsync();
        Assert.Empty(await KeptAsync(tam));
        Assert.Equal(HttpStatusCode.NotFound, (await tam.SendAsync(HttpMethod.Patch, address, new { name = "Kept" }, version + 2)).StatusCode);
        Assert.Equal("Let the narrowing “Kept” go.", await site.ScalarAsync<string>("select sentence from act order by id desc limit 1"));
        await tam.UndoAsync(gone);
        await odile.UndoAsync(renamed);
        Assert.Equal("To describe", Assert.Single(await KeptAsync(odile)).GetProperty("name").GetString());
        await odile.UndoAsync(answer);
        Assert.Empty(await KeptAsync(odile));
        Assert.Equal(0, (await (await odile.GetAsync("/api/bin")).ReadAsync()).GetProperty("total").GetInt32());
    }

    [Fact]
    public async Task Photos_are_found_by_where_they_came_from_and_in_the_bin_by_what_they_stood_in()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, photos, _, _) = await site.PublishedAsync(owner, 3);
        await site.ScalarAsync<object>("update intake set came_by = 'watched', label = 'Club computer/June' where id = (select intake from intake_file order by number limit 1)");
        var watched = await site.ScalarAsync<long>("select count(*) from intake_file as f join intake as i on i.id = f.intake where i.came_by = 'watched'");
        Assert.InRange(watched, 1, 3);
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = photos[..2], add = new[] { "harbour" }, remove = Array.Empty<string>() })).ReadAsync();
        var tag = await site.ScalarAsync<Guid>("select id from tag where key = 'harbour'");
        async Task<JsonElement> AskAsync(string address) => await (await owner.GetAsync(address)).ReadAsync();
        async Task<int> TotalAsync(string address) => (await AskAsync(address)).GetProperty("total").GetInt32();
        Assert.Equal(watched, await TotalAsync("/api/photos/total?source=watched:Club computer"));
        Assert.Equal(3 - watched, await TotalAsync("/api/photos/total?source=computer"));
        Assert.Equal(watched, await TotalAsync("/api/photos/total?notSource=computer"));
        static int Count(JsonElement counts, string kind, string choice) => counts.GetProperty("parts").EnumerateArray().Single(p => p.GetProperty("kind").GetString() == kind)
            .GetProperty("choices").EnumerateArray().Where(c => c.GetProperty("choice").GetString() == choice).Select(c => c.GetProperty("count").GetInt32()).SingleOrDefault();
        Assert.Equal(watched, Count(await AskAsync("/api/photos/counts"), "source", "watched:Club computer"));

        // Two of three go into the bin: the album, the tag and the words still find them there, and nothing else does.
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = photos[1..] })).ReadAsync();
        Assert.Equal(1, await TotalAsync($"/api/photos/total?album={album}"));
        var counts = await AskAsync($"/api/photos/counts?album={album}");
        Assert.Equal((1, 2), (counts.GetProperty("total").GetInt32(), counts.GetProperty("inBin").GetInt32()));
        Assert.Equal(2, await TotalAsync($"/api/bin?album={album}"));
        var found = await AskAsync($"/api/bin?tag={tag}&album={album}");
        Assert.Equal(photos[1], Assert.Single(found.GetProperty("things").EnumerateArray()).GetProperty("id").GetGuid().ToString());
        Assert.Equal(1, found.GetProperty("total").GetInt32());
        Assert.Equal(1, Count(await AskAsync("/api/bin/counts"), "tag", $"{tag}"));
        Assert.Equal(0, await TotalAsync("/api/bin?rating=5"));

        // Back here they are found here, and no more there.
        await (await owner.PostAsJsonAsync("/api/bin/restore", new { things = new[] { new { kind = "photo", id = photos[1] } } })).ReadAsync();
        Assert.Equal(0, await TotalAsync($"/api/bin?tag={tag}"));
        Assert.Equal(2, await TotalAsync($"/api/photos/total?tag={tag}"));
        Assert.Equal(1, await TotalAsync("/api/bin"));
    }

    [Fact]
    public async Task What_narrows_nothing_or_is_called_as_another_is_not_kept()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        Task<HttpResponseMessage> KeepAsync(string name, string search) => owner.PostAsJsonAsync("/api/narrowings", new { name, search });
        foreach (var (name, search) in new[] { ("All", ""), ("All", "sort=name"), ("All", "nonsense=1"), ("  ", "rating=5"), (new string('x', 81), "rating=5"), ("All", new string('q', 4001)), ("All", "q=%00") })
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await KeepAsync(name, search)).StatusCode);
        }

        var five = await (await KeepAsync("Five", "rating=5")).ReadAsync();
        Assert.Equal(HttpStatusCode.BadRequest, (await KeepAsync("FIVE", "rating=4")).StatusCode);
        await (await KeepAsync("Four", "rating=4")).ReadAsync();
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.SendAsync(HttpMethod.Patch, $"/api/narrowings/{five.GetProperty("kept").GetProperty("id").GetString()}", new { name = "four" }, 1)).StatusCode);

        // As many as a list holds, and no more.
        for (var n = 2; n < NarrowingStore.Most; n++)
        {
            await (await KeepAsync($"No. {n}", $"q={n}")).ReadAsync();
        }

        Assert.Equal(HttpStatusCode.BadRequest, (await KeepAsync("One more", "rating=3")).StatusCode);
        Assert.Equal(NarrowingStore.Most, (await KeptAsync(owner)).Length);
        await (await owner.SendAsync(HttpMethod.Delete, $"/api/narrowings/{(await KeptAsync(owner)).Last(k => k.GetProperty("name").GetString() == "No. 7").GetProperty("id").GetString()}", null, 1)).ReadAsync();

        // A name that was free again is taken meanwhile: undo says so and changes nothing.
        var gone = await (await owner.SendAsync(HttpMethod.Delete, $"/api/narrowings/{five.GetProperty("kept").GetProperty("id").GetString()}", null, 1)).ReadAsync();
        await (await KeepAsync("five", "rating=5&decision=keep")).ReadAsync();
        Assert.Equal(HttpStatusCode.Conflict, (await owner.PostAsync($"/api/acts/{gone.GetProperty("act").GetString()}/undo", null)).StatusCode);
        Assert.Equal(["five", "Four"], (await KeptAsync(owner)).Select(k => k.GetProperty("name").GetString()!).Where(n => !n.StartsWith("No.", StringComparison.Ordinal)));
    }
}
