using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Acts;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Taxonomy;

/// <summary>A window of all tags by name.</summary>
/// <param name="Total">How many fit what was asked for.</param>
/// <param name="Unused">How many tags nothing has.</param>
/// <param name="Next">Where the next window begins; null when this is the last.</param>
internal sealed record TagWindow(int Total, int Unused, IReadOnlyList<TagLine> Tags, string? Next);

/// <summary>Tags that are likely one, the most used first.</summary>
internal sealed record TagTwinGroup(IReadOnlyList<TagLine> Tags);

/// <summary>How a write to a tag ended.</summary>
internal enum TagOutcome
{
    Written,
    Gone,

    /// <summary>It is called otherwise by now.</summary>
    Stale,

    /// <summary>Another tag is called so.</summary>
    Taken,

    /// <summary>A tag in the bin is called so.</summary>
    TakenInBin,
}

/// <summary>Tags kept in order: renamed, made one, thrown away where nothing has them.</summary>
internal sealed class TagKeeping(NpgsqlDataSource db, ActRunner acts, IndexKeeper keeper)
{
    /// <summary>Tags a window.</summary>
    const int Step = 200;

    /// <summary>More groups than anybody looks through at once.</summary>
    const int MostGroups = 100;

    /// <summary>Tags by name, window by window.</summary>
    /// <param name="after">The name key behind which it begins.</param>
    public async Task<TagWindow> WindowAsync(string? typed, bool unused, string? after, CancellationToken ct)
    {
        var used = (await keeper.CurrentAsync(ct)).Holding(PartKind.Tag);
        var key = TagName.TryParse(typed, out var name) ? name.Key : "";
        (string, object?)[] parameters = [("key", Database.LikeText(key)), ("unused", unused), ("after", after ?? ""), ("most", Step + 1), ("used", used.Keys.ToArray()), ("times", used.Values.ToArray())];
        const string Counted =
            """
            with counted as (
              select t.id, t.name, t.key, coalesce(u.photos, 0) as photos,
                     (select count(*) from album_tag as at where at.tag = t.id)::int as albums
                from tag as t
                left join unnest(@used, @times) as u(tag, photos) on u.tag = t.id
               where t.binned is null)
            """;
        const string Fits = "key like '%' || @key || '%' and (not @unused or photos + albums = 0)";
        await using var command = db.Command($"{Counted} select id, name, key, photos, albums from counted where {Fits} and key > @after order by key limit @most", parameters);
        var found = await command.AllAsync(r => (Line: new TagLine(new TagId(r.Get<Guid>("id")), r.Get<string>("name"), r.Get<int>("photos"), r.Get<int>("albums")), Key: r.Get<string>("key")), ct);
        await using var count = db.Command($"{Counted} select count(*) filter (where {Fits}) as total, count(*) filter (where photos + albums = 0) as unused from counted", parameters);
        var (total, bare) = (await count.FirstAsync(r => Tuple.Create((int)r.Get<long>("total"), (int)r.Get<long>("unused")), ct))!;
        return new TagWindow(total, bare, [.. found.Take(Step).Select(f => f.Line)], found.Count > Step ? found[Step - 1].Key : null);
    }

    /// <summary>Groups of near-twins, those with the most photos first.</summary>
    public async Task<IReadOnlyList<TagTwinGroup>> TwinsAsync(CancellationToken ct)
    {
        var used = (await keeper.CurrentAsync(ct)).Holding(PartKind.Tag);
        await using var command = db.CreateCommand("select id, name from tag where binned is null order by key");
        var all = await command.AllAsync(r => new TagLine(new TagId(r.Get<Guid>("id")), r.Get<string>("name"), used.GetValueOrDefault(r.Get<Guid>("id"))), ct);
        return
        [
            .. TagTwins.Groups(all, t => t.Name).Select(g => new TagTwinGroup([.. g.OrderByDescending(t => t.Photos)]))
                .OrderByDescending(g => g.Tags.Sum(t => t.Photos)).Take(MostGroups),
        ];
    }

