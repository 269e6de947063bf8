using System.Globalization;
using System.Text;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;

namespace Jovitar.Server.Site.Drawing;

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

    /// <summary>The window that a page is laid out for where it is shown in one of a width; what is placed in it grows and shrinks with the width.</summary>
    /// <param name="width">CSS pixels.</param>
    public static Window TypicalOf(double width) => Typical.First(t => t.Most is not { } most || width <= most).Typical;

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

    /// <summary>The width of a photo that does not stand there on a device: no browser needs a larger rendition.</summary>
    protected const string NotSeen = "1px";

    /// <summary>Rules that hide the photos of the page that do not stand there on a device.</summary>
    protected static string Hidden(int walk, int[] places) =>
        places.Contains(-1) ? $"{string.Join(',', places.Index().Where(p => p.Item < 0).Select(p => $"#w{walk}-{p.Index}"))}{{display:none}}" : "";

    internal static string Number(double value, int digits) => Math.Round(value, digits).ToString(CultureInfo.InvariantCulture);
}

/// <summary>
/// Photos placed beneath each other: for each band of window widths Core places them, and the boxes become shares of the block.
/// Of many photos only the first are in it, in the height of all.
/// </summary>
public sealed class PlacedStyle : LayoutStyle
{
    /// <summary>With the place of each photo of the page in it, −1 for none, and the width of a picture where that is not its box's.</summary>
    readonly List<(LayoutBand Band, IReadOnlyList<Box> Boxes, int[] Places, double? Picture)> bands = [];

    /// <inheritdoc cref="LayoutStyle.Of"/>
    public PlacedStyle(Narrowed view, BlockPlace place)
    {
        var (name, layout) = (view.Walk.Number, view.Walk.Layout);
        var css = new StringBuilder();
        var without = new StringBuilder();
        var least = 0;
        foreach (var (most, typical) in Typical)
        {
            var width = place.Width(typical);
            var device = BlockLayout.DeviceOf(typical.Width);
            var (settings, on, places) = (view.Walk.SettingsOn(device), view.On(device), view.PlacesOn(device));
            // A further page stands by itself; the first is the beginning of all, where they do not stand on pages.
            var standing = on.Stand(settings, width, byPage: view.From > 0 || view.Walk.More.By == MoreBy.Numbers);
            var boxes = standing.Boxes;
            bands.Add((new LayoutBand(most, typical.Width, width), boxes, places, layout.Kind == LayoutKind.List ? settings.SizeIn(width) : null));
            var query = Query(least, most);
            least = (most ?? 0) + 1;
            if (boxes.Count == 0)
            {
                css.Append(CultureInfo.InvariantCulture, $"@media {query}{{{Hidden(name, places)}}}");
                continue;
            }

            var height = standing.Height;
            css.Append(CultureInfo.InvariantCulture, $"@media {query}{{#w{name}{{aspect-ratio:{Number(width, 2)}/{Number(height, 2)}}}{WordsStyle.Of(view.Walk, device, width)}");
            if (layout.Kind == LayoutKind.List)
            {
                css.Append(CultureInfo.InvariantCulture, $"#w{name}{{--picture:{Number(settings.SizeIn(width), 2)}px;--lines:{ListLayout.CaptionLines(boxes[0].Height)}}}");
            }

            // Those that come at a button stand there where no script runs.
            var (end, here) = (0.0, places.Select(p => p < standing.Count ? p : -1).ToArray());
            foreach (var (i, box) in Standing(places, boxes))
            {
                end = Math.Max(end, box.Bottom);
                if (here[i] < 0)
                {
                    continue;
                }

                css.Append(CultureInfo.InvariantCulture, $"#w{name}-{i}{{left:{Number(box.X / width * 100, 3)}%;top:{Number(box.Y / height * 100, 4)}%;width:{Number(box.Width / width * 100, 3)}%;height:{Number(box.Height / height * 100, 4)}%}}");
            }

            css.Append(Hidden(name, here)).Append('}');
            if (Math.Abs(end - height) > 1 || !here.SequenceEqual(places))
            {
                // Without scripts nothing follows and nothing is held back: the block ends where its photos do.
                without.Append(CultureInfo.InvariantCulture, $"@media {query}{{main #w{name}{{height:0;aspect-ratio:auto;padding-bottom:{Number(end / width * 100, 3)}%}}");
                foreach (var (i, box) in Standing(places, boxes))
                {
                    if (here[i] < 0)
                    {
                        without.Append(CultureInfo.InvariantCulture, $"main #w{name}-{i}{{display:block;left:{Number(box.X / width * 100, 3)}%;width:{Number(box.Width / width * 100, 3)}%}}");
                    }

                    without.Append(CultureInfo.InvariantCulture, $"main #w{name}-{i}{{top:{Number(box.Y / end * 100, 4)}%;height:{Number(box.Height / end * 100, 4)}%}}");
                }

                without.Append('}');
            }
        }

        (Css, Without) = (css.ToString(), without.ToString());
    }

    /// <summary>Each photo that stands there, by its number among those of the page, with its box.</summary>
    static IEnumerable<(int Photo, Box Box)> Standing(int[] places, IReadOnlyList<Box> boxes) => places.Index().Where(p => p.Item >= 0).Select(p => (p.Index, boxes[p.Item]));

    public override string Css { get; }

    public override string Without { get; }

    public override IEnumerable<LayoutBand> Bands => bands.Select(b => b.Band);

    public override string Sizes(int photo) => string.Join(',', bands.Select(b =>
    {
        var size = b.Places[photo] is >= 0 and var place ? $"{Number((b.Picture ?? b.Boxes[place].Width) / b.Band.Window * 100, 2)}vw" : NotSeen;
        return b.Band.Most is { } most ? $"(max-width:{most}px) {size}" : size;
    }));
}
