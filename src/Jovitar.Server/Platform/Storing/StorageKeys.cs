using System.Globalization;
using Jovitar.Core.Photos;

namespace Jovitar.Server.Platform.Storing;

/// <summary>The keys under which bytes are stored: a folder, and a name of small letters, digits, points and hyphens.</summary>
internal static class StorageKeys
{
    public const string Originals = "originals";
    public const string Renditions = "renditions";
    public const string Arrivals = "arriving";

    /// <summary>What was sent in and is no photo yet.</summary>
    public const string Sent = "sent";

    /// <summary>How the names of scanned pages begin.</summary>
    public const string ScannedPage = "scan-";

    /// <summary>The original with this SHA-256, in hexadecimal digits.</summary>
    public static string Original(string hash) => $"{Originals}/{hash}";

    /// <summary>A rendition, by today's recipe.</summary>
    /// <param name="picture">The original's SHA-256, and behind a hyphen what names its correction.</param>
    public static string Rendition(string picture, int width) => string.Create(CultureInfo.InvariantCulture, $"{Renditions}/{picture}-{Core.Photos.Renditions.Recipe}-{width}.webp");

    /// <summary>The picture beside a link, by today's recipe.</summary>
    /// <param name="picture">As of a rendition.</param>
    public static string Card(string picture) => string.Create(CultureInfo.InvariantCulture, $"{Renditions}/{picture}-{Core.Photos.Renditions.Recipe}-card.jpg");

    /// <summary>The picture that a rendition is of, by the rendition's name; null when it is none.</summary>
    public static PictureName? PictureOf(string name)
    {
        var parts = name.Split('-');
        return parts.Length > 2 && PictureName.TryRead(string.Join('-', parts[..^2]), out var picture) ? picture : null;
    }

    /// <summary>The small picture out of the file itself.</summary>
    public static string Preview(string hash) => $"{Renditions}/{hash}-preview.jpg";

    /// <summary>How the keys of all that was made of an original begin.</summary>
    public static string MadeOf(string hash) => $"{Renditions}/{hash}-";

    /// <summary>The bytes of a photo that was sent in, until somebody has accepted it.</summary>
    public static string SentIn(Guid photo) => $"{Sent}/{photo:N}";

    /// <summary>A picture of one.</summary>
    public static string SentPicture(Guid photo, int width) => string.Create(CultureInfo.InvariantCulture, $"{Sent}/{photo:N}-{width}.webp");

    /// <summary>Something that is arriving, by a name of its own.</summary>
    public static string Arriving(string name) => $"{Arrivals}/{name}";
}
