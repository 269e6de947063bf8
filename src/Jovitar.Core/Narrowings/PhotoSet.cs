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

    /// <summary>Calls for every photo in it, in the order of their numbers.</summary>
    public void Each(Action<int> act)
    {
        for (var i = 0; i < bits.Length; i++)
        {
            for (var word = bits[i]; word != 0; word &= word - 1)
            {
                act((i << 6) + BitOperations.TrailingZeroCount(word));
            }
        }
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
