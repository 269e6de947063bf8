namespace Jovitar.Core.Albums;

/// <summary>A thing in an order, with the place it has now; null when it has none yet.</summary>
public readonly record struct Standing<T>(T Thing, long? Place);

/// <summary>Places that things take in an order made by hand: whole numbers with room between them, so that moving a few writes those few.</summary>
public static class Places
{
    /// <summary>The room between neighbours.</summary>
    public const long Step = 1L << 32;

    /// <summary>The place after all that are there.</summary>
    public static long After(long? last) => last is { } at ? at + Step : 0;

    /// <summary>The places that must be written so that things stand in the order given.</summary>
    /// <remarks>
    /// The most that can keep their places are a longest rising subsequence of them (Fredman, Discrete Mathematics 11, 1975,
    /// O(n log n)); the others share the room between their kept neighbours. Where that is used up, all are placed anew.
    /// </remarks>
    /// <param name="order">The order wanted; no thing twice.</param>
    /// <returns>Things and their new places, in the order given; empty when it stands so already.</returns>
    public static IReadOnlyList<(T Thing, long Place)> Assign<T>(IReadOnlyList<Standing<T>> order)
    {
        var kept = Rising(order);
        var written = new List<(T, long)>();
        for (var at = 0; at < order.Count;)
        {
            if (kept[at])
            {
                at++;
                continue;
            }

            var end = at;
            while (end < order.Count && !kept[end])
            {
                end++;
            }

            if (!Share(order, at, end, written))
            {
                return [.. order.Select((s, i) => (s.Thing, i * Step))];
            }

            at = end;
        }

        return written;
    }

    static bool Share<T>(IReadOnlyList<Standing<T>> order, int from, int end, List<(T, long)> written)
    {
        var count = end - from;
        var before = from > 0 ? order[from - 1].Place ?? written[^1].Item2 : (long?)null;
        var after = end < order.Count ? order[end].Place : null;
        long first, step;
        switch (before, after)
        {
            case (null, null):
                (first, step) = (0, Step);
                break;
            case ({ } b, null):
                (first, step) = (b + Step, Step);
                break;
            case (null, { } a):
                (first, step) = (a - (Step * count), Step);
                break;
            case ({ } b, { } a):
                step = (a - b) / (count + 1);
                if (step == 0)
                {
                    return false;
                }

                first = b + step;
                break;
        }

        for (var i = 0; i < count; i++)
        {
            written.Add((order[from + i].Thing, first + (step * i)));
        }

        return true;
    }

    /// <summary>Which places form a longest strictly rising subsequence.</summary>
    static bool[] Rising<T>(IReadOnlyList<Standing<T>> order)
    {
        var ends = new List<int>();
        var before = new int[order.Count];
        for (var i = 0; i < order.Count; i++)
        {
            if (order[i].Place is not { } place)
            {
                continue;
            }

            var (low, high) = (0, ends.Count);
            while (low < high)
            {
                var middle = (low + high) / 2;
                if (order[ends[middle]].Place < place)
                {
                    low = middle + 1;
                }
                else
                {
                    high = middle;
                }
            }

            before[i] = low > 0 ? ends[low - 1] : -1;
            if (low == ends.Count)
            {
                ends.Add(i);
            }
            else
            {
                ends[low] = i;
            }
        }

        var kept = new bool[order.Count];
        for (var at = ends.Count > 0 ? ends[^1] : -1; at >= 0; at = before[at])
        {
            kept[at] = true;
        }

        return kept;
    }
}
