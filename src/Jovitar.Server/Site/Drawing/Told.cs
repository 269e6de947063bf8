using System.Globalization;
using System.Text.Json.Nodes;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;
using Jovitar.Server.Pages;
using Jovitar.Server.Site.Embedding;

namespace Jovitar.Server.Site.Drawing;

/// <summary>What a page tells those who find it, list it or pass it on: its address, a sentence, a picture, and the photos on it.</summary>
/// <param name="Root">The site's address.</param>
/// <param name="Path">Of the page, without what a visitor chose on it.</param>
/// <param name="Description">Empty for nothing.</param>
/// <param name="Picture">What stands beside a link to it; null for none.</param>
/// <param name="Data">What it is about, as JSON-LD (schema.org); null for nothing.</param>
/// <param name="HasEmbed">Other websites may show something at a link to it.</param>
public sealed record Told(Uri Root, string Path, string Title, string Description, SitePhoto? Picture, string? Data, bool HasEmbed = false)
{
    /// <summary>Longest sentence about a page that nobody wrote one for, characters.</summary>
    const int Longest = 200;

    /// <summary>So many photos of a page are told of; each has a page of its own besides.</summary>
    const int MostPhotos = 24;

    /// <summary>So many albums on a page are named in a sentence about it.</summary>
    const int MostAlbums = 12;

    public string Address => At(Root, Path);

    /// <summary>Where the picture is, and its size.</summary>
    public (string Address, int Width, int Height)? Shown => Picture is { } photo ? Card(Root, photo) : null;

    /// <summary>Where a program asks what it may show at a link to it.</summary>
    public string EmbedIn(string format) => OEmbed.AddressOf(Root, Address, format);

    /// <summary>Of a page.</summary>
    public static Told Of(Uri root, SitePage page, string site)
    {
        var photos = page.Walks.SelectMany(w => w.Photos.Select(p => (Walk: w, Photo: p))).DistinctBy(p => p.Photo.Id).Take(MostPhotos).ToArray();
        var picture = PictureOf(page);
        JsonObject? data = photos.Length == 0 ? null : new JsonObject
        {
            ["@context"] = "https://schema.org",
            ["@type"] = "ImageGallery",
            ["name"] = page.Title,
            ["url"] = At(root, page.Path),
            ["isPartOf"] = new JsonObject { ["@type"] = "WebSite", ["name"] = site, ["url"] = root.AbsoluteUri },
            ["image"] = new JsonArray([.. photos.Select(p => Image(root, p.Walk, p.Photo, At(root, OwnPath(page, p.Walk, p.Photo))))]),
        };
        var words = DescriptionOf(page);
        if (data is not null && words.Length > 0)
        {
            data["description"] = words;
        }

        return new Told(root, page.Path, page.Title, words, picture, data?.ToJsonString(), EmbedBlocks.Has(page));
    }

    /// <summary>Of a photo's own page.</summary>
    public static Told Of(Uri root, SitePage page, Walk walk, SitePhoto photo)
    {
        var path = OwnPath(page, walk, photo);
        var data = Image(root, walk, photo, At(root, path));
        data.Insert(0, "@context", "https://schema.org");
        var words = new[] { photo.Caption, photo.Alt, PhotoLines.Facts(walk, photo), $"A photograph of “{page.Title}”" }.First(w => w.Length > 0);
        return new Told(root, path, photo.Name, Begin(words), photo, data.ToJsonString(), HasEmbed: true);
    }

    /// <summary>Of the start page.</summary>
    public static Told Of(Uri root, string title, string tagline, SitePhoto? picture) => new(root, "/", title, tagline, picture, null);

    static string At(Uri root, string path) => new Uri(root, path).AbsoluteUri;

    static string OwnPath(SitePage page, Walk walk, SitePhoto photo) => string.Create(CultureInfo.InvariantCulture, $"{page.Path}/photo/{photo.Id}{(walk.Number == 1 ? "" : $"?in={walk.Number}")}");

    /// <summary>What stands beside a link to a page; null for none.</summary>
    public static SitePhoto? PictureOf(SitePage page) => page.All.Select(PictureOf).OfType<SitePhoto>().FirstOrDefault();

