using System.Collections.Frozen;
using System.Globalization;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;

namespace Jovitar.Server.Site.Drawing;

/// <summary>A photo beside another one in a walk.</summary>
/// <param name="After">It follows; else it stands before.</param>
/// <param name="Devices">The classes of the devices on which it is that one; null for every device.</param>
public sealed record WayOn(SitePhoto Photo, bool After, string? Devices);

/// <summary>Photos of a walk in their places: all, or those of one page of them.</summary>
/// <param name="First">The place of the first of them, from 0.</param>
/// <param name="Boxes">Of each.</param>
/// <param name="Count">How many of them stand there; the others come at a button.</param>
/// <param name="Height">That those take which stand there, CSS pixels.</param>
public sealed record Standing(int First, IReadOnlyList<Box> Boxes, int Count, double Height);

/// <summary>The photos of a walk as a visitor has narrowed them: all that stand there on any device, or those of one device.</summary>
public sealed class Narrowed
{
    static readonly Device[] Devices = Enum.GetValues<Device>();

    readonly string basePath;
    readonly bool draft;
    readonly Choices choices;
    readonly Narrowed?[] devices = new Narrowed?[Devices.Length];

    /// <param name="basePath">Where the page is, with or without visitors.</param>
    public Narrowed(Walk walk, Choices choices, string basePath, bool draft)
        : this(walk, choices, basePath, draft, null)
    {
        // Beyond the last there is nothing to begin at.
        From = Mine.From is var from && from <= Shown.Count ? walk.More.PageFrom(from - 1) : 0;
        Count = Math.Min(AtFirst, Shown.Count - From);
        Mine = Mine with { From = From + 1, To = walk.More.By == MoreBy.Button && Mine.To > AtFirst && Shown.Count > AtFirst ? Whole(Mine.To) : 0 };
        this.choices = choices.With(walk.Number, Mine);
    }

    Narrowed(Narrowed all, Device device)
        : this(all.Walk, all.choices, all.basePath, all.draft, device)
    {
        var there = Shown.ToHashSet();
        From = all.Shown.Take(all.From).Count(there.Contains);
        Count = all.Shown.Skip(all.From).Take(all.Count).Count(there.Contains);
        Mine = all.Mine;
    }

    Narrowed(Walk walk, Choices choices, string basePath, bool draft, Device? device)
    {
        (Walk, this.choices, this.basePath, this.draft) = (walk, choices, basePath, draft);
        var said = choices.Of(walk.Number);
        var chosen = walk.Bar.Read(said.Show);
        var order = walk.Orders.FirstOrDefault(o => Name(o.Order) == said.Order);
        Mine = new Choice(walk.Bar.Write(chosen), said.From, said.To, walk.Search is null ? "" : said.Find, order.Photos is null ? "" : said.Order);
        HashSet<int> without = [.. walk.Search?.Missing(Mine.Find) ?? [], .. device is { } on ? walk.Without(on) : FrozenSet<int>.Empty];
        var filtered = walk.Bar.Apply(chosen, without);
        AllCount = walk.Photos.Count - without.Count;
        Total = device is { } there ? walk.CountOn(there) : walk.Count;
        Shown = order.Photos is { } ordered ? [.. ordered.Where(filtered.Photos.ToHashSet().Contains)] : walk.ByLot ? Drawn(walk, filtered.Photos, choices.Lot, device) : filtered.Photos;
        IsAll = chosen.Count == 0;
        var all = walk.Bar.Write(new HashSet<int>());
        AllLink = LinkTo(Mine with { Show = all });
        WholeLink = LinkTo(Mine with { Show = all, Find = "" });
        WordlessLink = LinkTo(Mine with { Find = "" });
        Orders = walk.Orders.Count == 0 ? [] : [.. new BarOrder?[] { null }.Concat(walk.Orders.Select(o => (BarOrder?)o.Order)).Select(o =>
        {
            var key = o is { } known ? Name(known) : "";
            return new OrderLink(key, Mine.Order == key, LinkTo(Mine with { Order = key }));
        })];
        var depths = new int[walk.Bar.Entries.Count];
        Buttons = [.. walk.Bar.Entries.Select((entry, i) =>
        {
            depths[i] = entry.Parent < 0 ? 0 : depths[entry.Parent] + 1;
            var next = walk.Bar.Write(walk.Bar.Press(chosen, i));
            return new FilterButton(entry.Key, entry.Name, entry.Group, depths[i], filtered.Counts[i], chosen.Contains(i), LinkTo(Mine with { Show = next }));
        })];
    }

