using CsCheck;
using Jovitar.Core.Corrections;
using Jovitar.Core.Layout;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Payments;
using Jovitar.Core.Sales.Printing;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Tests;

/// <summary>The files that prints are made from: worked by hand, and what is true of all of them.</summary>
public sealed class PrintFileTests
{
    const double Inch = (double)PaperSize.Inch;

    static SaleOption Option(string size, OptionKind kind = OptionKind.Print, string name = "", int edge = 0) => new(Guid.NewGuid(), kind) { Size = PaperSize.Read(size), Name = name, Edge = edge };

    [Theory]
    // 10 by 8 inches at 300 pixels an inch; of 6,000 by 4,000 pixels the 5,000 in the middle.
    [InlineData(6000, 4000, "10 × 8 in", 0, 300, 0, 3000, 2400, 500, 0, 5000, 4000)]
    // The file stands as the picture does.
    [InlineData(4000, 6000, "10 × 8 in", 0, 300, 0, 2400, 3000, 0, 500, 4000, 5000)]
    // A4 at 300 pixels an inch is 2,480 by 3,508, as every table of paper sizes has it: 210 ÷ 25.4 × 300 = 2,480.3.
    [InlineData(2480, 3508, "A4", 0, 300, 0, 2480, 3508, 0, 0, 2480, 3508)]
    // 10 pixels a millimetre are 254 an inch: 3 mm of bleed are 30 pixels of the file, and 60 of a photo that has twice as many.
    [InlineData(3000, 2000, "150 × 100 mm", 0, 254, 3, 1560, 1060, -60, -60, 3120, 2120)]
    // Where something was cut off at the sides, it stands over the edge there.
    [InlineData(3000, 2000, "100 × 100 mm", 0, 254, 5, 1100, 1100, 400, -100, 2200, 2200)]
    // A wrap of 30 by 20 cm with 4 cm round its edges: 38 by 28.
    [InlineData(3800, 2800, "300 × 200 mm", 40, 254, 2, 3840, 2840, -20, -20, 3840, 2840)]
    public void Worked_by_hand(int wide, int high, string size, int edge, int perInch, int bleed, int width, int height, double x, double y, double partWidth, double partHeight)
    {
        var file = PrintFile.Of(Option(size, edge > 0 ? OptionKind.Wrap : OptionKind.Print, edge: edge), new PixelSize(wide, high), null, new PrintRule(perInch, bleed))!;
        Assert.Equal((new PixelSize(width, height), perInch), (file.Size, file.PixelsPerInch));
        foreach (var (expected, found) in new[] { (x, file.Part.X), (y, file.Part.Y), (partWidth, file.Part.Width), (partHeight, file.Part.Height) })
        {
            // To a pixel of the photo: a file's sides are whole pixels.
            Assert.InRange(found, expected - 1, expected + 1);
        }
    }

    [Fact]
    public void What_is_kept_once_the_bleed_is_cut_off_is_what_its_buyer_was_shown() =>
        Gen.Select(Gen.Int[50, 12_000], Gen.Int[50, 12_000], Gen.Select(Gen.Int[10, 5000], Gen.Int[10, 5000], Gen.Int[0, 100]), Gen.Int[72, 600], Gen.Int[0, 10], Gen.Select(Gen.Double[0, 1], Gen.Double[0, 1])).Sample((wide, high, paper, perInch, bleed, spot) =>
        {
            var fit = PrintFit.Of(new PixelSize(wide, high), new PrintArea(paper.Item1, paper.Item2, paper.Item3), new Spot(spot.Item1, spot.Item2));
            var file = PrintFile.Of(fit, new PrintRule(perInch, bleed));
            var (x, y) = (file.Part.Width / file.Size.Width, file.Part.Height / file.Size.Height);
            Near(fit.Crop, new Box(file.Part.X + (file.Bleed * x), file.Part.Y + (file.Bleed * y), file.Part.Width - (2 * file.Bleed * x), file.Part.Height - (2 * file.Bleed * y)));

            // As large as it is to be printed, to half a pixel a side and another for each bleed.
            Assert.InRange(Math.Abs((file.Size.Width / (double)file.PixelsPerInch * Inch) - fit.Area.WholeWidth - (2 * bleed)), 0, 1.5 * Inch / file.PixelsPerInch);
            Assert.InRange(Math.Abs((file.Size.Height / (double)file.PixelsPerInch * Inch) - fit.Area.WholeHeight - (2 * bleed)), 0, 1.5 * Inch / file.PixelsPerInch);

            // Never more than is asked for, and less only where the file would be too large: one pixel an inch more would be.
            Assert.InRange(file.PixelsPerInch, 1, perInch);
            Assert.InRange((long)file.Size.Width * file.Size.Height, 1, PrintFile.MostPixels + (3L * (file.Size.Width + file.Size.Height)));
            Assert.InRange(Math.Max(file.Size.Width, file.Size.Height), 1, PrintFile.MostSide + 2);
            var more = new PixelSize((int)((fit.Area.WholeWidth + (2 * bleed)) / Inch * (file.PixelsPerInch + 1)) + 1, (int)((fit.Area.WholeHeight + (2 * bleed)) / Inch * (file.PixelsPerInch + 1)) + 1);
            Assert.True(file.PixelsPerInch == perInch || (long)more.Width * more.Height > PrintFile.MostPixels || Math.Max(more.Width, more.Height) > PrintFile.MostSide);
        });

