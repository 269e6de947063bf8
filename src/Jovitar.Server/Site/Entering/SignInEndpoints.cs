using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.People;
using Jovitar.Server.Access;
using Jovitar.Server.Contributions;
using Jovitar.Server.People;
using Jovitar.Server.Platform.Mailing;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.Site.Entering;

/// <summary>What a member finds who is to sign in.</summary>
/// <param name="To">Where they wanted to go, from the site's root.</param>
/// <param name="Email">What they typed.</param>
/// <param name="Fault">What was wrong with what they typed; null for nothing.</param>
/// <param name="IsSent">They asked for a letter.</param>
/// <param name="HasMail">The site writes letters.</param>
/// <param name="IsTurnedAway">What they wanted is for members.</param>
/// <param name="Link">The end of a link that they opened, and whom it signs in; null where they opened none.</param>
/// <param name="Account">Of who is signed in already; null for nobody.</param>
public sealed record ToSignIn(string To, bool HasMail, string Email = "", string? Fault = null, bool IsSent = false, bool IsTurnedAway = false, MemberByLink? Link = null, MemberAccount? Account = null);

/// <param name="Name">What the member is called.</param>
public sealed record MemberByLink(string Secret, string Name);

/// <summary>Members sign in to the site: by a password, or by a link that a letter brings or staff hand on. No script is needed.</summary>
internal static class SignInEndpoints
{
    public const string Path = WayInStore.MemberPath;

    /// <summary>Where what they typed is sent.</summary>
    public const string Form = "/site/sign-in";

    const int LongestEmail = 254;

    const string Wrong = "This e-mail address and password do not belong together.";
    const string NotOne = "Type your e-mail address.";

    const string NotMember = "You work on this site: sign in at its workroom.";

    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapSigningIn(this IEndpointRouteBuilder site)
    {
        site.MapGet(Path, Show);
        site.MapPost(Form, Type);
        site.MapGet($"{Path}/{{secret}}", ShowLink);
        site.MapPost($"{Path}/{{secret}}", UseLink);
    }

    static async Task Show(string? to, HttpContext http, SiteDoor door, AccountStore accounts, SessionStore sessions, SentStore sent, MailSettings mail, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        var account = await MemberAccountEndpoints.OfAsync(http, accounts, sessions, sent, ct);
        await AnswerAsync(http, door, new ToSignIn(EnteringEndpoints.PathOf(to ?? "/"), mail.IsSet, Account: account), null, ct);
    }

    /// <summary>What is said to who tries too often.</summary>
    internal static string TooMany(TimeSpan wait) => $"Too many wrong tries. Wait {Math.Max(1, (int)Math.Ceiling(wait.TotalSeconds))} seconds, then try again.";

    static async Task Type(
        HttpContext http, SiteDoor door, AccountStore accounts, SessionStore sessions, SecondStepStore second, SignInLimit limit, WayInStore ways, LetterLimit letters, IPasswordHasher<Account> hasher, MailSettings mail, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (VisitorForm.IsFromElsewhere(http) || await VisitorForm.ReadAsync(http, ct) is not { } form)
        {
            await AnswerAsync(http, door, new ToSignIn("/", mail.IsSet), StatusCodes.Status400BadRequest, ct);
            return;
        }

        var asked = new ToSignIn(EnteringEndpoints.PathOf(form["to"].ToString()), mail.IsSet, Text.Cut(form["email"].ToString().Trim(), LongestEmail));
        if (!MailAddress.IsOne(asked.Email))
        {
            await AnswerAsync(http, door, asked with { Fault = NotOne }, StatusCodes.Status422UnprocessableEntity, ct);
            return;
        }

        if (form["by"] == "letter" && mail.IsSet)
        {
            if (await letters.WaitAsync(asked.Email, http.Connection.RemoteIpAddress, ct) is { } pause)
            {
                await AnswerAsync(http, door, asked with { Fault = LetterLimit.Sentence(pause) }, StatusCodes.Status429TooManyRequests, ct);
                return;
            }

            await ways.WishAsync(asked.Email, door.Origin.TextOf(http.Request), ct);
            await AnswerAsync(http, door, asked with { IsSent = true }, null, ct);
            return;
        }

        var password = form["password"].ToString();
        if (password.Length == 0)
        {
            await AnswerAsync(http, door, asked with { Fault = mail.IsSet ? "Type your password, or have a link sent to you." : "Type your password." }, StatusCodes.Status422UnprocessableEntity, ct);
            return;
        }

        if (await limit.CountAsync(asked.Email, http.Connection.RemoteIpAddress, ct) is { } wait)
        {
            await AnswerAsync(http, door, asked with { Fault = TooMany(wait) }, StatusCodes.Status429TooManyRequests, ct);
            return;
        }

        if (await accounts.VerifiedAsync(asked.Email, password, hasher, ct) is not { } account)
        {
            await AnswerAsync(http, door, asked with { Fault = Wrong }, StatusCodes.Status422UnprocessableEntity, ct);
            return;
        }

        if (account.Role != Role.Member || await second.FindAsync(account.Id, ct) is not null)
        {
            await AnswerAsync(http, door, asked with { Fault = NotMember }, StatusCodes.Status403Forbidden, ct);
            return;
        }

        await limit.ClearAsync(asked.Email, http.Connection.RemoteIpAddress, ct);
        await Security.SignInAsync(http, account, sessions, ct);
        EnteringEndpoints.See(http, asked.To);
    }

