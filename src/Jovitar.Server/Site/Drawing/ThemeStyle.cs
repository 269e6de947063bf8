using System.Globalization;
using Jovitar.Core;
using Jovitar.Core.Themes;

namespace Jovitar.Server.Site.Drawing;

/// <summary>A block that looks otherwise than its page.</summary>
/// <param name="Element">What its element is called on the page.</param>
/// <param name="Change">What is otherwise in it.</param>
public sealed record BlockLook(BlockId Id, string Element, LookChange Change)
{
    /// <summary>The classes of its element: what values of the sheet cannot say.</summary>
    public string Classes => Change.Choices is { } choices ? $"otherwise own-{Narrowed.Name(choices)}" : "otherwise";
}

/// <summary>A look as a style sheet: values for the rules of the site's own one, and classes for what values cannot say.</summary>
public sealed class ThemeStyle
{
    /// <param name="blocks">Those that look otherwise.</param>
    public ThemeStyle(Look look, IReadOnlyList<BlockLook> blocks)
    {
        Look = look;
        Css = string.Concat([Sheet(":root", look, coloured: true, Shape(look)), .. blocks.Select(b => SheetOf(b, look))]);
        Families = [.. look.Families(), .. blocks.SelectMany(b => b.Change.On(look).Families())];
        Classes = $"choices-{Narrowed.Name(look.Choices)} head-{Narrowed.Name(look.Head)}";
    }

    public Look Look { get; }

    /// <summary>All type that the page is set in.</summary>
    public IReadOnlyList<TypeFamily> Families { get; }

    public string Css { get; }

    /// <summary>Of the page's body.</summary>
    public string Classes { get; }

    /// <summary>Of a block what is otherwise than above it.</summary>
    static string SheetOf(BlockLook block, Look above)
    {
        var look = block.Change.On(above);
        return Sheet($"#{block.Element}", look, (look.Light, look.Dark) != (above.Light, above.Dark), [.. Shape(look).Except(Shape(above))]);
    }

    static string Sheet(string element, Look look, bool coloured, string[] shape)
    {
        string[] colours = coloured ? Colours(look.Scheme == Scheme.Dark ? look.Dark : look.Light) : [];
        var rule = string.Join(';', [.. colours, .. shape]);
        return (rule.Length > 0 ? $"{element}{{{rule}}}" : "")
            + (coloured && look.Scheme == Scheme.Device ? $"@media (prefers-color-scheme:dark){{{element}{{{string.Join(';', Colours(look.Dark))}}}}}" : "");
    }

    static string[] Colours(Palette palette) =>
    [
        $"--paper:{palette.Ground}", $"--ink:{palette.Text}", $"--quiet:{palette.Quiet()}", $"--line:{palette.Line}", $"--accent:{palette.Accent}", $"--well:{palette.Well()}",
        $"color-scheme:{(palette.IsDark() ? "dark" : "light")}",
    ];

    static string Thrown(Shadow shadow) => shadow switch
    {
        Shadow.Lying => "0 1px 3px rgb(0 0 0/.4)",
        Shadow.Held => "0 2px 4px rgb(0 0 0/.2),0 12px 28px rgb(0 0 0/.35)",
        _ => "none",
    };

    static string[] Shape(Look look)
    {
        var (heading, corners) = (look.Heading, look.Corners);
        static string Number(double value) => value.ToString("0.###", CultureInfo.InvariantCulture);
        return
        [
            $"--headings:{look.Headings.Face().Stack}", $"--words:{look.Words.Face().Stack}",
            $"--heading-weight:{heading.Weight}", $"--heading-space:{Number(heading.Spacing)}em", $"--heading-scale:{Number(heading.Scale)}", $"--heading-case:{(heading.Capitals ? "uppercase" : "none")}",
            $"--corners:{corners.TopLeft}px {corners.TopRight}px {corners.BottomRight}px {corners.BottomLeft}px", $"--corners-foot:0 0 {corners.BottomRight}px {corners.BottomLeft}px", $"--line-width:{look.LineWidth}px", $"--edge:{look.Edge}px", $"--shadow:{Thrown(look.Shadow)}",
            look.Viewer == ViewerGround.Page ? "--stage:var(--paper);--stage-ink:var(--ink);--stage-quiet:var(--quiet);--stage-accent:var(--accent)" : "--stage:#161616",
        ];
    }
}
