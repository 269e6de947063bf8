using CsCheck;
using Jovitar.Core.Corrections;
using Jovitar.Core.Sales;

namespace Jovitar.Core.Tests;

/// <summary>How pictures fit prints: worked by hand, and what is true of all of them.</summary>
public sealed class PrintFitTests
{
    const double Inch = PrintArea.Inch;

    [Theory]
    // A picture of 3:2 on 10 by 8 inches keeps 5:4 of it: a sixth is lost, and 4,000 pixels stand on 8 inches.
    [InlineData(6000, 4000, 10 * Inch, 8 * Inch, 0, "Crop", 5000, 4000, 1.0 / 6, 500)]
    // The same standing, on the same paper turned.
    [InlineData(4000, 6000, 10 * Inch, 8 * Inch, 0, "Crop", 4000, 5000, 1.0 / 6, 500)]
    // Of its own shape nothing is lost: 6,000 pixels on 15 centimetres.
    [InlineData(6000, 4000, 100, 150, 0, "Crop", 6000, 4000, 0, 1016)]
    // A4 (ISO 216, 210 by 297): 297/210 of 4,000 pixels remain, 5,657 of 6,000.
    [InlineData(6000, 4000, 210, 297, 0, "Crop", 4000 * 297 / 210.0, 4000, 1 - (297 / 315.0), 4000 / (210 / Inch))]
    // A square of 20 centimetres loses a third.
    [InlineData(3000, 2000, 200, 200, 0, "Crop", 2000, 2000, 1.0 / 3, 254)]
    // Round the edges of a wrap of 30 by 20 go 4 centimetres each: 38 by 28 in all.
    [InlineData(3800, 2800, 300, 200, 40, "Crop", 3800, 2800, 0, 254)]
    [InlineData(6000, 4000, 300, 200, 40, "Crop", 4000 * 38 / 28.0, 4000, 1 - (38 / 42.0), 4000 / (280 / Inch))]
    // With a border the whole is there: 6,000 pixels on 10 inches.
    [InlineData(6000, 4000, 8 * Inch, 10 * Inch, 0, "Border", 6000, 4000, 0, 600)]
    [InlineData(2000, 2000, 200, 300, 0, "Border", 2000, 2000, 0, 254)]
    public void Worked_by_hand(int wide, int high, double width, double height, double edge, string way, double cropWidth, double cropHeight, double lost, double perInch)
    {
        var fit = PrintFit.Of(new PixelSize(wide, high), new PrintArea(width, height, edge), Enum.Parse<PrintWay>(way));
        Assert.Equal(cropWidth, fit.Crop.Width, 6);
        Assert.Equal(cropHeight, fit.Crop.Height, 6);
        Assert.Equal(lost, fit.Lost, 9);
        Assert.Equal(perInch, fit.PixelsPerInch, 6);
    }

    [Theory]
    [InlineData(6000, 4000, 10, 8, PrintGrade.Good)]
    [InlineData(3000, 2400, 10, 8, PrintGrade.Good)]
    [InlineData(2999, 2399, 10, 8, PrintGrade.Fair)]
    [InlineData(2000, 1600, 10, 8, PrintGrade.Fair)]
    [InlineData(1999, 1599, 10, 8, PrintGrade.Poor)]
    [InlineData(1200, 960, 10, 8, PrintGrade.Poor)]
    [InlineData(1199, 959, 10, 8, PrintGrade.TooSmall)]
    [InlineData(1600, 1067, 30, 20, PrintGrade.TooSmall)]
    public void So_many_pixels_an_inch_are_so_good(int wide, int high, double inches, double by, PrintGrade grade) =>
        Assert.Equal(grade, new PrintLimits().Of(PrintFit.Of(new PixelSize(wide, high), new PrintArea(inches * Inch, by * Inch), PrintWay.Crop).PixelsPerInch));

    [Fact]
    public void What_goes_round_the_edges_is_not_seen_from_the_front()
    {
        var wrap = PrintFit.Of(new PixelSize(3800, 2800), new PrintArea(300, 200, 40), PrintWay.Crop);
        Assert.Equal(300 * 200 / (380.0 * 280), wrap.Front, 9);
        Assert.Equal(1 - wrap.Lost, PrintFit.Of(new PixelSize(3800, 2800), new PrintArea(300, 200), PrintWay.Crop).Front + PrintFit.Of(new PixelSize(3800, 2800), new PrintArea(300, 200), PrintWay.Crop).Lost, 9);
    }

