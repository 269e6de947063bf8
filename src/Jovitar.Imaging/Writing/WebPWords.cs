using System.Buffers.Binary;
using Jovitar.Core.Photos;

namespace Jovitar.Imaging.Writing;

/// <summary>Writes words into a WebP (RFC 9649 §2.7): its EXIF and XMP chunks are made anew at its end, all others are copied as they are.</summary>
static class WebPWords
{
    const byte ExifFlag = 0x08, XmpFlag = 0x04, AlphaFlag = 0x10;

    public static async Task WriteAsync(Stream from, LeavingWords words, Stream to, CancellationToken ct)
    {
        var chunks = Read(from);
        var exif = await BytesAsync(from, chunks, "EXIF", ct);
        var xmp = await BytesAsync(from, chunks, "XMP ", ct);
        var stream = new MemoryStream();
        stream.Write(exif is null ? TiffWords.New().ToArray() : exif.AsSpan().StartsWith("Exif\0\0"u8) ? exif[6..] : exif);
        if (!TiffWords.Apply(stream, words))
        {
            stream = TiffWords.New();
            TiffWords.Apply(stream, words);
        }

        var (block, packet) = (stream.ToArray(), XmpWords.Packet(xmp, words));
        var extended = await ExtendedAsync(from, chunks, ct);
        var kept = chunks.Where(c => c.Kind is not ("VP8X" or "EXIF" or "XMP ")).ToArray();
        long Padded(long length) => 8 + length + (length & 1);
        var size = 4 + Padded(extended.Length) + kept.Sum(c => Padded(c.Length)) + Padded(block.Length) + Padded(packet.Length);
        to.Write([.. "RIFF"u8, .. U32(checked((uint)size)), .. "WEBP"u8]);
        Write(to, "VP8X", extended);
        foreach (var chunk in kept)
        {
            to.Write([.. System.Text.Encoding.ASCII.GetBytes(chunk.Kind), .. U32((uint)chunk.Length)]);
            from.Position = chunk.At;
            var copied = new byte[64 * 1024];
            for (var left = chunk.Length; left > 0;)
            {
                var read = await from.ReadAsync(copied.AsMemory(0, (int)Math.Min(left, copied.Length)), ct);
                if (read == 0)
                {
                    throw new EndOfStreamException();
                }

                await to.WriteAsync(copied.AsMemory(0, read), ct);
                left -= read;
            }

            if ((chunk.Length & 1) != 0)
            {
                to.WriteByte(0);
            }
        }

        Write(to, "EXIF", block);
        Write(to, "XMP ", packet);
    }

    sealed record Chunk(string Kind, long At, long Length);

    static List<Chunk> Read(Stream from)
    {
        var chunks = new List<Chunk>();
        Span<byte> head = stackalloc byte[8];
        for (from.Position = 12; from.Position + 8 <= from.Length;)
        {
            from.ReadExactly(head);
            long length = BinaryPrimitives.ReadUInt32LittleEndian(head[4..]);
            chunks.Add(new Chunk(System.Text.Encoding.ASCII.GetString(head[..4]), from.Position, length));
            from.Position += length + (length & 1);
        }

        return chunks;
    }

    static async Task<byte[]?> BytesAsync(Stream from, List<Chunk> chunks, string kind, CancellationToken ct)
    {
        if (chunks.Find(c => c.Kind == kind) is not { Length: <= FileParts.MostOfOne } chunk)
        {
            return null;
        }

        var bytes = new byte[chunk.Length];
        from.Position = chunk.At;
        await from.ReadExactlyAsync(bytes, ct);
        return bytes;
    }

    /// <summary>The header that says what there is besides the picture; made where there is none, with the picture's size out of its own header.</summary>
    static async Task<byte[]> ExtendedAsync(Stream from, List<Chunk> chunks, CancellationToken ct)
    {
        if (await BytesAsync(from, chunks, "VP8X", ct) is { Length: >= 10 } there)
        {
            there[0] |= ExifFlag | XmpFlag;
            return there;
        }

        var picture = chunks.Find(c => c.Kind is "VP8 " or "VP8L") ?? throw new InvalidDataException("There is no picture in it.");
        var head = new byte[10];
        from.Position = picture.At;
        await from.ReadExactlyAsync(head, ct);
        var packed = BinaryPrimitives.ReadUInt32LittleEndian(head.AsSpan(1));
        // VP8: RFC 6386 §9.1, 14 bits each after the start code. VP8L: RFC 9649 §3.4, 14 bits each less one, then whether it has transparency.
        var (width, height, alpha) = picture.Kind == "VP8 "
            ? (BinaryPrimitives.ReadUInt16LittleEndian(head.AsSpan(6)) & 0x3FFF, BinaryPrimitives.ReadUInt16LittleEndian(head.AsSpan(8)) & 0x3FFF, false)
            : ((int)(packed & 0x3FFF) + 1, (int)((packed >> 14) & 0x3FFF) + 1, ((packed >> 28) & 1) != 0);
        var extended = new byte[10];
        extended[0] = (byte)(ExifFlag | XmpFlag | (alpha ? AlphaFlag : 0));
        U32((uint)(width - 1)).AsSpan(0, 3).CopyTo(extended.AsSpan(4));
        U32((uint)(height - 1)).AsSpan(0, 3).CopyTo(extended.AsSpan(7));
        return extended;
    }

    static byte[] U32(uint value)
    {
        var bytes = new byte[4];
        BinaryPrimitives.WriteUInt32LittleEndian(bytes, value);
        return bytes;
    }

    static void Write(Stream to, string kind, byte[] bytes)
    {
        to.Write([.. System.Text.Encoding.ASCII.GetBytes(kind), .. U32((uint)bytes.Length), .. bytes]);
        if ((bytes.Length & 1) != 0)
        {
            to.WriteByte(0);
        }
    }
}
