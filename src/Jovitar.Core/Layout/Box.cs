namespace Jovitar.Core.Layout;

/// <summary>A rectangle in CSS pixels; x to the right and y down from the upper left corner of the block.</summary>
public readonly record struct Box(double X, double Y, double Width, double Height)
{
    public double Right => X + Width;

    public double Bottom => Y + Height;

    /// <summary>The largest box of a shape that fits into this one, in its middle: a photo that stands whole.</summary>
    /// <param name="shape">Width over height, above 0.</param>
    public Box Holding(double shape)
    {
        var width = Math.Min(Width, Height * shape);
        return new Box(X + ((Width - width) / 2), Y + ((Height - (width / shape)) / 2), width, width / shape);
    }
}

/// <summary>Photos in their places: one box a photo in the order given, and the height that all need, CSS pixels.</summary>
public sealed record Placed(IReadOnlyList<Box> Boxes, double Height)
{
    public static readonly Placed Nothing = new([], 0);
}
