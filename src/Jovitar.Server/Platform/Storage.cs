using System.Buffers;
using System.Runtime.InteropServices;
using System.Security.Cryptography;

namespace Jovitar.Server.Platform;

/// <summary>A file that has arrived whole but has no lasting name yet.</summary>
/// <param name="Head">Its first bytes, enough to judge what it is.</param>
/// <param name="Mark">SHA-256 of the SHA-256s of its pieces of <see cref="Storage.PieceBytes"/>: what a browser can tell two files apart by.</param>
internal sealed record Arrived(string Path, byte[] Hash, byte[] Mark, long Bytes, byte[] Head)
{
    public string HashText => Convert.ToHexStringLower(Hash);
}

/// <summary>Originals and renditions on a local disk, each under the SHA-256 of the original.</summary>
internal sealed partial class Storage
{
    const int BufferBytes = 64 * 1024;

    /// <summary>So many first bytes are enough to judge what a file is.</summary>
    public const int HeadBytes = 1024;

    /// <summary>A whole number of buffers.</summary>
    public const int PieceBytes = 4 << 20;
    /// <summary>How the names of scanned pages begin.</summary>
    public const string ScannedPage = "scan-";

    const int AlreadyThere = 17;
    const int DiskFull = 28;

    readonly string root;

    public Storage(string root)
    {
        this.root = root;
        foreach (var folder in (string[])["originals", "renditions", "arriving"])
        {
            Directory.CreateDirectory(Path.Combine(root, folder));
        }
    }

    public string Root => root;

    /// <summary>Where the original with this hash lies, or will lie.</summary>
    public string Original(string hash) => Path.Combine(root, "originals", hash[..2], hash[2..4], hash);

    public string Rendition(string hash, int width) => Path.Combine(root, "renditions", hash[..2], hash[2..4], $"{hash}-{Core.Photos.Renditions.Recipe}-{width}.webp");

    /// <summary>The small picture out of the file itself.</summary>
    public string Preview(string hash) => Path.Combine(root, "renditions", hash[..2], hash[2..4], $"{hash}-preview.jpg");

    /// <summary>A file that is still arriving, by a name of its own.</summary>
    public string Arriving(string name) => Path.Combine(root, "arriving", name);

    /// <summary>Streams bytes to disk while hashing them; at most one buffer is in memory.</summary>
    /// <exception cref="TooManyBytesException">More than <paramref name="most"/> bytes came.</exception>
    public async Task<Arrived> ReceiveAsync(Stream from, long most, CancellationToken ct)
    {
        var path = Arriving(Guid.NewGuid().ToString("N"));
        try
        {
            await using (var file = new FileStream(path, FileMode.CreateNew, FileAccess.Write, FileShare.None, 1, FileOptions.Asynchronous))
            {
                return await HashAsync(path, from, most, (bytes, token) => file.WriteAsync(bytes, token), () => file.Flush(flushToDisk: true), ct);
            }
        }
        catch
        {
            File.Delete(path);
            throw;
        }
    }

    /// <summary>Hashes a file that arrived in parts.</summary>
    /// <param name="name">Its name among what arrives.</param>
    public async Task<Arrived> MeasureAsync(string name, CancellationToken ct)
    {
        await using var file = new FileStream(Arriving(name), FileMode.Open, FileAccess.ReadWrite, FileShare.ReadWrite, 1, FileOptions.Asynchronous | FileOptions.SequentialScan);
        return await HashAsync(file.Name, file, long.MaxValue, (_, _) => ValueTask.CompletedTask, () => file.Flush(flushToDisk: true), ct);
    }

    static async Task<Arrived> HashAsync(string path, Stream from, long most, Func<ReadOnlyMemory<byte>, CancellationToken, ValueTask> write, Action end, CancellationToken ct)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        using var marks = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        using var piece = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var left = PieceBytes;
        var head = new byte[HeadBytes];
        long count = 0;
        var buffer = ArrayPool<byte>.Shared.Rent(BufferBytes);
        try
        {
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
                for (var at = 0; at < read;)
                {
                    var part = Math.Min(left, read - at);
                    piece.AppendData(buffer, at, part);
                    at += part;
                    left -= part;
                    if (left == 0)
                    {
                        marks.AppendData(piece.GetHashAndReset());
                        left = PieceBytes;
                    }
                }

                await write(buffer.AsMemory(0, read), ct);
            }
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }

        end();
        if (left < PieceBytes)
        {
            marks.AppendData(piece.GetHashAndReset());
        }

        return new Arrived(path, hash.GetHashAndReset(), marks.GetHashAndReset(), count, head[..(int)Math.Min(count, head.Length)]);
    }

    /// <summary>Gives a file its lasting name besides the one it arrived under. When the same bytes are already there, they stay.</summary>
    /// <exception cref="IOException">The disk is full, or does not take the name.</exception>
    public void Keep(Arrived arrived)
    {
        var path = Original(arrived.HashText);
        if (File.Exists(path))
        {
            return;
        }

        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        if (Link(arrived.Path, path) != 0 && Marshal.GetLastPInvokeError() is not AlreadyThere and var error)
        {
            throw new IOException(error == DiskFull ? "No space left on device" : $"The original could not be kept (error {error}).", error);
        }
    }

    public static void Drop(Arrived arrived) => File.Delete(arrived.Path);

    /// <summary>link(2): a second name for the same file, or an error when the name is taken; never half a file.</summary>
    [LibraryImport("libc", EntryPoint = "link", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    private static partial int Link(string from, string to);

    /// <summary>Originals that a version before this one marked as in doubt; their marks go.</summary>
    public IReadOnlyList<string> TakeOldMarks()
    {
        var folder = new DirectoryInfo(Path.Combine(root, "keeping"));
        if (!folder.Exists)
        {
            return [];
        }

        var marks = folder.GetFiles().Select(f => f.Name).ToArray();
        folder.Delete(recursive: true);
        return marks;
    }

    /// <summary>Removes an original and everything made of it.</summary>
    public void Remove(string hash)
    {
        File.Delete(Original(hash));
        RemoveRenditions(hash);
    }

    void RemoveRenditions(string hash)
    {
        var folder = Path.GetDirectoryName(Preview(hash))!;
        if (Directory.Exists(folder))
        {
            foreach (var file in Directory.GetFiles(folder, $"{hash}-*"))
            {
                File.Delete(file);
            }
        }
    }

    /// <summary>Removes what interrupted uploads left behind, but for the names that are still awaited. Scanned pages wait a day for somebody to decide.</summary>
    public void SweepArriving(TimeSpan olderThan, DateTimeOffset now, IReadOnlySet<string> awaited)
    {
        foreach (var file in new DirectoryInfo(Path.Combine(root, "arriving")).EnumerateFiles())
        {
            var life = file.Name.StartsWith(ScannedPage, StringComparison.Ordinal) ? TimeSpan.FromDays(1) : olderThan;
            if (file.LastWriteTimeUtc < now.UtcDateTime - life && !awaited.Contains(Path.GetFileNameWithoutExtension(file.Name)))
            {
                file.Delete();
            }
        }
    }
}

/// <summary>An upload went over the limit while it ran.</summary>
internal sealed class TooManyBytesException : Exception;
