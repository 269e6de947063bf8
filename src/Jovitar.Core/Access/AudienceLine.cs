namespace Jovitar.Core.Access;

/// <summary>Who can see a thing, and the sentence that says so, the same wherever it stands.</summary>
/// <param name="Everyone">Whether visitors who did nothing to prove who they are can see it.</param>
/// <param name="Sentence">One plain sentence.</param>
public sealed record AudienceLine(bool Everyone, string Sentence)
{
    /// <summary>The line of an album or photo that stands on published pages and on drafts.</summary>
    /// <param name="published">On how many published pages it stands.</param>
    /// <param name="drafts">On how many pages that were never published, or were withdrawn.</param>
    public static AudienceLine For(int published, int drafts) => (published, drafts) switch
    {
        (0, 0) => new(false, "Only staff can see this; it stands on no page."),
        (0, 1) => new(false, "Only staff can see this; its page is a draft."),
        (0, _) => new(false, $"Only staff can see this; its {drafts} pages are drafts."),
        (1, _) => new(true, "Everyone can see this, on one page."),
        _ => new(true, $"Everyone can see this, on {published} pages."),
    };

    /// <summary>The line of a photo, which may be left out everywhere whatever its albums are.</summary>
    public static AudienceLine ForPhoto(int published, int drafts, bool leftOut) => leftOut ? new(false, "Only staff can see this; it is left out everywhere.") : For(published, drafts);

    /// <summary>The line of a page.</summary>
    public static AudienceLine ForPage(bool published, bool changed) => (published, changed) switch
    {
        (false, _) => new(false, "Only staff can see this page; it is a draft."),
        (true, true) => new(true, "Everyone can see this page, as it was before your latest changes."),
        _ => new(true, "Everyone can see this page."),
    };
}
