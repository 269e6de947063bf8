using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Describing;
using Jovitar.Core.Intake;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;

namespace Jovitar.Server.Intake.Sidecars;

/// <summary>What sidecars say, kept by intake, folder and name, so that it does not matter which comes first, the photo or its sidecar.</summary>
/// <remarks>
/// A sidecar speaks where the photo's file speaks, and before it (common practice: the sidecar was written later). What a person,
/// or the whole intake, has said stands.
/// </remarks>
internal static class SidecarStore
{
    /// <summary>Whether a file may speak of a field: nobody has said anything of it, or only the file.</summary>
    static string Free(string field) => $"coalesce(p.said ->> '{field}', 'file') = 'file'";

    static string Word(string column) => $"{column} = case when {Free(column)} then coalesce(s.words ->> '{column}', p.{column}) else p.{column} end";

    /// <summary>The words of each photo's closest sidecar go onto the photo.</summary>
    static readonly string PutOn =
        $$"""
        update photo as p
           set {{string.Join(",\n       ", FileWords.Columns.Select(Word))}},
               people = case when {{Free("people")}} and s.people <> '{}' then s.people else p.people end,
               rating = case when {{Free("rating")}} then coalesce(s.rating, p.rating) else p.rating end,
               taken = case when {{Free("taken")}} then coalesce(s.taken, p.taken) else p.taken end,
               taken_offset_minutes = case when {{Free("taken")}} and s.taken is not null then s.taken_offset_minutes
                 else p.taken_offset_minutes end,
               latitude = case when {{Free("latitude")}} then coalesce(s.latitude, p.latitude) else p.latitude end,
               longitude = case when {{Free("latitude")}} then coalesce(s.longitude, p.longitude) else p.longitude end,
               said = p.said || s.says || (select coalesce(jsonb_object_agg(f.key, f.value), '{}')
                 from jsonb_each(p.said) as f where f.value <> '"file"'),
               file_words = p.file_words || s.words,
               version = version + 1
          from (
            select distinct on (f.photo) f.photo, s.*,
                   (select coalesce(jsonb_object_agg(w.key, 'file'), '{}') from jsonb_object_keys(s.words) as w(key))
                     || case when s.taken is null then '{}' else '{"taken":"file"}'::jsonb end
                     || case when s.latitude is null then '{}' else '{"latitude":"file"}'::jsonb end as says
              from intake_file as f
              join sidecar as s
                on s.intake = f.intake and s.path = f.path
               and s.beside in (lower(f.file_name), regexp_replace(lower(f.file_name), '\.[^.]*$', ''))
             where f.intake = @intake and f.path = @path and f.photo = any(@photos)
             order by f.photo, length(s.beside) desc) as s
         where p.id = s.photo and p.binned is null
        """;

    /// <summary>Until the act ends, nobody else puts a photo of this name together with a sidecar of it. Taken before all other locks.</summary>
    public static Task HoldAsync(Act act, IntakeId intake, Incoming incoming, CancellationToken ct) => act.RunAsync(
        "select pg_advisory_xact_lock(hashtextextended(@what, 0))", ct, ("what", $"sidecar {intake}/{incoming.Path}/{SidecarNames.Common(incoming.FileName)}"));

    /// <summary>Keeps what a sidecar says; a later one of the same name takes its place. The name must be held.</summary>
    /// <returns>The photos here that it lies beside and none closer.</returns>
    public static async Task<IReadOnlyList<PhotoId>> KeepAsync(Act act, IntakeId intake, Incoming incoming, PhotoMetadata says, FileWords words, CancellationToken ct)
    {
        var taken = says.Words.Taken;
        var photos = await PhotosAsync(act, intake, incoming, ct);
        await act.RunAsync(
            """
            insert into sidecar (intake, path, beside, words, tags, people, rating, taken, taken_offset_minutes, latitude, longitude, came,
                   used)
            values (@intake, @path, @beside, @words::jsonb, @tags, @people, @rating::smallint, @taken::timestamp, @away::smallint,
              @latitude::float8, @longitude::float8, @now, @used)
            on conflict (intake, path, beside) do update
               set words = excluded.words, tags = excluded.tags, people = excluded.people, rating = excluded.rating,
                   taken = excluded.taken, taken_offset_minutes = excluded.taken_offset_minutes, latitude = excluded.latitude,
                   longitude = excluded.longitude, came = excluded.came, used = excluded.used
            """,
            ct, ("intake", intake.Value), ("path", incoming.Path), ("beside", SidecarNames.Beside(incoming.FileName)), ("words", JsonSerializer.Serialize(words.Words)),
            ("tags", words.Tags.Select(t => t.Text).ToArray()), ("people", Persons.All(says.Words.People).ToArray()), ("rating", (short?)says.Words.Rating),
            ("taken", taken?.Local), ("away", (short?)taken?.Offset?.TotalMinutes), ("latitude", says.Position?.Latitude), ("longitude", says.Position?.Longitude), ("now", act.Now),
            ("used", photos.Count > 0));
        return photos;
    }

    /// <summary>The tags that the closest sidecar of a photo has for it; null when there is none. The name must be held.</summary>
    public static async Task<IReadOnlyList<TagName>?> TagsOfAsync(Act act, IntakeId intake, Incoming photo, CancellationToken ct)
    {
        await using var find = act.Command(
            """
            update sidecar
               set used = true
             where intake = @intake and path = @path and beside = any(@names)
            returning beside, tags
            """,
            ("intake", intake.Value), ("path", photo.Path), ("names", SidecarNames.Of(photo.FileName).ToArray()));
        var found = await find.AllAsync(r => (Beside: r.Get<string>("beside"), Tags: r.Get<string[]>("tags")), ct);
        return found.Count == 0 ? null : TagName.All(found.MaxBy(f => f.Beside.Length).Tags);
    }

    static async Task<IReadOnlyList<PhotoId>> PhotosAsync(Act act, IntakeId intake, Incoming sidecar, CancellationToken ct)
    {
        var beside = SidecarNames.Beside(sidecar.FileName);
        await using var find = act.Command(
            """
            select distinct f.photo
              from intake_file as f
             where f.intake = @intake and f.path = @path and f.photo is not null
               and regexp_replace(lower(f.file_name), '\.[^.]*$', '') = any(@stems)
               and (lower(f.file_name) = @beside
                 or (regexp_replace(lower(f.file_name), '\.[^.]*$', '') = @beside
                   and not exists (select from sidecar as s
                     where s.intake = f.intake and s.path = f.path and s.beside = lower(f.file_name))))
            """,
            ("intake", intake.Value), ("path", sidecar.Path), ("beside", beside), ("stems", SidecarNames.Of(beside).ToArray()));
        return await find.AllAsync(r => new PhotoId(r.GetGuid(0)), ct);
    }

    /// <summary>Puts what their sidecars say onto photos of one name, which must be held, as must be the tags.</summary>
    public static async Task PutOnAsync(Act act, IntakeId intake, Incoming incoming, IReadOnlyList<PhotoId> photos, IReadOnlyList<TagId> tags, CancellationToken ct)
    {
        if (photos.Count == 0)
        {
            return;
        }

        await act.LockAsync("photo", photos.Values(), ct);
        await act.RunAsync(PutOn, ct, ("intake", intake.Value), ("path", incoming.Path), ("photos", photos.Values()));
        await TagStore.AddAsync(act, photos, tags, Said.File, ct);
    }
}
