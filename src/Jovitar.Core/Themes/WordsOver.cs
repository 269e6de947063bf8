namespace Jovitar.Core.Themes;

/// <summary>Words over a ground: what they are written in, how well they can be read, and what would help.</summary>
public sealed class WordsOver
{
    /// <summary>Percent: behind a thicker one there is no photo to be seen.</summary>
    public const int ThickestVeil = 90;

    readonly IReadOnlyList<Colour> behind;

    /// <summary>Percent; null over a colour.</summary>
    readonly int? veil;

    WordsOver(Colour? words, IReadOnlyList<Colour> behind, int? veil, double wanted)
    {
        (this.behind, this.veil, Wanted) = (behind, veil, wanted);
        Words = words ?? ByItself();
        Veil = VeilFor(Words);
        Ratio = Least(Words, Veiled(Veil, veil));
    }

    /// <summary>What they are written in.</summary>
    public Colour Words { get; }

    /// <summary>What lies over the photo between it and them.</summary>
    public Colour Veil { get; }

    /// <summary>Their contrast with nearly all of what lies behind them, 1 to 21.</summary>
    public double Ratio { get; }

    /// <summary>What is asked for (WCAG 2.2, 1.4.3).</summary>
    public double Wanted { get; }

    /// <summary>The contrast asked for of words of usual size, and of large ones: from 24 CSS pixels, bold from 18.66 (WCAG 2.2, 1.4.3).</summary>
    public const double Usual = 4.5, Large = 3;

    /// <summary>Specks are disregarded: so much of what lies behind words, 0 to 1, may be worse than is said.</summary>
    public const double Specks = 0.05;

    public bool IsEnough => Ratio >= Wanted;

    /// <summary>Words over a colour.</summary>
    /// <param name="words">Null for whatever of dark and light reads better.</param>
    public static WordsOver OverColour(Colour? words, Colour behind, double wanted) => new(words, [behind], veil: null, wanted);

    /// <summary>Words over any of several colours.</summary>
    /// <param name="words">Null for whatever of dark and light reads better over all of them.</param>
    public static WordsOver OverColours(Colour? words, IReadOnlyList<Colour> behind, double wanted) => new(words, behind, veil: null, wanted);

    /// <summary>Words over a photo that lies beneath a veil.</summary>
    /// <param name="behind">Its colours, as many as are looked at; at least one.</param>
    /// <param name="veil">Percent.</param>
    public static WordsOver OverPhoto(Colour? words, IReadOnlyList<Colour> behind, int veil, double wanted) => new(words, behind, veil, wanted);

    /// <summary>Where they cannot be read: the colour that looks most like theirs and can; null where none does, and where they can. Reckoned when it is asked for.</summary>
    public Colour? Nearest
    {
        get
        {
            var found = new List<Colour>();
            foreach (var towards in IsEnough ? [] : (Colour[])[Black, White])
            {
                var mixes = Enumerable.Range(1, 100).Select(step => towards.Over(Words, step / 100.0));
                var veiled = new[] { Colour.Ink, Colour.Paper }.ToDictionary(v => v, v => Veiled(v, veil));
                found.AddRange(mixes.Where(m => Least(m, veiled[VeilFor(m)]) >= Wanted).Take(1));
            }

            return found.Count > 0 ? found.MinBy(c => Colour.Distance(Words, c)) : null;
        }
    }

    /// <summary>Where they cannot be read: how much veil, percent, is enough for them as they are; null where none is, over a colour, and where they can. Reckoned when it is asked for.</summary>
    public int? ThinnestVeil => IsEnough || veil is not { } now
        ? null
        : Enumerable.Range(now + 1, ThickestVeil - now).Select(p => (int?)p).FirstOrDefault(p => Least(Words, Veiled(Veil, p)) >= Wanted);

    static readonly Colour Black = new(0, 0, 0), White = new(255, 255, 255);

    /// <summary>Dark or light, whichever reads better; where neither reads well enough, black or white: over one colour one of those always does.</summary>
    Colour ByItself()
    {
        double Reads(Colour words) => Least(words, Veiled(VeilFor(words), veil));
        var soft = Reads(Colour.Ink) >= Reads(Colour.Paper) ? Colour.Ink : Colour.Paper;
        return Reads(soft) >= Wanted ? soft : Reads(Black) >= Reads(White) ? Black : White;
    }

    /// <summary>Light words want a dark veil behind them and dark ones a light one.</summary>
    static Colour VeilFor(Colour words) => Colour.Contrast(words, Colour.Ink) >= Colour.Contrast(words, Colour.Paper) ? Colour.Ink : Colour.Paper;

    /// <summary>The luminances of what lies behind, beneath so much of a veil.</summary>
    double[] Veiled(Colour over, int? percent) => [.. behind.Select(c => (percent is { } p ? over.Over(c, p / 100.0) : c).Luminance)];

    /// <summary>The contrast with the worst of what lies behind, but for specks.</summary>
    static double Least(Colour words, double[] luminances)
    {
        var own = words.Luminance;
        return luminances.Select(l => Colour.Contrast(own, l)).Order().ElementAt((int)(luminances.Length * Specks));
    }
}
