namespace Jovitar.Core.Layout;

/// <summary>The ways photos can stand in a block. Kept by name.</summary>
public enum LayoutKind
{
    /// <summary>Rows of nearly one height; shapes kept.</summary>
    Rows,

    /// <summary>Columns of one width; shapes kept.</summary>
    Columns,

    /// <summary>Equal cells.</summary>
    Grid,

    /// <summary>Rows in which some photos take more room; shapes kept, no holes.</summary>
    Mosaic,

    /// <summary>One beneath the other, each with its words beside it.</summary>
    List,

    /// <summary>Side by side at one height, scrolled along.</summary>
    Strip,

    /// <summary>One at a time in a frame.</summary>
    Slides,
}

/// <summary>How photos stand on one device.</summary>
/// <param name="Size">The wanted size of a photo, CSS pixels: its height in rows, a mosaic and a strip, else its width.</param>
/// <param name="Gap">Between photos, CSS pixels.</param>
/// <param name="Exact">The size was said for just this device; else it shrinks on narrow windows.</param>
/// <param name="Across">So many stand side by side, whatever their size; null where the size says it.</param>
/// <param name="Cell">The shape of a grid's cells, width over height; null for the middle shape of the photos.</param>
/// <param name="Under">Room for words beneath each photo, which belongs to its box, CSS pixels; what runs along and a list have none.</param>
public sealed record LayoutSettings(LayoutKind Kind, int Size, int Gap, bool Exact = false, int? Across = null, double? Cell = null, double Under = 0)
{
    public const int SmallestSize = 80;
    public const int LargestSize = 800;
    public const int LargestGap = 80;
    public const int UsualGap = 6;
    public const int MostAcross = 12;

    /// <summary>The size as it is in a width: on a narrow window wanted sizes shrink, so that a phone still shows more than one photo at a time.</summary>
    public double SizeIn(double width) => Exact ? Math.Min(Size, Kind == LayoutKind.List ? width : Size) : Math.Min(Size, Kind switch
    {
        LayoutKind.Rows => Math.Max(110, width * 0.42),
        LayoutKind.Mosaic => Math.Max(80, width * 0.3),
        LayoutKind.List => width * ListLayout.WidestPicture,
        LayoutKind.Strip => width,
        _ => Math.Max(140, width * 0.47),
    });

    /// <summary>How many cells of it stand side by side in a width; at least one.</summary>
    public int AcrossIn(double width) => Across ?? ColumnsLayout.CellsAcross(width, SizeIn(width), Gap);

    /// <summary>Places photos for a width. A strip is placed as if it were as high as its photos are wanted; the slides, as the strip they are.</summary>
    /// <param name="shapes">Aspect ratios, width over height, each above 0.</param>
    /// <param name="width">Width to fill, CSS pixels, above 0.</param>
    /// <param name="large">Which photos take more room in a mosaic; empty for none.</param>
    public Placed Place(ReadOnlySpan<double> shapes, double width, ReadOnlySpan<bool> large = default) => Kind switch
    {
        LayoutKind.Rows => RowsLayout.Place(shapes, width, new RowsSettings(SizeIn(width), Gap, Under)),
        LayoutKind.Columns => ColumnsLayout.Place(shapes, width, AcrossIn(width), Gap, Under),
        LayoutKind.Grid => GridLayout.Place(shapes, width, AcrossIn(width), Gap, Cell, Under),
        LayoutKind.Mosaic => MosaicLayout.Place(shapes, large, width, SizeIn(width), Gap, Under),
        LayoutKind.List => ListLayout.Place(shapes, width, SizeIn(width), Gap),
        _ => StripLayout.Place(shapes, SizeIn(width), Gap),
    };
}
