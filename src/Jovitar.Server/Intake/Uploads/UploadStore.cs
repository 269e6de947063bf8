using System.Buffers;
using System.Security.Cryptography;
using Jovitar.Core;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Intake.Uploads;

/// <summary>An upload that has begun.</summary>
/// <param name="Bytes">How long the whole file is.</param>
/// <param name="Number">Its line in the intake once it is done.</param>
internal sealed record Upload(UploadId Id, IntakeId Intake, Incoming Incoming, long Bytes, DateTimeOffset Expires, int? Number)
{
    public string Stored => Id.Value.ToString("N");
}

/// <summary>How ending an upload ended.</summary>
internal enum UploadEnd
{
    Ended,
    Gone,
    Busy,
    Complete,
}

/// <summary>How writing to an upload ended.</summary>
internal enum UploadWrite
{
    Written,
    Elsewhere,
    Busy,
    Gone,
    TooMuch,
    WrongChecksum,
}

/// <summary>Uploads in parts. How much has come is the length of the file on disk: what was written before the line broke, or the process was killed, counts.</summary>
internal sealed class UploadStore(NpgsqlDataSource db, Storage storage, TimeProvider clock)
{
    /// <summary>An upload that nobody goes on with is forgotten after so long.</summary>
    public static readonly TimeSpan Life = TimeSpan.FromDays(7);

    const string HoldEnding = ".hold";

    public async Task<Upload?> BeginAsync(IntakeId intake, Incoming incoming, long bytes, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        var id = new UploadId(Guid.CreateVersion7(now));
        var upload = new Upload(id, intake, incoming with { Upload = id }, bytes, now + Life, null);
        await File.WriteAllBytesAsync(storage.Arriving(upload.Stored), [], ct);
        await using var command = db.Command(
            """
            insert into upload (id, intake, file_name, path, bytes, changed, begun, expires)
            select @id, i.id, @name, @path, @bytes, @changed::bigint, @now, @expires
              from intake as i
             where i.id = @intake and i.taken_back is null
            """,
            ("id", upload.Id.Value), ("intake", intake.Value), ("name", incoming.FileName), ("path", incoming.Path), ("bytes", bytes), ("changed", incoming.Changed), ("now", now), ("expires", upload.Expires));
        if (await command.ExecuteNonQueryAsync(ct) == 1)
        {
            return upload;
        }

        Forget(upload.Stored);
        return null;
    }

    public async Task<Upload?> FindAsync(UploadId id, CancellationToken ct)
    {
        await using var command = db.Command($"{Sql} where id = @id", ("id", id.Value));
        return await command.FirstAsync(Read, ct);
    }

    const string Sql = "select id, intake, file_name, path, bytes, changed, expires, number from upload";

    static Upload Read(NpgsqlDataReader r)
    {
        var id = new UploadId(r.Get<Guid>("id"));
        var incoming = new Incoming(r.Get<string>("file_name"), r.Get<string>("path")) { Upload = id, Changed = r.Maybe<long>("changed") };
        return new Upload(id, new IntakeId(r.Get<Guid>("intake")), incoming, r.Get<long>("bytes"), r.Get<DateTimeOffset>("expires"), r.Maybe<int>("number"));
    }

    /// <summary>How much of an upload is here, bytes.</summary>
    public long Offset(Upload upload) => upload.Number is not null ? upload.Bytes : new FileInfo(storage.Arriving(upload.Stored)) is { Exists: true } file ? file.Length : 0;

    /// <summary>Takes an upload for this one writer until disposed; null while another has it, in this process or another (flock(2) beneath FileShare.None).</summary>
    public IDisposable? Hold(Upload upload)
    {
        try
        {
            return new FileStream(storage.Arriving($"{upload.Stored}{HoldEnding}"), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None, 1);
        }
        catch (IOException)
        {
            return null;
        }
    }

