using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Albums;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Taxonomy;

/// <summary>A category as the workroom lists it, parents before children.</summary>
/// <param name="Photos">So many it holds itself.</param>
/// <param name="WithBeneath">So many it holds together with all beneath it, each once.</param>
/// <param name="HiddenBy">What keeps it out of visitors' view: itself, or one above it; null when they see it.</param>
/// <param name="Albums">So many albums stand in it itself.</param>
/// <param name="AlbumsWithBeneath">So many stand in it or beneath it, each once.</param>
/// <param name="Audience">Who sees its page, and what stands in it.</param>
/// <param name="Picture">To know it by: the cover that was chosen, else one that suits; null while there is none.</param>
internal sealed record CategoryLine(
    CategoryId Id, CategoryId? Parent, string Name, string Description, int Depth, int Photos, int WithBeneath, CategoryId? HiddenBy, int Albums, int AlbumsWithBeneath, CategoryPage Page,
    string? Picture, AudienceLine Audience, long Version);

/// <summary>What is set for the page that a category has.</summary>
/// <param name="Address">The last part of its address, behind <c>/category/</c>.</param>
/// <param name="Beneath">It shows the albums and photos of the categories beneath it, too.</param>
/// <param name="Sort">In which order it lists albums.</param>
/// <param name="Cover">The picture its cover shows; null for one that suits.</param>
/// <param name="Opens">The page that its cover opens, while visitors have that; null for its own.</param>
public sealed record CategoryPage([Words(PageAddress.Longest * 2)] string Address, bool Beneath, IndexSort Sort, PhotoId? Cover = null, PageId? Opens = null);

/// <summary>What is to be changed of a category.</summary>
/// <param name="Position">Its place among its siblings, 0 = first; null to leave it where it is.</param>
/// <param name="Description">Null to leave it.</param>
/// <param name="Shown">Whether visitors see it; null to leave it.</param>
/// <param name="Page">What is set for its page; null to leave it.</param>
internal sealed record CategoryWish(string Name, CategoryId? Parent, int? Position, string? Description, bool? Shown, CategoryPage? Page);

/// <summary>Categories to put photos into, and to take them out of.</summary>
internal sealed record CategoryChange(IReadOnlyList<PhotoId> Photos, IReadOnlyList<CategoryId> Add, IReadOnlyList<CategoryId> Remove);

/// <summary>How a change of a category ended.</summary>
internal enum CategoryOutcome
{
    Written,
    Gone,
    Stale,

    /// <summary>It would stand beneath itself.</summary>
    Loop,
    NoParent,
    AddressTaken,

    /// <summary>It keeps visitors from what stands in it.</summary>
    Guards,
}

/// <summary>The tree of categories, and which photos stand in them.</summary>
internal sealed class CategoryStore(NpgsqlDataSource db, ActRunner acts, AccessStore access, SightStore sights, IndexKeeper keeper)
{
    /// <summary>Two who move categories at once wait for each other, so that no loop is tied and no name made twice.</summary>
    public const string LockTree = "lock table category in share row exclusive mode";

