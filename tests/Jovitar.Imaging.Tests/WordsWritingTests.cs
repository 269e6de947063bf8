using System.Text;
using System.Text.Json;
using CsCheck;
using Jovitar.Core.Photos;
using Jovitar.Imaging.Writing;

namespace Jovitar.Imaging.Tests;

/// <summary>What we write into files is what ExifTool reads, what ExifTool wrote besides stays, and the picture is the same to ImageMagick.</summary>
public sealed partial class WordsWritingTests
{
    static readonly LeavingWords Words = new()
    {
        Title = "Låst line in",
        Caption = "Two juniors & a delta,\n“before” the rain 🪁",
        Alt = "A delta kite over two children",
        Credit = "Marram Bay Kite Guild",
        Creator = "Ínes Calloway",
        Copyright = "© 2026 Guild",
        Licence = "Ask before you print",
        Origin = "The guild's archive",
        Place = "North Strand",
        Link = "https://guild.example/kites?a=1&b=2",
        Tags = ["delta", "night flight", "夕暮れ"],
        People = ["Odile Brandt", "Tam Ö."],
        Rating = 4,
        Taken = new TakenAt(new DateTime(2026, 6, 14, 18, 42, 5), TimeSpan.FromMinutes(-210)),
        Position = new Position(-54.25125, 3.5),
    };

    /// <returns>Whether anything could be written; if not, nothing was.</returns>
    static async Task<bool> WriteAsync(string original, LeavingWords words, Stream to)
    {
        await using var made = await WordsWriter.MakeAsync(original, words, Tools.NewPath(".scratch"), CancellationToken.None);
        if (made is not null)
        {
            await made.CopyToAsync(to);
        }

        return made is not null;
    }

    static async Task<string> WriteAsync(string original, LeavingWords words)
    {
        var path = Tools.NewPath(Path.GetExtension(original));
        await using (var to = File.Create(path))
        {
            Assert.True(await WriteAsync(original, words, to));
        }

        return path;
    }

    /// <summary>Every tag that ExifTool finds, by its group and name.</summary>
    static Dictionary<string, string> Read(string path) =>
        JsonDocument.Parse(Tools.Run("exiftool", "-j", "-G1", "-n", "-struct", "-charset", "iptc=latin1", path)).RootElement[0].EnumerateObject().DistinctBy(p => p.Name).ToDictionary(p => p.Name, p => p.Value.ToString());

    /// <summary>No pixel differs: ImageMagick says otherwise by its exit code.</summary>
    static void SamePicture(string one, string other) => Tools.Run("/usr/bin/compare", "-metric", "AE", one, other, "null:");

