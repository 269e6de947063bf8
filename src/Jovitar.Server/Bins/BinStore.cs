using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Bins;

/// <summary>Something in the bin.</summary>
/// <param name="Kind">photo, file, album, category, tag or page.</param>
/// <param name="Photos">How many photos it takes back with it: an album's, a category's, a tag's.</param>
/// <param name="Along">How many things went with it: an album's page, categories beneath.</param>
/// <param name="Picture">To know it by, where there is one.</param>
internal sealed record BinnedThing(string Kind, Guid Id, string Name, int Photos, int Along, string? Picture, int Width, int Height, DateTimeOffset Binned, string BinnedBy);

/// <summary>A thing by its kind and id.</summary>
public sealed record ThingKey(string Kind, Guid Id);

/// <summary>What was thrown away waits here whole, until it is taken back or the bin is emptied.</summary>
internal sealed class BinStore(NpgsqlDataSource db, ActRunner acts, Originals originals)
{
    /// <summary>The kinds that go into the bin, in the order in which rows are locked.</summary>
    public static readonly IReadOnlyList<string> Kinds = ["tag", "category", "album", "photo", "file", "page"];

    /// <summary>Throws photos and files into the bin.</summary>
    public async Task<Done> ThrowAsync(Actor who, IReadOnlyList<PhotoId> photos, IReadOnlyList<FileId> files, CancellationToken ct)
    {
        var (_, done) = await acts.RunAsync(
            who, ActKind.Binned,
            async act =>
            {
                var (thrown, names) = await ThrowAsync(act, photos, files, ct);
                act.Says = _ => ActWords.Binned(back: false, thrown, names);
                return true;
            },
            ct);
        return done;
    }

    /// <summary>The same within another act.</summary>
    /// <returns>How many photos were not in it already, and what the files are called.</returns>
    public static async Task<(int Photos, IReadOnlyList<string> Files)> ThrowAsync(Act act, IReadOnlyList<PhotoId> photos, IReadOnlyList<FileId> files, CancellationToken ct)
    {
        // Categories whose cover goes are locked before albums, as everywhere.
        await act.RunAsync("select from category where cover = any(@photos) order by id for no key update", ct, ("photos", photos.Values()));
        await LockAlbumsOfAsync(act, photos, files, ct);
        await act.LockAsync("photo", photos.Values(), ct);
        var thrown = await act.RunAsync("update photo set binned = @now, claimed_until = null where id = any(@ids) and binned is null", ct, ("ids", photos.Values()), ("now", act.Now));
        await act.LockAsync("file", files.Values(), ct);
        await using var mark = act.Command("update file set binned = @now where id = any(@ids) and binned is null returning file_name", ("ids", files.Values()), ("now", act.Now));
        return (thrown, await mark.AllAsync(r => r.GetString(0), ct));
    }

    /// <summary>Albums are locked before what stands in them.</summary>
    static Task<int> LockAlbumsOfAsync(Act act, IReadOnlyList<PhotoId> photos, IReadOnlyList<FileId> files, CancellationToken ct) => act.RunAsync(
        """
        select from album
         where id in (
           select ap.album from album_photo as ap where ap.photo = any(@photos)
           union select af.album from album_file as af where af.file = any(@files)
           union select h.thing from held as h where h.other = any(@photos) or h.other = any(@files))
            or cover = any(@photos)
         order by id
           for no key update
        """,
        ct, ("photos", photos.Values()), ("files", files.Values()));

    /// <summary>A page stands on an album: they come back together.</summary>
    static async Task<IReadOnlyList<Guid>> AlbumsOfPagesAsync(Act act, Guid[] pages, CancellationToken ct)
    {
        await using var command = act.Command("select album from page where id = any(@pages) and album is not null", ("pages", pages));
        return await command.AllAsync(r => r.GetGuid(0), ct);
    }

    /// <summary>Takes things back out of the bin, to where they stood.</summary>
    public async Task<Done> RestoreAsync(Actor who, IReadOnlyList<ThingKey> things, CancellationToken ct)
    {
        var (_, done) = await acts.RunAsync(
            who, ActKind.Restored,
            async act =>
            {
                var names = new List<string>();
                var photos = 0;
                var all = things.Select(t => t.Id).Distinct().ToArray();
                if (Ids(things, "category").Length > 0)
                {
                    await act.RunAsync(CategoryStore.LockTree, ct);
                }

                foreach (var kind in Kinds)
                {
                    await act.LockBackAsync(kind, kind == "album" ? [.. Ids(things, kind), .. await AlbumsOfPagesAsync(act, Ids(things, "page"), ct)] : Ids(things, kind), all, ct);
                }

                foreach (var kind in Kinds)
                {
                    var ids = Ids(things, kind);
                    if (ids.Length == 0)
                    {
                        continue;
                    }

                    var back = await UnmarkAsync(act, kind, ids, ct);
                    photos += kind == "photo" ? back.Count : 0;
                    names.AddRange(kind == "photo" ? [] : back);
                }

                act.Says = _ => ActWords.Binned(back: true, photos, names);
                return true;
            },
            ct);
        return done;
    }

