using Jovitar.Core.Access;

namespace Jovitar.Core.Acts;

/// <summary>What is said in the history of who may see what.</summary>
public static class AudienceWords
{
    /// <param name="kind">"page", "album" or "category".</param>
    /// <param name="chosen">The groups and members that it is for.</param>
    public static string Said(string kind, string name, Audience audience, IReadOnlyList<Chosen> chosen) => Said($"{kind} “{name}”", audience, chosen);

    /// <summary>What was said of photos by themselves.</summary>
    /// <param name="photo">What it is called; null for several.</param>
    public static string SaidOfPhotos(ActTally tally, string? photo, Audience audience, IReadOnlyList<Chosen> chosen) =>
        Said(photo is null ? ActWords.Photos(tally.Photos) : $"photo “{photo}”", audience, chosen);

    static string Said(string what, Audience audience, IReadOnlyList<Chosen> chosen)
    {
        var who = audience.Who switch
        {
            Admitted.WithLink => "everyone with its link",
            Admitted.Holders => "holders of an entry link or passcode",
            Admitted.Members => "members",
            Admitted.Chosen => GateWords.Names(chosen),
            Admitted.Staff => "staff",
            _ => "everyone",
        };
        var from = audience.From is { } begins ? $" from {Days.Said(begins)}" : "";
        var until = audience.Until is { } ends ? $" until {Days.Said(ends)}" : "";
        return $"Made {what} be seen by {who}{from}{until}.";
    }

    public static string MadeEntry(EntryKind entry, string holder, string kind, string name) => $"Made {An(entry)} to {kind} “{name}” for “{holder}”.";

    public static string WithdrewEntry(EntryKind entry, string holder) => $"Withdrew the {Called(entry)} for “{holder}”.";

    static string An(EntryKind entry) => entry == EntryKind.Link ? "an entry link" : "a passcode";

    static string Called(EntryKind entry) => entry == EntryKind.Link ? "entry link" : "passcode";
}
