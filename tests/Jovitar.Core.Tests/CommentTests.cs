using CsCheck;
using Jovitar.Core.Access;
using Jovitar.Core.Clearance;
using Jovitar.Core.Acts;
using Jovitar.Core.Comments;

namespace Jovitar.Core.Tests;

/// <summary>What visitors may say about photos, and how it is kept.</summary>
public sealed class CommentTests
{
    static readonly DateTimeOffset Now = new(2026, 6, 13, 9, 0, 0, TimeSpan.Zero);

    static readonly PhotoThing Shown = new(PhotoState.Ready, LeftOut: false, Binned: false, new ShownOn(1), PhotoClearance.Nothing);

    /// <summary>Whatever the photo and the albums are: visitors say something only where they see the photo and it is offered, and one never lets in the other.</summary>
    [Fact]
    public void Visitors_talk_of_what_they_see_where_it_is_offered() =>
        Gen.Select(Gen.Enum<PhotoState>(), Gen.Bool, Gen.Bool, Gen.Int[0, 2], Gen.Enum<TalkFor>(), Gen.Enum<TalkFor>(), Gen.Bool).Sample((state, leftOut, binned, pages, comments, ratings, isKnown) =>
        {
            var photo = new PhotoThing(state, leftOut, binned, new ShownOn(pages), PhotoClearance.Nothing);
            var talk = new PhotoToTalkOf(photo, comments, ratings);
            var viewer = isKnown ? new Viewer(Role.Member) : Viewer.Nobody;
            var sees = Access.Access.Decide(viewer, Right.See, photo, Now);
            foreach (var (right, offered) in ((Right, TalkFor)[])[(Right.Comment, comments), (Right.Rate, ratings)])
            {
                var decision = Access.Access.Decide(viewer, right, talk, Now);
                Assert.Equal(sees.Allowed && (offered == TalkFor.Everyone || (offered == TalkFor.Known && isKnown)), decision.Allowed);
                Assert.Equal(!sees.Allowed ? sees.Reasons : [decision.Allowed ? Reason.Offered : offered == TalkFor.Nobody ? Reason.NotOffered : Reason.NotKnown], decision.Reasons);
            }
        });

    [Fact]
    public void Seeing_a_photo_is_no_right_to_talk_of_it_and_talking_none_to_change_it()
    {
        Assert.False(Access.Access.Decide(Viewer.Nobody, Right.Comment, Shown, Now).Allowed);
        Assert.False(Access.Access.Decide(Viewer.Nobody, Right.Change, new PhotoToTalkOf(Shown, TalkFor.Everyone, TalkFor.Everyone), Now).Allowed);
        Assert.False(Access.Access.Decide(Viewer.Nobody, Right.See, new PhotoToTalkOf(Shown, TalkFor.Everyone, TalkFor.Everyone), Now).Allowed);
    }

    [Theory]
    [InlineData("", "Fine", "name")]
    [InlineData("  \u200b ", "Fine", "name")]
    [InlineData("Ines", " \n\t\n ", "words")]
    [InlineData("", "", "name words")]
    public void A_comment_is_somebodys_and_says_something(string name, string words, string fields) =>
        Assert.Equal(fields, string.Join(' ', new Comment(name, words).Faults().Keys));

    [Fact]
    public void A_comment_is_not_longer_than_there_is_room_for()
    {
        Assert.Empty(new Comment(new string('x', Comment.LongestName), new string('x', Comment.LongestWords)).Faults());
        Assert.Equal(["name", "words"], new Comment(new string('x', Comment.LongestName + 1), new string('x', Comment.LongestWords + 1)).Faults().Keys);
        Assert.Equal(["words"], new Comment("Ines", "Fine \ud800").Faults().Keys);
    }

    [Fact]
    public void Lines_stay_lines_and_gaps_are_closed()
    {
        Assert.Equal(new Comment("Ines of Hollin", "One\nTwo\n\nThree"), new Comment(" Ines\r\nof Hollin\n", "\r\n One  \r\nTwo\r\n\r\n\r\n \r\nThree\n\n").Trimmed());
        Gen.String.Array[0, 12].Sample(lines =>
        {
            var trimmed = new Comment("Ines", string.Join('\n', lines)).Trimmed();
            Assert.Equal(trimmed, trimmed.Trimmed());
            Assert.DoesNotContain("\n\n\n", trimmed.Words, StringComparison.Ordinal);
        });
    }

    /// <summary>By hand: 14 / 3 = 4.666…, 9 / 4 = 2.25, 17 / 4 = 4.25, halves away from zero.</summary>
    [Theory]
    [InlineData(0, 0, "")]
    [InlineData(1, 4, "4.0 of 5, from 1 visitor")]
    [InlineData(3, 14, "4.7 of 5, from 3 visitors")]
    [InlineData(4, 9, "2.3 of 5, from 4 visitors")]
    [InlineData(4, 17, "4.3 of 5, from 4 visitors")]
    [InlineData(1200, 6000, "5.0 of 5, from 1,200 visitors")]
    public void What_visitors_give_is_said_as_a_mean(long count, long sum, string line) => Assert.Equal(line, new Ratings(count, sum).Line);

    [Fact]
    public void History_says_what_was_done_about_them()
    {
        Assert.Equal("Showed a comment of Ines.", CommentWords.Decided(true, 1, "Ines"));
        Assert.Equal("Refused 3 comments.", CommentWords.Decided(false, 3, "Ines"));
        Assert.Equal("Let visitors rate the photos of “Night”.", CommentWords.Album("Night", false, true));
        Assert.Equal("Let visitors who came by an entry link or signed in comment on the photos of “Night”.", CommentWords.Album("Night", true, false, known: true));
        Assert.Equal("No longer let visitors comment on or rate the photos of “Night”.", CommentWords.Album("Night", false, false));
        Assert.Equal("Removed a refused comment for good.", CommentWords.Removed(1));
    }
}
