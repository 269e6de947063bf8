using System.Globalization;
using Jovitar.Core.Corrections;

namespace Jovitar.Imaging.Tests;

/// <summary>Corrections against ImageMagick on the same pixels: on average they differ by no more than <see cref="Tolerance"/> of 255.</summary>
public sealed class CorrectingTests
{
    /// <summary>Two interpolations and one JPEG at its finest lie between the two.</summary>
    const double Tolerance = 1.0;

    static readonly PixelSize Size = new(600, 400);

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Quarter_turns_are_clockwise(int turns) => Same(new Correction { Turns = turns }, "-rotate", $"{90 * turns}");

    // "-distort SRT angle" rotates clockwise about the middle and keeps the canvas.
    [Theory]
    [InlineData(0.7)]
    [InlineData(-3.2)]
    [InlineData(12)]
    [InlineData(-44)]
    public void Straightening_is_a_rotation_about_the_middle_of_which_the_largest_of_its_shape_is_kept(double angle)
    {
        var largest = Framing.Largest(Size, angle);
        Assert.Equal(Framing.Size(new Correction { Angle = angle }, Size), new PixelSize((int)Math.Round(largest.Width * Size.Width), (int)Math.Round(largest.Height * Size.Height)));

        // On whole pixels, for ImageMagick crops no others.
        var (x, y) = (Math.Ceiling(largest.X * Size.Width), Math.Ceiling(largest.Y * Size.Height));
        var crop = new Crop(x / Size.Width, y / Size.Height, 1 - (2 * x / Size.Width), 1 - (2 * y / Size.Height));
        Same(new Correction { Angle = angle, Crop = crop }, ["-virtual-pixel", "edge", "-interpolate", "catrom", "-filter", "point", "-distort", "SRT", Number(angle), "+repage", .. Cropped(crop, Size)]);
    }

    [Fact]
    public void A_crop_is_a_part_of_the_turned_picture()
    {
        var crop = new Crop(0.1, 0.25, 0.5, 0.5);
        Same(new Correction { Crop = crop }, Cropped(crop, Size));
        Same(new Correction { Turns = 1, Crop = crop }, ["-rotate", "90", "+repage", .. Cropped(crop, Size.Turned(1))]);
    }

    // ImageMagick's -gamma raises to the power 1/gamma.
    [Theory]
    [InlineData(-100)]
    [InlineData(-35)]
    [InlineData(20)]
    [InlineData(100)]
    public void Brightness_is_a_gamma(int brightness) => Same(new Correction { Brightness = brightness }, "-gamma", Number(Tones.Gamma(brightness)));

    // ImageMagick's -sigmoidal-contrast is the same curve; with a plus its inverse.
    [Theory]
    [InlineData(-100)]
    [InlineData(-30)]
    [InlineData(25)]
    [InlineData(100)]
    public void Contrast_is_a_logistic_curve_or_its_inverse(int contrast) =>
        Same(new Correction { Contrast = contrast }, $"{(contrast > 0 ? '-' : '+')}sigmoidal-contrast", $"{Number(Tones.Steepness(contrast))},50%");

    [Theory]
    [InlineData(21, 72, 7)]
    [InlineData(100, 0, 0)]
    [InlineData(10, 10, 80)]
    [InlineData(0, 0, 0)]
    public void Black_and_white_weighs_three_colours(int red, int green, int blue)
    {
        var (r, g, b) = new Greys(red, green, blue).Weights();
        var row = $"{Number(r)} {Number(g)} {Number(b)}";
        Same(new Correction { Greys = new Greys(red, green, blue) }, "-color-matrix", $"{row} {row} {row}");
    }

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void A_whole_recipe_is_cooked_in_its_order(int turns)
    {
        var correction = new Correction { Turns = turns, Angle = 4, Crop = new Crop(0.2, 0.15, 0.5, 0.4), Greys = new Greys(60, 30, 10), Brightness = 30, Contrast = 40 };
        Same(
            correction,
            ["-rotate", $"{90 * turns}", "+repage", "-virtual-pixel", "edge", "-interpolate", "catrom", "-filter", "point", "-distort", "SRT", "4", "+repage", .. Cropped(correction.Crop!.Value, Size.Turned(turns)),
            "-color-matrix", "0.6 0.3 0.1 0.6 0.3 0.1 0.6 0.3 0.1", "-gamma", Number(Tones.Gamma(30)), "-sigmoidal-contrast", $"{Number(Tones.Steepness(40))},50%"]);
    }

    [Fact]
    public void What_is_too_large_to_be_held_is_corrected_all_the_same()
    {
        // 8,000 by 6,000 pixels, turned and straightened whole: more than is held in memory.
        var path = Tools.NewPath(".jpg");
        Tools.Run(Tools.Convert, Photo(), "-resize", "8000x6000!", path);
        var correction = new Correction { Turns = 1, Angle = 2 };
        var whole = Put(Picture.Jpeg(path, 100_000, 90, correction), ".jpg");
        Assert.Equal($"{Framing.Size(correction, new PixelSize(8000, 6000)).Width}", Tools.Run("identify", "-format", "%w", whole));
        Assert.InRange(Difference(Put(Picture.Render(path, [960], correction).Single().Bytes, ".webp"), whole), 0, 3);
    }

