using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Entries;
using Jovitar.Server.Platform;
using Jovitar.Server.Site.Drawing;
using Jovitar.Server.Site.Embedding;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;

namespace Jovitar.Server.Site.Entering;

/// <summary>What somebody finds who is to come in.</summary>
/// <param name="To">Where they wanted to go, from the site's root; where a link leads, that link.</param>
/// <param name="Link">They opened an entry link: it is only to be pressed. Else a passcode is typed.</param>
/// <param name="HasPasscode">There is a passcode that lets in.</param>
/// <param name="Fault">What was wrong with what they typed; null for nothing.</param>
/// <param name="Typed">What they typed, to be set right.</param>
public sealed record ToEnter(string To, bool Link, bool HasPasscode, string? Fault = null, string Typed = "");

/// <summary>Coming in by an entry link or a passcode, and leaving. No script is needed.</summary>
internal static class EnteringEndpoints
{
    /// <summary>Where a passcode is sent.</summary>
    public const string Form = "/site/enter";

    /// <summary>Where somebody leaves who came in.</summary>
    public const string Leaving = "/site/leave";

    /// <summary>Tries that fail from one network at one gate.</summary>
    const int TriesFromPlace = 30;

    static readonly Uri AnySite = new("http://site");
    static readonly TimeSpan Window = TimeSpan.FromMinutes(10);

    const string TooMany = "Many tried from where you are. Wait ten minutes, then try again.";
    const string Wrong = "That passcode does not open this. Look at each letter again; capitals and dashes make no difference.";
    const string Nothing = "Type the passcode that you were given.";

    const int LongestTyped = 40;

    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapEntering(this IEndpointRouteBuilder site)
    {
        site.MapGet($"{EntryStore.Path}/{{secret}}", Show);
        site.MapPost($"{EntryStore.Path}/{{secret}}", Open);
        site.MapPost(Form, Type);
        site.MapPost(Leaving, Leave);
    }

    /// <param name="drafts">Doors for those who make pages.</param>
    public static void MapEntrySheets(this IEndpointRouteBuilder drafts) => drafts.MapGet("/entry/{entry:guid}", Sheet);

    /// <summary>A sheet to print: what opens it as a QR code, and to be typed.</summary>
    static async Task Sheet(Guid entry, HttpContext http, EntryStore entries, SiteStore site, SiteRenderer renderer, SiteOrigin origin, CancellationToken ct)
    {
        if (await entries.SheetAsync(entry, ct) is not var (line, of))
        {
            await SiteEndpoints.Missing(http, renderer, ct);
            return;
        }

        Hide(http);
        var path = line.Kind == EntryKind.Link ? $"{EntryStore.Path}/{line.Secret}" : await site.PathAsync(of.Kind, of.Thing, ct) ?? "/";
        await SiteEndpoints.SendAsync(http, await renderer.EntrySheetAsync(line, of.Name, new Uri(origin.Of(http.Request), path).AbsoluteUri, ct), ct);
    }

    /// <summary>Opened, a link lets nobody in yet: programs that look at the links in letters use none of them up.</summary>
    static async Task Show(string secret, HttpContext http, EntryStore entries, SiteDoor door, CancellationToken ct)
    {
        Hide(http);
        if (await entries.LinkAsync(secret, EntryCookie.Holder(http.Request), ct) is null)
        {
            await RefuseAsync(http, door, ct);
            return;
        }

        await SiteEndpoints.SendAsync(http, await door.Renderer.EnteringPageAsync(new ToEnter($"{EntryStore.Path}/{secret}", Link: true, HasPasscode: false), ct), ct);
    }

    static async Task Open(string secret, HttpContext http, EntryStore entries, SiteDoor door, CancellationToken ct)
    {
        Hide(http);
        if (VisitorForm.IsFromElsewhere(http) || await entries.LinkAsync(secret, EntryCookie.Holder(http.Request), ct) is not { } found)
        {
            await RefuseAsync(http, door, ct);
            return;
        }

        if (!await EnterAsync(http, entries, found, await door.PathAsync(found, ct), ct))
        {
            await RefuseAsync(http, door, ct);
        }
    }

