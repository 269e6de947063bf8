using CsCheck;
using Jovitar.Core.Access;
using Jovitar.Core.Clearance;

namespace Jovitar.Core.Tests;

/// <summary>Whether a photo may be shown at all: by the days, against what somebody would say who reads the rules aloud.</summary>
public sealed class ClearanceTests
{
    static Gen<T> Among<T>(params T[] all) => Gen.Int[0, all.Length - 1].Select(i => all[i]);

    static readonly DateTimeOffset Now = new(2026, 6, 13, 9, 0, 0, TimeSpan.Zero);

    static readonly DateOnly Today = new(2026, 6, 13);

    static readonly Gen<DateOnly?> Days = Gen.OneOf(Gen.Const((DateOnly?)null), Gen.Int[-2, 2].Select(d => (DateOnly?)Today.AddDays(d)));

    static readonly Gen<PhotoClearance> All =
        Gen.Select(
            Among(Clearances.Unknown, Clearances.Cleared, Clearances.NotCleared, Clearances.Ended), Days, Among(Consents.Nothing, Consents.Yes, Consents.No), Days, Gen.Bool,
            (said, until, people, peopleUntil, needed) => new PhotoClearance(said, until, people, peopleUntil, needed));

    static PhotoThing Shown(PhotoClearance clearance) => new(PhotoState.Ready, LeftOut: false, Binned: false, new ShownOn(1), clearance);

    [Fact]
    public void A_no_wins_whatever_else_is_said_and_whenever() =>
        Gen.Select(All, Gen.Int[-2000, 2000]).Sample((clearance, days) =>
        {
            if (clearance.Said == Clearances.NotCleared || clearance.People == Consents.No)
            {
                Assert.Equal(Clearances.NotCleared, clearance.At(Now.AddDays(days)));
                Assert.False(Access.Access.Decide(Viewer.Nobody, Right.See, Shown(clearance), Now.AddDays(days)).Allowed);
            }
        });

    [Fact]
    public void Visitors_see_what_the_rules_let_them() =>
        All.Sample(clearance =>
        {
            var refused = clearance.Said == Clearances.NotCleared || clearance.People == Consents.No;
            var photo = clearance.Said == Clearances.Cleared && !(clearance.Until < Today);
            var people = clearance.People == Consents.Yes && !(clearance.PeopleUntil < Today);
            Assert.Equal(!refused && (photo || people || !clearance.IsNeeded), Access.Access.Decide(Viewer.Nobody, Right.See, Shown(clearance), Now).Allowed);
            Assert.True(Access.Access.Decide(new Viewer(Role.Editor), Right.See, Shown(clearance), Now).Allowed);
        });

    [Fact]
    public void A_right_that_rests_on_seeing_falls_with_it() =>
        All.Sample(clearance =>
        {
            var seen = Access.Access.Decide(Viewer.Nobody, Right.See, Shown(clearance), Now);
            foreach (var decision in (Decision[])
                [
                    Access.Access.Decide(Viewer.Nobody, Right.Save, new PhotoToSave(Shown(clearance), Pages.Saving.Full), Now),
                    Access.Access.Decide(Viewer.Nobody, Right.Comment, new PhotoToTalkOf(Shown(clearance), Comments.TalkFor.Everyone, Comments.TalkFor.Everyone), Now),
                    Access.Access.Decide(Viewer.Nobody, Right.Rate, new PhotoToTalkOf(Shown(clearance), Comments.TalkFor.Everyone, Comments.TalkFor.Everyone), Now),
                ])
            {
                Assert.Equal(seen.Allowed, decision.Allowed);
                Assert.True(seen.Allowed || decision.Reasons.SequenceEqual(seen.Reasons));
            }
        });

    [Fact]
    public void The_last_day_counts_in_whole()
    {
        var clearance = new PhotoClearance(Clearances.Cleared, Today, IsNeeded: true);
        var midnight = new DateTimeOffset(2026, 6, 14, 0, 0, 0, TimeSpan.Zero);
        Assert.Equal(Clearances.Cleared, clearance.At(midnight.AddTicks(-1)));
        Assert.Equal(Clearances.Unknown, clearance.At(midnight));
        Assert.Equal(Today, clearance.RanOut(midnight));
        Assert.Null(clearance.RanOut(midnight.AddTicks(-1)));
    }

