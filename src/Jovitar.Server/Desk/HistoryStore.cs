using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Desk;

/// <summary>A picture to know an act by: one of its photos that can be seen.</summary>
internal sealed record ActPicture(string Picture, int Width, int Height);

/// <summary>An act as the history lists it.</summary>
/// <param name="Kind">What it did, as <see cref="ActKind"/> names it.</param>
/// <param name="Photos">How many photos it concerns; with all that arrived through it where it began an intake.</param>
/// <param name="Intake">The intake it began, which is taken back at its own place, too.</param>
/// <param name="TakenBack">It was taken back and is not in force.</param>
/// <param name="CanUndo">It can be taken back now.</param>
internal sealed record ActLine(
    ActId Id, DateTimeOffset Made, string Who, string Kind, string Sentence, int Photos, ActPicture? Picture, IntakeId? Intake, bool TakenBack, bool CanUndo);

/// <summary>A field before and after, in words where the thing is words.</summary>
internal sealed record FieldChange(string Field, string Before, string After);

/// <summary>What happened to one photo, once.</summary>
/// <param name="Changes">Its own words, before and after; none of what a worker read out of the file, where nothing stood before.</param>
internal sealed record PhotoEvent(ActId Id, DateTimeOffset Made, string Who, string Kind, string Sentence, IReadOnlyList<FieldChange> Changes, bool TakenBack, bool CanUndo);

/// <summary>Reads the record of acts.</summary>
internal sealed class HistoryStore(NpgsqlDataSource db)
{
    /// <summary>The latest acts, or those before one; what arrived through an intake counts to the act that began it.</summary>
    public async Task<IReadOnlyList<ActLine>> LatestAsync(ActId? before, int most, CancellationToken ct)
    {
        // The number is written out: a plan for whatever number there may be would read every photo to find one for each of them.
        await using var command = db.Command(
            $"""
            with latest as (
              select *
                from act
               where within is null and (@before::uuid is null or id < @before::uuid)
               order by id desc
               limit {most}),
            shown as materialized (
              select a.id, i.id as intake, i.taken_back,
                     coalesce(
                       a.lead,
                       (select f.photo from intake_file as f where f.intake = i.id and f.photo is not null order by f.number limit 1),
                       -- An album's or page's act: by the first photo that stands there now.
                       (select ap.photo
                          from act_change as c
                          left join page_thing as pt on c.kind = 'page' and pt.page = c.thing and not pt.live and pt.kind = 'album'
                          join album_photo as ap on ap.album = coalesce(pt.thing, c.thing)
                         where c.act = a.id and c.kind in ('page', 'album')
                         order by ap.place, ap.photo
                         limit 1)) as photo
                from latest as a
                left join intake as i on i.act = a.id)
            select a.id, a.made, a.who, a.kind, a.sentence, a.undone_by is not null as taken_back,
                   s.intake, s.taken_back is not null as intake_taken_back,
                   case when s.intake is null then a.photos else (select count(distinct f.photo) from intake_file as f
                     where f.intake = s.intake)::int end as photos,
                   p.picture, p.width, p.height
              from latest as a
              join shown as s on s.id = a.id
              left join photo as p on p.id = s.photo and p.stage > 0
             order by a.id desc
            """,
            ("before", before?.Value));
        return await command.AllAsync(
            r =>
            {
                var takenBack = r.Get<bool>("taken_back") || r.Get<bool>("intake_taken_back");
                return new ActLine(
                    new ActId(r.Get<Guid>("id")), r.Get<DateTimeOffset>("made"), r.Get<string>("who"), Name(r.Get<string>("kind")), r.Get<string>("sentence"), r.Get<int>("photos"),
                    r.MaybeText("picture") is { } picture ? new ActPicture(picture, r.Get<int>("width"), r.Get<int>("height")) : null,
                    r.MaybeId("intake") is { } intake ? new IntakeId(intake) : null, takenBack, !takenBack && ActKinds.CanUndo(Enum.Parse<ActKind>(r.Get<string>("kind"))));
            },
            ct);
    }

    /// <summary>What happened to a photo, the latest first.</summary>
    public async Task<IReadOnlyList<PhotoEvent>> OfPhotoAsync(PhotoId photo, int most, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            with concerned as (
              select act from (select act from act_change where thing = @photo order by act desc limit @most) as one
              union
              select act from (select act from act_change where other = @photo order by act desc limit @most) as two)
            select a.id, a.made, a.who, a.kind, a.sentence, a.undone_by is not null as taken_back,
                   coalesce((select jsonb_object_agg(f.key, f.value) from act_change as c cross join jsonb_each(c.before) as f
                     where c.act = a.id and c.kind = 'photo' and c.thing = @photo), '{}')::text as before,
                   coalesce((select jsonb_object_agg(f.key, f.value) from act_change as c cross join jsonb_each(c.after) as f
                     where c.act = a.id and c.kind = 'photo' and c.thing = @photo), '{}')::text as after
              from concerned as c
              join act as a on a.id = c.act
             order by a.id desc
             limit @most
            """,
            ("photo", photo.Value), ("most", most));
        return await command.AllAsync(
            r => new PhotoEvent(
                new ActId(r.Get<Guid>("id")), r.Get<DateTimeOffset>("made"), r.Get<string>("who"), Name(r.Get<string>("kind")), r.Get<string>("sentence"),
                Enum.Parse<ActKind>(r.Get<string>("kind")) is ActKind.Read or ActKind.Retried ? [] : Changes(r.Get<string>("before"), r.Get<string>("after")), r.Get<bool>("taken_back"),
                !r.Get<bool>("taken_back") && ActKinds.CanUndo(Enum.Parse<ActKind>(r.Get<string>("kind")))),
            ct);
    }

    /// <summary>A value in words: several names with commas between.</summary>
    static string Said(System.Text.Json.JsonElement value) => value.ValueKind == System.Text.Json.JsonValueKind.Array ? string.Join(", ", value.EnumerateArray()) : value.ToString();

    static IReadOnlyList<FieldChange> Changes(string before, string after)
    {
        using var was = System.Text.Json.JsonDocument.Parse(before);
        using var became = System.Text.Json.JsonDocument.Parse(after);
        return [.. became.RootElement.EnumerateObject()
            .Where(f => f.Name is not ("binned" or "decision" or "state") && was.RootElement.TryGetProperty(f.Name, out _))
            .Select(f => new FieldChange(ActWords.Field(f.Name), Said(was.RootElement.GetProperty(f.Name)), Said(f.Value)))];
    }

    static string Name(string kind) => System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(kind);
}
