using Jovitar.Core.Corrections;
using NetVips;

namespace Jovitar.Imaging;

/// <summary>Cooks a correction's recipe with libvips, at whatever size the picture is decoded.</summary>
static class Correcting
{
    /// <summary>How wide the whole upright picture must be decoded, for the corrected one to be so wide.</summary>
    public static int WholeWidth(Correction correction, PixelSize original, int width) =>
        Math.Max(1, (int)Math.Round(original.Width * Math.Min(1, width / (double)Framing.Size(correction, original).Width)));

    /// <summary>Corrects a whole upright picture that is held in memory.</summary>
    /// <param name="original">The size of the original, upright; the picture may be smaller.</param>
    /// <param name="width">Of what comes out, pixels.</param>
    public static Image Apply(Image whole, Correction correction, PixelSize original, int width)
    {
        using var turned = correction.Turns switch { 1 => whole.Rot90(), 2 => whole.Rot180(), 3 => whole.Rot270(), _ => whole.Copy() };
        using var inMemory = turned.CopyMemory();
        var crop = Framing.Crop(correction, original);
        var size = Framing.Size(correction, original);
        var height = Math.Max(1, (int)Math.Round(width * (double)size.Height / size.Width));
        using var framed = correction.Angle == 0 ? Cropped(inMemory, crop, width, height) : Straightened(inMemory, correction.Angle, crop, width, height);
        return Toned(framed, correction);
    }

    static Image Cropped(Image turned, Crop crop, int width, int height)
    {
        var left = Math.Clamp((int)Math.Round(crop.X * turned.Width), 0, turned.Width - 1);
        var top = Math.Clamp((int)Math.Round(crop.Y * turned.Height), 0, turned.Height - 1);
        var (w, h) = (Math.Clamp((int)Math.Round(crop.Width * turned.Width), 1, turned.Width - left), Math.Clamp((int)Math.Round(crop.Height * turned.Height), 1, turned.Height - top));
        using var cropped = turned.ExtractArea(left, top, w, h);
        return cropped.Width == width && cropped.Height == height ? cropped.Copy() : cropped.ThumbnailImage(width, height: height, size: Enums.Size.Force);
    }

    /// <summary>Rotates about the middle, crops, and brings to size in one resampling.</summary>
    static Image Straightened(Image turned, double angle, Crop crop, int width, int height)
    {
        var (sin, cos) = Math.SinCos(angle * Math.PI / 180);
        var (x, y) = (width / (crop.Width * turned.Width), height / (crop.Height * turned.Height));
        using var bicubic = Interpolate.NewFromName("bicubic");

        // Samples lie in the middle of pixels, half a pixel from their edges.
        return turned.Affine(
            [x * cos, -x * sin, y * sin, y * cos], interpolate: bicubic, oarea: [0, 0, width, height],
            idx: -(turned.Width - 1) / 2.0, idy: -(turned.Height - 1) / 2.0,
            odx: (x * turned.Width * (0.5 - crop.X)) - 0.5, ody: (y * turned.Height * (0.5 - crop.Y)) - 0.5,
            extend: Enums.Extend.Copy);
    }

    static Image Toned(Image image, Correction correction)
    {
        var isToned = correction.Brightness != 0 || correction.Contrast != 0;
        if (!isToned && correction.Greys is null)
        {
            return image.Copy();
        }

        using var colours = image.ExtractBand(0, n: 3);
        using var grey = correction.Greys is { } greys ? Grey(colours, greys) : colours.Copy();
        using var table = Image.NewFromMemory(Tones.Table(correction.Brightness, correction.Contrast), Tones.Length, 1, 1, Enums.BandFormat.Uchar);
        using var toned = isToned ? grey.Maplut(table) : grey.Copy();
        using var plain = toned.Copy(interpretation: Enums.Interpretation.Srgb);
        if (image.Bands == 3)
        {
            return plain.Copy();
        }

        using var alpha = image.ExtractBand(3);
        return plain.Bandjoin(alpha);
    }

    static Image Grey(Image colours, Greys greys)
    {
        var (r, g, b) = greys.Weights();
        using var weights = Image.NewFromArray(new[,] { { r, g, b }, { r, g, b }, { r, g, b } });
        using var mixed = colours.Recomb(weights);
        using var whole = mixed.Rint();
        return whole.Cast(Enums.BandFormat.Uchar);
    }
}
