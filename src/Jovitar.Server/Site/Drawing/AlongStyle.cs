using System.Globalization;
using System.Text;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;

namespace Jovitar.Server.Site.Drawing;

/// <summary>Photos that stand one after the other, a strip or slides: the style sheet says how high they are, their own shapes say the rest.</summary>
public sealed class AlongStyle : LayoutStyle
{
    /// <summary>With the place of each photo of the page in it, −1 for none, and the shape of the frame of slides.</summary>
    readonly List<(int? Most, string Height, double Widest, int[] Places, double Frame)> bands = [];
    readonly Narrowed view;
    readonly BlockLayout layout;

    /// <inheritdoc cref="LayoutStyle.Of"/>
    public AlongStyle(Narrowed view, BlockPlace place)
    {
        (this.view, layout) = (view, view.Walk.Layout);
        var css = new StringBuilder();
        var name = view.Walk.Number;
        var least = 0;
        foreach (var (most, typical) in Typical)
        {
            var (width, device) = (place.Width(typical), BlockLayout.DeviceOf(typical.Width));
            var (shapes, places, query) = (view.On(device).Shapes, view.PlacesOn(device), Query(least, most));
            least = (most ?? 0) + 1;
            if (shapes.Length == 0)
            {
                bands.Add((most, NotSeen, 1, places, 1));
                css.Append(CultureInfo.InvariantCulture, $"@media {query}{{{Hidden(name, places)}}}");
                continue;
            }

            var frame = layout.Slides.Shape?.Shape() ?? StripLayout.Narrowest(shapes);
            var (height, widest) = layout.Kind == LayoutKind.Strip ? Strip(shapes, typical, width) : (FrameHeight(width / typical.Width, frame), width);
            bands.Add((most, height, widest / typical.Width * 100, places, frame));
            if (WordsStyle.Of(view.Walk, device, width: null) is { Length: > 0 } words)
            {
                css.Append(CultureInfo.InvariantCulture, $"@media {query}{{{words}}}");
            }

            if (layout.Kind == LayoutKind.Strip)
            {
                var gap = layout.For(device).Gap;
                var each = layout.Along.Height == StripHeight.Tallest ? $"--each:{Number(widest, 2)}px;" : "";
                css.Append(CultureInfo.InvariantCulture, $"@media {query}{{#w{name}{{{each}--high:{height};--gap:{gap}px}}{Hidden(name, places)}}}");
            }
            else if (view.Walk.Differs)
            {
                css.Append(CultureInfo.InvariantCulture, $"@media {query}{{{FrameRule(name, frame)}{Hidden(name, places)}}}");
            }
        }

        if (layout.Kind == LayoutKind.Slides && !view.Walk.Differs)
        {
            css.Append(FrameRule(name, bands[0].Frame));
        }

        Css = css.ToString();
    }

    static string FrameRule(int walk, double shape) => $"#w{walk}{{aspect-ratio:{Number(shape, 4)}}}";

    public override string Css { get; }

    public override string Sizes(int photo)
    {
        var shape = view.At(view.From + photo).Shape;
        return string.Join(',', bands.Select(b =>
        {
            var (most, height, widest, places, frame) = b;
            // Cropped to the frame, a wide photo is drawn wider than that.
            var size = places[photo] < 0 ? NotSeen
                : layout.Crops() ? $"{Number(widest * Math.Max(1, shape / frame), 1)}vw"
                : $"min({Number(widest, 1)}vw,calc({height}*{Number(shape, 4)}))";
            return most is { } m ? $"(max-width:{m}px) {size}" : size;
        }));
    }

    /// <summary>The height of slides as a style sheet says it.</summary>
    /// <param name="share">Of the window's width that they take.</param>
    /// <param name="frame">Their shape.</param>
    static string FrameHeight(double share, double frame) => $"min({Number(SlidesLayout.HighestShare * 100, 0)}svh,{Number(share * 100 / frame, 2)}vw)";

    /// <summary>The height of a strip as a style sheet says it, and how wide a photo may be, CSS pixels.</summary>
    (string Height, double Widest) Strip(double[] shapes, Window window, double width)
    {
        var size = layout.For(BlockLayout.DeviceOf(window.Width)).SizeIn(width);
        var high = Number(StripLayout.Height(layout.Along.Height, size, shapes, window, width), 2);
        return layout.Along.Height == StripHeight.Tallest ? ($"{high}px", Math.Min(size, width))
            : StripLayout.ShareOf(layout.Along.Height) is { } share
                ? ($"min({Number(StripLayout.Highest(shapes, width), 2)}px,max({StripLayout.Lowest}px,{Number(share * 100, 2)}svh))", width)
            : ($"{high}px", width);
    }
}
