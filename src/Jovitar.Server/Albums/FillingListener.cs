using Jovitar.Core.Albums;
using Jovitar.Core.Photos;
using Jovitar.Server.Acts;

namespace Jovitar.Server.Albums;

/// <summary>
/// What follows when something is said of an album, whoever says it: whoever keeps albums is told. What a rule names may be
/// replaced; an album whose rule is gone lets go what it had found; one that is taken back to an order made by hand stands in that.
/// </summary>
internal sealed class FillingListener : IActListener
{
    public async Task FollowAsync(Act act, IReadOnlySet<string> kinds, CancellationToken ct)
    {
        await act.ReplaceAsync("album", "rule", "version = version + 1", ct);
        if (kinds.Contains("album"))
        {
            // One that somebody made hand-picked has nothing any more that only its rule had found.
            await act.RunAsync(
                """
                delete from album_photo as ap
                 using act_change as c
                 where c.act = @act and c.kind = 'album' and c.before is not null and c.after ? 'rule' and c.after ->> 'rule' is null
                   and ap.album = c.thing and ap.said_by = @rule
                """,
                ct, ("act", act.Id.Value), ("rule", Said.Rule));
            if (act.Undoes is not null)
            {
                await StandByHandAsync(act, ct);
            }
        }

        if (kinds.Contains("album") || kinds.Contains("album_without") || act.Replaced is not null)
        {
            await act.RunAsync($"notify {FillingStore.Channel}", ct);
        }
    }

    /// <summary>Photos stand again where they stood before the album was kept in an order; what came meanwhile stands behind them.</summary>
    static Task<int> StandByHandAsync(Act act, CancellationToken ct) => act.RunAsync(
        """
        with back as (
          select c.thing as album from act_change as c where c.act = @act and c.kind = 'album' and c.after ->> 'sort' = 'place'),
        last as (
          select ap.album, coalesce(max(ap.by_hand), 0) as place
            from album_photo as ap
            join back as b on b.album = ap.album
           group by ap.album),
        placed as (
          select ap.album, ap.photo,
                 coalesce(ap.by_hand, l.place
                   + @step * row_number() over (partition by ap.album, ap.by_hand is null order by ap.place)) as place
            from album_photo as ap
            join last as l on l.album = ap.album)
        update album_photo as ap
           set place = p.place, by_hand = null
          from placed as p
         where ap.album = p.album and ap.photo = p.photo
        """,
        ct, ("act", act.Id.Value), ("step", Places.Step));
}
