using CsCheck;
using Jovitar.Core.Albums;

namespace Jovitar.Core.Tests;

public sealed class PlacesTests
{
    /// <summary>An order wanted: things with places they have now, in any order, some with none.</summary>
    static readonly Gen<Standing<int>[]> Orders =
        Gen.Select(Gen.Int[0, 40].Array[0, 14], Gen.Int).Select((places, seed) =>
        {
            var distinct = places.Distinct().Select((place, thing) => new Standing<int>(thing, place % 5 == 0 ? null : place * (place % 3 == 0 ? Places.Step : 1))).ToArray();
            new Random(seed).Shuffle(distinct);
            return distinct;
        });

    [Fact]
    public void Written_places_make_the_order_that_was_wanted() => Orders.Sample(order =>
    {
        var written = Places.Assign(order).ToDictionary(w => w.Thing, w => w.Place);
        var places = order.Select(s => written.TryGetValue(s.Thing, out var place) ? place : s.Place!.Value).ToArray();
        Assert.Equal(places.Order(), places);
        Assert.Equal(places.Length, places.Distinct().Count());
    });

    /// <summary>By trying every set of things that could keep their places: none is larger than the one that is kept.</summary>
    [Fact]
    public void No_more_are_written_than_must_be() => Orders.Where(o => o.Length <= 9 && o.All(s => s.Place is null or 0 || s.Place >= Places.Step || o.Length < 3)).Sample(order =>
    {
        var most = 0;
        for (var set = 0; set < 1 << order.Length; set++)
        {
            var kept = order.Where((_, i) => (set >> i & 1) == 1).Select(s => s.Place).ToArray();
            if (kept.All(p => p is not null) && kept.Zip(kept.Skip(1)).All(p => p.First < p.Second))
            {
                most = Math.Max(most, kept.Length);
            }
        }

        // Or everything is written, where the room between neighbours is used up.
        var written = Places.Assign(order).Count;
        Assert.True(written == order.Length - most || written == order.Length, $"{written} written, {order.Length - most} would do");
    });

    [Fact]
    public void Moving_one_of_many_writes_one()
    {
        var order = Enumerable.Range(0, 5000).Select(i => new Standing<int>(i, i * Places.Step)).ToList();
        var last = order[^1];
        order.RemoveAt(order.Count - 1);
        order.Insert(0, last);
        Assert.Equal([(4999, -Places.Step)], Places.Assign(order));
        Assert.Empty(Places.Assign([.. Enumerable.Range(0, 50).Select(i => new Standing<int>(i, i * Places.Step))]));
    }

    [Fact]
    public void Moving_to_the_same_spot_again_and_again_never_runs_out_of_room()
    {
        var order = Enumerable.Range(0, 12).Select(i => new Standing<int>(i, i * Places.Step)).ToList();
        for (var round = 0; round < 200; round++)
        {
            var moved = order[^1];
            order.RemoveAt(order.Count - 1);
            order.Insert(5, moved);
            var written = Places.Assign(order).ToDictionary(w => w.Thing, w => w.Place);
            order = [.. order.Select(s => written.TryGetValue(s.Thing, out var place) ? s with { Place = place } : s)];
            Assert.Equal(order.Select(s => s.Place).Order(), order.Select(s => s.Place));
        }
    }
}
