namespace Jovitar.Core.Watermarks;

/// <summary>Where a watermark stands on a photo that stands once on it, pixels from its upper left corner.</summary>
public readonly record struct WatermarkBox(int X, int Y, int Width, int Height);

/// <summary>How a watermark is spread over a photo: in rows that rise to the right, every second one set off by half a step.</summary>
/// <param name="Width">Of each, pixels.</param>
/// <param name="Along">From one to the next in a row, pixels.</param>
/// <param name="Across">From row to row, pixels.</param>
public readonly record struct WatermarkRows(int Width, int Height, int Along, int Across)
{
    /// <summary>How far the rows rise, degrees: what is cut off along an edge leaves part of every one beside it.</summary>
    public const double Rise = 30;
}

/// <summary>
/// How large a watermark is on a photo, and where. Its surface is measured by the photo's, so that a long line of words and a round sign
/// weigh the same, on photos of every size and shape, and all renditions of one photo show the same.
/// </summary>
public static class WatermarkLayout
{
    /// <summary>Room between two of them that are spread, in parts of the side of a square as large as they are.</summary>
    const double Room = 1.4;

    /// <summary>How large one of many is at most, in parts of the photo's shorter edge.</summary>
    const double MostSpread = 0.3;

    /// <summary>Where it stands once: whole on the photo, however long it is.</summary>
    /// <param name="width">Of the photo, pixels.</param>
    /// <param name="shape">The watermark's own width by its height.</param>
    public static WatermarkBox Once(Watermark watermark, int width, int height, double shape)
    {
        var inset = Math.Min(width, height) * watermark.Inset / 100.0;
        var (wide, high) = Fitted(Side(watermark, width, height), shape, Math.Max(1, width - (2 * inset)), Math.Max(1, height - (2 * inset)));
        var (column, row) = Where(watermark.Place);
        return new WatermarkBox(Along(column, width, wide, inset), Along(row, height, high, inset), wide, high);
    }

    /// <summary>How it is spread over all of a photo: several of them meet its shorter edge, however long it is.</summary>
    public static WatermarkRows Spread(Watermark watermark, int width, int height, double shape)
    {
        var side = Math.Min(Side(watermark, width, height), Math.Min(width, height) * MostSpread);
        var (wide, high) = Fitted(side, shape, width, height);
        var room = Math.Max(1, (int)Math.Round(side * Room));
        return new WatermarkRows(wide, high, wide + room, high + room);
    }

    static double Side(Watermark watermark, int width, int height) => Math.Sqrt((double)width * height) * watermark.Size / 100.0;

    static (int Wide, int High) Fitted(double side, double shape, double mostWide, double mostHigh)
    {
        var (wide, high) = (side * Math.Sqrt(shape), side / Math.Sqrt(shape));
        var less = Math.Min(1, Math.Min(mostWide / wide, mostHigh / high));
        return (Math.Max(1, (int)(wide * less)), Math.Max(1, (int)(high * less)));
    }

    /// <summary>The column and the row: 0 at the left or top, 1 in the middle, 2 at the other edge.</summary>
    static (int Column, int Row) Where(WatermarkPlace place) => place == WatermarkPlace.AllOver ? (1, 1) : ((int)place % 3, (int)place / 3);

    static int Along(int at, int whole, int length, double inset) => at switch
    {
        0 => (int)Math.Min(Math.Round(inset), whole - length),
        1 => (whole - length) / 2,
        _ => (int)Math.Max(0, Math.Round(whole - inset) - length),
    };
}