    /// <summary>A school, a club and a photographer: what is said, and the sentence under the photo.</summary>
    [Theory]
    [InlineData("a school: the family said no", "", "no", true, "Only staff can see this; somebody whom it shows says no.")]
    [InlineData("a school: no, though the photo was cleared", "cleared", "no", true, "Only staff can see this; somebody whom it shows says no.")]
    [InlineData("a school: all on it said yes", "", "yes", true, "Everyone can see this, on one page.")]
    [InlineData("a school: nobody has looked yet", "", "", true, "Only staff can see this; nobody has cleared it yet.")]
    [InlineData("a school: cleared until the end of last term", "ended", "", true, "Only staff can see this; its clearance ended on 12 June 2026.")]
    [InlineData("a club: nobody has said anything", "", "", false, "Everyone can see this, on one page.")]
    [InlineData("a club: one asked for it to go", "not_cleared", "", false, "Only staff can see this; it is not cleared.")]
    [InlineData("a photographer: the release is signed", "cleared", "", true, "Everyone can see this, on one page.")]
    public void The_line_under_a_photo_says_why(string _, string said, string people, bool needed, string sentence) =>
        Assert.Equal(sentence, AudienceLine.Of(Shown(new PhotoClearance(said, said == "ended" ? Today.AddDays(-1) : null, people, null, needed)), new TheSite(IsOpen: true), Now).Sentence);

    /// <summary>Pressed, the line gives every reason of the decision, a sentence each, and never says that visitors see what they do not.</summary>
    [Fact]
    public void The_line_says_why_in_whole_sentences() =>
        Gen.Select(All, Gen.Bool, Gen.Bool).Sample((clearance, left, open) =>
        {
            var photo = Shown(clearance) with { LeftOut = left };
            var line = AudienceLine.Of(photo, new TheSite(open), Now);
            var decision = Access.Access.Decide(Viewer.Nobody, Right.See, photo, Now);
            Assert.All(line.Why, w => Assert.Matches("^[A-Z].*[.]$", w));
            Assert.Equal(line.Why.Count, line.Why.Distinct().Count());
            Assert.True(line.Why.Count >= decision.Reasons.Count + (open ? 0 : 1));
            Assert.Equal(!decision.Allowed && clearance.At(Now) == Clearances.NotCleared, line.Why.Any(w => w.Contains("whatever else is set", StringComparison.Ordinal)));
            Assert.Equal(decision.Allowed, line.Why.Contains("It stands on a page that visitors can open."));
            Assert.Equal(!open, line.Why.Contains("The site is not open to visitors yet."));
        });

    [Theory]
    [InlineData(1, "Everyone can see this, on one page, without the one photo that is not cleared.")]
    [InlineData(6, "Everyone can see this, on one page, without the 6 photos that are not cleared.")]
    [InlineData(0, "Everyone can see this, on one page.")]
    public void The_line_of_an_album_counts_what_is_held(int held, string sentence) =>
        Assert.Equal(sentence, AudienceLine.Of(new AlbumThing(Binned: false, new ShownOn(1), held), new TheSite(IsOpen: true), Now).Sentence);

    [Theory]
    [InlineData("cleared", "", "2027-06-30", "the model release", "Cleared by the model release, until 30 June 2027.")]
    [InlineData("not_cleared", "yes", null, "", "Not cleared.")]
    [InlineData("", "no", null, "", "Not cleared: “Ada Thorne” says no.")]
    [InlineData("", "yes", null, "", "Cleared: all whom it shows say yes.")]
    [InlineData("", "", null, "", "Nobody has cleared it yet.")]
    [InlineData("ended", "", "2026-06-01", "her mother", "Its clearance ended on 1 June 2026.")]
    public void The_line_of_clearance_says_by_whom(string said, string people, string? until, string by, string sentence)
    {
        var day = until is null ? (DateOnly?)null : DateOnly.Parse(until, System.Globalization.CultureInfo.InvariantCulture);
        ShownPerson[] shown = [new("Ada Thorne", people), new("Ines Calloway", people == Consents.No ? Consents.Yes : people)];
        Assert.Equal(sentence, ClearanceLine.Of(new PhotoClearance(said, day, people), by, shown, Now).Sentence);
    }

