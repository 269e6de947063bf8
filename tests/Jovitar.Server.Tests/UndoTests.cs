using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Taking back, over long chains of whatever people do: by property, against what the tables held before each act.</summary>
public sealed class UndoTests
{
    static void Same(string expected, string found, string after)
    {
        var (a, b) = (expected.Split('\n'), found.Split('\n'));
        Assert.True(expected == found, $"After {after}, gone:\n{string.Join('\n', a.Except(b))}\ncome:\n{string.Join('\n', b.Except(a))}");
    }

    static async Task<JsonElement> TakenBackAsync(HttpClient who, Guid act)
    {
        var undone = (await (await Club.TakeBackAsync(who, act)).ReadAsync()).GetProperty("undone");
        Assert.Equal(0, undone.GetProperty("leftCount").GetInt32());
        return undone;
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    public async Task Taken_back_one_after_another_acts_lead_through_every_state_there_was_and_forward_again(int seed)
    {
        await using var site = await Site.StartAsync(workers: 0);
        var club = await Club.GatherAsync(site, seed);
        var done = new List<(Guid Act, string Before)>();
        var known = await club.ActsAsync();
        for (var n = 0; n < 90; n++)
        {
            await club.WaitAsync();
            var before = await club.StateAsync();
            var answer = await club.DoAsync();
            Assert.True((int)answer.StatusCode < 500, $"{answer.RequestMessage!.RequestUri}: {await answer.Content.ReadAsStringAsync()}");
            Assert.Null(await club.FaultsAsync());
            var now = await club.ActsAsync();
            if (now.Except(known).ToArray() is not [var act])
            {
                // Nothing was changed, so there is nothing to take back.
                Same(before, await club.StateAsync(), "nothing");
                continue;
            }

            done.Add((act, before));
            known = now;
        }

        Assert.True(done.Count > 30, $"{done.Count}");
        var back = new List<(Guid Act, string Before)>();
        foreach (var (act, before) in done.AsEnumerable().Reverse())
        {
            var from = await club.StateAsync();
            await TakenBackAsync(club.Anyone, act);
            Same(before, await club.StateAsync(), await site.ScalarAsync<string>($"select kind || ' ' || sentence from act where id = '{act}'"));
            Assert.Null(await club.FaultsAsync());
            back.Add((await site.ScalarAsync<Guid>($"select undone_by from act where id = '{act}'"), from));
        }

        // To have taken something back is an act like any other.
        foreach (var (act, before) in back.AsEnumerable().Reverse())
        {
            await TakenBackAsync(club.Anyone, act);
            Same(before, await club.StateAsync(), await site.ScalarAsync<string>($"select kind || ' ' || sentence from act where id = '{act}'"));
            Assert.Null(await club.FaultsAsync());
        }

        await site.VerifyAsync();
    }

    [Fact]
    public async Task Taken_back_in_whatever_order_acts_leave_nothing_broken()
    {
        const int seed = 11;
        await using var site = await Site.StartAsync(workers: 0);
        var club = await Club.GatherAsync(site, seed);
        for (var n = 0; n < 70; n++)
        {
            await club.DoAsync();
        }

        var dice = new Random(seed);
        foreach (var act in (await club.ActsAsync()).OrderBy(_ => dice.Next()))
        {
            var answer = await Club.TakeBackAsync(club.Anyone, act);
            Assert.True(answer.StatusCode is HttpStatusCode.OK or HttpStatusCode.Conflict, $"{(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}");
            Assert.Null(await club.FaultsAsync());
        }

        await site.VerifyAsync();
    }

    [Fact]
    public async Task Four_at_once_who_do_and_take_back_whatever_leave_nothing_broken()
    {
        const int seed = 21;
        await using var site = await Site.StartAsync(workers: 0);
        var club = await Club.GatherAsync(site, seed);
        await club.DoAsync();
        await (await (await site.OwnerAsync()).PostAsJsonAsync("/api/albums", new { workingName = "Begun" })).ReadAsync();
        await Task.WhenAll(Enumerable.Range(0, 4).Select(async n =>
        {
            var (some, dice) = (club.Others(seed + n), new Random(n));
            for (var done = 0; done < 45; done++)
            {
                var answer = dice.Next(4) == 0 ? await some.TakeOneBackAsync() : await some.DoAsync();
                Assert.True((int)answer.StatusCode < 500, $"{answer.RequestMessage!.RequestUri}: {await answer.Content.ReadAsStringAsync()}");
            }
        }));
        Assert.Null(await club.FaultsAsync());
        await site.VerifyAsync();
    }

    [Fact]
    public async Task One_act_is_taken_back_once_however_many_ask_at_the_same_moment()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var editor = await site.EditorAsync("Tomas");
        var intake = await owner.IntakeAsync();
        var photos = await Task.WhenAll(Enumerable.Range(0, 5).Select(async i => (await owner.BringAsync(intake, $"p{i}.jpg", Acts.Photo(i, 90, 60))).GetProperty("photo").GetString()!));
        var tagged = await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos, add = new[] { "pier" }, remove = Array.Empty<string>() })).ReadAsync();
        var act = tagged.GetProperty("act").GetGuid();
        var answers = await Task.WhenAll(Enumerable.Range(0, 8).Select(i => Club.TakeBackAsync(i % 2 == 0 ? owner : editor, act)));
        Assert.Equal(1, answers.Count(a => a.StatusCode == HttpStatusCode.OK));
        Assert.Equal(7, answers.Count(a => a.StatusCode == HttpStatusCode.Conflict));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo_tag"));
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from act where kind = 'TookBack'"));
    }
}
