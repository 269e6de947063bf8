using Jovitar.Core;
using Jovitar.Core.Photos;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Photos;

/// <summary>A photo of a group that looks nearly the same.</summary>
/// <param name="Sharpness">Comparable within the group only; null until all renditions are there.</param>
/// <param name="Decision">Empty, keep, doubt or leave_out.</param>
internal sealed record RepeatPhoto(PhotoId Id, string Hash, string FileName, string Title, int Width, int Height, long Bytes, DateTime? Taken, double? Sharpness, string Decision, IReadOnlyList<int> Renditions);

/// <summary>Photos that look nearly the same, in the order they were taken.</summary>
/// <param name="Burst">Taken within seconds of one another, rather than one picture saved several times.</param>
internal sealed record RepeatGroup(IReadOnlyList<RepeatPhoto> Photos, bool Burst);

/// <summary>How a photo was decided on before.</summary>
internal sealed record DecisionMark(PhotoId Photo, string Decision);

/// <summary>Near repeats: found by index when a photo becomes ready, grouped, decided on.</summary>
internal sealed class RepeatStore(NpgsqlDataSource db)
{
    /// <summary>So many pairs are grouped at once; the latest first.</summary>
    const int MostPairs = 4000;

    /// <summary>So many neighbours of one photo are noted; a longer burst hangs together through its links.</summary>
    const int MostNear = 12;

    /// <summary>Looks up what a new photo nearly repeats: by the bands of its hash, and by the seconds around it.</summary>
    /// <returns>The nearest first.</returns>
    public static async Task<IReadOnlyList<(PhotoId Photo, int Distance)>> CandidatesAsync(Func<string, (string, object?)[], NpgsqlCommand> command, PhotoId id, ulong look, DateTime? taken, CancellationToken ct)
    {
        var bands = Enumerable.Range(0, 4).Select(b => ($"b{b}", (object?)Array.ConvertAll(PerceptualHash.Probes(look, b), v => (long)v))).ToArray();
        await using var find = command(
            """
            select c.id, c.distance, c.taken
              from (select p.id, p.taken, bit_count((p.look # @look)::bit(64)) as distance
                      from photo as p
                     where p.look is not null
                       and ((p.look & 65535) = any(@b0) or ((p.look >> 16) & 65535) = any(@b1) or ((p.look >> 32) & 65535) = any(@b2) or ((p.look >> 48) & 65535) = any(@b3))
                    union
                    select p.id, p.taken, bit_count((p.look # @look)::bit(64))
                      from photo as p
                     where p.look is not null and p.taken between @taken::timestamp - @burst and @taken::timestamp + @burst) as c
             where c.id <> @id and c.distance <= @scene
             order by c.distance, c.id limit @most
            """,
            [("id", id.Value), ("look", (long)look), ("taken", taken), ("burst", Repeats.Burst), ("scene", Repeats.SameScene), ("most", MostNear * 4), .. bands]);
        var found = await find.AllAsync(r => (Photo: new PhotoId(r.GetGuid(0)), Distance: (int)r.GetInt64(1), Taken: r.Maybe<DateTime>(2)), ct);
        return [.. found.Where(f => Repeats.AreNear(f.Distance, (f.Taken - taken)?.Duration())).Take(MostNear).Select(f => (f.Photo, f.Distance))];
    }

    /// <summary>Notes what a photo nearly repeats, within the transaction that makes it ready.</summary>
    public static async Task NoteAsync(Transaction tx, PhotoId id, ulong look, DateTime? taken, CancellationToken ct)
    {
        var near = await CandidatesAsync((sql, parameters) => tx.Command(sql, parameters), id, look, taken, ct);
        if (near.Count > 0)
        {
            await tx.RunAsync(
                """
                insert into photo_near (photo, near, distance)
                select @id, n.id, n.distance from unnest(@near, @distances) as n(id, distance)
                 where not exists (select from photo_near as x where x.photo = n.id and x.near = @id)
                on conflict do nothing
                """,
                ct, ("id", id.Value), ("near", near.Select(n => n.Photo.Value).ToArray()), ("distances", near.Select(n => (short)n.Distance).ToArray()));
        }
    }

