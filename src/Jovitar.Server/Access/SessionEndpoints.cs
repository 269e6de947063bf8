using System.ComponentModel.DataAnnotations;
using System.Globalization;
using System.Security.Claims;
using Jovitar.Core.Access;
using Jovitar.Core.Layout;
using Jovitar.Core.Opening;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;
using Jovitar.Core.Themes;
using Jovitar.Core.Watermarks;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.Access;

/// <summary>Who one is here, and what the next unsafe request must carry.</summary>
/// <param name="Name">The person signed in, or null.</param>
/// <param name="IsOpen">Visitors may come in.</param>
/// <param name="NeedsOwner">No account exists yet; the first visitor makes the owner's.</param>
/// <param name="HasMail">It writes letters: a link to sign in with can be asked for.</param>
/// <param name="Forgery">The anti-forgery token for the header <c>X-Jovitar-Forgery</c>.</param>
/// <param name="Bounds">What the workroom keeps to while one works.</param>
internal sealed record Session(string? Name, Role Role, string SiteTitle, bool IsOpen, bool NeedsOwner, bool HasMail, string Forgery, Bounds Bounds);

/// <summary>Bounds of the rules that are felt while one works and not only when something is sent.</summary>
/// <param name="InHand">Photos taken in hand at once.</param>
/// <param name="SmallestSize">Of a thumbnail in a layout, CSS pixels; likewise the largest.</param>
/// <param name="LargestGap">Between thumbnails, CSS pixels.</param>
/// <param name="MostAcross">How many thumbnails may stand side by side.</param>
/// <param name="ThickestVeil">Over a photo that lies behind blocks, percent.</param>
/// <param name="WidestEdge">Around photos, CSS pixels.</param>
/// <param name="RoundestCorner">Of photos, CSS pixels.</param>
/// <param name="LowestLogo">In the site's head, CSS pixels; likewise the highest.</param>
/// <param name="LargestLogo">Of a file that is to become one, bytes.</param>
/// <param name="LongestFoot">Words at the end of every page, characters.</param>
/// <param name="LongestTitle">Of the site, characters; likewise what stands beneath it, and what visitors read while it is closed.</param>
/// <param name="LargestEmbed">Photos of a block on another website.</param>
internal sealed record Bounds(int InHand, int SmallestSize, int LargestSize, int LargestGap, int MostAcross, int ThickestVeil, int WidestEdge, int RoundestCorner, int LowestLogo, int HighestLogo, int LargestLogo, int LongestFoot, int LongestTitle, int LongestTagline, int LongestMeanwhile, int LargestEmbed, WatermarkBounds Watermark)
{
    public static readonly Bounds OfRules = new(Hand.Most, LayoutSettings.SmallestSize, LayoutSettings.LargestSize, LayoutSettings.LargestGap, LayoutSettings.MostAcross, WordsOver.ThickestVeil, LookChange.WidestEdge, Corners.Most, Logo.Lowest, Logo.Highest, Logo.MostBytes, Theme.LongestFoot, Front.LongestTitle, Front.LongestTagline, Front.LongestMeanwhile, Embed.LargestMost, WatermarkBounds.OfRules);
}

/// <summary>Those of the watermark.</summary>
/// <param name="LargestPicture">Of a file that is to become one, bytes.</param>
/// <param name="Usual">What a site begins with.</param>
internal sealed record WatermarkBounds(int LongestWords, int Smallest, int Largest, int Faintest, int Strongest, int WidestInset, int LargestPicture, Watermark Usual)
{
    public static readonly WatermarkBounds OfRules = new(Watermark.LongestWords, Watermark.Smallest, Watermark.Largest, Watermark.Faintest, Watermark.Strongest, Watermark.WidestInset, WatermarkPicture.MostBytes, Core.Watermarks.Watermark.Usual);
}

/// <param name="Code">Of the second step, where one is on; empty while nobody asked for it.</param>
public sealed record SignIn([Required, Words(250)] string Email, [Required, Words(500)] string Password, [Words(40)] string Code = "");

public sealed record NewOwner([Required, Words(Front.LongestTitle)] string SiteTitle, [Required, Words(120)] string Name, [Required, Words(250), MailAddress] string Email, [Required, Words(500)] string Password);

/// <summary>Signing in and out, and the owner's first account.</summary>
internal static class SessionEndpoints
{
    internal const int ShortestPassword = 10;

    internal static readonly string TooShort = $"Take at least {ShortestPassword} characters; a few words are easy to remember.";

