using Jovitar.Core.Sales;

namespace Jovitar.Server.Sales.Payments;

/// <summary>
/// Amounts as the card service counts them. It counts as ISO 4217 does, with a few exceptions, which its published description of currencies
/// lists: the króna and the Ugandan shilling in hundredths, the ariary whole, and what has three digits only in whole hundredths.
/// </summary>
internal static class CardUnits
{
    static bool HasHundredths(Currency currency) => currency.Code is "ISK" or "UGX";

    static bool IsWhole(Currency currency) => currency.Code == "MGA";

    /// <exception cref="PaymentsRefuseException">It cannot be paid by card to its last digit.</exception>
    public static long Of(Money money) =>
        HasHundredths(money.Currency) ? checked(money.Minor * 100)
        : IsWhole(money.Currency) ? (money.Minor % 100 == 0 ? money.Minor / 100 : throw Refused(money))
        : money.Currency.Digits == 3 && money.Minor % 10 != 0 ? throw Refused(money)
        : money.Minor;

    /// <summary>An amount that the service told; null for none.</summary>
    /// <param name="currency">Its code, in whatever case.</param>
    public static Money? Read(long? units, string? currency) =>
        units is not { } told || currency is null || Currency.Find(currency) is not { } found ? null
        : HasHundredths(found) ? (told % 100 == 0 ? new Money(told / 100, found) : null)
        : new Money(IsWhole(found) ? told * 100 : told, found);

    static PaymentsRefuseException Refused(Money money) => new($"{money.Said} cannot be paid by card to its last digit.");
}
