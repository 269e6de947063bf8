using System.Runtime.CompilerServices;

namespace Jovitar.Server.Platform.Storing;

/// <summary>A file that has arrived whole but has no lasting key yet.</summary>
/// <param name="Mark">SHA-256 of the SHA-256s of its pieces of <see cref="Measuring.PieceBytes"/>: what a browser can tell two files apart by.</param>
/// <param name="Head">Its first bytes, enough to judge what it is.</param>
internal sealed record Arrived(string Key, byte[] Hash, byte[] Mark, long Bytes, byte[] Head)
{
    public string HashText => Convert.ToHexStringLower(Hash);

    /// <summary>Its name among what arrives.</summary>
    public string Name => Key[(StorageKeys.Arrivals.Length + 1)..];
}

/// <summary>What arrives: bytes that are measured while they come, under keys that last until somebody has taken them in.</summary>
internal sealed class Arrivals(Storage storage)
{
    /// <summary>How long something whole waits that nobody has noted yet: no request that is still at work takes so long.</summary>
    public static readonly TimeSpan Quiet = TimeSpan.FromMinutes(2);

    /// <summary>How long parts wait for the rest of their request, and scanned pages for somebody to decide.</summary>
    static readonly TimeSpan Patience = TimeSpan.FromDays(1);

    /// <summary>Streams bytes to the storage while measuring them; at most one buffer is in memory.</summary>
    /// <param name="name">Its name among what arrives; any when null.</param>
    /// <exception cref="TooManyBytesException">More than <paramref name="most"/> bytes came.</exception>
    public async Task<Arrived> ReceiveAsync(Stream from, long most, CancellationToken ct, string? name = null)
    {
        var key = StorageKeys.Arriving(name ?? Guid.NewGuid().ToString("N"));
        await using var measuring = new Measuring(from, most);
        await storage.PutAsync(key, measuring, ct);
        return measuring.Of(key);
    }

    /// <summary>Measures what has arrived under a key already; null when nothing has.</summary>
    public async Task<Arrived?> MeasureAsync(string key, CancellationToken ct)
    {
        await using var from = await storage.OpenAsync(key);
        if (from is null)
        {
            return null;
        }

        await using var measuring = new Measuring(from, long.MaxValue);
        await measuring.CopyToAsync(Stream.Null, ct);
        return measuring.Of(key);
    }

    /// <summary>Makes one of what has arrived in parts. A part that is the only one stays where it is.</summary>
    /// <param name="between">Called before each part: this may take long.</param>
    /// <returns>Null when a part is not there.</returns>
    public async Task<Arrived?> JoinAsync(IReadOnlyList<string> parts, Func<Task> between, CancellationToken ct)
    {
        if (parts.Count == 1)
        {
            return await MeasureAsync(parts[0], ct);
        }

        try
        {
            await using var joined = new Joined(storage, parts, between);
            return await ReceiveAsync(joined, long.MaxValue, ct);
        }
        catch (FileNotFoundException)
        {
            return null;
        }
    }

    public Task DropAsync(Arrived arrived) => storage.DeleteAsync(arrived.Key);

    /// <summary>What nobody awaits any more: interrupted uploads left it behind.</summary>
    public async IAsyncEnumerable<Stored> LeftAsync(DateTimeOffset now, IReadOnlySet<string> awaited, [EnumeratorCancellation] CancellationToken ct)
    {
        await foreach (var file in storage.ListAsync(StorageKeys.Arriving(""), ct))
        {
            // Parts and pages have a hyphen in their names; what has arrived whole has none.
            if (file.Written < now - (file.Name.Contains('-', StringComparison.Ordinal) ? Patience : Quiet) && !awaited.Contains(file.Name))
            {
                yield return file;
            }
        }
    }

    /// <summary>Removes what nobody awaits any more.</summary>
    public async Task SweepAsync(DateTimeOffset now, IReadOnlySet<string> awaited, CancellationToken ct)
    {
        await foreach (var file in LeftAsync(now, awaited, ct))
        {
            await storage.DeleteAsync(file.Key);
        }
    }

    /// <summary>The parts of something, one after another.</summary>
    sealed class Joined(Storage storage, IReadOnlyList<string> parts, Func<Task> between) : OnlyRead
    {
        int next;
        Stream? part;

        public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
        {
            while (true)
            {
                if (part is not null && await part.ReadAsync(buffer, cancellationToken) is > 0 and var read)
                {
                    return read;
                }

                if (next == parts.Count)
                {
                    return 0;
                }

                await between();
                if (part is not null)
                {
                    await part.DisposeAsync();
                }

                part = await storage.OpenAsync(parts[next++]) ?? throw new FileNotFoundException("A part is gone.", parts[next - 1]);
            }
        }

        public override async ValueTask DisposeAsync()
        {
            if (part is not null)
            {
                await part.DisposeAsync();
            }

            await base.DisposeAsync();
        }
    }
}

/// <summary>An upload went over the limit while it ran.</summary>
internal sealed class TooManyBytesException : Exception;
