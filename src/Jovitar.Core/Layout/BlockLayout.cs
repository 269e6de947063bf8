namespace Jovitar.Core.Layout;

/// <summary>Sizes of windows that settings may differ by.</summary>
public enum Device
{
    Phone,
    Tablet,
    Desktop,
}

/// <summary>The layout of a block and the settings of each that there is: changing to another and back loses nothing.</summary>
/// <param name="Cells">Of the grid.</param>
/// <param name="Large">Which photos take more room in the mosaic.</param>
/// <param name="Along">Of the strip.</param>
public sealed record BlockLayout(
    LayoutKind Kind, Measures Rows, Measures Columns, Measures Grid, GridCells Cells, Measures Mosaic, MosaicLarge Large, Measures List, Measures Strip, StripSettings Along, SlidesSettings Slides)
{
    /// <summary>What a new block begins with.</summary>
    public static readonly BlockLayout Usual = new(
        LayoutKind.Rows, Measures.Of(260, null), Measures.Of(300, null), Measures.Of(260, null), new GridCells(null, Whole: false), Measures.Of(180, null), new MosaicLarge(LargeBy.Rating, []), Measures.Of(240, 24),
        Measures.Of(360, null), new StripSettings(StripHeight.Pixels, Motion.Usual), new SlidesSettings(SlideTurn.Fade, null, Fills: false, Motion.Usual));

    /// <summary>One layout with its measures, the others as usual.</summary>
    public static BlockLayout Of(LayoutKind kind, int size, int? gap) => (Usual with { Kind = kind }).With(Measures.Of(size, gap));

    /// <summary>The measures of the layout; slides have none.</summary>
    Measures? Chosen() => Kind switch
    {
        LayoutKind.Rows => Rows,
        LayoutKind.Columns => Columns,
        LayoutKind.Grid => Grid,
        LayoutKind.Mosaic => Mosaic,
        LayoutKind.List => List,
        LayoutKind.Strip => Strip,
        _ => null,
    };

    /// <summary>With other measures of the layout that is chosen.</summary>
    public BlockLayout With(Measures measures) => Kind switch
    {
        LayoutKind.Rows => this with { Rows = measures },
        LayoutKind.Columns => this with { Columns = measures },
        LayoutKind.Grid => this with { Grid = measures },
        LayoutKind.Mosaic => this with { Mosaic = measures },
        LayoutKind.List => this with { List = measures },
        LayoutKind.Strip => this with { Strip = measures },
        _ => this,
    };

    /// <summary>With its photos so far apart where it does not say how far.</summary>
    /// <param name="gap">Of the look, CSS pixels.</param>
    public BlockLayout Spaced(int gap)
    {
        Measures In(Measures measures) => measures with { Gap = measures.Gap ?? gap };
        return this with { Rows = In(Rows), Columns = In(Columns), Grid = In(Grid), Mosaic = In(Mosaic), List = In(List), Strip = In(Strip) };
    }

    /// <summary>With photos larger or smaller by a factor; slides are as wide as their place.</summary>
    /// <param name="by">Above 0.</param>
    public BlockLayout Scaled(double by) => Chosen() is { } measures ? With(measures.Scaled(by)) : this;

    /// <summary>With every number brought into its range.</summary>
    public BlockLayout Bounded() => this with
    {
        Rows = Rows.Bounded(),
        Columns = Columns.Bounded(),
        Grid = Grid.Bounded(),
        Cells = Cells with { Shape = Cells.Shape?.Bounded() },
        Mosaic = Mosaic.Bounded(),
        List = List.Bounded(),
        Strip = Strip.Bounded(),
        Slides = Slides with { Shape = Slides.Shape?.Bounded() },
    };

    /// <summary>What is wrong with it, a sentence; null when it may be kept.</summary>
    public string? Fault() => Large.Fault();

    /// <summary>Photos stand one after the other and are moved along, not placed beneath each other.</summary>
    public bool RunsAlong() => Kind is LayoutKind.Strip or LayoutKind.Slides;

    /// <summary>Photos fill their boxes, cropped about their focus.</summary>
    public bool Crops() => Kind == LayoutKind.Grid ? !Cells.Whole : Kind == LayoutKind.Slides && Slides.Crops();

    /// <summary>Which device a window of a width is, CSS pixels.</summary>
    public static Device DeviceOf(double window) => window < 600 ? Device.Phone : window < 1024 ? Device.Tablet : Device.Desktop;

    /// <summary>What is set for a device; see <see cref="Spaced"/> for what it says of no gap.</summary>
    public LayoutSettings For(Device device)
    {
        var measures = Chosen() ?? Strip;
        var said = device switch { Device.Phone => measures.Phone, Device.Tablet => measures.Tablet, _ => null };
        var across = Kind is LayoutKind.Columns or LayoutKind.Grid ? measures.Across?.On(device) : null;
        return new LayoutSettings(Kind, said ?? measures.Size, measures.Gap ?? LayoutSettings.UsualGap, said is not null, across, Kind == LayoutKind.Grid ? Cells.Shape?.Shape() : null);
    }

    /// <summary>The largest place that one photo may come to stand in among others, in a window.</summary>
    /// <param name="shape">Width over height, above 0.</param>
    /// <param name="width">How wide the block is in it, CSS pixels.</param>
    public Box PlaceOf(double shape, Window window, double width)
    {
        var settings = For(DeviceOf(window.Width));
        // Alone in a mosaic it would fill the block; among others it is large at most.
        return Kind == LayoutKind.Mosaic
            ? new Box(0, 0, width, (2 * settings.SizeIn(width)) + settings.Gap).Holding(shape)
            : Pictures([shape], window, width, default)[0];
    }

    /// <summary>The places that the pictures themselves take in a window: what they need pixels for.</summary>
    /// <param name="shapes">Aspect ratios, width over height, each above 0.</param>
    /// <param name="width">How wide the block is in it, CSS pixels.</param>
    /// <param name="large">Which take more room in a mosaic; empty for none.</param>
    public IReadOnlyList<Box> Pictures(double[] shapes, Window window, double width, ReadOnlySpan<bool> large)
    {
        var settings = For(DeviceOf(window.Width));
        IReadOnlyList<Box> In(Box room, bool crops) => [.. shapes.Select(s => crops ? room : room.Holding(s))];
        switch (Kind)
        {
            case LayoutKind.Strip:
                return In(StripLayout.Room(Along.Height, settings.SizeIn(width), shapes, window, width), crops: false);
            case LayoutKind.Slides:
                return In(SlidesLayout.Frame(Slides.Shape?.Shape(), shapes, window, width), Slides.Crops());
            case LayoutKind.List:
                var picture = settings.SizeIn(width);
                return In(new Box(0, 0, picture, ListLayout.Height(shapes, picture)), crops: false);
            default:
                var boxes = settings.Place(shapes, width, large).Boxes;
                return Kind == LayoutKind.Grid && Cells.Whole ? [.. boxes.Select((b, i) => b.Holding(shapes[i]))] : boxes;
        }
    }
}
