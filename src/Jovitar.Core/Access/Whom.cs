namespace Jovitar.Core.Access;

/// <summary>Which of the visitors something is for. Kept by name.</summary>
public enum ForWhom
{
    Everyone,

    /// <summary>Those whom the site knows: members, and who came by an entry link or a passcode.</summary>
    Known,

    /// <summary>Every member.</summary>
    Members,

    /// <summary>Groups of members, and members by name.</summary>
    Chosen,
    Nobody,
}

/// <summary>Visitors whom something is for, as it is said of an album, a category or the whole site.</summary>
public sealed record Whom(ForWhom Who)
{
    readonly Guid[] chosen = [];

    /// <summary>The groups and members, where it is for some; no order, none twice.</summary>
    public IReadOnlyList<Guid> Chosen
    {
        get => chosen;
        init => chosen = [.. value.Distinct().Order()];
    }

    /// <summary>What is not said otherwise.</summary>
    public static readonly Whom All = new(ForWhom.Everyone);

    /// <summary>What is wrong with it; null for nothing.</summary>
    /// <param name="ask">What somebody is told who chose nothing that there is.</param>
    public string? Fault(string ask) => Enum.IsDefined(Who) ? Audience.FaultOf(chosen, Who == ForWhom.Chosen) : ask;

    /// <summary>The same as the database keeps it: nobody chosen where nobody is to be.</summary>
    public Whom AsKept() => Who == ForWhom.Chosen ? this : new Whom(Who);

    /// <summary>Whether it is for a viewer.</summary>
    public bool Takes(Viewer viewer) => viewer.IsStaff || viewer.SeesBehindAll || Who switch
    {
        ForWhom.Everyone => true,
        ForWhom.Known => viewer.IsKnown,
        ForWhom.Members => viewer.Role == Role.Member,
        ForWhom.Chosen => viewer.IsAmong(Chosen),
        _ => false,
    };

    /// <summary>Whom it is for, within a sentence: "nobody", "all members", names.</summary>
    /// <param name="chosen">The groups and members, as far as there still are such.</param>
    public static string Said(ForWhom who, IReadOnlyList<Chosen> chosen) => who switch
    {
        ForWhom.Everyone => "everyone",
        ForWhom.Known => GateWords.Known,
        ForWhom.Members => "all members",
        ForWhom.Chosen when chosen.Count > 0 => GateWords.Names(chosen),
        _ => "nobody",
    };

    public bool Equals(Whom? other) => other is not null && Who == other.Who && chosen.AsSpan().SequenceEqual(other.chosen);

    public override int GetHashCode() => HashCode.Combine(Who, chosen.Length);
}
