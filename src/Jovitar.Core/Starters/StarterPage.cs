using System.Globalization;
using Jovitar.Core.Layout;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Pages;

namespace Jovitar.Core.Starters;

/// <summary>Lays out a starter's page with albums in its places. Nothing on it is a sample: where there is nothing of the owner's, the place is left empty, and visitors see the rest.</summary>
/// <param name="site">What the site is called.</param>
/// <param name="tagline">The sentence beneath that; empty for none.</param>
/// <param name="next">Makes the id of a block.</param>
public sealed class StarterPage(string site, string tagline, Func<BlockId> next)
{
    /// <summary>A photo that fills a window needs so many pixels across.</summary>
    const int LeastAcross = 1600;

    /// <summary>Wider than this a photo lies behind words without losing what it shows.</summary>
    const double LeastWide = 1.2;

    const int AcrossCovers = 3;
    const int FewPhotos = 12;
    const int BestPhotos = 40;

    /// <summary>The page.</summary>
    /// <param name="albums">In their order; none for a site without albums.</param>
    public PageContent Of(Starter starter, IReadOnlyList<AlbumSeen> albums)
    {
        var first = albums.Count > 0 ? albums[0] : null;
        var blocks = starter switch
        {
            Starter.EventReport => Report(first),
            Starter.ClassPage => [Heading(), Words(""), .. albums.SelectMany(Section)],
            Starter.Portfolio => [Heading(), Best(albums)],
            Starter.SeasonOverview => [Heading(), Words(""), .. Covers([.. albums.Take(2 * AcrossCovers)]), .. Joined(albums)],
            Starter.SalesGallery => Sales(first),
            Starter.Contact => Contact(first),
            _ => Home(albums),
        };
        return PageContent.Made(Title(starter, site, [.. albums.Select(a => a.Album)]), "", blocks).Bounded();
    }

    /// <summary>Photos of an album with those ahead that would stand alone on a starter's page: the highest rated; beside a contact an upright one.</summary>
    public static IEnumerable<PhotoHeld> Telling(Starter starter, IEnumerable<PhotoHeld> photos) =>
        photos.OrderByDescending(p => starter == Starter.Contact && p.Shape() < 1).ThenByDescending(p => p.Rating);

    /// <summary>What the page is called.</summary>
    /// <param name="site">What the site is called.</param>
    public static string Title(Starter starter, string site, IReadOnlyList<AlbumHeld> albums) => Text.Cut(starter switch
    {
        Starter.EventReport => albums.Count > 0 ? albums[0].Title : "What happened",
        Starter.ClassPage => "Our class",
        Starter.Portfolio => "Portfolio",
        Starter.SeasonOverview => albums.Count > 0 ? $"Season {Years(albums)}" : "The season",
        Starter.SalesGallery => albums.Count > 0 ? $"Prints: {albums[0].Title}" : "Prints",
        Starter.Contact => "Contact",
        _ => site,
    }, PageContent.LongestTitle);

    static string Years(IReadOnlyList<AlbumHeld> albums)
    {
        var (from, to) = (albums.Min(a => a.Day.Year), albums.Max(a => a.Day.Year));
        return from == to ? $"{to}" : string.Create(CultureInfo.InvariantCulture, $"{from}–{to % 100:00}");
    }

    /// <summary>The title over its best wide photo, what is said of the album, and all of it.</summary>
    Block[] Report(AlbumSeen? album) => album is null
        ? [Heading(), Words(""), Photos(PhotosSource.Of(), [])]
        : [.. Opening([album], album.Album.Description), Photos(PhotosSource.Of(album.Album.Id), album.Photos)];

    /// <summary>An album with its title and a few of its photos; the viewer walks on through these.</summary>
    IEnumerable<Block> Section(AlbumSeen album) =>
    [
        new HeadingBlock(next(), BlockFrame.Usual, Text.Cut(album.Album.Title, PageContent.LongestTitle), HeadingSize.Middle),
        .. Said(album.Album.Description),
        Photos(PhotosSource.Of(album.Album.Id), album.Photos) with { More = new More(MoreBy.Button, FewPhotos) },
    ];

    /// <summary>The best of several albums, the highest rated first.</summary>
    PhotosBlock Best(IReadOnlyList<AlbumSeen> albums) =>
        Photos(PhotosSource.Of([.. albums.Select(a => a.Album.Id)]) with { Sort = SheetSort.Rating, Most = BestPhotos }, [.. albums.SelectMany(a => a.Photos)], 340);

    /// <summary>Covers, three beside each other; a press walks the whole album.</summary>
    IEnumerable<Block> Covers(IReadOnlyList<AlbumSeen> albums) => albums.Chunk(AcrossCovers).Select(row => row.Length == 1
        ? Cover(row[0]) with { Frame = BlockFrame.Usual with { Width = BlockWidth.Half } }
        : (Block)new BesideBlock(next(), BlockFrame.Usual, [.. row.Select(Cover)]));

