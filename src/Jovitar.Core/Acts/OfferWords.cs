using Jovitar.Core.Albums;
using Jovitar.Core.Pages;

namespace Jovitar.Core.Acts;

/// <summary>The sentences of the history about what visitors may do with an album's photos, and what they chose.</summary>
public static class OfferWords
{
    public static string Said(string album, AlbumOffers before, AlbumOffers now)
    {
        string[] said =
        [
            .. before.Choosing is null && now.Choosing is not null ? (string[])["asked visitors whom it knows for their favourites"] : [],
            .. before.Choosing is not null && now.Choosing is null ? (string[])["no longer asked for favourites"] : [],
            .. before.Choosing is not null && now.Choosing is not null && before.Choosing != now.Choosing ? (string[])["changed what visitors are asked for"] : [],
            .. before.Saves != now.Saves ? (string[])[$"let everyone save {Form(now.Saves)}"] : [],
            .. before.KnownSave != now.KnownSave ? (string[])[$"let those whom it knows save {Form(now.KnownSave)}"] : [],
        ];
        return $"Of “{album}”: {string.Join(", ", said)}.";
    }

    /// <summary>Somebody has taken note of what a visitor sent.</summary>
    public static string Noted(string who, string album) => $"Noted the favourites of “{who}” of “{album}”.";

    /// <summary>A visitor may change again what they sent.</summary>
    public static string Reopened(string who, string album) => $"Let “{who}” change their favourites of “{album}” again.";

    static string Form(Saving saving) => saving switch
    {
        Saving.Full => "photos in full size",
        Saving.Large => "photos as large as a page shows them",
        _ => "nothing",
    };
}
