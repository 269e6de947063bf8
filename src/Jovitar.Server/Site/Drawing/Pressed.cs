using Jovitar.Core.Pages;

namespace Jovitar.Server.Site.Drawing;

/// <summary>What a press on a photo does where it does not open it, and what says so.</summary>
/// <param name="Href">Where it leads; null where it opens the photo, or does nothing.</param>
/// <param name="Sign">The name of the sign that it bears; null for none.</param>
/// <param name="Says">What is read out besides the photo's words; empty for nothing.</param>
/// <param name="Opens">It opens the photo.</param>
public sealed record FramePress(string? Href, string? Sign, string Says, bool Opens)
{
    /// <summary>It opens, and no sign says so.</summary>
    static readonly FramePress Usual = new(null, null, "", Opens: true);

    public static FramePress Of(Walk walk, SitePhoto photo)
    {
        var press = walk.Press;
        if (press is { To: PressTo.Viewer, Sign: SignWhen.Never })
        {
            return Usual;
        }

        var (to, href) = press.Of(photo.Facts.Link, walk.AlbumPages.GetValueOrDefault(photo.Id));
        var says = to switch { PressTo.Link => $"leads to {Host(href!)}", PressTo.Album => "leads to its album", _ => "" };
        var sign = press.Sign == SignWhen.Never || to == PressTo.Nothing ? null
            : press.Drawing.Length > 0 && to == press.To ? OwnSign(walk)
            : $"sign-{Narrowed.Name(to)}";
        return new FramePress(href, sign, says, to == PressTo.Viewer);
    }

    /// <summary>What the owner's own sign of a block is called.</summary>
    public static string OwnSign(Walk walk) => $"sign-w{walk.Number}";

    static string Host(string link) => link.StartsWith('/') ? "a page of this site" : new Uri(link) is { Scheme: "mailto" } mail ? mail.GetComponents(UriComponents.UserInfo | UriComponents.Host, UriFormat.Unescaped) : new Uri(link).Host;
}

/// <summary>What is told of a photo in the viewer and on its own page.</summary>
public static class PhotoLines
{
    static readonly PhotoWord[] OfFacts = [PhotoWord.Place, PhotoWord.Date, PhotoWord.Camera, PhotoWord.FileName], OfCredit = [PhotoWord.Credit, PhotoWord.Licence];

    /// <summary>Where and when it was taken and with what, as far as it is told and known.</summary>
    public static string Facts(Walk walk, SitePhoto photo) => Line(OfFacts, walk, photo);

    /// <summary>Whose it is, and what may be done with it.</summary>
    public static string Credit(Walk walk, SitePhoto photo) => Line(OfCredit, walk, photo);

    static string Line(PhotoWord[] words, Walk walk, SitePhoto photo) => string.Join(" · ", words.Where(walk.Press.Words.Contains).Select(w => Say(w, photo)).Where(s => s.Length > 0));

    /// <summary>What a photo says of itself; empty where nothing is known.</summary>
    public static string Say(PhotoWord word, SitePhoto photo) => word switch
    {
        PhotoWord.Title => photo.Title,
        PhotoWord.Caption => photo.Caption,
        PhotoWord.Place => photo.Facts.Place,
        PhotoWord.Date => photo.Facts.Taken is { } day ? SiteDates.Whole(day) : "",
        PhotoWord.Camera => photo.Facts.Camera,
        PhotoWord.Credit => photo.Credit,
        PhotoWord.Licence => photo.Facts.Licence,
        PhotoWord.FileName => Path.GetFileNameWithoutExtension(photo.Facts.FileName),
        _ => throw new ArgumentOutOfRangeException(nameof(word)),
    };
}
