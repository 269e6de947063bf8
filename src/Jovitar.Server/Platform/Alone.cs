using Npgsql;

namespace Jovitar.Server.Platform;

/// <summary>Work that one process does at a time, however many there are: held as long as the connection lives, so that a killed process lets go of it.</summary>
internal sealed class Alone : IAsyncDisposable
{
    public const long Migrating = 0x4A6F_0001;
    public const long Tidying = 0x4A6F_0002;
    public const long Watching = 0x4A6F_0003;
    public const long LoadingDemo = 0x4A6F_0004;
    public const long Filling = 0x4A6F_0005;
    public const long SayingRules = 0x4A6F_0006;
    public const long ChoosingAddresses = 0x4A6F_0007;
    public const long SummingVisits = 0x4A6F_0008;
    public const long NotingRepeats = 0x4A6F_0009;
    public const long Admitting = 0x4A6F_000A;

    readonly NpgsqlConnection connection;
    readonly long work;

    Alone(NpgsqlConnection connection, long work) => (this.connection, this.work) = (connection, work);

    /// <summary>Takes the work on; null while another process does it.</summary>
    public static Task<Alone?> TryAsync(NpgsqlDataSource db, long work, CancellationToken ct) => TakeAsync(db, "select pg_try_advisory_lock(@work)", work, ct);

    /// <summary>Waits until the work can be taken on.</summary>
    public static async Task<Alone> WaitAsync(NpgsqlDataSource db, long work, CancellationToken ct) => (await TakeAsync(db, "select pg_advisory_lock(@work) is not null", work, ct))!;

    /// <summary>Makes sure that the work is still this process's.</summary>
    /// <exception cref="NpgsqlException">The connection is gone, and with it the work.</exception>
    public async Task StillAsync(CancellationToken ct)
    {
        await using var ask = new NpgsqlCommand("select 1", connection);
        await ask.ExecuteScalarAsync(ct);
    }

    static async Task<Alone?> TakeAsync(NpgsqlDataSource db, string sql, long work, CancellationToken ct)
    {
        var connection = await db.OpenConnectionAsync(ct);
        try
        {
            await using var take = new NpgsqlCommand(sql, connection) { CommandTimeout = 0 }.With(("work", work));
            if (await take.ExecuteScalarAsync(ct) is true)
            {
                return new Alone(connection, work);
            }
        }
        catch
        {
            await connection.DisposeAsync();
            throw;
        }

        await connection.DisposeAsync();
        return null;
    }

    public async ValueTask DisposeAsync()
    {
        try
        {
            await using var release = new NpgsqlCommand("select pg_advisory_unlock(@work)", connection).With(("work", work));
            await release.ExecuteNonQueryAsync();
        }
        catch (Exception e) when (e is NpgsqlException or InvalidOperationException)
        {
            // The connection is gone, and the lock with it.
        }

        await connection.DisposeAsync();
    }
}
