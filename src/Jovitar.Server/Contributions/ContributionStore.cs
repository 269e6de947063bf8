using Jovitar.Core;
using Jovitar.Core.Contributions;
using Jovitar.Core.People;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Jovitar.Server.People;
using Jovitar.Server.Platform.Storing;
using Npgsql;

namespace Jovitar.Server.Contributions;

/// <summary>A contribution as a change of it finds it, held.</summary>
sealed record HeldContribution(Guid Id, Guid? Link, Guid? Account, Contributing Contributing, string Name, string Email, bool IsSent, int Most, bool IsOpen, string Agree, AlbumId? LinkAlbum);

/// <summary>Photos that visitors send in: put together here, sent, and seen to afterwards by whoever sent them.</summary>
internal sealed class ContributionStore(NpgsqlDataSource db, AccessStore access, OwnerLetters owners, LetterStore letters, MailSettings mail, SettingsStore settings, SentFiles files, TimeProvider clock)
{
    /// <summary>The letter that says where one's photos are seen to holds for so long.</summary>
    static readonly TimeSpan LetterHolds = TimeSpan.FromDays(3);

    /// <summary>Begins a contribution.</summary>
    /// <param name="link">By which it is sent; null for a member's own.</param>
    /// <param name="member">Who sends it; null for somebody without an account.</param>
    /// <returns>What stands at the end of its address.</returns>
    public async Task<string> BeginAsync(Guid? link, Guid? member, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        var (id, receipt) = (Guid.CreateVersion7(now), member is null ? LinkSecret.New() : null);
        await using var command = db.Command(
            """
            insert into contribution (id, link, account, receipt, name, email, album, begun)
            select @id, @link::uuid, @member::uuid, @receipt::bytea, coalesce(a.name, ''), coalesce(a.email, ''),
                   (select l.album from contribution_link as l where l.id = @link::uuid), @now
              from (select) as one
              left join account as a on a.id = @member::uuid
            """,
            ("id", id), ("link", link), ("member", member), ("receipt", receipt is null ? null : LinkSecret.Hash(receipt)), ("now", now));
        await command.ExecuteNonQueryAsync(ct);
        return receipt ?? id.ToString();
    }

    /// <summary>Why no photo more is taken; null where one is. Asked before its bytes come.</summary>
    public async Task<SenderAnswer> RoomAsync(Sender sender, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        return await HoldAsync(tx, sender, ct) is { } held ? new SenderAnswer(true, await RefusesAsync(tx, held, ct), held.Most) : SenderAnswer.Gone;
    }

    /// <summary>Adds a photo that was looked at.</summary>
    /// <returns>Besides how it ended, the photo: the one that was there where the same bytes are among them already.</returns>
    public async Task<(SenderAnswer Answer, SentPhoto? Photo)> AddAsync(Sender sender, string fileName, Arrived arrived, SentPictures looked, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        var id = Guid.CreateVersion7(now);
        await using var tx = await db.BeginAsync(ct);
        if (await HoldAsync(tx, sender, ct) is not { } held)
        {
            return (SenderAnswer.Gone, null);
        }

        await using var same = tx.Command(
            "select id, file_name, width, height, title, caption, state, reason from contribution_photo where contribution = @id and hash = @hash", ("id", held.Id), ("hash", arrived.Hash));
        if (await same.FirstAsync(SentStore.ReadPhoto, ct) is { } there)
        {
            return (SenderAnswer.Done, there);
        }

        if (await RefusesAsync(tx, held, ct) is { } refusal)
        {
            return (new SenderAnswer(true, refusal, held.Most), null);
        }

        await files.KeepAsync(id, arrived, looked, ct);
        var photo = new SentPhoto(id, fileName, looked.Size.Width, looked.Size.Height, looked.Title, looked.Caption, SentState.Waiting, "");
        await tx.RunAsync(
            """
            insert into contribution_photo (id, contribution, place, file_name, hash, bytes, width, height, title, caption)
            values (@id, @contribution, (select coalesce(max(place), 0) + 1 from contribution_photo where contribution = @contribution),
              @name, @hash, @bytes, @width, @height, @title, @caption)
            """,
            ct, ("id", id), ("contribution", held.Id), ("name", fileName), ("hash", arrived.Hash), ("bytes", arrived.Bytes), ("width", photo.Width), ("height", photo.Height), ("title", photo.Title), ("caption", photo.Caption));
        await tx.CommitAsync(ct);
        return (SenderAnswer.Done, photo);
    }

    /// <summary>Writes the words of a photo that nobody has decided on.</summary>
    public Task<SenderAnswer> MendAsync(Sender sender, Guid photo, string title, string caption, CancellationToken ct) => ChangeAsync(
        sender,
        async (tx, held) => await tx.RunAsync(
            """
            update contribution_photo
               set title = @title, caption = @caption
             where id = @photo and contribution = @id and state = any(@mendable)
            """,
            ct,
            ("photo", photo), ("mendable", Enum.GetValues<SentState>().Where(Sending.CanMend).Select(s => s.ToString()).ToArray()), ("id", held.Id), ("title", title), ("caption", caption)) == 0 ? SendingRefusal.Decided : null,
        ct);

