using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Albums;
using Jovitar.Core.Photos;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;

namespace Jovitar.Server.Albums;

/// <summary>What a change of an album's photos came to.</summary>
/// <param name="Version">The album's version afterwards.</param>
internal sealed record AlbumMoved(long Version, Done Done);

/// <summary>The photos of albums, and their order.</summary>
internal sealed class AlbumPhotoStore(ActRunner acts)
{
    /// <summary>Puts photos into an album, at its end. Those in it already stay where they are; one that fills itself keeps them whatever its rule says.</summary>
    public Task<(AlbumOutcome Outcome, AlbumMoved? Moved)> PutAsync(Actor who, AlbumId id, IReadOnlyList<PhotoId> photos, CancellationToken ct) =>
        ArrangeAsync(
            who, ActKind.PutIn, id, null, order => [.. order, .. photos.Except(order)], (tally, name) => Core.Acts.ActWords.PutIn(tally, name), ct,
            also: async act =>
            {
                await FillingStore.LetInAsync(act, id, photos, ct);
                await act.RunAsync(
                    "update album_photo set said_by = @person where album = @id and photo = any(@photos) and said_by = @rule", ct,
                    ("id", id.Value), ("photos", photos.Values()), ("person", Said.Person), ("rule", Said.Rule));
            });

    /// <summary>Takes photos out of an album; out of one that fills itself they are held.</summary>
    public Task<(AlbumOutcome Outcome, AlbumMoved? Moved)> TakeOutAsync(Actor who, AlbumId id, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        var gone = photos.ToHashSet();
        return ArrangeAsync(
            who, ActKind.TakenOut, id, null, order => [.. order.Where(p => !gone.Contains(p))], (tally, name) => Core.Acts.ActWords.TakenOut(tally, name), ct,
            first: act => act.RunAsync(
                """
                insert into album_without (album, photo)
                select ap.album, ap.photo
                  from album_photo as ap
                  join album as a on a.id = ap.album and a.rule is not null
                 where ap.album = @id and ap.photo = any(@photos)
                on conflict do nothing
                """,
                ct, ("id", id.Value), ("photos", photos.Values())));
    }

    /// <summary>Moves photos, in their present order, to a position or before another photo.</summary>
    public Task<(AlbumOutcome Outcome, AlbumMoved? Moved)> MoveAsync(Actor who, AlbumId id, IReadOnlyList<PhotoId> photos, int? position, PhotoId? before, long expected, CancellationToken ct)
    {
        var moved = photos.ToHashSet();
        return ArrangeAsync(
            who, ActKind.Ordered, id, expected, order => before is { } at ? Ordering.MoveBefore(order, moved, at) : Ordering.Move(order, moved, position ?? int.MaxValue),
            (_, name) => Core.Acts.ActWords.Ordered(moved.Count, name), ct);
    }

    /// <summary>Turns the order made by hand round, or shuffles it, once.</summary>
    public Task<(AlbumOutcome Outcome, AlbumMoved? Moved)> RearrangeAsync(Actor who, AlbumId id, bool shuffled, long expected, CancellationToken ct) => ArrangeAsync(
        who, ActKind.Ordered, id, expected, order => shuffled ? Shuffled(order) : [.. order.Reverse()],
        (_, name) => Core.Acts.ActWords.Rearranged(name, shuffled), ct);

    static PhotoId[] Shuffled(IReadOnlyList<PhotoId> order)
    {
        PhotoId[] all = [.. order];
        Random.Shared.Shuffle(all);
        return all;
    }

    async Task<(AlbumOutcome, AlbumMoved?)> ArrangeAsync(
        Actor who, ActKind kind, AlbumId id, long? expected, Func<IReadOnlyList<PhotoId>, IReadOnlyList<PhotoId>> arrange, Func<ActTally, string, string> says, CancellationToken ct,
        Func<Act, Task>? first = null, Func<Act, Task>? also = null)
    {
        var ((outcome, version), done) = await acts.RunAsync(
            who, kind,
            async act =>
            {
                var (taken, name) = await AlbumStore.TakeAsync(act, id, expected, ct);
                if (taken != AlbumOutcome.Written)
                {
                    return act.Drop((taken, 0L));
                }

                if (kind == ActKind.Ordered && await IsKeptInOrderAsync(act, id, ct))
                {
                    return act.Drop((AlbumOutcome.KeptInOrder, 0L));
                }

                act.Says = tally => says(tally, name);
                await (first?.Invoke(act) ?? Task.CompletedTask);
                var before = await OrderAsync(act, id, ct);
                await WriteOrderAsync(act, id, before, arrange([.. before.Select(s => s.Thing)]), ct);
                await (also?.Invoke(act) ?? Task.CompletedTask);
                await using var raised = act.Command("update album set version = version + 1 where id = @id returning version", ("id", id.Value));
                return (AlbumOutcome.Written, (long)(await raised.ExecuteScalarAsync(ct))!);
            },
            ct);
        return (outcome, outcome == AlbumOutcome.Written ? new AlbumMoved(version, done) : null);
    }

