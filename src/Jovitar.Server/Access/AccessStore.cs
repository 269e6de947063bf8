using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Clearance;
using Jovitar.Core.Comments;
using Jovitar.Core.Corrections;
using Jovitar.Core.Photos;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access;

/// <summary>A photo as a picture of its original.</summary>
/// <param name="Original">Its size, upright, pixels.</param>
internal sealed record PictureThing(PhotoThing Thing, Correction Correction, PixelSize Original);

/// <summary>A photo, with the line of its clearance.</summary>
internal sealed record ClearedPhoto(PhotoThing Thing, ClearanceLine Clearance);

/// <summary>Loads what the decision who may see depends on: the one place where it is read.</summary>
internal sealed class AccessStore(NpgsqlDataSource db, TimeProvider clock)
{
    /// <summary>The columns a photo's part of the decision rests on, of a photo called <c>p</c>; read by <see cref="Photo"/>.</summary>
    public const string PhotoColumns =
        """
        p.state, p.decision, p.binned is not null as is_binned,
          p.clearance, p.cleared_until, p.people_say, p.people_until, (select clearance_needed from site) as clearance_needed,
          array(
            select p.own_gate where p.own_gate is not null
             union
            select unnest(g.gates)
              from photo_category as gc
              join category as g on g.id = gc.category and g.gates <> '{}'
             where gc.photo = p.id
             order by 1) as gates
        """;

    /// <summary>
    /// What has a photo called <c>p</c> with the watermark, or reserves something of it, of <c>@marking</c>, as an array; read by
    /// <see cref="Marked"/>. It costs nothing for those who get everything without, and of whom nothing is kept.
    /// </summary>
    public const string MarkColumn =
        """
        case when cardinality(@marking::uuid[]) = 0 then '{}'::uuid[] else array(
            select ap.album from album_photo as ap where ap.photo = p.id and ap.album = any(@marking)
             union
            select unnest(g.marks)
              from photo_category as gc
              join category as g on g.id = gc.category and g.marks && @marking
             where gc.photo = p.id
             union
            select unnest(g.marks)
              from album_photo as ap
              join album_category as gc on gc.album = ap.album
              join category as g on g.id = gc.category and g.marks && @marking
             where ap.photo = p.id) end as marks
        """;

    /// <summary>What photos have in common of whom the decision is the same; grouped by, where <see cref="PhotoColumns"/> are selected.</summary>
    public const string PhotoGroups = "p.state, p.decision, p.binned is not null, p.clearance, p.cleared_until, p.people_say, p.people_until, gates";

    /// <summary>The condition that an album called <c>oa</c> stands in a category that is in view: then it has a page by itself while it is shown.</summary>
    public const string StandsInView =
        "exists (select from album_category as ac join category as c on c.id = ac.category where ac.album = oa.id and c.in_view)";

    /// <summary>The gates that an album stands behind, as an array: its own, and those of all categories that it stands in.</summary>
    /// <param name="album">What the album is called.</param>
    public static string AlbumGates(string album) =>
        $$"""
        array(
          select {{album}}.id where {{album}}.is_gate
          union
          select unnest(g.gates)
            from album_category as gc
            join category as g on g.id = gc.category and g.gates <> '{}'
           where gc.album = {{album}}.id)
        """;

    /// <summary>What may reserve something of an album, as an array: itself, and all categories that it stands in.</summary>
    /// <param name="album">What the album is called.</param>
    public static string AlbumReserves(string album) =>
        $$"""
        array(
          select {{album}}.id where {{album}}.reserves <> '{}'
          union
          select unnest(g.marks)
            from album_category as gc
            join category as g on g.id = gc.category and g.marks <> '{}'
           where gc.album = {{album}}.id)
        """;

    /// <summary>Whether an album is for everyone with its link, as the column <c>by_link</c>.</summary>
    /// <param name="album">What the album is called.</param>
    public static string ByLink(string album) => $"{album}.audience = 'WithLink' as by_link";

    /// <summary>The columns of <see cref="On"/> for what stands nowhere.</summary>
    const string Nowhere = "0 as on_pages, 0 as on_drafts, 0 as on_own, 0 as out_of_view, 0 as on_shut";

    /// <summary>The gates of the pages that show an album, as an array.</summary>
    /// <param name="album">What the album is called.</param>
    public static string AlbumWays(string album) =>
        $"""
        array(
          select distinct gp.id
            from page_thing as gt
            join page as gp on gp.id = gt.page and gp.binned is null and gp.is_gate
           where gt.live and gt.shows and gt.thing = {album}.id)
        """;

