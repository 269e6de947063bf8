using System.Buffers.Binary;
using System.IO.Compression;

namespace Jovitar.Imaging;

/// <summary>What the parts of a file besides its picture come to when they are read.</summary>
/// <param name="TooFar">One of them grows, or says that it is, far beyond what photographs hold: the file is not to be read by anything.</param>
/// <param name="WordsReadable">Together they are small enough for the words in them to be read.</param>
public readonly record struct PartsVerdict(bool TooFar, bool WordsReadable);

/// <summary>
/// Looks at the parts of a file before any library reads it: libraries inflate, allocate what a header says, and gather all parts
/// in memory. Here packed parts are inflated into nothing and only counted, in constant memory.
/// </summary>
/// <remarks>
/// PNG chunks: ISO/IEC 15948 §5.3, §11.3. JPEG segments: ITU-T T.81 B.1.1; extended XMP: Adobe, XMP Specification Part 3, 1.1.3.1.
/// TIFF entries: TIFF 6.0 §2. RIFF chunks: RFC 9649 §2. The limits are common practice: the largest colour profiles have two
/// megabytes, the largest packets of words that programs write a few.
/// </remarks>
public static class FileParts
{
    /// <summary>Bytes that one part may come to when it is read.</summary>
    public const int MostOfOne = 16 << 20;

    /// <summary>Bytes of all parts with words in them, above which the words are left alone.</summary>
    public const int MostOfWords = 32 << 20;

    /// <summary>Parts besides the picture that a file may have.</summary>
    const int MostParts = 20_000;

    static readonly PartsVerdict Fine = new(TooFar: false, WordsReadable: true);
    static readonly PartsVerdict Bomb = new(TooFar: true, WordsReadable: false);

