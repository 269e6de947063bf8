using Jovitar.Core.Layout;
using Jovitar.Core.Narrowings;

namespace Jovitar.Core.Pages;

/// <summary>What a button of a filter bar finds photos by. Kept by name.</summary>
public enum BarKind
{
    /// <summary>What stands in a category or beneath it.</summary>
    Category,
    Tag,
    Album,

    /// <summary>The albums whose photos are joined in the block, each a button, but for those that have one of their own.</summary>
    EachAlbum,
}

/// <summary>A button of a filter bar, as it is set.</summary>
/// <param name="Thing">The category, tag or album; null for <see cref="BarKind.EachAlbum"/>.</param>
/// <param name="Words">What visitors read; empty for the thing's own name.</param>
/// <param name="Beneath">The categories beneath it have buttons, too; of a category.</param>
/// <param name="Preset">It is chosen when the page is opened.</param>
public sealed record BarButton(BarKind Kind, Guid? Thing, string Words, bool Beneath, bool Preset)
{
    /// <summary>A button under its own name.</summary>
    public static BarButton Of(CategoryId category) => new(BarKind.Category, category.Value, "", Beneath: true, Preset: false);

    /// <summary>A button under its own name.</summary>
    public static BarButton Of(TagId tag) => new(BarKind.Tag, tag.Value, "", Beneath: false, Preset: false);

    /// <summary>A button for each album joined.</summary>
    public static readonly BarButton EachAlbum = new(BarKind.EachAlbum, null, "", Beneath: false, Preset: false);
}

/// <summary>Buttons that stand together: any of those chosen admits a photo, and every group with a choice must admit it.</summary>
/// <param name="Words">What stands before them; empty for nothing.</param>
/// <param name="One">Visitors choose one of them at a time; else several.</param>
/// <param name="Buttons">In their order.</param>
public sealed record BarGroup(string Words, bool One, IReadOnlyList<BarButton> Buttons);

/// <summary>What of a photo visitors' words are looked for in. Kept by name.</summary>
public enum SearchField
{
    Title,
    Caption,
    Tags,
    Place,
    People,
    FileName,
}

/// <summary>The field in which visitors type words to find photos by.</summary>
/// <param name="Fields">What they are looked for in; nothing for no such field.</param>
/// <param name="Hint">What stands in it until they type; empty for the usual words.</param>
public sealed record BarSearch(IReadOnlyList<SearchField> Fields, string Hint)
{
    public static readonly BarSearch None = new([], "");
}

/// <summary>An order in which visitors may put the photos of a block instead of the one they stand in. Kept by name.</summary>
public enum BarOrder
{
    /// <summary>Those taken last first.</summary>
    Newest,
    Oldest,
    Title,
    HighestRated,
}

/// <summary>What the orders are.</summary>
public static class BarOrders
{
    /// <summary>As the sheet's order, and which way it runs.</summary>
    public static (SheetSort Sort, bool Down) Sheet(this BarOrder order) => order switch
    {
        BarOrder.Newest => (SheetSort.Taken, true),
        BarOrder.Oldest => (SheetSort.Taken, false),
        BarOrder.Title => (SheetSort.Title, false),
        _ => (SheetSort.Rating, true),
    };
}

/// <summary>By what visitors may narrow the photos of a block; without buttons, words and orders there is no filter bar.</summary>
/// <param name="Off">It is kept and not shown.</param>
/// <param name="Groups">In their order.</param>
/// <param name="All">A button that lets go of every choice stands first.</param>
/// <param name="AllWords">What that one says; empty for the usual word.</param>
/// <param name="Align">Where the buttons stand.</param>
/// <param name="Counts">Each says how many photos one would see with it.</param>
/// <param name="Folded">Devices on which it is a drop-down.</param>
/// <param name="Still">Devices on which photos stand in their new places at once, without moving there.</param>
/// <param name="Orders">Those that visitors may choose, in the order in which they are offered, besides the one in which the photos stand.</param>
public sealed record BarSettings(
    bool Off, IReadOnlyList<BarGroup> Groups, bool All, string AllWords, BlockAlign Align, bool Counts, IReadOnlyList<Device> Folded, IReadOnlyList<Device> Still, BarSearch Search, IReadOnlyList<BarOrder> Orders)
{
    public const int MostGroups = 12;

    /// <summary>Most buttons that are set, of all groups together.</summary>
    public const int MostButtons = 200;

    /// <summary>Longest words of a button or before a group.</summary>
    public const int Longest = 60;

    /// <summary>No filter bar.</summary>
    public static readonly BarSettings None = new(Off: false, [], All: true, "", BlockAlign.Left, Counts: true, [], [], BarSearch.None, []);

    /// <summary>A filter bar as usual with some groups; those without buttons are left away.</summary>
    public static BarSettings Of(params IEnumerable<BarGroup> groups) => None with { Groups = [.. groups.Where(g => g.Buttons.Count > 0)] };

    /// <summary>Categories in one group and tags in another, under their own names.</summary>
    public static BarSettings Of(IEnumerable<CategoryId> categories, IEnumerable<TagId> tags) =>
        Of(new BarGroup("", One: false, [.. categories.Distinct().Select(BarButton.Of)]), new BarGroup("", One: false, [.. tags.Distinct().Select(BarButton.Of)]));

    /// <summary>All buttons that are set, in their order.</summary>
    public IEnumerable<BarButton> Buttons() => Groups.SelectMany(g => g.Buttons);

    /// <summary>The things of one kind that have a button.</summary>
    public IEnumerable<Guid> Things(BarKind kind) => Buttons().Where(b => b.Kind == kind).Select(b => b.Thing).OfType<Guid>().Distinct();

    /// <summary>Visitors are to see buttons.</summary>
    public bool HasButtons() => !Off && Buttons().Any();

    /// <summary>Visitors are to see it.</summary>
    public bool IsShown() => !Off && (Buttons().Any() || Search.Fields.Count > 0 || Orders.Count > 0);

    /// <summary>Nothing is named twice in a group, as when things were merged, and all else once.</summary>
    public BarSettings Whole() => this with
    {
        Groups = [.. Groups.Select(g => g with { Buttons = [.. g.Buttons.DistinctBy(b => (b.Kind, b.Thing))] })],
        Folded = [.. Folded.Distinct().Order()],
        Still = [.. Still.Distinct().Order()],
        Search = Search with { Fields = [.. Search.Fields.Distinct().Order()] },
        Orders = [.. Orders.Distinct()],
    };

    /// <summary>What is wrong with it, a sentence; null when it may be kept.</summary>
    public string? Fault()
    {
        if (Groups.Count > MostGroups)
        {
            return $"A filter bar may have {MostGroups} groups.";
        }

        if (Buttons().Count() > MostButtons)
        {
            return $"A filter bar may have {MostButtons} buttons.";
        }

        if (AllWords.Length > Longest || Search.Hint.Length > Longest || Groups.Any(g => g.Words.Length > Longest) || Buttons().Any(b => b.Words.Length > Longest))
        {
            return $"The words of a button may have {Longest} characters.";
        }

        return Buttons().Any(b => b.Thing is null != (b.Kind == BarKind.EachAlbum)) ? "A button of the filter bar names nothing." : null;
    }
}
