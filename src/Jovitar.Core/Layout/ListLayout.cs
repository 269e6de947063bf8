namespace Jovitar.Core.Layout;

/// <summary>Photos one beneath the other, each whole with its words beside it, all equally high; on a wide page two or more side by side.</summary>
public static class ListLayout
{
    /// <summary>The picture leaves at least so much of the width to its words, unless a size is said for the device.</summary>
    public const double WidestPicture = 0.42;

    /// <summary>Words are given at least so much room where lines stand side by side, CSS pixels.</summary>
    const double WordsWidth = 300;

    /// <summary>Between lines side by side, CSS pixels.</summary>
    const double Aside = 40;

    /// <summary>The height of a line of a caption, CSS pixels; the site's style sheet says the same.</summary>
    const double LineHeight = 24;

    /// <summary>What the title and the air above and beneath it take, CSS pixels.</summary>
    const double TitleHeight = 34;

    /// <summary>Places photos in a list: a box is a picture and its words.</summary>
    /// <param name="shapes">Aspect ratios, width over height, each above 0.</param>
    /// <param name="width">Width to fill, CSS pixels, above 0.</param>
    /// <param name="picture">The width of a picture, CSS pixels.</param>
    /// <param name="gap">Between lines, CSS pixels, 0 or more.</param>
    public static Placed Place(ReadOnlySpan<double> shapes, double width, double picture, double gap)
    {
        if (shapes.IsEmpty)
        {
            return Placed.Nothing;
        }

        var (count, height) = (Across(width, picture), Height(shapes, picture));
        var each = (width - (Aside * (count - 1))) / count;
        var boxes = new Box[shapes.Length];
        for (var i = 0; i < boxes.Length; i++)
        {
            boxes[i] = new Box(i % count * (each + Aside), i / count * (height + gap), each, height);
        }

        return new Placed(boxes, boxes[^1].Bottom);
    }

    /// <summary>How many stand side by side; at least one.</summary>
    public static int Across(double width, double picture) => Math.Max(1, (int)((width + Aside) / (picture + WordsWidth + Aside)));

    /// <summary>The height of each: what a photo of the middle shape needs at that width.</summary>
    public static double Height(ReadOnlySpan<double> shapes, double picture) => picture / GridLayout.CellShape(shapes);

    /// <summary>How many lines of a caption find room beneath the title; at least one.</summary>
    public static int CaptionLines(double height) => Math.Max(1, (int)((height - TitleHeight) / LineHeight));
}
