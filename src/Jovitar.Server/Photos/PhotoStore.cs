using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Clearance;
using Jovitar.Core.Comments;
using Jovitar.Core.Describing;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Photos;

internal sealed record PlateTag(TagId Id, string Name, string SaidBy);

/// <summary>A category with its way from the top, <c>Festival / Second day</c>.</summary>
internal sealed record PlateCategory(CategoryId Id, string Path);

internal sealed record PlateAlbum(AlbumId Id, string WorkingName, int Position);

/// <summary>One photo with everything that is known of it.</summary>
/// <param name="Said">Where each word comes from, by field: file, person, or intake: and its id; missing where nobody knows.</param>
/// <param name="Version">Counts changes of its words; expected by the next write. What workers note does not raise it.</param>
/// <param name="Alike">How many others look nearly the same.</param>
/// <param name="Views">How often visitors have looked at it.</param>
/// <param name="Rated">What visitors give it; empty where nobody rated it.</param>
internal sealed record Plate(
    PhotoId Id, string Picture, string FileName, string MediaType, long Bytes, int Width, int Height, string State, string? Failure,
    string Title, string Caption, string Alt, string Credit, string Creator, string Copyright, string Licence, string Origin, string Place, string Link, int Rating, string Decision, double? Sharpness, bool Preview,
    DateTime? Taken, int? TakenOffsetMinutes, string? Camera, string? Lens, double? ExposureSeconds, double? FNumber, int? Iso, double? FocalLength,
    double? Latitude, double? Longitude, DateTimeOffset Arrived, IReadOnlyList<int> Renditions, IReadOnlyDictionary<string, string> Said,
    IReadOnlyList<string> People, IReadOnlyList<PlateTag> Tags, IReadOnlyList<PlateCategory> Categories, IReadOnlyList<PlateAlbum> Albums, AudienceLine Audience, ClearanceLine Clearance, long Version, bool Corrected, int Alike, int Views, string Rated);

/// <summary>When a photo was taken, by the clock on the wall there.</summary>
/// <param name="Offset">Of that clock from UTC, minutes; null when nobody knows.</param>
public sealed record PlateTaken(DateTime Local, int? Offset = null);

/// <summary>Where a photo was taken, degrees (WGS 84); with neither it is forgotten.</summary>
public sealed record PlatePosition(double? Latitude = null, double? Longitude = null);

/// <summary>New words for a photo; what is null stays as it is. Of tags and categories only what is added and taken away is said.</summary>
/// <param name="Decision">Empty, keep, doubt or leave_out.</param>
public sealed record PhotoChange(
    [Words(PhotoWords.LongestTitle)] string? Title = null, [Words(PhotoWords.LongestText)] string? Caption = null, [Words(PhotoWords.LongestText)] string? Alt = null,
    [Words(PhotoWords.LongestTitle)] string? Credit = null, [Words(PhotoWords.LongestTitle)] string? Creator = null,
    [Words(PhotoWords.LongestCopyright)] string? Copyright = null, [Words(PhotoWords.LongestTitle)] string? Licence = null, [Words(PhotoWords.LongestTitle)] string? Origin = null,
    [Words(PhotoWords.LongestTitle)] string? Place = null, [Words(PhotoWords.LongestLink)] string? Link = null, PlateTaken? Taken = null, PlatePosition? Position = null,
    [AtMost(Persons.Most)] IReadOnlyList<string>? AddPeople = null, [AtMost(Persons.Most)] IReadOnlyList<string>? RemovePeople = null,
    [AtMost(PhotoWords.MostTags)] IReadOnlyList<string>? AddTags = null, [AtMost(PhotoWords.MostTags)] IReadOnlyList<TagId>? RemoveTags = null,
    [AtMost(PhotoWords.MostTags)] IReadOnlyList<CategoryId>? AddCategories = null, [AtMost(PhotoWords.MostTags)] IReadOnlyList<CategoryId>? RemoveCategories = null,
    [OneOf(Decisions.None, Decisions.Keep, Decisions.Doubt, Decisions.LeaveOut)] string? Decision = null)
{
    /// <summary>Whether it writes words that somebody else may have written over meanwhile.</summary>
    public bool WritesWords => Decision is not null || Texts.Any(t => t is not null) || Taken is not null || Position is not null;

    /// <summary>The new texts, by <see cref="WordField"/>.</summary>
    internal string?[] Texts => [Title, Caption, Alt, Credit, Creator, Copyright, Licence, Origin, Place, Link];

    /// <summary>Why it cannot be written; null when it can.</summary>
    internal string? Wrong() =>
        Link is { Length: > 0 } link && !WordFields.IsLink(link) ? "A link begins with https:// or http://, or is a mail address after mailto:."
        : Taken is { } taken && (taken.Local.Year is < WordChanger.FirstYear or > WordChanger.LastYear || taken.Offset is < -840 or > 840) ? "No photo was taken then."
        : Position is { Latitude: < -90 or > 90 } or { Longitude: < -180 or > 180 } ? "There is no such place on Earth."
        : (AddPeople ?? []).Concat(RemovePeople ?? []).Any(n => !Text.IsSound(n) || n.Length > Persons.Longest) ? "This name has characters in it that cannot be kept, or is too long."
        : null;
}