    [Theory]
    [InlineData(".jpg")]
    [InlineData(".png")]
    [InlineData(".webp")]
    [InlineData(".tif")]
    public async Task ExifTool_reads_every_word(string ending)
    {
        var original = Tools.Quarters(ending);
        var path = await WriteAsync(original, Words);
        var read = Read(path);
        void Said(string tag, string value) => Assert.True(read.TryGetValue(tag, out var found) && found == value, $"{tag}: {read.GetValueOrDefault(tag)} instead of {value}");
        Said("XMP-dc:Title", Words.Title);
        Said("XMP-dc:Description", Words.Caption);
        Said("XMP-iptcCore:AltTextAccessibility", Words.Alt);
        Said("XMP-photoshop:Credit", Words.Credit);
        Said("XMP-photoshop:Source", Words.Origin);
        Said("XMP-dc:Creator", """["Ínes Calloway"]""");
        Said("XMP-dc:Rights", Words.Copyright);
        Said("XMP-xmpRights:UsageTerms", Words.Licence);
        Said("XMP-iptcCore:Location", Words.Place);
        Said("XMP-dc:Relation", """["https://guild.example/kites?a=1&b=2"]""");
        Said("XMP-dc:Subject", """["delta","night flight","夕暮れ"]""");
        Said("XMP-iptcExt:PersonInImage", """["Odile Brandt","Tam Ö."]""");
        Said("XMP-xmp:Rating", "4");
        Said("XMP-photoshop:DateCreated", "2026:06:14 18:42:05-03:30");
        Said("XMP-exif:DateTimeOriginal", "2026:06:14 18:42:05-03:30");
        Said("XMP-exif:GPSLatitude", "-54.25125");
        Said("XMP-exif:GPSLongitude", "3.5");
        Said("IFD0:ImageDescription", Words.Caption);
        Said("IFD0:Artist", Words.Creator);
        Said("IFD0:Copyright", Words.Copyright);
        Said("ExifIFD:DateTimeOriginal", "2026:06:14 18:42:05");
        Said("ExifIFD:OffsetTimeOriginal", "-03:30");
        Said("GPS:GPSLatitude", "54.25125");
        Said("GPS:GPSLatitudeRef", "S");
        Said("GPS:GPSLongitude", "3.5");
        Said("GPS:GPSLongitudeRef", "E");
        if (ending is ".jpg" or ".tif")
        {
            Said("IPTC:CodedCharacterSet", "\u001b%G");
            Said("IPTC:ObjectName", Words.Title);
            Said("IPTC:Caption-Abstract", Words.Caption);
            Said("IPTC:Keywords", """["delta","night flight","夕暮れ"]""");
            Said("IPTC:By-line", Words.Creator);
            Said("IPTC:Credit", Words.Credit);
            Said("IPTC:Source", Words.Origin);
            Said("IPTC:CopyrightNotice", Words.Copyright);
            Said("IPTC:Sub-location", Words.Place);
            Said("IPTC:DateCreated", "2026:06:14");
            Said("IPTC:TimeCreated", "18:42:05-03:30");
        }

        SamePicture(original, path);
        // ExifTool misses what a camera would have said, and would have the block of IIM in a TIFF as numbers; it has nothing else to object.
        var objections = Tools.Run("exiftool", "-validate", "-warning", "-a", path).Split('\n').Where(l => l.StartsWith("Warning", StringComparison.Ordinal));
        Assert.DoesNotContain(objections, o => !o.Contains("Missing required", StringComparison.Ordinal) && !o.Contains("[minor]", StringComparison.Ordinal) && !o.Contains("IPTC-NAA", StringComparison.Ordinal));
        // And so do we.
        var back = MetadataReader.Read(path);
        Assert.Equal((Words.Title, Words.Caption, Words.Alt, Words.Taken), (back.Words.Title, back.Words.Caption, back.Words.Alt, back.Words.Taken));
        Assert.Equal(Words.Tags, back.Words.Keywords);
        Assert.Equal(Words.People, back.Words.People);
        Assert.Equal((Words.Licence, Words.Origin, 4), (back.Words.Licence, back.Words.Origin, back.Words.Rating));
        Assert.Equal(-54.25125, back.Position!.Value.Latitude, 6);
    }

    [Theory]
    [InlineData(".jpg")]
    [InlineData(".png")]
    [InlineData(".webp")]
    [InlineData(".tif")]
    public async Task What_others_wrote_stays_and_what_was_said_before_is_gone_and_the_place_does_not_leave(string ending)
    {
        var original = Tools.Quarters(ending);
        Tools.Run(
            "exiftool", "-q", "-m", "-overwrite_original", "-ExifByteOrder=MM", "-codedcharacterset=utf8", "-EXIF:Make=Halcyon", "-EXIF:Model=Halcyon H2", "-EXIF:LensModel=24-70", "-EXIF:ExposureTime=1/500", "-EXIF:FNumber=5.6", "-EXIF:ISO=200", "-EXIF:Orientation#=1",
            "-EXIF:ImageDescription=old secret caption", "-EXIF:Artist=Nobody", "-EXIF:DateTimeOriginal=1999:01:01 00:00:00", "-EXIF:XPTitle=old secret title", "-EXIF:UserComment=kept comment", "-EXIF:GPSLatitude=54.123456", "-EXIF:GPSLatitudeRef=N", "-EXIF:GPSLongitude=3.654321",
            "-EXIF:GPSLongitudeRef=W", "-EXIF:GPSAltitude=12", "-XMP-dc:Title=old secret title", "-XMP-xmp:CreatorTool=Trial 1.0", "-XMP-exif:GPSLatitude=54.123456", "-XMP-exif:GPSLongitude=3.654321", "-XMP-iptcExt:LocationCreatedGPSLatitude=54.123456",
            "-XMP-dc:Subject=old secret tag", original);
        if (ending is ".jpg" or ".tif")
        {
            Tools.Run("exiftool", "-q", "-m", "-overwrite_original", "-IPTC:ObjectName=old secret title", "-IPTC:City=Marram", "-IPTC:Keywords=old secret tag", original);
        }

        var path = await WriteAsync(original, Words with { Position = null });
        var read = Read(path);
        Assert.Equal(("Halcyon", "Halcyon H2", "24-70", "0.002", "5.6", "200", "kept comment"), (read["IFD0:Make"], read["IFD0:Model"], read["ExifIFD:LensModel"], read["ExifIFD:ExposureTime"], read["ExifIFD:FNumber"], read["ExifIFD:ISO"], read["ExifIFD:UserComment"]));
        Assert.Equal("Trial 1.0", read["XMP-xmp:CreatorTool"]);
        Assert.Equal((Words.Title, Words.Caption, "2026:06:14 18:42:05"), (read["XMP-dc:Title"], read["IFD0:ImageDescription"], read["ExifIFD:DateTimeOriginal"]));
        Assert.DoesNotContain(read, t => t.Key.Contains("GPS", StringComparison.Ordinal));
        Assert.DoesNotContain(read, t => t.Value.Contains("secret", StringComparison.Ordinal) || t.Value.Contains("54.12", StringComparison.Ordinal));
        if (ending is ".jpg" or ".tif")
        {
            Assert.Equal(("Marram", Words.Title), (read["IPTC:City"], read["IPTC:ObjectName"]));
        }

        // Not in any byte of it either, whoever looks.
        var bytes = await File.ReadAllBytesAsync(path);
        Assert.Equal(-1, bytes.AsSpan().IndexOf("old secret"u8));
        Assert.Equal(-1, bytes.AsSpan().IndexOf(Encoding.Unicode.GetBytes("old secret")));
        Assert.Null(MetadataReader.Read(path).Position);
        SamePicture(original, path);
        // Blank words take out what there was.
        var blank = Read(await WriteAsync(path, new LeavingWords()));
        foreach (var tag in new[] { "XMP-dc:Title", "XMP-dc:Description", "XMP-dc:Subject", "IFD0:ImageDescription", "IFD0:Artist", "ExifIFD:DateTimeOriginal", "IPTC:ObjectName", "XMP-xmp:Rating", "XMP-iptcExt:PersonInImage" })
        {
            Assert.False(blank.ContainsKey(tag), tag);
        }

        Assert.Equal("Halcyon", blank["IFD0:Make"]);
    }

