using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Intake;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;
using Jovitar.Imaging;
using Jovitar.Server.Acts;
using Jovitar.Server.Bins;
using Jovitar.Server.Files;
using Jovitar.Server.Intake.Archives;
using Jovitar.Server.Intake.Sidecars;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>What became of one file.</summary>
/// <param name="Outcome"><c>arrived</c>, <c>already_here</c>, <c>kept</c> (as a file), <c>sidecar</c>, <c>archive</c> (a ZIP), <c>skipped</c>, <c>refused</c> or <c>dropped</c>.</param>
/// <param name="State">The photo's state now: <c>waiting</c>, <c>ready</c>, <c>failed</c> or <c>binned</c>; null when it is no photo.</param>
/// <param name="Preview">Whether the picture out of the file itself can be shown meanwhile.</param>
/// <param name="Reason">Why it was refused, skipped or failed, a sentence; or what was cut off its name.</param>
internal sealed record IntakeFile(int Number, string FileName, string Path, string Outcome, PhotoId? Photo, string? Picture, string? State, bool Preview, string? Reason);

/// <summary>An intake as whatever arrives finds it.</summary>
/// <param name="Act">The act that began it; null for one from before acts were recorded.</param>
internal sealed record OpenIntake(IntakeAbout About, Actor BegunBy, ActId? Act);

/// <summary>Intakes and what became of their files.</summary>
internal sealed class IntakeStore(NpgsqlDataSource db, ActRunner acts, Originals originals, TimeProvider clock)
{
    /// <param name="also">What else is written with it.</param>
    public async Task<IntakeId> BeginAsync(IntakeAbout about, Actor by, CancellationToken ct, string cameBy = "computer", string label = "", Func<Act, IntakeId, Task>? also = null)
    {
        var id = new IntakeId(Guid.CreateVersion7(clock.GetUtcNow()));
        await acts.RunAsync(
            by, ActKind.Intake,
            async act =>
            {
                act.Says = _ => ActWords.Intake(cameBy, label);
                await act.RunAsync(
                    """
                    insert into intake (id, act, album, begun, begun_by, account, came_by, label, credit, copyright, licence, origin,
                           tags, categories)
                    values (@id, @act, (select a.id from album as a where a.id = @album::uuid and a.binned is null), @now, @by,
                      @account::uuid, @came, @label, @credit, @copyright, @licence, @origin, @tags, @categories)
                    """,
                    ct, [("id", id.Value), ("act", act.Id.Value), ("now", act.Now), ("by", by.Name), ("account", by.Account), ("came", cameBy), ("label", label), .. about.Parameters()]);
                if (also is not null)
                {
                    await also(act, id);
                }

                return true;
            },
            ct);
        return id;
    }

    /// <summary>What is said of all that an intake brings, read for whatever arrives next. What is said anew waits until it has arrived, and then holds for it, too.</summary>
    /// <returns>Null when the intake is not there, or was taken back.</returns>
    static async Task<OpenIntake?> OpenAsync(Act act, IntakeId id, CancellationToken ct)
    {
        await using var command = act.Command($"{IntakeAbouts.Sql} where id = @id and taken_back is null for share", ("id", id.Value));
        return await command.FirstAsync(
            r => new OpenIntake(IntakeAbouts.Read(r), new Actor(r.MaybeId("account"), r.Get<string>("begun_by")), r.MaybeId("act") is { } begun ? new ActId(begun) : null), ct);
    }

    /// <summary>Whether an intake takes files.</summary>
    public async Task<bool> IsOpenAsync(IntakeId id, CancellationToken ct)
    {
        await using var command = db.Command("select exists (select from intake where id = @id and taken_back is null)", ("id", id.Value));
        return (bool)(await command.ExecuteScalarAsync(ct))!;
    }

