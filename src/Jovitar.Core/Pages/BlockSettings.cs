namespace Jovitar.Core.Pages;

/// <summary>What is set of a block, apart from what it shows and says: how it looks, where it stands, what lies behind it.</summary>
public static class BlockSettings
{
    /// <summary>A block set as another one is; what it shows and says is its own.</summary>
    /// <returns>Null where they are not of one kind.</returns>
    public static Block? On(Block kept, Block block) => (kept, block) switch
    {
        (HeadingBlock from, HeadingBlock to) => to with { Frame = from.Frame, Size = from.Size },
        (PhotosBlock from, PhotosBlock to) => to with
        {
            Frame = from.Frame,
            // Which photos stand large was chosen for those that were there.
            Layout = from.Layout with { Large = from.Layout.Large with { Photos = to.Layout.Large.Photos } },
            Bar = from.Bar,
            More = from.More,
            // What visitors may save was allowed for those photos.
            Press = from.Press with { Save = to.Press.Save },
            Words = from.Words,
            Touch = from.Touch,
        },
        (PhotoBlock from, PhotoBlock to) => to with { Frame = from.Frame, Press = from.Press },
        (IndexBlock from, IndexBlock to) => to with
        {
            Frame = from.Frame,
            Beneath = from.Beneath,
            Sort = from.Sort,
            Most = from.Most,
            Across = from.Across,
            Dates = from.Dates,
            Counts = from.Counts,
            Descriptions = from.Descriptions,
        },
        (VideoBlock from, VideoBlock to) => to with { Frame = from.Frame, Shape = from.Shape },
        (DividerBlock from, DividerBlock to) => to with { Frame = from.Frame, Line = from.Line },
        _ when kept.GetType() == block.GetType() => block with { Frame = kept.Frame },
        _ => null,
    };
}
