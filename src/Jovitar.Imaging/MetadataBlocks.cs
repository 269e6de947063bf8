using MetadataExtractor;
using MetadataExtractor.Formats.Exif;
using MetadataExtractor.Formats.Iptc;
using MetadataExtractor.Formats.Jpeg;
using MetadataExtractor.Formats.Photoshop;
using MetadataExtractor.Formats.Xmp;
using MetadataExtractor.IO;

namespace Jovitar.Imaging;

/// <summary>Finds the blocks of metadata in a file, whatever it is packed in.</summary>
internal static class MetadataBlocks
{
    /// <summary>All blocks of a file; none when they cannot be read.</summary>
    public static IReadOnlyList<MetadataExtractor.Directory> Of(string path) => Tried(() => ImageMetadataReader.ReadMetadata(path));

    /// <summary>The same of a JPEG: a packet of XMP over which its reader stumbles takes none of the other blocks with it.</summary>
    public static IReadOnlyList<MetadataExtractor.Directory> OfJpeg(string path) =>
        Of(path) is { Count: > 0 } all ? all : Tried(() => JpegMetadataReader.ReadMetadata(path, [new ExifReader(), new IptcReader(), new PhotoshopReader()]));

    /// <summary>AVIF keeps EXIF and XMP as items (ISO/IEC 23008-12 annex A); libvips finds them, and they are read as anywhere else.</summary>
    public static IReadOnlyList<MetadataExtractor.Directory> OfAvif(string path) => Tried(() =>
    {
        using var image = NetVips.Image.NewFromFile(path, access: NetVips.Enums.Access.Sequential);
        var blocks = new List<MetadataExtractor.Directory>();
        if (image.Contains("exif-data"))
        {
            var bytes = (byte[])image.Get("exif-data");
            blocks.AddRange(new ExifReader().Extract(new ByteArrayReader(bytes.AsSpan().StartsWith("Exif\0\0"u8) ? bytes[6..] : bytes)));
        }

        if (image.Contains("xmp-data"))
        {
            blocks.Add(new XmpReader().Extract((byte[])image.Get("xmp-data")));
        }

        return blocks;
    });

    static IReadOnlyList<MetadataExtractor.Directory> Tried(Func<IReadOnlyList<MetadataExtractor.Directory>> read)
    {
        try
        {
            return read();
        }
        catch (Exception e) when (e is ImageProcessingException or IOException or ArgumentException or FormatException or OverflowException or IndexOutOfRangeException or InvalidCastException or NotSupportedException or NetVips.VipsException)
        {
            return [];
        }
    }
}
