using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Photos;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Photos;

/// <summary>A photo of a group that looks nearly the same.</summary>
/// <param name="Sharpness">Comparable within the group only; null until all renditions are there.</param>
/// <param name="Decision">Empty, keep, doubt or leave_out.</param>
internal sealed record RepeatPhoto(PhotoId Id, string Picture, string FileName, string Title, int Width, int Height, long Bytes, DateTime? Taken, double? Sharpness, string Decision, IReadOnlyList<int> Renditions);

/// <summary>Photos that look nearly the same, in the order they were taken.</summary>
/// <param name="Burst">Taken within seconds of one another, rather than one picture saved several times.</param>
internal sealed record RepeatGroup(IReadOnlyList<RepeatPhoto> Photos, bool Burst);

/// <summary>Near repeats: found by index when a photo becomes ready, grouped, decided on.</summary>
internal sealed class RepeatStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>So many pairs are grouped at once; the latest first.</summary>
    const int MostPairs = 4000;

    /// <summary>So many neighbours of one photo are noted; a longer burst hangs together through its links.</summary>
    const int MostNear = 12;

    /// <summary>So many of what looks like one photo are shown beside it, the nearest links first.</summary>
    const int MostOfOne = 60;

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
                     where p.look is not null and p.binned is null
                       and ((p.look & 65535) = any(@b0)
                         or ((p.look >> 16) & 65535) = any(@b1)
                         or ((p.look >> 32) & 65535) = any(@b2)
                         or ((p.look >> 48) & 65535) = any(@b3))
                    union
                    select p.id, p.taken, bit_count((p.look # @look)::bit(64))
                      from photo as p
                     where p.look is not null and p.binned is null and p.taken between @taken::timestamp - @burst
                       and @taken::timestamp + @burst) as c
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
        // Two that become ready at once would not see each other: the one behind waits until the other is there to be found.
        await tx.RunAsync("select pg_advisory_xact_lock(@work)", ct, ("work", Alone.NotingRepeats));
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
            select n.photo, n.near
              from photo_near as n
              join photo as p on p.id = n.photo and p.state = 'ready' and p.binned is null and p.decision <> @out
              join photo as q on q.id = n.near and q.state = 'ready' and q.binned is null and q.decision <> @out
             where not n.settled
             order by n.photo desc, n.distance
             limit @most
            """,
            ("most", MostPairs), ("out", Decisions.LeaveOut));
        var pairs = await open.AllAsync(r => new NearPair(new PhotoId(r.Get<Guid>("photo")), new PhotoId(r.Get<Guid>("near"))), ct);
        return await ReadAsync([.. Repeats.Groups(pairs).Take(most)], ct);
    }

    /// <summary>What looks nearly the same as one photo, decided on or not, and that photo itself.</summary>
    /// <returns>Null when nothing does.</returns>
    public async Task<RepeatGroup?> GroupOfAsync(PhotoId photo, CancellationToken ct)
    {
        await using var find = db.Command(
            """
            with recursive alike (id) as (
              select @photo
              union
              select case when n.photo = a.id then n.near else n.photo end
                from alike as a
                join photo_near as n on n.photo = a.id or n.near = a.id)
            select a.id from alike as a limit @most
            """,
            ("photo", photo.Value), ("most", MostOfOne));
        return await ReadAsync([await find.AllAsync(r => new PhotoId(r.GetGuid(0)), ct)], ct) is [var group] && group.Photos.Any(p => p.Id == photo) ? group : null;
    }

    async Task<IReadOnlyList<RepeatGroup>> ReadAsync(IReadOnlyList<IReadOnlyList<PhotoId>> groups, CancellationToken ct)
    {
        await using var read = db.Command(
            """
            select id, picture, file_name, title, width, height, bytes, taken, sharpness, decision, stage
              from photo
             where id = any(@ids) and state = 'ready' and binned is null
            """,
            ("ids", groups.SelectMany(g => g).Values()));
        var photos = (await read.AllAsync(
            r => new RepeatPhoto(
                new PhotoId(r.Get<Guid>("id")), r.Get<string>("picture"), r.Get<string>("file_name"), r.Get<string>("title"), r.Get<int>("width"), r.Get<int>("height"), r.Get<long>("bytes"),
                r.Maybe<DateTime>("taken"), r.Maybe<float>("sharpness"), r.Get<string>("decision"), Renditions.There(r.Get<short>("stage"), r.Get<int>("width"))),
            ct)).ToDictionary(p => p.Id);
        return [.. groups.Select(g => g.Where(photos.ContainsKey).Select(id => photos[id]).OrderBy(p => p.Taken).ThenBy(p => p.FileName, StringComparer.Ordinal).ToArray()).Where(g => g.Length > 1)
            .Select(g => new RepeatGroup(g, g[0].Taken is { } first && g[^1].Taken is { } last && last > first))];
    }

    /// <summary>Decides on a group: these are kept, the others left out everywhere; it is not pointed out again.</summary>
    public async Task<Done> DecideAsync(Actor who, IReadOnlyList<PhotoId> group, IReadOnlyList<PhotoId> keep, CancellationToken ct)
    {
        var kept = keep.ToHashSet();
        var (_, done) = await acts.RunAsync(
            who, ActKind.Decided,
            async act =>
            {
                act.Says = _ => ActWords.DecidedRepeats(kept.Count, group.Count - kept.Count);
                await act.LockAsync("photo", group.Values(), ct);
                await act.RunAsync(
                    """
                    update photo as p
                       set decision = m.decision, version = version + 1
                      from unnest(@ids, @decisions) as m(id, decision)
                     where p.id = m.id and p.binned is null
                    """,
                    ct, ("ids", group.Values()), ("decisions", group.Select(p => kept.Contains(p) ? Decisions.Keep : Decisions.LeaveOut).ToArray()));
                return await act.RunAsync("update photo_near set settled = true where photo = any(@ids) and near = any(@ids) and not settled", ct, ("ids", group.Values()));
            },
            ct);
        return done;
    }
}
