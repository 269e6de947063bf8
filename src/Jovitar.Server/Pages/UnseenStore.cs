using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Pages;

/// <summary>A photo among those of which the same is true, of which there is a picture.</summary>
internal sealed record UnseenPhoto(PhotoId Id, string Picture, string Name);

/// <summary>Photos of which the same is true.</summary>
/// <param name="Said">What, as a sentence.</param>
/// <param name="Photos">Some of them; none where there are no pictures of them yet.</param>
internal sealed record UnseenPhotos(int Count, string Said, IReadOnlyList<UnseenPhoto> Photos);

/// <summary>Which of the photos that stand on a page's draft visitors will not see, however they come to it.</summary>
/// <param name="All">How many photos stand on it: in its albums, and by themselves.</param>
/// <param name="Hidden">No visitor sees these.</param>
/// <param name="ForSome">Some visitors see these.</param>
internal sealed record PageUnseen(int All, IReadOnlyList<UnseenPhotos> Hidden, IReadOnlyList<UnseenPhotos> ForSome);

/// <summary>Says before it is so what visitors will see of a page, by the one decision.</summary>
internal sealed class UnseenStore(NpgsqlDataSource db, AccessStore access, SightStore sights)
{
    /// <summary>So many of each are shown.</summary>
    const int MostShown = 8;

    /// <summary>Photos of the page of whom the decision is the same.</summary>
    /// <param name="Some">The first of them.</param>
    /// <param name="Albums">Those that they stand in, where not one of them lets everyone in.</param>
    sealed record Standing(int Count, IReadOnlyList<UnseenPhoto> Some, PhotoThing Thing, Guid[] Albums);

    /// <returns>Null when there is no such page.</returns>
    public async Task<PageUnseen?> OfAsync(PageId page, CancellationToken ct)
    {
        await using var find = db.Command("select 1 from page where id = @page and binned is null", ("page", page.Value));
        if (await find.ExecuteScalarAsync(ct) is null)
        {
            return null;
        }

        var (everyone, now) = (await sights.EveryoneAsync(ct), access.Now);
        await using var command = db.Command(
            $$"""
            with things as (
              select thing from page_thing where page = @page and not live and shows),
            stands as (
              select ap.photo, a.id as album, a.shown, a.shown and {{AccessStore.LetsIn("a")}} as is_open
                from album as a
                join album_photo as ap on ap.album = a.id
               where a.id in (select thing from things) and a.binned is null
              union all
              select id, null, true, true from photo where id in (select thing from things) and binned is null),
            each as (
              select photo, bool_or(shown) as shown, bool_or(is_open) as is_open,
                     array_remove(array_agg(album order by album), null) as albums
                from stands
               group by photo)
            select count(*)::int as photos, e.shown, e.is_open, case when e.is_open then '{}' else e.albums end as behind,
                   (array_agg(p.id order by p.taken, p.id))[:@most] as ids,
                   (array_agg(p.picture order by p.taken, p.id))[:@most] as pictures,
                   (array_agg(coalesce(nullif(p.title, ''), p.file_name) order by p.taken, p.id))[:@most] as names,
                   {{AccessStore.PhotoColumns}}
              from each as e
              join photo as p on p.id = e.photo
             group by e.shown, e.is_open, behind, {{AccessStore.PhotoGroups}}
            """,
            ("page", page.Value), ("shut", everyone.Shut), ("most", MostShown));
        var all = await command.AllAsync(r => Read(r, everyone), ct);
        // Whom every gate lets in comes also to what is behind gates alone.
        Decision Somebody(Standing s) => Core.Access.Access.Decide(Viewer.Somebody, Right.See, s.Thing.On.Shut > 0 ? s.Thing with { On = new ShownOn(1) } : s.Thing, now);
        var hidden = all.ToLookup(s => !Somebody(s).Allowed);
        var some = hidden[false].Where(s => !access.May(Viewer.Nobody, Right.See, s.Thing)).ToArray();
        var albums = await GatesAsync([.. some.SelectMany(s => s.Albums).Distinct()], everyone, ct);
        Gate[] Gates(Standing s) =>
        [
            .. s.Thing.Gates.Concat(s.Albums.SelectMany(a => albums[a]))
                .Where(g => !g.LetsIn(Viewer.Nobody, now))
                .DistinctBy(g => g.Thing)
                .OrderBy(g => g.Kind, StringComparer.Ordinal).ThenBy(g => g.Name, StringComparer.Ordinal),
        ];
        var behind = some.ToLookup(s => string.Join(' ', Gates(s).Select(g => g.Thing)));
        return new PageUnseen(
            all.Sum(s => s.Count),
            Alike(hidden[true].GroupBy(s => Somebody(s).Reasons[0]), UnseenWords.Said),
            Alike(behind, (key, photos) => UnseenWords.ForSome(Gates(behind[key].First()), photos, now)));
    }

    static IReadOnlyList<UnseenPhotos> Alike<T>(IEnumerable<IGrouping<T, Standing>> photos, Func<T, int, string> said) =>
    [
        .. photos
            .Select(same => (same.Key, Count: same.Sum(s => s.Count), Some: same.Where(s => s.Thing.State == PhotoState.Ready).SelectMany(s => s.Some).Take(MostShown)))
            .Select(same => new UnseenPhotos(same.Count, said(same.Key, same.Count), [.. same.Some]))
            .OrderByDescending(u => u.Count),
    ];

    /// <summary>What stands in an album in view, or by itself, is on the page for whom its gates and those of its albums let in.</summary>
    static Standing Read(NpgsqlDataReader r, Sight everyone)
    {
        var (isShown, isOpen) = (r.Get<bool>("shown"), r.Get<bool>("is_open"));
        var on = !isShown ? new ShownOn(0, OutOfView: 1) : isOpen ? new ShownOn(1) : new ShownOn(0, Shut: 1);
        var (ids, pictures, names) = (r.Get<Guid[]>("ids"), r.Get<string[]>("pictures"), r.Get<string[]>("names"));
        return new Standing(r.Get<int>("photos"), [.. ids.Select((id, i) => new UnseenPhoto(new PhotoId(id), pictures[i], names[i]))], AccessStore.Photo(r, on, everyone.Gates), r.Get<Guid[]>("behind"));
    }

    /// <summary>The gates of albums.</summary>
    async Task<ILookup<Guid, Gate>> GatesAsync(Guid[] albums, Sight everyone, CancellationToken ct)
    {
        await using var command = db.Command($"select a.id, {AccessStore.AlbumGates("a")} as gates from album as a where a.id = any(@albums)", ("albums", albums));
        return (await command.AllAsync(r => (Album: r.Get<Guid>("id"), Gates: everyone.Gates.Of(r.Get<Guid[]>("gates"))), ct)).SelectMany(a => a.Gates.Select(g => (a.Album, Gate: g))).ToLookup(a => a.Album, a => a.Gate);
    }
}
