using Jovitar.Core.Taxonomy;

namespace Jovitar.Core.Tests;

public sealed class TaxonomyTests
{
    [Theory]
    [InlineData("Night flight", "  night   FLIGHT ")]
    [InlineData("Größe", "GRÖSSE", false)]
    [InlineData("café", "Cafe\u0301")]
    [InlineData("box kite", "box\u00A0kite")]
    [InlineData("ﬁne", "fine")]
    public void Case_and_spacing_never_split_one_tag_in_two(string one, string other, bool same = true)
    {
        Assert.True(TagName.TryParse(one, out var a));
        Assert.True(TagName.TryParse(other, out var b));
        Assert.Equal(same, a.Key == b.Key);
    }

    [Theory]
    [InlineData("")]
    [InlineData("   \t")]
    [InlineData("\u200B")]
    [InlineData(null)]
    public void Nothing_is_no_tag(string? text) => Assert.False(TagName.TryParse(text, out _));

    [Fact]
    public void A_tag_has_at_most_eighty_characters()
    {
        Assert.True(TagName.TryParse(new string('a', 80), out _));
        Assert.False(TagName.TryParse(new string('a', 81), out _));
    }

    [Fact]
    public void Several_names_are_each_taken_once() => Assert.Equal(["Delta", "night"], TagName.All(["Delta", "", "delta ", "night"]).Select(t => t.Text));

    [Theory]
    [InlineData("kite", "Kites")]
    [InlineData("Berry", "berries")]
    [InlineData("box", "boxes")]
    [InlineData("beach", "Beaches")]
    [InlineData("night-flight", "Night flights")]
    [InlineData("sand castle", "sandcastles")]
    [InlineData("café", "cafes")]
    [InlineData("children's day", "Childrens day")]
    [InlineData("Größe", "GROSSE", false)]
    [InlineData("glass", "glas", false)]
    [InlineData("status", "statu", false)]
    [InlineData("tennis", "tenni", false)]
    [InlineData("bus", "bu", false)]
    [InlineData("monkey", "monkeys")]
    [InlineData("tie", "ties")]
    [InlineData("delta", "Delta 2", false)]
    public void Tags_that_are_likely_one_are_near_twins(string one, string other, bool twins = true) =>
        Assert.Equal(twins, TagTwins.Likeness(one) == TagTwins.Likeness(other));

    [Fact]
    public void Near_twins_stand_in_groups_and_signs_alone_are_none() =>
        Assert.Equal([["kite", "Kites"], ["box", "boxes"]], TagTwins.Groups(["kite", "!", "box", "delta", "?", "Kites", "boxes"], t => t));

    static readonly CategoryId Festival = new(new Guid(1, 0, 0, new byte[8])), Night = new(new Guid(2, 0, 0, new byte[8])), Late = new(new Guid(3, 0, 0, new byte[8])), Shop = new(new Guid(4, 0, 0, new byte[8]));

    static CategoryTree Tree() => new([new(Late, Night, "Late", 0), new(Shop, null, "Shop", 0), new(Festival, null, "Festival", 1), new(Night, Festival, "Night", 0)]);

    [Fact]
    public void Parents_come_before_children_and_siblings_in_their_order() =>
        Assert.Equal([(Shop, 0), (Festival, 0), (Night, 1), (Late, 2)], Tree().InOrder().Select(t => (t.Node.Id, t.Depth)));

    [Fact]
    public void A_category_holds_all_beneath_it() => Assert.Equal([Festival, Night, Late], Tree().WithDescendants(Festival));

    [Fact]
    public void A_category_cannot_stand_beneath_itself_or_what_it_holds()
    {
        Assert.False(Tree().MayStandBeneath(Festival, Festival));
        Assert.False(Tree().MayStandBeneath(Festival, Late));
        Assert.True(Tree().MayStandBeneath(Late, Festival));
        Assert.True(Tree().MayStandBeneath(Late, null));
    }

    [Fact]
    public void What_is_out_of_view_takes_all_beneath_it_along()
    {
        var tree = new CategoryTree([new(Late, Night, "Late", 0), new(Shop, null, "Shop", 0), new(Festival, null, "Festival", 1, Shown: false), new(Night, Festival, "Night", 0)]);
        Assert.Equal([Festival, Festival, Festival, null], ((CategoryId[])[Festival, Night, Late, Shop]).Select(tree.HiddenBy));
        Assert.Equal([Shop], tree.InView().InOrder().Select(n => n.Node.Id));
        tree = new CategoryTree([new(Late, Night, "Late", 0, Shown: false), new(Festival, null, "Festival", 1, Shown: false), new(Night, Festival, "Night", 0)]);
        Assert.Equal(Late, tree.HiddenBy(Late));
    }
}
