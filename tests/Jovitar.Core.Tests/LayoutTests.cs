using CsCheck;
using Jovitar.Core.Layout;

namespace Jovitar.Core.Tests;

public sealed class LayoutTests
{
    static readonly Gen<double> Shape = Gen.OneOf(Gen.Const(1.5), Gen.Const(2 / 3.0), Gen.Const(1.0), Gen.Const(16 / 9.0), Gen.Double[0.2, 6]);
    static readonly Gen<(double[] Shapes, double Width, double Height, double Gap)> Rows =
        Gen.Select(Shape.Array[0, 60], Gen.Double[200, 2400], Gen.Double[60, 500], Gen.Double[0, 24]);

    [Fact]
    public void Rows_keep_order_shapes_and_width_and_never_overlap() => Rows.Sample(t =>
    {
        var placed = RowsLayout.Place(t.Shapes, t.Width, new RowsSettings(t.Height, t.Gap));
        Assert.Equal(t.Shapes.Length, placed.Boxes.Count);
        var rows = placed.Boxes.Select((b, i) => (Box: b, Shape: t.Shapes[i])).GroupBy(b => b.Box.Y).ToArray();
        Assert.Equal(rows.Select(r => r.Key).Order(), rows.Select(r => r.Key));
        for (var r = 0; r < rows.Length; r++)
        {
            var row = rows[r].ToArray();
            double x = 0;
            foreach (var (box, shape) in row)
            {
                Assert.Equal(x, box.X, 1e-6);
                Assert.Equal(shape, box.Width / box.Height, 1e-6);
                Assert.Equal(row[0].Box.Height, box.Height, 1e-9);
                x = box.Right + t.Gap;
            }

            if (r < rows.Length - 1)
            {
                Assert.Equal(t.Width, row[^1].Box.Right, 1e-4);
                Assert.Equal(rows[r + 1].Key, row[0].Box.Bottom + t.Gap, 1e-6);
            }
            else
            {
                Assert.True(row[^1].Box.Right <= t.Width + 1e-6);
                Assert.True(row[0].Box.Height <= t.Height + 1e-9, "the last row is not stretched");
                Assert.Equal(placed.Height, row[0].Box.Bottom, 1e-6);
            }
        }
    });

    [Fact]
    public void Room_beneath_photos_belongs_to_their_boxes_and_moves_nothing_else() =>
        Gen.Select(Gen.OneOf(Gen.Const(LayoutKind.Rows), Gen.Const(LayoutKind.Columns), Gen.Const(LayoutKind.Grid)), Shape.Array[1, 60], Gen.Double[300, 1600], Gen.Int[0, 90]).Sample((kind, shapes, width, under) =>
        {
            var settings = new LayoutSettings(kind, 240, 6);
            var (bare, roomy) = (settings.Place(shapes, width).Boxes, (settings with { Under = under }).Place(shapes, width).Boxes);
            for (var i = 0; i < shapes.Length; i++)
            {
                // Columns may take a photo over to another one, where the room made that the shorter.
                Assert.True(kind == LayoutKind.Columns || Math.Abs(bare[i].X - roomy[i].X) < 1e-6);
                Assert.Equal(bare[i].Width, roomy[i].Width, 1e-6);
                Assert.Equal(bare[i].Height + under, roomy[i].Height, 1e-6);
                var above = roomy.Take(i).Where(b => b.Right > roomy[i].X + 1e-6 && b.X < roomy[i].Right - 1e-6 && b.Y < roomy[i].Y - 1e-6).Select(b => (double?)b.Bottom).Max();
                Assert.Equal(above is { } bottom ? bottom + 6 : 0, roomy[i].Y, 1e-6);
            }
        });

    // The reference is brute force: all 2^(n-1) ways to break n photos into rows.
    [Fact]
    public void Rows_break_at_the_least_cost_of_all_ways_to_break() =>
        Gen.Select(Shape.Array[1, 11], Gen.Double[300, 1600], Gen.Double[80, 360], Gen.Double[0, 16]).Sample((shapes, width, height, gap) =>
        {
            var settings = new RowsSettings(height, gap);
            var best = double.MaxValue;
            for (var cuts = 0; cuts < 1 << (shapes.Length - 1); cuts++)
            {
                var starts = new List<int> { 0 };
                starts.AddRange(Enumerable.Range(1, shapes.Length - 1).Where(i => (cuts >> (i - 1) & 1) == 1));
                best = Math.Min(best, Cost(starts, shapes, width, settings));
            }

            var found = Cost(RowsLayout.Break(shapes, width, settings), shapes, width, settings);
            Assert.Equal(best, found, 1e-9);
        });

    [Fact]
    public void No_row_could_be_two_that_are_low_enough() => Rows.Sample(t =>
    {
        int[] ends = [.. RowsLayout.Break(t.Shapes, t.Width, new RowsSettings(t.Height, t.Gap)).Skip(1), t.Shapes.Length];
        var from = 0;
        foreach (var to in ends)
        {
            for (var cut = from + 1; cut < to; cut++)
            {
                double Height(int a, int b) => RowsLayout.HeightToFill(t.Shapes.AsSpan(a, b - a), t.Width, t.Gap);
                Assert.False(Height(from, cut) <= t.Height && Height(cut, to) <= t.Height, $"photos {from} to {to} could be two rows at {cut}");
            }

            from = to;
        }
    });

