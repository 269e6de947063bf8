using System.Globalization;
using Jovitar.Core;
using Jovitar.Core.Corrections;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Access;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Site.Contributions;
using Jovitar.Server.Site.Entering;

namespace Jovitar.Server.Site.Buying;

/// <summary>What visitors can buy of a photo, and their basket. No script is needed.</summary>
internal static class BuyingEndpoints
{
    /// <summary>What can be bought of a photo; the album it is sold from and the photo stand behind it.</summary>
    public const string Buy = "/buy";

    public const string BasketPath = "/basket";

    /// <summary>Where it is said how many of each there are.</summary>
    public const string Lines = $"{BasketPath}/lines";

    /// <summary>What one visitor does in a minute; who fills a basket by hand does less.</summary>
    const int ChangesAMinute = 300;

    /// <summary>The fields of a basket's form: one for each line, and a few besides.</summary>
    const int MostFields = BasketSum.MostLines + 8;

    const string CountField = "count-";

    static readonly TimeSpan Minute = TimeSpan.FromMinutes(1);

    /// <summary>So many baskets are begun, and so many orders placed, from one network within <see cref="Window"/>: a club behind one line may buy together.</summary>
    const int BegunFromPlace = 120;
    const int OrderedFromPlace = 60;

    internal static readonly TimeSpan Window = TimeSpan.FromMinutes(10);

    public static void AddBuying(this IServiceCollection services)
    {
        services.AddSingleton<SiteShop>();
        services.AddSingleton<PayingDoor>();
        services.AddSingleton<OrderShowing>();
    }

    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapBuying(this IEndpointRouteBuilder site)
    {
        site.MapGet($"{Buy}/{{album}}/{{photo}}", Show);
        site.MapGet(BasketPath, ShowBasket);
        site.MapPost(BasketPath, Add);
        site.MapPost(Lines, Count);
        site.MapBuyingSeveral();
        site.MapUsingCoupons();
        site.MapCheckingOut();
        site.MapOrderPages();
    }

    /// <summary>The basket of whoever asks: by their account, where they are signed in; what they put in before comes along.</summary>
    /// <returns>Null for who has none.</returns>
    internal static async Task<BasketOf?> TheirsAsync(HttpContext http, BasketStore baskets, CancellationToken ct)
    {
        var (account, secret) = (ContributingPages.AccountOf(http), BasketCookie.Secret(http.Request));
        if (account is { } theirs && secret is not null)
        {
            // What there is no room for stays where it is, and comes along once there is.
            if (await baskets.MergeAsync(secret, theirs, ct))
            {
                BasketCookie.Take(http);
            }
        }

        return account is null && secret is null ? null : new BasketOf(account, account is null ? secret : null);
    }

