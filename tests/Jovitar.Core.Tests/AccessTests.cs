using CsCheck;
using Jovitar.Core.Access;
using Jovitar.Core.Clearance;

namespace Jovitar.Core.Tests;

/// <summary>The one decision, over every viewer, right and thing there is.</summary>
public sealed class AccessTests
{
    static readonly DateTimeOffset Now = new(2026, 6, 13, 9, 0, 0, TimeSpan.Zero);

    static readonly Gen<ShownOn> Places = Gen.Select(Gen.Int[0, 2], Gen.Int[0, 2], Gen.Int[0, 2], Gen.Int[0, 2], (pages, own, drafts, hidden) => new ShownOn(pages, own, drafts, hidden));

    static readonly Gen<PhotoThing> Photos = Gen.Select(Gen.Enum<PhotoState>(), Gen.Bool, Gen.Bool, Places, (state, left, binned, on) => new PhotoThing(state, left, binned, on, PhotoClearance.Nothing));

    static readonly Gen<Thing> Things = Gen.OneOf<Thing>(
        Photos.Select(p => (Thing)p),
        Gen.Select(Gen.Bool, Places, (binned, on) => (Thing)new AlbumThing(binned, on)),
        Gen.Select(Gen.Bool, Gen.Bool, (binned, inView) => (Thing)new CategoryThing(binned, inView)),
        Gen.Select(Gen.Bool, Gen.Bool, Gen.Bool, (binned, published, changed) => (Thing)new PageThing(binned, published, changed)),
        Gen.Select(Gen.Bool, Places, (binned, on) => (Thing)new FileThing(binned, on)),
        Gen.Bool.Select(published => (Thing)new LogoThing(published)),
        Gen.Const((Thing)new TheWorkroom()));

    [Fact]
    public void Nobody_may_do_anything_but_see() =>
        Gen.Select(Things, Gen.Enum<Right>()).Sample(
            (thing, right) =>
            {
                // Coming upon it, and having it without the watermark, are ways of seeing, and none goes further.
                var sees = Access.Access.Decide(Viewer.Nobody, Right.See, thing, Now).Allowed;
                var may = Access.Access.Decide(Viewer.Nobody, right, thing, Now).Allowed;
                Assert.True(!may || (sees && right is Right.See or Right.Find or Right.SeeUnmarked), $"{right} of {thing}");
            },
            iter: 20_000);

    [Fact]
    public void Visitors_see_a_photo_when_nothing_at_all_speaks_against_it() =>
        Photos.Sample(photo => Assert.Equal(
            photo is { State: PhotoState.Ready, LeftOut: false, Binned: false } && photo.On.Pages + photo.On.OwnPages > 0,
            Access.Access.Decide(Viewer.Nobody, Right.See, photo, Now).Allowed));

    [Fact]
    public void An_account_without_a_role_is_nobody_in_particular() =>
        Gen.Select(Things, Gen.Enum<Right>()).Sample((thing, right) => Assert.Equal(
            Access.Access.Decide(Viewer.Nobody, right, thing, Now).Allowed,
            Access.Access.Decide(new Viewer(Role.None), right, thing, Now).Allowed));

    [Fact]
    public void Only_the_owner_looks_after_the_site()
    {
        Assert.True(Access.Access.Decide(new Viewer(Role.Owner), Right.LookAfter, new TheWorkroom(), Now).Allowed);
        Assert.False(Access.Access.Decide(new Viewer(Role.Editor), Right.LookAfter, new TheWorkroom(), Now).Allowed);
        Assert.True(Access.Access.Decide(new Viewer(Role.Owner), Right.SendPosition, new TheWorkroom(), Now).Allowed);
        Assert.False(Access.Access.Decide(new Viewer(Role.Editor), Right.SendPosition, new TheWorkroom(), Now).Allowed);
        Assert.True(Access.Access.Decide(new Viewer(Role.Editor), Right.Publish, new TheWorkroom(), Now).Allowed);
    }

    static readonly TheSite Open = new(IsOpen: true);

    [Fact]
    public void Every_decision_gives_its_reasons_and_the_line_says_what_was_decided() =>
        Gen.Select(Things, Gen.Enum<Role>(), Gen.Enum<Right>()).Sample((thing, role, right) =>
        {
            Assert.NotEmpty(Access.Access.Decide(new Viewer(role), right, thing, Now).Reasons);
            var line = AudienceLine.Of(thing, Open, Now);
            Assert.Equal(Access.Access.Decide(Viewer.Nobody, Right.See, thing, Now).Allowed, line.Everyone);
            Assert.StartsWith(line.Everyone ? "Everyone can see" : "Only staff can see", line.Sentence, StringComparison.Ordinal);
            Assert.EndsWith(".", line.Sentence, StringComparison.Ordinal);
        });

    [Theory]
    [InlineData(PhotoState.Failed, false, false, 1, 0, "Only staff can see this; it could not be made ready.")]
    [InlineData(PhotoState.Waiting, false, false, 1, 0, "Only staff can see this; it is still being made ready.")]
    [InlineData(PhotoState.Ready, true, false, 1, 0, "Only staff can see this; it is left out everywhere.")]
    [InlineData(PhotoState.Ready, false, false, 0, 0, "Only staff can see this; it stands on no page.")]
    [InlineData(PhotoState.Ready, false, false, 0, 2, "Only staff can see this; its 2 pages are drafts.")]
    [InlineData(PhotoState.Ready, false, false, 1, 1, "Everyone can see this, on one page.")]
    [InlineData(PhotoState.Ready, false, true, 3, 0, "Only staff can see this; it is in the bin.")]
    public void The_line_of_a_photo_says_why(PhotoState state, bool leftOut, bool binned, int published, int drafts, string sentence) =>
        Assert.Equal(sentence, AudienceLine.Of(new PhotoThing(state, leftOut, binned, new ShownOn(published, Drafts: drafts), PhotoClearance.Nothing), Open, Now).Sentence);

    [Theory]
    [InlineData(0, 0, 0, 0, "Only staff can see this; it stands in no category and on no page.")]
    [InlineData(0, 0, 1, 0, "Only staff can see this; its page is a draft.")]
    [InlineData(0, 0, 1, 1, "Only staff can see this; it is out of view.")]
    [InlineData(0, 1, 1, 0, "Everyone can see this, on one page.")]
    [InlineData(2, 1, 0, 0, "Everyone can see this, on 3 pages.")]
    public void The_line_of_an_album_says_why(int pages, int own, int drafts, int outOfView, string sentence) =>
        Assert.Equal(sentence, AudienceLine.Of(new AlbumThing(false, new ShownOn(pages, own, drafts, outOfView)), Open, Now).Sentence);

    [Fact]
    public void A_photo_of_an_album_out_of_view_is_seen_only_where_another_album_shows_it()
    {
        Assert.Equal("Only staff can see this; its album is out of view.", AudienceLine.Of(new PhotoThing(PhotoState.Ready, false, false, new ShownOn(0, OutOfView: 1), PhotoClearance.Nothing), Open, Now).Sentence);
        Assert.True(AudienceLine.Of(new PhotoThing(PhotoState.Ready, false, false, new ShownOn(1, OutOfView: 1), PhotoClearance.Nothing), Open, Now).Everyone);
    }
}
