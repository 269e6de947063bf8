using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Albums;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Pages;

/// <summary>Pages, their drafts and what visitors have.</summary>
internal sealed class PageStore(NpgsqlDataSource db, ActRunner acts, AccessStore access, SightStore sights)
{
    /// <summary>The photos that the draft of a page called <c>pg</c> shows.</summary>
    public const string PhotosOfDraft =
        """
        select ap.photo
          from page_thing as pt
          join album_photo as ap on ap.album = pt.thing
         where pt.page = pg.id and not pt.live and pt.shows and pt.kind = 'album'
        union
        select pt.thing
          from page_thing as pt
         where pt.page = pg.id and not pt.live and pt.shows and pt.kind = 'photo'
        """;

    /// <summary>All pages, the newest first.</summary>
    public async Task<IReadOnlyList<PageLine>> ListAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select pg.id, page_title(pg.draft) as title, pg.address, (select count(*) from ({PhotosOfDraft}) as photos) as photos,
                   pg.published is not null as published, coalesce(pg.published <> pg.draft, false) as changed,
                   k.picture, (pg.draft ->> 'posted')::date as posted,
                   (select coalesce(sum(v.views), 0)::int from view_day as v where v.thing = pg.id and v.day > @since) as views
              from page as pg
              left join lateral (
                select pt.kind, pt.thing
                  from page_thing as pt
                 where pt.page = pg.id and not pt.live and pt.kind in ('album', 'photo')
                 order by not pt.shows, pt.place
                 limit 1) as first on true
              left join album as a on first.kind = 'album' and a.id = first.thing
              left join lateral (
                select p.picture
                  from photo as p
                 where p.stage > 0
                   and p.id = case
                     when first.kind = 'photo' then first.thing
                     else coalesce(a.cover,
                       (select ap.photo from album_photo as ap where ap.album = a.id order by ap.place, ap.photo limit 1)) end) as k on true
             where pg.binned is null
             order by pg.made desc, pg.id
            """,
            ("since", DateOnly.FromDateTime(access.Now.UtcDateTime).AddDays(-30)));
        return await command.AllAsync(
            r => new PageLine(
                new PageId(r.Get<Guid>("id")), r.Get<string>("title"), r.Get<string>("address"), (int)r.Get<long>("photos"), r.Get<bool>("published"), r.Get<bool>("changed"),
                r.MaybeText("picture"), r.Get<int>("views"), r.Maybe<DateOnly>("posted")),
            ct);
    }

    public async Task<OpenedPage?> FindAsync(PageId id, CancellationToken ct)
    {
        var (site, gates) = (await access.SiteAsync(ct), (await sights.EveryoneAsync(ct)).Gates);
        await using var command = db.Command(
            $"""
            select pg.album, pg.address, pg.draft::text as draft, (select count(*) from ({PhotosOfDraft}) as photos) as photos,
                   pg.published is not null as published, coalesce(pg.published <> pg.draft, false) as changed,
                   pg.published_at, pg.edited, pg.number, pg.planned_at, array(select pg.id where pg.is_gate) as gates
              from page as pg
             where pg.id = @id and pg.binned is null
            """,
            ("id", id.Value));
        return await command.FirstAsync(
            r =>
            {
                var (published, changed) = (r.Get<bool>("published"), r.Get<bool>("changed"));
                var album = Album(r);
                return new OpenedPage(
                    id, album, r.Get<string>("address"), PageText.Read(r.Get<string>("draft"), album), (int)r.Get<long>("photos"), published, changed, r.Maybe<DateTimeOffset>("published_at"),
                    AudienceLine.Of(new PageThing(Binned: false, published, changed) { Gates = gates.Of(r.Get<Guid[]>("gates")) }, site, access.Now), r.Get<long>("edited"), r.Maybe<int>("number"), r.Maybe<DateTimeOffset>("planned_at"));
            },
            ct);
    }

    static AlbumId? Album(NpgsqlDataReader r) => r.MaybeId("album") is { } album ? new AlbumId(album) : null;

    static BlockId NewBlock(Act act) => new(Guid.CreateVersion7(act.Now));

    /// <summary>Makes a draft under a free address made from its title: with the albums and photos of a category, whose cover opens it when it is published.</summary>
    /// <param name="title">Null for the category's name.</param>
    /// <returns>Null when the category is not there.</returns>
    public async Task<PageId?> MakeAsync(Actor who, CategoryId category, string? title, CancellationToken ct)
    {
        var (id, _) = await acts.RunAsync(
            who, ActKind.MadePage,
            async act =>
            {
                await act.RunAsync(CategoryStore.LockTree, ct);
                await using var find = act.Command("select name, description, beneath, sort from category where id = @category and binned is null", ("category", category.Value));
                var found = await find.FirstAsync(
                    r => Tuple.Create(r.Get<string>("name"), r.Get<string>("description"), r.Get<bool>("beneath"), Enum.Parse<IndexSort>(r.Get<string>("sort"), ignoreCase: true)), ct);
                if (found is not var (name, description, beneath, sort))
                {
                    return act.Drop<PageId?>(null);
                }

                Block[] blocks =
                [
                    new HeadingBlock(NewBlock(act), BlockFrame.Usual, "", HeadingSize.Large),
                    .. description.Length > 0 ? (Block[])[new TextBlock(NewBlock(act), BlockFrame.Usual, Text.Cut(description, TextBlock.Longest))] : [],
                    new IndexBlock(NewBlock(act), BlockFrame.Usual, IndexKind.Category, category, beneath, [], sort, null, Across: 3, Dates: true, Counts: true, Descriptions: false),
                    PhotosBlock.Of(NewBlock(act), PhotosSource.Of() with { Kind = SourceKind.Category, Category = category }, BlockLayout.Usual),
                ];
                var made = await InsertAsync(act, null, PageContent.Made(Text.Cut(title ?? name, PageContent.LongestTitle), "", blocks), ct);
                await act.RunAsync("update category set opens = @page, version = version + 1 where id = @category", ct, ("page", made?.Value), ("category", category.Value));
                return made;
            },
            ct);
        return id;
    }

    /// <summary>Makes a draft under a free address made from its title: with the photos of an album, or with a heading alone.</summary>
    /// <param name="album">The album it is made for; null for none.</param>
    /// <param name="title">Null for the album's.</param>
    /// <returns>Null when the album is not there.</returns>
    public async Task<PageId?> MakeAsync(Actor who, AlbumId? album, string? title, CancellationToken ct)
    {
        var (id, _) = await acts.RunAsync(
            who, ActKind.MadePage,
            async act =>
            {
                var (name, words) = (title ?? "", "");
                if (album is { } of)
                {
                    // Locked against being thrown away meanwhile.
                    await using var find = act.Command("select coalesce(nullif(title, ''), working_name) as title, description from album where id = @album and binned is null for share", ("album", of.Value));
                    if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("title"), r.Get<string>("description")), ct) is not var (found, description))
                    {
                        return act.Drop<PageId?>(null);
                    }

                    (name, words) = (title ?? found, description);
                }

                var blocks = new List<Block> { new HeadingBlock(NewBlock(act), BlockFrame.Usual, "", HeadingSize.Large) };
                if (words.Length > 0)
                {
                    blocks.Add(new TextBlock(NewBlock(act), BlockFrame.Usual, Text.Cut(words, TextBlock.Longest)));
                }

                if (album is { } photos)
                {
                    blocks.Add(PhotosBlock.Of(NewBlock(act), PhotosSource.Of(photos), BlockLayout.Usual));
                }

                return await InsertAsync(act, album, PageContent.Made(Text.Cut(name, PageContent.LongestTitle), "", blocks), ct);
            },
            ct);
        return id;
    }

    /// <summary>Makes a draft under a free address made from its title.</summary>
    /// <param name="album">The album it is made for; null for none, or where it is gone by then.</param>
    /// <param name="lay">Lays it out, given what makes the ids of its blocks.</param>
    public async Task<PageId> MakeAsync(Actor who, AlbumId? album, Func<Func<BlockId>, PageContent> lay, CancellationToken ct)
    {
        var (id, _) = await acts.RunAsync(
            who, ActKind.MadePage,
            async act =>
            {
                // Locked against being thrown away meanwhile.
                await using var find = act.Command("select id from album where id = @album::uuid and binned is null for share", ("album", album?.Value));
                return await InsertAsync(act, await find.ExecuteScalarAsync(ct) is Guid there ? new AlbumId(there) : null, lay(() => NewBlock(act)), ct);
            },
            ct);
        return id!.Value;
    }

    /// <summary>Copies a page whole, as a draft that no visitor sees.</summary>
    /// <returns>Null when it is not there.</returns>
    public async Task<PageId?> CopyAsync(Actor who, PageId id, CancellationToken ct)
    {
        var (copy, _) = await acts.RunAsync(
            who, ActKind.MadePage,
            async act =>
            {
                await using var read = act.Command("select album, draft::text as draft from page where id = @id and binned is null", ("id", id.Value));
                if (await read.FirstAsync(r => Tuple.Create(r.Get<string>("draft"), Album(r)), ct) is not var (draft, album))
                {
                    return act.Drop<PageId?>(null);
                }

                var content = PageText.Read(draft, album);
                return await InsertAsync(act, null, content with { Title = $"{Text.Cut(content.Title, PageContent.LongestTitle - 6)}, copy" }, ct, like: id);
            },
            ct);
        return copy;
    }

    /// <param name="like">What not everyone may see does not come to be for everyone by being copied: it is for whom this page is.</param>
    static async Task<PageId?> InsertAsync(Act act, AlbumId? album, PageContent content, CancellationToken ct, PageId? like = null)
    {
        var id = new PageId(Guid.CreateVersion7(act.Now));
        act.Says = _ => $"Made a page, “{content.Title}”.";
        var address = await Addresses.FreeAsync(act, "page", PageAddress.From(content.Title).Value, id.Value, ct);
        await act.RunAsync(
            """
            insert into page (id, album, address, draft, made, audience, seen_from, seen_until, chosen)
            select @id, @album::uuid, @address, @draft::jsonb, @now, coalesce(o.audience, 'Everyone'), o.seen_from, o.seen_until,
                   coalesce(o.chosen, array[]::uuid[])
              from (values (@like::uuid)) as l(page)
              left join page as o on o.id = l.page
            """,
            ct, ("like", like?.Value), ("id", id.Value), ("album", album?.Value), ("address", address), ("draft", PageText.Write(content)), ("now", act.Now));
        return id;
    }

    /// <summary>
    /// Writes the draft and the address. A new address of a published page is live at once, and the old one leads to it. What somebody
    /// else has written since is kept, as far as it is not the same block.
    /// </summary>
    /// <param name="was">What the writer began with; null where nothing may be put together.</param>
    /// <param name="over">Where both changed the same block, the writer's stands.</param>
    /// <returns>How it ended, and in which blocks or fields the two collide.</returns>
    public async Task<(PageOutcome Outcome, IReadOnlyList<string> Collisions, Done Done)> EditAsync(
        Actor who, PageId id, PageAddress address, PageContent draft, long expected, PageWork? was, bool over, CancellationToken ct)
    {
        IReadOnlyList<string> collisions = [];
        var (outcome, done) = await acts.RunAsync(
            who, ActKind.EditedPage,
            async act =>
            {
                collisions = [];
                await using var read = act.Command("select edited, address, draft::text as draft, album from page where id = @id and binned is null for no key update", ("id", id.Value));
                if (await read.FirstAsync(r => Tuple.Create(r.Get<long>("edited"), new PageWork(r.Get<string>("address"), PageText.Read(r.Get<string>("draft"), Album(r)))), ct) is not var (edited, now))
                {
                    return act.Drop(PageOutcome.Gone);
                }

                var (wished, next) = (address.Value, draft);
                if (edited != expected)
                {
                    if (was is null)
                    {
                        return act.Drop(PageOutcome.Stale);
                    }

                    // What the writer sent is bounded: what was written under other bounds is no change of theirs.
                    var merged = PageMerge.Of(was.Draft.Bounded(), draft, now.Draft.Bounded());
                    if (merged.Content.Faults().ContainsKey("blocks"))
                    {
                        // Together they are more than a page may have.
                        return act.Drop(PageOutcome.Stale);
                    }

                    if (merged.Collisions.Count > 0 && !over)
                    {
                        collisions = merged.Collisions;
                        return act.Drop(PageOutcome.Collided);
                    }

                    (wished, next) = (wished == was.Address ? now.Address : wished, merged.Content);
                }

                if (wished != now.Address && await Addresses.IsTakenAsync(act, "page", wished, id.Value, ct))
                {
                    return act.Drop(PageOutcome.AddressTaken);
                }

                var difference = PageDifference.Of(now.Draft, next);
                if (difference.IsBuilding)
                {
                    act.Kind = ActKind.BuiltPage;
                }

                act.GoesOn = id.Value;
                act.Says = _ => difference.Sentence(next.Title);
                await act.RunAsync(
                    "update page set address = @address, draft = @draft::jsonb, edited = edited + 1 where id = @id", ct,
                    ("id", id.Value), ("address", wished), ("draft", PageText.Write(next)));
                return PageOutcome.Written;
            },
            ct);
        return (outcome, collisions, done);
    }

    /// <summary>Puts a copy of a block at the foot of a page.</summary>
    /// <returns>What was done; null when the page is not there, or, with a sentence, when it cannot take the block.</returns>
    public async Task<(Done? Done, string? Fault)> AddAsync(Actor who, PageId id, Block block, CancellationToken ct)
    {
        string? fault = null;
        var (there, done) = await acts.RunAsync(
            who, ActKind.BuiltPage,
            async act =>
            {
                await using var read = act.Command("select draft::text as draft, album from page where id = @id and binned is null for no key update", ("id", id.Value));
                if (await read.FirstAsync(r => PageText.Read(r.Get<string>("draft"), Album(r)), ct) is not { } draft)
                {
                    return act.Drop(false);
                }

                var added = block switch
                {
                    BesideBlock beside => beside with { Id = NewBlock(act), Blocks = [.. beside.Blocks.Select(b => b with { Id = NewBlock(act) })] },
                    _ => block with { Id = NewBlock(act) },
                };
                var next = draft with { Blocks = [.. draft.Blocks, added] };
                fault = next.Faults().Values.FirstOrDefault();
                if (fault is not null)
                {
                    return act.Drop(false);
                }

                act.Says = _ => $"Added {PageDifference.Name(block)} to page “{draft.Title}”.";
                await act.RunAsync(
                    "update page set draft = @draft::jsonb, edited = edited + 1 where id = @id", ct, ("id", id.Value), ("draft", PageText.Write(next)));
                return true;
            },
            ct);
        return (there ? done : null, fault);
    }

    /// <summary>Which of some photos are too small for their place in a block.</summary>
    public async Task<IReadOnlyList<SmallForBlock>> SmallAsync(Block block, int beside, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var command = db.Command("select id, width, height from photo where id = any(@photos) and width > 0 and height > 0", ("photos", photos.Values()));
        var sizes = await command.AllAsync(r => (Id: new PhotoId(r.Get<Guid>("id")), Size: (r.Get<int>("width"), r.Get<int>("height"))), ct);
        var place = new BlockPlace(block.Frame, beside);
        return [.. sizes.Select(s => place.Small(block, s.Size) is { } small ? new SmallForBlock(s.Id, small.Device, small.IsBlurred) : null).OfType<SmallForBlock>()];
    }

    /// <summary>Takes a page out of visitors' reach; its draft stays.</summary>
    public Task<Done?> WithdrawAsync(Actor who, PageId id, CancellationToken ct) =>
        MarkAsync(who, id, ActKind.Withdrawn, "published = null, published_at = null, planned = null, planned_at = null", title => $"Withdrew “{title}”.", ct);

    /// <summary>Throws a page in the bin; albums and photos stay.</summary>
    public Task<Done?> RemoveAsync(Actor who, PageId id, CancellationToken ct) => MarkAsync(who, id, ActKind.Binned, "binned = @now", title => ActWords.Binned("page", title), ct);

    async Task<Done?> MarkAsync(Actor who, PageId id, ActKind kind, string set, Func<string, string> says, CancellationToken ct)
    {
        var (there, done) = await acts.RunAsync(
            who, kind,
            async act =>
            {
                await using var mark = act.Command($"update page set {set} where id = @id and binned is null returning page_title(draft)", ("id", id.Value), ("now", act.Now));
                if (await mark.ExecuteScalarAsync(ct) is not string title)
                {
                    return act.Drop(false);
                }

                act.Says = _ => says(title);
                return true;
            },
            ct);
        return there ? done : null;
    }
}