    [Theory]
    [InlineData("Ada Thorne", "no", "", "", "Ada Thorne", "no", null)]
    [InlineData("  Ada   Thorne ", "NO", "2027-06-30", "", "Ada Thorne", "no", null)]
    [InlineData("Ines", "Yes", "2027-06-30", "her father", "Ines", "yes", "2027-06-30")]
    [InlineData("Ines", "1", "", "", "Ines", "yes", null)]
    [InlineData("'=Ines", "", "", "", "=Ines", "", null)]
    public void A_row_of_the_list_is_read(string name, string says, string until, string by, string read, string said, string? last)
    {
        var (person, wrong) = PersonTable.Read(column => column switch { PersonTable.Name => name, PersonTable.Says => says, PersonTable.Until => until, PersonTable.By => by, _ => null });
        Assert.Null(wrong);
        Assert.Equal(new PersonSaid(read, said, last is null ? null : DateOnly.Parse(last, System.Globalization.CultureInfo.InvariantCulture), by), person);
    }

    [Theory]
    [InlineData("", "yes", "", "It has no name.")]
    [InlineData("Ada", "perhaps", "", "“perhaps” is neither yes nor no.")]
    [InlineData("Ada", "yes", "30.06.2027", "“30.06.2027” is no day; it is written 2027-06-30.")]
    [InlineData("\u0000", "yes", "", "A person has a name of at most 120 letters.")]
    public void A_row_that_is_none_says_why(string name, string says, string until, string why) =>
        Assert.Equal(why, PersonTable.Read(column => column switch { PersonTable.Name => name, PersonTable.Says => says, PersonTable.Until => until, _ => null }).Wrong);

    [Fact]
    public void A_name_may_stand_in_two_columns() =>
        Assert.Equal("Ada Thorne", PersonTable.Read(column => column switch { PersonTable.FirstName => "Ada", PersonTable.LastName => "Thorne", PersonTable.Says => "no", _ => null }).Person!.Name);

    /// <summary>Whatever rows there are: everybody stands there once, each line is written or has its reason, and who says no anywhere says no.</summary>
    [Fact]
    public void A_no_is_never_passed_over_for_another_row() =>
        Gen.Select(Among("Ada", "ADA", " ada ", "Tam", ""), Among("yes", "no", "", "perhaps")).Array[0, 12].Sample(rows =>
        {
            var (persons, rejected) = PersonTable.All(rows.Select((r, i) => (i + 2, (Func<string, string?>)(column => column == PersonTable.Name ? r.Item1 : column == PersonTable.Says ? r.Item2 : null))));
            Assert.Equal(rows.Length, persons.Count + rejected.Count);
            Assert.Equal(rejected.Count, rejected.DistinctBy(r => r.Line).Count());
            var sound = rows.Where(r => r.Item1.Trim().Length > 0 && r.Item2 != "perhaps").GroupBy(r => r.Item1.Trim().ToUpperInvariant()).ToArray();
            Assert.Equal(sound.Select(g => g.Key), persons.Select(p => p.Name.ToUpperInvariant()));
            Assert.Equal(sound.Select(g => g.Any(r => r.Item2 == "no") ? "no" : g.First().Item2), persons.Select(p => p.Says));
        });

    /// <summary>What is written is read again as it was, also names that a spreadsheet would run.</summary>
    [Fact]
    public void A_list_comes_back_as_it_was_written() =>
        Gen.Select(Gen.String[Among('a', 'b', ' ', '=', '+', '-', '@', '\'', 'é'), 1, 12].Where(n => n.Trim().Length > 0), Among(Consents.Nothing, Consents.Yes, Consents.No), Days).Sample((name, says, until) =>
        {
            var person = new PersonSaid(name, says, says == Consents.Yes ? until : null, "by mail").Trimmed();
            var cells = PersonTable.Cells(person);
            Assert.Equal(person, PersonTable.Read(column => PersonTable.Columns.ToList().IndexOf(column) is >= 0 and var i ? cells[i] : null).Person);
        });
}
