namespace Jovitar.Core.Pages;

/// <summary>What differs between two states of a page: whole blocks, those of them that stand side by side counted as one.</summary>
/// <param name="Moved">Blocks that both have stand in another order.</param>
/// <param name="About">What is said of the whole page that is another, as it stands in a sentence.</param>
public sealed record PageDifference(IReadOnlyList<Block> Added, IReadOnlyList<Block> Removed, IReadOnlyList<Block> Changed, bool Moved, IReadOnlyList<string> About)
{
    /// <summary>What has to be done to the one to make the other of it.</summary>
    public static PageDifference Of(PageContent before, PageContent after)
    {
        var (was, now) = (before.Blocks.ToDictionary(b => b.Id), after.Blocks.ToDictionary(b => b.Id));
        return new PageDifference(
            [.. after.Blocks.Where(b => !was.ContainsKey(b.Id))],
            [.. before.Blocks.Where(b => !now.ContainsKey(b.Id))],
            [.. after.Blocks.Where(b => was.TryGetValue(b.Id, out var old) && old.Said() != b.Said())],
            !before.Blocks.Select(b => b.Id).Where(now.ContainsKey).SequenceEqual(after.Blocks.Select(b => b.Id).Where(was.ContainsKey)),
            [
                .. before.Title == after.Title && before.Description == after.Description ? (string[])[] : ["the title or the sentence for search engines"],
                .. before.Posted == after.Posted ? (string[])[] : ["the day that it is a post of"],
                .. before.Unlisted == after.Unlisted ? (string[])[] : ["whether lists and the feed have it"],
                .. before.Wide == after.Wide ? (string[])[] : ["its width"],
                .. before.Bare == after.Bare ? (string[])[] : ["whether the site's head stands above it"],
                .. before.Look == after.Look ? (string[])[] : ["how it looks"],
            ]);
    }

    /// <summary>Blocks came, went or moved; else only what is said in them differs.</summary>
    public bool IsBuilding => Added.Count > 0 || Removed.Count > 0 || Moved;

    /// <summary>One sentence in the past tense, for the history.</summary>
    public string Sentence(string title) =>
        Added.Count > 0 && Removed.Count == 0 ? $"Added {Names(Added)} to page “{title}”."
        : Removed.Count > 0 && Added.Count == 0 ? $"Removed {Names(Removed)} from page “{title}”."
        : Moved ? $"Moved blocks of page “{title}”."
        : $"Worked on page “{title}”.";

    static string Names(IReadOnlyList<Block> blocks) => blocks.Count == 1 ? Name(blocks[0]) : $"{blocks.Count} blocks";

    /// <summary>What a block is called within a sentence.</summary>
    public static string Name(Block block) => block switch
    {
        HeadingBlock => "a heading",
        TextBlock => "a text",
        PhotoBlock => "a photo",
        PhotosBlock => "photos",
        IndexBlock => "an index",
        VideoBlock => "a video",
        SoundBlock => "a sound",
        FilesBlock => "files",
        ContactBlock => "a contact",
        ButtonBlock => "a button",
        DividerBlock => "a divider",
        _ => "blocks side by side",
    };

    /// <summary>What is different for visitors, a line each: a verb, and what it was done to.</summary>
    public IReadOnlyList<PageChange> Lines(PageContent before)
    {
        var was = before.All().ToDictionary(b => b.Id);
        return
        [
            .. About.Select(a => new PageChange(ChangeKind.Changed, null, a, [])),
            .. Added.Select(b => new PageChange(ChangeKind.Added, b.Id, Name(b), [])),
            .. Removed.Select(b => new PageChange(ChangeKind.Removed, b.Id, Name(b), [])),
            .. Changed.Select(b => new PageChange(ChangeKind.Changed, b.Id, Name(b), Parts(was[b.Id], b))),
            .. Moved ? (PageChange[])[new PageChange(ChangeKind.Moved, null, "the order of the blocks", [])] : [],
        ];
    }

    /// <summary>What of a block is set differently.</summary>
    static string[] Parts(Block before, Block after)
    {
        string[] frame =
        [
            .. before.Frame with { Ground = after.Frame.Ground, Look = after.Frame.Look } == after.Frame ? (string[])[] : ["its place on the page"],
            .. before.Frame.Ground == after.Frame.Ground ? (string[])[] : ["what lies behind it"],
            .. before.Frame.Look == after.Frame.Look ? (string[])[] : ["how it looks"],
        ];
        return (before, after) switch
        {
            (PhotosBlock was, PhotosBlock now) =>
            [
                .. (was with { Source = now.Source }).Said() == was.Said() ? (string[])[] : ["which photos"],
                .. (was with { Absent = now.Absent }).Said() == was.Said() ? (string[])[] : ["on which devices they stand"],
                .. (was with { Layout = now.Layout }).Said() == was.Said() ? (string[])[] : ["the layout"],
                .. (was with { Bar = now.Bar }).Said() == was.Said() ? (string[])[] : ["the filter bar"],
                .. was.More == now.More ? (string[])[] : ["how more of them come"],
                .. (was with { Press = now.Press }).Said() == was.Said() ? (string[])[] : ["what a press does"],
                .. was.Words == now.Words ? (string[])[] : ["the words with the photos"],
                .. was.Touch == now.Touch ? (string[])[] : ["what a touch does"],
                .. frame,
            ],
            (HeadingBlock was, HeadingBlock now) => [.. was.Words == now.Words ? (string[])[] : ["the words"], .. was.Size == now.Size ? (string[])[] : ["its size"], .. frame],
            (TextBlock was, TextBlock now) => [.. was.Words == now.Words ? (string[])[] : ["the words"], .. frame],
            _ => frame,
        };
    }
}

/// <summary>What was done to a part of a page.</summary>
public enum ChangeKind
{
    Added,
    Removed,
    Changed,
    Moved,
}

/// <summary>One thing that is different for visitors.</summary>
/// <param name="Block">Null where it is none of the blocks.</param>
/// <param name="What">What it was done to, as it stands in a sentence.</param>
/// <param name="Parts">What of it; empty for all.</param>
public sealed record PageChange(ChangeKind Kind, BlockId? Block, string What, IReadOnlyList<string> Parts);
