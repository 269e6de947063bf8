using System.Globalization;
using System.Text;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;

namespace Jovitar.Server.Site;

/// <summary>A band of window widths, CSS pixels, and what the photos of a block were placed for in it.</summary>
/// <param name="Most">The widest window of the band; null for any.</param>
/// <param name="Window">A typical window of it.</param>
/// <param name="Width">How wide the block is in that.</param>
public sealed record LayoutBand(int? Most, int Window, double Width);

/// <summary>A layout as a style sheet, so that the page is right at every width before any script runs.</summary>
public abstract class LayoutStyle
{
    /// <summary>The bands of window widths that a page is laid out for.</summary>
    protected static readonly (int? Most, Window Typical)[] Typical =
        [(599, Window.Usual[0]), (1023, Window.Usual[1]), (1599, Window.Usual[2]), (null, new Window("wide desktop", 1800, 1000, 80, 1))];

    /// <param name="place">Where the block stands.</param>
    public static LayoutStyle Of(Narrowed view, BlockPlace place) => view.Walk.Layout.RunsAlong() ? new AlongStyle(view, place) : new PlacedStyle(view, place);

    public abstract string Css { get; }

    /// <summary>What stands differently where no script runs; empty where nothing does.</summary>
    public virtual string Without => "";

    /// <summary>What the photos were placed for; empty where the style sheet alone places them.</summary>
    public virtual IEnumerable<LayoutBand> Bands => [];

    /// <summary>How wide a photo stands in each band, for the <c>sizes</c> attribute.</summary>
    /// <param name="photo">Its number among those that stand in the page.</param>
    public abstract string Sizes(int photo);

    protected static string Query(int least, int? most) => (least, most) switch
    {
        (0, { } m) => $"(max-width:{m}px)",
        ({ } l, { } m) => $"(min-width:{l}px) and (max-width:{m}px)",
        ({ } l, null) => $"(min-width:{l}px)",
    };

    protected static string Number(double value, int digits) => Math.Round(value, digits).ToString(CultureInfo.InvariantCulture);
}

/// <summary>
/// Photos placed beneath each other: for each band of window widths Core places them, and the boxes become shares of the block.
/// Of many photos only the first are in it, in the height of all.
/// </summary>
public sealed class PlacedStyle : LayoutStyle
{
    /// <summary>With the width of a picture where that is not its box's.</summary>
    readonly List<(LayoutBand Band, Placed Placed, double? Picture)> bands = [];

    /// <inheritdoc cref="LayoutStyle.Of"/>
    public PlacedStyle(Narrowed view, BlockPlace place)
    {
        var (from, name, layout) = (view.From, view.Walk.Number, view.Walk.Layout);
        var css = new StringBuilder();
        var without = new StringBuilder();
        // A further page stands by itself; the first is the beginning of all.
        var (shapes, large) = from == 0 ? (view.Shapes, view.Large) : (view.Shapes[from..(from + view.Count)], view.Large is { Length: > 0 } all ? all[from..(from + view.Count)] : []);
        var least = 0;
        foreach (var (most, typical) in Typical)
        {
            var width = place.Width(typical);
            var settings = layout.For(BlockLayout.DeviceOf(typical.Width));
            var placed = settings.Place(shapes, width, large);
            bands.Add((new LayoutBand(most, typical.Width, width), placed, layout.Kind == LayoutKind.List ? settings.SizeIn(width) : null));
            if (shapes.Length == 0)
            {
                continue;
            }

            var query = Query(least, most);
            var height = placed.Height;
            css.Append(CultureInfo.InvariantCulture, $"@media {query}{{#w{name}{{aspect-ratio:{Number(width, 2)}/{Number(height, 2)}}}");
            if (layout.Kind == LayoutKind.List)
            {
                css.Append(CultureInfo.InvariantCulture, $"#w{name}{{--picture:{Number(settings.SizeIn(width), 2)}px;--lines:{ListLayout.CaptionLines(placed.Boxes[0].Height)}}}");
            }

            double end = 0;
            for (var i = 0; i < view.Count; i++)
            {
                var box = placed.Boxes[i];
                end = Math.Max(end, box.Bottom);
                css.Append(CultureInfo.InvariantCulture, $"#w{name}-{i}{{left:{Number(box.X / width * 100, 3)}%;top:{Number(box.Y / height * 100, 4)}%;width:{Number(box.Width / width * 100, 3)}%;height:{Number(box.Height / height * 100, 4)}%}}");
            }

            css.Append('}');
            if (end < height - 1)
            {
                // Without scripts nothing follows: the block ends where its photos do.
                without.Append(CultureInfo.InvariantCulture, $"@media {query}{{main #w{name}{{height:0;aspect-ratio:auto;padding-bottom:{Number(end / width * 100, 3)}%}}");
                for (var i = 0; i < view.Count; i++)
                {
                    var box = placed.Boxes[i];
                    without.Append(CultureInfo.InvariantCulture, $"main #w{name}-{i}{{top:{Number(box.Y / end * 100, 4)}%;height:{Number(box.Height / end * 100, 4)}%}}");
                }

                without.Append('}');
            }

            least = (most ?? 0) + 1;
        }

        (Css, Without) = (css.ToString(), without.ToString());
    }

    public override string Css { get; }

    public override string Without { get; }

    public override IEnumerable<LayoutBand> Bands => bands.Select(b => b.Band);

    public override string Sizes(int photo) => string.Join(',', bands.Select(b =>
    {
        var share = Number((b.Picture ?? b.Placed.Boxes[photo].Width) / b.Band.Window * 100, 2);
        return b.Band.Most is { } most ? $"(max-width:{most}px) {share}vw" : $"{share}vw";
    }));
}