/// <summary>Where an original lies and what it is called.</summary>
internal sealed record OriginalFile(string Hash, string FileName, string MediaType);

/// <summary>How a write of words ended.</summary>
internal enum WordsOutcome
{
    Written,
    Gone,
    Stale,
}

/// <summary>The words of photos.</summary>
internal sealed class PhotoStore(NpgsqlDataSource db, ActRunner acts, AccessStore access, SightStore sights)
{
    public async Task<Plate?> FindAsync(PhotoId id, CancellationToken ct)
    {
        await using var batch = db.CreateBatch();
        void Add(string sql)
        {
            var command = new NpgsqlBatchCommand(sql);
            command.Parameters.AddWithValue("id", id.Value);
            batch.BatchCommands.Add(command);
        }

        Add("""
            select picture, file_name, media_type, bytes, width, height, state, failure, title, caption, alt, credit,
                   creator, copyright, licence, origin, place, link, people,
                   rating, decision, sharpness, preview, taken, taken_offset_minutes, camera, lens, exposure_seconds, f_number, iso,
                     focal_length, latitude, longitude, arrived,
                   said::text as said, version, correction is not null as corrected,
                   (select count(*)
                      from (
                        select near as id from photo_near where photo = @id
                        union all
                        select photo from photo_near where near = @id) as n
                      join photo as q on q.id = n.id and q.state = 'ready' and q.binned is null) as alike,
                   (select coalesce(sum(views), 0)::int from view_day where thing = @id) as views,
                   (select count(*) from visitor_rating where photo = @id) as ratings,
                   (select coalesce(sum(value), 0)::bigint from visitor_rating where photo = @id) as ratings_sum
              from photo
             where id = @id and binned is null
            """);
        Add("""
            select t.id, t.name, pt.said_by
              from photo_tag as pt
              join tag as t on t.id = pt.tag
             where pt.photo = @id
             order by t.key
            """);
        Add("""
            with recursive up as (
              select c.id as leaf, c.parent, c.name as path
                from photo_category as pc
                join category as c on c.id = pc.category
               where pc.photo = @id
              union
              select u.leaf, c.parent, c.name || ' / ' || u.path
                from up as u
                join category as c on c.id = u.parent)
            select leaf, path from up where parent is null order by path
            """);
        Add("""
            select a.id, a.working_name,
                   (select count(*) from album_photo as b where b.album = ap.album and b.place <= ap.place) as position
              from album_photo as ap
              join album as a on a.id = ap.album
             where ap.photo = @id
             order by lower(a.working_name)
            """);
        await using var r = await batch.ExecuteReaderAsync(ct);
        if (!await r.ReadAsync(ct))
        {
            return null;
        }

        var plate = Read(id, r);
        plate = plate with
        {
            Tags = await NextAsync(r, () => new PlateTag(new TagId(r.Get<Guid>("id")), r.Get<string>("name"), r.Get<string>("said_by")), ct),
            Categories = await NextAsync(r, () => new PlateCategory(new CategoryId(r.Get<Guid>("leaf")), r.Get<string>("path")), ct),
            Albums = await NextAsync(r, () => new PlateAlbum(new AlbumId(r.Get<Guid>("id")), r.Get<string>("working_name"), (int)r.Get<long>("position")), ct),
        };
        var everyone = await sights.EveryoneAsync(ct);
        return await access.ClearedAsync(id, everyone, ct) is var (thing, clearance)
            ? plate with { Audience = AudienceLine.Of(thing, await access.SiteAsync(ct), access.Now, thing.On is { All: 0, Shut: > 0 } ? await access.WaysAsync(id, everyone, ct) : []), Clearance = clearance }
            : null;
    }

