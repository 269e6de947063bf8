namespace Jovitar.Core.Pages;

/// <summary>Words over a ground: what they are written in, and how well they can be read.</summary>
/// <param name="Words">What they are written in.</param>
/// <param name="Veil">What lies over the photo between it and them.</param>
/// <param name="Ratio">Their contrast with nearly all of what lies behind them, 1 to 21.</param>
/// <param name="Wanted">What is asked for (WCAG 2.2, 1.4.3).</param>
/// <param name="Nearest">Where that is not reached: the colour for the words that looks most like theirs and reaches it; null where none does.</param>
/// <param name="ThinnestVeil">Where it is not reached: how much veil, percent, is enough for the words as they are; null where none is, and on a colour.</param>
public sealed record WordsOver(Colour Words, Colour Veil, double Ratio, double Wanted, Colour? Nearest, int? ThinnestVeil)
{
    /// <summary>The contrast asked for of words of usual size, and of large ones: from 24 CSS pixels, bold from 18.66 (WCAG 2.2, 1.4.3).</summary>
    public const double Usual = 4.5, Large = 3;

    /// <summary>Specks are disregarded: so much of what lies behind words, 0 to 1, may be worse than is said.</summary>
    public const double Specks = 0.05;

    public bool IsEnough => Ratio >= Wanted;

    /// <summary>Words over a colour.</summary>
    /// <param name="words">Null for whatever of dark and light reads better.</param>
    public static WordsOver OverColour(Colour? words, Colour behind, double wanted) => Of(words, [behind], veil: null, wanted);

    /// <summary>Words over a photo that lies beneath a veil.</summary>
    /// <param name="behind">Its colours, as many as are looked at; at least one.</param>
    /// <param name="veil">Percent.</param>
    public static WordsOver OverPhoto(Colour? words, IReadOnlyList<Colour> behind, int veil, double wanted) => Of(words, behind, veil, wanted);

    /// <summary>The contrast asked for of the words of a block; null where it has none on its ground.</summary>
    public static double? WantedOf(Block block) => block switch
    {
        HeadingBlock => Large,
        TextBlock { Words.Length: > 0 } or IndexBlock or FilesBlock or SoundBlock or ContactBlock => Usual,
        PhotoBlock { Line.Length: > 0 } or VideoBlock { Line.Length: > 0 } => Usual,
        PhotosBlock photos when photos.Bar.Categories.Count + photos.Bar.Tags.Count > 0 || photos.Layout.Kind == Layout.LayoutKind.List => Usual,
        BesideBlock beside => beside.Blocks.Where(b => !b.Frame.Ground.Begins).Max(WantedOf),
        _ => null,
    };

    static WordsOver Of(Colour? chosen, IReadOnlyList<Colour> behind, int? veil, double wanted)
    {
        var words = chosen ?? ByItself(behind, veil, wanted);
        var over = VeilFor(words);
        var veiled = Veiled(behind, over, veil);
        var ratio = Least(words, veiled);
        if (ratio >= wanted)
        {
            return new WordsOver(words, over, ratio, wanted, null, null);
        }

        return new WordsOver(words, over, ratio, wanted, NearestOf(words, behind, veil, wanted), veil is { } now ? ThinnestOf(words, over, behind, now, wanted) : null);
    }

    /// <summary>Dark or light, whichever reads better; where neither reads well enough, black or white: over one colour one of those always does.</summary>
    static Colour ByItself(IReadOnlyList<Colour> behind, int? veil, double wanted)
    {
        double Reads(Colour words) => Least(words, Veiled(behind, VeilFor(words), veil));
        var soft = Reads(Colour.Ink) >= Reads(Colour.Paper) ? Colour.Ink : Colour.Paper;
        return Reads(soft) >= wanted ? soft : Reads(Black) >= Reads(White) ? Black : White;
    }

    static readonly Colour Black = new(0, 0, 0), White = new(255, 255, 255);

    /// <summary>Light words want a dark veil behind them and dark ones a light one.</summary>
    static Colour VeilFor(Colour words) => Colour.Contrast(words, Colour.Ink) >= Colour.Contrast(words, Colour.Paper) ? Colour.Ink : Colour.Paper;

    static Colour[] Veiled(IReadOnlyList<Colour> behind, Colour veil, int? percent) => percent is { } p ? [.. behind.Select(c => veil.Over(c, p / 100.0))] : [.. behind];

    /// <summary>The contrast with the worst of what lies behind, but for specks.</summary>
    static double Least(Colour words, Colour[] behind) => behind.Select(c => Colour.Contrast(words, c)).Order().ElementAt((int)(behind.Length * Specks));

    static int? ThinnestOf(Colour words, Colour over, IReadOnlyList<Colour> behind, int from, double wanted)
    {
        bool IsEnough(int percent) => Least(words, Veiled(behind, over, percent)) >= wanted;
        if (!IsEnough(Ground.ThickestVeil))
        {
            return null;
        }

        // More of what is dark behind light words, or light behind dark ones, never reads worse.
        var (low, high) = (from, Ground.ThickestVeil);
        while (high - low > 1)
        {
            var middle = (low + high) / 2;
            (low, high) = IsEnough(middle) ? (low, middle) : (middle, high);
        }

        return high;
    }

    static Colour? NearestOf(Colour words, IReadOnlyList<Colour> behind, int? veil, double wanted)
    {
        var found = new List<Colour>();
        foreach (var towards in new[] { Black, White })
        {
            for (var step = 1; step <= 100; step++)
            {
                var candidate = towards.Over(words, step / 100.0);
                if (Least(candidate, Veiled(behind, VeilFor(candidate), veil)) >= wanted)
                {
                    found.Add(candidate);
                    break;
                }
            }
        }

        return found.Count > 0 ? found.MinBy(c => Colour.Distance(words, c)) : null;
    }
}
