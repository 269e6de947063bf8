using Jovitar.Core.Contributions;

namespace Jovitar.Core.Acts;

/// <summary>The sentences of the history about photos that are sent in.</summary>
public static class ContributionWords
{
    public static string MadeLink(string title) => $"Made the contribution link “{title}”.";

    public static string ChangedLink(string title) => $"Said anew what the contribution link “{title}” asks for.";

    public static string WithdrewLink(string title) => $"Withdrew the contribution link “{title}”.";

    /// <param name="who">Who sent them.</param>
    public static string Accepted(int photos, string who) => $"Accepted {ActWords.Photos(photos)} of {who}.";

    /// <param name="why">What they are told; empty for nothing.</param>
    public static string Refused(int photos, string who, string why) => why.Length == 0 ? $"Refused {ActWords.Photos(photos)} of {who}." : $"Refused {ActWords.Photos(photos)} of {who}: {why}";

    public static string MadeAlbum(string album) => $"Made album “{album}” of what was sent in.";

    /// <summary>Whoever sent it takes an accepted photo back.</summary>
    public static string Withdrew(string who, string photo) => $"{who} took “{photo}” back; it is in the bin.";

    public static string Said(string who, Contributing contributing) => contributing switch
    {
        Contributing.Waits => $"{who} may send photos in; they wait until somebody accepts them.",
        Contributing.Trusted => $"{who} may send photos in; they are accepted by themselves.",
        _ => $"{who} sends no photos in any more.",
    };

    /// <param name="categories">How many.</param>
    public static string Offered(int categories) =>
        categories == 0 ? "Members who send photos in put their albums into no category." : $"Members who send photos in put their albums into {ActWords.Things(categories, "category", "categories")} of their choice.";
}
