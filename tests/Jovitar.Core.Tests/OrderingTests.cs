using CsCheck;
using Jovitar.Core.Albums;

namespace Jovitar.Core.Tests;

public sealed class OrderingTests
{
    static readonly Gen<(int[] Order, HashSet<int> Moved, int Position)> Moves =
        from count in Gen.Int[0, 40]
        from order in Gen.Shuffle(Enumerable.Range(0, count).ToArray())
        from moved in Gen.Int[0, 45].Array[0, 12]
        from position in Gen.Int[-3, 50]
        select (order, moved.ToHashSet(), position);

    [Fact]
    public void Moving_keeps_every_thing_once() => Moves.Sample(t => Assert.Equal(t.Order.Order(), Ordering.Move(t.Order, t.Moved, t.Position).Order()));

    [Fact]
    public void What_is_moved_stands_together_as_it_stood_and_the_rest_keeps_its_order() => Moves.Sample(t =>
    {
        var after = Ordering.Move(t.Order, t.Moved, t.Position);
        Assert.Equal(t.Order.Where(i => !t.Moved.Contains(i)), after.Where(i => !t.Moved.Contains(i)));
        var block = t.Order.Where(t.Moved.Contains).ToArray();
        if (block.Length > 0)
        {
            var at = after.ToList().IndexOf(block[0]);
            Assert.Equal(block, after.Skip(at).Take(block.Length));
            Assert.Equal(Math.Clamp(t.Position, 0, t.Order.Length - block.Length), at);
        }
    });

    [Theory]
    [InlineData(new[] { 1, 3 }, 4, new[] { 0, 2, 1, 3, 4 })]
    [InlineData(new[] { 1, 3 }, 3, new[] { 0, 2, 1, 3, 4 })]
    [InlineData(new[] { 4 }, 0, new[] { 4, 0, 1, 2, 3 })]
    [InlineData(new[] { 0 }, 99, new[] { 1, 2, 3, 4, 0 })]
    public void Things_are_set_down_before_another_or_at_the_end(int[] moved, int before, int[] expected) =>
        Assert.Equal(expected, Ordering.MoveBefore([0, 1, 2, 3, 4], moved.ToHashSet(), before));

    static readonly DateOnly Day = new(2026, 6, 13);

    static IndexEntry Entry(string title, int day, long? place = null, bool first = false) => new(new AlbumId(Guid.CreateVersion7()), title, Day.AddDays(day), place, first);

    [Theory]
    [InlineData(IndexSort.Newest, "First Dune Crab apple Bay")]
    [InlineData(IndexSort.Oldest, "First Bay apple Crab Dune")]
    [InlineData(IndexSort.Title, "First apple Bay Crab Dune")]
    [InlineData(IndexSort.Hand, "First Crab Bay apple Dune")]
    public void An_index_lists_albums_in_the_order_asked_for_behind_those_put_first(IndexSort sort, string expected)
    {
        IndexEntry[] albums = [Entry("Bay", 0, 7), Entry("Dune", 3), Entry("First", 1, 9, first: true), Entry("Crab", 2, 2), Entry("apple", 1)];
        Assert.Equal(expected, string.Join(' ', AlbumIndex.Order(albums, sort).Select(e => e.Title)));
    }

    [Fact]
    public void An_index_is_a_whole_order_whatever_the_order_it_comes_in() =>
        Gen.Select(Gen.Int[0, 2], Gen.Int[0, 2], Gen.Int[-1, 2], Gen.Bool, (t, day, place, first) => Entry($"T{t}", day, place < 0 ? null : place, first)).Array[0, 12].Select(Gen.Enum<IndexSort>(), Gen.Int).Sample((albums, sort, seed) =>
        {
            var shuffled = albums.ToArray();
            new Random(seed).Shuffle(shuffled);
            Assert.Equal(AlbumIndex.Order(albums, sort), AlbumIndex.Order(shuffled, sort));
            Assert.Equal(albums.Count(a => a.PutFirst), AlbumIndex.Order(albums, sort).TakeWhile(a => a.PutFirst).Count());
        });
}
