using System.Globalization;
using Jovitar.Core;
using Jovitar.Core.Filtering;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;
using Microsoft.AspNetCore.Http.Extensions;

namespace Jovitar.Server.Site;

/// <summary>A button of the filter bar with its state.</summary>
/// <param name="Link">Where pressing it leads, relative to the page.</param>
public sealed record FilterButton(string Key, string Name, FilterKind Kind, int Depth, int Count, bool Chosen, string Link);

/// <summary>Where one photo stands, CSS pixels from the block's upper left corner.</summary>
public sealed record SiteBox(double X, double Y, double Width, double Height);

/// <summary>A photo in its place, with all that the visitors' script makes a frame of.</summary>
/// <param name="Place">Its place among those shown, from 0.</param>
/// <param name="Focus">Classes that keep its focus in view.</param>
public sealed record SiteFrame(
    int Place, PhotoId Id, string Href, string Source, string Sources, int Width, int Height, string Title, string Caption, string Alt, string Credit, string? Focus, SiteBox Box);

/// <summary>What the visitors' script needs to show another choice, another width or another part of many photos.</summary>
/// <param name="Mark">What stands there; a page with another mark was opened before its photos changed.</param>
/// <param name="Frames">The photos of the part that was asked for.</param>
/// <param name="IsCut">There are more in that part than an answer holds; they stand behind the last.</param>
/// <param name="Height">The height of all, CSS pixels.</param>
/// <param name="Shown">How many the choice leaves.</param>
/// <param name="Link">The address of the page with this choice.</param>
public sealed record SiteView(string Mark, IReadOnlyList<SiteFrame> Frames, bool IsCut, double Height, int Shown, int Total, IReadOnlyList<FilterButton> Buttons, string AllLink, string Choice, string Link);

/// <summary>Which part of the photos is asked for: by places, or what stands between two heights.</summary>
/// <param name="From">The first place, from 0.</param>
/// <param name="Top">CSS pixels from the block's upper edge.</param>
public sealed record SitePart(int From, int Count, double? Top, double? Bottom)
{
    /// <summary>So many an answer holds.</summary>
    public const int Most = 240;

    /// <summary>The places that are asked for, in their order.</summary>
    public IEnumerable<int> Of(Placed placed)
    {
        if (Top is not { } top || Bottom is not { } bottom)
        {
            var from = Math.Clamp(From, 0, placed.Boxes.Count);
            return Enumerable.Range(from, Math.Clamp(Count, 0, placed.Boxes.Count - from));
        }

        return Enumerable.Range(0, placed.Boxes.Count).Where(i => placed.Boxes[i].Bottom >= top && placed.Boxes[i].Y <= bottom);
    }
}

/// <summary>What a visitor chose on a page, as it stands in its address: of each walk which buttons, and from which place on; and the visit's lot.</summary>
public sealed class Choices(IReadOnlyDictionary<int, (string Show, int From)> chosen, int lot = 0)
{
    public static readonly Choices None = new(new Dictionary<int, (string, int)>());

    /// <summary>Reads an address; <c>show</c> and <c>from</c> are the first walk's, <c>show2</c> the second's.</summary>
    public static Choices Read(SitePage page, IQueryCollection query) => query.Count == 0 ? None : new Choices(page.Walks.ToDictionary(
        w => w.Number,
        w => (query[Name("show", w.Number)].ToString(), Number(query, Name("from", w.Number)) ?? 1)),
        page.Walks.Any(w => w.ByLot) && Number(query, "lot") is { } lot and <= Core.Pages.Lot.Most ? lot : 0);

    static int? Number(IQueryCollection query, string name) => int.TryParse(query[name], NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;

    /// <summary>What is drawn by lot is drawn by this one; 0 for none.</summary>
    public int Lot => lot;


    public string Show(int walk) => chosen.TryGetValue(walk, out var c) ? c.Show : "";

    /// <summary>The place to begin at, from 1.</summary>
    public int From(int walk) => chosen.TryGetValue(walk, out var c) ? Math.Max(1, c.From) : 1;

    public Choices With(int walk, string show, int from = 1) => new(new Dictionary<int, (string, int)>(chosen) { [walk] = (show, from) }, lot);

    /// <summary>As it stands behind an address; empty where nothing was chosen.</summary>
    public string Query
    {
        get
        {
            var query = new QueryBuilder();
            foreach (var (walk, (show, from)) in chosen.OrderBy(c => c.Key))
            {
                if (show.Length > 0)
                {
                    query.Add(Name("show", walk), show);
                }

                if (from > 1)
                {
                    query.Add(Name("from", walk), from.ToString(CultureInfo.InvariantCulture));
                }
            }

            if (lot > 0)
            {
                query.Add("lot", lot.ToString(CultureInfo.InvariantCulture));
            }

            // A comma may stand in a query as it is (RFC 3986 §3.4), and reads better.
            return query.ToString().Replace("%2C", ",", StringComparison.OrdinalIgnoreCase);
        }
    }

    static string Name(string what, int walk) => walk == 1 ? what : string.Create(CultureInfo.InvariantCulture, $"{what}{walk}");
}

/// <summary>The photos of a walk as a visitor has narrowed them.</summary>
public sealed class Narrowed
{
    /// <summary>How many photos stand in a page when it is opened; the rest follows as one scrolls, or on further pages.</summary>
    public const int AtFirst = 60;

    readonly string basePath;
    readonly bool draft;
    readonly Choices choices;