    [Fact]
    public void A_rendition_of_any_width_shows_the_same_as_the_whole()
    {
        var correction = new Correction { Turns = 1, Angle = -6, Crop = new Crop(0.25, 0.3, 0.4, 0.4), Brightness = 20 };
        var original = Photo();
        var size = Framing.Size(correction, Size);
        var made = Picture.Render(original, [480, 240, 120], correction);
        Assert.Equal([$"{size.Width} {size.Height}", $"{size.Width} {size.Height}", $"120 {Math.Round(120 / size.Ratio)}"], made.Select(m => Tools.Run("identify", "-format", "%w %h", Put(m.Bytes, ".webp"))));
        var whole = Put(Picture.Jpeg(original, 4000, 100, correction), ".jpg");
        Assert.InRange(Difference(whole, Put(made[0].Bytes, ".webp")), 0, 3);
        Assert.InRange(Difference(whole, Put(made[2].Bytes, ".webp")), 0, 6);
    }

    [Fact]
    public void What_lets_through_still_does_after_a_correction()
    {
        var path = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, "-size", "300x200", "xc:none", "-fill", "#d02020", "-draw", "rectangle 0,0 149,199", path);
        var made = Put(Picture.Render(path, [240], new Correction { Turns = 1, Brightness = 50 }).Single().Bytes, ".webp");
        Assert.Equal("1 0", Tools.Run(Tools.Convert, made, "-format", "%[fx:round(p{70,50}.a)] %[fx:round(p{70,200}.a)]", "info:"));
    }

    [Fact]
    public void Prints_on_the_glass_come_out_upright()
    {
        // Two photographs askew on a white glass, as ImageMagick lays them there.
        var scan = Tools.NewPath(".png");
        var print = Photo();
        Tools.Run(
            Tools.Convert, "-size", "1600x2200", "xc:#f4f2ee", "(", print, "-resize", "900x600!", "-background", "#f4f2ee", "-rotate", "7", ")", "-geometry", "+120+160", "-composite",
            "(", print, "-flop", "-resize", "900x600!", "-background", "#f4f2ee", "-rotate", "-4.5", ")", "-geometry", "+500+1200", "-composite", "-attenuate", "0.02", "+noise", "Gaussian", scan);
        var (rgb, small) = Picture.Small(scan, Prints.Side);
        var found = Prints.Find(rgb, small.Width, small.Height);
        Assert.Equal([-7, 4.5], found.Select(f => Math.Round(f.Angle * 2) / 2));
        var bare = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, print, "-resize", "900x600!", bare);
        var flopped = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, bare, "-flop", flopped);
        foreach (var (correction, was) in found.Zip([bare, flopped]))
        {
            var cut = Put(Picture.Jpeg(scan, 4000, 100, correction), ".jpg");
            var size = Framing.Size(correction, new PixelSize(1600, 2200));
            Assert.InRange(size.Width, 880, 900);
            Assert.InRange(size.Height, 582, 600);
            // Laid over what was printed, a few pixels of rim apart.
            Tools.Run(Tools.Convert, was, "-gravity", "center", "-crop", $"{size.Width}x{size.Height}+0+0", "+repage", was);
            Assert.InRange(Difference(was, cut), 0, 12);
        }
    }

    static void Same(Correction correction, params string[] magick)
    {
        var original = Photo();
        var expected = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, [original, .. magick, "-depth", "8", expected]);
        var made = Put(Picture.Jpeg(original, 4000, 100, correction), ".jpg");
        Assert.Equal(Tools.Run("identify", "-format", "%w %h", expected), Tools.Run("identify", "-format", "%w %h", made));
        var difference = Difference(expected, made);
        Assert.True(difference <= Tolerance, $"differs by {difference}");
    }

    /// <summary>The mean difference of two pictures, of 255; the second is brought to the size of the first.</summary>
    static double Difference(string one, string other) => 255 * double.Parse(
        Tools.Run(Tools.Convert, "(", one, ")", "(", other, "-resize", $"{Tools.Run("identify", "-format", "%wx%h", one)}!", ")", "-compose", "difference", "-composite", "-format", "%[fx:mean]", "info:"),
        CultureInfo.InvariantCulture);

    static string[] Cropped(Crop crop, PixelSize size) =>
    [
        "-crop",
        string.Create(
            CultureInfo.InvariantCulture,
            $"{Math.Round(crop.Width * size.Width)}x{Math.Round(crop.Height * size.Height)}+{Math.Round(crop.X * size.Width)}+{Math.Round(crop.Y * size.Height)}"),
        "+repage",
    ];

    static string Number(double value) => value.ToString("0.######", CultureInfo.InvariantCulture);

    static string Put(byte[] bytes, string ending)
    {
        var path = Tools.NewPath(ending);
        File.WriteAllBytes(path, bytes);
        return path;
    }

    static string? photo;

    /// <summary>One of the demo's photographs, 600 by 400.</summary>
    static string Photo()
    {
        if (photo is null)
        {
            var path = Tools.NewPath(".png");
            var root = new DirectoryInfo(AppContext.BaseDirectory);
            while (!File.Exists(Path.Combine(root!.FullName, "Jovitar.slnx")))
            {
                root = root.Parent;
            }

            Tools.Run(Tools.Convert, Directory.GetFiles(Path.Combine(root.FullName, "demo", "photos"), "*.jpg").Order(StringComparer.Ordinal).First(), "-auto-orient", "-resize", "600x400!", "-strip", path);
            photo = path;
        }

        return photo;
    }
}
