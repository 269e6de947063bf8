using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Corrections;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Coupons;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Taxes;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales;
using Jovitar.Server.Sales.Coupons;
using Jovitar.Server.Sales.Ordering;
using Npgsql;

namespace Jovitar.Server.Site.Buying;

/// <summary>A photo that a visitor can buy.</summary>
/// <param name="Gallery">What its album is called.</param>
/// <param name="Offers">What is offered of it, as the price list has it.</param>
public sealed record SoldPhoto(SitePhoto Photo, AlbumId Album, string Gallery, PriceList List, IReadOnlyList<Offer> Offers)
{
    public PixelSize Size => new(Photo.Width, Photo.Height);
}

/// <summary>A line of a basket as it is now.</summary>
/// <param name="Photo">Null where the visitor cannot buy it any more.</param>
/// <param name="Option">Null where it is not offered any more.</param>
/// <param name="Middle">What stays in the middle of a print, as its buyer moved it or as it stands; null where nothing is printed, or for the middle itself.</param>
/// <param name="IsWhole">Nothing is cut off, and white is left instead.</param>
/// <param name="Fit">How the photo comes onto it, as the buyer moved it; null where it does not.</param>
/// <param name="Left">So many are left, where more are in the basket than that; else null.</param>
/// <param name="Sum">What it costs; null where it cannot be bought so.</param>
public sealed record BasketLineSeen(Guid Id, int Count, SoldPhoto? Photo, SaleOption? Option, Spot? Middle, bool IsWhole, PrintFit? Fit, int? Left, LineSum? Sum)
{
    /// <summary>It can be bought as it stands.</summary>
    public bool IsBought => Option is not null && Left is null;

    /// <summary>What it is bought as; null where it is not offered any more.</summary>
    public string? Bought => Option is null ? null : PlacedLine.BoughtAs(Option, IsWhole);
}

/// <summary>A coupon in a basket as it is now.</summary>
/// <param name="Refusal">Why it takes nothing off.</param>
public sealed record BasketCouponSeen(KeptCoupon Kept, CouponRefusal Refusal);

/// <summary>A basket as it is now.</summary>
/// <param name="Coupons">That were typed.</param>
/// <param name="Sum">Of what can be bought, without postage.</param>
/// <param name="Parcel">What of it is sent.</param>
public sealed record BasketSeen(Shop Shop, IReadOnlyList<BasketLineSeen> Lines, IReadOnlyList<BasketCouponSeen> Coupons, BasketSum Sum, Parcel Parcel)
{
    /// <summary>What can be bought of it.</summary>
    public IEnumerable<BasketLineSeen> Bought => Lines.Where(l => l.Sum is not null);

    /// <summary>What all of it is counted as beside the link to it.</summary>
    public int Count => Bought.Sum(l => l.Count);

    IReadOnlyList<Wanted> Wanted => [.. Bought.Select(l => new Wanted(l.Option!, l.Count))];

    IEnumerable<Coupon> Good => Coupons.Where(c => c.Refusal == CouponRefusal.None).Select(c => c.Kept.Coupon);

    /// <summary>What all comes to by one of the ways.</summary>
    /// <param name="to">Where its buyer is; null where nobody has said.</param>
    public BasketSum SumBy(DeliveryWay way, Country? to) => BasketSum.Of(Wanted, Shop.Currency, way, Shop.TaxFor(way, to), Good);

    /// <summary>What a coupon of it does, or why it does nothing.</summary>
    public string Says(BasketCouponSeen coupon) =>
        coupon.Refusal != CouponRefusal.None ? CouponWords.Refused(coupon.Kept.Coupon, coupon.Refusal, Sum.Goods)
        : coupon.Kept.Coupon.Kind == CouponKind.Postage ? (Parcel.Things == 0 ? "It takes postage off, and there is none." : CouponWords.TakesOffPostage(coupon.Kept.Coupon))
        : $"It takes {CouponWords.TakesOff(coupon.Kept.Coupon)} off.";

    /// <summary>The coupons that take something off an order.</summary>
    internal IReadOnlyList<KeptCoupon> UsedBy(PlacedOrder order) => [.. Coupons.Where(c => order.Off.Any(o => o.Code == c.Kept.Coupon.Code)).Select(c => c.Kept)];

    /// <summary>The order that it comes to.</summary>
    public PlacedOrder Order(Buyer buyer, string message, DeliveryWay way)
    {
        var sum = SumBy(way, Country.Find(buyer.Country));
        return new PlacedOrder(
            Shop.Kept(buyer, way), message.Trim(),
            [.. Bought.Select(l => new PlacedLine(l.Photo!.Photo.Id, l.Photo.Album, l.Photo.Photo.Name, l.Photo.Photo.Facts.FileName, l.Photo.Gallery, l.Option!, l.Middle, l.Count, l.Sum!.Value.Each) { IsWhole = l.IsWhole })],
            way, sum.Tax, sum.Goods, sum.Total, Shop.Postage.Home, Shop.Payment)
        { Off = sum.Off };
    }

