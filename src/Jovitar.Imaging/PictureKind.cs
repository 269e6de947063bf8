using System.Buffers.Binary;

namespace Jovitar.Imaging;

/// <summary>What a file is, judged by its first bytes and never by its name.</summary>
public enum PictureKind
{
    /// <summary>Nothing that is known to be a picture.</summary>
    None,

    /// <summary>A picture of a kind that is not taken.</summary>
    Other,
    Jpeg,
    Png,
    WebP,
    Tiff,
    Avif,
    Gif,
}

/// <summary>Tells kinds of files apart by the marks their standards set at the start.</summary>
public static class PictureKinds
{
    /// <summary>How many bytes are enough to judge.</summary>
    public const int BytesNeeded = 64;

    /// <summary>Judges the first bytes of a file.</summary>
    public static PictureKind Judge(ReadOnlySpan<byte> head)
    {
        // JPEG: ITU-T T.81 B.1.1.3. PNG: ISO/IEC 15948 5.2. GIF89a. TIFF 6.0 §2, BigTIFF by its 43. WebP: RFC 9649.
        if (head.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8, 0xFF]))
        {
            return PictureKind.Jpeg;
        }

        if (head.StartsWith((ReadOnlySpan<byte>)[0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]))
        {
            return PictureKind.Png;
        }

        if (head.StartsWith("GIF87a"u8) || head.StartsWith("GIF89a"u8))
        {
            return PictureKind.Gif;
        }

        if (head.Length >= 4 && ((head.StartsWith("II"u8) && head[2] is 42 or 43 && head[3] == 0) || (head.StartsWith("MM"u8) && head[2] == 0 && head[3] is 42 or 43)))
        {
            return PictureKind.Tiff;
        }

        if (head.Length >= 12 && head.StartsWith("RIFF"u8) && head[8..12].SequenceEqual("WEBP"u8))
        {
            return PictureKind.WebP;
        }

        if (head.Length >= 16 && head[4..8].SequenceEqual("ftyp"u8))
        {
            return JudgeBrands(head);
        }

        var other = head.StartsWith("BM"u8) || head.StartsWith("8BPS"u8) || head.StartsWith("<svg"u8) || head.StartsWith((ReadOnlySpan<byte>)[0, 0, 1, 0])
            || head.StartsWith((ReadOnlySpan<byte>)[0xFF, 0x0A]) || head.StartsWith((ReadOnlySpan<byte>)[0, 0, 0, 0x0C, 0x4A, 0x58, 0x4C, 0x20]);
        return other ? PictureKind.Other : PictureKind.None;
    }

    /// <summary>ISO base media files name what they conform to as brands (ISO/IEC 14496-12 §4.3, ISO/IEC 23000-22 for avif).</summary>
    static PictureKind JudgeBrands(ReadOnlySpan<byte> head)
    {
        var end = (int)Math.Min(BinaryPrimitives.ReadUInt32BigEndian(head), (uint)head.Length);
        var kind = PictureKind.None;
        for (var at = 8; at + 4 <= end; at += 4)
        {
            var brand = head.Slice(at, 4);
            if (brand.SequenceEqual("avif"u8) || brand.SequenceEqual("avis"u8))
            {
                return PictureKind.Avif;
            }

            if (brand.SequenceEqual("heic"u8) || brand.SequenceEqual("heix"u8) || brand.SequenceEqual("mif1"u8))
            {
                kind = PictureKind.Other;
            }
        }

        return kind;
    }

    /// <summary>The media type under which a kind is sent (IANA).</summary>
    public static string MediaType(PictureKind kind) => kind switch
    {
        PictureKind.Jpeg => "image/jpeg",
        PictureKind.Png => "image/png",
        PictureKind.WebP => "image/webp",
        PictureKind.Tiff => "image/tiff",
        PictureKind.Avif => "image/avif",
        PictureKind.Gif => "image/gif",
        _ => "application/octet-stream",
    };
}
