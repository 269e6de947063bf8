using Jovitar.Core.Acts;

namespace Jovitar.Core.Clearance;

/// <summary>What a person on a photo says of being shown.</summary>
/// <param name="Says">One of <see cref="Consents"/>.</param>
public sealed record ShownPerson(string Name, string Says);

/// <summary>Where a photo's clearance stands, with the sentence that says so.</summary>
/// <param name="State">One of <see cref="Clearances"/>.</param>
/// <param name="Said">What was said of the photo itself, whatever those say whom it shows.</param>
/// <param name="By">Who said it, and how it is known.</param>
/// <param name="Until">The last day on which it is cleared.</param>
public sealed record ClearanceLine(string State, string Said, string By, DateOnly? Until, string Sentence)
{
    /// <summary>The line of a photo.</summary>
    /// <param name="by">Who said what was said of the photo; empty where nobody wrote that down.</param>
    /// <param name="people">Whom it shows.</param>
    public static ClearanceLine Of(PhotoClearance clearance, string by, IReadOnlyList<ShownPerson> people, DateTimeOffset at)
    {
        var no = people.Where(p => p.Says == Consents.No).Select(p => p.Name).ToArray();
        var state = clearance.At(at);
        var sentence = state switch
        {
            Clearances.NotCleared when clearance.Said == Clearances.NotCleared => $"Not cleared{Whom(by)}.",
            Clearances.NotCleared => no.Length == 0 ? "Not cleared: somebody whom it shows says no." : $"Not cleared: {ActWords.Names(no)} {(no.Length == 1 ? "says" : "say")} no.",
            Clearances.Cleared when clearance.Said == Clearances.Cleared => $"Cleared{Whom(by)}{End(clearance.Until)}.",
            Clearances.Cleared => $"Cleared: {(people.Count == 1 ? "whom it shows says yes" : "all whom it shows say yes")}{End(clearance.PeopleUntil)}.",
            _ when clearance.RanOut(at) is { } day => $"Its clearance ended on {Days.Said(day)}.",
            _ => "Nobody has cleared it yet.",
        };
        return new ClearanceLine(state, clearance.Said, by, clearance.Until, sentence);
    }

    static string Whom(string by) => by.Length == 0 ? "" : $" by {by}";

    static string End(DateOnly? until) => until is { } day ? $", until {Days.Said(day)}" : "";
}