    /// <summary>What is drawn by lot, as it was drawn. A handful is one on every device, whatever is absent there.</summary>
    static IReadOnlyList<int> Drawn(Walk walk, IReadOnlyList<int> left, int lot, Device? device)
    {
        var order = Lot.Draw(walk.Photos.Count, null, lot, walk.Number).Where(left.ToHashSet().Contains).ToArray();
        if (walk.Handful is not { } most || device is not null || !walk.Differs)
        {
            return [.. order.Take(walk.Handful ?? order.Length)];
        }

        var some = Devices.SelectMany(d => order.Where(i => !walk.Without(d).Contains(i)).Take(most)).ToHashSet();
        return [.. order.Where(some.Contains)];
    }

    /// <summary>What a device shows of them.</summary>
    public Narrowed On(Device device) => Walk.Differs ? devices[(int)device] ??= new Narrowed(this, device) : this;

    /// <summary>Of the photos that stand in the page, the place of each among those of them that a device shows, from 0; −1 for one that it does not.</summary>
    public int[] PlacesOn(Device device)
    {
        if (!Walk.Differs)
        {
            return [.. Enumerable.Range(0, Count)];
        }

        var (there, next) = (On(device).Shown.ToHashSet(), 0);
        return [.. Enumerable.Range(From, Count).Select(i => there.Contains(Shown[i]) ? next++ : -1)];
    }

    /// <summary>The photos before and after one, on each device those that it shows.</summary>
    /// <param name="photo">Its number in the walk.</param>
    public IReadOnlyList<WayOn> WaysFrom(int photo)
    {
        var at = Shown.IndexOf(photo);
        if (at < 0)
        {
            return [];
        }

        if (!Walk.Differs)
        {
            return [.. at > 0 ? (WayOn[])[new WayOn(At(at - 1), After: false, null)] : [], .. at + 1 < Shown.Count ? (WayOn[])[new WayOn(At(at + 1), After: true, null)] : []];
        }

        var ways = new List<(Device Device, int Photo, bool After)>();
        foreach (var device in Devices)
        {
            var there = On(device).Shown.ToHashSet();
            ways.AddRange(Shown.Take(at).Reverse().Where(there.Contains).Take(1).Select(p => (device, p, false)));
            ways.AddRange(Shown.Skip(at + 1).Where(there.Contains).Take(1).Select(p => (device, p, true)));
        }

        return
        [
            .. ways.GroupBy(w => (w.After, w.Photo)).OrderBy(g => g.Key.After)
                .Select(g => new WayOn(Walk.Photos[g.Key.Photo], g.Key.After, g.Count() == Devices.Length ? null : string.Join(' ', g.Select(w => $"on-{Name(w.Device)}")))),
        ];
    }

    /// <summary>Of the photos that stand in the page, the devices on which each does not stand there; null for none.</summary>
    public IReadOnlyList<string?> Absences()
    {
        var places = Devices.Select(PlacesOn).ToArray();
        return [.. Enumerable.Range(0, Count).Select(i => Devices.Where(d => places[(int)d][i] < 0).Select(Name).ToArray() is { Length: > 0 } absent ? string.Join(' ', absent) : null)];
    }

    /// <summary>A device, or an order, as pages and their addresses name it.</summary>
    public static string Name<T>(T value)
        where T : struct, Enum => value.ToString().ToLowerInvariant();

    /// <summary>What is said of a device, one for all where it is the same on each; else phone, tablet and desktop.</summary>
    public IReadOnlyList<string> Each(Func<Narrowed, string> says)
    {
        string[] said = Walk.Differs ? [.. Devices.Select(d => says(On(d)))] : [says(this)];
        return said.Distinct().Count() == 1 ? [said[0]] : said;
    }

    public Walk Walk { get; }

    /// <summary>The visitors' script draws them when the page is opened: this is what those get in whose browser no script runs.</summary>
    public bool IsToBeDrawn => Walk.ByLot && choices.Lot == 0;

