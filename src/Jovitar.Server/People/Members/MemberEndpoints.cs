using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Describing;
using Jovitar.Core.People;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.People.Members;

/// <param name="List">A line for each, with an address somewhere in it and a name about it.</param>
/// <param name="Group">The group that they are put into; null for none.</param>
/// <param name="Write">Who was no member yet gets a letter that lets them in at once.</param>
public sealed record NewMembers([Words(MemberRules.LongestList)] string List, Guid? Group = null, bool Write = false);

/// <summary>What is to be another of a member; what is null stays.</summary>
/// <param name="Into">Groups that they are put into.</param>
/// <param name="OutOf">Groups that they are taken out of.</param>
public sealed record MemberWish([Words(MemberRules.LongestName)] string? Name = null, [AtMost(MemberRules.MostGroups)] IReadOnlyList<Guid>? Into = null, [AtMost(MemberRules.MostGroups)] IReadOnlyList<Guid>? OutOf = null);

/// <summary>A link that signs a member in once, shown this once.</summary>
internal sealed record MemberLink(string Link);

public sealed record GroupName([Required, Words(MemberRules.LongestName)] string Name);

/// <param name="Wishes">Of those who asked.</param>
/// <param name="Group">The group that they are put into; null for none.</param>
public sealed record WishesChosen([Required, AtMost(JoinWish.MostWaiting)] IReadOnlyList<Guid> Wishes, Guid? Group = null);

public sealed record JoiningSaid(Joining Joining);

internal sealed record Groups(IReadOnlyList<GroupLine> All);

/// <summary>Members of the site and their groups: visitors whom it knows.</summary>
internal static class MemberEndpoints
{
    const int MostListed = 100;

    public static void MapMembers(this IEndpointRouteBuilder api)
    {
        var members = api.MapGroup("/members").RequireAuthorization(Security.Editors).WithTags("Members");
        members.MapGet("", List).WithSummary("A window of the members, by name");
        members.MapPost("", Add).WithSummary("Makes everybody of a list a member");
        members.MapGet("/list.csv", Table).ExcludeFromDescription().WithSummary("The members as CSV");
        members.MapPatch("/{member}", Change).WithSummary("Gives a member another name or other groups");
        members.MapDelete("/{member}", Remove).WithSummary("Ends a membership, at once");
        members.MapPost("/{member}/link", Link).WithSummary("Makes a link that signs a member in once");
        members.MapGet("/wishes", Wishes).WithSummary("How visitors become members, and who asked and waits");
        members.MapPost("/wishes/accept", Accept).WithSummary("Makes members of some who asked");
        members.MapPost("/wishes/refuse", Refuse).WithSummary("Refuses some who asked; they may ask again");
        members.MapPut("/joining", SayJoining).RequireAuthorization(Security.Owners).WithSummary("Says how visitors become members");
        var groups = api.MapGroup("/groups").RequireAuthorization(Security.Editors).WithTags("Members");
        groups.MapGet("", ListGroups).WithSummary("The groups of members");
        groups.MapPost("", MakeGroup).WithSummary("Makes a group");
        groups.MapPut("/{group}", RenameGroup).WithSummary("Gives a group another name");
        groups.MapDelete("/{group}", RemoveGroup).WithSummary("Removes a group; its members stay members");
    }

    static async Task<Ok<MemberWindow>> List([Words(200)] string? q, Guid? group, [Range(0, MemberRules.Most)] int? from, [Range(1, MostListed)] int? count, MemberStore members, CancellationToken ct) =>
        TypedResults.Ok(await members.ListAsync(Text.Name(q ?? ""), group, from ?? 0, count ?? MostListed, ct));

    static async Task<Results<Ok<MembersAdded>, BadRequest<Problem>>> Add(NewMembers body, HttpContext http, Actor who, MemberStore members, SiteOrigin origin, CancellationToken ct)
    {
        if (MemberRules.Fault(body.List) is { } fault)
        {
            return Problems.Invalid(fault, new Dictionary<string, string> { ["list"] = fault });
        }

        var (added, refused) = await members.AddAsync(who, body.List, body.Group, body.Write, origin.TextOf(http.Request), ct);
        return added is null ? Problems.Invalid(refused) : TypedResults.Ok(added);
    }

