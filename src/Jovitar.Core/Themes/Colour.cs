using System.Globalization;

namespace Jovitar.Core.Themes;

/// <summary>A colour of sRGB (IEC 61966-2-1), eight bits a channel.</summary>
public readonly record struct Colour(byte R, byte G, byte B)
{
    /// <summary>What words are written in, and what they are written on, unless something else is said. The site's style sheet says the same.</summary>
    public static readonly Colour Ink = new(0x16, 0x16, 0x16), Paper = new(0xFA, 0xFA, 0xFA);

    /// <summary>What is said of what is no colour.</summary>
    public const string Unknown = "A colour is said by # and six digits or letters a to f, such as #7a2e4d.";

    /// <summary>Reads <c>#rrggbb</c>; null where it is none.</summary>
    public static Colour? Parse(string? text) =>
        text is { Length: 7 } && text[0] == '#' && int.TryParse(text.AsSpan(1), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out var rgb)
            ? new Colour((byte)(rgb >> 16), (byte)(rgb >> 8), (byte)rgb)
            : null;

    /// <summary>As <c>#rrggbb</c>.</summary>
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"#{R:x2}{G:x2}{B:x2}");

    /// <summary>Relative luminance, 0 for black to 1 for white (WCAG 2.2, "relative luminance").</summary>
    public double Luminance => (0.2126 * Linear(R)) + (0.7152 * Linear(G)) + (0.0722 * Linear(B));

    /// <summary>Contrast of two colours, 1 to 21 (WCAG 2.2, "contrast ratio").</summary>
    public static double Contrast(Colour one, Colour other) => Contrast(one.Luminance, other.Luminance);

    /// <summary>Contrast of two luminances.</summary>
    public static double Contrast(double one, double other) => (Math.Max(one, other) + 0.05) / (Math.Min(one, other) + 0.05);

    /// <summary>This colour laid over another, as browsers do it: channel by channel in sRGB (CSS Color 4, simple alpha compositing).</summary>
    /// <param name="share">How much of it, 0 to 1.</param>
    public Colour Over(Colour beneath, double share)
    {
        static byte Mix(byte over, byte beneath, double share) => (byte)Math.Round((over * share) + (beneath * (1 - share)));
        return new Colour(Mix(R, beneath.R, share), Mix(G, beneath.G, share), Mix(B, beneath.B, share));
    }

    /// <summary>How different two colours look: their distance in OKLab (Ottosson 2020; CSS Color 4).</summary>
    public static double Distance(Colour one, Colour other)
    {
        var (a, b) = (one.OkLab(), other.OkLab());
        return Math.Sqrt(Math.Pow(a.L - b.L, 2) + Math.Pow(a.A - b.A, 2) + Math.Pow(a.B - b.B, 2));
    }

    (double L, double A, double B) OkLab()
    {
        var (r, g, b) = (Linear(R), Linear(G), Linear(B));
        var l = Math.Cbrt((0.4122214708 * r) + (0.5363325363 * g) + (0.0514459929 * b));
        var m = Math.Cbrt((0.2119034982 * r) + (0.6806995451 * g) + (0.1073969566 * b));
        var s = Math.Cbrt((0.0883024619 * r) + (0.2817188376 * g) + (0.6299787005 * b));
        return ((0.2104542553 * l) + (0.7936177850 * m) - (0.0040720468 * s), (1.9779984951 * l) - (2.4285922050 * m) + (0.4505937099 * s), (0.0259040371 * l) + (0.7827717662 * m) - (0.8086757660 * s));
    }

    static double Linear(byte channel)
    {
        var c = channel / 255.0;
        return c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4);
    }
}
