using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Corrections;
using Jovitar.Core.Intake;
using Jovitar.Core.Describing;
using Jovitar.Core.Photos;
using Jovitar.Server.Acts;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>A photo that a worker has taken on until its claim runs out.</summary>
/// <param name="Again">It had all its renditions before, and was corrected since.</param>
/// <param name="Token">What it must still be claimed by when the work is written down.</param>
internal sealed record Claim(PhotoId Photo, Guid Token, string Hash, string Picture, int Width, Correction Correction, int Stage, bool Again, int Attempts, string FileName);

/// <summary>The queue of photos that wait to be worked on: it is their rows.</summary>
internal sealed class PhotoQueue(NpgsqlDataSource db, ActRunner acts, TimeProvider clock)
{
    public const string Channel = "photo_waiting";

    /// <summary>While so many photos come within a moment, larger renditions wait: a processor that is busy with one for a second would keep ten photos from the sheet.</summary>
    const int Flood = 5;

    static readonly TimeSpan FloodSpan = TimeSpan.FromSeconds(2);

    static readonly Actor Reader = Actor.Worker("intake");

    /// <summary>Takes on the next photo that waits: the sheet's rendition before larger ones, published photos before others, then in order of arrival.</summary>
    public async Task<Claim?> ClaimAsync(TimeSpan lease, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var command = db.Command(
            """
            update photo as p
               set claimed_until = @until, claim = @token, attempts = attempts + 1
              from (
                select id
                  from photo
                 where stage < 2 and state <> 'failed' and binned is null and (claimed_until is null or claimed_until < @now)
                   and (stage = 0 or wanted or (select count(*)
                     from (select from photo where arrived > @recent order by arrived limit @flood) as latest) < @flood)
                 order by stage, wanted desc, arrived
                 limit 1
                   for no key update skip locked) as next
             where p.id = next.id
            returning p.id, encode(p.hash, 'hex') as hash, p.picture, p.width, p.correction::text as correction, p.stage,
                      p.sharpness is not null as again, p.attempts, p.file_name, p.claim
            """,
            ("now", now), ("until", now + lease), ("token", Guid.NewGuid()), ("recent", now - FloodSpan), ("flood", Flood));
        return await command.FirstAsync(
            r => new Claim(new PhotoId(r.Get<Guid>("id")), r.Get<Guid>("claim"), r.Get<string>("hash"), r.Get<string>("picture"), r.Get<int>("width"), CorrectionText.Read(r.MaybeText("correction")), r.Get<short>("stage"), r.Get<bool>("again"), r.Get<short>("attempts"), r.Get<string>("file_name")), ct);
    }

    /// <summary>Holds a claim for longer.</summary>
    /// <returns>False when another has taken the photo over.</returns>
    public async Task<bool> RenewAsync(Claim claim, TimeSpan lease, CancellationToken ct)
    {
        await using var command = db.Command(
            "update photo set claimed_until = @until where id = @id and claim = @token", ("id", claim.Photo.Value), ("token", claim.Token), ("until", clock.GetUtcNow() + lease));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }

    /// <summary>Work on a photo is written down: an act of the worker's within the one that brought it, if the claim still holds.</summary>
    Task<(bool Answer, Done Done)> WriteAsync(Claim claim, string says, Func<Act, Task<int>> write, CancellationToken ct) => acts.RunAsync(
        Reader, ActKind.Read,
        async act =>
        {
            act.Says = _ => says;
            await using var within = act.Command(
                    """
                    select i.act
                      from intake_file as f
                      join intake as i on i.id = f.intake
                     where f.photo = @photo and i.act is not null
                     order by f.number desc
                     limit 1
                    """,
                    ("photo", claim.Photo.Value));
            act.Within = await within.ExecuteScalarAsync(ct) is Guid begun ? new ActId(begun) : null;
            return await write(act) > 0 || act.Drop(false);
        },
        ct);

    /// <summary>A text that nobody has typed or said meanwhile is the file's.</summary>
    static readonly string WordsOfFile = string.Join(",\n       ", FileWords.Columns.Select(c => $"{c} = coalesce(nullif({c}, ''), @words::jsonb ->> '{c}', '')"));