    /// <summary>Puts photos in another order; those that are not named stay behind them.</summary>
    public Task<SenderAnswer> OrderAsync(Sender sender, IReadOnlyList<Guid> photos, CancellationToken ct) => ChangeAsync(
        sender,
        async (tx, held) =>
        {
            if (held.IsSent)
            {
                return SendingRefusal.Sent;
            }

            await tx.RunAsync(
                """
                update contribution_photo as p
                   set place = o.place
                  from (
                    select id, row_number() over (order by array_position(@photos, id) nulls last, place, id)::int as place
                      from contribution_photo
                     where contribution = @id) as o
                 where p.id = o.id and p.place <> o.place
                """,
                ct, ("id", held.Id), ("photos", photos.ToArray()));
            return null;
        },
        ct);

    /// <summary>Sends what was put together.</summary>
    /// <param name="wish">What they say with it; without fault.</param>
    /// <param name="place">Where this is seen to, as a letter says it; null where none is to be written.</param>
    public Task<SenderAnswer> SendAsync(Sender sender, SendWish wish, AlbumWish album, string? place, CancellationToken ct) => ChangeAsync(
        sender,
        async (tx, held) =>
        {
            var now = clock.GetUtcNow();
            if (held.IsSent)
            {
                return SendingRefusal.Sent;
            }

            if (!held.IsOpen)
            {
                return SendingRefusal.Over;
            }

            await using var count = tx.Command(
                "select count(*)::int as photos from contribution_photo where contribution = @id and state = 'Waiting'", ("id", held.Id));
            if ((int)(await count.ExecuteScalarAsync(ct))! is var photos && photos == 0)
            {
                return SendingRefusal.Empty;
            }

            var (name, isTrusted) = (held.Account is null ? wish.Name : held.Name, held.Account is not null && held.Link is null && held.Contributing == Contributing.Trusted);
            await using var others = tx.Command(
                """
                select exists (
                  select from contribution_photo as p
                    join contribution as c on c.id = p.contribution and c.sent is not null
                   where p.state = 'Waiting')
                """);
            var isFirst = !(bool)(await others.ExecuteScalarAsync(ct))!;
            var own = held.Account is not null && held.Link is null;
            await tx.RunAsync(
                """
                update contribution
                   set name = @name, email = @email, words = @words, agreed = @agreed, sent = @now,
                       told = case when @trusted then @now end,
                       album = case when @own then (
                         select a.id
                           from album as a
                          where a.id = @album::uuid and a.binned is null
                            and a.id in (
                              select o.album from contribution as o where o.account = @account::uuid and o.link is null))
                         else @link_album::uuid end,
                       album_title = @title, album_comments = @comments, album_category = (
                         select k.id from category as k
                          where k.id = @category::uuid and k.id = any((select offered_categories from site)::uuid[]))
                 where id = @id
                """,
                ct, ("id", held.Id), ("name", name), ("email", held.Account is null ? wish.Email : held.Email), ("words", wish.Words), ("agreed", wish.Agreed ? held.Agree : ""), ("now", now), ("trusted", isTrusted), ("own", own), ("album", album.Album?.Value), ("account", held.Account),
                ("link_album", held.LinkAlbum?.Value), ("title", own && album.Album is null ? album.Title : ""), ("comments", own && album.Album is null && album.Comments), ("category", own && album.Album is null ? album.Category?.Value : null));
            if (isTrusted)
            {
                await tx.RunAsync(
                    "update contribution_photo set state = 'Accepted', decided = @now, decided_by = @name where contribution = @id and state = 'Waiting'", ct, ("id", held.Id), ("now", now), ("name", name));
            }

            if (isFirst && !isTrusted)
            {
                // Once until somebody has seen to what waits: a letter for each would be a flood of them.
                await owners.PutAsync(tx, now, (site, owner, origin) => Letters.SentIn(site, owner, name, photos, origin is null ? null : $"{origin}/workroom/contributions"), ct);
            }

            if (place is not null && wish.Email.Length > 0 && mail.IsSet)
            {
                var letter = Letters.Receipt((await settings.ReadAsync(ct)).Title, photos, place);
                await letters.PutAsync(tx, "", wish.Email, letter.Subject, letter.Text, now + LetterHolds, ct);
            }

            return null;
        },
        ct);

