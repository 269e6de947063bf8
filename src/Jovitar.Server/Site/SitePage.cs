using System.Collections.Frozen;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Corrections;
using Jovitar.Core.Files;
using Jovitar.Core.Favourites;
using Jovitar.Core.Filtering;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;
using Jovitar.Server.Access.Audiences;

namespace Jovitar.Server.Site;

/// <summary>What else is told of a photo; empty where nothing is known.</summary>
/// <param name="Link">An address of the photo's own.</param>
public sealed record PhotoFacts(string Place, DateOnly? Taken, string Camera, string Licence, string Link, string Creator, string Copyright, string FileName, DateTime Arrived)
{
    public static readonly PhotoFacts None = new("", null, "", "", "", "", "", "", default);
}

/// <summary>A photo as visitors have it.</summary>
/// <param name="Focus">What stays in view where it is cropped to its place; null for its middle.</param>
/// <param name="Rating">0 for none. Visitors are not told it; a mosaic goes by it.</param>
public sealed record SitePhoto(PhotoId Id, string Picture, int Width, int Height, string Title, string Caption, string Alt, string Credit, Spot? Focus, int Rating)
{
    public PhotoFacts Facts { get; init; } = PhotoFacts.None;

    /// <summary>What visitors say about it, at its own page: "comments", or where there are only those "ratings"; null for nothing.</summary>
    public string? Talk { get; init; }

    /// <summary>In what form they may save it at most, where it is offered: the rest is reserved for others.</summary>
    public Saving Saves { get; init; } = Saving.Full;

    /// <summary>The classes of the style sheet that keep the focus in view, to a tenth of the picture: inline styles are closed by the page's policy.</summary>
    public string? FocusClass => Focus is { } f ? string.Create(CultureInfo.InvariantCulture, $"x{Math.Round(f.X * 10)} y{Math.Round(f.Y * 10)}") : null;

    public double Shape => (double)Width / Height;

    /// <summary>What a photo is called where a name is needed and it has no title.</summary>
    public string Name => Title.Length > 0 ? Title : "Untitled photograph";

    /// <summary>What those read who cannot see it.</summary>
    public string Words => Alt.Length > 0 ? Alt : Caption.Length > 0 ? Caption : Name;
}

/// <summary>A cover in an index: a page, an album or a category, and what it opens.</summary>
/// <param name="Path">Where it leads, from the site's root.</param>
/// <param name="Albums">How many albums stand in it; of a category.</param>
/// <param name="Photos">How many photos visitors find there; 0 where albums are counted.</param>
/// <param name="Date">Its own date; of an album that has one, and of a post.</param>
public sealed record SiteEntry(string Path, string Heading, int Albums, int Photos, DateOnly? Date, SitePhoto? Cover, string Description = "");

/// <summary>A way up or down: what a page stands in, or what stands beneath it.</summary>
public sealed record SiteLink(string Path, string Name);

/// <summary>Photos that visitors walk: those of a block, or of the album that one photo stands for.</summary>
/// <param name="Number">Counts the walks of a page from 1; what a visitor chose in them stands in the address by it.</param>
/// <param name="Layout">How they stand.</param>
/// <param name="Bar">What they are narrowed with.</param>
/// <param name="ByLot">Each visit has another order of them, drawn by lot.</param>
/// <param name="Handful">So many of them stand there at most; null for all.</param>
/// <param name="Absent">Which do not stand there on some devices; null for none.</param>
/// <param name="Further">How those come that do not stand there from the start; null for as usual.</param>
public sealed record Walk(int Number, BlockLayout Layout, IReadOnlyList<SitePhoto> Photos, FilterBar Bar, bool ByLot = false, int? Handful = null, Absent? Absent = null, More? Further = null)
{
    static readonly Device[] Devices = Enum.GetValues<Device>();

    string? mark;

    readonly FrozenSet<int>[]? without = Absent is null ? null : [.. Devices.Select(device =>
    {
        var absent = Absent.On(device).ToHashSet();
        return absent.Count == 0 ? [] : Enumerable.Range(0, Photos.Count).Where(i => absent.Contains(Photos[i].Id)).ToFrozenSet();
    })];

    /// <summary>How those come that do not stand there from the start: what runs along has more of them by itself.</summary>
    public More More { get; } = Layout.RunsAlong() ? More.Usual : Further ?? More.Usual;

