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
            .. marks.Select(m => $"{(m.Kind == "site" ? "The site" : $"The {m.Kind} “{m.Name}”")} spares {Whom(m.Marking.Who, m.Called)}."),
            .. marks.Count > 1 ? (string[])["Who is to get it without must be spared by each of them: the stricter wins."] : [],
        ];

    /// <summary>The sentence of the history.</summary>
    /// <param name="kind">"album", "category" or "site".</param>
    public static string Said(string kind, string name, Spared who, IReadOnlyList<Chosen> chosen)
    {
        var what = kind == "site" ? "all photos of the site" : $"the photos of {kind} “{name}”";
        return who == Spared.Everyone ? $"Gave visitors {what} without watermark." : $"Put the watermark on {what}; it spares {Whom(who, chosen)}.";
    }

    /// <summary>Who is spared, within a sentence: "nobody", "all members", names.</summary>
    public static string Whom(Spared who, IReadOnlyList<Chosen> chosen) => who switch
    {
        Spared.Everyone => "everyone",
        Spared.Known => GateWords.Known,
        Spared.Members => "all members",
        Spared.Chosen when chosen.Count > 0 => GateWords.Names(chosen),
        _ => "nobody",
    };
}
