namespace Jovitar.Core.Opening;

/// <summary>What the site says of itself before anything on it is opened, and whether visitors may come in.</summary>
/// <param name="Title">What it is called; in its head, in every page's title, wherever others show it.</param>
/// <param name="Tagline">One sentence beneath the title on the start page, which those who find it are told, too; empty for none.</param>
/// <param name="IsOpen">Visitors may see what is published; until then only staff do.</param>
/// <param name="Meanwhile">What visitors read while it is closed; empty for the usual sentence.</param>
/// <param name="IsListed">Search engines may list it.</param>
/// <param name="StartsAt">The page at which visitors begin, while it is published; null for the list of all pages.</param>
/// <param name="HasFavourites">Visitors may mark photos and send others what they have marked.</param>
public sealed record Front(string Title, string Tagline, bool IsOpen, string Meanwhile, bool IsListed, PageId? StartsAt, bool HasFavourites)
{
    public const int LongestTitle = 120;
    public const int LongestTagline = 300;
    public const int LongestMeanwhile = 500;

    /// <summary>What is wrong with it, by field; empty for nothing.</summary>
    public IReadOnlyDictionary<string, string> Faults()
    {
        var faults = new Dictionary<string, string>(StringComparer.Ordinal);
        if (!Text.IsSeen(Title))
        {
            faults["title"] = "Give the site a name.";
        }

        foreach (var (field, text, most) in ((string, string, int)[])[("title", Title, LongestTitle), ("tagline", Tagline, LongestTagline), ("meanwhile", Meanwhile, LongestMeanwhile)])
        {
            if (Text.Fault(text, most) is { } fault)
            {
                faults[field] = fault;
            }
        }

        return faults;
    }

    /// <summary>The same without what nobody sees: the title and the tagline on one line each.</summary>
    public Front Trimmed() => this with { Title = OneLine(Title), Tagline = OneLine(Tagline), Meanwhile = Meanwhile.Trim() };

    /// <summary>Words as they stand on one line, for a name; empty where nothing of them can be read.</summary>
    public static string OneLine(string words) => Text.Name(words.ReplaceLineEndings(" "));
}
