using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Contributions;
using Jovitar.Core.People;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Server.Acts;
using Jovitar.Server.Albums;
using Jovitar.Server.Intake;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Jovitar.Server.Platform.Storing;
using Npgsql;

namespace Jovitar.Server.Contributions;

/// <summary>Makes photos of what was accepted, tells whoever sent it, and lets go of what is not kept any longer. One process does it at a time.</summary>
internal sealed class Admission(
    NpgsqlDataSource db, ActRunner acts, IntakeStore intakes, Originals originals, Arrivals arrivals, Storage storage, SentFiles files, LetterStore letters, MailSettings mail, SettingsStore settings, TimeProvider clock)
{
    /// <summary>Somebody may decide on one photo after another: once none waits, so long passes before the letter.</summary>
    static readonly TimeSpan Calm = TimeSpan.FromMinutes(2);

    /// <summary>The letter says something for so long: what was decided before is no news any more, where letters begin to leave later.</summary>
    static readonly TimeSpan LetterHolds = TimeSpan.FromDays(3);

    /// <param name="Account">Of the member who sent it.</param>
    sealed record Coming(
        Guid Id, Guid Contribution, string FileName, string Title, string Caption, string By, string Name, Guid? Account, IntakeId? Intake, AlbumId? Album, string AlbumTitle, Guid? AlbumCategory, bool AlbumComments);

    /// <summary>Makes a photo of the next that was accepted.</summary>
    /// <returns>False when there is none.</returns>
    public async Task<bool> NextAsync(CancellationToken ct)
    {
        await using var find = db.CreateCommand(
            """
            select p.id, p.contribution, p.file_name, p.title, p.caption, p.decided_by, c.name, c.account,
                   (select i.id from intake as i where i.id = c.intake and i.taken_back is null) as intake,
                   (select a.id from album as a where a.id = c.album and a.binned is null) as album, c.album_title, c.album_category,
                   c.album_comments
              from contribution_photo as p
              join contribution as c on c.id = p.contribution
             where p.state = 'Accepted' and not p.is_in
             order by p.decided, p.contribution, p.place, p.id
             limit 1
            """);
        var coming = await find.FirstAsync(
            r => new Coming(
                r.Get<Guid>("id"), r.Get<Guid>("contribution"), r.Get<string>("file_name"), r.Get<string>("title"), r.Get<string>("caption"), r.Get<string>("decided_by"), r.Get<string>("name"), r.MaybeId("account"),
                r.MaybeId("intake") is { } intake ? new IntakeId(intake) : null, r.MaybeId("album") is { } album ? new AlbumId(album) : null, r.Get<string>("album_title"), r.MaybeId("album_category"), r.Get<bool>("album_comments")),
            ct);
        if (coming is null)
        {
            return false;
        }

        var key = StorageKeys.SentIn(coming.Id);
        if (await arrivals.MeasureAsync(key, ct) is not { } arrived)
        {
            await LoseAsync(coming, ct);
            return true;
        }

        if (coming.Intake is not { } into)
        {
            await BeginAsync(coming, ct);
            return true;
        }

        PictureSize size;
        using (var copy = await storage.LocalAsync(key) ?? throw new IOException($"What was sent in as “{coming.FileName}” is gone."))
        {
            size = Picture.Measure(copy.Path);
        }

        await originals.DoubtAsync(arrived.Hash, ct);
        await intakes.AddAsync(into, new Incoming(coming.FileName), arrived, PictureKinds.Judge(arrived.Head), size, preview: false, ct, (act, photo, isMade) => WriteAsync(act, coming, into, photo, isMade, ct));
        await files.DropAsync([coming.Id], pictures: false);
        return true;
    }

    /// <summary>Notes that a photo has come in, with the words of whoever sent it.</summary>
    /// <returns>False where it was taken back meanwhile.</returns>
    static async Task<bool> WriteAsync(Act act, Coming coming, IntakeId into, PhotoId photo, bool isMade, CancellationToken ct)
    {
        if (isMade)
        {
            await act.RunAsync(
                """
                update photo
                   set title = @title, caption = @caption, version = version + 1,
                       said = said || case when @title = '' then '{}'::jsonb else jsonb_build_object('title', @said) end
                         || case when @caption = '' then '{}'::jsonb else jsonb_build_object('caption', @said) end
                 where id = @photo and title = '' and caption = ''
                """,
                ct, ("photo", photo.Value), ("title", coming.Title), ("caption", coming.Caption), ("said", Said.Intake(into)));
        }

        return await act.RunAsync(
            """
            update contribution_photo
               set is_in = true, is_kept = false, photo = @photo, is_made = @made
             where id = @id and state = 'Accepted' and not is_in
            """,
            ct,
            ("id", coming.Id), ("photo", photo.Value), ("made", isMade)) == 1;
    }

    /// <summary>Begins what the photos of a contribution come in by, and makes the album that they are put into.</summary>
    async Task BeginAsync(Coming coming, CancellationToken ct)
    {
        var by = Actor.Worker(coming.By);
        var album = coming.Album ?? (coming.AlbumTitle.Length == 0 ? null : await MakeAlbumAsync(by, coming, ct));
        await intakes.BeginAsync(
            IntakeAbout.Nothing with { Album = album, Credit = coming.Name }, by, ct, "sent", coming.Name,
            (act, intake) => act.RunAsync("update contribution set intake = @intake where id = @id", ct, ("intake", intake.Value), ("id", coming.Contribution)));
    }

    async Task<AlbumId?> MakeAlbumAsync(Actor by, Coming coming, CancellationToken ct) => (await acts.RunAsync<AlbumId?>(
        by, ActKind.MadeAlbum,
        async act =>
        {
            act.Says = _ => ContributionWords.MadeAlbum(coming.AlbumTitle);
            await act.HoldAsync("category", coming.AlbumCategory is { } category ? [category] : [], ct);
            var album = await AlbumStore.MakeAsync(act, coming.AlbumTitle, coming.AlbumTitle, "", ct);
            await act.RunAsync("update album set has_comments = @comments where id = @id and has_comments <> @comments", ct, ("id", album.Value), ("comments", coming.AlbumComments));
            await act.RunAsync(
                """
                insert into album_category (album, category, said_by)
                select @id, c.id, @said from category as c where c.id = @category::uuid and c.binned is null
                """,
                ct,
                ("id", album.Value), ("category", coming.AlbumCategory), ("said", Said.Person));
            await act.RunAsync("update contribution set album = @album where id = @id", ct, ("album", album.Value), ("id", coming.Contribution));
            return album;
        },
        ct)).Answer;

    /// <summary>Its bytes are gone, by whatever fault: nobody waits for them for ever.</summary>
    async Task LoseAsync(Coming coming, CancellationToken ct)
    {
        await using var lose = db.Command(
            "update contribution_photo set state = 'Refused', is_kept = false, reason = @why where id = @id and state = 'Accepted' and not is_in",
            ("id", coming.Id), ("why", "Its file was lost here. Please send it again."));
        await lose.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Tells one whose photos are all decided on.</summary>
    /// <returns>False when there is nobody to tell.</returns>
    public async Task<bool> TellAsync(CancellationToken ct)
    {
        if (!mail.IsSet)
        {
            return false;
        }

        var now = clock.GetUtcNow();
        await using var tx = await db.BeginAsync(ct);
        await using var find = tx.Command(
            """
            select c.id, c.email, s.accepted, s.refused, array(
                     select p.reason
                       from contribution_photo as p
                      where p.contribution = c.id and p.state = 'Refused' and p.reason <> ''
                      group by p.reason
                      order by min(p.place)
                      limit 20) as reasons
              from contribution as c
             cross join lateral (
               select count(*) filter (where p.state = 'Accepted')::int as accepted,
                      count(*) filter (where p.state = 'Refused')::int as refused
                 from contribution_photo as p
                where p.contribution = c.id) as s
             where c.sent is not null and c.told is null and c.email <> ''
               and exists (select from contribution_photo as p where p.contribution = c.id and p.decided > @recent)
               and not exists (
                 select from contribution_photo as p
                  where p.contribution = c.id
                    and (p.state = 'Waiting' or p.state in ('Accepted', 'Refused') and p.decided > @calm))
             order by c.sent
             limit 1
               for no key update of c skip locked
            """,
            ("calm", now - Calm), ("recent", now - LetterHolds));
        if (await find.FirstAsync(
                r => Tuple.Create(r.Get<Guid>("id"), r.Get<string>("email"), r.Get<int>("accepted"), r.Get<int>("refused"), r.Get<string[]>("reasons")), ct) is not var (id, email, accepted, refused, reasons))
        {
            return false;
        }

        await tx.RunAsync("update contribution set told = @now where id = @id", ct, ("id", id), ("now", now));
        // Whoever took all of it back knows that.
        if (accepted + refused > 0)
        {
            var letter = Letters.Decided((await settings.ReadAsync(ct)).Title, accepted, refused, reasons);
            await letters.PutAsync(tx, "", email, letter.Subject, letter.Text, now + LetterHolds, ct);
        }

        await tx.CommitAsync(ct);
        return true;
    }

    /// <summary>Lets go of what was begun and never sent, at once where its link was withdrawn, and of the bytes of what was refused a while ago.</summary>
    public async Task ForgetAsync(CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var drafts = db.Command(
            """
            with gone as (
              delete from contribution
               where id in (
                 select c.id
                   from contribution as c
                   left join contribution_link as l on l.id = c.link
                  where c.sent is null and (c.begun < @before or l.revoked is not null)
                  order by c.begun
                  limit 500
                    for update of c skip locked)
              returning id)
            select p.id from contribution_photo as p where p.contribution in (select id from gone)
            """,
            ("before", now - Sending.DraftLife));
        await files.DropAsync(await drafts.AllAsync(r => r.GetGuid(0), ct), pictures: true);
        await using var refused = db.Command(
            "update contribution_photo set is_kept = false where is_kept and state = 'Refused' and decided < @before returning id", ("before", now - Sending.RefusedLife));
        await files.DropAsync(await refused.AllAsync(r => r.GetGuid(0), ct), pictures: true);
    }
}
