using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.RegularExpressions;
using Jovitar.Core.Albums;
using Jovitar.Core.Layout;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Themes;

namespace Jovitar.Core.Pages;

/// <summary>How much of the page's width a block takes. Kept by name.</summary>
public enum BlockWidth
{
    Quarter,
    Half,
    ThreeQuarters,
    Full,

    /// <summary>The whole window, beyond the page's margins.</summary>
    Window,
}

/// <summary>Where a block that is narrower than the page stands, and its words with it.</summary>
public enum BlockAlign
{
    Left,
    Centre,
    Right,
}

/// <summary>A block's place on the page, what lies behind it there, and how it looks.</summary>
/// <param name="Look">What of the look is otherwise in it than on the page; see <see cref="LookChange.OfBlock"/>.</param>
public sealed record BlockFrame(BlockWidth Width, BlockAlign Align, Ground Ground, LookChange Look)
{
    public static readonly BlockFrame Usual = new(BlockWidth.Full, BlockAlign.Left, Ground.None, LookChange.None);

    /// <summary>What is wrong with it, a sentence; null when it may be kept.</summary>
    public string? Fault() => Ground.Fault() ?? Look.Fault();

    /// <summary>With every number brought into its range, and what of the look a block may say.</summary>
    public BlockFrame Bounded() => this with { Look = Look.Bounded().OfBlock() };

    /// <summary>The share of the page's width, 0 to 1; the whole window counts as the page.</summary>
    [JsonIgnore]
    public double Share => Width switch
    {
        BlockWidth.Quarter => 0.25,
        BlockWidth.Half => 0.5,
        BlockWidth.ThreeQuarters => 0.75,
        _ => 1,
    };
}

/// <summary>One part of a page. A page is a column of them.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(HeadingBlock), "heading")]
[JsonDerivedType(typeof(TextBlock), "text")]
[JsonDerivedType(typeof(PhotoBlock), "photo")]
[JsonDerivedType(typeof(PhotosBlock), "photos")]
[JsonDerivedType(typeof(IndexBlock), "index")]
[JsonDerivedType(typeof(VideoBlock), "video")]
[JsonDerivedType(typeof(SoundBlock), "sound")]
[JsonDerivedType(typeof(FilesBlock), "files")]
[JsonDerivedType(typeof(ContactBlock), "contact")]
[JsonDerivedType(typeof(ButtonBlock), "button")]
[JsonDerivedType(typeof(DividerBlock), "divider")]
[JsonDerivedType(typeof(BesideBlock), "beside")]
public abstract record Block(BlockId Id, BlockFrame Frame)
{
    /// <summary>What is wrong with it, a sentence; null when it may be kept.</summary>
    public virtual string? Fault() => null;

    /// <summary>With every number brought into its range.</summary>
    public virtual Block Bounded() => this with { Frame = Frame.Bounded() };

    /// <summary>Everything it is set to, as text: equal for blocks that are set alike, whatever lists they were read into.</summary>
    public string Said() => JsonSerializer.Serialize(this);
}

/// <summary>How large a heading is.</summary>
public enum HeadingSize
{
    Large,
    Middle,
    Small,
}

/// <summary>A heading.</summary>
/// <param name="Words">Empty for the page's title.</param>
public sealed record HeadingBlock(BlockId Id, BlockFrame Frame, string Words, HeadingSize Size) : Block(Id, Frame)
{
    public override string? Fault() => Words.Length > PageContent.LongestTitle ? $"A heading may have {PageContent.LongestTitle} characters." : null;
}

/// <summary>Words.</summary>
/// <param name="Words">Markdown (CommonMark).</param>
public sealed partial record TextBlock(BlockId Id, BlockFrame Frame, string Words) : Block(Id, Frame)
{
    [GeneratedRegex(@"\]\(<?/file/([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})/")]
    private static partial Regex FileLinks();

    /// <summary>The files that its links lead to.</summary>
    public IEnumerable<FileId> Files() => FileLinks().Matches(Words).Select(m => new FileId(Guid.Parse(m.Groups[1].ValueSpan)));

    public const int Longest = 20_000;

    public override string? Fault() => Words.Length > Longest ? $"A text may have {Longest:#,0} characters. Put the rest into another one." : null;
}

/// <summary>What happens when a photo that stands alone is pressed.</summary>
public enum PhotoPress
{
    /// <summary>It opens large; where it stands for an album, the whole album is walked there.</summary>
    Open,
    Link,
    Nothing,
}

