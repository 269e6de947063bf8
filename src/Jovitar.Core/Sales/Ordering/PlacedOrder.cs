using Jovitar.Core.Corrections;
using Jovitar.Core.Sales.Coupons;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Sales.Ordering;

/// <summary>A line of an order, as it was when that was placed: whatever becomes of the photo, the album or the price list, this stays.</summary>
/// <param name="Called">What the photo is called.</param>
/// <param name="FileName">Of its original.</param>
/// <param name="Middle">What stays in the middle of a print as its buyer moved it; null for as it stands.</param>
/// <param name="Each">What one of it was sold for.</param>
public sealed record PlacedLine(PhotoId Photo, AlbumId Album, string Called, string FileName, string Gallery, SaleOption Option, Spot? Middle, int Count, Money Each)
{
    /// <summary>Nothing of the photo is cut off, and white is left on the print instead.</summary>
    public bool IsWhole { get; init; }

    /// <summary>What of the photo was bought.</summary>
    public string Bought => BoughtAs(Option, IsWhole);

    /// <summary>What an option is called, as it is bought.</summary>
    public static string BoughtAs(SaleOption option, bool isWhole) => isWhole ? $"{option.Called}, with a white border" : option.Called;

    public Money Amount => Each.Times(Count);

    /// <summary>What all of it costs its seller; null where nobody had said.</summary>
    public Money? Costs => Option.Cost?.Times(Count);

    /// <summary>How the photo comes onto the print, as its buyer moved it; null where nothing is printed.</summary>
    /// <param name="photo">As it is corrected.</param>
    /// <param name="focus">The photo's own, where its buyer has moved nothing.</param>
    public PrintFit? FitOn(PixelSize photo, Spot? focus) => Option.FitOf(photo, Middle ?? focus, IsWhole);
}

/// <summary>An order as it was placed.</summary>
/// <param name="Tax">As it was reckoned then.</param>
/// <param name="Payment">What its buyer was told of how to pay.</param>
public sealed record PlacedOrder(Buyer Buyer, string Message, IReadOnlyList<PlacedLine> Lines, DeliveryWay Way, TaxSum Tax, Money Goods, Money Total, string Home, string Payment)
{
    public const int LongestMessage = 1000;

    /// <summary>The tax, within the total.</summary>
    public Money Taxed => Total with { Minor = Tax.Minor };

    /// <summary>What coupons took off goods and postage.</summary>
    public IReadOnlyList<CouponOff> Off { get; init; } = [];

    /// <summary>All of that together.</summary>
    public Money TakenOff => Off.Aggregate(Total with { Minor = 0 }, (sum, off) => sum + off.Amount);

    /// <summary>The same, of nobody knows whom.</summary>
    public PlacedOrder Forgotten() => this with { Buyer = Buyer.Forgotten(), Message = "" };

    /// <summary>What is wrong with what a buyer says with an order; null for nothing.</summary>
    public static string? MessageFault(string message) => Text.Fault(message, LongestMessage);
}
