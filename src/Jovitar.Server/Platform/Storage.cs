using System.Security.Cryptography;

namespace Jovitar.Server.Platform;

/// <summary>A file that has arrived whole but has no name yet.</summary>
internal sealed record Arrived(string Path, byte[] Hash, long Bytes, byte[] Head);

/// <summary>Originals and renditions on a local disk, each under the SHA-256 of the original.</summary>
internal sealed class Storage
{
    readonly string root;

    public Storage(string root)
    {
        this.root = root;
        foreach (var folder in (string[])["originals", "renditions", "arriving"])
        {
            Directory.CreateDirectory(Path.Combine(root, folder));
        }
    }

    /// <summary>Where the original with this hash lies, or will lie.</summary>
    public string Original(string hash) => Path.Combine(root, "originals", hash[..2], hash[2..4], hash);

    public string Rendition(string hash, int width) => Path.Combine(root, "renditions", hash[..2], hash[2..4], $"{hash}-{Core.Photos.Renditions.Recipe}-{width}.webp");

    /// <summary>Streams bytes to disk while hashing them; at most one buffer is in memory.</summary>
    /// <exception cref="TooManyBytesException">More than <paramref name="most"/> bytes came.</exception>
    public async Task<Arrived> ReceiveAsync(Stream from, long most, CancellationToken ct)
    {
        var path = Path.Combine(root, "arriving", Path.GetRandomFileName());
        try
        {
            using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
            var head = new byte[Imaging.PictureKinds.BytesNeeded];
            long count = 0;
            await using (var file = new FileStream(path, FileMode.CreateNew, FileAccess.Write, FileShare.None, 1, FileOptions.Asynchronous))
            {
                var buffer = new byte[128 * 1024];
                int read;
                while ((read = await from.ReadAsync(buffer, ct)) > 0)
                {
                    if (count < head.Length)
                    {
                        buffer.AsSpan(0, (int)Math.Min(read, head.Length - count)).CopyTo(head.AsSpan((int)count));
                    }

                    count += read;
                    if (count > most)
                    {
                        throw new TooManyBytesException();
                    }

                    hash.AppendData(buffer, 0, read);
                    await file.WriteAsync(buffer.AsMemory(0, read), ct);
                }

                file.Flush(flushToDisk: true);
            }

            return new Arrived(path, hash.GetHashAndReset(), count, head[..(int)Math.Min(count, head.Length)]);
        }
        catch
        {
            File.Delete(path);
            throw;
        }
    }

    /// <summary>Gives a file its lasting name. When the same bytes are already there, they stay.</summary>
    public void Keep(Arrived arrived)
    {
        var path = Original(Convert.ToHexStringLower(arrived.Hash));
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        if (File.Exists(path))
        {
            File.Delete(arrived.Path);
        }
        else
        {
            File.Move(arrived.Path, path, overwrite: true);
        }
    }

    public static void Drop(Arrived arrived) => File.Delete(arrived.Path);

    /// <summary>Removes what interrupted uploads left behind.</summary>
    public void SweepArriving(TimeSpan olderThan, DateTimeOffset now)
    {
        foreach (var file in new DirectoryInfo(Path.Combine(root, "arriving")).EnumerateFiles())
        {
            if (file.LastWriteTimeUtc < now.UtcDateTime - olderThan)
            {
                file.Delete();
            }
        }
    }
}

/// <summary>An upload went over the limit while it ran.</summary>
internal sealed class TooManyBytesException : Exception;