    /// <summary>The condition that the gates of an album let those in whom <c>@shut</c> does not keep out.</summary>
    /// <param name="album">What the album is called.</param>
    public static string LetsIn(string album) =>
        $"""
        ({album}.id <> all(@shut) and not exists (
                   select from album_category as gc
                     join category as g on g.id = gc.category and g.gates && @shut
                    where gc.album = {album}.id))
        """;

    /// <summary>Where what stands in albums is shown to those whom the gates <c>@shut</c> keep out; joined behind the condition which albums, called <c>oa</c>, that are.</summary>
    public static readonly string ShownOnOfAlbums =
        $"""
        select coalesce(sum(pages.published) filter (where oa.shown and lets.in), 0)::int as on_pages,
               coalesce(sum(pages.drafts) filter (where oa.shown), 0)::int as on_drafts,
               (count(*) filter (where oa.shown and lets.in and {StandsInView}))::int as on_own,
               (count(*) filter (where not oa.shown))::int as out_of_view,
               (coalesce(sum(pages.shut) filter (where oa.shown), 0)
                 + coalesce(sum(pages.published) filter (where oa.shown and not lets.in), 0)
                 + count(*) filter (where oa.shown and not lets.in and {StandsInView}))::int as on_shut
          from album as oa
         cross join lateral (select {LetsIn("oa")} as in) as lets
         cross join lateral (
           select count(*) filter (where pt.live and pg.id <> all(@shut)) as published,
                  count(*) filter (where pt.live and pg.id = any(@shut)) as shut,
                  count(distinct pt.page) - count(*) filter (where pt.live) as drafts
             from page_thing as pt
             join page as pg on pg.id = pt.page and pg.binned is null
            where pt.thing = oa.id and pt.shows) as pages
         where oa.binned is null
        """;

    public DateTimeOffset Now => clock.GetUtcNow();

    /// <summary>Of the watermark that a viewer gets a photo with, its key; empty where they get it without.</summary>
    public string MarkOf(PhotoThing photo, Sight sight) => sight.Marking.Length == 0 || May(sight.Viewer, Right.SeeUnmarked, photo) ? "" : sight.Gates.Marks.Key;

    /// <summary>The columns that <see cref="ThingOf"/> reads of a page, an album or a category called <c>t</c>, always in the same order.</summary>
    /// <param name="kind">"page", "album" or "category".</param>
    public static string ThingColumns(string kind) => kind switch
    {
        "page" => $"t.binned is not null as is_binned, t.published is not null as published, false as in_view, array(select t.id where t.is_gate) as gates, '{{}}'::uuid[] as reserves, false as by_link, {Nowhere}",
        "album" => $"t.binned is not null as is_binned, false as published, false as in_view, {AlbumGates("t")} as gates, {AlbumReserves("t")} as reserves, {ByLink("t")}, pages.*",
        _ => $"t.binned is not null as is_binned, false as published, t.in_view, t.gates, '{{}}'::uuid[] as reserves, false as by_link, {Nowhere}",
    };

    /// <summary>What is joined to it for those columns.</summary>
    public static string ThingJoins(string kind) => kind == "album" ? $"cross join lateral ({ShownOnOfAlbums} and oa.id = t.id) as pages" : "";

    /// <summary>Reads a page, an album or a category as the decision has it.</summary>
    public static Thing ThingOf(string kind, NpgsqlDataReader r, GateList all)
    {
        var (isBinned, gates) = (r.Get<bool>("is_binned"), all.Of(r.Get<Guid[]>("gates")));
        return kind switch
        {
            "page" => new PageThing(isBinned, r.Get<bool>("published"), Changed: false) { Gates = gates },
            "album" => new AlbumThing(isBinned, On(r)) { Gates = gates, Reserves = all.Reserves.Of(r.Get<Guid[]>("reserves")), ByLinkAlone = r.Get<bool>("by_link") },
            _ => new CategoryThing(isBinned, r.Get<bool>("in_view")) { Gates = gates },
        };
    }

    /// <summary>Reads a photo's part from a row with <see cref="PhotoColumns"/>.</summary>
    public static PhotoThing Photo(NpgsqlDataReader r, ShownOn on, GateList gates) =>
        new(State(r.Get<string>("state")), r.Get<string>("decision") == Decisions.LeaveOut, r.Get<bool>("is_binned"), on, Clearance(r)) { Gates = gates.Of(r.Get<Guid[]>("gates")) };