    PhotoBlock Cover(AlbumSeen album) =>
        new(next(), BlockFrame.Usual, null, album.Album.Id, Text.Cut(album.Album.Title, PhotoBlock.LongestLine), PhotoPress.Open, LinkTo.Nowhere, ByLot: false);

    /// <summary>All albums together; where there are several, visitors narrow them by a button each.</summary>
    IEnumerable<Block> Joined(IReadOnlyList<AlbumSeen> albums)
    {
        var all = Photos(PhotosSource.Of([.. albums.Select(a => a.Album.Id)]), [.. albums.SelectMany(a => a.Photos)], 220) with { More = new More(MoreBy.Button, 48) };
        return [new DividerBlock(next(), BlockFrame.Usual, Line: true), albums.Count > 1 ? all with { Bar = BarSettings.Of(new BarGroup("", One: false, [BarButton.EachAlbum])) } : all];
    }

    Block[] Sales(AlbumSeen? album)
    {
        var photos = Photos(album is null ? PhotosSource.Of() : PhotosSource.Of(album.Album.Id), album?.Photos ?? []);
        var title = FrameWords.Usual with { Desktop = WordsSet.None with { First = WordsWhen.Under } };
        return [Heading(), Words(""), photos with { Words = title }, new DividerBlock(next(), BlockFrame.Usual, Line: true), Reached()];
    }

    Block[] Contact(AlbumSeen? album)
    {
        Block[] reached = [Words(""), Reached()];
        return Telling(Starter.Contact, album?.Photos ?? []).FirstOrDefault() is { } photo
            ? [Heading(), new BesideBlock(next(), BlockFrame.Usual, [new PhotoBlock(next(), BlockFrame.Usual, photo.Id, null, "", PhotoPress.Nothing, LinkTo.Nowhere, ByLot: false), reached[1]]), reached[0]]
            : [Heading(), .. reached];
    }

    Block[] Home(IReadOnlyList<AlbumSeen> albums) =>
    [
        .. Opening(albums, tagline),
        .. Covers(albums),
        .. albums.Count > 0 ? (Block[])[new HeadingBlock(next(), BlockFrame.Usual, "Newest", HeadingSize.Middle), Strip(albums)] : [],
    ];

    /// <summary>What came last, in one line to leaf through.</summary>
    PhotosBlock Strip(IReadOnlyList<AlbumSeen> albums) => PhotosBlock.Of(
        next(), PhotosSource.Of([.. albums.Select(a => a.Album.Id)]) with { Sort = SheetSort.Taken, Reversed = true, Most = FewPhotos }, BlockLayout.Of(LayoutKind.Strip, 300, 6));

    /// <summary>The heading and what is said beneath it, over the best wide photo there is, as long as one is large enough.</summary>
    IEnumerable<Block> Opening(IReadOnlyList<AlbumSeen> albums, string says)
    {
        var behind = albums.SelectMany(a => a.Photos).Where(p => p.Size.Width >= LeastAcross && p.Shape() >= LeastWide).OrderByDescending(p => p.Rating).FirstOrDefault();
        if (behind is null)
        {
            return [Heading(), Words(says)];
        }

        var ground = Ground.None with { Kind = GroundKind.Photo, Photo = behind.Id, Height = GroundHeight.Half };
        var over = Heading() with { Frame = BlockFrame.Usual with { Ground = ground } };
        return says.Length == 0
            ? [over, Words("")]
            : [over, Words(says) with { Frame = BlockFrame.Usual with { Width = BlockWidth.Half, Ground = Ground.None with { Kind = GroundKind.AsAbove } } }];
    }

    HeadingBlock Heading() => new(next(), BlockFrame.Usual, "", HeadingSize.Large);

    TextBlock Words(string words) => new(next(), BlockFrame.Usual, Text.Cut(words, TextBlock.Longest));

    IEnumerable<Block> Said(string words) => words.Length > 0 ? [Words(words)] : [];

    ContactBlock Reached() => new(next(), BlockFrame.Usual, Text.Cut(site, ContactBlock.LongestLine), "", "", "");

    /// <summary>Photos in the layout that suits their shapes.</summary>
    PhotosBlock Photos(PhotosSource source, IReadOnlyList<PhotoHeld> photos, int size = 260)
    {
        var kind = LayoutAdvice.For([.. photos.Select(p => p.Shape())])?.Kind ?? LayoutKind.Rows;
        return PhotosBlock.Of(next(), source, BlockLayout.Of(kind, size, 6));
    }
}
