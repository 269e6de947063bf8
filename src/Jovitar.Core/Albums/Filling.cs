using Jovitar.Core.Narrowings;

namespace Jovitar.Core.Albums;

/// <summary>How an album keeps itself.</summary>
/// <param name="Rule">Which photos it fills itself with; null for one picked by hand.</param>
/// <param name="Most">So many the rule may find, 1 to <see cref="Largest"/>; those put in by hand come on top.</param>
/// <param name="Sort">What its photos are kept in the order of; <see cref="SheetSort.Place"/> is made by hand, and none for a rule.</param>
/// <param name="Reversed">Against the usual way of that order.</param>
public sealed record Filling(Narrowing? Rule, int Most, SheetSort Sort, bool Reversed)
{
    /// <summary>More than any page shows, and few enough to be written in a moment.</summary>
    public const int Largest = 50_000;

    /// <summary>What stands in it by a rule, or because somebody put it in.</summary>
    /// <param name="found">What the rule finds in the album's order; at least the first of them, as many as it may find, are held out and were put in together.</param>
    /// <param name="without">What is held out of it by hand.</param>
    /// <param name="byHand">What was put in by hand; it takes nothing of the largest number.</param>
    /// <returns>Each once, in no order of the whole.</returns>
    public IReadOnlyList<Guid> Holds(IEnumerable<Guid> found, IReadOnlySet<Guid> without, IReadOnlySet<Guid> byHand) =>
        [.. found.Where(p => !without.Contains(p) && !byHand.Contains(p)).Take(Most), .. byHand];

    /// <summary>Why a rule cannot be; null when it can.</summary>
    /// <param name="fillsItself">The name of an album that itself fills itself, by its id; null for any other.</param>
    public static string? Fault(Narrowing rule, Func<Guid, string?> fillsItself)
    {
        foreach (var choice in rule.Parts.Where(p => p.Kind == PartKind.Album).SelectMany(p => p.Choices))
        {
            if (choice == Narrowing.None)
            {
                return "An album cannot fill itself with photos that are in no album: once in it, they are not found any more.";
            }

            if (Guid.TryParse(choice, out var album) && fillsItself(album) is { } name)
            {
                return $"“{name}” fills itself, so no other album can be filled from it.";
            }
        }

        return null;
    }
}
