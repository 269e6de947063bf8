using Jovitar.Core.Photos;

namespace Jovitar.Imaging.Tests;

/// <summary>What ExifTool wrote is what we read: EXIF 2.32, IPTC-IIM 4.2, XMP (ISO 16684-1).</summary>
public sealed class MetadataTests
{
    static PhotoMetadata Written(string ending, params string[] tags)
    {
        var path = Tools.Quarters(ending);
        Tools.Run("exiftool", ["-q", "-m", "-overwrite_original", "-codedcharacterset=utf8", .. tags, path]);
        return MetadataReader.Read(path);
    }

    [Theory]
    [InlineData(".jpg")]
    [InlineData(".png")]
    [InlineData(".webp")]
    [InlineData(".tif")]
    public void Words_in_XMP_are_read_from_every_kind(string ending)
    {
        var read = Written(ending, "-XMP-dc:Title=Låst line in", "-XMP-dc:Description=Two juniors & a delta", "-XMP-dc:Subject=delta", "-XMP-dc:Subject=night flight", "-XMP-dc:Creator=Ines Calloway",
            "-XMP-dc:Rights=© Guild", "-XMP-photoshop:Credit=Guild", "-XMP-iptcCore:Location=North Strand", "-XMP-xmp:Rating=4", "-XMP-photoshop:DateCreated=2026:06:14 18:42:05+01:00", "-XMP-iptcCore:AltTextAccessibility=A delta kite").Words;
        Assert.Equal(("Låst line in", "Two juniors & a delta", "Ines Calloway", "© Guild", "Guild", "North Strand", 4, "A delta kite"), (read.Title, read.Caption, read.Creator, read.Copyright, read.Credit, read.Place, read.Rating, read.Alt));
        Assert.Equal(["delta", "night flight"], read.Keywords);
        Assert.Equal(new TakenAt(new DateTime(2026, 6, 14, 18, 42, 5), TimeSpan.FromHours(1)), read.Taken);
    }

    [Fact]
    public void Words_in_IIM_are_read()
    {
        var read = Written(".jpg", "-IPTC:ObjectName=Tèst", "-IPTC:Caption-Abstract=By hand", "-IPTC:Keywords=one", "-IPTC:Keywords=two", "-IPTC:By-line=Tomas Weir", "-IPTC:CopyrightNotice=© T", "-IPTC:Credit=Club", "-IPTC:Sub-location=Pier", "-IPTC:DateCreated=2026:01:02", "-IPTC:TimeCreated=03:04:05-05:00").Words;
        Assert.Equal(("Tèst", "By hand", "Tomas Weir", "© T", "Club", "Pier"), (read.Title, read.Caption, read.Creator, read.Copyright, read.Credit, read.Place));
        Assert.Equal(["one", "two"], read.Keywords);
        Assert.Equal(new TakenAt(new DateTime(2026, 1, 2, 3, 4, 5), TimeSpan.FromHours(-5)), read.Taken);
    }

    [Fact]
    public void The_camera_is_read_from_EXIF()
    {
        var read = Written(".jpg", "-EXIF:Make=Halcyon", "-EXIF:Model=Halcyon H2", "-EXIF:LensModel=24-70", "-EXIF:ExposureTime=1/500", "-EXIF:FNumber=5.6", "-EXIF:ISO=200", "-EXIF:FocalLength=35", "-EXIF:DateTimeOriginal=2026:06:13 09:04:00",
            "-EXIF:OffsetTimeOriginal=+01:00", "-EXIF:Artist=Odile Brandt", "-EXIF:Copyright=Guild", "-EXIF:ImageDescription=Morning", "-EXIF:GPSLatitude=54.5", "-EXIF:GPSLatitudeRef=S", "-EXIF:GPSLongitude=3.25", "-EXIF:GPSLongitudeRef=W");
        Assert.Equal(("Halcyon H2", "24-70"), (read.Camera, read.Lens));
        Assert.Equal((0.002, 5.6, 200, 35.0), (read.Exposure.Seconds!.Value, read.Exposure.FNumber!.Value, read.Exposure.Iso!.Value, read.Exposure.FocalLength!.Value));
        Assert.Equal(new TakenAt(new DateTime(2026, 6, 13, 9, 4, 0), TimeSpan.FromHours(1)), read.Words.Taken);
        Assert.Equal(("Odile Brandt", "Guild", "Morning"), (read.Words.Creator, read.Words.Copyright, read.Words.Caption));
        Assert.Equal(-54.5, read.Position!.Value.Latitude, 4);
        Assert.Equal(-3.25, read.Position!.Value.Longitude, 4);
    }

