using CsCheck;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;

namespace Jovitar.Core.Tests;

/// <summary>The words that stand with photos: the room they take, and whether they can be read.</summary>
public sealed class FrameWordsTests
{
    static readonly Gen<string> Colours = Gen.Select(Gen.Byte, Gen.Byte, Gen.Byte).Select((r, g, b) => new Colour(r, g, b).ToString());
    static readonly Gen<string?> Maybe = Gen.Bool.SelectMany(said => said ? Colours.Select(c => (string?)c) : Gen.Const((string?)null));

    static WordsSet Set(WordsWhen first, WordsWhen second, string? ground = null) => WordsSet.None with { First = first, Second = second, Ground = ground };

    // A line of 15 px letters is 20.25 px high; 8 px of air above, and beneath where a ground shows.
    [Theory]
    [InlineData(WordsWhen.Never, WordsWhen.Never, PhotoWord.Caption, null, 0)]
    [InlineData(WordsWhen.Over, WordsWhen.Touched, PhotoWord.Caption, null, 0)]
    [InlineData(WordsWhen.Under, WordsWhen.Never, PhotoWord.Caption, null, 28.25)]
    [InlineData(WordsWhen.Under, WordsWhen.Under, PhotoWord.Date, null, 48.5)]
    [InlineData(WordsWhen.Under, WordsWhen.Under, PhotoWord.Caption, null, 68.75)]
    [InlineData(WordsWhen.Turned, WordsWhen.Under, PhotoWord.Place, "#e8dfce", 36.25)]
    public void Words_beneath_a_photo_take_so_much_room(WordsWhen first, WordsWhen second, PhotoWord says, string? ground, double room) =>
        Assert.Equal(room, Set(first, second, ground).RoomUnder(says), 1e-9);

    [Fact]
    public void A_photo_is_known_by_what_it_shows_so_words_over_any_must_be_read_over_black_and_over_white() =>
        Gen.Select(Maybe, Maybe, Gen.Int[0, 100], Gen.Byte).Sample((colour, ground, dense, grey) =>
        {
            var set = WordsSet.None with { Colour = colour, Ground = ground, Dense = dense };
            var over = set.OverPhotos();
            var behind = (Colour.Parse(ground) ?? Colour.Ink).Over(new Colour(grey, grey, grey), dense / 100.0);
            Assert.True(!over.IsEnough || Colour.Contrast(over.Words, behind) >= 4.5 - 1e-9, $"{over.Words} over {behind}");
            if (colour is not null)
            {
                Assert.Equal(colour, over.Words.ToString());
            }
        });

    [Fact]
    public void The_ground_that_is_offered_is_the_thinnest_that_is_enough() =>
        Gen.Select(Maybe, Maybe, Gen.Int[0, 100]).Sample((colour, ground, dense) =>
        {
            var set = WordsSet.None with { Colour = colour, Ground = ground, Dense = dense };
            bool Enough(int d) => (set with { Dense = d }).OverPhotos().IsEnough;
            int? expected = Enough(dense) ? null : Enumerable.Range(dense, 101 - dense).Where(Enough).Select(d => (int?)d).FirstOrDefault();
            Assert.Equal(expected, set.LeastDense());
        });

    [Fact]
    public void As_they_begin_words_can_be_read_wherever_they_stand()
    {
        Assert.True(WordsSet.None.OverPhotos().IsEnough);
        Assert.True(WordsSet.None.OnGround(Colour.Paper).IsEnough);
        Assert.True(WordsSet.None.OnGround(Colour.Ink).IsEnough);
    }

    [Fact]
    public void A_device_is_as_a_desktop_until_it_is_set_apart()
    {
        var phone = Set(WordsWhen.Over, WordsWhen.Never);
        var words = FrameWords.Usual with { Phone = phone };
        Assert.Equal([WordsSet.None, WordsSet.None, phone], new[] { Device.Desktop, Device.Tablet, Device.Phone }.Select(words.On));
        Assert.Equal([Device.Phone], words.Where(s => s.IsShown()));
        Assert.True(words.IsShown());
        Assert.False(FrameWords.Usual.IsShown());
        // A line that says nothing stands nowhere and takes no room.
        var silent = FrameWords.Usual with { First = null, Desktop = Set(WordsWhen.Under, WordsWhen.Never) };
        Assert.False(silent.IsShown());
        Assert.Equal(0, silent.On(Device.Phone).RoomUnder(silent.Second));
        Assert.Equal(Set(WordsWhen.Never, WordsWhen.Over), (FrameWords.Usual with { First = null, Desktop = Set(WordsWhen.Under, WordsWhen.Over) }).On(Device.Desktop));
        var touch = FrameTouch.Usual with { Tablet = TouchSet.Usual with { Border = 4 } };
        Assert.Equal([0, 4, 0], new[] { Device.Desktop, Device.Tablet, Device.Phone }.Select(d => touch.On(d).Border));
    }

    [Fact]
    public void Numbers_are_brought_into_their_range_and_what_is_no_colour_is_refused()
    {
        var wild = FrameWords.Usual with { Desktop = WordsSet.None with { Dense = 300, Padding = -1 } };
        Assert.Equal((100, 0), (wild.Bounded().Desktop.Dense, wild.Bounded().Desktop.Padding));
        Assert.Equal((30, 100, 90, 0), FrameTouch.Usual.Bounded() with { Phone = TouchSet.Usual with { ZoomBy = 99, ToneBy = 999, TintBy = 100, Border = -3 } } is var touch && touch.Bounded().Phone is { } set ? (set.ZoomBy, set.ToneBy, set.TintBy, set.Border) : default);
        foreach (var bad in (string[])["", "red", "#12345g", "#1234567", "#161616;}"])
        {
            Assert.Equal(Colour.Unknown, (FrameWords.Usual with { Phone = WordsSet.None with { Colour = bad } }).Fault());
            Assert.Equal(Colour.Unknown, (FrameWords.Usual with { Desktop = WordsSet.None with { Ground = bad } }).Fault());
            Assert.Equal(Colour.Unknown, (FrameTouch.Usual with { Desktop = TouchSet.Usual with { TintColour = bad } }).Fault());
            Assert.Equal(Colour.Unknown, (FrameTouch.Usual with { Tablet = TouchSet.Usual with { BorderColour = bad } }).Fault());
        }

        Assert.Null(FrameWords.Usual.Fault());
        Assert.Null(FrameTouch.Usual.Fault());
    }
}
