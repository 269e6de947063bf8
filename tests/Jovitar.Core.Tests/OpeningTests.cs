using CsCheck;
using Jovitar.Core.Access;
using Jovitar.Core.Clearance;
using Jovitar.Core.Acts;
using Jovitar.Core.Opening;

namespace Jovitar.Core.Tests;

/// <summary>The site's front, its door, and the path from a new site to an open one.</summary>
public sealed class OpeningTests
{
    static readonly DateTimeOffset Now = new(2026, 6, 13, 9, 0, 0, TimeSpan.Zero);

    static readonly Front Usual = new("Marram Bay Kite Guild", "", IsOpen: true, "", IsListed: true, StartsAt: null, HasFavourites: false);

    [Fact]
    public void A_closed_site_lets_in_staff_alone()
    {
        foreach (var role in Enum.GetValues<Role>())
        {
            Assert.True(Access.Access.Decide(new Viewer(role), Right.See, new TheSite(IsOpen: true), Now).Allowed);
            var closed = Access.Access.Decide(new Viewer(role), Right.See, new TheSite(IsOpen: false), Now);
            var isStaff = role is Role.Editor or Role.Owner;
            Assert.Equal(isStaff, closed.Allowed);
            Assert.Equal([isStaff ? Reason.IsStaff : Reason.NotOpenYet], closed.Reasons);
        }
    }

    [Fact]
    public void On_a_closed_site_the_line_says_what_opening_it_would_change_and_else_what_it_always_says()
    {
        static (bool, string) Line(Thing thing) => AudienceLine.Of(thing, new TheSite(IsOpen: false), Now) is var line ? (line.Everyone, line.Sentence) : default;
        var shown = new PhotoThing(PhotoState.Ready, LeftOut: false, Binned: false, new ShownOn(1), PhotoClearance.Nothing);
        Assert.Equal((false, "Only staff can see this until the site is opened."), Line(shown));
        Assert.Equal((false, "Only staff can see this page until the site is opened."), Line(new PageThing(false, true, true)));
        foreach (var open in (bool[])[true, false])
        {
            Assert.Equal("Only staff can see this page; it is a draft.", AudienceLine.Of(new PageThing(false, false, true), new TheSite(open), Now).Sentence);
        }
    }

    /// <summary>Whatever a site is, the next step is the first that is not taken, and it is over when all are.</summary>
    [Fact]
    public void The_next_step_is_the_first_that_is_not_taken() =>
        Gen.Select(Gen.Bool.Select(named => named ? "A site" : ""), Gen.Bool, Gen.Bool, Gen.Long[0, 2], Gen.Bool).Sample((title, dressed, photos, shown, open) =>
        {
            var path = FirstHour.Of(new Beginnings(title, dressed, photos, shown, open));
            bool[] taken = [title.Length > 0, dressed, photos, shown > 0, open];
            Assert.Equal(Enum.GetValues<FirstStep>(), path.Steps.Select(s => s.Step));
            Assert.Equal(taken, path.Steps.Select(s => s.IsTaken));
            var first = Array.IndexOf(taken, false);
            Assert.Equal(first < 0 ? null : (FirstStep)first, path.Next);
        });

    [Theory]
    [InlineData("", "title")]
    [InlineData(" \t ", "title")]
    [InlineData("\u202e\u200f", "title")]
    [InlineData("\u200b", "title")]
    [InlineData("a\0b", "title")]
    public void A_site_has_a_name_that_can_be_read(string title, string field) => Assert.Equal([field], (Usual with { Title = title }).Faults().Keys);

    [Fact]
    public void What_a_site_says_has_bounds()
    {
        Assert.Empty(Usual.Faults());
        // Half of a surrogate pair, which no attribute could hold.
        Assert.Equal(["title"], (Usual with { Title = "\ud800" }).Faults().Keys);
        Assert.Empty((Usual with { Title = new string('x', Front.LongestTitle), Tagline = new string('x', Front.LongestTagline), Meanwhile = new string('x', Front.LongestMeanwhile) }).Faults());
        Assert.Equal(
            ["meanwhile", "tagline", "title"],
            (Usual with { Title = new string('x', Front.LongestTitle + 1), Tagline = new string('x', Front.LongestTagline + 1), Meanwhile = new string('x', Front.LongestMeanwhile + 1) }).Faults().Keys.Order());
    }

    [Fact]
    public void A_name_is_one_line() => Assert.Equal("A club of gpj.exe", (Usual with { Title = "  A club\r\nof \u202egpj.exe\n" }).Trimmed().Title);

    [Fact]
    public void Its_sentence_says_before_all_whether_visitors_may_come_in()
    {
        Assert.Equal("Closed the site to visitors.", FrontWords.Changed(Usual, Usual with { Title = "Other", IsOpen = false }));
        Assert.Equal("Opened the site to visitors.", FrontWords.Changed(Usual with { IsOpen = false }, Usual));
        Assert.Equal("Named the site “Other”.", FrontWords.Changed(Usual, Usual with { Title = "Other", IsListed = false }));
        Assert.Equal("Asked search engines not to list the site.", FrontWords.Changed(Usual, Usual with { IsListed = false }));
        Assert.Equal("Let search engines list the site.", FrontWords.Changed(Usual with { IsListed = false }, Usual));
        Assert.Equal("Let visitors mark favourites.", FrontWords.Changed(Usual, Usual with { HasFavourites = true }));
        Assert.Equal("No longer let visitors mark favourites.", FrontWords.Changed(Usual with { HasFavourites = true }, Usual));
        Assert.Equal("Said where visitors begin.", FrontWords.Changed(Usual, Usual with { StartsAt = new PageId(Guid.NewGuid()) }));
        Assert.Equal("Changed what the site says of itself.", FrontWords.Changed(Usual, Usual with { Tagline = "Kites" }));
    }
}
