using NetVips;

namespace Jovitar.Imaging;

/// <summary>A small picture with its size, pixels; WebP.</summary>
public sealed record SmallPicture(byte[] Bytes, int Width, int Height);

/// <summary>Makes pictures for a site's head of what people have for one: PNG, JPEG, WebP, GIF or SVG, with what can be seen through kept so.</summary>
public static class LogoPicture
{
    /// <summary>Larger than this nobody's logo is, pixels.</summary>
    const long MostPixels = 25_000_000;

    /// <summary>So large it may be without loss, bytes: it stands on every page.</summary>
    const int MostExact = 20_000;

    const int NearQuality = 88;

    /// <summary>Makes it.</summary>
    /// <param name="highest">Pixels; drawings are made as high as that, pictures are not blown up.</param>
    /// <param name="longest">So many times as wide as high it may be.</param>
    /// <returns>Null where it is no such picture, is damaged, or is too large.</returns>
    public static SmallPicture? Make(byte[] file, int highest, int longest)
    {
        var isDrawing = IsDrawing(file);
        if (!isDrawing && PictureKinds.Judge(file.AsSpan(0, Math.Min(file.Length, PictureKinds.BytesNeeded))) is not (PictureKind.Jpeg or PictureKind.Png or PictureKind.WebP or PictureKind.Gif))
        {
            return null;
        }

        try
        {
            using var whole = Image.NewFromBuffer(file, access: Enums.Access.Sequential, failOn: Enums.FailOn.Error);
            if ((long)whole.Width * whole.Height > MostPixels || whole.Width > (long)longest * whole.Height)
            {
                return null;
            }

            using var room = DecodingMemory.Take(DecodingMemory.Of(whole));
            // A drawing is drawn as large as it is wanted; of a picture, which may be cut short, every row is read.
            using var made = isDrawing
                ? Image.ThumbnailBuffer(file, highest * longest, height: highest, size: Enums.Size.Both, outputProfile: "srgb")
                : whole.ThumbnailImage(highest * longest, height: highest, size: Enums.Size.Down, outputProfile: "srgb");
            // Row by row it can be read only once.
            using var read = made.CopyMemory();
            // Few colours and sharp edges are smaller without loss, and sharper; a photograph would weigh many times what it needs.
            var (exact, near) = (read.WebpsaveBuffer(lossless: true, keep: Enums.ForeignKeep.None), read.WebpsaveBuffer(q: NearQuality, keep: Enums.ForeignKeep.None));
            return new SmallPicture(exact.Length <= Math.Max(near.Length, MostExact) ? exact : near, read.Width, read.Height);
        }
        catch (VipsException)
        {
            return null;
        }
    }

    /// <summary>An SVG, by the element that its beginning has.</summary>
    static bool IsDrawing(byte[] file) => file.AsSpan(0, Math.Min(file.Length, 2000)).IndexOf("<svg"u8) >= 0;
}
