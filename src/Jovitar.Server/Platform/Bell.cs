using Npgsql;

namespace Jovitar.Server.Platform;

/// <summary>Rings when the database says that there is work (LISTEN). When the line breaks it rings after the pause all the same.</summary>
internal sealed class Bell : IAsyncDisposable
{
    readonly SemaphoreSlim rung;
    readonly CancellationToken stop;
    readonly Task listening;

    /// <param name="sleepers">How many may wait at it; rings beyond that do not pile up.</param>
    public Bell(NpgsqlDataSource db, string channel, CancellationToken stop, int sleepers = 1)
    {
        rung = new SemaphoreSlim(0, sleepers);
        this.stop = stop;
        listening = ListenAsync(db, channel);
    }

    /// <summary>Wakes one who waits.</summary>
    public void Ring()
    {
        try
        {
            rung.Release();
        }
        catch (SemaphoreFullException)
        {
            // Everybody who waits is awake already.
        }
    }

    /// <returns>Whether it rang, rather than that the time was over.</returns>
    public async Task<bool> WaitAsync(TimeSpan most)
    {
        try
        {
            return await rung.WaitAsync(most, stop);
        }
        catch (OperationCanceledException)
        {
            return false;
        }
    }

    /// <summary>The same for a thread of its own.</summary>
    /// <exception cref="OperationCanceledException">The server is ending.</exception>
    public void Wait(TimeSpan most) => rung.Wait(most, stop);

    async Task ListenAsync(NpgsqlDataSource db, string channel)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                await using var connection = await db.OpenConnectionAsync(stop);
                connection.Notification += (_, _) => Ring();
                await using (var listen = new NpgsqlCommand($"listen {channel}", connection))
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
            catch (Exception e) when (e is NpgsqlException or IOException or InvalidOperationException or OperationCanceledException)
            {
                await Task.Delay(TimeSpan.FromSeconds(2), stop).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    public async ValueTask DisposeAsync()
    {
        await listening;
        rung.Dispose();
    }
}
