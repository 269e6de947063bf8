using CsCheck;
using Jovitar.Core.Access;
using Jovitar.Core.Clearance;

namespace Jovitar.Core.Tests;

/// <summary>Who passes which gate, against a naive evaluation of random trees of rules, and worked examples that people can read.</summary>
public sealed class AudienceTests
{
    static readonly DateTimeOffset Now = new(2027, 3, 1, 12, 0, 0, TimeSpan.Zero);
    static readonly TheSite Open = new(IsOpen: true);

    static readonly Gen<DateTimeOffset?> Moments = Gen.Int[-4, 3].Select(d => d == -4 ? (DateTimeOffset?)null : Now.AddDays(d));

    /// <summary>Groups and members, by number.</summary>
    static readonly Gen<HashSet<int>> People = Gen.Int[100, 103].HashSet[1, 3];
    static readonly Gen<Audience> Audiences = Gen.Select(
        Gen.Enum<Admitted>(), Moments, Moments, People, (who, from, until, chosen) => new Audience(who, from, until) { Chosen = who == Admitted.Chosen ? [.. chosen.Select(Number)] : [] });

    static readonly Chosen[] Known = [.. Enumerable.Range(100, 4).Select(n => new Chosen(Number(n), $"P{n}", n % 2 == 0))];

    static Guid Number(int n) => new(n, 0, 0, new byte[8]);

    /// <summary>A tree of categories: of each the one above it, which comes before it, and its audience.</summary>
    static readonly Gen<(int Above, Audience Own)[]> Trees = Gen.Select(Gen.Int[-1, 6], Audiences).Array[7].Select(nodes => nodes.Select((n, i) => (Math.Min(n.Item1, i - 1), n.Item2)).ToArray());

    /// <summary>The rule as one would say it: each gate on the way is looked at by itself.</summary>
    /// <param name="belongs">The numbers of a member and of the groups that they are in; null for who is none.</param>
    static bool Naive(Audience audience, bool holds, HashSet<int>? belongs = null)
    {
        var began = audience.From == null || audience.From.Value <= Now;
        var ended = audience.Until != null && audience.Until.Value <= Now;
        return began && !ended && (audience.Who is Admitted.Everyone or Admitted.WithLink || (audience.Who == Admitted.Holders && holds)
            || (audience.Who == Admitted.Members && belongs != null) || (audience.Who == Admitted.Chosen && belongs != null && audience.Chosen.Any(c => belongs.Select(Number).Contains(c))));
    }

    [Fact]
    public void A_photo_is_seen_by_whom_every_gate_of_every_category_that_it_stands_in_lets_in() =>
        Gen.Select(Trees, Gen.Int[0, 6].HashSet[0, 3], Gen.Int[0, 6].HashSet[0, 5], Gen.Int[0, 2], People.Null()).Sample(
            (tree, stands, holds, pages, belongs) =>
            {
                IEnumerable<int> Up(int at) => at < 0 ? [] : [at, .. Up(tree[at].Above)];
                Gate[] gates = [.. stands.SelectMany(Up).Distinct().Where(c => tree[c].Own != Audience.Everyone).Select(c => new Gate(Number(c), "category", $"C{c}", tree[c].Own))];
                var viewer = (belongs is null ? Viewer.Nobody : new Viewer(Role.Member) { Is = belongs.Select(Number).ToHashSet() }) with { Holds = holds.Select(Number).ToHashSet() };
                var photo = new PhotoThing(PhotoState.Ready, LeftOut: false, Binned: false, new ShownOn(pages), PhotoClearance.Nothing) { Gates = gates };
                var naive = pages > 0 && stands.SelectMany(Up).All(c => Naive(tree[c].Own, holds.Contains(c), belongs));
                Assert.Equal(naive, Access.Access.Decide(viewer, Right.See, photo, Now).Allowed);
                // Staff see everything, whoever every gate lets in what is on a page, and who is let in nowhere never more than who is.
                Assert.True(Access.Access.Decide(new Viewer(Role.Editor), Right.See, photo, Now).Allowed);
                Assert.Equal(pages > 0, Access.Access.Decide(Viewer.Somebody, Right.See, photo, Now).Allowed);
                Assert.True(naive || !Access.Access.Decide(Viewer.Nobody, Right.See, photo, Now).Allowed);
            },
            iter: 20_000);

