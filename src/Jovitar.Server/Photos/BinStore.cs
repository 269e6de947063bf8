using Jovitar.Core;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Photos;

/// <summary>A photo in the bin.</summary>
internal sealed record BinnedPhoto(PhotoId Id, string Hash, string FileName, string Title, int Width, int Height, bool Shown, DateTimeOffset Binned, string BinnedBy);

/// <summary>What was thrown away waits here with all it stood in, until it is taken back or the bin is emptied.</summary>
internal sealed class BinStore(NpgsqlDataSource db, Storage storage, TimeProvider clock)
{
    /// <summary>Throws photos into the bin.</summary>
    /// <returns>Those that were not in it already.</returns>
    public async Task<IReadOnlyList<PhotoId>> ThrowAsync(IReadOnlyList<PhotoId> photos, string by, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        var thrown = await ThrowAsync(tx, photos, by, clock.GetUtcNow(), ct);
        await tx.CommitAsync(ct);
        return thrown;
    }

    public static async Task<IReadOnlyList<PhotoId>> ThrowAsync(Transaction tx, IReadOnlyList<PhotoId> photos, string by, DateTimeOffset now, CancellationToken ct)
    {
        await using var note = tx.Command(
            """
            insert into bin (photo, binned, binned_by, state, held)
            select p.id, @now, @by, p.state, jsonb_build_object(
                     'albums', (select coalesce(jsonb_agg(jsonb_build_object('album', ap.album, 'place', ap.place)), '[]') from album_photo as ap where ap.photo = p.id),
                     'tags', (select coalesce(jsonb_agg(pt.tag), '[]') from photo_tag as pt where pt.photo = p.id),
                     'categories', (select coalesce(jsonb_agg(pc.category), '[]') from photo_category as pc where pc.photo = p.id),
                     'covers', (select coalesce(jsonb_agg(a.id), '[]') from album as a where a.cover = p.id))
              from photo as p where p.id = any(@photos) and p.state <> 'binned'
            on conflict (photo) do nothing
            returning photo
            """,
            ("photos", photos.Select(p => p.Value).ToArray()), ("by", by), ("now", now));
        var thrown = await note.AllAsync(r => new PhotoId(r.GetGuid(0)), ct);
        var ids = thrown.Select(p => p.Value).ToArray();
        await PageStore.TouchAsync(tx, thrown, ct);
        await tx.RunAsync("update album set version = version + 1, cover = case when cover = any(@ids) then null else cover end where id in (select album from album_photo where photo = any(@ids)) or cover = any(@ids)", ct, ("ids", ids));
        await tx.RunAsync("delete from album_photo where photo = any(@ids)", ct, ("ids", ids));
        await tx.RunAsync("delete from photo_tag where photo = any(@ids)", ct, ("ids", ids));
        await tx.RunAsync("delete from photo_category where photo = any(@ids)", ct, ("ids", ids));
        await tx.RunAsync("update photo set state = 'binned', claimed_until = null, version = version + 1 where id = any(@ids)", ct, ("ids", ids));
        return thrown;
    }

    /// <summary>Takes photos back out of the bin, to where they stood.</summary>
    /// <returns>How many came back.</returns>
    public async Task<int> RestoreAsync(IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        var count = await RestoreAsync(tx, photos, ct);
        await tx.CommitAsync(ct);
        return count;
    }

    public static async Task<int> RestoreAsync(Transaction tx, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        var ids = photos.Select(p => p.Value).ToArray();
        var back = await tx.RunAsync(
            "update photo as p set state = case b.state when 'failed' then 'failed' when 'ready' then 'ready' else 'waiting' end, version = version + 1 from bin as b where b.photo = p.id and p.id = any(@ids) and p.state = 'binned'", ct, ("ids", ids));
        await tx.RunAsync(
            """
            insert into album_photo (album, photo, place)
            select a.id, b.photo, (h ->> 'place')::int from bin as b cross join jsonb_array_elements(b.held -> 'albums') as h join album as a on a.id = (h ->> 'album')::uuid where b.photo = any(@ids)
            on conflict do nothing
            """,
            ct, ("ids", ids));
        await tx.RunAsync("insert into photo_tag (photo, tag) select b.photo, t.id from bin as b cross join jsonb_array_elements_text(b.held -> 'tags') as h join tag as t on t.id = h::uuid where b.photo = any(@ids) on conflict do nothing", ct, ("ids", ids));
        await tx.RunAsync("insert into photo_category (photo, category) select b.photo, c.id from bin as b cross join jsonb_array_elements_text(b.held -> 'categories') as h join category as c on c.id = h::uuid where b.photo = any(@ids) on conflict do nothing", ct, ("ids", ids));
        await tx.RunAsync("update album as a set cover = b.photo from bin as b cross join jsonb_array_elements_text(b.held -> 'covers') as h where a.id = h::uuid and a.cover is null and b.photo = any(@ids)", ct, ("ids", ids));
        await tx.RunAsync("update album set version = version + 1 where id in (select album from album_photo where photo = any(@ids))", ct, ("ids", ids));
        await tx.RunAsync("delete from bin where photo = any(@ids)", ct, ("ids", ids));
        await TaxonomyStore.RewordAsync(tx, photos, ct);
        await PageStore.TouchAsync(tx, photos, ct);
        await tx.RunAsync($"notify {Intake.PhotoQueue.Channel}", ct);
        return back;
    }

    public async Task<IReadOnlyList<BinnedPhoto>> ListAsync(int most, CancellationToken ct)
    {
        await using var command = db.Command(
            "select p.id, encode(p.hash, 'hex'), p.file_name, p.title, p.width, p.height, p.stage > 0, b.binned, b.binned_by from bin as b join photo as p on p.id = b.photo order by b.binned desc, b.photo limit @most", ("most", most));
        return await command.AllAsync(
            r => new BinnedPhoto(new PhotoId(r.GetGuid(0)), r.GetString(1), r.GetString(2), r.GetString(3), r.GetInt32(4), r.GetInt32(5), r.GetBoolean(6), r.GetFieldValue<DateTimeOffset>(7), r.GetString(8)), ct);
    }

    /// <summary>Empties the bin for good: the only act that removes originals.</summary>
    public async Task<int> EmptyAsync(CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await using var gone = tx.Command("delete from photo where id in (select photo from bin) and state = 'binned' returning hash");
        var hashes = await gone.AllAsync(r => r.GetFieldValue<byte[]>(0), ct);
        // Marked first: a process that ends between the commit and the removal leaves a mark, and the tidying removes the rest.
        foreach (var hash in hashes)
        {
            storage.Doubt(Convert.ToHexStringLower(hash));
        }

        await tx.CommitAsync(ct);
        foreach (var hash in hashes)
        {
            storage.Resolve(Convert.ToHexStringLower(hash), known: false);
        }

        return hashes.Count;
    }
}
