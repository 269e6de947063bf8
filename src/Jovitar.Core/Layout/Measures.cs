namespace Jovitar.Core.Layout;

/// <summary>How many stand side by side on each device.</summary>
public sealed record InARow(int Desktop, int Tablet, int Phone)
{
    public int On(Device device) => device switch { Device.Phone => Phone, Device.Tablet => Tablet, _ => Desktop };

    /// <summary>So many have the room that a number has when each is larger or smaller by a factor; at least one.</summary>
    /// <param name="by">Above 0.</param>
    public static int InRoomOf(int across, double by) => (int)Math.Max(1, Math.Round(across / by));

    /// <summary>In the same room, each larger or smaller by a factor.</summary>
    /// <param name="by">Above 0.</param>
    public InARow Scaled(double by) => new(InRoomOf(Desktop, by), InRoomOf(Tablet, by), InRoomOf(Phone, by));

    /// <summary>With every number brought into its range.</summary>
    public InARow Bounded()
    {
        static int Number(int n) => Math.Clamp(n, 1, LayoutSettings.MostAcross);
        return new InARow(Number(Desktop), Number(Tablet), Number(Phone));
    }
}

/// <summary>The measures of one layout.</summary>
/// <param name="Size">The wanted size of a photo on a desktop, CSS pixels: its height in rows, a mosaic and a strip, else its width.</param>
/// <param name="Gap">Between photos, CSS pixels; null for as far apart as the look has them.</param>
/// <param name="Tablet">The wanted size on a tablet; null for the usual.</param>
/// <param name="Phone">The wanted size on a phone; null for the usual.</param>
/// <param name="Across">How many stand side by side, of columns and a grid; null where the size says it.</param>
public sealed record Measures(int Size, int? Gap, int? Tablet, int? Phone, InARow? Across)
{
    public static Measures Of(int size, int? gap) => new(size, gap, null, null, null);

    /// <summary>With photos larger or smaller by a factor on every device, as far as their range goes; the gaps stay.</summary>
    /// <param name="by">Above 0.</param>
    public Measures Scaled(double by)
    {
        int Size(int size) => (int)Math.Round(size * by);
        return new Measures(Size(this.Size), Gap, Tablet is { } tablet ? Size(tablet) : null, Phone is { } phone ? Size(phone) : null, Across?.Scaled(by)).Bounded();
    }

    /// <summary>With every number brought into its range.</summary>
    public Measures Bounded()
    {
        static int InRange(int size) => Math.Clamp(size, LayoutSettings.SmallestSize, LayoutSettings.LargestSize);
        return new Measures(
            InRange(Size), Gap is { } gap ? Math.Clamp(gap, 0, LayoutSettings.LargestGap) : null, Tablet is { } tablet ? InRange(tablet) : null, Phone is { } phone ? InRange(phone) : null, Across?.Bounded());
    }
}

/// <summary>A shape said by two numbers, as photographers do: 3 to 2.</summary>
public sealed record Ratio(int Across, int Down)
{
    public const int Most = 100;

    /// <summary>Neither side is so long beside the other that nothing would be seen.</summary>
    const int LongestSide = 10;

    /// <summary>With numbers that can be.</summary>
    public Ratio Bounded()
    {
        var (across, down) = (Math.Clamp(Across, 1, Most), Math.Clamp(Down, 1, Most));
        return new Ratio(Math.Min(across, down * LongestSide), Math.Min(down, across * LongestSide));
    }

    /// <summary>Width over height.</summary>
    public double Shape() => (double)Across / Down;
}

/// <summary>The cells of a grid.</summary>
/// <param name="Shape">Null for the middle shape of the photos.</param>
/// <param name="Whole">Photos stand whole on even ground; else they are cropped to the cell, about their focus.</param>
public sealed record GridCells(Ratio? Shape, bool Whole);
