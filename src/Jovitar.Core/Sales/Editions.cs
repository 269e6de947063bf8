namespace Jovitar.Core.Sales;

/// <summary>So many of an option that somebody wants of a photo.</summary>
/// <param name="Left">So many can still be sold of it; null for as many as are wanted.</param>
public readonly record struct EditionWanted(PhotoId Photo, Guid Option, int Count, int? Left);

/// <summary>Limited editions: each is of a photo and an option, in whichever sales gallery it stands.</summary>
public static class Editions
{
    /// <summary>Those of which more are wanted than are left, in whichever lines.</summary>
    public static IReadOnlySet<(PhotoId Photo, Guid Option)> TooMany(IEnumerable<EditionWanted> wanted) =>
        wanted.GroupBy(w => (w.Photo, w.Option)).Where(g => g.Sum(w => w.Count) > g.First().Left).Select(g => g.Key).ToHashSet();
}
