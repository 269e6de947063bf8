using System.Diagnostics;
using System.Net;
using System.Security.Cryptography;

namespace Jovitar.Server.Tests;

/// <summary>Senders who do whatever the dice say to uploads on two servers of one site, one of which is killed again and again.</summary>
public sealed class UploadChaosTests
{
    /// <summary>What a sender may be told; anything else is a fault.</summary>
    static readonly HashSet<int> Allowed = [200, 204, 400, 409, 413, 415, 423, 460];

    sealed record Sent(string Address, byte[] Bytes);

    /// <summary>Two servers; the second may be away for a moment.</summary>
    sealed class Two(Site site) : IAsyncDisposable
    {
        readonly (Process Process, HttpClient Client)[] servers = new (Process, HttpClient)[2];

        public async Task StartAsync()
        {
            for (var i = 0; i < 2; i++)
            {
                servers[i] = await ServerProcess.StartAsync(site, ("Jovitar__Workers", "1"), ("Jovitar__Lease", "00:00:20"));
            }
        }

        public HttpClient First => servers[0].Client;

        public HttpClient Any(Random dice) => servers[dice.Next(2)].Client;

        public async Task KillSecondAsync()
        {
            servers[1].Process.Kill();
            await servers[1].Process.WaitForExitAsync();
            servers[1].Process.Dispose();
            servers[1] = await ServerProcess.StartAsync(site, ("Jovitar__Workers", "1"), ("Jovitar__Lease", "00:00:20"));
        }

        public ValueTask DisposeAsync()
        {
            foreach (var (process, client) in servers)
            {
                process.Kill();
                process.Dispose();
                client.Dispose();
            }

            return ValueTask.CompletedTask;
        }
    }

    static string Sum(byte[] of) => $"sha256 {Convert.ToBase64String(SHA256.HashData(of))}";

    /// <summary>Does one thing to one upload; a line that breaks is no answer.</summary>
    static async Task<int?> DoAsync(HttpClient client, Sent sent, Random dice)
    {
        try
        {
            var head = await client.TusAsync(HttpMethod.Head, sent.Address);
            if (!head.IsSuccessStatusCode)
            {
                return (int)head.StatusCode;
            }

            var stands = int.Parse(head.Headers.GetValues("Upload-Offset").Single(), System.Globalization.CultureInfo.InvariantCulture);
            Assert.InRange(stands, 0, sent.Bytes.Length);
            var rest = sent.Bytes[stands..];
            var some = rest[..dice.Next(rest.Length + 1)];
            using var answer = dice.Next(7) switch
            {
                0 when rest.Length > 0 => await client.PatchAsync(sent.Address, stands, new Tus.Broken(rest, dice.Next(rest.Length))),
                1 => await client.PatchAsync(sent.Address, stands, new ByteArrayContent(some), ("Upload-Checksum", Sum(sent.Bytes))),
                2 => await client.PatchAsync(sent.Address, dice.Next(sent.Bytes.Length + 10), new ByteArrayContent(some)),
                3 => await client.PatchAsync(sent.Address, stands, new ByteArrayContent(new byte[rest.Length + 1 + dice.Next(9)])),
                _ => await client.PatchAsync(sent.Address, stands, new ByteArrayContent(some), ("Upload-Checksum", Sum(some))),
            };
            return (int)answer.StatusCode;
        }
        catch (Exception e) when (e is HttpRequestException or IOException or TaskCanceledException)
        {
            return null;
        }
    }

    /// <summary>Sends what is missing until nothing is, as a patient sender does.</summary>
    static async Task FinishAsync(HttpClient client, Sent sent)
    {
        for (var tries = 0; tries < 100; tries++)
        {
            var stands = (int)await client.OffsetAsync(sent.Address);
            var answer = await client.PatchAsync(sent.Address, stands, new ByteArrayContent(sent.Bytes[stands..]));
            if (answer.StatusCode == HttpStatusCode.NoContent)
            {
                return;
            }

            Assert.Contains((int)answer.StatusCode, Allowed);
            await Task.Delay(50);
        }

        Assert.Fail($"{sent.Address} was never complete");
    }

    [Fact]
    public async Task Whatever_senders_do_every_file_arrives_once_and_whole()
    {
        await using var site = await Site.StartAsync(process: false);
        await using var two = new Two(site);
        await two.StartAsync();
        var intake = await two.First.IntakeAsync();
        var files = Enumerable.Range(0, 6).Select(i => Acts.Photo(300 + i, 400 + (150 * i), 300)).ToArray();
        var uploads = new List<Sent>();
        foreach (var (bytes, i) in files.Concat(files[..3]).Select((b, i) => (b, i)))
        {
            uploads.Add(new Sent(await two.First.CreateAsync(intake, $"f{i % files.Length}.jpg", bytes.Length, i < files.Length ? "" : "again"), bytes));
        }

        using var over = new CancellationTokenSource();
        var killing = Task.Run(async () =>
        {
            // The senders end with it, also where it fails.
            try
            {
                for (var i = 0; i < 3; i++)
                {
                    await Task.Delay(700);
                    await two.KillSecondAsync();
                }
            }
            finally
            {
                await over.CancelAsync();
            }
        });
        var told = new System.Collections.Concurrent.ConcurrentDictionary<int, int>();
        await Task.WhenAll(Enumerable.Range(0, 4).Select(async n =>
        {
            var dice = new Random(40 + n);
            while (!over.IsCancellationRequested)
            {
                if (await DoAsync(two.Any(dice), uploads[dice.Next(uploads.Count)], dice) is { } status)
                {
                    told.AddOrUpdate(status, 1, (_, times) => times + 1);
                }
            }
        }));
        await killing;
        Assert.All(told.Keys, status => Assert.Contains(status, Allowed));
        Assert.True(told.GetValueOrDefault(204) > 5, "nothing was sent at all");
        foreach (var sent in uploads)
        {
            await FinishAsync(two.First, sent);
        }

        // One that a killed server had begun to take in is taken in when its claim has run out and somebody asks after it.
        for (var end = DateTime.UtcNow.AddSeconds(60); await site.ScalarAsync<long>("select count(*) from intake_file") < uploads.Count && DateTime.UtcNow < end;)
        {
            await Task.WhenAll(uploads.Select(u => two.First.OffsetAsync(u.Address)));
            await Task.Delay(200);
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", files.Length);
        foreach (var bytes in files)
        {
            var hash = Convert.ToHexStringLower(SHA256.HashData(bytes));
            var photo = await site.ScalarAsync<Guid>($"select id from photo where hash = decode('{hash}', 'hex')");
            Assert.Equal(bytes, await two.First.GetByteArrayAsync($"/api/photos/{photo}/original"));
        }

        Assert.Equal(files.Length, await site.ScalarAsync<long>("select count(*) from photo"));
        Assert.Equal(uploads.Count, await site.ScalarAsync<long>("select count(*) from intake_file"));
        Assert.Equal(files.Length, await site.ScalarAsync<long>("select count(*) from intake_file where outcome = 'arrived'"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from upload_part"));
        await site.VerifyAsync();
    }
}
