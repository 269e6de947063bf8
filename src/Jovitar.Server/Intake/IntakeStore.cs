using Jovitar.Core;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;
using Jovitar.Imaging;
using Jovitar.Server.Albums;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>What became of one file.</summary>
/// <param name="Outcome"><c>arrived</c>, <c>already_here</c> or <c>refused</c>.</param>
/// <param name="State">The photo's state now: <c>waiting</c>, <c>ready</c> or <c>failed</c>; null for a refused file.</param>
/// <param name="Reason">Why it was refused or failed, a sentence.</param>
internal sealed record IntakeFile(int Number, string FileName, string Outcome, PhotoId? Photo, string? Hash, string? State, string? Reason);

/// <summary>One intake in figures.</summary>
internal sealed record IntakeLine(IntakeId Id, AlbumId? Album, string? AlbumName, DateTimeOffset Begun, string BegunBy, int Files, int Ready, int Waiting, int AlreadyHere, int Failed);

/// <summary>A photo that a worker has taken on until its claim runs out.</summary>
internal sealed record Claim(PhotoId Photo, string Hash, int Width, int Stage, int Attempts, string FileName);

/// <summary>Intakes and their files, and the queue of photos that wait to be worked on: both are rows.</summary>
internal sealed class IntakeStore(NpgsqlDataSource db, TimeProvider clock)
{
    public const string Channel = "photo_waiting";

    public async Task<IntakeId> BeginAsync(AlbumId? album, string by, CancellationToken ct)
    {
        var id = new IntakeId(Guid.CreateVersion7(clock.GetUtcNow()));
        await using var command = db.Command(
            "insert into intake (id, album, begun, begun_by) values (@id, (select a.id from album as a where a.id = @album::uuid), @now, @by)",
            ("id", id.Value), ("album", album?.Value), ("now", clock.GetUtcNow()), ("by", by));
        await command.ExecuteNonQueryAsync(ct);
        return id;
    }

    /// <summary>Changes where an intake's photos go: those that arrived already are put there, too.</summary>
    public async Task<bool> DirectAsync(IntakeId id, AlbumId? album, CancellationToken ct)
    {
        await using var command = db.Command("update intake set album = @album::uuid where id = @id", ("id", id.Value), ("album", album?.Value));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }

    public async Task<IReadOnlyList<PhotoId>> PhotosAsync(IntakeId id, CancellationToken ct)
    {
        await using var command = db.Command("select photo from intake_file where intake = @id and photo is not null order by number", ("id", id.Value));
        return await command.AllAsync(r => new PhotoId(r.GetGuid(0)), ct);
    }

    /// <summary>Makes a photo of a file that has arrived, or links the one with the same bytes, and notes it in the intake: all or nothing.</summary>
    /// <returns>Null when the intake is not there.</returns>
    public async Task<IntakeFile?> AddAsync(IntakeId intake, string fileName, Arrived arrived, PictureKind kind, PictureSize size, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        var id = new PhotoId(Guid.CreateVersion7(clock.GetUtcNow()));
        var made = await tx.RunAsync(
            """
            insert into photo (id, hash, file_name, media_type, bytes, width, height, arrived)
            values (@id, @hash, @name, @type, @bytes, @width, @height, @now)
            on conflict (hash) do nothing
            """,
            ct, ("id", id.Value), ("hash", arrived.Hash), ("name", fileName), ("type", PictureKinds.MediaType(kind)), ("bytes", arrived.Bytes), ("width", size.Width), ("height", size.Height), ("now", clock.GetUtcNow()));
        await using var find = tx.Command("select id, state, failure from photo where hash = @hash", ("hash", arrived.Hash));
        var photo = (await find.FirstAsync(r => Tuple.Create(new PhotoId(r.GetGuid(0)), r.GetString(1), r.MaybeText(2)), ct))!;
        var outcome = made == 1 ? "arrived" : "already_here";
        var number = await NoteAsync(tx, intake, fileName, photo.Item1, outcome, null, ct);
        if (number is null)
        {
            return null;
        }

        await using var target = tx.Command("select album from intake where id = @id", ("id", intake.Value));
        if (await target.ExecuteScalarAsync(ct) is Guid album)
        {
            await AlbumStore.PutArrivedAsync(tx, new AlbumId(album), photo.Item1, ct);
        }

        if (made == 1)
        {
            await tx.RunAsync($"notify {Channel}", ct);
        }

        await tx.CommitAsync(ct);
        return new IntakeFile(number.Value, fileName, outcome, photo.Item1, Convert.ToHexStringLower(arrived.Hash), photo.Item2, photo.Item3);
    }

