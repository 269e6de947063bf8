using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;
using Jovitar.Core.Photos;
using NetVips;

namespace Jovitar.Imaging.Tests;

/// <summary>What other programs and cameras write that is easily missed.</summary>
public sealed class OddFileTests
{
    static string With(string ending, params string[] tags)
    {
        var path = Tools.Quarters(ending);
        Tools.Run("exiftool", ["-q", "-m", "-overwrite_original", .. tags, path]);
        return path;
    }

    // EXIF tags 0x9C9B to 0x9C9F, UTF-16LE, as ExifTool writes them.
    [Fact]
    public void Words_that_file_explorers_write_are_read_where_nobody_else_says_anything()
    {
        var path = With(".jpg", "-EXIF:XPTitle=Över bryggan", "-EXIF:XPComment=Två ungdomar ☂", "-EXIF:XPAuthor=Tomas Weir", "-EXIF:XPKeywords=pir;kväll", "-IFD0:Rating=3");
        var read = MetadataReader.Read(path).Words;
        Assert.Equal(("Över bryggan", "Två ungdomar ☂", "Tomas Weir", 3), (read.Title, read.Caption, read.Creator, read.Rating));
        Assert.Equal(["pir", "kväll"], read.Keywords);
        Tools.Run("exiftool", "-q", "-m", "-overwrite_original", "-XMP-dc:Title=In XMP", "-EXIF:ImageDescription=In EXIF", "-XMP-dc:Subject=xmp", path);
        read = MetadataReader.Read(path).Words;
        Assert.Equal(("In XMP", "In EXIF", "Tomas Weir"), (read.Title, read.Caption, read.Creator));
        Assert.Equal(["xmp"], read.Keywords);
    }

    [Fact]
    public void XMP_and_EXIF_in_AVIF_are_read()
    {
        var path = Tools.NewPath(".avif");
        using (var image = Image.NewFromFile(Tools.Quarters(".png")))
        {
            image.Heifsave(path, compression: Enums.ForeignHeifCompression.Av1, effort: 1);
        }

        Tools.Run("exiftool", "-q", "-m", "-overwrite_original", "-XMP-dc:Title=Låst line in", "-XMP-dc:Subject=delta", "-EXIF:Make=Halcyon", "-EXIF:Model=H2", "-EXIF:DateTimeOriginal=2026:06:13 09:04:00", path);
        var read = MetadataReader.Read(path);
        Assert.Equal(("Låst line in", "Halcyon H2"), (read.Words.Title, read.Camera));
        Assert.Equal(["delta"], read.Words.Keywords);
        Assert.Equal(new DateTime(2026, 6, 13, 9, 4, 0), read.Words.Taken!.Value.Local);
    }

    [Fact]
    public void Packed_XMP_in_PNG_is_read()
    {
        var path = With(".png", "-z", "-XMP-dc:Title=Packed", $"-XMP-dc:Description={new string('x', 5000)}");
        Assert.Equal("Packed", MetadataReader.Read(path).Words.Title);
    }

    // A packet over 64 KB is split by ExifTool as XMP Specification Part 3, 1.1.3.1 has it.
    [Fact]
    public void Words_in_extended_XMP_are_read_whole_and_so_are_many_keywords()
    {
        var caption = string.Concat(Enumerable.Range(0, 2000).Select(i => $"word {i:0000}, "));
        var arguments = Tools.NewPath(".args");
        File.WriteAllLines(arguments, ["-XMP-dc:Title=Short", $"-XMP-dc:Description={caption}", $"-XMP-iptcCore:ExtDescrAccessibility={new string('y', 70_000)}", .. Enumerable.Range(0, 500).Select(i => $"-XMP-dc:Subject=keyword {i}")]);
        var path = With(".jpg", "-@", arguments);
        Assert.Contains("http://ns.adobe.com/xmp/extension/", Encoding.Latin1.GetString(File.ReadAllBytes(path)), StringComparison.Ordinal);
        var read = MetadataReader.Read(path).Words;
        Assert.Equal("Short", read.Title);
        Assert.Equal(caption.Trim(), read.Caption);
        Assert.Equal(500, read.Keywords.Count);
    }