    /// <summary>The same as long as everything costs what it costs, and can be had as it can.</summary>
    public string Mark => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(string.Join(
        '/', Bought.Select(l => string.Create(CultureInfo.InvariantCulture, $"{l.Id} {l.Option!.Id} {l.Bought} {l.Option.Tax} {l.Count} {l.Sum!.Value.Each}")).Concat(Coupons.Select(c => $"{c.Kept.Coupon} {c.Refusal}")).Append($"{Shop.Currency} {JsonSerializer.Serialize((object[])[TaxSaid.Of(Shop.Tax), PostageSaid.Of(Shop.Postage)])}")))))[..24];
}

/// <summary>What visitors can buy: only ever of photos that they see, and for what it costs now.</summary>
internal sealed class SiteShop(NpgsqlDataSource db, AccessStore access, SitePhotos visitors, ShopStore shops, EditionStore editions, CouponStore coupons, TimeProvider clock)
{
    /// <summary>Photos that many albums sell are looked for in so many of these, all together.</summary>
    const int MostPairs = 2000;

    sealed record Gallery(AlbumId Id, string Name, PriceList List, HashSet<Guid> Unsold);

    /// <summary>How the site sells; null while the shop is closed.</summary>
    public async Task<Shop?> OpenAsync(CancellationToken ct) => (await shops.ReadAsync(ct)).Shop is { IsOpen: true } shop ? shop : null;

    /// <summary>There are coupons: who has none is not asked for one where there are none.</summary>
    public Task<bool> TakesCouponsAsync(CancellationToken ct) => coupons.AnyAsync(ct);

    /// <summary>A photo of a sales gallery, as a visitor can buy it; null where they cannot.</summary>
    public async Task<SoldPhoto?> FindAsync(Shop shop, AlbumId album, PhotoId photo, Sight sight, CancellationToken ct) =>
        (await FindAsync(shop, [(album, photo)], sight, ct)).Values.FirstOrDefault();

    /// <summary>Those of some photos that a visitor can buy.</summary>
    public async Task<IReadOnlyDictionary<(AlbumId, PhotoId), SoldPhoto>> FindAsync(Shop shop, IReadOnlyCollection<(AlbumId Album, PhotoId Photo)> wanted, Sight sight, CancellationToken ct)
    {
        var galleries = await GalleriesAsync(shop, [.. wanted.Select(w => w.Album).Distinct()], sight, ct);
        var sold = wanted.Where(w => galleries.ContainsKey(w.Album)).Distinct().ToArray();
        if (sold.Length == 0)
        {
            return new Dictionary<(AlbumId, PhotoId), SoldPhoto>();
        }

        var left = await editions.SoldAsync([.. sold.Select(s => s.Photo).Distinct()], galleries.Values.SelectMany(g => g.List.Options), ct);
        await using var command = db.Command(
            $"""
            select o.gallery, p.unsold, {SitePhotos.Columns}
              from unnest(@albums, @photos) as o(gallery, photo)
              join album_photo as ap on ap.album = o.gallery and ap.photo = o.photo
              join photo as p on p.id = o.photo
            """,
            ("albums", sold.Select(s => s.Album.Value).ToArray()), ("photos", sold.Select(s => s.Photo.Value).ToArray()), ("shut", sight.Shut), ("marking", sight.Marking));
        var found = await command.AllAsync(r => Sold(r, galleries[new AlbumId(r.Get<Guid>("gallery"))], left, sight), ct);
        return found.OfType<SoldPhoto>().ToDictionary(p => (p.Album, p.Photo.Id));
    }

