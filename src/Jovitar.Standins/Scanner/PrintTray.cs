using NetVips;

namespace Jovitar.Standins.Scanner;

/// <summary>The prints that lie on the glass or in the feeder, as a scanner sees them: photographs on white paper, a little askew, a little warm.</summary>
internal sealed class PrintTray(string folder)
{
    /// <summary>The glass, millimetres (ISO 216: A4).</summary>
    public const double WidthMillimetres = 210;
    public const double HeightMillimetres = 297;

    const double PerInch = 25.4;

    /// <summary>White paper under an old lamp.</summary>
    static readonly double[] Paper = [244, 242, 238];

    /// <summary>How prints are laid on the glass, in turn: one large one, then three small ones that somebody did not care to lay straight.</summary>
    static readonly Place[][] Ways =
    [
        [new(22, 22, 166, 253, 0.6)],
        [new(12, 16, 88, 118, -3.4), new(112, 20, 84, 116, 2.3), new(30, 164, 146, 100, 1.2)],
    ];

    int next;

    /// <summary>Where a print lies and how large it may be, millimetres, and how far askew, degrees clockwise.</summary>
    sealed record Place(double X, double Y, double Width, double Height, double Angle);

    /// <summary>Scans what lies on the glass next.</summary>
    /// <param name="resolution">Pixels per inch.</param>
    /// <returns>A JPEG that names its resolution.</returns>
    public byte[] Scan(int resolution, bool grey)
    {
        var prints = Directory.GetFiles(folder, "*.jpg").Order(StringComparer.Ordinal).ToArray();
        var scan = Interlocked.Increment(ref next);
        int Pixels(double millimetres) => (int)Math.Round(millimetres / PerInch * resolution);
        var (width, height) = (Pixels(WidthMillimetres), Pixels(HeightMillimetres));
        using var bare = Image.Black(width, height, bands: 3) + Paper;
        var paper = bare.Cast(Enums.BandFormat.Uchar);
        foreach (var (place, n) in Ways[(scan - 1) % Ways.Length].Select((place, n) => (place, n)))
        {
            using var photo = Image.Thumbnail(prints[((7 * scan) + (11 * n)) % prints.Length], Pixels(place.Width), height: Pixels(place.Height));
            using var askew = photo.Similarity(angle: place.Angle, background: Paper);
            using var under = paper;
            paper = under.Insert(askew, Pixels(place.X), Pixels(place.Y));
        }

        using var laid = paper;
        using var noise = Image.Gaussnoise(width, height, mean: 0, sigma: 1.6, seed: scan);
        using var seen = (laid + noise).Cast(Enums.BandFormat.Uchar);
        using var toned = grey ? seen.Copy(interpretation: Enums.Interpretation.Srgb).Colourspace(Enums.Interpretation.Bw) : seen.Copy(interpretation: Enums.Interpretation.Srgb);
        using var sized = toned.Copy(xres: resolution / PerInch, yres: resolution / PerInch);
        return sized.JpegsaveBuffer(q: 88, keep: Enums.ForeignKeep.None);
    }
}