/// <summary>One photo, which may stand for a whole album.</summary>
/// <param name="Photo">Null for the album's cover.</param>
/// <param name="Album">What it stands for; null for nothing but itself.</param>
/// <param name="Line">Words beneath it, inviting or explaining.</param>
/// <param name="ByLot">Every visit has another photo of the album, drawn by lot; where none is chosen, and a press walks the album.</param>
public sealed record PhotoBlock(BlockId Id, BlockFrame Frame, PhotoId? Photo, AlbumId? Album, string Line, PhotoPress Press, LinkTo Link, bool ByLot) : Block(Id, Frame)
{
    public const int LongestLine = 300;

    /// <summary>Which photo stands there is drawn by lot.</summary>
    [JsonIgnore]
    public bool IsDrawn => ByLot && Photo is null && Album is not null && Press == PhotoPress.Open;

    /// <summary>It shows the cover of an album that is not walked here: only of one that visitors find anyway.</summary>
    [JsonIgnore]
    public bool ShowsSeenCover => Photo is null && Album is not null && Press != PhotoPress.Open;

    public override string? Fault() => Line.Length > LongestLine ? $"The line beneath a photo may have {LongestLine} characters." : Press == PhotoPress.Link ? Link.Fault() : null;
}

/// <summary>Many photos, in a layout.</summary>
/// <param name="Absent">Which of them do not stand there on some devices.</param>
/// <param name="More">How those come that do not stand there from the start.</param>
/// <param name="Press">What a press on one does.</param>
/// <param name="Words">What stands with each.</param>
/// <param name="Touch">What becomes of one that is touched.</param>
public sealed record PhotosBlock(
    BlockId Id, BlockFrame Frame, PhotosSource Source, BlockLayout Layout, BarSettings Bar, Absent Absent, More More, PressSettings Press, FrameWords Words, FrameTouch Touch) : Block(Id, Frame)
{
    /// <summary>Photos in a layout, all else as usual.</summary>
    public static PhotosBlock Of(BlockId id, PhotosSource source, BlockLayout layout) =>
        new(id, BlockFrame.Usual, source, layout, BarSettings.None, Absent.None, More.Usual, PressSettings.Usual, FrameWords.Usual, FrameTouch.Usual);

    public override string? Fault() => Source.Fault() ?? Layout.Fault() ?? Bar.Fault() ?? Absent.Fault() ?? Press.Fault() ?? Words.Fault() ?? Touch.Fault();

    public override Block Bounded() =>
        this with { Frame = Frame.Bounded(), Layout = Layout.Bounded(), Bar = Bar.Whole(), More = More.Bounded(), Press = Press.Whole(), Words = Words.Bounded(), Touch = Touch.Bounded() };
}

/// <summary>Where the photos of a block come from. Kept by name.</summary>
public enum SourceKind
{
    /// <summary>Albums, joined without doubles in their order.</summary>
    Albums,

    /// <summary>Picked by hand, one by one.</summary>
    Picked,
    Category,
    Tag,
    Newest,
    HighestRated,
    MostViewed,
}

/// <summary>The photos of a block. What was said for another kind of source is kept while it is not used.</summary>
/// <param name="Albums">In their order.</param>
/// <param name="Photos">In their order.</param>
/// <param name="Sort">Null for the order that the source has by itself.</param>
/// <param name="Reversed">Against the usual way of the sort.</param>
/// <param name="Most">The largest number; null for all.</param>
/// <param name="ByLot">For every visit they are drawn by lot, in another order, and where there is a largest number another handful; without scripts they stand in the order of the sort.</param>
public sealed record PhotosSource(
    SourceKind Kind, IReadOnlyList<AlbumId> Albums, IReadOnlyList<PhotoId> Photos, CategoryId? Category, TagId? Tag, SheetSort? Sort, bool Reversed, int? Most, bool ByLot)
{
    public const int MostAlbums = 100;
    public const int MostPicked = 500;
    public const int LargestMost = 10_000;

    public static PhotosSource Of(params IReadOnlyList<AlbumId> albums) => new(SourceKind.Albums, albums, [], null, null, null, false, null, ByLot: false);

    /// <summary>
    /// Whether visitors come upon photos because they stand here. Albums and what was picked by hand were put here on purpose; what
    /// gathers photos by a category, a tag, their age, rating or views only shows those that visitors find elsewhere anyway.
    /// </summary>
    [JsonIgnore]
    public bool Publishes => Kind is SourceKind.Albums or SourceKind.Picked;

    /// <summary>The one album whose photos they are; null where it is none, or several.</summary>
    [JsonIgnore]
    public AlbumId? Alone => Kind == SourceKind.Albums && Albums.Count == 1 ? Albums[0] : null;

    /// <summary>The one album in whose own order they stand; null where it is another order, or that of several.</summary>
    [JsonIgnore]
    public AlbumId? InOrderOf => Sort is null && !Reversed ? Alone : null;

    public string? Fault() =>
        Albums.Count > MostAlbums ? $"A block may join {MostAlbums} albums."
        : Photos.Count > MostPicked ? $"A block may have {MostPicked} photos picked by hand. Make an album of them; that may have any number."
        : Most is < 1 or > LargestMost ? $"The largest number is between 1 and {LargestMost:#,0}."
        : Sort is SheetSort.Place ? "The order made by hand is the one that the source has by itself."
        : null;
}

