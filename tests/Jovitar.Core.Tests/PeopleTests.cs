using CsCheck;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.People;

namespace Jovitar.Core.Tests;

/// <summary>Who works on a site: what an owner may change, and what people are written.</summary>
public sealed class PeopleTests
{
    /// <summary>Whatever owners do to each other, one by one, the site keeps one, and nobody shuts themselves out.</summary>
    [Fact]
    public void A_site_keeps_an_owner_whatever_its_people_do() => Gen.Select(Gen.Int[1, 4], Gen.Int[0, 4], Gen.Select(Gen.Int[0, 7], Gen.Int[0, 7], Gen.Int[0, 2]).List[0, 40]).Sample((owners, editors, steps) =>
    {
        List<Role> people = [.. Enumerable.Repeat(Role.Owner, owners), .. Enumerable.Repeat(Role.Editor, editors)];
        foreach (var (who, whom, what) in steps)
        {
            if (who >= people.Count || whom >= people.Count || people[who] != Role.Owner)
            {
                continue;
            }

            var (colleague, count, here) = (new Colleague(people[whom], who == whom), people.Count(p => p == Role.Owner), people.Count);
            var against = what == 2 ? StaffRules.AgainstLeaving(colleague, count) : StaffRules.AgainstRole(colleague, what == 0 ? Role.Owner : Role.Editor, count);
            if (against is not null)
            {
                continue;
            }

            if (what == 2)
            {
                people.RemoveAt(whom);
                Assert.NotEqual(who, whom);
            }
            else
            {
                people[whom] = what == 0 ? Role.Owner : Role.Editor;
                Assert.True(who != whom || what == 0);
            }

            Assert.Contains(Role.Owner, people);
            Assert.InRange(people.Count, here - 1, here);
        }
    });

    [Fact]
    public void What_speaks_against_a_change_is_said_and_what_does_not_is_done()
    {
        var (oneself, other, editor) = (new Colleague(Role.Owner, IsOneself: true), new Colleague(Role.Owner, IsOneself: false), new Colleague(Role.Editor, IsOneself: false));
        Assert.Null(StaffRules.AgainstRole(editor, Role.Owner, owners: 1));
        Assert.Null(StaffRules.AgainstRole(other, Role.Editor, owners: 2));
        Assert.Null(StaffRules.AgainstLeaving(other, owners: 2));
        Assert.Null(StaffRules.AgainstLeaving(editor, owners: 1));
        Assert.Equal("A site keeps at least one owner.", StaffRules.AgainstRole(other, Role.Editor, owners: 1));
        Assert.StartsWith("Ask another owner", StaffRules.AgainstRole(oneself, Role.Editor, owners: 2), StringComparison.Ordinal);
        Assert.StartsWith("Ask another owner", StaffRules.AgainstLeaving(oneself, owners: 2), StringComparison.Ordinal);
        Assert.StartsWith("A site keeps at least one owner.", StaffRules.AgainstLeaving(oneself, owners: 1), StringComparison.Ordinal);
        Assert.NotNull(StaffRules.AgainstRole(editor, Role.None, owners: 1));
        Assert.NotNull(StaffRules.AgainstPart(Role.None));
        Assert.Null(StaffRules.AgainstPart(Role.Editor));
        Assert.Null(StaffRules.AgainstInviting(isHere: false, StaffRules.Most - 1));
        Assert.Equal("There is room for 200 people at work.", StaffRules.AgainstInviting(isHere: false, StaffRules.Most));
        Assert.Equal("Somebody with this address works here already.", StaffRules.AgainstInviting(isHere: true, StaffRules.Most));
        Assert.False(ActKinds.CanUndo(ActKind.People));
    }

    [Fact]
    public void A_secret_is_long_stands_in_an_address_and_is_kept_as_its_hash_alone()
    {
        var secrets = Enumerable.Range(0, 200).Select(_ => LinkSecret.New()).ToArray();
        Assert.Equal(200, secrets.Distinct().Count());
        Assert.All(secrets, s => Assert.Matches("^[A-Za-z0-9_-]{43}$", s));
        Assert.All(secrets, s => Assert.Equal(32, LinkSecret.Hash(s)!.Length));
        Assert.Equal(LinkSecret.Hash(secrets[0]), LinkSecret.Hash(secrets[0]));
        Assert.NotEqual(LinkSecret.Hash(secrets[0]), LinkSecret.Hash(secrets[1]));
        Assert.All(["", "short", new string('A', 42), new string('A', 44), new string('!', 43), $"{secrets[0][..42]} "], s => Assert.Null(LinkSecret.Hash(s)));
    }

    [Fact]
    public void Letters_say_who_asks_for_what_and_their_link_stands_on_a_line_of_its_own()
    {
        var until = new DateTimeOffset(2026, 12, 5, 17, 4, 0, TimeSpan.Zero);
        var asks = Letters.Invitation("Kite Guild", "Nell", "Odile", Role.Editor, "https://kites.example/workroom/invited#abc", until);
        Assert.Equal("Odile invites you to Kite Guild", asks.Subject);
        Assert.Contains("\nhttps://kites.example/workroom/invited#abc\n", asks.Text, StringComparison.Ordinal);
        Assert.Contains("as an editor: with its photos, albums and pages.", asks.Text, StringComparison.Ordinal);
        Assert.Contains("until 5 December 2026, 17:04 UTC", asks.Text, StringComparison.Ordinal);
        Assert.Contains("as an owner", Letters.Invitation("Kite Guild", "Nell", "Odile", Role.Owner, "https://kites.example", until).Text, StringComparison.Ordinal);
        var way = Letters.WayIn("Kite Guild", "Nell", "https://kites.example/workroom/way-in#abc", until.ToOffset(TimeSpan.FromHours(2)));
        Assert.Contains("\nhttps://kites.example/workroom/way-in#abc\n", way.Text, StringComparison.Ordinal);
        Assert.Contains("17:04 UTC", way.Text, StringComparison.Ordinal);
    }

    [Fact]
    public void What_was_done_about_people_is_told_in_a_sentence() => Assert.Equal(
        ["Invited Nell as an editor.", "Took back the invitation of Nell.", "Took up an invitation as an owner.", "Made Nell an owner.", "Took Nell out of the workroom.", "Signed Nell out everywhere.", "Took off the second step of Nell."],
        [
            PeopleWords.Invited("Nell", Role.Editor), PeopleWords.TookBack("Nell"), PeopleWords.Joined(Role.Owner), PeopleWords.Made("Nell", Role.Owner), PeopleWords.TookOut("Nell"), PeopleWords.SignedOut("Nell"),
            PeopleWords.SecondStepOff("Nell"),
        ]);
}
