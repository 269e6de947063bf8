using System.Security.Cryptography;
using Jovitar.Core.Photos;
using Jovitar.Server.Contributions;
using Jovitar.Server.Intake.Uploads;
using Jovitar.Server.Demo;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Npgsql;

namespace Jovitar.Server.Verify;

/// <summary>Checks a data folder against its database: every original there and unaltered, nothing on disk or in the database without its other half.</summary>
internal static class DataCheck
{
    const int NamedAtMost = 20;

    sealed record Row(string Hash, string Picture, string FileName, long Bytes, int Width, int Stage, string State, bool IsPhoto, bool HasReason, bool IsTrial);

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
        await using var read = db.Command(
            """
            select encode(hash, 'hex') as hash, picture, file_name, bytes, width, stage::int as stage, state, true as is_photo,
                   coalesce(failure, '') <> '' as has_reason,
                   exists (select from trial_photo as t where t.hash = photo.hash)
                     or id in (select c.thing from act_change as c join act as a on a.id = c.act and a.who = @trial) as is_trial
              from photo
            union all
            select encode(hash, 'hex'), encode(hash, 'hex'), file_name, bytes, 0, 0, 'kept', false, true, false
              from file
            """,
            ("trial", TrialPhotos.Worker));
        var rows = await read.AllAsync(
            r => new Row(
                r.Get<string>("hash"), r.Get<string>("picture"), r.Get<string>("file_name"), r.Get<long>("bytes"), r.Get<int>("width"), r.Get<int>("stage"), r.Get<string>("state"), r.Get<bool>("is_photo"), r.Get<bool>("has_reason"), r.Get<bool>("is_trial")),
            ct);
        var troubles = new List<(string Kind, string Name)>();
        await CheckOriginalsAsync(rows, storage, troubles, ct);
        await CheckStatesAsync(rows, storage, troubles);
        await CheckStoredAsync(rows, storage, await Originals.InDoubtAsync(db, ct), troubles, ct);
        await CheckArrivingAsync(db, storage, troubles, ct);
        await CheckSentAsync(db, storage, troubles, ct);
        await CheckLinesAsync(db, troubles, ct);
        await CheckInvoicesAsync(db, troubles, ct);
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
            await using var bytes = await storage.OpenAsync(StorageKeys.Original(row.Hash));
            string? trouble = null;
            if (bytes is null && !row.IsTrial)
            {
                trouble = "originals are missing";
            }
            else if (bytes is not null && !row.IsTrial)
            {
                var hash = Convert.ToHexStringLower(await SHA256.HashDataAsync(bytes, token));
                trouble = bytes.Length != row.Bytes || hash != row.Hash ? "originals are not what came in" : null;
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

    static async Task CheckStatesAsync(IReadOnlyList<Row> rows, Storage storage, List<(string, string)> troubles)
    {
        foreach (var row in rows.Where(r => r.IsPhoto))
        {
            var wanted = row.State == "failed" || row.IsTrial ? [] : row.Stage switch
            {
                0 => (IReadOnlyList<int>)[],
                // What was corrected a moment ago has renditions as soon as somebody looks, or a worker comes to it.
                1 => row.Picture == row.Hash ? [Renditions.Sheet] : [],
                _ => Renditions.For(row.Width),
            };
            foreach (var width in wanted)
            {
                if (await storage.FindAsync(StorageKeys.Rendition(row.Picture, width)) is null)
                {
                    troubles.Add(("photos say they are ready and lack a rendition", row.FileName));
                    break;
                }
            }

            if (row.State == "failed" && !row.HasReason)
            {
                troubles.Add(("photos failed without a sentence", row.FileName));
            }
        }
    }

    static async Task CheckStoredAsync(IReadOnlyList<Row> rows, Storage storage, IReadOnlySet<string> inDoubt, List<(string, string)> troubles, CancellationToken ct)
    {
        var known = rows.Select(r => r.Hash).ToHashSet();
        foreach (var (folder, kind) in ((string, string)[])[(StorageKeys.Originals, "originals that no row speaks of"), (StorageKeys.Renditions, "renditions that belong to no photo")])
        {
            await foreach (var stored in storage.ListAsync($"{folder}/", ct))
            {
                var hash = stored.Name.Split('-')[0];
                if (!known.Contains(hash) && !inDoubt.Contains(hash))
                {
                    troubles.Add((kind, stored.Name));
                }
            }
        }
    }

    static async Task CheckArrivingAsync(NpgsqlDataSource db, Storage storage, List<(string, string)> troubles, CancellationToken ct)
    {
        // What is fresh may still be at work, or is tidied up within minutes.
        var awaited = await new UploadStore(db, storage, TimeProvider.System).AwaitedAsync(ct);
        await foreach (var stored in new Arrivals(storage).LeftAsync(DateTimeOffset.UtcNow.AddMinutes(-10), awaited, ct))
        {
            troubles.Add(("files among what arrives that nobody awaits", stored.Name));
        }

        await using var lost = db.CreateCommand(
            "select p.stored, u.file_name from upload_part as p join upload as u on u.id = p.upload and u.number is null order by p.stored");
        foreach (var (name, file) in await lost.AllAsync(r => (r.GetString(0), r.GetString(1)), ct))
        {
            if (await storage.FindAsync(StorageKeys.Arriving(name)) is null)
            {
                troubles.Add(("uploads on their way lack a part", file));
            }
        }

        await using var doubts = db.CreateCommand("select encode(hash, 'hex') from original_doubt where since < now() - interval '10 minutes' limit 1000");
        troubles.AddRange((await doubts.AllAsync(r => r.GetString(0), ct)).Select(hash => ("originals whose row was never settled", hash[..12])));
    }

    static async Task CheckSentAsync(NpgsqlDataSource db, Storage storage, List<(string, string)> troubles, CancellationToken ct)
    {
        await using var kept = db.CreateCommand("select id, file_name, encode(hash, 'hex') as hash from contribution_photo where is_kept order by id");
        foreach (var (id, name, hash) in await kept.AllAsync(r => (r.Get<Guid>("id"), r.Get<string>("file_name"), r.Get<string>("hash")), ct))
        {
            await using var bytes = await storage.OpenAsync(StorageKeys.SentIn(id));
            if (bytes is null || Convert.ToHexStringLower(await SHA256.HashDataAsync(bytes, ct)) != hash)
            {
                troubles.Add((bytes is null ? "photos that were sent in are missing" : "photos that were sent in are not what came", name));
            }
        }

        // What is fresh may still be at work, or is tidied up within minutes.
        await foreach (var (stored, _) in SentFiles.LeftAsync(db, storage, DateTimeOffset.UtcNow.AddMinutes(-30), ct))
        {
            troubles.Add(("files among what was sent in that no row speaks of", stored.Name));
        }
    }

    static async Task CheckInvoicesAsync(NpgsqlDataSource db, List<(string, string)> troubles, CancellationToken ct)
    {
        await using var gaps = db.CreateCommand(
            """
            select i.called
              from invoice as i
             where i.number > (select min(f.number) from invoice as f)
               and not exists (select from invoice as b where b.number = i.number - 1)
            union all
            select 'the next one'
              from invoice_count
             where last <> coalesce((select max(l.number) from invoice as l), 0)
             limit 1000
            """);
        troubles.AddRange((await gaps.AllAsync(r => r.GetString(0), ct)).Select(called => ("invoices before which a number is missing", called)));
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
        await using var said = db.CreateCommand(
            """
            select p.file_name
              from photo as p
              left join lateral photo_people_say(p.people) as s on p.people <> '{}'
             where p.people_say <> coalesce(s.say, '') or p.people_until is distinct from s.until
             limit 1000
            """);
        troubles.AddRange((await said.AllAsync(r => r.GetString(0), ct)).Select(name => ("photos of which another clearance is noted than those say whom they show", name)));
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
