namespace Jovitar.Core.Layout;

/// <summary>How fast photos move by themselves. Kept by name.</summary>
public enum Pace
{
    /// <summary>Not at all.</summary>
    Still,
    Slow,
    Medium,
    Quick,
}

/// <summary>How a strip or slides move. By themselves they do so only until somebody touches them, and never where less motion is asked for.</summary>
/// <param name="Arrows">Arrows stand beside them.</param>
/// <param name="Loops">Behind the last the first comes again.</param>
/// <param name="Shuffles">In another order on every round; of what loops.</param>
public sealed record Motion(Pace Pace, bool Arrows, bool Loops, bool Shuffles)
{
    public static readonly Motion Usual = new(Pace.Still, Arrows: true, Loops: false, Shuffles: false);
}

/// <summary>What is set of a strip besides its measures.</summary>
public sealed record StripSettings(StripHeight Height, Motion Motion);

/// <summary>How one slide gives way to the next. Kept by name.</summary>
public enum SlideTurn
{
    Fade,
    Slide,
    Zoom,
}

/// <summary>What is set of slides.</summary>
/// <param name="Shape">Of the frame; null for one that the tallest photo stays whole in.</param>
/// <param name="Fills">Photos fill the frame, cropped about their focus; else they stand whole in it. Of a frame whose shape is said.</param>
public sealed record SlidesSettings(SlideTurn Turn, Ratio? Shape, bool Fills, Motion Motion)
{
    /// <summary>Whether photos are cropped to the frame.</summary>
    public bool Crops() => Fills && Shape is not null;
}