    /// <summary>Judges a file of a known kind. What is damaged is none of its business: decoding says so.</summary>
    public static PartsVerdict Judge(string path, PictureKind kind)
    {
        using var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 64 * 1024);
        try
        {
            return kind switch
            {
                PictureKind.Png => Png(file),
                PictureKind.Jpeg => Jpeg(file),
                PictureKind.Tiff => Tiff(file),
                PictureKind.WebP => WebP(file),
                PictureKind.Gif or PictureKind.Avif => new PartsVerdict(TooFar: false, WordsReadable: file.Length <= MostOfWords * 4L),
                _ => Fine,
            };
        }
        catch (EndOfStreamException)
        {
            return Fine;
        }
    }

    static PartsVerdict Png(FileStream file)
    {
        file.Position = 8;
        Span<byte> head = stackalloc byte[8];
        long words = 0;
        for (var parts = 0; file.Position + 12 <= file.Length; parts++)
        {
            file.ReadExactly(head);
            var length = BinaryPrimitives.ReadUInt32BigEndian(head);
            var next = file.Position + length + 4;
            var kind = System.Text.Encoding.ASCII.GetString(head[4..]);
            // As many pieces of the picture as there are; but not of anything else.
            if (kind is "IEND" || next > file.Length)
            {
                break;
            }

            if (kind is "IDAT" or "fdAT")
            {
                parts--;
            }
            else if (parts > MostParts || length > MostOfOne)
            {
                return Bomb;
            }

            if (kind is "zTXt" or "iTXt" or "iCCP")
            {
                var size = Inflated(file, kind, length);
                if (size > MostOfOne)
                {
                    return Bomb;
                }

                words += size;
            }
            else if (kind is "tEXt" or "eXIf")
            {
                words += length;
            }

            file.Position = next;
        }

        return new PartsVerdict(words > MostOfWords * 2L, words <= MostOfWords);
    }

    /// <summary>How many bytes a text or profile chunk comes to, counted no further than to its limit and one more.</summary>
    static long Inflated(FileStream file, string kind, uint length)
    {
        var end = file.Position + length;
        SkipText(file, end);
        if (kind is "iTXt")
        {
            // Keyword, compression flag, compression method, language, translated keyword, text.
            var packed = file.ReadByte() == 1;
            file.Position++;
            if (!packed)
            {
                return length;
            }

            SkipText(file, end);
            SkipText(file, end);
        }
        else
        {
            file.Position++;
        }

        return Count(new Within(file, end));
    }

    static void SkipText(FileStream file, long end)
    {
        while (file.Position < end && file.ReadByte() > 0)
        {
        }
    }

    static long Count(Stream packed)
    {
        using var inflate = new ZLibStream(packed, CompressionMode.Decompress, leaveOpen: true);
        var buffer = new byte[32 * 1024];
        long count = 0;
        try
        {
            int read;
            while (count <= MostOfOne && (read = inflate.Read(buffer)) > 0)
            {
                count += read;
            }
        }
        catch (InvalidDataException)
        {
            // Damaged: what can be read of it is what counts.
        }

        return count;
    }

    static PartsVerdict Jpeg(FileStream file)
    {
        file.Position = 2;
        Span<byte> head = stackalloc byte[4];
        Span<byte> start = stackalloc byte[75];
        long words = 0;
        for (var parts = 0; file.Position + 4 <= file.Length; parts++)
        {
            file.ReadExactly(head);
            var (mark, length) = (head[1], BinaryPrimitives.ReadUInt16BigEndian(head[2..]));
            if (head[0] != 0xFF || length < 2 || mark is 0xDA or 0xD9)
            {
                break;
            }

            if (mark is 0xFF)
            {
                // Fill bytes before a marker.
                file.Position -= 3;
                continue;
            }

            var next = file.Position + length - 2;
            if (mark is (>= 0xE0 and <= 0xEF) or 0xFE)
            {
                words += length;
                if (mark == 0xE1 && length - 2 >= start.Length)
                {
                    file.ReadExactly(start);
                    // Whoever gathers extended XMP makes room for all that its header says it comes to.
                    if (start.StartsWith("http://ns.adobe.com/xmp/extension/\0"u8) && BinaryPrimitives.ReadUInt32BigEndian(start[67..]) > Math.Min(MostOfOne, file.Length))
                    {
                        return Bomb;
                    }
                }
            }

            if (parts > MostParts)
            {
                return Bomb;
            }

            file.Position = next;
        }

        return new PartsVerdict(words > MostOfWords * 2L, words <= MostOfWords);
    }

    static PartsVerdict Tiff(FileStream file)
    {
        var head = new byte[16];
        file.ReadExactly(head, 0, 8);
        var little = head[0] == 'I';
        ushort U16(ReadOnlySpan<byte> at) => little ? BinaryPrimitives.ReadUInt16LittleEndian(at) : BinaryPrimitives.ReadUInt16BigEndian(at);
        uint U32(ReadOnlySpan<byte> at) => little ? BinaryPrimitives.ReadUInt32LittleEndian(at) : BinaryPrimitives.ReadUInt32BigEndian(at);
        if (U16(head.AsSpan(2)) != 42)
        {
            // BigTIFF: libvips reads the picture; its words are left alone.
            return new PartsVerdict(TooFar: false, WordsReadable: false);
        }

        var readable = true;
        var seen = new HashSet<uint>();
        for (var at = U32(head.AsSpan(4)); at != 0 && seen.Add(at) && seen.Count < MostParts;)
        {
            file.Position = at;
            file.ReadExactly(head, 0, 2);
            var count = U16(head);
            var entries = new byte[(count * 12) + 4];
            file.ReadExactly(entries);
            for (var i = 0; i < count; i++)
            {
                var entry = entries.AsSpan(i * 12, 12);
                var bytes = U32(entry[4..]) * (long)(U16(entry[2..]) switch { 3 or 8 => 2, 4 or 9 or 11 or 13 => 4, 5 or 10 or 12 => 8, _ => 1 });
                // XMP, IPTC, image resources, colour profile: what libraries take into memory whole.
                if (U16(entry) is 700 or 33723 or 34377 or 34675 && bytes > MostOfOne)
                {
                    return Bomb;
                }

                readable &= bytes <= MostOfWords;
            }

            at = U32(entries.AsSpan(count * 12));
        }

        return new PartsVerdict(seen.Count >= MostParts, readable);
    }

    static PartsVerdict WebP(FileStream file)
    {
        file.Position = 12;
        Span<byte> head = stackalloc byte[8];
        for (var parts = 0; file.Position + 8 <= file.Length; parts++)
        {
            file.ReadExactly(head);
            var length = BinaryPrimitives.ReadUInt32LittleEndian(head[4..]);
            var isPicture = head.StartsWith("VP8"u8) || head.StartsWith("ANMF"u8) || head.StartsWith("ALPH"u8);
            if (!isPicture && (length > MostOfOne || parts > MostParts))
            {
                return Bomb;
            }

            file.Position += length + (length & 1);
        }

        return Fine;
    }

    /// <summary>A stretch of a file, read as if it were all of it.</summary>
    sealed class Within(FileStream file, long end) : Stream
    {
        public override bool CanRead => true;

        public override bool CanSeek => false;

        public override bool CanWrite => false;

        public override long Length => throw new NotSupportedException();

        public override long Position { get => throw new NotSupportedException(); set => throw new NotSupportedException(); }

        public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

        public override int Read(Span<byte> buffer) => file.Read(buffer[..(int)Math.Clamp(end - file.Position, 0, buffer.Length)]);

        public override void Flush()
        {
        }

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
    }
}