    /// <summary>The same photo with what has it with the watermark and what reserves something of it, from a row with <see cref="MarkColumn"/>.</summary>
    public static PhotoThing Marked(NpgsqlDataReader r, PhotoThing photo, GateList gates)
    {
        var things = r.Get<Guid[]>("marks");
        return photo with { Marks = gates.Marks.Of(things), Reserves = gates.Reserves.Of(things) };
    }

    static PhotoClearance Clearance(NpgsqlDataReader r) =>
        new(r.Get<string>("clearance"), r.Maybe<DateOnly>("cleared_until"), r.Get<string>("people_say"), r.Maybe<DateOnly>("people_until"), r.Get<bool>("clearance_needed"));

    /// <summary>Reads what <see cref="ShownOnOfAlbums"/> gives.</summary>
    public static ShownOn On(NpgsqlDataReader r) => new(r.Get<int>("on_pages"), r.Get<int>("on_own"), r.Get<int>("on_drafts"), r.Get<int>("out_of_view"), r.Get<int>("on_shut"));

    static PhotoState State(string state) => state switch
    {
        "ready" => PhotoState.Ready,
        "failed" => PhotoState.Failed,
        _ => PhotoState.Waiting,
    };

    /// <summary>The photos that are made from an original: one, or of a scan the whole and each print on it.</summary>
    public async Task<IReadOnlyList<PictureThing>> PicturesAsync(byte[] hash, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(PhotoSql("p.hash = @hash"), ("hash", hash), ("shut", sight.Shut), ("marking", sight.Marking));
        return await command.AllAsync(
            r => new PictureThing(
                Marked(r, Photo(r, On(r), sight.Gates), sight.Gates), CorrectionText.Read(r.MaybeText("correction")), new PixelSize(r.Get<int>("own_width"), r.Get<int>("own_height"))),
            ct);
    }

