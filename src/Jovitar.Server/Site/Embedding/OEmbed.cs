using System.Globalization;
using System.Text;
using System.Text.Json.Nodes;
using System.Xml;
using System.Xml.Linq;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;
using Jovitar.Server.Site.Drawing;
using Jovitar.Server.Site.Finding;

namespace Jovitar.Server.Site.Embedding;

/// <summary>An answer as oEmbed 1.0 (oembed.com, §2.3.4) has it: names with numbers or words.</summary>
internal sealed record OEmbedAnswer(IReadOnlyList<(string Name, object Value)> Parts)
{
    public string Json() => new JsonObject(Parts.Select(p => KeyValuePair.Create(p.Name, (JsonNode?)(p.Value is int number ? JsonValue.Create(number) : JsonValue.Create((string)p.Value))))).ToJsonString();

    public byte[] Xml()
    {
        using var bytes = new MemoryStream();
        using (var writer = XmlWriter.Create(bytes, new XmlWriterSettings { Encoding = new UTF8Encoding(false) }))
        {
            new XDocument(new XDeclaration("1.0", "utf-8", "yes"), new XElement("oembed", Parts.Select(p => new XElement(p.Name, p.Value is string words ? SiteFeed.Fit(words) : p.Value)))).Save(writer);
        }

        return bytes.ToArray();
    }
}

/// <summary>Says what another program may show at a link to this site.</summary>
/// <param name="root">The site's address.</param>
/// <param name="widest">So wide it may be at most, CSS pixels; null for as wide as it likes.</param>
/// <param name="highest">So high.</param>
internal sealed class OEmbed(Uri root, string site, int? widest, int? highest)
{
    public const string Path = "/oembed";

    /// <summary>A usual column of words on a website, CSS pixels (common practice).</summary>
    public const int UsualWidth = 720;

    /// <summary>Narrower than this photos are not laid out, wider than this no window is, CSS pixels.</summary>
    const int Narrowest = 160, Widest = 3000;

    /// <summary>So long an answer may be kept, seconds; what it shows is always of now.</summary>
    const int Kept = 3600;

    /// <summary>Where a program asks what it may show at a link.</summary>
    /// <param name="root">The site's address.</param>
    /// <param name="address">The whole address of what is linked.</param>
    public static string AddressOf(Uri root, string address, string format) => $"{new Uri(root, Path)}?url={Uri.EscapeDataString(address)}&format={format}";

    /// <summary>Of a page: its embed.</summary>
    /// <returns>Null where nothing of it stands in one.</returns>
    public OEmbedAnswer? Of(SitePage page, Embed embed)
    {
        if (!EmbedBlocks.Has(page))
        {
            return null;
        }

        var width = Math.Min(widest ?? UsualWidth, Widest);
        var height = Math.Min(highest ?? int.MaxValue, EmbedBlocks.Height(EmbedBlocks.Of(page, embed), Math.Max(width, Narrowest)));
        return new OEmbedAnswer(
            [
                .. Begin("rich", page.Title),
                ("html", EmbedLine.Write(root, page, embed, string.Create(CultureInfo.InvariantCulture, $"width:100%;max-width:{width}px"), height)),
                ("width", width), ("height", height),
                .. Thumbnail(Told.PictureOf(page)),
            ]);
    }

    /// <summary>Of a photo's own page: the photo.</summary>
    public OEmbedAnswer Of(SitePhoto photo)
    {
        (string, object)[] by = photo.Credit.Length > 0 ? [("author_name", photo.Credit)] : [];
        var (width, height) = Renditions.CardSize(photo.Width, photo.Shape);
        if (Fits(width, height))
        {
            return new OEmbedAnswer([.. Begin("photo", photo.Name), .. by, ("url", At(Renditions.CardAddress(photo.Picture))), ("width", width), ("height", height), .. Thumbnail(photo)]);
        }

        var fitting = Renditions.For(photo.Width).Reverse().Select(w => (Rendition: w, Width: Renditions.PixelsAcross(w, photo.Width))).Where(r => Fits(r.Width, HeightOf(r.Width))).Take(1).ToArray();
        return fitting is [var one]
            ? new OEmbedAnswer([.. Begin("photo", photo.Name), .. by, ("url", At(Renditions.Address(photo.Picture, one.Rendition))), ("width", one.Width), ("height", HeightOf(one.Width)), .. Thumbnail(photo)])
            // Smaller than it is made it may be linked.
            : new OEmbedAnswer([.. Begin("link", photo.Name), .. by]);

        int HeightOf(int across) => (int)Math.Max(1, Math.Round(across / photo.Shape));
    }

    bool Fits(int width, int height) => width <= (widest ?? int.MaxValue) && height <= (highest ?? int.MaxValue);

    (string Name, object Value)[] Begin(string type, string title) =>
        [("version", "1.0"), ("type", type), ("title", title), ("provider_name", site), ("provider_url", root.AbsoluteUri), ("cache_age", Kept)];

    /// <summary>All three or none (§2.3.4), and no larger than is asked for.</summary>
    (string Name, object Value)[] Thumbnail(SitePhoto? photo)
    {
        if (photo is null)
        {
            return [];
        }

        var across = Renditions.PixelsAcross(Renditions.Sheet, photo.Width);
        var high = (int)Math.Max(1, Math.Round(across / photo.Shape));
        return Fits(across, high) ? [("thumbnail_url", At(Renditions.Address(photo.Picture, Renditions.Sheet))), ("thumbnail_width", across), ("thumbnail_height", high)] : [];
    }

    string At(string path) => new Uri(root, path).AbsoluteUri;
}
