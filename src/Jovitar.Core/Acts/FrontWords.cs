using Jovitar.Core.Opening;

namespace Jovitar.Core.Acts;

/// <summary>The sentences that say what was done to the site's front.</summary>
public static class FrontWords
{
    public static string Made(string title) => $"Made the site “{title}”.";

    /// <summary>What of it was changed: whether visitors may come in before all, then its name, then the rest.</summary>
    public static string Changed(Front before, Front after) =>
        before.IsOpen != after.IsOpen ? after.IsOpen ? "Opened the site to visitors." : "Closed the site to visitors."
        : before.Title != after.Title ? $"Named the site “{after.Title}”."
        : before.IsListed != after.IsListed ? after.IsListed ? "Let search engines list the site." : "Asked search engines not to list the site."
        : before.HasFavourites != after.HasFavourites ? after.HasFavourites ? "Let visitors mark favourites." : "No longer let visitors mark favourites."
        : before.StartsAt != after.StartsAt ? "Said where visitors begin."
        : "Changed what the site says of itself.";
}
