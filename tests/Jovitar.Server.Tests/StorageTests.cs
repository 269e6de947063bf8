using System.Security.Cryptography;
using Jovitar.Server.Platform.Storing;

namespace Jovitar.Server.Tests;

/// <summary>What every kind of store must do, tried on the one on a disk.</summary>
public sealed class StorageTests : IDisposable
{
    readonly string root = Directory.CreateTempSubdirectory("jovitar-storage").FullName;
    readonly Storage storage;

    public StorageTests() => storage = new Storage(root);

    public void Dispose() => Directory.Delete(root, recursive: true);

    static string Hash(int n) => Convert.ToHexStringLower(SHA256.HashData(BitConverter.GetBytes(n)));

    async Task<byte[]?> ReadAsync(string key)
    {
        await using var stream = await storage.OpenAsync(key);
        if (stream is null)
        {
            return null;
        }

        using var bytes = new MemoryStream();
        await stream.CopyToAsync(bytes);
        return bytes.ToArray();
    }

    [Fact]
    public async Task What_is_put_is_found_opened_listed_and_lent_and_gone_when_it_is_deleted()
    {
        var (key, bytes) = (StorageKeys.Original(Hash(1)), "an original"u8.ToArray());
        Assert.Null(await storage.FindAsync(key));
        Assert.Null(await storage.OpenAsync(key));
        Assert.Null(await storage.LocalAsync(key));
        await storage.PutAsync(key, new MemoryStream(bytes), CancellationToken.None);
        var found = (await storage.FindAsync(key))!;
        Assert.Equal((key, Hash(1), bytes.Length), (found.Key, found.Name, (int)found.Bytes));
        Assert.InRange(found.Written, DateTimeOffset.UtcNow.AddMinutes(-1), DateTimeOffset.UtcNow.AddMinutes(1));
        Assert.Equal(bytes, await ReadAsync(key));
        Assert.Equal([key], await storage.ListAsync($"{StorageKeys.Originals}/", CancellationToken.None).Select(s => s.Key).ToArrayAsync());
        using (var copy = (await storage.LocalAsync(key))!.Value)
        {
            Assert.Equal(bytes, await File.ReadAllBytesAsync(copy.Path));
        }

        await storage.DeleteAsync(key);
        await storage.DeleteAsync(key);
        Assert.Null(await storage.FindAsync(key));
        Assert.Empty(await storage.ListAsync($"{StorageKeys.Originals}/", CancellationToken.None).ToArrayAsync());
    }

    [Fact]
    public async Task A_part_of_what_lies_under_a_key_is_read_without_the_rest()
    {
        var key = StorageKeys.Arriving("a-zip");
        var bytes = RandomNumberGenerator.GetBytes(300_000);
        await storage.PutAsync(key, new MemoryStream(bytes), CancellationToken.None);
        await using var stream = (await storage.OpenAsync(key))!;
        var part = new byte[1000];
        foreach (var at in (int[])[299_000, 5, 150_000])
        {
            stream.Position = at;
            await stream.ReadExactlyAsync(part);
            Assert.Equal(bytes[at..(at + 1000)], part);
        }
    }

    [Fact]
    public async Task What_breaks_off_while_it_is_put_leaves_nothing_and_what_was_there_stays()
    {
        var key = StorageKeys.Arriving("scan-1");
        await storage.PutAsync(key, new MemoryStream("before"u8.ToArray()), CancellationToken.None);
        await Assert.ThrowsAsync<IOException>(() => storage.PutAsync(key, new BreaksOff(), CancellationToken.None));
        Assert.Equal("before"u8.ToArray(), await ReadAsync(key));
        Assert.Empty(Directory.GetFiles(Path.Combine(root, "unfinished")));
        await storage.PutMadeAsync(key, "after"u8.ToArray(), CancellationToken.None);
        Assert.Equal("after"u8.ToArray(), await ReadAsync(key));
    }

    [Fact]
    public async Task Of_many_who_put_where_nothing_is_one_does_and_all_find_the_same()
    {
        var key = StorageKeys.Original(Hash(2));
        await Task.WhenAll(Enumerable.Range(0, 16).Select(async n =>
        {
            var from = StorageKeys.Arriving($"{n:D8}");
            await storage.PutAsync(from, new MemoryStream(BitConverter.GetBytes(n)), CancellationToken.None);
            await storage.PutIfAbsentAsync(key, from);
        }));
        var first = await ReadAsync(key);
        await storage.PutIfAbsentAsync(key, StorageKeys.Arriving("00000015"));
        Assert.Equal(first, await ReadAsync(key));
        // What arrived may go: the original does not hang on it.
        for (var n = 0; n < 16; n++)
        {
            await storage.DeleteAsync(StorageKeys.Arriving($"{n:D8}"));
        }

        Assert.Equal(first, await ReadAsync(key));
        await Assert.ThrowsAsync<FileNotFoundException>(() => storage.PutIfAbsentAsync(StorageKeys.Original(Hash(3)), StorageKeys.Arriving("nothing")));
    }

