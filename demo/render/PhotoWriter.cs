using System.Globalization;
using System.Security;
using System.Text;
using NetVips;

namespace Jovitar.Demo.Render;

/// <summary>Writes a rendered picture as a JPEG with EXIF 2.32, IPTC IIM 4.2 and XMP (ISO 16684-1), as a careful photographer would leave it.</summary>
internal static class PhotoWriter
{
    public static void Write(string path, byte[] pixels, int width, int height, ScenarioPhoto photo, string copyright, int quality)
    {
        using var image = Image.NewFromMemory(pixels, width, height, 3, Enums.BandFormat.Uchar).Copy(interpretation: Enums.Interpretation.Srgb);
        using var described = image.Mutate(m => Describe(m, photo, copyright));
        described.Jpegsave(path, q: quality, optimizeCoding: true, interlace: true, subsampleMode: Enums.ForeignSubsample.On, keep: Enums.ForeignKeep.All);
    }

    static void Describe(MutableImage m, ScenarioPhoto photo, string copyright)
    {
        var taken = DateTimeOffset.Parse(photo.Taken, CultureInfo.InvariantCulture);
        var camera = photo.Scene!.Camera;
        var seconds = photo.Scene.Sky.Elevation < -4 ? 4.0 : 1.0 / 500;
        void Text(string field, string value) => m.Set(GValue.GStrType, field, $"{value} ({value}, ASCII, {value.Length + 1} components, {value.Length + 1} bytes)");
        void Rational(string field, double value, int denominator) => m.Set(GValue.GStrType, field, $"{(int)Math.Round(value * denominator)}/{denominator}");
        var make = photo.Camera.Split(' ')[0];
        Text("exif-ifd0-Make", make);
        Text("exif-ifd0-Model", photo.Camera);
        Text("exif-ifd0-Artist", photo.By);
        Text("exif-ifd0-Copyright", copyright);
        Text("exif-ifd0-DateTime", taken.ToString("yyyy:MM:dd HH:mm:ss", CultureInfo.InvariantCulture));
        Text("exif-ifd2-DateTimeOriginal", taken.ToString("yyyy:MM:dd HH:mm:ss", CultureInfo.InvariantCulture));
        Text("exif-ifd2-OffsetTimeOriginal", taken.ToString("zzz", CultureInfo.InvariantCulture));
        Text("exif-ifd2-LensModel", photo.Lens);
        Rational("exif-ifd2-FNumber", camera.FStop, 10);
        m.Set(GValue.GStrType, "exif-ifd2-ExposureTime", seconds >= 1 ? $"{(int)seconds}/1" : $"1/{(int)Math.Round(1 / seconds)}");
        m.Set(GValue.GStrType, "exif-ifd2-ISOSpeedRatings", photo.Scene.Sky.Elevation < 0 ? "1600" : "200");
        Rational("exif-ifd2-FocalLength", camera.Focal, 10);
        m.Set(GValue.BlobType, "xmp-data", Encoding.UTF8.GetBytes(Xmp(photo, copyright, taken)));
        m.Set(GValue.BlobType, "iptc-data", Iptc(photo, copyright, taken));
    }

    static string Xmp(ScenarioPhoto photo, string copyright, DateTimeOffset taken)
    {
        static string E(string s) => SecurityElement.Escape(s);
        static string Alt(string name, string text) => $"<{name}><rdf:Alt><rdf:li xml:lang=\"x-default\">{E(text)}</rdf:li></rdf:Alt></{name}>";
        var tags = string.Concat(photo.Tags.Select(t => $"<rdf:li>{E(t)}</rdf:li>"));
        return $"""
            <?xpacket begin="﻿" id="W5M0MpCehiHzreSzNTczkc9d"?>
            <x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
            <rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmlns:photoshop="http://ns.adobe.com/photoshop/1.0/" xmlns:Iptc4xmpCore="http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/" xmp:Rating="{photo.Rating}" photoshop:DateCreated="{taken:yyyy-MM-ddTHH:mm:sszzz}" Iptc4xmpCore:Location="{E(photo.Place ?? "")}" photoshop:Credit="{E(photo.By)} / Marram Bay Kite Guild">
            {Alt("dc:title", photo.Title)}{Alt("dc:description", photo.Caption)}{Alt("dc:rights", copyright)}{Alt("Iptc4xmpCore:AltTextAccessibility", photo.Alt)}
            <dc:creator><rdf:Seq><rdf:li>{E(photo.By)}</rdf:li></rdf:Seq></dc:creator><dc:subject><rdf:Bag>{tags}</rdf:Bag></dc:subject>
            </rdf:Description></rdf:RDF></x:xmpmeta>
            <?xpacket end="w"?>
            """;
    }

    /// <summary>The IIM records inside an image resource block 0x0404, as JPEG's APP13 carries them.</summary>
    static byte[] Iptc(ScenarioPhoto photo, string copyright, DateTimeOffset taken)
    {
        using var records = new MemoryStream();
        void Add(byte record, byte set, byte[] value)
        {
            records.Write([0x1C, record, set, (byte)(value.Length >> 8), (byte)value.Length]);
            records.Write(value);
        }

        void Words(byte set, string text, int most) => Add(2, set, Encoding.UTF8.GetBytes(text.Length > most ? text[..most] : text));
        Add(1, 90, [0x1B, 0x25, 0x47]);
        Words(5, photo.Title, 64);
        Words(120, photo.Caption, 2000);
        foreach (var tag in photo.Tags)
        {
            Words(25, tag, 64);
        }

        Words(80, photo.By, 32);
        Words(116, copyright, 128);
        Words(55, taken.ToString("yyyyMMdd", CultureInfo.InvariantCulture), 8);
        Words(60, taken.ToString("HHmmsszzz", CultureInfo.InvariantCulture).Replace(":", "", StringComparison.Ordinal), 11);
        var body = records.ToArray();
        using var block = new MemoryStream();
        block.Write("Photoshop 3.0\0"u8);
        block.Write("8BIM"u8);
        block.Write([0x04, 0x04, 0, 0, (byte)(body.Length >> 24), (byte)(body.Length >> 16), (byte)(body.Length >> 8), (byte)body.Length]);
        block.Write(body);
        if (body.Length % 2 == 1)
        {
            block.WriteByte(0);
        }

        return block.ToArray();
    }
}
