using Jovitar.Core;
using Jovitar.Core.Intake;
using Jovitar.Server.Acts;
using Jovitar.Server.Albums;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Intake.Watching;

/// <summary>Where folders may be watched, and how often they are looked at.</summary>
/// <param name="Root">Only folders in here may be watched.</param>
internal sealed record WatchSettings(string Root, TimeSpan Every);

/// <summary>Takes in what appears in watched folders once it has stopped growing. Looks again and again rather than being told, so that it works on network drives, too.</summary>
internal sealed class WatchedFolderWorker(
    WatchedFolderStore store, IntakeStore intakes, Receiver receiver, Arrivals arrivals, AlbumStore albums, CategoryStore categories, NpgsqlDataSource db, WatchSettings settings, TimeProvider clock,
    ILogger<WatchedFolderWorker> log) : BackgroundService
{
    /// <summary>Files that come within so long of one another are one intake.</summary>
    static readonly TimeSpan OneIntake = TimeSpan.FromMinutes(10);

    /// <summary>So many files that cannot be taken in are named.</summary>
    const int MostNamed = 3;

    /// <summary>What each file measured the last time; only what measures the same again has stopped growing.</summary>
    readonly Dictionary<string, (long Bytes, DateTime Changed)> seen = [];

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await LookAsync(stoppingToken);
            }
            catch (Exception e) when (e is NpgsqlException or OperationCanceledException)
            {
                log.LogInformation("Watching waits: {Reason}", e.Message);
            }
            catch (Exception e)
            {
                log.LogError(e, "Watching went wrong; folders are looked at again in a moment");
            }

            await Task.Delay(settings.Every, clock, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }

    async Task LookAsync(CancellationToken ct)
    {
        // One process watches at a time; when it ends, another goes on.
        await using var alone = await Alone.TryAsync(db, Alone.Watching, ct);
        if (alone is null)
        {
            return;
        }

        foreach (var folder in await store.ListAsync(ct))
        {
            await LookAsync(folder, ct);
        }
    }

    async Task LookAsync(WatchedFolder folder, CancellationToken ct)
    {
        string? problem = null;
        try
        {
            var root = new DirectoryInfo(folder.Path);
            problem = root.Exists ? await FilesAsync(folder, root, ct) : "The folder is not there. Make it again, or stop watching it.";
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

    /// <summary>Takes in what is new. One file that cannot be read, or whose name cannot be, keeps no other from it.</summary>
    /// <returns>A sentence that names what could not be taken in; null when nothing could not.</returns>
    async Task<string?> FilesAsync(WatchedFolder folder, DirectoryInfo root, CancellationToken ct)
    {
        var taken = await store.TakenAsync(folder.Id, ct);
        var left = new List<string>();
        var options = new EnumerationOptions { RecurseSubdirectories = folder.Subfolders, AttributesToSkip = FileAttributes.Hidden | FileAttributes.ReparsePoint | FileAttributes.System, IgnoreInaccessible = true };
        foreach (var file in root.EnumerateFiles("*", options))
        {
            try
            {
                if (!CanBeNamed(file.FullName))
                {
                    left.Add(Text.Name(file.Name.Replace('\uFFFD', '?')));
                    continue;
                }

                await TakeAsync(folder, file, taken, ct);
            }
            catch (Exception e) when (e is UnauthorizedAccessException or FileNotFoundException or DirectoryNotFoundException || (e is IOException && !e.Message.Contains("No space left", StringComparison.Ordinal)))
            {
                left.Add(Text.Name(file.Name));
            }
            catch (Exception e) when (e is not (NpgsqlException or OperationCanceledException or IOException))
            {
                log.LogError(e, "Taking in {File} went wrong", file.Name);
                left.Add(Text.Name(file.Name));
            }
        }

        return left.Count == 0 ? null
            : $"{(left.Count == 1 ? "One file" : $"{left.Count} files")} could not be taken in, for the server may not read {(left.Count == 1 ? "it or its name is" : "them or their names are")} no text: {string.Join(", ", left.Take(MostNamed))}{(left.Count > MostNamed ? " …" : "")}. The rest was.";
    }

    /// <summary>Whether a name that the file system gave is text: bytes that are no UTF-8 come out as replacement characters and lead nowhere.</summary>
    static bool CanBeNamed(string path) => Text.IsSound(path) && (!path.Contains('\uFFFD', StringComparison.Ordinal) || File.Exists(path));

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
        // Opened before an intake is begun for it: what cannot be read begins none. What has no length may be a pipe, on which opening would wait for ever.
        await using var from = file.Length == 0 ? null : new FileStream(file.FullName, FileMode.Open, FileAccess.Read, FileShare.ReadWrite, 1, FileOptions.Asynchronous | FileOptions.SequentialScan);
        var intake = await IntakeAsync(folder, folders, ct);
        var incoming = Incoming.Named(file.Name, folders);
        var limits = await receiver.LimitsAsync(ct);
        var most = Endings.Most(file.Name, limits);
        if (from is null || file.Length > most)
        {
            await receiver.RefuseAsync(intake, incoming, from is null ? IntakeProblem.Empty : IntakeProblem.TooManyBytes, file.Length, limits, ct, most);
        }
        else
        {
            await ReceiveAsync(intake, incoming, from, most, ct);
        }

        await store.TookAsync(folder.Id, path, file.Length, changed, ct);
        seen.Remove(file.FullName);
    }

    async Task ReceiveAsync(IntakeId intake, Incoming incoming, FileStream from, long most, CancellationToken ct)
    {
        var arrived = await arrivals.ReceiveAsync(from, most, ct);
        IntakeFile? taken = null;
        try
        {
            taken = await receiver.TakeAsync(intake, incoming, arrived, ct);
        }
        finally
        {
            if (taken is not { Outcome: "archive" })
            {
                await arrivals.DropAsync(arrived);
            }
        }
    }

    /// <summary>The intake that a file belongs to: one for each folder whose name becomes something, else one for all.</summary>
    async Task<IntakeId> IntakeAsync(WatchedFolder folder, string folders, CancellationToken ct)
    {
        var named = folder.Becomes.Length == 0 ? "" : folders;
        var below = Path.GetRelativePath(settings.Root, folder.Path);
        var own = below == "." ? Path.GetFileName(folder.Path) : below;
        var label = named.Length == 0 ? own : $"{own}/{named}";
        if (await store.OngoingAsync(folder.Id, label, OneIntake, ct) is { } ongoing)
        {
            return ongoing;
        }

        var by = new Actor(null, folder.MadeBy);
        var parts = named.Length == 0 ? own.Split(Path.DirectorySeparatorChar) : named.Split('/');
        var about = folder.Becomes switch
        {
            // Two folders may end in the same name; the whole way names the album.
            "album" => IntakeAbout.Nothing with { Album = await albums.NamedAsync(by, Text.Cut(string.Join(" / ", parts), AlbumWords.LongestName), ct) },
            "category" => IntakeAbout.Nothing with { Categories = [await categories.AtAsync(by, parts, ct)] },
            _ => IntakeAbout.Nothing,
        };
        var intake = await intakes.BeginAsync(about, by, ct, "watched", label);
        await store.BelongsAsync(intake, folder.Id, ct);
        return intake;
    }
}