    static SitePhoto? PictureOf(SiteBlock block) => block switch
    {
        SitePhotosBlock { Walk: { ByLot: false, Photos: [var first, ..] } } => first,
        SitePhotoBlock { Photo: { } photo } => photo,
        SiteBand { On.Photo: { } behind } => behind,
        SiteCovers covers => covers.Entries.Select(e => e.Cover).OfType<SitePhoto>().FirstOrDefault(),
        SiteVideo { Still: { } still } => still,
        _ => null,
    };

    /// <summary>What somebody wrote about the page; else how its words begin, how many photos it has, or what the albums on it are called.</summary>
    static string DescriptionOf(SitePage page)
    {
        if (page.Description.Length > 0)
        {
            return page.Description;
        }

        var words = page.All.OfType<SiteText>().Select(t => Markdown.Plain(t.Words)).FirstOrDefault(w => w.Length > 0);
        var photos = page.Walks.Sum(w => w.Count);
        return words is not null ? Begin(words)
            : photos == 1 ? "One photograph."
            : photos > 1 ? string.Create(CultureInfo.InvariantCulture, $"{photos:#,0} photographs.")
            : Begin(string.Join(", ", page.All.OfType<SiteCovers>().SelectMany(c => c.Entries).Take(MostAlbums).Select(e => e.Heading)));
    }

    /// <summary>The beginning of a text in one line, ended at a word.</summary>
    public static string Begin(string words)
    {
        var line = string.Join(' ', words.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        if (line.Length <= Longest)
        {
            return line;
        }

        var end = line.LastIndexOf(' ', Longest - 1);
        var cut = end > Longest / 2 ? end : char.IsHighSurrogate(line[Longest - 2]) ? Longest - 2 : Longest - 1;
        return $"{line[..cut].TrimEnd('.', ',', ';', ':', ' ')}…";
    }

    static (string Address, int Width, int Height) Card(Uri root, SitePhoto photo)
    {
        var (width, height) = Renditions.CardSize(photo.Width, photo.Shape);
        return (At(root, Renditions.CardAddress(photo.Picture)), width, height);
    }

    /// <summary>A photo as schema.org's ImageObject, with the properties that say whose it is and how it may be used.</summary>
    static JsonObject Image(Uri root, Walk walk, SitePhoto photo, string address)
    {
        var largest = Renditions.For(photo.Width)[^1];
        var across = Renditions.PixelsAcross(largest, photo.Width);
        var image = new JsonObject
        {
            ["@type"] = "ImageObject",
            ["name"] = photo.Name,
            ["url"] = address,
            ["contentUrl"] = At(root, Renditions.Address(photo.Picture, largest)),
            ["thumbnailUrl"] = At(root, Renditions.Address(photo.Picture, Renditions.Sheet)),
            ["width"] = across,
            ["height"] = (int)Math.Round(across / photo.Shape),
        };
        var facts = photo.Facts;
        void Say(string name, JsonNode? value, bool isSaid)
        {
            if (isSaid)
            {
                image[name] = value;
            }
        }

        bool Tells(PhotoWord word) => walk.Press.Words.Contains(word);
        Say("caption", photo.Caption, photo.Caption.Length > 0);
        Say("creditText", photo.Credit, photo.Credit.Length > 0);
        Say("creator", new JsonObject { ["@type"] = "Person", ["name"] = facts.Creator }, facts.Creator.Length > 0);
        Say("copyrightNotice", facts.Copyright, facts.Copyright.Length > 0);
        // A licence is named by an address; words about it stand on the photo's own page.
        Say("license", facts.Licence, Uri.TryCreate(facts.Licence, UriKind.Absolute, out var licence) && licence.Scheme is "http" or "https");
        Say("usageInfo", address, facts.Licence.Length > 0);
        Say("acquireLicensePage", address, facts.Licence.Length > 0);
        Say("dateCreated", facts.Taken?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), facts.Taken is not null && Tells(PhotoWord.Date));
        Say("contentLocation", new JsonObject { ["@type"] = "Place", ["name"] = facts.Place }, facts.Place.Length > 0 && Tells(PhotoWord.Place));
        return image;
    }
}