    static readonly ClearanceLine Unread = new("", "", "", null, "");

    static Plate Read(PhotoId id, NpgsqlDataReader r) => new(
        id, r.Get<string>("picture"), r.Get<string>("file_name"), r.Get<string>("media_type"), r.Get<long>("bytes"), r.Get<int>("width"), r.Get<int>("height"), r.Get<string>("state"), r.MaybeText("failure"),
        r.Get<string>("title"), r.Get<string>("caption"), r.Get<string>("alt"), r.Get<string>("credit"), r.Get<string>("creator"), r.Get<string>("copyright"), r.Get<string>("licence"), r.Get<string>("origin"),
        r.Get<string>("place"), r.Get<string>("link"), r.Get<short>("rating"), r.Get<string>("decision"), r.Maybe<float>("sharpness"), r.Get<bool>("preview"),
        r.Maybe<DateTime>("taken"), r.Maybe<short>("taken_offset_minutes"), r.MaybeText("camera"), r.MaybeText("lens"), r.Maybe<double>("exposure_seconds"), r.Maybe<double>("f_number"), r.Maybe<int>("iso"),
        r.Maybe<double>("focal_length"), r.Maybe<double>("latitude"), r.Maybe<double>("longitude"), r.Get<DateTimeOffset>("arrived"), Renditions.For(r.Get<int>("width")),
        System.Text.Json.JsonSerializer.Deserialize<Dictionary<string, string>>(r.Get<string>("said"))!, r.Get<string[]>("people"), [], [], [], new AudienceLine(false, "", []), Unread, r.Get<long>("version"), r.Get<bool>("corrected"), (int)r.Get<long>("alike"), r.Get<int>("views"),
        new Ratings(r.Get<long>("ratings"), r.Get<long>("ratings_sum")).Line);

    static async Task<List<T>> NextAsync<T>(NpgsqlDataReader reader, Func<T> read, CancellationToken ct)
    {
        await reader.NextResultAsync(ct);
        return await reader.RowsAsync(read, ct);
    }

    /// <summary>Writes new words when the version is still the expected one. Tags and categories are added and taken away whatever the version.</summary>
    public async Task<(WordsOutcome Outcome, Done Done)> ChangeAsync(Actor who, PhotoId id, PhotoChange change, long expected, CancellationToken ct)
    {
        // A decision is an act of its own: it is not words typed on.
        var kind = change.Decision is null ? ActKind.Words : ActKind.Decided;
        return await acts.RunAsync(who, kind, act => ChangeAsync(act, id, change, expected, ct), ct);
    }

    /// <summary>Decides about photos, or rates them; no word that somebody types meanwhile becomes stale by it. Those that are decided so already, and those that lie in the bin, stay as they are.</summary>
    public async Task<Done> DecideAsync(Actor who, IReadOnlyList<PhotoId> photos, string? decision, int? rating, CancellationToken ct)
    {
        var (_, done) = await acts.RunAsync(
            who, ActKind.Decided,
            async act =>
            {
                await using var find = act.Command("select coalesce(nullif(title, ''), file_name) from photo where id = any(@ids) limit 1", ("ids", photos.Values()));
                var name = photos.Count == 1 ? await find.ExecuteScalarAsync(ct) as string : null;
                act.Says = tally => decision is null ? ActWords.Rated(tally, name, rating ?? 0) : name is null ? ActWords.Decided(tally, decision) : ActWords.Decided(name, decision);
                await act.LockAsync("photo", photos.Values(), ct);
                await act.RunAsync(
                    """
                    update photo
                       set decision = coalesce(@decision::text, decision),
                           rating = coalesce(@rating::smallint, rating),
                           said = case when @rating::smallint is null then said else said || jsonb_build_object('rating', @person) end
                     where id = any(@ids) and binned is null
                       and (decision <> coalesce(@decision::text, decision) or rating <> coalesce(@rating::smallint, rating))
                    """,
                    ct, ("ids", photos.Values()), ("decision", decision), ("rating", (short?)rating), ("person", Said.Person));
                return true;
            },
            ct);
        return done;
    }

