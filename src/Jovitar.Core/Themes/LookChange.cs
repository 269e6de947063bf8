using Jovitar.Core.Layout;

namespace Jovitar.Core.Themes;

/// <summary>
/// What is set otherwise of the look at one level: of the whole site, of a page or of a block. What is null is as at the level above,
/// where the levels are, from above: theme, site, page, block.
/// </summary>
/// <param name="Headings">The family of headings and of the site's title.</param>
/// <param name="Words">The family of all other words.</param>
/// <param name="Edge">How wide the line around photos is, CSS pixels; 0 for none.</param>
/// <param name="Gap">Between photos that stand beside each other, CSS pixels; a block says its own where its layout is.</param>
public record LookChange(PaletteChange Light, PaletteChange Dark, TypeFamily? Headings, TypeFamily? Words, Corners? Corners, ChoiceShape? Choices, int? Edge, int? Gap, Shadow? Shadow, ViewerGround? Viewer)
{
    public const int WidestEdge = 24;

    public static readonly LookChange None = new(PaletteChange.None, PaletteChange.None, null, null, null, null, null, null, null, null);

    /// <summary>What comes of it where the level above looks like this.</summary>
    public Look On(Look above) => above with
    {
        Light = Light.On(above.Light),
        Dark = Dark.On(above.Dark),
        Headings = Headings ?? above.Headings,
        Words = Words ?? above.Words,
        Corners = Corners ?? above.Corners,
        Choices = Choices ?? above.Choices,
        Edge = Edge ?? above.Edge,
        Gap = Gap ?? above.Gap,
        Shadow = Shadow ?? above.Shadow,
        Viewer = Viewer ?? above.Viewer,
    };

    /// <summary>What is wrong with it, a sentence; null when it may be kept.</summary>
    public virtual string? Fault() => Light.Fault() ?? Dark.Fault();

    /// <summary>With every number brought into its range.</summary>
    public virtual LookChange Bounded() => this with
    {
        Corners = Corners?.Bounded(),
        Edge = Edge is { } edge ? Math.Clamp(edge, 0, WidestEdge) : null,
        Gap = Gap is { } gap ? Math.Clamp(gap, 0, LayoutSettings.LargestGap) : null,
    };

    /// <summary>What of it a block may say: what lies behind it and how far apart its photos stand are said elsewhere, and what a photo opens on is the page's.</summary>
    public LookChange OfBlock() => this with { Light = Light with { Ground = null }, Dark = Dark with { Ground = null }, Gap = null, Viewer = null };

    /// <summary>Without colours: what stands on a ground of its own has that one's.</summary>
    public LookChange WithoutColours() => this with { Light = PaletteChange.None, Dark = PaletteChange.None };
}
