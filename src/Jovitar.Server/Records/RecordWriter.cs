using System.Threading.Channels;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Records;
using Jovitar.Core.Visits;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Visits;
using Npgsql;

namespace Jovitar.Server.Records;

/// <summary>
/// Notes what visitors do and writes it down now and then, so that nobody waits for it. Of who is nobody in particular nothing is
/// noted but that they were turned away. A process that is killed loses what it noted in the last seconds.
/// </summary>
internal sealed class RecordWriter(RecordStore store, TimeProvider clock, VisitSettings settings, ILogger<RecordWriter> log) : BackgroundService
{
    /// <summary>What comes while so many wait is not noted: it is nobody looking at photographs.</summary>
    const int MostWaiting = 20_000;

    /// <summary>So many are written at once.</summary>
    const int AtOnce = 2000;

    static readonly TimeSpan Forgetting = TimeSpan.FromHours(1);

    readonly Channel<ToRecord> noted = Channel.CreateBounded<ToRecord>(new BoundedChannelOptions(MostWaiting) { FullMode = BoundedChannelFullMode.DropWrite, SingleReader = true });

    /// <summary>Somebody did something whom the site knows, or was turned away. Whatever program asks is of interest; but nobody has looked at what is fetched ahead, and staff are left out.</summary>
    /// <param name="gates">Of the thing: they tell by which entry it was.</param>
    public void Note(HttpContext http, Recorded what, string kind, Guid thing, Sight sight, IReadOnlyList<Gate> gates, PhotoId? photo = null)
    {
        var who = sight.KnownTo(gates);
        if ((who is not null || what == Recorded.Refused) && !http.User.Viewer().IsStaff && !Visit.IsAhead(http.Request.Headers["Sec-Purpose"]))
        {
            noted.Writer.TryWrite(new ToRecord(clock.GetUtcNow(), what, kind, thing, photo, who?.Member, who?.Entry, ShortAddress.Of(http.Connection.RemoteIpAddress)));
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var forgot = DateTimeOffset.MinValue;
        while (!stoppingToken.IsCancellationRequested)
        {
            await Task.Delay(settings.Written, clock, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            try
            {
                while (await WriteAsync(CancellationToken.None))
                {
                }

                if (clock.GetUtcNow() - forgot >= Forgetting)
                {
                    await store.ForgetAsync(CancellationToken.None);
                    forgot = clock.GetUtcNow();
                }
            }
            catch (Exception e) when (e is NpgsqlException or TimeoutException)
            {
                log.LogInformation("Records wait to be written: {Reason}", e.Message);
            }
        }
    }

    /// <returns>Whether more may wait.</returns>
    async Task<bool> WriteAsync(CancellationToken ct)
    {
        var some = new List<ToRecord>();
        while (some.Count < AtOnce && noted.Reader.TryRead(out var each))
        {
            some.Add(each);
        }

        if (some.Count == 0)
        {
            return false;
        }

        try
        {
            await store.AddAsync(some, ct);
            return some.Count == AtOnce;
        }
        catch
        {
            foreach (var each in some)
            {
                noted.Writer.TryWrite(each);
            }

            throw;
        }
    }
}