    /// <summary>How many lots the script draws one from; null where it has nothing to draw.</summary>
    public int? Lots => IsToBeDrawn ? Lot.Most : null;

    /// <summary>What is chosen, as it can be: buttons, words and an order that are there.</summary>
    public Choice Mine { get; private init; }

    /// <summary>Where the page is.</summary>
    public string Path => basePath;

    /// <summary>What something of a block is called to those who hear it, so that it is told from the same of another block.</summary>
    public string Called(string name) => Walk.Number == 1 ? name : string.Create(CultureInfo.InvariantCulture, $"{name}, {Walk.Number}");

    /// <summary>What the words are called in an address.</summary>
    public string FindName => Choices.Name("find", Walk.Number);

    /// <summary>What of the address stays when other words are looked for.</summary>
    public IEnumerable<(string Name, string Value)> OtherParts => choices.With(Walk.Number, Mine with { Find = "", From = 1, To = 0 }).Parts();

    /// <summary>The page with another choice, from its first photo on.</summary>
    string LinkTo(Choice choice) => basePath + choices.With(Walk.Number, choice with { From = 1, To = 0 }).Query;

    /// <summary>Nothing is chosen.</summary>
    public bool IsAll { get; }

    /// <summary>How many one would see if nothing were chosen.</summary>
    public int AllCount { get; }

    /// <summary>Lets go of every choice.</summary>
    public string AllLink { get; }

    /// <summary>Lets go of every choice and of the words.</summary>
    public string WholeLink { get; }

    /// <summary>Lets go of the words.</summary>
    public string WordlessLink { get; }

    /// <summary>The orders that can be chosen, the one in which the photos stand first; empty for none.</summary>
    public IReadOnlyList<OrderLink> Orders { get; }

    /// <summary>The page with what is chosen on it.</summary>
    public string Link => basePath + choices.Query;

    /// <summary>What is chosen on the page as it can be: keys that are there, a place that is there.</summary>
    public Choices Choices => choices;

    public IReadOnlyList<int> Shown { get; }

    /// <summary>The first place that stands in the page, from 0.</summary>
    public int From { get; }

    /// <summary>How many stand in the page.</summary>
    public int Count { get; }

    /// <summary>How many there are without a choice.</summary>
    public int Total { get; }

    public string? EarlierLink => From == 0 ? null : LinkFrom(From - AtFirst);

    public string? FurtherLink => From + Count >= Shown.Count ? null : LinkFrom(From + Count);

    int AtFirst => Walk.More.AtFirst();

    /// <summary>The number of photos at the end of a step that a number lies in.</summary>
    int Whole(int number) => Math.Min(Shown.Count, Walk.More.PageFrom(Math.Min(number, Shown.Count) - 1) + AtFirst);

    /// <summary>The page from a place on, from 0.</summary>
    string LinkFrom(int place) => basePath + choices.With(Walk.Number, Mine with { From = place + 1, To = 0 }).Query;

    /// <summary>The page with so many photos on it.</summary>
    string LinkUntil(int number) => basePath + choices.With(Walk.Number, Mine with { From = 1, To = number > AtFirst ? number : 0 }).Query;

    /// <summary>The page with a photo on it.</summary>
    /// <param name="photo">Its number in the walk.</param>
    public string LinkHolding(int photo) => Shown.IndexOf(photo) switch
    {
        < 0 => Link,
        var place when Walk.More.By == MoreBy.Button => LinkUntil(Whole(place + 1)),
        var place => LinkFrom(Walk.More.PageFrom(place)),
    };

    /// <summary>What leads to more of them.</summary>
    /// <param name="first">The place of the first that stands there, from 0.</param>
    /// <param name="standing">How many stand there.</param>
    public MoreLinks Further(int first, int standing)
    {
        if (Walk.More.By == MoreBy.Numbers && Shown.Count > AtFirst)
        {
            var present = (From / AtFirst) + 1;
            return new MoreLinks(first, standing, null, [.. More.Numbers(present, ((Shown.Count - 1) / AtFirst) + 1).Select(n => new PartLink(n, n is { } number ? LinkFrom((number - 1) * AtFirst) : "", n == present))]);
        }

        return new MoreLinks(first, standing, Walk.More.By == MoreBy.Button && standing < Shown.Count ? LinkUntil(Whole(Math.Max(AtFirst, Mine.To) + 1)) : null, []);
    }

