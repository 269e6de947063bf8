using System.Globalization;
using Jovitar.Core.Corrections;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Printing;

namespace Jovitar.Imaging.Tests;

/// <summary>Print files as ImageMagick measures them: pixels, pixels an inch, profile, and the part of the photo to within one pixel.</summary>
public sealed class PrintPictureTests
{
    static string Make(string original, PixelSize photo, PrintFile file, Correction? correction = null)
    {
        var path = Tools.NewPath(".jpg");
        using var to = File.Create(path);
        PrintPicture.Write(original, photo, correction, file, to);
        return path;
    }

    static PrintFile FileOf(PixelSize photo, string size, int perInch = 254, int bleed = 0, Spot? middle = null) =>
        PrintFile.Of(new SaleOption(Guid.NewGuid(), OptionKind.Print) { Size = PaperSize.Read(size) }, photo, middle, new PrintRule(perInch, bleed))!;

    /// <summary>A white photo, black where a print does not reach: at the first so many pixels from the left, and at the last.</summary>
    static string Framed(PixelSize size, int left, int right)
    {
        var path = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, "-size", $"{size.Width}x{size.Height}", "xc:white", "-fill", "black", "-draw", $"rectangle 0,0 {left - 1},{size.Height}", "-draw", $"rectangle {size.Width - right},0 {size.Width},{size.Height}", path);
        return path;
    }

    /// <summary>How bright the columns of a picture are from one to another, 0 to 255.</summary>
    static double[] Columns(string path, int from, int count) =>
        [.. Tools.Run(Tools.Convert, path, "-colorspace", "Gray", "-crop", $"{count}x10000+{from}+0", "+repage", "-resize", $"{count}x1!", "-depth", "8", "txt:-").Split('\n').Skip(1).Select(l => double.Parse(l.Split('(')[1].Split([',', ')'])[0], CultureInfo.InvariantCulture))];

    [Theory]
    // Made smaller (5,000 pixels on 2,540), as it is, and larger (500 on 2,540).
    [InlineData(7500, 5000)]
    [InlineData(3810, 2540)]
    [InlineData(750, 500)]
    public void It_shows_the_part_that_its_buyer_was_shown(int wide, int high)
    {
        // Of 3:2 a square keeps two thirds; moved to the left by half of what can be.
        var photo = new PixelSize(wide, high);
        var file = FileOf(photo, "254 × 254 mm", middle: new Spot((wide / 12.0 / wide) + (1 / 3.0), 0.5));
        var (left, right) = ((int)Math.Round(file.Part.X), wide - (int)Math.Round(file.Part.Right));
        var made = Make(Framed(photo, left, right), photo, file);
        Assert.Equal("2540 2540", Tools.Run("identify", "-format", "%w %h", made));
        // The edge between black and white lies within one of the photo's pixels, or the file's where those are larger, of the edge of the file.
        var blur = Math.Max(1, (int)Math.Ceiling(2540.0 / high)) + 2;
        Assert.All(Columns(made, blur, 100).Concat(Columns(made, 2540 - blur - 100, 100)), c => Assert.InRange(c, 250, 255));

        // With one that shows a little more, black stands at both its edges.
        var wider = file with { Part = new(file.Part.X - (high * 0.04), 0, high * 1.08, high) };
        var dark = Make(Framed(photo, left, right), photo, wider);
        var edge = (int)Math.Round(2540 * 0.04 / 1.08);
        foreach (var columns in new[] { Columns(dark, 0, 200), [.. Columns(dark, 2340, 200).Reverse()] })
        {
            Assert.InRange(columns.TakeWhile(c => c < 128).Count(), edge - (blur / 2), edge + (blur / 2));
        }
    }

    [Fact]
    public void What_was_cut_off_stands_in_the_bleed_and_where_the_photo_ends_it_is_mirrored()
    {
        // A square of 100 mm: what the sides lose stands over the edge there, and above and below the photo itself is mirrored.
        var photo = new PixelSize(1500, 1000);
        var path = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, Framed(photo, 250, 250), "-fill", "black", "-draw", "rectangle 0,10 1500,19", path);
        var file = FileOf(photo, "100 × 100 mm", bleed: 5);
        Assert.Equal((new PixelSize(1100, 1100), 50), (file.Size, file.Bleed));
        var made = Make(path, photo, file);
        Assert.InRange(Columns(made, 0, 60).TakeWhile(c => c < 128).Count(), 49, 51);
        Assert.InRange(Columns(made, 1040, 60).Reverse().TakeWhile(c => c < 128).Count(), 49, 51);
        var upright = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, made, "-crop", "400x1100+300+0", "+repage", "-rotate", "90", upright);
        // The rotation puts the top at the right: rows 60 to 69 of the file are the line, and 30 to 39 its mirrored one.
        var rows = Columns(upright, 1000, 100).Reverse().ToArray();
        Assert.Equal([.. Enumerable.Range(30, 10), .. Enumerable.Range(60, 10)], rows.Index().Where(r => r.Item < 128).Select(r => r.Index));
    }

    [Theory]
    // Made smaller (1,500 pixels on 1,000), as it is, and larger.
    [InlineData(1500, 1000)]
    [InlineData(1000, 667)]
    [InlineData(600, 400)]
    public void Whole_it_stands_between_white_edges(int wide, int high)
    {
        // Black on a square of 100 mm, 1,000 pixels of 1,100: a sixth of it is white above and below, and the black goes on into the bleed at its sides.
        var photo = new PixelSize(wide, high);
        var path = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, "-size", $"{wide}x{high}", "xc:black", path);
        var option = new SaleOption(Guid.NewGuid(), OptionKind.Print) { Size = PaperSize.Read("100 × 100 mm") };
        var made = Make(path, photo, PrintFile.Of(option, photo, null, new PrintRule(254, 5), isWhole: true)!);
        Assert.Equal("1100 1100", Tools.Run("identify", "-format", "%w %h", made));
        var middle = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, made, "-crop", "1100x100+0+500", "+repage", middle);
        Assert.All(Columns(middle, 0, 1100), c => Assert.InRange(c, 0, 4));
        var rows = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, made, "-crop", "100x1100+500+0", "+repage", "-transpose", rows);
        var columns = Columns(rows, 0, 1100);
        var white = 50 + (1000 / 6.0);
        foreach (var edge in new[] { columns, [.. columns.Reverse()] })
        {
            Assert.InRange(edge.TakeWhile(c => c > 128).Count(), white - 1.5, white + 1.5);
            Assert.All(edge.Take((int)white - 4), c => Assert.InRange(c, 251, 255));
        }
    }

    [Fact]
    public void It_says_how_large_it_is_and_what_its_colours_mean_and_nothing_else()
    {
        var original = Tools.NewPath(".jpg");
        var profile = Tools.Profile("p3");
        // A red that sRGB has, said in another space.
        Tools.Run(Tools.Convert, "-size", "1500x1000", "xc:#d02020", "-profile", Tools.Profile("srgb"), "-profile", profile, "-quality", "98", original);
        Tools.Run("exiftool", "-q", "-overwrite_original", "-GPSLatitude=52", "-GPSLatitudeRef=N", "-XMP:Title=Low water", "-EXIF:Artist=Wren Marsh", "-IPTC:City=Tern", "-Comment=Of nobody", original);
        var made = Make(original, new PixelSize(1500, 1000), FileOf(new PixelSize(1500, 1000), "10 × 15 cm", perInch: 300));
        Assert.Equal("1772 1181 300 300 PixelsPerInch JPEG 1x1,1x1,1x1 sRGB", Tools.Run("identify", "-format", "%w %h %x %y %U %m %[jpeg:sampling-factor] %[colorspace]", made));
        Assert.Contains("sRGB", Tools.Run("exiftool", "-s3", "-ICC_Profile:ProfileDescription", made), StringComparison.OrdinalIgnoreCase);
        Tools.Near([0xd0, 0x20, 0x20], Tools.Colour(made, 0.5, 0.5), 2);
        Assert.Equal("", Tools.Run("exiftool", "-s3", "-GPS:all", "-XMP:all", "-EXIF:Artist", "-IPTC:all", "-Comment", made));
    }

    [Fact]
    public void It_is_upright_and_corrected_as_the_photo_is_seen()
    {
        var original = Tools.Quarters(".jpg", "-orient", "right-top");
        var correction = new Correction { Turns = 1, Crop = new Crop(0, 0, 0.5, 1) };
        var seen = Framing.Size(correction, Picture.Measure(original).Measures);
        var expected = Tools.NewPath(".jpg");
        File.WriteAllBytes(expected, Picture.Jpeg(original, 10_000, 98, correction));
        var made = Make(original, seen, FileOf(seen, "50 × 100 mm"), correction);
        foreach (var y in new[] { 0.2, 0.8 })
        {
            Tools.Near(Tools.Colour(expected, 0.5, y), Tools.Colour(made, 0.5, y), 4);
        }
    }

    [Fact]
    public void What_lets_through_is_white_on_paper_and_what_is_damaged_is_said()
    {
        var path = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, "-size", "600x400", "xc:none", "-fill", "#d02020", "-draw", "rectangle 0,0 299,399", path);
        var made = Make(path, new PixelSize(600, 400), FileOf(new PixelSize(600, 400), "60 × 40 mm"));
        Tools.Near([255, 255, 255], Tools.Colour(made, 0.75, 0.5), 1);
        var cut = Tools.NewPath(".jpg");
        File.WriteAllBytes(cut, File.ReadAllBytes(Tools.Quarters(".jpg"))[..^2000]);
        Assert.Throws<PictureException>(() => Make(cut, new PixelSize(300, 200), FileOf(new PixelSize(300, 200), "60 × 40 mm")));
    }
}
