using System.Security;
using Jovitar.Core.Watermarks;
using NetVips;

namespace Jovitar.Imaging;

/// <summary>A watermark ready to be made into pictures: drawn once, as large as it is ever needed.</summary>
public sealed class Stamp
{
    /// <summary>How large words are set, points at so many dots an inch: larger than they are on the largest rendition.</summary>
    const int Points = 100;
    const int Dots = 144;

    /// <summary>Beside white letters the dark of their edge, in parts of their size, and how dark it is: they are read on snow and at night.</summary>
    const double Edge = 0.05;
    const double EdgeStrength = 0.7;

    /// <summary>Letters of the three kinds: the families' names, and their files beside the program.</summary>
    static readonly Dictionary<Lettering, (string Family, string File)> Letters = new()
    {
        [Lettering.Plain] = ("Instrument Sans", FontFiles.Plain),
        [Lettering.Serif] = ("Literata", FontFiles.Serif),
        [Lettering.Hand] = ("Caveat", FontFiles.Hand),
    };

    readonly Image drawn;

    Stamp(Watermark watermark, Image drawn) => (Watermark, this.drawn) = (watermark, drawn);

    public Watermark Watermark { get; }

    /// <summary>So many it is drawn of.</summary>
    public long Pixels => (long)drawn.Width * drawn.Height;

    /// <summary>Draws one.</summary>
    /// <param name="picture">Its picture, WebP, where it is one.</param>
    /// <returns>Null where there is nothing of it to be seen: no words, letters that have no shape, no picture.</returns>
    public static Stamp? Draw(Watermark watermark, byte[]? picture)
    {
        if (watermark.IsNothing || (watermark.Kind == WatermarkKind.Picture && picture is null))
        {
            return null;
        }

        try
        {
            using var made = watermark.Kind == WatermarkKind.Words ? Words(watermark) : Whole(picture!);
            using var alpha = made[3];
            return alpha.Max() > 0 ? new Stamp(watermark, made.CopyMemory()) : null;
        }
        catch (VipsException)
        {
            return null;
        }
    }

    /// <summary>A picture with the watermark on it.</summary>
    /// <param name="photo">Three bands of sRGB, or four where it can be seen through.</param>
    internal Image On(Image photo)
    {
        var shape = (double)drawn.Width / drawn.Height;
        using var over = Watermark.Place == WatermarkPlace.AllOver ? Spread(photo, WatermarkLayout.Spread(Watermark, photo.Width, photo.Height, shape)) : null;
        var box = over is null ? WatermarkLayout.Once(Watermark, photo.Width, photo.Height, shape) : default;
        using var once = over is null ? Sized(box.Width, box.Height) : null;
        using var made = photo.Composite2(over ?? once!, Enums.BlendMode.Over, x: box.X, y: box.Y);
        using var bands = photo.HasAlpha() ? made.Copy() : made.ExtractBand(0, n: photo.Bands);
        return bands.Cast(Enums.BandFormat.Uchar);
    }

    /// <summary>As large as it is on a photo, and as strong.</summary>
    Image Sized(int width, int height)
    {
        using var sized = drawn.ThumbnailImage(width, height: height, size: Enums.Size.Force);
        using var weaker = sized.Linear([1, 1, 1, Watermark.Strength / 100.0], [0, 0, 0, 0]);
        using var bytes = weaker.Cast(Enums.BandFormat.Uchar);
        return bytes.CopyMemory();
    }

    /// <summary>As large as the photo, with the watermark all over it.</summary>
    Image Spread(Image photo, WatermarkRows rows)
    {
        using var one = Sized(rows.Width, rows.Height);
        // Two rows, the second set off by half a step: what reaches over the right edge begins again at the left one.
        using var empty = Image.Black(rows.Along, 2 * rows.Across, bands: 4).Copy(interpretation: Enums.Interpretation.Srgb);
        using var first = empty.Insert(one, 0, 0);
        using var second = first.Insert(one, rows.Along / 2, rows.Across);
        using var cell = rows.Along / 2 + rows.Width > rows.Along ? Over(second, one, (rows.Along / 2) - rows.Along, rows.Across) : second.CopyMemory();
        // Turned, it still covers the photo: a circle as wide as the photo's diagonal fits into it.
        var side = (int)Math.Ceiling(Math.Sqrt(((double)photo.Width * photo.Width) + ((double)photo.Height * photo.Height))) + 2;
        using var field = cell.Replicate((side / rows.Along) + 1, (side / (2 * rows.Across)) + 1);
        using var square = field.Crop(0, 0, side, side);
        // Colours of what cannot be seen do not bleed into what can.
        using var weighed = square.Premultiply();
        using var turned = weighed.Similarity(angle: -WatermarkRows.Rise);
        using var middle = turned.Crop((turned.Width - photo.Width) / 2, (turned.Height - photo.Height) / 2, photo.Width, photo.Height);
        using var plain = middle.Unpremultiply();
        return plain.Cast(Enums.BandFormat.Uchar);
    }

    /// <summary>Puts the part of it that begins left of an image's edge into the image, where nothing else is.</summary>
    static Image Over(Image image, Image one, int x, int y)
    {
        using var part = one.Crop(-x, 0, one.Width + x, one.Height);
        using var with = image.Insert(part, 0, y);
        return with.CopyMemory();
    }

    static Image Words(Watermark watermark)
    {
        var (family, file) = Letters[watermark.Lettering];
        // The words are words and no markup.
        using var mask = Image.Text(SecurityElement.Escape(watermark.Words), font: $"{family} {Points}", dpi: Dots, fontfile: FontFiles.PathOf(file));
        var reach = Points * Dots / 72.0 * Edge;
        var room = (int)Math.Ceiling(reach * 3);
        using var letters = mask.Embed(room, room, mask.Width + (2 * room), mask.Height + (2 * room));
        using var soft = letters.Gaussblur(reach);
        using var wide = soft.Linear([2.5 * EdgeStrength], [0]);
        using var edge = (wide > 255 * EdgeStrength).Ifthenelse(255 * EdgeStrength, wide);
        // White lies over black: where both are, what is seen of each says the colour.
        using var through = letters.Linear([-1 / 255.0], [1]);
        using var beneath = edge * through;
        using var alpha = letters + beneath;
        using var safe = (alpha < 1).Ifthenelse(1, alpha);
        using var part = letters / safe;
        using var white = part.Linear([255], [0]);
        using var bands = white.Bandjoin(white, white, alpha);
        using var bytes = bands.Cast(Enums.BandFormat.Uchar);
        return bytes.Copy(interpretation: Enums.Interpretation.Srgb);
    }

    static Image Whole(byte[] picture)
    {
        using var read = Image.NewFromBuffer(picture);
        using var colour = read.Colourspace(Enums.Interpretation.Srgb);
        return colour.HasAlpha() ? colour.Copy() : colour.Bandjoin(255);
    }
}
