using Jovitar.Core.Access;
using Jovitar.Core.Contributions;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Contributions;
using Jovitar.Server.Platform.Mailing;
using Jovitar.Server.Site.Entering;

namespace Jovitar.Server.Site.Contributions;

/// <summary>What somebody finds who opens a contribution link.</summary>
/// <param name="Words">Null where photos are not taken by it.</param>
/// <param name="To">Where they begin.</param>
public sealed record ToContribute(LinkWords? Words, string To);

/// <summary>What somebody finds who puts photos together, or sent some.</summary>
/// <param name="Key">What stands at the end of its address.</param>
/// <param name="Title">What it is sent for.</param>
/// <param name="Instructions">Of whoever asks for photos; empty for none.</param>
/// <param name="IsKnown">By an account: all that they sent stands in one place.</param>
public sealed record ToSend(string Key, string Title, string Instructions, bool IsKnown, bool IsSent);

/// <summary>A member's own place.</summary>
/// <param name="Begins">They may begin one of their own accord.</param>
public sealed record Yours(IReadOnlyList<OwnContribution> All, bool Begins, bool IsTrusted);

/// <summary>The pages on which visitors send photos in. What is put together needs a script, for it shows what has come.</summary>
internal static class ContributingPages
{
    /// <summary>Where photos are put together, and seen to afterwards; the key stands behind it.</summary>
    public const string Sent = "/sent";

    /// <summary>A member's own place.</summary>
    public const string Yours = $"{Sent}/yours";

    /// <summary>So many contributions are begun from one network within <see cref="Window"/>: a class behind one line may begin together.</summary>
    const int BegunFromPlace = 60;

    static readonly TimeSpan Window = TimeSpan.FromMinutes(10);

    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapContributingPages(this IEndpointRouteBuilder site)
    {
        site.MapGet($"{LinkStore.Path}/{{secret}}", ShowLink);
        site.MapPost($"{LinkStore.Path}/{{secret}}", BeginByLink);
        site.MapGet(Yours, ShowYours);
        site.MapPost(Yours, BeginYours);
        site.MapGet($"{Sent}/{{key}}", Show);
    }

    /// <summary>The account by which what somebody sends is theirs: a member's, or, of staff who try a link, their own; null for nobody's.</summary>
    public static Guid? AccountOf(HttpContext http) => http.User.Viewer() is { IsStaff: true } or { Role: Role.Member } ? Actor.Of(http.User).Account : null;

    static async Task ShowLink(string secret, HttpContext http, LinkStore links, AccessStore access, SiteDoor door, MailSettings mail, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await OpenAsync(secret, http, links, access, door, mail, ct) is { } found)
        {
            await SiteEndpoints.SendAsync(http, await door.Renderer.ContributePageAsync(new ToContribute(found.Words, $"{LinkStore.Path}/{secret}"), ct), ct);
        }
    }

    static async Task BeginByLink(string secret, HttpContext http, LinkStore links, ContributionStore store, AccessStore access, SiteDoor door, TryCount tries, MailSettings mail, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (VisitorForm.IsFromElsewhere(http))
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
        }
        else if (await OpenAsync(secret, http, links, access, door, mail, ct) is { } found)
        {
            await BeginAsync(http, store, found.Id, AccountOf(http), tries, ct);
        }
    }

    /// <summary>The link, where whoever asks may send photos by it; else they are told why not.</summary>
    static async Task<LinkFound?> OpenAsync(string secret, HttpContext http, LinkStore links, AccessStore access, SiteDoor door, MailSettings mail, CancellationToken ct)
    {
        // Who looks as somebody else finds what that one would.
        var sight = await door.SightAsync(http, ct);
        var viewer = sight.IsSeenAs ? sight.Viewer : http.User.Viewer();
        var found = await links.FindAsync(secret, ct);
        var decision = found is null ? null : access.Decide(viewer, Right.Contribute, found.Thing);
        if (decision is { Allowed: true })
        {
            return found;
        }

        if (decision is { Reasons: [Reason.ForMembersOnly] })
        {
            http.Response.StatusCode = StatusCodes.Status403Forbidden;
            await SiteEndpoints.SendAsync(http, await door.Renderer.SignInPageAsync(new ToSignIn($"{LinkStore.Path}/{secret}", mail.IsSet, IsTurnedAway: true), ct), ct);
            return null;
        }

        http.Response.StatusCode = StatusCodes.Status404NotFound;
        await SiteEndpoints.SendAsync(http, await door.Renderer.ContributePageAsync(new ToContribute(null, "/"), ct), ct);
        return null;
    }

    static async Task ShowYours(HttpContext http, SentStore store, AccessStore access, SiteDoor door, MailSettings mail, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (AccountOf(http) is not { } member)
        {
            await SiteEndpoints.SendAsync(http, await door.Renderer.SignInPageAsync(new ToSignIn(Yours, mail.IsSet), ct), ct);
            return;
        }

        var contributing = await store.ContributingAsync(member, ct);
        var yours = new Yours(await store.OfAsync(member, ct), SentStore.Takes(access, null, member, contributing), contributing == Core.Contributions.Contributing.Trusted);
        await SiteEndpoints.SendAsync(http, await door.Renderer.YoursPageAsync(yours, ct), ct);
    }

    static async Task BeginYours(HttpContext http, SentStore sent, ContributionStore store, AccessStore access, TryCount tries, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (!VisitorForm.IsFromElsewhere(http) && AccountOf(http) is { } member && SentStore.Takes(access, null, member, await sent.ContributingAsync(member, ct)))
        {
            await BeginAsync(http, store, null, member, tries, ct);
            return;
        }

        EnteringEndpoints.See(http, Yours);
    }

    static async Task BeginAsync(HttpContext http, ContributionStore store, Guid? link, Guid? member, TryCount tries, CancellationToken ct)
    {
        if (await tries.WaitAsync(Window, ct, ($"c {TryCount.Network(http.Connection.RemoteIpAddress)}", BegunFromPlace)) is not null)
        {
            http.Response.StatusCode = StatusCodes.Status429TooManyRequests;
            await http.Response.WriteAsync("Many began to send photos from where you are. Wait ten minutes, then try again.", ct);
            return;
        }

        EnteringEndpoints.See(http, $"{Sent}/{await store.BeginAsync(link, member, ct)}");
    }

    static async Task Show(string key, HttpContext http, SentStore store, SiteDoor door, MailSettings mail, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (Sender.Of(key, AccountOf(http)) is { } sender && await store.FindAsync(sender, ct) is { } found)
        {
            var page = new ToSend(key, found.Title, found.Sent is null ? found.Instructions : "", found.IsKnown, found.Sent is not null);
            await SiteEndpoints.SendAsync(http, await door.Renderer.SendPageAsync(page, ct), ct);
        }
        else if (Guid.TryParse(key, out _) && AccountOf(http) is null)
        {
            await SiteEndpoints.SendAsync(http, await door.Renderer.SignInPageAsync(new ToSignIn($"{Sent}/{key}", mail.IsSet), ct), ct);
        }
        else
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
        }
    }
}
