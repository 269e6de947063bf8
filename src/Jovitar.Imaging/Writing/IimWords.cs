using System.Buffers.Binary;
using System.Globalization;
using System.Text;
using Jovitar.Core.Photos;

namespace Jovitar.Imaging.Writing;

/// <summary>Writes words as IPTC-IIM 4.2 in UTF-8; what else a block says stays. Its texts are short: longer ones are cut at a character.</summary>
static class IimWords
{
    /// <summary>Says that texts are UTF-8 (1:90, ISO 2022).</summary>
    static readonly byte[] Utf8 = [0x1B, 0x25, 0x47];

    /// <summary>Texts of the application record by number, and bytes that fit.</summary>
    static readonly (byte Number, int Most)[] Ours = [(5, 64), (25, 64), (55, 8), (60, 11), (80, 32), (92, 32), (105, 256), (110, 32), (115, 32), (116, 128), (120, 2000), (122, 32)];

    /// <param name="existing">The file's own block, or null.</param>
    public static byte[] Block(byte[]? existing, LeavingWords w)
    {
        var sets = Read(existing ?? []);
        var wasUtf8 = sets.Any(s => s.Record == 1 && s.Number == 90 && s.Bytes.AsSpan().SequenceEqual(Utf8));
        sets.RemoveAll(s => s is { Record: 1, Number: 90 } or { Record: 2, Number: 0 } || (s.Record == 2 && Array.Exists(Ours, o => o.Number == s.Number)));
        if (!wasUtf8)
        {
            // What others wrote without saying how was Latin-1 by common practice. Pictures within the block are no text.
            sets = sets.ConvertAll(s => s is { Record: 2, Number: < 200 and not 125 } ? s with { Bytes = Encoding.UTF8.GetBytes(Encoding.Latin1.GetString(s.Bytes)) } : s);
        }

        var ours = new List<Set> { new(1, 90, Utf8), new(2, 0, [0, 4]) };
        void Say(byte number, string text)
        {
            if (text.Length > 0)
            {
                ours.Add(new Set(2, number, Cut(text, Array.Find(Ours, o => o.Number == number).Most)));
            }
        }

        Say(5, w.Title);
        foreach (var tag in w.Tags)
        {
            Say(25, tag);
        }

        if (w.Taken is { } taken)
        {
            Say(55, taken.Local.ToString("yyyyMMdd", CultureInfo.InvariantCulture));
            Say(60, taken.Local.ToString("HHmmss", CultureInfo.InvariantCulture) + (taken.Offset is { } away ? $"{(away < TimeSpan.Zero ? '-' : '+')}{away:hhmm}" : ""));
        }

        Say(80, w.Creator);
        Say(92, w.Place);
        Say(110, w.Credit);
        Say(115, w.Origin);
        Say(116, w.Copyright);
        Say(120, w.Caption);
        var block = new MemoryStream();
        foreach (var set in ours.Concat(sets).OrderBy(s => s.Record).ThenBy(s => s.Record == 2 ? s.Number : 0))
        {
            Write(block, set);
        }

        return block.ToArray();
    }

    sealed record Set(byte Record, byte Number, byte[] Bytes);

    static byte[] Cut(string text, int most)
    {
        var bytes = Encoding.UTF8.GetBytes(text);
        while (bytes.Length > most)
        {
            text = Core.Text.Cut(text, Math.Max(0, text.Length - Math.Max(1, (bytes.Length - most) / 4)));
            bytes = Encoding.UTF8.GetBytes(text);
        }

        return bytes;
    }

    /// <summary>Marker, record, number, length (two bytes, or so many bytes of length), bytes: as far as it can be read.</summary>
    static List<Set> Read(ReadOnlySpan<byte> block)
    {
        var sets = new List<Set>();
        for (var at = 0; at + 5 <= block.Length && block[at] == 0x1C;)
        {
            int length = BinaryPrimitives.ReadUInt16BigEndian(block[(at + 3)..]);
            var start = at + 5;
            if ((length & 0x8000) != 0)
            {
                var bytes = length & 0x7FFF;
                if (bytes is 0 or > 4 || start + bytes > block.Length)
                {
                    break;
                }

                length = 0;
                for (var i = 0; i < bytes; i++)
                {
                    length = (length << 8) | block[start + i];
                }

                start += bytes;
            }

            if (length < 0 || length > block.Length - start)
            {
                break;
            }

            sets.Add(new Set(block[at + 1], block[at + 2], block.Slice(start, length).ToArray()));
            at = start + length;
        }

        return sets;
    }

    static void Write(MemoryStream to, Set set)
    {
        to.Write([0x1C, set.Record, set.Number]);
        Span<byte> length = stackalloc byte[6];
        if (set.Bytes.Length < 0x8000)
        {
            BinaryPrimitives.WriteUInt16BigEndian(length, (ushort)set.Bytes.Length);
            to.Write(length[..2]);
        }
        else
        {
            BinaryPrimitives.WriteUInt16BigEndian(length, 0x8004);
            BinaryPrimitives.WriteInt32BigEndian(length[2..], set.Bytes.Length);
            to.Write(length);
        }

        to.Write(set.Bytes);
    }
}
