namespace Jovitar.Core.Access;

/// <summary>Members whom the same of some gates let in: of what stands behind those gates alone, what one of them sees all of them see.</summary>
/// <param name="One">One of them, for the decision.</param>
/// <param name="Members">All of them.</param>
public sealed record Alike(Viewer One, IReadOnlyList<Guid> Members)
{
    /// <summary>A member as a viewer.</summary>
    /// <param name="groups">Those that they are in.</param>
    public static Viewer Member(Guid member, IEnumerable<Guid> groups) => new(Role.Member) { Is = groups.Prepend(member).ToHashSet() };

    /// <summary>Puts members together, so that the decision need not be made for each of ten thousand.</summary>
    /// <param name="gates">All that stand on any way to the thing that is asked about.</param>
    public static IReadOnlyList<Alike> Of(IEnumerable<(Guid Member, IReadOnlyList<Guid> Groups)> members, IReadOnlyList<Gate> gates, DateTimeOffset at)
    {
        // Of a member only that counts of which a gate asks.
        var asked = gates.SelectMany(g => g.Audience.Chosen).ToHashSet();
        return
        [
            .. members
                .GroupBy(m => string.Join(' ', m.Groups.Append(m.Member).Where(asked.Contains).Order()), StringComparer.Ordinal)
                .Select(same => (Viewer: Member(same.First().Member, same.First().Groups), Members: same.Select(m => m.Member)))
                .GroupBy(same => string.Concat(gates.Select(g => g.LetsIn(same.Viewer, at) ? '1' : '0')), StringComparer.Ordinal)
                .Select(alike => new Alike(alike.First().Viewer, [.. alike.SelectMany(a => a.Members)])),
        ];
    }
}
