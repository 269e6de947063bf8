using Jovitar.Core;
using Jovitar.Core.Visits;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Visits;

/// <summary>How often visits are written down, and how often photos' are summed up.</summary>
internal sealed record VisitSettings(TimeSpan Written, TimeSpan Summed);

/// <summary>
/// Counts visits and writes them down now and then: no cookie, no address, nobody else. A process that is killed loses what it
/// counted in the last seconds.
/// </summary>
internal sealed class VisitCounter(VisitStore store, NpgsqlDataSource db, TimeProvider clock, VisitSettings settings, ILogger<VisitCounter> log) : BackgroundService
{
    /// <summary>Of more things at once nothing is counted: it is nobody looking.</summary>
    const int MostThings = 100_000;

    readonly Lock gate = new();
    Dictionary<Guid, int> counted = [];

    /// <summary>Something was written, by this process or one before it, that is not summed yet.</summary>
    bool isUnsummed = true;

    /// <summary>Counts a look at a thing, unless it is a robot's or staff's own.</summary>
    public void Look(HttpContext http, Guid thing)
    {
        var headers = http.Request.Headers;
        if (http.User.Viewer().IsStaff || !Visit.Counts(headers.UserAgent, headers["Sec-Purpose"]))
        {
            return;
        }

        Add(thing, 1);
    }

    void Add(Guid thing, int views)
    {
        lock (gate)
        {
            if (counted.Count < MostThings || counted.ContainsKey(thing))
            {
                counted[thing] = counted.GetValueOrDefault(thing) + views;
            }
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var summed = DateTimeOffset.MinValue;
        while (!stoppingToken.IsCancellationRequested)
        {
            await Task.Delay(settings.Written, clock, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            await WriteAsync(CancellationToken.None);
            if (isUnsummed && clock.GetUtcNow() - summed >= settings.Summed && !stoppingToken.IsCancellationRequested)
            {
                summed = clock.GetUtcNow();
                await SumAsync(stoppingToken);
            }
        }
    }

    async Task WriteAsync(CancellationToken ct)
    {
        Dictionary<Guid, int> taken;
        lock (gate)
        {
            (taken, counted) = (counted, []);
        }

        if (taken.Count == 0)
        {
            return;
        }

        try
        {
            await store.AddAsync(Today, taken, ct);
            isUnsummed = true;
        }
        catch (Exception e) when (e is NpgsqlException or TimeoutException)
        {
            log.LogInformation("Visits wait to be written: {Reason}", e.Message);
            foreach (var (thing, n) in taken)
            {
                Add(thing, n);
            }
        }
    }

    async Task SumAsync(CancellationToken ct)
    {
        try
        {
            // Whoever sums does it for all; a day back, for what was written as one day ended.
            await using var alone = await Alone.TryAsync(db, Alone.SummingVisits, ct);
            if (alone is not null)
            {
                await store.SumAsync(Today.AddDays(-1), ct);
                isUnsummed = false;
            }
        }
        catch (Exception e) when (e is NpgsqlException or OperationCanceledException or TimeoutException)
        {
            log.LogInformation("Visits are summed later: {Reason}", e.Message);
        }
    }

    DateOnly Today => clock.Today();
}
