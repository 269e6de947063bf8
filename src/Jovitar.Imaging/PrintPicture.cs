using Jovitar.Core.Corrections;
using Jovitar.Core.Layout;
using Jovitar.Core.Sales.Printing;
using NetVips;

namespace Jovitar.Imaging;

/// <summary>Makes the files that prints are made from: JPEG in sRGB, which they carry the profile of, at so many pixels an inch (Exif 2.32 §4.6.5), and with nothing that the original says.</summary>
public static class PrintPicture
{
    const int Quality = 95;
    const int SmallQuality = 82;
    const int SmallPerInch = 300;

    /// <summary>So many more of the photo's pixels are held round the part than it has, for interpolating at its edges.</summary>
    const int Rim = 4;

    /// <summary>Writes a print file.</summary>
    /// <param name="photo">The size of the photo as it is corrected, in whose pixels the part is said.</param>
    /// <param name="correction">How the picture is to be corrected; null as it is.</param>
    /// <exception cref="PictureException">The picture cannot be decoded to its end.</exception>
    public static void Write(string original, PixelSize photo, Correction? correction, PrintFile file, Stream to)
    {
        var size = Picture.Measure(original);
        var seen = correction is { ChangesPixels: true } ? Framing.Size(correction, size.Measures) : size.Measures;
        using var room = DecodingMemory.Take(Picture.Room(size, correction, seen.Width) + Correcting.Held(seen.Width, seen.Height));
        try
        {
            using var whole = Picture.Decode(original, size, correction, seen.Width, keep: false);
            var (x, y) = (whole.Width / (double)photo.Width, whole.Height / (double)photo.Height);
            using var part = Of(whole, new Box(file.Part.X * x, file.Part.Y * y, file.Part.Width * x, file.Part.Height * y), file);
            using var flat = part.HasAlpha() ? part.Flatten(background: [255, 255, 255]) : part.Copy();
            using var made = Bare(flat, file.PixelsPerInch);
            made.JpegsaveStream(to, q: Quality, optimizeCoding: true, subsampleMode: Enums.ForeignSubsample.Off, keep: Enums.ForeignKeep.All, profile: "srgb");
        }
        catch (VipsException e)
        {
            throw Picture.Explain(e, original);
        }
    }

    /// <summary>A small picture of one that is no larger than a screen, JPEG, for papers: with a head that says what it is, which some readers of JPEG need.</summary>
    /// <param name="edge">The longer edge, pixels, where the picture is larger.</param>
    /// <exception cref="PictureException">The picture cannot be decoded.</exception>
    public static byte[] Small(string rendition, int edge)
    {
        try
        {
            using var small = Image.Thumbnail(rendition, edge, height: edge, size: Enums.Size.Down);
            using var flat = small.HasAlpha() ? small.Flatten(background: [255, 255, 255]) : small.Copy();
            using var made = Bare(flat, SmallPerInch);
            return made.JpegsaveBuffer(q: SmallQuality, optimizeCoding: true, keep: Enums.ForeignKeep.All);
        }
        catch (VipsException e)
        {
            throw Picture.Explain(e, rendition);
        }
    }

    /// <summary>The same without anything that its file said, and at so many pixels an inch.</summary>
    static Image Bare(Image image, int perInch)
    {
        var density = perInch / 25.4;
        using var told = image.Copy(xres: density, yres: density);
        return told.Mutate(m =>
        {
            foreach (var field in told.GetFields().Where(f => f.Contains('-', StringComparison.Ordinal)))
            {
                m.Remove(field);
            }

            m.Set(GValue.GStrType, "resolution-unit", "in");
        });
    }

    static Enums.Extend Extending(bool isWhite) => isWhite ? Enums.Extend.White : Enums.Extend.Mirror;

    /// <summary>A part of a picture brought to a file's size; what lies over the picture's edges is the picture mirrored there, or white.</summary>
    static Image Of(Image whole, Box part, PrintFile file)
    {
        var size = file.Size;
        var (left, top) = ((int)Math.Floor(part.X) - Rim, (int)Math.Floor(part.Y) - Rim);
        var (width, height) = ((int)Math.Ceiling(part.Right) + Rim - left, (int)Math.Ceiling(part.Bottom) + Rim - top);
        var (x, y) = (Math.Clamp(left, 0, whole.Width - 1), Math.Clamp(top, 0, whole.Height - 1));
        using var there = whole.ExtractArea(x, y, Math.Clamp(left + width, x + 1, whole.Width) - x, Math.Clamp(top + height, y + 1, whole.Height) - y);
        using var held = Correcting.Held(there);
        using var across = held.Embed(x - left, 0, width, held.Height, extend: Extending(file.IsWhiteBeside));
        using var wider = across.Embed(0, y - top, width, height, extend: Extending(file.IsWhiteAbove));
        var (scaleX, scaleY) = (size.Width / part.Width, size.Height / part.Height);
        var (startX, startY) = (part.X - left, part.Y - top);
        if (scaleX < 1 || scaleY < 1)
        {
            var (w, h) = ((int)Math.Max(1, Math.Round(part.Width)), (int)Math.Max(1, Math.Round(part.Height)));
            using var cropped = wider.ExtractArea((int)Math.Round(startX), (int)Math.Round(startY), Math.Min(w, width - (int)Math.Round(startX)), Math.Min(h, height - (int)Math.Round(startY)));
            return cropped.ThumbnailImage(size.Width, height: size.Height, size: Enums.Size.Force);
        }

        // Samples lie in the middle of pixels, half a pixel from their edges.
        using var bicubic = Interpolate.NewFromName("bicubic");
        return wider.Affine([scaleX, 0, 0, scaleY], interpolate: bicubic, oarea: [0, 0, size.Width, size.Height], odx: (scaleX * (0.5 - startX)) - 0.5, ody: (scaleY * (0.5 - startY)) - 0.5, extend: Enums.Extend.Copy);
    }
}
