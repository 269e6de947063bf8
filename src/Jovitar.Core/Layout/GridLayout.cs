namespace Jovitar.Core.Layout;

/// <summary>Equal cells in even rows. Unless a shape is said, the cell takes the middle one of the photos, so that the fewest are cropped much.</summary>
public static class GridLayout
{
    /// <summary>Places photos in a grid.</summary>
    /// <param name="shapes">Aspect ratios, width over height, each above 0.</param>
    /// <param name="width">Width to fill, CSS pixels, above 0.</param>
    /// <param name="count">How many cells stand side by side, at least one.</param>
    /// <param name="gap">Between cells, CSS pixels, 0 or more.</param>
    /// <param name="under">Room beneath each photo, CSS pixels, 0 or more.</param>
    /// <param name="shape">Of a cell, width over height; null for the middle shape of the photos.</param>
    public static Placed Place(ReadOnlySpan<double> shapes, double width, int count, double gap, double? shape = null, double under = 0)
    {
        if (shapes.IsEmpty)
        {
            return Placed.Nothing;
        }

        var cell = (width - (gap * (count - 1))) / count;
        var height = (cell / (shape ?? CellShape(shapes))) + under;
        var boxes = new Box[shapes.Length];
        for (var i = 0; i < shapes.Length; i++)
        {
            boxes[i] = new Box(i % count * (cell + gap), i / count * (height + gap), cell, height);
        }

        return new Placed(boxes, boxes[^1].Bottom);
    }

    /// <summary>The median shape, kept between 3:4 and 16:9; a square where there is none.</summary>
    public static double CellShape(ReadOnlySpan<double> shapes)
    {
        if (shapes.IsEmpty)
        {
            return 1;
        }

        var sorted = shapes.ToArray();
        Array.Sort(sorted);
        return Math.Clamp(sorted[sorted.Length / 2], 3.0 / 4, 16.0 / 9);
    }
}
