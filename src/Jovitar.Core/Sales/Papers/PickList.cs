using Jovitar.Core.Sales.Ordering;

namespace Jovitar.Core.Sales.Papers;

/// <summary>So many pieces of a photo, for an order.</summary>
/// <param name="Line">Of the order, from 1.</param>
public sealed record Picked(long Order, int Line, PlacedLine Of);

/// <summary>All that is made the same way, for whichever orders.</summary>
/// <param name="Called">What buyers read.</param>
/// <param name="Pieces">Together.</param>
public sealed record PickGroup(string Called, int Pieces, IReadOnlyList<Picked> Picked);

/// <summary>What is to be made and gathered for orders: paper by paper, as whoever prints has it in hand.</summary>
public static class PickList
{
    /// <summary>The groups: prints, wraps, cards and the rest, the smaller before the larger; within one the orders as they come, line by line. Files are fetched and do not stand here.</summary>
    public static IReadOnlyList<PickGroup> Of(IEnumerable<(long Number, PlacedOrder Order)> orders) =>
    [
        .. orders.SelectMany(o => o.Order.Lines.Select((line, i) => new Picked(o.Number, i + 1, line)))
            .Where(p => !p.Of.Option.IsFile)
            // Two lists may sell the same: what is called alike is made alike.
            .GroupBy(p => (p.Of.Option.Kind, Called: p.Of.Bought, p.Of.Option.Edge))
            .OrderBy(g => g.Key.Kind).ThenBy(g => g.First().Of.Option.Size is { } size ? size.Width * size.Height : 0).ThenBy(g => g.Key.Called, StringComparer.Ordinal).ThenBy(g => g.Key.Edge)
            .Select(g => new PickGroup(g.Key.Called, g.Sum(p => p.Of.Count), [.. g])),
    ];
}
