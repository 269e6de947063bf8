namespace Jovitar.Core.Layout;

/// <summary>Equal cells in even rows. The cell takes the middle shape of the photos, so that the fewest are cropped much.</summary>
public static class GridLayout
{
    /// <summary>Places photos in a grid.</summary>
    /// <param name="shapes">Aspect ratios, width over height, each above 0.</param>
    /// <param name="width">Width to fill, CSS pixels, above 0.</param>
    /// <param name="size">Wanted width of a cell, CSS pixels.</param>
    /// <param name="gap">Between cells, CSS pixels, 0 or more.</param>
    public static Placed Place(ReadOnlySpan<double> shapes, double width, double size, double gap)
    {
        if (shapes.IsEmpty)
        {
            return Placed.Nothing;
        }

        var count = ColumnsLayout.CellsAcross(width, size, gap);
        var cell = (width - (gap * (count - 1))) / count;
        var height = cell / CellShape(shapes);
        var boxes = new Box[shapes.Length];
        for (var i = 0; i < shapes.Length; i++)
        {
            boxes[i] = new Box(i % count * (cell + gap), i / count * (height + gap), cell, height);
        }

        return new Placed(boxes, boxes[^1].Bottom);
    }

    /// <summary>The median shape, kept between 3:4 and 16:9.</summary>
    public static double CellShape(ReadOnlySpan<double> shapes)
    {
        var sorted = shapes.ToArray();
        Array.Sort(sorted);
        return Math.Clamp(sorted[sorted.Length / 2], 3.0 / 4, 16.0 / 9);
    }
}
