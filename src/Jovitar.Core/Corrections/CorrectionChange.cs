namespace Jovitar.Core.Corrections;

/// <summary>What is to be changed in the corrections of one photo or many; what is null stays.</summary>
public sealed record CorrectionChange
{
    /// <summary>Begins anew: everything else is said of the photo as it came in.</summary>
    public bool Reset { get; init; }

    /// <summary>More quarter turns clockwise; below zero anticlockwise.</summary>
    public int Turn { get; init; }

    public double? Angle { get; init; }

    /// <summary>Where it is cropped; on a photo that has no room for it, as near as there is.</summary>
    public Crop? Crop { get; init; }

    /// <summary>Crops to a shape about the middle, as large as it goes. Lying photos get it lying, standing ones standing.</summary>
    public CropShape? Shape { get; init; }

    public int? Brightness { get; init; }

    public int? Contrast { get; init; }

    public Greys? Greys { get; init; }

    /// <summary>Takes black and white back.</summary>
    public bool InColour { get; init; }

    public Spot? Focus { get; init; }

    /// <summary>Takes the focus back.</summary>
    public bool InMiddle { get; init; }

    /// <summary>The correction of another photo, taken over whole but for its focus.</summary>
    public Correction? Like { get; init; }

    /// <summary>What a photo's correction becomes.</summary>
    /// <param name="size">Of the upright original.</param>
    /// <param name="isPart">It is a print on a scan: where it lies there is what it is, and is neither taken back nor taken over from another.</param>
    public Correction Of(Correction before, PixelSize size, bool isPart = false)
    {
        var basis = Like is { } like ? like with { Focus = before.Focus } : Reset ? Correction.None : before;
        if (isPart)
        {
            basis = basis with { Turns = before.Turns, Angle = before.Angle, Crop = before.Crop };
        }

        var now = basis.Turned(Turn) with
        {
            Angle = Angle ?? basis.Angle,
            Brightness = Brightness ?? basis.Brightness,
            Contrast = Contrast ?? basis.Contrast,
            Greys = InColour ? null : Greys ?? basis.Greys,
            Focus = InMiddle ? null : Focus ?? basis.Focus,
        };
        var turned = size.Turned(now.Turns);
        now = now with
        {
            Crop = Shape is not { } shape ? Crop ?? now.Crop
                : isPart && now.Crop is { } print ? CropShapes.Within(shape, print, turned)
                : CropShapes.Of(shape, turned, now.Angle),
        };
        return now.Within(size);
    }
}

/// <summary>Shapes that photos are cropped to.</summary>
public enum CropShape
{
    /// <summary>As it was taken.</summary>
    AsShot,
    Square,
    FiveFour,
    FourThree,

    /// <summary>√2:1, of ISO 216 paper (A4, A3).</summary>
    Paper,

    /// <summary>3:2, of 35 mm film.</summary>
    ThreeTwo,
    SixteenNine,
}

/// <summary>The shapes as numbers.</summary>
public static class CropShapes
{
    /// <summary>The longer side over the shorter; 0 for the photo's own.</summary>
    public static double Ratio(CropShape shape) => shape switch
    {
        CropShape.Square => 1,
        CropShape.ThreeTwo => 3 / 2.0,
        CropShape.FourThree => 4 / 3.0,
        CropShape.SixteenNine => 16 / 9.0,
        CropShape.FiveFour => 5 / 4.0,
        CropShape.Paper => Math.Sqrt(2),
        _ => 0,
    };

    /// <summary>The largest of a shape within a crop, about its middle, lying or standing as it does; all of it where the shape is its own.</summary>
    internal static Crop Within(CropShape shape, Crop crop, PixelSize turned)
    {
        var (width, height) = (crop.Width * turned.Width, crop.Height * turned.Height);
        var ratio = Ratio(shape) is var r and > 0 ? (width >= height ? r : 1 / r) : width / height;
        var (w, h) = (Math.Min(width, height * ratio) / turned.Width, Math.Min(height, width / ratio) / turned.Height);
        return new Crop(crop.X + ((crop.Width - w) / 2), crop.Y + ((crop.Height - h) / 2), w, h);
    }

    /// <summary>The largest crop of a shape, lying or standing as the photo does; null where that is no crop at all.</summary>
    internal static Crop? Of(CropShape shape, PixelSize turned, double angle) => Ratio(shape) switch
    {
        0 => null,
        var ratio => Framing.Largest(turned, angle, turned.Width >= turned.Height ? ratio : 1 / ratio),
    };
}
