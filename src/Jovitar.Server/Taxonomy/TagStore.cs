using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Acts;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Taxonomy;

/// <summary>A tag.</summary>
/// <param name="Photos">On so many photos.</param>
/// <param name="Albums">And on so many albums, where that is counted.</param>
internal sealed record TagLine(TagId Id, string Name, int Photos, int Albums = 0);

/// <summary>Tags to add to photos, by name, and to take off them.</summary>
internal sealed record TagChange(IReadOnlyList<PhotoId> Photos, IReadOnlyList<string> Add, IReadOnlyList<TagId> Remove);

/// <summary>Tags, and which photos carry them.</summary>
internal sealed class TagStore(NpgsqlDataSource db, ActRunner acts, IndexKeeper keeper)
{
    /// <summary>The names of a photo's tags in their order, of a row called <c>p</c>.</summary>
    public const string NamesOfPhoto = "array(select t.name from photo_tag as pt join tag as t on t.id = pt.tag where pt.photo = p.id order by t.key)";

    /// <summary>Tags whose name begins with the words typed, then those that hold them; the most used first.</summary>
    /// <param name="also">Tags that are to be among them in any case, and then are the first.</param>
    public async Task<IReadOnlyList<TagLine>> TagsAsync(string? typed, IReadOnlyList<TagId> also, int most, CancellationToken ct)
    {
        var used = (await keeper.CurrentAsync(ct)).Holding(PartKind.Tag);
        var key = TagName.TryParse(typed, out var name) ? name.Key : "";
        await using var command = db.Command(
            """
            select t.id, t.name, coalesce(u.photos, 0) as photos
              from tag as t
              left join unnest(@used, @times) as u(tag, photos) on u.tag = t.id
             where t.binned is null and (t.key like '%' || @key || '%' or t.id = any(@also))
             order by not t.id = any(@also), not starts_with(t.key, @raw), photos desc, t.key
             limit @most
            """,
            ("key", Database.LikeText(key)), ("raw", key), ("also", also.Values()), ("most", most),
            ("used", used.Keys.ToArray()), ("times", used.Values.ToArray()));
        return await command.AllAsync(r => new TagLine(new TagId(r.Get<Guid>("id")), r.Get<string>("name"), r.Get<int>("photos")), ct);
    }

    /// <summary>Adds and removes tags on several photos.</summary>
    public async Task<Done> ChangeAsync(Actor who, TagChange change, CancellationToken ct)
    {
        var names = TagName.All(change.Add);
        var (_, done) = await acts.RunAsync(
            who, ActKind.Tagged,
            async act =>
            {
                await using var read = act.Command("select name from tag where id = any(@ids) order by key", ("ids", change.Remove.Values()));
                var off = await read.AllAsync(r => r.GetString(0), ct);
                act.Says = tally => ActWords.Tagged(tally, [.. names.Select(n => n.Text)], off);
                var tags = await MakeSureAsync(act, names, ct);
                await act.LockAsync("photo", change.Photos.Values(), ct);
                await AddAsync(act, change.Photos, tags, Said.Person, ct);
                await RemoveAsync(act, change.Photos, change.Remove, saidBy: null, ct);
                return true;
            },
            ct);
        return done;
    }

    /// <summary>The ids of tags by name; those that are not there yet are made, and those in the bin come back.</summary>
    public static async Task<IReadOnlyList<TagId>> MakeSureAsync(Act act, IReadOnlyList<TagName> names, CancellationToken ct)
    {
        if (names.Count == 0)
        {
            return [];
        }

        // In the order of their keys, so that two who make the same tags at once wait for each other and never in a circle.
        var sorted = names.OrderBy(n => n.Key, StringComparer.Ordinal).ToArray();
        await act.RunAsync(
            """
            insert into tag (id, name, key)
            select *
              from unnest(@ids, @names, @keys)
            on conflict (key) do update set binned = null where tag.binned is not null
            """,
            ct, ("ids", sorted.Select(_ => Guid.CreateVersion7(act.Now)).ToArray()), ("names", sorted.Select(n => n.Text).ToArray()), ("keys", sorted.Select(n => n.Key).ToArray()));
        await using var read = act.Command("select id from tag where key = any(@keys)", ("keys", sorted.Select(n => n.Key).ToArray()));
        return await read.AllAsync(r => new TagId(r.GetGuid(0)), ct);
    }

    /// <summary>Puts tags on photos.</summary>
    /// <param name="saidBy">Where they come from. What a file or a person says is theirs, whatever an intake had said before.</param>
    public static Task<int> AddAsync(Act act, IReadOnlyList<PhotoId> photos, IReadOnlyList<TagId> tags, string saidBy, CancellationToken ct) => tags.Count == 0 ? Task.FromResult(0) : act.RunAsync(
        """
        insert into photo_tag (photo, tag, said_by)
        select p.id, t.id, @said
          from photo as p
         cross join unnest(@tags) as t(id)
         where p.id = any(@photos) and p.binned is null
         order by p.id, t.id
        on conflict (photo, tag) do update set said_by = excluded.said_by
         where photo_tag.said_by like 'intake:%' and excluded.said_by not like 'intake:%'
        """,
        ct, ("photos", photos.Values()), ("tags", tags.Values()), ("said", saidBy));

