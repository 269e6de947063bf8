using System.ComponentModel.DataAnnotations;
using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Acts;
using Jovitar.Server.Albums;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>What is said once of all that an intake brings; it may be said before, while or after the files arrive.</summary>
/// <param name="Origin">Where the pictures came from, in words: a stock library, an estate, an address.</param>
public sealed record IntakeAbout(
    AlbumId? Album, [Required, AtMost(IntakeAbout.MostTags)] IReadOnlyList<CategoryId> Categories, [Required, AtMost(IntakeAbout.MostTags)] IReadOnlyList<string> Tags,
    [Words(IntakeAbout.LongestWords)] string Credit, [Words(IntakeAbout.LongestWords)] string Copyright, [Words(IntakeAbout.LongestWords)] string Licence, [Words(IntakeAbout.LongestWords)] string Origin)
{
    public static readonly IntakeAbout Nothing = new(null, [], [], "", "", "", "");

    public const int LongestWords = 300;
    public const int MostTags = 50;

    public (string, object?)[] Words() => [.. Named().Select(w => (w.Name, (object?)w.Text))];

    (string Name, string Text)[] Named() => [("credit", Credit.Trim()), ("copyright", Copyright.Trim()), ("licence", Licence.Trim()), ("origin", Origin.Trim())];

    public (string, object?)[] Parameters() =>
        [("album", Album?.Value), ("tags", TagName.All(Tags).Select(t => t.Text).ToArray()), ("categories", Categories.Values().Distinct().ToArray()), .. Words()];

    internal bool IsNothing => Album is null && Categories.Count == 0 && Tags.Count == 0 && Named().All(w => w.Text.Length == 0);

    /// <summary>Where the words come from that it says, for a photo's row.</summary>
    public string SaidBy(string said) => JsonSerializer.Serialize(Named().Where(w => w.Text.Length > 0).ToDictionary(w => w.Name, _ => said));

    /// <summary>What this says and another does not.</summary>
    public IntakeAbout Without(IntakeAbout other)
    {
        string Rest(string mine, string others) => others.Trim().Length == 0 ? mine : "";
        return new IntakeAbout(
            Album == other.Album ? null : Album, [.. Categories.Except(other.Categories)], [.. TagName.All(Tags).Except(TagName.All(other.Tags), TagName.ByKey).Select(t => t.Text)],
            Rest(Credit, other.Credit), Rest(Copyright, other.Copyright), Rest(Licence, other.Licence), Rest(Origin, other.Origin));
    }

    /// <summary>What both this and another say; their words are the other's.</summary>
    public IntakeAbout With(IntakeAbout other)
    {
        string Both(string mine, string others) => mine.Trim().Length == 0 ? "" : others;
        return new IntakeAbout(
            Album == other.Album ? Album : null, [.. Categories.Intersect(other.Categories)], [.. TagName.All(Tags).Intersect(TagName.All(other.Tags), TagName.ByKey).Select(t => t.Text)],
            Both(Credit, other.Credit), Both(Copyright, other.Copyright), Both(Licence, other.Licence), Both(Origin, other.Origin));
    }

    /// <summary>Words that another says otherwise: their columns, and what they are to be.</summary>
    public IEnumerable<(string Column, string Text)> Differing(IntakeAbout before) => Named().Zip(before.Named()).Where(w => w.First.Text != w.Second.Text).Select(w => w.First);
}

/// <summary>What is to be put on photos, found and locked.</summary>
internal sealed record AboutToPut(AlbumId? Album, IReadOnlyList<CategoryId> Categories, IReadOnlyList<TagId> Tags);

/// <summary>Puts what is said of an intake on its photos, and changes it afterwards for all of them.</summary>
internal sealed class IntakeAbouts(NpgsqlDataSource db, ActRunner acts)
{
    const string Columns = "album, categories, tags, credit, copyright, licence, origin";

    public const string Sql = $"select {Columns}, begun_by, account, act from intake";

    public static IntakeAbout Read(NpgsqlDataReader r) => new(
        r.MaybeId("album") is { } album ? new AlbumId(album) : null, [.. r.Get<Guid[]>("categories").Select(CategoryId.From)], r.Get<string[]>("tags"),
        r.Get<string>("credit"), r.Get<string>("copyright"), r.Get<string>("licence"), r.Get<string>("origin"));

    /// <summary>Finds or makes the tags, holds the categories and locks the album, in the order in which everybody locks.</summary>
    public static async Task<AboutToPut> PrepareAsync(Act act, IntakeAbout about, CancellationToken ct)
    {
        var tags = await TagStore.MakeSureAsync(act, TagName.All(about.Tags), ct);
        await act.HoldAsync("category", about.Categories.Values(), ct);
        if (about.Album is { } album)
        {
            await act.LockAsync("album", [album.Value], ct);
        }

        return new AboutToPut(about.Album, about.Categories, tags);
    }

    /// <summary>Puts album, categories and tags on photos; their words are set when their rows are made.</summary>
    public static async Task PutOnAsync(Act act, AboutToPut about, IReadOnlyList<PhotoId> photos, string said, CancellationToken ct)
    {
        if (about.Album is { } album)
        {
            await AlbumPhotoStore.PutArrivedAsync(act, album, photos, said, ct);
        }

        await CategoryStore.AddPhotosAsync(act, photos, about.Categories, said, ct);
        await TagStore.AddAsync(act, photos, about.Tags, said, ct);
    }

