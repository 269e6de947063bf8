using Jovitar.Core.Pages;
using Jovitar.Core.Taxonomy;

namespace Jovitar.Core.Filtering;

/// <summary>A thing that photos of a block belong to.</summary>
/// <param name="Name">What visitors call it.</param>
/// <param name="Photos">Indices of the photos that belong to it themselves.</param>
public sealed record Held(string Name, IReadOnlyCollection<int> Photos);

/// <summary>What the photos of a block belong to, as far as visitors may know it.</summary>
/// <param name="Tree">The categories in view.</param>
/// <param name="Categories">Indices of the photos that stand in each category itself.</param>
/// <param name="Albums">In the order in which they are joined.</param>
public sealed record Holdings(CategoryTree Tree, ILookup<CategoryId, int> Categories, IReadOnlyDictionary<TagId, Held> Tags, IReadOnlyList<(AlbumId Album, Held Held)> Albums);

/// <summary>
/// Makes a filter bar of what is set: of the buttons, those that find any photo of the block, each with a key of its own. A group
/// of which no button is left is left away; so is a category that is not in view, and what stands beneath it.
/// </summary>
public sealed class BarButtons
{
    readonly HashSet<string> keys = [FilterBar.Nothing];
    readonly List<FilterGroup> groups = [];
    readonly List<FilterEntry> entries = [];
    readonly List<IReadOnlyCollection<int>> holds = [];
    readonly Holdings held;
    readonly Dictionary<CategoryId, CategoryNode> nodes;

    BarButtons(Holdings held) => (this.held, nodes) = (held, held.Tree.InOrder().ToDictionary(n => n.Node.Id, n => n.Node));

    /// <summary>The bar of a block.</summary>
    public static FilterBar Of(BarSettings bar, int photoCount, Holdings held)
    {
        var made = new BarButtons(held);
        var named = bar.Things(BarKind.Album).Select(AlbumId.From).ToHashSet();
        foreach (var group in bar.Groups)
        {
            made.groups.Add(new FilterGroup(group.Words, group.One));
            var before = made.entries.Count;
            var stands = new Dictionary<CategoryId, int>();
            foreach (var button in group.Buttons)
            {
                made.Add(button, stands, named);
            }

            if (made.entries.Count == before)
            {
                made.groups.RemoveAt(made.groups.Count - 1);
            }
        }

        return new FilterBar(made.groups, made.entries, photoCount, made.holds);
    }

    /// <param name="stands">The categories that have a button in the group, with its index.</param>
    /// <param name="named">Albums that have a button of their own.</param>
    void Add(BarButton button, Dictionary<CategoryId, int> stands, HashSet<AlbumId> named)
    {
        switch (button.Kind)
        {
            case BarKind.Category:
                AddCategories(button, stands);
                break;
            case BarKind.Tag when held.Tags.TryGetValue(TagId.From(button.Thing!.Value), out var tag):
                Add(button, tag);
                break;
            case BarKind.Album:
                foreach (var (_, album) in held.Albums.Where(a => a.Album.Value == button.Thing))
                {
                    Add(button, album);
                }

                break;
            case BarKind.EachAlbum:
                foreach (var (_, album) in held.Albums.Where(a => !named.Contains(a.Album)))
                {
                    Add(button, album);
                }

                break;
        }
    }

    void Add(BarButton button, Held thing) => Add(button.Words.Length > 0 ? button.Words : thing.Name, thing.Photos, button.Preset);

    /// <summary>A category and, where that is set, those beneath it. It finds what stands in it and beneath, whether that has buttons or not.</summary>
    void AddCategories(BarButton button, Dictionary<CategoryId, int> stands)
    {
        var chosen = CategoryId.From(button.Thing!.Value);
        foreach (var node in held.Tree.WithDescendants(chosen).Take(button.Beneath ? int.MaxValue : 1).Where(nodes.ContainsKey).Select(id => nodes[id]))
        {
            int[] photos = [.. held.Tree.WithDescendants(node.Id).SelectMany(c => held.Categories[c]).Distinct()];
            if (stands.ContainsKey(node.Id) || photos.Length == 0)
            {
                continue;
            }

            var isChosen = node.Id == chosen;
            var parent = !isChosen && node.Parent is { } above && stands.TryGetValue(above, out var at) ? at : -1;
            stands[node.Id] = entries.Count;
            Add(isChosen && button.Words.Length > 0 ? button.Words : node.Name, photos, isChosen && button.Preset, parent);
        }
    }

    void Add(string name, IReadOnlyCollection<int> photos, bool isPreset, int parent = -1)
    {
        if (photos.Count == 0)
        {
            return;
        }

        var wish = PageAddress.From(name).Value;
        var key = wish;
        for (var n = 2; !keys.Add(key); n++)
        {
            key = $"{wish}-{n}";
        }

        entries.Add(new FilterEntry(key, name, groups.Count - 1, parent, isPreset));
        holds.Add(photos);
    }
}
