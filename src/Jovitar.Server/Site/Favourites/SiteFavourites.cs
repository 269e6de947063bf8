using System.Security.Cryptography;
using System.Text;
using Jovitar.Core.Access;
using Jovitar.Core.Favourites;
using Jovitar.Core.Filtering;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform;
using Jovitar.Server.Site.Buying;
using Jovitar.Server.Themes;

namespace Jovitar.Server.Site.Favourites;

/// <summary>The pages of what visitors have marked: nothing of them is kept here, and they show no photo that visitors do not come upon anyway.</summary>
internal sealed class SiteFavourites(SettingsStore settings, ThemeStore themes, ShownPhotos shown, SiteShop shop)
{
    const string Title = "Favourites";

    /// <summary>What is at an address of favourites, with the page of them: whether there is one hangs on every photo.</summary>
    public async Task<PageVersion?> FindAsync(string address, Sight sight, CancellationToken ct)
    {
        if (!MarkedPhotos.TryParse(address, out var marked))
        {
            return null;
        }

        var site = await settings.ReadAsync(ct);
        var offered = site.Front.HasFavourites;
        var photos = offered ? await shown.OfAsync(marked.Photos, sight, ct) : [];
        var isSold = photos.Count > 0 && await shop.OpenAsync(ct) is { } open && (await shop.OfferedAsync(open, marked.Photos, sight, ct)).Count > 0;
        var content = SHA256.HashData(Encoding.UTF8.GetBytes($"{string.Join('\n', photos)}\n{isSold}"));
        var id = new Guid(SHA256.HashData(Encoding.ASCII.GetBytes(address)).AsSpan(0, 16));
        return new PageVersion(SiteKind.Favourites, id, BitConverter.ToInt64(content), site.Version, address, new FavouritesThing(offered))
        {
            Sight = sight,
            Page = PageOf(address, marked, photos, isSold, (await themes.PublishedAsync(ct)).Look()) with { Sight = sight },
        };
    }

    static SitePage PageOf(string address, MarkedPhotos marked, IReadOnlyList<SitePhoto> photos, bool isSold, Look look)
    {
        var usual = new BlockPlace(BlockFrame.Usual);
        return new SitePage(
            PageVersion.PathOf(SiteKind.Favourites, address), Title, "",
            [
                new SiteHeading(default, usual, Title, HeadingSize.Large, 1),
                .. Lacks(marked.Photos.Count - photos.Count, photos.Count) is { } sentence ? (SiteBlock[])[new SiteText(default, usual, sentence)] : [],
                .. photos.Count > 0 ? (SiteBlock[])[new SitePhotosBlock(default, usual, new Walk(1, BlockLayout.Usual.Spaced(look.Gap), photos, FilterBar.None(photos.Count)))] : [],
                .. isSold ? (SiteBlock[])[new SiteButton(default, usual, "Buy some of them", BuyingSeveral.PathOf(marked))] : [],
            ],
            Unlisted: true);
    }

    static string? Lacks(int gone, int left) =>
        gone == 0 ? null
        : left == 0 ? "None of these photographs can be seen any more."
        : gone == 1 ? "One photograph more was marked. It cannot be seen any more."
        : $"{gone} photographs more were marked. They cannot be seen any more.";
}