    /// <summary>Writes what comes in behind what is here. When the line breaks, what came stays.</summary>
    /// <param name="offset">Where the sender believes to stand.</param>
    /// <param name="checksum">What the part must hash to, or null.</param>
    public async Task<(UploadWrite Outcome, long Offset)> WriteAsync(Upload upload, long offset, Stream from, (HashAlgorithmName Name, byte[] Value)? checksum, CancellationToken ct)
    {
        using var held = Hold(upload);
        if (held is null)
        {
            return (UploadWrite.Busy, 0);
        }

        if (!File.Exists(storage.Arriving(upload.Stored)))
        {
            return (UploadWrite.Gone, 0);
        }

        await using (var file = new FileStream(storage.Arriving(upload.Stored), FileMode.Open, FileAccess.ReadWrite, FileShare.ReadWrite, 1, FileOptions.Asynchronous))
        {
            if (file.Length != offset)
            {
                return (UploadWrite.Elsewhere, file.Length);
            }

            file.Position = offset;
            using var hash = checksum is { } wanted ? IncrementalHash.CreateHash(wanted.Name) : null;
            var buffer = ArrayPool<byte>.Shared.Rent(80 * 1024);
            try
            {
                int read;
                while ((read = await from.ReadAsync(buffer, ct)) > 0)
                {
                    if (file.Position + read > upload.Bytes)
                    {
                        file.SetLength(offset);
                        return (UploadWrite.TooMuch, offset);
                    }

                    hash?.AppendData(buffer, 0, read);
                    await file.WriteAsync(buffer.AsMemory(0, read), CancellationToken.None);
                }
            }
            catch when (hash is not null)
            {
                // A part with a checksum counts whole or not at all.
                file.SetLength(offset);
                throw;
            }
            finally
            {
                ArrayPool<byte>.Shared.Return(buffer);
            }

            if (hash is not null && !CryptographicOperations.FixedTimeEquals(hash.GetHashAndReset(), checksum!.Value.Value))
            {
                file.SetLength(offset);
                return (UploadWrite.WrongChecksum, offset);
            }

            offset = file.Position;
        }

        // It may have been ended meanwhile: with its intake, say. Then nobody is told that it was written.
        return await FindAsync(upload.Id, CancellationToken.None) is null ? (UploadWrite.Gone, 0) : (UploadWrite.Written, offset);
    }

    /// <summary>Ends an upload that is not complete; what came of it is removed.</summary>
    public async Task<UploadEnd> EndAsync(UploadId id, CancellationToken ct)
    {
        if (await FindAsync(id, ct) is not { } upload)
        {
            return UploadEnd.Gone;
        }

        using (var held = Hold(upload))
        {
            if (held is null)
            {
                return UploadEnd.Busy;
            }

            // Complete, it is its intake's: a ZIP may still wait to be unpacked.
            await using var command = db.Command("delete from upload where id = @id and number is null", ("id", id.Value));
            if (await command.ExecuteNonQueryAsync(ct) == 0)
            {
                return UploadEnd.Complete;
            }
        }

        Forget(upload.Stored);
        return UploadEnd.Ended;
    }

    /// <summary>Uploads whose last byte is here but whose end was never written down: the process ended between the two.</summary>
    public async Task<IReadOnlyList<Upload>> UnfinishedAsync(TimeSpan olderThan, CancellationToken ct)
    {
        await using var command = db.Command($"{Sql} where number is null and begun < @before order by begun limit 1000", ("before", clock.GetUtcNow() - olderThan));
        var open = await command.AllAsync(Read, ct);
        return [.. open.Where(u => new FileInfo(storage.Arriving(u.Stored)) is { Exists: true } f && f.Length == u.Bytes && f.LastWriteTimeUtc < clock.GetUtcNow().UtcDateTime - olderThan)];
    }

    /// <summary>Forgets uploads that have expired, and those long done.</summary>
    public async Task SweepAsync(CancellationToken ct)
    {
        await using var old = db.Command(
            "delete from upload where expires < @now or (number is not null and begun < @done) returning id, number is not null as done", ("now", clock.GetUtcNow()), ("done", clock.GetUtcNow().AddDays(-1)));
        foreach (var (id, done) in await old.AllAsync(r => (r.Get<Guid>("id"), r.Get<bool>("done")), ct))
        {
            // The bytes of one that is done were taken in, or are a ZIP that still waits: whoever unpacks it removes them.
            Forget(id.ToString("N"), butForBytes: done);
        }
    }

    /// <summary>Removes what an upload left among what arrives.</summary>
    public void Forget(string stored, bool butForBytes = false)
    {
        if (!butForBytes)
        {
            File.Delete(storage.Arriving(stored));
        }

        File.Delete(storage.Arriving($"{stored}{HoldEnding}"));
    }

    /// <summary>Names (without endings) among what arrives that are still awaited: open uploads, and ZIPs still being unpacked.</summary>
    public async Task<IReadOnlySet<string>> AwaitedAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand("select replace(id::text, '-', '') from upload where number is null union all select stored from unpacking where ended is null");
        return (await command.AllAsync(r => r.GetString(0), ct)).ToHashSet();
    }
}