    public static void MapSession(this IEndpointRouteBuilder api)
    {
        var session = api.MapGroup("/session").WithTags("Access").AllowAnonymous().WithMetadata(AlwaysOpen.Instance);
        session.MapGet("", Show).WithSummary("Who one is here");
        session.MapPost("", Enter).WithSummary("Signs in");
        session.MapDelete("", Leave).WithSummary("Signs out");
        api.MapPost("/owner", MakeOwner).WithTags("Access").AllowAnonymous().WithMetadata(AlwaysOpen.Instance).WithSummary("Makes the owner's account on a new site");
    }

    static async Task<Ok<Session>> Show(HttpContext http, AccountStore accounts, SettingsStore settings, MailSettings mail, IAntiforgery forgery, CancellationToken ct)
    {
        var token = forgery.GetAndStoreTokens(http).RequestToken!;
        var front = (await settings.ReadAsync(ct)).Front;
        return TypedResults.Ok(new Session(
            // A member is nobody here: what they are signed in to is the site.
            http.User.Identity is { IsAuthenticated: true } && http.User.Viewer().Role != Role.Member ? http.User.FindFirstValue(ClaimTypes.Name) : null, http.User.Viewer().Role,
            front.Title, front.IsOpen, !await accounts.AnyAsync(ct), mail.IsSet, token, Bounds.OfRules));
    }

    static async Task<Results<NoContent, JsonHttpResult<Problem>>> Enter(
        SignIn body, HttpContext http, AccountStore accounts, SessionStore sessions, SecondStepStore second, SignInLimit limit, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        var address = http.Connection.RemoteIpAddress;
        if (await limit.CountAsync(body.Email, address, ct) is { } wait)
        {
            return MustWait(http, wait);
        }

        if (await accounts.VerifiedAsync(body.Email, body.Password, hasher, ct) is not { } account)
        {
            return Problems.Json(StatusCodes.Status401Unauthorized, "wrong", "This e-mail address and password do not belong together.");
        }

        if (account.Role == Role.Member)
        {
            return Problems.Json(StatusCodes.Status403Forbidden, "member", "You are a member of the site and have no part in its workroom. Sign in at the foot of any of its pages.");
        }

        if (await second.FindAsync(account.Id, ct) is not null)
        {
            var sentence = body.Code.Length == 0 ? "Now the code that your phone shows." : SecondStepWords.Wrong;
            if (body.Code.Length == 0 || !await second.TakeAsync(account.Id, body.Code, ct))
            {
                return Problems.Json(StatusCodes.Status401Unauthorized, "second-step", sentence);
            }
        }

        await limit.ClearAsync(body.Email, address, ct);
        await Security.SignInAsync(http, account, sessions, ct);
        return TypedResults.NoContent();
    }

    /// <param name="sentence">Null for the usual one, of wrong tries.</param>
    internal static JsonHttpResult<Problem> MustWait(HttpContext http, TimeSpan wait, string? sentence = null)
    {
        var seconds = Math.Max(1, (int)Math.Ceiling(wait.TotalSeconds));
        http.Response.Headers.RetryAfter = seconds.ToString(CultureInfo.InvariantCulture);
        return Problems.Json(StatusCodes.Status429TooManyRequests, "wait", sentence ?? $"Too many wrong tries. Wait {seconds} seconds, then try again.");
    }

    static async Task<NoContent> Leave(HttpContext http, SessionStore sessions, CancellationToken ct)
    {
        if (Actor.Of(http.User).Account is { } account)
        {
            await sessions.EndAsync(account, http.User.Session(), ct);
        }

        await http.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);
        return TypedResults.NoContent();
    }

    static async Task<Results<NoContent, BadRequest<Problem>, JsonHttpResult<Problem>>> MakeOwner(
        NewOwner body, HttpContext http, AccountStore accounts, SessionStore sessions, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        if (body.Password.Length < ShortestPassword)
        {
            return Problems.Invalid(TooShort, new Dictionary<string, string> { ["password"] = TooShort });
        }

        var title = Front.OneLine(body.SiteTitle);
        if (title.Length == 0)
        {
            return Problems.Invalid("Give the site a name.", new Dictionary<string, string> { ["siteTitle"] = "Give the site a name." });
        }

        var account = await accounts.MakeOwnerAsync(body.Email, body.Name, hasher.HashPassword(null!, body.Password), title, ct);
        if (account is null)
        {
            return Problems.Json(StatusCodes.Status409Conflict, "taken", "This site has an owner already. Sign in instead.");
        }

        await Security.SignInAsync(http, account, sessions, ct);
        return TypedResults.NoContent();
    }
}