    /// <summary>Takes a photo back that nobody has accepted, or takes it out of what is put together. Its bytes go at once.</summary>
    /// <returns>Besides how it ended, what it became where it was accepted and is here: that is another's to take out.</returns>
    public async Task<(SenderAnswer Answer, AcceptedPhoto? Accepted)> WithdrawAsync(Sender sender, Guid photo, CancellationToken ct)
    {
        AcceptedPhoto? accepted = null;
        var isGone = false;
        var answer = await ChangeAsync(
            sender,
            async (tx, held) =>
            {
                accepted = null;
                await using var find = tx.Command(
                    """
                    select p.state, p.is_in, p.photo,
                           p.is_made and not exists (
                             select from intake_file as f where f.photo = p.photo and f.intake <> c.intake) as is_theirs
                      from contribution_photo as p
                      join contribution as c on c.id = p.contribution
                     where p.id = @photo and p.contribution = @id
                       for no key update of p
                    """,
                    ("photo", photo), ("id", held.Id));
                if (await find.FirstAsync(r => Tuple.Create(Enum.Parse<SentState>(r.Get<string>("state")), r.Get<bool>("is_in"), r.MaybeId("photo"), r.Get<bool>("is_theirs")), ct) is not var (state, isIn, became, isTheirs))
                {
                    return SendingRefusal.Decided;
                }

                if (!Sending.CanWithdraw(state))
                {
                    return SendingRefusal.Decided;
                }

                // What others brought, too, before or since, is theirs as well and stays.
                if (isIn && isTheirs && became is { } there)
                {
                    accepted = new AcceptedPhoto(new PhotoId(there), held.Account, held.Name);
                    return null;
                }

                isGone = true;
                await tx.RunAsync(
                    held.IsSent ? "update contribution_photo set state = 'Withdrawn', is_kept = false, decided = @now where id = @photo" : "delete from contribution_photo where id = @photo", ct,
                    ("photo", photo), ("now", clock.GetUtcNow()));
                return null;
            },
            ct);
        if (answer.Refusal is null && isGone)
        {
            await files.DropAsync([photo], pictures: true);
        }

        return (answer, answer.Refusal is null ? accepted : null);
    }

    /// <summary>Does something with a contribution, held meanwhile. What is refused leaves no trace.</summary>
    async Task<SenderAnswer> ChangeAsync(Sender sender, Func<Transaction, HeldContribution, Task<SendingRefusal?>> change, CancellationToken ct) => await Database.AgainAsync(
        async () =>
        {
            await using var tx = await db.BeginAsync(ct);
            if (await HoldAsync(tx, sender, ct) is not { } held)
            {
                return SenderAnswer.Gone;
            }

            if (await change(tx, held) is { } refusal)
            {
                return new SenderAnswer(true, refusal, held.Most);
            }

            await tx.CommitAsync(ct);
            return SenderAnswer.Done;
        },
        ct);

    /// <summary>Holds a contribution, after its link and its account: neither becomes something else in the middle of a change.</summary>
    async Task<HeldContribution?> HoldAsync(Transaction tx, Sender sender, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var whose = tx.Command($"select c.id, c.link from contribution as c where {sender.Sql}", sender.Parameters);
        if (await whose.FirstAsync(r => Tuple.Create(r.Get<Guid>("id"), r.MaybeId("link")), ct) is not var (id, by))
        {
            return null;
        }

        var link = by is { } known ? await LinkStore.HeldAsync(tx, known, now, ct) : null;
        await using var account = tx.Command(
            "select contributing from account as a where a.id = @account::uuid and a.role = 'Member' for share", ("account", sender.Account));
        var contributing = await account.ExecuteScalarAsync(ct) is string text ? Enum.Parse<Contributing>(text) : Contributing.No;
        await using var hold = tx.Command(
            """
            select c.id, c.link, c.account, c.name, c.email, c.sent is not null as is_sent,
                   (
                     select a.id
                       from contribution_link as l
                       join album as a on a.id = l.album and a.binned is null
                      where l.id = c.link) as album
              from contribution as c
             where c.id = @id
               for no key update of c
            """,
            ("id", id));
        return await hold.FirstAsync(
            r => new HeldContribution(
                r.Get<Guid>("id"), r.MaybeId("link"), r.MaybeId("account"), contributing, r.Get<string>("name"), r.Get<string>("email"), r.Get<bool>("is_sent"), link?.Words.Most ?? Sending.MostPhotos,
                SentStore.Takes(access, link?.Thing, r.MaybeId("account"), contributing), link?.Words.Agree ?? "", r.MaybeId("album") is { } album ? new AlbumId(album) : null),
            ct);
    }

    static async Task<SendingRefusal?> RefusesAsync(Transaction tx, HeldContribution held, CancellationToken ct)
    {
        if (!held.IsOpen)
        {
            return SendingRefusal.Over;
        }

        await using var count = tx.Command(
            $"""
            select (select count(*)::int from contribution_photo where contribution = @id) as here, count(*)::int as waiting,
                   coalesce(sum(p.bytes), 0)::bigint as bytes
              from contribution_photo as p
              join contribution as c on c.id = p.contribution
             where p.state = 'Waiting' and {(held.Link is null ? "c.account = @account" : "c.link = @link")}
            """,
            ("id", held.Id), ("account", held.Account), ("link", held.Link));
        var (here, waiting, bytes) = (await count.FirstAsync(r => Tuple.Create(r.Get<int>("here"), r.Get<int>("waiting"), r.Get<long>("bytes")), ct))!;
        return Sending.RefusesMore(held.IsSent, here, held.Most, waiting, bytes);
    }
}

/// <summary>A photo that was made of one that somebody sent in.</summary>
internal sealed record AcceptedPhoto(PhotoId Photo, Guid? Account, string Name);
