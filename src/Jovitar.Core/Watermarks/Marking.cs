using Jovitar.Core.Access;

namespace Jovitar.Core.Watermarks;

/// <summary>Who of the visitors gets photos without the watermark. Kept by name.</summary>
public enum Spared
{
    /// <summary>All of them: there is none.</summary>
    Everyone,

    /// <summary>Those whom the site knows: members, and who came by an entry link or a passcode.</summary>
    Known,

    /// <summary>Every member.</summary>
    Members,

    /// <summary>Groups of members, and members by name.</summary>
    Chosen,
    Nobody,
}

/// <summary>Who gets photos without the watermark, as it is said of an album, a category or the whole site. It only ever adds to what is said elsewhere.</summary>
public sealed record Marking(Spared Who)
{
    readonly Guid[] chosen = [];

    /// <summary>The groups and members who do, where it is some; no order, none twice.</summary>
    public IReadOnlyList<Guid> Chosen
    {
        get => chosen;
        init => chosen = [.. value.Distinct().Order()];
    }

    /// <summary>What is not said otherwise.</summary>
    public static readonly Marking None = new(Spared.Everyone);

    /// <summary>What is wrong with it; null for nothing.</summary>
    public string? Fault() => Enum.IsDefined(Who) ? Audience.FaultOf(chosen, Who == Spared.Chosen) : "Choose who gets photos without the watermark.";

    /// <summary>The same as the database keeps it: nobody chosen where nobody is to be.</summary>
    public Marking AsKept() => Who == Spared.Chosen ? this : new Marking(Who);

    public bool Equals(Marking? other) => other is not null && Who == other.Who && chosen.AsSpan().SequenceEqual(other.chosen);

    public override int GetHashCode() => HashCode.Combine(Who, chosen.Length);
}

/// <summary>A thing whose photos have the watermark for some.</summary>
/// <param name="Thing">The album or category; <see cref="Site"/> for all there is.</param>
/// <param name="Kind">"album", "category" or "site".</param>
/// <param name="Name">What it is called; empty for the site.</param>
public sealed record Mark(Guid Thing, string Kind, string Name, Marking Marking)
{
    /// <summary>What stands for the whole site.</summary>
    public static readonly Guid Site = Guid.Empty;

    /// <summary>The groups and members who are spared, as far as there still are such.</summary>
    public IReadOnlyList<Chosen> Called { get; init; } = [];

    /// <summary>Whether a viewer gets its photos without the watermark, as far as this says.</summary>
    public bool Spares(Viewer viewer) => viewer.IsStaff || viewer.SeesBehindAll || Marking.Who switch
    {
        Spared.Everyone => true,
        Spared.Known => viewer.IsKnown,
        Spared.Members => viewer.Role == Role.Member,
        Spared.Chosen => viewer.IsAmong(Marking.Chosen),
        _ => false,
    };
}
