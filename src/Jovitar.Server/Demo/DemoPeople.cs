using Jovitar.Core.Access;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.People;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.Demo;

/// <summary>Who works on the demo's site besides its owner.</summary>
/// <param name="Invited">Who is asked to and has not come yet.</param>
internal sealed record DemoStaff(IReadOnlyList<DemoOwner> Editors, IReadOnlyList<DemoInvited> Invited);

internal sealed record DemoInvited(string Name, string Email);

/// <summary>Invites people to the demo's workroom; some have taken it up.</summary>
internal sealed class DemoPeople(InvitationStore invitations, IPasswordHasher<Account> hasher, IServer server)
{
    public async Task MakeAsync(DemoStaff staff, Actor owner, CancellationToken ct)
    {
        // Nobody has asked for the site yet: its letters lead to where it listens.
        var origin = server.Features.Get<IServerAddressesFeature>()?.Addresses.FirstOrDefault() ?? "";
        foreach (var editor in staff.Editors)
        {
            if (await invitations.InviteAsync(owner, editor.Email, editor.Name, Role.Editor, handsOver: false, origin, ct) is ({ } link, _))
            {
                await invitations.AcceptAsync(link[(link.IndexOf('#', StringComparison.Ordinal) + 1)..], editor.Name, hasher.HashPassword(null!, editor.Password), ct);
            }
        }

        foreach (var invited in staff.Invited)
        {
            await invitations.InviteAsync(owner, invited.Email, invited.Name, Role.Editor, handsOver: false, origin, ct);
        }
    }
}
