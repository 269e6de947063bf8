namespace Jovitar.Core.Layout;

/// <summary>A rectangle in CSS pixels; x to the right and y down from the upper left corner of the block.</summary>
public readonly record struct Box(double X, double Y, double Width, double Height)
{
    public double Right => X + Width;

    public double Bottom => Y + Height;
}

/// <summary>Photos in their places: one box a photo in the order given, and the height that all need, CSS pixels.</summary>
public sealed record Placed(IReadOnlyList<Box> Boxes, double Height)
{
    public static readonly Placed Nothing = new([], 0);
}

/// <summary>The ways photos can stand in a block.</summary>
public enum LayoutKind
{
    /// <summary>Rows of nearly one height; shapes kept.</summary>
    Rows,

    /// <summary>Columns of one width; shapes kept.</summary>
    Columns,

    /// <summary>Equal cells; photos are cropped to the commonest shape.</summary>
    Grid,
}

/// <summary>How photos stand: the layout, the wanted size of a thumbnail (its height in rows, else its width) and the gap, CSS pixels.</summary>
/// <param name="Exact">The size was said for just this device; else it shrinks on narrow windows.</param>
public sealed record LayoutSettings(LayoutKind Kind, int Size, int Gap, bool Exact = false)
{
    public const int SmallestSize = 80;
    public const int LargestSize = 800;
    public const int LargestGap = 80;

    /// <summary>Places photos for a width.</summary>
    /// <param name="shapes">Aspect ratios, width over height, each above 0.</param>
    /// <param name="width">Width to fill, CSS pixels, above 0.</param>
    public Placed Place(ReadOnlySpan<double> shapes, double width)
    {
        // On a narrow window wanted sizes shrink, so that a phone still shows more than one photo at a time.
        var size = Exact ? Size : Math.Min(Size, Kind == LayoutKind.Rows ? Math.Max(110, width * 0.42) : Math.Max(140, width * 0.47));
        return Kind switch
        {
            LayoutKind.Rows => RowsLayout.Place(shapes, width, new RowsSettings(size, Gap)),
            LayoutKind.Columns => ColumnsLayout.Place(shapes, width, size, Gap),
            _ => GridLayout.Place(shapes, width, size, Gap),
        };
    }
}