    [Fact]
    public void Whole_it_stands_on_its_paper_and_the_bleed_goes_on_where_it_meets_the_edge()
    {
        var file = PrintFile.Of(Option("10 × 8 in"), new PixelSize(6000, 4000), new Spot(0, 0), new PrintRule(300), isWhole: true)!;
        Assert.Equal((new PixelSize(3000, 2400), true, false), (file.Size, file.IsWhiteAbove, file.IsWhiteBeside));
        Near(new Box(0, -400, 6000, 4800), file.Part);
        // 10 pixels a millimetre, 5 mm of bleed: on 100 by 100 mm each of the file's pixels is 1.5 of the photo's.
        var bleeding = PrintFile.Of(Option("100 × 100 mm"), new PixelSize(1500, 1000), null, new PrintRule(254, 5), isWhole: true)!;
        Assert.Equal((new PixelSize(1100, 1100), 50), (bleeding.Size, bleeding.Bleed));
        Near(new Box(-75, -325, 1650, 1650), bleeding.Part);
        var standing = PrintFile.Of(Option("10 × 8 in"), new PixelSize(4000, 6000), null, new PrintRule(300), isWhole: true)!;
        Assert.Equal((new PixelSize(2400, 3000), false, true), (standing.Size, standing.IsWhiteAbove, standing.IsWhiteBeside));
        // Of the paper's own shape nothing is white, not in the bleed either.
        var alike = PrintFile.Of(Option("100 × 150 mm"), new PixelSize(6000, 4000), null, new PrintRule(300, 3), isWhole: true)!;
        Assert.Equal((false, false), (alike.IsWhiteAbove, alike.IsWhiteBeside));
    }

    [Fact]
    public void Of_what_no_size_is_known_the_file_is_the_whole_photo_and_a_file_that_is_fetched_is_not_printed()
    {
        var mug = PrintFile.Of(new SaleOption(Guid.NewGuid(), OptionKind.Other) { Name = "Mug" }, new PixelSize(3000, 2000), new Spot(0, 0), new PrintRule(300, 3))!;
        Assert.Equal((new PixelSize(3000, 2000), 0, new Box(0, 0, 3000, 2000), 300, null), (mug.Size, mug.Bleed, mug.Part, mug.PixelsPerInch, mug.Fit));
        Assert.False(mug.IsEnlarged);
        Assert.Null(PrintFile.Of(new SaleOption(Guid.NewGuid(), OptionKind.Digital), new PixelSize(3000, 2000), null, new PrintRule()));
    }

    [Theory]
    [InlineData(3000, 300, false)]
    [InlineData(2991, 300, false)]
    [InlineData(2989, 300, true)]
    [InlineData(6000, 300, false)]
    [InlineData(2000, 200, false)]
    public void A_file_that_has_more_pixels_than_the_photo_was_enlarged(int wide, int perInch, bool isEnlarged) =>
        Assert.Equal(isEnlarged, PrintFile.Of(Option("10 × 10 in"), new PixelSize(wide, wide), null, new PrintRule(perInch))!.IsEnlarged);

    [Theory]
    [InlineData("20 × 30 cm", "", "IMG_1234.JPG", 3, "1004-02-3x-20x30cm-print-img-1234.jpg")]
    [InlineData("8 × 10 in", "matt", "Élan vital.tif", 1, "1004-02-1x-8x10in-matt-elan-vital.jpg")]
    [InlineData("A4", "", "..", 1, "1004-02-1x-a4-print.jpg")]
    [InlineData("12.5 × 18 cm", "Fine art; 300 g/m²", "море.jpg", 12, "1004-02-12x-12-5x18cm-fine-art-300-g-m2.jpg")]
    [InlineData("A4", "", "a/../../b\\c.jpg", 1, "1004-02-1x-a4-print-b-c.jpg")]
    public void Their_names_are_told_apart_and_taken_by_every_disk(string size, string name, string fileName, int count, string called) =>
        Assert.Equal(called, PrintFileName.Of(1004, 2, 12, count, Option(size, name: name), fileName));

