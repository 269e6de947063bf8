using Jovitar.Core;
using Jovitar.Core.Intake;
using Jovitar.Server.Albums;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Intake.Watching;

/// <summary>Where folders may be watched, and how often they are looked at.</summary>
/// <param name="Root">Only folders in here may be watched.</param>
internal sealed record WatchSettings(string Root, TimeSpan Every);

/// <summary>Takes in what appears in watched folders once it has stopped growing. Looks again and again rather than being told, so that it works on network drives, too.</summary>
internal sealed class WatchedFolderWorker(
    WatchedFolderStore store, IntakeStore intakes, Receiver receiver, Storage storage, AlbumStore albums, TaxonomyStore taxonomy, WatchSettings settings, TimeProvider clock, ILogger<WatchedFolderWorker> log) : BackgroundService
{
    /// <summary>Files that come within so long of one another are one intake.</summary>
    static readonly TimeSpan OneIntake = TimeSpan.FromMinutes(10);

    /// <summary>What each file measured the last time; only what measures the same again has stopped growing.</summary>
    readonly Dictionary<string, (long Bytes, DateTime Changed)> seen = [];

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                foreach (var folder in await store.ListAsync(stoppingToken))
                {
                    await LookAsync(folder, stoppingToken);
                }
            }
            catch (Exception e) when (e is NpgsqlException or OperationCanceledException)
            {
                log.LogInformation("Watching waits: {Reason}", e.Message);
            }

            await Task.Delay(settings.Every, clock, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }

    async Task LookAsync(WatchedFolder folder, CancellationToken ct)
    {
        string? problem = null;
        try
        {
            var taken = await store.TakenAsync(folder.Id, ct);
            var root = new DirectoryInfo(folder.Path);
            if (!root.Exists)
            {
                problem = "The folder is not there. Make it again, or stop watching it.";
            }
            else
            {
                foreach (var file in root.EnumerateFiles("*", new EnumerationOptions { RecurseSubdirectories = folder.Subfolders, AttributesToSkip = FileAttributes.Hidden | FileAttributes.ReparsePoint | FileAttributes.System, IgnoreInaccessible = true }))
                {
                    await TakeAsync(folder, file, taken, ct);
                }
            }
        }
        catch (UnauthorizedAccessException)
        {
            problem = "The server may not read this folder. Ask whoever looks after the server for it.";
        }
        catch (IOException e)
        {
            problem = e.Message.Contains("No space left", StringComparison.Ordinal) ? "The disk is full. Make room; it goes on by itself." : "The folder could not be read just now. It is tried again by itself.";
        }

        await store.LookedAsync(folder.Id, problem, ct);
    }

    async Task TakeAsync(WatchedFolder folder, FileInfo file, IReadOnlyDictionary<string, (long Bytes, DateTimeOffset Changed)> taken, CancellationToken ct)
    {
        var path = Path.GetRelativePath(folder.Path, file.FullName);
        var changed = new DateTimeOffset(file.LastWriteTimeUtc.Ticks / 10 * 10, TimeSpan.Zero);
        if (ArchiveRules.IsLitter(path.Replace('\\', '/')) || (taken.TryGetValue(path, out var before) && before.Bytes == file.Length && before.Changed == changed))
        {
            return;
        }

        var measured = (file.Length, file.LastWriteTimeUtc);
        if (!seen.TryGetValue(file.FullName, out var last) || last != measured)
        {
            seen[file.FullName] = measured;
            return;
        }

        var folders = Path.GetDirectoryName(path)!.Replace('\\', '/');
        var intake = await IntakeAsync(folder, folders, ct);
        var incoming = Incoming.Named(file.Name, folders);
        var limits = await receiver.LimitsAsync(ct);
        var most = Receiver.Most(file.Name, limits);
        if (file.Length > most)
        {
            await receiver.RefuseAsync(intake, incoming, IntakeProblem.TooManyBytes, file.Length, limits, ct, most);
        }
        else
        {
            await ReceiveAsync(intake, incoming, file, most, ct);
        }

        await store.TookAsync(folder.Id, path, file.Length, changed, ct);
        seen.Remove(file.FullName);
    }

    async Task ReceiveAsync(IntakeId intake, Incoming incoming, FileInfo file, long most, CancellationToken ct)
    {
        Arrived arrived;
        await using (var from = new FileStream(file.FullName, FileMode.Open, FileAccess.Read, FileShare.ReadWrite, 1, FileOptions.Asynchronous | FileOptions.SequentialScan))
        {
            arrived = await storage.ReceiveAsync(from, most, ct);
        }

        IntakeFile? taken = null;
        try
        {
            taken = await receiver.TakeAsync(intake, incoming, arrived, ct);
        }
        finally
        {
            if (taken is not { Outcome: "archive" })
            {
                Storage.Drop(arrived);
            }
        }
    }

    /// <summary>The intake that a file belongs to: one for each folder whose name becomes something, else one for all.</summary>
    async Task<IntakeId> IntakeAsync(WatchedFolder folder, string folders, CancellationToken ct)
    {
        var named = folder.Becomes.Length == 0 ? "" : folders;
        var label = named.Length == 0 ? Path.GetFileName(folder.Path) : $"{Path.GetFileName(folder.Path)}/{named}";
        if (await store.OngoingAsync(label, OneIntake, ct) is { } ongoing)
        {
            return ongoing;
        }

        var parts = named.Length == 0 ? [Path.GetFileName(folder.Path)] : named.Split('/');
        var about = folder.Becomes switch
        {
            "album" => IntakeAbout.Nothing with { Album = await albums.NamedAsync(parts[^1], ct) },
            "category" => IntakeAbout.Nothing with { Categories = [await taxonomy.CategoryAtAsync(parts, ct)] },
            _ => IntakeAbout.Nothing,
        };
        return await intakes.BeginAsync(about, folder.MadeBy, ct, "watched", label);
    }
}