    public async Task<IReadOnlyList<PhotoId>> PhotosAsync(IntakeId id, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select f.photo
              from intake_file as f
              join photo as p on p.id = f.photo and p.binned is null
             where f.intake = @id
             order by f.number
            """,
            ("id", id.Value));
        return await command.AllAsync(r => new PhotoId(r.GetGuid(0)), ct);
    }

    /// <summary>Something arrives: an act within the one that began the intake, done by who began it.</summary>
    async Task<IntakeFile?> ArriveAsync(IntakeId intake, Func<Act, IntakeAbout, Task<IntakeFile?>> arrive, CancellationToken ct)
    {
        var (file, _) = await acts.RunAsync(
            Actor.Worker("intake"), ActKind.Arrived,
            async act =>
            {
                if (await OpenAsync(act, intake, ct) is not { } open)
                {
                    return act.Drop<IntakeFile?>(null);
                }

                act.Who = open.BegunBy;
                act.Within = open.Act;
                return await arrive(act, open.About);
            },
            ct);
        return file;
    }

    sealed record Found(PhotoId Id, string State, string? Failure, bool Preview, bool Binned);

    /// <summary>Makes a photo of a file that has arrived, or links the one with the same bytes, and notes it in the intake: all or nothing.</summary>
    /// <param name="also">What else is written of the photo, made or found; false where nothing is to be.</param>
    /// <returns>Null when the intake is not there, or nothing was to be written.</returns>
    public Task<IntakeFile?> AddAsync(IntakeId intake, Incoming incoming, Arrived arrived, PictureKind kind, PictureSize size, bool preview, CancellationToken ct, Func<Act, PhotoId, bool, Task<bool>>? also = null) => ArriveAsync(
        intake,
        async (act, about) =>
        {
            act.Says = _ => $"Brought in “{incoming.FileName}”.";
            var said = Said.Intake(intake);
            // In the order in which everybody locks: the name, tags, the album, then the photo.
            await SidecarStore.HoldAsync(act, intake, incoming, ct);
            var beside = await SidecarStore.TagsOfAsync(act, intake, incoming, ct);
            if (beside is not null)
            {
                // All at once, in their order; what follows finds them held.
                await TagStore.MakeSureAsync(act, TagName.All([.. about.Tags, .. beside.Select(t => t.Text)]), ct);
            }

            var put = await IntakeAbouts.PrepareAsync(act, about, ct);
            await originals.KeepAsync(act, arrived, ct);
            var (photo, made) = await MakeAsync(act, incoming, arrived, kind, size, preview, about, said, ct);
            if (photo.Binned)
            {
                // Brought again, it comes back out of the bin with all it had.
                await BinStore.UnmarkAsync(act, "photo", [photo.Id.Value], ct);
            }

            var outcome = made || photo.Binned ? "arrived" : "already_here";
            if (await NoteAsync(act, intake, incoming, new Noted(outcome, arrived.Bytes, arrived.Mark, Photo: photo.Id, Reason: incoming.Remark), ct) is not { } number)
            {
                return act.Drop<IntakeFile?>(null);
            }

            await IntakeAbouts.PutOnAsync(act, put, [photo.Id], said, ct);
            if (!made)
            {
                await IntakeAbouts.WordsAsync(act, [photo.Id], about.Differing(IntakeAbout.Nothing), said, ct);
            }

            if (beside is not null)
            {
                await SidecarStore.PutOnAsync(act, intake, incoming, [photo.Id], await TagStore.FindAsync(act, beside, ct), ct);
            }

            if (also is not null && !await also(act, photo.Id, outcome == "arrived"))
            {
                return act.Drop<IntakeFile?>(null);
            }

            await Originals.SettleAsync(act, arrived, ct);
            if (outcome == "arrived")
            {
                await act.RunAsync($"notify {PhotoQueue.Channel}", ct);
            }

            return new IntakeFile(number, incoming.FileName, incoming.Path, outcome, photo.Id, arrived.HashText, photo.State, photo.Preview, photo.Failure ?? incoming.Remark);
        },
        ct);

    /// <summary>The photo with these bytes, locked; made where there is none.</summary>
    static async Task<(Found Photo, bool Made)> MakeAsync(
        Act act, Incoming incoming, Arrived arrived, PictureKind kind, PictureSize size, bool preview, IntakeAbout about, string said, CancellationToken ct)
    {
        while (true)
        {
            var made = await act.RunAsync(
                """
                insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, preview, credit, copyright,
                       licence, origin, said)
                values (@id, @hash, @name, @type, @bytes, @width, @height, @now, @preview, @credit, @copyright, @licence, @origin,
                  @said::jsonb)
                on conflict (hash, part) do nothing
                """,
                ct,
                [("id", Guid.CreateVersion7(act.Now)), ("hash", arrived.Hash), ("name", incoming.FileName), ("type", PictureKinds.MediaType(kind)), ("bytes", arrived.Bytes), ("width", size.Width),
                ("height", size.Height), ("now", act.Now), ("preview", preview), ("said", about.SaidBy(said)), .. about.Words()]) == 1;
            await using var find = act.Command("select id, state, failure, preview, binned is not null as binned from photo where hash = @hash and part = 0 for no key update", ("hash", arrived.Hash));
            if (await find.FirstAsync(r => new Found(new PhotoId(r.Get<Guid>("id")), r.Get<string>("state"), r.MaybeText("failure"), r.Get<bool>("preview"), r.Get<bool>("binned")), ct) is { } photo)
            {
                return (photo, made);
            }

            // It was there when this one should have been made, and was removed for good before it could be locked.
        }
    }

    /// <summary>Keeps what a sidecar says, and puts it onto the photos it lies beside; one that comes later finds it.</summary>
    public Task<IntakeFile?> KeepSidecarAsync(IntakeId intake, Incoming incoming, Arrived arrived, PhotoMetadata says, CancellationToken ct) => ArriveAsync(
        intake,
        async (act, _) =>
        {
            act.Says = _ => $"Read the sidecar “{incoming.FileName}”.";
            var words = FileWords.Of(says);
            var remark = words.SidecarRemark ?? incoming.Remark;
            await SidecarStore.HoldAsync(act, intake, incoming, ct);
            var tags = await TagStore.MakeSureAsync(act, words.Tags, ct);
            var photos = await SidecarStore.KeepAsync(act, intake, incoming, says, words, ct);
            if (await NoteAsync(act, intake, incoming, new Noted("sidecar", arrived.Bytes, arrived.Mark, Reason: remark), ct) is not { } number)
            {
                return act.Drop<IntakeFile?>(null);
            }

            await SidecarStore.PutOnAsync(act, intake, incoming, photos, tags, ct);
            return new IntakeFile(number, incoming.FileName, incoming.Path, "sidecar", null, null, null, false, remark);
        },
        ct);

    /// <summary>Keeps what is no photo as a file, attached to the intake's album.</summary>
    public Task<IntakeFile?> KeepFileAsync(IntakeId intake, Incoming incoming, Arrived arrived, JudgedFile judged, CancellationToken ct) => ArriveAsync(
        intake,
        async (act, about) =>
        {
            act.Says = _ => $"Brought in “{incoming.FileName}”.";
            if (about.Album is { } locked)
            {
                await act.LockAsync("album", [locked.Value], ct);
            }

            await originals.KeepAsync(act, arrived, ct);
            var (file, made) = await FileStore.AddAsync(act, incoming.FileName, arrived, judged, ct);
            if (about.Album is { } album)
            {
                await FileStore.AttachAsync(act, file, album, ct);
            }

            var outcome = made ? "kept" : "already_here";
            if (await NoteAsync(act, intake, incoming, new Noted(outcome, arrived.Bytes, arrived.Mark, File: file, Reason: incoming.Remark), ct) is not { } number)
            {
                return act.Drop<IntakeFile?>(null);
            }

            await Originals.SettleAsync(act, arrived, ct);
            return new IntakeFile(number, incoming.FileName, incoming.Path, outcome, null, null, null, false, incoming.Remark);
        },
        ct);

    /// <summary>Notes a ZIP and has it unpacked; its bytes lie under a name among what arrives.</summary>
    public async Task<IntakeFile?> UnpackAsync(IntakeId intake, Incoming incoming, Arrived arrived, string stored, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        if (await NoteAsync(tx, intake, incoming, new Noted("archive", arrived.Bytes, arrived.Mark), ct) is not { } number)
        {
            return null;
        }

        await tx.RunAsync(
            "insert into unpacking (id, intake, number, file_name, stored, begun) values (@id, @intake, @number, @name, @stored, @now)", ct,
            ("id", Guid.CreateVersion7(clock.GetUtcNow())), ("intake", intake.Value), ("number", number), ("name", incoming.FileName), ("stored", stored), ("now", clock.GetUtcNow()));
        await tx.RunAsync($"notify {UnpackingStore.Channel}", ct);
        await tx.CommitAsync(ct);
        return new IntakeFile(number, incoming.FileName, incoming.Path, "archive", null, null, null, false, null);
    }

    /// <summary>Notes a file that was refused, or that was passed over in a ZIP.</summary>
    public async Task<IntakeFile?> RefuseAsync(IntakeId intake, Incoming incoming, IntakeProblem problem, string reason, long bytes, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        var outcome = problem == IntakeProblem.NotUnpacked ? "skipped" : "refused";
        var number = await NoteAsync(tx, intake, incoming, new Noted(outcome, bytes, Cause: problem, Reason: reason), ct);
        if (number is null)
        {
            return null;
        }

        await tx.CommitAsync(ct);
        return new IntakeFile(number.Value, incoming.FileName, incoming.Path, outcome, null, null, null, false, reason);
    }

    sealed record Noted(string Outcome, long Bytes, byte[]? Mark = null, PhotoId? Photo = null, FileId? File = null, IntakeProblem? Cause = null, string? Reason = null);

    /// <returns>The line's number; null when the intake is not there or was taken back, or when the upload was ended or is a line already. Nothing may be committed then.</returns>
    async Task<int?> NoteAsync(Transaction tx, IntakeId intake, Incoming incoming, Noted noted, CancellationToken ct)
    {
        await using var note = tx.Command(
            """
            insert into intake_file (intake, file_name, path, photo, file, outcome, cause, reason, bytes, came, unpacking, entry, changed,
                   mark)
            select i.id, @name, @path, @photo::uuid, @file::uuid, @outcome, @cause::text, @reason::text, @bytes, @now, @unpacking::uuid,
                   @entry::int, @changed::bigint, @mark::bytea
              from intake as i
             where i.id = @intake and i.taken_back is null
            returning number
            """,
            ("intake", intake.Value), ("name", incoming.FileName), ("path", incoming.Path), ("photo", noted.Photo?.Value), ("file", noted.File?.Value), ("outcome", noted.Outcome),
            ("cause", noted.Cause?.ToString()), ("reason", noted.Reason), ("bytes", noted.Bytes), ("now", clock.GetUtcNow()), ("unpacking", incoming.Unpacking), ("entry", incoming.Entry),
            ("changed", incoming.Changed), ("mark", noted.Mark));
        var number = await note.ExecuteScalarAsync(ct) as int?;
        if (number is not null && incoming.Upload is { } upload)
        {
            // In the same transaction, so that an upload never becomes two lines.
            if (await tx.RunAsync("update upload set number = @number where id = @id and number is null", ct, ("id", upload.Value), ("number", number)) == 0)
            {
                return null;
            }

            // Earlier tries of the same file whose end never came are not awaited any more.
            await tx.RunAsync(
                """
                delete from upload as old
                 using upload as done
                 where done.id = @id and old.intake = done.intake and old.number is null and old.id <> done.id
                   and old.file_name = done.file_name and old.path = done.path and old.bytes = done.bytes and old.changed = done.changed
                """,
                ct, ("id", upload.Value));
        }

        return number;
    }
}
