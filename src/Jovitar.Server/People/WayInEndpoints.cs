using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.People;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.People;

/// <param name="Secret">What the link carries behind its <c>#</c>, where no server on the way reads it.</param>
public sealed record LinkOpened([Required, Words(100)] string Secret);

/// <summary>What an invitation asks one to take up.</summary>
/// <param name="By">Who asks.</param>
internal sealed record InvitationSeen(string Name, string Email, Role Role, bool HandsOver, string By);

/// <param name="Name">What one is called, as one says it oneself.</param>
public sealed record InvitationTaken([Required, Words(100)] string Secret, [Required, Words(120)] string Name, [Required, Words(500)] string Password);

public sealed record WayInWish([Required, Words(250)] string Email);

/// <summary>Whom a link signs in.</summary>
internal sealed record WayInSeen(string Name, string Email);

/// <param name="Password">A new one; empty to keep what one has.</param>
/// <param name="Code">Of the second step, where one is on; empty while nobody asked for it.</param>
public sealed record WayInUsed([Required, Words(100)] string Secret, [Words(500)] string Password = "", [Words(40)] string Code = "");

/// <summary>Ways in by a link: taking up an invitation, and signing in without a password.</summary>
internal static class WayInEndpoints
{
    public static void MapWaysIn(this IEndpointRouteBuilder api)
    {
        var invitation = api.MapGroup("/invitation").WithTags("People").AllowAnonymous().WithMetadata(AlwaysOpen.Instance);
        invitation.MapPost("/look", LookAtInvitation).WithSummary("What an invitation asks one to take up");
        invitation.MapPost("", TakeUp).WithSummary("Takes an invitation up, and signs in");
        var way = api.MapGroup("/way-in").WithTags("People").AllowAnonymous().WithMetadata(AlwaysOpen.Instance);
        way.MapPost("", Wish).WithSummary("Asks for a letter with a link that signs one in");
        way.MapPost("/look", LookAtWay).WithSummary("Whom a link signs in");
        way.MapPost("/use", Use).WithSummary("Signs in by a link, with a new password if one is given");
    }

    static async Task<Results<Ok<InvitationSeen>, NotFound<Problem>>> LookAtInvitation(LinkOpened body, InvitationStore invitations, CancellationToken ct) =>
        await invitations.FindAsync(body.Secret, ct) is { } invited ? TypedResults.Ok(new InvitationSeen(invited.Name, invited.Email, invited.Role, invited.HandsOver is not null, invited.By)) : Shut($"It works once, and for {StaffRules.InvitationDays} days. Ask for another one.");

    static async Task<Results<NoContent, BadRequest<Problem>, NotFound<Problem>>> TakeUp(
        InvitationTaken body, HttpContext http, InvitationStore invitations, SessionStore sessions, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        var name = Text.Name(body.Name);
        if (name.Length == 0)
        {
            return Problems.Invalid("Say what you are called.", new Dictionary<string, string> { ["name"] = "Say what you are called." });
        }

        if (body.Password.Length < SessionEndpoints.ShortestPassword)
        {
            return Problems.Invalid(SessionEndpoints.TooShort, new Dictionary<string, string> { ["password"] = SessionEndpoints.TooShort });
        }

        if (await invitations.FindAsync(body.Secret, ct) is null || await invitations.AcceptAsync(body.Secret, name, hasher.HashPassword(null!, body.Password), ct) is not { } account)
        {
            return Shut($"It works once, and for {StaffRules.InvitationDays} days. Ask for another one.");
        }

        await Security.SignInAsync(http, account, sessions, ct);
        return TypedResults.NoContent();
    }

    static async Task<Results<NoContent, Conflict<Problem>, JsonHttpResult<Problem>>> Wish(
        WayInWish body, HttpContext http, WayInStore ways, LetterLimit letters, MailSettings mail, SiteOrigin origin, CancellationToken ct)
    {
        if (!mail.IsSet)
        {
            return Problems.Conflict("no-mail", "This site writes no letters. Ask its owner to let you in.");
        }

        if (await letters.WaitAsync(body.Email, http.Connection.RemoteIpAddress, ct) is { } wait)
        {
            return SessionEndpoints.MustWait(http, wait, LetterLimit.Sentence(wait));
        }

        await ways.WishAsync(body.Email, origin.TextOf(http.Request), ct);
        return TypedResults.NoContent();
    }

    static async Task<Results<Ok<WayInSeen>, NotFound<Problem>>> LookAtWay(LinkOpened body, WayInStore ways, CancellationToken ct) =>
        await ways.FindAsync(body.Secret, ct) is { } account ? TypedResults.Ok(new WayInSeen(account.Name, account.Email)) : ShutWay();

    static async Task<Results<NoContent, BadRequest<Problem>, NotFound<Problem>, JsonHttpResult<Problem>>> Use(
        WayInUsed body, HttpContext http, WayInStore ways, AccountStore accounts, SessionStore sessions, SecondStepStore second, SignInLimit limit, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        if (await ways.FindAsync(body.Secret, ct) is not { } account)
        {
            return ShutWay();
        }

        if (body.Password.Length is > 0 and < SessionEndpoints.ShortestPassword)
        {
            return Problems.Invalid(SessionEndpoints.TooShort, new Dictionary<string, string> { ["password"] = SessionEndpoints.TooShort });
        }

        // A letter is one thing that somebody has; where a second is asked for, it is asked for here, too.
        if (await second.FindAsync(account.Id, ct) is not null)
        {
            if (body.Code.Length == 0)
            {
                return Problems.Json(StatusCodes.Status401Unauthorized, "second-step", "Now the code that your phone shows.");
            }

            if (await limit.CountAsync(account.Email, http.Connection.RemoteIpAddress, ct) is { } wait)
            {
                return SessionEndpoints.MustWait(http, wait);
            }

            if (!await second.TakeAsync(account.Id, body.Code, ct))
            {
                return Problems.Json(StatusCodes.Status401Unauthorized, "second-step", SecondStepWords.Wrong);
            }
        }

        if (!await ways.UseAsync(body.Secret, ct))
        {
            return ShutWay();
        }

        await limit.ClearAsync(account.Email, http.Connection.RemoteIpAddress, ct);
        if (body.Password.Length > 0)
        {
            await accounts.ChangePasswordAsync(account.Id, hasher.HashPassword(account, body.Password), thisSession: null, ct);
        }

        await Security.SignInAsync(http, account, sessions, ct);
        return TypedResults.NoContent();
    }

    static NotFound<Problem> ShutWay() => Shut("It works once, and for half an hour. Ask for another one.");

    static NotFound<Problem> Shut(string why) => TypedResults.NotFound(new Problem("urn:jovitar:gone", $"This link is not good any more. {why}", StatusCodes.Status404NotFound));
}
