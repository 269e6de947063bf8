using CsCheck;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;

namespace Jovitar.Core.Tests;

/// <summary>What lies behind blocks, and whether words over it can be read.</summary>
public sealed class GroundTests
{
    static readonly PhotoId Pier = new(new Guid(4, 8, 8, new byte[8]));

    static readonly Gen<Colour> Colours = Gen.Select(Gen.Byte, Gen.Byte, Gen.Byte).Select((r, g, b) => new Colour(r, g, b));

    static Colour C(string text) => Colour.Parse(text)!.Value;

    static TextBlock Text(int n, Ground? ground = null, BlockWidth width = BlockWidth.Full) =>
        new(new BlockId(new Guid(n, 8, 8, new byte[8])), BlockFrame.Usual with { Width = width, Ground = ground ?? Ground.None }, "Words");

    static Ground Of(string colour) => Ground.None with { Kind = GroundKind.Colour, Colour = colour };

    static readonly Ground Photo = Ground.None with { Kind = GroundKind.Photo, Photo = Pier };
    static readonly Ground AsAbove = Ground.None with { Kind = GroundKind.AsAbove };

    /// <summary>WCAG 2.2: 21 between black and white; the greys on either side of 4.5 on white that are commonly cited; red, green and blue from the definition of luminance.</summary>
    [Theory]
    [InlineData("#000000", "#ffffff", 21)]
    [InlineData("#767676", "#ffffff", 4.54)]
    [InlineData("#777777", "#ffffff", 4.48)]
    [InlineData("#ff0000", "#ffffff", 4.0)]
    [InlineData("#00ff00", "#000000", 15.3)]
    [InlineData("#0000ff", "#ffffff", 8.59)]
    [InlineData("#123456", "#123456", 1)]
    public void Contrast_is_that_of_the_guidelines(string one, string other, double ratio)
    {
        Assert.Equal(ratio, Colour.Contrast(C(one), C(other)), 2);
        Assert.Equal(Colour.Contrast(C(one), C(other)), Colour.Contrast(C(other), C(one)));
    }

    /// <summary>OKLab, CSS Color 4: white is L 1, black L 0, both without a or b; sRGB red is (0.628, 0.225, 0.126).</summary>
    [Fact]
    public void Colours_are_as_far_apart_as_OKLab_has_them()
    {
        Assert.Equal(1, Colour.Distance(C("#ffffff"), C("#000000")), 3);
        Assert.Equal(Math.Sqrt((0.628 * 0.628) + (0.225 * 0.225) + (0.126 * 0.126)), Colour.Distance(C("#ff0000"), C("#000000")), 2);
    }

    [Fact]
    public void A_colour_is_read_as_it_is_written()
    {
        Colours.Sample(c => Assert.Equal(c, Colour.Parse(c.ToString())));
        Assert.All(new[] { null, "", "#12345", "#1234567", "123456", "#12345g", "#-12345", "red", "# 12345" }, text => Assert.Null(Colour.Parse(text)));
        Assert.Equal(C("#808080"), new Colour(0, 0, 0).Over(new Colour(255, 255, 255), 0.498));
        Colours.Sample(c => Assert.Equal((c, Colour.Ink), (c.Over(Colour.Ink, 1), c.Over(Colour.Ink, 0))));
    }

    [Fact]
    public void Words_that_are_dark_or_light_by_themselves_can_be_read_on_every_colour() =>
        Colours.Sample(behind =>
        {
            var over = WordsOver.OverColour(null, behind, WordsOver.Usual);
            Assert.True(over.IsEnough);
            Assert.Equal(Colour.Contrast(over.Words, behind), over.Ratio);
            Assert.Null(over.Nearest);
        });

