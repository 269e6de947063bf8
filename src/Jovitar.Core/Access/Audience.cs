namespace Jovitar.Core.Access;

/// <summary>Whom an audience lets in. Kept by name.</summary>
public enum Admitted
{
    Everyone,

    /// <summary>Everyone who has its link: its address is hard to guess, and no list has it.</summary>
    WithLink,

    /// <summary>Who holds an entry link or a passcode.</summary>
    Holders,

    /// <summary>Every member.</summary>
    Members,

    /// <summary>Groups of members, and members by name.</summary>
    Chosen,
    Staff,
}

/// <summary>Who of the visitors may see a thing, and in which time. It only ever narrows what is seen anyway.</summary>
/// <param name="From">Nobody before this; null for as long as there is the thing.</param>
/// <param name="Until">Nobody from this on; null for good.</param>
public sealed record Audience(Admitted Who, DateTimeOffset? From = null, DateTimeOffset? Until = null)
{
    /// <summary>Groups and members at most: what is for more of them is for a group of its own.</summary>
    public const int MostChosen = 50;

    readonly Guid[] chosen = [];

    /// <summary>The groups and members that it is for, where it is for some; no order, none twice.</summary>
    public IReadOnlyList<Guid> Chosen
    {
        get => chosen;
        init => chosen = [.. value.Distinct().Order()];
    }

    /// <summary>What is not said otherwise.</summary>
    public static readonly Audience Everyone = new(Admitted.Everyone);

    /// <summary>What is wrong with it; null for nothing.</summary>
    public string? Fault() =>
        !Enum.IsDefined(Who) ? "Choose who may see this."
        : FaultOf(chosen, Who == Admitted.Chosen) is { } fault ? fault
        : From is { } from && Until is { } until && until <= from ? "It ends before it begins."
        : null;

    /// <summary>What is wrong with the groups and members that something is for; null for nothing.</summary>
    /// <param name="some">It is for some of them.</param>
    internal static string? FaultOf(IReadOnlyList<Guid> chosen, bool some) =>
        some && chosen.Count == 0 ? "Choose a group or a member."
        : chosen.Count > MostChosen ? $"Choose at most {MostChosen}. For more, make a group of them."
        : null;

    /// <summary>What is wrong with it as the audience of a thing; null for nothing. An entry link leads to a place, and a photo by itself is none; what is found by its link alone has a page of its own.</summary>
    /// <param name="kind">"page", "album", "category" or "photo".</param>
    public string? FaultOf(string kind) =>
        kind == "photo" && Who == Admitted.Holders ? "A photo by itself cannot be for holders of an entry link or passcode. Put it into an album that is."
        : kind != "album" && Who == Admitted.WithLink ? "Only an album can be for everyone with its link."
        : Fault();

    /// <summary>The same as the database keeps it: its times in UTC, and nobody chosen where nobody is to be.</summary>
    public Audience AsKept() => this with { From = From?.ToUniversalTime(), Until = Until?.ToUniversalTime(), Chosen = Who == Admitted.Chosen ? Chosen : [] };

    /// <summary>Whether its time has come and is not over.</summary>
    public bool IsOn(DateTimeOffset at) => (From is not { } from || at >= from) && (Until is not { } until || at < until);

    public bool Equals(Audience? other) => other is not null && (Who, From, Until) == (other.Who, other.From, other.Until) && chosen.AsSpan().SequenceEqual(other.chosen);

    public override int GetHashCode() => HashCode.Combine(Who, From, Until, chosen.Length);
}

/// <summary>A group of members, or a member, that something is for.</summary>
public sealed record Chosen(Guid Id, string Name, bool IsGroup);

/// <summary>A thing that has an audience of its own: what is behind it is seen only by whom it lets in.</summary>
/// <param name="Thing">The page, album or category; of photos by themselves what is said of them, the same for all of which the same is said.</param>
/// <param name="Kind">"page", "album", "category" or "photo".</param>
/// <param name="Name">What it is called; empty for photos.</param>
public sealed record Gate(Guid Thing, string Kind, string Name, Audience Audience)
{
    /// <summary>The groups and members that it is for, as far as there still are such.</summary>
    public IReadOnlyList<Chosen> Called { get; init; } = [];

    /// <summary>One of which nothing is known any more: it lets nobody in.</summary>
    public static Gate Unknown(Guid thing) => new(thing, "", "", new Audience(Admitted.Staff));

    /// <summary>Whether a viewer passes.</summary>
    public bool LetsIn(Viewer viewer, DateTimeOffset at) => viewer.IsStaff || viewer.SeesBehindAll || (Audience.IsOn(at) && Audience.Who switch
    {
        Admitted.Everyone or Admitted.WithLink => true,
        Admitted.Holders => viewer.Holds.Contains(Thing),
        Admitted.Members => viewer.Role == Role.Member,
        Admitted.Chosen => viewer.IsAmong(Audience.Chosen),
        _ => false,
    });
}