    /// <summary>What is said of all that an intake brings; null when the intake is not there.</summary>
    public async Task<IntakeAbout?> ReadAsync(IntakeId id, CancellationToken ct)
    {
        await using var command = db.Command($"{Sql} where id = @id", ("id", id.Value));
        return await command.FirstAsync(Read, ct);
    }

    /// <summary>
    /// Says something else of an intake: what it said before is taken off, and the new is put on all of its photos. What somebody
    /// said of a photo, or its file, or another intake, stays.
    /// </summary>
    /// <returns>Null when the intake is not there.</returns>
    public async Task<Done?> ChangeAsync(Actor who, IntakeId id, IntakeAbout to, CancellationToken ct)
    {
        var (there, done) = await acts.RunAsync(who, ActKind.About, act => ChangeAsync(act, id, to, ct), ct);
        return there ? done : null;
    }

    static async Task<bool> ChangeAsync(Act act, IntakeId id, IntakeAbout to, CancellationToken ct)
    {
        // Whatever is arriving has arrived when this has been taken; whatever arrives later finds what is said here.
        await using var take = act.Command($"{Sql} where id = @id for no key update", ("id", id.Value));
        if (await take.FirstAsync(Read, ct) is not { } from)
        {
            return act.Drop(false);
        }

        act.Says = tally => tally.Photos == 0 ? "Said anew what holds for an intake." : $"Said anew what holds for an intake, on {ActWords.Photos(tally.Photos)}.";
        await act.RunAsync(
            """
            update intake
               set album = (select a.id from album as a where a.id = @album::uuid and a.binned is null),
                   credit = @credit, copyright = @copyright, licence = @licence, origin = @origin, tags = @tags, categories = @categories
             where id = @id
            """,
            ct, [("id", id.Value), .. to.Parameters()]);
        var said = Said.Intake(id);
        var photos = await PhotosAsync(act, id, ct);
        var (gone, more) = (from.Without(to), to.Without(from));
        var off = await TagStore.FindAsync(act, TagName.All(gone.Tags), ct);
        // What it said before is held as well: others may go on saying it.
        var put = await PrepareAsync(act, more with { Categories = [.. more.Categories, .. gone.Categories] }, ct) with { Categories = more.Categories };
        await act.LockAsync("album", new[] { gone.Album, more.Album }.OfType<AlbumId>().Values(), ct);
        await act.LockAsync("photo", photos.Values(), ct);
        if (gone.Album is { } old)
        {
            await AlbumPhotoStore.TakeOutAsync(act, old, photos, said, ct);
        }

        await CategoryStore.RemovePhotosAsync(act, photos, gone.Categories, said, ct);
        await TagStore.RemoveAsync(act, photos, off, said, ct);
        await PutOnAsync(act, put, photos, said, ct);
        await WordsAsync(act, photos, to.Differing(from), said, ct);
        await SayAgainAsync(act, id, gone, photos, ct);
        return true;
    }

    /// <summary>What an intake says no more, others that brought some of its photos may go on saying of those.</summary>
    static async Task SayAgainAsync(Act act, IntakeId id, IntakeAbout gone, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        if (gone.IsNothing)
        {
            return;
        }

        await using var find = act.Command(
            $"""
            select id, {Columns}
              from intake
             where taken_back is null and id <> @id
               and id in (select f.intake from intake_file as f where f.photo = any(@photos))
             order by id
            """,
            ("id", id.Value), ("photos", photos.Values()));
        var others = await find.AllAsync(r => (Id: new IntakeId(r.Get<Guid>("id")), About: gone.With(Read(r))), ct);
        foreach (var (other, about) in others.Where(o => !o.About.IsNothing))
        {
            var shared = photos.Intersect(await PhotosAsync(act, other, ct)).ToArray();
            var said = Said.Intake(other);
            await PutOnAsync(act, new AboutToPut(about.Album, about.Categories, await TagStore.FindAsync(act, TagName.All(about.Tags), ct)), shared, said, ct);
            await WordsAsync(act, shared, about.Differing(IntakeAbout.Nothing), said, ct);
        }
    }

    /// <summary>Writes words where nothing is said or this intake had said it; said no more, what the file says comes back.</summary>
    public static async Task WordsAsync(Act act, IReadOnlyList<PhotoId> photos, IEnumerable<(string Column, string Text)> words, string said, CancellationToken ct)
    {
        foreach (var (column, text) in words)
        {
            await WordAsync(act, photos, column, text, said, ct);
        }
    }

    static Task<int> WordAsync(Act act, IReadOnlyList<PhotoId> photos, string column, string text, string said, CancellationToken ct) => act.RunAsync(
        $"""
        update photo
           set {column} = case when @text <> '' then @text else coalesce(file_words ->> '{column}', '') end,
               said = case
                 when @text <> '' then said || jsonb_build_object('{column}', @said)
                 when file_words ? '{column}' then said || jsonb_build_object('{column}', '{Said.File}')
                 else said - '{column}' end,
               version = version + 1
         where id = any(@ids) and (said ->> '{column}' = @said or (@text <> '' and {column} = ''))
        """,
        ct, ("text", text), ("said", said), ("ids", photos.Values()));

    static async Task<IReadOnlyList<PhotoId>> PhotosAsync(Act act, IntakeId id, CancellationToken ct)
    {
        await using var command = act.Command(
            """
            select f.photo
              from intake_file as f
              join photo as p on p.id = f.photo and p.binned is null
             where f.intake = @id
             group by f.photo
             order by min(f.number)
            """,
            ("id", id.Value));
        return await command.AllAsync(r => new PhotoId(r.GetGuid(0)), ct);
    }
}