    [Fact]
    public void An_exception_only_ever_narrows() =>
        Gen.Select(Audiences, Audiences, Gen.Bool, Gen.Bool).Sample((above, own, holdsAbove, holdsOwn) =>
        {
            var viewer = Viewer.Nobody with { Holds = new HashSet<Guid>([.. holdsAbove ? (Guid[])[Number(1)] : [], .. holdsOwn ? (Guid[])[Number(2)] : []]) };
            AlbumThing Of(params Gate[] gates) => new(Binned: false, new ShownOn(1)) { Gates = gates };
            var (one, both) = (Of(new Gate(Number(1), "category", "Above", above)), Of(new Gate(Number(1), "category", "Above", above), new Gate(Number(2), "album", "Own", own)));
            Assert.True(Access.Access.Decide(viewer, Right.See, one, Now).Allowed || !Access.Access.Decide(viewer, Right.See, both, Now).Allowed);
        });

    [Fact]
    public void A_photo_by_itself_is_narrowed_and_no_link_leads_to_it() =>
        Gen.Select(Audiences, Audiences, Gen.Int[0, 1]).Where((_, own, _) => own.FaultOf("photo") is null).Sample((above, own, pages) =>
        {
            var photo = new PhotoThing(PhotoState.Ready, LeftOut: false, Binned: false, new ShownOn(pages), PhotoClearance.Nothing) { Gates = [new Gate(Number(1), "category", "Above", above)] };
            var narrowed = photo with { Gates = [.. photo.Gates, new Gate(Number(2), "photo", "", own)] };
            var holder = Viewer.Nobody with { Holds = new HashSet<Guid> { Number(1), Number(2) } };
            foreach (var viewer in (Viewer[])[Viewer.Nobody, holder, new Viewer(Role.Member) { Is = own.Chosen.Concat(above.Chosen).ToHashSet() }])
            {
                var (seen, seenNow) = (Access.Access.Decide(viewer, Right.See, photo, Now).Allowed, Access.Access.Decide(viewer, Right.See, narrowed, Now).Allowed);
                Assert.Equal(seen && narrowed.Gates[1].LetsIn(viewer, Now), seenNow);
                // Why not is said of each gate that keeps them out, and of the photo's own in words of its own.
                var why = string.Join(' ', AudienceLine.WhyNot(viewer, narrowed, Now, []));
                Assert.Equal(!narrowed.Gates[1].LetsIn(viewer, Now), why.Contains("The photo itself is for ", StringComparison.Ordinal));
            }

            Assert.True(own.Who is not (Admitted.Holders or Admitted.WithLink));
        });

    [Fact]
    public void The_line_says_of_every_thing_behind_gates_what_was_decided() =>
        Gen.Select(Audiences.Array[0, 3], Gen.Int[0, 1], Gen.Int[0, 2], Audiences).Sample((own, pages, shut, way) =>
        {
            var album = new AlbumThing(Binned: false, new ShownOn(pages, Shut: shut)) { Gates = [.. own.Select((a, i) => new Gate(Number(i), "category", $"C{i}", a))] };
            var line = AudienceLine.Of(album, Open, Now, [new Gate(Number(9), "page", "Way", way)]);
            Assert.Equal(Access.Access.Decide(Viewer.Nobody, Right.See, album, Now).Allowed, line.Everyone);
            Assert.EndsWith(".", line.Sentence, StringComparison.Ordinal);
            Assert.NotEmpty(line.Why);
            var all = album.Gates.Select(g => g.Thing).ToHashSet();
            var holder = Access.Access.Decide(Viewer.Nobody with { Holds = all }, Right.See, album with { On = new ShownOn(pages + shut) }, Now).Allowed;
            Assert.True(!line.Sentence.StartsWith("Holders", StringComparison.Ordinal) || holder, line.Sentence);
            Assert.True(!line.Sentence.StartsWith("Only staff", StringComparison.Ordinal) || !line.Everyone, line.Sentence);
        });

