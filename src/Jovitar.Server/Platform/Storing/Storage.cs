using System.Buffers;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using Microsoft.Net.Http.Headers;

namespace Jovitar.Server.Platform.Storing;

/// <summary>What lies under a key.</summary>
/// <param name="Written">When it was last written to.</param>
internal sealed record Stored(string Key, long Bytes, DateTimeOffset Written)
{
    /// <summary>The key without its folder.</summary>
    public string Name => Key[(Key.IndexOf('/', StringComparison.Ordinal) + 1)..];
}

/// <summary>A file of this machine with what lies under a key, for a library that reads nothing but files. It is read only, and let go of afterwards.</summary>
internal readonly struct LocalCopy(string path) : IDisposable
{
    public string Path => path;

    /// <summary>What lies on this machine's disk is not copied, so that nothing is to be removed.</summary>
    public void Dispose()
    {
    }
}

/// <summary>
/// Bytes under keys (<see cref="StorageKeys"/>), on a local disk or one that several machines share. Only here is it known where
/// they lie: all else speaks keys and streams, so that another kind of store is another class of this shape.
/// </summary>
internal sealed partial class Storage
{
    const int BufferBytes = 64 * 1024;
    const int AlreadyThere = 17;
    const int NotThere = 2;
    const int DiskFull = 28;

    /// <summary>How many files may lie in one folder of a disk is not unlimited: names that begin with a hash are spread by its first four digits.</summary>
    const int Spread = 4;

    static readonly SearchValues<char> InNames = SearchValues.Create("0123456789abcdefghijklmnopqrstuvwxyz-.");

    readonly string root;

    public Storage(string root)
    {
        this.root = root;
        foreach (var folder in (string[])[StorageKeys.Originals, StorageKeys.Renditions, StorageKeys.Arrivals, StorageKeys.Sent, Unfinished])
        {
            Directory.CreateDirectory(Path.Combine(root, folder));
        }
    }

    /// <summary>What is being written lies here and is no key yet.</summary>
    const string Unfinished = "unfinished";

    /// <summary>In a trial with many rows, under which other key lies what is not there; null where every photo has bytes of its own.</summary>
    public Func<string, ValueTask<string?>>? Instead { get; set; }

    /// <summary>What lies under a key; null when nothing does.</summary>
    public async ValueTask<Stored?> FindAsync(string key) =>
        Find(key) ?? (Instead is { } instead && await instead(key) is { } other ? Find(other) : null);

    /// <summary>What lies under a key of this place, null when nothing does; nowhere else is it looked for.</summary>
    public Stored? Find(string key) => new FileInfo(PathOf(key)) is { Exists: true } file ? new Stored(key, file.Length, new DateTimeOffset(file.LastWriteTimeUtc)) : null;

    /// <summary>Opens what lies under a key, to be read from anywhere in it; null when nothing does.</summary>
    public ValueTask<Stream?> OpenAsync(string key)
    {
        try
        {
            return ValueTask.FromResult<Stream?>(new FileStream(PathOf(key), FileMode.Open, FileAccess.Read, FileShare.Read | FileShare.Delete, BufferBytes, FileOptions.Asynchronous));
        }
        catch (Exception e) when (e is FileNotFoundException or DirectoryNotFoundException)
        {
            return ValueTask.FromResult<Stream?>(null);
        }
    }

    /// <summary>A file of this machine with what lies under a key; null when nothing does.</summary>
    public async ValueTask<LocalCopy?> LocalAsync(string key) => await FindAsync(key) is { } there ? new LocalCopy(PathOf(there.Key)) : null;

    /// <summary>Puts a stream under a key, whole or not at all; once this returns it outlives a power cut. At most one buffer is in memory.</summary>
    /// <exception cref="IOException">The disk is full, say.</exception>
    public async Task PutAsync(string key, Stream from, CancellationToken ct)
    {
        var unfinished = NewUnfinished();
        try
        {
            await using (var file = new FileStream(unfinished, FileMode.CreateNew, FileAccess.Write, FileShare.None, 1, FileOptions.Asynchronous))
            {
                await from.CopyToAsync(file, BufferBytes, ct);
                file.Flush(flushToDisk: true);
            }

            Finish(unfinished, key);
        }
        finally
        {
            File.Delete(unfinished);
        }
    }

    /// <summary>Puts what can be made again under a key, whole or not at all.</summary>
    /// <exception cref="IOException">The disk is full, say.</exception>
    public async Task PutMadeAsync(string key, ReadOnlyMemory<byte> bytes, CancellationToken ct)
    {
        var unfinished = NewUnfinished();
        try
        {
            await File.WriteAllBytesAsync(unfinished, bytes, ct);
            Finish(unfinished, key);
        }
        finally
        {
            File.Delete(unfinished);
        }
    }

    /// <summary>A path of this machine that nobody else uses, for what is put together before it is sent; what a killed process leaves there goes with what is unfinished.</summary>
    public string NewScratch() => NewUnfinished();

