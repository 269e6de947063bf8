namespace Jovitar.Core.Layout;

/// <summary>
/// Rows in which some photos take more room. Every photo keeps its shape, nothing is cropped, and there are no holes: the block is
/// filled to its last corner.
/// </summary>
/// <remarks>
/// The photos are broken into bands, each as wide as the block. A band is one row; or a large photo at one side, as high as the two
/// rows of others beside it, which are broken where they come to be most nearly equally long. The large one stands at the left where
/// it comes from the first half of its band, else at the right; the others are read in their order, upper row, lower row. So no photo
/// leaves its band, and the order is kept from band to band.
/// Heights follow from the widths: with photos of shapes s, rows that add up to shapes R and S, a width W and gaps g, the large one
/// is h high where h = a + u + g + b with the room u beneath each photo, and a·R and b·S fill what s·h and one gap leave of W. Least sum of squared logarithms of the
/// heights over those wanted, a photo each, a large one counting for the four places that it takes, over all ways to break, found by
/// dynamic programming as in <see cref="RowsLayout"/>.
/// </remarks>
public static class MosaicLayout
{
    /// <summary>No band holds more photos than this, whatever their shapes.</summary>
    public const int MostInBand = 40;

    /// <summary>A large photo takes the room of so many.</summary>
    public const int Places = 4;

    /// <summary>Bands whose rows would be lower than this share of the wanted height are not tried.</summary>
    const double Lowest = 0.55;

    /// <summary>A band that begins at a photo.</summary>
    /// <param name="To">The photo behind its last.</param>
    /// <param name="Large">The large one beside two rows; null for a band that is one row.</param>
    readonly record struct Band(int To, int? Large, double Cost);

    /// <summary>Places photos in a mosaic.</summary>
    /// <param name="shapes">Aspect ratios, width over height, each above 0.</param>
    /// <param name="large">Which take more room; empty for none.</param>
    /// <param name="width">Width to fill, CSS pixels, above 0.</param>
    /// <param name="height">Wanted height of a photo, CSS pixels, above 0; a large one is wanted twice as high, and the gap.</param>
    /// <param name="gap">Between photos, CSS pixels, 0 or more.</param>
    /// <param name="under">Room beneath each photo that belongs to its box, CSS pixels, 0 or more.</param>
    /// <exception cref="ArgumentOutOfRangeException">A shape, the width or the height is not above 0.</exception>
    public static Placed Place(ReadOnlySpan<double> shapes, ReadOnlySpan<bool> large, double width, double height, double gap, double under = 0)
    {
        if (shapes.IsEmpty)
        {
            return Placed.Nothing;
        }

        var fit = new MosaicFit(shapes, large, width, height, gap, under);
        var bands = Break(fit);
        var boxes = new Box[shapes.Length];
        double y = 0;
        for (var from = 0; from < shapes.Length; from = bands[from].To)
        {
            y = Stand(fit, from, bands[from], boxes, y) + gap;
        }

        return new Placed(boxes, y - gap);
    }

    /// <summary>The best band that begins at each photo.</summary>
    static Band[] Break(MosaicFit fit)
    {
        var bands = new Band[fit.Count + 1];
        var larges = new int[MostInBand];
        for (var from = fit.Count - 1; from >= 0; from--)
        {
            var best = new Band(from + 1, null, double.MaxValue);
            var known = 0;
            for (var to = from + 1; to <= fit.Count && to - from <= MostInBand; to++)
            {
                if (fit.IsLarge(to - 1))
                {
                    larges[known++] = to - 1;
                }

                var (behind, row) = (bands[to].Cost, fit.Row(from, to));
                if (to == from + 1 || row.Height > fit.Wanted * Lowest)
                {
                    best = row.Cost + behind < best.Cost ? new Band(to, null, row.Cost + behind) : best;
                }

                // Two rows hold twice what one does: they are tried on when a single row has become too low, but not for ever.
                if (fit.Sum(from, to) * fit.Wanted * Lowest > 2 * fit.Width && to > from + 1)
                {
                    break;
                }

                for (var i = 0; i < known && to - from > 2 && behind < best.Cost; i++)
                {
                    if (fit.Beside(larges[i], from, fit.Split(larges[i], from, to), to, fit.Wanted * Lowest, best.Cost - behind) is { } found)
                    {
                        best = new Band(to, larges[i], found.Cost + behind);
                    }
                }
            }

            bands[from] = best;
        }

        return bands;
    }

    /// <summary>Gives the photos of a band their boxes.</summary>
    /// <returns>Where it ends.</returns>
    static double Stand(MosaicFit fit, int from, Band band, Box[] boxes, double y)
    {
        if (band.Large is not { } large)
        {
            return Row(fit, from, band.To, null, 0, y, fit.Row(from, band.To).Height, boxes);
        }

        var left = large - from <= band.To - 1 - large;
        var split = fit.Split(large, from, band.To);
        var (height, upper, lower, _) = fit.Beside(large, from, split, band.To, 0, double.MaxValue)!.Value;
        var across = height * fit.Shape(large);
        boxes[large] = new Box(left ? 0 : fit.Width - across, y, across, height + fit.Under);
        var x = left ? across + fit.Gap : 0;
        Row(fit, from, split, large, x, y, upper, boxes);
        Row(fit, split, band.To, large, x, y + upper + fit.Under + fit.Gap, lower, boxes);
        return y + height + fit.Under;
    }

    /// <param name="without">One that stands elsewhere.</param>
    static double Row(MosaicFit fit, int from, int to, int? without, double x, double y, double height, Box[] boxes)
    {
        for (var i = from; i < to; i++)
        {
            if (i != without)
            {
                boxes[i] = new Box(x, y, fit.Shape(i) * height, height + fit.Under);
                x = boxes[i].Right + fit.Gap;
            }
        }

        return y + height + fit.Under;
    }
}
