using System.Globalization;
using Jovitar.Core.Watermarks;
using NetVips;

namespace Jovitar.Imaging.Tests;

/// <summary>Watermarks on pictures, against what ImageMagick makes of the same, and against the same picture without.</summary>
public sealed class StampTests
{
    static readonly Watermark Words = Watermark.Usual with { Words = "Marram Bay", Size = 14, Strength = 80 };

    static string Flat(int width, int height, string colour)
    {
        var path = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, "-size", $"{width}x{height}", $"xc:{colour}", path);
        return path;
    }

    static Image Marked(string original, int width, Watermark watermark, byte[]? picture = null) =>
        Image.NewFromBuffer(Picture.Render(original, [width], stamp: Stamp.Draw(watermark, picture))[0].Bytes);

    /// <summary>How much the lightest and the darkest of a part differ, 0 to 255: nothing where a flat picture has no watermark.</summary>
    static double Seen(Image image, int x, int y, int width, int height)
    {
        using var part = image.Crop(x, y, width, height);
        return part.Max() - part.Min();
    }

    [Theory]
    [InlineData(1200, 800)]
    [InlineData(600, 1600)]
    [InlineData(2400, 400)]
    [InlineData(500, 500)]
    [InlineData(37, 21)]
    public void On_photos_of_every_shape_it_is_in_its_corner_and_nowhere_else(int width, int height)
    {
        var original = Flat(width, height, "gray50");
        foreach (var place in Enum.GetValues<WatermarkPlace>().Where(p => p != WatermarkPlace.AllOver))
        {
            // Of four pixels nobody sees anything.
            using var made = Marked(original, width > 480 ? 480 : width, Words with { Place = place, Size = height < 50 ? 30 : Words.Size });
            // In the half of the photo in which it does not stand nothing is other than it was.
            var (column, row) = ((int)place % 3, (int)place / 3);
            // Of a few pixels it is a shadow.
            Assert.True(Seen(made, 0, 0, made.Width, made.Height) > (made.Height < 100 ? 12 : 60), $"{place} is not seen on {width} by {height}");
            Assert.True(row == 1 || Seen(made, 0, row == 0 ? made.Height / 2 : 0, made.Width, made.Height / 2) < 12, $"{place} on {width} by {height} reaches into the half above or beneath");
            Assert.True(column == 1 || width < height || Seen(made, column == 0 ? made.Width * 2 / 3 : 0, 0, made.Width / 3, made.Height) < 12, $"{place} on {width} by {height} reaches to the other side");
        }
    }

    [Theory]
    [InlineData(900, 600)]
    [InlineData(400, 1200)]
    [InlineData(2000, 250)]
    public void Spread_no_part_of_a_photo_is_without_it(int width, int height)
    {
        foreach (var size in (int[])[6, 12, 30])
        {
            var watermark = Words with { Place = WatermarkPlace.AllOver, Size = size };
            using var made = Marked(Flat(width, height, "gray50"), 2560, watermark);
            var rows = WatermarkLayout.Spread(watermark, made.Width, made.Height, 5);
            // A square as wide as the step from one row to the second next meets at least one of them.
            var side = Math.Min(Math.Min(made.Width, made.Height), (int)(rows.Along * 1.3));
            for (var x = 0; x + side <= made.Width; x += side)
            {
                Assert.True(Seen(made, x, made.Height - side, side, side) > 40, $"nothing at {x} of {width} by {height}, {size} percent");
                Assert.True(Seen(made, x, 0, side, side) > 40, $"nothing at the top at {x} of {width} by {height}, {size} percent");
            }
        }
    }

    // Porter and Duff's "over", as ImageMagick composes it: the reference is made of the same two files.
    [Theory]
    [InlineData(100)]
    [InlineData(50)]
    [InlineData(20)]
    public void A_picture_lies_on_the_photo_as_ImageMagick_lays_it(int strength)
    {
        var original = Tools.Quarters(".png");
        var sign = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, "-size", "200x100", "xc:none", "-fill", "#ffe000", "-draw", "rectangle 0,0 99,99", "-fill", "rgba(0,0,0,0.5)", "-draw", "rectangle 100,0 199,99", sign);
        var small = LogoPicture.Make(File.ReadAllBytes(sign), WatermarkPicture.MostPixels, WatermarkPicture.Longest)!;
        var watermark = Watermark.Usual with { Kind = WatermarkKind.Picture, Picture = new WatermarkPicture("", small.Width, small.Height), Place = WatermarkPlace.Middle, Size = 50, Strength = strength };
        var box = WatermarkLayout.Once(watermark, 300, 200, 2);
        var reference = Tools.NewPath(".png");
        var share = (strength / 100.0).ToString(CultureInfo.InvariantCulture);
        Tools.Run(Tools.Convert, original, "(", sign, "-resize", $"{box.Width}x{box.Height}!", "-channel", "A", "-evaluate", "multiply", share, "+channel", ")", "-geometry", $"+{box.X}+{box.Y}", "-composite", reference);
        var found = Tools.NewPath(".webp");
        File.WriteAllBytes(found, Picture.Render(original, [300], stamp: Stamp.Draw(watermark, small.Bytes))[0].Bytes);
        foreach (var (x, y) in ((double, double)[])[(0.4, 0.4), (0.4, 0.6), (0.6, 0.4), (0.6, 0.6), (0.1, 0.1), (0.9, 0.9), (0.1, 0.9)])
        {
            Tools.Near(Tools.Colour(reference, x, y), Tools.Colour(found, x, y), 10);
        }
    }

    [Fact]
    public void White_words_are_read_on_white_and_on_black_and_weaken_with_their_strength()
    {
        double On(string colour, int strength)
        {
            using var made = Marked(Flat(600, 400, colour), 480, Words with { Strength = strength });
            return Seen(made, 0, 0, made.Width, made.Height);
        }

        Assert.True(On("white", 100) > 100, "not read on snow");
        Assert.True(On("black", 100) > 200, "not read at night");
        Assert.InRange(On("black", 50), 90, 165);
        Assert.True(On("black", 10) < 60);
    }

    [Fact]
    public void Words_are_words_and_no_markup_and_what_has_no_shape_is_no_watermark()
    {
        Assert.NotNull(Stamp.Draw(Words with { Words = "<b>Marram & Söhne</b> \"©\"" }, null));
        Assert.NotNull(Stamp.Draw(Words with { Words = "&" }, null));
        Assert.Null(Stamp.Draw(Words with { Words = "" }, null));
        Assert.Null(Stamp.Draw(Words with { Words = "\u200B" }, null));
        Assert.Null(Stamp.Draw(Words with { Kind = WatermarkKind.Picture, Picture = new WatermarkPicture("", 1, 1) }, null));
        Assert.Null(Stamp.Draw(Words with { Kind = WatermarkKind.Picture, Picture = new WatermarkPicture("", 1, 1) }, [1, 2, 3]));
        // Each kind of letters is there, and they are not the same ones.
        var widths = Enum.GetValues<Lettering>().Select(l =>
        {
            using var made = Marked(Flat(900, 300, "black"), 900, Words with { Lettering = l, Strength = 100 });
            return made.Avg();
        }).ToArray();
        Assert.Equal(widths.Length, widths.Select(w => Math.Round(w, 2)).Distinct().Count());
    }

    [Theory]
    [InlineData("————————————————————————————————————————————————————————————————————————————————")]
    [InlineData("................................................................................")]
    [InlineData("WWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWW")]
    [InlineData("|")]
    public void However_long_or_narrow_words_are_they_take_no_more_room_than_they_need(string words)
    {
        var stamp = Stamp.Draw(Words with { Words = words }, null);
        Assert.NotNull(stamp);
        Assert.True(stamp.Pixels < 16_000_000, $"{stamp.Pixels} pixels");
        using var made = Marked(Flat(900, 600, "gray50"), 900, Words with { Words = words });
        Assert.Equal((900, 600), (made.Width, made.Height));
    }

    [Fact]
    public void What_can_be_seen_through_stays_so_and_from_a_wider_rendition_comes_the_same()
    {
        var clear = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, "-size", "800x600", "xc:none", "-fill", "red", "-draw", "rectangle 0,0 399,599", clear);
        using var seen = Marked(clear, 480, Words with { Place = WatermarkPlace.TopLeft });
        Assert.True(seen.HasAlpha());
        Assert.Equal(0, seen.Getpoint(470, 300)[3]);

        var original = Tools.Quarters(".jpg", "-resize", "1500x1000!");
        var stamp = Stamp.Draw(Words, null)!;
        var wider = Tools.NewPath(".webp");
        File.WriteAllBytes(wider, Picture.Render(original, [960])[0].Bytes);
        using var direct = Image.NewFromBuffer(Picture.Render(original, [480], stamp: stamp)[0].Bytes);
        using var derived = Image.NewFromBuffer(Picture.Marked(wider, 480, stamp));
        Assert.Equal((direct.Width, direct.Height), (derived.Width, derived.Height));
        using var differs = (direct - derived).Abs();
        Assert.True(differs.Avg() < 2, $"they differ by {differs.Avg()}");

        // A picture that leaves has it, too, as large as it leaves.
        using var left = Image.NewFromBuffer(Picture.Jpeg(original, 1_000_000, 95, stamp: stamp));
        using var plain = Image.NewFromBuffer(Picture.Jpeg(original, 1_000_000, 95));
        using var apart = (left - plain).Abs();
        Assert.Equal((1500, 1000), (left.Width, left.Height));
        Assert.True(apart.Max() > 60 && apart.Crop(0, 0, 1500, 500).Max() < 20);
    }
}
