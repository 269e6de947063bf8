namespace Jovitar.Core.Acts;

/// <summary>The sentences that say what was done about visitors' comments and ratings.</summary>
public static class CommentWords
{
    /// <summary>What visitors may say about an album's photos.</summary>
    /// <param name="known">Those alone whom the site knows.</param>
    public static string Album(string album, bool comments, bool ratings, bool known = false) => (comments, ratings) switch
    {
        (true, true) => $"Let {Who(known)} comment on and rate the photos of “{album}”.",
        (true, false) => $"Let {Who(known)} comment on the photos of “{album}”.",
        (false, true) => $"Let {Who(known)} rate the photos of “{album}”.",
        _ => $"No longer let visitors comment on or rate the photos of “{album}”.",
    };

    static string Who(bool known) => known ? Access.GateWords.Known : "visitors";

    /// <summary>Comments were shown or refused.</summary>
    /// <param name="name">Who wrote the first of them.</param>
    public static string Decided(bool shown, int count, string name) =>
        (shown, count) switch
        {
            (true, 1) => $"Showed a comment of {name}.",
            (false, 1) => $"Refused a comment of {name}.",
            (true, _) => $"Showed {count} comments.",
            _ => $"Refused {count} comments.",
        };

    public static string Removed(int count) => count == 1 ? "Removed a refused comment for good." : $"Removed {count} refused comments for good.";
}
