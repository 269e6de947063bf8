using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Jovitar.Core.Photos;

namespace Jovitar.Core.Corrections;

/// <summary>
/// What is kept of a straightened picture: a rectangle in parts of its frame, which is as large as the turned picture and lies
/// about its middle. A print found in the corner of a scan may reach beyond the frame, never beyond the picture.
/// </summary>
public readonly record struct Crop(double X, double Y, double Width, double Height)
{
    /// <summary>As exactly as it is kept: a part in a million, far below a pixel.</summary>
    internal Crop Rounded() => new(Math.Round(X, 6), Math.Round(Y, 6), Math.Round(Width, 6), Math.Round(Height, 6));
}

/// <summary>How strongly each colour counts in black and white, 0 to 100; only how they stand to one another matters.</summary>
public sealed record Greys(int Red, int Green, int Blue)
{
    /// <summary>As the eye weighs them (ITU-R BT.709: 0.2126, 0.7152, 0.0722).</summary>
    public static readonly Greys Usual = new(21, 72, 7);

    /// <summary>The parts of each, which make one together: a grey stays as light as it was. All equal where none counts.</summary>
    public (double Red, double Green, double Blue) Weights() =>
        Red + Green + Blue is > 0 and var all ? (Red / (double)all, Green / (double)all, Blue / (double)all) : (1 / 3.0, 1 / 3.0, 1 / 3.0);
}

/// <summary>A place in a picture, in parts of its width and height.</summary>
public readonly record struct Spot(double X, double Y)
{
    internal Spot Rounded() => new(Math.Round(X, 4), Math.Round(Y, 4));
}

/// <summary>
/// The recipe of a photo that lies beside its original, which never changes. In this order: the upright picture is turned, then
/// straightened about its middle, cropped, made black and white, then made brighter and given contrast (<see cref="Tones"/>).
/// </summary>
public sealed record Correction
{
    public const double MostAngle = 45;
    public const int MostTone = 100;

    /// <summary>A crop keeps at least this part of each side.</summary>
    public const double LeastSide = 0.01;

    /// <summary>Nothing is corrected.</summary>
    public static readonly Correction None = new();

    /// <summary>Quarter turns clockwise, 0 to 3.</summary>
    public int Turns { get; init; }

    /// <summary>Degrees clockwise, −45 to 45.</summary>
    public double Angle { get; init; }

    /// <summary>Null for the largest of the picture's own shape about its middle, which is all of it while nothing is straightened.</summary>
    public Crop? Crop { get; init; }

    /// <summary>Null for colour.</summary>
    public Greys? Greys { get; init; }

    /// <summary>−100 to 100.</summary>
    public int Brightness { get; init; }

    /// <summary>−100 to 100.</summary>
    public int Contrast { get; init; }

    /// <summary>What stays in view where the photo has less room than its shape wants, in parts of the upright original; null for its middle.</summary>
    public Spot? Focus { get; init; }

    public bool IsNone => this == None;

    /// <summary>Whether it changes any pixel; a focus does not.</summary>
    public bool ChangesPixels => this with { Focus = null } != None;

    /// <summary>What names the picture it makes, beside its original: equal for equal pixels, and never used for others. Empty when it changes none.</summary>
    public string Key
    {
        get
        {
            if (!ChangesPixels)
            {
                return "";
            }

            var text = string.Create(
                CultureInfo.InvariantCulture,
                $"{Turns} {Angle} {(Crop is { } c ? $"{c.X} {c.Y} {c.Width} {c.Height}" : "")} {(Greys is { } g ? $"{g.Red} {g.Green} {g.Blue}" : "")} {Brightness} {Contrast}");
            return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)))[..PictureName.KeyLength];
        }
    }

    /// <summary>The same as exactly as it is kept, every number within its range, the crop within the picture.</summary>
    /// <param name="size">Of the upright original.</param>
    public Correction Within(PixelSize size)
    {
        var tidy = this with
        {
            Turns = ((Turns % 4) + 4) % 4,
            Angle = Math.Round(Math.Clamp(double.IsFinite(Angle) ? Angle : 0, -MostAngle, MostAngle), 2) + 0.0,
            Brightness = Math.Clamp(Brightness, -MostTone, MostTone),
            Contrast = Math.Clamp(Contrast, -MostTone, MostTone),
            Greys = Greys is { } g ? new Greys(Math.Clamp(g.Red, 0, 100), Math.Clamp(g.Green, 0, 100), Math.Clamp(g.Blue, 0, 100)) : null,
            Focus = Focus is { } f && double.IsFinite(f.X) && double.IsFinite(f.Y) ? new Spot(Math.Clamp(f.X, 0, 1), Math.Clamp(f.Y, 0, 1)).Rounded() : null,
        };
        return tidy with { Crop = Crop is { } crop && Framing.Fitted(crop, size.Turned(tidy.Turns), tidy.Angle).Rounded() is var fitted && fitted != Framing.Largest(size.Turned(tidy.Turns), tidy.Angle).Rounded() ? fitted : null };
    }

    /// <summary>Another quarter turn or more: what was cropped stays the same.</summary>
    public Correction Turned(int quarters)
    {
        var turned = this;
        for (var left = ((quarters % 4) + 4) % 4; left > 0; left--)
        {
            turned = turned with { Turns = (turned.Turns + 1) % 4, Crop = turned.Crop is { } c ? new Crop(1 - c.Y - c.Height, c.X, c.Height, c.Width) : null };
        }

        return turned;
    }

    /// <summary>What it does, in the words that photos are found by.</summary>
    public IReadOnlyList<string> Traits()
    {
        var traits = new List<string>();
        void Add(bool has, string name)
        {
            if (has)
            {
                traits.Add(name);
            }
        }

        Add(Turns != 0, "turned");
        Add(Angle != 0, "straightened");
        Add(Crop is not null, "cropped");
        Add(Brightness != 0 || Contrast != 0, "toned");
        Add(Greys is not null, "grey");
        Add(Focus is not null, "focus");
        return traits;
    }
}
