using System.Globalization;
using System.Text;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;

namespace Jovitar.Server.Site;

/// <summary>Photos that stand one after the other, a strip or slides: the style sheet says how high they are, their own shapes say the rest.</summary>
public sealed class AlongStyle : LayoutStyle
{
    readonly List<(int? Most, string Height, double Widest)> bands = [];
    readonly double[] shapes;
    readonly BlockLayout layout;

    /// <inheritdoc cref="LayoutStyle.Of"/>
    public AlongStyle(Narrowed view, BlockPlace place)
    {
        (shapes, layout) = (view.Shapes, view.Walk.Layout);
        var css = new StringBuilder();
        var name = view.Walk.Number;
        var least = 0;
        foreach (var (most, typical) in Typical)
        {
            var width = place.Width(typical);
            var (height, widest) = layout.Kind == LayoutKind.Strip ? Strip(typical, width) : (FrameHeight(width / typical.Width), width);
            bands.Add((most, height, widest / typical.Width * 100));
            if (layout.Kind == LayoutKind.Strip)
            {
                var gap = layout.For(BlockLayout.DeviceOf(typical.Width)).Gap;
                var each = layout.Along.Height == StripHeight.Tallest ? $"--each:{Number(widest, 2)}px;" : "";
                css.Append(CultureInfo.InvariantCulture, $"@media {Query(least, most)}{{#w{name}{{{each}--high:{height};--gap:{gap}px}}}}");
            }

            least = (most ?? 0) + 1;
        }

        if (layout.Kind == LayoutKind.Slides)
        {
            css.Append(CultureInfo.InvariantCulture, $"#w{name}{{aspect-ratio:{Number(FrameShape, 4)}}}");
        }

        Css = css.ToString();
    }

    public override string Css { get; }

    double FrameShape => layout.Slides.Shape?.Shape() ?? StripLayout.Narrowest(shapes);

    public override string Sizes(int photo)
    {
        var shape = shapes[photo];
        return string.Join(',', bands.Select(b =>
        {
            var (most, height, widest) = b;
            // Cropped to the frame, a wide photo is drawn wider than that.
            var size = layout.Crops() ? $"{Number(widest * Math.Max(1, shape / FrameShape), 1)}vw" : $"min({Number(widest, 1)}vw,calc({height}*{Number(shape, 4)}))";
            return most is { } m ? $"(max-width:{m}px) {size}" : size;
        }));
    }

    /// <summary>The height of slides as a style sheet says it.</summary>
    /// <param name="share">Of the window's width that they take.</param>
    string FrameHeight(double share) => $"min({Number(SlidesLayout.HighestShare * 100, 0)}svh,{Number(share * 100 / FrameShape, 2)}vw)";

    /// <summary>The height of a strip as a style sheet says it, and how wide a photo may be, CSS pixels.</summary>
    (string Height, double Widest) Strip(Window window, double width)
    {
        var size = layout.For(BlockLayout.DeviceOf(window.Width)).SizeIn(width);
        var high = Number(StripLayout.Height(layout.Along.Height, size, shapes, window, width), 2);
        return layout.Along.Height == StripHeight.Tallest ? ($"{high}px", Math.Min(size, width))
            : StripLayout.ShareOf(layout.Along.Height) is { } share
                ? ($"min({Number(StripLayout.Highest(shapes, width), 2)}px,max({StripLayout.Lowest}px,{Number(share * 100, 2)}svh))", width)
            : ($"{high}px", width);
    }
}
