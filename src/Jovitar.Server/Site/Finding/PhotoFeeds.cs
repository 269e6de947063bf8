using System.ServiceModel.Syndication;
using System.Xml.Linq;
using Jovitar.Core;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform;

namespace Jovitar.Server.Site.Finding;

/// <summary>The photos of an album or a category that came last, for feed readers (Atom, RFC 4287, with Media RSS 1.5.1).</summary>
internal sealed class PhotoFeeds(SiteSources sources)
{
    /// <summary>Beneath the page's own address.</summary>
    public const string Name = "feed.xml";

    /// <summary>So many photos it has at most.</summary>
    public const int Most = 60;

    /// <summary>How wide the picture of an entry is at most, pixels.</summary>
    const int PictureWidth = 1600;

    static readonly XNamespace Media = "http://search.yahoo.com/mrss/";

    /// <summary>Writes the feed of an album's or a category's own page.</summary>
    /// <param name="root">The address of the site, without a path.</param>
    public async Task<byte[]> WriteAsync(SiteSettings site, SitePage page, Sight everyone, Uri root, CancellationToken ct)
    {
        SyndicationItem[] items = [.. (await PhotosAsync(page, everyone, ct)).Select(p => ItemOf(p.Photo, p.Path, root))];
        return SiteFeed.Write($"{page.Title} · {site.Title}", page.Description, $"{page.Path}/{Name}", new Uri(root, page.Path), site, root, items);
    }

    /// <summary>The newest first, each with the page of its own that visitors have in the album or the category.</summary>
    async Task<IReadOnlyList<(SitePhoto Photo, string Path)>> PhotosAsync(SitePage page, Sight everyone, CancellationToken ct)
    {
        var own = page.Walks.SelectMany(w => w.Photos).Select(p => (Photo: p, Path: $"{page.Path}/photo/{p.Id}"));
        return [.. (await OfAlbumsAsync(page.Albums, everyone, ct)).Concat(own).DistinctBy(p => p.Photo.Id).OrderByDescending(p => p.Photo.Facts.Arrived).ThenBy(p => p.Photo.Id.Value).Take(Most)];
    }

    async Task<IEnumerable<(SitePhoto Photo, string Path)>> OfAlbumsAsync(IReadOnlyList<AlbumId> albums, Sight everyone, CancellationToken ct)
    {
        if (albums.Count == 0)
        {
            return [];
        }

        var newest = PhotosSource.Of() with { Kind = SourceKind.Newest, Most = Most };
        var among = new Seeing(everyone, new Lazy<Task<IReadOnlyList<AlbumId>>>(Task.FromResult(albums)));
        var photos = await sources.PhotosAsync(newest, among, ct);
        var pages = await sources.AlbumPagesAsync(newest, photos, among, ct);
        return photos.Where(p => pages.ContainsKey(p.Id)).Select(p => (p, $"{pages[p.Id]}/photo/{p.Id}"));
    }

    static SyndicationItem ItemOf(SitePhoto photo, string path, Uri root)
    {
        var width = Renditions.For(photo.Width).LastOrDefault(w => w <= PictureWidth, Renditions.Sheet);
        var across = Renditions.PixelsAcross(width, photo.Width);
        var address = new Uri(root, Renditions.Address(photo.Picture, width)).AbsoluteUri;
        var item = SiteFeed.Item(photo.Name, photo, photo.Caption, new Uri(root, path), photo.Id.Value, photo.Facts.Arrived, photo.Facts.Arrived);
        item.ElementExtensions.Add(Element(
            "content", "", ("url", address), ("medium", "image"), ("type", "image/webp"), ("width", $"{across}"), ("height", $"{Math.Round(across / photo.Shape)}")));
        item.ElementExtensions.Add(Element("thumbnail", "", ("url", new Uri(root, Renditions.Address(photo.Picture, Renditions.Sheet)).AbsoluteUri)));
        item.ElementExtensions.Add(Element("title", photo.Name, ("type", "plain")));
        foreach (var (name, says) in new[] { ("description", photo.Caption), ("credit", photo.Credit), ("copyright", photo.Facts.Copyright) }.Where(w => w.Item2.Length > 0))
        {
            item.ElementExtensions.Add(Element(name, says));
        }

        return item;
    }

    static XElement Element(string name, string says, params (string Name, string Value)[] has) =>
        new(Media + name, new XAttribute(XNamespace.Xmlns + "media", Media), has.Select(h => new XAttribute(h.Name, h.Value)), says.Length > 0 ? SiteFeed.Fit(says) : null);
}
