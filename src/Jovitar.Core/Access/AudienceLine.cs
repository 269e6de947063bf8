namespace Jovitar.Core.Access;

/// <summary>Who can see a thing, and the sentence that says so, the same wherever it stands: made from the decision itself.</summary>
/// <param name="Everyone">Whether visitors who did nothing to prove who they are can see it.</param>
/// <param name="Sentence">One plain sentence.</param>
public sealed record AudienceLine(bool Everyone, string Sentence)
{
    /// <summary>The line of a thing on a site.</summary>
    public static AudienceLine Of(Thing thing, TheSite site, DateTimeOffset at)
    {
        var decision = Access.Decide(Viewer.Nobody, Right.See, thing, at);
        var staff = $"Only staff can see this{(thing is PageThing ? " page" : "")}";
        return !decision.Allowed ? new AudienceLine(false, $"{staff}; {Why(decision.Reasons[0], thing)}.")
            : Access.Decide(Viewer.Nobody, Right.See, site, at).Allowed ? new AudienceLine(true, Allowed(thing))
            : new AudienceLine(false, $"{staff} until the site is opened.");
    }

    static string Allowed(Thing thing) => thing switch
    {
        PageThing { Changed: true } => "Everyone can see this page, as it was before your latest changes.",
        PageThing => "Everyone can see this page.",
        PhotoThing { On.All: var n } => On(n),
        AlbumThing { On.All: var n } => On(n),
        _ => "Everyone can see this.",
    };

    static string On(int pages) => pages == 1 ? "Everyone can see this, on one page." : $"Everyone can see this, on {pages} pages.";

    static string Why(Reason reason, Thing thing) => reason switch
    {
        Reason.InTheBin => "it is in the bin",
        Reason.NotReadyYet => "it is still being made ready",
        Reason.CouldNotBeMadeReady => "it could not be made ready",
        Reason.LeftOutEverywhere => "it is left out everywhere",
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
