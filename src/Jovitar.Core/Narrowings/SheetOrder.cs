namespace Jovitar.Core.Narrowings;

/// <summary>What a sheet is sorted by.</summary>
public enum SheetSort
{
    Taken,
    Arrived,
    Name,

    /// <summary>Those with a title first, then by file name.</summary>
    Title,
    Rating,

    /// <summary>How often visitors have looked at them.</summary>
    Views,

    /// <summary>The order made by hand in an album.</summary>
    Place,
}

/// <summary>Which way orders run.</summary>
public static class SheetSorts
{
    /// <summary>Whether it runs backward. Newest and best first is how an evening's work is found; names and hand-made orders run forward.</summary>
    /// <param name="reversed">Against the usual way.</param>
    public static bool Down(this SheetSort sort, bool reversed) => (sort is SheetSort.Taken or SheetSort.Arrived or SheetSort.Rating or SheetSort.Views) != reversed;
}

/// <summary>All photos of an index in one order, kept from change to change: what did not move is not compared again.</summary>
sealed class SheetOrder(Comparison<int> compare)
{
    HashSet<int> moved = [];
    int[]? sorted;

    /// <summary>How two photos stand to each other in it.</summary>
    public Comparison<int> Compare => compare;

    /// <summary>A photo has come, gone, or may stand elsewhere now.</summary>
    public void Move(int photo)
    {
        // Before it was ever asked for there is no order to be kept.
        if (sorted is not null)
        {
            moved.Add(photo);
        }
    }

    /// <summary>The photos that are here, in order.</summary>
    public int[] Sorted(PhotoSet here)
    {
        if (sorted is null)
        {
            sorted = here.Numbers();
            Array.Sort(sorted, compare);
        }
        else if (moved.Count > 0)
        {
            var come = moved.Where(here.Contains).ToArray();
            Array.Sort(come, compare);
            sorted = Merge(Array.FindAll(sorted, p => !moved.Contains(p)), come);
            moved = [];
        }

        return sorted;
    }

    int[] Merge(int[] one, int[] other)
    {
        var all = new int[one.Length + other.Length];
        for (int a = 0, b = 0, n = 0; n < all.Length; n++)
        {
            all[n] = b == other.Length || (a < one.Length && compare(one[a], other[b]) < 0) ? one[a++] : other[b++];
        }

        return all;
    }
}
