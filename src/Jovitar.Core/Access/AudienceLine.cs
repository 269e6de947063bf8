using Jovitar.Core.Clearance;
using Jovitar.Core.Watermarks;

namespace Jovitar.Core.Access;

/// <summary>Who can see a thing, and the sentence that says so, the same wherever it stands: made from the decision itself.</summary>
/// <param name="Everyone">Whether visitors who did nothing to prove who they are can see it.</param>
/// <param name="Sentence">One plain sentence.</param>
/// <param name="Why">What that rests on, a sentence each.</param>
public sealed record AudienceLine(bool Everyone, string Sentence, IReadOnlyList<string> Why)
{
    /// <summary>The line of a thing on a site.</summary>
    /// <param name="thing">As somebody comes upon it who is nobody in particular.</param>
    /// <param name="ways">The gates on the ways to it that do not let everyone in, where it stands behind such gates alone.</param>
    public static AudienceLine Of(Thing thing, TheSite site, DateTimeOffset at, IReadOnlyList<Gate>? ways = null)
    {
        var decision = Access.Decide(Viewer.Nobody, Right.See, thing, at);
        var against = decision.Reasons.Where(r => r is not (Reason.NotLetIn or Reason.OnlyBehindGates)).ToArray();
        var isOpen = Access.Decide(Viewer.Nobody, Right.See, site, at).Allowed;
        var gates = Access.GatesOf(thing);
        IReadOnlyList<string> why =
        [
            .. (decision.Allowed ? decision.Reasons : against).Select(r => Said(r, thing, at)),
            .. gates.Concat(decision.Reasons.Contains(Reason.OnlyBehindGates) ? ways ?? [] : []).DistinctBy(g => g.Thing).Select(g => GateWords.Said(g, at)),
            .. gates.Count > 1 ? (string[])["Who is to see it must be let in by each of them: the stricter wins."] : [],
            .. decision.Allowed ? Besides(thing, at) : [],
            .. thing is PhotoThing { Marks: var marks } && (decision.Allowed || against.Length == 0) ? MarkWords.Said(marks) : [],
            .. isOpen ? (string[])[] : ["The site is not open to visitors yet."],
        ];
        var what = thing is PageThing ? " page" : "";
        var staff = $"Only staff can see this{what}";
        if (against.Length > 0 && !decision.Allowed)
        {
            return new AudienceLine(false, $"{staff}; {Because(against[0], thing, at)}.", why);
        }

        if (!isOpen)
        {
            return new AudienceLine(false, $"{staff} until the site is opened.", why);
        }

        return decision.Allowed
            ? new AudienceLine(true, $"{Allowed(thing)[..^1]}{GateWords.Ending(gates, at)}.", why)
            : new AudienceLine(false, Some([.. gates.Where(g => !g.LetsIn(Viewer.Nobody, at))], ways ?? [], staff, what, at), why);
    }

    /// <summary>Why a visitor does not see a thing, a sentence each; empty where they do.</summary>
    /// <param name="thing">As they come upon it.</param>
    /// <param name="ways">The gates on the ways to it.</param>
    public static IReadOnlyList<string> WhyNot(Viewer viewer, Thing thing, DateTimeOffset at, IReadOnlyList<Gate> ways)
    {
        var decision = Access.Decide(viewer, Right.See, thing, at);
        return decision.Allowed
            ? []
            :
            [
                .. decision.Reasons.Where(r => r is not (Reason.NotLetIn or Reason.OnlyBehindGates)).Select(r => Said(r, thing, at)),
                .. Access.GatesOf(thing).Concat(decision.Reasons.Contains(Reason.OnlyBehindGates) ? ways : []).Where(g => !g.LetsIn(viewer, at)).DistinctBy(g => g.Thing).Select(g => GateWords.Said(g, at)),
            ];
    }

    /// <summary>Who sees what stands behind gates: behind all of its own, and on one of its ways.</summary>
    static string Some(IReadOnlyList<Gate> gates, IReadOnlyList<Gate> ways, string staff, string what, DateTimeOffset at)
    {
        if (gates.Count > 0)
        {
            return GateWords.Whom(gates, at, out var why) is { } who ? $"{who} can see this{what}{GateWords.Ending(gates, at)}." : $"{staff}{why}.";
        }

        string[] some = [.. ways.Select(w => GateWords.Whom([w], at, out _)).OfType<string>().Distinct()];
        return some.Length switch
        {
            0 => $"{staff}; where it stands only staff come.",
            1 => $"{some[0]} can see this{what}{GateWords.Ending(ways, at)}.",
            _ => $"Some visitors can see this{what}: where it stands not everyone is let in.",
        };
    }

