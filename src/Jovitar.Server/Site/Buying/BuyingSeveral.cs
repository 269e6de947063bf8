using Jovitar.Core;
using Jovitar.Core.Favourites;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Site.Entering;

namespace Jovitar.Server.Site.Buying;

/// <summary>Visitors buy the same of several photos at once, as of those that they have marked or chosen. No script is needed.</summary>
internal static class BuyingSeveral
{
    const string Buy = $"{BuyingEndpoints.Buy}/several";

    /// <summary>Where several are put into the basket.</summary>
    public const string Put = $"{BuyingEndpoints.BasketPath}/several";

    /// <summary>Where some photos are bought.</summary>
    public static string PathOf(MarkedPhotos photos) => $"{Buy}/{photos.Address}";

    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapBuyingSeveral(this IEndpointRouteBuilder site)
    {
        site.MapGet($"{Buy}/{{photos}}", Show);
        site.MapPost(Put, Add);
    }

    static async Task Show(string photos, HttpContext http, SiteShop shop, SiteDoor door, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await ToBuyAsync(photos, await door.SightAsync(http, ct), shop, ct) is { } asked)
        {
            await AnswerAsync(http, door, asked, ct);
        }
        else
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
        }
    }

    static async Task<ToBuySeveral?> ToBuyAsync(string address, Sight sight, SiteShop shop, CancellationToken ct)
    {
        if (!MarkedPhotos.TryParse(address, out var marked) || await shop.OpenAsync(ct) is not { } open)
        {
            return null;
        }

        var sold = await shop.OfferedAsync(open, marked.Photos, sight, ct);
        var offered = sold.SelectMany(p => p.Offers).CountBy(o => o.Option.Id).ToDictionary();
        // As they stand in the price lists.
        OfferedOfSeveral[] options = [.. sold.SelectMany(p => p.List.Options).DistinctBy(o => o.Id).Where(o => offered.ContainsKey(o.Id)).Select(o => new OfferedOfSeveral(o, offered[o.Id]))];
        return new ToBuySeveral(open, address, sold, options, sold.Select(p => p.Photo.Id).ToHashSet());
    }

    static async Task Add(HttpContext http, SiteShop shop, SiteDoor door, BasketStore baskets, TryCount tries, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await BuyingEndpoints.FormAsync(http, door, tries, ct) is not { } form)
        {
            return;
        }

        if (await ToBuyAsync(form["photos"].ToString(), await door.SightAsync(http, ct), shop, ct) is not { } asked)
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
            return;
        }

        if (await BuyingEndpoints.BasketToFillAsync(http, baskets, tries, ct) is not { } theirs)
        {
            return;
        }

        var taken = form["photo"].Select(p => PhotoId.TryParse(p, null, out var id) ? id : default).ToHashSet();
        var option = Guid.TryParse(form["option"], out var chosen) ? chosen : Guid.Empty;
        ToPutIn[] put =
        [
            .. from sold in asked.Sold
               where taken.Contains(sold.Photo.Id)
               let offer = sold.Offers.FirstOrDefault(o => o.Option.Id == option)
               where offer is not null
               select new ToPutIn(sold.Album, sold.Photo.Id, IsWhole: BuyingWords.IsWhole(form, offer)),
        ];
        var fault = asked.Options.All(o => o.Option.Id != option) ? "Choose what you would like."
            : BuyingEndpoints.HowMany(form) is not { } count ? BuyingEndpoints.NotHowMany
            : taken.Count == 0 ? "Choose of which photographs."
            : put.Length == 0 ? "It is offered of none of the photographs that you chose."
            : await baskets.AddAsync(theirs, put, option, count, ct) switch
            {
                BasketOutcome.Full => BuyingEndpoints.BasketIsFull,
                BasketOutcome.Gone => "One of these photographs has just been removed. Look again.",
                _ => null,
            };
        if (fault is null)
        {
            EnteringEndpoints.See(http, BuyingEndpoints.BasketPath);
            return;
        }

        http.Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        await AnswerAsync(http, door, asked with { Taken = taken, Chosen = option, IsWhole = BuyingWords.WantsWhole(form), Fault = fault }, ct);
    }

    static async Task AnswerAsync(HttpContext http, SiteDoor door, ToBuySeveral asked, CancellationToken ct) => await SiteEndpoints.SendAsync(http, await door.Renderer.BuySeveralPageAsync(asked, ct), ct);
}
