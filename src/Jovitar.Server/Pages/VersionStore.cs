using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Pages;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Pages;

/// <summary>A version of a page that visitors had or have.</summary>
/// <param name="By">Who published it; empty where that was not kept yet.</param>
/// <param name="Current">Visitors have it now.</param>
internal sealed record VersionLine(int Number, string Title, int Blocks, DateTimeOffset Made, string By, bool Current);

/// <summary>Publishing: drafts become versions, at once or at a time, and earlier ones come back as drafts.</summary>
internal sealed class VersionStore(NpgsqlDataSource db, ActRunner acts)
{
    static readonly Actor Plan = Actor.Worker("The plan");

    /// <summary>Makes the draft that was read what visitors have, and its photos' larger renditions the next to be made.</summary>
    public async Task<(PageOutcome Outcome, Done Done)> PublishAsync(Actor who, PageId id, long expected, CancellationToken ct)
    {
        var answer = await acts.RunAsync(
            who, ActKind.Published,
            async act =>
            {
                if (await HeldAsync(act, id, expected, ct) is not PageOutcome.Written and var refused)
                {
                    return act.Drop(refused);
                }

                await MakeAsync(act, id, "draft", ct);
                return PageOutcome.Written;
            },
            ct);
        if (answer.Answer == PageOutcome.Written)
        {
            await WantAsync(id, ct);
        }

        return answer;
    }

    /// <summary>Holds a page and says whether it is still as it was read.</summary>
    static async Task<PageOutcome> HeldAsync(Act act, PageId id, long expected, CancellationToken ct)
    {
        await using var read = act.Command("select edited from page where id = @id and binned is null for no key update", ("id", id.Value));
        return await read.ExecuteScalarAsync(ct) is not long edited ? PageOutcome.Gone : edited == expected ? PageOutcome.Written : PageOutcome.Stale;
    }

    /// <summary>Makes a content of a page, whose row is held, what visitors have; one that they have already is no new version.</summary>
    /// <param name="content">A column: the draft, or what was planned.</param>
    static async Task MakeAsync(Act act, PageId id, string content, CancellationToken ct)
    {
        await using var number = act.Command(
            $"""
            with next as (
              insert into page_version (page, number, content, made, made_by)
              select pg.id, coalesce((select max(v.number) from page_version as v where v.page = pg.id), 0) + 1, pg.{content}, @now, @who
                from page as pg
               where pg.id = @id and pg.published is distinct from pg.{content}
              returning number)
            select number from next
            """,
            ("id", id.Value), ("now", act.Now), ("who", act.Who.Name));
        var made = await number.ExecuteScalarAsync(ct) as int?;
        await using var publish = act.Command(
            $"""
            update page
               set published = {content}, published_at = coalesce(published_at, @now), number = coalesce(@number::int, number),
                   planned = null, planned_at = null
             where id = @id
            returning page_title(published)
            """,
            ("id", id.Value), ("now", act.Now), ("number", made));
        var title = (string)(await publish.ExecuteScalarAsync(ct))!;
        act.Says = _ => $"Published “{title}”.";
    }