    /// <summary>A school, a club and a photographer, as they would put it.</summary>
    /// <param name="gates">What the thing stands behind: whom each lets in, and until when.</param>
    /// <param name="holds">The gates to which the visitor has a link, by their place.</param>
    [Theory]
    [InlineData("the school's open day, for everyone", "", "", true, "Everyone can see this, on one page.")]
    [InlineData("class 3, for its parents; who has the link", "Class 3: holders", "0", true, "Holders of an entry link to “Class 3” can see this.")]
    [InlineData("class 3, for its parents; who has none", "Class 3: holders", "", false, "Holders of an entry link to “Class 3” can see this.")]
    [InlineData("class 3 within the juniors: both are needed", "Juniors: holders; Class 3: holders", "1", false, "Holders of an entry link to “Juniors” and “Class 3” can see this.")]
    [InlineData("class 3 within the juniors: both are there", "Juniors: holders; Class 3: holders", "0 1", true, "Holders of an entry link to “Juniors” and “Class 3” can see this.")]
    [InlineData("the club's members, one of them", "Members: members", "m", true, "Every member can see this.")]
    [InlineData("the club's members, somebody else", "Members: members", "0", false, "Every member can see this.")]
    [InlineData("the juniors' album, one of them", "Juniors: chosen g100", "m 100", true, "The group “Juniors” can see this.")]
    [InlineData("the juniors' album, another member", "Juniors: chosen g100", "m 102", false, "The group “Juniors” can see this.")]
    [InlineData("a client's album, the client", "Harrow: chosen p101", "m 101", true, "Ada Teal can see this.")]
    [InlineData("the juniors' album for their trainer, too", "Juniors: chosen g100 p101", "m 101", true, "The group “Juniors” and Ada Teal can see this.")]
    [InlineData("class 3 within the members'", "Members: members; Class 3: holders", "m 1", true, "Every member who holds an entry link to “Class 3” can see this.")]
    [InlineData("class 3 within the members', the link alone", "Members: members; Class 3: holders", "1", false, "Every member who holds an entry link to “Class 3” can see this.")]
    [InlineData("two groups at once", "Juniors: chosen g100; Parents: chosen g102", "m 100 102", true, "Who belongs to the group “Juniors”, and belongs to the group “Parents”, can see this.")]
    [InlineData("the club's committee", "Committee: staff", "0", false, "Only staff can see this; the category “Committee” is for staff only.")]
    [InlineData("a wedding, until the end of June", "Harrow: holders until 2027-06-30", "0", true, "Holders of an entry link to “Harrow” can see this, until 30 June 2027, 00:00 UTC.")]
    [InlineData("a wedding whose time is over", "Harrow: holders until 2027-02-01", "0", false, "Only staff can see this; the time of the category “Harrow” ended on 1 February 2027, 00:00 UTC.")]
    [InlineData("photos that go out on Friday", "Final: everyone from 2027-03-05", "", false, "Only staff can see this until 5 March 2027, 00:00 UTC.")]
    [InlineData("an exhibition that closes", "Final: everyone until 2027-04-01", "", true, "Everyone can see this, on one page, until 1 April 2027, 00:00 UTC.")]
    public void Worked_examples(string which, string gates, string holds, bool sees, string sentence)
    {
        (string Word, Chosen One)[] people =
        [
            ("g100", new Chosen(Number(100), "Juniors", IsGroup: true)), ("p101", new Chosen(Number(101), "Ada Teal", IsGroup: false)), ("g102", new Chosen(Number(102), "Parents", IsGroup: true)),
        ];
        Gate Read(string text, int n)
        {
            var (name, rule) = (text.Split(": ")[0], text.Split(": ")[1].Split(' '));
            DateTimeOffset? At(string word) => Array.IndexOf(rule, word) is >= 0 and var i ? DateTimeOffset.Parse($"{rule[i + 1]}T00:00:00Z", System.Globalization.CultureInfo.InvariantCulture) : null;
            Chosen[] called = [.. people.Where(p => rule.Contains(p.Word)).Select(p => p.One)];
            return new Gate(Number(n), "category", name, new Audience(Enum.Parse<Admitted>(rule[0], ignoreCase: true), At("from"), At("until")) { Chosen = [.. called.Select(c => c.Id)] }) { Called = called };
        }

        Gate[] read = [.. gates.Split("; ", StringSplitOptions.RemoveEmptyEntries).Select(Read)];
        var words = holds.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        Guid[] numbers = [.. words.Where(h => h != "m").Select(h => Number(int.Parse(h, System.Globalization.CultureInfo.InvariantCulture)))];
        var held = numbers.ToHashSet();
        var viewer = words.Contains("m") ? new Viewer(Role.Member) { Is = held } : Viewer.Nobody;
        var album = new AlbumThing(Binned: false, new ShownOn(1)) { Gates = read };
        Assert.True(sees == Access.Access.Decide(viewer with { Holds = held }, Right.See, album, Now).Allowed, which);
        Assert.Equal(sentence, AudienceLine.Of(album, Open, Now).Sentence);
    }

