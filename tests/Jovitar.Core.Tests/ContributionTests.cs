using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Contributions;
using Jovitar.Core.People;

namespace Jovitar.Core.Tests;

/// <summary>Photos that are sent in: by whom, how many, and what may be done with them until when.</summary>
public sealed class ContributionTests
{
    static readonly DateTimeOffset Now = new(2026, 6, 1, 12, 0, 0, TimeSpan.Zero);

    static readonly Viewer Member = Alike.Member(Guid.NewGuid(), []);

    static readonly LinkWords Link = new("Regatta", "From a boat, please.", "I took these.", null, ForMembers: false, 20);

    static Decision Decide(Viewer viewer, Thing thing) => Access.Access.Decide(viewer, Right.Contribute, thing, Now);

    [Fact]
    public void By_an_open_link_anybody_sends_and_by_one_for_members_members_do()
    {
        Assert.True(Decide(Viewer.Nobody, Link.Thing(withdrawn: false, Now)).Allowed);
        Assert.True(Decide(Member, Link.Thing(withdrawn: false, Now)).Allowed);
        var forMembers = Link with { ForMembers = true };
        Assert.Equal([Reason.ForMembersOnly], Decide(Viewer.Nobody, forMembers.Thing(withdrawn: false, Now)).Reasons);
        Assert.True(Decide(Member, forMembers.Thing(withdrawn: false, Now)).Allowed);
        // Staff try what they made.
        Assert.True(Decide(new Viewer(Role.Editor), forMembers.Thing(withdrawn: false, Now)).Allowed);
    }

    [Fact]
    public void By_a_link_that_has_ended_or_was_withdrawn_nobody_sends_not_even_staff()
    {
        foreach (var viewer in (Viewer[])[Viewer.Nobody, Member, new(Role.Editor), new(Role.Owner)])
        {
            Assert.Equal([Reason.TakesNoPhotos], Decide(viewer, Link.Thing(withdrawn: true, Now)).Reasons);
            Assert.Equal([Reason.TakesNoPhotos], Decide(viewer, (Link with { Ends = Now }).Thing(withdrawn: false, Now)).Reasons);
            Assert.True(Decide(viewer, (Link with { Ends = Now.AddSeconds(1) }).Thing(withdrawn: false, Now)).Allowed);
        }
    }

    [Fact]
    public void A_place_of_their_own_have_members_who_were_given_it()
    {
        Assert.True(Decide(Member, new OwnPlace(Contributing.Waits)).Allowed);
        Assert.True(Decide(Member, new OwnPlace(Contributing.Trusted)).Allowed);
        Assert.Equal([Reason.TakesNoPhotos], Decide(Member, new OwnPlace(Contributing.No)).Reasons);
        Assert.Equal([Reason.ForMembersOnly], Decide(Viewer.Nobody, new OwnPlace(Contributing.Trusted)).Reasons);
        Assert.Equal([Reason.ForMembersOnly], Decide(new Viewer(Role.Owner), new OwnPlace(Contributing.Trusted)).Reasons);
    }

    [Fact]
    public void Nothing_else_takes_photos() => Assert.Equal([Reason.ForStaffOnly], Decide(Member, new TheWorkroom()).Reasons);

    [Theory]
    [InlineData(false, 0, 20, 0, 0, null)]
    [InlineData(false, 19, 20, 19, 0, null)]
    [InlineData(false, 20, 20, 20, 0, SendingRefusal.Full)]
    [InlineData(false, 200, 500, 200, 0, SendingRefusal.Full)]
    [InlineData(false, 3, 20, 1999, 0, null)]
    [InlineData(false, 3, 20, 2000, 0, SendingRefusal.TooMuchWaits)]
    [InlineData(false, 3, 20, 3, 20L << 30, SendingRefusal.TooMuchWaits)]
    [InlineData(true, 3, 20, 3, 0, SendingRefusal.Sent)]
    public void One_more_is_taken_while_there_is_room(bool isSent, int photos, int most, int waiting, long bytes, SendingRefusal? refusal) =>
        Assert.Equal(refusal, Sending.RefusesMore(isSent, photos, most, waiting, bytes));

    [Fact]
    public void Words_are_mended_until_somebody_has_decided_and_photos_are_taken_back_also_after_they_were_accepted()
    {
        Assert.Equal([SentState.Waiting], Enum.GetValues<SentState>().Where(s => Sending.CanMend(s)));
        Assert.Equal([SentState.Waiting, SentState.Accepted], Enum.GetValues<SentState>().Where(Sending.CanWithdraw));
    }

