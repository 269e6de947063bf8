using System.Security.Cryptography;
using Jovitar.Core.Photos;
using Jovitar.Server.Intake.Uploads;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Verify;

/// <summary>Checks a data folder against its database: every original there and unaltered, nothing on disk or in the database without its other half.</summary>
internal static class DataCheck
{
    const int NamedAtMost = 20;

    sealed record Row(string Hash, string FileName, long Bytes, int Width, int Stage, string State, bool IsPhoto, bool HasReason);

    /// <summary>Runs every check and says in words what was found.</summary>
    /// <returns>Whether all is well.</returns>
    public static async Task<bool> RunAsync(string data, string connection, TextWriter say, CancellationToken ct)
    {
        await using var db = NpgsqlDataSource.Create(connection);
        if (!Database.IsCurrent(connection))
        {
            await say.WriteLineAsync("This data folder was made by another version of Jovitar. Start it once with this version, or check it with that one.");
            return false;
        }

        var storage = new Storage(data);
        await using var read = db.CreateCommand(
            """
            select encode(hash, 'hex') as hash, file_name, bytes, width, stage::int as stage, state, true as is_photo,
                   coalesce(failure, '') <> '' as has_reason
              from photo
            union all
            select encode(hash, 'hex'), file_name, bytes, 0, 0, 'kept', false, true
              from file
            """);
        var rows = await read.AllAsync(
            r => new Row(
                r.Get<string>("hash"), r.Get<string>("file_name"), r.Get<long>("bytes"), r.Get<int>("width"), r.Get<int>("stage"), r.Get<string>("state"), r.Get<bool>("is_photo"), r.Get<bool>("has_reason")),
            ct);
        var troubles = new List<(string Kind, string Name)>();
        await CheckOriginalsAsync(rows, storage, troubles, ct);
        CheckStates(rows, storage, troubles);
        CheckDisk(rows, storage, await Originals.InDoubtAsync(db, ct), troubles);
        await CheckArrivingAsync(db, storage, troubles, ct);
        await CheckLinesAsync(db, troubles, ct);
        foreach (var kind in troubles.GroupBy(t => t.Kind))
        {
            await say.WriteLineAsync($"{kind.Count():#,0} {kind.Key}:");
            foreach (var name in kind.Take(NamedAtMost))
            {
                await say.WriteLineAsync($"  {name.Name}");
            }

            if (kind.Count() > NamedAtMost)
            {
                await say.WriteLineAsync($"  and {kind.Count() - NamedAtMost:#,0} more");
            }
        }

        var photos = rows.Count(r => r.IsPhoto);
        await say.WriteLineAsync(troubles.Count == 0
            ? $"All is well: {photos:#,0} photos and {rows.Count - photos:#,0} files, every original present and unaltered, nothing without its other half."
            : $"{troubles.Count:#,0} things are not as they should be, among {photos:#,0} photos and {rows.Count - photos:#,0} files.");
        return troubles.Count == 0;
    }

    static async Task CheckOriginalsAsync(IReadOnlyList<Row> rows, Storage storage, List<(string, string)> troubles, CancellationToken ct)
    {
        await Parallel.ForEachAsync(rows, ct, async (row, token) =>
        {
            var file = new FileInfo(storage.Original(row.Hash));
            string? trouble = null;
            if (!file.Exists)
            {
                trouble = "originals are missing";
            }
            else if (file.LinkTarget is null)
            {
                // Trial rows share the originals of others by links; what they are called is not what they hash to.
                await using var bytes = new FileStream(file.FullName, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16, FileOptions.Asynchronous | FileOptions.SequentialScan);
                var hash = Convert.ToHexStringLower(await SHA256.HashDataAsync(bytes, token));
                trouble = file.Length != row.Bytes || hash != row.Hash ? "originals are not what came in" : null;
            }

            if (trouble is not null)
            {
                lock (troubles)
                {
                    troubles.Add((trouble, $"{row.FileName} ({row.Hash[..12]})"));
                }
            }
        });
    }

