using Jovitar.Core;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Npgsql;

namespace Jovitar.Server.Intake.Uploads;

/// <summary>An upload that has begun.</summary>
/// <param name="Bytes">How long the whole file is.</param>
/// <param name="Come">How much of it is here, bytes.</param>
/// <param name="Number">Its line in the intake once it is done.</param>
internal sealed record Upload(UploadId Id, IntakeId Intake, Incoming Incoming, long Bytes, long Come, DateTimeOffset Expires, int? Number)
{
    /// <summary>Whether its last byte is here and it is no line of its intake yet.</summary>
    public bool IsWhole => Number is null && Come == Bytes;
}

/// <summary>How ending an upload ended.</summary>
internal enum UploadEnd
{
    Ended,
    Gone,
    Complete,
}

/// <summary>Uploads on their way: where each stands, and the parts that have come of it.</summary>
internal sealed class UploadStore(NpgsqlDataSource db, Storage storage, TimeProvider clock)
{
    /// <summary>An upload that nobody goes on with is forgotten after so long.</summary>
    public static readonly TimeSpan Life = TimeSpan.FromDays(7);

    public async Task<Upload?> BeginAsync(IntakeId intake, Incoming incoming, long bytes, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        var id = new UploadId(Guid.CreateVersion7(now));
        var upload = new Upload(id, intake, incoming with { Upload = id }, bytes, 0, now + Life, null);
        await using var command = db.Command(
            """
            insert into upload (id, intake, file_name, path, bytes, changed, begun, expires)
            select @id, i.id, @name, @path, @bytes, @changed::bigint, @now, @expires
              from intake as i
             where i.id = @intake and i.taken_back is null
            """,
            ("id", upload.Id.Value), ("intake", intake.Value), ("name", incoming.FileName), ("path", incoming.Path), ("bytes", bytes), ("changed", incoming.Changed), ("now", now), ("expires", upload.Expires));
        return await command.ExecuteNonQueryAsync(ct) == 1 ? upload : null;
    }

    public async Task<Upload?> FindAsync(UploadId id, CancellationToken ct)
    {
        await using var command = db.Command($"{Sql} where id = @id", ("id", id.Value));
        return await command.FirstAsync(Read, ct);
    }

    const string Sql = "select id, intake, file_name, path, bytes, come, changed, expires, number from upload";

    static Upload Read(NpgsqlDataReader r)
    {
        var id = new UploadId(r.Get<Guid>("id"));
        var incoming = new Incoming(r.Get<string>("file_name"), r.Get<string>("path")) { Upload = id, Changed = r.Maybe<long>("changed") };
        return new Upload(id, new IntakeId(r.Get<Guid>("intake")), incoming, r.Get<long>("bytes"), r.Get<long>("come"), r.Get<DateTimeOffset>("expires"), r.Maybe<int>("number"));
    }

