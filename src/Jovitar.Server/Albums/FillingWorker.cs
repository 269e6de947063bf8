using Jovitar.Core;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Albums;

/// <summary>
/// Keeps albums that keep themselves: whenever photos were touched, those that hold one of them or whose rule finds one now are
/// brought to what they should hold, and so are those that something was taken out of. One process does it at a time; whoever
/// takes it over looks at all of them first.
/// </summary>
internal sealed class FillingWorker(NpgsqlDataSource db, FillingStore store, IndexKeeper keeper, TimeProvider clock, ILogger<FillingWorker> log) : BackgroundService
{
    /// <summary>What comes thick and fast is seen to together.</summary>
    static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(200);

    /// <summary>So long nothing need be said for it to look again.</summary>
    static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await using var bell = new Bell(db, FillingStore.Channel, stoppingToken);
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await using var alone = await Alone.TryAsync(db, Alone.Filling, stoppingToken);
                if (alone is null)
                {
                    await Task.Delay(TimeSpan.FromSeconds(2), stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
                    continue;
                }

                await KeepAsync(alone, bell, stoppingToken);
            }
            catch (Exception e) when (e is NpgsqlException or OperationCanceledException or IOException)
            {
                log.LogInformation("Albums that keep themselves wait: {Reason}", e.Message);
                await Task.Delay(TimeSpan.FromSeconds(2), stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
            catch (Exception e)
            {
                log.LogError(e, "Keeping albums went wrong; it is tried again in ten seconds");
                await Task.Delay(TimeSpan.FromSeconds(10), stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    async Task KeepAsync(Alone alone, Bell bell, CancellationToken ct)
    {
        var (touched, seen, last) = (new TouchedPhotos(db), new Dictionary<AlbumId, long>(), DateTimeOffset.MinValue);
        while (!ct.IsCancellationRequested)
        {
            await alone.StillAsync(ct);
            var now = clock.GetUtcNow();
            if (now - last > TouchedPhotos.Remembered / 2)
            {
                seen.Clear();
                touched.Take(await touched.NowAsync(ct));
            }

            last = now;
            await PassAsync(touched, seen, ct);
            await bell.WaitAsync(Patience);
            await Task.Delay(Pause, clock, ct);
        }
    }

    /// <param name="seen">The versions of albums that were brought to what they should hold; what is not in it is not known to be.</param>
    async Task PassAsync(TouchedPhotos touched, Dictionary<AlbumId, long> seen, CancellationToken ct)
    {
        var (photos, reading) = await touched.NextAsync(ct);
        var albums = await store.AllAsync(ct);
        if (photos is null || photos.Contains(Guid.Empty))
        {
            // So many, or how categories stand: any of them may be another now.
            seen.Clear();
        }

        if (albums.Count > 0)
        {
            var index = await keeper.CurrentAsync(ct);
            var touchedAlbums = await store.TouchedAsync([.. albums.Select(a => a.Id)], photos ?? [], ct);
            bool MayDiffer(KeepingItself album) =>
                seen.GetValueOrDefault(album.Id, -1) != album.Version || touchedAlbums.Contains(album.Id) || (photos is not null && album.Filling.Rule is { } rule && index.FindsAny(rule, photos));
            foreach (var album in albums)
            {
                if (!MayDiffer(album))
                {
                    continue;
                }

                seen.Remove(album.Id);
                try
                {
                    await store.FillAsync(album.Id, index, ct);
                    seen[album.Id] = album.Version;
                }
                catch (Exception e) when (e is not (NpgsqlException { IsTransient: true } or OperationCanceledException))
                {
                    // One that goes wrong does not keep the others from it; it is tried again when something touches it.
                    log.LogError(e, "Album {Album} could not be brought to what it should hold", album.Id);
                    seen[album.Id] = album.Version;
                }
            }
        }

        touched.Take(reading);
    }
}
