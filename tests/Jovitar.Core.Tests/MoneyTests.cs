using CsCheck;
using Jovitar.Core.Sales;

namespace Jovitar.Core.Tests;

/// <summary>Amounts of money and sizes of paper: as their standards have them, and as people type them.</summary>
public sealed class MoneyTests
{
    static readonly Currency Euro = Currency.Find("EUR")!;

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

    [Fact]
    public void What_is_of_two_currencies_or_too_much_is_not_counted_together()
    {
        Assert.Equal(new Money(-50, Euro), new Money(100, Euro) - new Money(150, Euro));
        Assert.Equal(new Money(300, Euro), new Money(100, Euro).Times(3));
        Assert.Throws<InvalidOperationException>(() => new Money(100, Euro) - new Money(100, Currency.Find("JPY")!));
        Assert.Throws<OverflowException>(() => new Money(long.MaxValue / 2, Euro).Times(3));
    }

    [Theory]
    // ISO 216: A4 is 210 by 297, B5 176 by 250; each size is the one before cut in two.
    [InlineData("A4", 210, 297, "A4")]
    [InlineData("a 3", 297, 420, "A3")]
    [InlineData("A0", 841, 1189, "A0")]
    [InlineData("A6", 105, 148, "A6")]
    [InlineData("A10", 26, 37, "A10")]
    [InlineData("B5", 176, 250, "B5")]
    [InlineData("B2", 500, 707, "B2")]
    // Inches of 25.4 millimetres: 4 by 6 are the 102 by 152 of ISO 1008, 8 by 10 its 203 by 254.
    [InlineData("4x6 in", 101.6, 152.4, "4 × 6 in")]
    [InlineData("8 x 10\"", 203.2, 254, "8 × 10 in")]
    [InlineData("8,5 by 11 inches", 215.9, 279.4, "8.5 × 11 in")]
    [InlineData("20 × 30 cm", 200, 300, "20 × 30 cm")]
    [InlineData("8.9*12.7CM", 89, 127, "8.9 × 12.7 cm")]
    [InlineData(" 200x300 mm ", 200, 300, "200 × 300 mm")]
    public void A_size_is_read_as_it_is_said(string typed, double width, double height, string said)
    {
        var size = PaperSize.Read(typed)!;
        Assert.Equal(((decimal)width, (decimal)height, said), (size.Width, size.Height, size.Said));
        Assert.Equal(size, PaperSize.Read(size.Said));
    }

    [Theory]
    // No unit, no second side, none at all, too small, too large, something else.
    [InlineData("20x30")]
    [InlineData("20 cm")]
    [InlineData("")]
    [InlineData("0 x 30 cm")]
    [InlineData("9 x 30 mm")]
    [InlineData("501 x 30 cm")]
    [InlineData("A11")]
    [InlineData("C5")]
    [InlineData("-20 x 30 cm")]
    [InlineData("20 x 30 px")]
    public void What_is_no_size_is_none(string typed) => Assert.Null(PaperSize.Read(typed));
}