    [Theory]
    [InlineData("everyone", "holders", "Everyone but holders of an entry link or passcode loses this album.")]
    [InlineData("everyone", "staff", "Every visitor loses this album.")]
    [InlineData("holders", "everyone", "Everyone gains this album.")]
    [InlineData("staff", "holders", "Holders of an entry link or passcode gain this album.")]
    [InlineData("staff", "withLink", "Everyone who has its link gains this album.")]
    [InlineData("everyone", "withLink", "Everyone but who has its link loses this album.")]
    [InlineData("withLink", "everyone", "Everyone gains this album.")]
    [InlineData("withLink", "members", "Every member gains this album, and everyone with its link loses it.")]
    [InlineData("members", "withLink", "Everyone who has its link gains this album, and every member loses it.")]
    [InlineData("withLink", "staff", "Everyone with its link loses this album.")]
    [InlineData("holders", "staff", "Holders of an entry link or passcode lose this album.")]
    [InlineData("everyone", "members", "Everyone but members loses this album.")]
    [InlineData("members", "everyone", "Everyone gains this album.")]
    [InlineData("members", "chosen 100 101", "Every member but the group “P100” and P101 loses this album.")]
    [InlineData("chosen 100", "members", "Every member gains this album.")]
    [InlineData("chosen 100", "chosen 101", "P101 gains this album, and the group “P100” loses it.")]
    [InlineData("chosen 100 101", "chosen 101", "The group “P100” loses this album.")]
    [InlineData("holders", "members", "Every member gains this album, and holders of an entry link or passcode lose it.")]
    [InlineData("chosen 100 102 103", "staff", "The group “P100”, the group “P102” and P103 lose this album.")]
    [InlineData("staff", "staff", "Nothing changes: this album stays as it is.")]
    public void A_change_says_who_gains_and_who_loses(string before, string after, string sentence) =>
        Assert.Equal(sentence, GateWords.Changes(Said(before), Said(after), "this album", Now, Known));

    /// <summary>An audience in a word, with the numbers of those whom it is for behind it.</summary>
    static Audience Said(string words)
    {
        var said = words.Split(' ');
        return new Audience(Enum.Parse<Admitted>(said[0], ignoreCase: true)) { Chosen = [.. said[1..].Select(n => Number(int.Parse(n, System.Globalization.CultureInfo.InvariantCulture)))] };
    }

    [Fact]
    public void Every_change_has_a_sentence_that_agrees_with_what_it_does() =>
        Gen.Select(Audiences, Audiences).Sample((before, after) =>
        {
            var said = GateWords.Changes(before, after, "this album", Now, Known);
            // Nobody, one who has its link, a holder, and a member of each of the groups there are.
            (bool HasLink, bool Holds, HashSet<int>? Belongs)[] all = [(false, false, null), (true, false, null), (false, true, null), (false, false, [1]), .. Enumerable.Range(100, 4).Select(n => (false, false, (HashSet<int>?)[n]))];
            bool Finds(Audience audience, (bool HasLink, bool Holds, HashSet<int>? Belongs) v) => Naive(audience, v.Holds, v.Belongs) && (audience.Who != Admitted.WithLink || v.HasLink);
            var gain = all.Any(v => Finds(after, v) && !Finds(before, v));
            var lose = all.Any(v => Finds(before, v) && !Finds(after, v));
            Assert.EndsWith(".", said, StringComparison.Ordinal);
            Assert.True(!gain || said.Contains("gain", StringComparison.Ordinal), said);
            Assert.True(!lose || said.Contains("lose", StringComparison.Ordinal), said);
            Assert.True(gain || lose || !said.Contains(" gains this album", StringComparison.Ordinal) || said.Contains(" from ", StringComparison.Ordinal), said);
        });