    /// <summary>The photos in their places, for a width.</summary>
    /// <param name="byPage">Only those that stand in the page, by themselves.</param>
    public Standing Stand(LayoutSettings settings, double width, bool byPage)
    {
        var (first, count) = byPage ? (From, Count) : (0, Shown.Count);
        var placed = settings.Place([.. Shapes.Skip(first).Take(count)], width, Large is { Length: > 0 } large ? large[first..(first + count)] : []);
        var there = byPage || Walk.More.By != MoreBy.Button ? count : More.Cut(placed.Boxes, Math.Max(AtFirst, Mine.To));
        return new Standing(first, placed.Boxes, there, there == count ? placed.Height : placed.Boxes.Take(there).Max(b => b.Bottom));
    }

    public IReadOnlyList<FilterButton> Buttons { get; }

    public double[] Shapes => [.. Shown.Select(i => Walk.Photos[i].Shape)];

    /// <summary>Which take more room in a mosaic; empty in other layouts.</summary>
    public bool[] Large => Walk.Layout.Kind == LayoutKind.Mosaic ? Walk.Layout.Large.Of([.. Shown.Select(i => (Walk.Photos[i].Id, Walk.Photos[i].Rating))]) : [];

    public SitePhoto At(int place) => Walk.Photos[Shown[place]];

    /// <summary>Where a photo has a page of its own, within this walk.</summary>
    public string PhotoLink(SitePhoto photo)
    {
        var query = choices.With(Walk.Number, Mine with { From = 1, To = 0 }).Query;
        return Walk.Number == 1 ? $"{basePath}/photo/{photo.Id}{query}" : $"{basePath}/photo/{photo.Id}{(query.Length == 0 ? "?" : query + "&")}in={Walk.Number}";
    }

    /// <summary>The photos in their places, for a width.</summary>
    /// <param name="width">Of the block, CSS pixels.</param>
    /// <param name="window">Of the window, CSS pixels.</param>
    public SiteView In(double width, double window, SitePart part) => On(BlockLayout.DeviceOf(window)).Laid(width, window, part);

    SiteView Laid(double width, double window, SitePart part)
    {
        var standing = Stand(Walk.SettingsOn(BlockLayout.DeviceOf(window)), width, byPage: Walk.More.By == MoreBy.Numbers);
        IReadOnlyList<Box> boxes = [.. standing.Boxes.Take(standing.Count)];
        var places = part.Of(Shown.Count, standing.First, boxes).Take(SitePart.Most + 1).ToArray();
        Box? BoxOf(int place) => place - standing.First is >= 0 and var n && n < boxes.Count ? boxes[n] : null;
        return new SiteView(
            Walk.Mark, [.. places.Take(SitePart.Most).Select(i => Frame(i, BoxOf(i)))], places.Length > SitePart.Most, Math.Round(standing.Height, 2), Shown.Count, Total, Buttons, AllLink, AllCount, IsAll, Mine.Find, Orders, WholeLink, WordlessLink, Further(standing.First, standing.Count),
            Walk.More.By switch { MoreBy.Numbers => LinkFrom(From), MoreBy.Button => LinkUntil(Mine.To), _ => LinkTo(Mine) });
    }

    SiteFrame Frame(int place, Box? at)
    {
        var photo = At(place);
        return new SiteFrame(
            place, photo.Id, PhotoLink(photo), SiteAddress.Of(photo.Picture, Renditions.Sheet, draft), SiteAddress.Sources(photo, draft), photo.Width, photo.Height, photo.Title, photo.Caption, photo.Words,
            PhotoLines.Facts(Walk, photo), PhotoLines.Credit(Walk, photo), WordsOfPhoto.Of(Walk, photo), FramePress.Of(Walk, photo), draft ? null : photo.Talk, !draft && Walk.IsKept(photo), photo.FocusClass, at is { } box ? new SiteBox(Math.Round(box.X, 2), Math.Round(box.Y, 2), Math.Round(box.Width, 2), Math.Round(box.Height, 2)) : null);
    }
}