/// <summary>What an index lists. Kept by name.</summary>
public enum IndexKind
{
    /// <summary>The albums of a category.</summary>
    Category,

    /// <summary>Albums that were chosen, in their order.</summary>
    Albums,

    /// <summary>The categories at the top of the tree.</summary>
    Categories,

    /// <summary>The pages that are no posts, the latest first.</summary>
    Pages,

    /// <summary>The posts, the newest first.</summary>
    Posts,
}

/// <summary>Covers that lead on to albums, categories or pages. It lists what visitors find anyway and publishes nothing.</summary>
/// <param name="Beneath">With the albums of the categories beneath.</param>
/// <param name="Most">The largest number; null for all.</param>
/// <param name="Across">How many stand side by side on a desktop.</param>
public sealed record IndexBlock(
    BlockId Id, BlockFrame Frame, IndexKind Of, CategoryId? Category, bool Beneath, IReadOnlyList<AlbumId> Albums, IndexSort Sort, int? Most, int Across, bool Dates, bool Counts, bool Descriptions)
    : Block(Id, Frame)
{
    public const int MostAlbums = 100;
    public const int MostAcross = 6;

    public override string? Fault() =>
        Albums.Count > MostAlbums ? $"An index may have {MostAlbums} albums chosen by hand."
        : Most is < 1 or > 500 ? "The largest number is between 1 and 500."
        : Across is < 1 or > MostAcross ? $"Between 1 and {MostAcross} covers stand side by side."
        : null;
}

/// <summary>A button that leads somewhere.</summary>
public sealed record ButtonBlock(BlockId Id, BlockFrame Frame, string Words, LinkTo Link) : Block(Id, Frame)
{
    public const int Longest = 80;

    public override string? Fault() => Words.Length > Longest ? $"A button may have {Longest} characters." : Link.Fault();
}

/// <summary>A pause between blocks.</summary>
/// <param name="Line">A hairline in its middle; else space alone.</param>
public sealed record DividerBlock(BlockId Id, BlockFrame Frame, bool Line) : Block(Id, Frame);

/// <summary>Two or three blocks that stand side by side; on a phone one beneath the other.</summary>
public sealed record BesideBlock(BlockId Id, BlockFrame Frame, IReadOnlyList<Block> Blocks) : Block(Id, Frame)
{
    public const int Most = 3;

    /// <summary>How they look is said of each.</summary>
    public override Block Bounded() => this with { Frame = Frame with { Look = LookChange.None }, Blocks = [.. Blocks.Select(b => b.Bounded())] };

    public override string? Fault() =>
        Blocks.Count > Most ? $"At most {Most} blocks stand side by side."
        : Blocks.Any(b => b is BesideBlock) ? "What stands side by side cannot hold more of it."
        : null;
}

/// <summary>What a link leads to. Kept by name.</summary>
public enum LinkKind
{
    /// <summary>An address, on this site or elsewhere.</summary>
    Address,
    Page,
    Album,
    Category,

    /// <summary>A sound, a video or a document; it is public because something on a page leads to it.</summary>
    File,
}

/// <summary>Where a press leads: a thing of the site, wherever its address may move to, or an address.</summary>
/// <param name="Thing">Of a page, album, category or file.</param>
/// <param name="Address">Of an address.</param>
public sealed record LinkTo(LinkKind Kind, Guid? Thing, string Address)
{
    public const int Longest = 2000;

    public static readonly LinkTo Nowhere = new(LinkKind.Address, null, "");

    /// <summary>The address as it may stand in a page: a path of this site, or http, https or mailto; null where it leads nowhere.</summary>
    public static string? Href(string address)
    {
        var wish = address.Trim();
        if (wish.StartsWith('/') && !wish.StartsWith("//", StringComparison.Ordinal) && !wish.StartsWith("/\\", StringComparison.Ordinal))
        {
            return wish;
        }

        return Uri.TryCreate(wish, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https" or "mailto" ? wish : null;
    }

    public string? Fault() =>
        Kind != LinkKind.Address || Address.Length == 0 ? null
        : Address.Length > Longest ? $"An address may have {Longest:#,0} characters."
        : Href(Address) is null ? "An address begins with https://, with mailto:, or with / for a page of this site."
        : null;
}
