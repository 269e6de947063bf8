using System.Buffers.Binary;
using System.Security.Cryptography;
using Jovitar.Core.Photos;

namespace Jovitar.Imaging.Writing;

/// <summary>
/// Writes words into a JPEG (ITU-T T.81 B.1.1): its segments of words are made anew, all others and the picture itself are copied as
/// they are. What stands behind the picture's end (other pictures, CIPA DC-007, or films), with words and places of its own, does not
/// leave, and neither does the segment that says where it stands.
/// </summary>
static class JpegWords
{
    /// <summary>Bytes of one segment after its length (two bytes hold 65,535, themselves counted in).</summary>
    const int MostOfSegment = 65_533;

    const int App1 = 0xE1, App2 = 0xE2, App13 = 0xED, StartOfScan = 0xDA, EndOfImage = 0xD9, App0 = 0xE0;
    const ushort IimResource = 0x0404, IimDigest = 0x0425;

    static ReadOnlySpan<byte> ExifMark => "Exif\0\0"u8;

    static ReadOnlySpan<byte> XmpMark => "http://ns.adobe.com/xap/1.0/\0"u8;

    static ReadOnlySpan<byte> XmpExtension => "http://ns.adobe.com/xmp/extension/\0"u8;

    static ReadOnlySpan<byte> OtherPicturesMark => "MPF\0"u8;

    static ReadOnlySpan<byte> ResourcesMark => "Photoshop 3.0\0"u8;

    /// <exception cref="InvalidDataException">The segments before the picture are damaged.</exception>
    public static async Task WriteAsync(Stream from, LeavingWords words, Stream to, CancellationToken ct)
    {
        var (exif, xmp, resources) = ((byte[]?)null, (byte[]?)null, new MemoryStream());
        var kept = new List<(byte Marker, byte[] Bytes)>();
        from.Position = 2;
        byte scan;
        while (true)
        {
            var marker = Marker(from);
            if (marker is StartOfScan or EndOfImage)
            {
                scan = marker;
                break;
            }

            if (marker is 0x01 or (>= 0xD0 and <= 0xD7))
            {
                kept.Add((marker, []));
                continue;
            }

            var segment = Segment(from);
            if (marker == App1 && segment.AsSpan().StartsWith(ExifMark))
            {
                exif ??= segment[ExifMark.Length..];
            }
            else if (marker == App1 && segment.AsSpan().StartsWith(XmpMark))
            {
                xmp ??= segment[XmpMark.Length..];
            }
            else if ((marker == App1 && segment.AsSpan().StartsWith(XmpExtension)) || (marker == App2 && segment.AsSpan().StartsWith(OtherPicturesMark)))
            {
                // Part of the packet that is made anew, or where pictures stand that do not leave: not carried over.
                continue;
            }
            else if (marker == App13 && segment.AsSpan().StartsWith(ResourcesMark))
            {
                resources.Write(segment.AsSpan(ResourcesMark.Length));
            }
            else
            {
                kept.Add((marker, segment));
            }
        }

        to.Write([0xFF, 0xD8]);
        // A JFIF segment comes first where there is one (ITU-T T.871); everything else follows what is ours.
        foreach (var (marker, bytes) in kept.Where(k => k.Marker == App0))
        {
            Write(to, marker, bytes);
        }

        if (Exif(exif, words) is { } block)
        {
            Write(to, App1, [.. ExifMark, .. block]);
        }

        Write(to, App1, [.. XmpMark, .. XmpWords.Packet(xmp, words, MostOfSegment - XmpMark.Length)]);
        foreach (var piece in Resources(resources.ToArray(), words).Chunk(MostOfSegment - ResourcesMark.Length))
        {
            Write(to, App13, [.. ResourcesMark, .. piece]);
        }

        foreach (var (marker, bytes) in kept.Where(k => k.Marker != App0))
        {
            Write(to, marker, bytes);
        }

        to.Write([0xFF, scan]);
        await CopyPictureAsync(from, to, ct);
    }

