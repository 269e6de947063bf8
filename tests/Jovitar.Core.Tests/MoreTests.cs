using CsCheck;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;

namespace Jovitar.Core.Tests;

/// <summary>How photos come that do not stand in a page from the start.</summary>
public sealed class MoreTests
{
    static readonly Gen<LayoutKind> Kinds = Gen.Int[0, 4].Select(n => new[] { LayoutKind.Rows, LayoutKind.Columns, LayoutKind.Grid, LayoutKind.Mosaic, LayoutKind.List }[n]);

    static readonly Gen<(LayoutKind Kind, double[] Shapes, double Width)> Blocks = Gen.Select(Kinds, Gen.Double[0.4, 2.5].Array[1, 150], Gen.Double[300, 1600]);

    static IReadOnlyList<Box> Place((LayoutKind Kind, double[] Shapes, double Width) block) =>
        BlockLayout.Of(block.Kind, 220, 6).For(Device.Desktop).Place(block.Shapes, block.Width, block.Kind == LayoutKind.Mosaic ? [.. block.Shapes.Select((_, i) => i % 5 == 0)] : []).Boxes;

    [Fact]
    public void Photos_are_cut_after_the_last_row_that_ends_within_so_many_if_they_are_half_of_them() =>
        Gen.Select(Blocks, Gen.Int[1, 160]).Sample((block, most) =>
        {
            var boxes = Place(block);
            // Nothing that follows begins above the foot of what stands there.
            bool Clean(int count) => boxes.Take(count).Max(b => b.Bottom) <= boxes.Skip(count).Min(b => b.Y) + 0.01;
            var expected = most >= boxes.Count ? boxes.Count : Enumerable.Range((most + 1) / 2, most - ((most + 1) / 2) + 1).Reverse().Where(Clean).Select(n => (int?)n).FirstOrDefault() ?? most;
            Assert.Equal(expected, More.Cut(boxes, most));
        });

    [Fact]
    public void In_rows_and_grids_as_wide_as_few_photos_a_row_always_ends_there() =>
        Gen.Select(Gen.Bool.Select(rows => rows ? LayoutKind.Rows : LayoutKind.Grid), Gen.Double[0.6, 1.9].Array[40, 150], Gen.Double[300, 1200]).Sample((kind, shapes, width) =>
        {
            var boxes = Place((kind, shapes, width));
            var count = More.Cut(boxes, 30);
            Assert.InRange(count, 15, 30);
            Assert.True(boxes.Take(count).Max(b => b.Bottom) <= boxes.Skip(count).Min(b => b.Y));
        });

    [Fact]
    public void Every_page_can_be_come_to_and_what_is_left_out_is_at_least_two_of_them() =>
        Gen.Int[1, 200].SelectMany(pages => Gen.Select(Gen.Const(pages), Gen.Int[1, pages])).Sample((pages, present) =>
        {
            var numbers = More.Numbers(present, pages);
            int[] shown = [.. numbers.OfType<int>()];
            Assert.Equal(shown.Distinct().Order(), shown);
            Assert.All([1, pages, present, Math.Max(1, present - 1), Math.Min(pages, present + 1)], n => Assert.Contains(n, shown));
            Assert.True(numbers.Count <= 7);
            for (var i = 0; i < numbers.Count; i++)
            {
                if (numbers[i] is null)
                {
                    Assert.True(numbers[i + 1] - numbers[i - 1] > 2);
                }
                else if (i > 0 && numbers[i - 1] is { } before)
                {
                    Assert.Equal(before + 1, numbers[i]);
                }
            }
        });

    [Theory]
    [InlineData(1, 1, "1")]
    [InlineData(1, 9, "1 2 … 9")]
    [InlineData(3, 9, "1 2 3 4 … 9")]
    [InlineData(4, 9, "1 2 3 4 5 … 9")]
    [InlineData(5, 9, "1 … 4 5 6 … 9")]
    [InlineData(9, 9, "1 … 8 9")]
    public void Numbers_of_many_pages_are_shortened(int present, int pages, string expected) =>
        Assert.Equal(expected, string.Join(' ', More.Numbers(present, pages).Select(n => n?.ToString(System.Globalization.CultureInfo.InvariantCulture) ?? "…")));

    [Fact]
    public void What_was_set_beyond_its_range_is_brought_into_it_and_scrolling_keeps_what_was_set_for_the_others()
    {
        Assert.Equal(new More(MoreBy.Button, More.MostStep), new More(MoreBy.Button, 10_000).Bounded());
        Assert.Equal(More.LeastStep, new More(MoreBy.Numbers, -1).Bounded().AtFirst());
        Assert.Equal((60, 24), (new More(MoreBy.Scrolling, 24).AtFirst(), new More(MoreBy.Button, 24).AtFirst()));
        Assert.Equal([0, 0, 24, 48], ((int[])[0, 23, 24, 71]).Select(new More(MoreBy.Numbers, 24).PageFrom));
    }
}
