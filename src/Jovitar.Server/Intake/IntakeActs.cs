using Jovitar.Core;
using Jovitar.Server.Albums;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>What taking an intake back came to.</summary>
/// <param name="Binned">Photos that went to the bin.</param>
/// <param name="Kept">Photos that stay, for they are used elsewhere.</param>
internal sealed record TakenBack(IReadOnlyList<PhotoId> Binned, int Kept);

/// <summary>What is done with a whole intake afterwards: failures tried again or dropped, all of it taken back.</summary>
internal sealed class IntakeActs(NpgsqlDataSource db, PhotoQueue queue, Storage storage, TimeProvider clock)
{
    /// <summary>Photos an intake brought that are used elsewhere: in another album than the intake's own, or brought by another intake, too.</summary>
    const string UsedElsewhere =
        """
        (exists (select from album_photo as ap where ap.photo = f.photo and ap.album is distinct from i.album)
         or exists (select from intake_file as g where g.photo = f.photo and g.intake <> f.intake))
        """;

    /// <summary>Tries all failed photos of an intake again.</summary>
    public async Task<int> RetryAsync(IntakeId id, CancellationToken ct)
    {
        await using var command = db.Command("select p.id from intake_file as f join photo as p on p.id = f.photo where f.intake = @id and p.state = 'failed'", ("id", id.Value));
        return await queue.RetryAsync(await command.AllAsync(r => new PhotoId(r.GetGuid(0)), ct), ct);
    }

    /// <summary>Drops what failed for one cause, or all of it: photos go to the bin, refused files leave the list.</summary>
    public async Task<int> DropAsync(IntakeId id, string? cause, string by, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await using var find = tx.Command(
            """
            update intake_file as f set outcome = 'dropped'
             where f.intake = @id
               and (f.outcome in ('refused', 'skipped') or (f.outcome in ('arrived', 'already_here') and exists (select from photo as p where p.id = f.photo and p.state = 'failed')))
               and (@cause::text is null or coalesce(f.cause, (select p.failure_cause from photo as p where p.id = f.photo)) = @cause::text)
            returning f.photo
            """,
            ("id", id.Value), ("cause", cause));
        var dropped = await find.AllAsync(r => r.Maybe<Guid>(0), ct);
        await BinStore.ThrowAsync(tx, [.. dropped.OfType<Guid>().Select(g => new PhotoId(g))], by, clock.GetUtcNow(), ct);
        await tx.CommitAsync(ct);
        return dropped.Count;
    }

    /// <summary>Says how many photos taking back would throw away and how many it would leave, without doing it.</summary>
    public async Task<(int Binned, int Kept)> WouldTakeBackAsync(IntakeId id, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select count(distinct f.photo) filter (where not {UsedElsewhere}), count(distinct f.photo) filter (where {UsedElsewhere})
              from intake_file as f join intake as i on i.id = f.intake join photo as p on p.id = f.photo and p.state <> 'binned'
             where f.intake = @id and f.outcome = 'arrived'
            """,
            ("id", id.Value));
        return (await command.AllAsync(r => ((int)r.GetInt64(0), (int)r.GetInt64(1)), ct))[0];
    }

    /// <summary>Takes an intake back whole: what is not used elsewhere goes to the bin, the rest leaves the intake's album; what still arrives is stopped.</summary>
    /// <returns>Null when the intake is not there.</returns>
    public async Task<TakenBack?> TakeBackAsync(IntakeId id, string by, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await using var mark = tx.Command("update intake set taken_back = @now where id = @id returning coalesce(album, '00000000-0000-0000-0000-000000000000')", ("id", id.Value), ("now", clock.GetUtcNow()));
        if (await mark.ExecuteScalarAsync(ct) is not Guid album)
        {
            return null;
        }

        await using var ends = tx.Command("update unpacking set ended = @now where intake = @id and ended is null returning stored", ("id", id.Value), ("now", clock.GetUtcNow()));
        var stopped = await ends.AllAsync(r => r.GetString(0), ct);
        await using var cancels = tx.Command("delete from upload where intake = @id and number is null returning replace(id::text, '-', '')", ("id", id.Value));
        stopped.AddRange(await cancels.AllAsync(r => r.GetString(0), ct));
        await using var find = tx.Command(
            $"select distinct f.photo, {UsedElsewhere} from intake_file as f join intake as i on i.id = f.intake join photo as p on p.id = f.photo and p.state <> 'binned' where f.intake = @id and f.outcome = 'arrived'", ("id", id.Value));
        var photos = await find.AllAsync(r => (Photo: new PhotoId(r.GetGuid(0)), Used: r.GetBoolean(1)), ct);
        var kept = photos.Where(p => p.Used).Select(p => p.Photo).ToArray();
        var binned = await BinStore.ThrowAsync(tx, [.. photos.Where(p => !p.Used).Select(p => p.Photo)], by, clock.GetUtcNow(), ct);
        if (album != Guid.Empty && kept.Length > 0)
        {
            await AlbumStore.TakeOutAsync(tx, new AlbumId(album), kept, ct);
        }

        await tx.CommitAsync(ct);
        foreach (var name in stopped)
        {
            File.Delete(storage.Arriving(name));
        }

        return new TakenBack(binned, kept.Length);
    }

    /// <summary>Takes the taking back back.</summary>
    public async Task<int> BringBackAsync(IntakeId id, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await tx.RunAsync("update intake set taken_back = null where id = @id", ct, ("id", id.Value));
        var count = await BinStore.RestoreAsync(tx, photos, ct);
        await tx.CommitAsync(ct);
        return count;
    }
}
