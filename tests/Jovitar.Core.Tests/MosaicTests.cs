using CsCheck;
using Jovitar.Core.Layout;

namespace Jovitar.Core.Tests;

/// <summary>The mosaic by property and against brute force, and which photos stand large in it.</summary>
public sealed class MosaicTests
{
    static readonly Gen<double> Shape = Gen.OneOf(Gen.Const(1.5), Gen.Const(2 / 3.0), Gen.Const(1.0), Gen.Const(16 / 9.0), Gen.Double[0.3, 4]);
    static readonly Gen<(double Shape, bool Large)[]> Photos = Gen.Select(Shape, Gen.Int[0, 5].Select(n => n == 0)).Array[1, 80];

    static Placed Place((double Shape, bool Large)[] photos, double width, double height, double gap, double under = 0) =>
        MosaicLayout.Place([.. photos.Select(p => p.Shape)], [.. photos.Select(p => p.Large)], width, height, gap, under);

    /// <summary>What a placing costs, from its boxes alone.</summary>
    static double Cost((double Shape, bool Large)[] photos, Placed placed, double height, double gap) =>
        placed.Boxes.Select((b, i) => (photos[i].Large ? 4 : 1) * Math.Pow(Math.Log(b.Height / (photos[i].Large ? (2 * height) + gap : height)), 2)).Sum();

    [Fact]
    public void A_mosaic_keeps_all_shapes_overlaps_nowhere_and_has_no_hole() =>
        Gen.Select(Photos, Gen.Double[300, 2000], Gen.Double[80, 300], Gen.Double[0, 20], Gen.OneOf(Gen.Const(0.0), Gen.Double[10, 80])).Sample((photos, width, height, gap, under) =>
        {
            var placed = Place(photos, width, height, gap, under);
            Assert.Equal(photos.Length, placed.Boxes.Count);
            for (var i = 0; i < photos.Length; i++)
            {
                var box = placed.Boxes[i];
                // Room for words beneath a photo belongs to its box.
                Assert.Equal(photos[i].Shape, box.Width / (box.Height - under), 1e-6);
                Assert.True(box.X > -1e-6 && box.Right < width + 1e-4 && box.Y > -1e-6 && box.Bottom < placed.Height + 1e-4, "within the block");
                for (var j = 0; j < i; j++)
                {
                    var other = placed.Boxes[j];
                    var apart = Math.Max(Math.Max(box.X - other.Right, other.X - box.Right), Math.Max(box.Y - other.Bottom, other.Y - box.Bottom));
                    Assert.True(apart > gap - 1e-4, $"{j} and {i} are {apart} apart");
                }
            }

            // With its gap to the right and beneath, every photo covers a part of the block of its own, and together they cover all of it.
            Assert.Equal((width + gap) * (placed.Height + gap), placed.Boxes.Sum(b => (b.Width + gap) * (b.Height + gap)), 1e-3 * placed.Height);
        });

    [Fact]
    public void The_order_is_kept_from_band_to_band_and_read_within_one() =>
        Gen.Select(Photos, Gen.Double[300, 2000], Gen.Double[80, 300]).Sample((photos, width, height) =>
        {
            var boxes = Place(photos, width, height, 6).Boxes;
            double end = 0;
            for (var from = 0; from < boxes.Count;)
            {
                // A band ends where the next photo, and all behind it, stand beneath what came so far.
                var to = from + 1;
                while (to < boxes.Count && boxes.Skip(to).Min(b => b.Y) < boxes.Skip(from).Take(to - from).Max(b => b.Bottom))
                {
                    to++;
                }

                var band = boxes.Skip(from).Take(to - from).ToArray();
                Assert.True(band.All(b => b.Y > end - 1e-6));
                end = band.Max(b => b.Bottom);
                // Without the one that is as high as the band it reads row by row.
                var rest = band.Where(b => b.Height < end - band.Min(o => o.Y) - 1e-6).ToArray();
                Assert.Equal(rest.OrderBy(b => Math.Round(b.Y, 3)).ThenBy(b => b.X), rest);
                if (rest.Length > 0)
                {
                    var one = Assert.Single(band.Index(), b => b.Item.Height > rest[0].Height + rest[^1].Height - 1e-6);
                    Assert.True(photos[from + one.Index].Large, "beside two rows stands one that is to be large");
                    Assert.Equal(one.Index <= band.Length - 1 - one.Index, one.Item.X < 1e-6);
                    Assert.Equal(2, rest.Select(b => Math.Round(b.Y, 3)).Distinct().Count());
                }

                from = to;
            }
        });

