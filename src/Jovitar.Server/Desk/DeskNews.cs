using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using Jovitar.Server.Acts;
using Jovitar.Server.Intake;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Desk;

/// <summary>What is told to those who listen.</summary>
/// <param name="Acts">Counts acts that were done; another number means that something may be read again.</param>
internal sealed record Told(Figures? Figures, long Acts);

/// <summary>Tells all who listen when the figures change and when acts are done. One look at the database serves every listener; with none there is no look.</summary>
internal sealed class DeskNews(DeskStore store, NpgsqlDataSource db, IHostApplicationLifetime life)
{
    static readonly TimeSpan Busy = TimeSpan.FromSeconds(1);
    static readonly TimeSpan Quiet = TimeSpan.FromSeconds(5);

    /// <summary>A line that says nothing would be cut by what lies between.</summary>
    static readonly TimeSpan Silence = TimeSpan.FromSeconds(20);

    readonly Lock gate = new();
    TaskCompletionSource next = new(TaskCreationOptions.RunContinuationsAsynchronously);
    Told latest = new(null, 0);
    int listeners;
    CancellationTokenSource? looking;

    /// <summary>The figures now, and again whenever they change (<c>figures</c>); that acts were done (<c>acts</c>); nothing, where nothing changed for a while (<c>still</c>).</summary>
    public async IAsyncEnumerable<SseItem<Figures?>> ListenAsync([EnumeratorCancellation] CancellationToken ct)
    {
        using var both = CancellationTokenSource.CreateLinkedTokenSource(ct, life.ApplicationStopping);
        Enter();
        try
        {
            Told? told = null;
            while (!both.IsCancellationRequested)
            {
                Task change;
                Told now;
                lock (gate)
                {
                    (now, change) = (latest, next.Task);
                }

                if (now.Figures is not null && now != told)
                {
                    var before = told;
                    told = now;
                    if (now.Figures != before?.Figures)
                    {
                        yield return new SseItem<Figures?>(now.Figures, "figures");
                    }

                    if (before is not null && now.Acts != before.Acts)
                    {
                        yield return new SseItem<Figures?>(null, "acts");
                    }

                    continue;
                }

                await Task.WhenAny(change, Task.Delay(Silence, both.Token)).ConfigureAwait(false);
                if (!change.IsCompleted && !both.IsCancellationRequested)
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
                _ = HearActsAsync(looking.Token);
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
                latest = new Told(null, latest.Acts);
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
                Tell(told => told with { Figures = now });
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

    /// <summary>Many acts within a second are one piece of news.</summary>
    async Task HearActsAsync(CancellationToken ct)
    {
        await using var bell = new Bell(db, ActRunner.Channel, ct);
        while (!ct.IsCancellationRequested)
        {
            if (await bell.WaitAsync(Silence))
            {
                Tell(told => told with { Acts = told.Acts + 1 });
                await Task.Delay(Busy, ct).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    void Tell(Func<Told, Told> change)
    {
        TaskCompletionSource told;
        lock (gate)
        {
            var now = change(latest);
            if (now == latest)
            {
                return;
            }

            latest = now;
            told = next;
            next = new(TaskCreationOptions.RunContinuationsAsynchronously);
        }

        told.SetResult();
    }
}
