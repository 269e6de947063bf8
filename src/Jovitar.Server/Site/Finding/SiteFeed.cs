using System.Globalization;
using System.Net;
using System.ServiceModel.Syndication;
using System.Text;
using System.Xml;
using Jovitar.Core.Photos;
using Jovitar.Server.Platform;

namespace Jovitar.Server.Site.Finding;

/// <summary>A post as the feed has it.</summary>
/// <param name="Published">When visitors got what they have now.</param>
public sealed record FeedEntry(Guid Id, DateTime Published, SiteEntry Post);

/// <summary>What feed readers follow (Atom, RFC 4287): the newest posts.</summary>
public static class SiteFeed
{
    public const string Path = "/feed.xml";

    /// <summary>The type of feeds (RFC 4287 §7).</summary>
    public const string Type = "application/atom+xml";

    /// <summary>So many posts it has at most.</summary>
    public const int Most = 40;

    /// <summary>How wide the picture of an entry is there, pixels.</summary>
    const int Picture = 960;

    /// <summary>Writes the feed of the posts.</summary>
    /// <param name="root">The address of the site, without a path.</param>
    internal static byte[] Write(SiteSettings site, IReadOnlyList<FeedEntry> entries, Uri root) =>
        // The page has its name for good, wherever its address may move to.
        Write(site.Title, site.Tagline, Path, root, site, root,
            [.. entries.Select(e => Item(e.Post.Heading, e.Post.Cover, e.Post.Description, new Uri(root, e.Post.Path), e.Id, e.Published, e.Post.Date is { } day ? day.ToDateTime(default) : e.Published))]);

    /// <summary>Writes a feed.</summary>
    /// <param name="self">Where it is, from the site's root.</param>
    /// <param name="page">The page that has the same.</param>
    internal static byte[] Write(string title, string words, string self, Uri page, SiteSettings site, Uri root, IReadOnlyList<SyndicationItem> items)
    {
        var feed = new SyndicationFeed(Fit(title), Fit(words), page)
        {
            Id = page.AbsoluteUri,
            LastUpdatedTime = items.Count > 0 ? items.Max(i => i.LastUpdatedTime) : DateTimeOffset.UnixEpoch,
            Items = items,
        };
        feed.Authors.Add(new SyndicationPerson { Name = Fit(site.Title) });
        feed.Links.Add(SyndicationLink.CreateSelfLink(new Uri(root, self), Type));
        using var bytes = new MemoryStream();
        using (var xml = XmlWriter.Create(bytes, new XmlWriterSettings { Encoding = new UTF8Encoding(encoderShouldEmitUTF8Identifier: false), Indent = true }))
        {
            feed.SaveAsAtom10(xml);
        }

        return bytes.ToArray();
    }

    /// <summary>An entry of a feed.</summary>
    /// <param name="at">The page that it leads to.</param>
    /// <param name="id">What it is called for good.</param>
    internal static SyndicationItem Item(string heading, SitePhoto? picture, string says, Uri at, Guid id, DateTime updated, DateTime published)
    {
        var words = new StringBuilder();
        if (picture is not null)
        {
            var address = new Uri(at, Renditions.Address(picture.Picture, Picture <= picture.Width ? Picture : Renditions.Sheet));
            words.Append(CultureInfo.InvariantCulture, $"<p><img src=\"{WebUtility.HtmlEncode(address.AbsoluteUri)}\" alt=\"{WebUtility.HtmlEncode(picture.Words)}\"></p>");
        }

        words.Append(CultureInfo.InvariantCulture, $"<p>{WebUtility.HtmlEncode(says)}</p>");
        return new SyndicationItem(Fit(heading), SyndicationContent.CreateHtmlContent(Fit(words.ToString())), at, $"urn:uuid:{id}", Utc(updated)) { PublishDate = Utc(published) };
    }

    /// <summary>Without characters that XML cannot hold (XML 1.0 §2.2), whoever typed or pasted them.</summary>
    internal static string Fit(string words) => words.All(c => XmlConvert.IsXmlChar(c)) ? words : string.Concat(words.Where(c => XmlConvert.IsXmlChar(c) || char.IsSurrogate(c)));

    static DateTimeOffset Utc(DateTime time) => new(DateTime.SpecifyKind(time, DateTimeKind.Utc));
}
