namespace Jovitar.Core.Clearance;

/// <summary>What may be said of whether a photo may be shown to visitors at all, by the names it is kept under.</summary>
public static class Clearances
{
    /// <summary>Nobody has said.</summary>
    public const string Unknown = "";
    public const string Cleared = "cleared";
    public const string NotCleared = "not_cleared";

    /// <summary>It was cleared until a day that is over.</summary>
    public const string Ended = "ended";
}

/// <summary>What a person, or the family, says of being shown, by the names it is kept under.</summary>
public static class Consents
{
    /// <summary>Nothing was said.</summary>
    public const string Nothing = "";
    public const string Yes = "yes";
    public const string No = "no";

    /// <summary>It was yes until a day that is over.</summary>
    public const string Ended = "ended";
}

/// <summary>What the decision who sees a photo knows of its clearance.</summary>
/// <param name="Said">What was said of the photo itself, one of <see cref="Clearances"/>.</param>
/// <param name="Until">The last day (UTC) on which it is cleared; null for no end.</param>
/// <param name="People">What those say whom it shows, one of <see cref="Consents"/>: no as soon as one of them says so, yes when all of them do.</param>
/// <param name="PeopleUntil">The last day on which all of them say yes; null for no end.</param>
/// <param name="IsNeeded">The site shows visitors only what is cleared; else what nobody has said anything of, too.</param>
public sealed record PhotoClearance(string Said, DateOnly? Until = null, string People = Consents.Nothing, DateOnly? PeopleUntil = null, bool IsNeeded = false)
{
    public const int LongestBy = 200;

    /// <summary>Nobody has said anything, on a site that shows such photos.</summary>
    public static readonly PhotoClearance Nothing = new(Clearances.Unknown);

    /// <summary>
    /// Where it stands at a time: a no, of the photo or of anybody it shows, wins over everything; then what was said of the photo,
    /// then what all whom it shows say.
    /// </summary>
    /// <returns><see cref="Clearances.NotCleared"/>, <see cref="Clearances.Cleared"/> or <see cref="Clearances.Unknown"/>.</returns>
    public string At(DateTimeOffset at) =>
        Said == Clearances.NotCleared || People == Consents.No ? Clearances.NotCleared
        : (Said == Clearances.Cleared && Holds(Until, at)) || (People == Consents.Yes && Holds(PeopleUntil, at)) ? Clearances.Cleared
        : Clearances.Unknown;

    /// <summary>The day on which it ran out; null when it did not.</summary>
    public DateOnly? RanOut(DateTimeOffset at) =>
        At(at) == Clearances.Unknown && (Said is Clearances.Cleared or Clearances.Ended ? Until : People == Consents.Yes ? PeopleUntil : null) is { } until ? until : null;

    static bool Holds(DateOnly? until, DateTimeOffset at) => until is not { } last || DateOnly.FromDateTime(at.UtcDateTime) <= last;
}
