using Jovitar.Core;
using Jovitar.Core.Intake;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Pages;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>A photo that a worker has taken on until its claim runs out.</summary>
internal sealed record Claim(PhotoId Photo, string Hash, int Width, int Stage, int Attempts, string FileName);

/// <summary>The queue of photos that wait to be worked on: it is their rows.</summary>
internal sealed class PhotoQueue(NpgsqlDataSource db, TimeProvider clock)
{
    public const string Channel = "photo_waiting";

    /// <summary>While so many photos come within a moment, larger renditions wait: a processor that is busy with one for a second would keep ten photos from the sheet.</summary>
    const int Flood = 5;

    static readonly TimeSpan FloodSpan = TimeSpan.FromSeconds(2);

    /// <summary>Takes on the next photo that waits: the sheet's rendition before larger ones, published photos before others, then in order of arrival.</summary>
    public async Task<Claim?> ClaimAsync(TimeSpan lease, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var command = db.Command(
            """
            update photo as p
               set claimed_until = @until, attempts = attempts + 1
              from (select id from photo
                     where stage < 2 and state <> 'failed' and state <> 'binned' and (claimed_until is null or claimed_until < @now)
                       and (stage = 0 or wanted or (select count(*) from (select from photo where arrived > @recent order by arrived limit @flood) as latest) < @flood)
                     order by stage, wanted desc, arrived
                     limit 1 for update skip locked) as next
             where p.id = next.id
            returning p.id, encode(p.hash, 'hex'), p.width, p.stage, p.attempts, p.file_name
            """,
            ("now", now), ("until", now + lease), ("recent", now - FloodSpan), ("flood", Flood));
        return await command.FirstAsync(r => new Claim(new PhotoId(r.GetGuid(0)), r.GetString(1), r.GetInt32(2), r.GetInt16(3), r.GetInt16(4), r.GetString(5)), ct);
    }

    /// <summary>The sheet's rendition is there and the words are read: the photo is ready. Words typed meanwhile, or said of the whole intake, are not overwritten.</summary>
    /// <param name="look">Its perceptual hash.</param>
    public async Task ReadyAsync(PhotoId id, PhotoMetadata metadata, ulong look, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        var w = metadata.Words;
        var there = await tx.RunAsync(
            """
            update photo
               set state = 'ready', stage = 1, attempts = 0, claimed_until = null, version = version + 1, failure = null, failure_cause = null, ready_at = @now, look = @look,
                   title = coalesce(nullif(title, ''), @title::text, ''), caption = coalesce(nullif(caption, ''), @caption::text, ''), alt = coalesce(nullif(alt, ''), @alt::text, ''),
                   credit = coalesce(nullif(credit, ''), @credit::text, ''), creator = coalesce(@creator::text, ''), copyright = coalesce(nullif(copyright, ''), @copyright::text, ''), place = coalesce(@place::text, ''),
                   rating = coalesce(@rating::smallint, rating), taken = @taken::timestamp, taken_offset_minutes = @offset::smallint, camera = @camera::text, lens = @lens::text,
                   exposure_seconds = @seconds::float8, f_number = @f::float8, iso = @iso::int, focal_length = @focal::float8, latitude = @latitude::float8, longitude = @longitude::float8
             where id = @id and state <> 'binned'
            """,
            ct, ("id", id.Value), ("now", clock.GetUtcNow()), ("look", (long)look), ("title", Cut(w.Title, 300)), ("caption", Cut(w.Caption, 10_000)), ("alt", Cut(w.Alt, 10_000)), ("credit", Cut(w.Credit, 300)), ("creator", Cut(w.Creator, 300)),
            ("copyright", Cut(w.Copyright, 1000)), ("place", Cut(w.Place, 300)), ("rating", (short?)w.Rating), ("taken", w.Taken?.Local), ("offset", (short?)w.Taken?.Offset?.TotalMinutes),
            ("camera", Cut(metadata.Camera, 200)), ("lens", Cut(metadata.Lens, 200)), ("seconds", metadata.Exposure.Seconds), ("f", metadata.Exposure.FNumber), ("iso", metadata.Exposure.Iso),
            ("focal", metadata.Exposure.FocalLength), ("latitude", metadata.Position?.Latitude), ("longitude", metadata.Position?.Longitude));
        if (there == 0)
        {
            // Thrown in the bin while it was worked on: what lies there stands nowhere.
            return;
        }

        if (w.Keywords.Count > 0)
        {
            await TaxonomyStore.AddTagsAsync(tx, [id], TagName.All(w.Keywords.Take(200)), ct);
        }

        await RepeatStore.NoteAsync(tx, id, look, w.Taken?.Local, ct);
        await PageStore.TouchAsync(tx, [id], ct);
        await tx.CommitAsync(ct);
    }

    /// <summary>Longest text that is taken over from a file; NUL has no place in PostgreSQL's text.</summary>
    static string? Cut(string? text, int most) => text is null ? null : (text.Length > most ? text[..most] : text).Replace("\0", "", StringComparison.Ordinal);

    /// <summary>All renditions are there.</summary>
    public async Task DoneAsync(PhotoId id, double sharpness, CancellationToken ct)
    {
        await using var command = db.Command("update photo set stage = 2, attempts = 0, wanted = false, claimed_until = null, sharpness = @sharpness where id = @id", ("id", id.Value), ("sharpness", (float)sharpness));
        await command.ExecuteNonQueryAsync(ct);
    }

    public async Task FailAsync(PhotoId id, IntakeProblem cause, string reason, CancellationToken ct)
    {
        await using var command = db.Command(
            "update photo set state = 'failed', failure = @reason, failure_cause = @cause, claimed_until = null where id = @id and state <> 'binned'", ("id", id.Value), ("reason", reason), ("cause", cause.ToString()));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Gives a claim back until a moment from now, without counting it as a try: what failed was not the photo.</summary>
    public async Task ReleaseAsync(PhotoId id, TimeSpan wait, CancellationToken ct)
    {
        await using var command = db.Command(
            "update photo set claimed_until = @until, attempts = greatest(attempts - 1, 0) where id = @id and state <> 'binned'", ("id", id.Value), ("until", clock.GetUtcNow() + wait));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Puts failed photos back into the queue.</summary>
    public async Task<int> RetryAsync(IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            with again as (update photo set state = 'waiting', stage = 0, attempts = 0, failure = null, failure_cause = null, claimed_until = null where id = any(@ids) and state = 'failed' returning id)
            select count(*) from again
            """,
            ("ids", photos.Select(p => p.Value).ToArray()));
        var count = (int)(long)(await command.ExecuteScalarAsync(ct))!;
        await using var wake = db.CreateCommand($"notify {Channel}");
        await wake.ExecuteNonQueryAsync(ct);
        return count;
    }
}