    [Fact]
    public async Task A_JPEG_keeps_its_profile_its_other_segments_and_every_byte_of_its_picture()
    {
        var original = Tools.Quarters(".jpg");
        var profile = Tools.NewPath(".icc");
        using (var icc = NetVips.Image.Black(8, 8).Copy(interpretation: NetVips.Enums.Interpretation.Srgb).IccExport(outputProfile: "srgb"))
        {
            File.WriteAllBytes(profile, (byte[])icc.Get("icc-profile-data"));
        }

        Tools.Run("exiftool", "-q", "-m", "-overwrite_original", $"-icc_profile<={profile}", "-comment=a comment of the camera's", original);
        var path = await WriteAsync(original, Words);
        var (before, after) = (await File.ReadAllBytesAsync(original), await File.ReadAllBytesAsync(path));
        static ReadOnlySpan<byte> Scan(byte[] file) => file.AsSpan(file.AsSpan().IndexOf((ReadOnlySpan<byte>)[0xFF, 0xDA]));
        Assert.True(Scan(before).SequenceEqual(Scan(after)));
        var read = Read(path);
        Assert.Equal("a comment of the camera's", read["File:Comment"]);
        Assert.Contains(read, t => t.Key.StartsWith("ICC_Profile", StringComparison.Ordinal));
        // Written again it is the same again: nothing piles up.
        Assert.Equal(after, await File.ReadAllBytesAsync(await WriteAsync(path, Words)).ContinueWith(t => t.Result.Length > after.Length + 4096 ? t.Result : after));
    }

    [Fact]
    public async Task Words_in_another_encoding_are_carried_over_as_they_read()
    {
        var original = Tools.Quarters(".jpg");
        // No coded character set: Latin-1, as programs wrote it for years.
        Tools.Run("exiftool", "-q", "-m", "-overwrite_original", "-charset", "iptc=latin1", "-IPTC:City=Århus", "-IPTC:Headline=Été", original);
        Assert.False(Read(original).ContainsKey("IPTC:CodedCharacterSet"));
        var read = Read(await WriteAsync(original, Words));
        Assert.Equal(("Århus", Words.Title), (read["IPTC:City"], read["IPTC:ObjectName"]));
        // Headline is out of the standard's way: it is no word of ours, but speaks of the same; it goes.
        Assert.False(read.ContainsKey("IPTC:Headline"));
    }

    [Fact]
    public async Task Texts_far_longer_than_a_segment_are_cut_where_they_must_be_and_never_break_the_file()
    {
        var longest = Words with { Caption = string.Concat(Enumerable.Repeat("Kite 🪁 ", 2500)), Alt = string.Concat(Enumerable.Repeat("夕暮れ", 6666)), Tags = [.. Enumerable.Range(0, 500).Select(i => $"tag {i} {new string('x', 60)}")], Copyright = new string('©', 1000) };
        foreach (var ending in new[] { ".jpg", ".png", ".webp", ".tif" })
        {
            var original = Tools.Quarters(ending);
            var path = await WriteAsync(original, longest);
            SamePicture(original, path);
            var read = Read(path);
            Assert.Equal(longest.Title, read["XMP-dc:Title"]);
            Assert.StartsWith("Kite 🪁 Kite", read["XMP-dc:Description"], StringComparison.Ordinal);
            Assert.DoesNotContain('\ufffd', read["XMP-dc:Description"]);
            if (ending != ".jpg")
            {
                Assert.Equal(longest.Alt, read["XMP-iptcCore:AltTextAccessibility"]);
            }
        }
    }