    // 60 photos nearly as wide as the block: each fills a row alone, a little lower or higher than wanted.
    [Fact]
    public void In_a_narrow_block_wide_photos_stand_alone() =>
        Assert.Equal(Enumerable.Range(0, 60), RowsLayout.Break([.. Enumerable.Repeat(1.9, 60)], 464, new RowsSettings(220, 6)));

    [Theory]
    [InlineData(200, 200, false, 0)]
    [InlineData(250, 200, false, 0.0625)]
    [InlineData(160, 200, false, 0.0625)]
    [InlineData(2, 200, false, 9801)]
    [InlineData(250, 200, true, 0)]
    [InlineData(160, 200, true, 0.0625)]
    public void A_row_costs_as_much_too_low_as_too_high(double height, double wanted, bool last, double cost) =>
        Assert.Equal(cost, RowsLayout.Cost(height, wanted, last), 1e-9);

    static double Cost(IReadOnlyList<int> starts, double[] shapes, double width, RowsSettings settings)
    {
        double cost = 0;
        for (var r = 0; r < starts.Count; r++)
        {
            var end = r + 1 < starts.Count ? starts[r + 1] : shapes.Length;
            var height = RowsLayout.HeightToFill(shapes.AsSpan(starts[r], end - starts[r]), width, settings.Gap);
            // A row so full of gaps that nothing is left for photos is no row.
            cost += height <= 0 ? 1e9 : RowsLayout.Cost(height, settings.Height, end == shapes.Length);
        }

        return cost;
    }

    [Fact]
    public void Columns_fill_the_width_and_photos_keep_their_shape() =>
        Gen.Select(Shape.Array[1, 80], Gen.Double[200, 2400], Gen.Double[80, 600], Gen.Double[0, 24]).Sample((shapes, width, size, gap) =>
        {
            var placed = ColumnsLayout.Place(shapes, width, ColumnsLayout.CellsAcross(width, size, gap), gap);
            Assert.Equal(width, placed.Boxes.Max(b => b.Right) is var right && placed.Boxes.Count >= ColumnsLayout.CellsAcross(width, size, gap) ? right : width, 1e-4);
            for (var i = 0; i < shapes.Length; i++)
            {
                Assert.Equal(shapes[i], placed.Boxes[i].Width / placed.Boxes[i].Height, 1e-6);
            }

            foreach (var column in placed.Boxes.GroupBy(b => b.X))
            {
                var last = -gap;
                foreach (var box in column)
                {
                    Assert.Equal(last + gap, box.Y, 1e-6);
                    last = box.Bottom;
                }
            }

            // No photo was put beneath another while a clearly shorter column stood open.
            var ends = placed.Boxes.GroupBy(b => b.X).Select(c => c.Max(b => b.Bottom)).ToArray();
            Assert.True(ends.Max() - ends.Min() <= placed.Boxes.Max(b => b.Height) + gap + 2 || ends.Length < ColumnsLayout.CellsAcross(width, size, gap));
        });

    [Fact]
    public void Grid_cells_are_equal_and_stand_in_reading_order() =>
        Gen.Select(Shape.Array[1, 80], Gen.Double[200, 2400], Gen.Double[80, 600], Gen.Double[0, 24]).Sample((shapes, width, size, gap) =>
        {
            var placed = GridLayout.Place(shapes, width, ColumnsLayout.CellsAcross(width, size, gap), gap);
            var across = ColumnsLayout.CellsAcross(width, size, gap);
            for (var i = 0; i < shapes.Length; i++)
            {
                var (box, first) = (placed.Boxes[i], placed.Boxes[0]);
                Assert.Equal(first.Width, box.Width, 1e-9);
                Assert.Equal(first.Height, box.Height, 1e-9);
                Assert.Equal(i % across * (first.Width + gap), box.X, 1e-6);
                Assert.Equal(i / across * (first.Height + gap), box.Y, 1e-6);
            }
        });

    [Fact]
    public void Nothing_takes_no_room() => Assert.All(Enum.GetValues<LayoutKind>(), kind => Assert.Equal(0, new LayoutSettings(kind, 240, 6).Place([], 1000).Height));

    [Theory]
    [InlineData(LayoutKind.Rows)]
    [InlineData(LayoutKind.Columns)]
    [InlineData(LayoutKind.Grid)]
    [InlineData(LayoutKind.Mosaic)]
    public void On_a_phone_two_photos_stand_side_by_side_however_large_they_were_wanted(LayoutKind kind)
    {
        var placed = new LayoutSettings(kind, 800, 6).Place([1.0, 1.0, 1.0, 1.0], 358);
        Assert.Equal(placed.Boxes[0].Y, placed.Boxes[1].Y);
        Assert.True(placed.Boxes.All(b => b.Right <= 358.001));
    }

    [Fact]
    public void Shapes_that_cannot_be_are_refused() => Assert.Throws<ArgumentOutOfRangeException>(() => RowsLayout.Place([1.5, 0], 800, new RowsSettings(200, 4)));

    [Fact]
    public void Settings_are_brought_into_their_range() => Assert.Equal(new LayoutSettings(LayoutKind.Grid, 80, 80), BlockLayout.Of(LayoutKind.Grid, 3, 999).Bounded().For(Device.Desktop));
}
