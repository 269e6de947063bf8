using System.Text.Json.Serialization;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Albums;
using Jovitar.Core.Files;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Npgsql;

namespace Jovitar.Server.Files;

internal sealed record FileAlbum(AlbumId Id, string WorkingName);

/// <summary>A file as staff see it.</summary>
/// <param name="Kind">sound, video, pdf, office or text.</param>
/// <param name="Path">Where visitors find it where a page plays it, offers it or leads to it.</param>
internal sealed record FileLine(FileId Id, string FileName, string Kind, string MediaType, long Bytes, DateTimeOffset Arrived, IReadOnlyList<FileAlbum> Albums, string Path);

/// <summary>A file as it stands on a page.</summary>
internal sealed record NamedFile(FileId Id, string FileName, FileKind Kind, long Bytes)
{
    /// <summary>Where visitors find it where a page plays it, offers it or leads to it, from the site's root. Its name is for reading alone.</summary>
    [JsonIgnore]
    public string Path => PathOf(Id, FileName);

    public static string PathOf(FileId id, string fileName) => $"/file/{id}/{Uri.EscapeDataString(fileName)}";
}

/// <summary>Where a file's bytes lie and what it is.</summary>
internal sealed record KeptFile(string Hash, string FileName, FileKind Kind, string MediaType);

