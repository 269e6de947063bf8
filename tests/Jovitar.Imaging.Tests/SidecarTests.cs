using System.Text;
using Jovitar.Core.Photos;
using Jovitar.Imaging.Writing;

namespace Jovitar.Imaging.Tests;

/// <summary>Sidecars, against ExifTool's: XMP (ISO 16684-1), GPSCoordinate (XMP Specification Part 2).</summary>
public sealed class SidecarTests
{
    static byte[] Written(params string[] tags)
    {
        var path = Path.Combine(Path.GetTempPath(), $"sidecar-{Guid.NewGuid():N}.xmp");
        try
        {
            Tools.Run("exiftool", ["-q", "-m", .. tags, path]);
            return File.ReadAllBytes(path);
        }
        finally
        {
            File.Delete(path);
        }
    }

    [Fact]
    public void A_sidecar_that_ExifTool_wrote_is_read()
    {
        var read = MetadataReader.ReadSidecar(Written(
            "-XMP-dc:Title=Låst line in", "-XMP-dc:Description=Two juniors & a delta", "-XMP-dc:Subject=delta", "-XMP-dc:Subject=night flight", "-XMP-dc:Creator=Ines Calloway", "-XMP-dc:Rights=© Guild", "-XMP-photoshop:Credit=Guild",
            "-XMP-photoshop:Source=Scans", "-XMP-xmpRights:UsageTerms=Members only", "-XMP-iptcCore:Location=North Strand", "-XMP-xmp:Rating=4", "-XMP-photoshop:DateCreated=2026:06:14 18:42:05+01:00", "-XMP-iptcCore:AltTextAccessibility=A delta kite",
            "-XMP-iptcExt:PersonInImage=Tomas Weir", "-XMP-exif:GPSLatitude=-54.5125", "-XMP-exif:GPSLongitude=3.25"))!;
        var words = read.Words;
        Assert.Equal(
            ("Låst line in", "Two juniors & a delta", "Ines Calloway", "© Guild", "Guild", "Scans", "Members only"), (words.Title, words.Caption, words.Creator, words.Copyright, words.Credit, words.Origin, words.Licence));
        Assert.Equal(("North Strand", 4, "A delta kite", "Tomas Weir"), (words.Place, words.Rating, words.Alt, Assert.Single(words.People)));
        Assert.Equal(["delta", "night flight"], words.Keywords);
        Assert.Equal(new TakenAt(new DateTime(2026, 6, 14, 18, 42, 5), TimeSpan.FromHours(1)), words.Taken);
        Assert.Equal(-54.5125, read.Position!.Value.Latitude, 6);
        Assert.Equal(3.25, read.Position!.Value.Longitude, 6);
    }

    [Fact]
    public void A_sidecar_of_ours_says_here_what_it_said_there()
    {
        var ours = new LeavingWords { Title = "שלום 🪁", Caption = "<script>alert(1)</script>\nsecond line", Alt = "a", Tags = ["x, y", "z"], People = ["Ines", "Odile"], Rating = 5, Taken = new(new DateTime(2026, 6, 13, 9, 4, 7), TimeSpan.FromHours(-3.5)) };
        var read = MetadataReader.ReadSidecar(WordsWriter.Sidecar(ours))!.Words;
        Assert.Equal((ours.Title, ours.Caption, ours.Alt, ours.Rating, ours.Taken), (read.Title, read.Caption, read.Alt, read.Rating, read.Taken));
        Assert.Equal(ours.Tags, read.Keywords);
        Assert.Equal(ours.People, read.People);
    }

    [Theory]
    [InlineData("")]
    [InlineData("not XML")]
    [InlineData("<html><body>no packet</body></html>")]
    [InlineData("""<?xml version="1.0"?><!DOCTYPE r [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;">]><x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">&b;</rdf:RDF></x:xmpmeta>""")]
    public void What_is_no_packet_or_not_safe_is_none(string text) => Assert.Null(MetadataReader.ReadSidecar(Encoding.UTF8.GetBytes(text)));

    [Fact]
    public void A_packet_that_is_nested_without_end_or_cut_short_is_none()
    {
        var whole = Encoding.UTF8.GetString(Written("-XMP-dc:Title=Whole"));
        Assert.Null(MetadataReader.ReadSidecar(Encoding.UTF8.GetBytes(whole[..(whole.Length / 2)])));
        var at = whole.IndexOf("<rdf:Description", StringComparison.Ordinal);
        var deep = $"{whole[..at]}{string.Concat(Enumerable.Repeat("<rdf:Description><x:a>", 20_000))}{string.Concat(Enumerable.Repeat("</x:a></rdf:Description>", 20_000))}{whole[at..]}";
        Assert.Null(MetadataReader.ReadSidecar(Encoding.UTF8.GetBytes(deep)));
        string Full(int properties) => $"{whole[..at]}<rdf:Description rdf:about=\"\" xmlns:x=\"urn:x\">{string.Concat(Enumerable.Range(0, properties).Select(i => $"<x:p{i}>v</x:p{i}>"))}</rdf:Description>{whole[at..]}";
        Assert.Null(MetadataReader.ReadSidecar(Encoding.UTF8.GetBytes(Full(30_000))));
        Assert.Equal("Whole", MetadataReader.ReadSidecar(Encoding.UTF8.GetBytes(Full(500)))?.Words.Title);
    }

    [Fact]
    public void Whatever_is_changed_in_a_packet_it_is_read_or_none()
    {
        var whole = Written("-XMP-dc:Title=Whole", "-XMP-dc:Subject=a", "-XMP-xmp:Rating=3", "-XMP-photoshop:DateCreated=2026:06:14 18:42:05", "-XMP-exif:GPSLatitude=1.5", "-XMP-exif:GPSLongitude=2.5");
        var dice = new Random(20261126);
        var read = 0;
        for (var i = 0; i < 3000; i++)
        {
            var bytes = (byte[])whole.Clone();
            for (var n = dice.Next(1, 6); n > 0; n--)
            {
                bytes[dice.Next(bytes.Length)] = (byte)dice.Next(256);
            }

            read += MetadataReader.ReadSidecar(bytes) is null ? 0 : 1;
        }

        Assert.InRange(read, 1, 2999);
    }

    [Theory]
    [InlineData("54,30.75S", "3,15.0E", -54.5125, 3.25)]
    [InlineData("54,30,45S", "3,15,0E", -54.5125, 3.25)]
    [InlineData("91,0.0N", "3,15.0E", null, null)]
    [InlineData("54,61.0N", "3,15.0E", null, null)]
    [InlineData("54,30.0E", "3,15.0E", null, null)]
    [InlineData("54.5", "3.25", null, null)]
    public void Where_it_was_taken_is_degrees_and_minutes_with_a_side(string latitude, string longitude, double? north, double? east)
    {
        var packet = $"""<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description xmlns:exif="http://ns.adobe.com/exif/1.0/" exif:GPSLatitude="{latitude}" exif:GPSLongitude="{longitude}"/></rdf:RDF></x:xmpmeta>""";
        var position = MetadataReader.ReadSidecar(Encoding.UTF8.GetBytes(packet))!.Position;
        Assert.Equal((north is null, east is null), (position is null, position is null));
        if (position is { } at)
        {
            Assert.Equal(north!.Value, at.Latitude, 1e-9);
            Assert.Equal(east!.Value, at.Longitude, 1e-9);
        }
    }
}
