namespace Jovitar.Core.Layout;

/// <summary>How high a strip is. Kept by name.</summary>
public enum StripHeight
{
    /// <summary>So many CSS pixels.</summary>
    Pixels,

    /// <summary>All photos have one width, and the tallest of them stays whole.</summary>
    Tallest,

    /// <summary>A third of the window's height.</summary>
    Third,

    /// <summary>Half of it.</summary>
    Half,

    /// <summary>All of it.</summary>
    Whole,
}

/// <summary>Photos side by side at one height, scrolled along.</summary>
public static class StripLayout
{
    /// <summary>Lower than this no strip becomes, however low the window is, CSS pixels.</summary>
    public const int Lowest = 140;

    /// <summary>Places photos in one row, each in its shape.</summary>
    /// <param name="shapes">Aspect ratios, width over height, each above 0.</param>
    /// <param name="height">CSS pixels, above 0.</param>
    /// <param name="gap">Between photos, CSS pixels, 0 or more.</param>
    public static Placed Place(ReadOnlySpan<double> shapes, double height, double gap)
    {
        if (shapes.IsEmpty)
        {
            return Placed.Nothing;
        }

        var boxes = new Box[shapes.Length];
        double x = 0;
        for (var i = 0; i < boxes.Length; i++)
        {
            boxes[i] = new Box(x, 0, shapes[i] * height, height);
            x = boxes[i].Right + gap;
        }

        return new Placed(boxes, height);
    }

    /// <summary>The share of the window's height that a strip takes; null where the window does not say it.</summary>
    public static double? ShareOf(StripHeight height) => height switch
    {
        StripHeight.Third => 1 / 3.0,
        StripHeight.Half => 0.5,
        StripHeight.Whole => 1,
        _ => null,
    };

    /// <summary>The height of a strip in a window, CSS pixels. It is never higher than a photo of the middle shape that is as wide as the block.</summary>
    /// <param name="size">The wanted height of a photo, or its width where the tallest says how high the strip is; CSS pixels.</param>
    /// <param name="width">Of the block, CSS pixels.</param>
    public static double Height(StripHeight height, double size, ReadOnlySpan<double> shapes, Window window, double width) =>
        height == StripHeight.Tallest ? Math.Min(size, width) / Narrowest(shapes)
        : Math.Min(Highest(shapes, width), ShareOf(height) is { } share ? Math.Max(Lowest, window.Height * share) : size);

    /// <summary>A photo of the middle shape is as wide as the block at that height, CSS pixels.</summary>
    public static double Highest(ReadOnlySpan<double> shapes, double width) => width / GridLayout.CellShape(shapes);

    /// <summary>The room for one photo in a strip: no photo is wider than the block.</summary>
    public static Box Room(StripHeight height, double size, ReadOnlySpan<double> shapes, Window window, double width) =>
        new(0, 0, height == StripHeight.Tallest ? Math.Min(size, width) : width, Height(height, size, shapes, window, width));

    /// <summary>The shape of the tallest photo, width over height; that of a square where there is none.</summary>
    public static double Narrowest(ReadOnlySpan<double> shapes)
    {
        var least = shapes.IsEmpty ? 1 : double.MaxValue;
        foreach (var shape in shapes)
        {
            least = Math.Min(least, shape);
        }

        return least;
    }
}

/// <summary>Photos one at a time in a frame.</summary>
public static class SlidesLayout
{
    /// <summary>No frame is higher than this share of the window, whatever its shape: the photo in it is seen whole without scrolling.</summary>
    public const double HighestShare = 0.85;

    /// <summary>The frame in a window, CSS pixels.</summary>
    /// <param name="shape">Width over height; null for one in which the tallest of the photos stays as wide as the block, where the window has room for that.</param>
    public static Box Frame(double? shape, ReadOnlySpan<double> shapes, Window window, double width) =>
        new(0, 0, width, Math.Min(width / (shape ?? StripLayout.Narrowest(shapes)), window.Height * HighestShare));
}
