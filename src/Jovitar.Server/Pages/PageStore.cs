using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Pages;

/// <summary>A page as the workroom has it.</summary>
/// <param name="Draft">What is being worked on.</param>
/// <param name="Published">Whether visitors can open it.</param>
/// <param name="Changed">Whether the draft differs from what visitors have.</param>
/// <param name="Edited">Counts the edits of the draft; expected by the next one.</param>
internal sealed record PageLine(
    PageId Id, AlbumId Album, string AlbumName, int Photos, string Address, PageContent Draft, bool Published, bool Changed, DateTimeOffset? PublishedAt, AudienceLine Audience, long Edited);

/// <summary>Why an edit of a page was not written.</summary>
internal enum PageRefusal
{
    None,
    Stale,
    AddressTaken,
}

/// <summary>Pages, their drafts and what visitors have.</summary>
internal sealed class PageStore(NpgsqlDataSource db, TimeProvider clock)
{
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { Converters = { new TypedIdConverters(), new System.Text.Json.Serialization.JsonStringEnumConverter(JsonNamingPolicy.CamelCase) } };

    public async Task<IReadOnlyList<PageLine>> ListAsync(PageId? only, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select pg.id, pg.album, a.working_name, (select count(*) from album_photo as ap where ap.album = pg.album), pg.address, pg.draft::text,
                   pg.published is not null, pg.published is not null and pg.edited <> pg.published_edit, pg.published_at, pg.edited
              from page as pg join album as a on a.id = pg.album
             where @only::uuid is null or pg.id = @only::uuid
             order by pg.made desc, pg.id
            """,
            ("only", only?.Value));
        return await command.AllAsync(
            r => new PageLine(
                new PageId(r.GetGuid(0)), new AlbumId(r.GetGuid(1)), r.GetString(2), (int)r.GetInt64(3), r.GetString(4), Read(r.GetString(5)),
                r.GetBoolean(6), r.GetBoolean(7), r.Maybe<DateTimeOffset>(8), AudienceLine.ForPage(r.GetBoolean(6), r.GetBoolean(7)), r.GetInt64(9)),
            ct);
    }

    public async Task<PageLine?> FindAsync(PageId id, CancellationToken ct) => await ListAsync(id, ct) is [var line] ? line : null;

    public static PageContent Read(string json) => JsonSerializer.Deserialize<PageContent>(json, Json)!;

    /// <summary>Makes a draft for an album under a free address made from its heading.</summary>
    public async Task<PageId?> MakeAsync(AlbumId album, string? heading, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await using var find = tx.Command("select coalesce(nullif(title, ''), working_name), description from album where id = @album", ("album", album.Value));
        if (await find.FirstAsync(r => Tuple.Create(r.GetString(0), r.GetString(1)), ct) is not { } words)
        {
            return null;
        }

        var id = new PageId(Guid.CreateVersion7(clock.GetUtcNow()));
        var content = new PageContent(heading ?? words.Item1, words.Item2, new LayoutSettings(LayoutKind.Rows, 240, 6), [], []);
        var wish = PageAddress.From(content.Heading).Value;
        for (var n = 1; ; n++)
        {
            var address = n == 1 ? wish : $"{wish[..Math.Min(wish.Length, PageAddress.Longest - 6)]}-{n}";
            var made = await tx.RunAsync(
                """
                insert into page (id, album, address, draft, made)
                select @id, @album, @address, @draft::jsonb, @now where not exists (select from page_former_address where address = @address)
                on conflict (address) do nothing
                """,
                ct, ("id", id.Value), ("album", album.Value), ("address", address), ("draft", JsonSerializer.Serialize(content, Json)), ("now", clock.GetUtcNow()));
            if (made == 1)
            {
                await tx.CommitAsync(ct);
                return id;
            }
        }
    }

    /// <summary>Writes the draft and the address. A new address of a published page is live at once, and the old one leads to it.</summary>
    public async Task<PageRefusal> EditAsync(PageId id, PageAddress address, PageContent draft, long expected, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await using var read = tx.Command("select address from page where id = @id and edited = @expected for update", ("id", id.Value), ("expected", expected));
        if (await read.ExecuteScalarAsync(ct) is not string old)
        {
            return PageRefusal.Stale;
        }

        if (old != address.Value)
        {
            await using var taken = tx.Command(
                "select exists (select from page where address = @address) or exists (select from page_former_address where address = @address and page <> @id)",
                ("address", address.Value), ("id", id.Value));
            if ((bool)(await taken.ExecuteScalarAsync(ct))!)
            {
                return PageRefusal.AddressTaken;
            }

            await tx.RunAsync("delete from page_former_address where address = @address", ct, ("address", address.Value));
            await tx.RunAsync("insert into page_former_address (address, page) select @old, id from page where id = @id and published is not null on conflict (address) do update set page = excluded.page", ct, ("old", old), ("id", id.Value));
        }

        await tx.RunAsync(
            "update page set address = @address, draft = @draft::jsonb, edited = edited + 1, version = version + 1 where id = @id", ct,
            ("id", id.Value), ("address", address.Value), ("draft", JsonSerializer.Serialize(draft with { Layout = draft.Layout.Bounded() }, Json)));
        await tx.CommitAsync(ct);
        return PageRefusal.None;
    }

    /// <summary>Makes the draft what visitors have, and its photos' larger renditions the next to be made.</summary>
    public async Task<bool> PublishAsync(PageId id, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        var done = await tx.RunAsync(
            "update page set published = draft, published_edit = edited, published_at = coalesce(published_at, @now), version = version + 1 where id = @id", ct, ("id", id.Value), ("now", clock.GetUtcNow()));
        await tx.RunAsync(
            """
            update photo set wanted = true
             where stage < 2 and not wanted and id in (select ap.photo from album_photo as ap join page as pg on pg.album = ap.album where pg.id = @id)
            """,
            ct, ("id", id.Value));
        await tx.CommitAsync(ct);
        return done == 1;
    }

    /// <summary>Takes a page out of visitors' reach; its draft stays.</summary>
    public async Task<bool> WithdrawAsync(PageId id, CancellationToken ct)
    {
        await using var command = db.Command("update page set published = null, published_edit = null, published_at = null, version = version + 1 where id = @id", ("id", id.Value));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }

    public async Task RemoveAsync(PageId id, CancellationToken ct)
    {
        await using var command = db.Command("delete from page where id = @id", ("id", id.Value));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Raises the version of every page that shows one of these photos.</summary>
    public static Task<int> TouchAsync(Transaction tx, IReadOnlyList<PhotoId> photos, CancellationToken ct) => photos.Count == 0 ? Task.FromResult(0) : tx.RunAsync(
        "update page set version = version + 1 where album in (select album from album_photo where photo = any(@photos))", ct, ("photos", photos.Select(p => p.Value).ToArray()));

    /// <summary>Raises the version of every page of an album.</summary>
    public static Task<int> TouchAlbumAsync(Transaction tx, AlbumId album, CancellationToken ct) =>
        tx.RunAsync("update page set version = version + 1 where album = @album", ct, ("album", album.Value));

    /// <summary>Raises the version of all pages: something that any of them may show has changed.</summary>
    public static Task<int> TouchAllAsync(Transaction tx, CancellationToken ct) => tx.RunAsync("update page set version = version + 1", ct);
}