/// <summary>Sound, video and documents, and the albums they are attached to.</summary>
internal sealed class FileStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>Makes a file of what arrived, or finds the one with the same bytes; one in the bin comes back.</summary>
    public static async Task<(FileId Id, bool Made)> AddAsync(Act act, string fileName, Arrived arrived, JudgedFile judged, CancellationToken ct)
    {
        var id = new FileId(Guid.CreateVersion7(act.Now));
        await using var make = act.Command(
            """
            insert into file (id, hash, file_name, kind, media_type, bytes, arrived)
            values (@id, @hash, @name, @kind, @type, @bytes, @now)
            on conflict (hash) do update set binned = null where file.binned is not null
            returning id
            """,
            ("id", id.Value), ("hash", arrived.Hash), ("name", fileName), ("kind", judged.Kind.ToString().ToLowerInvariant()), ("type", judged.MediaType), ("bytes", arrived.Bytes), ("now", act.Now));
        if (await make.ExecuteScalarAsync(ct) is Guid made)
        {
            return (new FileId(made), true);
        }

        await using var find = act.Command("select id from file where hash = @hash", ("hash", arrived.Hash));
        return (new FileId((Guid)(await find.ExecuteScalarAsync(ct))!), false);
    }

    /// <summary>Files, the latest first, after one of them; those of an album, of a kind, with something in their names.</summary>
    /// <param name="kind">As in <see cref="FileLine"/>; null for all.</param>
    /// <param name="typed">Any part of their names.</param>
    public async Task<IReadOnlyList<FileLine>> ListAsync(AlbumId? album, string? kind, string typed, FileId? after, int most, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select f.id, f.file_name, f.kind, f.media_type, f.bytes, f.arrived,
                   coalesce((
                     select array_agg(a.id order by lower(a.working_name), a.id)
                       from album_file as af join album as a on a.id = af.album
                      where af.file = f.id), '{}') as albums,
                   coalesce((
                     select array_agg(a.working_name order by lower(a.working_name), a.id)
                       from album_file as af join album as a on a.id = af.album
                      where af.file = f.id), '{}') as album_names
              from file as f
             where f.binned is null
               and (@album::uuid is null or exists (select from album_file as af where af.file = f.id and af.album = @album::uuid))
               and (@kind::text is null or f.kind = @kind::text)
               and (@typed = '' or strpos(lower(f.file_name), @typed) > 0)
               and (@after::uuid is null or (f.arrived, f.id) < (select b.arrived, b.id from file as b where b.id = @after::uuid))
             order by f.arrived desc, f.id desc
             limit @most
            """,
            ("album", album?.Value), ("kind", kind), ("typed", typed.ToLowerInvariant()), ("after", after?.Value), ("most", most));
        return await command.AllAsync(
            r => new FileLine(
                new FileId(r.Get<Guid>("id")), r.Get<string>("file_name"), r.Get<string>("kind"), r.Get<string>("media_type"), r.Get<long>("bytes"), r.Get<DateTimeOffset>("arrived"),
                [.. r.Get<Guid[]>("albums").Zip(r.Get<string[]>("album_names"), (id, name) => new FileAlbum(new AlbumId(id), name))],
                NamedFile.PathOf(new FileId(r.Get<Guid>("id")), r.Get<string>("file_name"))),
            ct);
    }

    /// <summary>Some files, those that are there.</summary>
    public async Task<IReadOnlyDictionary<FileId, NamedFile>> NamedAsync(IReadOnlyList<FileId> files, CancellationToken ct)
    {
        if (files.Count == 0)
        {
            return new Dictionary<FileId, NamedFile>();
        }

        await using var command = db.Command("select id, file_name, kind, bytes from file where id = any(@ids) and binned is null", ("ids", files.Values()));
        return (await command.AllAsync(r => new NamedFile(new FileId(r.Get<Guid>("id")), r.Get<string>("file_name"), Kind(r), r.Get<long>("bytes")), ct)).ToDictionary(f => f.Id);
    }

    static FileKind Kind(NpgsqlDataReader r) => Enum.Parse<FileKind>(r.Get<string>("kind"), ignoreCase: true);

    /// <summary>Attaches a file to an album, after those already there.</summary>
    /// <returns>Null when one of them is not there.</returns>
    public async Task<Done?> AttachAsync(Actor who, FileId file, AlbumId album, CancellationToken ct)
    {
        var (here, done) = await acts.RunAsync(
            who, ActKind.Attached,
            async act =>
            {
                if (await NamesAsync(act, file, album, ct) is not var (fileName, albumName) || !await AttachAsync(act, file, album, ct))
                {
                    return act.Drop(false);
                }

                act.Says = _ => $"Attached “{fileName}” to “{albumName}”.";
                return true;
            },
            ct);
        return here ? done : null;
    }

    static async Task<Tuple<string, string>?> NamesAsync(Act act, FileId file, AlbumId album, CancellationToken ct)
    {
        await using var find = act.Command(
            """
            select f.file_name, a.working_name
              from file as f
             cross join album as a
             where f.id = @file and f.binned is null and a.id = @album and a.binned is null
            """,
            ("file", file.Value), ("album", album.Value));
        return await find.FirstAsync(r => Tuple.Create(r.Get<string>("file_name"), r.Get<string>("working_name")), ct);
    }

    /// <summary>The same within another act.</summary>
    public static async Task<bool> AttachAsync(Act act, FileId file, AlbumId album, CancellationToken ct)
    {
        await act.LockAsync("album", [album.Value], ct);
        await act.HoldAsync("file", [file.Value], ct);
        await using var last = act.Command(
                """
                select max(af.place) as last
                  from album as a
                  left join album_file as af on af.album = a.id
                 where a.id = @album and a.binned is null group by a.id
                """,
                ("album", album.Value));
        if (await last.FirstAsync(r => Tuple.Create(r.Maybe<long>("last")), ct) is not { } place)
        {
            return false;
        }

        await act.RunAsync(
                """
                insert into album_file (album, file, place) select @album, f.id, @place
                  from file as f
                 where f.id = @file and f.binned is null
                on conflict do nothing
                """, ct,
            ("album", album.Value), ("file", file.Value), ("place", Places.After(place.Item1)));
        return true;
    }

    /// <summary>Takes a file off an album.</summary>
    public async Task<Done?> DetachAsync(Actor who, FileId file, AlbumId album, CancellationToken ct)
    {
        var (here, done) = await acts.RunAsync(
            who, ActKind.Detached,
            async act =>
            {
                if (await NamesAsync(act, file, album, ct) is not var (fileName, albumName))
                {
                    return act.Drop(false);
                }

                act.Says = _ => $"Took “{fileName}” off “{albumName}”.";
                await act.RunAsync("delete from album_file where album = @album and file = @file", ct, ("album", album.Value), ("file", file.Value));
                return true;
            },
            ct);
        return here ? done : null;
    }

    /// <summary>Where a file's bytes lie and what it is.</summary>
    public async Task<KeptFile?> FindAsync(FileId id, CancellationToken ct)
    {
        await using var command = db.Command("select encode(hash, 'hex') as hash, file_name, kind, media_type from file where id = @id", ("id", id.Value));
        return await command.FirstAsync(
            r => new KeptFile(r.Get<string>("hash"), r.Get<string>("file_name"), Kind(r), r.Get<string>("media_type")), ct);
    }
}