    /// <summary>What a press on one does.</summary>
    public PressSettings Press { get; init; } = PressSettings.Usual;

    /// <summary>In what form whoever looks may save one of them.</summary>
    public Saving SavesOf(SitePhoto photo) => photo.Saves < Press.Save ? photo.Saves : Press.Save;

    /// <summary>Others may save one of them, and not whoever looks.</summary>
    public bool IsKept(SitePhoto photo) => Press.Save != Saving.Nothing && photo.Saves == Saving.Nothing;

    /// <summary>All of them are offered at once, to those whom their album knows.</summary>
    public bool SavesAll { get; init; }

    /// <summary>The album that asks who looks at them for their favourites among them; null where nobody asks.</summary>
    public AskedFor? AskedFor { get; init; }

    /// <summary>The album by whose price list they are sold; null where they are not.</summary>
    public AlbumId? SoldFrom { get; init; }

    /// <summary>What stands with each.</summary>
    public FrameWords Words { get; init; } = FrameWords.Usual;

    /// <summary>What becomes of one that is touched.</summary>
    public FrameTouch Touch { get; init; } = FrameTouch.Usual;

    /// <summary>Something else becomes of one that is touched than usual.</summary>
    public bool IsTreated => Touch != FrameTouch.Usual;

    /// <summary>How they stand on a device, with room for the words beneath them.</summary>
    public LayoutSettings SettingsOn(Device device) => Layout.For(device) with { Under = Words.On(device).RoomUnder(Words.Second) };

    /// <summary>Where the albums are that photos stand in, as far as a press leads there.</summary>
    public IReadOnlyDictionary<PhotoId, string> AlbumPages { get; init; } = new Dictionary<PhotoId, string>();

    /// <summary>How the filter bar stands.</summary>
    public BarSettings BarSet { get; init; } = BarSettings.None;

    /// <summary>The words that visitors find photos by; null where they cannot.</summary>
    public PhotoSearch? Search { get; init; }

    /// <summary>The orders that visitors may choose: the numbers of all photos in each.</summary>
    public IReadOnlyList<(BarOrder Order, int[] Photos)> Orders { get; init; } = [];

    /// <summary>Visitors can search the photos, or put them in another order.</summary>
    public bool HasFinding => Search is not null || Orders.Count > 0;

    /// <summary>Visitors can narrow the photos, or put them in another order.</summary>
    public bool HasBar => Bar.Entries.Count > 0 || HasFinding;

    /// <summary>Not every device shows the same photos.</summary>
    public bool Differs => without?.Any(w => w.Count > 0) == true;

    /// <summary>The numbers of the photos that a device does not show.</summary>
    public IReadOnlySet<int> Without(Device device) => without?[(int)device] ?? FrozenSet<int>.Empty;

    /// <summary>How many stand there.</summary>
    public int Count => Math.Min(Handful ?? Photos.Count, Photos.Count);

    /// <summary>How many stand there on a device.</summary>
    public int CountOn(Device device) => Photos.Count - Without(device).Count is var there && Handful is { } most ? Math.Min(most, there) : there;

    /// <summary>
    /// In which layout, with all that is set of it, which photos stand there, in their order and as they are corrected, on which
    /// devices, and which buttons: a page that was opened before they changed has another.
    /// </summary>
    public string Mark => mark ??= Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(string.Join('/',
        $"{Layout} {ByLot} {Handful} {Further} {Press.To} {Press.Sign} {Press.Save} {Press.Drawing} {string.Join(',', Press.Words)} {Words} {Touch} {SoldFrom} {string.Join(' ', Layout.Large.Photos)}",
        string.Join(' ', Photos.Select(p => $"{p.Id} {p.Picture} {(Layout.Kind == LayoutKind.Mosaic ? p.Rating : 0)}{(IsKept(p) ? " kept" : "")}")),
        string.Join(' ', Bar.Entries.Select(e => $"{e.Key} {e.Group} {e.Preset}")),
        Absent is null ? "" : string.Join(' ', Devices.Select(d => string.Join(',', Absent.On(d))))))))[..16];
}

/// <summary>An album that asks for favourites.</summary>
public sealed record AskedFor(AlbumId Album, Choosing Choosing);