    /// <summary>A photo, and where its clearance stands in words; null when there is none.</summary>
    public async Task<ClearedPhoto?> ClearedAsync(PhotoId photo, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {PhotoColumns}, {MarkColumn}, {PhotoOnColumns}, p.cleared_by, p.people,
                   array(select coalesce(o.says, '')
                           from unnest(p.people) with ordinality as n(name, n)
                           left join person as o on o.key = person_key(n.name) and o.struck is null
                          order by n.n) as says
              from photo as p
             {PhotoShownOn}
             where p.id = @photo
            """,
            ("photo", photo.Value), ("shut", sight.Shut), ("marking", sight.Marking));
        return await command.FirstAsync(
            r =>
            {
                var thing = Marked(r, Photo(r, On(r), sight.Gates), sight.Gates);
                IReadOnlyList<ShownPerson> people = [.. r.Get<string[]>("people").Zip(r.Get<string[]>("says"), (name, says) => new ShownPerson(name, says))];
                return new ClearedPhoto(thing, ClearanceLine.Of(thing.Clearance, r.Get<string>("cleared_by"), people, Now));
            },
            ct);
    }

    /// <summary>A photo; null when there is none.</summary>
    public async Task<PhotoThing?> PhotoAsync(PhotoId photo, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(PhotoSql("p.id = @photo"), ("photo", photo.Value), ("shut", sight.Shut), ("marking", sight.Marking));
        return await command.FirstAsync(r => Marked(r, Photo(r, On(r), sight.Gates), sight.Gates), ct);
    }

    /// <summary>The gates on the ways to a photo that do not let everyone in: those of its albums, and of the pages that show it.</summary>
    public async Task<IReadOnlyList<Gate>> WaysAsync(PhotoId photo, Sight everyone, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            with albums as (
              select a.id, {AlbumGates("a")} as gates
                from album_photo as ap
                join album as a on a.id = ap.album and a.shown and a.binned is null
               where ap.photo = @photo)
            select unnest(gates) as gate from albums
            union
            select pt.page
              from page_thing as pt
              join page as pg on pg.id = pt.page and pg.binned is null and pg.is_gate
             where pt.live and pt.shows and (pt.thing = @photo or pt.thing in (select id from albums))
            """,
            ("photo", photo.Value));
        return [.. everyone.Gates.Of([.. (await command.AllAsync(r => r.Get<Guid>("gate"), ct)).Intersect(everyone.Shut)])];
    }

    /// <summary>The columns of <see cref="On"/> for a photo called <c>p</c>, of what <see cref="PhotoShownOn"/> joins.</summary>
    public const string PhotoOnColumns =
        "pages.on_pages + picked.on_pages as on_pages, pages.on_drafts + picked.on_drafts as on_drafts, pages.on_own, pages.out_of_view, pages.on_shut + picked.on_shut as on_shut";

    /// <summary>Joins to a photo called <c>p</c> where it is shown, in albums and by itself.</summary>
    public static readonly string PhotoShownOn =
        $"""
        cross join lateral (
          {ShownOnOfAlbums} and oa.id in (select ap.album from album_photo as ap where ap.photo = p.id)) as pages
         cross join lateral (
           {OnPages("p.id")}) as picked
        """;

    static string PhotoSql(string which) =>
        $"""
        select {PhotoColumns}, {MarkColumn}, p.correction::text as correction, p.own_width, p.own_height, {PhotoOnColumns}
          from photo as p
         {PhotoShownOn}
         where {which}
        """;

    /// <summary>On how many published pages a thing stands by itself, and on how many drafts alone.</summary>
    static string OnPages(string thing) =>
        $"""
        select (count(*) filter (where pt.live and pg.id <> all(@shut)))::int as on_pages,
               (count(*) filter (where pt.live and pg.id = any(@shut)))::int as on_shut,
               (count(distinct pt.page) - count(*) filter (where pt.live))::int as on_drafts
          from page_thing as pt
          join page as pg on pg.id = pt.page and pg.binned is null
         where pt.thing = {thing} and pt.shows
        """;

    /// <summary>A photo with what visitors may say about it; null when there is none, or no album offers anything of it: most photos, which cost nothing more.</summary>
    public async Task<PhotoToTalkOf?> TalkAsync(PhotoId photo, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {PhotoColumns}, {MarkColumn}, {PhotoOnColumns},
                   {TalkColumn}
              from photo as p
             {PhotoShownOn}
             where p.id = @photo and exists (
               select
                 from album_photo as tp
                 join album as t on t.id = tp.album and (t.has_comments or t.has_ratings)
                where tp.photo = p.id)
            """,
            ("photo", photo.Value), ("shut", sight.Shut), ("marking", sight.Marking));
        return await command.FirstAsync(r => TalkOf(r, Marked(r, Photo(r, On(r), sight.Gates), sight.Gates)), ct);
    }

    /// <summary>
    /// For whom albums in view let something be said of a photo called <c>p</c>, of those whom <c>@shut</c> does not keep out: comments, and
    /// ratings, as numbers of <see cref="TalkFor"/>.
    /// </summary>
    public static readonly string TalkColumn =
        $"""
        (select array[coalesce(max(l.for) filter (where t.has_comments), 0), coalesce(max(l.for) filter (where t.has_ratings), 0)]
             from album_photo as tp
             join album as t on t.id = tp.album and (t.has_comments or t.has_ratings) and t.shown and t.binned is null and {LetsIn("t")}
            cross join lateral (select case when t.talk_known then {(int)TalkFor.Known} else {(int)TalkFor.Everyone} end as for) as l
            where tp.photo = p.id) as talk
        """;

    /// <summary>A photo that visitors may say something about, from a row with <see cref="TalkColumn"/>.</summary>
    public static PhotoToTalkOf TalkOf(NpgsqlDataReader r, PhotoThing photo) => new(photo, (TalkFor)r.Get<int[]>("talk")[0], (TalkFor)r.Get<int[]>("talk")[1]);

    /// <summary>A file; null when there is none.</summary>
    public async Task<FileThing?> FileAsync(FileId file, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select f.binned is not null as is_binned, pages.on_pages, pages.on_drafts, 0 as on_own, 0 as out_of_view, pages.on_shut
              from file as f
             cross join lateral (
               {OnPages("f.id")}) as pages
             where f.id = @file
            """,
            ("file", file.Value), ("shut", sight.Shut));
        return await command.FirstAsync(r => new FileThing(r.Get<bool>("is_binned"), On(r)), ct);
    }

    /// <summary>The site as a whole.</summary>
    public async Task<TheSite> SiteAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand("select is_open, clearance_needed from site");
        return (await command.FirstAsync(r => new TheSite(r.Get<bool>("is_open"), r.Get<bool>("clearance_needed")), ct))!;
    }

    /// <summary>Decides for a viewer, now.</summary>
    public Decision Decide(Viewer viewer, Right right, Thing thing) => Core.Access.Access.Decide(viewer, right, thing, Now);

    /// <summary>The same without its reasons.</summary>
    public bool May(Viewer viewer, Right right, Thing thing) => Decide(viewer, right, thing).Allowed;
}
