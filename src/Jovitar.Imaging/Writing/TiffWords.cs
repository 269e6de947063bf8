using System.Buffers.Binary;
using System.Globalization;
using System.Text;
using Jovitar.Core.Photos;

namespace Jovitar.Imaging.Writing;

/// <summary>
/// Writes words into a TIFF structure (TIFF 6.0 §2), which EXIF (2.32) is, too. Nothing that is there is moved: what changes is
/// appended, with new directories that point to all the rest where it stood, so that makers' notes stay readable. What was said
/// before is overwritten with zeros.
/// </summary>
sealed class TiffWords
{
    const ushort Description = 0x010E, Artist = 0x013B, Copyright = 0x8298, ExifPointer = 0x8769, GpsPointer = 0x8825, XmpPacket = 700, IimBlock = 33723;
    const ushort DateTimeOriginal = 0x9003, OffsetTimeOriginal = 0x9011, SubSecOriginal = 0x9291, ExifVersion = 0x9000;

    /// <summary>Ratings and words of file explorers, which speak besides the standards.</summary>
    static readonly ushort[] Explorers = [0x4746, 0x4749, 0x9C9B, 0x9C9C, 0x9C9D, 0x9C9E, 0x9C9F];

    readonly Stream block;
    readonly bool little;

    TiffWords(Stream block, bool little) => (this.block, this.little) = (block, little);

    /// <summary>A new, empty block.</summary>
    public static MemoryStream New()
    {
        var block = new MemoryStream();
        block.Write("II*\0\x08\0\0\0"u8);
        block.Write(stackalloc byte[6]);
        return block;
    }

    /// <summary>Writes into a block that can be read, written and sought.</summary>
    /// <param name="xmp">A packet that stands in the same directory, as in TIFF files; null where it stands elsewhere.</param>
    /// <param name="iim">Likewise.</param>
    /// <returns>False when it is no such block, or is damaged; then it may be written in part.</returns>
    public static bool Apply(Stream block, LeavingWords words, byte[]? xmp = null, byte[]? iim = null)
    {
        try
        {
            block.Position = 0;
            Span<byte> head = stackalloc byte[8];
            block.ReadExactly(head);
            var little = head[0] == 'I';
            if (!head.StartsWith("II*\0"u8) && !head.StartsWith("MM\0*"u8))
            {
                return false;
            }

            new TiffWords(block, little).Write(words, xmp, iim);
            return true;
        }
        catch (Exception e) when (e is EndOfStreamException or InvalidDataException or OverflowException)
        {
            return false;
        }
    }

    /// <summary>The packet and the block that stand in the first directory, as in TIFF files.</summary>
    public static (byte[]? Xmp, byte[]? Iim) Blocks(Stream block)
    {
        Span<byte> head = stackalloc byte[8];
        block.Position = 0;
        block.ReadExactly(head);
        var tiff = new TiffWords(block, head[0] == 'I');
        var (entries, _) = tiff.Read(tiff.U32(head[4..]));
        return (tiff.Value(entries, XmpPacket), tiff.Value(entries, IimBlock));
    }

    void Write(LeavingWords words, byte[]? xmp, byte[]? iim)
    {
        var (first, next) = Read(U32(At(4, 4)));
        Say(first, Description, words.Caption);
        Say(first, Artist, words.Creator);
        Say(first, Copyright, words.Copyright);
        foreach (var tag in Explorers)
        {
            Drop(first, tag);
        }

        if (xmp is not null)
        {
            Put(first, XmpPacket, 1, xmp);
        }

        if (iim is not null)
        {
            Put(first, IimBlock, 7, iim);
        }

        var sub = first.TryGetValue(ExifPointer, out var pointer) ? Read(U32(pointer.Value)).Entries : [];
        Say(sub, DateTimeOriginal, words.Taken?.Local.ToString("yyyy:MM:dd HH:mm:ss", CultureInfo.InvariantCulture) ?? "");
        Say(sub, OffsetTimeOriginal, words.Taken?.Offset is { } away ? $"{(away < TimeSpan.Zero ? '-' : '+')}{away:hh\\:mm}" : "");
        Drop(sub, SubSecOriginal);
        if (sub.Count > 0 && !sub.ContainsKey(ExifVersion))
        {
            Put(sub, ExifVersion, 7, "0232"u8.ToArray());
        }

        Point(first, ExifPointer, sub);
        if (first.TryGetValue(GpsPointer, out var where))
        {
            Forget(U32(where.Value));
        }

        Point(first, GpsPointer, words.Position is { } at ? Gps(at) : []);
        var directory = Append(first, next);
        block.Position = 4;
        block.Write(U32(directory));
    }

    /// <summary>One entry as it stands: its type, how many values, and the value itself or where it stands.</summary>
    sealed record Entry(ushort Type, uint Count, byte[] Value)
    {
        public long Bytes => Count * (long)(Type switch { 3 or 8 => 2, 4 or 9 or 11 or 13 => 4, 5 or 10 or 12 => 8, _ => 1 });
    }

    (SortedDictionary<ushort, Entry> Entries, uint Next) Read(uint at)
    {
        var entries = new SortedDictionary<ushort, Entry>();
        var count = U16(At(at, 2));
        var rows = At(at + 2, (count * 12) + 4);
        for (var i = 0; i < count; i++)
        {
            var row = rows.AsSpan(i * 12, 12);
            entries[U16(row)] = new Entry(U16(row[2..]), U32(row[4..]), row[8..].ToArray());
        }

        return (entries, U32(rows.AsSpan(count * 12)));
    }

