using System.Numerics;

namespace Jovitar.Core.Narrowings;

/// <summary>A set of photos by their numbers in an index: a bit each.</summary>
sealed class PhotoSet(int capacity)
{
    readonly ulong[] bits = new ulong[(capacity + 63) / 64];

    public int Capacity => bits.Length * 64;

    public int Count
    {
        get
        {
            var count = 0;
            foreach (var word in bits)
            {
                count += BitOperations.PopCount(word);
            }

            return count;
        }
    }

    public bool Contains(int photo) => photo >> 6 < bits.Length && (bits[photo >> 6] & (1UL << (photo & 63))) != 0;

    public void Add(int photo) => bits[photo >> 6] |= 1UL << (photo & 63);

    public void Put(int photo, bool isIn)
    {
        if (isIn)
        {
            Add(photo);
        }
        else
        {
            bits[photo >> 6] &= ~(1UL << (photo & 63));
        }
    }

    public void Keep(PhotoSet other)
    {
        for (var i = 0; i < bits.Length; i++)
        {
            bits[i] &= i < other.bits.Length ? other.bits[i] : 0;
        }
    }

    public void TakeOff(PhotoSet other)
    {
        for (var i = 0; i < Math.Min(bits.Length, other.bits.Length); i++)
        {
            bits[i] &= ~other.bits[i];
        }
    }

    public void Join(PhotoSet other)
    {
        for (var i = 0; i < Math.Min(bits.Length, other.bits.Length); i++)
        {
            bits[i] |= other.bits[i];
        }
    }

    /// <summary>Adds the photos whose value fits.</summary>
    /// <param name="valueOf">Each photo's value.</param>
    /// <param name="fits">Whether a value fits.</param>
    public void AddWhere(int photos, int[] valueOf, bool[] fits)
    {
        for (var first = 0; first < photos; first += 64)
        {
            var word = 0UL;
            var last = Math.Min(64, photos - first);
            for (var i = 0; i < last; i++)
            {
                word |= fits[valueOf[first + i]] ? 1UL << i : 0;
            }

            bits[first >> 6] |= word;
        }
    }

    /// <summary>The numbers of its photos, from the lowest.</summary>
    public int[] Numbers()
    {
        var (all, n) = (new int[Count], 0);
        for (var i = 0; i < bits.Length; i++)
        {
            for (var word = bits[i]; word != 0; word &= word - 1)
            {
                all[n++] = (i << 6) + BitOperations.TrailingZeroCount(word);
            }
        }

        return all;
    }

    /// <summary>Those of some photos that are in it, in their order; all of it must be among them.</summary>
    public int[] Among(int[] photos)
    {
        var (all, n) = (GC.AllocateUninitializedArray<int>(Count), 0);
        foreach (var photo in photos)
        {
            if (n == all.Length)
            {
                break;
            }

            // Written down before it is known whether it counts: no branch to guess wrong.
            all[n] = photo;
            n += (int)((bits[photo >> 6] >> (photo & 63)) & 1);
        }

        return all;
    }

    /// <summary>How often each value of a facet stands among the photos of the set.</summary>
    public void Tally(int[] valueOf, int[] counts)
    {
        for (var i = 0; i < bits.Length; i++)
        {
            for (var word = bits[i]; word != 0; word &= word - 1)
            {
                counts[valueOf[(i << 6) + BitOperations.TrailingZeroCount(word)]]++;
            }
        }
    }
}
