namespace Jovitar.Core.Taxonomy;

/// <summary>A node of the tree as it is kept: its parent, its name, its place among its siblings.</summary>
/// <param name="Shown">Whether it is in view itself.</param>
public sealed record CategoryNode(CategoryId Id, CategoryId? Parent, string Name, long Place, bool Shown = true);

/// <summary>The tree of categories.</summary>
public sealed class CategoryTree
{
    readonly Dictionary<CategoryId, CategoryNode> nodes;
    readonly ILookup<CategoryId?, CategoryNode> children;

    public CategoryTree(IEnumerable<CategoryNode> all)
    {
        nodes = all.ToDictionary(n => n.Id);
        children = nodes.Values.OrderBy(n => n.Place).ThenBy(n => n.Name, StringComparer.CurrentCulture).ToLookup(n => n.Parent);
    }

    /// <summary>Every category, parents before their children and siblings in their order, with how deep it stands (0 = top).</summary>
    public IEnumerable<(CategoryNode Node, int Depth)> InOrder() => Beneath(null, 0);

    /// <summary>A category and all beneath it.</summary>
    public IEnumerable<CategoryId> WithDescendants(CategoryId id)
    {
        yield return id;
        foreach (var child in children[id])
        {
            foreach (var each in WithDescendants(child.Id))
            {
                yield return each;
            }
        }
    }

    /// <summary>The category that keeps one out of view: itself, or the nearest above it that is; null when visitors see it.</summary>
    public CategoryId? HiddenBy(CategoryId id)
    {
        for (CategoryId? at = id; at is { } here && nodes.TryGetValue(here, out var node); at = node.Parent)
        {
            if (!node.Shown)
            {
                return here;
            }
        }

        return null;
    }

    /// <summary>What visitors see of it.</summary>
    /// <param name="isShut">Whether the gate of a category keeps them out of it, and so of all beneath it; null for everyone is let in.</param>
    public CategoryTree InView(Func<CategoryId, bool>? isShut = null) => new(nodes.Values.Where(n => HiddenBy(n.Id) is null && (isShut is null || !WithAncestors(n.Id).Any(isShut))));

    IEnumerable<CategoryId> WithAncestors(CategoryId id)
    {
        for (CategoryId? at = id; at is { } here && nodes.TryGetValue(here, out var node); at = node.Parent)
        {
            yield return here;
        }
    }

    /// <summary>Whether a category may stand beneath another: not beneath itself nor its own descendants.</summary>
    public bool MayStandBeneath(CategoryId id, CategoryId? parent)
    {
        for (var at = parent; at is { } here; at = nodes.TryGetValue(here, out var node) ? node.Parent : null)
        {
            if (here == id)
            {
                return false;
            }
        }

        return true;
    }

    IEnumerable<(CategoryNode Node, int Depth)> Beneath(CategoryId? parent, int depth)
    {
        foreach (var child in children[parent])
        {
            yield return (child, depth);
            foreach (var each in Beneath(child.Id, depth + 1))
            {
                yield return each;
            }
        }
    }
}
