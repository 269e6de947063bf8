using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using System.Xml;
using Jovitar.Core.Photos;
using Jovitar.Imaging.Writing;
using XmpCore;

namespace Jovitar.Imaging;

/// <summary>Opens a file of XMP (ISO 16684-1) that came from elsewhere.</summary>
static partial class XmpSidecar
{
    /// <summary>What a packet says; null when it is no XMP, or not safe to read.</summary>
    public static IXmpMeta? Parse(byte[] packet)
    {
        try
        {
            return IsPlain(packet) ? XmpMetaFactory.ParseFromBuffer(packet) : null;
        }
        catch (Exception e) when (e is XmpException or XmlException or ArgumentException or FormatException or InvalidOperationException or InvalidCastException or OverflowException or DecoderFallbackException)
        {
            return null;
        }
    }

    /// <summary>Whether it is XML to its end, without a document type, no deeper or fuller than XMP ever is, and holds RDF: read once in passing before anything builds a tree of it.</summary>
    static bool IsPlain(byte[] packet)
    {
        const int deepest = 100;
        // What builds the tree looks through all neighbours for each property.
        const int fullest = 20_000;
        var (parts, holdsRdf) = (0, false);
        using var reader = XmlReader.Create(new MemoryStream(packet), new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });
        while (reader.Read())
        {
            parts += reader.NodeType == XmlNodeType.Element ? 1 + reader.AttributeCount : 0;
            if (reader.Depth > deepest || parts > fullest)
            {
                return false;
            }

            holdsRdf |= reader is { NodeType: XmlNodeType.Element, LocalName: "RDF", NamespaceURI: "http://www.w3.org/1999/02/22-rdf-syntax-ns#" };
        }

        return holdsRdf;
    }

    /// <summary>Where on Earth a packet says it was taken: degrees and minutes with a letter for the side (XMP Specification Part 2, GPSCoordinate).</summary>
    public static Position? Where(IXmpMeta xmp) =>
        Degrees(xmp, "GPSLatitude", 'N', 'S', 90) is { } latitude && Degrees(xmp, "GPSLongitude", 'E', 'W', 180) is { } longitude ? new Position(latitude, longitude) : null;

    static double? Degrees(IXmpMeta xmp, string name, char positive, char negative, double most)
    {
        string? text;
        try
        {
            text = xmp.GetPropertyString(XmpWords.Exif, name);
        }
        catch (XmpException)
        {
            return null;
        }

        if (text is null || Coordinate().Match(text.Trim()) is not { Success: true } parts || (parts.Groups["side"].Value[0] != positive && parts.Groups["side"].Value[0] != negative))
        {
            return null;
        }

        double Part(string group) => parts.Groups[group] is { Success: true } part ? double.Parse(part.Value, CultureInfo.InvariantCulture) : 0;
        var degrees = Part("degrees") + (Part("minutes") / 60) + (Part("seconds") / 3600);
        return degrees > most || Part("minutes") >= 60 || Part("seconds") >= 60 ? null : parts.Groups["side"].Value[0] == negative ? -degrees : degrees;
    }

    [GeneratedRegex(@"^(?<degrees>\d{1,3}),(?<minutes>\d{1,2}(\.\d{1,12})?)(,(?<seconds>\d{1,2}(\.\d{1,12})?))?(?<side>[NSEW])$", RegexOptions.CultureInvariant)]
    private static partial Regex Coordinate();
}
