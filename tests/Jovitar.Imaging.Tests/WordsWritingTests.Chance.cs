using System.Text;
using System.Text.Json;
using CsCheck;
using Jovitar.Core.Photos;

namespace Jovitar.Imaging.Tests;

/// <summary>The same by chance: whatever words, whatever file.</summary>
public sealed partial class WordsWritingTests
{
    /// <summary>Words of any letters that XML can hold, with sizes as people write them.</summary>
    static readonly Gen<string> Said = Gen.String[Gen.OneOf(Gen.Char[' ', '~'], Gen.Char['\u00a1', '\u024f'], Gen.Char['\u3041', '\u3096']), 0, 40].Select(s => s.Trim());

    [Theory]
    [InlineData(".jpg")]
    [InlineData(".png")]
    [InlineData(".webp")]
    [InlineData(".tif")]
    public void Whatever_is_written_is_read_back(string ending)
    {
        var original = Tools.Quarters(ending);
        Gen.Select(Said, Said, Said.Array[0, 4], Gen.Int[-1, 5], Gen.Double[-90, 90], Gen.Double[-179, 179], Gen.Int[0, 1_000_000_000]).Sample(
            (title, caption, tags, rating, latitude, longitude, seconds) =>
            {
                var words = new LeavingWords
                {
                    Title = title,
                    Caption = caption,
                    Tags = [.. tags.Where(t => t.Length > 0).Distinct()],
                    Rating = rating,
                    Position = new Position(latitude, longitude),
                    Taken = new TakenAt(new DateTime(1990, 1, 1).AddSeconds(seconds), seconds % 2 == 0 ? null : TimeSpan.FromMinutes((seconds % 27 * 60) - 720)),
                };
                var path = WriteAsync(original, words).GetAwaiter().GetResult();
                var back = MetadataReader.Read(path);
                File.Delete(path);
                Assert.Equal(MetadataReconciliation.Clean(title), back.Words.Title);
                Assert.Equal(MetadataReconciliation.Clean(caption), back.Words.Caption);
                Assert.Equal(words.Tags, back.Words.Keywords);
                Assert.Equal(words.Taken, back.Words.Taken);
                Assert.Equal(rating is > 0 ? rating : null, back.Words.Rating);
                Assert.Equal(latitude, back.Position?.Latitude ?? 0, 1e-7);
                Assert.Equal(longitude, back.Position?.Longitude ?? 0, 1e-7);
            },
            iter: 60, threads: 1);
    }

    [Theory]
    [InlineData(".jpg")]
    [InlineData(".png")]
    [InlineData(".webp")]
    [InlineData(".tif")]
    public async Task A_damaged_file_is_left_alone_or_written_and_never_anything_else(string ending)
    {
        var original = Tools.Quarters(ending);
        Tools.Run("exiftool", "-q", "-m", "-overwrite_original", "-EXIF:Make=Halcyon", "-EXIF:GPSLatitude=54.1", "-EXIF:GPSLatitudeRef=N", "-XMP-dc:Title=a", "-EXIF:ImageDescription=words before", original);
        var whole = await File.ReadAllBytesAsync(original);
        var dice = new Random(4711);
        for (var i = 0; i < 250; i++)
        {
            var bytes = (byte[])whole.Clone();
            for (var n = dice.Next(1, 12); n > 0; n--)
            {
                bytes[dice.Next(Math.Min(bytes.Length, 1200))] = (byte)dice.Next(256);
            }

            var path = Tools.NewPath(ending);
            await File.WriteAllBytesAsync(path, i % 3 == 0 ? bytes[..dice.Next(1, bytes.Length)] : bytes);
            using var to = new MemoryStream();
            if (!await WriteAsync(path, Words, to))
            {
                Assert.Equal(0, to.Length);
            }

            File.Delete(path);
        }
    }