    /// <summary>All categories in the tree's order, each with how many photos it holds itself.</summary>
    public async Task<IReadOnlyList<CategoryLine>> ListAsync(CancellationToken ct)
    {
        var index = await keeper.CurrentAsync(ct);
        var (site, gates) = (await access.SiteAsync(ct), (await sights.EveryoneAsync(ct)).Gates);
        var shown = new Narrowing("", ForVisitors.Shown(site.ClearanceNeeded));
        var (holding, beneath, rated) = (index.Holding(PartKind.Category), index.HoldingBeneath(), index.HighestRated(PartKind.Category, 1, shown));
        await using var command = db.CreateCommand(
            """
            select id, parent, name, place, shown, description, address, cover, beneath, sort, opens, in_view, gates, version
              from category
             where binned is null
            """);
        var rows = await command.AllAsync(
            r => (
                Node: Node(r), Description: r.Get<string>("description"), Version: r.Get<long>("version"),
                Audience: AudienceLine.Of(new CategoryThing(Binned: false, r.Get<bool>("in_view")) { Gates = gates.Of(r.Get<Guid[]>("gates")) }, site, access.Now),
                Page: new CategoryPage(
                    r.Get<string>("address"), r.Get<bool>("beneath"), Enum.Parse<IndexSort>(r.Get<string>("sort"), ignoreCase: true), r.MaybeId("cover") is { } cover ? new PhotoId(cover) : null,
                    r.MaybeId("opens") is { } opens ? new PageId(opens) : null)),
            ct);
        await using var standing = db.CreateCommand(
            """
            select ac.category, ac.album, a.cover
              from album_category as ac
              join album as a on a.id = ac.album and a.binned is null
             order by coalesce(a.dated, a.made::date) desc, a.id desc
            """);
        var albums = (await standing.AllAsync(r => (Category: new CategoryId(r.Get<Guid>("category")), Album: r.Get<Guid>("album"), Cover: r.MaybeId("cover")), ct)).ToLookup(a => a.Category);
        var ratedOfAlbums = index.HighestRated(PartKind.Album, 1, shown);
        var facts = rows.ToDictionary(r => r.Node.Id);
        var tree = new CategoryTree(rows.Select(r => r.Node));
        // Chosen, else of the newest album that has one, else the best photo of its own.
        Guid? Suits(CategoryId id) => facts[id].Page.Cover?.Value ?? tree.WithDescendants(id).SelectMany(c => albums[c]).Select(a => a.Cover ?? Best(ratedOfAlbums, a.Album)).FirstOrDefault(c => c is not null)
            ?? tree.WithDescendants(id).Select(c => Best(rated, c.Value)).FirstOrDefault(c => c is not null);
        static Guid? Best(IReadOnlyDictionary<Guid, IReadOnlyList<Guid>> of, Guid id) => of.TryGetValue(id, out var best) ? best[0] : null;
        var covers = rows.ToDictionary(r => r.Node.Id, r => Suits(r.Node.Id));
        await using var read = db.Command("select id, picture from photo where id = any(@ids) and stage > 0 and binned is null", ("ids", covers.Values.OfType<Guid>().Distinct().ToArray()));
        var pictures = (await read.AllAsync(r => KeyValuePair.Create(r.Get<Guid>("id"), r.Get<string>("picture")), ct)).ToDictionary();
        return
        [
            .. tree.InOrder().Select(n =>
            {
                var (id, fact) = (n.Node.Id, facts[n.Node.Id]);
                return new CategoryLine(
                    id, n.Node.Parent, n.Node.Name, fact.Description, n.Depth, holding.GetValueOrDefault(id.Value), beneath.GetValueOrDefault(id.Value), tree.HiddenBy(id),
                    albums[id].Count(), tree.WithDescendants(id).SelectMany(c => albums[c]).Select(a => a.Album).Distinct().Count(), fact.Page,
                    covers[id] is { } cover ? pictures.GetValueOrDefault(cover) : null, fact.Audience, fact.Version);
            }),
        ];
    }

    const string Nodes = "select id, parent, name, place, shown from category where binned is null";

