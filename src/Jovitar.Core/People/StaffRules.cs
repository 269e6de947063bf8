using Jovitar.Core.Access;

namespace Jovitar.Core.People;

/// <summary>Somebody who works on the site, as far as the rules look.</summary>
/// <param name="IsOneself">It is the one who asks.</param>
public sealed record Colleague(Role Role, bool IsOneself);

/// <summary>Who may be given another part in the workroom, or be taken out of it. A site always keeps an owner, and nobody shuts themselves out by mistake.</summary>
public static class StaffRules
{
    /// <summary>People at work, and invited to it: so many are looked over in one list.</summary>
    public const int Most = 200;

    /// <summary>Days for which an invitation is good.</summary>
    public const int InvitationDays = 7;

    /// <summary>How long the link of a letter is good that signs one in.</summary>
    public static readonly TimeSpan WayInLife = TimeSpan.FromMinutes(30);

    /// <summary>What speaks against a part that somebody is to have; null when nothing does.</summary>
    public static string? AgainstPart(Role role) => new Viewer(role).IsStaff ? null : "Choose whether they are an owner or an editor.";

    /// <summary>What speaks against handing the site over to somebody; null when nothing does.</summary>
    /// <param name="handsOver">It is to be handed over.</param>
    public static string? AgainstHandingOver(Role role, bool handsOver) => handsOver && role != Role.Owner ? "Who takes the site over is an owner of it." : null;

    /// <summary>What speaks against asking somebody; null when nothing does.</summary>
    /// <param name="isHere">They work here already.</param>
    /// <param name="others">So many others do, or are asked to.</param>
    public static string? AgainstInviting(bool isHere, int others) =>
        isHere ? "Somebody with this address works here already."
        : others >= Most ? $"There is room for {Most} people at work."
        : null;

    /// <summary>What speaks against giving somebody another part; null when nothing does.</summary>
    /// <param name="owners">How many owners there are.</param>
    public static string? AgainstRole(Colleague who, Role next, int owners) =>
        AgainstPart(next) is { } against ? against
        : next == Role.Owner || who.Role != Role.Owner ? null
        : who.IsOneself ? "Ask another owner to make you an editor: nobody gives up the site by a slip of the hand."
        : owners <= 1 ? "A site keeps at least one owner."
        : null;

    /// <summary>What speaks against taking somebody out; null when nothing does.</summary>
    public static string? AgainstLeaving(Colleague who, int owners) =>
        who.Role == Role.Owner && owners <= 1 ? "A site keeps at least one owner. Make somebody else one first."
        : who.IsOneself ? "Ask another owner to take you out."
        : null;
}
