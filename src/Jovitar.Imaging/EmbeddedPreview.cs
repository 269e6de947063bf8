using System.Buffers.Binary;
using NetVips;

namespace Jovitar.Imaging;

/// <summary>The small picture that a camera puts into its files, to be seen until a rendition of ours exists.</summary>
public static class EmbeddedPreview
{
    const int WidestPreview = 480;

    /// <summary>How far into a file its marker segments are looked for, bytes.</summary>
    const int HeadBytes = 256 * 1024;

    /// <summary>The preview in a file, upright and in the photo's own shape, as a JPEG.</summary>
    /// <returns>Null when there is none that can be read. Never an error: the rendition follows anyhow.</returns>
    public static byte[]? Extract(string original)
    {
        try
        {
            using var header = Image.NewFromFile(original, access: Enums.Access.Sequential);
            var found = MultiPicture(original) ?? (header.Contains("jpeg-thumbnail-data") ? (byte[])header.Get("jpeg-thumbnail-data") : null);
            if (found is null)
            {
                return null;
            }

            using var small = Image.ThumbnailBuffer(found, WidestPreview, height: WidestPreview, size: Enums.Size.Down, noRotate: true, failOn: Enums.FailOn.Error);
            using var shaped = InShape(small, (double)header.Width / header.Height);
            using var upright = Turn(shaped, header.Contains("orientation") ? (int)header.Get("orientation") : 1);
            return upright.JpegsaveBuffer(q: 80, keep: Enums.ForeignKeep.None);
        }
        catch (VipsException)
        {
            return null;
        }
    }

    /// <summary>Cameras pad the small picture with black to 4:3; the padding is cut off.</summary>
    static Image InShape(Image small, double shape)
    {
        var (width, height) = shape > (double)small.Width / small.Height ? (small.Width, (int)Math.Round(small.Width / shape)) : ((int)Math.Round(small.Height * shape), small.Height);
        return small.ExtractArea((small.Width - width) / 2, (small.Height - height) / 2, Math.Clamp(width, 1, small.Width), Math.Clamp(height, 1, small.Height));
    }

    /// <summary>Turns as the photo's orientation says (EXIF 2.32, tag 0x0112).</summary>
    static Image Turn(Image image, int orientation)
    {
        using var mirrored = orientation is 2 or 4 or 5 or 7 ? image.Flip(Enums.Direction.Horizontal) : image.Copy();
        return orientation switch
        {
            3 or 4 => mirrored.Rot180(),
            5 or 8 => mirrored.Rot270(),
            6 or 7 => mirrored.Rot90(),
            _ => mirrored.Copy(),
        };
    }

    /// <summary>The largest of the monitor-sized pictures that a Multi-Picture file carries behind the photo (CIPA DC-007, §5.2.3).</summary>
    static byte[]? MultiPicture(string path)
    {
        using var file = File.OpenRead(path);
        var head = new byte[Math.Min(HeadBytes, file.Length)];
        file.ReadExactly(head);
        for (var at = 2; at + 10 < head.Length && head[at] == 0xFF && head[at + 1] != 0xDA;)
        {
            var length = BinaryPrimitives.ReadUInt16BigEndian(head.AsSpan(at + 2));
            if (head[at + 1] == 0xE2 && at + 2 + length <= head.Length && head.AsSpan(at + 4).StartsWith("MPF\0"u8) && Largest(head.AsSpan(at + 8, Math.Max(0, length - 6))) is var (offset, size))
            {
                var start = at + 8 + offset;
                if (size is > 0 and < 8_000_000 && start + size <= file.Length)
                {
                    var bytes = new byte[size];
                    file.Position = start;
                    file.ReadExactly(bytes);
                    return bytes;
                }
            }

            at += 2 + Math.Max((int)length, 2);
        }

        return null;
    }

    /// <summary>Where the largest monitor-sized picture lies in the index of a Multi-Picture segment.</summary>
    static (long Offset, int Size)? Largest(ReadOnlySpan<byte> index)
    {
        if (index.Length < 8)
        {
            return null;
        }

        var little = index[0] == 'I';
        uint U32(ReadOnlySpan<byte> at) => little ? BinaryPrimitives.ReadUInt32LittleEndian(at) : BinaryPrimitives.ReadUInt32BigEndian(at);
        ushort U16(ReadOnlySpan<byte> at) => little ? BinaryPrimitives.ReadUInt16LittleEndian(at) : BinaryPrimitives.ReadUInt16BigEndian(at);
        var fields = (long)U32(index[4..]);
        if (fields + 2 > index.Length)
        {
            return null;
        }

        var count = U16(index[(int)fields..]);
        for (var i = 0; i < count; i++)
        {
            var at = fields + 2 + (i * 12);
            if (at + 12 > index.Length)
            {
                return null;
            }

            var field = index[(int)at..];
            // Tag 0xB002: the entries, sixteen bytes each: attributes, size, offset, two dependants.
            if (U16(field) != 0xB002)
            {
                continue;
            }

            long entries = U32(field[8..]);
            (long, int)? best = null;
            for (var e = entries; e + 16 <= index.Length && e < entries + U32(field[4..]); e += 16)
            {
                var entry = index[(int)e..];
                var (kind, size, offset) = (U32(entry) & 0xFFFFFF, U32(entry[4..]), U32(entry[8..]));
                if (kind is 0x010001 or 0x010002 && size < int.MaxValue && (best is null || size > best.Value.Item2))
                {
                    best = (offset, (int)size);
                }
            }

            return best;
        }

        return null;
    }
}
