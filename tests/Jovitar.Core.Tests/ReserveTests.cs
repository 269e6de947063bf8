using CsCheck;
using Jovitar.Core.Access;
using Jovitar.Core.Clearance;
using Jovitar.Core.Comments;
using Jovitar.Core.Pages;

namespace Jovitar.Core.Tests;

/// <summary>What albums and categories reserve of what is offered, against each of them asked by itself.</summary>
public sealed class ReserveTests
{
    static readonly DateTimeOffset Now = new(2026, 9, 1, 12, 0, 0, TimeSpan.Zero);

    static Guid Number(int n) => new($"00000000-0000-7000-8000-{n:d12}");

    static readonly Gen<HashSet<int>> People = Gen.Int[100, 103].HashSet[1, 3];

    static readonly Gen<Whom> Whoms = Gen.Select(Gen.Enum<ForWhom>(), People, (who, chosen) => new Whom(who) { Chosen = who == ForWhom.Chosen ? [.. chosen.Select(Number)] : [] });

    static readonly Gen<Reserved> Reserveds = Gen.Select(Whoms, Whoms, Whoms, Whoms, (save, full, talk, choose) => new Reserved(save, full, talk, choose));

    static bool Naive(Whom whom, bool holds, HashSet<int>? belongs) => whom.Who switch
    {
        ForWhom.Everyone => true,
        ForWhom.Known => holds || belongs is not null,
        ForWhom.Members => belongs is not null,
        ForWhom.Chosen => belongs is not null && whom.Chosen.Any(c => belongs.Select(Number).Contains(c)),
        _ => false,
    };

    [Fact]
    public void A_viewer_may_what_is_offered_and_everything_that_it_stands_in_leaves_to_them() =>
        Gen.Select(Reserveds.Array[0, 3], Gen.Bool, People.Null(), Gen.Enum<Saving>(), Gen.Enum<TalkFor>(), Gen.Bool).Sample(
            (all, holds, belongs, offered, talk, asks) =>
            {
                var viewer = (belongs is null ? Viewer.Nobody : new Viewer(Role.Member) { Is = belongs.Select(Number).ToHashSet() }) with { Holds = holds ? new HashSet<Guid> { Number(7) } : [] };
                Reserve[] reserves = [.. all.Select((r, i) => new Reserve(Number(i), i == 0 ? "album" : "category", $"A{i}", r))];
                var photo = new PhotoThing(PhotoState.Ready, LeftOut: false, Binned: false, new ShownOn(1), PhotoClearance.Nothing) { Reserves = reserves };
                bool Leaves(Func<Reserved, Whom> what) => all.All(r => Naive(what(r), holds, belongs));
                bool May(Right right, Thing thing) => Access.Access.Decide(viewer, right, thing, Now).Allowed;

                var form = !Leaves(r => r.Save) ? Saving.Nothing : offered == Saving.Full && !Leaves(r => r.SaveFull) ? Saving.Large : offered;
                Assert.Equal(form, Reserve.Saves(reserves, viewer, offered));
                Assert.Equal(form == offered && offered != Saving.Nothing, May(Right.Save, new PhotoToSave(photo, offered)));
                Assert.Equal(form != Saving.Nothing, May(Right.Save, new PhotoToSave(photo, form)));
                var speaks = (talk == TalkFor.Everyone || (talk == TalkFor.Known && (holds || belongs is not null))) && Leaves(r => r.Talk);
                Assert.Equal(speaks, May(Right.Comment, new PhotoToTalkOf(photo, talk, TalkFor.Nobody)));
                Assert.Equal(speaks, May(Right.Rate, new PhotoToTalkOf(photo, TalkFor.Nobody, talk)));
                var album = new AlbumThing(Binned: false, new ShownOn(1)) { Reserves = reserves };
                Assert.Equal(asks && (holds || belongs is not null) && Leaves(r => r.Choose), May(Right.Choose, new AlbumToChooseFrom(album, asks)));
                // It has no part in whether anything is seen, and those of whom it keeps the same have the same pages.
                Assert.True(May(Right.See, photo) && May(Right.See, album));
                Assert.All(reserves, r => Assert.Equal(
                    (Naive(r.For.Save, holds, belongs) ? 0 : 1) + (Naive(r.For.SaveFull, holds, belongs) ? 0 : 2) + (Naive(r.For.Talk, holds, belongs) ? 0 : 4) + (Naive(r.For.Choose, holds, belongs) ? 0 : 8), r.Keeps(viewer)));
                Assert.Equal(Saving.Full, Reserve.Saves(reserves, new Viewer(Role.Editor), Saving.Full));
            },
            iter: 20_000);

    [Theory]
    // A school: what is in the class's category is saved by its parents' group alone, whatever an album of it offers.
    [InlineData("Chosen", "Everyone", Saving.Full, false, false, Saving.Nothing)]
    [InlineData("Chosen", "Everyone", Saving.Full, true, true, Saving.Full)]
    // A club: members have everything in full size, the world as large as pages show it.
    [InlineData("Everyone", "Members", Saving.Full, false, false, Saving.Large)]
    [InlineData("Everyone", "Members", Saving.Full, true, false, Saving.Full)]
    // What is not offered is nobody's.
    [InlineData("Members", "Members", Saving.Nothing, true, true, Saving.Nothing)]
    // A photographer's proofs: nobody saves them until they are paid.
    [InlineData("Nobody", "Everyone", Saving.Full, true, true, Saving.Nothing)]
    public void Worked_examples_of_saving(string save, string full, Saving offered, bool isMember, bool inGroup, Saving saves)
    {
        Whom Of(string who) => new(Enum.Parse<ForWhom>(who)) { Chosen = who == "Chosen" ? [Number(1)] : [] };
        var viewer = isMember ? new Viewer(Role.Member) { Is = inGroup ? new HashSet<Guid> { Number(1) } : [] } : Viewer.Nobody;
        Assert.Equal(saves, Reserve.Saves([new Reserve(Number(9), "category", "Class 5", Reserved.Nothing with { Save = Of(save), SaveFull = Of(full) })], viewer, offered));
    }

    [Fact]
    public void It_is_said_in_sentences()
    {
        Chosen[] called = [new(Number(1), "Parents", IsGroup: true), new(Number(2), "Ada Teal", IsGroup: false)];
        var said = new Reserved(new Whom(ForWhom.Chosen) { Chosen = [Number(1)] }, Whom.All, new Whom(ForWhom.Nobody), new Whom(ForWhom.Members));
        Assert.Equal("Of the photos of category “Class 5”, reserved saving them for the group “Parents”, saying something about them for nobody, and choosing favourites among them for all members.", ReserveWords.Said("category", "Class 5", said, called));
        Assert.Equal("Reserved nothing of the photos of album “Night” any more.", ReserveWords.Said("album", "Night", Reserved.Nothing, []));
        Assert.Equal("The category “Class 5” reserves saving them for the group “Parents”.", ReserveWords.Above(new Reserve(Number(9), "category", "Class 5", Reserved.Nothing with { Save = said.Save }) { Called = called }));
        Assert.Equal("Choose a group or a member.", (said with { Talk = new Whom(ForWhom.Chosen) }).Fault());
        Assert.Equal("Choose for whom it is.", (said with { Talk = new Whom((ForWhom)9) }).Fault());
        Assert.Equal(Reserved.Nothing with { Save = new Whom(ForWhom.Members) }, (Reserved.Nothing with { Save = new Whom(ForWhom.Members) { Chosen = [Number(1)] } }).AsKept());
        Assert.Empty(said.Among([Number(2)]).Save.Chosen);
    }
}