    /// <summary>A reason as a sentence of its own.</summary>
    static string Said(Reason reason, Thing thing, DateTimeOffset at) => reason switch
    {
        Reason.NotCleared => "It is not cleared: no visitor sees it, whatever else is set.",
        Reason.SomebodySaysNo => "Somebody whom it shows says no: no visitor sees it, whatever else is set.",
        Reason.NotClearedYet or Reason.ClearanceRanOut => $"The site shows only what is cleared, and {Because(reason, thing, at)}.",
        Reason.OnPublishedPage when thing is PhotoThing { On.All: var n } => Pages(n),
        Reason.OnPublishedPage when thing is AlbumThing { On.All: var n } => Pages(n),
        Reason.Published => "It is published.",
        _ => Capital(Because(reason, thing, at)),
    };

    static string Capital(string words) => $"{char.ToUpperInvariant(words[0])}{words[1..]}.";

    static string Pages(int count) => count == 1 ? "It stands on a page that visitors can open." : $"It stands on {count} pages that visitors can open.";

    /// <summary>What else there is to know of what visitors see.</summary>
    static IEnumerable<string> Besides(Thing thing, DateTimeOffset at) => thing switch
    {
        PhotoThing { Clearance: var clearance } when clearance.At(at) == Clearances.Cleared => ["It is cleared."],
        PhotoThing => ["Nobody has said that it is not cleared."],
        AlbumThing { Held: > 0 and var held } => [held == 1 ? "One of its photos is not cleared: no visitor sees it." : $"{held} of its photos are not cleared: no visitor sees them."],
        PageThing { Changed: true } => ["Your latest changes are not published."],
        _ => [],
    };

    static string Allowed(Thing thing) => thing switch
    {
        PageThing { Changed: true } => "Everyone can see this page, as it was before your latest changes.",
        PageThing => "Everyone can see this page.",
        PhotoThing { On.All: var n } => On(n),
        AlbumThing { ByLinkAlone: true, On.Pages: var n } =>
            n == 0 ? "Everyone with its link can see this." : $"{On(n)[..^1]} where it was put by hand, and its own page with its link.",
        AlbumThing { Held: > 0 and var held, On.All: var n } => $"{On(n)[..^1]}, without {(held == 1 ? "the one photo that is" : $"the {held} photos that are")} not cleared.",
        AlbumThing { On.All: var n } => On(n),
        _ => "Everyone can see this.",
    };

    static string On(int pages) => pages == 1 ? "Everyone can see this, on one page." : $"Everyone can see this, on {pages} pages.";

    static string Because(Reason reason, Thing thing, DateTimeOffset at) => reason switch
    {
        Reason.InTheBin => "it is in the bin",
        Reason.NotReadyYet => "it is still being made ready",
        Reason.CouldNotBeMadeReady => "it could not be made ready",
        Reason.LeftOutEverywhere => "it is left out everywhere",
        Reason.NotCleared => "it is not cleared",
        Reason.SomebodySaysNo => "somebody whom it shows says no",
        Reason.NotClearedYet => "nobody has cleared it yet",
        Reason.ClearanceRanOut when thing is PhotoThing { Clearance: var clearance } && clearance.RanOut(at) is { } day => $"its clearance ended on {Days.Said(day)}",
        Reason.OnNoPage when thing is AlbumThing => "it stands in no category and on no page",
        Reason.OnNoPage => "it stands on no page",
        Reason.OutOfView when thing is PhotoThing { On.OutOfView: var n } => n == 1 ? "its album is out of view" : "its albums are out of view",
        Reason.OutOfView => "it is out of view",
        Reason.OnlyOnDrafts => Drafts(thing) == 1 ? "its page is a draft" : $"its {Drafts(thing)} pages are drafts",
        Reason.IsADraft => "it is a draft",
        _ => "it is not shown on the site",
    };

    static int Drafts(Thing thing) => thing switch
    {
        PhotoThing photo => photo.On.Drafts,
        AlbumThing album => album.On.Drafts,
        _ => 1,
    };
}