    /// <summary>Takes tags off photos.</summary>
    /// <param name="saidBy">Only where they come from there; null for all.</param>
    public static Task<int> RemoveAsync(Act act, IReadOnlyList<PhotoId> photos, IReadOnlyList<TagId> tags, string? saidBy, CancellationToken ct) => tags.Count == 0 ? Task.FromResult(0) : act.RunAsync(
        "delete from photo_tag where photo = any(@photos) and tag = any(@tags) and (@said::text is null or said_by = @said::text)", ct,
        ("photos", photos.Values()), ("tags", tags.Values()), ("said", saidBy));

    /// <summary>Tags by the keys of their names.</summary>
    public static async Task<IReadOnlyDictionary<string, TagId>> ByKeyAsync(Act act, IReadOnlyList<TagName> names, CancellationToken ct)
    {
        await using var read = act.Command("select key, id from tag where key = any(@keys)", ("keys", names.Select(n => n.Key).ToArray()));
        return (await read.AllAsync(r => KeyValuePair.Create(r.GetString(0), new TagId(r.GetGuid(1))), ct)).ToDictionary();
    }

    /// <summary>Has photos carry these tags and no others; a person says so.</summary>
    /// <param name="pairs">Which photo carries which; photos of none lose all.</param>
    public static async Task SetAsync(Act act, Guid[] photos, IReadOnlyList<(Guid Photo, TagId Tag)> pairs, CancellationToken ct)
    {
        if (photos.Length == 0)
        {
            return;
        }

        (string, object?)[] parameters = [("photos", photos), ("of", pairs.Select(p => p.Photo).ToArray()), ("tags", pairs.Select(p => p.Tag.Value).ToArray()), ("said", Said.Person)];
        await act.RunAsync(
            """
            delete from photo_tag as pt
             where pt.photo = any(@photos)
               and not exists (select from unnest(@of, @tags) as w(photo, tag) where w.photo = pt.photo and w.tag = pt.tag)
            """,
            ct, parameters);
        await act.RunAsync(
            """
            insert into photo_tag (photo, tag, said_by)
            select p.id, w.tag, @said
              from unnest(@of, @tags) as w(photo, tag)
              join photo as p on p.id = w.photo and p.binned is null
             where p.id = any(@photos)
             order by p.id, w.tag
            on conflict (photo, tag) do update set said_by = excluded.said_by where photo_tag.said_by like 'intake:%'
            """,
            ct, parameters);
    }

    /// <summary>The ids of tags that are there, by name.</summary>
    public static async Task<IReadOnlyList<TagId>> FindAsync(Act act, IReadOnlyList<TagName> names, CancellationToken ct) => [.. (await ByKeyAsync(act, names, ct)).Values];

    /// <summary>Throws a tag in the bin; it comes off every photo and is back on them when it comes back.</summary>
    /// <returns>Null when it is not there.</returns>
    public async Task<Done?> RemoveAsync(Actor who, TagId tag, CancellationToken ct)
    {
        var (there, done) = await acts.RunAsync(
            who, ActKind.Binned,
            async act =>
            {
                await using var mark = act.Command("update tag set binned = @now where id = @id and binned is null returning name", ("id", tag.Value), ("now", act.Now));
                if (await mark.ExecuteScalarAsync(ct) is not string name)
                {
                    return act.Drop(false);
                }

                act.Says = _ => ActWords.Binned("tag", name);
                return true;
            },
            ct);
        return there ? done : null;
    }
}

/// <summary>Keeps the words that search looks through in step with the tags.</summary>
internal sealed class TagWords : IActListener
{
    /// <summary>Photos whose tags, or the names of whose tags, the act changed.</summary>
    const string Concerned =
        """
        select thing as photo from act_change where act = @act and kind = 'photo_tag'
        union
        select pt.photo
          from act_change as c
          join photo_tag as pt on pt.tag = c.thing
         where c.act = @act and c.kind = 'tag' and c.after ? 'name' and c.before is not null
        """;

    public async Task FollowAsync(Act act, IReadOnlySet<string> kinds, CancellationToken ct)
    {
        if (!kinds.Contains("photo_tag") && !kinds.Contains("tag"))
        {
            return;
        }

        // In two statements: what is read after the photos are locked is what others have made of their tags meanwhile.
        await act.RunAsync($"select from photo where id in ({Concerned}) order by id for no key update", ct, ("act", act.Id.Value));
        await act.RunAsync(
            $"""
            with words as (
              select c.photo, coalesce(string_agg(t.name, ' ' order by t.key), '') as words
                from ({Concerned}) as c
                left join photo_tag as pt on pt.photo = c.photo
                left join tag as t on t.id = pt.tag
               group by c.photo)
            update photo as p
               set tag_words = w.words
              from words as w
             where p.id = w.photo and p.tag_words <> w.words
            """,
            ct, ("act", act.Id.Value));
    }
}