    /// <summary>Notes parts that have come, one behind the other: the upload stands behind the last of them.</summary>
    /// <returns>False when it stands elsewhere by now or is gone; nothing is noted then.</returns>
    public async Task<bool> NoteAsync(UploadId id, IReadOnlyList<UploadPart> parts, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            with went as (
              update upload
                 set come = come + (select sum(b) from unnest(@bytes) as b)
               where id = @id and come = @start and number is null
              returning id)
            insert into upload_part (upload, start, bytes, stored)
            select w.id, p.start, p.bytes, p.stored
              from went as w
             cross join unnest(@starts, @bytes, @stored) as p(start, bytes, stored)
            """,
            ("id", id.Value), ("start", parts[0].Start), ("starts", parts.Select(p => p.Start).ToArray()), ("bytes", parts.Select(p => p.Bytes).ToArray()), ("stored", parts.Select(p => p.Stored).ToArray()));
        return await command.ExecuteNonQueryAsync(ct) == parts.Count;
    }

    /// <summary>The keys of an upload's parts, in their order.</summary>
    public async Task<IReadOnlyList<string>> PartsAsync(UploadId id, CancellationToken ct)
    {
        await using var command = db.Command("select stored from upload_part where upload = @id order by start", ("id", id.Value));
        return await command.AllAsync(r => StorageKeys.Arriving(r.GetString(0)), ct);
    }

    /// <summary>Claims an upload whose last byte is here, to take it in.</summary>
    /// <returns>What it is claimed by; null when it is not whole, or done, or another is at it, or its intake was taken back.</returns>
    public async Task<Guid?> ClaimAsync(UploadId id, TimeSpan lease, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var command = db.Command(
            """
            update upload as u
               set claim = @claim, claimed_until = @until
              from intake as i
             where u.id = @id and i.id = u.intake and i.taken_back is null and u.number is null and u.come = u.bytes
               and (u.claimed_until is null or u.claimed_until < @now)
            returning u.claim
            """,
            ("id", id.Value), ("claim", Guid.NewGuid()), ("now", now), ("until", now + lease));
        return await command.ExecuteScalarAsync(ct) as Guid?;
    }

    /// <summary>Holds a claim for longer, or until now.</summary>
    public async Task RenewAsync(UploadId id, Guid claim, TimeSpan lease, CancellationToken ct)
    {
        await using var command = db.Command(
            "update upload set claimed_until = @until where id = @id and claim = @claim and number is null", ("id", id.Value), ("claim", claim), ("until", clock.GetUtcNow() + lease));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Ends an upload that is not complete; what came of it is removed.</summary>
    public async Task<UploadEnd> EndAsync(UploadId id, CancellationToken ct)
    {
        // Complete, it is its intake's: a ZIP may still wait to be unpacked.
        var parts = await PartsAsync(id, ct);
        await using var command = db.Command("delete from upload where id = @id and number is null", ("id", id.Value));
        if (await command.ExecuteNonQueryAsync(ct) == 0)
        {
            return await FindAsync(id, ct) is null ? UploadEnd.Gone : UploadEnd.Complete;
        }

        // A part that comes this very moment finds no upload to stand in, and goes by itself.
        await DropAsync(parts, null);
        return UploadEnd.Ended;
    }

    /// <summary>Forgets the parts of an upload that has been taken in.</summary>
    /// <param name="but">The key of what is still needed.</param>
    public async Task ForgetPartsAsync(UploadId id, IReadOnlyList<string> parts, string? but, CancellationToken ct)
    {
        await DropAsync(parts, but);
        await using var command = db.Command("delete from upload_part where upload = @id", ("id", id.Value));
        await command.ExecuteNonQueryAsync(ct);
    }

    async Task DropAsync(IReadOnlyList<string> parts, string? but)
    {
        foreach (var part in parts.Where(p => p != but))
        {
            await storage.DeleteAsync(part);
        }
    }

    /// <summary>Uploads whose last byte is here but whose end was never written down: the process ended between the two.</summary>
    public async Task<IReadOnlyList<Upload>> UnfinishedAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            {Sql} as u
             where number is null and come = bytes and begun < @before and (claimed_until is null or claimed_until < @now)
               and exists (select from intake as i where i.id = u.intake and i.taken_back is null)
             order by begun
             limit 1000
            """,
            ("now", clock.GetUtcNow()), ("before", clock.GetUtcNow().AddSeconds(-5)));
        return await command.AllAsync(Read, ct);
    }

    /// <summary>Forgets uploads that have expired, and those long done. What they leave among what arrives is awaited by nobody then.</summary>
    public async Task SweepAsync(CancellationToken ct)
    {
        await using var old = db.Command("delete from upload where expires < @now or (number is not null and begun < @done)", ("now", clock.GetUtcNow()), ("done", clock.GetUtcNow().AddDays(-1)));
        await old.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Uploads that a version before this one began wrote one file each, whose length was where they stood.</summary>
    public async Task AdoptAsync(CancellationToken ct)
    {
        await foreach (var file in storage.ListAsync(StorageKeys.Arriving(""), ct))
        {
            if (file.Bytes > 0 && Guid.TryParseExact(file.Name, "N", out var id))
            {
                await NoteAsync(new UploadId(id), [new UploadPart(0, file.Bytes, file.Name)], ct);
            }
        }
    }

    /// <summary>Names among what arrives that are still awaited: parts of open uploads, and ZIPs still being unpacked.</summary>
    public async Task<IReadOnlySet<string>> AwaitedAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            """
            select p.stored
              from upload_part as p
              join upload as u on u.id = p.upload and u.number is null
            union all
            select stored from unpacking where ended is null
            """);
        return (await command.AllAsync(r => r.GetString(0), ct)).ToHashSet();
    }
}