    static async Task Show(AlbumId album, PhotoId photo, HttpContext http, SiteShop shop, SiteStore store, SiteDoor door, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await ToBuyAsync(album, photo, http, shop, store, door, ct) is { } asked)
        {
            await AnswerAsync(http, door, asked, ct);
        }
        else
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
        }
    }

    static async Task<ToBuy?> ToBuyAsync(AlbumId album, PhotoId photo, HttpContext http, SiteShop shop, SiteStore store, SiteDoor door, CancellationToken ct) =>
        await shop.OpenAsync(ct) is { } open && await shop.FindAsync(open, album, photo, await door.SightAsync(http, ct), ct) is { } sold
            ? new ToBuy(open, sold, await store.PathAsync("album", album.Value, ct) is { } page ? $"{page}/photo/{photo}" : "/")
            : null;

    static async Task Add(HttpContext http, SiteShop shop, SiteStore store, SiteDoor door, BasketStore baskets, TryCount tries, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await FormAsync(http, door, tries, ct) is not { } form)
        {
            return;
        }

        if (!AlbumId.TryParse(form["album"], null, out var album) || !PhotoId.TryParse(form["photo"], null, out var photo) || await ToBuyAsync(album, photo, http, shop, store, door, ct) is not { } asked)
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
            return;
        }

        if (await BasketToFillAsync(http, baskets, tries, ct) is not { } theirs)
        {
            return;
        }

        var option = Guid.TryParse(form["option"], out var id) ? id : Guid.Empty;
        var offer = asked.Sold.Offers.FirstOrDefault(o => o.Option.Id == option);
        var fault = offer is null ? "Choose what you would like."
            : HowMany(form) is not { } count ? NotHowMany
            : offer.Left < count ? BuyingWords.Left(offer.Left.Value)
            : await baskets.AddAsync(theirs, Printed(form, asked.Sold, offer), option, count, ct) switch
            {
                BasketOutcome.Full => BasketIsFull,
                BasketOutcome.Gone => "This photograph has just been removed.",
                _ => null,
            };
        if (fault is null)
        {
            EnteringEndpoints.See(http, BasketPath);
            return;
        }

        http.Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        await AnswerAsync(http, door, asked with { Chosen = offer?.Option.Id, IsWhole = BuyingWords.WantsWhole(form), Fault = fault }, ct);
    }

    /// <summary>The basket that somebody is about to put something into, a new one where they have none; else it is answered.</summary>
    internal static async Task<BasketOf?> BasketToFillAsync(HttpContext http, BasketStore baskets, TryCount tries, CancellationToken ct) =>
        await TheirsAsync(http, baskets, ct) is { } theirs ? theirs
        : await IsTooMuchAsync(http, tries, Window, ct, (Place(http, "n"), BegunFromPlace)) ? null
        : new BasketOf(null, BasketCookie.SecretOrNew(http));

    internal static readonly string BasketIsFull = $"A basket holds {BasketSum.MostLines} different things. Order these first.";

    internal static readonly string NotHowMany = $"Say how many: 1 to {Wanted.MostCount:N0}.";

    /// <summary>How many of each are wanted; null where that is no such number.</summary>
    internal static int? HowMany(IFormCollection form) => int.TryParse(form["count"], CultureInfo.InvariantCulture, out var count) && count is >= 1 and <= Wanted.MostCount ? count : null;

    /// <summary>How a buyer wants a photo on paper.</summary>
    static ToPutIn Printed(IFormCollection form, SoldPhoto sold, Offer offer)
    {
        var isWhole = BuyingWords.IsWhole(form, offer);
        return new ToPutIn(sold.Album, sold.Photo.Id, isWhole ? null : Middle(form["at"], sold, offer), isWhole);
    }

    /// <summary>Where a buyer moved what is cut off to.</summary>
    /// <param name="at">0 for the left or upper end of the picture, 100 for the other one; empty for as it stands.</param>
    /// <returns>The spot of the picture that stays in the middle; null for as it stands.</returns>
    static Spot? Middle(string? at, SoldPhoto sold, Offer offer) =>
        double.TryParse(at, CultureInfo.InvariantCulture, out var hundredths) && double.IsFinite(hundredths) ? offer.Fit?.MovedTo(Math.Clamp(hundredths / 100, 0, 1), sold.Size) : null;

    static Task ShowBasket(HttpContext http, SiteShop shop, SiteStore store, SiteDoor door, BasketStore baskets, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        return AnswerBasketAsync(http, shop, store, door, baskets, null, ct);
    }

    /// <param name="typed">The coupon that was typed and is not taken, with why; null for none.</param>
    internal static async Task AnswerBasketAsync(HttpContext http, SiteShop shop, SiteStore store, SiteDoor door, BasketStore baskets, TypedCoupon? typed, CancellationToken ct)
    {
        if (await shop.OpenAsync(ct) is not { } open)
        {
            await SiteEndpoints.SendAsync(http, await door.Renderer.BasketPageAsync(new ToBasket(null), ct), ct);
            return;
        }

        var basket = await TheirsAsync(http, baskets, ct) is { } theirs ? await baskets.FindAsync(theirs, ct) : null;
        var seen = await shop.SeenAsync(open, basket, await door.SightAsync(http, ct), ct);
        BasketCookie.Tell(http, seen.Count);
        var more = seen.Lines.LastOrDefault(l => l.Photo is not null)?.Photo?.Album is { } album ? await store.PathAsync("album", album.Value, ct) : null;
        await SiteEndpoints.SendAsync(http, await door.Renderer.BasketPageAsync(new ToBasket(seen, more, await shop.TakesCouponsAsync(ct), typed), ct), ct);
    }

    static async Task Count(HttpContext http, SiteDoor door, BasketStore baskets, TryCount tries, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (await FormAsync(http, door, tries, ct) is not { } form)
        {
            return;
        }

        var counts = form.Where(f => f.Key.StartsWith(CountField, StringComparison.Ordinal))
            .Select(f => (Line: Guid.TryParse(f.Key[CountField.Length..], out var line) ? line : Guid.Empty, Count: int.TryParse(f.Value, CultureInfo.InvariantCulture, out var count) ? count : (int?)null))
            .Where(f => f.Line != Guid.Empty && f.Count is not null)
            .DistinctBy(f => f.Line)
            .ToDictionary(f => f.Line, f => f.Count!.Value);
        if (Guid.TryParse(form["out"], out var gone))
        {
            counts[gone] = 0;
        }

        if (counts.Count > 0 && await TheirsAsync(http, baskets, ct) is { } theirs)
        {
            await baskets.CountAsync(theirs, counts, ct);
        }

        EnteringEndpoints.See(http, BasketPath);
    }

    /// <summary>What was sent from a page of ours by hand; else it is answered.</summary>
    internal static async Task<IFormCollection?> FormAsync(HttpContext http, SiteDoor door, TryCount tries, CancellationToken ct)
    {
        if (VisitorForm.IsFromElsewhere(http) || await VisitorForm.ReadAsync(http, ct, MostFields) is not { } form)
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
            return null;
        }

        return await IsTooMuchAsync(http, tries, Minute, ct, (Place(http, "b"), ChangesAMinute)) ? null : form;
    }

    /// <summary>Counts an order that is about to be placed; what is too much is answered.</summary>
    internal static Task<bool> OrdersTooMuchAsync(HttpContext http, TryCount tries, CancellationToken ct) => IsTooMuchAsync(http, tries, Window, ct, (Place(http, "o"), OrderedFromPlace));

    /// <summary>What is counted of the network that somebody asks from.</summary>
    internal static string Place(HttpContext http, string what) => $"{what} {TryCount.Network(http.Connection.RemoteIpAddress)}";

    /// <summary>Counts something that is about to be done at each of some keys; what is too much is answered.</summary>
    internal static async Task<bool> IsTooMuchAsync(HttpContext http, TryCount tries, TimeSpan window, CancellationToken ct, params (string Key, int Most)[] keys)
    {
        if (await tries.WaitAsync(window, ct, keys) is not { } wait)
        {
            return false;
        }

        http.Response.StatusCode = StatusCodes.Status429TooManyRequests;
        await http.Response.WriteAsync($"That was a lot at once from where you are. Wait {Math.Max(1, Math.Ceiling(wait.TotalMinutes))} minutes, then go on.", ct);
        return true;
    }

    static async Task AnswerAsync(HttpContext http, SiteDoor door, ToBuy asked, CancellationToken ct) => await SiteEndpoints.SendAsync(http, await door.Renderer.BuyPageAsync(asked, ct), ct);
}