    /// <summary>Against every mix of the words' colour with black and with white in hundredths.</summary>
    [Fact]
    public void The_nearest_colour_that_can_be_read_is_proposed_for_words_that_cannot() =>
        Gen.Select(Colours, Colours, Gen.Double[3, 7]).Sample((words, behind, wanted) =>
        {
            var over = WordsOver.OverColour(words, behind, wanted);
            Assert.Equal(Colour.Contrast(words, behind) >= wanted, over.IsEnough);
            if (over.IsEnough)
            {
                return;
            }

            var passing = new[] { new Colour(0, 0, 0), new Colour(255, 255, 255) }.SelectMany(to => Enumerable.Range(1, 100).Select(n => to.Over(words, n / 100.0)))
                .Where(c => Colour.Contrast(c, behind) >= wanted).ToArray();
            Assert.Equal(passing.Length > 0, over.Nearest is not null);
            if (over.Nearest is { } nearest)
            {
                Assert.True(Colour.Contrast(nearest, behind) >= wanted);
                Assert.InRange(Colour.Distance(words, nearest), 0, passing.Min(c => Colour.Distance(words, c)) + 0.05);
            }

            Assert.Null(over.ThinnestVeil);
        });

    /// <summary>Every veil from none to the thickest is tried.</summary>
    [Fact]
    public void The_thinnest_veil_that_is_enough_is_proposed_over_a_photo() =>
        Gen.Select(Colours.Array[20, 60], Gen.Int[0, WordsOver.ThickestVeil], Gen.OneOf(Gen.Const(Colour.Paper), Gen.Const(Colour.Ink), Colours), Gen.OneOf(Gen.Const(WordsOver.Usual), Gen.Const(WordsOver.Large))).Sample((behind, veil, words, wanted) =>
        {
            var over = WordsOver.OverPhoto(words, behind, veil, wanted);
            Assert.Equal(Colour.Contrast(words, Colour.Ink) >= Colour.Contrast(words, Colour.Paper) ? Colour.Ink : Colour.Paper, over.Veil);
            bool Reads(int percent) => Least(words, over.Veil, behind, percent) >= wanted;
            Assert.Equal(Least(words, over.Veil, behind, veil), over.Ratio, 9);
            if (!over.IsEnough)
            {
                var enough = Enumerable.Range(veil + 1, WordsOver.ThickestVeil - veil).Where(Reads).ToArray();
                Assert.Equal(enough.Length > 0 ? enough[0] : null, over.ThinnestVeil);
            }
        });

    /// <summary>The contrast that all but a twentieth of the places have at least.</summary>
    static double Least(Colour words, Colour veil, Colour[] behind, int percent)
    {
        var all = behind.Select(c => Colour.Contrast(words, veil.Over(c, percent / 100.0))).ToList();
        for (var specks = (int)(behind.Length * 0.05); specks > 0; specks--)
        {
            all.Remove(all.Min());
        }

        return all.Min();
    }

    [Fact]
    public void A_few_specks_do_not_count()
    {
        Colour[] sky = [.. Enumerable.Repeat(C("#101010"), 97), .. Enumerable.Repeat(C("#ffffff"), 3)];
        Assert.True(WordsOver.OverPhoto(Colour.Paper, sky, 0, WordsOver.Usual).IsEnough);
        Colour[] clouds = [.. Enumerable.Repeat(C("#101010"), 90), .. Enumerable.Repeat(C("#ffffff"), 10)];
        var over = WordsOver.OverPhoto(Colour.Paper, clouds, 0, WordsOver.Usual);
        Assert.False(over.IsEnough);
        Assert.NotNull(over.ThinnestVeil);
    }

    [Fact]
    public void A_ground_goes_on_for_as_long_as_blocks_say_so()
    {
        Block[] blocks = [Text(1, AsAbove), Text(2, Of("#1f4d5c")), Text(3, AsAbove), Text(4, AsAbove), Text(5), Text(6, AsAbove), Text(7, Photo), Text(8, Of("#e8dfce")), Text(9, Photo with { Photo = null }), Text(10, AsAbove)];
        var bands = Band.Of(blocks);
        Assert.Equal([1, 3, 1, 1, 1, 1, 1, 1], bands.Select(b => b.Blocks.Count));
        Assert.Equal([false, true, false, false, true, true, false, false], bands.Select(b => b.Ground is not null));
        Assert.Equal(blocks, bands.SelectMany(b => b.Blocks));
    }

