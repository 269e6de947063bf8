using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Photos;

internal sealed record PlateTag(TagId Id, string Name);

/// <summary>A category with its way from the top, <c>Festival / Second day</c>.</summary>
internal sealed record PlateCategory(CategoryId Id, string Path);

internal sealed record PlateAlbum(AlbumId Id, string WorkingName, int Position);

/// <summary>One photo with everything that is known of it.</summary>
internal sealed record Plate(
    PhotoId Id, string Hash, string FileName, string MediaType, long Bytes, int Width, int Height, string State, string? Failure,
    string Title, string Caption, string Alt, string Credit, string Creator, string Copyright, string Licence, string Origin, string Place, int Rating, string Decision, double? Sharpness, bool Preview,
    DateTime? Taken, int? TakenOffsetMinutes, string? Camera, string? Lens, double? ExposureSeconds, double? FNumber, int? Iso, double? FocalLength,
    double? Latitude, double? Longitude, DateTimeOffset Arrived, IReadOnlyList<int> Renditions,
    IReadOnlyList<PlateTag> Tags, IReadOnlyList<PlateCategory> Categories, IReadOnlyList<PlateAlbum> Albums, AudienceLine Audience, long Version);

/// <summary>New words for a photo; what is null stays as it is.</summary>
/// <param name="Decision">Empty, keep, doubt or leave_out.</param>
internal sealed record PhotoChange(string? Title, string? Caption, string? Alt, string? Credit, IReadOnlyList<string>? Tags, IReadOnlyList<CategoryId>? Categories, string? Decision = null)
{
    public const int LongestTitle = 300;
    public const int LongestText = 10_000;

    public Dictionary<string, string> Faults()
    {
        var faults = new Dictionary<string, string>();
        void Check(string? text, int most, string field)
        {
            if (text?.Length > most)
            {
                faults[field] = $"This may have {most:#,0} characters.";
            }
        }

        Check(Title, LongestTitle, "title");
        Check(Caption, LongestText, "caption");
        Check(Alt, LongestText, "alt");
        Check(Credit, LongestTitle, "credit");
        if (Decision is not (null or "" or "keep" or "doubt" or "leave_out"))
        {
            faults["decision"] = "A photo is kept, in doubt, or left out.";
        }

        return faults;
    }
}

/// <summary>The words of photos.</summary>
internal sealed class PhotoStore(NpgsqlDataSource db)
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
            select encode(hash, 'hex'), file_name, media_type, bytes, width, height, state, failure, title, caption, alt, credit, creator, copyright, place, rating,
                   taken, taken_offset_minutes, camera, lens, exposure_seconds, f_number, iso, focal_length, latitude, longitude, arrived, version, licence, origin, decision, sharpness, preview
              from photo where id = @id and state <> 'binned'
            """);
        Add("select t.id, t.name from photo_tag as pt join tag as t on t.id = pt.tag where pt.photo = @id order by t.key");
        Add("""
            with recursive up as (
              select c.id as leaf, c.parent, c.name as path from photo_category as pc join category as c on c.id = pc.category where pc.photo = @id
              union all
              select u.leaf, c.parent, c.name || ' / ' || u.path from up as u join category as c on c.id = u.parent)
            select leaf, path from up where parent is null order by path
            """);
        Add("""
            select a.id, a.working_name, (select count(*) from album_photo as b where b.album = ap.album and b.place <= ap.place)
              from album_photo as ap join album as a on a.id = ap.album where ap.photo = @id order by lower(a.working_name)
            """);
        Add("""
            select count(*) filter (where published is not null), count(*) filter (where published is null)
              from page where album in (select album from album_photo where photo = @id)
            """);
        await using var r = await batch.ExecuteReaderAsync(ct);
        if (!await r.ReadAsync(ct))
        {
            return null;
        }

        var plate = new Plate(
            id, r.GetString(0), r.GetString(1), r.GetString(2), r.GetInt64(3), r.GetInt32(4), r.GetInt32(5), r.GetString(6), r.MaybeText(7),
            r.GetString(8), r.GetString(9), r.GetString(10), r.GetString(11), r.GetString(12), r.GetString(13), r.GetString(28), r.GetString(29), r.GetString(14), r.GetInt16(15), r.GetString(30), r.Maybe<float>(31), r.GetBoolean(32),
            r.Maybe<DateTime>(16), r.Maybe<short>(17), r.MaybeText(18), r.MaybeText(19), r.Maybe<double>(20), r.Maybe<double>(21), r.Maybe<int>(22), r.Maybe<double>(23),
            r.Maybe<double>(24), r.Maybe<double>(25), r.GetFieldValue<DateTimeOffset>(26), Renditions.For(r.GetInt32(4)), [], [], [], AudienceLine.For(0, 0), r.GetInt64(27));
        return plate with
        {
            Tags = await NextAsync(r, () => new PlateTag(new TagId(r.GetGuid(0)), r.GetString(1)), ct),
            Categories = await NextAsync(r, () => new PlateCategory(new CategoryId(r.GetGuid(0)), r.GetString(1)), ct),
            Albums = await NextAsync(r, () => new PlateAlbum(new AlbumId(r.GetGuid(0)), r.GetString(1), (int)r.GetInt64(2)), ct),
            Audience = (await NextAsync(r, () => AudienceLine.ForPhoto((int)r.GetInt64(0), (int)r.GetInt64(1), plate.Decision == "leave_out"), ct))[0],
        };
    }

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

    /// <summary>Writes new words when the version is still the expected one.</summary>
    /// <returns>False when somebody else wrote in between; nothing is changed then.</returns>
    public async Task<bool> ChangeAsync(PhotoId id, PhotoChange change, long expected, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        var changed = await tx.RunAsync(
            """
            update photo
               set title = coalesce(@title::text, title), caption = coalesce(@caption::text, caption), alt = coalesce(@alt::text, alt), credit = coalesce(@credit::text, credit), decision = coalesce(@decision::text, decision), version = version + 1
             where id = @id and version = @expected
            """,
            ct, ("id", id.Value), ("expected", expected), ("title", change.Title), ("caption", change.Caption), ("alt", change.Alt), ("credit", change.Credit), ("decision", change.Decision));
        if (changed == 0)
        {
            return false;
        }

        if (change.Tags is { } tags)
        {
            await TaxonomyStore.SetTagsAsync(tx, id, TagName.All(tags), ct);
        }

        if (change.Categories is { } categories)
        {
            await TaxonomyStore.SetCategoriesAsync(tx, id, categories, ct);
        }

        await PageStore.TouchAsync(tx, [id], ct);
        await tx.CommitAsync(ct);
        return true;
    }

    /// <summary>Where the original lies and what it is called, for staff.</summary>
    public async Task<(string Hash, string FileName, string MediaType)?> OriginalAsync(PhotoId id, CancellationToken ct)
    {
        await using var command = db.Command("select encode(hash, 'hex'), file_name, media_type from photo where id = @id", ("id", id.Value));
        await using var reader = await command.ExecuteReaderAsync(ct);
        return await reader.ReadAsync(ct) ? (reader.GetString(0), reader.GetString(1), reader.GetString(2)) : null;
    }
}
