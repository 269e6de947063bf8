using System.Globalization;

namespace Jovitar.Core.Sales.Coupons;

/// <summary>A coupon as it is written: amounts are digits with a point or a comma, empty for none; days as ISO 8601 has them, empty for none.</summary>
/// <param name="Off">How many per cent or how much, as the kind says.</param>
/// <param name="Currency">Of its amounts: its code in ISO 4217.</param>
/// <param name="From">Goods of this value and more.</param>
/// <param name="Uses">Digits; empty for as many as come.</param>
/// <inheritdoc cref="Coupon"/>
public sealed record CouponSaid(
    string Code, CouponKind Kind, string Off, string Currency, bool ByExpress, bool Abroad, string From, string Begins, string Ends, string Uses, bool IsOnceEach, bool GoesWithOthers, bool IsOff, string Note)
{
    public static CouponSaid Of(Coupon coupon, Currency currency) => new(
        coupon.Code, coupon.Kind,
        coupon.Kind switch { CouponKind.Percent => Percents.Digits(coupon.Percent), CouponKind.Amount => coupon.Amount?.ToString() ?? "", _ => "" },
        (coupon.Amount ?? coupon.From)?.Currency.Code ?? currency.Code, coupon.ByExpress, coupon.Abroad, coupon.From?.ToString() ?? "", Day(coupon.Begins), Day(coupon.Ends),
        coupon.Uses?.ToString(CultureInfo.InvariantCulture) ?? "", coupon.IsOnceEach, coupon.GoesWithOthers, coupon.IsOff, coupon.Note);

    static string Day(DateOnly? day) => day?.ToString("O", CultureInfo.InvariantCulture) ?? "";

    /// <summary>The coupon it says, or why it says none.</summary>
    /// <returns>Beside the sentence, the field that it is about; null where it is none alone.</returns>
    public (Coupon? Coupon, string? Wrong, string? Field) Read()
    {
        if (Sales.Currency.Find(Currency) is not { } currency)
        {
            return (null, "There is no such currency.", "currency");
        }

        var (amount, percent) = (Money.Read(Off, currency), Percents.Read(Off));
        if (Kind == CouponKind.Amount && amount is null)
        {
            return (null, Off.Trim().Length == 0 ? "Say how much is taken off." : Money.NotRead(Off, currency), "off");
        }

        if (Kind == CouponKind.Percent && percent is null)
        {
            return (null, "Say how many per cent are taken off.", "off");
        }

        var from = From.Trim().Length == 0 ? null : Money.Read(From, currency);
        if (from is null && From.Trim().Length > 0)
        {
            return (null, Money.NotRead(From, currency), "from");
        }

        var (begins, ends) = (Days.Read(Begins), Days.Read(Ends));
        if ((begins is null && Begins.Trim().Length > 0) || (ends is null && Ends.Trim().Length > 0))
        {
            return (null, "There is no such day.", begins is null && Begins.Trim().Length > 0 ? "begins" : "ends");
        }

        var uses = 0;
        if (Uses.Trim().Length > 0 && !int.TryParse(Uses.Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out uses))
        {
            return (null, $"Say for how many orders, 1 to {Coupon.MostUses:N0}.", "uses");
        }

        var coupon = new Coupon(Code, Kind)
        {
            Percent = percent ?? 0,
            Amount = amount,
            ByExpress = ByExpress,
            Abroad = Abroad,
            From = from,
            Begins = begins,
            Ends = ends,
            Uses = Uses.Trim().Length == 0 ? null : uses,
            IsOnceEach = IsOnceEach,
            GoesWithOthers = GoesWithOthers,
            IsOff = IsOff,
            Note = Note,
        }.AsKept();
        return coupon.Fault() is { } fault ? (null, fault, null) : (coupon, null, null);
    }
}
