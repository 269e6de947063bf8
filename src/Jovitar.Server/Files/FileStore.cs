using Jovitar.Core;
using Jovitar.Core.Files;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Files;

internal sealed record FileAlbum(AlbumId Id, string WorkingName);

/// <summary>A file as staff see it.</summary>
/// <param name="Kind">sound, video, pdf, office or text.</param>
internal sealed record FileLine(FileId Id, string FileName, string Kind, string MediaType, long Bytes, DateTimeOffset Arrived, IReadOnlyList<FileAlbum> Albums);

/// <summary>Sound, video and documents, and the albums they are attached to.</summary>
internal sealed class FileStore(NpgsqlDataSource db, TimeProvider clock)
{
    /// <summary>Makes a file of what arrived, or finds the one with the same bytes, within a transaction.</summary>
    public async Task<(FileId Id, bool Made)> AddAsync(Transaction tx, string fileName, Arrived arrived, JudgedFile judged, CancellationToken ct)
    {
        var id = new FileId(Guid.CreateVersion7(clock.GetUtcNow()));
        var made = await tx.RunAsync(
            "insert into file (id, hash, file_name, kind, media_type, bytes, arrived) values (@id, @hash, @name, @kind, @type, @bytes, @now) on conflict (hash) do nothing", ct,
            ("id", id.Value), ("hash", arrived.Hash), ("name", fileName), ("kind", judged.Kind.ToString().ToLowerInvariant()), ("type", judged.MediaType), ("bytes", arrived.Bytes), ("now", clock.GetUtcNow()));
        await using var find = tx.Command("select id from file where hash = @hash", ("hash", arrived.Hash));
        return (new FileId((Guid)(await find.ExecuteScalarAsync(ct))!), made == 1);
    }

    /// <summary>Files, the latest first, after one of them; or those of one album.</summary>
    public async Task<IReadOnlyList<FileLine>> ListAsync(AlbumId? album, FileId? after, int most, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select f.id, f.file_name, f.kind, f.media_type, f.bytes, f.arrived,
                   coalesce((select array_agg(a.id order by lower(a.working_name)) from album_file as af join album as a on a.id = af.album where af.file = f.id), '{}'),
                   coalesce((select array_agg(a.working_name order by lower(a.working_name)) from album_file as af join album as a on a.id = af.album where af.file = f.id), '{}')
              from file as f
             where (@album::uuid is null or exists (select from album_file as af where af.file = f.id and af.album = @album::uuid))
               and (@after::uuid is null or (f.arrived, f.id) < (select b.arrived, b.id from file as b where b.id = @after::uuid))
             order by f.arrived desc, f.id desc
             limit @most
            """,
            ("album", album?.Value), ("after", after?.Value), ("most", most));
        return await command.AllAsync(
            r => new FileLine(
                new FileId(r.GetGuid(0)), r.GetString(1), r.GetString(2), r.GetString(3), r.GetInt64(4), r.GetFieldValue<DateTimeOffset>(5),
                [.. r.GetFieldValue<Guid[]>(6).Zip(r.GetFieldValue<string[]>(7), (id, name) => new FileAlbum(new AlbumId(id), name))]),
            ct);
    }

    /// <summary>Attaches a file to an album, after those already there.</summary>
    /// <returns>False when one of them is not there.</returns>
    public async Task<bool> AttachAsync(FileId file, AlbumId album, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        var here = await AttachAsync(tx, file, album, ct);
        await tx.CommitAsync(ct);
        return here;
    }

    public static async Task<bool> AttachAsync(Transaction tx, FileId file, AlbumId album, CancellationToken ct)
    {
        await using var take = tx.Command("select id from album where id = @album for update", ("album", album.Value));
        await using var find = tx.Command("select id from file where id = @file", ("file", file.Value));
        if (await take.ExecuteScalarAsync(ct) is null || await find.ExecuteScalarAsync(ct) is null)
        {
            return false;
        }

        await tx.RunAsync(
            "insert into album_file (album, file, place) values (@album, @file, (select coalesce(max(place) + 1, 0) from album_file where album = @album)) on conflict do nothing", ct,
            ("album", album.Value), ("file", file.Value));
        return true;
    }

    public async Task DetachAsync(FileId file, AlbumId album, CancellationToken ct)
    {
        await using var command = db.Command("delete from album_file where album = @album and file = @file", ("album", album.Value), ("file", file.Value));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Where a file's bytes lie and what it is.</summary>
    public async Task<(string Hash, string FileName, FileKind Kind, string MediaType)?> FindAsync(FileId id, CancellationToken ct)
    {
        await using var command = db.Command("select encode(hash, 'hex'), file_name, kind, media_type from file where id = @id", ("id", id.Value));
        await using var r = await command.ExecuteReaderAsync(ct);
        return await r.ReadAsync(ct) ? (r.GetString(0), r.GetString(1), Enum.Parse<FileKind>(r.GetString(2), ignoreCase: true), r.GetString(3)) : null;
    }
}
