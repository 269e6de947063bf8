using NetVips;

namespace Jovitar.Standins.Scanner;

/// <summary>The prints that lie on the glass or in the feeder, one after another, as a scanner sees them: a photograph on white paper, a little askew, a little warm.</summary>
internal sealed class PrintTray(string folder)
{
    /// <summary>The glass, millimetres (ISO 216: A4).</summary>
    public const double WidthMillimetres = 210;
    public const double HeightMillimetres = 297;

    const double PerInch = 25.4;
    const double Margin = 22;
    int next;

    /// <summary>Scans the next print.</summary>
    /// <param name="resolution">Pixels per inch.</param>
    /// <returns>A JPEG that names its resolution.</returns>
    public byte[] Scan(int resolution, bool grey)
    {
        var prints = Directory.GetFiles(folder, "*.jpg").Order(StringComparer.Ordinal).ToArray();
        var print = prints[Interlocked.Add(ref next, 7) % prints.Length];
        int Pixels(double millimetres) => (int)Math.Round(millimetres / PerInch * resolution);
        var (width, height) = (Pixels(WidthMillimetres), Pixels(HeightMillimetres));
        using var photo = Image.Thumbnail(print, width - (2 * Pixels(Margin)), height: height - (2 * Pixels(Margin)));
        using var askew = photo.Similarity(angle: 0.6, background: [244, 242, 238]);
        using var paper = askew.Embed((width - askew.Width) / 2, Pixels(Margin), width, height, extend: Enums.Extend.Background, background: [244, 242, 238]);
        using var noise = Image.Gaussnoise(width, height, mean: 0, sigma: 1.6, seed: next);
        using var seen = (paper + noise).Cast(Enums.BandFormat.Uchar);
        using var toned = grey ? seen.Copy(interpretation: Enums.Interpretation.Srgb).Colourspace(Enums.Interpretation.Bw) : seen.Copy(interpretation: Enums.Interpretation.Srgb);
        using var sized = toned.Copy(xres: resolution / PerInch, yres: resolution / PerInch);
        return sized.JpegsaveBuffer(q: 88, keep: Enums.ForeignKeep.None);
    }
}
