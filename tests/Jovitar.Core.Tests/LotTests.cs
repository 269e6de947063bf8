using CsCheck;
using Jovitar.Core.Pages;

namespace Jovitar.Core.Tests;

/// <summary>Orders drawn by lot.</summary>
public sealed class LotTests
{
    static readonly Gen<(int Count, int Lot)> Draws = Gen.Select(Gen.Int[0, 300], Gen.Int[0, Lot.Most]);

    [Fact]
    public void Whatever_is_drawn_is_there_once_and_a_handful_is_where_the_whole_begins() =>
        Gen.Select(Draws, Gen.Int[0, 400]).Sample((draw, most) =>
        {
            var whole = Lot.Draw(draw.Count, null, draw.Lot);
            Assert.Equal(Enumerable.Range(0, draw.Count), whole.Order());
            Assert.Equal(whole.Take(most), Lot.Draw(draw.Count, most, draw.Lot));
        });

    [Fact]
    public void Blocks_of_one_page_are_drawn_apart() =>
        Gen.Int[1, Lot.Most].Sample(lot => Assert.True(Enumerable.Range(1, 20).Select(block => string.Join(' ', Lot.Draw(30, null, lot, block))).Distinct().Count() == 20));

    [Fact]
    public void Without_a_lot_all_stays_as_it_is() => Draws.Sample(draw => Assert.Equal(Enumerable.Range(0, draw.Count), Lot.Draw(draw.Count, null, 0)));

    /// <summary>Pearson's test over all lots: with 119 degrees of freedom, 173 is exceeded once in a thousand.</summary>
    [Fact]
    public void Every_order_of_five_is_drawn_about_as_often()
    {
        var drawn = Enumerable.Range(1, Lot.Most).GroupBy(lot => string.Join(' ', Lot.Draw(5, null, lot))).ToDictionary(g => g.Key, g => g.Count());
        var expected = Lot.Most / 120.0;
        Assert.Equal(120, drawn.Count);
        Assert.True(drawn.Values.Sum(n => (n - expected) * (n - expected) / expected) < 173);
    }

    [Fact]
    public void Each_of_many_comes_into_a_handful_about_as_often()
    {
        var times = new int[100];
        for (var lot = 1; lot <= Lot.Most; lot++)
        {
            foreach (var one in Lot.Draw(100, 12, lot))
            {
                times[one]++;
            }
        }

        // 12 of 100 in 9,999: 1,200, with a deviation of 32.
        Assert.All(times, t => Assert.InRange(t, 1050, 1350));
    }
}
