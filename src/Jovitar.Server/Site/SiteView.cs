using Jovitar.Core.Filtering;

namespace Jovitar.Server.Site;

/// <summary>A button of the filter bar with its state.</summary>
/// <param name="Link">Where pressing it leads, relative to the page.</param>
public sealed record FilterButton(string Key, string Name, FilterKind Kind, int Depth, int Count, bool Chosen, string Link);

/// <summary>Where one photo stands, CSS pixels from the block's upper left corner.</summary>
public sealed record SiteBox(double X, double Y, double Width, double Height);

/// <summary>What the visitors' script needs to show another choice or another width.</summary>
/// <param name="Photos">Which photos are shown, by their number on the page.</param>
/// <param name="Boxes">A box for each of them, CSS pixels.</param>
/// <param name="Height">The height of the block, CSS pixels.</param>
/// <param name="Mark">What the numbers count; a page with another mark was opened before its photos changed.</param>
public sealed record SiteView(
    string Mark, IReadOnlyList<int> Photos, IReadOnlyList<SiteBox> Boxes, double Height, IReadOnlyList<FilterButton> Buttons, string AllLink, int Total, string Choice);

/// <summary>A page narrowed by what a visitor chose.</summary>
public sealed class Narrowed
{
    readonly SitePage page;
    readonly Filtered filtered;

    public Narrowed(SitePage page, string? show, string basePath)
    {
        this.page = page;
        var chosen = page.Bar.Read(show);
        filtered = page.Bar.Apply(chosen);
        Choice = page.Bar.Write(chosen);
        Shown = filtered.Photos;
        AllLink = basePath;
        var depths = new int[page.Bar.Entries.Count];
        Buttons = [.. page.Bar.Entries.Select((entry, i) =>
        {
            depths[i] = entry.Parent < 0 ? 0 : depths[entry.Parent] + 1;
            var next = page.Bar.Write(page.Bar.Press(chosen, i));
            return new FilterButton(entry.Key, entry.Name, entry.Kind, depths[i], filtered.Counts[i], chosen.Contains(i), next.Length == 0 ? basePath : $"{basePath}?show={next}");
        })];
    }

    /// <summary>The choice as it stands in addresses; empty for all.</summary>
    public string Choice { get; }

    public string AllLink { get; }

    public IReadOnlyList<int> Shown { get; }

    public IReadOnlyList<FilterButton> Buttons { get; }

    public IReadOnlyList<double> Shapes => [.. Shown.Select(i => page.Photos[i].Shape)];

    public SiteView At(double width)
    {
        var placed = page.Content.Layout.Place(Shapes.ToArray(), width);
        return new SiteView(page.Mark, Shown, [.. placed.Boxes.Select(b => new SiteBox(Math.Round(b.X, 2), Math.Round(b.Y, 2), Math.Round(b.Width, 2), Math.Round(b.Height, 2)))], Math.Round(placed.Height, 2), Buttons, AllLink, page.Photos.Count, Choice);
    }
}
