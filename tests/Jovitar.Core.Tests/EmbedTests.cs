using CsCheck;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;

namespace Jovitar.Core.Tests;

/// <summary>How the photos of a page stand on another website.</summary>
public sealed class EmbedTests
{
    static readonly Gen<LayoutKind?> Layouts = Gen.Int[-1, Enum.GetValues<LayoutKind>().Length - 1].Select(n => n < 0 ? (LayoutKind?)null : (LayoutKind)n);

    static readonly Gen<Embed> Embeds = Gen.Select(Layouts, Gen.Int[0, 2], Gen.Int[1, Embed.LargestMost]).Select((layout, size, most) => new Embed(layout, (EmbedSize)size, most));

    static Embed Read(string query)
    {
        var said = query.TrimStart('?').Split('&', StringSplitOptions.RemoveEmptyEntries).Select(p => p.Split('=')).ToDictionary(p => p[0], p => p[1]);
        return Embed.Read(name => said.GetValueOrDefault(name));
    }

    [Fact]
    public void What_an_address_says_is_read_as_it_was_written() => Embeds.Sample(e => Assert.Equal(e, Read(e.Query)));

    [Fact]
    public void What_an_address_cannot_mean_is_as_usual_and_numbers_keep_to_their_range()
    {
        Assert.Equal("", Embed.Usual.Query);
        foreach (var nothing in (string[])["", "?layout=&size=&most=", "?layout=heap&size=vast&most=many", "?layout=0&size=1&most=-3", "?layout=Rows&most=1e3", "?most=99999999999"])
        {
            Assert.Equal(Embed.Usual, Read(nothing));
        }

        Assert.Equal(new Embed(LayoutKind.Strip, EmbedSize.Small, 1), Read("?layout=strip&size=small&most=0"));
        Assert.Equal(Embed.LargestMost, Read("?most=201").Most);
    }

    [Theory]
    [InlineData(EmbedSize.Small, 182, 126, 4)]
    [InlineData(EmbedSize.Usual, 260, 180, 3)]
    [InlineData(EmbedSize.Large, 364, 252, 2)]
    public void Photos_are_larger_or_smaller_than_on_their_page_on_every_device(EmbedSize size, int desktop, int phone, int across)
    {
        var rows = BlockLayout.Usual with { Rows = new Measures(260, 6, null, 180, null) };
        var scaled = new Embed(null, size, 24).Of(rows);
        Assert.Equal((LayoutKind.Rows, desktop, (int?)null, (int?)phone, 6), (scaled.Kind, scaled.Rows.Size, scaled.Rows.Tablet, scaled.Rows.Phone, scaled.Rows.Gap));
        // So many of the other size have the room of three: 3 / 0.7 are 4, 3 / 1.4 are 2.
        var grid = BlockLayout.Usual with { Kind = LayoutKind.Grid, Grid = new Measures(260, 6, null, null, new InARow(3, 3, 1)) };
        Assert.Equal(across, new Embed(null, size, 24).Of(grid).Grid.Across!.Desktop);
        Assert.Equal(across, new Embed(null, size, 24).Across(3));
    }

    [Fact]
    public void Another_layout_has_the_measures_that_the_block_has_for_it()
    {
        var own = BlockLayout.Usual with { Columns = Measures.Of(333, 17) };
        var columns = new Embed(LayoutKind.Columns, EmbedSize.Usual, 24).Of(own);
        Assert.Equal((LayoutKind.Columns, 333, 17), (columns.Kind, columns.Columns.Size, columns.Columns.Gap));
        Assert.Equal(own, Embed.Usual.Of(own));
    }

    [Fact]
    public void Nothing_in_it_is_a_share_of_a_window_for_that_would_be_as_high_as_itself()
    {
        foreach (var height in Enum.GetValues<StripHeight>())
        {
            var own = BlockLayout.Usual with { Kind = LayoutKind.Strip, Along = BlockLayout.Usual.Along with { Height = height } };
            var strip = Embed.Usual.Of(own);
            Assert.Null(StripLayout.ShareOf(strip.Along.Height));
            // As high as in the window that is reckoned with, but for what no photo may be larger than.
            var expected = StripLayout.ShareOf(height) is { } share ? Math.Min(LayoutSettings.LargestSize, (int)Math.Round(share * Embed.Window)) : own.Strip.Size;
            Assert.Equal(expected, strip.Strip.Size);
        }
    }

    [Fact]
    public void Whatever_is_set_stays_within_what_layouts_can_be() => Gen.Select(Embeds, Gen.Int[1, 2000], Gen.Int[-5, 300], Gen.Int[0, 20]).Sample((embed, size, gap, across) =>
    {
        var own = (BlockLayout.Usual with { Kind = LayoutKind.Grid }).With(new Measures(size, gap, size / 2, null, new InARow(across, across, across)));
        var of = embed.Of(own.Bounded());
        Assert.Equal(of, of.Bounded());
    });
}
