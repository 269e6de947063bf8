using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Acts;

/// <summary>
/// An act being done: a transaction in which what people made may be changed. Before and after of every change are noted by the
/// database itself; here is said who does it and what it is called.
/// </summary>
internal sealed class Act(NpgsqlConnection connection, NpgsqlTransaction transaction, ActId id, Actor who, ActKind kind, DateTimeOffset now) : Transaction(connection, transaction)
{
    protected override int Patience => 600;

    public ActId Id => id;

    public Actor Who { get; set; } = who;

    public ActKind Kind { get; set; } = kind;

    /// <summary>When it is done: the time of everything it writes.</summary>
    public DateTimeOffset Now => now;

    /// <summary>The act this is a part of: what arrives is part of the intake's.</summary>
    public ActId? Within { get; set; }

    /// <summary>The act this takes back.</summary>
    public ActId? Undoes { get; set; }

    /// <summary>Things that another takes the place of, wherever they are named: rules, kept narrowings, pages.</summary>
    public (IReadOnlyList<Guid> Gone, Guid By)? Replaced { get; set; }

    /// <summary>The thing whose words are typed, when a further change in the same go is to be the same act.</summary>
    public Guid? GoesOn { get; set; }

    /// <summary>The published pages on which things stood that it threw in the bin.</summary>
    public Lacking Lacking { get; set; } = Lacking.Nothing;

    /// <summary>The act is kept even when it changed nothing that is recorded: something was removed for good.</summary>
    public bool IsKept { get; set; }

    /// <summary>Nothing of it is to be written.</summary>
    public bool IsDropped { get; private set; }

    /// <summary>Makes its sentence once it is known what it came to.</summary>
    public Func<ActTally, string> Says { get; set; } = _ => "";

    /// <summary>Writes nothing of it: what it was to change is gone or was changed by somebody else.</summary>
    public T Drop<T>(T answer)
    {
        IsDropped = true;
        return answer;
    }

    /// <summary>Which kinds of things it has changed so far.</summary>
    public async Task<IReadOnlySet<string>> KindsAsync(CancellationToken ct)
    {
        await using var command = Command("select distinct kind from act_change where act = @act", ("act", id.Value));
        return (await command.AllAsync(r => r.GetString(0), ct)).ToHashSet();
    }

    /// <summary>Writes the one in place of the others into a text that names things by id.</summary>
    /// <param name="table">Whose rows are written; a constant of the code.</param>
    /// <param name="column">Of type text, or jsonb.</param>
    /// <param name="also">What else is written of such a row.</param>
    public async Task ReplaceAsync(string table, string column, string also, CancellationToken ct)
    {
        if (Replaced is not { } replaced)
        {
            return;
        }

        var type = column is "draft" or "published" or "planned" ? "jsonb" : "text";
        // Ids are hexadecimal digits and hyphens: nothing that a pattern would take for more.
        await RunAsync(
            $"""
            update {table}
               set {column} = regexp_replace({column}::text, @gone, @by, 'g')::{type}, {also}
             where {column}::text ~ @gone
            """,
            ct, ("gone", string.Join('|', replaced.Gone)), ("by", replaced.By.ToString()));
    }

    /// <summary>Locks rows against other acts, in the order of their ids, so that two acts wait for each other in one direction only.</summary>
    /// <remarks>Kinds are locked in this order: narrowing, price_list, intake, tag, category, album, photo, file, page, comment.</remarks>
    /// <param name="kind">A table with a column <c>id</c>; a constant of the code.</param>
    public async Task LockAsync(string kind, IEnumerable<Guid> ids, CancellationToken ct)
    {
        var all = ids.ToArray();
        if (all.Length > 0)
        {
            await RunAsync($"select from {kind} where id = any(@ids) order by id for no key update", ct, ("ids", all));
        }
    }

    /// <summary>The same for things that come back from the bin, with the rows of this kind that links held for them would be made to.</summary>
    /// <param name="back">All that comes back, of whatever kind.</param>
    public Task<int> LockBackAsync(string kind, IEnumerable<Guid> ids, Guid[] back, CancellationToken ct) => RunAsync(
        $"""
        select
          from {kind}
         where id = any(@ids)
            or id in (
              select h.other from held as h where h.thing = any(@back)
              union
              select h.thing from held as h where h.other = any(@back))
         order by id
           for no key update
        """,
        ct, ("ids", ids.ToArray()), ("back", back));

    /// <summary>
    /// Holds rows as they are, in the same order: what a link is made to must not go into the bin meanwhile. Whether it lies there
    /// already is read afterwards.
    /// </summary>
    public async Task HoldAsync(string kind, IEnumerable<Guid> ids, CancellationToken ct)
    {
        var all = ids.ToArray();
        if (all.Length > 0)
        {
            await RunAsync($"select from {kind} where id = any(@ids) order by id for share", ct, ("ids", all));
        }
    }
}

/// <summary>An area that follows from what acts change. Called within the act's transaction; what it writes belongs to the act.</summary>
internal interface IActListener
{
    /// <param name="kinds">The kinds of things the act has changed.</param>
    Task FollowAsync(Act act, IReadOnlySet<string> kinds, CancellationToken ct);
}

/// <summary>What an act came to for the one who did it.</summary>
/// <param name="Act">What takes it back; null when nothing was changed.</param>
/// <param name="Photos">How many photos it changed.</param>
/// <param name="Lacking">Where what went in the bin stood.</param>
internal sealed record Done(ActId? Act, int Photos, Lacking Lacking)
{
    public static readonly Done Nothing = new(null, 0, Lacking.Nothing);
}

/// <summary>Published pages that lack something now.</summary>
/// <param name="Titles">Of the first of them.</param>
/// <param name="Pages">How many there are.</param>
internal sealed record Lacking(IReadOnlyList<string> Titles, int Pages)
{
    public static readonly Lacking Nothing = new([], 0);
}
