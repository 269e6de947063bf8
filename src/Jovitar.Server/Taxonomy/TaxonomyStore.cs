using Jovitar.Core;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Pages;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Taxonomy;

/// <summary>A category as the workroom lists it, parents before children.</summary>
internal sealed record CategoryLine(CategoryId Id, CategoryId? Parent, string Name, int Depth, int Photos, long Version);

internal sealed record TagLine(TagId Id, string Name, int Photos);

/// <summary>Tags and categories, and which photos carry them.</summary>
internal sealed class TaxonomyStore(NpgsqlDataSource db, TimeProvider clock)
{
    /// <summary>All categories in the tree's order, each with how many photos it holds itself.</summary>
    public async Task<IReadOnlyList<CategoryLine>> CategoriesAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            """
            select c.id, c.parent, c.name, c.place, c.version, (select count(*) from photo_category as pc where pc.category = c.id)
              from category as c
            """);
        var rows = await command.AllAsync(
            r => (Node: new CategoryNode(new CategoryId(r.GetGuid(0)), r.IsDBNull(1) ? null : new CategoryId(r.GetGuid(1)), r.GetString(2), r.GetInt32(3)), Version: r.GetInt64(4), Photos: (int)r.GetInt64(5)), ct);
        var facts = rows.ToDictionary(r => r.Node.Id);
        return [.. new CategoryTree(rows.Select(r => r.Node)).InOrder().Select(n => new CategoryLine(n.Node.Id, n.Node.Parent, n.Node.Name, n.Depth, facts[n.Node.Id].Photos, facts[n.Node.Id].Version))];
    }

    public async Task<CategoryId> MakeCategoryAsync(string name, CategoryId? parent, CancellationToken ct)
    {
        var id = new CategoryId(Guid.CreateVersion7(clock.GetUtcNow()));
        await using var command = db.Command(
            """
            insert into category (id, parent, name, place)
            values (@id, @parent::uuid, @name, (select coalesce(max(place) + 1, 0) from category where parent is not distinct from @parent::uuid))
            """,
            ("id", id.Value), ("parent", parent?.Value), ("name", name.Trim()));
        await command.ExecuteNonQueryAsync(ct);
        return id;
    }

    /// <summary>The category at the end of a way of names from the top, whatever their case; what is missing of it is made.</summary>
    public async Task<CategoryId> CategoryAtAsync(IReadOnlyList<string> names, CancellationToken ct)
    {
        CategoryId? at = null;
        foreach (var name in names)
        {
            await using var find = db.Command("select id from category where parent is not distinct from @parent::uuid and lower(name) = lower(@name) order by place limit 1", ("parent", at?.Value), ("name", name.Trim()));
            at = await find.ExecuteScalarAsync(ct) is Guid id ? new CategoryId(id) : await MakeCategoryAsync(name, at, ct);
        }

        return at ?? throw new ArgumentException("A way to a category has at least one name.", nameof(names));
    }

    /// <summary>Renames a category, or moves it beneath another parent and to a place among its siblings.</summary>
    /// <returns>False when its version is no longer the expected one.</returns>
    public async Task<bool> ChangeCategoryAsync(CategoryId id, string name, CategoryId? parent, int? place, long expected, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        var changed = await tx.RunAsync(
            "update category set name = @name, parent = @parent::uuid, version = version + 1 where id = @id and version = @expected", ct,
            ("id", id.Value), ("name", name.Trim()), ("parent", parent?.Value), ("expected", expected));
        if (changed == 0)
        {
            return false;
        }

        if (place is { } at)
        {
            await using var read = tx.Command("select id from category where parent is not distinct from @parent::uuid order by place, name for update", ("parent", parent?.Value));
            var siblings = await read.AllAsync(r => r.GetGuid(0), ct);
            var ordered = Core.Albums.Ordering.Move(siblings, new HashSet<Guid> { id.Value }, at);
            await tx.RunAsync("update category as c set place = o.n - 1 from unnest(@ids) with ordinality as o(id, n) where c.id = o.id", ct, ("ids", ordered.ToArray()));
        }

        await PageStore.TouchAllAsync(tx, ct);
        await tx.CommitAsync(ct);
        return true;
    }

    public async Task RemoveCategoryAsync(CategoryId id, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await PageStore.TouchAllAsync(tx, ct);
        await tx.RunAsync("delete from category where id = @id", ct, ("id", id.Value));
        await tx.CommitAsync(ct);
    }

    /// <summary>Tags whose name begins with the words typed, then those that hold them; the most used first.</summary>
    public async Task<IReadOnlyList<TagLine>> TagsAsync(string? typed, int most, CancellationToken ct)
    {
        var key = TagName.TryParse(typed, out var name) ? name.Key : "";
        await using var command = db.Command(
            """
            select t.id, t.name, (select count(*) from photo_tag as pt where pt.tag = t.id) as photos
              from tag as t
             where t.key like '%' || @key || '%'
             order by not starts_with(t.key, @raw), photos desc, t.key
             limit @most
            """,
            ("key", key.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal)), ("raw", key), ("most", most));
        return await command.AllAsync(r => new TagLine(new TagId(r.GetGuid(0)), r.GetString(1), (int)r.GetInt64(2)), ct);
    }

    /// <summary>Adds and removes tags on several photos; says what really changed, so that it can be undone.</summary>
    public async Task<Tagged> ChangeTagsAsync(TagChange change, CancellationToken ct)
    {
        var photos = change.Photos.Select(p => p.Value).ToArray();
        await using var tx = await db.BeginAsync(ct);
        var ids = await TagIdsAsync(tx, TagName.All(change.Add), ct);
        await using var add = tx.Command(
            """
            with added as (
              insert into photo_tag (photo, tag)
              select p.id, t.id from photo as p cross join unnest(@tags) as t(id) where p.id = any(@photos)
              on conflict do nothing returning photo, tag)
            select a.photo, a.tag, t.name from added as a join tag as t on t.id = a.tag
            """,
            ("photos", photos), ("tags", ids));
        var added = await add.AllAsync(Mark, ct);
        await using var remove = tx.Command(
            """
            with removed as (delete from photo_tag where photo = any(@photos) and tag = any(@tags) returning photo, tag)
            select r.photo, r.tag, t.name from removed as r join tag as t on t.id = r.tag
            """,
            ("photos", photos), ("tags", change.Remove.Select(t => t.Value).ToArray()));
        var removed = await remove.AllAsync(Mark, ct);
        var changed = added.Concat(removed).Select(m => m.Photo).Distinct().ToArray();
        await RewordAsync(tx, changed, ct);
        await PageStore.TouchAsync(tx, changed, ct);
        await tx.CommitAsync(ct);
        return new Tagged(changed.Length, added, removed);
    }

    static TagMark Mark(NpgsqlDataReader r) => new(new PhotoId(r.GetGuid(0)), new TagId(r.GetGuid(1)), r.GetString(2));

    public async Task<Categorised> ChangeCategoriesAsync(CategoryChange change, CancellationToken ct)
    {
        var photos = change.Photos.Select(p => p.Value).ToArray();
        await using var tx = await db.BeginAsync(ct);
        await using var add = tx.Command(
            """
            insert into photo_category (photo, category)
            select p.id, c.id from photo as p cross join category as c where p.id = any(@photos) and c.id = any(@categories)
            on conflict do nothing returning photo, category
            """,
            ("photos", photos), ("categories", change.Add.Select(c => c.Value).ToArray()));
        var added = await add.AllAsync(r => new CategoryMark(new PhotoId(r.GetGuid(0)), new CategoryId(r.GetGuid(1))), ct);
        await using var remove = tx.Command(
            "delete from photo_category where photo = any(@photos) and category = any(@categories) returning photo, category",
            ("photos", photos), ("categories", change.Remove.Select(c => c.Value).ToArray()));
        var removed = await remove.AllAsync(r => new CategoryMark(new PhotoId(r.GetGuid(0)), new CategoryId(r.GetGuid(1))), ct);
        var changed = added.Concat(removed).Select(m => m.Photo).Distinct().ToArray();
        await tx.RunAsync("update photo set version = version + 1 where id = any(@ids)", ct, ("ids", changed.Select(p => p.Value).ToArray()));
        await PageStore.TouchAsync(tx, changed, ct);
        await tx.CommitAsync(ct);
        return new Categorised(changed.Length, added, removed);
    }

    /// <summary>Adds tags to photos within a transaction.</summary>
    public static async Task AddTagsAsync(Transaction tx, IReadOnlyList<PhotoId> photos, IReadOnlyList<TagName> names, CancellationToken ct)
    {
        var ids = await TagIdsAsync(tx, names, ct);
        await tx.RunAsync(
            "insert into photo_tag (photo, tag) select p.id, t.id from photo as p cross join unnest(@tags) as t(id) where p.id = any(@photos) on conflict do nothing", ct,
            ("photos", photos.Select(p => p.Value).ToArray()), ("tags", ids));
        await RewordAsync(tx, photos, ct);
    }

    /// <summary>Takes tags off photos within a transaction.</summary>
    public static async Task RemoveTagsAsync(Transaction tx, IReadOnlyList<PhotoId> photos, IReadOnlyList<TagName> names, CancellationToken ct)
    {
        if (names.Count > 0)
        {
            await tx.RunAsync(
                "delete from photo_tag as pt using tag as t where t.id = pt.tag and t.key = any(@keys) and pt.photo = any(@photos)", ct,
                ("photos", photos.Select(p => p.Value).ToArray()), ("keys", names.Select(n => n.Key).ToArray()));
            await RewordAsync(tx, photos, ct);
        }
    }

    /// <summary>Puts photos into categories within a transaction.</summary>
    public static Task<int> AddCategoriesAsync(Transaction tx, IReadOnlyList<PhotoId> photos, IReadOnlyList<CategoryId> categories, CancellationToken ct) => tx.RunAsync(
        "insert into photo_category (photo, category) select p.id, c.id from photo as p cross join category as c where p.id = any(@photos) and c.id = any(@categories) on conflict do nothing", ct,
        ("photos", photos.Select(p => p.Value).ToArray()), ("categories", categories.Select(c => c.Value).ToArray()));

    /// <summary>Takes photos out of categories within a transaction.</summary>
    public static Task<int> RemoveCategoriesAsync(Transaction tx, IReadOnlyList<PhotoId> photos, IReadOnlyList<CategoryId> categories, CancellationToken ct) => tx.RunAsync(
        "delete from photo_category where photo = any(@photos) and category = any(@categories)", ct,
        ("photos", photos.Select(p => p.Value).ToArray()), ("categories", categories.Select(c => c.Value).ToArray()));

    /// <summary>Gives one photo exactly these tags.</summary>
    public static async Task SetTagsAsync(Transaction tx, PhotoId photo, IReadOnlyList<TagName> names, CancellationToken ct)
    {
        var ids = await TagIdsAsync(tx, names, ct);
        await tx.RunAsync("delete from photo_tag where photo = @photo and tag <> all(@tags)", ct, ("photo", photo.Value), ("tags", ids));
        await tx.RunAsync("insert into photo_tag (photo, tag) select @photo, t.id from unnest(@tags) as t(id) on conflict do nothing", ct, ("photo", photo.Value), ("tags", ids));
        await tx.RunAsync(
            "update photo set tag_words = coalesce((select string_agg(t.name, ' ' order by t.key) from photo_tag as pt join tag as t on t.id = pt.tag where pt.photo = @photo), '') where id = @photo",
            ct, ("photo", photo.Value));
    }

    /// <summary>Gives one photo exactly these categories.</summary>
    public static async Task SetCategoriesAsync(Transaction tx, PhotoId photo, IReadOnlyList<CategoryId> categories, CancellationToken ct)
    {
        var ids = categories.Select(c => c.Value).ToArray();
        await tx.RunAsync("delete from photo_category where photo = @photo and category <> all(@ids)", ct, ("photo", photo.Value), ("ids", ids));
        await tx.RunAsync("insert into photo_category (photo, category) select @photo, c.id from category as c where c.id = any(@ids) on conflict do nothing", ct, ("photo", photo.Value), ("ids", ids));
    }

    /// <summary>The ids of tags by name; those that are not there yet are made.</summary>
    static async Task<Guid[]> TagIdsAsync(Transaction tx, IReadOnlyList<TagName> names, CancellationToken ct)
    {
        // In the order of their keys, so that two who make the same tags at once wait for each other and never in a circle.
        var sorted = names.OrderBy(n => n.Key, StringComparer.Ordinal).ToArray();
        await tx.RunAsync(
            "insert into tag (id, name, key) select * from unnest(@ids, @names, @keys) on conflict (key) do nothing", ct,
            ("ids", sorted.Select(_ => Guid.CreateVersion7()).ToArray()), ("names", sorted.Select(n => n.Text).ToArray()), ("keys", sorted.Select(n => n.Key).ToArray()));
        await using var read = tx.Command("select id from tag where key = any(@keys)", ("keys", sorted.Select(n => n.Key).ToArray()));
        return [.. await read.AllAsync(r => r.GetGuid(0), ct)];
    }

    /// <summary>Keeps the words that search looks through in step with the tags.</summary>
    public static Task<int> RewordAsync(Transaction tx, IReadOnlyList<PhotoId> photos, CancellationToken ct) => tx.RunAsync(
        """
        update photo as p
           set tag_words = coalesce((select string_agg(t.name, ' ' order by t.key) from photo_tag as pt join tag as t on t.id = pt.tag where pt.photo = p.id), ''),
               version = version + 1
         where p.id = any(@ids)
        """,
        ct, ("ids", photos.Select(p => p.Value).ToArray()));
}
