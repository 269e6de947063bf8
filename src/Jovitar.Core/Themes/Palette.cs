namespace Jovitar.Core.Themes;

/// <summary>The colours of the published site, each as <c>#rrggbb</c>.</summary>
/// <param name="Ground">What everything stands on.</param>
/// <param name="Text">What words are written in.</param>
/// <param name="Accent">Buttons, what is chosen, where the keyboard is.</param>
/// <param name="Line">Lines between things.</param>
public sealed record Palette(string Ground, string Text, string Accent, string Line)
{
    /// <summary>The contrast that words of less weight have at least, a little more than is asked for (WCAG 2.2, 1.4.3).</summary>
    const double QuietContrast = 5;

    /// <summary>Words of less weight: as much of the ground in them as can be, while they read well.</summary>
    public Colour Quiet()
    {
        var (ground, text) = (Read(Ground), Read(Text));
        return Enumerable.Range(45, 56).Select(percent => text.Over(ground, percent / 100.0)).FirstOrDefault(c => Colour.Contrast(c, ground) >= QuietContrast, text);
    }

    /// <summary>Where a photo is not there yet, and behind photos that do not fill their place.</summary>
    public Colour Well() => Read(Text).Over(Read(Ground), 0.08);

    /// <summary>Whether browsers draw what is theirs, such as scroll bars, light on dark.</summary>
    public bool IsDark() => Read(Ground).Luminance < 0.18;

    /// <summary>What cannot be read well, with the nearest colour that can.</summary>
    public IReadOnlyList<PaletteFault> Unreadable()
    {
        var ground = Read(Ground);
        return
        [
            .. new (PalettePart Part, string Colour)[] { (PalettePart.Text, Text), (PalettePart.Accent, Accent) }
                .Select(p => (p.Part, Over: WordsOver.OverColour(Read(p.Colour), ground, WordsOver.Usual)))
                .Where(p => !p.Over.IsEnough)
                .Select(p => new PaletteFault(p.Part, Math.Floor(p.Over.Ratio * 10) / 10, p.Over.Wanted, p.Over.Nearest?.ToString())),
        ];
    }

    static Colour Read(string colour) => Colour.Parse(colour) ?? throw new FormatException($"{colour} is no colour.");
}

/// <summary>A part of a palette that is read or seen on its ground.</summary>
public enum PalettePart
{
    Text,
    Accent,
}

/// <summary>A colour that cannot be read well on its ground.</summary>
/// <param name="Ratio">Its contrast, 1 to 21.</param>
/// <param name="Wanted">What is asked for.</param>
/// <param name="Nearest">The nearest colour that is enough; null where none is.</param>
public sealed record PaletteFault(PalettePart Part, double Ratio, double Wanted, string? Nearest);

/// <summary>A colour of a look that cannot be read well.</summary>
/// <param name="Dark">Where the site is dark.</param>
public sealed record Unreadable(bool Dark, PaletteFault Fault);

/// <summary>Colours that are other than at the level above; null for as there.</summary>
public sealed record PaletteChange(string? Ground, string? Text, string? Accent, string? Line)
{
    public static readonly PaletteChange None = new(null, null, null, null);

    public Palette On(Palette palette) => new(Ground ?? palette.Ground, Text ?? palette.Text, Accent ?? palette.Accent, Line ?? palette.Line);

    public string? Fault() => new[] { Ground, Text, Accent, Line }.Any(c => c is not null && Colour.Parse(c) is null) ? Colour.Unknown : null;
}
