using System.Globalization;
using System.Text;
using System.Xml;
using Jovitar.Core.Photos;

namespace Jovitar.Server.Site.Finding;

/// <summary>A page that search engines are told of.</summary>
/// <param name="Path">From the site's root.</param>
public sealed record MappedPage(Guid Id, string Path);

/// <summary>A photo that search engines are told of.</summary>
/// <param name="Width">Of its original as it is corrected, pixels.</param>
public sealed record MappedPhoto(string Picture, int Width);

/// <summary>The site map (Sitemaps protocol 0.9, with its image extension 1.1): an index, and parts of it.</summary>
public static class SiteMap
{
    public const string Path = "/sitemap.xml";

    /// <summary>So many images of a page are told of at most, as the extension says.</summary>
    public const int MostImages = 1000;

    /// <summary>So many pages a part has at most: it never has more than 50,000 images. The protocol allows as many pages.</summary>
    public const int MostPages = 50_000 / MostImages;

    const string Protocol = "http://www.sitemaps.org/schemas/sitemap/0.9";
    const string Image = "http://www.google.com/schemas/sitemap-image/1.1";

    /// <summary>How many parts there are.</summary>
    public static int Parts(int pages) => Math.Max(1, (pages + MostPages - 1) / MostPages);

    public static string PathOf(int part) => string.Create(CultureInfo.InvariantCulture, $"/sitemap/{part}.xml");

    /// <summary>The index: where the parts are.</summary>
    /// <param name="root">The site's address.</param>
    public static byte[] Index(Uri root, int parts) => Write("sitemapindex", xml =>
    {
        for (var part = 1; part <= parts; part++)
        {
            xml.WriteStartElement("sitemap", Protocol);
            xml.WriteElementString("loc", Protocol, new Uri(root, PathOf(part)).AbsoluteUri);
            xml.WriteEndElement();
        }
    });

    /// <summary>A part: pages, and the images on each.</summary>
    /// <param name="root">The site's address.</param>
    public static byte[] Part(Uri root, IReadOnlyList<MappedPage> pages, ILookup<Guid, MappedPhoto> photos) => Write("urlset", xml =>
    {
        xml.WriteAttributeString("xmlns", "image", null, Image);
        foreach (var page in pages)
        {
            xml.WriteStartElement("url", Protocol);
            xml.WriteElementString("loc", Protocol, new Uri(root, page.Path).AbsoluteUri);
            foreach (var photo in photos[page.Id].Take(MostImages))
            {
                xml.WriteStartElement("image", Image);
                xml.WriteElementString("loc", Image, new Uri(root, Renditions.Address(photo.Picture, Renditions.For(photo.Width)[^1])).AbsoluteUri);
                xml.WriteEndElement();
            }

            xml.WriteEndElement();
        }
    });

    static byte[] Write(string name, Action<XmlWriter> body)
    {
        using var bytes = new MemoryStream();
        using (var xml = XmlWriter.Create(bytes, new XmlWriterSettings { Encoding = new UTF8Encoding(encoderShouldEmitUTF8Identifier: false) }))
        {
            xml.WriteStartElement(name, Protocol);
            body(xml);
            xml.WriteEndElement();
        }

        return bytes.ToArray();
    }
}
