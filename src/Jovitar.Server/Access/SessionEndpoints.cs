using System.Globalization;
using System.Security.Claims;
using Jovitar.Server.Platform;
using Jovitar.Server.Site;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.Access;

/// <summary>Who one is here, and what the next unsafe request must carry.</summary>
/// <param name="Name">The person signed in, or null.</param>
/// <param name="NeedsOwner">No account exists yet; the first visitor makes the owner's.</param>
/// <param name="Forgery">The anti-forgery token for the header <c>X-Jovitar-Forgery</c>.</param>
internal sealed record Session(string? Name, string SiteTitle, bool NeedsOwner, string Forgery);

internal sealed record SignIn(string Email, string Password);

internal sealed record NewOwner(string SiteTitle, string Name, string Email, string Password);

/// <summary>Signing in and out, and the owner's first account.</summary>
internal static class SessionEndpoints
{
    const int ShortestPassword = 10;

    /// <summary>A hash to check against when the account does not exist, so that an answer takes as long either way.</summary>
    static readonly string NobodysHash = new PasswordHasher<Account>().HashPassword(null!, Guid.NewGuid().ToString());

    public static void MapSession(this IEndpointRouteBuilder api)
    {
        var session = api.MapGroup("/session").WithTags("Access").AllowAnonymous();
        session.MapGet("", Show).WithSummary("Who one is here");
        session.MapPost("", Enter).WithSummary("Signs in");
        session.MapDelete("", (Delegate)Leave).WithSummary("Signs out");
        api.MapPost("/owner", MakeOwner).WithTags("Access").AllowAnonymous().WithSummary("Makes the owner's account on a new site");
    }

    static async Task<Ok<Session>> Show(HttpContext http, AccountStore accounts, SiteStore site, IAntiforgery forgery, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        return TypedResults.Ok(new Session(
            http.User.Identity is { IsAuthenticated: true } ? http.User.FindFirstValue(ClaimTypes.Name) : null,
            (await site.SettingsAsync(ct)).Title, !await accounts.AnyAsync(ct), forgery.GetAndStoreTokens(http).RequestToken!));
    }

    static async Task<Results<NoContent, JsonHttpResult<Problem>>> Enter(SignIn body, HttpContext http, AccountStore accounts, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        if (await accounts.WaitAsync(body.Email, ct) is { } wait)
        {
            var seconds = Math.Max(1, (int)Math.Ceiling(wait.TotalSeconds));
            http.Response.Headers.RetryAfter = seconds.ToString(CultureInfo.InvariantCulture);
            return Problems.Json(StatusCodes.Status429TooManyRequests, "wait", $"Too many wrong tries. Wait {seconds} seconds, then try again.");
        }

        var account = await accounts.FindAsync(body.Email, ct);
        var verdict = hasher.VerifyHashedPassword(account!, account?.PasswordHash ?? NobodysHash, body.Password);
        if (account is null || verdict == PasswordVerificationResult.Failed)
        {
            await accounts.NoteWrongTryAsync(body.Email, ct);
            return Problems.Json(StatusCodes.Status401Unauthorized, "wrong", "This e-mail address and password do not belong together.");
        }

        await SignInAsync(http, account);
        return TypedResults.NoContent();
    }

    static async Task<NoContent> Leave(HttpContext http)
    {
        await http.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);
        return TypedResults.NoContent();
    }

    static async Task<Results<NoContent, BadRequest<Problem>, JsonHttpResult<Problem>>> MakeOwner(NewOwner body, HttpContext http, AccountStore accounts, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        var faults = new Dictionary<string, string>();
        void Check(bool good, string field, string sentence)
        {
            if (!good)
            {
                faults[field] = sentence;
            }
        }

        Check(!string.IsNullOrWhiteSpace(body.SiteTitle) && body.SiteTitle.Length <= 120, "siteTitle", "Give the site a title of up to 120 characters.");
        Check(!string.IsNullOrWhiteSpace(body.Name) && body.Name.Length <= 120, "name", "Say what you are called.");
        Check(System.Net.Mail.MailAddress.TryCreate(body.Email, out _) && body.Email.Length <= 250, "email", "This is not an e-mail address.");
        Check(body.Password.Length is >= ShortestPassword and <= 500, "password", $"Take at least {ShortestPassword} characters; a few words are easy to remember.");
        if (faults.Count > 0)
        {
            return Problems.Invalid("Something is missing.", faults);
        }

        var account = await accounts.MakeOwnerAsync(body.Email, body.Name, hasher.HashPassword(null!, body.Password), body.SiteTitle, ct);
        if (account is null)
        {
            return Problems.Json(StatusCodes.Status409Conflict, "taken", "This site has an owner already. Sign in instead.");
        }

        await SignInAsync(http, account);
        return TypedResults.NoContent();
    }

    static Task SignInAsync(HttpContext http, Account account) =>
        http.SignInAsync(CookieAuthenticationDefaults.AuthenticationScheme, new ClaimsPrincipal(new ClaimsIdentity(
            [new Claim(ClaimTypes.NameIdentifier, account.Id.ToString()), new Claim(ClaimTypes.Name, account.Name)], CookieAuthenticationDefaults.AuthenticationScheme)));
}
