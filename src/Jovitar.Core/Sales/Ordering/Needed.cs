namespace Jovitar.Core.Sales.Ordering;

/// <summary>Which photos orders still need: their originals are not removed for good before.</summary>
public static class Needed
{
    /// <summary>Whether an order needs the photo of a line: while something of it is to be done, and as long as a file of it is there for some days yet.</summary>
    /// <param name="paid">When its money came; null while it has not.</param>
    /// <param name="fetched">So often a file of it was fetched.</param>
    public static bool Is(PlacedLine line, OrderStanding standing, DateTimeOffset? paid, int fetched, DateTimeOffset now) =>
        standing.IsOpen || (line.Option is { IsFile: true, Days: not null } && new FileTerms(line.Option, standing.State, paid, fetched).At(now) == NotFetched.No);
}
