using CsCheck;
using Jovitar.Core.Corrections;
using Jovitar.Core.Sales;

namespace Jovitar.Core.Tests;

/// <summary>How pictures fit prints: worked by hand, and what is true of all of them.</summary>
public sealed class PrintFitTests
{
    const double Inch = (double)PaperSize.Inch;

    [Theory]
    // A picture of 3:2 on 10 by 8 inches keeps 5:4 of it: a sixth is lost, and 4,000 pixels stand on 8 inches.
    [InlineData(6000, 4000, 10 * Inch, 8 * Inch, 0, 5000, 4000, 1.0 / 6, 500)]
    // The same standing, on the same paper turned.
    [InlineData(4000, 6000, 10 * Inch, 8 * Inch, 0, 4000, 5000, 1.0 / 6, 500)]
    // Of its own shape nothing is lost: 6,000 pixels on 15 centimetres.
    [InlineData(6000, 4000, 100, 150, 0, 6000, 4000, 0, 1016)]
    // A4 (ISO 216, 210 by 297): 297/210 of 4,000 pixels remain, 5,657 of 6,000.
    [InlineData(6000, 4000, 210, 297, 0, 4000 * 297 / 210.0, 4000, 1 - (297 / 315.0), 4000 / (210 / Inch))]
    // A square of 20 centimetres loses a third.
    [InlineData(3000, 2000, 200, 200, 0, 2000, 2000, 1.0 / 3, 254)]
    // Round the edges of a wrap of 30 by 20 go 4 centimetres each: 38 by 28 in all.
    [InlineData(3800, 2800, 300, 200, 40, 3800, 2800, 0, 254)]
    [InlineData(6000, 4000, 300, 200, 40, 4000 * 38 / 28.0, 4000, 1 - (38 / 42.0), 4000 / (280 / Inch))]
    public void Worked_by_hand(int wide, int high, double width, double height, double edge, double cropWidth, double cropHeight, double lost, double perInch)
    {
        var fit = PrintFit.Of(new PixelSize(wide, high), new PrintArea(width, height, edge));
        Near(cropWidth, fit.Crop.Width);
        Near(cropHeight, fit.Crop.Height);
        Near(lost, fit.Lost);
        Near(perInch, fit.PixelsPerInch);
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
        Assert.Equal(grade, new PrintLimits().Of(PrintFit.Of(new PixelSize(wide, high), new PrintArea(inches * Inch, by * Inch)).PixelsPerInch));

    [Fact]
    public void What_goes_round_the_edges_is_said_apart()
    {
        Near(1 - (300 * 200 / (380.0 * 280)), PrintFit.Of(new PixelSize(3800, 2800), new PrintArea(300, 200, 40)).Round);
        Near(0, PrintFit.Of(new PixelSize(3800, 2800), new PrintArea(300, 200)).Round);
    }

    [Theory]
    // Of 6,000 pixels 5,000 remain: the part lies where it is wanted, and never over the edge.
    [InlineData(0.5, 500)]
    [InlineData(0.0, 0)]
    [InlineData(1.0, 1000)]
    [InlineData(0.45, 200)]
    public void The_part_lies_round_the_spot_as_far_as_the_picture_goes(double spot, double from)
    {
        var fit = PrintFit.Of(new PixelSize(6000, 4000), new PrintArea(10 * Inch, 8 * Inch), new Spot(spot, 0.5));
        Near(from, fit.Crop.X);
        Near(0, fit.Crop.Y);
    }

    static readonly Gen<PixelSize> Pictures = Gen.Select(Gen.Int[1, 12_000], Gen.Int[1, 12_000], (w, h) => new PixelSize(w, h));
    static readonly Gen<PrintArea> Areas = Gen.Select(Gen.Int[10, 5000], Gen.Int[10, 5000], Gen.Int[0, 100], (w, h, e) => new PrintArea(w, h, e));

    [Fact]
    public void What_is_printed_is_the_largest_part_of_the_prints_shape_and_no_way_to_lay_the_paper_loses_less() =>
        Gen.Select(Pictures, Areas, Gen.Select(Gen.Int[0, 100], Gen.Int[0, 100], (x, y) => new Spot(x / 100.0, y / 100.0))).Sample((picture, area, spot) =>
        {
            var fit = PrintFit.Of(picture, area, spot);
            var (w, h) = (fit.Area.WholeWidth, fit.Area.WholeHeight);
            Assert.True(fit.Area == area || fit.Area == area.Turned());
            Near(w / h, fit.Crop.Width / fit.Crop.Height);
            Assert.True(fit.Crop.X >= 0 && fit.Crop.Y >= 0 && fit.Crop.X + fit.Crop.Width <= picture.Width + 1e-6 && fit.Crop.Y + fit.Crop.Height <= picture.Height + 1e-6);
            Assert.True(Math.Abs(fit.Crop.Width - picture.Width) < 1e-6 || Math.Abs(fit.Crop.Height - picture.Height) < 1e-6);
            Near(fit.Crop.Width, fit.PixelsPerInch * w / Inch);
            // Of two shapes that overlap in the middle, what the narrower leaves of the wider: the better of the two ways.
            var (shape, paper) = ((double)picture.Width / picture.Height, area.WholeWidth / area.WholeHeight);
            double Left(double of) => Math.Min(shape, of) / Math.Max(shape, of);
            Near(1 - Math.Max(Left(paper), Left(1 / paper)), fit.Lost);
            Assert.InRange(fit.Lost + fit.Round, 0, 1);
        });

    [Fact]
    public void A_picture_turned_fits_the_same_paper_as_well() =>
        Gen.Select(Pictures, Areas).Sample((picture, area) =>
        {
            var (one, other) = (PrintFit.Of(picture, area), PrintFit.Of(new PixelSize(picture.Height, picture.Width), area));
            Near(one.Lost, other.Lost);
            Near(one.PixelsPerInch, other.PixelsPerInch);
        });

    [Theory]
    // A picture of 3:2 on 10 by 8 inches stands on all of its width: 6,000 pixels on 10 inches, and 400 of them white above and below.
    [InlineData(6000, 4000, 10 * Inch, 8 * Inch, 0, -400, 6000, 4800, 600)]
    // The same standing, on the same paper turned.
    [InlineData(4000, 6000, 10 * Inch, 8 * Inch, -400, 0, 4800, 6000, 600)]
    // On a square a quarter of the picture's height is white above, and as much below.
    [InlineData(3000, 2000, 200, 200, 0, -500, 3000, 3000, 381)]
    // On paper that is longer than it, the white is beside it: 2,000 pixels on 10 centimetres.
    [InlineData(3000, 2000, 100, 200, -500, 0, 4000, 2000, 508)]
    // Of its own shape nothing is white.
    [InlineData(6000, 4000, 100, 150, 0, 0, 6000, 4000, 1016)]
    public void Whole_it_leaves_white(int wide, int high, double width, double height, double x, double y, double paperWidth, double paperHeight, double perInch)
    {
        var fit = PrintFit.Whole(new PixelSize(wide, high), new PrintArea(width, height));
        foreach (var (expected, found) in new[] { (x, fit.Crop.X), (y, fit.Crop.Y), (paperWidth, fit.Crop.Width), (paperHeight, fit.Crop.Height), (perInch, fit.PixelsPerInch), (0, fit.Lost) })
        {
            Near(expected, found);
        }
    }

    [Fact]
    public void Whole_all_of_it_is_there_in_the_middle_as_large_as_the_paper_lets_it() => Gen.Select(Pictures, Areas).Sample((picture, area) =>
    {
        area = area with { Edge = 0 };
        var (fit, cut) = (PrintFit.Whole(picture, area), PrintFit.Of(picture, area));
        Assert.True(fit.IsWhole && (fit.Area == area || fit.Area == area.Turned()));
        Near(fit.Area.Width / fit.Area.Height, fit.Crop.Width / fit.Crop.Height);
        Near(picture.Width, fit.Crop.Width + (2 * fit.Crop.X));
        Near(picture.Height, fit.Crop.Height + (2 * fit.Crop.Y));
        Assert.True(fit.Crop.X < 1e-6 && fit.Crop.Y < 1e-6 && Math.Max(fit.Crop.X, fit.Crop.Y) > -1e-6);
        // No way to lay the paper makes it larger, and it never has fewer pixels an inch than where it fills the paper.
        Assert.All(new[] { area, area.Turned() }, a => Assert.True(fit.PixelsPerInch <= (Math.Max(picture.Width / a.Width, picture.Height / a.Height) * Inch * (1 + 1e-9))));
        Assert.True(fit.PixelsPerInch >= cut.PixelsPerInch * (1 - 1e-9));
    });

    [Fact]
    public void White_is_left_only_where_nothing_goes_round_the_edges()
    {
        static PrintFit Fit(OptionKind kind) => new SaleOption(Guid.NewGuid(), kind) { Size = PaperSize.Read("20 × 20 cm"), Edge = kind == OptionKind.Wrap ? 30 : 0 }.FitOf(new PixelSize(3000, 2000), null, isWhole: true)!;
        Assert.Equal((true, true, false), (Fit(OptionKind.Print).IsWhole, Fit(OptionKind.Card).IsWhole, Fit(OptionKind.Wrap).IsWhole));
        Assert.Null(new SaleOption(Guid.NewGuid(), OptionKind.Digital).FitOf(new PixelSize(3000, 2000), null, isWhole: true));
        // And only where something is cut off: not of a photo of the paper's own shape.
        static bool Can(OptionKind kind, int high) => new Offer(new SaleOption(Guid.NewGuid(), kind), NotOffered.No, null, PrintFit.Of(new PixelSize(3000, high), new PrintArea(300, 200)), null).CanBeWhole;
        Assert.Equal((true, false, false, false), (Can(OptionKind.Print, 2100), Can(OptionKind.Print, 2000), Can(OptionKind.Print, 2009), Can(OptionKind.Wrap, 2100)));
    }

    [Fact]
    public void What_has_no_size_fits_nothing()
    {
        Assert.Throws<ArgumentOutOfRangeException>(() => PrintFit.Of(new PixelSize(0, 4), new PrintArea(10, 10)));
        Assert.Throws<ArgumentOutOfRangeException>(() => PrintFit.Of(new PixelSize(4, 4), new PrintArea(10, 0)));
    }

    /// <summary>The same, as far as numbers with a point can tell.</summary>
    static void Near(double expected, double found) => Assert.True(Math.Abs(expected - found) <= 1e-7 * Math.Max(1, Math.Abs(expected)), $"{expected} expected, found {found}");
}
