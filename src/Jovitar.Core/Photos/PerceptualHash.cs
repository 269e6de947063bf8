using System.Numerics;

namespace Jovitar.Core.Photos;

/// <summary>Sixty-four bits that stay nearly the same when a photo is scaled, saved again or slightly corrected.</summary>
/// <remarks>
/// The discrete cosine transform (type II) of a 32 by 32 grey picture; of its coefficients 1 to 8 in both directions each gives
/// one bit: whether it lies above their median. After Zauner, "Implementation and Benchmarking of Perceptual Image Hash
/// Functions" (2010), chapter 3.2.1.
/// </remarks>
public static class PerceptualHash
{
    /// <summary>Pixels along each side of the grey picture.</summary>
    public const int Side = 32;

    /// <summary>Bits a band; four bands make the hash.</summary>
    public const int BandBits = 16;

    const int Low = 8;

    static readonly double[] Cosines = [.. Enumerable.Range(1, Low).SelectMany(u => Enumerable.Range(0, Side).Select(x => Math.Cos(((2 * x) + 1) * u * Math.PI / (2 * Side))))];

    /// <summary>The hash of a picture.</summary>
    /// <param name="grey">32 rows of 32 grey values.</param>
    /// <exception cref="ArgumentException">There are not 1024 values.</exception>
    public static ulong Of(ReadOnlySpan<byte> grey)
    {
        if (grey.Length != Side * Side)
        {
            throw new ArgumentException("The picture must be 32 by 32.", nameof(grey));
        }

        Span<double> rows = stackalloc double[Side * Low];
        for (var y = 0; y < Side; y++)
        {
            for (var u = 0; u < Low; u++)
            {
                var sum = 0.0;
                for (var x = 0; x < Side; x++)
                {
                    sum += grey[(y * Side) + x] * Cosines[(u * Side) + x];
                }

                rows[(y * Low) + u] = sum;
            }
        }

        Span<double> coefficients = stackalloc double[Low * Low];
        for (var v = 0; v < Low; v++)
        {
            for (var u = 0; u < Low; u++)
            {
                var sum = 0.0;
                for (var y = 0; y < Side; y++)
                {
                    sum += rows[(y * Low) + u] * Cosines[(v * Side) + y];
                }

                coefficients[(v * Low) + u] = sum;
            }
        }

        Span<double> sorted = stackalloc double[Low * Low];
        coefficients.CopyTo(sorted);
        sorted.Sort();
        var median = (sorted[31] + sorted[32]) / 2;
        var hash = 0UL;
        for (var i = 0; i < coefficients.Length; i++)
        {
            hash |= (coefficients[i] > median ? 1UL : 0UL) << i;
        }

        return hash;
    }

    /// <summary>In how many bits two hashes differ.</summary>
    public static int Distance(ulong a, ulong b) => BitOperations.PopCount(a ^ b);

    /// <summary>A band of a hash, 0 to 3: the bits an index finds it by.</summary>
    public static int Band(ulong hash, int band) => (int)(hash >> (band * BandBits)) & 0xFFFF;

    /// <summary>A band's value and the sixteen that differ from it in one bit.</summary>
    /// <remarks>Two hashes that differ in at most seven bits have, among four bands, one that differs in at most one: so these find them all.</remarks>
    public static int[] Probes(ulong hash, int band)
    {
        var value = Band(hash, band);
        return [value, .. Enumerable.Range(0, BandBits).Select(bit => value ^ (1 << bit))];
    }
}
