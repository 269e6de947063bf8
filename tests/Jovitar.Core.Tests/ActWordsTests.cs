using Jovitar.Core.Acts;

namespace Jovitar.Core.Tests;

public sealed class ActWordsTests
{
    static ActTally Tally(int photos, params string[] fields) => new(photos, fields);

    [Fact]
    public void Sentences_say_what_was_done_to_how_many()
    {
        Assert.Equal("Tagged 1 photo “pier”.", ActWords.Tagged(Tally(1), ["pier"], []));
        Assert.Equal("Tagged 1,200 photos “a”, “b” and “c”.", ActWords.Tagged(Tally(1200), ["a", "b", "c"], []));
        Assert.Equal("Took “a”, “b” and 2 more off 3 photos.", ActWords.Tagged(Tally(3), [], ["a", "b", "c", "d"]));
        Assert.Equal("Put 2 photos in “Festival”.", ActWords.Categorised(Tally(2), ["Festival"], []));
        Assert.Equal("Wrote caption and title of “Over the pier”, tagged “Over the pier” “wind”.", ActWords.Words("Over the pier", Tally(1, "caption", "title"), ["wind"], []));
        Assert.Equal("Put 40 photos in doubt.", ActWords.Decided(Tally(40), "doubt"));
        Assert.Equal("Took the decision on 1 photo back.", ActWords.Decided(Tally(1), ""));
        Assert.Equal("Rated “Pier” 4.", ActWords.Rated(Tally(1), "Pier", 4));
        Assert.Equal("Took the rating of 3 photos back.", ActWords.Rated(Tally(3), null, 0));
        Assert.Equal("Changed “x.jpg”.", ActWords.Words("x.jpg", Tally(1), [], []));
        Assert.Equal("Chose the cover of “Season”.", ActWords.AlbumWords("Season", Tally(0, "cover")));
        Assert.Equal("Threw 2 photos and “notes.pdf” in the bin.", ActWords.Binned(back: false, 2, ["notes.pdf"]));
        Assert.Equal("Threw category “Festival” in the bin.", ActWords.Binned("category", "Festival"));
        Assert.Equal("Took “Season” back out of the bin.", ActWords.Binned(back: true, 0, ["Season"]));
        Assert.Equal("Took back: tagged 1 photo “pier”.", ActWords.TookBack("Tagged 1 photo “pier”."));
        Assert.Equal("Took an intake back: 2 photos and 1 file into the bin, 3 things used elsewhere stayed.", ActWords.TookIntakeBack(2, 1, 3));
    }

    [Fact]
    public void What_is_removed_for_good_and_what_workers_do_cannot_be_taken_back()
    {
        Assert.False(ActKinds.CanUndo(ActKind.Emptied));
        Assert.False(ActKinds.CanUndo(ActKind.Read));
        Assert.True(ActKinds.CanUndo(ActKind.TookBack));
        Assert.All(Enum.GetValues<ActKind>().Where(ActKinds.GoesOn), kind => Assert.True(ActKinds.CanUndo(kind)));
    }
}