    [Fact]
    public void Files_of_long_orders_stand_in_their_order()
    {
        Assert.StartsWith("1004-007-1x-", PrintFileName.Of(1004, 7, 120, 1, Option("A4"), "a.jpg"), StringComparison.Ordinal);
        Assert.InRange(PrintFileName.Of(long.MaxValue, 500, 500, 1000, Option("A4", name: new string('n', 80)), new string('x', 300)).Length, 1, 130);
    }

    [Fact]
    public void The_sheet_tells_whoever_prints_what_they_need_and_nothing_of_who_bought()
    {
        var (order, rule) = (Order(), new PrintRule(254, 3));
        var line = order.Lines[0];
        var told = PrintTold.Of(1004, 1, order, PrintFile.Of(line.Option, new PixelSize(3000, 2000), line.Middle, rule), rule);
        Assert.Equal(
            ["1004", "1", "1004-01-2x-13x18cm-print-a.jpg", "'=Low water", "a.jpg", "13 × 18 cm print", "print", "2", "180", "130", "0", "3", "1860", "1360", "254", "390", ""],
            PrintSheet.Cells(told));
        Assert.Equal(PrintSheet.Columns.Count, PrintSheet.Cells(told).Count);
        Assert.DoesNotContain("Nell", string.Join(' ', PrintSheet.Cells(told)), StringComparison.Ordinal);
        Assert.Equal(["", "", "0", "0", "0", "0", "0", ""], PrintSheet.Cells(PrintTold.Of(1004, 1, order, null, rule)).Skip(8).Take(8));
    }

    static PlacedOrder Order()
    {
        var euro = Currency.Find("EUR")!;
        var print = Option("13 × 18 cm") with { Price = new Money(650, euro) };
        return new PlacedOrder(
            Buyer.Nobody with { Name = "Nell Garrow" }, "", [new PlacedLine(new PhotoId(Guid.NewGuid()), new AlbumId(Guid.NewGuid()), "=Low water", "a.jpg", "Night flight", print, null, 2, new Money(650, euro))],
            new DeliveryWay(Delivery.Post, new Money(450, euro), ""), TaxSum.None, new Money(1300, euro), new Money(1750, euro), "IE", "");
    }

    [Theory]
    [InlineData(OrderState.Placed, false, Delivery.Post, false)]
    [InlineData(OrderState.Placed, true, Delivery.Post, true)]
    [InlineData(OrderState.InWork, false, Delivery.Collect, true)]
    [InlineData(OrderState.InWork, true, Delivery.Express, true)]
    [InlineData(OrderState.InWork, true, Delivery.Files, false)]
    [InlineData(OrderState.Sent, true, Delivery.Post, false)]
    [InlineData(OrderState.Collected, true, Delivery.Collect, false)]
    [InlineData(OrderState.Cancelled, true, Delivery.Post, false)]
    public void What_is_paid_or_in_work_is_to_be_printed(OrderState state, bool isPaid, Delivery delivery, bool isToPrint) =>
        Assert.Equal(isToPrint, new OrderStanding(state, isPaid, delivery, Refunded.Nothing).IsToPrint);

    [Fact]
    public void How_files_are_made_is_kept_with_the_shop()
    {
        var euro = Currency.Find("EUR")!;
        var shop = new Shop(false, euro, new Postage(""), Tax.None, "");
        var (said, _, _) = (ShopSaid.Of(shop) with { Prints = new PrintRule(254, 3) }).Read();
        Assert.Equal(new PrintRule(254, 3), said!.Prints);
        // Whoever said nothing, before there was something to say.
        Assert.Equal(new PrintRule(300, 0), (ShopSaid.Of(shop) with { Prints = null }).Read().Shop!.Prints);
        Assert.Equal("0 to 10 mm stand over the edge of a print.", (ShopSaid.Of(shop) with { Prints = new PrintRule(300, 11) }).Read().Wrong);
        Assert.Equal("Print files have 72 to 600 pixels an inch.", (ShopSaid.Of(shop) with { Prints = new PrintRule(0) }).Read().Wrong);
    }

    static void Near(Box expected, Box found)
    {
        foreach (var (one, other) in new[] { (expected.X, found.X), (expected.Y, found.Y), (expected.Width, found.Width), (expected.Height, found.Height) })
        {
            Assert.InRange(other, one - 1e-6, one + 1e-6);
        }
    }
}