    /// <summary>Gives a tag another name.</summary>
    /// <param name="was">What it is called as far as its reader knows.</param>
    public async Task<(TagOutcome Outcome, Done Done)> RenameAsync(Actor who, TagId tag, TagName name, string was, CancellationToken ct) =>
        await acts.RunAsync(
            who, ActKind.RenamedTag,
            async act =>
            {
                // Both the tag and whoever is called so already, in the order of their ids.
                await using var find = act.Command(
                    "select id, name, binned is not null as is_binned from tag where id = @id or key = @key order by id for no key update", ("id", tag.Value), ("key", name.Key));
                var found = await find.AllAsync(r => (Id: new TagId(r.Get<Guid>("id")), Name: r.Get<string>("name"), IsBinned: r.Get<bool>("is_binned")), ct);
                if (found.FirstOrDefault(f => f.Id == tag) is not { Name: not null, IsBinned: false } it)
                {
                    return act.Drop(TagOutcome.Gone);
                }

                if (it.Name != was)
                {
                    return act.Drop(TagOutcome.Stale);
                }

                if (found.FirstOrDefault(f => f.Id != tag) is { Name: not null } taken)
                {
                    return act.Drop(taken.IsBinned ? TagOutcome.TakenInBin : TagOutcome.Taken);
                }

                act.Says = _ => ActWords.RenamedTag(was, name.Text);
                await act.RunAsync("update tag set name = @name, key = @key where id = @id", ct, ("id", tag.Value), ("name", name.Text), ("key", name.Key));
                return TagOutcome.Written;
            },
            ct);

    /// <summary>Makes several tags one: their photos have the one that stays, and whatever names them names it.</summary>
    /// <returns>Null when it, or all others, are gone.</returns>
    public async Task<Done?> MergeAsync(Actor who, TagId stays, IReadOnlyList<TagId> others, CancellationToken ct)
    {
        var (there, done) = await acts.RunAsync(
            who, ActKind.MergedTags,
            async act =>
            {
                await using var find = act.Command(
                    "select id, name from tag where (id = @stays or id = any(@others)) and binned is null order by id for no key update", ("stays", stays.Value), ("others", others.Values()));
                var found = await find.AllAsync(r => (Id: r.Get<Guid>("id"), Name: r.Get<string>("name")), ct);
                var gone = found.Where(f => f.Id != stays.Value).ToArray();
                if (gone.Length == 0 || gone.Length == found.Count)
                {
                    return act.Drop(false);
                }

                act.Says = tally => ActWords.MergedTags([.. gone.Select(g => g.Name)], found.First(f => f.Id == stays.Value).Name, tally);
                (string, object?)[] parameters = [("stays", stays.Value), ("gone", gone.Select(g => g.Id).ToArray()), ("now", act.Now)];
                foreach (var kind in (string[])["album", "photo"])
                {
                    await act.RunAsync($"select from {kind} where id in (select {kind} from {kind}_tag where tag = any(@gone)) order by id for no key update", ct, parameters);
                    await act.RunAsync(
                        $"""
                        insert into {kind}_tag ({kind}, tag, said_by)
                        select g.{kind}, @stays, min(g.said_by)
                          from {kind}_tag as g
                         where g.tag = any(@gone)
                         group by g.{kind}
                         order by g.{kind}
                        on conflict do nothing
                        """,
                        ct, parameters);
                    // Taken off, so that nothing comes back with a name that somebody types again.
                    await act.RunAsync($"delete from {kind}_tag where tag = any(@gone)", ct, parameters);
                }

                await act.RunAsync("update tag set binned = @now where id = any(@gone)", ct, parameters);
                act.Replaced = ([.. gone.Select(g => g.Id)], stays.Value);
                await act.ReplaceAsync("narrowing", "search", "version = version + 1", ct);
                return true;
            },
            ct);
        return there ? done : null;
    }

    /// <summary>Throws away the tags that no photo and no album has.</summary>
    public async Task<(int Count, Done Done)> DropUnusedAsync(Actor who, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.Binned,
        async act =>
        {
            await using var drop = act.Command(
                """
                with bare as (
                  select t.id
                    from tag as t
                   where t.binned is null and not exists (select from photo_tag as pt where pt.tag = t.id)
                     and not exists (select from album_tag as at where at.tag = t.id)
                   order by t.id
                     for no key update)
                update tag as t
                   set binned = @now
                  from bare as b
                 where t.id = b.id
                returning t.name
                """,
                ("now", act.Now));
            var names = await drop.AllAsync(r => r.GetString(0), ct);
            if (names.Count == 0)
            {
                return act.Drop(0);
            }

            act.Says = _ => ActWords.BinnedTags([.. names.Order(StringComparer.OrdinalIgnoreCase)]);
            return names.Count;
        },
        ct);
}