    [Fact]
    public void An_IIM_block_changed_after_its_digest_speaks_before_XMP()
    {
        var path = Tools.Quarters(".jpg");
        Tools.Run("exiftool", "-q", "-m", "-overwrite_original", "-codedcharacterset=utf8", "-IPTC:Caption-Abstract=first", "-XMP-dc:Description=in XMP", "-IPTCDigest=new", path);
        Assert.Equal("in XMP", MetadataReader.Read(path).Words.Caption);
        Tools.Run("exiftool", "-q", "-m", "-overwrite_original", "-IPTC:Caption-Abstract=changed since", path);
        Assert.Equal("changed since", MetadataReader.Read(path).Words.Caption);
    }

    [Fact]
    public void A_file_without_words_has_none()
    {
        var read = MetadataReader.Read(Tools.Quarters(".png", "-strip"));
        Assert.Null(read.Words.Title);
        Assert.Empty(read.Words.Keywords);
        Assert.Null(read.Camera);
    }

    [Fact]
    public void Damaged_metadata_is_no_reason_to_fail()
    {
        var path = Tools.Quarters(".jpg");
        Tools.Run("exiftool", "-q", "-m", "-overwrite_original", "-EXIF:Artist=somebody", "-XMP-dc:Title=x", path);
        var bytes = File.ReadAllBytes(path);
        var random = new Random(7);
        for (var round = 0; round < 200; round++)
        {
            var damaged = bytes.ToArray();
            for (var i = 0; i < 12; i++)
            {
                damaged[random.Next(2, Math.Min(2500, damaged.Length))] = (byte)random.Next(256);
            }

            File.WriteAllBytes(path, damaged);
            Assert.NotNull(MetadataReader.Read(path));
        }
    }

    [Theory]
    [InlineData(".jpg")]
    [InlineData(".png")]
    [InlineData(".webp")]
    [InlineData(".tif")]
    public void People_licence_and_origin_are_read(string ending)
    {
        var read = Written(ending, "-XMP-iptcExt:PersonInImage=Ines Harrow", "-XMP-iptcExt:PersonInImage=Tam Ö.", "-XMP-xmpRights:UsageTerms=Ask us", "-XMP-photoshop:Source=The guild").Words;
        Assert.Equal(["Ines Harrow", "Tam Ö."], read.People);
        Assert.Equal(("Ask us", "The guild"), (read.Licence, read.Origin));
    }

    [Fact]
    public void Origin_is_read_from_IIM_where_XMP_says_none() => Assert.Equal("The archive", Written(".jpg", "-IPTC:Source=The archive").Words.Origin);

    [Theory]
    [InlineData("not xml at all")]
    [InlineData("<x:xmpmeta xmlns:x='adobe:ns:meta/'><rdf:RDF xmlns:rdf='http://www.w3.org/1999/02/22-rdf-syntax-ns#'>text<rdf:Description/></rdf:RDF></x:xmpmeta>")]
    [InlineData("<?xml version='1.0' encoding='utf-16'?><x:xmpmeta xmlns:x='adobe:ns:meta/'/>")]
    public void A_packet_that_is_none_is_no_reason_to_fail(string packet)
    {
        var path = Tools.Quarters(".jpg");
        var file = Tools.NewPath(".xmp");
        File.WriteAllText(file, packet);
        Tools.Run("exiftool", "-q", "-m", "-overwrite_original", "-EXIF:ImageDescription=still read", $"-XMP<={file}", path);
        Assert.Equal("still read", MetadataReader.Read(path).Words.Caption);
    }
}
