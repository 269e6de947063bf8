using System.Runtime.InteropServices;
using Jovitar.Core.Intake;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>How the workers run.</summary>
/// <param name="Workers">Threads, at most one a core.</param>
/// <param name="Lease">How long a claim holds without an end; a worker that was killed leaves its photo for so long.</param>
internal sealed record WorkerSettings(int Workers, TimeSpan Lease)
{
    public const int MostAttempts = 3;
}

/// <summary>Makes renditions and reads words of the photos that wait, on every core, yet behind requests.</summary>
internal sealed partial class IntakeWorker(PhotoQueue queue, SettingsStore site, Storage storage, NpgsqlDataSource db, WorkerSettings settings, ILogger<IntakeWorker> log) : BackgroundService
{
    const int SharpnessWidth = 960;

    static readonly TimeSpan Pause = TimeSpan.FromSeconds(2);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await using var bell = new Bell(db, PhotoQueue.Channel, stoppingToken, settings.Workers);
        await Task.WhenAll(Enumerable.Range(0, settings.Workers).Select(_ => RunOnThread(bell, stoppingToken)));
    }

    /// <summary>A thread of its own with low priority: libvips works on the thread that calls it.</summary>
    Task RunOnThread(Bell bell, CancellationToken stop)
    {
        var ended = new TaskCompletionSource();
        new Thread(() =>
        {
            // On Linux each thread has its own nice value (setpriority(2), "C library/kernel differences").
            if (OperatingSystem.IsLinux())
            {
                _ = SetPriority(0, 0, 10);
            }

            try
            {
                while (!stop.IsCancellationRequested)
                {
                    if (!WorkOnce(stop))
                    {
                        bell.Wait(Pause);
                    }
                }
            }
            catch (OperationCanceledException) when (stop.IsCancellationRequested)
            {
            }

            ended.SetResult();
        })
        { IsBackground = true, Name = "intake worker" }.Start();
        return ended.Task;
    }

    [LibraryImport("libc", EntryPoint = "setpriority")]
    private static partial int SetPriority(int which, uint who, int nice);

    /// <summary>Works on one photo; false when there was none, or the database is away.</summary>
    bool WorkOnce(CancellationToken stop)
    {
        Claim? claim = null;
        try
        {
            claim = queue.ClaimAsync(settings.Lease, stop).GetAwaiter().GetResult();
            if (claim is null)
            {
                return false;
            }

            if (claim.Attempts > WorkerSettings.MostAttempts)
            {
                Fail(claim, IntakeProblem.TriedTooOften);
                return true;
            }

            using var renewing = Renewing(claim);
            Work(claim);
            return true;
        }
        catch (OperationCanceledException) when (stop.IsCancellationRequested)
        {
            return false;
        }
        catch (PictureException e) when (claim is not null)
        {
            log.LogInformation("{File} cannot be decoded: {Reason}", claim.FileName, e.Message);
            return Survive(() => Fail(claim, e.CutShort ? IntakeProblem.CutShort : IntakeProblem.Unreadable));
        }
        catch (Exception e) when (e is IOException or NpgsqlException or UnauthorizedAccessException or TimeoutException)
        {
            // Disk full, database gone, file unreadable for now: the claim is given back, or runs out, and the photo is tried again.
            log.LogInformation("Work on {File} was interrupted: {Reason}", claim?.FileName ?? "a photo", e.Message);
            if (claim is not null)
            {
                Survive(() => queue.ReleaseAsync(claim, Pause, counts: false, CancellationToken.None).GetAwaiter().GetResult());
            }

            return false;
        }
        catch (Exception e)
        {
            // Not foreseen: it counts as a try, and after three the photo is given up with a sentence; the next is worked on meanwhile.
            log.LogError(e, "Work on {File} went wrong", claim?.FileName ?? "a photo");
            return claim is not null && Survive(() => queue.ReleaseAsync(claim, Pause, counts: true, CancellationToken.None).GetAwaiter().GetResult());
        }
    }

    /// <summary>Holds a claim for as long as the work on it takes.</summary>
    Timer Renewing(Claim claim)
    {
        var every = settings.Lease / 3;
        return new Timer(
            _ => Survive(() =>
            {
                if (!queue.RenewAsync(claim, settings.Lease, CancellationToken.None).GetAwaiter().GetResult())
                {
                    log.LogInformation("Another worker has taken over {File}", claim.FileName);
                }
            }),
            null, every, every);
    }

    bool Survive(Action act)
    {
        try
        {
            act();
            return true;
        }
        catch (NpgsqlException e)
        {
            log.LogWarning("A failure could not be noted and will be met again: {Reason}", e.Message);
            return false;
        }
    }

    void Work(Claim claim)
    {
        if (storage.LocalAsync(StorageKeys.Original(claim.Hash)).AsTask().GetAwaiter().GetResult() is not { } copy)
        {
            Fail(claim, IntakeProblem.OriginalMissing);
            return;
        }

        using var original = copy;
        if (claim.Stage == 0)
        {
            var metadata = MetadataReader.Read(original.Path);
            var (rendition, grey) = Picture.RenderSheet(original.Path, Renditions.Sheet, PerceptualHash.Side);
            Put(claim.Hash, rendition);
            var look = PerceptualHash.Of(grey);
            queue.ReadyAsync(claim, metadata, look, CancellationToken.None).GetAwaiter().GetResult();
            return;
        }

        foreach (var rendition in Picture.Render(original.Path, [.. Renditions.For(claim.Width).Where(w => !IsThere(claim, w))], claim.Correction))
        {
            Put(claim.Picture, rendition);
        }

        // Figures of sharpness are compared with one another, so all are taken at one width.
        var judged = Renditions.For(claim.Width).LastOrDefault(w => w <= SharpnessWidth, Renditions.Sheet);
        using var seen = storage.LocalAsync(StorageKeys.Rendition(claim.Picture, judged)).AsTask().GetAwaiter().GetResult() ?? throw new IOException("A rendition that was there is gone.");
        queue.DoneAsync(claim, Look.Sharpness(seen.Path), CancellationToken.None).GetAwaiter().GetResult();
        if (claim.Again)
        {
            ForgetFormer(claim);
        }
    }

    /// <summary>Removes what was made by former corrections of this original: where one comes back, it is made again. What it came in as stays, to be compared with.</summary>
    void ForgetFormer(Claim claim)
    {
        var made = storage.ListAsync(StorageKeys.MadeOf(claim.Hash), CancellationToken.None).ToBlockingEnumerable()
            .Select(m => (m.Key, Picture: StorageKeys.PictureOf(m.Name)?.Unmarked)).Where(m => m.Picture is { Key.Length: > 0 }).ToArray();
        if (made.Length == 0)
        {
            return;
        }

        var current = queue.PicturesAsync(claim.Hash, CancellationToken.None).GetAwaiter().GetResult();
        foreach (var former in made.Where(m => !current.Contains(m.Picture.ToString()!)))
        {
            storage.DeleteAsync(former.Key).GetAwaiter().GetResult();
        }
    }

    bool IsThere(Claim claim, int width) => storage.FindAsync(StorageKeys.Rendition(claim.Picture, width)).AsTask().GetAwaiter().GetResult() is not null;

    void Put(string picture, Rendition made) => storage.PutMadeAsync(StorageKeys.Rendition(picture, made.Width), made.Bytes, CancellationToken.None).GetAwaiter().GetResult();

    void Fail(Claim claim, IntakeProblem problem)
    {
        var limits = site.ReadAsync(CancellationToken.None).GetAwaiter().GetResult().Limits;
        queue.FailAsync(claim, problem, IntakeRefusal.Sentence(problem, limits), CancellationToken.None).GetAwaiter().GetResult();
    }
}
