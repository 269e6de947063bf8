using System.Reflection;
using DbUp;
using DbUp.Engine;
using Npgsql;

namespace Jovitar.Server.Platform;

/// <summary>Opens transactions, makes commands, and brings the schema up to date.</summary>
internal static class Database
{
    /// <summary>A pool of connections on which every statement that comes again is prepared.</summary>
    public static NpgsqlDataSource Open(string connection) => NpgsqlDataSource.Create(new NpgsqlConnectionStringBuilder(connection) { MaxAutoPrepare = 120, AutoPrepareMinUsages = 3 });

    const int Tries = 6;

    /// <summary>The indexes that no two things of one address get past.</summary>
    static readonly string[] AddressKeys = ["page_address", "album_address", "category_address"];

    /// <summary>A transaction on a connection of its own; both end with it.</summary>
    public static Task<Transaction> BeginAsync(this NpgsqlDataSource db, CancellationToken ct) => db.BeginAsync((connection, transaction) => new Transaction(connection, transaction), ct);

    /// <summary>The same for a kind of transaction.</summary>
    public static async Task<T> BeginAsync<T>(this NpgsqlDataSource db, Func<NpgsqlConnection, NpgsqlTransaction, T> make, CancellationToken ct)
        where T : Transaction
    {
        var connection = await db.OpenConnectionAsync(ct);
        try
        {
            return make(connection, await connection.BeginTransactionAsync(ct));
        }
        catch
        {
            await connection.DisposeAsync();
            throw;
        }
    }

    /// <summary>
    /// Does a whole transaction again when it lost against another one (a deadlock, rows that changed meanwhile, an address that
    /// another took between looking and writing): the database is there, and nobody need hear of it.
    /// </summary>
    public static async Task<T> AgainAsync<T>(Func<Task<T>> transaction, CancellationToken ct)
    {
        for (var tried = 1; ; tried++)
        {
            try
            {
                return await transaction();
            }
            catch (PostgresException e) when (tried < Tries && (e.SqlState is PostgresErrorCodes.DeadlockDetected or PostgresErrorCodes.SerializationFailure || AddressKeys.Contains(e.ConstraintName)))
            {
                await Task.Delay(Random.Shared.Next(5, 20 * tried), ct);
            }
        }
    }

    /// <summary>A command with its parameters by name.</summary>
    public static NpgsqlCommand Command(this NpgsqlDataSource db, string sql, params (string Name, object? Value)[] parameters) =>
        db.CreateCommand(sql).With(parameters);