    static void CheckStates(IReadOnlyList<Row> rows, Storage storage, List<(string, string)> troubles)
    {
        foreach (var row in rows.Where(r => r.IsPhoto))
        {
            var wanted = row.State == "failed" || new FileInfo(storage.Original(row.Hash)).LinkTarget is not null ? [] : row.Stage switch
            {
                0 => (IReadOnlyList<int>)[],
                1 => [Renditions.Sheet],
                _ => Renditions.For(row.Width),
            };
            if (wanted.Any(w => !File.Exists(storage.Rendition(row.Hash, w))))
            {
                troubles.Add(("photos say they are ready and lack a rendition", row.FileName));
            }

            if (row.State == "failed" && !row.HasReason)
            {
                troubles.Add(("photos failed without a sentence", row.FileName));
            }
        }
    }

    static void CheckDisk(IReadOnlyList<Row> rows, Storage storage, IReadOnlySet<string> inDoubt, List<(string, string)> troubles)
    {
        var known = rows.Select(r => r.Hash).ToHashSet();
        foreach (var (folder, kind) in ((string, string)[])[("originals", "originals on disk that no row speaks of"), ("renditions", "renditions on disk that belong to no photo")])
        {
            foreach (var path in Directory.EnumerateFiles(Path.Combine(storage.Root, folder), "*", SearchOption.AllDirectories))
            {
                var name = Path.GetFileName(path);
                if (path.EndsWith(".part", StringComparison.Ordinal))
                {
                    troubles.Add(("half-written renditions", name));
                }
                else if (!known.Contains(name.Split('-')[0]) && !inDoubt.Contains(name.Split('-')[0]))
                {
                    troubles.Add((kind, name));
                }
            }
        }
    }

    static async Task CheckArrivingAsync(NpgsqlDataSource db, Storage storage, List<(string, string)> troubles, CancellationToken ct)
    {
        // What is fresh may still be at work, or is tidied up within minutes.
        bool IsOld(string path) => File.GetLastWriteTimeUtc(path) < DateTime.UtcNow.AddMinutes(-10);
        var awaited = await new UploadStore(db, storage, TimeProvider.System).AwaitedAsync(ct);
        troubles.AddRange(Directory.EnumerateFiles(Path.Combine(storage.Root, "arriving")).Where(IsOld).Select(Path.GetFileName).OfType<string>()
            .Where(name => !awaited.Contains(Path.GetFileNameWithoutExtension(name)) && !name.StartsWith(Storage.ScannedPage, StringComparison.Ordinal)).Select(name => ("files among what arrives that nobody awaits", name)));
        await using var doubts = db.CreateCommand("select encode(hash, 'hex') from original_doubt where since < now() - interval '10 minutes' limit 1000");
        troubles.AddRange((await doubts.AllAsync(r => r.GetString(0), ct)).Select(hash => ("originals whose row was never settled", hash[..12])));
    }

    static async Task CheckLinesAsync(NpgsqlDataSource db, List<(string, string)> troubles, CancellationToken ct)
    {
        await using var lines = db.CreateCommand(
            """
            select file_name
              from intake_file
             where (outcome = 'arrived' and photo is null and file is null) or (outcome in ('refused', 'skipped')
               and coalesce(reason, '') = '')
             limit 1000
            """);
        troubles.AddRange((await lines.AllAsync(r => r.GetString(0), ct)).Select(name => ("lines of an intake that say nothing", name)));
        await using var linked = db.CreateCommand(
            """
            select p.file_name
              from photo as p
             where p.binned is not null
               and (exists (select from album_photo as ap where ap.photo = p.id) or exists (select from photo_tag as pt
                 where pt.photo = p.id) or not exists (select from bin as b where b.thing = p.id))
             limit 1000
            """);
        troubles.AddRange((await linked.AllAsync(r => r.GetString(0), ct)).Select(name => ("photos in the bin that still stand somewhere, or are not listed in it", name)));
    }
}
