namespace Jovitar.Core.Access;

/// <summary>Gates in words.</summary>
public static class GateWords
{
    /// <summary>Those whom the site knows, within a sentence.</summary>
    internal const string Known = "visitors who came by an entry link or signed in";

    /// <summary>A gate as a sentence of its own.</summary>
    /// <param name="many">It is said of several photos.</param>
    public static string Said(Gate gate, DateTimeOffset at, bool many = false)
    {
        var (from, until) = (gate.Audience.From, gate.Audience.Until);
        var who = gate.Audience.Who switch
        {
            Admitted.WithLink => "everyone with its link",
            Admitted.Holders => "holders of an entry link or passcode",
            Admitted.Members => "members",
            Admitted.Chosen => Names(gate.Called),
            Admitted.Staff => "staff only",
            _ => "everyone",
        };
        var themselves = many && gate.Kind == "photo";
        var time = until <= at ? $", but {(themselves ? "were" : "was")} so only until {Days.Said(until.Value)}"
            : from > at ? $", from {Days.Said(from.Value)}{(until is { } end ? $" until {Days.Said(end)}" : "")}"
            : until is { } last ? $", until {Days.Said(last)}"
            : "";
        return $"The {(themselves ? "photos themselves are" : $"{Named(gate)} is")} for {who}{time}.";
    }

    /// <summary>A gate by its kind and name: the album “Juniors”.</summary>
    static string Named(Gate gate) => gate.Kind switch
    {
        "" => "place that it stands at",
        "photo" => "photo itself",
        _ => $"{gate.Kind} “{gate.Name}”",
    };

    /// <summary>Who sees what stands behind all of some gates, as the beginning of a sentence; null for no visitor.</summary>
    /// <param name="gates">Those that do not let everyone in.</param>
    /// <param name="why">Why no visitor does.</param>
    internal static string? Whom(IReadOnlyList<Gate> gates, DateTimeOffset at, out string why)
    {
        why = "";
        if (gates.FirstOrDefault(g => g.Audience.Who == Admitted.Staff) is { } staff)
        {
            why = $"; the {Named(staff)} is for staff only";
            return null;
        }

        if (gates.FirstOrDefault(g => g.Audience.Until <= at) is { } over)
        {
            why = $"; the time of the {Named(over)} ended on {Days.Said(over.Audience.Until!.Value)}";
            return null;
        }

        if (gates.Max(g => g.Audience.From) is { } begins && begins > at)
        {
            why = $" until {Days.Said(begins)}";
            return null;
        }

        return Joined(
            [.. gates.Where(g => g.Audience.Who == Admitted.Chosen).Select(g => Names(g.Called)).Distinct()],
            gates.Any(g => g.Audience.Who == Admitted.Members),
            [.. gates.Where(g => g.Audience.Who == Admitted.Holders).Select(g => $"“{g.Name}”")]);
    }

    /// <summary>Who is all of it at once.</summary>
    /// <param name="chosen">Groups and members: one must be among each of these.</param>
    /// <param name="members">Only members.</param>
    /// <param name="held">Of each of these one must hold an entry link.</param>
    static string Joined(IReadOnlyList<string> chosen, bool members, IReadOnlyList<string> held)
    {
        var links = $"an entry link to {string.Join(" and ", held)}";
        if (chosen.Count == 0)
        {
            return !members ? held.Count == 0 ? "Everyone" : $"Holders of {links}" : held.Count == 0 ? "Every member" : $"Every member who holds {links}";
        }

        string[] besides = [.. chosen.Skip(1).Select(c => $"belongs to {c}"), .. held.Count > 0 ? (string[])[$"holds {links}"] : []];
        return besides.Length == 0 ? Capital(chosen[0]) : $"Who belongs to {chosen[0]}, and {string.Join(", and ", besides)},";
    }

    /// <summary>Groups and members by name, within a sentence: the group “Juniors” and Ada Teal.</summary>
    internal static string Names(IReadOnlyList<Chosen> chosen)
    {
        const int Most = 3;
        string[] names = [.. chosen.OrderByDescending(c => c.IsGroup).ThenBy(c => c.Name, StringComparer.Ordinal).Select(c => c.IsGroup ? $"the group “{c.Name}”" : c.Name)];
        return names.Length switch
        {
            0 => "nobody who is still there",
            1 => names[0],
            <= Most => $"{string.Join(", ", names[..^1])} and {names[^1]}",
            _ => $"{string.Join(", ", names[..(Most - 1)])} and {names.Length - Most + 1} more",
        };
    }

    static string Capital(string words) => $"{char.ToUpperInvariant(words[0])}{words[1..]}";

    /// <summary>When it ends first, as the end of a sentence; empty for never.</summary>
    internal static string Ending(IEnumerable<Gate> gates, DateTimeOffset at) => gates.Min(g => g.Audience.Until) is { } until && until > at ? $", until {Days.Said(until)}" : "";