    static async Task<FileContentHttpResult> Table(HttpContext http, MemberStore members, SettingsStore settings, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "private, no-store";
        var name = new LeavingNames().Next($"{(await settings.ReadAsync(ct)).Title}, members.csv");
        return TypedResults.File(await members.TableAsync(ct), "text/csv; charset=utf-8", name);
    }

    static async Task<Results<NoContent, NotFound<Problem>, BadRequest<Problem>>> Change(Guid member, MemberWish body, Actor who, MemberStore members, CancellationToken ct)
    {
        var name = body.Name is null ? null : Text.Name(body.Name);
        if (name is { Length: 0 })
        {
            return Problems.Invalid("Say what they are called.", new Dictionary<string, string> { ["name"] = "Say what they are called." });
        }

        var isThere = name is null || await members.RenameAsync(who, member, name, ct);
        return isThere && (body is { Into: null, OutOf: null } || await members.MoveAsync(who, member, body.Into ?? [], body.OutOf ?? [], ct)) ? TypedResults.NoContent() : Problems.Gone("member");
    }

    static async Task<Results<NoContent, NotFound<Problem>>> Remove(Guid member, Actor who, MemberStore members, CancellationToken ct) =>
        await members.RemoveAsync(who, member, ct) ? TypedResults.NoContent() : Problems.Gone("member");

    static async Task<Results<Ok<MemberLink>, NotFound<Problem>>> Link(Guid member, HttpContext http, Actor who, MemberStore members, SiteOrigin origin, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        return await members.LinkAsync(who, member, origin.TextOf(http.Request), ct) is { } link ? TypedResults.Ok(new MemberLink(link)) : Problems.Gone("member");
    }

    static async Task<Ok<JoinWindow>> Wishes(JoinStore joins, CancellationToken ct) => TypedResults.Ok(await joins.ListAsync(ct));

    static async Task<Results<Ok<MembersAdded>, BadRequest<Problem>>> Accept(WishesChosen body, HttpContext http, Actor who, JoinStore joins, SiteOrigin origin, CancellationToken ct)
    {
        var (added, refused) = await joins.AcceptAsync(who, body.Wishes, body.Group, origin.TextOf(http.Request), ct);
        return added is null ? Problems.Invalid(refused) : TypedResults.Ok(added);
    }

    static async Task<Ok<Done>> Refuse(WishesChosen body, Actor who, JoinStore joins, CancellationToken ct) => TypedResults.Ok(await joins.RefuseAsync(who, body.Wishes, ct));

    static async Task<Results<Ok<Done>, BadRequest<Problem>>> SayJoining(JoiningSaid body, Actor who, JoinStore joins, CancellationToken ct) =>
        Enum.IsDefined(body.Joining) ? TypedResults.Ok(await joins.SayAsync(who, body.Joining, ct)) : Problems.Invalid("Choose how visitors become members.");

    static async Task<Ok<Groups>> ListGroups(GroupStore groups, CancellationToken ct) => TypedResults.Ok(new Groups(await groups.ListAsync(ct)));

    static async Task<Results<NoContent, BadRequest<Problem>, Conflict<Problem>, NotFound<Problem>>> MakeGroup(GroupName body, Actor who, GroupStore groups, CancellationToken ct) =>
        Text.Name(body.Name) is { Length: > 0 } name ? Answer(await groups.MakeAsync(who, name, ct)) : NoName();

    static async Task<Results<NoContent, BadRequest<Problem>, Conflict<Problem>, NotFound<Problem>>> RenameGroup(Guid group, GroupName body, Actor who, GroupStore groups, CancellationToken ct) =>
        Text.Name(body.Name) is { Length: > 0 } name ? Answer(await groups.RenameAsync(who, group, name, ct)) : NoName();

    static async Task<Results<NoContent, BadRequest<Problem>, Conflict<Problem>, NotFound<Problem>>> RemoveGroup(Guid group, Actor who, GroupStore groups, CancellationToken ct) =>
        Answer(await groups.RemoveAsync(who, group, ct));

    static BadRequest<Problem> NoName() => Problems.Invalid("Say what the group is called.", new Dictionary<string, string> { ["name"] = "Say what the group is called." });

    static Results<NoContent, BadRequest<Problem>, Conflict<Problem>, NotFound<Problem>> Answer(GroupChange change) =>
        change.Refused is { } refused ? Problems.Taken(refused, "name") : change.Id is null ? Problems.Gone("group") : TypedResults.NoContent();
}
