using System.Text;
using QRCoder;

namespace Jovitar.Server.Access;

/// <summary>Addresses as QR codes (ISO/IEC 18004), to be read off a screen or off paper.</summary>
internal static class QrDrawing
{
    /// <summary>The dark squares as a path of SVG, each of side 1, with the quiet edge that the standard asks for.</summary>
    /// <returns>The path, and how many squares a side has.</returns>
    public static (string Path, int Side) Of(string text)
    {
        using var code = QRCodeGenerator.GenerateQrCode(text, QRCodeGenerator.ECCLevel.M);
        var rows = code.ModuleMatrix;
        var path = new StringBuilder();
        for (var y = 0; y < rows.Count; y++)
        {
            for (var x = 0; x < rows[y].Count; x++)
            {
                if (rows[y][x])
                {
                    path.Append('M').Append(x).Append(' ').Append(y).Append("h1v1h-1z");
                }
            }
        }

        return (path.ToString(), rows.Count);
    }
}
