using Jovitar.Server.Access;
using Jovitar.Server.Contributions;
using Jovitar.Server.PersonalData;
using Jovitar.Server.Platform.Mailing;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.Site.Entering;

/// <summary>What a member finds of their own account.</summary>
/// <param name="HasPassword">They have chosen one.</param>
/// <param name="Sends">They send photos in, or did.</param>
/// <param name="Others">So many other browsers are signed in as they.</param>
/// <param name="Fault">What was wrong with what they typed; null for nothing.</param>
/// <param name="Done">What was done; null for nothing.</param>
public sealed record MemberAccount(string Name, bool HasPassword, bool Sends, int Others, string? Fault = null, string? Done = null);

/// <summary>What members do with their own account, where they sign in. No script is needed.</summary>
internal static class MemberAccountEndpoints
{
    /// <summary>Where a password that they chose is sent.</summary>
    public const string Password = "/site/account/password";

    /// <summary>Where they sign their other browsers out.</summary>
    public const string Others = "/site/account/others";

    /// <summary>Where they get what is kept of them.</summary>
    public const string Kept = "/site/account/kept.json";

    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapMemberAccount(this IEndpointRouteBuilder site)
    {
        site.MapGet(Kept, Export);
        site.MapPost(Password, Change);
        site.MapPost(Others, EndOthers);
    }

    /// <summary>Of the member who asks; null for anybody else.</summary>
    public static async Task<MemberAccount?> OfAsync(HttpContext http, AccountStore accounts, SessionStore sessions, SentStore sent, CancellationToken ct) =>
        await MemberAsync(http, accounts, ct) is { } member
            ? new MemberAccount(member.Name, member.PasswordHash.Length > 0, await sent.SendsAsync(member.Id, ct), (await sessions.ListAsync(member.Id, http.User.Session(), ct)).Count(s => !s.Here))
            : null;

    static async Task<Account?> MemberAsync(HttpContext http, AccountStore accounts, CancellationToken ct) =>
        http.User.Member() is { } id ? await accounts.FindAsync(id, ct) : null;

    static async Task Change(HttpContext http, SiteDoor door, AccountStore accounts, SessionStore sessions, SentStore sent, SignInLimit limit, IPasswordHasher<Account> hasher, MailSettings mail, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (VisitorForm.IsFromElsewhere(http) || await VisitorForm.ReadAsync(http, ct) is not { } form || await MemberAsync(http, accounts, ct) is not { } member)
        {
            EnteringEndpoints.See(http, SignInEndpoints.Path);
            return;
        }

        var (fault, status) = await FaultAsync(form["current"].ToString(), form["password"].ToString(), member, http, accounts, limit, hasher, ct);
        if (fault is null)
        {
            await accounts.ChangePasswordAsync(member.Id, hasher.HashPassword(member, form["password"].ToString()), http.User.Session(), ct);
        }

        http.Response.StatusCode = status;
        if (await OfAsync(http, accounts, sessions, sent, ct) is { } account)
        {
            var asked = new ToSignIn("/", mail.IsSet, Account: account with { Fault = fault, Done = fault is null ? "Your password is kept. Other browsers are signed out." : null });
            await SiteEndpoints.SendAsync(http, await door.Renderer.SignInPageAsync(asked, ct), ct);
        }
    }

    /// <summary>What speaks against another password; null for nothing. Tries at the present one count as tries at signing in.</summary>
    static async Task<(string? Fault, int Status)> FaultAsync(string current, string next, Account member, HttpContext http, AccountStore accounts, SignInLimit limit, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        if (next.Length < SessionEndpoints.ShortestPassword)
        {
            return (SessionEndpoints.TooShort, StatusCodes.Status422UnprocessableEntity);
        }

        if (member.PasswordHash.Length == 0)
        {
            return (null, StatusCodes.Status200OK);
        }

        if (await limit.CountAsync(member.Email, http.Connection.RemoteIpAddress, ct) is { } wait)
        {
            return (SignInEndpoints.TooMany(wait), StatusCodes.Status429TooManyRequests);
        }

        if (await accounts.VerifiedAsync(member.Email, current, hasher, ct) is null)
        {
            return ("This is not your present password.", StatusCodes.Status422UnprocessableEntity);
        }

        await limit.ClearAsync(member.Email, http.Connection.RemoteIpAddress, ct);
        return (null, StatusCodes.Status200OK);
    }

    static async Task EndOthers(HttpContext http, SessionStore sessions, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (!VisitorForm.IsFromElsewhere(http) && http.User.Member() is { } member)
        {
            await sessions.EndOthersAsync(member, http.User.Session(), ct);
        }

        EnteringEndpoints.See(http, SignInEndpoints.Path);
    }

    static async Task<IResult> Export(HttpContext http, AccountStore accounts, PersonalDataStore store, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        return await MemberAsync(http, accounts, ct) is { } member && await store.ExportAsync(member.Id, ct) is { } file
            ? TypedResults.File(file, "application/json; charset=utf-8", PersonalDataEndpoints.FileName)
            : TypedResults.Redirect($"{SignInEndpoints.Path}");
    }
}
