using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.People;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.People;

/// <summary>Those who work on the site, and those who are asked to.</summary>
/// <param name="HasMail">Invitations go out as letters.</param>
internal sealed record Staff(IReadOnlyList<StaffLine> People, IReadOnlyList<InvitationLine> Invitations, bool HasMail);

/// <param name="Role">Editor or owner.</param>
/// <param name="HandsOver">Whoever asks hands the site over to them, an owner, and is out once they come.</param>
public sealed record NewInvitation([Required, Words(120)] string Name, [Required, Words(250), MailAddress] string Email, Role Role, bool HandsOver = false);

/// <summary>An invitation's link, shown this once: whoever has it can take the invitation up.</summary>
/// <param name="HasLetter">It goes out in a letter as well.</param>
internal sealed record InvitationLink(string Link, bool HasLetter);

/// <param name="Role">Editor or owner.</param>
public sealed record NewRole(Role Role);

/// <summary>Who works on the site: looked after by its owners.</summary>
internal static class PeopleEndpoints
{
    public static void MapPeople(this IEndpointRouteBuilder api)
    {
        var people = api.MapGroup("/people").RequireAuthorization(Security.Owners).WithTags("People");
        people.MapGet("", List).WithSummary("Who works on the site, and who is asked to");
        people.MapPost("/invitations", Invite).WithSummary("Invites somebody to work on the site");
        people.MapPost("/invitations/{invitation}/again", InviteAgain).WithSummary("Sends an invitation again, with a new link");
        people.MapDelete("/invitations/{invitation}", TakeBack).WithSummary("Takes an invitation back");
        people.MapPut("/{account}/role", Make).WithSummary("Gives somebody another part in the workroom");
        people.MapDelete("/{account}", TakeOut).WithSummary("Takes somebody out of the workroom, at once");
        people.MapDelete("/{account}/sessions", SignOut).WithSummary("Signs somebody out everywhere");
        people.MapDelete("/{account}/second-step", SecondStepOff).WithSummary("Takes off the second step of somebody who lost their phone");
    }

    static async Task<Ok<Staff>> List(Actor who, PeopleStore people, InvitationStore invitations, MailSettings mail, CancellationToken ct) =>
        TypedResults.Ok(new Staff(await people.StaffAsync(who.Account ?? Guid.Empty, ct), await invitations.ListAsync(ct), mail.IsSet));

    static async Task<Results<Ok<InvitationLink>, BadRequest<Problem>, Conflict<Problem>>> Invite(
        NewInvitation body, HttpContext http, Actor who, InvitationStore invitations, SiteOrigin origin, MailSettings mail, CancellationToken ct)
    {
        var name = Text.Name(body.Name);
        if (name.Length == 0)
        {
            return Problems.Invalid("Say what they are called.", new Dictionary<string, string> { ["name"] = "Say what they are called." });
        }

        if ((StaffRules.AgainstPart(body.Role) ?? StaffRules.AgainstHandingOver(body.Role, body.HandsOver)) is { } against)
        {
            return Problems.Invalid(against, new Dictionary<string, string> { ["role"] = against });
        }

        var (link, refused) = await invitations.InviteAsync(who, body.Email.Trim(), name, body.Role, body.HandsOver, origin.TextOf(http.Request), ct);
        return link is null ? Problems.Taken(refused, "email") : TypedResults.Ok(new InvitationLink(link, mail.IsSet));
    }

    static async Task<Results<Ok<InvitationLink>, NotFound<Problem>>> InviteAgain(
        Guid invitation, HttpContext http, Actor who, InvitationStore invitations, SiteOrigin origin, MailSettings mail, CancellationToken ct) =>
        await invitations.InviteAgainAsync(who, invitation, origin.TextOf(http.Request), ct) is { } link ? TypedResults.Ok(new InvitationLink(link, mail.IsSet)) : Problems.Gone("invitation");

    static async Task<Results<NoContent, NotFound<Problem>>> TakeBack(Guid invitation, Actor who, InvitationStore invitations, CancellationToken ct) =>
        await invitations.TakeBackAsync(who, invitation, ct) ? TypedResults.NoContent() : Problems.Gone("invitation");

    static async Task<Results<NoContent, NotFound<Problem>, Conflict<Problem>>> Make(Guid account, NewRole body, Actor who, PeopleStore people, CancellationToken ct) =>
        Answer(await people.MakeAsync(who, account, body.Role, ct));

    static async Task<Results<NoContent, NotFound<Problem>, Conflict<Problem>>> TakeOut(Guid account, Actor who, PeopleStore people, CancellationToken ct) =>
        Answer(await people.TakeOutAsync(who, account, ct));

    static async Task<Results<NoContent, NotFound<Problem>, Conflict<Problem>>> SignOut(Guid account, Actor who, PeopleStore people, CancellationToken ct) =>
        Answer(await people.SignOutAsync(who, account, ct));

    static async Task<Results<NoContent, NotFound<Problem>, Conflict<Problem>>> SecondStepOff(Guid account, Actor who, PeopleStore people, CancellationToken ct) =>
        Answer(await people.SecondStepOffAsync(who, account, ct));

    static Results<NoContent, NotFound<Problem>, Conflict<Problem>> Answer(PeopleChange change) =>
        !change.IsThere ? Problems.Gone("account") : change.Refused is { } refused ? Problems.Conflict("kept", refused) : TypedResults.NoContent();
}
