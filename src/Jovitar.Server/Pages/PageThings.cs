using Jovitar.Core;
using Jovitar.Core.Pages;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;

namespace Jovitar.Server.Pages;

/// <summary>The things that stand on pages, kept as rows beside what is set on them: who may see what goes by it, and which pages a change concerns.</summary>
internal static class PageThings
{
    /// <summary>Fields of a page whose change visitors may see.</summary>
    public static readonly string[] Seen = ["published", "binned", "address"];

    sealed record Row(Guid Page, bool Live, string Kind, Guid Thing, bool Shows, int Place);

    /// <summary>Reads the pages that an act changed anew.</summary>
    /// <returns>The albums that visitors found on them or find there now, where anything of that may be another.</returns>
    public static async Task<IReadOnlyList<Guid>> FollowAsync(Act act, CancellationToken ct)
    {
        await using var read = act.Command(
            """
            select pg.id, pg.album, pg.draft::text as draft, pg.published::text as published, c.before ?| @seen or c.after ?| @seen as seen
              from act_change as c
              join page as pg on pg.id = c.thing
             where c.act = @act and c.kind = 'page'
            """,
            ("act", act.Id.Value), ("seen", Seen));
        var pages = (await read.AllAsync(r => (Id: r.Get<Guid>("id"), Album: r.MaybeId("album"), Draft: r.Get<string>("draft"), Published: r.MaybeText("published"), Seen: r.Maybe<bool>("seen") is true), ct))
            .GroupBy(p => p.Id).Select(g => g.First() with { Seen = g.Any(p => p.Seen) }).ToArray();
        if (pages.Length == 0)
        {
            return [];
        }

        var rows = pages.SelectMany(p => Of(p.Id, live: false, PageText.Read(p.Draft, AlbumId(p.Album))).Concat(p.Published is { } json ? Of(p.Id, live: true, PageText.Read(json, AlbumId(p.Album))) : [])).ToArray();
        await using var gone = act.Command("delete from page_thing where page = any(@pages) returning page, case when kind = 'album' and live then thing end as album", ("pages", pages.Select(p => p.Id).ToArray()));
        var before = await gone.AllAsync(r => (Page: r.Get<Guid>("page"), Album: r.MaybeId("album")), ct);
        await act.RunAsync(
            """
            insert into page_thing (page, live, kind, thing, shows, place)
            select * from unnest(@pages, @lives, @kinds, @things, @shows, @places)
            """,
            ct,
            ("pages", rows.Select(r => r.Page).ToArray()), ("lives", rows.Select(r => r.Live).ToArray()), ("kinds", rows.Select(r => r.Kind).ToArray()),
            ("things", rows.Select(r => r.Thing).ToArray()), ("shows", rows.Select(r => r.Shows).ToArray()), ("places", rows.Select(r => r.Place).ToArray()));
        var seen = pages.Where(p => p.Seen).Select(p => p.Id).ToHashSet();
        var after = rows.Where(r => r.Live && r.Kind == "album").Select(r => (r.Page, Album: (Guid?)r.Thing));
        return [.. before.Concat(after).Where(r => seen.Contains(r.Page)).Select(r => r.Album).OfType<Guid>().Distinct()];
    }

    static AlbumId? AlbumId(Guid? id) => id is { } album ? new AlbumId(album) : null;

    static IEnumerable<Row> Of(Guid page, bool live, PageContent content) =>
        content.Things().Select((t, i) => new Row(page, live, t.Kind.ToString().ToLowerInvariant(), t.Thing, t.Shows, i));
}
