using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Clearance;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Clearance;

/// <summary>What it came to that photos were cleared or not.</summary>
/// <param name="Refused">On so many of them somebody says no: no visitor sees those, whatever was said of them.</param>
internal sealed record PhotosCleared(Done Done, int Refused);

/// <summary>Says of photos, and of the whole site, what may be shown to visitors at all.</summary>
internal sealed class ClearanceStore(NpgsqlDataSource db, ActRunner acts)
{
    static readonly Actor Calendar = Actor.Worker("The calendar");

    /// <summary>Says whether the site shows only what is cleared; visitors have it at once.</summary>
    public async Task<Done> NeedAsync(Actor who, bool needed, CancellationToken ct) => (await acts.RunAsync(
        who, ActKind.Clearance,
        async act =>
        {
            act.Says = _ => ClearanceWords.Needed(needed);
            await act.RunAsync("update site set clearance_needed = @needed where clearance_needed <> @needed", ct, ("needed", needed));
            return true;
        },
        ct)).Done;

    /// <summary>Says of photos that they are cleared, that they are not, or takes back what was said.</summary>
    /// <param name="said">One of <see cref="Clearances"/>, but for what has ended.</param>
    /// <param name="by">Who says so, and how it is known.</param>
    /// <param name="until">The last day on which they are cleared.</param>
    public async Task<PhotosCleared> ClearAsync(Actor who, IReadOnlyList<PhotoId> photos, string said, string by, DateOnly? until, CancellationToken ct)
    {
        var (refused, done) = await acts.RunAsync(
            who, ActKind.Clearance,
            async act =>
            {
                await using var find = act.Command("select coalesce(nullif(title, ''), file_name) from photo where id = any(@ids) limit 1", ("ids", photos.Values()));
                var name = photos.Count == 1 ? await find.ExecuteScalarAsync(ct) as string : null;
                act.Says = tally => ClearanceWords.Photos(tally, name, said);
                await act.LockAsync("photo", photos.Values(), ct);
                await act.RunAsync(
                    """
                    update photo
                       set clearance = @said, cleared_by = @by, cleared_until = @until::date
                     where id = any(@ids) and binned is null
                       and (clearance, cleared_by, cleared_until) is distinct from (@said, @by, @until::date)
                    """,
                    ct, ("ids", photos.Values()), ("said", said), ("by", said == Clearances.Unknown ? "" : by), ("until", said == Clearances.Cleared ? until : null));
                await using var count = act.Command("select count(*) from photo where id = any(@ids) and binned is null and people_say = 'no'", ("ids", photos.Values()));
                return (int)(long)(await count.ExecuteScalarAsync(ct))!;
            },
            ct);
        return new PhotosCleared(done, refused);
    }

    /// <summary>Ends what was cleared, or said yes to, until a day that is over: pages and narrowings follow from the act.</summary>
    public async Task EndAsync(DateOnly today, CancellationToken ct)
    {
        await using var due = db.Command(
            """
            select exists (select from photo where clearance = 'cleared' and cleared_until is not null and cleared_until < @today)
                or exists (select from person where says = 'yes' and until is not null and struck is null and until < @today)
            """,
            ("today", today));
        if (!(bool)(await due.ExecuteScalarAsync(ct))!)
        {
            return;
        }

        await acts.RunAsync(
            Calendar, ActKind.ClearanceEnded,
            async act =>
            {
                act.Says = ClearanceWords.Ended;
                await act.RunAsync(
                    """
                    update person
                       set says = 'ended', version = version + 1
                     where says = 'yes' and until is not null and struck is null and until < @today
                    """,
                    ct, ("today", today));
                await act.RunAsync(
                    """
                    with over as (
                      select id
                        from photo
                       where clearance = 'cleared' and cleared_until is not null and cleared_until < @today
                       order by id
                         for no key update)
                    update photo as p set clearance = 'ended' from over where p.id = over.id
                    """,
                    ct, ("today", today));
                return true;
            },
            ct);
    }
}
