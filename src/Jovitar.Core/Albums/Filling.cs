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

    /// <summary>The albums that a rule asks for, or asks to be out of.</summary>
    public static IEnumerable<Guid> Asks(Narrowing rule) =>
        Choices(rule).Select(c => Guid.TryParse(c, out var album) ? album : (Guid?)null).OfType<Guid>();

    /// <summary>Why an album cannot be filled by a rule, a sentence; null when it can. What it and others hold must come to rest.</summary>
    /// <param name="others">The other albums that fill themselves.</param>
    public static string? Fault(Guid album, Narrowing rule, IReadOnlyCollection<(Guid Id, string Name, Narrowing Rule)> others)
    {
        if (Choices(rule).Contains(Narrowing.None))
        {
            return "An album cannot fill itself with photos that are in no album: once in it, they are not found any more.";
        }

        var asked = Asks(rule).ToHashSet();
        return asked.Contains(album) ? "An album cannot be filled from itself."
            : others.Where(o => asked.Contains(o.Id)).Select(o => o.Name).FirstOrDefault() is { } filled ? $"“{filled}” fills itself, so no other album can be filled from it."
            : others.Where(o => Asks(o.Rule).Contains(album)).Select(o => o.Name).FirstOrDefault() is { } from ? $"“{from}” is filled from this album, so this one cannot fill itself."
            : null;
    }

    static IEnumerable<string> Choices(Narrowing rule) => rule.Parts.Where(p => p.Kind == PartKind.Album).SelectMany(p => p.Choices);
}
