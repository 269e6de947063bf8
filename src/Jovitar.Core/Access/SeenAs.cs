namespace Jovitar.Core.Access;

/// <summary>A kind of visitor. Read by name.</summary>
public enum VisitorKind
{
    /// <summary>Who has not signed in and holds nothing.</summary>
    Anybody,

    /// <summary>Who holds a certain entry link or passcode.</summary>
    Holder,

    /// <summary>A member who is in no group.</summary>
    Member,

    /// <summary>Who is in a certain group, and in no other.</summary>
    Group,

    /// <summary>A certain member.</summary>
    Person,
}

/// <summary>As whom staff look at the site.</summary>
/// <param name="Who">The entry, the group or the member; empty for a kind that is nobody in particular.</param>
public sealed record SeenAs(VisitorKind Kind, Guid Who)
{
    /// <summary>Reads what <see cref="ToString"/> wrote; null for anything else.</summary>
    public static SeenAs? Read(string? text)
    {
        var (kind, who) = text?.Split('-', 2) is [var first, var second] ? (first, second) : (text ?? "", "");
        if (!kind.All(char.IsAsciiLetter) || !Enum.TryParse<VisitorKind>(kind, ignoreCase: true, out var found))
        {
            return null;
        }

        var isNobody = found is VisitorKind.Anybody or VisitorKind.Member;
        return Guid.TryParseExact(who, "D", out var id) ? isNobody ? null : new SeenAs(found, id) : isNobody && who.Length == 0 ? new SeenAs(found, Guid.Empty) : null;
    }

    /// <summary>Who that is, within a sentence.</summary>
    /// <param name="name">What the entry, the group or the member is called; empty for nobody in particular.</param>
    public string Said(string name) => Kind switch
    {
        VisitorKind.Holder => $"whoever holds the entry “{name}”",
        VisitorKind.Member => "a member who is in no group",
        VisitorKind.Group => $"a member of the group “{name}”",
        VisitorKind.Person => name,
        _ => "a visitor who has not signed in",
    };

    public override string ToString() => Who == Guid.Empty ? Kind.ToString().ToLowerInvariant() : $"{Kind.ToString().ToLowerInvariant()}-{Who:D}";
}
