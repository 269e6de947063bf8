using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Narrowings;

/// <summary>A narrowing that is kept under a name.</summary>
/// <param name="Search">What the address of such a sheet says behind its question mark.</param>
/// <param name="Photos">How many it finds now.</param>
/// <param name="Version">Expected by the next write.</param>
internal sealed record KeptNarrowing(NarrowingId Id, string Name, string Search, int Photos, long Version);

/// <summary>How a write of a kept narrowing ended.</summary>
internal enum KeptOutcome
{
    Written,
    Gone,
    Stale,

    /// <summary>Another is called so.</summary>
    Taken,

    /// <summary>So many are kept already.</summary>
    TooMany,
}

/// <summary>Narrowings kept under names.</summary>
internal sealed class NarrowingStore(NpgsqlDataSource db, ActRunner acts, IndexKeeper keeper)
{
    /// <summary>More than anybody finds again in a list; of each it is counted what it finds, whenever they are read.</summary>
    public const int Most = 100;

    public Task<IReadOnlyList<KeptNarrowing>> ListAsync(CancellationToken ct) => ReadAsync(null, ct);

    public async Task<KeptNarrowing?> FindAsync(NarrowingId id, CancellationToken ct) => await ReadAsync(id, ct) is [var kept] ? kept : null;

    async Task<IReadOnlyList<KeptNarrowing>> ReadAsync(NarrowingId? only, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select id, name, search, version
              from narrowing
             where binned is null and (@only::uuid is null or id = @only::uuid)
             order by lower(name)
             limit @most
            """,
            ("only", only?.Value), ("most", Most));
        var kept = await command.AllAsync(r => (Id: new NarrowingId(r.Get<Guid>("id")), Name: r.Get<string>("name"), Search: r.Get<string>("search"), Version: r.Get<long>("version")), ct);
        if (kept.Count == 0)
        {
            return [];
        }

        var index = await keeper.CurrentAsync(ct);
        return [.. kept.Select(k => new KeptNarrowing(k.Id, k.Name, k.Search, index.Count(SheetAddress.Read(k.Search).Narrowing), k.Version))];
    }

    public async Task<(KeptOutcome Outcome, NarrowingId Id, Done Done)> KeepAsync(Actor who, string name, string search, CancellationToken ct)
    {
        var id = new NarrowingId(Guid.CreateVersion7());
        var (outcome, done) = await RunAsync(
            who, act =>
            {
                act.Says = _ => ActWords.KeptNarrowing(name);
                return act.RunAsync(
                    """
                    insert into narrowing (id, name, search, made)
                    select @id, @name, @search, @now
                     where (select count(*) from narrowing where binned is null) < @most
                    """,
                    ct, ("id", id.Value), ("name", name), ("search", Written(search)), ("now", act.Now), ("most", Most));
            },
            ct);
        return (outcome == KeptOutcome.Gone ? KeptOutcome.TooMany : outcome, id, done);
    }

    /// <summary>Gives it another name, or lets it find something else; what is null stays.</summary>
    public Task<(KeptOutcome Outcome, Done Done)> ChangeAsync(Actor who, NarrowingId id, string? name, string? search, long expected, CancellationToken ct) => RunAsync(
        who, act => WriteAsync(
            act, id, expected, ActWords.ChangedNarrowing, "name = coalesce(@name::text, name), search = coalesce(@search::text, search), version = version + 1", ct,
            ("name", name), ("search", search is null ? null : Written(search))),
        ct);

    /// <summary>Lets it go; undo brings it back.</summary>
    public Task<(KeptOutcome Outcome, Done Done)> LetGoAsync(Actor who, NarrowingId id, long expected, CancellationToken ct) => RunAsync(
        who, act => WriteAsync(act, id, expected, ActWords.LetNarrowingGo, "binned = @now, version = version + 1", ct, ("now", act.Now)), ct);

    /// <returns>1 when it is written, 0 when it is gone, −1 when somebody else changed it meanwhile.</returns>
    static async Task<int> WriteAsync(Act act, NarrowingId id, long expected, Func<string, string> says, string set, CancellationToken ct, params (string, object?)[] parameters)
    {
        await using var find = act.Command("select version, name from narrowing where id = @id and binned is null for no key update", ("id", id.Value));
        if (await find.FirstAsync(r => Tuple.Create(r.Get<long>("version"), r.Get<string>("name")), ct) is not var (version, name))
        {
            return 0;
        }

        if (version != expected)
        {
            return -1;
        }

        act.Says = _ => says(name);
        return await act.RunAsync($"update narrowing set {set} where id = @id", ct, [.. parameters, ("id", id.Value)]);
    }

    async Task<(KeptOutcome, Done)> RunAsync(Actor who, Func<Act, Task<int>> write, CancellationToken ct)
    {
        try
        {
            return await acts.RunAsync(
                who, ActKind.Narrowings,
                async act => await write(act) switch
                {
                    0 => act.Drop(KeptOutcome.Gone),
                    < 0 => act.Drop(KeptOutcome.Stale),
                    _ => KeptOutcome.Written,
                },
                ct);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return (KeptOutcome.Taken, Done.Nothing);
        }
    }

    /// <summary>Whether an address narrows at all, and is one that can be.</summary>
    public static bool Narrows(string search) => SheetAddress.IsSound(search) && !SheetAddress.Read(search).Narrowing.IsNothing;

    static string Written(string search) => SheetAddress.Read(search).ToString();
}
