using Jovitar.Core.Sales.Forgetting;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Printing;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Sales.Ordering;

/// <summary>How the site sells: one currency, what sending costs, tax, and how buyers pay.</summary>
/// <param name="IsOpen">Visitors can buy.</param>
/// <param name="Payment">How buyers pay otherwise than online, as it is told them with their order; Markdown is not read. Empty where they only pay online.</param>
/// <param name="IsPaidOnline">Buyers pay at the payment service, while there is one.</param>
public sealed record Shop(bool IsOpen, Currency Currency, Postage Postage, Tax Tax, string Payment, bool IsPaidOnline = false)
{
    public const int LongestPayment = 1000;

    /// <summary>How files are made that orders are printed from.</summary>
    public PrintRule Prints { get; init; } = new();

    /// <summary>Whether and how invoices are written.</summary>
    public InvoiceRule Invoices { get; init; } = new();

    /// <summary>How long it is kept who bought.</summary>
    public ForgettingRule Forgetting { get; init; } = new();

    /// <summary>What is wrong with it; null for nothing. What is not open may be unfinished.</summary>
    public string? Fault() =>
        Postage.Fault() is { } postage ? postage
        : Tax.Fault() is { } tax ? tax
        : Text.Fault(Payment, LongestPayment) is { } words ? words
        : Prints.Fault() is { } prints ? prints
        : Invoices.Fault() is { } invoices ? invoices
        : Forgetting.Fault() is { } forgetting ? forgetting
        : !IsOpen ? null
        : Postage.Home.Length == 0 ? "Say from which country you send before the shop opens."
        : Payment.Trim().Length == 0 && !IsPaidOnline ? "Say how buyers pay before the shop opens."
        : Postage.Collected.Length == 0 && !Country.All.Any(Postage.SendsTo) ? "Say how orders come to their buyers before the shop opens."
        : null;

    /// <summary>The same as it is kept.</summary>
    public Shop AsKept() => this with { Postage = Postage.AsKept(), Tax = Tax.AsKept(Postage.AsKept().Home), Payment = Payment.Trim(), Invoices = Invoices.AsKept() };

    /// <summary>The countries to which something comes, the home country first; where orders can be collected, and of files alone, all: who comes or fetches them may live anywhere.</summary>
    public IReadOnlyList<Country> Countries(Parcel parcel) =>
        [.. Country.All.Where(c => parcel.Things == 0 || Postage.Collected.Length > 0 || Postage.SendsTo(c)).OrderByDescending(c => c.Code == Postage.Home)];

    /// <summary>Buyers are asked where they are: something is sent to them, or taxed by it.</summary>
    public bool AsksCountry(Parcel parcel) => parcel.Things > 0 || TaxesByCountry;

    bool TaxesByCountry => Tax.Kind != TaxKind.None && Tax.GoesByCountry;

    /// <summary>A buyer as an order keeps them: with their address where it goes there, and with their country where files are taxed by it.</summary>
    public Buyer Kept(Buyer buyer, DeliveryWay way) => buyer.AsKept(way.IsSent, IsPlaced(way));

    /// <summary>What is wrong with a buyer, by field; empty for nothing.</summary>
    /// <param name="way">Null where none is chosen.</param>
    public IReadOnlyDictionary<string, string> Faults(Buyer buyer, DeliveryWay? way) => buyer.Faults(way?.IsSent == true, way is not null && IsPlaced(way));

    bool IsPlaced(DeliveryWay way) => way.Delivery == Delivery.Files && TaxesByCountry;

    /// <summary>What goes with an order.</summary>
    /// <param name="way">How it comes; null while that is open.</param>
    /// <param name="buyer">Where its buyer is; null where nobody has said.</param>
    public TaxTerms TaxFor(DeliveryWay? way, Country? buyer) => Tax.Terms(Postage.Home, way?.Delivery == Delivery.Collect ? null : buyer);
}
