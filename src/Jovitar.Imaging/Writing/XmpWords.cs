using System.Globalization;
using System.Text;
using Jovitar.Core.Photos;
using XmpCore;
using XmpCore.Options;

namespace Jovitar.Imaging.Writing;

/// <summary>Writes words as XMP (ISO 16684-1) with the properties of the IPTC Photo Metadata Standard 2023.1; what else a packet says stays.</summary>
static class XmpWords
{
    public const string Dc = "http://purl.org/dc/elements/1.1/";
    public const string Xmp = "http://ns.adobe.com/xap/1.0/";
    public const string Photoshop = "http://ns.adobe.com/photoshop/1.0/";
    public const string Rights = "http://ns.adobe.com/xap/1.0/rights/";
    public const string IptcCore = "http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/";
    public const string IptcExt = "http://iptc.org/std/Iptc4xmpExt/2008-02-29/";
    public const string Exif = "http://ns.adobe.com/exif/1.0/";

    /// <summary>Bytes that a caption or description keeps where a packet would not fit a JPEG's segment.</summary>
    const int ShortText = 18_000;

    static XmpWords()
    {
        XmpMetaFactory.SchemaRegistry.RegisterNamespace(IptcCore, "Iptc4xmpCore");
        XmpMetaFactory.SchemaRegistry.RegisterNamespace(IptcExt, "Iptc4xmpExt");
        XmpMetaFactory.SchemaRegistry.RegisterNamespace(Rights, "xmpRights");
    }

    /// <summary>A packet with the words, UTF-8.</summary>
    /// <param name="existing">The file's own packet, or null; one that cannot be read is replaced.</param>
    /// <param name="most">Bytes that fit: beyond them first what is not ours goes, then long texts are cut, then tags and people left away.</param>
    public static byte[] Packet(byte[]? existing, LeavingWords words, int most = int.MaxValue)
    {
        var packet = Write(Read(existing), words);
        if (packet.Length > most)
        {
            packet = Write(XmpMetaFactory.Create(), words);
        }

        if (packet.Length > most)
        {
            words = words with { Caption = Short(words.Caption), Alt = Short(words.Alt) };
            packet = Write(XmpMetaFactory.Create(), words);
        }

        while (packet.Length > most && words.Tags.Count + words.People.Count > 0)
        {
            words = words with { Tags = [.. words.Tags.Take(words.Tags.Count / 2)], People = [.. words.People.Take(words.People.Count / 2)] };
            packet = Write(XmpMetaFactory.Create(), words);
        }

        return packet;
    }

    static string Short(string text) => Core.Text.Cut(text, ShortText / 3);

    static IXmpMeta Read(byte[]? packet)
    {
        try
        {
            return packet is null ? XmpMetaFactory.Create() : XmpMetaFactory.ParseFromBuffer(packet);
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // Whatever the library stumbles over in a damaged packet: nothing of it could be kept.
            return XmpMetaFactory.Create();
        }
    }

    static byte[] Write(IXmpMeta xmp, LeavingWords w)
    {
        Localised(xmp, Dc, "title", w.Title);
        Localised(xmp, Dc, "description", w.Caption);
        Localised(xmp, IptcCore, "AltTextAccessibility", w.Alt);
        Localised(xmp, Dc, "rights", w.Copyright);
        Localised(xmp, Rights, "UsageTerms", w.Licence);
        Simple(xmp, Photoshop, "Credit", w.Credit);
        Simple(xmp, Photoshop, "Source", w.Origin);
        Simple(xmp, IptcCore, "Location", w.Place);
        Items(xmp, Dc, "creator", w.Creator.Length > 0 ? [w.Creator] : [], ordered: true);
        Items(xmp, Dc, "subject", w.Tags, ordered: false);
        Items(xmp, Dc, "relation", w.Link.Length > 0 ? [w.Link] : [], ordered: false);
        Items(xmp, IptcExt, "PersonInImage", w.People, ordered: false);
        Simple(xmp, Xmp, "Rating", w.Rating == 0 ? "" : w.Rating.ToString(CultureInfo.InvariantCulture));
        var taken = w.Taken is { } t ? Date(t) : "";
        Simple(xmp, Photoshop, "DateCreated", taken);
        Simple(xmp, Exif, "DateTimeOriginal", taken);
        // Wherever it says where on Earth it was taken, also within other properties.
        foreach (var path in xmp.Properties.Where(p => p.Path is not null && p.Path.Contains("GPS", StringComparison.Ordinal)).Select(p => p.Path).ToArray())
        {
            // A path begins with the prefix of what it stands in: Iptc4xmpExt:LocationCreated[1]/exif:GPSLatitude.
            xmp.DeleteProperty(XmpMetaFactory.SchemaRegistry.GetNamespaceUri(path.Split(':')[0]), path);
        }

        if (w.Position is { } at)
        {
            xmp.SetProperty(Exif, "GPSLatitude", Angle(at.Latitude, 'N', 'S'));
            xmp.SetProperty(Exif, "GPSLongitude", Angle(at.Longitude, 'E', 'W'));
        }

        var packet = XmpMetaFactory.SerializeToBuffer(xmp, new SerializeOptions { UseCompactFormat = true, Padding = 64 });
        return packet.AsSpan().StartsWith(Encoding.UTF8.Preamble) ? packet[Encoding.UTF8.Preamble.Length..] : packet;
    }

    static void Simple(IXmpMeta xmp, string space, string name, string text)
    {
        xmp.DeleteProperty(space, name);
        if (text.Length > 0)
        {
            xmp.SetProperty(space, name, text);
        }
    }

    static void Localised(IXmpMeta xmp, string space, string name, string text)
    {
        xmp.DeleteProperty(space, name);
        if (text.Length > 0)
        {
            xmp.SetLocalizedText(space, name, null, "x-default", text);
        }
    }

    static void Items(IXmpMeta xmp, string space, string name, IReadOnlyList<string> items, bool ordered)
    {
        xmp.DeleteProperty(space, name);
        foreach (var item in items)
        {
            xmp.AppendArrayItem(space, name, new PropertyOptions { IsArray = true, IsArrayOrdered = ordered }, item, null);
        }
    }

    static string Date(TakenAt taken) =>
        taken.Local.ToString("yyyy-MM-ddTHH:mm:ss", CultureInfo.InvariantCulture)
        + (taken.Offset is { } away ? $"{(away < TimeSpan.Zero ? '-' : '+')}{away:hh\\:mm}" : "");

    /// <summary>Degrees, and minutes with their parts: <c>54,15.000000N</c> (XMP Specification Part 2, GPSCoordinate).</summary>
    static string Angle(double degrees, char plus, char minus)
    {
        var all = Math.Round(Math.Abs(degrees) * 60, 6);
        var whole = Math.Floor(all / 60);
        return string.Create(CultureInfo.InvariantCulture, $"{whole:0},{all - (whole * 60):0.000000}{(degrees < 0 ? minus : plus)}");
    }
}
