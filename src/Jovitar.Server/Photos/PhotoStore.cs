using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Access;
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
internal sealed record Plate(
    PhotoId Id, string Hash, string FileName, string MediaType, long Bytes, int Width, int Height, string State, string? Failure,
    string Title, string Caption, string Alt, string Credit, string Creator, string Copyright, string Licence, string Origin, string Place, int Rating, string Decision, double? Sharpness, bool Preview,
    DateTime? Taken, int? TakenOffsetMinutes, string? Camera, string? Lens, double? ExposureSeconds, double? FNumber, int? Iso, double? FocalLength,
    double? Latitude, double? Longitude, DateTimeOffset Arrived, IReadOnlyList<int> Renditions, IReadOnlyDictionary<string, string> Said,
    IReadOnlyList<PlateTag> Tags, IReadOnlyList<PlateCategory> Categories, IReadOnlyList<PlateAlbum> Albums, AudienceLine Audience, long Version);

/// <summary>New words for a photo; what is null stays as it is. Of tags and categories only what is added and taken away is said.</summary>
/// <param name="Decision">Empty, keep, doubt or leave_out.</param>
public sealed record PhotoChange(
    [Words(PhotoWords.LongestTitle)] string? Title = null, [Words(PhotoWords.LongestText)] string? Caption = null, [Words(PhotoWords.LongestText)] string? Alt = null,
    [Words(PhotoWords.LongestTitle)] string? Credit = null,
    [AtMost(PhotoWords.MostTags)] IReadOnlyList<string>? AddTags = null, [AtMost(PhotoWords.MostTags)] IReadOnlyList<TagId>? RemoveTags = null,
    [AtMost(PhotoWords.MostTags)] IReadOnlyList<CategoryId>? AddCategories = null, [AtMost(PhotoWords.MostTags)] IReadOnlyList<CategoryId>? RemoveCategories = null,
    [OneOf(Decisions.None, Decisions.Keep, Decisions.Doubt, Decisions.LeaveOut)] string? Decision = null)
{
    /// <summary>Whether it writes words that somebody else may have written over meanwhile.</summary>
    public bool WritesWords => Title is not null || Caption is not null || Alt is not null || Credit is not null || Decision is not null;
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
internal sealed class PhotoStore(NpgsqlDataSource db, ActRunner acts, AccessStore access)
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
            select encode(hash, 'hex') as hash, file_name, media_type, bytes, width, height, state, failure, title, caption, alt, credit,
                   creator, copyright, licence, origin, place,
                   rating, decision, sharpness, preview, taken, taken_offset_minutes, camera, lens, exposure_seconds, f_number, iso,
                     focal_length, latitude, longitude, arrived,
                   said::text as said, version
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
        return await access.PhotoAsync(id, ct) is { } thing ? plate with { Audience = AudienceLine.Of(thing, access.Now) } : null;
    }

    static Plate Read(PhotoId id, NpgsqlDataReader r) => new(
        id, r.Get<string>("hash"), r.Get<string>("file_name"), r.Get<string>("media_type"), r.Get<long>("bytes"), r.Get<int>("width"), r.Get<int>("height"), r.Get<string>("state"), r.MaybeText("failure"),
        r.Get<string>("title"), r.Get<string>("caption"), r.Get<string>("alt"), r.Get<string>("credit"), r.Get<string>("creator"), r.Get<string>("copyright"), r.Get<string>("licence"), r.Get<string>("origin"),
        r.Get<string>("place"), r.Get<short>("rating"), r.Get<string>("decision"), r.Maybe<float>("sharpness"), r.Get<bool>("preview"),
        r.Maybe<DateTime>("taken"), r.Maybe<short>("taken_offset_minutes"), r.MaybeText("camera"), r.MaybeText("lens"), r.Maybe<double>("exposure_seconds"), r.Maybe<double>("f_number"), r.Maybe<int>("iso"),
        r.Maybe<double>("focal_length"), r.Maybe<double>("latitude"), r.Maybe<double>("longitude"), r.Get<DateTimeOffset>("arrived"), Renditions.For(r.Get<int>("width")),
        System.Text.Json.JsonSerializer.Deserialize<Dictionary<string, string>>(r.Get<string>("said"))!, [], [], [], new AudienceLine(false, ""), r.Get<long>("version"));

    static async Task<List<T>> NextAsync<T>(NpgsqlDataReader reader, Func<T> read, CancellationToken ct)
    {
        await reader.NextResultAsync(ct);
        var list = new List<T>();
        while (await reader.ReadAsync(ct))
        {
            list.Add(read());
        }

        return list;
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

        await TagStore.AddAsync(act, [id], tags, Said.Person, ct);
        await TagStore.RemoveAsync(act, [id], change.RemoveTags ?? [], saidBy: null, ct);
        await CategoryStore.AddPhotosAsync(act, [id], change.AddCategories ?? [], Said.Person, ct);
        await CategoryStore.RemovePhotosAsync(act, [id], change.RemoveCategories ?? [], saidBy: null, ct);
        return WordsOutcome.Written;
    }

    static Task<int> WriteAsync(Act act, PhotoId id, PhotoChange change, CancellationToken ct)
    {
        var said = new[] { ("title", change.Title), ("caption", change.Caption), ("alt", change.Alt), ("credit", change.Credit) }.Where(w => w.Item2 is not null).ToDictionary(w => w.Item1, _ => Said.Person);
        return act.RunAsync(
            """
            update photo
               set title = coalesce(@title::text, title),
                   caption = coalesce(@caption::text, caption),
                   alt = coalesce(@alt::text, alt),
                   credit = coalesce(@credit::text, credit),
                   decision = coalesce(@decision::text, decision),
                   said = said || @said::jsonb,
                   version = version + 1
             where id = @id
            """,
            ct, ("id", id.Value), ("title", change.Title), ("caption", change.Caption), ("alt", change.Alt), ("credit", change.Credit), ("decision", change.Decision),
            ("said", System.Text.Json.JsonSerializer.Serialize(said)));
    }

    /// <summary>Where the original lies and what it is called.</summary>
    public async Task<OriginalFile?> OriginalAsync(PhotoId id, CancellationToken ct)
    {
        await using var command = db.Command("select encode(hash, 'hex') as hash, file_name, media_type from photo where id = @id", ("id", id.Value));
        return await command.FirstAsync(r => new OriginalFile(r.Get<string>("hash"), r.Get<string>("file_name"), r.Get<string>("media_type")), ct);
    }
}
