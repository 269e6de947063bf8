using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Intake;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>One intake in figures.</summary>
/// <param name="CameBy"><c>computer</c>, <c>watched</c>, <c>scanner</c>, or <c>sent</c> by a contributor.</param>
/// <param name="Label">The folder or device it came from; empty for a computer.</param>
/// <param name="Kept">Files that are no photos.</param>
/// <param name="Sidecars">Sidecars read, of which <paramref name="Alone"/> lie beside no photo that has come.</param>
/// <param name="Sending">Uploads that have begun and not ended.</param>
/// <param name="Unpacking">Entries of ZIPs still to be unpacked; 1 at least while a ZIP waits.</param>
internal sealed record IntakeLine(
    IntakeId Id, string CameBy, string Label, AlbumId? Album, string? AlbumName, DateTimeOffset Begun, string BegunBy,
    int Files, int Ready, int Waiting, int AlreadyHere, int Kept, int Sidecars, int Alone, int Skipped, int Failed, int Sending, int Unpacking, bool TakenBack);

/// <summary>Failures of one cause: what is wrong, what helps, and some of the files it struck.</summary>
/// <param name="CanRetry">How many of them are here and can be tried again.</param>
internal sealed record FailureGroup(string Cause, string Sentence, string Remedy, int Count, int CanRetry, IReadOnlyList<string> Names);

/// <summary>An upload that has begun and not ended.</summary>
/// <param name="Sent">How many of its bytes are here.</param>
internal sealed record OpenUpload(UploadId Id, string FileName, string Path, long Bytes, long? Changed, long Sent);

/// <summary>Reads intakes for people: in figures, file by file, and by what failed.</summary>
internal sealed class IntakeLines(NpgsqlDataSource db)
{
    const int NamesAtMost = 6;

