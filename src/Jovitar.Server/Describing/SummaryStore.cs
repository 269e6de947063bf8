using Jovitar.Core;
using Jovitar.Core.Describing;
using Jovitar.Server.Clearance;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Describing;

/// <summary>A value, and how many photos have it.</summary>
internal sealed record ValueCount(string Value, int Photos);

/// <summary>A word over several photos.</summary>
/// <param name="Values">How many different ones there are, the blank one with them.</param>
/// <param name="Commonest">The commonest that are not blank, the first before the others.</param>
internal sealed record WordSummary(WordField Field, int Values, IReadOnlyList<ValueCount> Commonest);

/// <summary>A tag, a category or a person that some of the photos have.</summary>
internal sealed record SharedThing(string Id, string Name, int Photos);

/// <summary>What the words of several photos have in common.</summary>
/// <param name="Photos">So many there are.</param>
/// <param name="Looked">So many were looked at: of a great many only the first.</param>
/// <param name="TakenFirst">Local time; null when nobody knows of any.</param>
internal sealed record WordsSummary(
    int Photos, int Looked, IReadOnlyList<WordSummary> Words, IReadOnlyList<SharedThing> Tags, IReadOnlyList<SharedThing> Categories, IReadOnlyList<SharedThing> People, IReadOnlyList<ValueCount> Cameras,
    DateTime? TakenFirst, DateTime? TakenLast);

/// <summary>Finds out what photos have in common, for one plate over all of them.</summary>
internal sealed class SummaryStore(NpgsqlDataSource db, PersonStore persons)
{
    const int MostLooked = 20_000;
    const int Most = 60;
    const int Commonest = 3;

    static readonly string Words = string.Join(", ", WordFields.All.Select(f => $"({(int)f}, p.{WordFields.Name(f)})"));

    /// <summary>People that photos show already whose name holds what is typed; the most shown first.</summary>
    public async Task<IReadOnlyList<ValueCount>> PeopleAsync(string typed, CancellationToken ct) =>
        [.. (await persons.KnownAsync(typed, Most, ct)).Select(p => new ValueCount(p.Name, p.Photos))];

    public async Task<WordsSummary> SummaryAsync(IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var batch = db.CreateBatch();
        void Add(string sql)
        {
            var command = new NpgsqlBatchCommand(sql);
            command.Parameters.AddWithValue("ids", photos.Take(MostLooked).Values());
            command.Parameters.AddWithValue("most", Most);
            batch.BatchCommands.Add(command);
        }

        Add(
            $"""
            with said as (
              select w.field, w.value, count(*) as photos
                from photo as p
               cross join lateral (values {Words}) as w(field, value)
               where p.id = any(@ids) and p.binned is null
               group by w.field, w.value),
            ranked as (
              select field, value, photos,
                     count(*) over (partition by field) as values,
                     row_number() over (partition by field order by value = '', photos desc, value) as rank
                from said)
            select field, value, photos, values from ranked where rank <= {Commonest} order by field, rank
            """);
        Add(
            """
            select t.id, t.name, count(*) as photos
              from photo_tag as pt
              join tag as t on t.id = pt.tag
             where pt.photo = any(@ids)
             group by t.id
             order by photos desc, t.key
             limit @most
            """);
        Add(
            """
            with recursive mine as (
              select pc.category as id, count(*) as photos from photo_category as pc where pc.photo = any(@ids) group by pc.category),
            up as (
              select m.id as leaf, c.parent, c.name as path from mine as m join category as c on c.id = m.id
              union
              select u.leaf, c.parent, c.name || ' / ' || u.path from up as u join category as c on c.id = u.parent)
            select m.id, u.path as name, m.photos
              from mine as m
              join up as u on u.leaf = m.id and u.parent is null
             order by m.photos desc, u.path
             limit @most
            """);
        Add(
            """
            select n.name, count(*) as photos
              from photo as p
             cross join unnest(p.people) as n(name)
             where p.id = any(@ids) and p.binned is null
             group by n.name
             order by photos desc, n.name
             limit @most
            """);
        Add(
            """
            select coalesce(camera, '') as name, count(*) as photos
              from photo
             where id = any(@ids) and binned is null
             group by 1
             order by photos desc, 1
             limit @most
            """);
        Add("select min(taken) as first, max(taken) as last, count(*) as photos from photo where id = any(@ids) and binned is null");
        await using var r = await batch.ExecuteReaderAsync(ct);
        var words = (await r.RowsAsync(() => (Field: (WordField)r.Get<int>("field"), Value: r.Get<string>("value"), Photos: (int)r.Get<long>("photos"), Values: (int)r.Get<long>("values")), ct))
            .GroupBy(w => w.Field).Select(g => new WordSummary(g.Key, g.First().Values, [.. g.Where(w => w.Value.Length > 0).Select(w => new ValueCount(w.Value, w.Photos))])).ToArray();
        SharedThing Thing() => new(r.Get<Guid>("id").ToString(), r.Get<string>("name"), (int)r.Get<long>("photos"));
        await r.NextResultAsync(ct);
        var tags = await r.RowsAsync(Thing, ct);
        await r.NextResultAsync(ct);
        var categories = await r.RowsAsync(Thing, ct);
        await r.NextResultAsync(ct);
        var people = await r.RowsAsync(() => new SharedThing(r.Get<string>("name"), r.Get<string>("name"), (int)r.Get<long>("photos")), ct);
        await r.NextResultAsync(ct);
        var cameras = await r.RowsAsync(() => new ValueCount(r.Get<string>("name"), (int)r.Get<long>("photos")), ct);
        await r.NextResultAsync(ct);
        await r.ReadAsync(ct);
        return new WordsSummary(photos.Count, (int)r.Get<long>("photos"), words, tags, categories, people, cameras, r.Maybe<DateTime>("first"), r.Maybe<DateTime>("last"));
    }
}
