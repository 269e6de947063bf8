using System.ComponentModel.DataAnnotations;
using Jovitar.Core.Access;
using Jovitar.Server.Access.Passkeys;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.Access;

/// <summary>One's account, and the browsers signed in to it.</summary>
/// <param name="SecondStep">Null where none is on.</param>
internal sealed record AccountDetail(string Name, string Email, Role Role, SecondStep? SecondStep, IReadOnlyList<PasskeyLine> Passkeys, IReadOnlyList<SessionLine> Sessions);

public sealed record NewPassword([Required, Words(500)] string Current, [Required, Words(500)] string Password);

/// <param name="Current">The password: whoever finds a browser signed in may not shut its owner out.</param>
public sealed record SecondStepWanted([Required, Words(500)] string Current);

/// <summary>A second step that is being set up: what a phone must know.</summary>
/// <param name="Secret">To be typed where nothing can be read off the screen.</param>
/// <param name="Address">What the phone reads.</param>
/// <param name="Drawing">The same as a QR code: where it is dark, as an SVG path of squares of side 1.</param>
/// <param name="Side">Of the QR code with its quiet edge, in squares.</param>
internal sealed record SecondStepBegun(string Secret, string Address, string Drawing, int Side);

public sealed record SecondStepCode([Required, Words(40)] string Code);

/// <param name="Codes">On paper: each good once, and shown this once.</param>
internal sealed record SecondStepOn(IReadOnlyList<string> Codes);

/// <param name="Code">That the phone shows, or one on paper.</param>
public sealed record SecondStepOff([Required, Words(500)] string Current, [Required, Words(40)] string Code);

internal static class SecondStepWords
{
    public const string Wrong = "This code is not right, or was used already. Take the next one.";
}

/// <summary>One's own account: its password, its second step, and the browsers signed in to it.</summary>
internal static class AccountEndpoints
{
    public static void MapAccount(this IEndpointRouteBuilder api)
    {
        var account = api.MapGroup("/account").RequireAuthorization(Security.SignedIn).WithTags("Access");
        account.MapGet("", Detail).WithSummary("One's account, and the browsers signed in to it");
        account.MapPut("/password", ChangePassword).WithSummary("Changes one's password; all other browsers are signed out");
        account.MapDelete("/sessions/{session}", EndSession).WithSummary("Signs a browser out");
        account.MapPost("/second-step", BeginSecondStep).WithSummary("Begins to set a second step at signing in up");
        account.MapPut("/second-step", PutSecondStepOn).WithSummary("Puts the second step on, once the phone shows the right code");
        account.MapPost("/second-step/off", TakeSecondStepOff).WithSummary("Takes the second step off");
    }

    static async Task<Results<Ok<AccountDetail>, NotFound<Problem>>> Detail(HttpContext http, AccountStore accounts, SessionStore sessions, SecondStepStore second, PasskeyStore passkeys, CancellationToken ct) =>
        Actor.Of(http.User).Account is { } id && await accounts.FindAsync(id, ct) is { } account
            ? TypedResults.Ok(new AccountDetail(account.Name, account.Email, account.Role, await second.FindAsync(id, ct), await passkeys.ListAsync(id, ct), await sessions.ListAsync(id, http.User.Session(), ct)))
            : Problems.Gone("account");

    static async Task<Results<NoContent, BadRequest<Problem>, NotFound<Problem>, JsonHttpResult<Problem>>> ChangePassword(
        NewPassword body, HttpContext http, AccountStore accounts, SignInLimit limit, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        if (body.Password.Length < SessionEndpoints.ShortestPassword)
        {
            return Problems.Invalid(SessionEndpoints.TooShort, new Dictionary<string, string> { ["password"] = SessionEndpoints.TooShort });
        }

        var (account, wait) = await KnownAsync(body.Current, http, accounts, limit, hasher, ct);
        if (account is null)
        {
            return wait is { } time ? SessionEndpoints.MustWait(http, time) : NotTheirs();
        }

        await limit.ClearAsync(account.Email, http.Connection.RemoteIpAddress, ct);
        await accounts.ChangePasswordAsync(account.Id, hasher.HashPassword(account, body.Password), http.User.Session(), ct);
        return TypedResults.NoContent();
    }

