using Jovitar.Core.Narrowings;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Narrowings;

/// <summary>A choice of a narrowing, and how many photos would be found with it.</summary>
/// <param name="Choice">As addresses say it.</param>
/// <param name="Name">What it is called, where it has a name of its own: a tag's, a category's, an album's; else null.</param>
/// <param name="Within">The choice it stands beneath, of a category; else null.</param>
internal sealed record CountedChoice(string Choice, string? Name, string? Within, int Count);

/// <summary>The choices of one part.</summary>
internal sealed record CountedPart(PartKind Kind, IReadOnlyList<CountedChoice> Choices);

/// <summary>How many photos are found, and how many would be with each choice.</summary>
/// <param name="InBin">So many that lie in the bin would be found besides.</param>
internal sealed record SheetCounts(int Total, int InBin, IReadOnlyList<CountedPart> Parts);

/// <summary>Counts beside the choices of a narrowing. They are exact.</summary>
internal sealed class CountStore(NpgsqlDataSource db, IndexKeeper keeper)
{
    /// <summary>So many choices of a part; the rest is found by typing.</summary>
    const int Most = 80;

    /// <summary>Names of what is chosen by id.</summary>
    static readonly Dictionary<PartKind, string> Named = new()
    {
        [PartKind.Album] = "select id, working_name as name, null::uuid as within from album where id = any(@ids) and binned is null",
        [PartKind.Category] = "select id, name, parent as within from category where id = any(@ids) and binned is null",
        [PartKind.Tag] = "select id, name, null::uuid as within from tag where id = any(@ids) and binned is null",
        [PartKind.Intake] = "select id, to_char(begun at time zone 'UTC', 'YYYY-MM-DD\"T\"HH24:MI:SS\"Z\"') as name, null::uuid as within from intake where id = any(@ids)",
    };

    /// <param name="inBin">Counts what lies in the bin, instead of what is here.</param>
    public async Task<SheetCounts> CountAsync(Narrowing narrowing, bool inBin, CancellationToken ct)
    {
        var index = await keeper.CurrentAsync(ct);
        var parts = new List<CountedPart>();
        foreach (var (kind, choices) in index.Counts(narrowing, Most, inBin))
        {
            var names = Named.TryGetValue(kind, out var sql) ? await NamesAsync(sql, choices, narrowing, kind, ct) : null;
            parts.Add(new CountedPart(
                kind,
                [.. choices.Select(c => (c.Choice, c.Count, Known: names?.GetValueOrDefault(c.Choice)))
                    // What lies in the bin by now is no choice any more.
                    .Where(c => names is null || c.Known is not null || c.Choice == Narrowing.None)
                    .Select(c => new CountedChoice(c.Choice, c.Known?.Name, c.Known?.Within?.ToString(), c.Count)),
                 // What is chosen is named even where it finds nothing.
                 .. Chosen(narrowing, kind).Where(c => choices.All(o => o.Choice != c) && names?.ContainsKey(c) == true).Select(c => new CountedChoice(c, names![c].Name, names[c].Within?.ToString(), 0))]));
        }

        return new SheetCounts(index.Count(narrowing), index.InBin(narrowing).Count, parts);
    }

    sealed record Known(string Name, Guid? Within);

    static IEnumerable<string> Chosen(Narrowing narrowing, PartKind kind) => narrowing.Parts.Where(p => p.Kind == kind).SelectMany(p => p.Choices).Distinct();

    async Task<Dictionary<string, Known>> NamesAsync(string sql, IReadOnlyList<(string Choice, int Count)> choices, Narrowing narrowing, PartKind kind, CancellationToken ct)
    {
        var ids = choices.Select(c => c.Choice).Concat(Chosen(narrowing, kind)).Select(c => Guid.TryParse(c, out var id) ? id : (Guid?)null).OfType<Guid>().Distinct().ToArray();
        await using var command = db.Command(sql, ("ids", ids));
        return (await command.AllAsync(r => KeyValuePair.Create(r.Get<Guid>("id").ToString(), new Known(r.Get<string>("name"), r.MaybeId("within"))), ct)).ToDictionary();
    }
}
