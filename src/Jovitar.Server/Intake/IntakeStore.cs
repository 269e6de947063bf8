using Jovitar.Core;
using Jovitar.Core.Intake;
using Jovitar.Imaging;
using Jovitar.Server.Files;
using Jovitar.Server.Intake.Archives;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>Something on its way in: what it is called, where it lay, and which entry of a ZIP or which upload it was.</summary>
/// <param name="Path">The folders it lay in, <c>day 2/pier</c>; empty for none.</param>
internal sealed record Incoming(string FileName, string Path = "")
{
    public Guid? Unpacking { get; init; }

    public int? Entry { get; init; }

    public UploadId? Upload { get; init; }

    /// <summary>A name and a path as a browser or a ZIP gives them, cleaned of what no file is called.</summary>
    public static Incoming Named(string name, string? path = null)
    {
        var parts = $"{path}/{name}".Split('/', '\\').Select(Clean).Where(p => p.Length > 0 && p is not ("." or "..")).ToArray();
        var file = parts.Length == 0 ? "unnamed" : parts[^1];
        var folders = string.Join('/', parts.SkipLast(1));
        return new Incoming(file.Length > 200 ? file[^200..] : file, folders.Length > 600 ? folders[..600] : folders);
    }

    static string Clean(string part) => string.Concat(part.Where(c => !char.IsControl(c))).Trim();
}

/// <summary>What became of one file.</summary>
/// <param name="Outcome"><c>arrived</c>, <c>already_here</c>, <c>kept</c> (as a file), <c>archive</c> (a ZIP), <c>skipped</c>, <c>refused</c> or <c>dropped</c>.</param>
/// <param name="State">The photo's state now: <c>waiting</c>, <c>ready</c>, <c>failed</c> or <c>binned</c>; null when it is no photo.</param>
/// <param name="Preview">Whether the picture out of the file itself can be shown meanwhile.</param>
/// <param name="Reason">Why it was refused, skipped or failed, a sentence.</param>
internal sealed record IntakeFile(int Number, string FileName, string Path, string Outcome, PhotoId? Photo, string? Hash, string? State, bool Preview, string? Reason);

/// <summary>Intakes and what became of their files.</summary>
internal sealed class IntakeStore(NpgsqlDataSource db, FileStore files, TimeProvider clock)
{
    public async Task<IntakeId> BeginAsync(IntakeAbout about, string by, CancellationToken ct, string cameBy = "computer", string label = "")
    {
        var id = new IntakeId(Guid.CreateVersion7(clock.GetUtcNow()));
        await using var command = db.Command(
            """
            insert into intake (id, album, begun, begun_by, came_by, label, credit, copyright, licence, origin, tags, categories)
            values (@id, (select a.id from album as a where a.id = @album::uuid), @now, @by, @came, @label, @credit, @copyright, @licence, @origin, @tags, @categories)
            """,
            [("id", id.Value), ("now", clock.GetUtcNow()), ("by", by), ("came", cameBy), ("label", label), .. about.Parameters()]);
        await command.ExecuteNonQueryAsync(ct);
        return id;
    }

    /// <summary>What is said of all that an intake brings, read for whatever arrives next.</summary>
    public static async Task<IntakeAbout?> AboutAsync(Transaction tx, IntakeId id, bool forChange, CancellationToken ct)
    {
        await using var command = tx.Command(
            $"select album, categories, tags, credit, copyright, licence, origin from intake where id = @id {(forChange ? "for update" : "")}", ("id", id.Value));
        return await command.FirstAsync(
            r => new IntakeAbout(
                r.IsDBNull(0) ? null : new AlbumId(r.GetGuid(0)), [.. r.GetFieldValue<Guid[]>(1).Select(g => new CategoryId(g))], r.GetFieldValue<string[]>(2),
                r.GetString(3), r.GetString(4), r.GetString(5), r.GetString(6)),
            ct);
    }

    public async Task<IReadOnlyList<PhotoId>> PhotosAsync(IntakeId id, CancellationToken ct)
    {
        await using var command = db.Command("select photo from intake_file where intake = @id and photo is not null order by number", ("id", id.Value));
        return await command.AllAsync(r => new PhotoId(r.GetGuid(0)), ct);
    }

