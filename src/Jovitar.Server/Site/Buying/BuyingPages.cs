using Jovitar.Core;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;

namespace Jovitar.Server.Site.Buying;

/// <summary>What somebody finds who looks at what can be bought of a photo.</summary>
/// <param name="Back">Where they came from, from the site's root.</param>
/// <param name="Chosen">The option that is chosen at first; null for the first.</param>
/// <param name="IsWhole">White is to be left where it can be.</param>
/// <param name="Fault">Why nothing was put in the basket; null for nothing.</param>
public sealed record ToBuy(Shop Shop, SoldPhoto Sold, string Back, Guid? Chosen = null, bool IsWhole = false, string? Fault = null);

/// <summary>What somebody finds who buys several photos at once.</summary>
/// <param name="Address">What names all of them, also those that are not sold.</param>
/// <param name="Sold">Of which something is offered.</param>
/// <param name="Options">What is offered of at least one of them, with of how many.</param>
/// <param name="Taken">Those that are chosen.</param>
/// <param name="Chosen">The option that is chosen at first; null for the first.</param>
/// <param name="IsWhole">White is to be left where it can be.</param>
/// <param name="Fault">Why nothing was put in the basket; null for nothing.</param>
public sealed record ToBuySeveral(Shop Shop, string Address, IReadOnlyList<SoldPhoto> Sold, IReadOnlyList<OfferedOfSeveral> Options, IReadOnlySet<PhotoId> Taken, Guid? Chosen = null, bool IsWhole = false, string? Fault = null);

/// <summary>An option that is offered of some of several photos.</summary>
public sealed record OfferedOfSeveral(SaleOption Option, int Photos);

/// <summary>A coupon that somebody typed and that is not taken.</summary>
/// <param name="Fault">Why not.</param>
public sealed record TypedCoupon(string Code, string Fault);

/// <summary>What somebody finds who looks into their basket.</summary>
/// <param name="Basket">Null while the shop is closed.</param>
/// <param name="More">Where they find more of what they bought last; null for nowhere.</param>
/// <param name="TakesCoupons">There are coupons to be typed.</param>
/// <param name="Typed">The one that they typed and that is not taken; null for none.</param>
public sealed record ToBasket(BasketSeen? Basket, string? More = null, bool TakesCoupons = false, TypedCoupon? Typed = null);

/// <summary>What somebody finds who places an order.</summary>
/// <param name="Buyer">What they typed.</param>
/// <param name="Ways">How it can come to them.</param>
/// <param name="Chosen">By which of these it does; null where there is none.</param>
/// <param name="Secret">Of the link that opens the order: whoever sends the form twice places one.</param>
/// <param name="Online">They can pay online.</param>
/// <param name="PaysLater">They chose to pay otherwise.</param>
/// <param name="Faults">What was wrong with it, by field.</param>
/// <param name="IsChanged">Something costs something else than they saw: they look again.</param>
/// <param name="IsElsewhere">They chose another country than they saw it for: they look again.</param>
public sealed record ToCheckOut(
    BasketSeen Basket, Buyer Buyer, IReadOnlyList<Country> Countries, IReadOnlyList<DeliveryWay> Ways, Delivery? Chosen, string Message, string Secret, bool Online, bool PaysLater, IReadOnlyDictionary<string, string> Faults,
    bool IsChanged = false, bool IsElsewhere = false)
{
    /// <summary>Something is sent to them.</summary>
    public bool IsSent => Basket.Parcel.Things > 0;

    /// <summary>They are asked where they are.</summary>
    public bool AsksCountry => Basket.Shop.AsksCountry(Basket.Parcel) && Countries.Count > 0;

    /// <summary>Why it is not sent to them; null where it is, and where nothing is sent to anybody.</summary>
    public string? NotSent => Basket.Shop.Postage.NotSent(Ways, Basket.Parcel, Country.Find(Buyer.Country));

    /// <summary>Why there is no way by which it comes to them.</summary>
    public string NoWay => Basket.Shop.Postage.NoWay(Basket.Parcel, Country.Find(Buyer.Country));

    /// <summary>They are asked how they pay: there is more than one way to.</summary>
    public bool AsksHow => Online && Basket.Shop.Payment.Length > 0;
}

/// <summary>A line of an order, as its buyer finds it.</summary>
/// <param name="Photo">Null where visitors do not see it any more.</param>
/// <param name="File">Where its file is fetched; null where it cannot be (yet).</param>
/// <param name="Says">What is to be said of the file; empty for nothing.</param>
public sealed record OrderLineSeen(PlacedLine Line, SitePhoto? Photo, PrintFit? Fit, string? File, string Says);

/// <summary>An invoice or a credit note, as its buyer finds it.</summary>
/// <param name="Title">What it is, and its number.</param>
/// <param name="Path">Where it is opened.</param>
public sealed record OrderPaper(string Title, string Path);

/// <summary>What somebody finds who opens an order of theirs.</summary>
/// <param name="Pay">Where it is paid online; null where it is not.</param>
/// <param name="IsBeingPaid">Its buyer has come back from paying, and the payment service has not said so yet.</param>
/// <param name="Fault">Why it could not be paid just now; null for no such thing.</param>
/// <param name="Returned">What went back; null for nothing.</param>
/// <param name="Papers">Its invoices and credit notes.</param>
/// <param name="IsNew">It was placed a moment ago.</param>
/// <param name="HasMail">A letter with its link was written.</param>
public sealed record ToSeeOrder(
    long Number, DateTimeOffset At, PlacedOrder Placed, OrderStanding Standing, IReadOnlyList<OrderLineSeen> Lines, string? Pay, bool IsBeingPaid, string? Fault, Money? Returned, IReadOnlyList<OrderPaper> Papers, bool IsNew, bool HasMail);
