using NetVips;

namespace Jovitar.Imaging;

/// <summary>How a photo looks, in figures taken from one of its renditions.</summary>
public static class Look
{
    /// <summary>A grey picture of so many pixels a side, row after row, whatever shape the photo has.</summary>
    internal static byte[] Grey(Image picture, int side)
    {
        using var small = picture.ThumbnailImage(side, height: side, size: Enums.Size.Force);
        using var flat = small.HasAlpha() ? small.Flatten() : small.Copy();
        using var grey = flat.Colourspace(Enums.Interpretation.Bw);
        return grey.WriteToMemory<byte>();
    }

    /// <summary>The colours of a picture, sRGB, three bytes each, from some hundreds of places spread evenly over it.</summary>
    /// <exception cref="PictureException">The picture cannot be read.</exception>
    public static byte[] Colours(string rendition)
    {
        const int Longest = 40;
        try
        {
            using var small = Image.Thumbnail(rendition, Longest, height: Longest);
            using var flat = small.HasAlpha() ? small.Flatten() : small.Copy();
            using var rgb = flat.Colourspace(Enums.Interpretation.Srgb);
            return rgb.WriteToMemory<byte>();
        }
        catch (VipsException e)
        {
            throw new PictureException(e.Message, cutShort: false, e);
        }
    }

    /// <summary>
    /// How sharp a photo is: the standard deviation of its Laplacian, in grey values. Only photos of one scene and the same
    /// width can be compared by it. After Pech-Pacheco and others, "Diatom autofocusing in brightfield microscopy" (2000).
    /// </summary>
    /// <exception cref="PictureException">The rendition cannot be read.</exception>
    public static double Sharpness(string rendition)
    {
        try
        {
            using var image = Image.NewFromFile(rendition, access: Enums.Access.Sequential);
            if (image.Width * image.Height < 2)
            {
                // One pixel differs from nothing.
                return 0;
            }

            using var flat = image.HasAlpha() ? image.Flatten() : image.Copy();
            using var grey = flat.Colourspace(Enums.Interpretation.Bw);
            using var laplacian = Image.NewFromArray(new double[,] { { 0, 1, 0 }, { 1, -4, 1 }, { 0, 1, 0 } });
            using var edges = grey.Conv(laplacian, precision: Enums.Precision.Float);
            return edges.Deviate();
        }
        catch (VipsException e)
        {
            throw new PictureException(e.Message, cutShort: false, e);
        }
    }
}