    [Fact]
    public void However_a_passcode_is_typed_it_is_the_same_and_nothing_else_is()
    {
        var code = EntrySecret.New(EntryKind.Passcode);
        var hash = EntrySecret.Hash(EntryKind.Passcode, code);
        Assert.NotNull(hash);
        foreach (var typed in (string[])[code.ToUpperInvariant(), code.Replace('-', ' '), $" {code} ", code.Replace("-", "", StringComparison.Ordinal)])
        {
            Assert.Equal(hash, EntrySecret.Hash(EntryKind.Passcode, typed));
        }

        Assert.Null(EntrySecret.Hash(EntryKind.Passcode, code[..^1]));
        Assert.Null(EntrySecret.Hash(EntryKind.Passcode, ""));
        Assert.Equal(200, Enumerable.Range(0, 200).Select(_ => EntrySecret.New(EntryKind.Passcode)).Distinct().Count());
        Assert.Equal(43, EntrySecret.New(EntryKind.Link).Length);
    }

    [Fact]
    public void What_is_for_everyone_with_its_link_is_seen_as_ever_and_found_by_no_visitor() =>
        Gen.Select(Audiences.Array[0, 3], Gen.Int[0, 2], Gen.Bool, People.Null()).Sample((own, pages, byLink, belongs) =>
        {
            var viewer = belongs is null ? Viewer.Nobody : new Viewer(Role.Member) { Is = belongs.Select(Number).ToHashSet() };
            var album = new AlbumThing(Binned: false, new ShownOn(pages)) { Gates = [.. own.Select((a, i) => new Gate(Number(i), "category", $"C{i}", a))], ByLinkAlone = byLink };
            foreach (var who in (Viewer[])[viewer, Viewer.Somebody])
            {
                var (sees, finds) = (Access.Access.Decide(who, Right.See, album, Now), Access.Access.Decide(who, Right.Find, album, Now));
                Assert.Equal(Access.Access.Decide(who, Right.See, album with { ByLinkAlone = false }, Now).Allowed, sees.Allowed);
                Assert.Equal(sees.Allowed && !byLink, finds.Allowed);
                Assert.Equal(sees.Allowed && byLink ? [Reason.FoundByLinkAlone] : sees.Reasons, finds.Reasons);
            }

            Assert.True(Access.Access.Decide(new Viewer(Role.Editor), Right.Find, album, Now).Allowed);
        });

    [Fact]
    public void What_is_found_by_its_link_alone_has_an_address_that_nobody_guesses_and_is_an_album() =>
        Gen.String[Gen.Char["abcxyz019"], 1, 80].Sample(address =>
        {
            var hidden = HiddenAddress.Of(address);
            Assert.True(HiddenAddress.Is(hidden) && Pages.PageAddress.TryParse(hidden, out _, out var fault), $"{hidden} is no address");
            Assert.True(hidden.Length <= Pages.PageAddress.Longest && hidden.StartsWith(address[..Math.Min(address.Length, 53)], StringComparison.Ordinal), hidden);
            // Once more it is another one, and no longer.
            var again = HiddenAddress.Of(hidden);
            Assert.Equal(hidden.Length, again.Length);
            Assert.NotEqual(hidden, again);
            var audience = new Audience(Admitted.WithLink);
            Assert.Equal([true, false, false, false], ((string[])["album", "page", "category", "photo"]).Select(k => audience.FaultOf(k) is null));
        });

    [Fact]
    public void A_gate_of_which_nothing_is_known_lets_nobody_in()
    {
        var gate = Gate.Unknown(Number(1));
        Assert.False(gate.LetsIn(Viewer.Nobody with { Holds = new HashSet<Guid> { Number(1) } }, Now));
        Assert.True(gate.LetsIn(new Viewer(Role.Owner), Now));
    }
}