    /// <summary>Room outside memory for what is put together before it is sent; it is gone when it is closed.</summary>
    public Stream OpenScratch() => new FileStream(NewUnfinished(), FileMode.CreateNew, FileAccess.ReadWrite, FileShare.None, 64 * 1024, FileOptions.DeleteOnClose | FileOptions.Asynchronous);

    string NewUnfinished() => Path.Combine(root, Unfinished, Guid.NewGuid().ToString("N"));

    void Finish(string unfinished, string key)
    {
        var path = PathOf(key);
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        File.Move(unfinished, path, overwrite: true);
    }

    /// <summary>Puts what lies under one key under another, too, unless something lies there already; never half of it.</summary>
    /// <exception cref="IOException">The disk is full, or does not take the name.</exception>
    public Task PutIfAbsentAsync(string key, string from)
    {
        var path = PathOf(key);
        if (File.Exists(path))
        {
            return Task.CompletedTask;
        }

        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        if (Link(PathOf(from), path) != 0 && Marshal.GetLastPInvokeError() is not AlreadyThere and var error)
        {
            throw error switch
            {
                DiskFull => new IOException("No space left on device", error),
                NotThere => new FileNotFoundException($"Nothing lies under {from}.", from),
                _ => new IOException($"{from} could not be kept under {key} (error {error}).", error),
            };
        }

        return Task.CompletedTask;
    }

    /// <summary>link(2): a second name for the same file, or an error when the name is taken; never half a file.</summary>
    [LibraryImport("libc", EntryPoint = "link", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    private static partial int Link(string from, string to);

    /// <summary>Removes what lies under a key, if anything does.</summary>
    public Task DeleteAsync(string key)
    {
        try
        {
            File.Delete(PathOf(key));
        }
        catch (DirectoryNotFoundException)
        {
            // Nothing with such a name was ever kept.
        }

        return Task.CompletedTask;
    }

    /// <summary>What lies under keys that begin so: a folder, or a folder and the first characters of a name.</summary>
    public async IAsyncEnumerable<Stored> ListAsync(string prefix, [EnumeratorCancellation] CancellationToken ct)
    {
        await Task.CompletedTask;
        var (folder, start) = Cut(prefix);
        var at = Path.Combine(root, folder);
        if (IsSpread(folder) && start.Length >= Spread)
        {
            at = Path.Combine(at, start[..2], start[2..Spread]);
        }

        if (!Directory.Exists(at))
        {
            yield break;
        }

        foreach (var file in new DirectoryInfo(at).EnumerateFiles($"{start}*", SearchOption.AllDirectories))
        {
            ct.ThrowIfCancellationRequested();
            Stored found;
            try
            {
                found = new Stored($"{folder}/{file.Name}", file.Length, new DateTimeOffset(file.LastWriteTimeUtc));
            }
            catch (FileNotFoundException)
            {
                // Removed since it was listed.
                continue;
            }

            yield return found;
        }
    }

    /// <summary>Removes what was never written to its end: the process that did was killed.</summary>
    public Task DropUnfinishedAsync(DateTimeOffset before)
    {
        foreach (var file in new DirectoryInfo(Path.Combine(root, Unfinished)).EnumerateFiles())
        {
            if (file.LastWriteTimeUtc < before.UtcDateTime)
            {
                file.Delete();
            }
        }

        return Task.CompletedTask;
    }

    /// <summary>An answer with what lies under a key; parts of it may be asked for.</summary>
    /// <param name="name">What it is called where it is saved rather than shown.</param>
    public FileAnswer Answer(Stored file, string mediaType, string? name = null, string? tag = null) =>
        new(TypedResults.PhysicalFile(PathOf(file.Key), mediaType, name, file.Written, tag is null ? null : new EntityTagHeaderValue(tag), enableRangeProcessing: true));

    /// <summary>Sends what lies under a key, without asking what is wanted of it.</summary>
    public Task SendAsync(HttpResponse answer, Stored file, CancellationToken ct)
    {
        answer.ContentLength = file.Bytes;
        return answer.SendFileAsync(PathOf(file.Key), 0, file.Bytes, ct);
    }

    /// <summary>Originals that an earlier version marked as in doubt; their marks go.</summary>
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

    static (string Folder, string Name) Cut(string key)
    {
        var cut = key.IndexOf('/', StringComparison.Ordinal);
        return (key[..cut], key[(cut + 1)..]);
    }

    static bool IsSpread(string folder) => folder is StorageKeys.Originals or StorageKeys.Renditions;

    string PathOf(string key)
    {
        var (folder, name) = Cut(key);
        if (name.Length < Spread || name[0] == '.' || name.AsSpan().ContainsAnyExcept(InNames))
        {
            throw new ArgumentException($"“{key}” is no key.", nameof(key));
        }

        return IsSpread(folder) ? Path.Combine(root, folder, name[..2], name[2..Spread], name) : Path.Combine(root, folder, name);
    }
}

/// <summary>An answer with what lies under a key of the storage.</summary>
internal sealed class FileAnswer(IResult sent) : IResult
{
    public Task ExecuteAsync(HttpContext httpContext) => sent.ExecuteAsync(httpContext);
}
