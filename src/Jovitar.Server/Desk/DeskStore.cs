using Jovitar.Core;
using Jovitar.Core.Intake;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;
using Jovitar.Server.Access;
using Jovitar.Server.Favourites;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Desk;

/// <summary>The figures at the ends of the contents' lines.</summary>
/// <param name="Waiting">Photos whose sheet rendition is still to be made.</param>
/// <param name="Larger">Photos whose larger renditions are still to be made.</param>
/// <param name="Unpacking">Entries of ZIPs still to be unpacked.</param>
/// <param name="SecondsLeft">How long what waits will take at the pace of the last minute; null while there is nothing to judge by.</param>
/// <param name="Repeats">Photos that nearly repeat another and are not decided on.</param>
/// <param name="LeftOut">Photos left out everywhere.</param>
/// <param name="CommentsWaiting">Comments of visitors that nobody has decided on.</param>
/// <param name="Held">Photos that no visitor sees for want of clearance.</param>
/// <param name="Asking">Visitors who ask to become members.</param>
/// <param name="Sent">Favourites that visitors have sent and nobody has taken note of.</param>
/// <param name="Contributed">Photos that visitors sent in and nobody has decided on.</param>
/// <param name="Orders">Orders of which something is still to be done.</param>
internal sealed record Figures(
    int Photos, int Waiting, int Larger, int Failed, int Albums, int Pages, int Published, int AlbumsNowhere, int PhotosWithoutTitle, int PhotosWithoutAlt, int PhotosInNoAlbum, long Bytes,
    int Files, int Unpacking, int? SecondsLeft, int Repeats, int Binned, int LeftOut, int CommentsWaiting, int Held, int Asking, int Sent, int Contributed, int Orders);

/// <summary>Failed photos of one cause.</summary>
internal sealed record FailedPhotos(string Sentence, string Remedy, int Count, IReadOnlyList<PhotoId> Photos, IReadOnlyList<string> Names);

internal sealed record AlbumNowhere(AlbumId Id, string WorkingName, int Photos, bool HasDraft);

/// <summary>Photos of a page that none of its filter buttons finds.</summary>
/// <param name="Search">What the address of the sheet says that shows them.</param>
internal sealed record PageUnreached(PageId Id, string Title, int Photos, string Search);

/// <summary>A page that visitors have and that names things that are gone; they see the rest of it.</summary>
/// <param name="Things">How many: in the bin, removed for good, or, of pages that it leads to, withdrawn.</param>
internal sealed record PageLacking(PageId Id, string Title, int Things);

/// <summary>What waits, what runs, how much there is.</summary>
internal sealed record DeskState(
    Figures Figures, IReadOnlyList<FailedPhotos> Failed, IReadOnlyList<AlbumNowhere> Nowhere, IReadOnlyList<PageUnreached> Unreached, IReadOnlyList<PageLacking> Lacking, IReadOnlyList<ChoiceLine> Sent);

/// <summary>What the first screen and the contents show.</summary>
internal sealed class DeskStore(NpgsqlDataSource db, AccessStore access, IndexKeeper keeper, CategoryStore categories, ChoiceListStore choices, TimeProvider clock)
{
    /// <summary>Of an album called <c>a</c>: no visitor comes upon it, though it is in view.</summary>
    const string Nowhere =
        """
        a.binned is null and a.shown
        and not exists (select from page_thing as pt join page as pg on pg.id = pt.page and pg.binned is null
          where pt.thing = a.id and pt.live and pt.shows)
        and not exists (select from album_category as ac join category as c on c.id = ac.category and c.in_view where ac.album = a.id)
        """;


    const int MostListed = 50;
    const int MostRetried = 2000;
    const int MostNamed = 8;

