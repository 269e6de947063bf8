using System.Globalization;

namespace Jovitar.Imaging.Tests;

/// <summary>Renditions against ImageMagick on the same file: size, orientation, colour.</summary>
public sealed class RenditionTests
{
    // EXIF 2.32, tag 0x0112: 1 upright to 8; ImageMagick's -auto-orient is the reference.
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    [InlineData(6)]
    [InlineData(7)]
    [InlineData(8)]
    public void Every_orientation_comes_out_upright(int orientation)
    {
        var original = Tools.Quarters(".jpg");
        Tools.Run("exiftool", "-q", "-overwrite_original", "-n", $"-Orientation={orientation}", original);
        var reference = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, original, "-auto-orient", "+repage", reference);
        var rendition = Tools.Render(original, 150);
        var wide = orientation < 5;
        Assert.Equal(wide ? new PictureSize(300, 200) : new PictureSize(200, 300), Picture.Measure(original));
        Assert.Equal(wide ? "150 100" : "150 225", Tools.Run("identify", "-format", "%w %h", rendition));
        foreach (var (x, y) in ((double, double)[])[(0.25, 0.25), (0.75, 0.25), (0.25, 0.75), (0.75, 0.75)])
        {
            Tools.Near(Tools.Colour(reference, x, y), Tools.Colour(rendition, x, y), 14);
        }
    }

    [Fact]
    public void Display_P3_is_brought_to_sRGB()
    {
        var p3 = Tools.Profile("p3");
        var original = Tools.Quarters(".png");
        // Numbers are kept and given the meaning of Display P3; ImageMagick with LittleCMS converts them as the reference.
        Tools.Run(Tools.Convert, original, "-profile", p3, original);
        var reference = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, original, "-intent", "relative", "+black-point-compensation", "-profile", Tools.Profile("srgb"), reference);
        var rendition = Tools.Render(original, 300);
        Tools.Near(Tools.Colour(reference, 0.25, 0.25), Tools.Colour(rendition, 0.25, 0.25), 10);
        Tools.Near(Tools.Colour(reference, 0.75, 0.25), Tools.Colour(rendition, 0.75, 0.25), 10);
        var (before, after) = (Tools.Colour(original, 0.75, 0.25), Tools.Colour(rendition, 0.75, 0.25));
        Assert.True(before.Zip(after).Any(p => Math.Abs(p.First - p.Second) > 10), $"not converted: {string.Join(",", before)} {string.Join(",", after)}");
    }

    [Fact]
    public void Adobe_RGB_is_brought_to_sRGB()
    {
        var adobe = AdobeRgbProfile.Path;
        var original = Tools.Quarters(".jpg");
        Tools.Run(Tools.Convert, original, "-strip", "-profile", adobe, "-quality", "95", original);
        var reference = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, original, "-intent", "relative", "+black-point-compensation", "-profile", Tools.Profile("srgb"), reference);
        var rendition = Tools.Render(original, 300);
        foreach (var (x, y) in ((double, double)[])[(0.25, 0.25), (0.75, 0.25), (0.25, 0.75), (0.75, 0.9)])
        {
            Tools.Near(Tools.Colour(reference, x, y), Tools.Colour(rendition, x, y), 12);
        }
    }

    [Fact]
    public void CMYK_is_brought_to_sRGB()
    {
        var original = Tools.NewPath(".jpg");
        Tools.Run(Tools.Convert, Tools.Quarters(".png"), "-profile", Tools.Profile("srgb"), "-profile", Tools.Profile("cmyk"), "-quality", "97", original);
        Assert.Equal("CMYK", Tools.Run("identify", "-format", "%[colorspace]", original));
        var reference = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, original, "-intent", "relative", "+black-point-compensation", "-profile", Tools.Profile("srgb"), reference);
        var rendition = Tools.Render(original, 300);
        Assert.Equal("sRGB", Tools.Run("identify", "-format", "%[colorspace]", rendition));
        Tools.Near(Tools.Colour(reference, 0.25, 0.25), Tools.Colour(rendition, 0.25, 0.25), 14);
        Tools.Near(Tools.Colour(reference, 0.25, 0.75), Tools.Colour(rendition, 0.25, 0.75), 14);
    }

    [Theory]
    [InlineData(".png")]
    [InlineData(".tif")]
    public void Sixteen_bits_come_out_as_eight(string ending)
    {
        var original = Tools.Quarters(ending, "-depth", "16");
        var rendition = Tools.Render(original, 240);
        Tools.Near(Tools.Colour(original, 0.25, 0.25), Tools.Colour(rendition, 0.25, 0.25), 12);
        Assert.Equal("8", Tools.Run("identify", "-format", "%z", rendition));
    }

    [Fact]
    public void Grey_stays_grey()
    {
        var original = Tools.Quarters(".jpg", "-colorspace", "Gray");
        var rendition = Tools.Render(original, 240);
        var found = Tools.Colour(rendition, 0.75, 0.25);
        Tools.Near(Tools.Colour(original, 0.75, 0.25), found, 8);
        Assert.True(found.Max() - found.Min() <= 3);
    }

    [Fact]
    public void What_can_be_seen_through_stays_so()
    {
        var original = Tools.Quarters(".png", "-alpha", "set", "-region", "150x100", "-alpha", "transparent", "+region");
        var rendition = Tools.Render(original, 150);
        var alpha = Tools.Run(Tools.Convert, rendition, "-alpha", "extract", "-format", "%[fx:p{20,20}.r] %[fx:p{130,80}.r]", "info:").Split(' ').Select(s => double.Parse(s, CultureInfo.InvariantCulture)).ToArray();
        Assert.True(alpha[0] < 0.05 && alpha[1] > 0.95, $"{alpha[0]} {alpha[1]}");
    }

    [Theory]
    [InlineData(".webp", PictureKind.WebP)]
    [InlineData(".gif", PictureKind.Gif)]
    [InlineData(".tif", PictureKind.Tiff)]
    [InlineData(".png", PictureKind.Png)]
    [InlineData(".jpg", PictureKind.Jpeg)]
    public void Every_kind_that_is_taken_is_judged_and_rendered(string ending, PictureKind kind)
    {
        var original = Tools.Quarters(ending);
        Assert.Equal(kind, PictureKinds.Judge(File.ReadAllBytes(original).AsSpan(0, PictureKinds.BytesNeeded)));
        Tools.Near(Tools.Colour(original, 0.25, 0.25), Tools.Colour(Tools.Render(original, 240), 0.25, 0.25), 24);
    }

    [Fact]
    public void Avif_is_judged_and_rendered()
    {
        var original = Tools.NewPath(".avif");
        using (var image = NetVips.Image.NewFromFile(Tools.Quarters(".png")))
        {
            image.Heifsave(original, q: 90, compression: NetVips.Enums.ForeignHeifCompression.Av1);
        }

        Assert.Equal(PictureKind.Avif, PictureKinds.Judge(File.ReadAllBytes(original).AsSpan(0, PictureKinds.BytesNeeded)));
        Tools.Near([0xd0, 0x20, 0x20], Tools.Colour(Tools.Render(original, 240), 0.25, 0.25), 16);
    }

    [Theory]
    [InlineData("<?xml version='1.0'?><a/>", PictureKind.None)]
    [InlineData("%PDF-1.7", PictureKind.None)]
    [InlineData("8BPS", PictureKind.Other)]
    [InlineData("BM6", PictureKind.Other)]
    [InlineData("", PictureKind.None)]
    public void What_is_no_picture_is_told_by_its_bytes(string text, PictureKind kind) => Assert.Equal(kind, PictureKinds.Judge(System.Text.Encoding.ASCII.GetBytes(text)));

    [Fact]
    public void No_photo_is_blown_up_and_several_renditions_come_from_one_decoding()
    {
        var original = Tools.Quarters(".jpg");
        var made = Picture.Render(original, [240, 480, 960]);
        Assert.Equal([960, 480, 240], made.Select(m => m.Width));
        Assert.Equal(
            ["300 200", "300 200", "240 160"],
            made.Select(m =>
            {
                var path = Tools.NewPath(".webp");
                File.WriteAllBytes(path, m.Bytes);
                return Tools.Run("identify", "-format", "%w %h", path);
            }));
    }

    [Fact]
    public void A_rendition_carries_no_metadata()
    {
        var original = Tools.Quarters(".jpg");
        Tools.Run("exiftool", "-q", "-overwrite_original", "-n", "-GPSLatitude=54.1", "-GPSLatitudeRef=N", "-XMP-dc:Title=Secret", "-IPTC:City=Secret", original);
        var found = Tools.Run("exiftool", "-G", "-a", "-s", Tools.Render(original, 240));
        Assert.DoesNotContain("Secret", found);
        Assert.DoesNotContain("GPS", found);
    }

    [Theory]
    [InlineData(".jpg")]
    [InlineData(".png")]
    [InlineData(".webp")]
    public void A_file_that_is_cut_short_fails(string ending)
    {
        var original = Tools.Quarters(ending);
        var bytes = File.ReadAllBytes(original);
        File.WriteAllBytes(original, bytes[..(bytes.Length * 6 / 10)]);
        var failure = Assert.Throws<PictureException>(() => Picture.Render(original, [240]));
        Assert.True(failure.CutShort, failure.Message);
    }

    [Fact]
    public void However_many_fail_at_once_each_says_for_itself_whether_its_end_is_missing()
    {
        var whole = File.ReadAllBytes(Tools.Quarters(".jpg"));
        var cut = Tools.Quarters(".jpg");
        File.WriteAllBytes(cut, whole[..(whole.Length * 6 / 10)]);
        var wrongly = 0;
        Parallel.For(0, 400, new ParallelOptions { MaxDegreeOfParallelism = 8 }, i =>
        {
            try
            {
                Picture.Render(cut, [240]);
            }
            catch (PictureException e) when (e.CutShort)
            {
                return;
            }
            catch (PictureException)
            {
                Interlocked.Increment(ref wrongly);
            }
        });
        Assert.Equal(0, wrongly);
    }

    [Theory]
    [InlineData(1, 150, "150 100")]
    [InlineData(6, 150, "100 150")]
    [InlineData(3, 4000, "300 200")]
    public void A_picture_that_leaves_is_as_long_as_asked_for_and_upright(int orientation, int edge, string size)
    {
        var original = Tools.Quarters(".jpg");
        Tools.Run("exiftool", "-q", "-overwrite_original", "-n", $"-Orientation={orientation}", "-EXIF:GPSLatitude=54.1", "-EXIF:GPSLatitudeRef=N", original);
        var reference = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, original, "-auto-orient", "+repage", reference);
        var leaving = Tools.NewPath(".jpg");
        File.WriteAllBytes(leaving, Picture.Jpeg(original, edge, 90));
        Assert.Equal(size, Tools.Run("identify", "-format", "%w %h", leaving));
        foreach (var (x, y) in ((double, double)[])[(0.25, 0.25), (0.75, 0.25), (0.25, 0.75), (0.75, 0.75)])
        {
            Tools.Near(Tools.Colour(reference, x, y), Tools.Colour(leaving, x, y), 14);
        }

        // Nothing of what the file said leaves with it by itself.
        Assert.Equal("", Tools.Run("exiftool", "-s", "-EXIF:all", "-XMP:all", "-IPTC:all", leaving));
        // A better quality has more bytes.
        Assert.True(Picture.Jpeg(original, edge, 95).Length > Picture.Jpeg(original, edge, 60).Length);
    }

    [Fact]
    public void What_is_transparent_leaves_on_white()
    {
        var original = Tools.Quarters(".png", "-alpha", "set", "-channel", "A", "-fx", "i<w/2 ? 0 : 1", "+channel");
        var leaving = Tools.NewPath(".jpg");
        File.WriteAllBytes(leaving, Picture.Jpeg(original, 300, 90));
        Tools.Near([255, 255, 255], Tools.Colour(leaving, 0.25, 0.25), 4);
        Tools.Near([0x20, 0xa0, 0x40], Tools.Colour(leaving, 0.75, 0.25), 10);
    }
}