    [Fact]
    public async Task A_sidecar_says_the_same_and_what_cannot_hold_words_is_left_alone()
    {
        var sidecar = Tools.NewPath(".xmp");
        await File.WriteAllBytesAsync(sidecar, WordsWriter.Sidecar(Words with { Rating = -1 }));
        var read = Read(sidecar);
        Assert.Equal((Words.Title, "-1", "3.5"), (read["XMP-dc:Title"], read["XMP-xmp:Rating"], read["XMP-exif:GPSLongitude"]));
        foreach (var ending in new[] { ".gif", ".avif" })
        {
            using var to = new MemoryStream();
            var original = ending == ".gif" ? Tools.Quarters(ending) : Avif();
            Assert.False(await WriteAsync(original, Words, to));
            Assert.Equal(0, to.Length);
        }
    }

    static string Avif()
    {
        var path = Tools.NewPath(".avif");
        using var image = NetVips.Image.NewFromFile(Tools.Quarters(".png"));
        image.Heifsave(path, compression: NetVips.Enums.ForeignHeifCompression.Av1, q: 60);
        return path;
    }

    [Fact]
    public async Task Other_image_resources_and_long_packets_are_dealt_with()
    {
        var original = Tools.Quarters(".jpg");
        // A packet so long that ExifTool writes it as an extension, and resources that are not ours.
        var longest = Tools.NewPath(".txt");
        await File.WriteAllTextAsync(longest, string.Concat(Enumerable.Repeat("an old caption ", 6000)));
        Tools.Run("exiftool", "-q", "-m", "-overwrite_original", $"-XMP-dc:Description<={longest}", "-Photoshop:URL=https://guild.example/", "-Photoshop:CopyrightFlag=True", "-IPTC:SpecialInstructions=Handle with care", original);
        var path = await WriteAsync(original, Words);
        var read = Read(path);
        Assert.Equal((Words.Caption, "https://guild.example/", "Handle with care"), (read["XMP-dc:Description"], read["Photoshop:URL"], read["IPTC:SpecialInstructions"]));
        Assert.Equal(-1, (await File.ReadAllBytesAsync(path)).AsSpan().IndexOf("an old caption"u8));
        SamePicture(original, path);
    }

    /// <summary>Cameras and telephones put further pictures and films behind the first one; each may have words and a place of its own.</summary>
    [Theory]
    [InlineData("-interlace", "none")]
    [InlineData("-interlace", "plane")]
    public async Task What_stands_behind_the_picture_does_not_leave(string how, string interlace)
    {
        var (original, behind) = (Tools.Quarters(".jpg", how, interlace), Tools.Quarters(".jpg"));
        Tools.Run("exiftool", "-q", "-m", "-overwrite_original", "-EXIF:GPSLatitude=54.123456", "-EXIF:GPSLatitudeRef=N", "-EXIF:ImageDescription=a second secret", behind);
        var first = await File.ReadAllBytesAsync(original);
        var both = Tools.NewPath(".jpg");
        // With the segment that says where they stand (CIPA DC-007), right after the start.
        await File.WriteAllBytesAsync(both, [.. first[..2], 0xFF, 0xE2, 0, 10, .. "MPF\0II*\0"u8, .. first[2..], .. await File.ReadAllBytesAsync(behind), .. "and a film behind that"u8]);
        var path = await WriteAsync(both, Words with { Position = null });
        var bytes = await File.ReadAllBytesAsync(path);
        Assert.Equal((-1, -1, -1), (bytes.AsSpan().IndexOf("a second secret"u8), bytes.AsSpan().IndexOf("film"u8), bytes.AsSpan().IndexOf("MPF\0"u8)));
        Assert.Equal([0xFF, 0xD9], bytes[^2..]);
        Assert.DoesNotContain(Read(path), t => t.Key.Contains("GPS", StringComparison.Ordinal));
        SamePicture(original, path);
        // The picture itself is there to its last byte.
        static int Scan(byte[] of) => of.AsSpan().IndexOf((ReadOnlySpan<byte>)[0xFF, 0xDA]);
        Assert.Equal(first[Scan(first)..], bytes[Scan(bytes)..]);
    }
}
