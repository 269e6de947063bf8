namespace Jovitar.Core.Corrections;

/// <summary>Brightness and contrast as a table from 8-bit sRGB values to others: black stays black, white stays white, and nothing is cut off.</summary>
/// <remarks>
/// Brightness b raises values to the power 3^(−b/100) (a gamma between a third and three): middle tones move most. Contrast c
/// then lays the logistic curve of steepness k = 8·|c|/100 about the middle, scaled so that its ends stay, and its inverse when c
/// is below zero: Braun and Fairchild, "Image lightness rescaling using sigmoidal contrast enhancement functions", Journal of
/// Electronic Imaging 8(4), 1999.
/// </remarks>
public static class Tones
{
    /// <summary>Values a table holds.</summary>
    public const int Length = 256;

    const double LargestGamma = 3;
    const double Steepest = 8;

    /// <summary>What each value from 0 to 255 becomes.</summary>
    public static byte[] Table(int brightness, int contrast)
    {
        var table = new byte[Length];
        for (var i = 0; i < Length; i++)
        {
            table[i] = (byte)Math.Round(255 * Value(i / 255.0, brightness, contrast));
        }

        return table;
    }

    /// <summary>The gamma that a brightness stands for.</summary>
    public static double Gamma(int brightness) => Math.Pow(LargestGamma, brightness / (double)Correction.MostTone);

    /// <summary>The steepness that a contrast stands for, without its sign.</summary>
    public static double Steepness(int contrast) => Steepest * Math.Abs(contrast) / Correction.MostTone;

    static double Value(double value, int brightness, int contrast)
    {
        var bright = Math.Pow(value, 1 / Gamma(brightness));
        var k = Steepness(contrast);
        if (contrast == 0)
        {
            return bright;
        }

        double Logistic(double x) => 1 / (1 + Math.Exp(k * (0.5 - x)));
        var (low, high) = (Logistic(0), Logistic(1));
        return contrast > 0
            ? (Logistic(bright) - low) / (high - low)
            : Math.Clamp(0.5 - (Math.Log((1 / ((bright * (high - low)) + low)) - 1) / k), 0, 1);
    }
}
