using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Albums;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Albums;

/// <summary>The picture an album is known by: the chosen one, else its first.</summary>
internal sealed record Cover(string Hash, int Width, int Height, string State);

/// <summary>An album as it is listed.</summary>
internal sealed record AlbumLine(AlbumId Id, string WorkingName, string Title, string Description, int Photos, Cover? Cover, PageId? Page, AudienceLine Audience, PhotoId? ChosenCover, long Version);

/// <summary>New words or a new cover for an album; what is null stays. An empty <c>Cover</c> id returns to the first photo.</summary>
internal sealed record AlbumChange(string? WorkingName, string? Title, string? Description, PhotoId? Cover);

/// <summary>An album's version after a change, and its order before it, for taking the change back.</summary>
internal sealed record AlbumMoved(long Version, IReadOnlyList<PhotoId> Before, int Changed);

/// <summary>Albums and the order of their photos.</summary>
internal sealed class AlbumStore(NpgsqlDataSource db, TimeProvider clock)
{
    public async Task<IReadOnlyList<AlbumLine>> ListAsync(AlbumId? only, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select a.id, a.working_name, a.title, a.description, a.cover, a.version,
                   (select count(*) from album_photo as ap where ap.album = a.id),
                   encode(c.hash, 'hex'), c.width, c.height, c.state,
                   (select pg.id from page as pg where pg.album = a.id order by pg.made limit 1),
                   (select count(*) from page as pg where pg.album = a.id and pg.published is not null),
                   (select count(*) from page as pg where pg.album = a.id and pg.published is null)
              from album as a
              left join lateral (
                select p.hash, p.width, p.height, p.state
                  from photo as p
                 where p.id = coalesce(a.cover, (select ap.photo from album_photo as ap where ap.album = a.id order by ap.place limit 1))) as c on true
             where @only::uuid is null or a.id = @only::uuid
             order by lower(a.working_name), a.id
            """,
            ("only", only?.Value));
        return await command.AllAsync(
            r => new AlbumLine(
                new AlbumId(r.GetGuid(0)), r.GetString(1), r.GetString(2), r.GetString(3), (int)r.GetInt64(6),
                r.IsDBNull(7) ? null : new Cover(r.GetString(7), r.GetInt32(8), r.GetInt32(9), r.GetString(10)),
                r.IsDBNull(11) ? null : new PageId(r.GetGuid(11)), AudienceLine.For((int)r.GetInt64(12), (int)r.GetInt64(13)),
                r.IsDBNull(4) ? null : new PhotoId(r.GetGuid(4)), r.GetInt64(5)),
            ct);
    }

    public async Task<AlbumLine?> FindAsync(AlbumId id, CancellationToken ct) => await ListAsync(id, ct) is [var line] ? line : null;

    public async Task<AlbumId> MakeAsync(string workingName, string title, string description, CancellationToken ct)
    {
        var id = new AlbumId(Guid.CreateVersion7(clock.GetUtcNow()));
        await using var command = db.Command(
            "insert into album (id, working_name, title, description, made) values (@id, @name, @title, @description, @now)",
            ("id", id.Value), ("name", workingName.Trim()), ("title", title.Trim()), ("description", description.Trim()), ("now", clock.GetUtcNow()));
        await command.ExecuteNonQueryAsync(ct);
        return id;
    }

    /// <summary>The album of this working name, whatever its case; made when there is none.</summary>
    public async Task<AlbumId> NamedAsync(string workingName, CancellationToken ct)
    {
        await using var find = db.Command("select id from album where lower(working_name) = lower(@name) order by made limit 1", ("name", workingName.Trim()));
        return await find.ExecuteScalarAsync(ct) is Guid id ? new AlbumId(id) : await MakeAsync(workingName, "", "", ct);
    }

    public async Task<bool> ChangeAsync(AlbumId id, AlbumChange change, long expected, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        var changed = await tx.RunAsync(
            """
            update album
               set working_name = coalesce(@name::text, working_name), title = coalesce(@title::text, title), description = coalesce(@description::text, description),
                   cover = case when @cover::uuid is null then cover when @cover::uuid = @none then null else @cover::uuid end,
                   version = version + 1
             where id = @id and version = @expected
            """,
            ct, ("id", id.Value), ("expected", expected), ("name", change.WorkingName?.Trim()), ("title", change.Title?.Trim()), ("description", change.Description?.Trim()),
            ("cover", change.Cover?.Value), ("none", Guid.Empty));
        if (changed == 0)
        {
            return false;
        }

        await PageStore.TouchAlbumAsync(tx, id, ct);
        await tx.CommitAsync(ct);
        return true;
    }

    public async Task RemoveAsync(AlbumId id, CancellationToken ct)
    {
        await using var command = db.Command("delete from album where id = @id", ("id", id.Value));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Puts photos into an album, at its end. Those in it already stay where they are.</summary>
    public Task<AlbumMoved?> PutAsync(AlbumId id, IReadOnlyList<PhotoId> photos, CancellationToken ct) =>
        ArrangeAsync(id, null, order => [.. order, .. photos.Except(order)], ct);

    public Task<AlbumMoved?> TakeOutAsync(AlbumId id, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        var gone = photos.ToHashSet();
        return ArrangeAsync(id, null, order => [.. order.Where(p => !gone.Contains(p))], ct);
    }

    /// <summary>Moves photos, in their present order, to a position or before another photo.</summary>
    /// <returns>Null when <paramref name="expected"/> is no longer the album's version.</returns>
    public Task<AlbumMoved?> MoveAsync(AlbumId id, AlbumMove move, long expected, CancellationToken ct)
    {
        var moved = move.Photos.ToHashSet();
        return ArrangeAsync(id, expected, order => move.Before is { } before ? Ordering.MoveBefore(order, moved, before) : Ordering.Move(order, moved, move.Position ?? int.MaxValue), ct);
    }

    /// <summary>Makes the album hold exactly these photos in this order: how a change is taken back.</summary>
    public Task<AlbumMoved?> SetAsync(AlbumId id, IReadOnlyList<PhotoId> photos, long expected, CancellationToken ct) =>
        ArrangeAsync(id, expected, _ => [.. photos.Distinct()], ct);

    async Task<AlbumMoved?> ArrangeAsync(AlbumId id, long? expected, Func<IReadOnlyList<PhotoId>, IReadOnlyList<PhotoId>> arrange, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await using var take = tx.Command("update album set version = version + 1 where id = @id and (@expected::bigint is null or version = @expected::bigint) returning version", ("id", id.Value), ("expected", expected));
        if (await take.ExecuteScalarAsync(ct) is not long version)
        {
            return null;
        }

        var before = await OrderAsync(tx, id, ct);
        var after = arrange(before);
        // Pages that showed a photo before, and those that show it after, both change.
        await PageStore.TouchAlbumAsync(tx, id, ct);
        var changed = await WriteOrderAsync(tx, id, before, after, ct);
        await tx.CommitAsync(ct);
        return new AlbumMoved(version, before, changed);
    }

    static async Task<IReadOnlyList<PhotoId>> OrderAsync(Transaction tx, AlbumId id, CancellationToken ct)
    {
        await using var command = tx.Command("select photo from album_photo where album = @id order by place", ("id", id.Value));
        return await command.AllAsync(r => new PhotoId(r.GetGuid(0)), ct);
    }

    /// <summary>Writes the places that differ; photos that no longer exist are passed over.</summary>
    static async Task<int> WriteOrderAsync(Transaction tx, AlbumId id, IReadOnlyList<PhotoId> before, IReadOnlyList<PhotoId> after, CancellationToken ct)
    {
        var stood = before.Select((p, i) => (p, i)).ToDictionary(t => t.p, t => t.i);
        var moved = after.Select((p, i) => (Photo: p, Place: i)).Where(t => !stood.TryGetValue(t.Photo, out var at) || at != t.Place).ToArray();
        var gone = before.Except(after).ToArray();
        await tx.RunAsync("delete from album_photo where album = @id and photo = any(@gone)", ct, ("id", id.Value), ("gone", gone.Select(p => p.Value).ToArray()));
        await tx.RunAsync(
            """
            insert into album_photo (album, photo, place)
            select @id, p.id, m.place from unnest(@photos, @places) as m(photo, place) join photo as p on p.id = m.photo
            on conflict (album, photo) do update set place = excluded.place
            """,
            ct, ("id", id.Value), ("photos", moved.Select(m => m.Photo.Value).ToArray()), ("places", moved.Select(m => m.Place).ToArray()));
        return after.Except(before).Count() + gone.Length + (gone.Length == 0 && after.Count == before.Count ? moved.Length : 0);
    }

    /// <summary>Puts newly arrived photos at the end of an album, within the transaction that made them.</summary>
    public static async Task PutArrivedAsync(Transaction tx, AlbumId id, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        // The album's row is locked first, so that two uploads never take the same place.
        var here = await tx.RunAsync("update album set version = version + 1 where id = @album", ct, ("album", id.Value));
        if (here == 0)
        {
            return;
        }

        await tx.RunAsync(
            """
            insert into album_photo (album, photo, place)
            select @album, p.id, (select coalesce(max(place), -1) from album_photo where album = @album) + row_number() over (order by w.n)
              from unnest(@photos) with ordinality as w(id, n) join photo as p on p.id = w.id
            on conflict do nothing
            """,
            ct, ("album", id.Value), ("photos", photos.Select(p => p.Value).ToArray()));
        await PageStore.TouchAlbumAsync(tx, id, ct);
    }

    /// <summary>Takes photos out of an album within a transaction.</summary>
    public static async Task TakeOutAsync(Transaction tx, AlbumId id, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await tx.RunAsync("update album set version = version + 1, cover = case when cover = any(@photos) then null else cover end where id = @album", ct, ("album", id.Value), ("photos", photos.Select(p => p.Value).ToArray()));
        await PageStore.TouchAlbumAsync(tx, id, ct);
        await tx.RunAsync("delete from album_photo where album = @album and photo = any(@photos)", ct, ("album", id.Value), ("photos", photos.Select(p => p.Value).ToArray()));
    }
}
