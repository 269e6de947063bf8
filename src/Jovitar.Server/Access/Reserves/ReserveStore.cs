using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access.Reserves;

/// <summary>What an album or a category reserves, as it is said of the thing itself.</summary>
/// <param name="Called">The groups and members that something is for.</param>
/// <param name="Above">The categories that it stands in, and those above them: they may reserve more of its photos.</param>
internal sealed record OwnReserve(string Name, Reserved Reserved, IReadOnlyList<Chosen> Called, Guid[] Above);

/// <summary>How a change of what is reserved ended.</summary>
internal enum ReserveOutcome
{
    Written,
    Gone,
    Stale,
}

/// <summary>Says for whom what visitors do with photos besides seeing them is reserved.</summary>
internal sealed class ReserveStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>What it is said of, and how it is read, as <c>t</c>.</summary>
    static readonly Dictionary<string, string> Kinds = new(StringComparer.Ordinal)
    {
        ["album"] = $"select t.working_name as name, t.reserves::text as reserves, {AccessStore.AlbumReserves("t")} as above from album as t where t.id = @id and t.binned is null",
        ["category"] = "select t.name, t.reserves::text as reserves, t.marks as above from category as t where t.id = @id and t.binned is null",
    };

    public static bool IsKind(string kind) => Kinds.ContainsKey(kind);

    /// <param name="kind">"album" or "category".</param>
    /// <returns>Null when it is not there.</returns>
    public async Task<OwnReserve?> FindAsync(string kind, Guid thing, CancellationToken ct)
    {
        await using var command = db.Command(Kinds[kind], ("id", thing));
        if (await command.FirstAsync(r => Tuple.Create(r.Get<string>("name"), ReservedText.Read(r.Get<string>("reserves")), r.Get<Guid[]>("above")), ct) is not var (name, reserved, above))
        {
            return null;
        }

        await using var called = db.Command(AudienceStore.ChosenOf, ("ids", reserved.Chosen.ToArray()));
        return new OwnReserve(name, reserved, await called.AllAsync(AudienceStore.ReadChosen, ct), [.. above.Where(a => a != thing)]);
    }

    /// <summary>Says it; visitors have it at once.</summary>
    /// <param name="was">What it was when it was looked at: who said something else since is not overruled.</param>
    public async Task<(ReserveOutcome Outcome, Done Done)> SayAsync(Actor who, string kind, Guid thing, Reserved reserved, Reserved was, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.Offers,
        async act =>
        {
            await using var find = act.Command($"{Kinds[kind]} for no key update of t", ("id", thing));
            if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("name"), ReservedText.Read(r.Get<string>("reserves"))), ct) is not var (name, now))
            {
                return act.Drop(ReserveOutcome.Gone);
            }

            if (now != was.AsKept())
            {
                return act.Drop(ReserveOutcome.Stale);
            }

            var called = await AudienceStore.KeptChosenAsync(act, [.. reserved.AsKept().Chosen], ct);
            var kept = reserved.AsKept().Among([.. called.Select(c => c.Id)]);
            if (kept.Fault() is not null)
            {
                return act.Drop(ReserveOutcome.Stale);
            }

            act.Says = _ => ReserveWords.Said(kind, name, kept, called);
            await act.RunAsync($"update {kind} set reserves = @reserves::jsonb where id = @id", ct, ("reserves", ReservedText.Write(kept)), ("id", thing));
            return ReserveOutcome.Written;
        },
        ct);
}
