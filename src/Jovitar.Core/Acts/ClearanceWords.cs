using Jovitar.Core.Clearance;

namespace Jovitar.Core.Acts;

/// <summary>The sentences that say what was done about clearance.</summary>
public static class ClearanceWords
{
    /// <summary>Photos were cleared or not.</summary>
    /// <param name="photo">The name of the one; null for several.</param>
    /// <param name="said">One of <see cref="Clearances"/>.</param>
    public static string Photos(ActTally tally, string? photo, string said)
    {
        var what = photo is { } name ? $"“{name}”" : ActWords.Photos(tally.Photos);
        return said switch
        {
            Clearances.Cleared => $"Cleared {what}.",
            Clearances.NotCleared => $"Said that {what} {(photo is not null || tally.Photos == 1 ? "is" : "are")} not cleared.",
            _ => $"Took back what was said of the clearance of {what}.",
        };
    }

    /// <summary>What one person says was written, with how many photos it reaches.</summary>
    /// <param name="isNew">The person was not on the list.</param>
    public static string Person(ActTally tally, PersonSaid person, bool isNew) =>
        (person.Says switch
        {
            Consents.Yes => $"“{person.Name}” says yes to being shown",
            Consents.No => $"“{person.Name}” says no to being shown",
            _ when isNew => $"Put “{person.Name}” on the list of persons",
            _ => $"Took back what “{person.Name}” says of being shown",
        })
        + Reaching(tally);

    public static string Struck(ActTally tally, string name) => $"Struck “{name}” off the list of persons{Reaching(tally)}";

    /// <summary>What a file says of persons was written.</summary>
    public static string Table(ActTally tally, int persons, string file) => $"Wrote what {ActWords.Things(persons, "person says", "persons say")} of being shown, from “{file}”{Reaching(tally)}";

    public static string Needed(bool needed) => needed ? "Visitors see only photos that are cleared." : "Visitors see photos of which nobody has said that they are not cleared.";

    public static string Ended(ActTally tally) => $"Clearance ended{(tally.Photos == 0 ? "" : $" of {ActWords.Photos(tally.Photos)}")}.";

    static string Reaching(ActTally tally) => tally.Photos == 0 ? "." : $": {ActWords.Photos(tally.Photos)}.";
}
