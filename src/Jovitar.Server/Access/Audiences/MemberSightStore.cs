using Jovitar.Core.Access;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access.Audiences;

/// <summary>What may be for some alone.</summary>
public enum GuardedKind
{
    Page,
    Album,
    Category,
}

/// <summary>Something that is not for everyone, before a member.</summary>
/// <param name="Photos">How many photos an album holds; null for what is none.</param>
/// <param name="Seen">So many of them they can see in it.</param>
/// <param name="Why">Why they do not see it, a sentence each; empty where they do.</param>
internal sealed record ThingBefore(GuardedKind Kind, Guid Id, string Name, int? Photos, int? Seen, IReadOnlyList<string> Why);

/// <summary>What a member can see, beside what everyone can.</summary>
/// <param name="Things">A window of all that is not for everyone, by name.</param>
/// <param name="All">How much of it there is.</param>
internal sealed record MemberSight(string Name, IReadOnlyList<ThingBefore> Things, int All);

/// <summary>Says what a member can see, by the one decision.</summary>
internal sealed class MemberSightStore(NpgsqlDataSource db, AccessStore access, SightStore sights)
{
    /// <summary>All that stands behind a gate, can be come upon behind one, or holds photos that are for some alone.</summary>
    static readonly string Guarded =
        $$"""
        select 'page' as kind, id, page_title(coalesce(published, draft)) as name from page where is_gate and binned is null
        union all
        select 'category', id, name from category where gates <> '{}' and binned is null
        union all
        select 'album', a.id, a.working_name
          from album as a
         where a.binned is null and (
           a.is_gate or {{AccessStore.AlbumWays("a")}} <> '{}' or exists (
             select from album_category as gc
               join category as g on g.id = gc.category and g.gates <> '{}'
              where gc.album = a.id) or a.id in (
             -- Found once for all albums, from the photos: there are few of those.
             select ap.album
               from photo as p
               join album_photo as ap on ap.photo = p.id
              where p.own_gate is not null))
        """;

    /// <returns>Null when there is no such member.</returns>
    public async Task<MemberSight?> OfAsync(Guid member, int from, int count, CancellationToken ct)
    {
        await using var find = db.Command(
            """
            select name, array(select m."group" from member_of as m where m.account = a.id) as groups
              from account as a
             where id = @member and role = 'Member'
            """,
            ("member", member));
        if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("name"), r.Get<Guid[]>("groups")), ct) is not var (called, groups))
        {
            return null;
        }

        var (everyone, now) = (await sights.EveryoneAsync(ct), access.Now);
        var sight = Sight.Of(Alike.Member(member, groups), everyone.Gates, now, everyone);
        await using var list = db.Command(
            $"""
            select kind, id, name, count(*) over ()::int as all
              from ({Guarded}) as g
             order by lower(name), id
            offset @from
             limit @count
            """,
            ("from", from), ("count", count));
        var window = await list.AllAsync(r => (Kind: Enum.Parse<GuardedKind>(r.Get<string>("kind"), ignoreCase: true), Id: r.Get<Guid>("id"), Name: r.Get<string>("name"), All: r.Get<int>("all")), ct);
        var why = new Dictionary<Guid, IReadOnlyList<string>>();
        foreach (var same in window.GroupBy(t => t.Kind))
        {
            foreach (var (id, against) in await WhyAsync(same.Key, [.. same.Select(t => t.Id)], sight, now, ct))
            {
                why[id] = against;
            }
        }

        // What somebody put into the bin since is no more.
        var there = window.Where(t => why.ContainsKey(t.Id)).ToArray();
        var photos = await PhotosAsync([.. there.Where(t => t.Kind == GuardedKind.Album).Select(t => t.Id)], sight, ct);
        return new MemberSight(
            called,
            [
                .. there.Select(t => t.Kind == GuardedKind.Album && photos.GetValueOrDefault(t.Id) is var (all, seen)
                    ? new ThingBefore(t.Kind, t.Id, t.Name, all, why[t.Id].Count == 0 ? seen : 0, why[t.Id])
                    : new ThingBefore(t.Kind, t.Id, t.Name, null, null, why[t.Id])),
            ],
            window is [var first, ..] ? first.All : 0);
    }

    async Task<IReadOnlyList<(Guid Id, IReadOnlyList<string> Why)>> WhyAsync(GuardedKind of, Guid[] ids, Sight sight, DateTimeOffset now, CancellationToken ct)
    {
        var kind = of.ToString().ToLowerInvariant();
        var ways = of == GuardedKind.Album ? AccessStore.AlbumWays("t") : "'{}'::uuid[]";
        await using var command = db.Command(
            $"""
            select t.id, {ways} as ways, {AccessStore.ThingColumns(kind)}
              from {AudienceStore.TableOf(kind)} as t
             {AccessStore.ThingJoins(kind)}
             where t.id = any(@ids) and t.binned is null
            """,
            ("ids", ids), ("shut", sight.Shut));
        return await command.AllAsync(
            r => (r.Get<Guid>("id"), AudienceLine.WhyNot(sight.Viewer, AccessStore.ThingOf(kind, r, sight.Gates), now, sight.Gates.Of([.. r.Get<Guid[]>("ways").Intersect(sight.Shut)]))), ct);
    }

    /// <summary>How many photos albums hold, and how many of them somebody sees there who sees the album.</summary>
    async Task<Dictionary<Guid, (int All, int Seen)>> PhotosAsync(Guid[] albums, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select ap.album, count(*)::int as photos, {AccessStore.PhotoColumns}
              from album_photo as ap
              join photo as p on p.id = ap.photo
             where ap.album = any(@albums)
             group by ap.album, {AccessStore.PhotoGroups}
            """,
            ("albums", albums));
        var alike = await command.AllAsync(r => (Album: r.Get<Guid>("album"), Photos: r.Get<int>("photos"), Seen: access.May(sight.Viewer, Right.See, AccessStore.Photo(r, new ShownOn(1), sight.Gates))), ct);
        return alike.GroupBy(a => a.Album).ToDictionary(a => a.Key, a => (a.Sum(p => p.Photos), a.Where(p => p.Seen).Sum(p => p.Photos)));
    }
}
