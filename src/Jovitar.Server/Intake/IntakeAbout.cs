using Jovitar.Core;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Albums;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>What is said once of all that an intake brings; it may be said before, while or after the files arrive.</summary>
/// <param name="Origin">Where the pictures came from, in words: a stock library, an estate, an address.</param>
internal sealed record IntakeAbout(
    AlbumId? Album, IReadOnlyList<CategoryId> Categories, IReadOnlyList<string> Tags, string Credit, string Copyright, string Licence, string Origin)
{
    public static readonly IntakeAbout Nothing = new(null, [], [], "", "", "", "");

    const int LongestWords = 300;
    const int MostTags = 50;

    public (string, object?)[] Words() => [("credit", Credit.Trim()), ("copyright", Copyright.Trim()), ("licence", Licence.Trim()), ("origin", Origin.Trim())];

    public (string, object?)[] Parameters() =>
        [("album", Album?.Value), ("tags", TagName.All(Tags).Select(t => t.Text).ToArray()), ("categories", Categories.Select(c => c.Value).Distinct().ToArray()), .. Words()];

    public Dictionary<string, string> Faults()
    {
        var faults = new Dictionary<string, string>();
        foreach (var (name, value) in ((string, string)[])[("credit", Credit), ("copyright", Copyright), ("licence", Licence), ("origin", Origin)])
        {
            if (value.Length > LongestWords)
            {
                faults[name] = $"This may have {LongestWords} characters.";
            }
        }

        if (Tags.Count > MostTags)
        {
            faults["tags"] = $"At most {MostTags} tags can be put on a whole intake.";
        }

        return faults;
    }
}

/// <summary>Puts what is said of an intake on its photos, and changes it afterwards for all of them.</summary>
internal sealed class IntakeAbouts(NpgsqlDataSource db)
{
    /// <summary>Puts album, categories and tags on photos that arrive; their words are set when their rows are made.</summary>
    public static async Task PutOnAsync(Transaction tx, IntakeAbout about, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        if (about.Album is { } album)
        {
            await AlbumStore.PutArrivedAsync(tx, album, photos, ct);
        }

        if (about.Categories.Count > 0)
        {
            await TaxonomyStore.AddCategoriesAsync(tx, photos, about.Categories, ct);
        }

        if (about.Tags.Count > 0)
        {
            await TaxonomyStore.AddTagsAsync(tx, photos, TagName.All(about.Tags), ct);
        }
    }

    /// <summary>What is said of all that an intake brings; null when the intake is not there.</summary>
    public async Task<IntakeAbout?> ReadAsync(IntakeId id, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        return await IntakeStore.AboutAsync(tx, id, forChange: false, ct);
    }

    /// <summary>Says something else of an intake: what it said before is taken off the photos it brought, and the new is put on all of them. Words somebody typed on a photo stay.</summary>
    /// <returns>False when the intake is not there.</returns>
    public async Task<bool> ChangeAsync(IntakeId id, IntakeAbout to, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        if (await IntakeStore.AboutAsync(tx, id, forChange: true, ct) is not { } from)
        {
            return false;
        }

        await tx.RunAsync(
            """
            update intake
               set album = (select a.id from album as a where a.id = @album::uuid), credit = @credit, copyright = @copyright, licence = @licence, origin = @origin, tags = @tags, categories = @categories
             where id = @id
            """,
            ct, [("id", id.Value), .. to.Parameters()]);
        var (brought, all) = await PhotosAsync(tx, id, ct);
        if (from.Album is { } old && old != to.Album)
        {
            await AlbumStore.TakeOutAsync(tx, old, brought, ct);
        }

        await TaxonomyStore.RemoveCategoriesAsync(tx, brought, [.. from.Categories.Except(to.Categories)], ct);
        var kept = TagName.All(to.Tags).Select(t => t.Key).ToHashSet();
        await TaxonomyStore.RemoveTagsAsync(tx, brought, [.. TagName.All(from.Tags).Where(t => !kept.Contains(t.Key))], ct);
        await PutOnAsync(tx, to with { Album = to.Album == from.Album ? null : to.Album }, all, ct);
        foreach (var (column, before, after) in ((string, string, string)[])[("credit", from.Credit, to.Credit), ("copyright", from.Copyright, to.Copyright), ("licence", from.Licence, to.Licence), ("origin", from.Origin, to.Origin)])
        {
            if (before.Trim() != after.Trim())
            {
                await tx.RunAsync(
                    $"update photo set {column} = @after, version = version + 1 where id = any(@ids) and {column} in ('', @before)", ct,
                    ("after", after.Trim()), ("before", before.Trim()), ("ids", brought.Select(p => p.Value).ToArray()));
            }
        }

        await Pages.PageStore.TouchAsync(tx, all, ct);
        await tx.CommitAsync(ct);
        return true;
    }

    static async Task<(IReadOnlyList<PhotoId> Brought, IReadOnlyList<PhotoId> All)> PhotosAsync(Transaction tx, IntakeId id, CancellationToken ct)
    {
        await using var command = tx.Command("select f.photo, f.outcome from intake_file as f join photo as p on p.id = f.photo and p.state <> 'binned' where f.intake = @id order by f.number", ("id", id.Value));
        var rows = await command.AllAsync(r => (Photo: new PhotoId(r.GetGuid(0)), Outcome: r.GetString(1)), ct);
        return ([.. rows.Where(r => r.Outcome == "arrived").Select(r => r.Photo).Distinct()], [.. rows.Select(r => r.Photo).Distinct()]);
    }
}
