using CsCheck;
using Jovitar.Core.Access;

namespace Jovitar.Core.Tests;

/// <summary>Visitors by kind and by name: who is alike before some gates, what each does not see and why, and as whom staff look.</summary>
public sealed class ViewerTests
{
    static readonly DateTimeOffset Now = new(2027, 3, 1, 12, 0, 0, TimeSpan.Zero);

    static Guid Number(int n) => new(n, 0, 0, new byte[8]);

    static readonly Gen<Gate[]> Gates = Gen.Select(Gen.Enum<Admitted>(), Gen.Int[-2, 2], Gen.Int[0, 9].HashSet[1, 4]).Array[0, 5].Select(
        all => all.Select((g, i) => new Gate(Number(50 + i), "album", $"G{i}", new Audience(g.Item1, Now.AddHours(g.Item2)) { Chosen = g.Item1 == Admitted.Chosen ? [.. g.Item3.Select(Number)] : [] })).ToArray());

    /// <summary>Members 5 to 14, who are in groups 0 to 4.</summary>
    static readonly Gen<(Guid Member, IReadOnlyList<Guid> Groups)[]> Members = Gen.Int[0, 4].HashSet[0, 3].Array[10].Select(
        all => all.Select((groups, i) => (Number(5 + i), (IReadOnlyList<Guid>)[.. groups.Select(Number)])).ToArray());

    [Fact]
    public void What_one_of_those_alike_sees_each_of_them_sees_and_everybody_is_among_some() =>
        Gen.Select(Gates, Members, Gen.Int[0, 1]).Sample((gates, members, pages) =>
        {
            var thing = new AlbumThing(Binned: false, new ShownOn(pages)) { Gates = gates };
            var alike = Alike.Of(members, gates, Now);
            Assert.Equal(members.Select(m => m.Member).Order(), alike.SelectMany(a => a.Members).Order());
            foreach (var (same, member) in alike.SelectMany(a => a.Members.Select(m => (a, m))))
            {
                var itself = Alike.Member(member, members.Single(m => m.Member == member).Groups);
                Assert.Equal(Access.Access.Decide(itself, Right.See, thing, Now).Allowed, Access.Access.Decide(same.One, Right.See, thing, Now).Allowed);
                Assert.Equal(AudienceLine.WhyNot(itself, thing, Now, []), AudienceLine.WhyNot(same.One, thing, Now, []));
            }

            Assert.True(alike.Count <= 1 << gates.Length, $"{alike.Count} kinds before {gates.Length} gates");
        }, iter: 5000);

    [Fact]
    public void Whoever_does_not_see_a_thing_is_told_why_and_who_sees_it_nothing() =>
        Gen.Select(Gates, Members, Gen.Int[0, 1], Gen.Bool).Sample((gates, members, pages, binned) =>
        {
            var thing = new AlbumThing(binned, new ShownOn(pages, Shut: 1 - pages)) { Gates = gates };
            foreach (var viewer in members.Select(m => Alike.Member(m.Member, m.Groups)).Append(Viewer.Nobody))
            {
                var why = AudienceLine.WhyNot(viewer, thing, Now, [new Gate(Number(90), "page", "Way", new Audience(Admitted.Staff))]);
                Assert.Equal(Access.Access.Decide(viewer, Right.See, thing, Now).Allowed, why.Count == 0);
                Assert.Equal(pages == 0, why.Contains("The page “Way” is for staff only."));
                Assert.Equal(gates.Count(g => !g.LetsIn(viewer, Now)) + (binned ? 1 : 0) + (1 - pages), why.Count);
            }
        }, iter: 2000);

    [Theory]
    [InlineData("anybody", "a visitor who has not signed in")]
    [InlineData("member", "a member who is in no group")]
    [InlineData("group-00000003-0000-0000-0000-000000000000", "a member of the group “X”")]
    [InlineData("person-00000003-0000-0000-0000-000000000000", "X")]
    [InlineData("holder-00000003-0000-0000-0000-000000000000", "whoever holds the entry “X”")]
    public void As_whom_staff_look_is_read_as_it_was_written(string text, string said)
    {
        var seen = SeenAs.Read(text);
        Assert.Equal(text, $"{seen}");
        Assert.Equal(said, seen!.Said("X"));
    }

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData("owner")]
    [InlineData("4")]
    [InlineData("anybody-00000003-0000-0000-0000-000000000000")]
    [InlineData("person")]
    [InlineData("person-")]
    [InlineData("person-3")]
    [InlineData("group-{00000003-0000-0000-0000-000000000000}")]
    [InlineData("anybody,member")]
    public void Anything_else_is_nobody(string? text) => Assert.Null(SeenAs.Read(text));

    [Fact]
    public void Why_photos_of_a_page_are_not_seen_is_said_of_one_and_of_many()
    {
        Reason[] against = [Reason.NotReadyYet, Reason.CouldNotBeMadeReady, Reason.LeftOutEverywhere, Reason.NotCleared, Reason.SomebodySaysNo, Reason.NotClearedYet, Reason.ClearanceRanOut, Reason.OutOfView];
        Gate[] gates = [new(Number(1), "album", "X", new Audience(Admitted.Members)), new(Number(2), "photo", "", new Audience(Admitted.Staff))];
        foreach (var said in (string[])[.. against.Select(r => UnseenWords.Said(r, 1)), .. against.Select(r => UnseenWords.Said(r, 1200)), UnseenWords.ForSome(gates, 1, Now)])
        {
            Assert.Matches("^(One|Of one|1,200|Of 1,200) .*[.]$", said);
            Assert.DoesNotContain("not shown", said, StringComparison.Ordinal);
        }

        // Each reason has words of its own.
        Assert.Equal(against.Length, against.Select(r => UnseenWords.Said(r, 2)).Distinct().Count());
        Assert.Equal("One is for some alone. The album “X” is for members. The photo itself is for staff only.", UnseenWords.ForSome(gates, 1, Now));
        Assert.Equal("12 are for some alone. The album “X” is for members. The photos themselves are for staff only.", UnseenWords.ForSome(gates, 12, Now));
    }

    [Theory]
    [InlineData("Ada", "ada@example.test", "", "")]
    [InlineData(" \u200b", "ada@example.test", "", "name")]
    [InlineData("Ada", "ada", "", "email")]
    [InlineData("", "", "", "name email")]
    public void Who_asks_to_become_a_member_says_a_name_and_an_address(string name, string email, string words, string faults)
    {
        Assert.Equal(faults.Split(' ', StringSplitOptions.RemoveEmptyEntries), new Core.People.JoinWish(name, email, words).Trimmed().Faults().Keys);
        Assert.Contains("words", new Core.People.JoinWish(name, email, new string('x', 301)).Faults().Keys);
    }
}