    /// <summary>
    /// Copies up to the end of the picture. Within coded data every FF is followed by zero or is a restart (F.1.2.3, B.1.1.2); any other
    /// marker begins a segment that says how long it is, in which the end's two bytes may stand by chance.
    /// </summary>
    static async Task CopyPictureAsync(Stream from, Stream to, CancellationToken ct)
    {
        var bytes = new byte[64 * 1024];
        // After SOS comes its own header.
        var (skip, length, wasFf, inLength) = (0, 0, false, 2);
        for (int read; (read = await from.ReadAsync(bytes, ct)) > 0;)
        {
            for (var i = 0; i < read; i++)
            {
                if (skip > 0)
                {
                    var passed = Math.Min(skip, read - i);
                    skip -= passed;
                    i += passed - 1;
                    continue;
                }

                var b = bytes[i];
                if (inLength > 0)
                {
                    length = (length << 8) | b;
                    if (--inLength == 0)
                    {
                        (skip, length) = (Math.Max(0, length - 2), 0);
                    }
                }
                else if (!wasFf)
                {
                    wasFf = b == 0xFF;
                }
                else if (b == EndOfImage)
                {
                    await to.WriteAsync(bytes.AsMemory(0, i + 1), ct);
                    return;
                }
                else if (b != 0xFF)
                {
                    wasFf = false;
                    inLength = b is 0x00 or 0x01 or (>= 0xD0 and <= 0xD8) ? 0 : 2;
                }
            }

            await to.WriteAsync(bytes.AsMemory(0, read), ct);
        }
    }

    /// <summary>The block with the words; where it would not fit, or is damaged, one that says only ours.</summary>
    static byte[]? Exif(byte[]? existing, LeavingWords words)
    {
        if (existing is not null)
        {
            var block = new MemoryStream();
            block.Write(existing);
            if (TiffWords.Apply(block, words) && block.Length <= MostOfSegment - ExifMark.Length)
            {
                return block.ToArray();
            }
        }

        var anew = TiffWords.New();
        TiffWords.Apply(anew, words);
        if (anew.Length <= MostOfSegment - ExifMark.Length)
        {
            return anew.ToArray();
        }

        anew = TiffWords.New();
        TiffWords.Apply(anew, words with { Caption = "", Copyright = "", Creator = "" });
        return anew.ToArray();
    }

    /// <summary>Image resources with the block and its digest made anew ("8BIM", number, padded name, length, padded bytes).</summary>
    static byte[] Resources(ReadOnlySpan<byte> existing, LeavingWords words)
    {
        byte[]? iim = null;
        var kept = new MemoryStream();
        for (var at = 0; at + 12 <= existing.Length && existing.Slice(at, 4).SequenceEqual("8BIM"u8);)
        {
            var number = BinaryPrimitives.ReadUInt16BigEndian(existing[(at + 4)..]);
            var name = existing[at + 6] + 1;
            var start = at + 6 + name + (name & 1);
            if (start + 4 > existing.Length)
            {
                break;
            }

            var length = BinaryPrimitives.ReadInt32BigEndian(existing[start..]);
            if (length < 0 || length > existing.Length - start - 4)
            {
                break;
            }

            var end = Math.Min(existing.Length, start + 4 + length + (length & 1));
            if (number == IimResource)
            {
                iim ??= existing.Slice(start + 4, length).ToArray();
            }
            else if (number != IimDigest)
            {
                kept.Write(existing[at..end]);
            }

            at = end;
        }

        var block = IimWords.Block(iim, words);
        var all = new MemoryStream();
        Resource(all, IimResource, block);
#pragma warning disable CA5351 // The standard's digest is MD5; it guards nothing.
        Resource(all, IimDigest, MD5.HashData(block));
#pragma warning restore CA5351
        kept.WriteTo(all);
        return all.ToArray();
    }

    static void Resource(MemoryStream to, ushort number, byte[] bytes)
    {
        Span<byte> head = stackalloc byte[12];
        "8BIM"u8.CopyTo(head);
        BinaryPrimitives.WriteUInt16BigEndian(head[4..], number);
        head[6..8].Clear();
        BinaryPrimitives.WriteInt32BigEndian(head[8..], bytes.Length);
        to.Write(head);
        to.Write(bytes);
        if ((bytes.Length & 1) != 0)
        {
            to.WriteByte(0);
        }
    }

    static byte Marker(Stream from)
    {
        if (from.ReadByte() != 0xFF)
        {
            throw new InvalidDataException("A segment does not begin where the one before it ends.");
        }

        int marker;
        do
        {
            marker = from.ReadByte();
        }
        while (marker == 0xFF);
        return marker < 0 ? throw new EndOfStreamException() : (byte)marker;
    }

    static byte[] Segment(Stream from)
    {
        Span<byte> length = stackalloc byte[2];
        from.ReadExactly(length);
        var bytes = new byte[Math.Max(0, BinaryPrimitives.ReadUInt16BigEndian(length) - 2)];
        from.ReadExactly(bytes);
        return bytes;
    }

    static void Write(Stream to, int marker, byte[] bytes)
    {
        Span<byte> head = [0xFF, (byte)marker, 0, 0];
        if (marker is 0x01 or (>= 0xD0 and <= 0xD7))
        {
            to.Write(head[..2]);
            return;
        }

        BinaryPrimitives.WriteUInt16BigEndian(head[2..], checked((ushort)(bytes.Length + 2)));
        to.Write(head);
        to.Write(bytes);
    }
}
