namespace Jovitar.Core.Pages;

/// <summary>An entry of the site's menu.</summary>
/// <param name="Words">What visitors read; empty for the name of what it leads to.</param>
/// <param name="Link">Where it leads; nowhere for an entry that only holds others.</param>
/// <param name="Entries">Those beneath it, one level deep.</param>
public sealed record MenuEntry(BlockId Id, string Words, LinkTo Link, IReadOnlyList<MenuEntry> Entries)
{
    public const int LongestWords = 60;
}

/// <summary>The site's menu: a thing of its own, in an order and with wording of its own.</summary>
public sealed record Menu(IReadOnlyList<MenuEntry> Entries)
{
    public const int MostEntries = 60;

    public static readonly Menu Empty = new([]);

    /// <summary>All entries, those beneath others behind them.</summary>
    public IEnumerable<MenuEntry> All() => Entries.SelectMany(e => e.Entries.Prepend(e));

    /// <summary>What is wrong, a sentence an entry by its id; empty when it may be kept.</summary>
    public IReadOnlyDictionary<string, string> Faults()
    {
        var faults = new Dictionary<string, string>();
        if (Entries.Any(e => e is null || e.Entries.Any(b => b is null)))
        {
            faults["entries"] = "Something in this menu is missing. Load it again.";
            return faults;
        }

        var all = All().ToArray();
        if (all.Length > MostEntries)
        {
            faults["entries"] = $"A menu may have {MostEntries} entries. Put some of them beneath a page.";
        }

        if (all.DistinctBy(e => e.Id).Count() < all.Length)
        {
            faults["entries"] = "Two entries are the same one. Load the menu again.";
        }

        foreach (var entry in all)
        {
            if (entry.Words.Length > MenuEntry.LongestWords)
            {
                faults[entry.Id.ToString()] = $"An entry may have {MenuEntry.LongestWords} characters.";
            }
            else if (entry.Link.Fault() is { } fault)
            {
                faults[entry.Id.ToString()] = fault;
            }
            else if (entry.Link.Kind == LinkKind.File)
            {
                // What stands in the menu alone is on no page that would make it public.
                faults[entry.Id.ToString()] = "The menu leads to pages, albums, categories and addresses. Put the file on a page.";
            }
            else if (entry.Entries.Any(b => b.Entries.Count > 0))
            {
                faults[entry.Id.ToString()] = "What stands beneath an entry holds no more.";
            }
        }

        return faults;
    }
}