    /// <summary>Opened, a link signs nobody in yet: programs that look at the links in letters use none of them up.</summary>
    static async Task ShowLink(string secret, HttpContext http, SiteDoor door, WayInStore ways, MailSettings mail, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await FindAsync(secret, ways, ct) is { } member)
        {
            await AnswerAsync(http, door, new ToSignIn("/", mail.IsSet, Link: new MemberByLink(secret, member.Name)), null, ct);
            return;
        }

        await RefuseAsync(http, door, mail, ct);
    }

    static async Task UseLink(
        string secret, HttpContext http, SiteDoor door, WayInStore ways, AccountStore accounts, SessionStore sessions, IPasswordHasher<Account> hasher, MailSettings mail, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (VisitorForm.IsFromElsewhere(http) || await FindAsync(secret, ways, ct) is not { } member || await VisitorForm.ReadAsync(http, ct) is not { } form)
        {
            await RefuseAsync(http, door, mail, ct);
            return;
        }

        var password = form["password"].ToString();
        if (password.Length is > 0 and < SessionEndpoints.ShortestPassword)
        {
            var asked = new ToSignIn("/", mail.IsSet, Fault: SessionEndpoints.TooShort, Link: new MemberByLink(secret, member.Name));
            await AnswerAsync(http, door, asked, StatusCodes.Status422UnprocessableEntity, ct);
            return;
        }

        if (!await ways.UseAsync(secret, ct))
        {
            await RefuseAsync(http, door, mail, ct);
            return;
        }

        if (password.Length > 0)
        {
            await accounts.ChangePasswordAsync(member.Id, hasher.HashPassword(member, password), thisSession: null, ct);
        }

        await Security.SignInAsync(http, member, sessions, ct);
        EnteringEndpoints.See(http, "/");
    }

    /// <summary>The member whom a link signs in; null where it is shut, has run out, or is of somebody who works here.</summary>
    static async Task<Account?> FindAsync(string secret, WayInStore ways, CancellationToken ct) => await ways.FindAsync(secret, ct) is { Role: Role.Member } member ? member : null;

    static Task RefuseAsync(HttpContext http, SiteDoor door, MailSettings mail, CancellationToken ct) =>
        AnswerAsync(http, door, new ToSignIn("/", mail.IsSet, Fault: mail.IsSet ? "This link is not good any more. With your address you get another one." : "This link is not good any more. Whoever gave it to you can give you another."), StatusCodes.Status404NotFound, ct);

    static async Task AnswerAsync(HttpContext http, SiteDoor door, ToSignIn asked, int? status, CancellationToken ct)
    {
        http.Response.StatusCode = status ?? StatusCodes.Status200OK;
        await SiteEndpoints.SendAsync(http, await door.Renderer.SignInPageAsync(asked, ct), ct);
    }
}
