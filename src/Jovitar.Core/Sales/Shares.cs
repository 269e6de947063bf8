namespace Jovitar.Core.Sales;

/// <summary>Shares of an amount in whole minor units that come to all of it.</summary>
public static class Shares
{
    /// <summary>
    /// How much of an amount goes with each of some weights. Each share is what goes with it and all before it, less what goes with those
    /// before, both rounded halves up: so none is off by a whole unit.
    /// </summary>
    /// <param name="whole">Minor units, 0 or more.</param>
    /// <param name="weights">0 or more each; where all are 0, the first one has all.</param>
    public static IReadOnlyList<long> Of(long whole, IEnumerable<long> weights)
    {
        long[] all = [.. weights];
        var sum = all.Aggregate((Int128)0, (total, weight) => total + weight);
        var shares = new long[all.Length];
        var (until, before) = ((Int128)0, 0L);
        for (var i = 0; i < all.Length; i++)
        {
            until += sum == 0 ? (i == 0 ? 1 : 0) : all[i];
            var now = Part(whole, until, sum == 0 ? 1 : sum);
            (shares[i], before) = (now - before, now);
        }

        return shares;
    }

    /// <summary>
    /// The same, split one after the other: each of them from what those before have left, halves up. So none ever has less of a larger amount.
    /// </summary>
    /// <param name="whole">Minor units, 0 or more, and no more than the weights come to.</param>
    public static IReadOnlyList<long> Split(long whole, IReadOnlyList<long> weights)
    {
        var (left, sum) = (whole, weights.Aggregate((Int128)0, (total, weight) => total + weight));
        var shares = new long[weights.Count];
        for (var i = 0; i < shares.Length; i++)
        {
            shares[i] = Part(left, weights[i], sum);
            (left, sum) = (left - shares[i], sum - weights[i]);
        }

        return shares;
    }

    /// <summary>So much of an amount as a part is of a whole, halves up, in numbers that no sum is too large for.</summary>
    internal static long Part(long amount, Int128 part, Int128 whole) => whole == 0 ? 0 : (long)(((2 * part * amount) + whole) / (2 * whole));
}
