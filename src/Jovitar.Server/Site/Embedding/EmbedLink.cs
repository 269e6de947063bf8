using System.Globalization;
using Jovitar.Core;
using Jovitar.Core.Pages;
using Microsoft.AspNetCore.WebUtilities;

namespace Jovitar.Server.Site.Embedding;

/// <summary>What a link to this site leads to.</summary>
/// <param name="Photo">A photo on it; null for the whole.</param>
/// <param name="Walk">In which of its walks that is.</param>
/// <param name="Embed">How it is to stand there, where the link says so.</param>
internal sealed record EmbedLink(SiteKind Kind, string Address, PhotoId? Photo, int Walk, Embed Embed)
{
    /// <summary>Longer than any address of this site.</summary>
    const int Longest = 2000;

    /// <summary>Reads a link.</summary>
    /// <param name="text">With the site's address or without.</param>
    /// <param name="root">The site's address.</param>
    /// <returns>Null where it does not lead to a page of this site.</returns>
    public static EmbedLink? Of(string? text, Uri root)
    {
        // With or without encryption it is the same site: who passes a link on may have either.
        if (text is not { Length: > 0 and <= Longest } || !Uri.TryCreate(root, text, out var uri) || uri.Scheme is not ("http" or "https") || !uri.Authority.Equals(root.Authority, StringComparison.OrdinalIgnoreCase))
        {
            return null;
        }

        var query = QueryHelpers.ParseQuery(uri.Query);
        var embed = Embed.Read(name => query.GetValueOrDefault(name));
        string[] parts = [.. uri.AbsolutePath.Split('/', StringSplitOptions.RemoveEmptyEntries).Select(Uri.UnescapeDataString)];
        var (kind, rest) = parts switch
        {
            ["album", .. var of] => (SiteKind.Album, of),
            ["category", .. var of] => (SiteKind.Category, of),
            ["favourites", .. var of] => (SiteKind.Favourites, of),
            _ => (SiteKind.Page, parts),
        };
        var walk = int.TryParse(query.GetValueOrDefault("in"), NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : 1;
        return rest switch
        {
            [var address] => new EmbedLink(kind, address, null, walk, embed),
            [var address, "photo", var photo] when Guid.TryParse(photo, out var id) => new EmbedLink(kind, address, new PhotoId(id), walk, embed),
            _ => null,
        };
    }
}