    public async Task<IReadOnlyList<IntakeLine>> RecentAsync(IntakeId? only, int most, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select i.id, i.came_by, i.label, i.album, a.working_name, i.begun, i.begun_by, i.taken_back is not null as taken_back, f.*,
                   (select count(*) from upload as u where u.intake = i.id and u.number is null) as sending,
                   (select coalesce(sum(greatest(z.entries - z.done, 1)), 0) from unpacking as z where z.intake = i.id
                     and z.ended is null) as unpacking,
                   s.*
              from (
                select *
                  from intake
                 where @only::uuid is null or id = @only::uuid
                 order by begun desc
                 limit @most) as i
              left join album as a on a.id = i.album and a.binned is null
             cross join lateral (
                select count(*) filter (where f.outcome <> 'dropped') as files,
                       count(*) filter (where p.state = 'ready' and f.outcome = 'arrived') as ready,
                       count(*) filter (where p.state = 'waiting') as waiting,
                       count(*) filter (where f.outcome = 'already_here' and coalesce(p.state, '') <> 'failed') as already_here,
                       count(*) filter (where f.outcome = 'kept') as kept,
                       count(*) filter (where f.outcome = 'skipped') as skipped,
                       count(*) filter (where f.outcome = 'refused' or (p.state = 'failed'
                         and f.outcome in ('arrived', 'already_here'))) as failed
                  from intake_file as f
                  left join photo as p on p.id = f.photo and p.binned is null
                 where f.intake = i.id) as f
             cross join lateral (
                select count(*) as sidecars, count(*) filter (where not s.used) as alone from sidecar as s where s.intake = i.id) as s
             order by i.begun desc
            """,
            ("only", only?.Value), ("most", most));
        return await command.AllAsync(
            r =>
            {
                int Count(string column) => (int)r.Get<long>(column);
                return new IntakeLine(
                    new IntakeId(r.Get<Guid>("id")), r.Get<string>("came_by"), r.Get<string>("label"), r.MaybeId("album") is { } album ? new AlbumId(album) : null, r.MaybeText("working_name"),
                    r.Get<DateTimeOffset>("begun"), r.Get<string>("begun_by"), Count("files"), Count("ready"), Count("waiting"), Count("already_here"), Count("kept"), Count("sidecars"), Count("alone"), Count("skipped"), Count("failed"),
                    Count("sending"), Count("unpacking"), r.Get<bool>("taken_back"));
            },
            ct);
    }

    public async Task<IntakeLine?> FindAsync(IntakeId id, CancellationToken ct) => await RecentAsync(id, 1, ct) is [var line] ? line : null;

    const string FileColumns =
        """
        f.number, f.file_name, f.path, f.outcome, f.photo, p.picture,
          case when p.binned is null then p.state else 'binned' end as state,
        coalesce(p.preview, false) as preview, coalesce(p.failure, f.reason) as reason
        """;

    /// <summary>The files of an intake after a number, in the order they came.</summary>
    public async Task<IReadOnlyList<IntakeFile>> FilesAsync(IntakeId intake, int after, int most, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {FileColumns}
              from intake_file as f
              left join photo as p on p.id = f.photo
             where f.intake = @intake and f.outcome <> 'dropped' and f.number > @after
             order by f.number
             limit @most
            """,
            ("intake", intake.Value), ("after", after), ("most", most));
        return await ReadAsync(command, ct);
    }

    /// <summary>The photos of an intake that can be seen, those made ready last first.</summary>
    public async Task<IReadOnlyList<IntakeFile>> LatestAsync(IntakeId intake, int most, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {FileColumns}
              from intake_file as f
              join photo as p on p.id = f.photo and p.binned is null
             where f.intake = @intake and f.outcome <> 'dropped' and (p.state = 'ready' or (p.state = 'waiting' and p.preview))
             order by p.ready_at desc nulls last, f.number desc
             limit @most
            """,
            ("intake", intake.Value), ("most", most));
        return await ReadAsync(command, ct);
    }

    static async Task<IReadOnlyList<IntakeFile>> ReadAsync(NpgsqlCommand command, CancellationToken ct)
    {
        return await command.AllAsync(
            r => new IntakeFile(
                r.Get<int>("number"), r.Get<string>("file_name"), r.Get<string>("path"), r.Get<string>("outcome"), r.MaybeId("photo") is { } photo ? new PhotoId(photo) : null,
                r.MaybeText("picture"), r.MaybeText("state"), r.Get<bool>("preview"), r.MaybeText("reason")),
            ct);
    }

    /// <summary>What failed in an intake, by cause, the commonest first.</summary>
    public async Task<IReadOnlyList<FailureGroup>> FailuresAsync(IntakeId intake, IntakeLimits limits, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select coalesce(f.cause, p.failure_cause, 'Unreadable') as cause, min(coalesce(p.failure, f.reason)) as sentence,
                   count(*) as count,
                   count(*) filter (where p.state = 'failed') as can_retry, (array_agg(f.file_name order by f.number))[1:@names] as names
              from intake_file as f
              left join photo as p on p.id = f.photo and p.binned is null
             where f.intake = @intake
               and (f.outcome in ('refused', 'skipped') or (f.outcome in ('arrived', 'already_here') and p.state = 'failed'))
             group by 1
             order by (coalesce(min(f.outcome), '') = 'skipped'), 3 desc, 1
            """,
            ("intake", intake.Value), ("names", NamesAtMost));
        return await command.AllAsync(
            r =>
            {
                var problem = Enum.TryParse<IntakeProblem>(r.Get<string>("cause"), out var named) ? named : IntakeProblem.Unreadable;
                var remedy = IntakeRefusal.Remedy(problem);
                var sentence = r.MaybeText("sentence") ?? IntakeRefusal.What(problem, limits);
                return new FailureGroup(r.Get<string>("cause"), remedy.Length > 0 && sentence.EndsWith(remedy, StringComparison.Ordinal) ? sentence[..^remedy.Length].TrimEnd() : sentence, remedy,
                    (int)r.Get<long>("count"), (int)r.Get<long>("can_retry"), r.Get<string[]>("names"));
            },
            ct);
    }

    /// <summary>Uploads that were cut off, so that they can go on where they stopped when the same file is chosen again.</summary>
    public async Task<IReadOnlyList<OpenUpload>> OpenAsync(IntakeId intake, CancellationToken ct)
    {
        await using var command = db.Command("select id, file_name, path, bytes, come, changed from upload where intake = @intake and number is null order by begun, id limit 5000", ("intake", intake.Value));
        return await command.AllAsync(
            r => new OpenUpload(new UploadId(r.Get<Guid>("id")), r.Get<string>("file_name"), r.Get<string>("path"), r.Get<long>("bytes"), r.Maybe<long>("changed"), r.Get<long>("come")),
            ct);
    }

    /// <summary>
    /// What of these files is here already through this intake and need not be sent again. Name, folder and length do not tell
    /// files apart by themselves: the time of their last change does, or their content where it is asked about.
    /// </summary>
    /// <returns>Those that are here, and those that may be and whose content must say.</returns>
    public async Task<(IReadOnlyList<int> Here, IReadOnlyList<int> Perhaps)> HereAsync(IntakeId intake, IReadOnlyList<KnownFile> files, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select (w.n - 1)::int as n, bool_or(coalesce(f.mark = w.mark, f.changed = w.changed and w.mark is null, false)) as here
              from unnest(@names, @paths, @bytes, @changed, @marks) with ordinality as w(name, path, bytes, changed, mark, n)
              join intake_file as f
                on f.intake = @intake and f.file_name = w.name and f.path = w.path and f.bytes = w.bytes
               and f.outcome in ('arrived', 'already_here', 'kept', 'archive', 'sidecar')
             group by w.n
             order by w.n
            """,
            ("intake", intake.Value), ("names", files.Select(f => f.FileName).ToArray()), ("paths", files.Select(f => f.Path).ToArray()), ("bytes", files.Select(f => f.Bytes).ToArray()),
            ("changed", files.Select(f => f.Changed).ToArray()), ("marks", files.Select(f => f.Mark is { } mark ? Convert.FromHexString(mark) : null).ToArray()));
        var found = await command.AllAsync(r => (N: r.Get<int>("n"), Here: r.Get<bool>("here")), ct);
        return ([.. found.Where(f => f.Here).Select(f => f.N)], [.. found.Where(f => !f.Here && files[f.N].Mark is null).Select(f => f.N)]);
    }
}

/// <summary>A file as the browser knows it.</summary>
/// <param name="Changed">When it was changed last, milliseconds since 1970.</param>
/// <param name="Mark">SHA-256 of the SHA-256s of its pieces of 4 MiB, hexadecimal; only where it was asked for.</param>
public sealed record KnownFile([Words(400)] string FileName, [Words(2000)] string Path, long Bytes, long? Changed = null, [RegularExpression("^[0-9a-f]{64}$", ErrorMessage = "This is 64 hexadecimal digits.")] string? Mark = null);
