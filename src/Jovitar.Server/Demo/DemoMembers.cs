using Jovitar.Core.People;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.People.Members;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.Demo;

/// <summary>Members of the demo's site.</summary>
/// <param name="Others">Those who are in no group.</param>
/// <param name="SignsIn">One of them who has a password.</param>
/// <param name="Asking">Visitors who ask to become members.</param>
internal sealed record DemoMembership(IReadOnlyList<DemoMemberGroup> Groups, IReadOnlyList<string> Others, DemoSignIn SignsIn, IReadOnlyList<JoinWish> Asking);

/// <param name="Members">A line for each, with a name and an address.</param>
internal sealed record DemoMemberGroup(string Name, IReadOnlyList<string> Members);

internal sealed record DemoSignIn(string Email, string Password);

/// <summary>Makes the demo's members and their groups.</summary>
internal sealed class DemoMembers(MemberStore members, JoinStore joins, GroupStore groups, AccountStore accounts, IPasswordHasher<Account> hasher)
{
    /// <summary>The groups by their names; nobody is in them yet.</summary>
    public async Task<IReadOnlyDictionary<string, Guid>> GroupsAsync(DemoMembership said, Actor owner, CancellationToken ct)
    {
        foreach (var group in said.Groups)
        {
            // One that an interrupted load has made is there already.
            await groups.MakeAsync(owner, group.Name, ct);
        }

        return (await groups.ListAsync(ct)).ToDictionary(g => g.Name, g => g.Id);
    }

    /// <summary>Makes the members, once there is an owner.</summary>
    public async Task MakeAsync(DemoMembership said, IReadOnlyDictionary<string, Guid> made, Actor owner, CancellationToken ct)
    {
        foreach (var group in said.Groups)
        {
            await members.AddAsync(owner, string.Join('\n', group.Members), made[group.Name], write: false, "", ct);
        }

        await members.AddAsync(owner, string.Join('\n', said.Others), null, write: false, "", ct);
        if (await accounts.FindAsync(said.SignsIn.Email, ct) is { } member)
        {
            await accounts.ChangePasswordAsync(member.Id, hasher.HashPassword(member, said.SignsIn.Password), thisSession: null, ct);
        }

        await joins.SayAsync(owner, Joining.Asked, ct);
        foreach (var wish in said.Asking)
        {
            await joins.WishAsync(wish, "", ct);
        }
    }
}
