using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access.Audiences;

/// <summary>Says of photos by themselves who of the visitors may see them: an exception, which only narrows what they stand in.</summary>
internal sealed class PhotoAudienceStore(NpgsqlDataSource db, ActRunner acts, AccessStore access, SightStore sights)
{
    /// <summary>What is said of a photo called <c>p</c> by itself, as <see cref="AudienceStore.Read"/> reads it.</summary>
    const string Own =
        """
        coalesce(o.audience, 'Everyone') as audience, o.seen_from, o.seen_until, coalesce(o.chosen, '{}') as chosen
        """;

    /// <returns>Null when it is not there.</returns>
    public async Task<OwnAudience?> FindAsync(PhotoId photo, CancellationToken ct)
    {
        await using var find = db.Command(
            $"""
            select coalesce(nullif(p.title, ''), p.file_name) as name, p.own_gate, {Own}
              from photo as p
              left join photo_gate as o on o.id = p.own_gate
             where p.id = @id and p.binned is null
            """,
            ("id", photo.Value));
        if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("name"), r.Maybe<Guid>("own_gate"), AudienceStore.Read(r)), ct) is not var (name, gate, audience))
        {
            return null;
        }

        var everyone = await sights.EveryoneAsync(ct);
        if (await access.PhotoAsync(photo, everyone, ct) is not { } thing || await access.PhotoAsync(photo, Sight.Somebody, ct) is not { } opened)
        {
            return null;
        }

        var ways = thing.On is { All: 0, Shut: > 0 } ? await access.WaysAsync(photo, everyone, ct) : [];
        return new OwnAudience(name, audience, [.. thing.Gates.Concat(ways).Where(g => g.Thing != gate).DistinctBy(g => g.Thing)], access.May(Viewer.Somebody, Right.See, opened));
    }

    /// <summary>Says it of photos; visitors have it at once.</summary>
    /// <param name="was">Of one, what it was when it was looked at: who said something else since is not overruled. Null where that is not asked.</param>
    public async Task<(AudienceOutcome Outcome, Done Done)> SayAsync(Actor who, IReadOnlyList<PhotoId> photos, Audience audience, Audience? was, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.Audience,
        async act =>
        {
            await act.LockAsync("photo", photos.Values(), ct);
            await using var find = act.Command(
                $"""
                select coalesce(nullif(p.title, ''), p.file_name) as name, {Own}
                  from photo as p
                  left join photo_gate as o on o.id = p.own_gate
                 where p.id = any(@ids) and p.binned is null
                 limit 1
                """,
                ("ids", photos.Values()));
            if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("name"), AudienceStore.Read(r)), ct) is not var (name, now))
            {
                return act.Drop(AudienceOutcome.Gone);
            }

            if (was is not null && now != was)
            {
                return act.Drop(AudienceOutcome.Stale);
            }

            if (await AudienceStore.KeptAsync(act, audience, ct) is not var (kept, chosen))
            {
                return act.Drop(AudienceOutcome.Stale);
            }

            act.Says = tally => AudienceWords.SaidOfPhotos(tally, photos.Count == 1 ? name : null, kept, chosen);
            await act.RunAsync(
                "update photo set own_gate = @gate::uuid where id = any(@ids) and binned is null and own_gate is distinct from @gate::uuid",
                ct, ("gate", await GateAsync(act, kept, ct)), ("ids", photos.Values()));
            return AudienceOutcome.Written;
        },
        ct);

    /// <summary>The gate of all photos of which this is said; null where they are for everyone.</summary>
    static async Task<Guid?> GateAsync(Act act, Audience said, CancellationToken ct)
    {
        if (said == Audience.Everyone)
        {
            return null;
        }

        (string, object?)[] values = [("who", said.Who.ToString()), ("from", said.From), ("until", said.Until), ("chosen", said.Chosen.ToArray())];
        await act.RunAsync(
            """
            insert into photo_gate (id, audience, seen_from, seen_until, chosen)
            values (@id, @who, @from::timestamptz, @until::timestamptz, @chosen)
                on conflict do nothing
            """,
            ct, [("id", Guid.CreateVersion7(act.Now)), .. values]);
        await using var find = act.Command(
            """
            select id
              from photo_gate
             where audience = @who and chosen = @chosen
               and seen_from is not distinct from @from::timestamptz and seen_until is not distinct from @until::timestamptz
            """,
            values);
        return (Guid)(await find.ExecuteScalarAsync(ct))!;
    }
}
