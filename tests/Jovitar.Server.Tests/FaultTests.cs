using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;

namespace Jovitar.Server.Tests;

/// <summary>What must stand: after each fault nothing is lost, nothing doubled, nothing half ready.</summary>
public sealed class FaultTests
{
    static string Run(string program, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true })!;
        var errors = process.StandardError.ReadToEndAsync();
        var said = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        Assert.True(process.ExitCode == 0, $"{program} {string.Join(' ', arguments)}: {said}{errors.Result}");
        return said.Trim();
    }

    /// <summary>Sends a file until it is taken, as a browser does over a shaky line.</summary>
    static async Task PersistAsync(Func<HttpClient> client, string intake, string name, byte[] bytes)
    {
        for (var end = DateTime.UtcNow.AddSeconds(60); ;)
        {
            try
            {
                await client().BringAsync(intake, name, bytes);
                return;
            }
            catch (Exception e) when (e is HttpRequestException or Xunit.Sdk.XunitException or TaskCanceledException or IOException or OperationCanceledException)
            {
                Assert.True(DateTime.UtcNow < end, $"{name} was not taken within a minute: {e.Message}");
                await Task.Delay(200);
            }
        }
    }

    [Fact]
    public async Task Killed_twice_during_an_intake_of_two_hundred_nothing_is_lost_doubled_or_half_ready()
    {
        await using var site = await Site.StartAsync(process: false);
        var photos = Enumerable.Range(0, 200).Select(i => Acts.Photo(1000 + i, 240, 160)).ToArray();
        var (process, owner) = await ServerProcess.StartAsync(site);
        var intake = await owner.IntakeAsync();
        var sent = 0;
        var sending = Parallel.ForEachAsync(Enumerable.Range(0, photos.Length), new ParallelOptions { MaxDegreeOfParallelism = 4 }, async (i, _) =>
        {
            await PersistAsync(() => owner, intake, $"p{i}.jpg", photos[i]);
            Interlocked.Increment(ref sent);
        });
        foreach (var until in (int[])[50, 120])
        {
            while (sent < until)
            {
                await Task.Delay(5);
            }

            // SIGKILL: no handler runs, nothing is flushed.
            process.Kill();
            await process.WaitForExitAsync();
            (process, owner) = await ServerProcess.StartAsync(site);
        }

        await sending;
        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 200);
        Assert.Equal(200, await site.ScalarAsync<long>("select count(*) from photo"));
        Assert.Equal(200, await site.ScalarAsync<long>("select count(distinct photo) from intake_file"));
        var expected = photos.Select(p => Convert.ToHexStringLower(SHA256.HashData(p))).Order();
        Assert.Equal(expected, (await site.ScalarAsync<string[]>("select array_agg(encode(hash, 'hex') order by encode(hash, 'hex')) from photo")).AsEnumerable());
        await site.VerifyAsync();
        process.Kill();
        process.Dispose();
    }

    [Fact]
    public async Task Of_two_servers_on_one_site_one_is_killed_during_an_intake_of_five_hundred_while_people_edit()
    {
        await using var site = await Site.StartAsync(process: false);
        var photos = Enumerable.Range(0, 500).Select(i => Acts.Photo(3000 + i, 160, 107)).ToArray();
        // Started at once: migrations run once, and one of them watches and tidies.
        var starting = await Task.WhenAll(ServerProcess.StartAsync(site), ServerProcess.StartAsync(site));
        var (first, one) = starting[0];
        var (second, two) = starting[1];
        var clients = new[] { one, two };
        var album = (await (await one.PostAsJsonAsync("/api/albums", new { workingName = "All" })).ReadAsync()).GetProperty("id").GetString()!;
        var intake = await one.IntakeAsync(album);
        var sent = 0;
        var alive = 2;
        HttpClient Any(int i) => clients[alive == 2 ? i % 2 : 0];
        var sending = Parallel.ForEachAsync(Enumerable.Range(0, photos.Length), new ParallelOptions { MaxDegreeOfParallelism = 4 }, async (i, _) =>
        {
            await PersistAsync(() => Any(i), intake, $"p{i}.jpg", photos[i]);
            Interlocked.Increment(ref sent);
        });
        var tagged = 0;
        var editing = Task.Run(async () =>
        {
            for (var i = 0; sent < photos.Length; i++)
            {
                await Task.Delay(25);
                try
                {
                    var window = await (await Any(i).GetAsync("/api/photos?sort=arrived")).ReadAsync();
                    var some = window.GetProperty("photos").EnumerateArray().Take(20).Select(p => p.GetProperty("id").GetString()).ToArray();
                    var answer = await Any(i).PostAsJsonAsync("/api/photos/tags", new { photos = some, add = new[] { $"tag {i % 7}" }, remove = Array.Empty<string>() });
                    Assert.NotEqual(HttpStatusCode.ServiceUnavailable, answer.StatusCode);
                    tagged += answer.IsSuccessStatusCode ? 1 : 0;
                }
                catch (HttpRequestException)
                {
                    // The one that was asked has just been killed.
                }
            }
        });
        while (sent < 200)
        {
            await Task.Delay(5);
        }

        alive = 1;
        second.Kill();
        await second.WaitForExitAsync();
        await Task.WhenAll(sending, editing);
        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 500, 120);
        Assert.True(tagged > 5, $"only {tagged} edits went through");
        Assert.Equal(500, await site.ScalarAsync<long>("select count(*) from photo"));
        Assert.Equal(500, await site.ScalarAsync<long>($"select count(distinct place) from album_photo where album = '{album}'"));
        Assert.Equal(0, await site.ScalarAsync<long>(
            "select count(*) from photo as p where tag_words <> coalesce((select string_agg(t.name, ' ' order by t.key) from photo_tag as pt join tag as t on t.id = pt.tag where pt.photo = p.id), '')"));
        await site.VerifyAsync();
        first.Kill();
        first.Dispose();
        second.Dispose();
    }

    [Fact]
    public async Task The_database_stops_and_starts_during_an_intake_and_work_goes_on_by_itself()
    {
        var cluster = Path.Combine(ServerProcess.Root(), "scripts", "cluster");
        var folder = Directory.CreateTempSubdirectory("jovitar-cluster").FullName;
        var server = Run("bash", cluster, "start", folder).Split('\n')[^1];
        try
        {
            await using var site = await Site.StartAsync(server: server);
            var owner = await site.OwnerAsync();
            var intake = await owner.IntakeAsync();
            var sent = 0;
            var sending = Parallel.ForEachAsync(Enumerable.Range(0, 60), new ParallelOptions { MaxDegreeOfParallelism = 4 }, async (i, _) =>
            {
                await PersistAsync(() => owner, intake, $"p{i}.jpg", Acts.Photo(2000 + i, 240, 160));
                Interlocked.Increment(ref sent);
            });
            while (sent < 15)
            {
                await Task.Delay(5);
            }

            Run("bash", cluster, "stop", folder);
            var away = await owner.GetAsync("/api/photos");
            Assert.Equal(HttpStatusCode.ServiceUnavailable, away.StatusCode);
            Assert.NotNull(away.Headers.RetryAfter);
            await Task.Delay(1500);
            Run("bash", cluster, "start", folder);
            await sending;
            await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 60);
            Assert.Equal(60, await site.ScalarAsync<long>("select count(*) from photo"));
            // Connections of before the stop still lie in the pools of this process.
            Npgsql.NpgsqlConnection.ClearAllPools();
            await site.VerifyAsync();
        }
        finally
        {
            Run("bash", cluster, "stop", folder);
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task A_full_disk_refuses_in_words_keeps_what_was_there_and_goes_on_when_there_is_room()
    {
        var disk = Directory.CreateTempSubdirectory("jovitar-disk").FullName;
        string[] sudo = Environment.UserName == "root" ? [] : ["sudo", "-n"];
        void Mount(string options) => Run("env", [.. sudo, "mount", "-t", "tmpfs", "-o", options, "tmpfs", disk]);
        Mount("size=3m,mode=777");
        try
        {
            await using var site = await Site.StartAsync(workers: 2, data: Path.Combine(disk, "data"));
            var owner = await site.OwnerAsync();
            var intake = await owner.IntakeAsync();
            var photos = Enumerable.Range(0, 40).Select(i => Acts.Photo(3000 + i, 1000, 667)).ToArray();
            var refused = 0;
            for (var i = 0; i < photos.Length && refused < 3; i++)
            {
                using var content = new ByteArrayContent(photos[i]) { Headers = { ContentType = new("application/octet-stream") } };
                var answer = await owner.PostAsync($"/api/intakes/{intake}/files?name=p{i}.jpg", content);
                if (!answer.IsSuccessStatusCode)
                {
                    refused++;
                    Assert.Equal(HttpStatusCode.InsufficientStorage, answer.StatusCode);
                    Assert.Contains("The disk is full.", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
                }
            }

            Assert.Equal(3, refused);
            await Task.Delay(1500);
            Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo where state = 'failed'"));
            Run("env", [.. sudo, "mount", "-o", "remount,size=60m", disk]);
            for (var i = 0; i < photos.Length; i++)
            {
                await owner.BringAsync(intake, $"p{i}.jpg", photos[i]);
            }

            await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", photos.Length);
            Assert.Equal(photos.Length, await site.ScalarAsync<long>("select count(*) from photo"));
            await site.VerifyAsync();
        }
        finally
        {
            Run("env", [.. sudo, "umount", "-l", disk]);
            Directory.Delete(disk, recursive: true);
        }
    }

    [Fact]
    public async Task The_same_folder_sent_by_two_people_at_once_is_there_once()
    {
        await using var site = await Site.StartAsync();
        var (one, two) = (await site.OwnerAsync(), await site.OwnerAsync());
        var album = (await (await one.PostAsJsonAsync("/api/albums", new { workingName = "Both" })).ReadAsync()).GetProperty("id").GetString();
        var (first, second) = (await one.IntakeAsync(album), await two.IntakeAsync(album));
        var photos = Enumerable.Range(0, 60).Select(i => Acts.Photo(4000 + i, 500, 333)).ToArray();
        await Parallel.ForEachAsync(Enumerable.Range(0, 120), new ParallelOptions { MaxDegreeOfParallelism = 8 }, async (i, _) =>
            await (i % 2 == 0 ? one : two).BringAsync(i % 2 == 0 ? first : second, $"p{i / 2}.jpg", photos[i / 2]));
        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 60);
        Assert.Equal(60, await site.ScalarAsync<long>("select count(*) from album_photo"));
        Assert.Equal(60, await site.ScalarAsync<long>("select count(distinct place) from album_photo"));
        Assert.Equal(60, await site.ScalarAsync<long>("select count(*) from intake_file where outcome = 'arrived'"));
        Assert.Equal(60, await site.ScalarAsync<long>("select count(*) from intake_file where outcome = 'already_here'"));
        await site.VerifyAsync();
    }
}
