using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Jovitar.Server.Access;
using Jovitar.Server.Records;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.MemberSteps;
using static Jovitar.Server.Tests.OfferSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What is recorded of visitors: of whom, how long, and what is not.</summary>
public sealed class RecordTests
{
    static async Task<JsonElement> ListAsync(HttpClient staff, string query = "") => await (await staff.GetAsync($"/api/records?{query}")).ReadAsync();

    /// <summary>What is recorded by now, the eldest first: who did what with what.</summary>
    static async Task<string[]> SaidAsync(Site site, HttpClient staff, int count, string query = "")
    {
        await site.UntilAsync("select count(*) from access_record", count);
        return [.. (await ListAsync(staff, query)).GetProperty("records").EnumerateArray().Reverse().Select(r => $"{r.GetProperty("who").GetString()} {r.GetProperty("what").GetString()} {r.GetProperty("called").GetString()}")];
    }

    [Fact]
    public async Task Of_a_client_it_is_known_what_they_opened_and_saved_and_of_strangers_that_they_were_turned_away()
    {
        var (site, owner, client, p, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "holders")).EnsureSuccessStatusCode();
        (await OfferAsync(owner, album, knownSave: "full")).EnsureSuccessStatusCode();
        var (entry, secret) = await EntryAsync(owner, "album", album);
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(client, "/album/night"));
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(client, "/album/night"));
        await EnterAsync(client, secret);
        // A page and what is on it are one visit; what everyone finds is nobody's business, and neither is what staff look at.
        await client.GetStringAsync("/album/night");
        await client.GetStringAsync($"/album/night/photo/{p[0]}");
        await client.GetStringAsync("/album/night");
        await site.Visitor().GetStringAsync("/album/day");
        await owner.GetStringAsync("/album/day");
        Assert.Equal(HttpStatusCode.OK, await GetAsync(client, $"/album/night/photo/{p[0]}/save"));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(client, $"/album/night/photo/{p[0]}/save"));
        Assert.Equal(HttpStatusCode.OK, await GetAsync(client, "/album/night/save"));
        Assert.Equal(
            [" refused Night", "The Harrow family opened Night", "The Harrow family saved Night", "The Harrow family saved Night", "The Harrow family savedAll Night"],
            await SaidAsync(site, owner, 5));
        var theirs = await ListAsync(owner, $"entry={entry}");
        Assert.Equal(("The Harrow family", 1, 3, 0), (theirs.GetProperty("who").GetString(), theirs.GetProperty("opened").GetInt32(), theirs.GetProperty("saved").GetInt32(), theirs.GetProperty("refused").GetInt32()));
        Assert.Equal(3, (await ListAsync(owner, "what=saved")).GetProperty("records").GetArrayLength());
        Assert.Equal(HttpStatusCode.BadRequest, await GetAsync(owner, "/api/records?what=everything"));
    }

    [Theory]
    [InlineData("192.0.2.77", "192.0.2.0/24")]
    [InlineData("::ffff:192.0.2.77", "192.0.2.0/24")]
    [InlineData("2001:db8:1:2:3:4:5:6", "2001:db8:1::/48")]
    [InlineData(null, "")]
    public void Where_somebody_came_from_is_kept_without_what_tells_one_house_from_another(string? address, string kept) =>
        Assert.Equal(kept, ShortAddress.Of(address is null ? null : IPAddress.Parse(address)));

    [Fact]
    public async Task A_member_who_is_kept_out_is_named_and_finds_no_more_than_anybody_else()
    {
        var (site, owner, _, _, album, _) = await NightAsync();
        await using var __ = site;
        var group = await GroupAsync(owner, "Coxes");
        (await SayAsync(owner, "album", album, "chosen", chosen: group)).EnsureSuccessStatusCode();
        var ada = await MemberAsync(site, owner, "Ada");
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(ada, "/album/night"));
        Assert.Equal(HttpStatusCode.NotFound, await GetAsync(ada, "/album/nowhere"));
        Assert.Equal(["Ada refused Night"], await SaidAsync(site, owner, 1));
    }

    [Fact]
    public async Task What_is_recorded_of_a_member_goes_with_them()
    {
        var (site, owner, _, _, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "members")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(site.Visitor(), "/album/night"));
        var (ada, finn) = (await MemberAsync(site, owner, "Ada"), await MemberAsync(site, owner, "Finn"));
        await ada.GetStringAsync("/album/night");
        await finn.GetStringAsync("/album/night");
        Assert.Equal([" refused Night", "Ada opened Night", "Finn opened Night"], (await SaidAsync(site, owner, 3)).Order());
        Assert.Equal(["Ada opened Night"], await SaidAsync(site, owner, 3, $"member={await IdAsync(owner, "Ada")}"));
        (await owner.DeleteAsync($"/api/members/{await IdAsync(owner, "Ada")}")).EnsureSuccessStatusCode();
        Assert.DoesNotContain(await SaidAsync(site, owner, 2), said => said.Contains("Ada", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Records_are_kept_as_long_as_the_owner_says_and_not_at_all_if_so()
    {
        var (site, owner, _, _, album, _) = await NightAsync();
        await using var __ = site;
        (await SayAsync(owner, "album", album, "members")).EnsureSuccessStatusCode();
        var ada = await MemberAsync(site, owner, "Ada");
        await ada.GetStringAsync("/album/night");
        await SaidAsync(site, owner, 1);
        async Task KeepAsync(int days) => (await owner.PutAsJsonAsync("/api/records/kept", new { days })).EnsureSuccessStatusCode();
        await site.WriteAsync("update access_record set at = now() - interval '40 days'");
        await KeepAsync(90);
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from access_record"));
        await KeepAsync(30);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from access_record"));
        await ada.GetStringAsync("/album/night");
        await SaidAsync(site, owner, 1);
        await KeepAsync(0);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from access_record"));
        await site.Part<RecordStore>().AddAsync([new ToRecord(DateTimeOffset.UtcNow, Core.Records.Recorded.Refused, "album", Guid.Parse(album), null, null, null, "192.0.2.0/24")], CancellationToken.None);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from access_record"));
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PutAsJsonAsync("/api/records/kept", new { days = 7 })).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await (await site.EditorAsync("Tomas")).PutAsJsonAsync("/api/records/kept", new { days = 30 })).StatusCode);
    }

    [Fact]
    public async Task A_long_list_is_read_in_windows_and_each_record_once()
    {
        var (site, owner, _, p, album, _) = await NightAsync();
        await using var __ = site;
        var at = DateTimeOffset.UtcNow;
        await site.Part<RecordStore>().AddAsync(
            [.. Enumerable.Range(0, 250).Select(i => new ToRecord(at.AddSeconds(-i), Core.Records.Recorded.Saved, "album", Guid.Parse(album), PhotoOf(p[0]), null, null, $"192.0.{i}.0/24"))], CancellationToken.None);
        var seen = new List<string>();
        for (var behind = ""; ;)
        {
            var page = await ListAsync(owner, behind.Length > 0 ? $"behind={behind}" : "");
            seen.AddRange(page.GetProperty("records").EnumerateArray().Select(r => r.GetProperty("network").GetString()!));
            if (!page.GetProperty("further").GetBoolean())
            {
                break;
            }

            behind = page.GetProperty("records").EnumerateArray().Last().GetProperty("id").GetString()!;
        }

        Assert.Equal([.. Enumerable.Range(0, 250).Select(i => $"192.0.{i}.0/24")], seen);
    }

    static Core.PhotoId PhotoOf(string id) => new(Guid.Parse(id));
}
