using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Describing;
using Jovitar.Core.Photos;
using Jovitar.Server.Acts;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Describing;

/// <summary>Reads photos with their words, works changes out, and writes what changes: all of it, or nothing.</summary>
internal sealed class DescribingStore(NpgsqlDataSource db, ActRunner acts, SheetStore sheet)
{
    const int AtOnce = 5000;
    const int Examples = 3;

    /// <summary>So many photos are looked at before; what a change comes to for more is known afterwards.</summary>
    const int MostLooked = 20_000;

    static readonly string Words = string.Join(", ", WordFields.All.Select(f => $"p.{WordFields.Name(f)}"));

    /// <summary>Photos with what a pattern may tell of them, in the order they are named.</summary>
    static readonly string Read =
        $"""
        select p.id, p.version, p.rating, p.file_name, coalesce(p.camera, '') as camera, p.taken, p.taken_offset_minutes, p.people,
               {Words},
               case when @albums then coalesce((
                 select a.working_name
                   from album_photo as ap
                   join album as a on a.id = ap.album
                  where ap.photo = p.id
                  order by lower(a.working_name)
                  limit 1), '') else '' end as album,
               case when @tags then {TagStore.NamesOfPhoto} else array[]::text[] end as tags
          from unnest(@ids) with ordinality as w(id, n)
          join photo as p on p.id = w.id
         where p.binned is null
         order by w.n
        """;

    /// <summary>What changes would come to, on the first photos that they change.</summary>
    public async Task<DescribingPreview> PreviewAsync(IReadOnlyList<WordChange> changes, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        var changer = new WordChanger(changes);
        var tally = new Tally();
        var examples = new List<(Described Photo, DescribedAnew Anew)>();
        foreach (var some in photos.Take(MostLooked).Chunk(AtOnce))
        {
            await using var command = db.Command(Read, Parameters(changes, some));
            foreach (var photo in await command.AllAsync(Described, ct))
            {
                var anew = changer.Next(photo);
                tally.Count(anew);
                if (anew.Changes && examples.Count < Examples)
                {
                    examples.Add((photo, anew));
                }
            }
        }

        return new DescribingPreview(
            photos.Count, Math.Min(photos.Count, MostLooked), tally.Changed, tally.Cut, tally.Lacks, tally.Refused,
            await ExamplesAsync(sheet, examples, ct));
    }

    /// <summary>Photos with what would change on them.</summary>
    public static async Task<IReadOnlyList<DescribingExample>> ExamplesAsync(SheetStore sheet, IReadOnlyList<(Described Photo, DescribedAnew Anew)> examples, CancellationToken ct)
    {
        var frames = (await sheet.TheseAsync([.. examples.Select(e => new PhotoId(e.Photo.Id))], ct)).ToDictionary(p => p.Id.Value);
        return
        [
            .. examples.Where(e => frames.ContainsKey(e.Photo.Id)).Select(e => new DescribingExample(
                frames[e.Photo.Id],
                [.. WordFields.All.Where(f => e.Anew.Words[(int)f] is not null).Select(f => new WordAnew(f, e.Photo[f], e.Anew.Words[(int)f]!))],
                e.Photo.Taken, e.Anew.Taken?.Local)),
        ];
    }

    /// <summary>Photos with all that a row of a table may say, with their versions and ratings, in the order they are named.</summary>
    public async Task<IReadOnlyList<(Described Photo, long Version, int Rating)>> RowsAsync(IReadOnlyList<PhotoId> photos, CancellationToken ct) => await ReadAsync(db, photos, ct);

    public static Task<List<(Described Photo, long Version, int Rating)>> ReadAsync(NpgsqlDataSource db, IReadOnlyList<PhotoId> photos, CancellationToken ct) => ReadAsync(db.CreateCommand(Read), photos, ct);

    public static Task<List<(Described Photo, long Version, int Rating)>> ReadAsync(Act act, IReadOnlyList<PhotoId> photos, CancellationToken ct) => ReadAsync(act.Command(Read), photos, ct);

    static async Task<List<(Described Photo, long Version, int Rating)>> ReadAsync(NpgsqlCommand command, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var read = command.With(("ids", photos.Values()), ("albums", false), ("tags", true));
        return await read.AllAsync(r => (Described(r), r.Get<long>("version"), (int)r.Get<short>("rating")), ct);
    }

