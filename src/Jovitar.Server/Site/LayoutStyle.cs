using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Jovitar.Core.Layout;

namespace Jovitar.Server.Site;

/// <summary>
/// A layout as a style sheet: for each band of window widths Core places the photos, and the boxes become shares of the block,
/// so that the page is right at every width before any script runs.
/// </summary>
public sealed class LayoutStyle
{
    /// <summary>Bands of window widths, CSS pixels: the widest window of the band, and a typical one.</summary>
    static readonly (int? Most, Window Typical)[] Bands = [(599, Window.Usual[0]), (1023, Window.Usual[1]), (1599, Window.Usual[2]), (null, new Window("wide desktop", 1800, 80))];

    readonly List<(int? Most, Placed Placed, int Window)> bands = [];

    public LayoutStyle(LayoutSettings settings, IReadOnlyList<double> shapes)
    {
        var css = new StringBuilder();
        var ratios = shapes.ToArray();
        var least = 0;
        foreach (var (most, typical) in Bands)
        {
            var width = typical.Block;
            var placed = settings.Place(ratios, width);
            bands.Add((most, placed, typical.Width));
            if (ratios.Length == 0)
            {
                continue;
            }

            var query = (least, most) switch
            {
                (0, { } m) => $"(max-width:{m}px)",
                ({ } l, { } m) => $"(min-width:{l}px) and (max-width:{m}px)",
                ({ } l, null) => $"(min-width:{l}px)",
            };
            css.Append(CultureInfo.InvariantCulture, $"@media {query}{{#frames{{aspect-ratio:{width}/{Number(placed.Height, 2)}}}");
            for (var i = 0; i < placed.Boxes.Count; i++)
            {
                var box = placed.Boxes[i];
                css.Append(CultureInfo.InvariantCulture, $"#f{i}{{left:{Number(box.X / width * 100, 3)}%;top:{Number(box.Y / placed.Height * 100, 4)}%;width:{Number(box.Width / width * 100, 3)}%;height:{Number(box.Height / placed.Height * 100, 4)}%}}");
            }

            css.Append('}');
            least = (most ?? 0) + 1;
        }

        Css = css.ToString();
    }

    public string Css { get; }

    /// <summary>The source that a Content-Security-Policy must name for this sheet (CSP level 3, hash-source).</summary>
    public string CspSource => $"'sha256-{Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(Css)))}'";

    /// <summary>How wide a photo stands in each band, for the <c>sizes</c> attribute.</summary>
    public string Sizes(int photo) => string.Join(',', bands.Select(b =>
    {
        var share = Number(b.Placed.Boxes[photo].Width / b.Window * 100, 1);
        return b.Most is { } most ? $"(max-width:{most}px) {share}vw" : $"{share}vw";
    }));

    static string Number(double value, int digits) => Math.Round(value, digits).ToString(CultureInfo.InvariantCulture);
}