    static async Task<Results<NoContent, NotFound<Problem>>> EndSession(Guid session, HttpContext http, SessionStore sessions, CancellationToken ct) =>
        Actor.Of(http.User).Account is { } account && await sessions.EndAsync(account, session, ct) ? TypedResults.NoContent() : Problems.Gone("session");

    static async Task<Results<Ok<SecondStepBegun>, BadRequest<Problem>, Conflict<Problem>, JsonHttpResult<Problem>>> BeginSecondStep(
        SecondStepWanted body, HttpContext http, AccountStore accounts, SecondStepStore second, SettingsStore settings, SignInLimit limit, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        var (account, wait) = await KnownAsync(body.Current, http, accounts, limit, hasher, ct);
        if (account is null)
        {
            return wait is { } time ? SessionEndpoints.MustWait(http, time) : NotTheirs();
        }

        await limit.ClearAsync(account.Email, http.Connection.RemoteIpAddress, ct);
        if (await second.BeginAsync(account.Id, ct) is not { } secret)
        {
            return Problems.Conflict("on", "The second step is on already.");
        }

        var address = OneTimeCode.Address((await settings.ReadAsync(ct)).Front.Title, account.Email, secret);
        var (drawing, side) = QrDrawing.Of(address);
        return TypedResults.Ok(new SecondStepBegun(OneTimeCode.Written(secret), address, drawing, side));
    }

    static async Task<Results<Ok<SecondStepOn>, BadRequest<Problem>, NotFound<Problem>>> PutSecondStepOn(SecondStepCode body, HttpContext http, SecondStepStore second, CancellationToken ct)
    {
        if (Actor.Of(http.User).Account is not { } account)
        {
            return Problems.Gone("account");
        }

        return await second.PutOnAsync(account, body.Code, ct) is { } codes ? TypedResults.Ok(new SecondStepOn(codes)) : WrongCode();
    }

    static async Task<Results<NoContent, BadRequest<Problem>, JsonHttpResult<Problem>>> TakeSecondStepOff(
        SecondStepOff body, HttpContext http, AccountStore accounts, SecondStepStore second, SignInLimit limit, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        var (account, wait) = await KnownAsync(body.Current, http, accounts, limit, hasher, ct);
        if (account is null)
        {
            return wait is { } time ? SessionEndpoints.MustWait(http, time) : NotTheirs();
        }

        if (await second.FindAsync(account.Id, ct) is not null && !await second.TakeAsync(account.Id, body.Code, ct))
        {
            return WrongCode();
        }

        await limit.ClearAsync(account.Email, http.Connection.RemoteIpAddress, ct);
        await second.TakeOffAsync(account.Id, ct);
        return TypedResults.NoContent();
    }

    internal static BadRequest<Problem> NotTheirs() => Problems.Invalid("This is not your present password.", new Dictionary<string, string> { ["current"] = "This is not your present password." });

    static BadRequest<Problem> WrongCode() => Problems.Invalid(SecondStepWords.Wrong, new Dictionary<string, string> { ["code"] = SecondStepWords.Wrong });

    /// <summary>The account that asks, if its password was said. The try is counted as one at signing in, until somebody clears it.</summary>
    /// <returns>No account where the password is another one, or where there were too many tries, and how long to wait then.</returns>
    internal static async Task<(Account? Account, TimeSpan? Wait)> KnownAsync(string password, HttpContext http, AccountStore accounts, SignInLimit limit, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        if (Actor.Of(http.User).Account is not { } id || await accounts.FindAsync(id, ct) is not { } account)
        {
            return (null, null);
        }

        if (await limit.CountAsync(account.Email, http.Connection.RemoteIpAddress, ct) is { } wait)
        {
            return (null, wait);
        }

        return hasher.VerifyHashedPassword(account, account.PasswordHash, password) == PasswordVerificationResult.Failed ? (null, null) : (account, null);
    }
}
