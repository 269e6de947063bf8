using Jovitar.Core.Access;
using Jovitar.Core.Opening;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;

namespace Jovitar.Server.Opening;

/// <summary>Whether visitors may come in at all: the door before all others of the site.</summary>
internal sealed class SiteGate(SettingsStore settings, AccessStore access, ActRunner acts, TimeProvider clock)
{
    /// <summary>What was read a moment ago holds, unless anything was done here since; what others do is seen after this.</summary>
    static readonly TimeSpan Kept = TimeSpan.FromSeconds(1);

    sealed record Known(Front Front, long Acts, long At);

    volatile Known? known;

    public async ValueTask<Front> FrontAsync(CancellationToken ct)
    {
        if (known is { } there && there.Acts == acts.Finished && clock.GetElapsedTime(there.At) < Kept)
        {
            return there.Front;
        }

        // Counted before it is read: what is done meanwhile makes it out of date.
        var (done, at) = (acts.Finished, clock.GetTimestamp());
        var read = new Known((await settings.ReadAsync(ct)).Front, done, at);
        known = read;
        return read.Front;
    }

    /// <summary>Whether a viewer may come in.</summary>
    public bool LetsIn(Viewer viewer, Front front) => access.May(viewer, Right.See, new TheSite(front.IsOpen));
}