    static async Task Type(HttpContext http, EntryStore entries, SiteDoor door, TryCount tries, CancellationToken ct)
    {
        Hide(http);
        if (VisitorForm.IsFromElsewhere(http) || await VisitorForm.ReadAsync(http, ct) is not { } form || EmbedLink.Of(form["to"], door.Origin.Of(http.Request)) is not { } link)
        {
            await RefuseAsync(http, door, ct);
            return;
        }

        var to = form["to"].ToString();
        var sight = await door.SightAsync(http, ct);
        if (await door.ShutAsync(link.Kind, link.Address, sight, ct) is not { } gates)
        {
            // They are in already, or there is nothing: the page itself says which.
            See(http, to);
            return;
        }

        var key = $"n {TryCount.Network(http.Connection.RemoteIpAddress)} {gates[0]}";
        var isOver = await tries.WaitAsync(Window, ct, (key, TriesFromPlace)) is not null;
        if (!isOver && await entries.PasscodeAsync(form["passcode"].ToString(), gates, EntryCookie.Holder(http.Request), ct) is { } found && await EnterAsync(http, entries, found, to, ct))
        {
            // Those who have it are not kept waiting by each other.
            await tries.ForgetAsync(ct, key);
            return;
        }

        http.Response.StatusCode = isOver ? StatusCodes.Status429TooManyRequests : StatusCodes.Status422UnprocessableEntity;
        var typed = form["passcode"].ToString();
        var fault = isOver ? TooMany : typed.Trim().Length == 0 ? Nothing : Wrong;
        await SiteEndpoints.SendAsync(http, await door.Renderer.EnteringPageAsync(new ToEnter(to, Link: false, HasPasscode: true, fault, Text.Cut(typed, LongestTyped)), ct), ct);
    }

    static async Task Leave(HttpContext http, EntryStore entries, SessionStore sessions, CancellationToken ct)
    {
        Hide(http);
        if (!VisitorForm.IsFromElsewhere(http))
        {
            if (EntryCookie.Holder(http.Request) is { } holder)
            {
                await entries.LeaveAsync(holder, ct);
            }

            EntryCookie.Take(http);
            if (http.User.Member() is { } member)
            {
                await sessions.EndAsync(member, http.User.Session(), ct);
                await http.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);
            }

            // Nor does the browser go on showing what it was let see (Clear Site Data §3.1).
            http.Response.Headers["Clear-Site-Data"] = "\"cache\"";
        }

        See(http, "/");
    }

    static async Task<bool> EnterAsync(HttpContext http, EntryStore entries, EntryFound found, string to, CancellationToken ct)
    {
        if (await entries.EnterAsync(found, EntryCookie.Holder(http.Request), http.Request.Headers.UserAgent.ToString(), http.Connection.RemoteIpAddress, ct) is not { } secret)
        {
            return false;
        }

        EntryCookie.Give(http, secret);
        See(http, to);
        return true;
    }

    /// <summary>The same for a link that never was, is withdrawn, has ended or was used by as many as may.</summary>
    static async Task RefuseAsync(HttpContext http, SiteDoor door, CancellationToken ct)
    {
        http.Response.StatusCode = StatusCodes.Status404NotFound;
        await SiteEndpoints.SendAsync(http, await door.Renderer.EnteringPageAsync(null, ct), ct);
    }

    /// <summary>Nothing keeps it, no program lists it, and no other website is told of its address.</summary>
    internal static void Hide(HttpContext http)
    {
        http.Response.Headers.CacheControl = "private, no-store";
        http.Response.Headers["Referrer-Policy"] = "no-referrer";
        http.Response.Headers["X-Robots-Tag"] = "noindex";
    }

    /// <summary>Leads on, by a GET (RFC 9110 §15.4.4): to a path of this site and nowhere else, whatever was sent.</summary>
    internal static void See(HttpContext http, string to)
    {
        http.Response.StatusCode = StatusCodes.Status303SeeOther;
        http.Response.Headers.Location = PathOf(to);
    }

    /// <summary>The path of this site that somebody wanted to go to, whatever was sent: two slashes would name another host, also where they come out of "/.//" (RFC 3986 §4.2, §5.2.4).</summary>
    internal static string PathOf(string to) => Uri.TryCreate(AnySite, to, out var found) ? $"/{found.PathAndQuery.TrimStart('/')}" : "/";
}
