using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Narrowings;

/// <summary>
/// Reads on and on which photos were touched, in something they are found by, in transactions that its owner has not seen yet,
/// whichever process they ran in. For one reader at a time.
/// </summary>
internal sealed class TouchedPhotos(NpgsqlDataSource db)
{
    /// <summary>What was touched longer ago than this is forgotten by the database, and whoever slept for so long begins anew.</summary>
    public static readonly TimeSpan Remembered = TimeSpan.FromHours(24);

    /// <summary>How far somebody has read.</summary>
    /// <param name="Since">The number below which every transaction is over and seen.</param>
    /// <param name="Seen">Transactions from there on that are seen already, while one that began before them still runs.</param>
    public sealed record Reading(string Since, string[] Seen);

    Reading? at;

    /// <summary>How far one has read who reads everything from here on.</summary>
    public async Task<Reading> NowAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            """
            select pg_snapshot_xmin(pg_current_snapshot())::text as xmin,
                   array(select distinct t.tx::text from photo_touched as t where t.tx >= pg_snapshot_xmin(pg_current_snapshot())) as txs
            """);
        return (await command.FirstAsync(r => new Reading(r.Get<string>("xmin"), r.Get<string[]>("txs")), ct))!;
    }

    /// <summary>What was touched since; to be taken when it has been seen to.</summary>
    /// <returns>Photos, with an empty id for how categories stand; null when there are too many to name.</returns>
    public async Task<(Guid[]? Photos, Reading Reading)> NextAsync(CancellationToken ct)
    {
        var (since, seen) = at ?? throw new InvalidOperationException("It has to begin somewhere.");
        // Whatever runs now has a number from xmin on: it is looked for again the next time.
        await using var command = db.Command(
            """
            with fresh as materialized (
              select t.photo, t.tx::text as tx from photo_touched as t where t.tx >= @since::text::xid8)
            select pg_snapshot_xmin(pg_current_snapshot())::text as xmin,
                   array(select distinct f.tx from fresh as f where f.tx::xid8 >= pg_snapshot_xmin(pg_current_snapshot())) as txs,
                   exists (select from fresh as f where f.photo is null and f.tx <> all(@seen)) as many,
                   array(select distinct f.photo from fresh as f where f.photo is not null and f.tx <> all(@seen)) as photos
            """,
            ("since", since), ("seen", seen));
        return (await command.FirstAsync(
            r => Tuple.Create(r.Get<bool>("many") ? null : r.Get<Guid[]>("photos"), new Reading(r.Get<string>("xmin"), r.Get<string[]>("txs"))), ct))!.ToValueTuple();
    }

    /// <summary>So far is seen to.</summary>
    public void Take(Reading reading) => at = reading;
}