    /// <summary>Words by chance, written by us and read by ExifTool as one batch for all of them.</summary>
    [Theory]
    [InlineData(".jpg")]
    [InlineData(".tif")]
    public async Task ExifTool_reads_whatever_we_write(string ending)
    {
        var original = Tools.Quarters(ending);
        var folder = Path.Combine(Tools.Folder, $"batch-{Guid.NewGuid():N}");
        Directory.CreateDirectory(folder);
        var dice = new Random(23);
        string Some(int most) => string.Concat(Enumerable.Range(0, dice.Next(1, most)).Select(_ => "abc éüß 夕暮れ&<>\"';🪁"[..^1].EnumerateRunes().ElementAt(dice.Next(16)).ToString())).Trim() is { Length: > 0 } text ? text : "x";
        var all = new Dictionary<string, LeavingWords>();
        for (var i = 0; i < 12; i++)
        {
            var words = new LeavingWords
            {
                Title = Some(30),
                Caption = Some(200),
                Alt = Some(90),
                Credit = Some(20),
                Creator = Some(20),
                Copyright = Some(60),
                Licence = Some(40),
                Origin = Some(20),
                Place = Some(20),
                Tags = [.. Enumerable.Range(0, dice.Next(5)).Select(_ => Some(12)).Distinct()],
                People = [.. Enumerable.Range(0, dice.Next(3)).Select(_ => Some(12)).Distinct()],
                Rating = dice.Next(-1, 6),
                Taken = dice.Next(3) == 0 ? null : new TakenAt(new DateTime(1998, 8, 1).AddMinutes(dice.Next(9_000_000)), TimeSpan.FromMinutes(15 * dice.Next(-48, 49))),
            };
            var name = $"{i}{ending}";
            await using var to = File.Create(Path.Combine(folder, name));
            Assert.True(await WriteAsync(original, words, to));
            all[name] = words;
        }

        var read = JsonDocument.Parse(Tools.Run("exiftool", "-j", "-G1", "-n", "-struct", folder)).RootElement.EnumerateArray().ToArray();
        Assert.Equal(all.Count, read.Length);
        foreach (var file in read)
        {
            var words = all[Path.GetFileName(file.GetProperty("SourceFile").GetString()!)];
            string? Said(string tag) => file.TryGetProperty(tag, out var value) ? value.ValueKind == JsonValueKind.Array ? string.Join('|', value.EnumerateArray()) : value.ToString() : null;
            string? Cut(string text, int bytes) => Encoding.UTF8.GetByteCount(text) <= bytes ? text : null;
            Assert.Equal(
                (words.Title, words.Caption, words.Alt, words.Credit, words.Copyright, words.Licence, words.Origin),
                (Said("XMP-dc:Title"), Said("XMP-dc:Description"), Said("XMP-iptcCore:AltTextAccessibility"), Said("XMP-photoshop:Credit"), Said("XMP-dc:Rights"), Said("XMP-xmpRights:UsageTerms"), Said("XMP-photoshop:Source")));
            Assert.Equal((words.Caption, words.Creator, words.Copyright), (Said("IFD0:ImageDescription"), Said("IFD0:Artist"), Said("IFD0:Copyright")));
            Assert.Equal(string.Join('|', words.Tags), Said("XMP-dc:Subject") ?? "");
            Assert.Equal(string.Join('|', words.People), Said("XMP-iptcExt:PersonInImage") ?? "");
            Assert.Equal(words.Rating == 0 ? null : $"{words.Rating}", Said("XMP-xmp:Rating"));
            Assert.Equal(words.Taken?.Local.ToString("yyyy:MM:dd HH:mm:ss", System.Globalization.CultureInfo.InvariantCulture), Said("ExifIFD:DateTimeOriginal"));
            // What fits the short texts of IIM stands there, too, and what does not is the beginning of it.
            Assert.StartsWith(Said("IPTC:ObjectName")!, words.Title, StringComparison.Ordinal);
            Assert.Equal(Cut(words.Credit, 32) ?? Said("IPTC:Credit"), Said("IPTC:Credit"));
            Assert.StartsWith(Said("IPTC:Caption-Abstract")!, words.Caption, StringComparison.Ordinal);
        }
    }
}