    /// <summary>The tree without its counts.</summary>
    public async Task<CategoryTree> TreeAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(Nodes);
        return new CategoryTree(await command.AllAsync(Node, ct));
    }

    static CategoryNode Node(NpgsqlDataReader r) =>
        new(new CategoryId(r.Get<Guid>("id")), r.MaybeId("parent") is { } parent ? new CategoryId(parent) : null, r.Get<string>("name"), r.Get<long>("place"), r.Get<bool>("shown"));

    static async Task<IReadOnlyList<CategoryNode>> NodesAsync(Act act, CancellationToken ct)
    {
        await using var command = act.Command(Nodes);
        return await command.AllAsync(Node, ct);
    }

    /// <summary>Makes a category at the end of its parent's.</summary>
    /// <returns>Null when the parent is not there.</returns>
    public async Task<CategoryId?> MakeAsync(Actor who, string name, CategoryId? parent, CancellationToken ct)
    {
        var (id, _) = await acts.RunAsync(
            who, ActKind.MadeCategory,
            async act =>
            {
                act.Says = _ => $"Made category “{name.Trim()}”.";
                return await MakeAsync(act, name, parent, ct) is { } made ? made : act.Drop<CategoryId?>(null);
            },
            ct);
        return id;
    }

    static async Task<CategoryId?> MakeAsync(Act act, string name, CategoryId? parent, CancellationToken ct)
    {
        await act.RunAsync(LockTree, ct);
        var nodes = await NodesAsync(act, ct);
        if (parent is { } above && nodes.All(n => n.Id != above))
        {
            return null;
        }

        var id = new CategoryId(Guid.CreateVersion7(act.Now));
        await act.RunAsync(
            "insert into category (id, parent, name, address, place) values (@id, @parent::uuid, @name, @address, @place)", ct,
            ("id", id.Value), ("parent", parent?.Value), ("name", name.Trim()), ("address", await Addresses.FreeAsync(act, "category", PageAddress.From(name).Value, id.Value, ct)),
            ("place", Places.After(nodes.Where(n => n.Parent == parent).Max(n => (long?)n.Place))));
        return id;
    }

    /// <summary>The category at the end of a way of names from the top, whatever their case; what is missing of it is made.</summary>
    public async Task<CategoryId> AtAsync(Actor who, IReadOnlyList<string> names, CancellationToken ct)
    {
        var (id, _) = await acts.RunAsync(
            who, ActKind.MadeCategory,
            async act =>
            {
                act.Says = _ => $"Made category “{string.Join(" / ", names)}”.";
                await act.RunAsync(LockTree, ct);
                CategoryId? at = null;
                foreach (var name in names)
                {
                    var known = (await NodesAsync(act, ct)).Where(n => n.Parent == at && string.Equals(n.Name, name.Trim(), StringComparison.OrdinalIgnoreCase)).MinBy(n => n.Place);
                    at = known?.Id ?? await MakeAsync(act, name, at, ct);
                }

                return at ?? throw new ArgumentException("A way to a category has at least one name.", nameof(names));
            },
            ct);
        return id;
    }

    /// <summary>Renames a category, describes it, takes it out of view or brings it back, or moves it beneath another parent and to a place among its siblings.</summary>
    public async Task<(CategoryOutcome Outcome, Done Done)> ChangeAsync(Actor who, CategoryId id, CategoryWish wish, long expected, CancellationToken ct)
    {
        var (name, parent, position) = (wish.Name.Trim(), wish.Parent, wish.Position);
        return await acts.RunAsync(
            who, ActKind.ChangedCategory,
            async act =>
            {
                await act.RunAsync(LockTree, ct);
                var nodes = await NodesAsync(act, ct);
                var tree = new CategoryTree(nodes);
                if (nodes.FirstOrDefault(n => n.Id == id) is not { } before)
                {
                    return act.Drop(CategoryOutcome.Gone);
                }

                if (parent is { } above && nodes.All(n => n.Id != above))
                {
                    return act.Drop(CategoryOutcome.NoParent);
                }

                if (!tree.MayStandBeneath(id, parent))
                {
                    return act.Drop(CategoryOutcome.Loop);
                }

                act.Says = _ => ActWords.ChangedCategory(
                    before.Name, name, wish.Shown == before.Shown ? null : wish.Shown, wish.Description is not null && position is null && parent == before.Parent, wish.Page is not null);
                var siblings = nodes.Where(n => n.Parent == parent && n.Id != id).OrderBy(n => n.Place).ThenBy(n => n.Name, StringComparer.CurrentCulture).ToList();
                var at = position ?? (before.Parent == parent ? siblings.Count(s => s.Place < before.Place) : siblings.Count);
                siblings.Insert(Math.Clamp(at, 0, siblings.Count), before);
                var places = Places.Assign([.. siblings.Select(s => new Standing<CategoryId>(s.Id, s.Id == id && (position is not null || before.Parent != parent) ? null : s.Place))]);
                var changed = await act.RunAsync(
                    """
                    update category
                       set name = @name, parent = @parent::uuid, description = coalesce(@description::text, description),
                           shown = coalesce(@shown::boolean, shown), version = version + 1
                     where id = @id and version = @expected
                    """,
                    ct, ("id", id.Value), ("name", name), ("parent", parent?.Value), ("description", wish.Description?.Trim()), ("shown", wish.Shown), ("expected", expected));
                if (changed != 1)
                {
                    return act.Drop(CategoryOutcome.Stale);
                }

                if (wish.Page is { } page)
                {
                    // Asked for behind the rows: who says where albums stand holds theirs and asks then, too.
                    if (await Addresses.IsTakenAsync(act, "category", page.Address, id.Value, ct))
                    {
                        return act.Drop(CategoryOutcome.AddressTaken);
                    }

                    await WritePageAsync(act, id, page, ct);
                }

                await act.RunAsync(
                    "update category as c set place = o.place from unnest(@ids, @places) as o(id, place) where c.id = o.id", ct,
                    ("ids", places.Select(p => p.Thing).Values()), ("places", places.Select(p => p.Place).ToArray()));
                return CategoryOutcome.Written;
            },
            ct);
    }

    static async Task WritePageAsync(Act act, CategoryId id, CategoryPage page, CancellationToken ct)
    {
        await act.LockAsync("photo", page.Cover is { } cover ? [cover.Value] : [], ct);
        await act.RunAsync(
            """
            update category
               set address = @address, beneath = @beneath, sort = @sort,
                   cover = (select p.id from photo as p where p.id = @cover::uuid and p.binned is null),
                   opens = (select pg.id from page as pg where pg.id = @opens::uuid and (pg.binned is null or pg.id = category.opens))
             where id = @id
            """,
            ct, ("id", id.Value), ("address", page.Address), ("beneath", page.Beneath), ("sort", page.Sort.ToString().ToLowerInvariant()), ("cover", page.Cover?.Value),
            ("opens", page.Opens?.Value));
    }

    /// <summary>Throws a category in the bin with all beneath it; photos stay.</summary>
    /// <returns>Null when it is not there.</returns>
    /// <remarks>One that keeps visitors from what stands in it or beneath it, puts the watermark on it, or reserves something of it, by itself or by those above it, stays: with it gone they would have all that.</remarks>
    public async Task<(CategoryOutcome Outcome, Done Done)> RemoveAsync(Actor who, CategoryId id, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.Binned,
        async act =>
        {
            await act.RunAsync(LockTree, ct);
            await using var guards = act.Command(
                """
                with recursive beneath as (
                  select id, gates || marks as keeps from category where id = @id and binned is null
                  union
                  select c.id, c.gates || c.marks from category as c join beneath as b on c.parent = b.id where c.binned is null)
                select exists (
                  select from beneath as b
                   where b.keeps <> '{}' and (
                     exists (select from album_category as ac where ac.category = b.id)
                     or exists (select from photo_category as pc where pc.category = b.id)))
                """,
                ("id", id.Value));
            if ((bool)(await guards.ExecuteScalarAsync(ct))!)
            {
                return act.Drop(CategoryOutcome.Guards);
            }

            await using var mark = act.Command("update category set binned = @now, version = version + 1 where id = @id and binned is null returning name", ("id", id.Value), ("now", act.Now));
            if (await mark.ExecuteScalarAsync(ct) is not string name)
            {
                return act.Drop(CategoryOutcome.Gone);
            }

            act.Says = _ => ActWords.Binned("category", name);
            return CategoryOutcome.Written;
        },
        ct);

    /// <summary>Puts photos in categories and takes them out.</summary>
    public async Task<Done> ChangePhotosAsync(Actor who, CategoryChange change, CancellationToken ct)
    {
        var (_, done) = await acts.RunAsync(
            who, ActKind.Categorised,
            async act =>
            {
                await using var read = act.Command("select id, name from category where id = any(@ids) order by place", ("ids", change.Add.Concat(change.Remove).Values()));
                var names = await read.AllAsync(r => (Id: new CategoryId(r.GetGuid(0)), Name: r.GetString(1)), ct);
                act.Says = tally => ActWords.Categorised(tally, [.. names.Where(n => change.Add.Contains(n.Id)).Select(n => n.Name)], [.. names.Where(n => change.Remove.Contains(n.Id)).Select(n => n.Name)]);
                await act.HoldAsync("category", change.Add.Values(), ct);
                await act.LockAsync("photo", change.Photos.Values(), ct);
                await AddPhotosAsync(act, change.Photos, change.Add, Said.Person, ct);
                await RemovePhotosAsync(act, change.Photos, change.Remove, saidBy: null, ct);
                return true;
            },
            ct);
        return done;
    }

    /// <summary>Puts photos into categories that are there and held.</summary>
    /// <param name="saidBy">Where that comes from. What a person says is theirs, whatever an intake had said before.</param>
    public static Task<int> AddPhotosAsync(Act act, IReadOnlyList<PhotoId> photos, IReadOnlyList<CategoryId> categories, string saidBy, CancellationToken ct) => categories.Count == 0 ? Task.FromResult(0) : act.RunAsync(
        """
        insert into photo_category (photo, category, said_by)
        select p.id, c.id, @said
          from photo as p
         cross join category as c
         where p.id = any(@photos) and p.binned is null and c.id = any(@categories) and c.binned is null
         order by p.id, c.id
        on conflict (photo, category) do update set said_by = excluded.said_by
         where photo_category.said_by like 'intake:%' and excluded.said_by not like 'intake:%'
        """,
        ct, ("photos", photos.Values()), ("categories", categories.Values()), ("said", saidBy));

    /// <summary>Takes photos out of categories.</summary>
    /// <param name="saidBy">Only where they stand there because of that; null for all.</param>
    public static Task<int> RemovePhotosAsync(Act act, IReadOnlyList<PhotoId> photos, IReadOnlyList<CategoryId> categories, string? saidBy, CancellationToken ct) => categories.Count == 0 ? Task.FromResult(0) : act.RunAsync(
        "delete from photo_category where photo = any(@photos) and category = any(@categories) and (@said::text is null or said_by = @said::text)", ct,
        ("photos", photos.Values()), ("categories", categories.Values()), ("said", saidBy));
}
