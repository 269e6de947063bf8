using Jovitar.Server.Platform;

namespace Jovitar.Server.People;

/// <summary>Answers those who asked for a link to sign in with.</summary>
internal sealed class WayInWorker(WayInStore store, ServerSettings settings, TimeProvider clock, ILogger<WayInWorker> log) : RegularWorker(TimeSpan.FromSeconds(1), "Links to sign in with", clock, log)
{
    protected override async Task DoAsync(DateTimeOffset now, CancellationToken ct)
    {
        while (settings.Mail.IsSet && await store.AnswerAsync(settings.Address?.GetLeftPart(UriPartial.Authority), ct))
        {
        }
    }
}