    /// <summary>The sheet's rendition is there and the words are read: the photo is ready. Words typed meanwhile, or said of the whole intake, are not overwritten.</summary>
    /// <param name="look">Its perceptual hash.</param>
    public Task ReadyAsync(Claim claim, PhotoMetadata metadata, ulong look, CancellationToken ct)
    {
        var words = FileWords.Of(metadata);
        return WriteAsync(
            claim, $"Read what the file of “{claim.FileName}” says.",
            async act =>
            {
                var tags = await TagStore.MakeSureAsync(act, words.Tags, ct);
                var taken = metadata.Words.Taken;
                var there = await act.RunAsync(
                    $$"""
                    update photo
                       set state = 'ready', stage = 1, attempts = 0, claimed_until = null, claim = null, failure = null,
                         failure_cause = null, ready_at = @now, look = @look,
                           {{WordsOfFile}},
                           said = (select coalesce(jsonb_object_agg(w.key, 'file'), '{}')
                             from jsonb_object_keys(@words::jsonb) as w(key)) || said,
                           file_words = @words::jsonb || file_words,
                           version = version + case when @words::jsonb = '{}' then 0 else 1 end,
                           rating = case when rating = 0 then coalesce(@rating::smallint, 0) else rating end,
                           people = case when people = '{}' and said ->> 'people' is distinct from 'person' then @people else people end,
                           -- What a person or a sidecar has said of it meanwhile stands.
                           taken = case when said ? 'taken' then taken else @taken::timestamp end,
                           taken_offset_minutes = case when said ? 'taken' then taken_offset_minutes else @away::smallint end,
                           camera = @camera::text, lens = @lens::text, exposure_seconds = @seconds::float8, f_number = @f::float8,
                           iso = @iso::int, focal_length = @focal::float8,
                           latitude = case when said ? 'latitude' then latitude else @latitude::float8 end,
                           longitude = case when said ? 'latitude' then longitude else @longitude::float8 end
                     where id = @id and claim = @token and binned is null
                    """,
                    ct,
                    ("id", claim.Photo.Value), ("token", claim.Token), ("now", act.Now), ("people", Persons.All(metadata.Words.People).ToArray()), ("look", (long)look), ("words", JsonSerializer.Serialize(words.Words)), ("rating", (short?)metadata.Words.Rating),
                    ("taken", taken?.Local), ("away", (short?)taken?.Offset?.TotalMinutes), ("camera", FileWords.Short(metadata.Camera)), ("lens", FileWords.Short(metadata.Lens)),
                    ("seconds", metadata.Exposure.Seconds), ("f", metadata.Exposure.FNumber), ("iso", metadata.Exposure.Iso), ("focal", metadata.Exposure.FocalLength),
                    ("latitude", metadata.Position?.Latitude), ("longitude", metadata.Position?.Longitude));
                if (there == 0)
                {
                    // Thrown in the bin while it was worked on, or taken over by another: nothing of this is written.
                    return 0;
                }

                await TagStore.AddAsync(act, [claim.Photo], tags, Said.File, ct);
                await RepeatStore.NoteAsync(act, claim.Photo, look, taken?.Local, ct);
                if (words.Remark is { } remark)
                {
                    await act.RunAsync("update intake_file set reason = @remark where photo = @id and outcome = 'arrived' and reason is null", ct, ("id", claim.Photo.Value), ("remark", remark));
                }

                return there;
            },
            ct);
    }

    /// <summary>All renditions are there.</summary>
    public async Task DoneAsync(Claim claim, double sharpness, CancellationToken ct)
    {
        await using var command = db.Command(
                """
                update photo
                   set stage = 2, attempts = 0, wanted = false, claimed_until = null, claim = null, sharpness = @sharpness
                 where id = @id and claim = @token
                """,
            ("id", claim.Photo.Value), ("token", claim.Token), ("sharpness", (float)sharpness));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>What names the pictures that photos with this original are seen as.</summary>
    public async Task<IReadOnlySet<string>> PicturesAsync(string hash, CancellationToken ct)
    {
        await using var command = db.Command("select picture from photo where hash = @hash", ("hash", Convert.FromHexString(hash)));
        return (await command.AllAsync(r => r.GetString(0), ct)).ToHashSet();
    }

    public Task FailAsync(Claim claim, IntakeProblem cause, string reason, CancellationToken ct) => WriteAsync(
        claim, $"“{claim.FileName}” could not be made ready.",
        act => act.RunAsync(
            """
            update photo
               set state = 'failed', failure = @reason, failure_cause = @cause, claimed_until = null, claim = null
             where id = @id and claim = @token and binned is null
            """,
            ct, ("id", claim.Photo.Value), ("token", claim.Token), ("reason", reason), ("cause", cause.ToString())),
        ct);

    /// <summary>Gives a claim back until a moment from now.</summary>
    /// <param name="counts">Whether it counts as a try: what went wrong may be the photo's fault.</param>
    public async Task ReleaseAsync(Claim claim, TimeSpan wait, bool counts, CancellationToken ct)
    {
        await using var command = db.Command(
                """
                update photo
                   set claimed_until = @until, attempts = case when @counts then attempts else greatest(attempts - 1, 0) end
                 where id = @id and claim = @token
                """,
            ("id", claim.Photo.Value), ("token", claim.Token), ("until", clock.GetUtcNow() + wait), ("counts", counts));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Puts failed photos back into the queue.</summary>
    public async Task<int> RetryAsync(Actor who, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        var (count, _) = await acts.RunAsync(
            who, ActKind.Retried,
            async act =>
            {
                act.Says = tally => $"Put {ActWords.Photos(tally.Photos)} back to work.";
                await act.LockAsync("photo", photos.Values(), ct);
                var again = await act.RunAsync(
                    """
                    update photo
                       set state = 'waiting', stage = 0, attempts = 0, failure = null, failure_cause = null, claimed_until = null,
                         claim = null
                     where id = any(@ids) and state = 'failed' and binned is null
                    """,
                    ct, ("ids", photos.Values()));
                await act.RunAsync($"notify {Channel}", ct);
                return again;
            },
            ct);
        return count;
    }
}
