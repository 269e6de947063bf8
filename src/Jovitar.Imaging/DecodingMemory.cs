using NetVips;

namespace Jovitar.Imaging;

/// <summary>
/// Pictures are decoded a few rows at a time; some can only be decoded all at once. Here is what these hold, and together they
/// never hold more than one of them may.
/// </summary>
/// <remarks>
/// Progressive JPEG keeps two bytes a coefficient (ITU-T T.81 G.1), interlaced PNG its pixels (ISO/IEC 15948 §8.2), GIF the
/// screen and what was on it before in four bytes a pixel (GIF89a §23), lossless WebP four bytes a pixel (RFC 9649 §3), and AV1
/// its planes and the colours made of them.
/// </remarks>
public static class DecodingMemory
{
    /// <summary>Bytes that one picture may hold, and all that are being decoded at the same time.</summary>
    public const long Most = 320L << 20;

    static readonly object Gate = new();
    static long taken;

    /// <summary>Bytes that decoding holds at once; zero for what is read row by row.</summary>
    internal static long Of(Image image)
    {
        var pixels = (long)image.Width * image.Height;
        var sample = image.Format is Enums.BandFormat.Uchar ? 1 : 2;
        bool Says(string field, string value) => image.Contains(field) && string.Equals(image.Get(field).ToString(), value, StringComparison.Ordinal);
        var loader = image.Contains("vips-loader") ? (string)image.Get("vips-loader") : "";
        return loader switch
        {
            _ when loader.StartsWith("jpegload", StringComparison.Ordinal) && Says("jpeg-multiscan", "1") =>
                pixels * (Says("jpeg-chroma-subsample", "4:2:0") ? 3 : 2 * image.Bands),
            _ when loader.StartsWith("pngload", StringComparison.Ordinal) && Says("interlaced", "1") => pixels * image.Bands * sample,
            _ when loader.StartsWith("gifload", StringComparison.Ordinal) => pixels * 8,
            _ when loader.StartsWith("webpload", StringComparison.Ordinal) => pixels * 4,
            _ when loader.StartsWith("heifload", StringComparison.Ordinal) => pixels * 2 * image.Bands * sample,
            _ => 0,
        };
    }

    /// <summary>Waits until there is room for as many bytes; disposing gives them back.</summary>
    public static IDisposable Take(long bytes)
    {
        var wanted = Math.Min(bytes, Most);
        lock (Gate)
        {
            while (taken + wanted > Most)
            {
                Monitor.Wait(Gate);
            }

            taken += wanted;
        }

        return new Held(wanted);
    }

    sealed class Held(long bytes) : IDisposable
    {
        long bytes = bytes;

        public void Dispose()
        {
            lock (Gate)
            {
                taken -= bytes;
                bytes = 0;
                Monitor.PulseAll(Gate);
            }
        }
    }
}
