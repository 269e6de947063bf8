using System.Buffers.Binary;
using System.IO.Hashing;
using System.Text;
using Jovitar.Core.Photos;

namespace Jovitar.Imaging.Writing;

/// <summary>Writes words into a PNG (ISO/IEC 15948:2004 §5.3; eXIf: PNG third edition §11.3.3.4): chunks of words are made anew, all others are copied as they are.</summary>
static class PngWords
{
    const string XmpKeyword = "XML:com.adobe.xmp";

    /// <summary>What others say in texts of their own besides the standards' blocks; it is out of date once ours is written.</summary>
    static readonly string[] Dropped = ["Title", "Author", "Description", "Copyright", XmpKeyword, "Raw profile type exif", "Raw profile type APP1", "Raw profile type iptc", "Raw profile type xmp"];

    public static async Task WriteAsync(Stream from, LeavingWords words, Stream to, CancellationToken ct)
    {
        var (exif, xmp) = Read(from);
        from.Position = 8;
        to.Write([0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]);
        var head = new byte[8];
        var copied = new byte[64 * 1024];
        while (from.Position + 12 <= from.Length)
        {
            from.ReadExactly(head);
            var length = BinaryPrimitives.ReadUInt32BigEndian(head);
            var kind = Encoding.ASCII.GetString(head, 4, 4);
            if (from.Position + length + 4 > from.Length)
            {
                throw new EndOfStreamException();
            }

            if (IsWords(from, kind, length))
            {
                from.Position += length + 4;
                continue;
            }

            to.Write(head);
            for (long left = length + 4; left > 0;)
            {
                var read = await from.ReadAsync(copied.AsMemory(0, (int)Math.Min(left, copied.Length)), ct);
                await to.WriteAsync(copied.AsMemory(0, read), ct);
                left -= read;
            }

            if (kind == "IHDR")
            {
                Write(to, "eXIf", exif is not null && Applied(exif, words) is { } kept ? kept : Applied(TiffWords.New().ToArray(), words)!);
                Write(to, "iTXt", [.. Encoding.Latin1.GetBytes(XmpKeyword), 0, 0, 0, 0, 0, .. XmpWords.Packet(xmp, words)]);
            }
        }
    }

    static byte[]? Applied(byte[] block, LeavingWords words)
    {
        var stream = new MemoryStream();
        stream.Write(block);
        return TiffWords.Apply(stream, words) ? stream.ToArray() : null;
    }

    static (byte[]? Exif, byte[]? Xmp) Read(Stream from)
    {
        var (exif, xmp) = ((byte[]?)null, (byte[]?)null);
        Span<byte> head = stackalloc byte[8];
        for (from.Position = 8; from.Position + 12 <= from.Length;)
        {
            from.ReadExactly(head);
            var length = BinaryPrimitives.ReadUInt32BigEndian(head);
            var next = from.Position + length + 4;
            if (next <= from.Length && length <= FileParts.MostOfOne)
            {
                if (head[4..].SequenceEqual("eXIf"u8))
                {
                    from.ReadExactly(exif = new byte[length]);
                }
                else if (head[4..].SequenceEqual("iTXt"u8) && Keyword(from, length) == XmpKeyword)
                {
                    var text = new byte[length];
                    from.ReadExactly(text);
                    // Keyword, NUL, packed or not, how, language, NUL, translated keyword, NUL, text.
                    var at = XmpKeyword.Length + 3;
                    at = Array.IndexOf(text, (byte)0, at) + 1;
                    at = Array.IndexOf(text, (byte)0, at) + 1;
                    xmp = text[XmpKeyword.Length + 1] == 0 && at > 0 ? text[at..] : null;
                }
            }

            from.Position = next;
        }

        return (exif, xmp);
    }

    static bool IsWords(Stream from, string kind, uint length) => kind == "eXIf" || (kind is "tEXt" or "zTXt" or "iTXt" && Dropped.Contains(Keyword(from, length)));

    /// <summary>The keyword that a chunk of text begins with; the stream stands where it stood.</summary>
    static string Keyword(Stream from, uint length)
    {
        Span<byte> start = stackalloc byte[80];
        start = start[..(int)Math.Min(80, length)];
        var at = from.Position;
        from.ReadExactly(start);
        from.Position = at;
        var end = start.IndexOf((byte)0);
        return end < 0 ? "" : Encoding.Latin1.GetString(start[..end]);
    }

    static void Write(Stream to, string kind, byte[] bytes)
    {
        Span<byte> number = stackalloc byte[4];
        BinaryPrimitives.WriteInt32BigEndian(number, bytes.Length);
        to.Write(number);
        byte[] chunk = [.. Encoding.ASCII.GetBytes(kind), .. bytes];
        to.Write(chunk);
        BinaryPrimitives.WriteUInt32BigEndian(number, Crc32.HashToUInt32(chunk));
        to.Write(number);
    }
}
