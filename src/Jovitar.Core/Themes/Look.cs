namespace Jovitar.Core.Themes;

/// <summary>How headings are set.</summary>
/// <param name="Weight">As type counts it, 100 to 900.</param>
/// <param name="Spacing">Between letters, in letter heights.</param>
/// <param name="Scale">How large they are against those of the plain theme.</param>
/// <param name="Capitals">In capitals.</param>
public sealed record HeadingStyle(int Weight, double Spacing, double Scale, bool Capitals);

/// <summary>All that a theme says, with nothing left open.</summary>
/// <param name="LineWidth">Of lines between things, CSS pixels.</param>
/// <param name="Edge">How wide the line around photos is, CSS pixels; 0 for none.</param>
/// <param name="Gap">Between photos that stand beside each other, CSS pixels.</param>
public sealed record Look(
    Scheme Scheme, Palette Light, Palette Dark, TypeFamily Headings, TypeFamily Words, HeadingStyle Heading, Corners Corners, ChoiceShape Choices, HeadPlace Head, int LineWidth,
    int Edge, int Gap, Shadow Shadow, ViewerGround Viewer)
{
    /// <summary>What stands in place of the site's title; null for the title.</summary>
    public Logo? Logo { get; init; }

    /// <summary>Words at the end of every page, Markdown; empty for the site's title.</summary>
    public string Foot { get; init; } = "";

    /// <summary>What a theme says by itself.</summary>
    public static Look Of(ThemeName name) => name switch
    {
        ThemeName.Catalogue => new(
            Scheme.Light, new("#fafafa", "#161616", "#7e2758", "#d4d4d4"), new("#161616", "#ededed", "#e796bd", "#3c3c3c"),
            TypeFamily.Bricolage, TypeFamily.Instrument, new(700, -0.018, 1, Capitals: false), Corners.None, ChoiceShape.Line, HeadPlace.Sides, 1, 0, 6, Shadow.None, ViewerGround.Night),
        ThemeName.Chapbook => new(
            Scheme.Light, new("#f5eedf", "#2c2018", "#8a2f1f", "#d6c8ae"), new("#231b15", "#efe3cf", "#e59a7f", "#4b3c30"),
            TypeFamily.Fraunces, TypeFamily.Literata, new(480, -0.01, 0.92, Capitals: false), Corners.None, ChoiceShape.Line, HeadPlace.Middle, 1, 0, 16, Shadow.Lying, ViewerGround.Page),
        ThemeName.Bench => new(
            Scheme.Light, new("#e9edee", "#17262d", "#0a5f78", "#9fb0b6"), new("#142127", "#dfe8ea", "#6fc4dc", "#40545c"),
            TypeFamily.Archivo, TypeFamily.Archivo, new(800, 0.01, 0.86, Capitals: true), new(4, 4, 4, 4), ChoiceShape.Box, HeadPlace.Above, 2, 2, 4, Shadow.None, ViewerGround.Night),
        ThemeName.Lantern => new(
            Scheme.Dark, new("#f1efe9", "#20211f", "#8a5200", "#cfccc2"), new("#0f1113", "#e6e4de", "#f0b45a", "#303438"),
            TypeFamily.SpaceGrotesk, TypeFamily.Instrument, new(500, -0.02, 0.84, Capitals: false), new(10, 10, 10, 10), ChoiceShape.Pill, HeadPlace.Sides, 1, 0, 10, Shadow.None, ViewerGround.Night),
        ThemeName.Sailcloth => new(
            Scheme.Light, new("#ffd23f", "#1b1430", "#7a1046", "#c79a00"), new("#241a45", "#ffe9a8", "#ff9ec4", "#54458c"),
            TypeFamily.Unbounded, TypeFamily.SpaceGrotesk, new(800, -0.03, 0.9, Capitals: false), new(0, 28, 0, 28), ChoiceShape.Pill, HeadPlace.Sides, 3, 3, 14, Shadow.None, ViewerGround.Page),
        ThemeName.Ledger => new(
            Scheme.Light, new("#ffffff", "#10231a", "#00653c", "#7fa893"), new("#0c1712", "#d6eadf", "#6fd6a3", "#2f5a45"),
            TypeFamily.JetBrainsMono, TypeFamily.JetBrainsMono, new(600, -0.04, 0.66, Capitals: false), Corners.None, ChoiceShape.Box, HeadPlace.Above, 1, 1, 2, Shadow.None, ViewerGround.Night),
        _ => throw new ArgumentOutOfRangeException(nameof(name)),
    };

    /// <summary>What cannot be read well where visitors may see it.</summary>
    public IReadOnlyList<Unreadable> Unreadable() => [.. Seen().SelectMany(s => s.Palette.Unreadable().Select(f => new Unreadable(s.Dark, f)))];

    /// <summary>The type that it is set in.</summary>
    public IReadOnlyList<TypeFamily> Families() => [Headings, Words];

    /// <summary>The palettes that visitors may come to see.</summary>
    public IReadOnlyList<(bool Dark, Palette Palette)> Seen() => Scheme switch
    {
        Scheme.Light => [(false, Light)],
        Scheme.Dark => [(true, Dark)],
        _ => [(false, Light), (true, Dark)],
    };
}
