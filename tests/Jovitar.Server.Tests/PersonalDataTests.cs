using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.ContributionSteps;
using static Jovitar.Server.Tests.MemberSteps;
using static Jovitar.Server.Tests.OfferSteps;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What is kept of a member is theirs to have, and goes when they ask for it: nothing of it is left in any table.</summary>
public sealed class PersonalDataTests
{
    /// <summary>A member of an unusual name who has done all that leaves something: opened a page, chosen, sent photos in that wait and that were accepted.</summary>
    static async Task<(Site Site, HttpClient Owner, HttpClient Member, Guid Id, string Album)> BusyAsync()
    {
        var (site, owner, _, p, album, _) = await NightAsync();
        await AskAsync(owner, album);
        var member = await MemberAsync(site, owner, "Quilliam", await GroupAsync(owner, "Coxes"));
        var id = await IdAsync(owner, "Quilliam");
        (await owner.PatchAsJsonAsync($"/api/members/{id}", new { name = "Quilliam Rook" })).EnsureSuccessStatusCode();
        await member.GetStringAsync("/album/night");
        await site.UntilAsync("select count(*) from access_record where account is not null", 1);
        Assert.Equal(HttpStatusCode.NoContent, await MarkAsync(member, album, p[0]));
        Assert.Equal(HttpStatusCode.NoContent, (await OfferSteps.SendAsync(member, album, "Kind regards, Quilliam Rook")).StatusCode);
        await ContributesAsync(owner, id, "waits");
        var (_, photos) = await SentAsync(member, "/sent/yours", photos: 2);
        await DecideAsync(owner, Id((await WaitingAsync(owner))[0]), "accept", photos[..1]);
        await site.UntilAsync("select count(*) from contribution_photo where is_in", 1);
        return (site, owner, member, id, album);
    }

    [Fact]
    public async Task All_that_is_kept_of_a_member_is_handed_to_them_and_to_the_owner_alone()
    {
        var (site, owner, member, id, _) = await BusyAsync();
        await using var __ = site;
        var own = await member.GetAsync("/site/account/kept.json");
        Assert.Equal(("application/json", "attachment"), (own.Content.Headers.ContentType!.MediaType, own.Content.Headers.ContentDisposition!.DispositionType));
        Assert.True(own.Headers.CacheControl!.NoStore);
        var text = await own.Content.ReadAsStringAsync();
        var all = JsonDocument.Parse(text).RootElement;
        Assert.Equal(("Trial", "Quilliam Rook", "quilliam@example.test", "Coxes"), (all.GetProperty("site").GetString(), all.GetProperty("account")[0].GetProperty("name").GetString(), all.GetProperty("account")[0].GetProperty("e-mail").GetString(), all.GetProperty("account")[0].GetProperty("groups")[0].GetString()));
        Assert.Equal(("Night", "Kind regards, Quilliam Rook"), (all.GetProperty("favourites")[0].GetProperty("album").GetString(), all.GetProperty("favourites")[0].GetProperty("words").GetString()));
        Assert.Equal(["Accepted", "Waiting"], all.GetProperty("photos sent in").EnumerateArray().Select(p => p.GetProperty("state").GetString()!));
        Assert.Equal("Night", all.GetProperty("opened and saved")[0].GetProperty("called").GetString());
        Assert.Equal(1, all.GetProperty("signed in").GetArrayLength());
        // Neither what lets somebody in, nor anything of anybody else's.
        Assert.DoesNotContain("hash", text, StringComparison.OrdinalIgnoreCase);
        Assert.DoesNotContain("odile", text, StringComparison.OrdinalIgnoreCase);
        Assert.Contains("quilliam@example.test", await owner.GetStringAsync($"/api/members/{id}/kept.json"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Forbidden, await GetAsync(await site.EditorAsync("Tomas"), $"/api/members/{id}/kept.json"));
        foreach (var other in (HttpClient[])[site.Visitor(), owner])
        {
            Assert.Equal(HttpStatusCode.Redirect, await GetAsync(other, "/site/account/kept.json"));
        }
    }

    [Fact]
    public async Task Erased_nothing_in_any_table_names_them_and_what_others_need_stays_without_their_name()
    {
        var (site, owner, member, id, album) = await BusyAsync();
        await using var __ = site;
        // What carries their credit is a photo of the site's; said otherwise first, as an owner would who is asked to.
        await site.WriteAsync("update photo set credit = '' where credit like '%Quilliam%'; update photo set file_words = '{}'; update intake set credit = '' where credit like '%Quilliam%'; delete from act_change where after::text like '%Quilliam%' or before::text like '%Quilliam%'");
        Assert.Equal(HttpStatusCode.Forbidden, (await (await site.EditorAsync("Tomas")).PostAsync($"/api/members/{id}/erase", null)).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await owner.PostAsync($"/api/members/{id}/erase", null)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsync($"/api/members/{id}/erase", null)).StatusCode);
        Assert.Equal(HttpStatusCode.Redirect, await GetAsync(member, "/site/account/kept.json"));

        // Every column of every table that holds words.
        await using var tables = site.Db.CreateCommand("select format('%I', table_name), string_agg(format('%I::text', column_name), ' || '' '' || ') from (select * from information_schema.columns as c join information_schema.tables as t using (table_schema, table_name) where table_schema = 'public' and t.table_type = 'BASE TABLE' and data_type in ('text', 'jsonb', 'ARRAY')) as c group by table_name");
        var all = new List<(string Table, string Words)>();
        await using (var reader = await tables.ExecuteReaderAsync())
        {
            while (await reader.ReadAsync())
            {
                all.Add((reader.GetString(0), string.Join(" || ' ' || ", reader.GetString(1).Split(" || ' ' || ").Select(c => $"coalesce({c}, '')"))));
            }
        }

        Assert.True(all.Count > 40, $"only {all.Count} tables were found");
        foreach (var (table, words) in all)
        {
            Assert.True(await site.ScalarAsync<long>($"select count(*) from {table} where {words} ilike '%quilliam%' or {words} like '%{id}%'") == 0, $"{table} still names them");
        }

        var choice = Assert.Single(await ChoicesAsync(owner, album));
        Assert.Equal(("A former member", ""), (choice.GetProperty("name").GetString(), choice.GetProperty("words").GetString()));
        var history = await owner.GetStringAsync("/api/acts");
        Assert.Contains("Erased what was kept of a member.", history, StringComparison.Ordinal);
        Assert.Contains("A former member may send photos in; they wait until somebody accepts them.", history, StringComparison.Ordinal);
        // What waited is gone with its bytes; what was accepted is here.
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from contribution_photo"));
        Assert.Equal(2, Directory.GetFiles(Path.Combine(site.Data, "sent")).Length);
        Assert.Empty(await WaitingAsync(owner));
        Assert.Equal(5, await site.ScalarAsync<long>("select count(*) from photo where binned is null"));
    }
}