    /// <summary>A text as part of a LIKE pattern, meaning itself.</summary>
    public static string LikeText(string text) =>
        text.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal);

    public static NpgsqlCommand With(this NpgsqlCommand command, params (string Name, object? Value)[] parameters)
    {
        foreach (var (name, value) in parameters)
        {
            command.Parameters.AddWithValue(name, value ?? DBNull.Value);
        }

        return command;
    }

    /// <summary>Reads all rows.</summary>
    public static async Task<List<T>> AllAsync<T>(this NpgsqlCommand command, Func<NpgsqlDataReader, T> read, CancellationToken ct)
    {
        var list = new List<T>();
        await using var reader = await command.ExecuteReaderAsync(ct);
        while (await reader.ReadAsync(ct))
        {
            list.Add(read(reader));
        }

        return list;
    }

    /// <summary>Reads all rows of a result that is open already.</summary>
    public static async Task<List<T>> RowsAsync<T>(this NpgsqlDataReader reader, Func<T> read, CancellationToken ct)
    {
        var list = new List<T>();
        while (await reader.ReadAsync(ct))
        {
            list.Add(read());
        }

        return list;
    }

    /// <summary>Reads the first row, or null when there is none.</summary>
    public static async Task<T?> FirstAsync<T>(this NpgsqlCommand command, Func<NpgsqlDataReader, T> read, CancellationToken ct)
        where T : class
    {
        await using var reader = await command.ExecuteReaderAsync(ct);
        return await reader.ReadAsync(ct) ? read(reader) : null;
    }

    /// <summary>A column by its name.</summary>
    public static T Get<T>(this NpgsqlDataReader reader, string column) => reader.GetFieldValue<T>(reader.GetOrdinal(column));

    /// <summary>A nullable column by its name.</summary>
    public static T? Maybe<T>(this NpgsqlDataReader reader, string column)
        where T : struct => reader.Maybe<T>(reader.GetOrdinal(column));

    public static string? MaybeText(this NpgsqlDataReader reader, string column) => reader.MaybeText(reader.GetOrdinal(column));

    /// <summary>An identity that may be missing.</summary>
    public static Guid? MaybeId(this NpgsqlDataReader reader, string column) => reader.Maybe<Guid>(column);

    /// <summary>A nullable column.</summary>
    public static T? Maybe<T>(this NpgsqlDataReader reader, int column)
        where T : struct => reader.IsDBNull(column) ? null : reader.GetFieldValue<T>(column);

    public static string? MaybeText(this NpgsqlDataReader reader, int column) => reader.IsDBNull(column) ? null : reader.GetString(column);

    /// <summary>Whether the schema is the one this version works with, without changing anything.</summary>
    public static bool IsCurrent(string connection)
    {
        var engine = Engine(connection);
        return engine.GetDiscoveredScripts().Select(s => s.Name).ToHashSet().SetEquals(engine.GetExecutedScripts());
    }

    static UpgradeEngine Engine(string connection) =>
        DeployChanges.To.PostgresqlDatabase(connection)
            .WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly(), name => name.EndsWith(".sql", StringComparison.Ordinal))
            .JournalToPostgresqlTable("public", "schema_version")
            // Names between dollar signs are PostgreSQL's quotes here.
            .WithVariablesDisabled()
            .WithTransactionPerScript()
            .LogToNowhere()
            .Build();

    /// <summary>Runs the migrations that are missing, each in its own transaction.</summary>
    /// <exception cref="NewerDataException">The database has migrations that this version does not know.</exception>
    public static void Migrate(string connection)
    {
        // Two servers that start at once: one migrates, the other waits and finds it done.
        using var alone = new NpgsqlConnection(new NpgsqlConnectionStringBuilder(connection) { Pooling = false }.ConnectionString);
        alone.Open();
        using (var take = new NpgsqlCommand("select pg_advisory_lock(@work)", alone) { CommandTimeout = 0 }.With(("work", Alone.Migrating)))
        {
            take.ExecuteNonQuery();
        }

        var engine = Engine(connection);
        var known = engine.GetDiscoveredScripts().Select(s => s.Name).ToHashSet();
        if (engine.GetExecutedScripts().Any(name => !known.Contains(name)))
        {
            throw new NewerDataException();
        }

        DatabaseUpgradeResult result = engine.PerformUpgrade();
        if (!result.Successful)
        {
            throw new InvalidOperationException($"The database could not be brought up to date at {result.ErrorScript?.Name}.", result.Error);
        }
    }
}

/// <summary>The data folder was last used by a newer version of Jovitar.</summary>
internal sealed class NewerDataException() : Exception("This data folder was made by a newer version of Jovitar. Use that version, or start with another --data folder.");

/// <summary>A transaction with its connection; rolled back unless committed.</summary>
internal class Transaction(NpgsqlConnection connection, NpgsqlTransaction transaction) : IAsyncDisposable
{
    /// <summary>Seconds that one statement may take: those over tens of thousands of things take longer than a look-up does.</summary>
    protected virtual int Patience => 30;

    public NpgsqlCommand Command(string sql, params (string Name, object? Value)[] parameters) =>
        new NpgsqlCommand(sql, connection, transaction) { CommandTimeout = Patience }.With(parameters);

    public async Task<int> RunAsync(string sql, CancellationToken ct, params (string Name, object? Value)[] parameters)
    {
        await using var command = Command(sql, parameters);
        return await command.ExecuteNonQueryAsync(ct);
    }

    public Task CommitAsync(CancellationToken ct) => transaction.CommitAsync(ct);

    public async ValueTask DisposeAsync()
    {
        await transaction.DisposeAsync();
        await connection.DisposeAsync();
    }
}