    static Guid[] Ids(IReadOnlyList<ThingKey> things, string kind) => [.. things.Where(t => t.Kind == kind).Select(t => t.Id).Distinct()];

    /// <summary>Takes the mark off things in the bin; all that hangs on them follows (<see cref="BinListener"/>).</summary>
    public static async Task<IReadOnlyList<string>> UnmarkAsync(Act act, string kind, IReadOnlyList<Guid> ids, CancellationToken ct)
    {
        if (Addresses.Kinds.Contains(kind))
        {
            await Addresses.FreeThoseBackAsync(act, kind, ids, ct);
        }

        await using var unmark = act.Command($"update {kind} as t set binned = null where id = any(@ids) and binned is not null returning {ActUndo.NameOf(kind)}", ("ids", ids.ToArray()));
        return await unmark.AllAsync(r => r.MaybeText(0) ?? "", ct);
    }

    /// <summary>How many things lie in the bin on their own account.</summary>
    /// <param name="only">Of these photos alone; null for everything.</param>
    public async Task<int> CountAsync(DateTimeOffset until, IReadOnlyList<Guid>? only, CancellationToken ct)
    {
        await using var command = db.Command(
            $"select count(*) from bin where within is null and binned <= @until {Only(only)}", ("until", until), ("only", only?.ToArray()));
        return (int)(long)(await command.ExecuteScalarAsync(ct))!;
    }

    /// <summary>Limits what lies in the bin to some photos.</summary>
    static string Only(IReadOnlyList<Guid>? only) => only is null ? "and @only::uuid[] is null" : "and kind = 'photo' and thing = any(@only)";