    /// <summary>Changes words as one act. Photos that lie in the bin by now stay as they are.</summary>
    public async Task<DescribingDone> WriteAsync(Actor who, IReadOnlyList<WordChange> changes, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        var (tally, done) = await acts.RunAsync(
            who, ActKind.Described,
            async act =>
            {
                act.Says = so => ActWords.Described(so, [.. changes.Select(Verb).Distinct()]);
                await act.LockAsync("photo", photos.Values(), ct);
                var changer = new WordChanger(changes);
                var tally = new Tally();
                foreach (var some in photos.Chunk(AtOnce))
                {
                    await using var command = act.Command(Read, Parameters(changes, some));
                    var anew = (await command.AllAsync(Described, ct)).ConvertAll(p => (Photo: p, Anew: changer.Next(p)));
                    anew.ForEach(a => tally.Count(a.Anew));
                    await WriteAsync(act, [.. anew.Where(a => a.Anew.Changes)], ct);
                }

                return tally;
            },
            ct);
        return new DescribingDone(done, tally.Cut, tally.Refused);
    }

    /// <summary>Writes what changes.</summary>
    public static async Task WriteAsync(Act act, IReadOnlyList<(Described Photo, DescribedAnew Anew)> all, CancellationToken ct)
    {
        if (all.Count == 0)
        {
            return;
        }

        var names = WordFields.All.Select(WordFields.Name).ToArray();
        await act.RunAsync(
            $"""
            update photo as p
               set {string.Join(",\n       ", names.Select(n => $"{n} = coalesce(w.{n}, p.{n})"))},
                   people = case when w.people is null then p.people else array(select jsonb_array_elements_text(w.people::jsonb)) end,
                   taken = coalesce(w.taken, p.taken),
                   taken_offset_minutes = case when w.taken is null then p.taken_offset_minutes else w.away end,
                   said = p.said || w.said::jsonb,
                   version = p.version + 1
              from unnest(@ids, {string.Join(", ", names.Select(n => $"@{n}"))}, @people, @taken, @away, @said)
                   as w(id, {string.Join(", ", names)}, people, taken, away, said)
             where p.id = w.id and p.binned is null
            """,
            ct,
            [
                ("ids", all.Select(a => a.Photo.Id).ToArray()),
                .. WordFields.All.Select(f => (WordFields.Name(f), (object?)all.Select(a => a.Anew.Words[(int)f]).ToArray())),
                ("people", all.Select(a => a.Anew.People is { } people ? JsonSerializer.Serialize(people) : null).ToArray()),
                ("taken", all.Select(a => a.Anew.Taken?.Local).ToArray()),
                ("away", all.Select(a => (short?)a.Anew.Taken?.Offset).ToArray()),
                ("said", all.Select(a => JsonSerializer.Serialize(SaidNow(a.Anew))).ToArray()),
            ]);
    }

    /// <summary>A person says now what was changed.</summary>
    static Dictionary<string, string> SaidNow(DescribedAnew anew) =>
        WordFields.All.Where(f => anew.Words[(int)f] is not null).Select(WordFields.Name)
            .Concat(anew.Taken is null ? [] : ["taken"]).Concat(anew.People is null ? [] : ["people"]).ToDictionary(f => f, _ => Said.Person);

    static (string, object?)[] Parameters(IReadOnlyList<WordChange> changes, IReadOnlyList<PhotoId> photos)
    {
        bool Tells(Told told) => changes.OfType<WriteWord>().Any(w => w.Pattern.Any(p => p.Told == told));
        return [("ids", photos.Values()), ("albums", Tells(Told.Album)), ("tags", Tells(Told.Tags))];
    }

    static Described Described(NpgsqlDataReader r) => new(
        r.Get<Guid>("id"), r.Get<string>("file_name"), r.Get<string>("camera"), r.Get<string>("album"), r.Maybe<DateTime>("taken"), r.Maybe<short>("taken_offset_minutes"),
        [.. WordFields.All.Select(f => r.Get<string>(WordFields.Name(f)))], r.Get<string[]>("people"), r.Get<string[]>("tags"));

    /// <summary>What a change does, for the sentence of its act: a verb and what it is done to.</summary>
    static string Verb(WordChange change) => change switch
    {
        WriteWord { Pattern.Count: 0 } w => $"cleared {ActWords.Field(WordFields.Name(w.Field))}",
        WriteWord w => $"wrote {ActWords.Field(WordFields.Name(w.Field))}",
        ReplaceInWords r => $"replaced “{r.Replacing.Find}” in {string.Join(", ", r.Fields.Select(f => ActWords.Field(WordFields.Name(f))))}",
        RecaseWords r => $"changed large and small letters in {string.Join(", ", r.Fields.Select(f => ActWords.Field(WordFields.Name(f))))}",
        ChangePeople => "wrote people shown",
        _ => "changed the date taken",
    };

    sealed class Tally
    {
        public int Changed { get; private set; }

        public int Cut { get; private set; }

        public int Lacks { get; private set; }

        public int Refused { get; private set; }

        public void Count(DescribedAnew anew)
        {
            Changed += anew.Changes ? 1 : 0;
            Cut += anew.Cut ? 1 : 0;
            Lacks += anew.Lacks ? 1 : 0;
            Refused += anew.Refused ? 1 : 0;
        }
    }
}
