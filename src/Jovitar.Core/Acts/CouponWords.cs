using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Coupons;

namespace Jovitar.Core.Acts;

/// <summary>Sentences about coupons.</summary>
public static class CouponWords
{
    public static string Made(string code) => $"Made the coupon {code}.";

    public static string LetGo(string code) => $"Let the coupon {code} go.";

    /// <summary>What was changed of one.</summary>
    public static string Changed(Coupon before, Coupon after) =>
        before.Code != after.Code ? $"The coupon {before.Code} is {after.Code} now."
        : before.IsOff != after.IsOff ? (after.IsOff ? $"Nobody can use the coupon {after.Code} any more." : $"The coupon {after.Code} can be used again.")
        : TakesOff(before) != TakesOff(after) ? $"The coupon {after.Code} takes {TakesOff(after)} off instead of {TakesOff(before)}."
        : $"Changed the coupon {after.Code}.";

    /// <summary>What one takes off, in words.</summary>
    public static string TakesOff(Coupon coupon) => coupon.Kind switch
    {
        CouponKind.Percent => $"{Percents.Digits(coupon.Percent)} %",
        CouponKind.Amount => coupon.Amount?.Said ?? "",
        _ => "postage",
    };

    /// <summary>Which postage one takes off, for its buyer.</summary>
    public static string TakesOffPostage(Coupon coupon) => (coupon.ByExpress, coupon.Abroad) switch
    {
        (true, true) => "It takes the postage off.",
        (true, false) => "It takes the postage within the country off.",
        (false, true) => "It takes the postage off, but not of express post.",
        _ => "It takes the postage within the country off, but not of express post.",
    };

    /// <summary>Why one takes nothing off, for its buyer; empty where it does.</summary>
    /// <param name="goods">What they cost before anything is taken off.</param>
    public static string Refused(Coupon coupon, CouponRefusal refusal, Money goods) => refusal switch
    {
        CouponRefusal.None => "",
        CouponRefusal.TooEarly => $"It is good from {Days.Said(coupon.Begins!.Value)}.",
        CouponRefusal.TooLate => $"It was good until {Days.Said(coupon.Ends!.Value)}.",
        CouponRefusal.UsedUp => "It has been used as often as it may be.",
        CouponRefusal.TooLittle => $"It is good for orders of {coupon.From!.Value.Said} and more: {(coupon.From.Value - goods).Said} is missing.",
        CouponRefusal.NotTogether => "It goes with no other coupon.",
        _ => "It is not good any more.",
    };

    /// <summary>Why nobody can use one now, for those who sell; empty where they can.</summary>
    public static string Standing(Coupon coupon, CouponRefusal standing) => standing switch
    {
        CouponRefusal.Off => coupon.IsOff ? "Nobody can use it" : "Of another currency",
        CouponRefusal.TooEarly => "Not good yet",
        CouponRefusal.TooLate => "Not good any more",
        CouponRefusal.UsedUp => "Used up",
        _ => "",
    };
}
