namespace Jovitar.Core.Pages;

/// <summary>
/// Orders drawn by lot, one for each visit: the same lot always draws the same, so that a page, what follows on it, a photo's own page
/// and the way back agree, and nothing of it has to be kept.
/// </summary>
public static class Lot
{
    /// <summary>Lots are numbered from 1 to this; 0 is none, and leaves the order as it is.</summary>
    public const int Most = 9999;

    /// <summary>Draws.</summary>
    /// <param name="count">From how many; they are numbered from 0.</param>
    /// <param name="most">How many at most; null for all, in another order.</param>
    /// <param name="lot">See <see cref="Most"/>.</param>
    /// <param name="block">Blocks of one page are drawn apart from each other.</param>
    /// <returns>Numbers, each once.</returns>
    /// <remarks>
    /// R. Durstenfeld, Algorithm 235: Random permutation, CACM 7 (1964), from its beginning, ended when enough are drawn; the numbers
    /// are those of SplitMix64 (Steele, Lea, Flood, OOPSLA 2014).
    /// </remarks>
    public static int[] Draw(int count, int? most, int lot, int block = 1)
    {
        var all = Enumerable.Range(0, count).ToArray();
        var wanted = Math.Clamp(most ?? count, 0, count);
        if (lot > 0)
        {
            var state = ((ulong)lot * 0xD1342543DE82EF95) ^ ((ulong)block << 48);
            for (var i = 0; i < wanted; i++)
            {
                var other = i + (int)(Next(ref state) % (ulong)(count - i));
                (all[i], all[other]) = (all[other], all[i]);
            }
        }

        return all[..wanted];
    }

    static ulong Next(ref ulong state)
    {
        var z = state += 0x9E3779B97F4A7C15;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
        return z ^ (z >> 31);
    }
}
