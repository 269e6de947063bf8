namespace Jovitar.Core.Layout;

/// <summary>Columns of one width; each photo goes to the column that is shortest so far, so reading order is kept from top to bottom.</summary>
public static class ColumnsLayout
{
    /// <summary>Places photos in columns.</summary>
    /// <param name="shapes">Aspect ratios, width over height, each above 0.</param>
    /// <param name="width">Width to fill, CSS pixels, above 0.</param>
    /// <param name="count">How many columns, at least one.</param>
    /// <param name="gap">Between photos, CSS pixels, 0 or more.</param>
    /// <param name="under">Room beneath each photo that belongs to its box, CSS pixels, 0 or more.</param>
    public static Placed Place(ReadOnlySpan<double> shapes, double width, int count, double gap, double under = 0)
    {
        if (shapes.IsEmpty)
        {
            return Placed.Nothing;
        }

        var cell = (width - (gap * (count - 1))) / count;
        var ends = new double[count];
        var boxes = new Box[shapes.Length];
        for (var i = 0; i < shapes.Length; i++)
        {
            var column = 0;
            for (var c = 1; c < count; c++)
            {
                // A difference under a pixel is none: the leftmost column is taken, as one reads.
                if (ends[c] < ends[column] - 1)
                {
                    column = c;
                }
            }

            boxes[i] = new Box(column * (cell + gap), ends[column], cell, (cell / shapes[i]) + under);
            ends[column] = boxes[i].Bottom + gap;
        }

        return new Placed(boxes, ends.Max() - gap);
    }

    /// <summary>How many cells of about the wanted width stand side by side; at least one.</summary>
    public static int CellsAcross(double width, double size, double gap) => Math.Max(1, (int)Math.Round((width + gap) / (size + gap)));
}
