using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Corrections;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Corrections;

/// <summary>A photo as it is corrected.</summary>
/// <param name="Hash">SHA-256 of its original.</param>
/// <param name="Original">Its size, upright.</param>
/// <param name="IsPart">It is a print cut from a scan.</param>
internal sealed record CorrectedPhoto(PhotoId Id, string Hash, string Name, PixelSize Original, Correction Correction, bool IsPart);

/// <summary>The corrections of photos. Nobody's words become stale by them, and of two who correct one photo each changes what he changes.</summary>
internal sealed class CorrectionStore(NpgsqlDataSource db, ActRunner acts)
{
    const int AtOnce = 5000;

    const string Columns =
        """
        id, encode(hash, 'hex') as hash, coalesce(nullif(title, ''), file_name) as name, own_width, own_height,
               correction::text as correction, part > 0 as is_part
        """;

    static CorrectedPhoto Read(NpgsqlDataReader r) => new(
        new PhotoId(r.Get<Guid>("id")), r.Get<string>("hash"), r.Get<string>("name"), new PixelSize(r.Get<int>("own_width"), r.Get<int>("own_height")), CorrectionText.Read(r.MaybeText("correction")), r.Get<bool>("is_part"));

    /// <summary>A photo that can be seen; null when there is none.</summary>
    public async Task<CorrectedPhoto?> FindAsync(PhotoId photo, CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns} from photo where id = @id and binned is null and state = 'ready'", ("id", photo.Value));
        return await command.FirstAsync(Read, ct);
    }

    /// <summary>Corrects photos: one act, for all of them or none. What cannot be seen, or lies in the bin, is passed over.</summary>
    public async Task<Done> ChangeAsync(Actor who, IReadOnlyList<PhotoId> photos, CorrectionChange change, CancellationToken ct)
    {
        var (_, done) = await acts.RunAsync(
            who, ActKind.Corrected,
            async act =>
            {
                await act.LockAsync("photo", photos.Values(), ct);
                string? name = null;
                foreach (var some in photos.Chunk(AtOnce))
                {
                    await using var read = act.Command($"select {Columns} from photo where id = any(@ids) and binned is null and state = 'ready'", ("ids", some.Values()));
                    (CorrectedPhoto Photo, Correction Now)[] changed =
                        [.. (await read.AllAsync(Read, ct)).Select(p => (p, change.Of(p.Correction, p.Original, p.IsPart))).Where(p => p.Item2 != p.p.Correction)];
                    name ??= changed.FirstOrDefault().Photo?.Name;
                    await WriteAsync(act, changed, ct);
                }

                if (photos.Count == 1)
                {
                    // Moved a little, looked at, and moved again: one act.
                    act.GoesOn = photos[0].Value;
                }

                act.Says = tally => ActWords.Corrected(tally, tally.Photos == 1 ? name : null, change.Reset);
                return true;
            },
            ct);
        return done;
    }

    static Task<int> WriteAsync(Act act, (CorrectedPhoto Photo, Correction Now)[] changed, CancellationToken ct) => changed.Length == 0 ? Task.FromResult(0) : act.RunAsync(
        """
        update photo as p
           set correction = c.correction::jsonb
          from unnest(@ids, @corrections) as c(id, correction)
         where p.id = c.id
        """,
        ct, ("ids", changed.Select(c => c.Photo.Id.Value).ToArray()), ("corrections", changed.Select(c => CorrectionText.Write(c.Now, c.Photo.Original)).ToArray()));
}
