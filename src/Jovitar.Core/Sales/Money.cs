using System.Globalization;

namespace Jovitar.Core.Sales;

/// <summary>An amount of money: always whole minor units, so that every sum is right to the cent.</summary>
/// <param name="Minor">Minor units of the currency (ISO 4217): cents.</param>
public readonly record struct Money(long Minor, Currency Currency)
{
    /// <summary>More is nobody's price, and sums of as many as there may be still fit: minor units.</summary>
    public const long Most = 1_000_000_000_000;

    /// <summary>Two amounts together.</summary>
    /// <exception cref="InvalidOperationException">The two are of different currencies: there is no rate here.</exception>
    /// <exception cref="OverflowException">It does not fit.</exception>
    public static Money operator +(Money left, Money right) => left.Currency == right.Currency
        ? left with { Minor = checked(left.Minor + right.Minor) }
        : throw new InvalidOperationException($"{left.Currency} cannot be counted together with {right.Currency}.");

    /// <summary>How much less another amount is.</summary>
    /// <exception cref="InvalidOperationException">The two are of different currencies: there is no rate here.</exception>
    public static Money operator -(Money left, Money right) => left.Currency == right.Currency
        ? left with { Minor = checked(left.Minor - right.Minor) }
        : throw new InvalidOperationException($"{left.Currency} cannot be counted together with {right.Currency}.");

    /// <summary>So many times the amount.</summary>
    /// <exception cref="OverflowException">It does not fit.</exception>
    public Money Times(int count) => this with { Minor = checked(Minor * count) };

    /// <summary>
    /// Reads what somebody typed: digits, and behind a point or a comma as many as the currency has or fewer; null for anything else, or for
    /// more than there may be.
    /// </summary>
    /// <param name="most">Minor units: of a price <see cref="Most"/>, of sums what fits.</param>
    public static Money? Read(string typed, Currency currency, long most = Most)
    {
        var text = typed.Trim().Replace(',', '.');
        return text.Length <= 20 && decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var value)
            && value * Scale(currency.Digits) is var minor && minor == decimal.Truncate(minor) && minor <= most
                ? new Money((long)minor, currency)
                : null;
    }

    /// <summary>Why what somebody typed is none.</summary>
    public static string NotRead(string typed, Currency currency) => $"“{Text.Cut(typed, 30)}” is no amount in {currency}.";

    /// <summary>The amount in digits alone, with a point, as CSV and addresses have it: 12.50.</summary>
    public override string ToString() => Currency is null ? "" : (Minor / (decimal)Scale(Currency.Digits)).ToString($"F{Currency.Digits}", CultureInfo.InvariantCulture);

    /// <summary>The amount with its currency, as people read it.</summary>
    public string Said => $"{Currency} {this}";

    static long Scale(int digits) => digits switch { 0 => 1, 2 => 100, _ => 1000 };
}