    /// <summary>Not part of the act, and in the order in which everybody locks photos.</summary>
    async Task WantAsync(PageId id, CancellationToken ct)
    {
        await using var want = db.Command(
            $"""
            update photo
               set wanted = true
             where id in (
               select p.id
                 from photo as p
                where p.id in (select shown.photo from page as pg cross join lateral ({PageStore.PhotosOfDraft}) as shown where pg.id = @id)
                  and p.stage < 2 and not p.wanted
                order by p.id
                  for no key update of p skip locked)
            """,
            ("id", id.Value));
        await want.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Plans the draft that was read, as it is, to become what visitors have at a time.</summary>
    public async Task<(PageOutcome Outcome, Done Done)> PlanAsync(Actor who, PageId id, long expected, DateTimeOffset at, CancellationToken ct)
    {
        var answer = await acts.RunAsync(
            who, ActKind.Planned,
            async act =>
            {
                if (await HeldAsync(act, id, expected, ct) is not PageOutcome.Written and var refused)
                {
                    return act.Drop(refused);
                }

                await using var plan = act.Command(
                    "update page set planned = draft, planned_at = @at where id = @id returning page_title(draft)", ("id", id.Value), ("at", at.ToUniversalTime()));
                var title = (string)(await plan.ExecuteScalarAsync(ct))!;
                act.Says = _ => $"Planned “{title}” to be published.";
                return PageOutcome.Written;
            },
            ct);
        if (answer.Answer == PageOutcome.Written)
        {
            await WantAsync(id, ct);
        }

        return answer;
    }

    /// <summary>Calls a plan off.</summary>
    public async Task<Done?> CallOffAsync(Actor who, PageId id, CancellationToken ct)
    {
        var (there, done) = await acts.RunAsync(
            who, ActKind.Planned,
            async act =>
            {
                await using var off = act.Command("update page set planned = null, planned_at = null where id = @id and binned is null returning page_title(draft)", ("id", id.Value));
                if (await off.ExecuteScalarAsync(ct) is not string title)
                {
                    return act.Drop(false);
                }

                act.Says = _ => $"Called off what was planned of “{title}”.";
                return true;
            },
            ct);
        return there ? done : null;
    }

    /// <summary>Publishes what was planned for now or before. Two processes that come to the same page wait for one another, and the second finds it done.</summary>
    /// <returns>How many pages it published.</returns>
    public async Task<int> PublishDueAsync(DateTimeOffset now, CancellationToken ct)
    {
        await using var due = db.Command("select id from page where planned_at <= @now and binned is null order by planned_at, id", ("now", now));
        var pages = await due.AllAsync(r => new PageId(r.GetGuid(0)), ct);
        var count = 0;
        foreach (var page in pages)
        {
            var (published, _) = await acts.RunAsync(
                Plan, ActKind.Published,
                async act =>
                {
                    await using var hold = act.Command("select id from page where id = @id and planned_at <= @now and binned is null for no key update", ("id", page.Value), ("now", now));
                    if (await hold.ExecuteScalarAsync(ct) is null)
                    {
                        return act.Drop(false);
                    }

                    await MakeAsync(act, page, "planned", ct);
                    return true;
                },
                ct);
            count += published ? 1 : 0;
        }

        return count;
    }

    /// <summary>The versions of a page, the latest first.</summary>
    public async Task<IReadOnlyList<VersionLine>> ListAsync(PageId id, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select v.number, page_title(v.content) as title, jsonb_array_length(coalesce(v.content -> 'blocks', '[0, 0, 0]')) as blocks,
                   v.made, v.made_by, pg.published is not null and pg.number = v.number as current
              from page_version as v
              join page as pg on pg.id = v.page and pg.binned is null
             where v.page = @id
             order by v.number desc
             limit 500
            """,
            ("id", id.Value));
        return await command.AllAsync(
            r => new VersionLine(r.Get<int>("number"), r.Get<string>("title"), r.Get<int>("blocks"), r.Get<DateTimeOffset>("made"), r.Get<string>("made_by"), r.Get<bool>("current")), ct);
    }

    /// <summary>What visitors had at a version.</summary>
    public async Task<PageContent?> FindAsync(PageId id, int number, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select pg.album, v.content::text as content
              from page_version as v
              join page as pg on pg.id = v.page and pg.binned is null
             where v.page = @id and v.number = @number
            """,
            ("id", id.Value), ("number", number));
        return await command.FirstAsync(r => PageText.Read(r.Get<string>("content"), r.MaybeId("album") is { } album ? new AlbumId(album) : null), ct);
    }

    /// <summary>Makes an earlier version the draft; visitors have what they have until it is published.</summary>
    public async Task<Done?> BackAsync(Actor who, PageId id, int number, CancellationToken ct)
    {
        var (there, done) = await acts.RunAsync(
            who, ActKind.BuiltPage,
            async act =>
            {
                await using var back = act.Command(
                    """
                    update page as pg
                       set draft = v.content, edited = pg.edited + 1
                      from page_version as v
                     where pg.id = @id and pg.binned is null and v.page = pg.id and v.number = @number
                    returning page_title(v.content)
                    """,
                    ("id", id.Value), ("number", number));
                if (await back.ExecuteScalarAsync(ct) is not string title)
                {
                    return act.Drop(false);
                }

                act.Says = _ => $"Took version {number} of “{title}” back as its draft.";
                return true;
            },
            ct);
        return there ? done : null;
    }

    /// <summary>What publishing the draft would change for visitors; null when the page is not there.</summary>
    public async Task<IReadOnlyList<PageChange>?> ChangesAsync(PageId id, CancellationToken ct)
    {
        await using var command = db.Command("select album, draft::text as draft, published::text as published from page where id = @id and binned is null", ("id", id.Value));
        return await command.FirstAsync<IReadOnlyList<PageChange>>(
            r =>
            {
                AlbumId? album = r.MaybeId("album") is { } of ? new AlbumId(of) : null;
                var before = r.MaybeText("published") is { } published ? PageText.Read(published, album) : null;
                var draft = PageText.Read(r.Get<string>("draft"), album);
                return before is null ? [] : PageDifference.Of(before, draft).Lines(before);
            },
            ct);
    }
}
