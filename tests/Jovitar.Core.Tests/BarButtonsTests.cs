using CsCheck;
using Jovitar.Core.Filtering;
using Jovitar.Core.Pages;
using Jovitar.Core.Taxonomy;

namespace Jovitar.Core.Tests;

public sealed class BarButtonsTests
{
    static Guid Id(int n) => new(n, 0, 0, new byte[8]);

    static CategoryId Category(int n) => CategoryId.From(Id(n));

    /// <summary>A festival with a night and a final beneath it, a winter beside it that is out of view; two tags; three albums joined.</summary>
    static readonly Holdings Club = new(
        new CategoryTree([new(Category(1), null, "Festival", 1), new(Category(2), Category(1), "Night", 1), new(Category(3), Category(2), "Final", 1), new(Category(4), null, "Winter", 2, Shown: false)]).InView(),
        new (CategoryId Category, int Photo)[] { (Category(1), 0), (Category(3), 1), (Category(3), 2), (Category(4), 3) }.ToLookup(h => h.Category, h => h.Photo),
        new Dictionary<TagId, Held> { [TagId.From(Id(1))] = new("delta", [0, 3]), [TagId.From(Id(2))] = new("Final", [1]) },
        [(AlbumId.From(Id(1)), new("Pier", [0, 1])), (AlbumId.From(Id(2)), new("All", [2])), (AlbumId.From(Id(3)), new("Dunes", []))]);

    static BarButton Of(BarKind kind, int? thing, string words = "", bool beneath = false, bool preset = false) => new(kind, thing is { } n ? Id(n) : null, words, beneath, preset);

    static string[] Made(params BarGroup[] groups)
    {
        var bar = BarButtons.Of(BarSettings.Of(groups), 4, Club);
        var counts = bar.Apply(new HashSet<int>()).Counts;
        return [.. bar.Entries.Select((e, i) => $"{e.Group}{(e.Parent >= 0 ? $"<{e.Parent}" : "")} {e.Key}: {e.Name} {counts[i]}{(e.Preset ? " *" : "")}")];
    }

    [Fact]
    public void A_category_finds_what_stands_beneath_it_whether_that_has_buttons_or_not()
    {
        Assert.Equal(["0 festival: Festival 3", "0<0 night: Night 2", "0<1 final: Final 2"], Made(new BarGroup("", One: false, [Of(BarKind.Category, 1, beneath: true)])));
        Assert.Equal(["0 two-days: Two days 3 *"], Made(new BarGroup("", One: false, [Of(BarKind.Category, 1, "Two days", preset: true)])));
        // One that was given before what it stands beneath has one button, and what is above it counts it all the same.
        Assert.Equal(["0 night: Night 2", "0 festival: Festival 3", "0<0 final: Final 2"], Made(new BarGroup("", One: false, [Of(BarKind.Category, 2), Of(BarKind.Category, 1, beneath: true)])));
    }

    [Fact]
    public void What_finds_nothing_or_is_out_of_view_has_no_button_and_a_group_without_buttons_is_none() => Assert.Equal(
        ["0 delta: delta 2"],
        Made(new BarGroup("Where", One: true, [Of(BarKind.Category, 4), Of(BarKind.Album, 3), Of(BarKind.Album, 9), Of(BarKind.Tag, 9)]), new BarGroup("Kites", One: false, [Of(BarKind.Tag, 1)])));

    [Fact]
    public void Each_album_is_a_button_but_those_that_have_one_in_any_group_and_no_two_keys_are_one() => Assert.Equal(
        ["0 all-2: All 1", "1 by-the-water: By the water 2", "1 final: Final 1", "2 final-2: Final 2"],
        Made(
            new BarGroup("", One: false, [Of(BarKind.EachAlbum, null)]),
            new BarGroup("", One: false, [Of(BarKind.Album, 1, "By the water"), Of(BarKind.Tag, 2)]),
            new BarGroup("", One: false, [Of(BarKind.Category, 3)])));

    [Fact]
    public void Whatever_is_set_keys_are_unique_parents_stand_before_their_children_in_one_group_and_every_button_finds_a_photo()
    {
        var buttons = Gen.Select(Gen.Int[0, 3], Gen.Int[1, 4], Gen.Bool, Gen.Bool, (kind, thing, beneath, preset) => Of((BarKind)kind, kind == 3 ? null : thing, beneath: beneath, preset: preset)).Array[0, 5];
        Gen.Select(buttons, Gen.Bool, (b, one) => new BarGroup("", one, b)).Array[0, 4].Sample(groups =>
        {
            var bar = BarButtons.Of((BarSettings.None with { Groups = groups }).Whole(), 4, Club);
            Assert.Equal(bar.Entries.Count, bar.Entries.Select(e => e.Key).Append(FilterBar.Nothing).Distinct().Count() - 1);
            Assert.All(bar.Entries.Index(), e => Assert.True(e.Item.Parent < e.Index && (e.Item.Parent < 0 || bar.Entries[e.Item.Parent].Group == e.Item.Group)));
            Assert.All(bar.Apply(new HashSet<int>()).Counts, count => Assert.True(count > 0));
            Assert.Equal(Enumerable.Range(0, bar.Groups.Count), bar.Entries.Select(e => e.Group).Distinct());
        });
    }
}
