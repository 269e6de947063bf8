using System.Globalization;
using Jovitar.Core.Themes;

namespace Jovitar.Server.Site.Drawing;

/// <summary>A look as a style sheet: values for the rules of the site's own one, and classes for what values cannot say.</summary>
public sealed class ThemeStyle
{
    public ThemeStyle(Look look)
    {
        Look = look;
        var (light, dark) = (Colours(look.Light), Colours(look.Dark));
        Css = $":root{{{(look.Scheme == Scheme.Dark ? dark : light)};{Shape(look)}}}{(look.Scheme == Scheme.Device ? $"@media (prefers-color-scheme:dark){{:root{{{dark}}}}}" : "")}";
        Classes = $"choices-{Narrowed.Name(look.Choices)} head-{Narrowed.Name(look.Head)}";
    }

    public Look Look { get; }

    public string Css { get; }

    /// <summary>Of the page's body.</summary>
    public string Classes { get; }

    static string Colours(Palette palette) =>
        $"--paper:{palette.Ground};--ink:{palette.Text};--quiet:{palette.Quiet()};--line:{palette.Line};--accent:{palette.Accent};--well:{palette.Well()};color-scheme:{(palette.IsDark() ? "dark" : "light")}";

    static string Thrown(Shadow shadow) => shadow switch
    {
        Shadow.Lying => "0 1px 3px rgb(0 0 0/.4)",
        Shadow.Held => "0 2px 4px rgb(0 0 0/.2),0 12px 28px rgb(0 0 0/.35)",
        _ => "none",
    };

    static string Shape(Look look)
    {
        var (heading, corners) = (look.Heading, look.Corners);
        static string Number(double value) => value.ToString("0.###", CultureInfo.InvariantCulture);
        return string.Join(';',
            $"--headings:{look.Headings.Face().Stack}", $"--words:{look.Words.Face().Stack}",
            $"--heading-weight:{heading.Weight}", $"--heading-space:{Number(heading.Spacing)}em", $"--heading-scale:{Number(heading.Scale)}", $"--heading-case:{(heading.Capitals ? "uppercase" : "none")}",
            $"--corners:{corners.TopLeft}px {corners.TopRight}px {corners.BottomRight}px {corners.BottomLeft}px", $"--corners-foot:0 0 {corners.BottomRight}px {corners.BottomLeft}px", $"--line-width:{look.LineWidth}px", $"--edge:{look.Edge}px", $"--shadow:{Thrown(look.Shadow)}",
            look.Viewer == ViewerGround.Page ? "--stage:var(--paper);--stage-ink:var(--ink);--stage-quiet:var(--quiet);--stage-accent:var(--accent)" : "--stage:#161616");
    }
}
