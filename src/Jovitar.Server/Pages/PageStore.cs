using System.Text.Json;
using System.Text.Json.Serialization;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Pages;

/// <summary>A page as the workroom has it.</summary>
/// <param name="Draft">What is being worked on.</param>
/// <param name="Published">Whether visitors can open it.</param>
/// <param name="Changed">Whether the draft differs from what visitors have.</param>
/// <param name="Edited">Counts the edits of the draft; expected by the next write.</param>
/// <param name="Picture">To know it by: its album's cover, else the first photo there.</param>
/// <param name="Views">How often visitors have looked at it within the last thirty days.</param>
internal sealed record PageLine(
    PageId Id, AlbumId Album, string AlbumName, int Photos, string Address, PageContent Draft, bool Published, bool Changed, DateTimeOffset? PublishedAt, AudienceLine Audience, long Edited,
    string? Picture, int Views);

/// <summary>How a write to a page ended.</summary>
internal enum PageOutcome
{
    Written,
    Gone,
    Stale,
    AddressTaken,
}

/// <summary>Pages, their drafts and what visitors have.</summary>
internal sealed class PageStore(NpgsqlDataSource db, ActRunner acts, AccessStore access)
{
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { Converters = { new TypedIdConverters(), new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) } };

    public async Task<IReadOnlyList<PageLine>> ListAsync(PageId? only, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select pg.id, pg.album, a.working_name, (select count(*) from album_photo as ap where ap.album = pg.album) as photos,
                   pg.address, pg.draft::text as draft,
                   pg.published is not null as published, coalesce(pg.published <> pg.draft, false) as changed,
                   pg.published_at, pg.edited, k.picture,
                   (select coalesce(sum(v.views), 0)::int from view_day as v where v.thing = pg.id and v.day > @since) as views
              from page as pg
              join album as a on a.id = pg.album
              left join lateral (
                select p.picture
                  from photo as p
                 where p.stage > 0
                   and p.id = coalesce(a.cover,
                     (select ap.photo from album_photo as ap where ap.album = a.id order by ap.place, ap.photo limit 1))) as k on true
             where pg.binned is null and (@only::uuid is null or pg.id = @only::uuid)
             order by pg.made desc, pg.id
            """,
            ("only", only?.Value), ("since", DateOnly.FromDateTime(access.Now.UtcDateTime).AddDays(-30)));
        return await command.AllAsync(
            r =>
            {
                var (published, changed) = (r.Get<bool>("published"), r.Get<bool>("changed"));
                return new PageLine(
                    new PageId(r.Get<Guid>("id")), new AlbumId(r.Get<Guid>("album")), r.Get<string>("working_name"), (int)r.Get<long>("photos"), r.Get<string>("address"), Read(r.Get<string>("draft")),
                    published, changed, r.Maybe<DateTimeOffset>("published_at"), AudienceLine.Of(new PageThing(Binned: false, published, changed), access.Now), r.Get<long>("edited"),
                    r.MaybeText("picture"), r.Get<int>("views"));
            },
            ct);
    }

    public async Task<PageLine?> FindAsync(PageId id, CancellationToken ct) => await ListAsync(id, ct) is [var line] ? line : null;

    /// <summary>Reads what is kept of a page; what an earlier version kept without lists has empty ones.</summary>
    public static PageContent Read(string json)
    {
        var content = JsonSerializer.Deserialize<PageContent>(json, Json)!;
        return content with { Text = content.Text ?? "", FilterCategories = content.FilterCategories ?? [], FilterTags = [.. (content.FilterTags ?? []).Distinct()] };
    }

    /// <summary>Makes a draft for an album under a free address made from its heading.</summary>
    /// <returns>Null when the album is not there.</returns>
    public async Task<PageId?> MakeAsync(Actor who, AlbumId album, string? heading, CancellationToken ct)
    {
        var (id, _) = await acts.RunAsync(who, ActKind.MadePage, act => MakeAsync(act, album, heading, ct), ct);
        return id;
    }

    static async Task<PageId?> MakeAsync(Act act, AlbumId album, string? heading, CancellationToken ct)
    {
        // Locked against being thrown away meanwhile.
        await using var find = act.Command("select coalesce(nullif(title, ''), working_name) as title, description from album where id = @album and binned is null for share", ("album", album.Value));
        if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("title"), r.Get<string>("description")), ct) is not var (title, description))
        {
            return act.Drop<PageId?>(null);
        }

        var id = new PageId(Guid.CreateVersion7(act.Now));
        var content = new PageContent(Text.Cut(heading ?? title, PageContent.LongestHeading), description, new LayoutSettings(LayoutKind.Rows, 240, 6), [], []);
        act.Says = _ => $"Made a page, “{content.Heading}”.";
        var address = await Addresses.FreeAsync(act, "page", PageAddress.From(content.Heading).Value, id.Value, ct);
        await act.RunAsync(
            "insert into page (id, album, address, draft, made) values (@id, @album, @address, @draft::jsonb, @now)", ct,
            ("id", id.Value), ("album", album.Value), ("address", address), ("draft", JsonSerializer.Serialize(content, Json)), ("now", act.Now));
        return id;
    }

    /// <summary>Writes the draft and the address. A new address of a published page is live at once, and the old one leads to it.</summary>
    public async Task<(PageOutcome Outcome, Done Done)> EditAsync(Actor who, PageId id, PageAddress address, PageContent draft, long expected, CancellationToken ct) =>
        await acts.RunAsync(
            who, ActKind.EditedPage,
            async act =>
            {
                if (await TakeAsync(act, id, expected, ct) is not PageOutcome.Written and var refused)
                {
                    return act.Drop(refused);
                }

                if (await Addresses.IsTakenAsync(act, "page", address.Value, id.Value, ct))
                {
                    return act.Drop(PageOutcome.AddressTaken);
                }

                act.GoesOn = id.Value;
                act.Says = _ => $"Worked on page “{draft.Heading}”.";
                await act.RunAsync(
                    "update page set address = @address, draft = @draft::jsonb, edited = edited + 1 where id = @id", ct,
                    ("id", id.Value), ("address", address.Value), ("draft", JsonSerializer.Serialize(draft with { Layout = draft.Layout.Bounded() }, Json)));
                return PageOutcome.Written;
            },
            ct);

    static async Task<PageOutcome> TakeAsync(Act act, PageId id, long expected, CancellationToken ct)
    {
        await using var read = act.Command("select edited from page where id = @id and binned is null for no key update", ("id", id.Value));
        return await read.ExecuteScalarAsync(ct) is not long edited ? PageOutcome.Gone : edited == expected ? PageOutcome.Written : PageOutcome.Stale;
    }

    /// <summary>Makes the draft that was read what visitors have, and its photos' larger renditions the next to be made.</summary>
    public async Task<(PageOutcome Outcome, Done Done)> PublishAsync(Actor who, PageId id, long expected, CancellationToken ct)
    {
        var answer = await acts.RunAsync(
            who, ActKind.Published,
            async act =>
            {
                if (await TakeAsync(act, id, expected, ct) is not PageOutcome.Written and var refused)
                {
                    return act.Drop(refused);
                }

                await using var publish = act.Command(
                    "update page set published = draft, published_at = coalesce(published_at, @now) where id = @id returning draft ->> 'heading'", ("id", id.Value), ("now", act.Now));
                var heading = (string)(await publish.ExecuteScalarAsync(ct))!;
                act.Says = _ => $"Published “{heading}”.";
                return PageOutcome.Written;
            },
            ct);
        if (answer.Answer == PageOutcome.Written)
        {
            // Not part of the act, and in the order in which everybody locks photos.
            await using var want = db.Command(
                """
                update photo
                   set wanted = true
                 where id in (
                   select p.id
                     from page as pg
                     join album_photo as ap on ap.album = pg.album
                     join photo as p on p.id = ap.photo
                    where pg.id = @id and p.stage < 2 and not p.wanted
                    order by p.id
                      for no key update of p skip locked)
                """,
                ("id", id.Value));
            await want.ExecuteNonQueryAsync(ct);
        }

        return answer;
    }

    /// <summary>Takes a page out of visitors' reach; its draft stays.</summary>
    public async Task<Done?> WithdrawAsync(Actor who, PageId id, CancellationToken ct)
    {
        var (there, done) = await acts.RunAsync(
            who, ActKind.Withdrawn,
            async act =>
            {
                await using var withdraw = act.Command(
                    "update page set published = null, published_at = null where id = @id and binned is null returning draft ->> 'heading'", ("id", id.Value));
                if (await withdraw.ExecuteScalarAsync(ct) is not string heading)
                {
                    return act.Drop(false);
                }

                act.Says = _ => $"Withdrew “{heading}”.";
                return true;
            },
            ct);
        return there ? done : null;
    }

    /// <summary>Throws a page in the bin; album and photos stay.</summary>
    public async Task<Done?> RemoveAsync(Actor who, PageId id, CancellationToken ct)
    {
        var (there, done) = await acts.RunAsync(
            who, ActKind.Binned,
            async act =>
            {
                await using var mark = act.Command("update page set binned = @now where id = @id and binned is null returning draft ->> 'heading'", ("id", id.Value), ("now", act.Now));
                if (await mark.ExecuteScalarAsync(ct) is not string heading)
                {
                    return act.Drop(false);
                }

                act.Says = _ => ActWords.Binned("page", heading);
                return true;
            },
            ct);
        return there ? done : null;
    }
}