    public async Task<Figures> FiguresAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select (select count(*) from photo where stage < 2 and state <> 'failed' and binned is null and stage = 0) as waiting,
                   (select count(*) from photo where stage < 2 and state <> 'failed' and binned is null and stage = 1) as larger,
                   (select count(*) from photo where state = 'failed' and binned is null) as failed,
                   (select count(*) from album where binned is null) as albums,
                   (select count(*) from page where binned is null) as pages,
                   (select count(*) from page where published is not null and binned is null) as published,
                   (select count(*) from album as a where {Nowhere}) as nowhere,
                   (select coalesce(sum(bytes), 0)::bigint from file) as file_bytes,
                   (select count(*) from file where binned is null) as files,
                   (select coalesce(sum(greatest(z.entries - z.done, 1)), 0)
                      from unpacking as z
                      join intake as i on i.id = z.intake and i.taken_back is null
                     where z.ended is null) as unpacking,
                   (select count(*) from photo where ready_at > @since) as ready,
                   (select min(ready_at) from photo where ready_at > @since) as first_ready,
                   (select count(distinct n.photo)
                      from photo_near as n
                      join photo as p on p.id = n.photo and p.binned is null
                      join photo as q on q.id = n.near and q.binned is null
                     where not n.settled) as repeats,
                   (select count(*) from bin where within is null) as binned,
                   (select count(*)
                      from comment as c
                      join photo as p on p.id = c.photo and p.binned is null
                     where c.state = 'Waiting') as comments,
                   (select count(*) from member_wish) as asking,
                   (select count(*)
                      from choice as w
                      join album as a on a.id = w.album and a.binned is null
                     where w.sent is not null and w.noted is null) as sent,
                   (select count(*)
                      from contribution_photo as cp
                      join contribution as c on c.id = cp.contribution and c.sent is not null
                     where cp.state = 'Waiting') as contributed,
                   (select count(*) from sale_order where state in ('Placed', 'InWork')) as orders
            """,
            ("since", clock.GetUtcNow() - TimeLeft.Window));
        var (index, needed) = (await keeper.CurrentAsync(ct), (await access.SiteAsync(ct)).ClearanceNeeded);
        int Found(PartKind kind, string choice) => index.Count(new Narrowing("", [new NarrowingPart(kind, false, [choice])]));
        return (await command.FirstAsync(
            r =>
            {
                int Count(string column) => (int)r.Get<long>(column);
                var waiting = Count("waiting");
                var pace = r.Maybe<DateTimeOffset>("first_ready") is { } first ? TimeLeft.Estimate(waiting, Count("ready"), clock.GetUtcNow() - first) : null;
                return new Figures(
                    index.Count(Narrowing.Nothing), waiting, Count("larger"), Count("failed"), Count("albums"), Count("pages"), Count("published"), Count("nowhere"),
                    Found(PartKind.Missing, "title"), Found(PartKind.Missing, "alt"), Found(PartKind.Album, Narrowing.None), index.Bytes + r.Get<long>("file_bytes"), Count("files"), Count("unpacking"), waiting == 0 ? 0 : pace is { } left ? (int)Math.Ceiling(left.TotalSeconds) : null, Count("repeats"), Count("binned"), Found(PartKind.Decision, Decisions.LeaveOut), Count("comments"),
                    index.Count(new Narrowing("", [ForVisitors.Held(needed)])), Count("asking"), Count("sent"), Count("contributed"), Count("orders"));
            },
            ct))!;
    }

    public async Task<DeskState> StateAsync(CancellationToken ct)
    {
        await using var failed = db.Command(
            """
            select coalesce(failure_cause, 'Unreadable') as cause, min(failure) as sentence, count(*) as count,
                   (array_agg(id order by arrived desc))[1:@most] as photos, (array_agg(file_name order by arrived desc))[1:@names] as names
              from photo
             where state = 'failed' and binned is null
             group by 1
             order by 3 desc, 1
            """,
            ("most", MostRetried), ("names", MostNamed));
        await using var nowhere = db.Command(
            $"""
            select a.id, a.working_name, (select count(*) from album_photo as ap where ap.album = a.id) as photos,
                   exists (select from page_thing as pt join page as pg on pg.id = pt.page and pg.binned is null
                     where pt.thing = a.id and pt.shows) as has_draft
              from album as a
             where {Nowhere}
             order by lower(a.working_name), a.id limit @most
            """,
            ("most", MostListed));
        return new DeskState(
            await FiguresAsync(ct),
            await failed.AllAsync(
                r =>
                {
                    var remedy = Enum.TryParse<IntakeProblem>(r.Get<string>("cause"), out var problem) ? IntakeRefusal.Remedy(problem) : "";
                    var sentence = r.Get<string>("sentence");
                    return new FailedPhotos(
                        remedy.Length > 0 && sentence.EndsWith(remedy, StringComparison.Ordinal) ? sentence[..^remedy.Length].TrimEnd() : sentence, remedy,
                        (int)r.Get<long>("count"), [.. r.Get<Guid[]>("photos").Select(PhotoId.From)], r.Get<string[]>("names"));
                },
                ct),
            await nowhere.AllAsync(r => new AlbumNowhere(new AlbumId(r.Get<Guid>("id")), r.Get<string>("working_name"), (int)r.Get<long>("photos"), r.Get<bool>("has_draft")), ct),
            await UnreachedAsync(ct), await LackingAsync(ct), await choices.WaitingAsync(ct));
    }

    /// <summary>Published pages that name things that are not there any more.</summary>
    async Task<IReadOnlyList<PageLacking>> LackingAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select pg.id, page_title(pg.published) as title, count(*)::int as things
              from page as pg
              join page_thing as pt on pt.page = pg.id and pt.live
             where pg.published is not null and pg.binned is null
               and case pt.kind
                     when 'album' then not exists (select from album as t where t.id = pt.thing and t.binned is null)
                     when 'photo' then not exists (select from photo as t where t.id = pt.thing and t.binned is null)
                     when 'category' then not exists (select from category as t where t.id = pt.thing and t.binned is null)
                     when 'tag' then not exists (select from tag as t where t.id = pt.thing and t.binned is null)
                     when 'file' then not exists (select from file as t where t.id = pt.thing and t.binned is null)
                     when 'page' then not exists (
                       select from page as t where t.id = pt.thing and t.binned is null and t.published is not null)
                     else false end
             group by pg.id
             order by 2, pg.id
             limit @most
            """,
            ("most", MostListed));
        return await command.AllAsync(r => new PageLacking(new PageId(r.Get<Guid>("id")), r.Get<string>("title"), r.Get<int>("things")), ct);
    }

    /// <summary>Published pages with a filter bar, and how many of their photos no button of it finds.</summary>
    async Task<IReadOnlyList<PageUnreached>> UnreachedAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            "select id, album, published::text as published from page where published is not null and binned is null order by published_at desc, id");
        var pages = await command.AllAsync(r => (Id: new PageId(r.Get<Guid>("id")), Content: PageText.Read(r.Get<string>("published"), r.MaybeId("album") is { } album ? new AlbumId(album) : null)), ct);
        var index = await keeper.CurrentAsync(ct);
        var seen = (await categories.TreeAsync(ct)).InView().InOrder().Select(n => n.Node.Id).ToHashSet();
        var shown = ForVisitors.Shown((await access.SiteAsync(ct)).ClearanceNeeded);
        var unreached = new List<PageUnreached>();
        foreach (var page in pages)
        {
            foreach (var block in page.Content.All().OfType<PhotosBlock>().Where(b => b.Source.Kind == SourceKind.Albums && b.Bar.HasButtons() && b.Bar.Buttons().All(x => x.Kind != BarKind.EachAlbum)))
            {
                var narrowing = new Narrowing(
                    "",
                    [
                        new NarrowingPart(PartKind.Album, false, [.. block.Source.Albums.Select(a => a.ToString())]),
                        new NarrowingPart(PartKind.Category, true, [.. block.Bar.Things(BarKind.Category).Select(CategoryId.From).Where(seen.Contains).Select(c => c.ToString())]),
                        new NarrowingPart(PartKind.Tag, true, [.. block.Bar.Things(BarKind.Tag).Select(t => TagId.From(t).ToString())]),
                        new NarrowingPart(PartKind.Album, true, [.. block.Bar.Things(BarKind.Album).Select(a => AlbumId.From(a).ToString())]),
                        .. shown,
                    ]);
                if (narrowing.Parts.Any(p => p.Not && p.Kind is PartKind.Category or PartKind.Tag or PartKind.Album) && index.Count(narrowing) is > 0 and var count)
                {
                    unreached.Add(new PageUnreached(page.Id, page.Content.Title, count, narrowing.ToString()));
                }
            }
        }

        return unreached;
    }
}
