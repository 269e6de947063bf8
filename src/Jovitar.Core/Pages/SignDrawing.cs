using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using System.Xml;
using System.Xml.Linq;

namespace Jovitar.Core.Pages;

/// <summary>
/// A drawing that somebody brings for a sign, an SVG, reduced to its shapes: what is not known to draw a line or a surface does not
/// come through, whatever it is called. Every colour becomes that of the sign.
/// </summary>
/// <remarks>Elements and attributes are those of SVG 2, chapters 9 (paths), 10 (basic shapes) and 13 (painting).</remarks>
public static partial class SignDrawing
{
    /// <summary>Longest drawing that is read, UTF-16 code units.</summary>
    public const int Longest = 20_000;

    const int MostShapes = 200;
    const int Deepest = 8;

    static readonly XNamespace Svg = "http://www.w3.org/2000/svg";

    static readonly HashSet<string> Shapes = ["path", "circle", "ellipse", "rect", "line", "polyline", "polygon"];

    static readonly HashSet<string> Numbers = ["x", "y", "width", "height", "cx", "cy", "r", "rx", "ry", "x1", "y1", "x2", "y2", "stroke-width", "opacity", "stroke-miterlimit"];

    static readonly Dictionary<string, string[]> Choices = new()
    {
        ["fill-rule"] = ["nonzero", "evenodd"],
        ["stroke-linecap"] = ["butt", "round", "square"],
        ["stroke-linejoin"] = ["miter", "round", "bevel"],
    };

    /// <summary>Letters of path commands, numbers, and what stands between them (SVG 2, 9.3.9).</summary>
    [GeneratedRegex(@"^[MmZzLlHhVvCcSsQqTtAa0-9eE+\-.,\s]+$")]
    private static partial Regex Path();

    [GeneratedRegex(@"^[0-9eE+\-.,\s]+$")]
    private static partial Regex Points();

    [GeneratedRegex(@"^\s*(?:(?:matrix|translate|scale|rotate|skewX|skewY)\s*\([0-9eE+\-.,\s]+\)[\s,]*)+$")]
    private static partial Regex Transform();

    /// <summary>A drawing with nothing in it but shapes; null for what is none, shows nothing, or is too long.</summary>
    public static string? Clean(string drawing)
    {
        if (drawing.Length is 0 or > Longest || Read(drawing) is not { } svg || Box(svg) is not { } box)
        {
            return null;
        }

        var (text, count) = (new StringBuilder(), 0);
        Write(svg.Elements(), text, 1, ref count);
        var clean = $"<svg viewBox=\"{box}\"{Painting(svg)}>{text}</svg>";
        return count is 0 or > MostShapes || clean.Length > Longest ? null : clean;
    }

    static XElement? Read(string drawing)
    {
        try
        {
            using var reader = XmlReader.Create(new StringReader(drawing), new XmlReaderSettings { DtdProcessing = DtdProcessing.Ignore, XmlResolver = null, MaxCharactersInDocument = Longest, IgnoreComments = true, IgnoreProcessingInstructions = true });
            return XElement.Load(reader) is var svg && Kind(svg) == "svg" ? svg : null;
        }
        catch (XmlException)
        {
            return null;
        }
    }

    /// <summary>What an element is called in SVG, or without a namespace, as a cleaned drawing has none; empty for others.</summary>
    static string Kind(XElement element) => element.Name.Namespace == Svg || element.Name.Namespace == XNamespace.None ? element.Name.LocalName : "";

    static double? Number(string? said) =>
        double.TryParse(said?.EndsWith("px", StringComparison.Ordinal) == true ? said[..^2] : said, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) && double.IsFinite(number) ? number : null;

    static string? Box(XElement svg)
    {
        var said = svg.Attribute("viewBox")?.Value.Split([' ', ',', '\t', '\n', '\r'], StringSplitOptions.RemoveEmptyEntries).Select(Number).ToArray()
            ?? [0, 0, Number(svg.Attribute("width")?.Value), Number(svg.Attribute("height")?.Value)];
        return said is [{ } x, { } y, > 0 and { } width, > 0 and { } height] ? string.Create(CultureInfo.InvariantCulture, $"{x} {y} {width} {height}") : null;
    }

    static void Write(IEnumerable<XElement> elements, StringBuilder text, int depth, ref int count)
    {
        foreach (var element in elements)
        {
            var kind = Kind(element);
            if (kind == "g" && depth < Deepest)
            {
                text.Append("<g").Append(Painting(element)).Append('>');
                Write(element.Elements(), text, depth + 1, ref count);
                text.Append("</g>");
            }
            else if (Shapes.Contains(kind))
            {
                count++;
                text.Append('<').Append(kind).Append(Painting(element)).Append("/>");
            }
        }
    }

    /// <summary>The attributes that draw, each as far as its value is of its kind.</summary>
    static string Painting(XElement element)
    {
        var text = new StringBuilder();
        foreach (var attribute in element.Attributes().Where(a => a.Name.Namespace == XNamespace.None && !a.IsNamespaceDeclaration))
        {
            var (name, value) = (attribute.Name.LocalName, attribute.Value);
            // The whole drawing is as large as its place.
            if (Kind(element) == "svg" && name is ("x" or "y" or "width" or "height"))
            {
                continue;
            }

            var kept = name switch
            {
                "d" when Path().IsMatch(value) => value,
                "points" when Points().IsMatch(value) => value,
                "transform" when Kind(element) != "svg" && Transform().IsMatch(value) => value,
                "fill" or "stroke" => value.Trim() == "none" ? "none" : "currentColor",
                _ when Numbers.Contains(name) => Number(value)?.ToString(CultureInfo.InvariantCulture),
                _ when Choices.TryGetValue(name, out var choices) && choices.Contains(value) => value,
                _ => null,
            };
            if (kept is not null)
            {
                text.Append(CultureInfo.InvariantCulture, $" {name}=\"{kept}\"");
            }
        }

        return text.ToString();
    }
}