    /// <param name="basePath">Where the page is, with or without visitors.</param>
    public Narrowed(Walk walk, Choices choices, string basePath, bool draft)
    {
        (Walk, this.basePath, this.draft) = (walk, basePath, draft);
        var chosen = walk.Bar.Read(choices.Show(walk.Number));
        var filtered = walk.Bar.Apply(chosen);
        Choice = walk.Bar.Write(chosen);
        Shown = walk.ByLot ? Drawn(filtered.Photos, Lot.Draw(walk.Photos.Count, walk.Handful, choices.Lot, walk.Number)) : filtered.Photos;
        // Beyond the last there is nothing to begin at.
        From = choices.From(walk.Number) is var from && from <= Shown.Count ? (from - 1) / AtFirst * AtFirst : 0;
        this.choices = choices.With(walk.Number, Choice, From + 1);
        AllLink = basePath + choices.With(walk.Number, "").Query;
        var depths = new int[walk.Bar.Entries.Count];
        Buttons = [.. walk.Bar.Entries.Select((entry, i) =>
        {
            depths[i] = entry.Parent < 0 ? 0 : depths[entry.Parent] + 1;
            var next = walk.Bar.Write(walk.Bar.Press(chosen, i));
            return new FilterButton(entry.Key, entry.Name, entry.Kind, depths[i], filtered.Counts[i], chosen.Contains(i), basePath + choices.With(walk.Number, next).Query);
        })];
    }

    static IReadOnlyList<int> Drawn(IReadOnlyList<int> filtered, int[] order)
    {
        var left = filtered.ToHashSet();
        return [.. order.Where(left.Contains)];
    }

    public Walk Walk { get; }

    /// <summary>The visitors' script draws them when the page is opened: this is what those get in whose browser no script runs.</summary>
    public bool IsToBeDrawn => Walk.ByLot && choices.Lot == 0;

    /// <summary>How many lots the script draws one from; null where it has nothing to draw.</summary>
    public int? Lots => IsToBeDrawn ? Lot.Most : null;

    /// <summary>The choice as it stands in addresses; empty for all.</summary>
    public string Choice { get; }

    public string AllLink { get; }

    /// <summary>The page with what is chosen on it.</summary>
    public string Link => basePath + choices.Query;

    /// <summary>What is chosen on the page as it can be: keys that are there, a place that is there.</summary>
    public Choices Choices => choices;

    public IReadOnlyList<int> Shown { get; }

    /// <summary>The first place that stands in the page, from 0.</summary>
    public int From { get; }

    /// <summary>How many stand in the page.</summary>
    public int Count => Math.Min(AtFirst, Shown.Count - From);

    public string? EarlierLink => From == 0 ? null : basePath + choices.With(Walk.Number, Choice, From - AtFirst + 1).Query;

    public string? FurtherLink => From + Count >= Shown.Count ? null : basePath + choices.With(Walk.Number, Choice, From + Count + 1).Query;

    public IReadOnlyList<FilterButton> Buttons { get; }

    public double[] Shapes => [.. Shown.Select(i => Walk.Photos[i].Shape)];

    /// <summary>Which take more room in a mosaic; empty in other layouts.</summary>
    public bool[] Large => Walk.Layout.Kind == LayoutKind.Mosaic ? Walk.Layout.Large.Of([.. Shown.Select(i => (Walk.Photos[i].Id, Walk.Photos[i].Rating))]) : [];

    public SitePhoto At(int place) => Walk.Photos[Shown[place]];

    /// <summary>Where a photo has a page of its own, within this walk.</summary>
    public string PhotoLink(SitePhoto photo)
    {
        var query = choices.With(Walk.Number, Choice).Query;
        return Walk.Number == 1 ? $"{basePath}/photo/{photo.Id}{query}" : $"{basePath}/photo/{photo.Id}{(query.Length == 0 ? "?" : query + "&")}in={Walk.Number}";
    }

    /// <summary>The photos in their places, for a width.</summary>
    /// <param name="width">Of the block, CSS pixels.</param>
    /// <param name="window">Of the window, CSS pixels.</param>
    public SiteView In(double width, double window, SitePart part)
    {
        var placed = Walk.Layout.For(BlockLayout.DeviceOf(window)).Place(Shapes, width, Large);
        var places = part.Of(placed).Take(SitePart.Most + 1).ToArray();
        return new SiteView(
            Walk.Mark, [.. places.Take(SitePart.Most).Select(i => Frame(i, placed.Boxes[i]))], places.Length > SitePart.Most, Math.Round(placed.Height, 2), Shown.Count, Walk.Count, Buttons, AllLink, Choice,
            basePath + choices.With(Walk.Number, Choice).Query);
    }

    SiteFrame Frame(int place, Box box)
    {
        var photo = At(place);
        return new SiteFrame(
            place, photo.Id, PhotoLink(photo), SiteAddress.Of(photo.Picture, Renditions.Sheet, draft), SiteAddress.Sources(photo, draft), photo.Width, photo.Height, photo.Title, photo.Caption, photo.Words,
            photo.Credit, photo.FocusClass, new SiteBox(Math.Round(box.X, 2), Math.Round(box.Y, 2), Math.Round(box.Width, 2), Math.Round(box.Height, 2)));
    }
}

/// <summary>Where pictures are.</summary>
public static class SiteAddress
{
    /// <summary>Where a rendition is: for visitors under the address that may be kept, in a draft under the workroom's own.</summary>
    public static string Of(string picture, int width, bool draft) => draft ? $"/api/renditions/{picture}/{width}" : Renditions.Address(picture, width);

    /// <summary>All renditions of a photo, for a <c>srcset</c>.</summary>
    public static string Sources(SitePhoto photo, bool draft) => string.Join(", ", Renditions.For(photo.Width).Select(w => $"{Of(photo.Picture, w, draft)} {Renditions.PixelsAcross(w, photo.Width)}w"));
}
