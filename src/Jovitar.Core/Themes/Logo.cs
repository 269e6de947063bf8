namespace Jovitar.Core.Themes;

/// <summary>The picture that stands in the site's head in place of its title; who cannot see it is read the title.</summary>
/// <param name="Picture">Names its bytes: their SHA-256 in lower-case hexadecimal digits.</param>
/// <param name="Width">Of the picture, pixels; likewise its height.</param>
/// <param name="High">How high it stands, CSS pixels.</param>
public sealed record Logo(string Picture, int Width, int Height, int High)
{
    public const int Lowest = 16;
    public const int Highest = 120;

    /// <summary>How high one stands that was just brought.</summary>
    public const int UsualHigh = 48;

    /// <summary>So high its picture is made at most, pixels: sharp on a screen with two of them to a CSS pixel.</summary>
    public const int MostPixels = 2 * Highest;

    /// <summary>Longer than this beside its height none is made: it would not stand in a head.</summary>
    public const int Longest = 6;

    /// <summary>Of a file that is to become one, bytes.</summary>
    public const int MostBytes = 4 * 1024 * 1024;

    /// <summary>Where its picture is, from the site's root.</summary>
    public string Address() => $"/logo/{Picture}.webp";

    /// <summary>How wide it stands, CSS pixels.</summary>
    public int WidthAt() => Math.Max(1, (int)Math.Round((double)High * Width / Math.Max(1, Height)));

    /// <summary>What is wrong with it, a sentence; null when it may be looked for.</summary>
    public string? Fault() => Picture.Length == 64 && Picture.All(char.IsAsciiHexDigitLower) ? null : "There is no picture of that name for the head.";

    /// <summary>With every number brought into its range.</summary>
    public Logo Bounded() => this with { High = Math.Clamp(High, Lowest, Highest) };
}
