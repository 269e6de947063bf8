using System.Globalization;
using System.Text.RegularExpressions;

namespace Jovitar.Core.Sales;

/// <summary>The size of paper or canvas, as it is said: in centimetres, millimetres or inches, or by its name in ISO 216.</summary>
/// <param name="Width">The side that is said first, millimetres.</param>
/// <param name="Height">The other, millimetres.</param>
/// <param name="Said">As it is written everywhere: "20 × 30 cm", "8 × 10 in", "A4".</param>
public sealed partial record PaperSize(decimal Width, decimal Height, string Said)
{
    /// <summary>Millimetres of an inch (ISO 80000-3).</summary>
    public const decimal Inch = 25.4m;

    /// <summary>The smallest side of anything that is sold, millimetres.</summary>
    const decimal Least = 10;

    /// <summary>The largest: wider than any roll, millimetres.</summary>
    const decimal Most = 5000;

    /// <summary>How a size is written, for who wrote it otherwise.</summary>
    public const string Ask = "A size is written 20 × 30 cm, 8 × 10 in, 200 × 300 mm, or A4.";

    /// <summary>A0 and B0, millimetres (ISO 216); each further size is the one before cut in two, rounded down.</summary>
    static readonly Dictionary<char, (int Width, int Height)> Largest = new() { ['A'] = (841, 1189), ['B'] = (1000, 1414) };

    [GeneratedRegex(@"^(?<w>\d{1,4}([.,]\d{1,3})?)\s*(x|×|\*|by)\s*(?<h>\d{1,4}([.,]\d{1,3})?)\s*(?<unit>mm|cm|in|inch|inches|""|″)$", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture)]
    private static partial Regex Sides { get; }

    [GeneratedRegex(@"^(?<row>[AB])\s?(?<n>10|\d)$", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture)]
    private static partial Regex Named { get; }

    /// <summary>Reads a size as people type it; null for what is none (<see cref="Ask"/>).</summary>
    public static PaperSize? Read(string typed)
    {
        var text = typed.Trim();
        if (Named.Match(text) is { Success: true } named)
        {
            var (row, n) = (char.ToUpperInvariant(named.Groups["row"].Value[0]), int.Parse(named.Groups["n"].Value, CultureInfo.InvariantCulture));
            var (width, height) = Largest[row];
            for (var i = 0; i < n; i++)
            {
                (width, height) = (height / 2, width);
            }

            return new PaperSize(width, height, $"{row}{n}");
        }

        if (Sides.Match(text) is not { Success: true } sides)
        {
            return null;
        }

        var (unit, millimetres) = sides.Groups["unit"].Value.ToLowerInvariant() switch
        {
            "mm" => ("mm", 1m),
            "cm" => ("cm", 10m),
            _ => ("in", Inch),
        };
        var (w, h) = (Side(sides, "w"), Side(sides, "h"));
        return w * millimetres is >= Least and <= Most && h * millimetres is >= Least and <= Most
            ? new PaperSize(w * millimetres, h * millimetres, string.Create(CultureInfo.InvariantCulture, $"{w:0.###} × {h:0.###} {unit}"))
            : null;
    }

    static decimal Side(Match sides, string name) => decimal.Parse(sides.Groups[name].Value.Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture);

    public override string ToString() => Said;
}
