using Jovitar.Core;
using Jovitar.Core.Filtering;
using Jovitar.Core.Pages;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>Filter bars: of what a block offers, the buttons that find any of its photos.</summary>
internal sealed class SiteBars(NpgsqlDataSource db, CategoryStore categories)
{
    /// <summary>A bar without buttons.</summary>
    public static FilterBar None(IReadOnlyList<SitePhoto> photos) => new([], photos.Count, []);

    /// <summary>The buttons of a bar while it is made, each with a key of its own.</summary>
    sealed class Buttons
    {
        readonly HashSet<string> keys = [];

        public List<FilterEntry> Entries { get; } = [];

        public List<IReadOnlyCollection<int>> Holds { get; } = [];

        public void Add(string name, FilterKind kind, int parent, IReadOnlyCollection<int> held)
        {
            var wish = PageAddress.From(name).Value;
            var key = wish;
            for (var n = 2; !keys.Add(key); n++)
            {
                key = $"{wish}-{n}";
            }

            Entries.Add(new FilterEntry(key, name, kind, parent));
            Holds.Add(held);
        }
    }

    public async Task<FilterBar> OfAsync(BarSettings bar, IReadOnlyList<SitePhoto> photos, CancellationToken ct)
    {
        if (photos.Count == 0 || bar.Categories.Count + bar.Tags.Count == 0)
        {
            return None(photos);
        }

        var places = photos.Select((p, i) => (p.Id, i)).ToDictionary(t => t.Id, t => t.i);
        var buttons = new Buttons();
        if (bar.Categories.Count > 0)
        {
            await AddCategoriesAsync(bar.Categories, places, buttons, ct);
        }

        if (bar.Tags.Count > 0)
        {
            await using var command = db.Command(
                """
                select t.id, t.name, pt.photo
                  from tag as t
                  join photo_tag as pt on pt.tag = t.id and pt.photo = any(@photos)
                 where t.id = any(@tags)
                """,
                ("photos", places.Keys.Values()), ("tags", bar.Tags.Values()));
            var held = (await command.AllAsync(r => (Tag: new TagId(r.Get<Guid>("id")), Name: r.Get<string>("name"), Photo: new PhotoId(r.Get<Guid>("photo"))), ct)).ToLookup(r => r.Tag);
            foreach (var tag in bar.Tags.Where(held.Contains))
            {
                buttons.Add(held[tag].First().Name, FilterKind.Tag, -1, [.. held[tag].Select(r => places[r.Photo])]);
            }
        }

        return new FilterBar(buttons.Entries, photos.Count, buttons.Holds);
    }

    /// <summary>The chosen categories and those beneath them, as far as photos of the block stand in them.</summary>
    async Task AddCategoriesAsync(IReadOnlyList<CategoryId> offered, Dictionary<PhotoId, int> places, Buttons buttons, CancellationToken ct)
    {
        // What is out of view has no button, nor has what stands beneath it.
        var tree = (await categories.TreeAsync(ct)).InView();
        var names = tree.InOrder().ToDictionary(n => n.Node.Id, n => n.Node);
        await using var command = db.Command("select category, photo from photo_category where photo = any(@photos)", ("photos", places.Keys.Values()));
        var held = (await command.AllAsync(r => (Category: new CategoryId(r.Get<Guid>("category")), Photo: new PhotoId(r.Get<Guid>("photo"))), ct)).ToLookup(r => r.Category, r => places[r.Photo]);
        var stands = new Dictionary<CategoryId, int>();
        foreach (var chosen in offered.Where(names.ContainsKey))
        {
            foreach (var id in tree.WithDescendants(chosen))
            {
                if (stands.ContainsKey(id) || !tree.WithDescendants(id).Any(d => held[d].Any()))
                {
                    continue;
                }

                stands[id] = buttons.Entries.Count;
                buttons.Add(names[id].Name, FilterKind.Category, names[id].Parent is { } parent && id != chosen && stands.TryGetValue(parent, out var at) ? at : -1, [.. held[id]]);
            }
        }
    }
}
