namespace Jovitar.Imaging;

/// <summary>The font files that ship beside the program, for what draws letters itself; single weights of families that the site has as well.</summary>
public static class FontFiles
{
    /// <summary>Sans, semi-bold: Latin letters.</summary>
    public const string Plain = "plain.ttf";

    /// <summary>Serif, semi-bold: Latin letters.</summary>
    public const string Serif = "serif.ttf";

    /// <summary>Written by hand: Latin letters.</summary>
    public const string Hand = "hand.ttf";

    /// <summary>Sans, for reading: Latin letters.</summary>
    public const string Words = "words.ttf";

    /// <summary>Serif, for reading: Latin, Greek and Cyrillic letters.</summary>
    public const string WideWords = "words-wide.ttf";

    public static string PathOf(string file) => Path.Combine(AppContext.BaseDirectory, "Letters", file);

    public static byte[] Read(string file) => File.ReadAllBytes(PathOf(file));
}