/// <summary>A block as visitors have it.</summary>
public abstract record SiteBlock(BlockId Id, BlockPlace Place)
{
    /// <summary>The blocks that it holds.</summary>
    public virtual IReadOnlyList<SiteBlock> Inner => [];

    /// <summary>It and all that it holds.</summary>
    public IEnumerable<SiteBlock> All => [this, .. Inner.SelectMany(b => b.All)];
}

/// <summary>What lies behind blocks and their words.</summary>
/// <param name="Number">Counts the grounds of a page from 1.</param>
/// <param name="Photo">Null for a colour.</param>
/// <param name="Over">What words over it are written in, and how well they can be read.</param>
public sealed record SiteGround(int Number, Ground Ground, SitePhoto? Photo, WordsOver Over);

/// <param name="Level">1 for the heading of the page, 2 or 3 for others.</param>
/// <param name="Posted">The day of the post that it is the heading of.</param>
public sealed record SiteHeading(BlockId Id, BlockPlace Place, string Words, HeadingSize Size, int Level, DateOnly? Posted = null) : SiteBlock(Id, Place);

/// <param name="Words">Markdown.</param>
public sealed record SiteText(BlockId Id, BlockPlace Place, string Words) : SiteBlock(Id, Place);

/// <param name="Walk">What is walked when it is pressed; null when nothing is.</param>
/// <param name="Href">Where a press leads instead.</param>
public sealed record SitePhotoBlock(BlockId Id, BlockPlace Place, SitePhoto? Photo, string Line, Walk? Walk, string? Href) : SiteBlock(Id, Place);

/// <param name="Asks">What it asks photos of; null for what no page says.</param>
public sealed record SitePhotosBlock(BlockId Id, BlockPlace Place, Walk Walk, PhotosSource? Asks = null) : SiteBlock(Id, Place);

/// <param name="HasFeed">What stands there is in the feed, too.</param>
public sealed record SiteCovers(BlockId Id, BlockPlace Place, IReadOnlyList<SiteEntry> Entries, int Across, bool Dates, bool Counts, bool Descriptions, bool HasFeed = false) : SiteBlock(Id, Place);

/// <summary>A file as visitors have it.</summary>
/// <param name="Words">What it is called.</param>
public sealed record SiteFile(string Path, string Words, FileKind Kind, long Bytes);

public sealed record SiteFiles(BlockId Id, BlockPlace Place, IReadOnlyList<SiteFile> Files) : SiteBlock(Id, Place);

public sealed record SiteSound(BlockId Id, BlockPlace Place, SiteFile? File, string Line) : SiteBlock(Id, Place);

/// <param name="File">One's own.</param>
/// <param name="Elsewhere">Where it lies if it is none of one's own.</param>
/// <param name="Still">What stands there until it is played.</param>
public sealed record SiteVideo(BlockId Id, BlockPlace Place, SiteFile? File, Uri? Elsewhere, VideoShape Shape, SitePhoto? Still, string Line) : SiteBlock(Id, Place)
{
    /// <summary>Where it is; null where there is none (any more).</summary>
    public string? Source => Elsewhere?.AbsoluteUri ?? File?.Path;
}

public sealed record SiteContact(BlockId Id, BlockPlace Place, ContactBlock Contact) : SiteBlock(Id, Place);

/// <param name="Href">Null where it leads nowhere (any more): then visitors do not see it.</param>
public sealed record SiteButton(BlockId Id, BlockPlace Place, string Words, string? Href) : SiteBlock(Id, Place);

public sealed record SiteDivider(BlockId Id, BlockPlace Place, bool Line) : SiteBlock(Id, Place);

public sealed record SiteBeside(BlockId Id, BlockPlace Place, IReadOnlyList<SiteBlock> Blocks) : SiteBlock(Id, Place)
{
    public override IReadOnlyList<SiteBlock> Inner => Blocks;
}

/// <summary>Blocks that stand on one ground: some beneath each other, or one that stands beside others.</summary>
/// <param name="Id">Of the first of them.</param>
/// <param name="Place">Of the ground.</param>
public sealed record SiteBand(BlockId Id, BlockPlace Place, SiteGround On, IReadOnlyList<SiteBlock> Blocks) : SiteBlock(Id, Place)
{
    public override IReadOnlyList<SiteBlock> Inner => Blocks;
}

