namespace Jovitar.Core.Albums;

/// <summary>Moves things about in an order made by hand.</summary>
public static class Ordering
{
    /// <summary>Lifts things out of an order and sets them down together, as they stood among themselves, so that the first stands at a position.</summary>
    /// <param name="order">The order as it is; no thing twice.</param>
    /// <param name="moved">What is moved. Things that are not in the order are passed over.</param>
    /// <param name="position">Where the first of them stands afterwards, 0 = first; brought into range.</param>
    /// <returns>The new order, with the same things.</returns>
    public static IReadOnlyList<T> Move<T>(IReadOnlyList<T> order, IReadOnlySet<T> moved, int position)
    {
        var rest = order.Where(t => !moved.Contains(t)).ToList();
        var taken = order.Where(moved.Contains).ToArray();
        rest.InsertRange(Math.Clamp(position, 0, rest.Count), taken);
        return rest;
    }

    /// <summary>Lifts things out of an order and sets them down together before another, or at the end when that is not there.</summary>
    /// <param name="before">What they stand before afterwards. When it is itself moved, the next thing that is not.</param>
    public static IReadOnlyList<T> MoveBefore<T>(IReadOnlyList<T> order, IReadOnlySet<T> moved, T before)
    {
        var position = 0;
        var reached = false;
        foreach (var thing in order)
        {
            reached |= EqualityComparer<T>.Default.Equals(thing, before);
            if (moved.Contains(thing))
            {
                continue;
            }

            if (reached)
            {
                return Move(order, moved, position);
            }

            position++;
        }

        return Move(order, moved, int.MaxValue);
    }
}
