using Jovitar.Core.Access;

namespace Jovitar.Core.Watermarks;

/// <summary>Sentences about who gets photos with the watermark.</summary>
public static class MarkWords
{
    /// <summary>What the marks of a photo come to, for those who look after it, a sentence each; none where it has none.</summary>
    public static IReadOnlyList<string> Said(IReadOnlyList<Mark> marks) => marks.Count == 0
        ? []
        :
        [
            "Visitors get it with the watermark.",
            .. marks.Select(m => $"{(m.Kind == "site" ? "The site" : $"The {m.Kind} “{m.Name}”")} spares {Whom.Said(m.Spared.Who, m.Called)}."),
            .. marks.Count > 1 ? (string[])["Who is to get it without must be spared by each of them: the stricter wins."] : [],
        ];

    /// <summary>The sentence of the history.</summary>
    /// <param name="kind">"album", "category" or "site".</param>
    public static string Said(string kind, string name, ForWhom who, IReadOnlyList<Chosen> chosen)
    {
        var what = kind == "site" ? "all photos of the site" : $"the photos of {kind} “{name}”";
        return who == ForWhom.Everyone ? $"Gave visitors {what} without watermark." : $"Put the watermark on {what}; it spares {Whom.Said(who, chosen)}.";
    }
}
