using Jovitar.Core;
using Jovitar.Core.Filtering;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Pages;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>Filter bars: of the buttons that are set, those that find any photo of the block.</summary>
internal sealed class SiteBars(NpgsqlDataSource db, CategoryStore categories, IndexKeeper keeper)
{
    /// <summary>The buttons of a bar while it is made, each with a key of its own.</summary>
    sealed class Buttons
    {
        readonly HashSet<string> keys = [FilterBar.Nothing];

        public List<FilterGroup> Groups { get; } = [];

        public List<FilterEntry> Entries { get; } = [];

        public List<IReadOnlyCollection<int>> Holds { get; } = [];

        /// <summary>Adds a button to the last group.</summary>
        /// <returns>Its index.</returns>
        public int Add(string name, IReadOnlyCollection<int> held, bool isPreset, int parent = -1)
        {
            var wish = PageAddress.From(name).Value;
            var key = wish;
            for (var n = 2; !keys.Add(key); n++)
            {
                key = $"{wish}-{n}";
            }

            Entries.Add(new FilterEntry(key, name, Groups.Count - 1, parent, isPreset));
            Holds.Add(held);
            return Entries.Count - 1;
        }

        /// <summary>Leaves a group away that got no button.</summary>
        public void EndGroup()
        {
            if (Entries.Count == 0 || Entries[^1].Group < Groups.Count - 1)
            {
                Groups.RemoveAt(Groups.Count - 1);
            }
        }
    }

    /// <summary>A thing by which photos are found: what it is called, and the places of those that it finds.</summary>
    sealed record Held(string Name, IReadOnlyCollection<int> Photos);

    /// <summary>The bar of a block.</summary>
    /// <param name="photos">All photos of the block.</param>
    /// <param name="seen">The albums that visitors see somewhere.</param>
    public async Task<FilterBar> OfAsync(BarSettings bar, PhotosSource source, IReadOnlyList<SitePhoto> photos, Lazy<Task<IReadOnlyList<AlbumId>>> seen, CancellationToken ct)
    {
        if (photos.Count == 0 || !bar.HasButtons())
        {
            return FilterBar.None(photos.Count);
        }

        var places = photos.Select((p, i) => (p.Id, i)).ToDictionary(t => t.Id, t => t.i);
        // What is out of view has no button, nor has what stands beneath it.
        var tree = (await categories.TreeAsync(ct)).InView();
        var nodes = tree.InOrder().ToDictionary(n => n.Node.Id, n => n.Node);
        var inCategory = bar.Of(BarKind.Category).Any() ? await InCategoriesAsync(places, ct) : Enumerable.Empty<(CategoryId, int)>().ToLookup(h => h.Item1, h => h.Item2);
        var inTag = bar.Of(BarKind.Tag).ToArray() is { Length: > 0 } tags ? await InTagsAsync(tags, places, ct) : [];
        var albums = await AlbumsAsync(bar, source, seen);
        var inAlbum = albums.Length > 0 ? await InAlbumsAsync(albums, places, ct) : [];
        var named = bar.Of(BarKind.Album).Select(AlbumId.From).ToHashSet();
        var buttons = new Buttons();
        foreach (var group in bar.Groups)
        {
            buttons.Groups.Add(new FilterGroup(group.Words, group.One));
            var stands = new Dictionary<CategoryId, int>();
            foreach (var button in group.Buttons)
            {
                switch (button.Kind)
                {
                    case BarKind.Category:
                        AddCategory(button, tree, nodes, inCategory, stands, buttons);
                        break;
                    case BarKind.Tag:
                        Add(button, inTag.GetValueOrDefault(TagId.From(button.Thing!.Value)));
                        break;
                    case BarKind.Album:
                        Add(button, inAlbum.GetValueOrDefault(AlbumId.From(button.Thing!.Value)));
                        break;
                    default:
                        foreach (var album in albums.Where(a => !named.Contains(a)))
                        {
                            Add(button, inAlbum.GetValueOrDefault(album));
                        }

                        break;
                }
            }

            buttons.EndGroup();
        }

        return new FilterBar(buttons.Groups, buttons.Entries, photos.Count, buttons.Holds);

        void Add(BarButton button, Held? held)
        {
            if (held is not null)
            {
                buttons.Add(button.Words.Length > 0 ? button.Words : held.Name, held.Photos, button.Preset);
            }
        }
    }

    /// <summary>The words by which visitors find photos of a block; null where they cannot.</summary>
    public async Task<PhotoSearch?> SearchAsync(BarSettings bar, IReadOnlyList<SitePhoto> photos, CancellationToken ct)
    {
        if (photos.Count == 0 || bar.Off || bar.Search.Fields.Count == 0)
        {
            return null;
        }

        await using var command = db.Command(
            """
            select concat_ws(' ', case when 'Title' = any(@fields) then p.title end, case when 'Caption' = any(@fields) then p.caption end,
                     case when 'Tags' = any(@fields) then p.tag_words end, case when 'Place' = any(@fields) then p.place end,
                     case when 'People' = any(@fields) then array_to_string(p.people, ' ') end,
                     case when 'FileName' = any(@fields) then p.file_name end) as words
              from unnest(@photos) with ordinality as o(photo, n)
              left join photo as p on p.id = o.photo
             order by o.n
            """,
            ("photos", photos.Select(p => p.Id.Value).ToArray()), ("fields", bar.Search.Fields.Select(f => f.ToString()).ToArray()));
        return new PhotoSearch([.. await command.AllAsync(r => r.Get<string>("words"), ct)]);
    }

