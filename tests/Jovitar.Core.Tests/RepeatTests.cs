using CsCheck;
using Jovitar.Core.Photos;

namespace Jovitar.Core.Tests;

public sealed class RepeatTests
{
    static readonly Gen<byte[]> Picture = Gen.Byte.Array[PerceptualHash.Side * PerceptualHash.Side];

    /// <summary>The two-dimensional DCT-II straight from its definition: the reference for the separated one.</summary>
    static ulong ByDefinition(byte[] grey)
    {
        const int n = PerceptualHash.Side;
        var coefficients = new double[64];
        for (var v = 1; v <= 8; v++)
        {
            for (var u = 1; u <= 8; u++)
            {
                for (var y = 0; y < n; y++)
                {
                    for (var x = 0; x < n; x++)
                    {
                        coefficients[((v - 1) * 8) + u - 1] += grey[(y * n) + x] * Math.Cos(((2 * x) + 1) * u * Math.PI / (2 * n)) * Math.Cos(((2 * y) + 1) * v * Math.PI / (2 * n));
                    }
                }
            }
        }

        var sorted = coefficients.Order().ToArray();
        var median = (sorted[31] + sorted[32]) / 2;
        return coefficients.Select((c, i) => (c > median ? 1UL : 0) << i).Aggregate((a, b) => a | b);
    }

    [Fact]
    public void The_hash_is_what_the_transforms_definition_gives() =>
        Picture.Sample(grey => Assert.True(PerceptualHash.Distance(ByDefinition(grey), PerceptualHash.Of(grey)) <= 1), iter: 30);

    [Fact]
    public void Light_and_contrast_do_not_change_a_hash() =>
        Gen.Select(Gen.Byte[0, 120].Array[1024], Gen.Int[0, 60], Gen.Double[0.6, 1.5]).Sample((grey, more, times) =>
        {
            var brighter = Array.ConvertAll(grey, g => (byte)Math.Min(255, (g * times) + more));
            // Rounding to whole grey values moves a coefficient that lies at the median; a few bits may turn.
            Assert.True(PerceptualHash.Distance(PerceptualHash.Of(grey), PerceptualHash.Of(brighter)) <= 4);
        });

    [Fact]
    public void Probes_find_every_hash_within_seven_bits() =>
        Gen.Select(Gen.ULong, Gen.Int[0, 63].Array[0, Repeats.SamePicture]).Sample((hash, turned) =>
        {
            var other = turned.Aggregate(hash, (h, bit) => h ^ (1UL << bit));
            Assert.True(PerceptualHash.Distance(hash, other) <= Repeats.SamePicture);
            Assert.Contains(Enumerable.Range(0, 4), band => PerceptualHash.Probes(hash, band).Contains(PerceptualHash.Band(other, band)));
        });

    [Theory]
    [InlineData(5, null, true)]
    [InlineData(12, null, false)]
    [InlineData(12, 3.0, true)]
    [InlineData(12, 60.0, false)]
    [InlineData(30, 1.0, false)]
    public void Near_means_one_picture_or_one_scene_within_seconds(int distance, double? seconds, bool near) =>
        Assert.Equal(near, Repeats.AreNear(distance, seconds is { } s ? TimeSpan.FromSeconds(s) : null));

    [Fact]
    public void Groups_are_the_components_of_the_pairs()
    {
        var ids = Enumerable.Range(0, 12).Select(_ => new PhotoId(Guid.NewGuid())).ToArray();
        Gen.Select(Gen.Int[0, 11], Gen.Int[0, 11]).Where((a, b) => a != b).Array[0, 14].Sample(pairs =>
        {
            var groups = Repeats.Groups(pairs.Select(p => new NearPair(ids[p.Item1], ids[p.Item2])));
            // Naively: spread the smallest number along the pairs until nothing changes.
            var least = Enumerable.Range(0, 12).ToArray();
            for (var i = 0; i < 12; i++)
            {
                foreach (var (a, b) in pairs)
                {
                    least[a] = least[b] = Math.Min(least[a], least[b]);
                }
            }

            var expected = pairs.SelectMany(p => new[] { p.Item1, p.Item2 }).Distinct().GroupBy(i => least[i]).Select(g => string.Join(',', g.Order())).Order();
            Assert.Equal(expected, groups.Select(g => string.Join(',', g.Select(p => Array.IndexOf(ids, p)).Order())).Order());
            Assert.Equal(groups.Sum(g => g.Count), groups.SelectMany(g => g).Distinct().Count());
        });
    }
}
