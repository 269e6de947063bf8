using CsCheck;
using Jovitar.Core.Layout;

namespace Jovitar.Core.Tests;

/// <summary>Lists, strips, slides and the cells of a grid: worked examples and properties.</summary>
public sealed class AlongTests
{
    static readonly Gen<double[]> Shapes = Gen.Double[0.3, 4].Array[1, 40];
    static readonly Window Desktop = Window.Usual[2];

    [Fact]
    public void A_list_has_even_lines_and_leaves_most_of_the_width_to_words() =>
        Gen.Select(Shapes, Gen.Int[320, 2000], Gen.Int[80, 800], Gen.Int[0, 60]).Sample((shapes, width, size, gap) =>
        {
            var settings = new LayoutSettings(LayoutKind.List, size, gap);
            var placed = settings.Place(shapes, width);
            var (first, across) = (placed.Boxes[0], ListLayout.Across(width, settings.SizeIn(width)));
            Assert.All(placed.Boxes, (b, i) => Assert.Equal((i % across * (first.Width + 40), i / across * (first.Height + gap), first.Width), (b.X, b.Y, b.Width)));
            Assert.Equal(width, (across * first.Width) + ((across - 1) * 40), 1e-6);
            Assert.Equal(placed.Boxes[^1].Bottom, placed.Height);
            // Where two stand side by side, each leaves its words room.
            Assert.True(across == 1 || first.Width - settings.SizeIn(width) >= 300 - 1e-9);
            Assert.True(settings.SizeIn(width) <= 0.42 * width);
            // A photo of the middle shape fills its place; no picture is larger than it.
            var layout = BlockLayout.Of(LayoutKind.List, size, gap);
            var pictures = layout.Pictures(shapes, Desktop, width, default);
            Assert.All(pictures, (p, i) => Assert.True(p.Width <= settings.SizeIn(width) + 1e-9 && p.Height <= placed.Boxes[0].Height + 1e-9 && Math.Abs((p.Width / p.Height) - shapes[i]) < 1e-6));
            Assert.True(ListLayout.CaptionLines(placed.Boxes[0].Height) >= 1);
        });

    [Fact]
    public void A_strip_stands_in_one_row_and_knows_how_high_it_is_in_a_window()
    {
        Assert.Equal([new Box(0, 0, 300, 200), new Box(310, 0, 100, 200)], StripLayout.Place([1.5, 0.5], 200, 10).Boxes);
        double High(StripHeight height) => StripLayout.Height(height, 240, [1.5, 0.75, 1.5], Desktop, 1500);
        Assert.Equal((240, 400, 800), (High(StripHeight.Pixels), High(StripHeight.Half), High(StripHeight.Whole)));
        Assert.Equal(800 / 3.0, High(StripHeight.Third), 1e-9);
        // At 240 px wide the tallest, 3:4, is 320 px high.
        Assert.Equal(320, High(StripHeight.Tallest));
        Assert.Equal(StripLayout.Lowest, StripLayout.Height(StripHeight.Third, 240, [1.5], new Window("low", 800, 200, 0, 1), 800));
        // A phone has no room for a 3:2 half as high as the window: it is as wide as the block.
        Assert.Equal(240, StripLayout.Height(StripHeight.Half, 240, [1.5], Window.Usual[0], 360));
    }

    [Fact]
    public void No_photo_of_a_strip_is_wider_than_the_block_and_the_tallest_stays_whole() =>
        Gen.Select(Shapes, Gen.Int[320, 2000], Gen.Enum<StripHeight>(), Gen.Int[80, 800]).Sample((shapes, width, height, size) =>
        {
            var layout = BlockLayout.Of(LayoutKind.Strip, size, 6) with { Along = new StripSettings(height, Motion.Usual) };
            var room = StripLayout.Height(height, layout.For(Device.Desktop).SizeIn(width), shapes, Desktop, width);
            Assert.All(layout.Pictures(shapes, Desktop, width, default), (p, i) =>
            {
                Assert.True(p.Width <= width + 1e-6 && p.Height <= room + 1e-6);
                Assert.Equal(shapes[i], p.Width / p.Height, 1e-6);
            });
        });

    [Fact]
    public void The_frame_of_slides_is_as_high_as_the_tallest_needs_but_no_higher_than_the_window()
    {
        // 2:3 at 400 px wide needs 600; 85 of a hundred of an 800 px window are 680.
        Assert.Equal(new Box(0, 0, 400, 600), SlidesLayout.Frame(null, [1.5, 2 / 3.0], Desktop, 400));
        Assert.Equal(new Box(0, 0, 1200, 680), SlidesLayout.Frame(null, [1.5, 2 / 3.0], Desktop, 1200));
        Assert.Equal(new Box(0, 0, 1120, 630), SlidesLayout.Frame(16 / 9.0, [1.5], Desktop, 1120));
        var whole = BlockLayout.Usual with { Kind = LayoutKind.Slides, Slides = new SlidesSettings(SlideTurn.Fade, new Ratio(16, 9), Fills: false, Motion.Usual) };
        Assert.Equal(new Box(87.5, 0, 945, 630), whole.Pictures([1.5], Desktop, 1120, default)[0]);
        Assert.Equal(new Box(0, 0, 1120, 630), (whole with { Slides = whole.Slides with { Fills = true } }).Pictures([1.5], Desktop, 1120, default)[0]);
        // What has no shape of its own has nothing to be cropped to.
        Assert.False((whole with { Slides = whole.Slides with { Shape = null, Fills = true } }).Crops());
    }

    [Fact]
    public void A_grid_has_the_cells_that_were_said_and_as_many_side_by_side()
    {
        var grid = BlockLayout.Of(LayoutKind.Grid, 260, 10).With(new Measures(260, 10, null, 200, new InARow(4, 3, 2))) with { Cells = new GridCells(new Ratio(1, 1), Whole: true) };
        double[] shapes = [1.5, 1.5, 0.5, 1.5, 1.5];
        Assert.Equal([new Box(0, 0, 292.5, 292.5), new Box(302.5, 0, 292.5, 292.5)], grid.For(Device.Desktop).Place(shapes, 1200).Boxes.Take(2));
        Assert.Equal((3, 2), (grid.For(Device.Tablet).AcrossIn(764), grid.For(Device.Phone).AcrossIn(358)));
        // 1:2 stands whole in the middle of its square.
        Assert.Equal(new Box(605 + 73.125, 0, 146.25, 292.5), grid.Pictures(shapes, Desktop, 1200, default)[2]);
        // The numbers side by side are kept while the grid goes by size, and by columns as by a grid, but not by rows.
        Assert.Null((grid with { Kind = LayoutKind.Rows, Rows = grid.Grid }).For(Device.Desktop).Across);
        Assert.Equal(4, (grid with { Kind = LayoutKind.Columns, Columns = grid.Grid }).For(Device.Desktop).Across);
    }
}
