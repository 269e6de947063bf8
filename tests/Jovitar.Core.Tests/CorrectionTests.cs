using CsCheck;
using Jovitar.Core.Corrections;

namespace Jovitar.Core.Tests;

/// <summary>The recipe's geometry and tones; what comes of it on pixels is checked against ImageMagick beside the imaging.</summary>
public sealed class CorrectionTests
{
    static readonly Gen<PixelSize> Size = Gen.Int[400, 6000].Select(Gen.Int[400, 6000], (w, h) => new PixelSize(w, h));

    static readonly Gen<Crop> AnyCrop =
        from x in Gen.Double[-0.6, 1.2]
        from y in Gen.Double[-0.6, 1.2]
        from w in Gen.Double[0.05, 1.5]
        from h in Gen.Double[0.05, 1.5]
        select new Crop(x, y, w, h);

    static readonly Gen<Correction> Any =
        from turns in Gen.Int[-5, 7]
        from angle in Gen.OneOf(Gen.Const(0.0), Gen.Double[-50, 50])
        from crop in AnyCrop
        from isCropped in Gen.Bool
        from brightness in Gen.Int[-120, 120]
        from greys in Gen.Int[-10, 120]
        from focus in Gen.Double[-0.2, 1.2]
        select new Correction
        {
            Turns = turns,
            Angle = angle,
            Crop = isCropped ? crop : null,
            Brightness = brightness,
            Contrast = -brightness / 2,
            Greys = greys < 30 ? null : new Greys(greys, 20, 5),
            Focus = focus < 0.5 ? null : new Spot(focus, 1 - focus),
        };

    [Fact]
    public void No_pixel_is_ever_made_up()
    {
        // Each corner of what is seen, rotated back by the definition of a rotation, lies within the turned picture.
        Gen.Select(Any, Size).Sample((any, size) =>
        {
            var c = any.Within(size);
            var turned = size.Turned(c.Turns);
            var crop = Framing.Crop(c, size);
            var angle = c.Angle * Math.PI / 180;
            foreach (var (fx, fy) in ((double, double)[])[(crop.X, crop.Y), (crop.X + crop.Width, crop.Y), (crop.X, crop.Y + crop.Height), (crop.X + crop.Width, crop.Y + crop.Height)])
            {
                var (dx, dy) = ((fx - 0.5) * turned.Width, (fy - 0.5) * turned.Height);
                var (x, y) = ((dx * Math.Cos(angle)) + (dy * Math.Sin(angle)), (dy * Math.Cos(angle)) - (dx * Math.Sin(angle)));
                Assert.True(Math.Abs(x) <= (turned.Width / 2.0) + 0.02 && Math.Abs(y) <= (turned.Height / 2.0) + 0.02, $"{c} of {size}: {x}, {y}");
            }
        });
    }

    [Fact]
    public void What_is_kept_says_the_same_when_it_is_read_and_brought_within_again() => Gen.Select(Any, Size).Sample((any, size) =>
    {
        var c = any.Within(size);
        var back = CorrectionText.Read(CorrectionText.Write(c, size));
        Assert.Equal(c, back);
        Assert.Equal(c.Key, back.Key);
        var again = c.Within(size);
        Assert.InRange(Math.Abs(Framing.Size(c, size).Width - Framing.Size(again, size).Width), 0, 1);
        Assert.InRange(Math.Abs(Framing.Crop(again, size).X - Framing.Crop(c, size).X) * size.Width, 0, 1);
    });

    [Fact]
    public void The_largest_crop_about_the_middle_cannot_grow() => Gen.Select(Size, Gen.Double[-45, 45], Gen.Double[0.4, 2.5]).Sample((size, angle, ratio) =>
    {
        var crop = Framing.Largest(size, angle, ratio);
        Assert.Equal(ratio, crop.Width * size.Width / (crop.Height * size.Height), 1e-6);
        var larger = new Crop(crop.X - (0.005 * crop.Width), crop.Y - (0.005 * crop.Height), crop.Width * 1.01, crop.Height * 1.01);
        var fitted = Framing.Fitted(larger, size, angle);
        Assert.Equal(crop.Width, fitted.Width, 1e-4);
        Assert.Equal(crop.X, fitted.X, 1e-4);
    });

    [Fact]
    public void Four_quarter_turns_are_none_and_keep_what_was_cropped()
    {
        var size = new PixelSize(600, 400);
        var c = new Correction { Angle = 3, Crop = new Crop(0.2, 0.3, 0.4, 0.35), Focus = new Spot(0.3, 0.4) }.Within(size);
        Assert.Equal(c, c.Turned(1).Turned(1).Turned(2).Within(size));
        Assert.Equal(new PixelSize(Framing.Size(c, size).Height, Framing.Size(c, size).Width), Framing.Size(c.Turned(-1).Within(size), size));
        // The upper left corner of what is seen stands at the upper right after a turn clockwise.
        Assert.Equal(Framing.Corners(c, size)[0].X, Framing.Corners(c.Turned(1), size)[1].X, 1e-4);
    }

