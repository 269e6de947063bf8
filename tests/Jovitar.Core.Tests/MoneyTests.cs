using CsCheck;
using Jovitar.Core.Sales;

namespace Jovitar.Core.Tests;

/// <summary>Amounts of money: right to the minor unit, whatever is done with them.</summary>
public sealed class MoneyTests
{
    static readonly Currency Euro = Currency.Find("EUR")!;

    static readonly Gen<long> Amounts = Gen.Long[-Money.Most, Money.Most];

    [Theory]
    // ISO 4217, list one.
    [InlineData("EUR", 2)]
    [InlineData("GBP", 2)]
    [InlineData("JPY", 0)]
    [InlineData("ISK", 0)]
    [InlineData("KWD", 3)]
    [InlineData("TND", 3)]
    [InlineData("sek ", 2)]
    public void A_currency_is_counted_as_its_standard_says(string code, int digits) => Assert.Equal(digits, Currency.Find(code)!.Digits);

    [Fact]
    public void Every_currency_has_one_code_of_three_letters_and_what_is_none_is_not_found()
    {
        Assert.All(Currency.All, c => Assert.Matches("^[A-Z]{3}$", c.Code));
        Assert.Equal(Currency.All.Count, Currency.All.Select(c => c.Code).Distinct().Count());
        Assert.InRange(Currency.All.Count, 145, 170);
        Assert.Null(Currency.Find("XXY"));
        Assert.Null(Currency.Find(""));
    }

    [Theory]
    [InlineData("12.50", "EUR", 1250L)]
    [InlineData("12,5", "EUR", 1250L)]
    [InlineData(" 7 ", "EUR", 700L)]
    [InlineData("0", "EUR", 0L)]
    [InlineData("1200", "JPY", 1200L)]
    [InlineData("1.234", "KWD", 1234L)]
    [InlineData("10000000000", "EUR", 1_000_000_000_000L)]
    // More than the currency has, more than anything costs, thousands apart, a sign, words.
    [InlineData("12.505", "EUR", null)]
    [InlineData("1.5", "JPY", null)]
    [InlineData("10000000000.01", "EUR", null)]
    [InlineData("1,200.00", "EUR", null)]
    [InlineData("-3", "EUR", null)]
    [InlineData("3 EUR", "EUR", null)]
    [InlineData("", "EUR", null)]
    [InlineData("1e3", "EUR", null)]
    public void What_is_typed_is_an_amount_or_nothing(string typed, string currency, long? minor) => Assert.Equal(minor, Money.Read(typed, Currency.Find(currency)!)?.Minor);

    [Fact]
    public void An_amount_is_written_as_it_is_read() =>
        Gen.Select(Gen.Long[0, Money.Most], Gen.Int[0, Currency.All.Count - 1]).Sample((minor, n) =>
            Assert.Equal(new Money(minor, Currency.All[n]), Money.Read(new Money(minor, Currency.All[n]).ToString(), Currency.All[n])));

    [Theory]
    // Taxes of a hundred and of less: to the nearest cent, a half away from nothing.
    [InlineData(1000, 19, 100, 190)]
    [InlineData(50, 19, 100, 10)]
    [InlineData(250, 1, 100, 3)]
    [InlineData(-250, 1, 100, -3)]
    [InlineData(249, 1, 100, 2)]
    [InlineData(1, 1, 2, 1)]
    [InlineData(1190, 19, 119, 190)]
    [InlineData(999, 33, 100, 330)]
    public void A_part_is_rounded_to_the_nearest_minor_unit(long minor, long of, long whole, long part) => Assert.Equal(part, new Money(minor, Euro).Part(of, whole).Minor);

    [Fact]
    public void A_part_is_what_arithmetic_with_decimals_gives() =>
        Gen.Select(Amounts, Gen.Long[-10_000, 10_000], Gen.Long[1, 10_000]).Sample((minor, of, whole) =>
            Assert.Equal(Math.Round((decimal)minor * of / whole, MidpointRounding.AwayFromZero), new Money(minor, Euro).Part(of, whole).Minor));

    [Theory]
    [InlineData(100, "1 1 1", "34 33 33")]
    [InlineData(1000, "333 333 334", "333 333 334")]
    [InlineData(10, "0 0", "5 5")]
    [InlineData(5, "1 0 1", "3 0 2")]
    [InlineData(-7, "1 2", "-2 -5")]
    [InlineData(0, "4 5", "0 0")]
    public void Shares_come_to_the_whole(long minor, string weights, string parts) =>
        Assert.Equal(parts, string.Join(' ', new Money(minor, Euro).Over([.. weights.Split(' ').Select(long.Parse)]).Select(m => m.Minor)));

    [Fact]
    public void However_it_is_shared_nothing_is_lost_and_no_share_is_a_unit_off() =>
        Gen.Select(Amounts, Gen.Long[0, 1_000_000].Array[1, 40]).Sample((minor, weights) =>
        {
            var parts = new Money(minor, Euro).Over(weights);
            Assert.Equal(minor, parts.Sum(p => p.Minor));
            var all = weights.Sum();
            Assert.All(parts.Zip(weights), p => Assert.InRange(p.First.Minor - (all == 0 ? (decimal)minor / weights.Length : (decimal)minor * p.Second / all), -0.9999999m, 0.9999999m));
        });

    [Fact]
    public void What_is_of_two_currencies_or_too_much_is_not_counted_together()
    {
        var (one, other) = (new Money(100, Euro), new Money(100, Currency.Find("JPY")!));
        Assert.Throws<InvalidOperationException>(() => one + other);
        Assert.Throws<InvalidOperationException>(() => one < other);
        Assert.Throws<OverflowException>(() => new Money(long.MaxValue, Euro) + one);
        Assert.Throws<OverflowException>(() => new Money(long.MaxValue / 2, Euro).Times(3));
        Assert.Throws<ArgumentOutOfRangeException>(() => one.Part(1, 0));
        Assert.Throws<ArgumentOutOfRangeException>(() => one.Over([1, -1]));
        Assert.Equal(new Money(250, Euro), one + one.Times(2) - new Money(50, Euro));
        Assert.Empty(one.Over([]));
        Assert.True(one > Money.Nothing(Euro) && -one < one);
    }
}