    [Fact]
    public async Task All_that_was_made_of_one_original_is_listed_and_nothing_of_another()
    {
        foreach (var n in (int[])[4, 5])
        {
            foreach (var width in (int[])[240, 480, 960])
            {
                await storage.PutMadeAsync(StorageKeys.Rendition(Hash(n), width), new byte[width], CancellationToken.None);
            }

            await storage.PutMadeAsync(StorageKeys.Preview(Hash(n)), new byte[7], CancellationToken.None);
        }

        var made = await storage.ListAsync(StorageKeys.MadeOf(Hash(4)), CancellationToken.None).ToArrayAsync();
        Assert.Equal([7, 240, 480, 960], made.Select(m => (int)m.Bytes).Order());
        Assert.All(made, m => Assert.StartsWith(StorageKeys.MadeOf(Hash(4)), m.Key, StringComparison.Ordinal));
        Assert.Equal(8, await storage.ListAsync($"{StorageKeys.Renditions}/", CancellationToken.None).CountAsync());
    }

    [Theory]
    [InlineData("originals/../../../etc/passwd")]
    [InlineData("originals/..%2f..%2fpasswd")]
    [InlineData("arriving/sub/folder")]
    [InlineData("arriving/.hidden")]
    [InlineData("arriving/UPPER")]
    [InlineData("arriving/")]
    public async Task What_is_no_key_leads_nowhere(string key)
    {
        await Assert.ThrowsAsync<ArgumentException>(async () => await storage.FindAsync(key));
        await Assert.ThrowsAsync<ArgumentException>(async () => await storage.OpenAsync(key));
        await Assert.ThrowsAsync<ArgumentException>(() => storage.DeleteAsync(key));
    }

    [Fact]
    public async Task What_arrives_is_measured_alike_however_it_comes()
    {
        var arrivals = new Arrivals(storage);
        var bytes = RandomNumberGenerator.GetBytes((9 << 20) + 17);
        var whole = await arrivals.ReceiveAsync(new MemoryStream(bytes), bytes.Length, CancellationToken.None);
        Assert.Equal(SHA256.HashData(bytes), whole.Hash);
        // SHA-256 of the SHA-256s of pieces of 4 MiB, reckoned here by the base class library.
        Assert.Equal(SHA256.HashData([.. bytes.Chunk(4 << 20).SelectMany(SHA256.HashData)]), whole.Mark);
        Assert.Equal(bytes.Length, whole.Bytes);
        Assert.Equal(bytes[..Measuring.HeadBytes], whole.Head);
        var parts = new List<string>();
        foreach (var (part, n) in bytes.Chunk((3 << 20) + 5).Select((p, n) => (p, n)))
        {
            parts.Add(StorageKeys.Arriving($"part-{n}"));
            await storage.PutAsync(parts[^1], new MemoryStream(part), CancellationToken.None);
        }

        var asked = 0;
        var joined = (await arrivals.JoinAsync(parts, () => Task.FromResult(asked++), CancellationToken.None))!;
        Assert.Equal(parts.Count, asked);
        Assert.Equal((whole.HashText, Convert.ToHexString(whole.Mark), whole.Bytes), (joined.HashText, Convert.ToHexString(joined.Mark), joined.Bytes));
        Assert.Equal(bytes, await ReadAsync(joined.Key));
        var measured = (await arrivals.MeasureAsync(joined.Key, CancellationToken.None))!;
        Assert.Equal(whole.HashText, measured.HashText);
        await storage.DeleteAsync(parts[1]);
        Assert.Null(await arrivals.JoinAsync(parts, () => Task.CompletedTask, CancellationToken.None));
        await Assert.ThrowsAsync<TooManyBytesException>(() => arrivals.ReceiveAsync(new MemoryStream(bytes), bytes.Length - 1, CancellationToken.None));
        Assert.Empty(Directory.GetFiles(Path.Combine(root, "unfinished")));
    }

    [Fact]
    public async Task What_nobody_awaits_is_swept_and_what_still_may_be_is_not()
    {
        var arrivals = new Arrivals(storage);
        async Task PutAsync(string name, TimeSpan age)
        {
            await storage.PutAsync(StorageKeys.Arriving(name), new MemoryStream([1]), CancellationToken.None);
            File.SetLastWriteTimeUtc(Path.Combine(root, "arriving", name), DateTime.UtcNow - age);
        }

        await PutAsync("fresh", TimeSpan.Zero);
        await PutAsync("left", TimeSpan.FromMinutes(5));
        await PutAsync("awaited", TimeSpan.FromDays(3));
        // Parts of a request that still runs, and pages somebody may still keep, have a day.
        await PutAsync("abc-0-def", TimeSpan.FromHours(2));
        await PutAsync("abc-5-def", TimeSpan.FromDays(2));
        await PutAsync("scan-abc", TimeSpan.FromHours(20));
        await arrivals.SweepAsync(DateTimeOffset.UtcNow, new HashSet<string> { "awaited" }, CancellationToken.None);
        var stay = await storage.ListAsync($"{StorageKeys.Arrivals}/", CancellationToken.None).Select(s => s.Name).ToArrayAsync();
        Assert.Equal(["abc-0-def", "awaited", "fresh", "scan-abc"], stay.Order(StringComparer.Ordinal));
    }

    /// <summary>Gives some bytes and then fails, as a line does that breaks.</summary>
    sealed class BreaksOff : OnlyRead
    {
        int left = 3;

        public override ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default) =>
            left-- > 0 ? ValueTask.FromResult(buffer.Length) : throw new IOException("The line broke.");
    }
}