    /// <summary>Groups nobody has decided on yet, the latest first.</summary>
    public async Task<IReadOnlyList<RepeatGroup>> GroupsAsync(int most, CancellationToken ct)
    {
        await using var open = db.Command(
            """
            select n.photo, n.near from photo_near as n
              join photo as p on p.id = n.photo and p.state = 'ready' and p.decision <> 'leave_out'
              join photo as q on q.id = n.near and q.state = 'ready' and q.decision <> 'leave_out'
             where not n.settled order by n.photo desc, n.distance limit @most
            """,
            ("most", MostPairs));
        var pairs = await open.AllAsync(r => new NearPair(new PhotoId(r.GetGuid(0)), new PhotoId(r.GetGuid(1))), ct);
        var groups = Repeats.Groups(pairs).Take(most).ToArray();
        await using var read = db.Command(
            "select id, encode(hash, 'hex'), file_name, title, width, height, bytes, taken, sharpness, decision from photo where id = any(@ids)", ("ids", groups.SelectMany(g => g).Select(p => p.Value).ToArray()));
        var photos = (await read.AllAsync(
            r => new RepeatPhoto(
                new PhotoId(r.GetGuid(0)), r.GetString(1), r.GetString(2), r.GetString(3), r.GetInt32(4), r.GetInt32(5), r.GetInt64(6), r.Maybe<DateTime>(7), r.Maybe<float>(8), r.GetString(9), Renditions.For(r.GetInt32(4))),
            ct)).ToDictionary(p => p.Id);
        return [.. groups.Select(g => g.Where(photos.ContainsKey).Select(id => photos[id]).OrderBy(p => p.Taken).ThenBy(p => p.FileName, StringComparer.Ordinal).ToArray()).Where(g => g.Length > 1)
            .Select(g => new RepeatGroup(g, g[0].Taken is { } first && g[^1].Taken is { } last && last > first))];
    }

    /// <summary>Decides on a group: these are kept, the others left out everywhere; it is not pointed out again.</summary>
    /// <returns>How each was decided on before.</returns>
    public async Task<IReadOnlyList<DecisionMark>> DecideAsync(IReadOnlyList<PhotoId> group, IReadOnlyList<PhotoId> keep, CancellationToken ct)
    {
        var kept = keep.ToHashSet();
        await using var tx = await db.BeginAsync(ct);
        var before = await DecideAsync(tx, [.. group.Select(p => new DecisionMark(p, kept.Contains(p) ? "keep" : "leave_out"))], ct);
        await tx.RunAsync("update photo_near set settled = true where photo = any(@ids) and near = any(@ids)", ct, ("ids", group.Select(p => p.Value).ToArray()));
        await tx.CommitAsync(ct);
        return before;
    }

    /// <summary>Takes a decision on a group back: every photo is decided on as before, and the group is pointed out again.</summary>
    public async Task ReopenAsync(IReadOnlyList<DecisionMark> marks, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await DecideAsync(tx, marks, ct);
        await tx.RunAsync("update photo_near set settled = false where photo = any(@ids) and near = any(@ids)", ct, ("ids", marks.Select(p => p.Photo.Value).ToArray()));
        await tx.CommitAsync(ct);
    }

    static async Task<IReadOnlyList<DecisionMark>> DecideAsync(Transaction tx, IReadOnlyList<DecisionMark> marks, CancellationToken ct)
    {
        await using var write = tx.Command(
            """
            with old as (select id, decision from photo where id = any(@ids) for update),
                 new as (update photo as p set decision = m.decision, version = version + 1 from unnest(@ids, @decisions) as m(id, decision) where p.id = m.id)
            select id, decision from old
            """,
            ("ids", marks.Select(m => m.Photo.Value).ToArray()), ("decisions", marks.Select(m => m.Decision).ToArray()));
        var before = await write.AllAsync(r => new DecisionMark(new PhotoId(r.GetGuid(0)), r.GetString(1)), ct);
        await PageStore.TouchAsync(tx, [.. marks.Select(m => m.Photo)], ct);
        return before;
    }
}
