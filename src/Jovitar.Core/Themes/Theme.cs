namespace Jovitar.Core.Themes;

/// <summary>The themes that ship with the application. Kept by name.</summary>
public enum ThemeName
{
    /// <summary>Plain paper, exact type, one accent.</summary>
    Catalogue,

    /// <summary>A small book: cream, a soft serif, everything in the middle.</summary>
    Chapbook,

    /// <summary>A workshop's notice: capitals, strong lines, boxes.</summary>
    Bench,

    /// <summary>A darkened room: photos glow, words keep back.</summary>
    Lantern,

    /// <summary>A poster: colour behind everything, large round letters.</summary>
    Sailcloth,

    /// <summary>A card index: letters of one width, lines like a form's.</summary>
    Ledger,
}

/// <summary>When the site is light and when dark. Kept by name.</summary>
public enum Scheme
{
    Light,
    Dark,

    /// <summary>As the visitor's device is set.</summary>
    Device,
}

/// <summary>How what can be chosen looks, such as the buttons of a filter bar. Kept by name.</summary>
public enum ChoiceShape
{
    /// <summary>Words; a line beneath what is chosen.</summary>
    Line,

    /// <summary>In a box.</summary>
    Box,

    /// <summary>In a box with round ends.</summary>
    Pill,
}

/// <summary>How the site's head stands. Kept by name.</summary>
public enum HeadPlace
{
    /// <summary>The title at the left, the menu at the right.</summary>
    Sides,

    /// <summary>One beneath the other in the middle, and headings in the middle, too.</summary>
    Middle,

    /// <summary>The title over the menu, a line beneath both.</summary>
    Above,
}

/// <summary>How round the corners of photos are, CSS pixels each.</summary>
public sealed record Corners(int TopLeft, int TopRight, int BottomRight, int BottomLeft)
{
    public const int Most = 60;

    public static readonly Corners None = new(0, 0, 0, 0);

    public Corners Bounded() => new(Math.Clamp(TopLeft, 0, Most), Math.Clamp(TopRight, 0, Most), Math.Clamp(BottomRight, 0, Most), Math.Clamp(BottomLeft, 0, Most));
}

/// <summary>What photos throw onto the ground. Kept by name.</summary>
public enum Shadow
{
    None,

    /// <summary>As of a print that lies on paper.</summary>
    Lying,

    /// <summary>As of a print that is held over it.</summary>
    Held,
}

/// <summary>What a photo that is opened large stands on. Kept by name.</summary>
public enum ViewerGround
{
    /// <summary>Nearly black without a colour, whatever the page is.</summary>
    Night,

    /// <summary>The page's ground, with its words and its accent.</summary>
    Page,
}

/// <summary>How the site looks: one of the themes, and what is set otherwise; what is null is as in the theme.</summary>
/// <param name="Logo">What stands in place of the site's title; null for the title.</param>
/// <param name="Foot">Words at the end of every page, Markdown; null for the site's title.</param>
public sealed record Theme(
    ThemeName Name, Scheme? Scheme, HeadPlace? Head, Logo? Logo, string? Foot,
    PaletteChange Light, PaletteChange Dark, TypeFamily? Headings, TypeFamily? Words, Corners? Corners, ChoiceShape? Choices, int? Edge, int? Gap, Shadow? Shadow, ViewerGround? Viewer)
    : LookChange(Light, Dark, Headings, Words, Corners, Choices, Edge, Gap, Shadow, Viewer)
{
    /// <summary>Longest words at the end of every page, characters.</summary>
    public const int LongestFoot = 2000;

    public static readonly Theme Usual = Of(ThemeName.Catalogue);

    /// <summary>A theme with nothing set otherwise.</summary>
    public static Theme Of(ThemeName name) => new(name, null, null, null, null, PaletteChange.None, PaletteChange.None, null, null, null, null, null, null, null, null);

    /// <summary>What comes of it.</summary>
    public Look Look()
    {
        var own = Themes.Look.Of(Name);
        return On(own) with { Scheme = Scheme ?? own.Scheme, Head = Head ?? own.Head, Logo = Logo, Foot = Foot ?? "" };
    }

    public override string? Fault() =>
        Foot is { } foot && (foot.Length > LongestFoot || !Text.IsSound(foot)) ? $"The words at the foot are longer than {LongestFoot} characters, or have some in them that cannot be kept." : Logo?.Fault() ?? base.Fault();

    public override Theme Bounded() => ((Theme)base.Bounded()) with { Logo = Logo?.Bounded(), Foot = string.IsNullOrWhiteSpace(Foot) ? null : Foot };
}
