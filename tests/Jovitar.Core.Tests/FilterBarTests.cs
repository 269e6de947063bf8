using CsCheck;
using Jovitar.Core.Filtering;

namespace Jovitar.Core.Tests;

public sealed class FilterBarTests
{
    /// <summary>Bars of up to twelve entries in three groups over up to 150 photos; a parent always stands before its children, in their group.</summary>
    static readonly Gen<(FilterBar Bar, FilterEntry[] Entries, HashSet<int>[] Holds, int Photos, HashSet<int> Chosen)> Bars =
        from photos in Gen.Int[0, 150]
        from count in Gen.Int[0, 12]
        from ones in Gen.Bool.Array[3]
        from groups in Gen.Int[0, 2].Array[12]
        from parents in Gen.Int[-1, 10].Array[12]
        from presets in Gen.Int[0, 5].Array[12]
        from held in Gen.Int[0, Math.Max(0, photos - 1)].Array[0, 40].Array[12]
        from chosen in Gen.Int[0, 11].Array[0, 5]
        select Make(photos, count, ones, groups, parents, presets, held, chosen);

    static (FilterBar, FilterEntry[], HashSet<int>[], int, HashSet<int>) Make(int photos, int count, bool[] ones, int[] groups, int[] parents, int[] presets, int[][] held, int[] chosen)
    {
        var entries = Enumerable.Range(0, count).Select(i => new FilterEntry($"e{i}", $"E{i}", groups[i], parents[i] < i && parents[i] >= 0 && groups[parents[i]] == groups[i] ? parents[i] : -1, presets[i] == 0)).ToArray();
        var holds = entries.Select((_, i) => photos == 0 ? [] : held[i].ToHashSet()).ToArray();
        // Of a group with one choice at a time no more than one is chosen.
        var may = chosen.Where(c => c < count).Distinct().GroupBy(c => groups[c]).SelectMany(g => ones[g.Key] ? g.Take(1) : g).ToHashSet();
        return (new FilterBar([.. ones.Select(one => new FilterGroup("", one))], entries, photos, holds), entries, holds, photos, may);
    }

    static bool Carries(FilterEntry[] entries, HashSet<int>[] holds, int entry, int photo) =>
        holds[entry].Contains(photo) || Enumerable.Range(0, entries.Length).Any(e => entries[e].Parent == entry && Carries(entries, holds, e, photo));

    static bool Admitted(FilterEntry[] entries, HashSet<int>[] holds, IEnumerable<int> chosen, int photo) =>
        chosen.GroupBy(c => entries[c].Group).All(group => group.Any(c => Carries(entries, holds, c, photo)));

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
            var instead = t.Chosen.Where(c => t.Entries[c].Group != t.Entries[e].Group).Append(e);
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
            var instead = t.Chosen.Where(c => t.Entries[c].Group != t.Entries[e].Group).Append(e);
            Assert.Equal(Enumerable.Range(0, t.Photos).Count(p => !without.Contains(p) && Admitted(t.Entries, t.Holds, instead, p)), left.Counts[e]);
        }
    });

    [Fact]
    public void What_is_written_into_an_address_is_read_back() => Bars.Sample(t => Assert.Equal(t.Chosen.Order(), t.Bar.Read(t.Bar.Write(t.Chosen)).Order()));

    [Fact]
    public void Whatever_is_pressed_a_group_with_one_choice_at_a_time_has_one_and_an_address_says_the_same() => Gen.Select(Bars, Gen.Int[0, 11].Array[0, 12]).Sample((t, pressed) =>
    {
        IReadOnlySet<int> chosen = t.Bar.Read(null);
        foreach (var entry in pressed.Where(p => p < t.Entries.Length))
        {
            var before = chosen;
            chosen = t.Bar.Press(chosen, entry);
            Assert.NotEqual(before.Contains(entry), chosen.Contains(entry));
            Assert.Equal(before.Where(c => t.Entries[c].Group != t.Entries[entry].Group).Order(), chosen.Where(c => t.Entries[c].Group != t.Entries[entry].Group).Order());
        }

        Assert.All(chosen.GroupBy(c => t.Entries[c].Group), g => Assert.True(!t.Bar.Groups[g.Key].One || g.Count() == 1));
        Assert.Equal(chosen.Order(), t.Bar.Read(t.Bar.Write(chosen)).Order());
    });

    static readonly FilterGroup Several = new("", One: false), One = new("", One: true);

    [Fact]
    public void Pressing_twice_changes_nothing_and_a_child_lets_its_parent_go()
    {
        var bar = new FilterBar([Several, Several], [new("festival", "Festival", 0), new("night", "Night", 0, 0), new("delta", "delta", 1)], 3, [[], [0], [1]]);
        var child = bar.Press(new HashSet<int> { 0, 2 }, 1);
        Assert.Equal([1, 2], child.Order());
        Assert.Equal([0, 2], bar.Press(child, 0).Order());
        Assert.Equal([2], bar.Press(bar.Press(new HashSet<int> { 2 }, 1), 1).Order());
    }

    [Fact]
    public void A_page_that_opens_with_something_chosen_says_so_by_saying_nothing_and_nothing_by_a_word()
    {
        var bar = new FilterBar([One, Several], [new("day", "Day", 0), new("night", "Night", 0, Preset: true), new("eve", "Eve", 0, Preset: true), new("delta", "delta", 1)], 4, [[0], [1, 2], [3], [1]]);
        // Of a group with one choice at a time the first that is preset counts.
        Assert.Equal([1], bar.Read(null));
        Assert.Equal("", bar.Write(bar.Read("night")));
        Assert.Equal(FilterBar.Nothing, bar.Write(bar.Press(bar.Read(""), 1)));
        Assert.Empty(bar.Read(FilterBar.Nothing));
        Assert.Equal([0, 1, 2, 3], bar.Apply(bar.Read(FilterBar.Nothing)).Photos);
        Assert.Equal([0, 3], bar.Press(bar.Read("night,delta"), 0).Order());
        // More than one of them in an address: the first.
        Assert.Equal([0], bar.Read("night,day"));
        // What an old link asked for may be gone: then nothing is chosen, rather than what is preset.
        Assert.Empty(bar.Read("gone"));
    }

    [Fact]
    public void Keys_that_are_not_there_are_passed_over() =>
        Assert.Equal([0], new FilterBar([Several], [new("a", "A", 0)], 1, [[0]]).Read("gone,a,,a"));
}
