using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Albums;
using Jovitar.Core.Favourites;
using Jovitar.Core.Pages;

namespace Jovitar.Core.Tests;

/// <summary>Favourites that an album asks for: whom, how many, how long; and what it lets whom save.</summary>
public sealed class ChoosingTests
{
    static readonly DateTimeOffset Now = new(2026, 6, 1, 12, 0, 0, TimeSpan.Zero);

    static readonly Viewer Holder = Viewer.Nobody with { Holds = new HashSet<Guid> { Guid.NewGuid() } };

    static readonly Viewer Member = Alike.Member(Guid.NewGuid(), []);

    static AlbumToChooseFrom Album(bool asks = true, bool binned = false, params Gate[] gates) => new(new AlbumThing(binned, new ShownOn(1)) { Gates = gates }, asks);

    [Fact]
    public void Only_those_whom_the_site_knows_and_who_see_the_album_are_asked()
    {
        Decision Of(Viewer viewer, AlbumToChooseFrom album) => Access.Access.Decide(viewer, Right.Choose, album, Now);
        Assert.True(Of(Holder, Album()).Allowed);
        Assert.True(Of(Member, Album()).Allowed);
        Assert.Equal([Reason.NotKnown], Of(Viewer.Nobody, Album()).Reasons);
        Assert.Equal([Reason.NotOffered], Of(Member, Album(asks: false)).Reasons);
        Assert.Equal([Reason.InTheBin], Of(Member, Album(binned: true)).Reasons);
        var staffOnly = new Gate(Guid.NewGuid(), "album", "Night", new Audience(Admitted.Staff));
        Assert.Equal([Reason.NotLetIn], Of(Member, Album(gates: staffOnly)).Reasons);
        // Whoever makes pages sees all of them and is nobody who chooses.
        Assert.False(Of(Viewer.Somebody, Album()).Allowed);
    }

    [Theory]
    [InlineData(null, null, 0, null)]
    [InlineData(3, null, 2, null)]
    [InlineData(3, null, 3, Refusal.Full)]
    [InlineData(3, null, 4, Refusal.Full)]
    [InlineData(null, null, 999, null)]
    [InlineData(null, null, 1000, Refusal.Full)]
    [InlineData(3, 1, 2, null)]
    [InlineData(3, 0, 2, Refusal.Over)]
    [InlineData(3, -1, 3, Refusal.Over)]
    public void One_more_is_chosen_while_there_is_room_and_time(int? most, int? hoursLeft, int chosen, Refusal? refusal)
    {
        var choosing = new Choosing(most, hoursLeft is { } hours ? Now.AddHours(hours) : null, "");
        Assert.Equal(refusal, choosing.RefusesMore(sent: null, chosen, Now));
        // To let go of one there is always room.
        Assert.Equal(refusal is Refusal.Full ? null : refusal, choosing.Refuses(sent: null, Now));
        Assert.Equal(Refusal.Sent, choosing.RefusesMore(Now, chosen, Now));
        Assert.Equal(Refusal.Sent, choosing.Refuses(Now, Now));
    }

    [Fact]
    public void What_is_asked_is_said_in_a_sentence()
    {
        Assert.Equal("", ChoosingWords.Terms(new Choosing(null, null, "")));
        Assert.Equal("One of them.", ChoosingWords.Terms(new Choosing(1, null, "")));
        Assert.Equal("Up to 20.", ChoosingWords.Terms(new Choosing(20, null, "")));
        Assert.Equal("You have until 1 June 2026, 12:00 UTC.", ChoosingWords.Terms(new Choosing(null, Now, "")));
        Assert.Equal("Up to 1,000, until 1 June 2026, 12:00 UTC.", ChoosingWords.Terms(new Choosing(1000, Now, "")));
        Assert.Equal("You may choose 3. Let go of one first.", ChoosingWords.Refused(Refusal.Full, new Choosing(3, null, "")));
        Assert.Equal("More than 1,000 cannot be chosen.", ChoosingWords.Refused(Refusal.Full, new Choosing(null, null, "")));
        Assert.Equal("This was possible until 1 June 2026, 12:00 UTC.", ChoosingWords.Refused(Refusal.Over, new Choosing(null, Now, "")));
    }

    [Fact]
    public void What_cannot_be_asked_is_said_by_field()
    {
        Assert.Empty(new Choosing(1, null, "").Faults());
        Assert.Equal(["asks", "most"], new Choosing(0, null, new string('x', 401)).Faults().Keys.Order());
        Assert.Equal(["most"], new AlbumOffers(Saving.Nothing, Saving.Nothing, new Choosing(1001, null, "")).Faults().Keys);
        Assert.Equal(new Choosing(2, Now, "Two, please."), new Choosing(2, Now.ToOffset(TimeSpan.FromHours(2)), " Two, please.\n").AsKept());
    }

    [Theory]
    [InlineData(Saving.Nothing, Saving.Nothing, false, Saving.Nothing)]
    [InlineData(Saving.Nothing, Saving.Full, false, Saving.Nothing)]
    [InlineData(Saving.Nothing, Saving.Full, true, Saving.Full)]
    [InlineData(Saving.Large, Saving.Nothing, true, Saving.Large)]
    [InlineData(Saving.Full, Saving.Large, true, Saving.Full)]
    public void Those_whom_it_knows_may_save_what_everyone_may_and_more(Saving everyone, Saving known, bool isKnown, Saving saves) =>
        Assert.Equal(saves, new AlbumOffers(everyone, known, null).SavesFor(isKnown));

    [Theory]
    [InlineData(Saving.Nothing, true, 9, false)]
    [InlineData(Saving.Large, true, 9, true)]
    [InlineData(Saving.Large, true, 1, false)]
    [InlineData(Saving.Large, false, 9, false)]
    public void All_at_once_is_for_those_whom_it_knows_and_lets_save(Saving known, bool isKnown, int photos, bool all) =>
        Assert.Equal(all, new AlbumOffers(Saving.Full, known, null).SavesAllFor(isKnown, photos));

    [Fact]
    public void The_history_says_what_is_offered_from_then_on()
    {
        var nothing = new AlbumOffers(Saving.Nothing, Saving.Nothing, null);
        var asks = nothing with { Choosing = new Choosing(3, null, "") };
        Assert.Equal("Of “Night”: asked visitors whom it knows for their favourites.", OfferWords.Said("Night", nothing, asks));
        Assert.Equal("Of “Night”: changed what visitors are asked for.", OfferWords.Said("Night", asks, asks with { Choosing = new Choosing(4, null, "") }));
        Assert.Equal("Of “Night”: no longer asked for favourites, let everyone save photos in full size.", OfferWords.Said("Night", asks, nothing with { Saves = Saving.Full }));
    }

    [Fact]
    public void The_letter_to_the_owner_quotes_what_is_said_and_leads_there()
    {
        var letter = People.Letters.Favourites("Marram Bay", "Odile", "The Harrow family", "Strand", 3, "Large, please.\nAll three.", "https://example.test/workroom/albums/1");
        Assert.Equal("Marram Bay: favourites of The Harrow family", letter.Subject);
        Assert.Contains("The Harrow family has chosen 3 photographs of “Strand” and says:", letter.Text, StringComparison.Ordinal);
        Assert.Contains("> Large, please.\n> All three.", letter.Text, StringComparison.Ordinal);
        Assert.Contains("https://example.test/workroom/albums/1", letter.Text, StringComparison.Ordinal);
        Assert.Contains("They wait on the desk", People.Letters.Favourites("S", "O", "W", "A", 1, "", null).Text, StringComparison.Ordinal);
    }
}
