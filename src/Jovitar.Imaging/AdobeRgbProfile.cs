using System.Buffers.Binary;
using System.Text;

namespace Jovitar.Imaging;

/// <summary>A display profile with the primaries and gamma of Adobe RGB (1998), written by ICC.1:2001-04: for pictures that only say so and carry none.</summary>
public static class AdobeRgbProfile
{
    static readonly Lazy<string> File = new(() =>
    {
        var path = System.IO.Path.Combine(System.IO.Path.GetTempPath(), $"jovitar-{Environment.ProcessId}-{Guid.NewGuid():N}.icc");
        System.IO.File.WriteAllBytes(path, Bytes());
        AppDomain.CurrentDomain.ProcessExit += (_, _) => System.IO.File.Delete(path);
        return path;
    });

    /// <summary>A file with the profile, for libraries that take one by its name.</summary>
    public static string Path => File.Value;

    static byte[] Bytes()
    {
        // Colorants adapted to D50 and gamma 563/256, from the Adobe RGB (1998) specification, annex and 4.3.4.
        var tags = new (string Name, byte[] Data)[]
        {
            ("desc", Description("Adobe RGB (1998) compatible")), ("cprt", Text("None")), ("wtpt", Xyz(0.9505, 1.0, 1.0891)),
            ("rXYZ", Xyz(0.60974, 0.31111, 0.01947)), ("gXYZ", Xyz(0.20528, 0.62567, 0.06087)), ("bXYZ", Xyz(0.14919, 0.06322, 0.74457)),
            ("rTRC", Gamma()), ("gTRC", Gamma()), ("bTRC", Gamma()),
        };
        using var body = new MemoryStream();
        var at = 128 + 4 + (12 * tags.Length);
        using var table = new MemoryStream();
        table.Write(U32((uint)tags.Length));
        foreach (var (name, data) in tags)
        {
            table.Write(Encoding.ASCII.GetBytes(name));
            table.Write(U32((uint)(at + body.Length)));
            table.Write(U32((uint)data.Length));
            body.Write(data);
            while (body.Length % 4 != 0)
            {
                body.WriteByte(0);
            }
        }

        var header = new byte[128];
        U32((uint)(at + body.Length)).CopyTo(header, 0);
        header[8] = 2;
        header[9] = 0x10;
        Encoding.ASCII.GetBytes("mntrRGB XYZ ").CopyTo(header, 12);
        Encoding.ASCII.GetBytes("acsp").CopyTo(header, 36);
        Fixed(0.9642).CopyTo(header, 68);
        Fixed(1).CopyTo(header, 72);
        Fixed(0.8249).CopyTo(header, 76);
        return [.. header, .. table.ToArray(), .. body.ToArray()];
    }

    static byte[] U32(uint value)
    {
        var bytes = new byte[4];
        BinaryPrimitives.WriteUInt32BigEndian(bytes, value);
        return bytes;
    }

    static byte[] Fixed(double value) => U32((uint)(int)Math.Round(value * 65536));

    static byte[] Xyz(double x, double y, double z) => [.. "XYZ "u8, 0, 0, 0, 0, .. Fixed(x), .. Fixed(y), .. Fixed(z)];

    static byte[] Gamma() => [.. "curv"u8, 0, 0, 0, 0, .. U32(1), 0x02, 0x33];

    static byte[] Text(string text) => [.. "text"u8, 0, 0, 0, 0, .. Encoding.ASCII.GetBytes(text), 0];

    static byte[] Description(string text) => [.. "desc"u8, 0, 0, 0, 0, .. U32((uint)text.Length + 1), .. Encoding.ASCII.GetBytes(text), 0, .. new byte[78]];
}
