using Jovitar.Core.Corrections;
using NetVips;

namespace Jovitar.Imaging;

/// <summary>Cooks a correction's recipe with libvips, at whatever size the picture is decoded.</summary>
static class Correcting
{
    /// <summary>How wide the whole upright picture must be decoded, for the corrected one to be so wide.</summary>
    public static int WholeWidth(Correction correction, PixelSize original, int width) =>
        Math.Max(1, (int)Math.Round(original.Width * Math.Min(1, width / (double)Framing.Size(correction, original).Width)));

    /// <summary>Bytes of what is held at random access while a picture is corrected: what is seen of it, as it is decoded, and no more.</summary>
    public static long Holds(Correction correction, PixelSize original, int width)
    {
        var whole = WholeWidth(correction, original, width);
        var (_, _, w, h) = Region(correction, original, whole, Math.Max(1, (int)Math.Round(whole / original.Ratio)));
        return Held(w, h);
    }

    /// <summary>Bytes of a picture of that size at random access: what would be more is on the disk.</summary>
    public static long Held(int width, int height) => Math.Min(HeldBytes, 4L * width * height);

    /// <summary>What takes more than this at once is held on the disk.</summary>
    const long HeldBytes = 96L << 20;

    /// <summary>Corrects a whole upright picture, which is read from its top to its end once.</summary>
    /// <param name="original">The size of the original, upright; the picture may be smaller.</param>
    /// <param name="width">Of what comes out, pixels.</param>
    public static Image Apply(Image whole, Correction correction, PixelSize original, int width)
    {
        var (x, y, w, h) = Region(correction, original, whole.Width, whole.Height);
        using var region = whole.ExtractArea(x, y, w, h);
        using var held = Held(region);
        using var turned = correction.Turns switch { 1 => held.Rot90(), 2 => held.Rot180(), 3 => held.Rot270(), _ => held.Copy() };

        // Where the region lies in the turned picture.
        var (left, top) = correction.Turns switch
        {
            1 => (whole.Height - y - h, x),
            2 => (whole.Width - x - w, whole.Height - y - h),
            3 => (y, whole.Width - x - w),
            _ => (x, y),
        };
        var part = new Part(turned, left, top, new PixelSize(whole.Width, whole.Height).Turned(correction.Turns));
        var crop = Framing.Crop(correction, original);
        var size = Framing.Size(correction, original);
        var height = Math.Max(1, (int)Math.Round(width * (double)size.Height / size.Width));
        using var framed = correction.Angle == 0 ? Cropped(part, crop, width, height) : Straightened(part, correction.Angle, crop, width, height);
        return Toned(framed, correction);
    }

    /// <summary>A part of a turned picture, where it lies there, and how large all of that is.</summary>
    sealed record Part(Image Image, int Left, int Top, PixelSize Turned);

    /// <summary>What of a whole upright picture is looked at: the rectangle that holds the crop, and a little for interpolating.</summary>
    static (int X, int Y, int Width, int Height) Region(Correction correction, PixelSize original, int wide, int high)
    {
        const int Rim = 3;
        var corners = Framing.Corners(correction, original);
        var (x, y) = (Math.Clamp((int)Math.Floor(corners.Min(c => c.X) * wide) - Rim, 0, wide - 1), Math.Clamp((int)Math.Floor(corners.Min(c => c.Y) * high) - Rim, 0, high - 1));
        return (x, y, Math.Clamp((int)Math.Ceiling(corners.Max(c => c.X) * wide) + Rim, x + 1, wide) - x, Math.Clamp((int)Math.Ceiling(corners.Max(c => c.Y) * high) + Rim, y + 1, high) - y);
    }

    /// <summary>A picture at random access: in memory, or on the disk where that would be too much.</summary>
    public static Image Held(Image image)
    {
        if ((long)image.Width * image.Height * image.Bands <= HeldBytes)
        {
            return image.CopyMemory();
        }

        var file = Image.NewTempFile("%s.v");
        image.Write(file);
        return file;
    }

    static Image Cropped(Part part, Crop crop, int width, int height)
    {
        var (image, turned) = (part.Image, part.Turned);
        var left = Math.Clamp((int)Math.Round(crop.X * turned.Width) - part.Left, 0, image.Width - 1);
        var top = Math.Clamp((int)Math.Round(crop.Y * turned.Height) - part.Top, 0, image.Height - 1);
        var (w, h) = (Math.Clamp((int)Math.Round(crop.Width * turned.Width), 1, image.Width - left), Math.Clamp((int)Math.Round(crop.Height * turned.Height), 1, image.Height - top));
        using var cropped = image.ExtractArea(left, top, w, h);
        return cropped.Width == width && cropped.Height == height ? cropped.Copy() : cropped.ThumbnailImage(width, height: height, size: Enums.Size.Force);
    }

    /// <summary>Rotates about the middle, crops, and brings to size in one resampling.</summary>
    static Image Straightened(Part part, double angle, Crop crop, int width, int height)
    {
        var turned = part.Turned;
        var (sin, cos) = Math.SinCos(angle * Math.PI / 180);
        var (x, y) = (width / (crop.Width * turned.Width), height / (crop.Height * turned.Height));
        using var bicubic = Interpolate.NewFromName("bicubic");

        // Samples lie in the middle of pixels, half a pixel from their edges.
        return part.Image.Affine(
            [x * cos, -x * sin, y * sin, y * cos], interpolate: bicubic, oarea: [0, 0, width, height],
            idx: part.Left - ((turned.Width - 1) / 2.0), idy: part.Top - ((turned.Height - 1) / 2.0),
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
