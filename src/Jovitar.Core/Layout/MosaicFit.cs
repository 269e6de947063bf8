namespace Jovitar.Core.Layout;

/// <summary>What parts of the photos of a mosaic come to: how high they stand in its width, and what that costs.</summary>
sealed class MosaicFit
{
    /// <summary>Sums of shapes that differ by less are equal.</summary>
    const double Rounding = 1e-9;

    /// <summary>What the shapes before a photo add up to.</summary>
    readonly double[] sums;

    /// <summary>How many before a photo are to be large.</summary>
    readonly int[] larges;

    /// <summary>The logarithm of how much higher a large photo is wanted.</summary>
    readonly double larger;

    public MosaicFit(ReadOnlySpan<double> shapes, ReadOnlySpan<bool> large, double width, double wanted, double gap, double under)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(width);
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(wanted);
        (Width, Wanted, Gap, Under, Count, larger) = (width, wanted, gap, under, shapes.Length, Math.Log(((2 * wanted) + gap) / wanted));
        (sums, larges) = (new double[Count + 1], new int[Count + 1]);
        for (var i = 0; i < Count; i++)
        {
            ArgumentOutOfRangeException.ThrowIfNegativeOrZero(shapes[i]);
            sums[i + 1] = sums[i] + shapes[i];
            larges[i + 1] = larges[i] + (i < large.Length && large[i] ? 1 : 0);
        }
    }

    public int Count { get; }

    public double Width { get; }

    public double Wanted { get; }

    public double Gap { get; }

    public double Under { get; }

    public double Shape(int photo) => sums[photo + 1] - sums[photo];

    public double Sum(int from, int to) => sums[to] - sums[from];

    public bool IsLarge(int photo) => larges[photo + 1] > larges[photo];

    /// <summary>Photos as one row: how high it is, and what that costs.</summary>
    public (double Height, double Cost) Row(int from, int to)
    {
        var height = (Width - (Gap * (to - from - 1))) / Sum(from, to);
        return height <= 0 ? (height, double.MaxValue) : (height, CostOf(to - from, larges[to] - larges[from], height));
    }

    /// <summary>One photo of a band beside two rows of its others, at least two: the heights of all three, and what they cost.</summary>
    /// <param name="split">See <see cref="Split"/>.</param>
    /// <param name="lowest">Rows that are lower are not wanted.</param>
    /// <param name="most">What costs as much or more is not wanted.</param>
    /// <returns>Null where it is not wanted, or there is no room for it.</returns>
    public (double Height, double Upper, double Lower, double Cost)? Beside(int large, int from, int split, int to, double lowest, double most)
    {
        var isAbove = split > large;
        var (shape, all) = (Shape(large), Sum(from, to));
        var above = Sum(from, split) - (isAbove ? shape : 0);
        var (upper, lower) = (1 / above, 1 / (all - shape - above));
        var (manyAbove, many) = (split - from - (isAbove ? 1 : 0), to - from - 1);
        var (gapsAbove, gapsBeneath) = (Gap * (manyAbove - 1), Gap * (many - manyAbove - 1));
        var height = (((Width - Gap) * (upper + lower)) + Gap + Under - (gapsAbove * upper) - (gapsBeneath * lower)) / (1 + (shape * (upper + lower)));
        var room = Width - Gap - (shape * height);
        var (high, low) = ((room - gapsAbove) * upper, (room - gapsBeneath) * lower);
        if (height <= 0 || high <= 0 || low <= 0 || high < lowest || low < lowest)
        {
            return null;
        }

        var cost = CostOf(1, 1, height);
        if (cost >= most)
        {
            return null;
        }

        var (largeAbove, largeAll) = (larges[split] - larges[from] - (isAbove ? 1 : 0), larges[to] - larges[from] - 1);
        cost += CostOf(manyAbove, largeAbove, high) + CostOf(many - manyAbove, largeAll - largeAbove, low);
        return cost < most ? (height, high, low, cost) : null;
    }

    /// <summary>Where the lower row begins: each row has a photo, and they are as nearly equally long as can be, the upper one rather the longer.</summary>
    public int Split(int large, int from, int to)
    {
        // What stands before a place, without the large one.
        double Before(int place) => Sum(from, place) - (place > large ? Shape(large) : 0);
        var half = Before(to) / 2;
        var first = from == large ? from + 2 : from + 1;
        var last = to - 1 == large ? to - 2 : to - 1;
        var (low, high) = (first, last);
        while (low < high)
        {
            var middle = (low + high) / 2;
            (low, high) = Before(middle) >= half ? (low, middle) : (middle + 1, high);
        }

        // Of two that are as near but for what rounding leaves, the one with the longer upper row.
        return low > first && half - Before(low - 1) < Before(low) - half - Rounding ? low - 1 : low;
    }

    double CostOf(int many, int large, double height)
    {
        var small = Math.Log(height / Wanted);
        var big = small - larger;
        return ((many - large) * small * small) + (MosaicLayout.Places * large * big * big);
    }
}
