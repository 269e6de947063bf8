namespace Jovitar.Core.Layout;

/// <summary>Sizes of windows that settings may differ by.</summary>
public enum Device
{
    Phone,
    Tablet,
    Desktop,
}

/// <summary>The measures of one layout.</summary>
/// <param name="Size">The wanted size of a photo on a desktop, CSS pixels: its height in rows, else its width.</param>
/// <param name="Gap">Between photos, CSS pixels.</param>
/// <param name="Tablet">The wanted size on a tablet; null for the usual.</param>
/// <param name="Phone">The wanted size on a phone; null for the usual.</param>
public sealed record Measures(int Size, int Gap, int? Tablet, int? Phone)
{
    /// <summary>With every number brought into its range.</summary>
    public Measures Bounded()
    {
        static int Size_(int size) => Math.Clamp(size, LayoutSettings.SmallestSize, LayoutSettings.LargestSize);
        return new Measures(Size_(Size), Math.Clamp(Gap, 0, LayoutSettings.LargestGap), Tablet is { } tablet ? Size_(tablet) : null, Phone is { } phone ? Size_(phone) : null);
    }
}

/// <summary>The layout of a block and the measures of each that there is: changing to another and back loses nothing.</summary>
public sealed record BlockLayout(LayoutKind Kind, Measures Rows, Measures Columns, Measures Grid)
{
    /// <summary>What a new block begins with.</summary>
    public static readonly BlockLayout Usual = new(LayoutKind.Rows, new Measures(260, 6, null, null), new Measures(300, 6, null, null), new Measures(260, 6, null, null));

    /// <summary>One layout with its measures, the others as usual.</summary>
    public static BlockLayout Of(LayoutKind kind, int size, int gap)
    {
        var measures = new Measures(size, gap, null, null);
        return kind switch
        {
            LayoutKind.Rows => Usual with { Kind = kind, Rows = measures },
            LayoutKind.Columns => Usual with { Kind = kind, Columns = measures },
            _ => Usual with { Kind = kind, Grid = measures },
        };
    }

    /// <summary>With every number brought into its range.</summary>
    public BlockLayout Bounded() => this with { Rows = Rows.Bounded(), Columns = Columns.Bounded(), Grid = Grid.Bounded() };

    /// <summary>Which device a window of a width is, CSS pixels.</summary>
    public static Device DeviceOf(double window) => window < 600 ? Device.Phone : window < 1024 ? Device.Tablet : Device.Desktop;

    /// <summary>What is set for a device.</summary>
    public LayoutSettings For(Device device)
    {
        var measures = Kind switch { LayoutKind.Rows => Rows, LayoutKind.Columns => Columns, _ => Grid };
        var said = device switch { Device.Phone => measures.Phone, Device.Tablet => measures.Tablet, _ => null };
        return new LayoutSettings(Kind, said ?? measures.Size, measures.Gap, said is not null);
    }
}
