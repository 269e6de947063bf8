using System.Buffers.Binary;

namespace Jovitar.Imaging.Tests;

/// <summary>The small picture that cameras put into their files; ExifTool puts it there, ImageMagick says what came out.</summary>
public sealed class EmbeddedPreviewTests
{
    /// <summary>A photo of 300 by 200 whose EXIF thumbnail is the same padded with black to 4:3, as cameras write it (EXIF 2.32, §4.5.8).</summary>
    static string WithThumbnail(int orientation)
    {
        var photo = Tools.Quarters(".jpg");
        var thumbnail = Tools.NewPath(".jpg");
        Tools.Run(Tools.Convert, photo, "-resize", "160x", "-gravity", "center", "-background", "black", "-extent", "160x120", thumbnail);
        Tools.Run("exiftool", "-q", "-overwrite_original", "-n", $"-Orientation={orientation}", $"-ThumbnailImage<={thumbnail}", photo);
        return photo;
    }

    [Theory]
    [InlineData(1)]
    [InlineData(3)]
    [InlineData(6)]
    [InlineData(8)]
    public void It_comes_out_upright_and_without_its_padding(int orientation)
    {
        var photo = WithThumbnail(orientation);
        var preview = Tools.NewPath(".jpg");
        File.WriteAllBytes(preview, EmbeddedPreview.Extract(photo)!);
        Assert.Equal(orientation is 6 or 8 ? "107 160" : "160 107", Tools.Run("identify", "-format", "%w %h", preview));
        var reference = Tools.NewPath(".png");
        Tools.Run(Tools.Convert, photo, "-auto-orient", "+repage", reference);
        foreach (var (x, y) in ((double, double)[])[(0.25, 0.25), (0.75, 0.25), (0.25, 0.75)])
        {
            Tools.Near(Tools.Colour(reference, x, y), Tools.Colour(preview, x, y), 20);
        }
    }

    [Fact]
    public void The_larger_picture_of_a_multi_picture_file_is_taken_before_the_thumbnail()
    {
        // CIPA DC-007: an index in APP2 names pictures that stand behind the photo; kind 0x010002 is one of a monitor's size.
        var photo = File.ReadAllBytes(WithThumbnail(1));
        var largePath = Tools.Quarters(".jpg", "-resize", "450x300!");
        var large = File.ReadAllBytes(largePath);
        var index = new byte[4 + 4 + 4 + 2 + 12 + 4 + 32];
        "MPF\0"u8.CopyTo(index);
        var tiff = index.AsSpan(4);
        "II*\0"u8.CopyTo(tiff);
        BinaryPrimitives.WriteUInt32LittleEndian(tiff[4..], 8);
        BinaryPrimitives.WriteUInt16LittleEndian(tiff[8..], 1);
        var field = tiff[10..];
        BinaryPrimitives.WriteUInt16LittleEndian(field, 0xB002);
        BinaryPrimitives.WriteUInt16LittleEndian(field[2..], 7);
        BinaryPrimitives.WriteUInt32LittleEndian(field[4..], 32);
        BinaryPrimitives.WriteUInt32LittleEndian(field[8..], 26);
        var entry = tiff[(26 + 16)..];
        BinaryPrimitives.WriteUInt32LittleEndian(entry, 0x010002);
        BinaryPrimitives.WriteUInt32LittleEndian(entry[4..], (uint)large.Length);
        BinaryPrimitives.WriteUInt32LittleEndian(entry[8..], (uint)(photo.Length - 2 + index.Length - 4 - 4 + 4));
        byte[] segment = [0xFF, 0xE2, (byte)((index.Length + 2) >> 8), (byte)(index.Length + 2), .. index];
        var path = Tools.NewPath(".jpg");
        // Offsets count from the index's own start, which stands eight bytes into the segment.
        BinaryPrimitives.WriteUInt32LittleEndian(segment.AsSpan(8 + 26 + 16 + 8), (uint)(2 + segment.Length + photo.Length - 2 - (2 + 8)));
        File.WriteAllBytes(path, [.. photo.AsSpan(0, 2), .. segment, .. photo.AsSpan(2), .. large]);
        var preview = Tools.NewPath(".jpg");
        File.WriteAllBytes(preview, EmbeddedPreview.Extract(path)!);
        Assert.Equal("450 300", Tools.Run("identify", "-format", "%w %h", preview));
    }

    [Fact]
    public void A_photo_without_one_has_none() => Assert.Null(EmbeddedPreview.Extract(Tools.Quarters(".png")));
}
