using Jovitar.Core;
using Jovitar.Core.People;
using Jovitar.Core.Sales.Coupons;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Sales.Coupons;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Sales.Payments;
using Jovitar.Server.Site.Buying;

namespace Jovitar.Server.Demo;

/// <summary>Something that was ordered.</summary>
/// <param name="Photo">The name of its file.</param>
/// <param name="Option">What it is called.</param>
internal sealed record DemoOrdered(string Album, string Photo, string Option, int Count = 1, bool IsWhole = false);

/// <summary>An order of the demo.</summary>
/// <param name="Steps">What has become of it.</param>
/// <param name="Refunded">How much of its money went back; empty for nothing.</param>
/// <param name="Coupon">That its buyer typed; empty for none.</param>
internal sealed record DemoOrder(Buyer Buyer, Delivery Way, IReadOnlyList<DemoOrdered> Lines, IReadOnlyList<OrderStep> Steps, string Message = "", string Note = "", string Refunded = "", string Coupon = "");

/// <summary>How the demo sells, and what was ordered.</summary>
internal sealed record DemoSold(ShopSaid Settings, IReadOnlyList<CouponSaid> Coupons, IReadOnlyList<DemoOrder> Orders);

/// <summary>Opens the demo's shop, and has some buy there as visitors do.</summary>
internal sealed class DemoShop(ShopStore shops, CouponStore coupons, SiteShop site, BasketStore baskets, OrderStore orders, RefundStore refunds, SightStore sights)
{
    public async Task MakeAsync(DemoSold sold, IReadOnlyDictionary<string, AlbumId> albums, IReadOnlyDictionary<string, PhotoId> photos, Actor owner, CancellationToken ct)
    {
        var (shop, wrong, _) = sold.Settings.Read();
        if (shop is null)
        {
            throw new InvalidDataException(wrong);
        }

        await shops.WriteAsync(owner, shop, (await shops.ReadAsync(ct)).Edited, ct);
        foreach (var said in sold.Coupons)
        {
            await coupons.MakeAsync(owner, said.Read() is { Coupon: { } coupon } ? coupon : throw new InvalidDataException(said.Read().Wrong), shop.Currency, ct);
        }

        foreach (var order in sold.Orders)
        {
            await PlaceAsync(shop, order, albums, photos, owner, ct);
        }
    }

    async Task PlaceAsync(Shop shop, DemoOrder said, IReadOnlyDictionary<string, AlbumId> albums, IReadOnlyDictionary<string, PhotoId> photos, Actor owner, CancellationToken ct)
    {
        var theirs = new BasketOf(null, LinkSecret.Hash(LinkSecret.New()));
        var sight = await sights.EveryoneAsync(ct);
        foreach (var line in said.Lines)
        {
            var (album, photo) = (albums[line.Album], photos[line.Photo]);
            var offer = (await site.FindAsync(shop, album, photo, sight, ct))?.Offers.FirstOrDefault(o => o.Option.Called == line.Option) ?? throw new InvalidDataException($"{line.Photo} is not sold as {line.Option}.");
            await baskets.AddAsync(theirs, new ToPutIn(album, photo, IsWhole: line.IsWhole), offer.Option.Id, line.Count, ct);
        }

        if (said.Coupon.Length > 0)
        {
            await baskets.AddCouponAsync(theirs, (await coupons.FindAsync(said.Coupon, ct))!.Id, ct);
        }

        var basket = (await baskets.FindAsync(theirs, ct))!;
        var seen = await site.SeenAsync(shop, basket, sight, ct);
        var way = shop.Postage.Ways(seen.Parcel, seen.Sum.Goods, Country.Find(said.Buyer.Country)).First(w => w.Delivery == said.Way);
        var secret = LinkSecret.New();
        var hash = LinkSecret.Hash(secret)!;
        var order = seen.Order(said.Buyer, said.Message, way);
        await orders.PlaceAsync(basket with { Coupons = seen.UsedBy(order) }, order, secret, hash, null, null, shop.Invoices.ForOrders, ct);
        var id = (await orders.FindAsync(hash, ct))!.Id;
        foreach (var step in said.Steps)
        {
            await orders.StepAsync(owner, id, step, (await orders.FindAsync(id, ct))!.Version, ct);
        }

        if (said.Refunded.Length > 0)
        {
            await refunds.RefundAsync(owner, id, said.Refunded, (await orders.FindAsync(id, ct))!.Version, ct);
        }

        if (said.Note.Length > 0)
        {
            await orders.NoteAsync(owner, id, said.Note, (await orders.FindAsync(id, ct))!.Version, ct);
        }
    }
}