    /// <summary>Makes a photo of a file that has arrived, or links the one with the same bytes, and notes it in the intake: all or nothing.</summary>
    /// <returns>Null when the intake is not there.</returns>
    public async Task<IntakeFile?> AddAsync(IntakeId intake, Incoming incoming, Arrived arrived, PictureKind kind, PictureSize size, bool preview, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        if (await AboutAsync(tx, intake, forChange: false, ct) is not { } about)
        {
            return null;
        }

        var id = new PhotoId(Guid.CreateVersion7(clock.GetUtcNow()));
        var made = await tx.RunAsync(
            """
            insert into photo (id, hash, file_name, media_type, bytes, width, height, arrived, preview, credit, copyright, licence, origin)
            values (@id, @hash, @name, @type, @bytes, @width, @height, @now, @preview, @credit, @copyright, @licence, @origin)
            on conflict (hash) do nothing
            """,
            ct, [("id", id.Value), ("hash", arrived.Hash), ("name", incoming.FileName), ("type", PictureKinds.MediaType(kind)), ("bytes", arrived.Bytes), ("width", size.Width), ("height", size.Height),
            ("now", clock.GetUtcNow()), ("preview", preview), .. about.Words()]) == 1;
        await using var find = tx.Command("select id, state, failure, preview from photo where hash = @hash", ("hash", arrived.Hash));
        var photo = (await find.FirstAsync(r => Tuple.Create(new PhotoId(r.GetGuid(0)), r.GetString(1), r.MaybeText(2), r.GetBoolean(3)), ct))!;
        var state = photo.Item2;
        if (state == "binned")
        {
            // Brought again, it comes back out of the bin with all it had.
            await BinStore.RestoreAsync(tx, [photo.Item1], ct);
            state = "waiting";
        }

        var outcome = made || photo.Item2 == "binned" ? "arrived" : "already_here";
        var number = await NoteAsync(tx, intake, incoming, new Noted(outcome, arrived.Bytes, Photo: photo.Item1), ct);
        await IntakeAbouts.PutOnAsync(tx, about, [photo.Item1], ct);
        if (outcome == "arrived")
        {
            await tx.RunAsync($"notify {PhotoQueue.Channel}", ct);
        }

        await tx.CommitAsync(ct);
        return new IntakeFile(number!.Value, incoming.FileName, incoming.Path, outcome, photo.Item1, arrived.HashText, state, photo.Item4, photo.Item3);
    }

    /// <summary>Keeps what is no photo as a file, attached to the intake's album.</summary>
    public async Task<IntakeFile?> KeepFileAsync(IntakeId intake, Incoming incoming, Arrived arrived, JudgedFile judged, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        if (await AboutAsync(tx, intake, forChange: false, ct) is not { } about)
        {
            return null;
        }

        var (file, made) = await files.AddAsync(tx, incoming.FileName, arrived, judged, ct);
        if (about.Album is { } album)
        {
            await FileStore.AttachAsync(tx, file, album, ct);
        }

        var outcome = made ? "kept" : "already_here";
        var number = await NoteAsync(tx, intake, incoming, new Noted(outcome, arrived.Bytes, File: file), ct);
        await tx.CommitAsync(ct);
        return new IntakeFile(number!.Value, incoming.FileName, incoming.Path, outcome, null, null, null, false, null);
    }

    /// <summary>Notes a ZIP and has it unpacked; its bytes lie under a name among what arrives.</summary>
    public async Task<IntakeFile?> UnpackAsync(IntakeId intake, Incoming incoming, long bytes, string stored, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        if (await NoteAsync(tx, intake, incoming, new Noted("archive", bytes), ct) is not { } number)
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

    sealed record Noted(string Outcome, long Bytes, PhotoId? Photo = null, FileId? File = null, IntakeProblem? Cause = null, string? Reason = null);

    async Task<int?> NoteAsync(Transaction tx, IntakeId intake, Incoming incoming, Noted noted, CancellationToken ct)
    {
        await using var note = tx.Command(
            """
            insert into intake_file (intake, file_name, path, photo, file, outcome, cause, reason, bytes, came, unpacking, entry)
            select i.id, @name, @path, @photo::uuid, @file::uuid, @outcome, @cause::text, @reason::text, @bytes, @now, @unpacking::uuid, @entry::int from intake as i where i.id = @intake
            returning number
            """,
            ("intake", intake.Value), ("name", incoming.FileName), ("path", incoming.Path), ("photo", noted.Photo?.Value), ("file", noted.File?.Value), ("outcome", noted.Outcome),
            ("cause", noted.Cause?.ToString()), ("reason", noted.Reason), ("bytes", noted.Bytes), ("now", clock.GetUtcNow()), ("unpacking", incoming.Unpacking), ("entry", incoming.Entry));
        var number = await note.ExecuteScalarAsync(ct) as int?;
        if (number is not null && incoming.Upload is { } upload)
        {
            // In the same transaction, so that an upload never becomes two lines.
            await tx.RunAsync("update upload set number = @number where id = @id", ct, ("id", upload.Value), ("number", number));
            // Earlier tries of the same file whose end never came are not awaited any more.
            await tx.RunAsync(
                """
                delete from upload as old using upload as done
                 where done.id = @id and old.intake = done.intake and old.number is null and old.id <> done.id and old.file_name = done.file_name and old.path = done.path and old.bytes = done.bytes
                """,
                ct, ("id", upload.Value));
        }

        return number;
    }
}