    // The copyright sign is no ASCII, so EXIF's writers put (C) for it.
    [Theory]
    [InlineData("(C) 2026 Guild", "© 2026 Guild", "© 2026 Guild")]
    [InlineData("? 2026 Guild", "© 2026 Guild", "© 2026 Guild")]
    [InlineData("Ase Lind", "Åse Lind", "Åse Lind")]
    [InlineData("(C) 2025 Guild", "© 2026 Guild", "(C) 2025 Guild")]
    [InlineData("© 2026 Guild", "© Somebody", "© 2026 Guild")]
    public void EXIF_speaks_first_but_where_it_is_only_the_others_words_in_ASCII(string exif, string xmp, string expected)
    {
        var path = With(".jpg", $"-EXIF:Copyright={exif}", $"-XMP-dc:Rights={xmp}");
        Assert.Equal(expected, MetadataReader.Read(path).Words.Copyright);
    }

    [Fact]
    public void A_place_of_nothing_over_nothing_is_no_place()
    {
        var path = With(".jpg", "-EXIF:GPSLatitude=54.5", "-EXIF:GPSLatitudeRef=N", "-EXIF:GPSLongitude=3.25", "-EXIF:GPSLongitudeRef=W");
        Assert.NotNull(MetadataReader.Read(path).Position);
        var bytes = File.ReadAllBytes(path);
        // Degrees as ExifTool wrote them, big-endian: 54/1 30/1 0/1, and 3/1 15/1 0/1; cameras without a fix write zero over zero.
        foreach (var degrees in (byte[][])[[0, 0, 0, 54, 0, 0, 0, 1, 0, 0, 0, 30, 0, 0, 0, 1], [0, 0, 0, 3, 0, 0, 0, 1, 0, 0, 0, 15, 0, 0, 0, 1]])
        {
            var at = bytes.AsSpan().IndexOf(degrees);
            Assert.True(at > 0, "the rationals were not found");
            bytes.AsSpan(at, 24).Clear();
        }

        File.WriteAllBytes(path, bytes);
        Assert.Null(MetadataReader.Read(path).Position);
    }

    // DCF 2.0 §4.5.2: “R03” and an uncalibrated colour space say Adobe RGB without a profile. ImageMagick converts with the profile put in.
    [Fact]
    public void A_picture_that_only_says_it_is_in_Adobe_RGB_comes_out_in_sRGB()
    {
        var path = With(".jpg", "-InteropIndex=R03", "-ColorSpace#=65535");
        var expected = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, path, "-strip", "-profile", AdobeRgbProfile.Path, "-profile", Tools.Profile("srgb"), expected);
        var rendition = Tools.Render(path, 240);
        foreach (var (x, y) in new[] { (0.25, 0.25), (0.75, 0.25), (0.25, 0.75), (0.75, 0.75) })
        {
            Tools.Near(Tools.Colour(expected, x, y), Tools.Colour(rendition, x, y), 7);
        }

