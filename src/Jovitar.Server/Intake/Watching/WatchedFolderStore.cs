using Jovitar.Core;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Intake.Watching;

/// <summary>A folder on the server that is watched.</summary>
/// <param name="Becomes">What its name, or that of the folder beneath it, becomes: empty, album or category.</param>
/// <param name="Problem">Why it could not be read the last time, a sentence; null when it could.</param>
internal sealed record WatchedFolder(WatchedFolderId Id, string Path, bool Subfolders, string Becomes, int Taken, DateTimeOffset? Looked, string? Problem, string MadeBy);

/// <summary>Watched folders and what was taken in from each.</summary>
internal sealed class WatchedFolderStore(NpgsqlDataSource db, TimeProvider clock)
{
    public async Task<IReadOnlyList<WatchedFolder>> ListAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            """
            select w.id, w.path, w.subfolders, w.becomes, (select count(*) from watched_file as f where f.folder = w.id) as taken,
                   w.looked, w.problem, w.made_by
              from watched_folder as w
             order by w.path
            """);
        return await command.AllAsync(
            r => new WatchedFolder(
                new WatchedFolderId(r.Get<Guid>("id")), r.Get<string>("path"), r.Get<bool>("subfolders"), r.Get<string>("becomes"), (int)r.Get<long>("taken"), r.Maybe<DateTimeOffset>("looked"),
                r.MaybeText("problem"), r.Get<string>("made_by")),
            ct);
    }

    /// <returns>False when the folder is watched already.</returns>
    public async Task<bool> AddAsync(string path, bool subfolders, string becomes, string by, CancellationToken ct)
    {
        await using var command = db.Command(
                """
                insert into watched_folder (id, path, subfolders, becomes, made, made_by)
                values (@id, @path, @subfolders, @becomes, @now, @by)
                on conflict (path) do nothing
                """,
            ("id", Guid.CreateVersion7(clock.GetUtcNow())), ("path", path), ("subfolders", subfolders), ("becomes", becomes), ("now", clock.GetUtcNow()), ("by", by));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }

    public async Task RemoveAsync(WatchedFolderId id, CancellationToken ct)
    {
        await using var command = db.Command("delete from watched_folder where id = @id", ("id", id.Value));
        await command.ExecuteNonQueryAsync(ct);
    }

    public async Task LookedAsync(WatchedFolderId id, string? problem, CancellationToken ct)
    {
        await using var command = db.Command("update watched_folder set looked = @now, problem = @problem::text where id = @id", ("id", id.Value), ("now", clock.GetUtcNow()), ("problem", problem));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Files taken in before, with the length and time they had then.</summary>
    public async Task<IReadOnlyDictionary<string, (long Bytes, DateTimeOffset Changed)>> TakenAsync(WatchedFolderId id, CancellationToken ct)
    {
        await using var command = db.Command("select path, bytes, changed from watched_file where folder = @id", ("id", id.Value));
        return (await command.AllAsync(r => (Path: r.GetString(0), Bytes: r.GetInt64(1), Changed: r.GetFieldValue<DateTimeOffset>(2)), ct)).ToDictionary(r => r.Path, r => (r.Bytes, r.Changed));
    }

    public async Task TookAsync(WatchedFolderId id, string path, long bytes, DateTimeOffset changed, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            insert into watched_file (folder, path, bytes, changed)
            select w.id, @path, @bytes, @changed
              from watched_folder as w
             where w.id = @id
            on conflict (folder, path) do update set bytes = excluded.bytes, changed = excluded.changed
            """,
            ("id", id.Value), ("path", path), ("bytes", bytes), ("changed", changed));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Notes which folder an intake is of.</summary>
    public async Task BelongsAsync(IntakeId intake, WatchedFolderId folder, CancellationToken ct)
    {
        await using var command = db.Command("update intake set watched = @folder where id = @id", ("id", intake.Value), ("folder", folder.Value));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>An intake of this folder for one place its files go to, when one brought something a moment ago.</summary>
    public async Task<IntakeId?> OngoingAsync(WatchedFolderId folder, string label, TimeSpan within, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select i.id
              from intake as i
             where i.watched = @folder and i.label = @label and i.taken_back is null and i.begun > @old
               and greatest(i.begun, (select max(f.came) from intake_file as f where f.intake = i.id)) > @since
             order by i.begun desc
             limit 1
            """,
            ("folder", folder.Value), ("label", label), ("since", clock.GetUtcNow() - within), ("old", clock.GetUtcNow().AddDays(-1)));
        return await command.ExecuteScalarAsync(ct) is Guid id ? new IntakeId(id) : null;
    }
}