    [Theory]
    [InlineData(SentState.Waiting, true, true, true)]
    [InlineData(SentState.Refused, true, true, false)]
    [InlineData(SentState.Refused, false, false, false)]
    [InlineData(SentState.Accepted, true, false, false)]
    [InlineData(SentState.Withdrawn, false, false, false)]
    public void Staff_decide_on_what_waits_and_think_again_of_what_they_refused_as_long_as_it_is_kept(SentState from, bool isKept, bool accept, bool refuse)
    {
        Assert.Equal(accept, Sending.CanDecide(from, isKept, SentState.Accepted));
        Assert.Equal(refuse, Sending.CanDecide(from, isKept, SentState.Refused));
        Assert.False(Sending.CanDecide(from, isKept, SentState.Withdrawn));
        Assert.False(Sending.CanDecide(from, isKept, SentState.Waiting));
    }

    [Fact]
    public void A_link_says_what_is_wrong_with_it_field_by_field()
    {
        Assert.Empty(Link.Faults(Now));
        Assert.Equal(["title"], (Link with { Title = " " }).Faults(Now).Keys);
        Assert.Equal(["title", "words", "agree", "ends", "most"], new LinkWords(new string('a', 121), new string('a', 4001), new string('a', 401), Now, false, 0).Faults(Now).Keys);
        Assert.Equal(["most"], (Link with { Most = 201 }).Faults(Now).Keys);
        var kept = new LinkWords("  Regatta \t 2026 ", "One\r\n\r\nTwo\r\n", "I took\r\nthese", new DateTimeOffset(2026, 6, 2, 1, 0, 0, TimeSpan.FromHours(2)), true, 5).AsKept();
        Assert.Equal(new LinkWords(kept.Title, "One\n\nTwo", "I took these", new DateTimeOffset(2026, 6, 1, 23, 0, 0, TimeSpan.Zero), true, 5), kept);
        Assert.Equal(TimeSpan.Zero, kept.Ends!.Value.Offset);
    }

    [Fact]
    public void Whoever_sends_says_who_they_are_unless_that_is_known()
    {
        var wish = new SendWish("", "", "", Agreed: false);
        Assert.Equal(["name", "agreed"], wish.Faults("I took these.", isKnown: false).Keys);
        Assert.Equal(["agreed"], wish.Faults("I took these.", isKnown: true).Keys);
        Assert.Empty(wish.Faults("", isKnown: true));
        Assert.Empty(new SendWish("Silke", "silke@example.test", "Hello", Agreed: true).Faults("I took these.", isKnown: false));
        Assert.Equal(["email"], new SendWish("Silke", "nowhere", "", Agreed: true).Faults("", isKnown: false).Keys);
        Assert.Equal(new SendWish("Silke Aumann", "silke@example.test", "One\n\nTwo", true), new SendWish(" Silke\r\nAumann ", " silke@example.test ", "One\r\n\r\nTwo ", true).Trimmed());
    }

    [Theory]
    [InlineData(0, 0, 0, 0, "No photographs.")]
    [InlineData(1, 0, 0, 0, "1 photograph waits to be looked at.")]
    [InlineData(4, 0, 0, 0, "4 photographs wait to be looked at.")]
    [InlineData(2, 1, 0, 0, "2 photographs wait to be looked at, 1 is taken.")]
    [InlineData(0, 5, 1, 2, "5 photographs are taken, 1 is not taken, 2 were taken back.")]
    public void Where_photos_stand_is_said_in_a_sentence(int waiting, int accepted, int refused, int withdrawn, string says) =>
        Assert.Equal(says, SendingWords.Standing(waiting, accepted, refused, withdrawn));

    [Fact]
    public void What_was_decided_is_said_in_the_history()
    {
        Assert.Equal("Accepted 1 photo of Silke.", ContributionWords.Accepted(1, "Silke"));
        Assert.Equal("Refused 2 photos of Silke.", ContributionWords.Refused(2, "Silke", ""));
        Assert.Equal("Refused 2 photos of Silke: We have these.", ContributionWords.Refused(2, "Silke", "We have these."));
        Assert.Equal("Wren may send photos in; they are accepted by themselves.", ContributionWords.Said("Wren", Contributing.Trusted));
        Assert.Equal("Members who send photos in put their albums into 1 category of their choice.", ContributionWords.Offered(1));
        Assert.Equal("Took in what Silke sent.", ActWords.Intake("sent", "Silke"));
    }

    [Fact]
    public void Letters_to_addresses_that_anybody_may_have_typed_carry_none_of_their_words()
    {
        var receipt = Letters.Receipt("The guild", 2, "https://example.test/sent/abc");
        Assert.Contains("2 photographs", receipt.Text, StringComparison.Ordinal);
        Assert.Contains("https://example.test/sent/abc", receipt.Text, StringComparison.Ordinal);
        var decided = Letters.Decided("The guild", 1, 2, ["Too dark.\nReally."]);
        Assert.Contains("one was taken, 2 were not.", decided.Text, StringComparison.Ordinal);
        Assert.Contains("> Too dark. Really.", decided.Text, StringComparison.Ordinal);
        Assert.DoesNotContain("\n\n\n", Letters.Decided("The guild", 1, 0, []).Text.Replace("\r", "", StringComparison.Ordinal), StringComparison.Ordinal);
    }
}