    /// <summary>The orders that visitors may choose, with the numbers of all photos in each.</summary>
    public async Task<IReadOnlyList<(BarOrder Order, int[] Photos)>> OrdersAsync(BarSettings bar, IReadOnlyList<SitePhoto> photos, CancellationToken ct)
    {
        if (photos.Count == 0 || bar.Off || bar.Orders.Count == 0)
        {
            return [];
        }

        var places = photos.Select((p, i) => (p.Id.Value, i)).ToDictionary(t => t.Value, t => t.i);
        var index = await keeper.CurrentAsync(ct);
        return [.. bar.Orders.Select(order =>
        {
            var (sort, down) = order switch
            {
                BarOrder.Newest => (SheetSort.Taken, true),
                BarOrder.Oldest => (SheetSort.Taken, false),
                BarOrder.Title => (SheetSort.Title, false),
                _ => (SheetSort.Rating, true),
            };
            int[] known = [.. index.InOrder(places.Keys, sort, down).Select(id => places[id])];
            // One that has arrived since the index was read stands last rather than nowhere.
            return (order, (int[])[.. known, .. Enumerable.Range(0, photos.Count).Except(known)]);
        })];
    }

    /// <summary>A category and, where that is set, those beneath it, as far as photos of the block stand in them.</summary>
    static void AddCategory(BarButton button, CategoryTree tree, Dictionary<CategoryId, CategoryNode> nodes, ILookup<CategoryId, int> held, Dictionary<CategoryId, int> stands, Buttons buttons)
    {
        var chosen = CategoryId.From(button.Thing!.Value);
        foreach (var node in tree.WithDescendants(chosen).Take(button.Beneath ? int.MaxValue : 1).Where(nodes.ContainsKey).Select(id => nodes[id]))
        {
            int[] photos = [.. tree.WithDescendants(node.Id).SelectMany(c => held[c]).Distinct()];
            if (stands.ContainsKey(node.Id) || photos.Length == 0)
            {
                continue;
            }

            var parent = node.Id != chosen && node.Parent is { } above && stands.TryGetValue(above, out var at) ? at : -1;
            stands[node.Id] = buttons.Add(node.Id == chosen && button.Words.Length > 0 ? button.Words : node.Name, photos, node.Id == chosen && button.Preset, parent);
        }
    }

    async Task<ILookup<CategoryId, int>> InCategoriesAsync(Dictionary<PhotoId, int> places, CancellationToken ct)
    {
        await using var command = db.Command("select category, photo from photo_category where photo = any(@photos)", ("photos", places.Keys.Values()));
        return (await command.AllAsync(r => (Category: new CategoryId(r.Get<Guid>("category")), Photo: places[new PhotoId(r.Get<Guid>("photo"))]), ct)).ToLookup(r => r.Category, r => r.Photo);
    }

    async Task<Dictionary<TagId, Held>> InTagsAsync(Guid[] tags, Dictionary<PhotoId, int> places, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select t.id, t.name, pt.photo
              from tag as t
              join photo_tag as pt on pt.tag = t.id and pt.photo = any(@photos)
             where t.id = any(@tags)
            """,
            ("photos", places.Keys.Values()), ("tags", tags));
        return ByThing(await command.AllAsync(r => (r.Get<Guid>("id"), r.Get<string>("name"), places[new PhotoId(r.Get<Guid>("photo"))]), ct), TagId.From);
    }

    /// <summary>The albums that may have a button: those joined in the block, in their order; where photos are gathered, those that visitors see somewhere.</summary>
    static async Task<AlbumId[]> AlbumsAsync(BarSettings bar, PhotosSource source, Lazy<Task<IReadOnlyList<AlbumId>>> seen)
    {
        var wanted = bar.Of(BarKind.Album).Select(AlbumId.From).ToArray();
        var each = bar.Buttons().Any(b => b.Kind == BarKind.EachAlbum);
        return source.Kind == SourceKind.Albums ? [.. source.Albums.Where(a => each || wanted.Contains(a))]
            : wanted.Length == 0 ? []
            : [.. wanted.Intersect(await seen.Value)];
    }

    async Task<Dictionary<AlbumId, Held>> InAlbumsAsync(AlbumId[] albums, Dictionary<PhotoId, int> places, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select a.id, coalesce(nullif(a.title, ''), a.working_name) as heading, ap.photo
              from album as a
              join album_photo as ap on ap.album = a.id and ap.photo = any(@photos)
             where a.id = any(@albums) and a.shown and a.binned is null
            """,
            ("photos", places.Keys.Values()), ("albums", albums.Values()));
        return ByThing(await command.AllAsync(r => (r.Get<Guid>("id"), r.Get<string>("heading"), places[new PhotoId(r.Get<Guid>("photo"))]), ct), AlbumId.From);
    }

    static Dictionary<TId, Held> ByThing<TId>(IEnumerable<(Guid Thing, string Name, int Photo)> held, Func<Guid, TId> id)
        where TId : notnull =>
        held.GroupBy(h => h.Thing).ToDictionary(g => id(g.Key), g => new Held(g.First().Name, [.. g.Select(h => h.Photo)]));
}