    /// <summary>What an audience changes for visitors, said before it is so.</summary>
    /// <param name="what">"this album", "this category" …</param>
    /// <param name="known">The groups and members whom either is for.</param>
    /// <param name="isSeen">But for its own audience visitors would see it: it is no draft, and not out of view.</param>
    /// <param name="narrowing">What keeps some out whatever it says itself: "its categories". Null where nothing does.</param>
    public static string Changes(Audience before, Audience after, string what, DateTimeOffset at, IReadOnlyList<Chosen> known, bool isSeen = true, string? narrowing = null)
    {
        if (before == after)
        {
            return $"Nothing changes: {what} stays as it is.";
        }

        if (!isSeen)
        {
            return $"No visitor sees {what} as it is; this holds once they could.";
        }

        var everyone = narrowing is null ? "everyone" : $"everyone whom {narrowing} let in";
        var (was, will) = (Open(before, at), Open(after, at));
        var until = after.Until is { } end && end > at && after.Who != Admitted.Staff ? $", until {Days.Said(end)}" : "";
        if (after.From is { } begin && begin > at && after.Who != Admitted.Staff)
        {
            return was == Admitted.Staff
                ? $"{Capital(Gain(after.Who, Of(after, known), everyone))} {what} from {Days.Said(begin)}{until}."
                : $"{Capital(Loss(was, Admitted.Staff, Of(before, known), [], everyone))} {what} until {Days.Said(begin)}.";
        }

        if (was == will && was != Admitted.Chosen)
        {
            return was == Admitted.Staff ? $"No visitor gains or loses {what}." : until.Length > 0 ? $"The same visitors see {what}{until}." : $"The same visitors see {what}, for good.";
        }

        var (whoWas, whoWill) = (Of(before, known), Of(after, known));
        var (come, gone) = was == will ? (whoWill.Except(whoWas).ToArray(), whoWas.Except(whoWill).ToArray()) : (whoWill, whoWas);
        var gains = Comes(was, will) && (will != Admitted.Chosen || come.Length > 0);
        var loses = Comes(will, was) && (was != Admitted.Chosen || gone.Length > 0);
        return (gains, loses) switch
        {
            (true, true) => $"{Capital(Gain(will, come, everyone))} {what}{until}, and {Loss(was, will, gone, whoWill, everyone)} it.",
            (true, false) => $"{Capital(Gain(will, come, everyone))} {what}{until}.",
            (false, true) => $"{Capital(Loss(was, will, gone, whoWill, everyone))} {what}{until}.",
            _ => $"The same visitors see {what}{until}.",
        };
    }

    /// <summary>What is found by its link alone is still where somebody put it.</summary>
    public static string StaysOn(int pages) => pages == 1 ? "On the page where it was put by hand it stays." : $"On the {pages} pages where it was put by hand it stays.";

    /// <summary>Whether some see a thing that is for the second who did not while it was for the first.</summary>
    static bool Comes(Admitted from, Admitted to) => (from, to) switch
    {
        (_, Admitted.Staff) or (Admitted.Everyone, _) or (Admitted.Members, Admitted.Chosen) => false,
        (Admitted.Chosen, Admitted.Chosen) => true,
        _ => from != to,
    };

    static string Gain(Admitted who, Chosen[] chosen, string everyone) => who switch
    {
        Admitted.WithLink => "everyone who has its link gains",
        Admitted.Holders => "holders of an entry link or passcode gain",
        Admitted.Members => "every member gains",
        Admitted.Chosen => $"{Names(chosen)} {(chosen.Length > 1 ? "gain" : "gains")}",
        _ => $"{everyone} gains",
    };

    /// <param name="gone">Who was chosen and is not any more.</param>
    /// <param name="stay">Who is chosen from now on.</param>
    static string Loss(Admitted was, Admitted will, Chosen[] gone, Chosen[] stay, string everyone)
    {
        var but = will switch { Admitted.WithLink => " but who has its link", Admitted.Holders => " but holders of an entry link or passcode", Admitted.Members => " but members", Admitted.Chosen => $" but {Names(stay)}", _ => "" };
        return was switch
        {
            Admitted.WithLink => "everyone with its link loses",
            Admitted.Holders => "holders of an entry link or passcode lose",
            Admitted.Members => $"every member{(will == Admitted.Chosen ? but : "")} loses",
            Admitted.Chosen => $"{Names(gone)} {(gone.Length > 1 ? "lose" : "loses")}",
            _ => will == Admitted.Staff ? "every visitor loses" : $"{everyone}{but} loses",
        };
    }

    /// <summary>Those of them whom an audience is for.</summary>
    static Chosen[] Of(Audience audience, IReadOnlyList<Chosen> known) => audience.Who == Admitted.Chosen ? [.. known.Where(k => audience.Chosen.Contains(k.Id)).DistinctBy(k => k.Id)] : [];

    /// <summary>Whom an audience lets in at a time.</summary>
    static Admitted Open(Audience audience, DateTimeOffset at) => audience.IsOn(at) ? audience.Who : Admitted.Staff;
}
