using Jovitar.Core.Corrections;
using Jovitar.Core.Sales.Coupons;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Sales.Ordering;

/// <summary>A line of an order, as it is written down.</summary>
/// <inheritdoc cref="PlacedLine"/>
public sealed record PlacedLineSaid(Guid Photo, Guid Album, string Called, string FileName, string Gallery, OptionSaid Option, double? MiddleX, double? MiddleY, int Count, string Each, bool IsWhole = false);

/// <summary>What a coupon took off, as it is written down.</summary>
public sealed record CouponOffSaid(string Code, string Amount);

/// <summary>The tax at one rate, as it is written down.</summary>
/// <inheritdoc cref="TaxPart"/>
public sealed record TaxPartSaid(string Percent, string Gross, string Amount)
{
    public static TaxPartSaid Of(TaxPart part) => new(Percents.Digits(part.Percent), part.Gross.ToString(), part.Amount.ToString());

    /// <exception cref="InvalidDataException">It was written otherwise.</exception>
    internal TaxPart Read(Func<string, Money> amount) => new(Percents.Read(Percent) ?? throw new InvalidDataException($"“{Percent}” is no rate."), amount(Gross), amount(Amount));
}

/// <summary>An order as it is written down: whole, and readable when all else is gone.</summary>
/// <param name="Tax">How it goes with the sum, at the highest of the rates.</param>
/// <param name="Taxed">All of it.</param>
/// <param name="Off">Null for nothing.</param>
/// <param name="Taxes">Rate by rate; null where there is only the one.</param>
/// <inheritdoc cref="PlacedOrder"/>
public sealed record PlacedSaid(
    Buyer Buyer, string Message, string Currency, IReadOnlyList<PlacedLineSaid> Lines, Delivery Delivery, string Postage, string Way, TaxSaid Tax, string Goods, string Taxed, string Total, string Home, string Payment,
    IReadOnlyList<CouponOffSaid>? Off = null, IReadOnlyList<TaxPartSaid>? Taxes = null)
{
    public static PlacedSaid Of(PlacedOrder order) => new(
        order.Buyer, order.Message, order.Total.Currency.Code,
        [
            .. order.Lines.Select(l => new PlacedLineSaid(
                l.Photo.Value, l.Album.Value, l.Called, l.FileName, l.Gallery, OptionSaid.Of(l.Option), l.Middle?.X, l.Middle?.Y, l.Count, l.Each.ToString(), l.IsWhole)),
        ],
        order.Way.Delivery, order.Way.Costs.ToString(), order.Way.Sentence, new TaxSaid(order.Tax.Kind, order.Tax.Parts is [var highest, ..] ? Percents.Digits(highest.Percent) : "", order.Tax.Name),
        order.Goods.ToString(), order.Taxed.ToString(), order.Total.ToString(), order.Home, order.Payment,
        order.Off.Count == 0 ? null : [.. order.Off.Select(o => new CouponOffSaid(o.Code, o.Amount.ToString()))],
        order.Tax.Parts.Count < 2 ? null : [.. order.Tax.Parts.Select(TaxPartSaid.Of)]);

    /// <exception cref="InvalidDataException">It was written otherwise.</exception>
    public PlacedOrder Read()
    {
        var currency = Sales.Currency.Find(Currency) ?? throw new InvalidDataException($"An order is in a currency that is none: {Currency}.");
        Money Amount(string text) => Money.Read(text, currency, long.MaxValue) ?? throw new InvalidDataException($"“{text}” is no amount.");
        var taxes = Taxes ?? (Tax.Kind == TaxKind.None ? [] : [new TaxPartSaid(Tax.Percent, Total, Taxed)]);
        return new PlacedOrder(
            Buyer, Message,
            [
                .. Lines.Select(l => new PlacedLine(
                    new PhotoId(l.Photo), new AlbumId(l.Album), l.Called, l.FileName, l.Gallery, l.Option.Read(currency).Option ?? throw new InvalidDataException($"“{l.Option.Name}” is no option."),
                    l.MiddleX is { } x && l.MiddleY is { } y ? new Spot(x, y) : null, l.Count, Amount(l.Each)) { IsWhole = l.IsWhole }),
            ],
            new DeliveryWay(Delivery, Amount(Postage), Way, Delivery == Delivery.Post && Buyer.Country != Home), new TaxSum(Tax.Kind, Tax.Name, [.. taxes.Select(t => t.Read(Amount))]), Amount(Goods), Amount(Total), Home, Payment)
        {
            Off = [.. (Off ?? []).Select(o => new CouponOff(o.Code, Amount(o.Amount)))],
        };
    }
}
