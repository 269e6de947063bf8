using CsCheck;
using Jovitar.Core.Albums;
using Jovitar.Core.Narrowings;

namespace Jovitar.Core.Tests;

/// <summary>Albums that keep themselves.</summary>
public sealed class FillingTests
{
    static readonly Guid[] Photos = [.. Enumerable.Range(1, 12).Select(i => new Guid(i, 0, 0, new byte[8]))];

    static Narrowing Rule(string name, string value) => Narrowing.Read(asked => asked == name ? value : null);

    [Fact]
    public void What_is_held_out_makes_room_for_the_next_and_what_was_put_in_comes_on_top() =>
        Gen.Select(Gen.Int[0, 12], Gen.Int[1, 12], Gen.Int[0, 4095], Gen.Int[0, 4095]).Sample((found, most, withoutBits, byHandBits) =>
        {
            Guid[] Of(int bits) => [.. Photos.Where((_, i) => (bits & (1 << i)) != 0)];
            var (without, byHand) = (Of(withoutBits), Of(byHandBits));
            var holds = new Filling(Narrowing.Nothing, most, SheetSort.Taken, false).Holds(Photos[..found], without.ToHashSet(), byHand.ToHashSet());
            var byRule = new List<Guid>();
            foreach (var photo in Photos[..found])
            {
                if (byRule.Count < most && !without.Contains(photo) && !byHand.Contains(photo))
                {
                    byRule.Add(photo);
                }
            }

            Assert.Equal(byRule.Concat(byHand).ToHashSet(), holds.ToHashSet());
            Assert.Equal(holds.Distinct(), holds);
        });

    [Fact]
    public void A_rule_asks_for_no_album_that_fills_itself_and_not_for_photos_in_none()
    {
        var (picked, filled, it) = (Photos[0], Photos[1], Photos[2]);
        string? Fault(string name, string value) => Filling.Fault(it, Rule(name, value), [(filled, "Newest", Rule("notAlbum", $"{Photos[3]}"))]);
        Assert.Null(Fault("album", $"{picked}"));
        Assert.Null(Fault("notAlbum", $"{picked}"));
        Assert.Null(Fault("tag", "none"));
        Assert.Null(Fault("q", "kites"));
        Assert.Equal("“Newest” fills itself, so no other album can be filled from it.", Fault("notAlbum", $"{picked},{filled}"));
        Assert.EndsWith("they are not found any more.", Fault("album", "none"), StringComparison.Ordinal);
        Assert.NotNull(Fault("notAlbum", "none"));
        // However an address writes it.
        Assert.Equal("An album cannot be filled from itself.", Fault("notAlbum", $"{it:B}".ToUpperInvariant()));
        Assert.Equal("“Newest” is filled from this album, so this one cannot fill itself.", Filling.Fault(Photos[3], Rule("q", "kites"), [(filled, "Newest", Rule("notAlbum", $"{Photos[3]}".ToUpperInvariant()))]));
    }

    [Theory]
    [InlineData(SheetSort.Taken, false, true)]
    [InlineData(SheetSort.Rating, true, false)]
    [InlineData(SheetSort.Name, false, false)]
    [InlineData(SheetSort.Place, true, true)]
    public void Times_and_ratings_run_from_the_last(SheetSort sort, bool reversed, bool down) => Assert.Equal(down, sort.Down(reversed));
}