    /// <summary>What lies in the bin up to a time, the latest first, after one of them.</summary>
    /// <param name="only">Of these photos alone; null for everything.</param>
    public async Task<IReadOnlyList<BinnedThing>> ListAsync(DateTimeOffset until, Guid? after, IReadOnlyList<Guid>? only, int most, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            with here as (
              select kind, thing, binned, binned_by
                from bin
               where within is null and binned <= @until {Only(only)}
                 and (@after::uuid is null or (binned, thing) < (select b.binned, b.thing from bin as b where b.thing = @after::uuid
                   limit 1))
               order by binned desc, thing desc
               limit @most)
            select h.kind, h.thing, h.binned, h.binned_by,
                   coalesce(nullif(p.title, ''), p.file_name, f.file_name, a.working_name, c.name, t.name, page_title(pg.draft),
                     '') as name,
                   case
                     when h.kind = 'album' then (select count(*) from held as x where x.kind = 'album_photo' and x.thing = h.thing)
                     when h.kind in ('category', 'tag') then (select count(*) from held as x where x.other = h.thing)
                     else 0 end as photos,
                   (select count(*) from bin as w where w.within = h.thing) as along,
                   k.picture, coalesce(k.width, 0) as width, coalesce(k.height, 0) as height
              from here as h
              left join photo as p on h.kind = 'photo' and p.id = h.thing
              left join file as f on h.kind = 'file' and f.id = h.thing
              left join album as a on h.kind = 'album' and a.id = h.thing
              left join category as c on h.kind = 'category' and c.id = h.thing
              left join tag as t on h.kind = 'tag' and t.id = h.thing
              left join page as pg on h.kind = 'page' and pg.id = h.thing
              left join lateral (
                select q.picture, q.width, q.height
                  from photo as q
                 where q.stage > 0
                   and q.id = coalesce(
                     p.id, a.cover,
                     case when h.kind = 'album' then (select x.other from held as x where x.kind = 'album_photo' and x.thing = h.thing
                       order by (x.value ->> 'place')::bigint limit 1) end,
                     case when h.kind in ('category', 'tag') then (select x.thing from held as x where x.other = h.thing limit 1) end,
                     case when h.kind = 'page' then (select coalesce(ap.photo, pt.thing)
                       from page_thing as pt
                       left join album_photo as ap on pt.kind = 'album' and ap.album = pt.thing
                      where pt.page = pg.id and not pt.live and pt.shows and (pt.kind = 'photo' or ap.photo is not null)
                      order by pt.place, ap.place, ap.photo limit 1) end)) as k on true
             order by h.binned desc, h.thing desc
            """,
            ("until", until), ("after", after), ("only", only?.ToArray()), ("most", most));
        return await command.AllAsync(
            r => new BinnedThing(
                r.Get<string>("kind"), r.Get<Guid>("thing"), r.Get<string>("name"), (int)r.Get<long>("photos"), (int)r.Get<long>("along"), r.MaybeText("picture"), r.Get<int>("width"), r.Get<int>("height"),
                r.Get<DateTimeOffset>("binned"), r.Get<string>("binned_by")),
            ct);
    }

    /// <summary>Removes for good what lay in the bin at a time: the only act that removes originals. What came after stays, and so do photos that orders still need.</summary>
    /// <returns>How many things were removed, those counted that lay there on their own account, and how many photos orders need.</returns>
    public async Task<BinEmptied> EmptyAsync(Actor who, DateTimeOffset until, CancellationToken ct)
    {
        var hashes = new List<byte[]>();
        var (emptied, _) = await acts.RunAsync(
            who, ActKind.Emptied,
            async act =>
            {
                hashes.Clear();
                var (locked, _) = await LyingAsync(act, until, ct);
                foreach (var kind in Kinds)
                {
                    await act.LockAsync(kind, locked.Where(t => t.Kind == kind).Select(t => t.Id), ct);
                }

                // Whatever was taken back while its row was waited for is not removed, nor anything that hangs on it forgotten.
                var (lying, needed) = await LyingAsync(act, until, ct);
                var things = lying.Intersect(locked).ToList();
                if (things.Count == 0)
                {
                    return act.Drop(new BinEmptied(0, needed));
                }

                var ids = things.Select(t => t.Id).ToArray();
                await ForgetAsync(act, ids, ct);
                foreach (var kind in (string[])["page", "file", "photo", "album", "category", "tag"])
                {
                    var own = things.Where(t => t.Kind == kind).Select(t => t.Id).ToArray();
                    await using var gone = act.Command($"delete from {kind} where id = any(@ids) and binned is not null returning {(kind is "photo" or "file" ? "hash" : "null::bytea")}", ("ids", own));
                    hashes.AddRange((await gone.AllAsync(r => r.IsDBNull(0) ? null : r.GetFieldValue<byte[]>(0), ct)).OfType<byte[]>());
                }

                await originals.DoubtAsync(act, hashes, ct);
                await act.RunAsync("delete from bin where thing = any(@ids)", ct, ("ids", ids));
                // What is removed for good is not kept in the record either, nor what noting its removal has just written there.
                await act.RunAsync("delete from act_change where thing = any(@ids) or other = any(@ids) or act = @act", ct, ("ids", ids), ("act", act.Id.Value));
                var removed = things.Count(t => t.Own);
                act.IsKept = true;
                act.Says = _ => $"Emptied the bin: {ActWords.Things(removed, "thing", "things")} removed for good.";
                return new BinEmptied(removed, needed);
            },
            ct);
        await originals.ResolveAsync(hashes, ct);
        return emptied;
    }

    /// <summary>What lies in the bin at a time and is not needed any more, Own on its own account; and how many photos are.</summary>
    static async Task<(List<(string Kind, Guid Id, bool Own)> Things, int Needed)> LyingAsync(Act act, DateTimeOffset until, CancellationToken ct)
    {
        await using var find = act.Command("select kind, thing, within is null as own from bin where binned <= @until", ("until", until));
        var all = await find.AllAsync(r => (Kind: r.Get<string>("kind"), Id: r.Get<Guid>("thing"), Own: r.Get<bool>("own")), ct);
        var needed = await NeededStore.AmongAsync(act, [.. all.Where(t => t.Kind == "photo").Select(t => t.Id)], ct);
        return ([.. all.Where(t => !needed.Contains(t.Id))], needed.Count);
    }

    /// <summary>Lets go of all that still points at what is removed.</summary>
    static async Task ForgetAsync(Act act, Guid[] ids, CancellationToken ct)
    {
        await act.RunAsync("delete from held where thing = any(@ids) or other = any(@ids)", ct, ("ids", ids));
        await act.RunAsync("update intake set album = null where album = any(@ids)", ct, ("ids", ids));
        await act.RunAsync("update page set album = null where album = any(@ids)", ct, ("ids", ids));
        await act.RunAsync(
            "update intake_file set outcome = 'dropped' where photo = any(@ids) or file = any(@ids)", ct, ("ids", ids));
        await act.RunAsync("update category set parent = null where parent = any(@ids) and id <> all(@ids)", ct, ("ids", ids));
        await act.RunAsync("delete from former_address where thing = any(@ids)", ct, ("ids", ids));
        await act.RunAsync("delete from shown_version where thing = any(@ids)", ct, ("ids", ids));
        await act.RunAsync("delete from view_day where thing = any(@ids)", ct, ("ids", ids));
    }
}