    // Worked by hand: a 600 by 400 photo turned once is 400 by 600; the middle of its upper edge stands at the middle of the right one.
    [Theory]
    [InlineData(0, 0.5, 0, 0.5, 0)]
    [InlineData(1, 0.5, 0, 1, 0.5)]
    [InlineData(2, 0.25, 0, 0.75, 1)]
    [InlineData(3, 0.25, 0, 0, 0.75)]
    public void A_focus_goes_along_with_what_it_lies_on(int turns, double x, double y, double seenX, double seenY) =>
        Assert.Equal(new Spot(seenX, seenY), Framing.Seen(new Spot(x, y), new Correction { Turns = turns }, new PixelSize(600, 400)));

    [Fact]
    public void A_focus_that_was_cropped_away_stands_at_the_edge()
    {
        var c = new Correction { Crop = new Crop(0.5, 0.5, 0.5, 0.5) };
        Assert.Equal(new Spot(0, 0.5), Framing.Seen(new Spot(0.1, 0.75), c, new PixelSize(600, 400)));
    }

    [Fact]
    public void Equal_pixels_have_one_name_and_others_another()
    {
        var size = new PixelSize(3000, 2000);
        var c = new Correction { Angle = 1.5, Brightness = 10 }.Within(size);
        Assert.Equal("", new Correction { Focus = new Spot(0.1, 0.1) }.Key);
        Assert.Equal(c.Key, (c with { Focus = new Spot(0.2, 0.2) }).Key);
        Assert.Equal(c.Key, new Correction { Angle = 1.5000001, Brightness = 10 }.Within(size).Key);
        Correction[] others = [c with { Angle = -1.5 }, c with { Brightness = 0, Contrast = 10 }, c with { Turns = 2 }, c with { Greys = Greys.Usual }, c with { Crop = new Crop(0.1, 0.1, 0.5, 0.5) }];
        Assert.Equal(6, others.Append(c).Select(o => o.Key).Distinct().Count());
    }

    [Theory]
    [InlineData(0, 0)]
    [InlineData(-3, 1)]
    [InlineData(double.NaN, 1)]
    [InlineData(0.5, double.PositiveInfinity)]
    public void A_crop_of_nothing_still_keeps_a_hundredth_of_each_side(double width, double height)
    {
        var size = new PixelSize(3000, 2000);
        var seen = Framing.Size(new Correction { Angle = 10, Crop = new Crop(0.2, 0.2, width, height) }.Within(size), size);
        Assert.True(seen.Width >= 30 && seen.Height >= 20, seen.ToString());
    }

    [Fact]
    public void A_crop_that_is_all_there_is_is_none() =>
        Assert.True(new Correction { Crop = new Crop(0, 0, 1, 1) }.Within(new PixelSize(3000, 2000)).IsNone);

    [Theory]
    [InlineData(CropShape.Square, 3000, 2000, 2000, 2000)]
    [InlineData(CropShape.ThreeTwo, 3000, 2000, 3000, 2000)]
    [InlineData(CropShape.ThreeTwo, 2000, 4000, 2000, 3000)]
    [InlineData(CropShape.SixteenNine, 3200, 2400, 3200, 1800)]
    [InlineData(CropShape.FiveFour, 3000, 2000, 2500, 2000)]
    // ISO 216: the sides of A4 are as 1 to √2, 2000·√2 = 2828.
    [InlineData(CropShape.Paper, 3000, 2000, 2828, 2000)]
    public void A_shape_is_as_large_as_it_goes_and_lies_as_the_photo_does(CropShape shape, int width, int height, int wide, int high)
    {
        var size = new PixelSize(width, height);
        Assert.Equal(new PixelSize(wide, high), Framing.Size(new CorrectionChange { Shape = shape }.Of(Correction.None, size), size));
    }

    [Fact]
    public void A_change_leaves_what_it_does_not_name()
    {
        var size = new PixelSize(3000, 2000);
        var before = new Correction { Angle = 2, Brightness = 20, Greys = Greys.Usual, Focus = new Spot(0.3, 0.3) }.Within(size);
        Assert.Equal(before with { Contrast = -15 }, new CorrectionChange { Contrast = -15 }.Of(before, size));
        Assert.Equal(before with { Greys = null }, new CorrectionChange { InColour = true }.Of(before, size));
        Assert.Equal(before with { Turns = 3 }, new CorrectionChange { Turn = -1 }.Of(before, size));
        Assert.Equal(Correction.None, new CorrectionChange { Reset = true }.Of(before, size));
        var like = new Correction { Brightness = 50, Focus = new Spot(0.9, 0.9) };
        Assert.Equal(like with { Focus = before.Focus }, new CorrectionChange { Like = like }.Of(before, size));
    }

