using System.Runtime.ExceptionServices;
using System.Security.Cryptography;
using Jovitar.Server.Platform.Storing;

namespace Jovitar.Server.Intake.Uploads;

/// <summary>A part of an upload that has come.</summary>
/// <param name="Start">Where it begins, bytes.</param>
/// <param name="Stored">Its name among what arrives.</param>
internal sealed record UploadPart(long Start, long Bytes, string Stored);

/// <summary>What a request's bytes must hash to.</summary>
internal sealed record PartChecksum(HashAlgorithmName Name, byte[] Value);

/// <summary>How writing to an upload ended.</summary>
internal enum UploadWrite
{
    Written,
    Elsewhere,
    Gone,
    TooMuch,
    WrongChecksum,
}

/// <summary>
/// Writes what comes of an upload into the storage, part by part, and notes each: what was noted counts, whatever happens next.
/// When two write at once, the part that is noted first counts, and the other is told that the upload stands elsewhere.
/// </summary>
internal sealed class UploadWriter(UploadStore store, Storage storage, TimeProvider clock)
{
    /// <summary>A part ends after so many bytes or so long a time: no more is lost when the process is killed.</summary>
    const int PartBytes = 16 << 20;

    static readonly TimeSpan PartTime = TimeSpan.FromSeconds(10);

    /// <summary>Writes what comes in behind what is here. When the line breaks, what came stays.</summary>
    /// <param name="offset">Where the sender believes to stand.</param>
    /// <param name="checksum">With one, all of it counts or nothing.</param>
    public async Task<(UploadWrite Outcome, long Offset)> WriteAsync(Upload upload, long offset, Stream from, PartChecksum? checksum, CancellationToken ct)
    {
        if (upload.Come != offset)
        {
            return (UploadWrite.Elsewhere, upload.Come);
        }

        using var hash = checksum is null ? null : IncrementalHash.CreateHash(checksum.Name);
        var waiting = new List<UploadPart>();
        var start = offset;
        async Task<(UploadWrite, long)> DropAsync(UploadWrite outcome)
        {
            foreach (var part in waiting)
            {
                await storage.DeleteAsync(StorageKeys.Arriving(part.Stored));
            }

            return (outcome, start);
        }

        async Task<bool> NoteAsync()
        {
            if (waiting.Count > 0 && !await store.NoteAsync(upload.Id, waiting, CancellationToken.None))
            {
                return false;
            }

            waiting.Clear();
            start = offset;
            return true;
        }

        while (true)
        {
            await using var coming = new Coming(from, PartBytes, PartTime, hash, clock, ct);
            var part = new UploadPart(offset, 0, $"{upload.Id.Value:N}-{offset}-{Guid.NewGuid():N}");
            await storage.PutAsync(StorageKeys.Arriving(part.Stored), coming, CancellationToken.None);
            offset += coming.Count;
            waiting.Add(part with { Bytes = coming.Count });
            if (offset > upload.Bytes)
            {
                return await DropAsync(UploadWrite.TooMuch);
            }

            if (coming.Count == 0)
            {
                await storage.DeleteAsync(StorageKeys.Arriving(part.Stored));
                waiting.RemoveAt(waiting.Count - 1);
            }

            if (hash is null && !await NoteAsync())
            {
                return await ElsewhereAsync(await DropAsync(UploadWrite.Gone), upload);
            }

            if (coming.Broken is { } broken)
            {
                await DropAsync(UploadWrite.Gone);
                broken.Throw();
            }

            if (coming.Ended)
            {
                break;
            }
        }

        if (hash is not null)
        {
            if (!CryptographicOperations.FixedTimeEquals(hash.GetHashAndReset(), checksum!.Value))
            {
                return await DropAsync(UploadWrite.WrongChecksum);
            }

            if (!await NoteAsync())
            {
                return await ElsewhereAsync(await DropAsync(UploadWrite.Gone), upload);
            }
        }

        return (UploadWrite.Written, offset);
    }

    /// <summary>Whether an upload that did not take a part stands elsewhere, or is gone.</summary>
    async Task<(UploadWrite, long)> ElsewhereAsync((UploadWrite Outcome, long Offset) dropped, Upload upload) =>
        await store.FindAsync(upload.Id, CancellationToken.None) is { } now ? (UploadWrite.Elsewhere, now.Come) : dropped;

    /// <summary>What comes in until a part is full or has taken its time. A line that breaks ends it like any other end, and is known afterwards.</summary>
    sealed class Coming(Stream from, int most, TimeSpan longest, IncrementalHash? hash, TimeProvider clock, CancellationToken ct) : OnlyRead
    {
        readonly long began = clock.GetTimestamp();

        public long Count { get; private set; }

        public bool Ended { get; private set; }

        public ExceptionDispatchInfo? Broken { get; private set; }

        public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
        {
            if (Count >= most || clock.GetElapsedTime(began) > longest || Ended)
            {
                return 0;
            }

            int read;
            try
            {
                read = await from.ReadAsync(buffer[..(int)Math.Min(buffer.Length, most - Count)], ct);
            }
            catch (Exception e)
            {
                Broken = ExceptionDispatchInfo.Capture(e);
                read = 0;
            }

            Ended = read == 0;
            Count += read;
            hash?.AppendData(buffer.Span[..read]);
            return read;
        }
    }
}
