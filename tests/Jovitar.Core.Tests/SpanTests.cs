using Jovitar.Core.Narrowings;

namespace Jovitar.Core.Tests;

/// <summary>Times, lengths and shapes as choices of a narrowing, by worked examples.</summary>
public sealed class SpanTests
{
    [Theory]
    [InlineData("2024", "2024-01-01", "2024-12-31")]
    [InlineData("2024-02", "2024-02-01", "2024-02-29")]
    [InlineData("2024-02-29", "2024-02-29", "2024-02-29")]
    [InlineData("2023-11--2024-02", "2023-11-01", "2024-02-29")]
    [InlineData("2023--2024-01-05", "2023-01-01", "2024-01-05")]
    public void Times_are_read(string text, string from, string to) =>
        Assert.Equal(new TakenSpan(DateOnly.Parse(from, System.Globalization.CultureInfo.InvariantCulture), DateOnly.Parse(to, System.Globalization.CultureInfo.InvariantCulture)), TakenSpan.Read(text));

    [Theory]
    [InlineData("")]
    [InlineData("24")]
    [InlineData("2023-02-29")]
    [InlineData("2024-00")]
    [InlineData("2024--2023")]
    [InlineData("2024--")]
    [InlineData("--2024")]
    [InlineData("none")]
    public void What_is_no_time_is_none(string text) => Assert.Null(TakenSpan.Read(text));

    [Fact]
    public void Bars_are_of_days_then_months_then_years_as_the_photos_span_more()
    {
        static string[] Bars(params string[] days) => [.. TakenSpan.Bars([.. days.Select(d => (d.Length == 0 ? default : DateOnly.Parse(d, System.Globalization.CultureInfo.InvariantCulture), 2))]).Select(b => $"{b.Choice}:{b.Count}")];
        Assert.Equal(["2026-06-13:2", "2026-06-14:2"], Bars("2026-06-14", "2026-06-13"));
        Assert.Equal(["none:2", "2026-01:2", "2026-06:4"], Bars("2026-06-14", "2026-01-02", "2026-06-13", ""));
        Assert.Equal(["1998:2", "2026:4"], Bars("2026-06-14", "1998-01-02", "2026-01-13"));
        Assert.Equal(["none:2"], Bars(""));
        Assert.Empty(Bars());
    }

    [Theory]
    [InlineData("0-1599", 1599, true)]
    [InlineData("0-1599", 1600, false)]
    [InlineData("6000-", 6000, true)]
    [InlineData("6000-", 5999, false)]
    [InlineData("2400-3999", 2400, true)]
    public void Lengths_are_read(string text, int pixels, bool holds) => Assert.Equal(holds, PixelSpan.Read(text)!.Value.Holds(pixels));

    [Fact]
    public void Every_length_is_in_just_one_of_the_usual_spans_and_they_are_read_back()
    {
        for (var pixels = 0; pixels < 9000; pixels += 7)
        {
            Assert.Single(PixelSpan.Usual, s => s.Holds(pixels));
        }

        Assert.All(PixelSpan.Usual, s => Assert.Equal(s, PixelSpan.Read(s.ToString())));
        Assert.All((string[])["", "-", "x-", "5", "-5", "1-x"], text => Assert.Null(PixelSpan.Read(text)));
    }

    [Theory]
    [InlineData(3, 2, "landscape")]
    [InlineData(2, 3, "portrait")]
    [InlineData(1000, 1000, "square")]
    [InlineData(1020, 1000, "square")]
    [InlineData(1000, 1040, "portrait")]
    [InlineData(2, 1, "panorama")]
    [InlineData(1, 3, "panorama")]
    public void A_shape_is_told_from_its_sides(int width, int height, string shape) => Assert.Equal(shape, PictureShape.Of(width, height));
}
