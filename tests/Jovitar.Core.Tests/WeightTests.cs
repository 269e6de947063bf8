using CsCheck;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;

namespace Jovitar.Core.Tests;

/// <summary>What a page weighs, against worked examples; what Chromium really loads is checked in the browser.</summary>
public sealed class WeightTests
{
    static readonly Window Desktop = Window.Usual[2];

    [Theory]
    // 300 px on an ordinary screen: 480 has enough, 240 has not.
    [InlineData(6000, 300, 1, 480)]
    [InlineData(6000, 240, 1, 240)]
    [InlineData(6000, 480.5, 1, 960)]
    [InlineData(6000, 480, 2, 960)]
    [InlineData(6000, 500, 2, 1600)]
    // There is no larger one.
    [InlineData(6000, 2000, 3, 2560)]
    [InlineData(400, 358, 3, 480)]
    public void A_browser_takes_the_smallest_rendition_with_enough_pixels(int pixels, double across, double density, int rendition) =>
        Assert.Equal(rendition, PageWeight.Chosen(pixels, across, density));

    [Fact]
    public void The_first_screen_weighs_what_is_seen_and_everything_what_there_is_each_once()
    {
        PictureOnPage At(string name, double top, double bottom, bool away = false) => new(name, 6000, top, bottom, 400, away);
        var weight = PageWeight.Of(Desktop, 1000, [At("far", 900, 1200), At("a", 0, 300), At("b", 700, 1000), At("a", 2000, 2300), At("slide", 100, 400, away: true), At("far", 100, 400)], (_, width) => width);
        // a, b and what stands both far down and above: three of 480; everything is a slide more.
        Assert.Equal(new PageWeight("desktop", 1000 + (3 * 480), 1000 + (4 * 480)), weight);
    }

    [Fact]
    public void A_line_takes_three_round_trips_and_its_bits()
    {
        Assert.Equal(0.45 + 1, VisitorsLine.Usual[0].Seconds(200_000), 1e-9);
        Assert.True(VisitorsLine.Usual.Zip(VisitorsLine.Usual.Skip(1)).All(l => l.First.Seconds(1_000_000) > l.Second.Seconds(1_000_000)));
    }

    [Fact]
    public void The_larger_a_picture_stands_the_larger_is_the_rendition() =>
        Gen.Select(Gen.Int[100, 8000], Gen.Double[20, 3000], Gen.Double[20, 3000], Gen.Int[0, 3].Select(n => new[] { 1.0, 1.5, 2, 3 }[n])).Sample((pixels, one, other, density) =>
        {
            var (small, large) = (PageWeight.Chosen(pixels, Math.Min(one, other), density), PageWeight.Chosen(pixels, Math.Max(one, other), density));
            Assert.True(small <= large);
            // It has enough pixels, where there are enough.
            Assert.True(Math.Min(large, pixels) >= Math.Max(one, other) * density || large == Photos.Renditions.For(pixels)[^1]);
        });
}
