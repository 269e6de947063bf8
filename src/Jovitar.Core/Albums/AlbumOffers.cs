using Jovitar.Core.Favourites;
using Jovitar.Core.Pages;

namespace Jovitar.Core.Albums;

/// <summary>What visitors may do with an album's photos besides seeing them, on its own page and where it stands alone in a block.</summary>
/// <param name="Saves">In what form everyone who sees it may save them.</param>
/// <param name="KnownSave">The same for those whom it knows: who came by an entry link or a passcode, and members.</param>
/// <param name="Choosing">What it asks those of; null for nothing.</param>
public sealed record AlbumOffers(Saving Saves, Saving KnownSave, Choosing? Choosing)
{
    /// <summary>In what form a visitor may save them.</summary>
    /// <param name="isKnown">The site knows who they are.</param>
    public Saving SavesFor(bool isKnown) => isKnown && KnownSave > Saves ? KnownSave : Saves;

    /// <summary>Whether a visitor may save all of them at once: what is for everyone is saved one by one.</summary>
    /// <param name="isKnown">The site knows who they are.</param>
    /// <param name="photos">How many they see.</param>
    public bool SavesAllFor(bool isKnown, int photos) => isKnown && KnownSave != Saving.Nothing && photos > 1;

    /// <summary>What is wrong with it, by field; empty for nothing.</summary>
    public IReadOnlyDictionary<string, string> Faults()
    {
        var faults = new Dictionary<string, string>(Choosing?.Faults() ?? new Dictionary<string, string>());
        if (!Enum.IsDefined(Saves) || !Enum.IsDefined(KnownSave))
        {
            faults["saves"] = "Choose in what form they may save photographs.";
        }

        return faults;
    }

    /// <summary>The same as the database keeps it.</summary>
    public AlbumOffers AsKept() => this with { Choosing = Choosing?.AsKept() };
}