    [Theory]
    // Of 6,000 pixels 5,000 remain: the part lies where it is wanted, and never over the edge.
    [InlineData(0.5, 500)]
    [InlineData(0.0, 0)]
    [InlineData(1.0, 1000)]
    [InlineData(0.45, 200)]
    public void The_part_lies_round_the_spot_as_far_as_the_picture_goes(double spot, double from)
    {
        var fit = PrintFit.Of(new PixelSize(6000, 4000), new PrintArea(10 * Inch, 8 * Inch), PrintWay.Crop, new Spot(spot, 0.5));
        Assert.Equal((from, 0), (Math.Round(fit.Crop.X, 6), fit.Crop.Y));
    }

    static readonly Gen<PixelSize> Pictures = Gen.Select(Gen.Int[1, 12_000], Gen.Int[1, 12_000], (w, h) => new PixelSize(w, h));
    static readonly Gen<PrintArea> Areas = Gen.Select(Gen.Double[20, 2000], Gen.Double[20, 2000], Gen.Double[0, 80], (w, h, e) => new PrintArea(w, h, e));

    [Fact]
    public void A_crop_is_the_largest_part_of_the_prints_shape_and_a_border_leaves_nothing_out() =>
        Gen.Select(Pictures, Areas, Gen.Select(Gen.Double[0, 1], Gen.Double[0, 1], (x, y) => new Spot(x, y))).Sample((picture, area, spot) =>
        {
            var crop = PrintFit.Of(picture, area, PrintWay.Crop, spot);
            var (w, h) = (crop.Area.WholeWidth, crop.Area.WholeHeight);
            Assert.Equal(w / h, crop.Crop.Width / crop.Crop.Height, 6);
            Assert.True(crop.Crop.X >= 0 && crop.Crop.Y >= 0 && crop.Crop.X + crop.Crop.Width <= picture.Width + 1e-6 && crop.Crop.Y + crop.Crop.Height <= picture.Height + 1e-6);
            Assert.True(Math.Abs(crop.Crop.Width - picture.Width) < 1e-6 || Math.Abs(crop.Crop.Height - picture.Height) < 1e-6);
            Assert.Equal(crop.Crop.Width, crop.PixelsPerInch * w / Inch, 4);
            Assert.Equal(1 - (crop.Crop.Width * crop.Crop.Height / ((double)picture.Width * picture.Height)), crop.Lost, 9);
            // No other way to lay the paper loses less.
            Assert.True(crop.Lost <= Math.Min(PrintFit.On(picture, area, PrintWay.Crop).Lost, PrintFit.On(picture, area.Turned, PrintWay.Crop).Lost) + 1e-9);

            var border = PrintFit.Of(picture, area, PrintWay.Border, spot);
            Assert.Equal((0, picture.Width, picture.Height), (border.Lost, (int)Math.Round(border.Crop.Width), (int)Math.Round(border.Crop.Height)));
            Assert.True(border.Picture.Width <= border.Area.WholeWidth + 1e-6 && border.Picture.Height <= border.Area.WholeHeight + 1e-6);
            Assert.Equal((double)picture.Width / picture.Height, border.Picture.Width / border.Picture.Height, 6);
            Assert.True(border.PixelsPerInch >= crop.PixelsPerInch - 1e-6);
            Assert.InRange(crop.Front, 0, 1 - crop.Lost + 1e-9);
        });

    [Fact]
    public void A_picture_turned_with_its_paper_fits_as_before() =>
        Gen.Select(Pictures, Areas).Sample((picture, area) =>
        {
            var (one, other) = (PrintFit.On(picture, area, PrintWay.Crop), PrintFit.On(new PixelSize(picture.Height, picture.Width), area.Turned, PrintWay.Crop));
            Assert.Equal(one.Lost, other.Lost, 9);
            Assert.Equal(one.PixelsPerInch, other.PixelsPerInch, 6);
        });

    [Fact]
    public void What_has_no_size_fits_nothing()
    {
        Assert.Throws<ArgumentOutOfRangeException>(() => PrintFit.Of(new PixelSize(0, 4), new PrintArea(10, 10), PrintWay.Crop));
        Assert.Throws<ArgumentOutOfRangeException>(() => PrintFit.Of(new PixelSize(4, 4), new PrintArea(10, 0), PrintWay.Crop));
    }
}
