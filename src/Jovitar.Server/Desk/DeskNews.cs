using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using Jovitar.Server.Intake;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Desk;

/// <summary>Tells all who listen when the figures change. One look at the database serves every listener; with none there is no look.</summary>
internal sealed class DeskNews(DeskStore store, NpgsqlDataSource db, IHostApplicationLifetime life)
{
    static readonly TimeSpan Busy = TimeSpan.FromSeconds(1);
    static readonly TimeSpan Quiet = TimeSpan.FromSeconds(5);

    /// <summary>A line that says nothing would be cut by what lies between.</summary>
    static readonly TimeSpan Silence = TimeSpan.FromSeconds(20);

    readonly Lock gate = new();
    TaskCompletionSource<Figures?> next = new(TaskCreationOptions.RunContinuationsAsynchronously);
    Figures? latest;
    int listeners;
    CancellationTokenSource? looking;

    /// <summary>The figures now, and again whenever they change; null where nothing changed for a while.</summary>
    public async IAsyncEnumerable<SseItem<Figures?>> ListenAsync([EnumeratorCancellation] CancellationToken ct)
    {
        using var both = CancellationTokenSource.CreateLinkedTokenSource(ct, life.ApplicationStopping);
        Enter();
        try
        {
            Figures? told = null;
            while (!both.IsCancellationRequested)
            {
                Task<Figures?> change;
                Figures? now;
                lock (gate)
                {
                    (now, change) = (latest, next.Task);
                }

                if (now is not null && now != told)
                {
                    told = now;
                    yield return new SseItem<Figures?>(now, "figures");
                    continue;
                }

                var before = change;
                await Task.WhenAny(change, Task.Delay(Silence, both.Token)).ConfigureAwait(false);
                if (!before.IsCompleted && !both.IsCancellationRequested)
                {
                    yield return new SseItem<Figures?>(null, "still");
                }
            }
        }
        finally
        {
            Leave();
        }
    }

    void Enter()
    {
        lock (gate)
        {
            if (listeners++ == 0)
            {
                looking = CancellationTokenSource.CreateLinkedTokenSource(life.ApplicationStopping);
                _ = LookAsync(looking.Token);
            }
        }
    }

    void Leave()
    {
        lock (gate)
        {
            if (--listeners == 0)
            {
                looking?.Cancel();
                looking?.Dispose();
                looking = null;
                latest = null;
            }
        }
    }

    async Task LookAsync(CancellationToken ct)
    {
        await using var bell = new Bell(db, PhotoQueue.Channel, ct);
        while (!ct.IsCancellationRequested)
        {
            var wait = Quiet;
            try
            {
                var now = await store.FiguresAsync(ct);
                wait = now.Waiting + now.Larger + now.Unpacking > 0 ? Busy : Quiet;
                Tell(now);
            }
            catch (Exception e) when (e is NpgsqlException or OperationCanceledException)
            {
                // The database is away: listeners hear of the figures again when it is back.
            }

            // A photo that comes while all was quiet is told at once; while much comes, once a second is enough.
            if (wait == Quiet)
            {
                await bell.WaitAsync(Quiet);
            }
            else
            {
                await Task.Delay(Busy, ct).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    void Tell(Figures now)
    {
        TaskCompletionSource<Figures?> told;
        lock (gate)
        {
            if (now == latest)
            {
                return;
            }

            latest = now;
            told = next;
            next = new(TaskCreationOptions.RunContinuationsAsynchronously);
        }

        told.SetResult(now);
    }
}
