namespace Jovitar.Core.Corrections;

/// <summary>The size of a picture, pixels.</summary>
public readonly record struct PixelSize(int Width, int Height)
{
    public double Ratio => (double)Width / Height;

    public PixelSize Turned(int quarters) => quarters % 2 == 0 ? this : new PixelSize(Height, Width);
}

/// <summary>What of a turned picture is seen once it is straightened and cropped.</summary>
/// <remarks>
/// The picture is rotated about its middle; the frame stays upright, has the picture's size, and lies about the same middle. A
/// crop is good when all four of its corners, rotated back, lie in the picture: no pixel is ever made up.
/// </remarks>
public static class Framing
{
    /// <summary>The largest crop of the picture's own shape about the middle.</summary>
    public static Crop Largest(PixelSize turned, double angle) => Largest(turned, angle, turned.Ratio);

    /// <summary>The largest crop of a shape about the middle.</summary>
    /// <param name="angle">Degrees clockwise.</param>
    /// <param name="ratio">Width over height, above 0.</param>
    public static Crop Largest(PixelSize turned, double angle, double ratio)
    {
        // A rectangle r·h by h, rotated, is r·h·cos + h·sin wide and r·h·sin + h·cos high; both must fit.
        var (sin, cos) = SinCos(angle);
        var height = Math.Min(turned.Width / ((ratio * cos) + sin), turned.Height / ((ratio * sin) + cos));
        var (w, h) = (height * ratio / turned.Width, height / turned.Height);
        return new Crop((1 - w) / 2, (1 - h) / 2, w, h);
    }

    /// <summary>A crop brought wholly within the picture: moved as far as needed, and only then made smaller, its shape kept.</summary>
    public static Crop Fitted(Crop crop, PixelSize turned, double angle)
    {
        if (!double.IsFinite(crop.X + crop.Y + crop.Width + crop.Height))
        {
            return Largest(turned, angle);
        }

        var (sin, cos) = SinCos(angle);
        (double Width, double Height) Shrunk(double width, double height)
        {
            var scale = Math.Min(1, Math.Min(turned.Width / ((width * cos) + (height * sin)), turned.Height / ((width * sin) + (height * cos))));
            return (width * scale, height * scale);
        }

        var (w, h) = Shrunk(Math.Max(crop.Width, 1e-6) * turned.Width, Math.Max(crop.Height, 1e-6) * turned.Height);
        (w, h) = Shrunk(Math.Max(w, Correction.LeastSide * turned.Width), Math.Max(h, Correction.LeastSide * turned.Height));

        // The middle of the crop, in the picture before it was rotated.
        var middle = Rotate((crop.X + (crop.Width / 2) - 0.5) * turned.Width, (crop.Y + (crop.Height / 2) - 0.5) * turned.Height, -angle);
        var roomX = Math.Max(0, (turned.Width - (w * cos) - (h * sin)) / 2);
        var roomY = Math.Max(0, (turned.Height - (w * sin) - (h * cos)) / 2);
        var (x, y) = Rotate(Math.Clamp(middle.X, -roomX, roomX), Math.Clamp(middle.Y, -roomY, roomY), angle);
        return new Crop(((x - (w / 2)) / turned.Width) + 0.5, ((y - (h / 2)) / turned.Height) + 0.5, w / turned.Width, h / turned.Height);
    }

    /// <summary>The crop that holds, of what a correction says.</summary>
    public static Crop Crop(Correction correction, PixelSize original)
    {
        var turned = original.Turned(correction.Turns);
        return correction.Crop ?? Largest(turned, correction.Angle);
    }

    /// <summary>How large the corrected picture is.</summary>
    /// <param name="original">Upright, pixels.</param>
    public static PixelSize Size(Correction correction, PixelSize original)
    {
        var turned = original.Turned(correction.Turns);
        var crop = Crop(correction, original);
        return new PixelSize(Math.Max(1, (int)Math.Round(crop.Width * turned.Width)), Math.Max(1, (int)Math.Round(crop.Height * turned.Height)));
    }

    /// <summary>Where a place of the upright original stands in the corrected picture; at its edge where it was cropped away.</summary>
    public static Spot Seen(Spot spot, Correction correction, PixelSize original)
    {
        for (var i = 0; i < correction.Turns; i++)
        {
            spot = new Spot(1 - spot.Y, spot.X);
        }

        var turned = original.Turned(correction.Turns);
        var crop = Crop(correction, original);
        var (x, y) = Rotate((spot.X - 0.5) * turned.Width, (spot.Y - 0.5) * turned.Height, correction.Angle);
        return new Spot(Math.Clamp(((x / turned.Width) + 0.5 - crop.X) / crop.Width, 0, 1), Math.Clamp(((y / turned.Height) + 0.5 - crop.Y) / crop.Height, 0, 1)).Rounded();
    }

    /// <summary>Where the corners of what is seen lie in the upright original: upper left, upper right, lower right, lower left of the corrected picture.</summary>
    public static IReadOnlyList<Spot> Corners(Correction correction, PixelSize original)
    {
        var turned = original.Turned(correction.Turns);
        var crop = Crop(correction, original);
        return
        [
            .. new[] { (crop.X, crop.Y), (crop.X + crop.Width, crop.Y), (crop.X + crop.Width, crop.Y + crop.Height), (crop.X, crop.Y + crop.Height) }.Select(corner =>
            {
                var (x, y) = Rotate((corner.Item1 - 0.5) * turned.Width, (corner.Item2 - 0.5) * turned.Height, -correction.Angle);
                var spot = new Spot((x / turned.Width) + 0.5, (y / turned.Height) + 0.5);
                for (var i = correction.Turns; i is > 0 and < 4; i++)
                {
                    spot = new Spot(1 - spot.Y, spot.X);
                }

                return new Spot(Math.Clamp(spot.X, 0, 1), Math.Clamp(spot.Y, 0, 1));
            }),
        ];
    }

    /// <summary>A step from the middle, rotated clockwise: y runs down.</summary>
    internal static (double X, double Y) Rotate(double x, double y, double angle)
    {
        var (sin, cos) = Math.SinCos(angle * Math.PI / 180);
        return ((x * cos) - (y * sin), (x * sin) + (y * cos));
    }

    static (double Sin, double Cos) SinCos(double angle)
    {
        var (sin, cos) = Math.SinCos(Math.Abs(angle) * Math.PI / 180);
        return (sin, cos);
    }
}
