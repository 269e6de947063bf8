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

/// <summary>How the site looks: one of the themes, and what is set otherwise; what is null is as in the theme.</summary>
/// <param name="Headings">The family of headings and of the site's title.</param>
/// <param name="Words">The family of all other words.</param>
public sealed record Theme(
    ThemeName Name, Scheme? Scheme, PaletteChange Light, PaletteChange Dark, TypeFamily? Headings, TypeFamily? Words, Corners? Corners, ChoiceShape? Choices, HeadPlace? Head)
{
    public static readonly Theme Usual = Of(ThemeName.Catalogue);

    /// <summary>A theme with nothing set otherwise.</summary>
    public static Theme Of(ThemeName name) => new(name, null, PaletteChange.None, PaletteChange.None, null, null, null, null, null);

    /// <summary>What comes of it.</summary>
    public Look Look()
    {
        var own = Themes.Look.Of(Name);
        return own with
        {
            Scheme = Scheme ?? own.Scheme,
            Light = Light.On(own.Light),
            Dark = Dark.On(own.Dark),
            Headings = Headings ?? own.Headings,
            Words = Words ?? own.Words,
            Corners = Corners ?? own.Corners,
            Choices = Choices ?? own.Choices,
            Head = Head ?? own.Head,
        };
    }

    public Theme Bounded() => this with { Corners = Corners?.Bounded() };

    /// <summary>What is wrong with it, a sentence; null when it may be kept.</summary>
    public string? Fault() => Light.Fault() ?? Dark.Fault();
}