/// <summary>What a page that nobody built stands in, or what stands beneath it.</summary>
public sealed record SiteWays(IReadOnlyList<SiteLink> Links, string Label, string Name) : SiteBlock(default, new BlockPlace(BlockFrame.Usual));

/// <summary>Something that visitors open, with all that they can see on it: a page, or what an album or a category has for one by itself.</summary>
/// <param name="Path">Where it is, from the site's root.</param>
/// <param name="Unlisted">Found by its address alone; search engines are asked to leave it out.</param>
/// <param name="Wide">As wide as the window, however wide that is.</param>
/// <param name="Bare">Without the site's head.</param>
public sealed record SitePage(string Path, string Title, string Description, IReadOnlyList<SiteBlock> Blocks, bool Unlisted = false, bool Wide = false, bool Bare = false)
{
    /// <summary>What of the look is otherwise on it than on the site.</summary>
    public LookChange Look { get; init; } = LookChange.None;

    /// <summary>For whom it was made; null for everyone.</summary>
    internal Sight? Sight { get; init; }

    /// <summary>Where its newest photos can be followed; null where they cannot.</summary>
    public string? Feed { get; init; }

    /// <summary>The albums whose covers stand on a category's own page.</summary>
    public IReadOnlyList<AlbumId> Albums { get; init; } = [];

    /// <summary>All blocks, those side by side or on one ground each by itself behind what holds them.</summary>
    public IReadOnlyList<SiteBlock> All { get; } = [.. Blocks.SelectMany(b => b.All)];

    public IReadOnlyList<Walk> Walks { get; } =
    [
        .. Blocks.SelectMany(b => b.All)
            .Select(b => b switch { SitePhotosBlock photos => photos.Walk, SitePhotoBlock photo => photo.Walk, _ => null }).OfType<Walk>(),
    ];

    /// <summary>It is to show photos or covers, and there is none of either yet.</summary>
    public bool IsWaiting { get; } = Blocks.SelectMany(b => b.All).ToArray() is var all
        && all.Any(b => b is SitePhotosBlock or SitePhotoBlock or SiteCovers)
        && all.All(b => b is not (SitePhotosBlock { Walk.Photos.Count: > 0 } or SitePhotoBlock { Photo: not null } or SiteCovers { Entries.Count: > 0 }));

    /// <summary>Where a photo stands on it.</summary>
    /// <param name="number">The walk that is asked about; where it is not there, the first that has it.</param>
    public (Walk Walk, int Photo)? Find(PhotoId photo, int number)
    {
        foreach (var walk in Walks.OrderBy(w => w.Number != number).ThenBy(w => w.Number))
        {
            for (var i = 0; i < walk.Photos.Count; i++)
            {
                if (walk.Photos[i].Id == photo)
                {
                    return (walk, i);
                }
            }
        }

        return null;
    }

    /// <summary>Bytes it takes to keep, about.</summary>
    public long Weight => 4000 + (Walks.Sum(w => w.Photos.Count * (w.Search is null ? 900L : 2200L)));
}

/// <summary>What visitors open, by what it is of. Each has addresses of its own.</summary>
public enum SiteKind
{
    Page,
    Album,
    Category,

    /// <summary>What a visitor has marked; its address says all of it.</summary>
    Favourites,
}

/// <summary>Where something that visitors open is, and which of its states they get.</summary>
/// <param name="Address">The last part of its address today.</param>
internal sealed record PageVersion(SiteKind Kind, Guid Id, long Version, long Site, string Address, Thing Thing)
{
    public string Path => PathOf(Kind, Address);

    /// <summary>For whom it was found.</summary>
    public required Sight Sight { get; init; }

    /// <summary>What it is kept by: the same for all who have the same page.</summary>
    public (Guid Id, long Version, long Site, string Sight) Key => (Id, Version, Site, Sight.Key);

    /// <summary>The page itself, where looking for it was reading all of it; null where it is read and kept apart.</summary>
    public SitePage? Page { get; init; }

    /// <summary>Where a thing is, from the site's root.</summary>
    public static string PathOf(SiteKind kind, string address) => kind switch
    {
        SiteKind.Page => $"/{address}",
        SiteKind.Album => $"/album/{address}",
        SiteKind.Category => $"/category/{address}",
        _ => $"/favourites/{address}",
    };
}
