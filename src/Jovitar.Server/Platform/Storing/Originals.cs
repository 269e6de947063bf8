using System.Buffers.Binary;
using Npgsql;

namespace Jovitar.Server.Platform.Storing;

/// <summary>
/// Originals come and go here, and only here: each under a lock of its own in the database, so that no process removes the bytes
/// that another is just writing the row of. What a killed process leaves is noted before it begins.
/// </summary>
internal sealed class Originals(NpgsqlDataSource db, Storage storage, TimeProvider clock)
{
    /// <summary>Notes an original whose row is about to be written.</summary>
    public async Task DoubtAsync(byte[] hash, CancellationToken ct)
    {
        await using var command = db.Command(
            "insert into original_doubt (hash, since) values (@hash, @now) on conflict (hash) do update set since = excluded.since", ("hash", hash), ("now", clock.GetUtcNow()));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Notes originals whose rows are removed, in the transaction that does it.</summary>
    public Task<int> DoubtAsync(Transaction tx, IReadOnlyList<byte[]> hashes, CancellationToken ct) => tx.RunAsync(
            """
            insert into original_doubt (hash, since)
            select distinct h, @now
              from unnest(@hashes) as h
             order by h
            on conflict (hash) do update
               set since = excluded.since
            """, ct,
        ("hashes", hashes.ToArray()), ("now", clock.GetUtcNow()));

    /// <summary>Keeps the bytes of what arrived, within the transaction that writes its row: until it ends nobody removes them.</summary>
    /// <exception cref="IOException">The disk is full, or does not take the name.</exception>
    public async Task KeepAsync(Transaction tx, Arrived arrived, CancellationToken ct)
    {
        await LockAsync(tx, arrived.Hash, ct);
        await storage.PutIfAbsentAsync(StorageKeys.Original(arrived.HashText), arrived.Key);
    }

    /// <summary>The row of an original is written: it is not in doubt any more. Last of all, for whoever empties the bin locks the photos before it notes their originals.</summary>
    public static Task<int> SettleAsync(Transaction tx, Arrived arrived, CancellationToken ct) => tx.RunAsync("delete from original_doubt where hash = @hash", ct, ("hash", arrived.Hash));

    /// <summary>Removes originals that no row speaks of any more, and all that was made of them.</summary>
    public async Task ResolveAsync(IReadOnlyList<byte[]> hashes, CancellationToken ct)
    {
        foreach (var hash in hashes)
        {
            await using var tx = await db.BeginAsync(ct);
            await LockAsync(tx, hash, ct);
            await using var known = tx.Command("select exists (select from photo where hash = @hash) or exists (select from file where hash = @hash)", ("hash", hash));
            if (!(bool)(await known.ExecuteScalarAsync(ct))!)
            {
                await RemoveAsync(Convert.ToHexStringLower(hash), ct);
            }

            await tx.RunAsync("delete from original_doubt where hash = @hash", ct, ("hash", hash));
            await tx.CommitAsync(ct);
        }
    }

    async Task RemoveAsync(string hash, CancellationToken ct)
    {
        await storage.DeleteAsync(StorageKeys.Original(hash));
        await foreach (var made in storage.ListAsync(StorageKeys.MadeOf(hash), ct))
        {
            await storage.DeleteAsync(made.Key);
        }
    }

    /// <summary>Settles what killed processes left: originals noted longer than so ago.</summary>
    public async Task SettleAsync(TimeSpan olderThan, CancellationToken ct)
    {
        await using var command = db.Command("select hash from original_doubt where since < @before order by since limit 1000", ("before", clock.GetUtcNow() - olderThan));
        await ResolveAsync(await command.AllAsync(r => r.GetFieldValue<byte[]>(0), ct), ct);
    }

    /// <summary>Originals whose row is being written or removed.</summary>
    public static async Task<IReadOnlySet<string>> InDoubtAsync(NpgsqlDataSource db, CancellationToken ct)
    {
        await using var command = db.CreateCommand("select encode(hash, 'hex') from original_doubt");
        return (await command.AllAsync(r => r.GetString(0), ct)).ToHashSet();
    }

    static Task<int> LockAsync(Transaction tx, byte[] hash, CancellationToken ct) =>
        tx.RunAsync("select pg_advisory_xact_lock(@key)", ct, ("key", BinaryPrimitives.ReadInt64BigEndian(hash)));
}