    byte[]? Value(SortedDictionary<ushort, Entry> entries, ushort tag) =>
        !entries.TryGetValue(tag, out var entry) || entry.Bytes > FileParts.MostOfOne ? null : entry.Bytes <= 4 ? entry.Value[..(int)entry.Bytes] : At(U32(entry.Value), (int)entry.Bytes);

    void Say(SortedDictionary<ushort, Entry> entries, ushort tag, string text)
    {
        Drop(entries, tag);
        if (text.Length > 0)
        {
            // ASCII by the standard, UTF-8 by the Metadata Working Group's guidelines and in practice.
            Put(entries, tag, 2, [.. Encoding.UTF8.GetBytes(text), 0]);
        }
    }

    void Put(SortedDictionary<ushort, Entry> entries, ushort tag, ushort type, byte[] bytes)
    {
        Drop(entries, tag);
        var size = type == 5 ? 8 : 1;
        entries[tag] = new Entry(type, (uint)(bytes.Length / size), bytes.Length <= 4 ? [.. bytes, .. new byte[4 - bytes.Length]] : U32(Append(bytes)));
    }

    /// <summary>Takes an entry out and overwrites what it said.</summary>
    void Drop(SortedDictionary<ushort, Entry> entries, ushort tag)
    {
        if (entries.Remove(tag, out var entry) && entry.Bytes is > 4 and <= FileParts.MostOfOne)
        {
            Zero(U32(entry.Value), entry.Bytes);
        }
    }

    void Point(SortedDictionary<ushort, Entry> entries, ushort tag, SortedDictionary<ushort, Entry> directory)
    {
        entries.Remove(tag);
        if (directory.Count > 0)
        {
            entries[tag] = new Entry(4, 1, U32(Append(directory, 0)));
        }
    }

    /// <summary>Overwrites a directory and all that it says.</summary>
    void Forget(uint at)
    {
        var (entries, _) = Read(at);
        foreach (var tag in entries.Keys.ToArray())
        {
            Drop(entries, tag);
        }

        Zero(at, 2 + (U16(At(at, 2)) * 12L) + 4);
    }

    SortedDictionary<ushort, Entry> Gps(Position at)
    {
        var gps = new SortedDictionary<ushort, Entry>();
        Put(gps, 0, 1, [2, 3, 0, 0]);
        Put(gps, 1, 2, [at.Latitude < 0 ? (byte)'S' : (byte)'N', 0]);
        Put(gps, 2, 5, Angle(at.Latitude));
        Put(gps, 3, 2, [at.Longitude < 0 ? (byte)'W' : (byte)'E', 0]);
        Put(gps, 4, 5, Angle(at.Longitude));
        return gps;
    }

    /// <summary>Degrees, minutes and seconds as three fractions.</summary>
    byte[] Angle(double degrees)
    {
        var all = (long)Math.Round(Math.Abs(degrees) * 3600 * 10_000);
        var seconds = all % 600_000;
        var minutes = all / 600_000 % 60;
        return [.. U32((uint)(all / 36_000_000)), .. U32(1), .. U32((uint)minutes), .. U32(1), .. U32((uint)seconds), .. U32(10_000)];
    }

    uint Append(SortedDictionary<ushort, Entry> entries, uint next)
    {
        var bytes = new List<byte>(U16((ushort)entries.Count));
        foreach (var (tag, entry) in entries)
        {
            bytes.AddRange([.. U16(tag), .. U16(entry.Type), .. U32(entry.Count), .. entry.Value]);
        }

        bytes.AddRange(U32(next));
        return Append([.. bytes]);
    }

    uint Append(byte[] bytes)
    {
        block.Position = block.Length;
        if ((block.Position & 1) != 0)
        {
            block.WriteByte(0);
        }

        var at = checked((uint)block.Position);
        block.Write(bytes);
        return at;
    }

    void Zero(uint at, long bytes)
    {
        if (at + bytes <= block.Length)
        {
            block.Position = at;
            block.Write(new byte[bytes]);
        }
    }

    byte[] At(uint at, int bytes)
    {
        if (at + (long)bytes > block.Length)
        {
            throw new EndOfStreamException();
        }

        var read = new byte[bytes];
        block.Position = at;
        block.ReadExactly(read);
        return read;
    }

    ushort U16(ReadOnlySpan<byte> of) => little ? BinaryPrimitives.ReadUInt16LittleEndian(of) : BinaryPrimitives.ReadUInt16BigEndian(of);

    uint U32(ReadOnlySpan<byte> of) => little ? BinaryPrimitives.ReadUInt32LittleEndian(of) : BinaryPrimitives.ReadUInt32BigEndian(of);

    byte[] U16(ushort value)
    {
        var bytes = new byte[2];
        if (little)
        {
            BinaryPrimitives.WriteUInt16LittleEndian(bytes, value);
        }
        else
        {
            BinaryPrimitives.WriteUInt16BigEndian(bytes, value);
        }

        return bytes;
    }

    byte[] U32(uint value)
    {
        var bytes = new byte[4];
        if (little)
        {
            BinaryPrimitives.WriteUInt32LittleEndian(bytes, value);
        }
        else
        {
            BinaryPrimitives.WriteUInt32BigEndian(bytes, value);
        }

        return bytes;
    }
}
