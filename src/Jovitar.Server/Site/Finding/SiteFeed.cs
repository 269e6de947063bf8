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

/// <summary>The newest posts for feed readers (Atom, RFC 4287).</summary>
public static class SiteFeed
{
    public const string Path = "/feed.xml";

    /// <summary>So many posts it has at most.</summary>
    public const int Most = 40;

    /// <summary>How wide the picture of a post is there, pixels.</summary>
    const int Picture = 960;

    /// <summary>Writes the feed.</summary>
    /// <param name="root">The address of the site, without a path.</param>
    internal static byte[] Write(SiteSettings site, IReadOnlyList<FeedEntry> entries, Uri root)
    {
        var feed = new SyndicationFeed(Fit(site.Title), Fit(site.Tagline), root)
        {
            Id = root.AbsoluteUri,
            LastUpdatedTime = entries.Count > 0 ? Utc(entries.Max(e => e.Published)) : DateTimeOffset.UnixEpoch,
            Items = [.. entries.Select(e => ItemOf(e, root))],
        };
        feed.Authors.Add(new SyndicationPerson { Name = Fit(site.Title) });
        feed.Links.Add(SyndicationLink.CreateSelfLink(new Uri(root, Path), "application/atom+xml"));
        using var bytes = new MemoryStream();
        using (var xml = XmlWriter.Create(bytes, new XmlWriterSettings { Encoding = new UTF8Encoding(encoderShouldEmitUTF8Identifier: false), Indent = true }))
        {
            feed.SaveAsAtom10(xml);
        }

        return bytes.ToArray();
    }

    static SyndicationItem ItemOf(FeedEntry entry, Uri root)
    {
        var post = entry.Post;
        var words = new StringBuilder();
        if (post.Cover is { } cover)
        {
            var address = new Uri(root, Renditions.Address(cover.Picture, Picture <= cover.Width ? Picture : Renditions.Sheet));
            words.Append(CultureInfo.InvariantCulture, $"<p><img src=\"{WebUtility.HtmlEncode(address.AbsoluteUri)}\" alt=\"{WebUtility.HtmlEncode(cover.Words)}\"></p>");
        }

        words.Append(CultureInfo.InvariantCulture, $"<p>{WebUtility.HtmlEncode(post.Description)}</p>");
        // The page has its name for good, wherever its address may move to.
        return new SyndicationItem(Fit(post.Heading), SyndicationContent.CreateHtmlContent(Fit(words.ToString())), new Uri(root, post.Path), $"urn:uuid:{entry.Id}", Utc(entry.Published))
        {
            PublishDate = post.Date is { } day ? new DateTimeOffset(day, default, TimeSpan.Zero) : Utc(entry.Published),
        };
    }

    /// <summary>Without characters that XML cannot hold (XML 1.0 §2.2), whoever typed or pasted them.</summary>
    static string Fit(string words) => words.All(c => XmlConvert.IsXmlChar(c)) ? words : string.Concat(words.Where(c => XmlConvert.IsXmlChar(c) || char.IsSurrogate(c)));

    static DateTimeOffset Utc(DateTime time) => new(DateTime.SpecifyKind(time, DateTimeKind.Utc));
}
