using CsCheck;
using Jovitar.Core.Layout;

namespace Jovitar.Core.Tests;

/// <summary>The advice line and the notes about pixels, against worked examples and by property.</summary>
public sealed class LayoutNotesTests
{
    static double[] Shapes(params (int Count, double Shape)[] groups) => [.. groups.SelectMany(g => Enumerable.Repeat(g.Shape, g.Count))];

    [Fact]
    public void Equal_shapes_suit_a_grid_and_nothing_suits_nothing()
    {
        Assert.Null(LayoutAdvice.For([]));
        Assert.Equal(new LayoutAdvice(LayoutKind.Grid, "All 12 have nearly one shape: a grid suits them and crops nothing."), LayoutAdvice.For(Shapes((10, 1.5), (2, 1.48))));
    }

    [Fact]
    public void Seven_upright_ones_among_forty_suit_rows_for_a_grid_would_crop_them()
    {
        // 33 at 3:2 set the cell; a 2:3 among them shows (2/3)/(3/2) = 4/9 of its height: 5/9 of it go. At one height it is 2/3 as wide as the others are high.
        Assert.Equal(new LayoutAdvice(LayoutKind.Rows, "Rows suit these shapes: a grid would crop half of the height of 7 upright ones."), LayoutAdvice.For(Shapes((33, 1.5), (7, 2 / 3.0))));
        // 4:5 among 5:4: 16/25 stay, 9/25 go.
        Assert.Equal(new LayoutAdvice(LayoutKind.Rows, "Rows suit these shapes: a grid would crop a third of the height of 7 upright ones."), LayoutAdvice.For(Shapes((33, 1.25), (7, 0.8))));
    }

    [Fact]
    public void Very_upright_ones_suit_columns_for_rows_would_make_them_small() =>
        // 1:2 at one height is half as wide as the others are high; in a cell of 3:2 a third of its height stays.
        Assert.Equal(
            new LayoutAdvice(LayoutKind.Columns, "Columns suit these shapes: a grid would crop two thirds of the height of 10 upright ones, and rows would make 10 small."),
            LayoutAdvice.For(Shapes((12, 1.5), (10, 0.5))));

    [Fact]
    public void Panoramas_suit_rows_for_columns_would_make_them_small()
    {
        // 3:1 in a cell of 4:3 loses 5/9 of its width; at one width it is 4/9 as high as the others.
        var advice = LayoutAdvice.For(Shapes((20, 4 / 3.0), (3, 3)))!;
        Assert.Equal("Rows suit these shapes: a grid would crop half of the width of 3 wide ones, and columns would make 3 small.", advice.Sentence);
    }

    [Fact]
    public void What_is_advised_leaves_no_more_photos_small_than_the_other_and_says_so() =>
        Gen.Double[0.3, 4].Array[1, 60].Sample(shapes =>
        {
            var advice = LayoutAdvice.For(shapes)!;
            static int Small(double[] sides)
            {
                var sorted = sides.ToArray();
                Array.Sort(sorted);
                return sides.Count(s => s < 0.6 * sorted[sides.Length / 2]);
            }

            // The shorter side at one height, and at one width.
            var (rows, columns) = (Small([.. shapes.Select(s => s < 1 ? s : 1)]), Small([.. shapes.Select(s => s > 1 ? 1 / s : 1)]));
            Assert.EndsWith(".", advice.Sentence, StringComparison.Ordinal);
            switch (advice.Kind)
            {
                case LayoutKind.Grid:
                    Assert.All(shapes, s => Assert.True(LayoutAdvice.Cropped(s, GridLayout.CellShape(shapes)) <= 0.06));
                    break;
                case LayoutKind.Rows:
                    Assert.True(rows <= columns);
                    break;
                default:
                    Assert.True(columns <= rows);
                    break;
            }
        });

    [Theory]
    [InlineData(1.5, 1.5, 0)]
    [InlineData(2 / 3.0, 1.5, 5 / 9.0)]
    [InlineData(3, 1.5, 0.5)]
    [InlineData(1, 0.75, 0.25)]
    public void What_a_cell_cuts_off(double shape, double cell, double cropped) => Assert.Equal(cropped, LayoutAdvice.Cropped(shape, cell), 1e-9);

    [Fact]
    public void A_photo_of_600_pixels_alone_in_a_row_of_1200_is_blurred_and_one_of_1800_only_on_sharp_screens()
    {
        // One photo in rows stands at the wanted height: 400 px of 3:2 is 600 px wide, on a phone all of 358.
        var rows = BlockLayout.Of(LayoutKind.Rows, 400, 0);
        Assert.Empty(PixelNotes.Of(rows, [(1200, 800)], [], Window.Usual, w => w.Block));
        Assert.Equal(new SmallPhoto(0, "desktop", 1.5), Assert.Single(PixelNotes.Of(rows, [(900, 600)], [], Window.Usual, w => w.Block)));
        var blurred = Assert.Single(PixelNotes.Of(rows, [(450, 300)], [], Window.Usual, w => w.Block));
        Assert.Equal((0.75, true), (blurred.Share, blurred.IsBlurred));
    }

    /// <summary>An album may be emptied while a page shows it.</summary>
    [Fact]
    public void Where_there_is_no_photo_nothing_stands_and_nothing_is_noted_in_any_layout() =>
        Gen.Select(Gen.Enum<LayoutKind>(), Gen.Int[80, 800], Gen.Int[0, 40]).Sample((kind, size, gap) =>
        {
            var layout = BlockLayout.Of(kind, size, gap);
            Assert.Empty(PixelNotes.Of(layout, [], [], Window.Usual, w => w.Block));
            foreach (var window in Window.Usual)
            {
                Assert.Empty(layout.For(BlockLayout.DeviceOf(window.Width)).Place([], window.Block, []).Boxes);
                Assert.Empty(layout.Pictures([], window, window.Block, []));
            }
        });

    [Fact]
    public void A_photo_is_noted_exactly_when_some_window_has_it_larger_than_its_pixels() =>
        Gen.Select(Gen.Enum<LayoutKind>(), Gen.Int[80, 800], Gen.Int[0, 40], Gen.Select(Gen.Int[200, 3000], Gen.Int[200, 3000]).Array[0, 30]).Sample((kind, size, gap, photos) =>
        {
            var layout = BlockLayout.Of(kind, size, gap);
            var found = PixelNotes.Of(layout, photos, [], Window.Usual, w => w.Block);
            Assert.Equal(found.OrderBy(f => f.Share).Select(f => f.Share), found.Select(f => f.Share));
            double[] shapes = [.. photos.Select(p => (double)p.Item1 / p.Item2)];
            for (var i = 0; i < photos.Length; i++)
            {
                // Sharp where each way as many pixels as the place has, twice over but for a few.
                var places = Window.Usual.Select(w => layout.Pictures(shapes, w, w.Block, default)[i]);
                double[] has = [.. places.SelectMany(b => new[] { photos[i].Item1 / b.Width, photos[i].Item2 / b.Height })];
                // On the line itself rounding decides.
                if (has.All(h => Math.Abs(h - 1.9) > 1e-9))
                {
                    Assert.Equal(has.Any(h => h < 1.9), found.Any(f => f.Photo == i));
                }
            }
        });
}