    /// <summary>Notes a file that was refused.</summary>
    public async Task<IntakeFile?> RefuseAsync(IntakeId intake, string fileName, string reason, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        var number = await NoteAsync(tx, intake, fileName, null, "refused", reason, ct);
        if (number is null)
        {
            return null;
        }

        await tx.CommitAsync(ct);
        return new IntakeFile(number.Value, fileName, "refused", null, null, null, reason);
    }

    async Task<int?> NoteAsync(Transaction tx, IntakeId intake, string fileName, PhotoId? photo, string outcome, string? reason, CancellationToken ct)
    {
        await using var note = tx.Command(
            """
            insert into intake_file (intake, file_name, photo, outcome, reason, came)
            select i.id, @name, @photo::uuid, @outcome, @reason::text, @now from intake as i where i.id = @intake
            returning number
            """,
            ("intake", intake.Value), ("name", fileName), ("photo", photo?.Value), ("outcome", outcome), ("reason", reason), ("now", clock.GetUtcNow()));
        return await note.ExecuteScalarAsync(ct) as int?;
    }

    public async Task<IReadOnlyList<IntakeLine>> RecentAsync(IntakeId? only, int most, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select i.id, i.album, a.working_name, i.begun, i.begun_by,
                   count(f.number), count(*) filter (where p.state = 'ready' and f.outcome = 'arrived'), count(*) filter (where p.state = 'waiting'),
                   count(*) filter (where f.outcome = 'already_here'), count(*) filter (where f.outcome = 'refused' or (p.state = 'failed' and f.outcome = 'arrived'))
              from (select * from intake where @only::uuid is null or id = @only::uuid order by begun desc limit @most) as i
              left join album as a on a.id = i.album
              left join intake_file as f on f.intake = i.id
              left join photo as p on p.id = f.photo
             group by i.id, i.album, a.working_name, i.begun, i.begun_by
             order by i.begun desc
            """,
            ("only", only?.Value), ("most", most));
        return await command.AllAsync(
            r => new IntakeLine(
                new IntakeId(r.GetGuid(0)), r.IsDBNull(1) ? null : new AlbumId(r.GetGuid(1)), r.MaybeText(2), r.GetFieldValue<DateTimeOffset>(3), r.GetString(4),
                (int)r.GetInt64(5), (int)r.GetInt64(6), (int)r.GetInt64(7), (int)r.GetInt64(8), (int)r.GetInt64(9)),
            ct);
    }

    /// <summary>The files of an intake after a number, in the order they came.</summary>
    public async Task<IReadOnlyList<IntakeFile>> FilesAsync(IntakeId intake, int after, int most, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select f.number, f.file_name, f.outcome, f.photo, encode(p.hash, 'hex'), p.state, coalesce(f.reason, p.failure)
              from intake_file as f left join photo as p on p.id = f.photo
             where f.intake = @intake and f.number > @after
             order by f.number limit @most
            """,
            ("intake", intake.Value), ("after", after), ("most", most));
        return await command.AllAsync(
            r => new IntakeFile(r.GetInt32(0), r.GetString(1), r.GetString(2), r.IsDBNull(3) ? null : new PhotoId(r.GetGuid(3)), r.MaybeText(4), r.MaybeText(5), r.MaybeText(6)), ct);
    }

    /// <summary>Takes on the next photo that waits: the sheet's rendition before larger ones, published photos before others, then in order of arrival.</summary>
    public async Task<Claim?> ClaimAsync(TimeSpan lease, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var command = db.Command(
            """
            update photo as p
               set claimed_until = @until, attempts = attempts + 1
              from (select id from photo
                     where stage < 2 and state <> 'failed' and (claimed_until is null or claimed_until < @now)
                     order by stage, wanted desc, arrived
                     limit 1 for update skip locked) as next
             where p.id = next.id
            returning p.id, encode(p.hash, 'hex'), p.width, p.stage, p.attempts, p.file_name
            """,
            ("now", now), ("until", now + lease));
        return await command.FirstAsync(r => new Claim(new PhotoId(r.GetGuid(0)), r.GetString(1), r.GetInt32(2), r.GetInt16(3), r.GetInt16(4), r.GetString(5)), ct);
    }

    /// <summary>The sheet's rendition is there and the words are read: the photo is ready. Words typed meanwhile are not overwritten.</summary>
    public async Task ReadyAsync(PhotoId id, PhotoMetadata metadata, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        var w = metadata.Words;
        await tx.RunAsync(
            """
            update photo
               set state = 'ready', stage = 1, attempts = 0, claimed_until = null, version = version + 1,
                   title = coalesce(nullif(title, ''), @title::text, ''), caption = coalesce(nullif(caption, ''), @caption::text, ''), alt = coalesce(nullif(alt, ''), @alt::text, ''),
                   credit = coalesce(nullif(credit, ''), @credit::text, ''), creator = coalesce(@creator::text, ''), copyright = coalesce(@copyright::text, ''), place = coalesce(@place::text, ''),
                   rating = coalesce(@rating::smallint, rating), taken = @taken::timestamp, taken_offset_minutes = @offset::smallint, camera = @camera::text, lens = @lens::text,
                   exposure_seconds = @seconds::float8, f_number = @f::float8, iso = @iso::int, focal_length = @focal::float8, latitude = @latitude::float8, longitude = @longitude::float8
             where id = @id
            """,
            ct, ("id", id.Value), ("title", Cut(w.Title, 300)), ("caption", Cut(w.Caption, 10_000)), ("alt", Cut(w.Alt, 10_000)), ("credit", Cut(w.Credit, 300)), ("creator", Cut(w.Creator, 300)),
            ("copyright", Cut(w.Copyright, 1000)), ("place", Cut(w.Place, 300)), ("rating", (short?)w.Rating), ("taken", w.Taken?.Local), ("offset", (short?)w.Taken?.Offset?.TotalMinutes),
            ("camera", Cut(metadata.Camera, 200)), ("lens", Cut(metadata.Lens, 200)), ("seconds", metadata.Exposure.Seconds), ("f", metadata.Exposure.FNumber), ("iso", metadata.Exposure.Iso),
            ("focal", metadata.Exposure.FocalLength), ("latitude", metadata.Position?.Latitude), ("longitude", metadata.Position?.Longitude));
        if (w.Keywords.Count > 0)
        {
            await using var tagged = tx.Command("select exists (select from photo_tag where photo = @id)", ("id", id.Value));
            if (!(bool)(await tagged.ExecuteScalarAsync(ct))!)
            {
                await TaxonomyStore.SetTagsAsync(tx, id, TagName.All(w.Keywords.Take(200)), ct);
            }
        }

        await PageStore.TouchAsync(tx, [id], ct);
        await tx.CommitAsync(ct);
    }

    /// <summary>Longest text that is taken over from a file; NUL has no place in PostgreSQL's text.</summary>
    static string? Cut(string? text, int most) => text is null ? null : (text.Length > most ? text[..most] : text).Replace("\0", "", StringComparison.Ordinal);

    public async Task DoneAsync(PhotoId id, CancellationToken ct)
    {
        await using var command = db.Command("update photo set stage = 2, attempts = 0, wanted = false, claimed_until = null where id = @id", ("id", id.Value));
        await command.ExecuteNonQueryAsync(ct);
    }

    public async Task FailAsync(PhotoId id, string reason, CancellationToken ct)
    {
        await using var command = db.Command("update photo set state = 'failed', failure = @reason, claimed_until = null where id = @id", ("id", id.Value), ("reason", reason));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Gives a claim back at once, so that another worker may take it.</summary>
    public async Task ReleaseAsync(PhotoId id, CancellationToken ct)
    {
        await using var command = db.Command("update photo set claimed_until = null, attempts = greatest(attempts - 1, 0) where id = @id", ("id", id.Value));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Puts failed photos back into the queue.</summary>
    public async Task<int> RetryAsync(IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            with again as (update photo set state = 'waiting', stage = 0, attempts = 0, failure = null, claimed_until = null where id = any(@ids) and state = 'failed' returning id)
            select count(*) from again
            """,
            ("ids", photos.Select(p => p.Value).ToArray()));
        var count = (int)(long)(await command.ExecuteScalarAsync(ct))!;
        await using var wake = db.CreateCommand($"notify {Channel}");
        await wake.ExecuteNonQueryAsync(ct);
        return count;
    }
}