    static async Task<WordsOutcome> ChangeAsync(Act act, PhotoId id, PhotoChange change, long expected, CancellationToken ct)
    {
        var names = TagName.All(change.AddTags ?? []);
        var tags = await TagStore.MakeSureAsync(act, names, ct);
        await using var find = act.Command("select version, coalesce(nullif(title, ''), file_name) as name from photo where id = @id and binned is null for no key update", ("id", id.Value));
        if (await find.FirstAsync(r => Tuple.Create(r.Get<long>("version"), r.Get<string>("name")), ct) is not var (version, name))
        {
            return act.Drop(WordsOutcome.Gone);
        }

        if (change.WritesWords && version != expected)
        {
            return act.Drop(WordsOutcome.Stale);
        }

        await using var removed = act.Command("select name from tag where id = any(@ids)", ("ids", (change.RemoveTags ?? []).Values()));
        var off = await removed.AllAsync(r => r.GetString(0), ct);
        act.GoesOn = id.Value;
        act.Says = tally => change.Decision is { } decision ? ActWords.Decided(name, decision) : ActWords.Words(name, tally, [.. names.Select(n => n.Text)], off);
        if (change.WritesWords)
        {
            await WriteAsync(act, id, change, ct);
        }

        await WritePeopleAsync(act, id, change, ct);
        await TagStore.AddAsync(act, [id], tags, Said.Person, ct);
        await TagStore.RemoveAsync(act, [id], change.RemoveTags ?? [], saidBy: null, ct);
        await CategoryStore.AddPhotosAsync(act, [id], change.AddCategories ?? [], Said.Person, ct);
        await CategoryStore.RemovePhotosAsync(act, [id], change.RemoveCategories ?? [], saidBy: null, ct);
        return WordsOutcome.Written;
    }

    static Task<int> WriteAsync(Act act, PhotoId id, PhotoChange change, CancellationToken ct)
    {
        var texts = WordFields.All.Select(f => (Name: WordFields.Name(f), Text: change.Texts[(int)f])).ToArray();
        var said = texts.Where(t => t.Text is not null).Select(t => t.Name)
            .Concat(change.Taken is null ? [] : ["taken"]).Concat(change.Position is null ? [] : ["latitude"]).ToDictionary(n => n, _ => Said.Person);
        return act.RunAsync(
            $"""
            update photo
               set {string.Join(",\n       ", texts.Select(t => $"{t.Name} = coalesce(@{t.Name}::text, {t.Name})"))},
                   decision = coalesce(@decision::text, decision),
                   taken = coalesce(@taken::timestamp, taken),
                   taken_offset_minutes = case when @taken::timestamp is null then taken_offset_minutes else @away::smallint end,
                   latitude = case when @moved then @latitude::float8 else latitude end,
                   longitude = case when @moved then @longitude::float8 else longitude end,
                   said = said || @said::jsonb,
                   version = version + 1
             where id = @id
            """,
            ct,
            [
                .. texts.Select(t => (t.Name, (object?)t.Text)),
                ("id", id.Value), ("decision", change.Decision), ("taken", change.Taken is { } taken ? DateTime.SpecifyKind(taken.Local, DateTimeKind.Unspecified) : null),
                ("away", (short?)change.Taken?.Offset), ("moved", change.Position is not null), ("latitude", change.Position?.Latitude), ("longitude", change.Position?.Longitude),
                ("said", System.Text.Json.JsonSerializer.Serialize(said)),
            ]);
    }

    /// <summary>Names people as shown, and not; others that are named meanwhile stay.</summary>
    static async Task WritePeopleAsync(Act act, PhotoId id, PhotoChange change, CancellationToken ct)
    {
        if (change.AddPeople is null && change.RemovePeople is null)
        {
            return;
        }

        await using var read = act.Command("select people from photo where id = @id", ("id", id.Value));
        var people = Persons.Changed((string[])(await read.ExecuteScalarAsync(ct))!, change.AddPeople ?? [], change.RemovePeople ?? []);
        await act.RunAsync(
            """
            update photo
               set people = @people, said = said || jsonb_build_object('people', @person)
             where id = @id and people <> @people
            """,
            ct, ("id", id.Value), ("people", people.ToArray()), ("person", Said.Person));
    }

    /// <summary>Where the original lies and what it is called.</summary>
    public async Task<OriginalFile?> OriginalAsync(PhotoId id, CancellationToken ct)
    {
        await using var command = db.Command("select encode(hash, 'hex') as hash, file_name, media_type from photo where id = @id", ("id", id.Value));
        return await command.FirstAsync(r => new OriginalFile(r.Get<string>("hash"), r.Get<string>("file_name"), r.Get<string>("media_type")), ct);
    }
}
