using CsCheck;
using Jovitar.Core.Filtering;

namespace Jovitar.Core.Tests;

public sealed class FilterBarTests
{
    /// <summary>Bars of up to twelve entries over up to 150 photos; a parent always stands before its children and is a category.</summary>
    static readonly Gen<(FilterBar Bar, FilterEntry[] Entries, HashSet<int>[] Holds, int Photos, HashSet<int> Chosen)> Bars =
        from photos in Gen.Int[0, 150]
        from categories in Gen.Int[0, 8]
        from tags in Gen.Int[0, 4]
        from parents in Gen.Int[-1, 6].Array[8]
        from held in Gen.Int[0, Math.Max(0, photos - 1)].Array[0, 40].Array[12]
        from chosen in Gen.Int[0, 11].Array[0, 5]
        select Make(photos, categories, tags, parents, held, chosen);

    static (FilterBar, FilterEntry[], HashSet<int>[], int, HashSet<int>) Make(int photos, int categories, int tags, int[] parents, int[][] held, int[] chosen)
    {
        var entries = Enumerable.Range(0, categories).Select(i => new FilterEntry($"c{i}", $"C{i}", FilterKind.Category, parents[i] < i ? parents[i] : -1))
            .Concat(Enumerable.Range(0, tags).Select(i => new FilterEntry($"t{i}", $"T{i}", FilterKind.Tag))).ToArray();
        var holds = entries.Select((_, i) => photos == 0 ? [] : held[i].ToHashSet()).ToArray();
        return (new FilterBar(entries, photos, holds), entries, holds, photos, chosen.Where(c => c < entries.Length).ToHashSet());
    }

    static bool Carries(FilterEntry[] entries, HashSet<int>[] holds, int entry, int photo) =>
        holds[entry].Contains(photo) || Enumerable.Range(0, entries.Length).Any(e => entries[e].Parent == entry && Carries(entries, holds, e, photo));

    static bool Admitted(FilterEntry[] entries, HashSet<int>[] holds, IEnumerable<int> chosen, int photo) =>
        chosen.GroupBy(c => entries[c].Kind).All(group => group.Any(c => Carries(entries, holds, c, photo)));

    // The reference is a naive evaluation, photo by photo, of what the bar is defined to do.
    [Fact]
    public void A_choice_leaves_what_a_naive_evaluation_leaves() => Bars.Sample(t =>
    {
        var naive = Enumerable.Range(0, t.Photos).Where(p => Admitted(t.Entries, t.Holds, t.Chosen, p));
        Assert.Equal(naive, t.Bar.Apply(t.Chosen).Photos);
    });

    [Fact]
    public void A_count_is_what_one_would_see_with_that_entry_alone_in_its_group() => Bars.Sample(t =>
    {
        var counts = t.Bar.Apply(t.Chosen).Counts;
        for (var e = 0; e < t.Entries.Length; e++)
        {
            var instead = t.Chosen.Where(c => t.Entries[c].Kind != t.Entries[e].Kind).Append(e);
            Assert.Equal(Enumerable.Range(0, t.Photos).Count(p => Admitted(t.Entries, t.Holds, instead, p)), counts[e]);
        }
    });

    [Fact]
    public void As_if_some_photos_were_not_there_it_finds_and_counts_the_others_only() => Gen.Select(Bars, Gen.Int[0, 200].Array[0, 30]).Sample((t, absent) =>
    {
        var without = absent.Where(a => a < t.Photos).ToHashSet();
        var (all, left) = (t.Bar.Apply(t.Chosen), t.Bar.Apply(t.Chosen, without));
        Assert.Equal(all.Photos.Where(p => !without.Contains(p)), left.Photos);
        for (var e = 0; e < t.Entries.Length; e++)
        {
            var instead = t.Chosen.Where(c => t.Entries[c].Kind != t.Entries[e].Kind).Append(e);
            Assert.Equal(Enumerable.Range(0, t.Photos).Count(p => !without.Contains(p) && Admitted(t.Entries, t.Holds, instead, p)), left.Counts[e]);
        }
    });

    [Fact]
    public void What_is_written_into_an_address_is_read_back() => Bars.Sample(t => Assert.Equal(t.Chosen.Order(), t.Bar.Read(t.Bar.Write(t.Chosen)).Order()));

    [Fact]
    public void Pressing_twice_changes_nothing_and_a_child_lets_its_parent_go()
    {
        var bar = new FilterBar([new("festival", "Festival", FilterKind.Category), new("night", "Night", FilterKind.Category, 0), new("delta", "delta", FilterKind.Tag)], 3, [[], [0], [1]]);
        var child = bar.Press(new HashSet<int> { 0, 2 }, 1);
        Assert.Equal([1, 2], child.Order());
        Assert.Equal([0, 2], bar.Press(child, 0).Order());
        Assert.Equal([2], bar.Press(bar.Press(new HashSet<int> { 2 }, 1), 1).Order());
    }

    [Fact]
    public void Keys_that_are_not_there_are_passed_over() =>
        Assert.Equal([0], new FilterBar([new("a", "A", FilterKind.Tag)], 1, [[0]]).Read("gone,a,,a"));
}
