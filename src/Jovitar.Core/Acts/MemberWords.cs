using Jovitar.Core.People;

namespace Jovitar.Core.Acts;

/// <summary>The sentences that say what was done about members and their groups.</summary>
public static class MemberWords
{
    /// <param name="added">So many were not members before.</param>
    /// <param name="joined">So many are in the group now who were not.</param>
    /// <param name="group">Empty for none.</param>
    public static string Added(int added, int joined, string group) =>
        group.Length == 0 ? $"Made {Count(added)}."
        : added == 0 ? $"Put {Count(joined)} into the group “{group}”."
        : $"Made {Count(added)}, and put {(joined == added ? added == 1 ? "them" : "all of them" : Count(joined))} into the group “{group}”.";

    public static string Removed(string name) => $"{name} is no member any more.";

    /// <summary>In place of the name of one who is to be forgotten.</summary>
    public const string Forgotten = "A former member";

    /// <summary>All that was kept of a member was erased: also who that was.</summary>
    public const string Erased = "Erased what was kept of a member.";

    public static string Renamed(string before, string after) => $"The member {before} is called {after} now.";

    /// <summary>What a member was called before they got a name, where a sentence of the history says that; else null.</summary>
    public static string? CalledBefore(string sentence, string name)
    {
        var (begins, ends) = (Renamed("", name), $" is called {name} now.");
        var start = begins[..^ends.Length];
        return sentence.Length > begins.Length && sentence.StartsWith(start, StringComparison.Ordinal) && sentence.EndsWith(ends, StringComparison.Ordinal) ? sentence[start.Length..^ends.Length] : null;
    }

    public static string Moved(string name, IReadOnlyList<string> into, IReadOnlyList<string> outOf)
    {
        string[] parts =
        [
            .. into.Count > 0 ? (string[])[$"put {name} into {Groups(into)}"] : [],
            .. outOf.Count > 0 ? (string[])[$"took {(into.Count > 0 ? "them" : name)} out of {Groups(outOf)}"] : [],
        ];
        var said = string.Join(", and ", parts);
        return said.Length == 0 ? $"Left the groups of {name} as they are." : $"{char.ToUpperInvariant(said[0])}{said[1..]}.";
    }

    public static string MadeGroup(string name) => $"Made the group “{name}”.";

    public static string RenamedGroup(string before, string after) => $"The group “{before}” is called “{after}” now.";

    public static string RemovedGroup(string name) => $"Removed the group “{name}”; its members stay members.";

    public static string SentLink(string name) => $"Made {name} a link that signs them in.";

    /// <summary>Who did it where whoever asked became a member, and nobody had to accept it.</summary>
    public const string WhoAsked = "Whoever asked";

    /// <summary>How visitors become members from now on.</summary>
    public static string Join(Joining joining) => joining switch
    {
        Joining.Asked => "Visitors may ask to become members; staff accept them.",
        Joining.Open => "Visitors who ask become members.",
        _ => "Only staff make members.",
    };

    /// <param name="names">Those who asked.</param>
    public static string Refused(IReadOnlyList<string> names) => names is [var one] ? $"Did not make {one} a member, who asked." : $"Did not make {names.Count} members who asked.";

    static string Groups(IReadOnlyList<string> names) => string.Join(" and ", names.Select(n => $"“{n}”"));

    static string Count(int members) => members == 1 ? "one member" : $"{members} members";
}