    [Fact]
    public void Where_a_print_lies_on_its_scan_is_neither_taken_back_nor_taken_over()
    {
        var size = new PixelSize(2480, 3508);
        var print = new Correction { Angle = -3, Crop = new Crop(0.1, 0.1, 0.4, 0.2), Contrast = 30 }.Within(size);
        Assert.Equal(print with { Contrast = 0 }, new CorrectionChange { Reset = true }.Of(print, size, isPart: true));
        Assert.Equal(print with { Contrast = 0, Brightness = 9 }, new CorrectionChange { Like = new Correction { Angle = 9, Brightness = 9 } }.Of(print, size, isPart: true));
        Assert.Equal(print, new CorrectionChange { Shape = CropShape.AsShot }.Of(print, size, isPart: true));
        // 0.4 of 2480 by 0.2 of 3508 is 992 by 702: the largest square in it is 702, about its middle.
        var square = new CorrectionChange { Shape = CropShape.Square }.Of(print, size, isPart: true);
        Assert.Equal(new PixelSize(702, 702), Framing.Size(square, size));
        Assert.Equal(print.Crop!.Value.X + (print.Crop.Value.Width / 2), square.Crop!.Value.X + (square.Crop.Value.Width / 2), 1e-5);
    }

    // Worked by hand from the formulas: 128/255 to the power 1/3 is 0.7947, times 255 is 202.6; the logistic curve of steepness 8
    // takes a quarter to (1/(1+e²) − 1/(1+e⁴)) / (1/(1+e⁻⁴) − 1/(1+e⁴)) = 0.1050 of 255.
    [Theory]
    [InlineData(100, 0, 128, 203)]
    [InlineData(-100, 0, 128, 32)]
    [InlineData(0, 100, 64, 27)]
    [InlineData(0, -100, 27, 64)]
    [InlineData(0, 0, 77, 77)]
    public void Tones_follow_their_formulas(int brightness, int contrast, int value, int becomes) => Assert.Equal(becomes, Tones.Table(brightness, contrast)[value]);

    [Fact]
    public void Tones_keep_black_white_and_their_order() => Gen.Select(Gen.Int[-100, 100], Gen.Int[-100, 100]).Sample((brightness, contrast) =>
    {
        var table = Tones.Table(brightness, contrast);
        Assert.Equal((0, 255), (table[0], table[255]));
        Assert.All(table.Zip(table.Skip(1)), p => Assert.True(p.First <= p.Second));
    });

    [Fact]
    public void Prints_are_found_wherever_they_lie() => Gen.Select(Gen.Int[1, 4], Gen.Double[-40, 40], Gen.Int[0, 255], Gen.Int[0, 1000]).Sample(
        (count, angle, seed, _) =>
        {
            // Rectangles of 150 by 100 in the cells of a grid, drawn by the definition of a rotation.
            var (width, height) = (500, 700);
            var rgb = new byte[3 * width * height];
            var random = new Random(seed);
            (double X, double Y)[] middles = [.. new[] { (125.0, 150.0), (375.0, 160.0), (120.0, 480.0), (370.0, 500.0) }.Take(count)];
            for (var i = 0; i < width * height; i++)
            {
                var inside = middles.Any(m =>
                {
                    var (sin, cos) = Math.SinCos(angle * Math.PI / 180);
                    var (dx, dy) = ((i % width) + 0.5 - m.X, (i / width) + 0.5 - m.Y);
                    return Math.Abs((dx * cos) + (dy * sin)) <= 75 && Math.Abs((dy * cos) - (dx * sin)) <= 50;
                });
                var grey = inside ? random.Next(20, 200) : 240 + random.Next(-4, 5);
                (rgb[3 * i], rgb[(3 * i) + 1], rgb[(3 * i) + 2]) = ((byte)grey, (byte)grey, (byte)grey);
            }

            var found = Prints.Find(rgb, width, height);
            Assert.Equal(count, found.Count);
            foreach (var (print, middle) in found.Zip(middles))
            {
                var size = Framing.Size(print, new PixelSize(width, height));
                Assert.InRange(print.Angle, -angle - 1, -angle + 1);
                Assert.InRange(size.Width, 143, 152);
                Assert.InRange(size.Height, 93, 102);
                var corners = Framing.Corners(print, new PixelSize(width, height));
                Assert.InRange(corners.Average(c => c.X) * width, middle.X - 2, middle.X + 2);
                Assert.InRange(corners.Average(c => c.Y) * height, middle.Y - 2, middle.Y + 2);
            }
        },
        iter: 40);

    [Fact]
    public void An_empty_glass_and_a_photograph_that_fills_it_hold_no_prints()
    {
        var empty = new byte[3 * 300 * 400];
        Array.Fill(empty, (byte)243);
        Assert.Empty(Prints.Find(empty, 300, 400));
        var noise = new byte[3 * 300 * 400];
        new Random(4).NextBytes(noise);
        Assert.Empty(Prints.Find(noise, 300, 400));
        Assert.Empty(Prints.Find([1, 2, 3], 1, 1));

        // Thousands of specks, none of them large enough for a print.
        var specks = new byte[3 * 700 * 700];
        Array.Fill(specks, (byte)243);
        for (var i = 0; i < 700 * 700; i++)
        {
            if (i % 700 % 9 < 6 && i / 700 % 9 < 6 && i % 700 is > 20 and < 680 && i / 700 is > 20 and < 680)
            {
                specks[3 * i] = specks[(3 * i) + 1] = specks[(3 * i) + 2] = 40;
            }
        }

        Assert.Empty(Prints.Find(specks, 700, 700));
    }
}
