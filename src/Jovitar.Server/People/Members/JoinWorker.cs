using Jovitar.Server.Platform;

namespace Jovitar.Server.People.Members;

/// <summary>Answers those who ask to become members where nobody has to accept it.</summary>
internal sealed class JoinWorker(JoinStore store, ServerSettings settings, TimeProvider clock, ILogger<JoinWorker> log) : RegularWorker(TimeSpan.FromSeconds(1), "Those who ask to become members", clock, log)
{
    protected override async Task DoAsync(DateTimeOffset now, CancellationToken ct)
    {
        while (settings.Mail.IsSet && await store.AnswerAsync(settings.Address?.GetLeftPart(UriPartial.Authority), ct))
        {
        }
    }
}