    // The reference is brute force: all ways to break a few photos into rows and large ones beside two rows, heights by bisection.
    [Fact]
    public void Of_all_ways_to_break_it_takes_the_best() =>
        Gen.Select(Gen.Select(Gen.Double[0.5, 2], Gen.Bool).Array[1, 8], Gen.Double[500, 900], Gen.Double[120, 200], Gen.Double[0, 12]).Sample((photos, width, height, gap) =>
        {
            double Want(int i) => photos[i].Item2 ? (2 * height) + gap : height;
            double Of(IEnumerable<int> row, double high) => row.Sum(i => (photos[i].Item2 ? 4 : 1) * Math.Pow(Math.Log(high / Want(i)), 2));
            double Long(IEnumerable<int> row) => row.Sum(i => photos[i].Item1);
            double Fill(int[] row, double room) => (room - (gap * (row.Length - 1))) / Long(row);
            double Beside(int one, int[] rest)
            {
                var split = Enumerable.Range(1, rest.Length - 1).MinBy(n => (Math.Round(Math.Abs(Long(rest[..n]) - Long(rest[n..])), 9), -n));
                var (upper, lower) = (rest[..split], rest[split..]);
                // As the large one grows, the rows beside it get lower: at one height they are as high together.
                var (low, high) = (0.0, width / photos[one].Item1);
                for (var n = 0; n < 200; n++)
                {
                    var middle = (low + high) / 2;
                    var room = width - gap - (photos[one].Item1 * middle);
                    (low, high) = Fill(upper, room) + Fill(lower, room) + gap > middle ? (middle, high) : (low, middle);
                }

                var left = width - gap - (photos[one].Item1 * low);
                var (above, beneath) = (Fill(upper, left), Fill(lower, left));
                return above < 0.55 * height || beneath < 0.55 * height ? double.PositiveInfinity : Of([one], low) + Of(upper, above) + Of(lower, beneath);
            }

            double Best(int from)
            {
                if (from == photos.Length)
                {
                    return 0;
                }

                var best = double.PositiveInfinity;
                for (var to = from + 1; to <= photos.Length; to++)
                {
                    int[] band = [.. Enumerable.Range(from, to - from)];
                    var (behind, row) = (Best(to), Fill(band, width));
                    best = row > 0.55 * height || to == from + 1 ? Math.Min(best, Of(band, row) + behind) : best;
                    foreach (var one in band.Where(i => photos[i].Item2 && band.Length > 2))
                    {
                        best = Math.Min(best, Beside(one, [.. band.Where(i => i != one)]) + behind);
                    }
                }

                return best;
            }

            (double, bool)[] all = [.. photos];
            Assert.Equal(Best(0), Cost(all, Place(all, width, height, gap), height, gap), 1e-6);
        }, iter: 200);

    [Fact]
    public void A_large_one_is_about_twice_as_high_as_those_beside_it()
    {
        // Nine of 3:2 on 900 px: the first is large, and four stand in two rows beside it.
        var placed = Place([(1.5, true), .. Enumerable.Repeat((1.5, false), 8)], 900, 140, 0);
        // h = a + b, 3·a = 900 − 1.5·h for each row of two: h = 2·a, a = 150.
        Assert.Equal(new Box(0, 0, 450, 300), placed.Boxes[0]);
        Assert.Equal([new Box(450, 0, 225, 150), new Box(675, 0, 225, 150), new Box(450, 150, 225, 150), new Box(675, 150, 225, 150)], placed.Boxes.Skip(1).Take(4));
        // The four that are left fill a row to its end.
        Assert.Equal([new Box(0, 300, 225, 150), new Box(675, 300, 225, 150)], [placed.Boxes[5], placed.Boxes[8]]);
        Assert.Equal(450, placed.Height);
    }

    static bool[] Large(LargeBy by, params int[] ratings) => new MosaicLarge(by, [new PhotoId(new Guid(2, 0, 0, new byte[8]))]).Of([.. ratings.Select((r, i) => (new PhotoId(new Guid(i + 1, 0, 0, new byte[8])), r))]);

    static int[] Places(bool[] large) => [.. large.Index().Where(l => l.Item).Select(l => l.Index)];

    [Fact]
    public void Large_are_those_rated_highest_but_no_more_than_one_of_five()
    {
        Assert.Equal([3], Places(Large(LargeBy.Rating, 0, 1, 2, 5, 0, 4, 4)));
        Assert.Equal([3, 5], Places(Large(LargeBy.Rating, 0, 1, 2, 5, 0, 4, 0)));
        // All ten are rated alike: two of them, spread evenly.
        Assert.Equal([0, 5], Places(Large(LargeBy.Rating, 5, 5, 5, 5, 5, 5, 5, 5, 5, 5)));
        // None is rated: the first, and one of every seven.
        Assert.Equal([0, 7, 14], Places(Large(LargeBy.Rating, new int[15])));
        Assert.Equal([0, 7, 14], Places(Large(LargeBy.Turn, [.. Enumerable.Repeat(5, 15)])));
        Assert.Equal([1], Places(Large(LargeBy.Chosen, 0, 0, 5, 5)));
        Assert.Empty(Large(LargeBy.Rating));
    }

    [Fact]
    public void Never_more_are_large_by_rating_than_one_of_five_and_none_that_is_rated_lower_than_one_that_is_not() =>
        Gen.Int[0, 5].Array[1, 200].Sample(ratings =>
        {
            var large = Large(LargeBy.Rating, ratings);
            if (ratings.Max() == 0)
            {
                return;
            }

            Assert.InRange(large.Count(l => l), 1, (ratings.Length + 4) / 5);
            var least = ratings.Where((_, i) => large[i]).Min();
            Assert.True(ratings.Where((_, i) => !large[i]).All(r => r <= least));
        });
}
