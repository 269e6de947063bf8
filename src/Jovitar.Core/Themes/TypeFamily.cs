namespace Jovitar.Core.Themes;

/// <summary>The type families that ship with the application, all under the SIL Open Font License 1.1. Kept by name.</summary>
public enum TypeFamily
{
    /// <summary>A grotesque with character.</summary>
    Bricolage,

    /// <summary>A quiet sans.</summary>
    Instrument,

    /// <summary>A sans for narrow columns and capitals.</summary>
    Archivo,

    /// <summary>A geometric sans.</summary>
    SpaceGrotesk,

    /// <summary>Wide and round.</summary>
    Unbounded,

    /// <summary>A soft serif for headings.</summary>
    Fraunces,

    /// <summary>A serif for reading.</summary>
    Literata,

    /// <summary>All letters equally wide.</summary>
    JetBrainsMono,

    /// <summary>Written by hand.</summary>
    Caveat,
}

/// <summary>What a style sheet needs to know of a family.</summary>
/// <param name="Name">As the style sheets call it.</param>
/// <param name="Slug">What the names of its files begin with.</param>
/// <param name="Fallback">What stands in for it until it is there.</param>
public sealed record TypeFace(string Name, string Slug, string Fallback)
{
    /// <summary>As a style sheet says it.</summary>
    public string Stack => $"\"{Name}\",{Fallback}";
}

public static class TypeFamilies
{
    public static TypeFace Face(this TypeFamily family) => family switch
    {
        TypeFamily.Bricolage => new("Bricolage Grotesque Variable", "bricolage-grotesque", "sans-serif"),
        TypeFamily.Instrument => new("Instrument Sans Variable", "instrument-sans", "system-ui,sans-serif"),
        TypeFamily.Archivo => new("Archivo Variable", "archivo", "sans-serif"),
        TypeFamily.SpaceGrotesk => new("Space Grotesk Variable", "space-grotesk", "sans-serif"),
        TypeFamily.Unbounded => new("Unbounded Variable", "unbounded", "sans-serif"),
        TypeFamily.Fraunces => new("Fraunces Variable", "fraunces", "serif"),
        TypeFamily.Literata => new("Literata Variable", "literata", "serif"),
        TypeFamily.JetBrainsMono => new("JetBrains Mono Variable", "jetbrains-mono", "monospace"),
        TypeFamily.Caveat => new("Caveat Variable", "caveat", "cursive"),
        _ => throw new ArgumentOutOfRangeException(nameof(family)),
    };
}