        // And is not what it would be as sRGB: the green is another.
        Assert.True(Math.Abs(Tools.Colour(path, 0.75, 0.25)[0] - Tools.Colour(rendition, 0.75, 0.25)[0]) > 12);
    }

    // ISO/IEC 15948 §13.13: light is the sample to the power of one over the file's gamma.
    [Theory]
    [InlineData(100_000, 128, 188)]
    [InlineData(45_455, 128, 128)]
    [InlineData(55_556, 128, 146)]
    public void A_PNGs_gamma_counts(int gamma, int sample, int expected)
    {
        using var grey = (Image.Black(64, 64, bands: 3) + sample).Cast(Enums.BandFormat.Uchar).Copy(interpretation: Enums.Interpretation.Srgb);
        var path = Tools.NewPath(".png");
        var png = grey.PngsaveBuffer(keep: Enums.ForeignKeep.None);
        File.WriteAllBytes(path, [.. png[..33], .. Chunk("gAMA", Big(gamma)), .. png[33..]]);
        Tools.Near([expected, expected, expected], Tools.Colour(Tools.Render(path, 480), 0.5, 0.5), 2);
    }

    [Fact]
    public void A_picture_of_one_pixel_is_a_picture()
    {
        foreach (var ending in (string[])[".jpg", ".png", ".tif", ".gif", ".webp"])
        {
            var path = Tools.NewPath(ending);
            Tools.Run(Tools.Convert, "-size", "1x1", "xc:#d02020", path);
            var size = Picture.Measure(path);
            Assert.Equal((1, 1), (size.Width, size.Height));
            var (made, grey) = Picture.RenderSheet(path, Renditions.Sheet, PerceptualHash.Side);
            var rendition = Tools.NewPath(".webp");
            File.WriteAllBytes(rendition, made.Bytes);
            Assert.Equal(PerceptualHash.Side * PerceptualHash.Side, grey.Length);
            Assert.True(double.IsFinite(Look.Sharpness(rendition)));
        }
    }

    public static byte[] Big(long value)
    {
        var bytes = new byte[4];
        BinaryPrimitives.WriteUInt32BigEndian(bytes, (uint)value);
        return bytes;
    }

    /// <summary>A PNG chunk: length, kind, data, CRC-32 of kind and data (ISO/IEC 15948 §5.3).</summary>
    public static byte[] Chunk(string kind, byte[] data)
    {
        byte[] named = [.. Encoding.ASCII.GetBytes(kind), .. data];
        var crc = uint.MaxValue;
        foreach (var b in named)
        {
            crc ^= b;
            for (var k = 0; k < 8; k++)
            {
                crc = (crc & 1) != 0 ? 0xEDB88320u ^ (crc >> 1) : crc >> 1;
            }
        }

        return [.. Big(data.Length), .. named, .. Big(~crc)];
    }

    /// <summary>So many zeros, packed as zlib packs them best.</summary>
    public static byte[] Packed(long zeros)
    {
        using var memory = new MemoryStream();
        using (var pack = new ZLibStream(memory, CompressionLevel.SmallestSize, leaveOpen: true))
        {
            var block = new byte[1 << 20];
            for (long i = 0; i < zeros; i += block.Length)
            {
                pack.Write(block);
            }
        }

        return memory.ToArray();
    }

    static string Png(byte[] extra)
    {
        using var grey = Image.Black(64, 64, bands: 3).Copy(interpretation: Enums.Interpretation.Srgb);
        var png = grey.PngsaveBuffer(keep: Enums.ForeignKeep.None);
        var path = Tools.NewPath(".png");
        File.WriteAllBytes(path, [.. png[..33], .. extra, .. png[33..]]);
        return path;
    }

    [Fact]
    public void Parts_that_grow_beyond_what_photographs_hold_are_found_before_anything_reads_them()
    {
        var huge = Packed(1L << 30);
        Assert.True(huge.Length < 2 << 20);
        byte[] text = [.. "Comment"u8, 0, 0, .. huge];
        byte[] international = [.. "XML:com.adobe.xmp"u8, 0, 1, 0, 0, 0, .. huge];
        byte[] profile = [.. "Wide"u8, 0, 0, .. huge];
        foreach (var (kind, data) in new[] { ("zTXt", text), ("iTXt", international), ("iCCP", profile) })
        {
            Assert.True(FileParts.Judge(Png(Chunk(kind, data)), PictureKind.Png).TooFar, kind);
        }

        // Many that are each below the limit.
        byte[] twelve = [.. "Comment"u8, 0, 0, .. Packed(12L << 20)];
        Assert.True(FileParts.Judge(Png([.. Enumerable.Range(0, 8).SelectMany(_ => Chunk("zTXt", twelve))]), PictureKind.Png).TooFar);
        Assert.False(FileParts.Judge(Png(Chunk("zTXt", [.. "Comment"u8, 0, 0, .. Packed(1 << 20)])), PictureKind.Png).TooFar);

        // Extended XMP whose header says that two gigabytes follow.
        byte[] extension = [.. "http://ns.adobe.com/xmp/extension/\0"u8, .. Encoding.ASCII.GetBytes(new string('A', 32)), .. Big(2_000_000_000), .. Big(0), .. new byte[100]];
        var jpeg = File.ReadAllBytes(Tools.Quarters(".jpg"));
        var path = Tools.NewPath(".jpg");
        File.WriteAllBytes(path, [.. jpeg[..2], 0xFF, 0xE1, .. Big(extension.Length + 2)[2..], .. extension, .. jpeg[2..]]);
        Assert.True(FileParts.Judge(path, PictureKind.Jpeg).TooFar);
        Assert.Null(MetadataReader.Read(path).Words.Title);

        // Segments by the thousand, which whoever opens the picture keeps all.
        byte[] segment = [0xFF, 0xE1, .. Big(60_002)[2..], .. new byte[60_000]];
        File.WriteAllBytes(path, [.. jpeg[..2], .. Enumerable.Repeat(segment, 1200).SelectMany(s => s), .. jpeg[2..]]);
        Assert.True(FileParts.Judge(path, PictureKind.Jpeg).TooFar);

        // A TIFF whose colour profile is said to have two gigabytes.
        var tiff = File.ReadAllBytes(Tools.Quarters(".tif"));
        Assert.False(FileParts.Judge(Tools.Quarters(".tif"), PictureKind.Tiff).TooFar);
        var little = tiff[0] == 'I';
        var at = (int)(little ? BinaryPrimitives.ReadUInt32LittleEndian(tiff.AsSpan(4)) : BinaryPrimitives.ReadUInt32BigEndian(tiff.AsSpan(4)));
        var entry = tiff.AsSpan(at + 2, 12);
        if (little)
        {
            BinaryPrimitives.WriteUInt16LittleEndian(entry, 34675);
            BinaryPrimitives.WriteUInt32LittleEndian(entry[4..], 2_000_000_000);
        }
        else
        {
            BinaryPrimitives.WriteUInt16BigEndian(entry, 34675);
            BinaryPrimitives.WriteUInt32BigEndian(entry[4..], 2_000_000_000);
        }

        var large = Tools.NewPath(".tif");
        File.WriteAllBytes(large, tiff);
        Assert.True(FileParts.Judge(large, PictureKind.Tiff).TooFar);
    }

    [Theory]
    [InlineData(".jpg")]
    [InlineData(".png")]
    [InlineData(".webp")]
    [InlineData(".tif")]
    [InlineData(".gif")]
    public void Ordinary_files_and_damaged_ones_are_never_taken_for_such(string ending)
    {
        var bytes = File.ReadAllBytes(With(ending, "-XMP-dc:Title=Plain", "-XMP-dc:Subject=one"));
        var random = new Random(7);
        for (var i = 0; i < 60; i++)
        {
            var path = Tools.NewPath(ending);
            File.WriteAllBytes(path, bytes[..random.Next(16, bytes.Length)]);
            Assert.False(FileParts.Judge(path, PictureKinds.Judge(bytes)).TooFar);
        }
    }

    // A file's header is enough to know what decoding it will hold; the sizes here are written into small files.
    [Theory]
    [InlineData("baseline", 14_000, false)]
    [InlineData("progressive", 14_000, true)]
    [InlineData("progressive", 6_000, false)]
    [InlineData("gif", 10_000, true)]
    [InlineData("gif", 4_000, false)]
    public void What_can_only_be_decoded_all_at_once_is_known_by_how_much_that_takes(string kind, int side, bool tooMuch)
    {
        var path = Tools.NewPath(kind == "gif" ? ".gif" : ".jpg");
        using (var image = Image.NewFromFile(Tools.Quarters(".png")))
        {
            if (kind == "gif")
            {
                image.Gifsave(path);
            }
            else
            {
                image.Jpegsave(path, interlace: kind == "progressive", subsampleMode: Enums.ForeignSubsample.Off);
            }
        }

        var bytes = File.ReadAllBytes(path);
        if (kind == "gif")
        {
            // GIF89a §18 and §20: the screen, and the first picture on it.
            var picture = bytes.AsSpan().IndexOf((ReadOnlySpan<byte>)[0x2C, 0, 0, 0, 0]);
            foreach (var at in (int[])[6, 8, picture + 5, picture + 7])
            {
                BinaryPrimitives.WriteUInt16LittleEndian(bytes.AsSpan(at), (ushort)side);
            }
        }
        else
        {
            // ITU-T T.81 B.2.2: the frame header of a baseline or a progressive picture.
            var frame = bytes.AsSpan().IndexOf((ReadOnlySpan<byte>)[0xFF, (byte)(kind == "progressive" ? 0xC2 : 0xC0)]);
            BinaryPrimitives.WriteUInt16BigEndian(bytes.AsSpan(frame + 5), (ushort)side);
            BinaryPrimitives.WriteUInt16BigEndian(bytes.AsSpan(frame + 7), (ushort)side);
        }

        File.WriteAllBytes(path, bytes);
        var size = Picture.Measure(path);
        Assert.Equal((side, side, tooMuch), (size.Width, size.Height, size.AtOnce > DecodingMemory.Most));
    }

    [Fact]
    public async Task Pictures_that_are_decoded_all_at_once_take_turns()
    {
        var path = Tools.NewPath(".gif");
        using (var image = Image.NewFromFile(Tools.Quarters(".png")))
        {
            image.Gifsave(path);
        }

        // More of them at the same time than there is room for: all come to their end.
        await Task.WhenAll(Enumerable.Range(0, 12).Select(n => Task.Run(() =>
        {
            using var room = DecodingMemory.Take(DecodingMemory.Most / 2);
            Thread.Sleep(5);
        })));
        using (DecodingMemory.Take(DecodingMemory.Most))
        {
            var render = Task.Run(() => Picture.Render(path, [240]));
            Assert.NotSame(render, await Task.WhenAny(render, Task.Delay(300)));
        }
    }
}
