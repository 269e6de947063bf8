using System.Text;
using System.Text.Json;

namespace Jovitar.Core.Corrections;

/// <summary>
/// A correction as it is kept: JSON (RFC 8259) with what it says, and what follows from it for this photo, so that both are always
/// written together: the size it is seen at (<c>width</c>, <c>height</c>), what names its picture (<c>key</c>) and where its focus
/// stands in that (<c>seen</c>).
/// </summary>
public static class CorrectionText
{
    /// <summary>Null for no correction.</summary>
    /// <param name="original">Upright, pixels.</param>
    public static string? Write(Correction correction, PixelSize original)
    {
        if (correction.IsNone)
        {
            return null;
        }

        using var bytes = new MemoryStream();
        using (var json = new Utf8JsonWriter(bytes))
        {
            json.WriteStartObject();
            Number(json, "turns", correction.Turns);
            Number(json, "angle", correction.Angle);
            Numbers(json, "crop", correction.Crop is { } c ? [c.X, c.Y, c.Width, c.Height] : []);
            Numbers(json, "greys", correction.Greys is { } g ? [g.Red, g.Green, g.Blue] : []);
            Number(json, "brightness", correction.Brightness);
            Number(json, "contrast", correction.Contrast);
            Numbers(json, "focus", correction.Focus is { } f ? [f.X, f.Y] : []);
            Numbers(json, "seen", correction.Focus is { } focus && Framing.Seen(focus, correction, original) is var seen ? [seen.X, seen.Y] : []);
            if (correction.ChangesPixels)
            {
                var size = Framing.Size(correction, original);
                Number(json, "width", size.Width);
                Number(json, "height", size.Height);
                json.WriteString("key", correction.Key);
            }

            json.WriteEndObject();
        }

        return Encoding.UTF8.GetString(bytes.ToArray());
    }

    /// <exception cref="JsonException">It was not written here.</exception>
    public static Correction Read(string? text)
    {
        if (text is null)
        {
            return Correction.None;
        }

        using var document = JsonDocument.Parse(text);
        var json = document.RootElement;
        double One(string name) => json.TryGetProperty(name, out var value) ? value.GetDouble() : 0;
        return new Correction
        {
            Turns = (int)One("turns"),
            Angle = One("angle"),
            Crop = Several(json, "crop") is [var x, var y, var w, var h] ? new Crop(x, y, w, h) : null,
            Greys = Several(json, "greys") is [var r, var g, var b] ? new Greys((int)r, (int)g, (int)b) : null,
            Brightness = (int)One("brightness"),
            Contrast = (int)One("contrast"),
            Focus = Several(json, "focus") is [var u, var v] ? new Spot(u, v) : null,
        };
    }

    /// <summary>Where the focus stands in the picture as it is seen; null where none was set.</summary>
    public static Spot? Seen(string? text)
    {
        if (text is null)
        {
            return null;
        }

        using var document = JsonDocument.Parse(text);
        return Several(document.RootElement, "seen") is [var x, var y] ? new Spot(x, y) : null;
    }

    static double[] Several(JsonElement json, string name) => json.TryGetProperty(name, out var value) ? [.. value.EnumerateArray().Select(v => v.GetDouble())] : [];

    static void Number(Utf8JsonWriter json, string name, double value)
    {
        if (value != 0)
        {
            json.WriteNumber(name, value);
        }
    }

    static void Numbers(Utf8JsonWriter json, string name, double[] values)
    {
        if (values.Length == 0)
        {
            return;
        }

        json.WriteStartArray(name);
        foreach (var value in values)
        {
            json.WriteNumberValue(value);
        }

        json.WriteEndArray();
    }
}