    [Fact]
    public void A_photo_behind_blocks_is_shown_by_the_page()
    {
        var page = PageContent.Made("A page", "", [Text(1, Photo), new BesideBlock(new BlockId(new Guid(2, 8, 8, new byte[8])), BlockFrame.Usual, [Text(3, Photo with { Photo = new PhotoId(Guid.NewGuid()) })])]);
        Assert.Equal(2, page.Things().Count(t => t is { Kind: ThingKind.Photo, Shows: true }));
        Assert.DoesNotContain(PageContent.Made("A page", "", [Text(1, Photo with { Kind = GroundKind.Colour })]).Things(), t => t.Kind == ThingKind.Photo);
    }

    [Theory]
    [InlineData("red", 35, null)]
    [InlineData("#e8dfce", 91, null)]
    [InlineData("#e8dfce", -1, null)]
    [InlineData("#e8dfce", 35, "#12")]
    [InlineData("#fff;}body{display:none", 35, null)]
    public void What_is_no_colour_or_no_veil_is_refused(string colour, int veil, string? words)
    {
        var page = PageContent.Made("A page", "", [Text(1, Of(colour) with { Veil = veil, Words = words })]);
        Assert.Single(page.Faults());
        Assert.Empty((page with { Blocks = [Text(1, Of("#7A2e4d") with { Words = "#FFFFFF" })] }).Faults());
    }

    [Theory]
    // A desktop's page is 1,200 wide and its pad 38.4, a tablet's 764 and 24.6, a phone's 358 and 17.
    [InlineData(BlockWidth.Full, BlockWidth.Full, 1, false, 1123.2, 714.8, 324)]
    [InlineData(BlockWidth.Full, BlockWidth.Half, 1, false, 561.6, 357.4, 324)]
    [InlineData(BlockWidth.Half, BlockWidth.Full, 1, false, 523.2, 332.8, 324)]
    [InlineData(BlockWidth.Window, BlockWidth.Full, 1, false, 1200, 764, 358)]
    [InlineData(BlockWidth.Full, BlockWidth.Full, 2, false, 545.6, 341.4, 324)]
    [InlineData(null, BlockWidth.Full, 2, true, 507.2, 316.8, 324)]
    public void On_a_ground_a_block_is_narrower_by_its_edges(BlockWidth? around, BlockWidth width, int beside, bool isCard, double desktop, double tablet, double phone)
    {
        var place = new BlockPlace(BlockFrame.Usual with { Width = width }, beside, around, isCard);
        double On(string device) => Math.Round(place.Width(Window.Usual.First(w => w.Device == device)), 2);
        Assert.Equal((desktop, tablet, phone), (On("desktop"), On("tablet"), On("phone")));
    }

    [Fact]
    public void Words_are_looked_for_in_what_stands_on_a_ground()
    {
        Assert.Equal(WordsOver.Large, Band.WantedOf(new HeadingBlock(Text(1).Id, BlockFrame.Usual, "", HeadingSize.Large)));
        Assert.Equal(WordsOver.Usual, Band.WantedOf(Text(1)));
        Assert.Null(Band.WantedOf(Text(1) with { Words = "" }));
        Assert.Null(Band.WantedOf(new DividerBlock(Text(1).Id, BlockFrame.Usual, Line: true)));
        Assert.Equal(WordsOver.Usual, Band.WantedOf(new BesideBlock(Text(1).Id, BlockFrame.Usual, [Text(2), Text(3)])));
        // A card has a ground of its own.
        Assert.Null(Band.WantedOf(new BesideBlock(Text(1).Id, BlockFrame.Usual, [Text(2, Photo)])));
    }
}
