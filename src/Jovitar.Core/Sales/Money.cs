using System.Globalization;
using System.Numerics;

namespace Jovitar.Core.Sales;

/// <summary>An amount of money: always whole minor units, so that every sum is right to the cent.</summary>
/// <param name="Minor">Minor units of the currency (ISO 4217): cents.</param>
public readonly record struct Money(long Minor, Currency Currency) :
    IAdditionOperators<Money, Money, Money>, ISubtractionOperators<Money, Money, Money>, IUnaryNegationOperators<Money, Money>, IComparable<Money>
{
    /// <summary>More is nobody's price, and sums of as many as there may be still fit: minor units.</summary>
    public const long Most = 1_000_000_000_000;

    public static Money Nothing(Currency currency) => new(0, currency);

    /// <exception cref="InvalidOperationException">The two are of different currencies: there is no rate here.</exception>
    /// <exception cref="OverflowException">The sum does not fit.</exception>
    public static Money operator +(Money left, Money right) => new(checked(left.Minor + right.Same(left).Minor), left.Currency);

    /// <inheritdoc cref="op_Addition"/>
    public static Money operator -(Money left, Money right) => new(checked(left.Minor - right.Same(left).Minor), left.Currency);

    public static Money operator -(Money value) => value with { Minor = checked(-value.Minor) };

    public static bool operator <(Money left, Money right) => left.CompareTo(right) < 0;

    public static bool operator >(Money left, Money right) => left.CompareTo(right) > 0;

    public static bool operator <=(Money left, Money right) => left.CompareTo(right) <= 0;

    public static bool operator >=(Money left, Money right) => left.CompareTo(right) >= 0;

    /// <inheritdoc cref="op_Addition"/>
    public int CompareTo(Money other) => Minor.CompareTo(other.Same(this).Minor);

    /// <summary>So many times the amount.</summary>
    /// <exception cref="OverflowException">It does not fit.</exception>
    public Money Times(int count) => this with { Minor = checked(Minor * count) };

    /// <summary>A part of the amount, such as 19 of 100: to the nearest minor unit, a half away from nothing (common practice of invoices).</summary>
    /// <exception cref="ArgumentOutOfRangeException">The whole is nothing, or less.</exception>
    public Money Part(long of, long whole)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(whole);
        var product = (Int128)Minor * of;
        var twice = (Int128.Abs(product) * 2) + whole;
        return this with { Minor = checked((long)(twice / ((Int128)whole * 2) * Int128.Sign(product))) };
    }

    /// <summary>
    /// The amount over several shares, by their weights: the parts come to the whole again, and none is further than one minor unit from its exact
    /// share. What rounding leaves goes to those that lost most by it, of such to the first (largest remainder).
    /// </summary>
    /// <param name="weights">None below 0; where all are 0, the shares are alike.</param>
    public IReadOnlyList<Money> Over(IReadOnlyList<long> weights)
    {
        foreach (var weight in weights)
        {
            ArgumentOutOfRangeException.ThrowIfNegative(weight, nameof(weights));
        }

        if (weights.Count == 0)
        {
            return [];
        }

        var currency = Currency;
        Int128 all = weights.Aggregate(Int128.Zero, (sum, w) => sum + w);
        Int128[] parts = all == 0 ? [.. weights.Select(_ => Int128.One)] : [.. weights.Select(w => (Int128)w)];
        var whole = all == 0 ? weights.Count : all;
        var (amount, sign) = (Int128.Abs(Minor), Int128.Sign(Minor));
        long[] down = [.. parts.Select(p => (long)(amount * p / whole))];
        var left = (int)(amount - down.Aggregate(Int128.Zero, (sum, d) => sum + d));
        foreach (var i in Enumerable.Range(0, parts.Length).OrderByDescending(i => amount * parts[i] % whole).ThenBy(i => i).Take(left))
        {
            down[i]++;
        }

        return [.. down.Select(d => new Money(d * sign, currency))];
    }

    /// <summary>Reads what somebody typed: digits, and behind a point or a comma as many as the currency has or fewer; null for anything else, or for more than <see cref="Most"/>.</summary>
    public static Money? Read(string typed, Currency currency)
    {
        var text = typed.Trim().Replace(',', '.');
        return decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var value) && text.Length <= 20
            && value * Scale(currency.Digits) is var minor && minor == decimal.Truncate(minor) && minor <= Most
                ? new Money((long)minor, currency)
                : null;
    }

    /// <summary>The amount in digits alone, with a point, as CSV and addresses have it: 12.50.</summary>
    public override string ToString() => Currency is null ? "" : (Minor / (decimal)Scale(Currency.Digits)).ToString($"F{Currency.Digits}", CultureInfo.InvariantCulture);

    static long Scale(int digits) => (long)Math.Pow(10, digits);

    Money Same(Money other) => Currency == other.Currency ? this : throw new InvalidOperationException($"{Currency} cannot be counted together with {other.Currency}.");
}