    /// <summary>Those of some photos that a visitor can buy something of, in the order given; each from one of the albums that sell it.</summary>
    public async Task<IReadOnlyList<SoldPhoto>> OfferedAsync(Shop shop, IReadOnlyList<PhotoId> photos, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select ap.album, ap.photo
              from unnest(@photos) as s(photo)
              join album_photo as ap on ap.photo = s.photo
              join album as a on a.id = ap.album
             where a.price_list is not null and a.binned is null
             order by ap.album, ap.photo
             limit @most
            """,
            ("photos", photos.Values()), ("most", MostPairs));
        var found = await FindAsync(shop, await command.AllAsync(r => (new AlbumId(r.Get<Guid>("album")), new PhotoId(r.Get<Guid>("photo"))), ct), sight, ct);
        var by = found.Values.Where(p => p.Offers.Count > 0).GroupBy(p => p.Photo.Id).ToDictionary(g => g.Key, g => g.MinBy(p => p.Album.Value)!);
        return [.. photos.Select(p => by.GetValueOrDefault(p)).OfType<SoldPhoto>()];
    }

    SoldPhoto? Sold(NpgsqlDataReader r, Gallery gallery, IReadOnlyDictionary<PhotoId, IReadOnlyDictionary<Guid, long>> sold, Sight sight)
    {
        if (visitors.Read(r, SitePhotos.OnPage(isShown: true), sight) is not { } photo)
        {
            return null;
        }

        var forSale = new ForSale(new PixelSize(photo.Width, photo.Height), photo.Focus, r.Get<Guid[]>("unsold"), gallery.Unsold, sold.GetValueOrDefault(photo.Id));
        return new SoldPhoto(photo, gallery.Id, gallery.Name, gallery.List, [.. Offering.Of(gallery.List, forSale).Where(o => o.IsOffered)]);
    }

    async Task<IReadOnlyDictionary<AlbumId, Gallery>> GalleriesAsync(Shop shop, IReadOnlyList<AlbumId> albums, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select t.id as gallery, coalesce(nullif(t.title, ''), t.working_name) as called, t.unsold,
                   {PriceStore.Columns("l")}, {AccessStore.ThingColumns("album")}
              from album as t
              join price_list as l on l.id = t.price_list and l.binned is null
             {AccessStore.ThingJoins("album")}
             where t.id = any(@albums)
            """,
            ("albums", albums.Values()), ("shut", sight.Shut));
        var found = await command.AllAsync(
            r => (Gallery: new Gallery(new AlbumId(r.Get<Guid>("gallery")), r.Get<string>("called"), PriceStore.Read(r), [.. r.Get<Guid[]>("unsold")]), Thing: (AlbumThing)AccessStore.ThingOf("album", r, sight.Gates)), ct);
        return found.Where(g => access.May(sight.Viewer, Right.Buy, new AlbumToBuyFrom(g.Thing, shop.IsOpen && g.Gallery.List.Currency == shop.Currency))).ToDictionary(g => g.Gallery.Id, g => g.Gallery);
    }

    /// <summary>A basket as it is now: what is not sold any more says so, and costs nothing.</summary>
    /// <param name="basket">Null for an empty one.</param>
    public async Task<BasketSeen> SeenAsync(Shop shop, Basket? basket, Sight sight, CancellationToken ct)
    {
        var (lines, typed) = (basket?.Lines ?? [], basket?.Coupons ?? []);
        var sold = await FindAsync(shop, [.. lines.Select(l => (l.Album, l.Photo))], sight, ct);
        var offered = lines.Select(l => (Line: l, Photo: sold.GetValueOrDefault((l.Album, l.Photo)), Offer: sold.GetValueOrDefault((l.Album, l.Photo))?.Offers.FirstOrDefault(o => o.Option.Id == l.Option))).ToArray();
        var tooMany = Editions.TooMany(offered.Where(o => o.Offer is not null).Select(o => new EditionWanted(o.Line.Photo, o.Line.Option, o.Line.Count, o.Offer!.Left)));
        var seen = offered.Select(o =>
        {
            var (l, photo, offer) = o;
            var middle = offer?.Option.IsPrinted == true ? l.Middle ?? photo!.Photo.Focus : null;
            var isWhole = l.IsWhole && offer?.CanBeWhole == true;
            return new BasketLineSeen(l.Id, l.Count, photo, offer?.Option, middle, isWhole, offer?.Option.FitOf(photo!.Size, middle, isWhole), tooMany.Contains((l.Photo, l.Option)) ? offer?.Left : null, null);
        }).ToArray();
        var wanted = seen.Where(l => l.IsBought).Select(l => new Wanted(l.Option!, l.Count)).ToArray();
        var tax = shop.TaxFor(null, null);
        var goods = BasketSum.Of(wanted, shop.Currency, null, tax).Goods;
        var refusals = CouponRule.Refusals([.. typed.Select(c => (c.Coupon, c.Used))], goods, clock.Today());
        var sum = BasketSum.Of(wanted, shop.Currency, null, tax, typed.Where((_, i) => refusals[i] == CouponRefusal.None).Select(c => c.Coupon));
        var next = 0;
        return new BasketSeen(shop, [.. seen.Select(l => l.IsBought ? l with { Sum = sum.Lines[next++] } : l)], [.. typed.Zip(refusals, (c, r) => new BasketCouponSeen(c, r))], sum, Parcel.Of(wanted));
    }
}
