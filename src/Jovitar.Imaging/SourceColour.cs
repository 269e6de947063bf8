using System.Buffers.Binary;
using NetVips;

namespace Jovitar.Imaging;

/// <summary>What the numbers in a picture mean as colours.</summary>
/// <param name="IsOwn">They are not simply sRGB, and go through the colour engine.</param>
/// <param name="Profile">A profile that the file only names; null when it carries its own or none.</param>
/// <param name="Gamma">The exponent of PNG's gAMA chunk when it says something else than sRGB does; null when it does not.</param>
internal sealed record SourceColour(bool IsOwn, string? Profile, double? Gamma)
{
    /// <summary>sRGB's as PNG rounds it (ISO/IEC 15948 §11.3.3.5).</summary>
    const double UsualGamma = 0.45455;

    /// <summary>So far from it a gamma makes no difference that is seen.</summary>
    const double NoDifference = 0.01;

    /// <summary>Reads it from the header without decoding.</summary>
    public static SourceColour Of(string original)
    {
        using var header = Image.NewFromFile(original, access: Enums.Access.Sequential);
        if (header.Contains("icc-profile-data"))
        {
            return new SourceColour(IsOwn: true, null, null);
        }

        if (header.Interpretation is not (Enums.Interpretation.Srgb or Enums.Interpretation.Bw or Enums.Interpretation.Rgb16 or Enums.Interpretation.Grey16))
        {
            return new SourceColour(IsOwn: true, null, null);
        }

        // DCF 2.0 §4.5.2: interoperability index R03, and a colour space that EXIF calls uncalibrated, is the optional colour space, Adobe RGB.
        return header.Contains("exif-ifd4-InteroperabilityIndex") && ((string)header.Get("exif-ifd4-InteroperabilityIndex")).StartsWith("R03", StringComparison.Ordinal) && header.Bands >= 3
            ? new SourceColour(IsOwn: true, AdobeRgbProfile.Path, null)
            : new SourceColour(IsOwn: false, null, PngGamma(original));
    }

    /// <summary>The gAMA chunk of a PNG without a better word on its colours: cICP, iCCP and sRGB speak before it (ISO/IEC 15948 §4.3).</summary>
    static double? PngGamma(string original)
    {
        using var file = new FileStream(original, FileMode.Open, FileAccess.Read, FileShare.Read, 4096);
        Span<byte> head = stackalloc byte[8];
        if (file.ReadAtLeast(head, 8, throwOnEndOfStream: false) < 8 || !head.StartsWith((ReadOnlySpan<byte>)[0x89, 0x50, 0x4E, 0x47]))
        {
            return null;
        }

        double? gamma = null;
        while (file.Position + 12 <= file.Length)
        {
            file.ReadExactly(head);
            var length = BinaryPrimitives.ReadUInt32BigEndian(head);
            var kind = head[4..];
            if (kind.SequenceEqual("IDAT"u8))
            {
                break;
            }

            if (kind.SequenceEqual("sRGB"u8) || kind.SequenceEqual("iCCP"u8) || kind.SequenceEqual("cICP"u8))
            {
                return null;
            }

            if (kind.SequenceEqual("gAMA"u8) && length == 4)
            {
                file.ReadExactly(head[..4]);
                gamma = BinaryPrimitives.ReadUInt32BigEndian(head) / 100_000.0;
                file.Position -= 4;
            }

            file.Position += length + 4;
        }

        return gamma is > 0.01 and < 10 && Math.Abs(gamma.Value - UsualGamma) > NoDifference ? gamma : null;
    }

    /// <summary>Turns samples of another gamma into sRGB's (IEC 61966-2-1): light is the sample to the power of one over the gamma.</summary>
    public static Image FromGamma(Image image, double gamma)
    {
        var most = image.Format == Enums.BandFormat.Ushort ? 65535 : 255;
        var table = new double[1, most + 1];
        for (var i = 0; i <= most; i++)
        {
            var light = Math.Pow((double)i / most, 1 / gamma);
            table[0, i] = Math.Round(most * (light <= 0.0031308 ? 12.92 * light : (1.055 * Math.Pow(light, 1 / 2.4)) - 0.055));
        }

        using var lut = Image.NewFromArray(table).Cast(most == 255 ? Enums.BandFormat.Uchar : Enums.BandFormat.Ushort);
        if (!image.HasAlpha())
        {
            return image.Maplut(lut);
        }

        using var colours = image.ExtractBand(0, n: image.Bands - 1);
        using var alpha = image.ExtractBand(image.Bands - 1);
        using var mapped = colours.Maplut(lut);
        return mapped.Bandjoin(alpha);
    }
}
