using System.Runtime.InteropServices;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Server.Platform;
using Jovitar.Server.Site;
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
internal sealed partial class IntakeWorker(IntakeStore intake, SiteStore site, Storage storage, NpgsqlDataSource db, WorkerSettings settings, ILogger<IntakeWorker> log) : BackgroundService
{
    readonly SemaphoreSlim wake = new(0);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var threads = Enumerable.Range(0, settings.Workers).Select(_ => RunOnThread(stoppingToken)).ToArray();
        var listening = ListenAsync(stoppingToken);
        await Task.WhenAll([.. threads, listening]);
    }

    /// <summary>A thread of its own with low priority: libvips works on the thread that calls it.</summary>
    Task RunOnThread(CancellationToken stop)
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
                        wake.Wait(TimeSpan.FromSeconds(2), stop);
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

    /// <summary>Waits for word of new photos. When the line to the database breaks, the workers still look every two seconds.</summary>
    async Task ListenAsync(CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                await using var connection = await db.OpenConnectionAsync(stop);
                connection.Notification += (_, _) => wake.Release();
                await using (var listen = new NpgsqlCommand($"listen {IntakeStore.Channel}", connection))
                {
                    await listen.ExecuteNonQueryAsync(stop);
                }

                while (!stop.IsCancellationRequested)
                {
                    await connection.WaitAsync(stop);
                }
            }
            catch (OperationCanceledException) when (stop.IsCancellationRequested)
            {
            }
            catch (Exception e) when (e is NpgsqlException or IOException or InvalidOperationException)
            {
                log.LogWarning("The workers lost the database and go on by themselves: {Reason}", e.Message);
                await Task.Delay(TimeSpan.FromSeconds(2), stop).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    /// <summary>Works on one photo; false when there was none, or the database is away.</summary>
    bool WorkOnce(CancellationToken stop)
    {
        Claim? claim = null;
        try
        {
            claim = intake.ClaimAsync(settings.Lease, stop).GetAwaiter().GetResult();
            if (claim is null)
            {
                return false;
            }

            if (claim.Attempts > WorkerSettings.MostAttempts)
            {
                Fail(claim, IntakeProblem.TriedTooOften);
                return true;
            }

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
        catch (Exception e)
        {
            // Disk full, database gone, file unreadable for now: the claim is given back or runs out, and the photo is tried again.
            log.LogWarning(e, "Work on {File} was interrupted", claim?.FileName ?? "a photo");
            return false;
        }
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
        var original = storage.Original(claim.Hash);
        if (claim.Stage == 0)
        {
            var metadata = MetadataReader.Read(original);
            Picture.Render(original, [new RenditionTarget(Renditions.Sheet, storage.Rendition(claim.Hash, Renditions.Sheet))]);
            intake.ReadyAsync(claim.Photo, metadata, CancellationToken.None).GetAwaiter().GetResult();
            return;
        }

        var missing = Renditions.For(claim.Width).Where(w => !File.Exists(storage.Rendition(claim.Hash, w))).Select(w => new RenditionTarget(w, storage.Rendition(claim.Hash, w))).ToArray();
        if (missing.Length > 0)
        {
            Picture.Render(original, missing);
        }

        intake.DoneAsync(claim.Photo, CancellationToken.None).GetAwaiter().GetResult();
    }

    void Fail(Claim claim, IntakeProblem problem)
    {
        var limits = site.SettingsAsync(CancellationToken.None).GetAwaiter().GetResult().Limits;
        intake.FailAsync(claim.Photo, IntakeRefusal.Sentence(problem, limits), CancellationToken.None).GetAwaiter().GetResult();
    }
}