    static async Task<bool> IsKeptInOrderAsync(Act act, AlbumId id, CancellationToken ct)
    {
        await using var find = act.Command("select sort <> 'place' from album where id = @id", ("id", id.Value));
        return (bool)(await find.ExecuteScalarAsync(ct))!;
    }

    static async Task<IReadOnlyList<Standing<PhotoId>>> OrderAsync(Act act, AlbumId id, CancellationToken ct)
    {
        await using var command = act.Command("select photo, place from album_photo where album = @id order by place, photo", ("id", id.Value));
        return await command.AllAsync(r => new Standing<PhotoId>(new PhotoId(r.Get<Guid>("photo")), r.Get<long>("place")), ct);
    }

    /// <summary>Writes the places that differ; photos that are not here any more are passed over.</summary>
    static async Task WriteOrderAsync(Act act, AlbumId id, IReadOnlyList<Standing<PhotoId>> before, IReadOnlyList<PhotoId> after, CancellationToken ct)
    {
        var stood = before.ToDictionary(s => s.Thing, s => s.Place);
        var wanted = after.ToHashSet();
        var gone = stood.Keys.Where(p => !wanted.Contains(p)).ToArray();
        if (gone.Length > 0)
        {
            await act.RunAsync("delete from album_photo where album = @id and photo = any(@gone)", ct, ("id", id.Value), ("gone", gone.Values()));
        }

        var places = Places.Assign([.. after.Select(p => new Standing<PhotoId>(p, stood.GetValueOrDefault(p)))]);
        // Also those that only move: one that goes into the bin meanwhile must not be put back by that.
        await act.LockAsync("photo", places.Select(m => m.Thing).Values(), ct);
        await act.RunAsync(
            """
            insert into album_photo (album, photo, place, said_by)
            select @id, p.id, m.place, @said
              from unnest(@photos, @places) as m(photo, place)
              join photo as p on p.id = m.photo and p.binned is null
            on conflict (album, photo) do update set place = excluded.place
            """,
            ct, ("id", id.Value), ("photos", places.Select(m => m.Thing).Values()), ("places", places.Select(m => m.Place).ToArray()), ("said", Said.Person));
    }

    /// <summary>Puts newly arrived photos at the end of an album, within the act that made them. The album is locked first, so that two uploads never take the same place.</summary>
    public static async Task PutArrivedAsync(Act act, AlbumId id, IReadOnlyList<PhotoId> photos, string saidBy, CancellationToken ct)
    {
        await using var take = act.Command(
            """
            update album
               set version = version + 1
             where id = @album and binned is null
            returning (select max(ap.place) from album_photo as ap where ap.album = @album)
            """,
            ("album", id.Value));
        if (await take.FirstAsync(r => Tuple.Create(r.Maybe<long>(0)), ct) is not { } last)
        {
            return;
        }

        await act.LockAsync("photo", photos.Values(), ct);
        await act.RunAsync(
            """
            insert into album_photo (album, photo, place, said_by)
            select @album, p.id, @first + (row_number() over (order by w.n) - 1) * @step, @said
              from unnest(@photos) with ordinality as w(id, n)
              join photo as p on p.id = w.id and p.binned is null
            on conflict do nothing
            """,
            ct, ("album", id.Value), ("photos", photos.Values()), ("first", Places.After(last.Item1)), ("step", Places.Step), ("said", saidBy));
    }

    /// <summary>Takes photos out of an album within another act.</summary>
    /// <param name="saidBy">Only where they stand there because of that; null for all.</param>
    public static async Task TakeOutAsync(Act act, AlbumId id, IReadOnlyList<PhotoId> photos, string? saidBy, CancellationToken ct)
    {
        await act.RunAsync("update album set version = version + 1 where id = @album", ct, ("album", id.Value));
        await act.RunAsync(
            "delete from album_photo where album = @album and photo = any(@photos) and (@said::text is null or said_by = @said::text)", ct,
            ("album", id.Value), ("photos", photos.Values()), ("said", saidBy));
    }
}
