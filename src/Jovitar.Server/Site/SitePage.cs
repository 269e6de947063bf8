using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Corrections;
using Jovitar.Core.Filtering;
using Jovitar.Core.Pages;

namespace Jovitar.Server.Site;

/// <summary>A photo as visitors have it.</summary>
/// <param name="Focus">What stays in view where it is cropped to its place; null for its middle.</param>
public sealed record SitePhoto(PhotoId Id, string Picture, int Width, int Height, string Title, string Caption, string Alt, string Credit, Spot? Focus)
{
    /// <summary>The classes of the style sheet that keep the focus in view, to a tenth of the picture: inline styles are closed by the page's policy.</summary>
    public string? FocusClass => Focus is { } f ? string.Create(CultureInfo.InvariantCulture, $"x{Math.Round(f.X * 10)} y{Math.Round(f.Y * 10)}") : null;

    public double Shape => (double)Width / Height;

    /// <summary>What a photo is called where a name is needed and it has no title.</summary>
    public string Name => Title.Length > 0 ? Title : "Untitled photograph";
}

/// <summary>A cover in an index: a page, an album or a category, and what it opens.</summary>
/// <param name="Path">Where it leads, from the site's root.</param>
/// <param name="Albums">How many albums stand in it; of a category.</param>
/// <param name="Photos">How many photos visitors find there; 0 where albums are counted.</param>
/// <param name="Date">Its own date; of an album that has one.</param>
public sealed record SiteEntry(string Path, string Heading, int Albums, int Photos, DateOnly? Date, SitePhoto? Cover);

/// <summary>A way up or down: what a page stands in, or what stands beneath it.</summary>
public sealed record SiteLink(string Path, string Name);

/// <summary>Something that visitors open, with all that they can see on it: a page, or what an album or a category has for one by itself.</summary>
/// <param name="Path">Where it is, from the site's root.</param>
/// <param name="Above">What it stands in.</param>
/// <param name="Beneath">Categories beneath it whose albums it shows itself.</param>
/// <param name="Index">Covers that lead on, before the photos.</param>
public sealed record SitePage(
    string Path, PageContent Content, IReadOnlyList<SiteLink> Above, IReadOnlyList<SiteLink> Beneath, IReadOnlyList<SiteEntry> Index, IReadOnlyList<SitePhoto> Photos, FilterBar Bar)
{
    /// <summary>Which photos stand on it, in their order and as they are corrected, and which buttons: a page that was opened before they changed has another.</summary>
    public string Mark { get; } = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"{string.Join(' ', Photos.Select(p => $"{p.Id} {p.Picture}"))}/{string.Join(' ', Bar.Entries.Select(e => e.Key))}")))[..16];
}

/// <summary>What visitors open, by what it is of. Each has addresses of its own.</summary>
public enum SiteKind
{
    Page,
    Album,
    Category,
}

/// <summary>Where something that visitors open is, and which of its states they get.</summary>
/// <param name="Address">The last part of its address today.</param>
internal sealed record PageVersion(SiteKind Kind, Guid Id, long Version, long Site, string Address, Thing Thing)
{
    public string Path => PathOf(Kind, Address);

    /// <summary>Where a thing is, from the site's root.</summary>
    public static string PathOf(SiteKind kind, string address) => kind switch
    {
        SiteKind.Page => $"/{address}",
        SiteKind.Album => $"/album/{address}",
        _ => $"/category/{address}",
    };
}
