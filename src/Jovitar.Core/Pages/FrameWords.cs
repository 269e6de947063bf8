using Jovitar.Core.Layout;
using Jovitar.Core.Themes;

namespace Jovitar.Core.Pages;

/// <summary>When a line of words stands with a photo among others. Kept by name.</summary>
public enum WordsWhen
{
    Never,

    /// <summary>Beneath the photo.</summary>
    Under,

    /// <summary>Over the photo, while the pointer, a finger or the keyboard is on it.</summary>
    Touched,

    /// <summary>Over the photo.</summary>
    Over,

    /// <summary>On the back of the photo: a press turns it round.</summary>
    Turned,
}

/// <summary>How large words stand with a photo.</summary>
public enum WordsSize
{
    Small,
    Usual,
    Large,
}

/// <summary>When words stand with the photos of a block on a device, and how they look.</summary>
/// <param name="First">When the first line stands there.</param>
/// <param name="Second">When the second does.</param>
/// <param name="Colour">What they are written in, as <c>#rrggbb</c>; null for whatever reads well.</param>
/// <param name="Ground">What lies behind them, as <c>#rrggbb</c>; null for nothing beneath a photo, and for something dark over one.</param>
/// <param name="Dense">How much of it hides the photo that they stand over, percent.</param>
/// <param name="Padding">Air about them, CSS pixels.</param>
/// <param name="Whole">Over a photo they take all of it; else its foot.</param>
public sealed record WordsSet(WordsWhen First, WordsWhen Second, WordsSize Size, BlockAlign Align, string? Colour, string? Ground, int Dense, int Padding, bool Whole)
{
    public const int MostPadding = 40;

    /// <summary>The height of a line over the height of its letters.</summary>
    public const double LineHeight = 1.35;

    /// <summary>How many lines a caption may take beneath a photo.</summary>
    public const int CaptionLines = 2;

    public static readonly WordsSet None = new(WordsWhen.Never, WordsWhen.Never, WordsSize.Usual, BlockAlign.Left, null, null, 72, 8, Whole: false);

    /// <summary>The height of the letters, CSS pixels.</summary>
    public int Letters() => Size switch { WordsSize.Small => 13, WordsSize.Large => 18, _ => 15 };

    /// <summary>A line stands there at some time.</summary>
    public bool Has(WordsWhen when) => First == when || Second == when;

    /// <summary>Words stand there, or come.</summary>
    public bool IsShown() => First != WordsWhen.Never || Second != WordsWhen.Never;

    /// <summary>Words stand over the photos, or come there.</summary>
    public bool IsOver() => Has(WordsWhen.Over) || Has(WordsWhen.Touched);

    /// <summary>The room beneath each photo that words take, CSS pixels; 0 where none stand there.</summary>
    /// <param name="second">What the second line says.</param>
    public double RoomUnder(PhotoWord? second)
    {
        var lines = (First == WordsWhen.Under ? 1 : 0) + (Second != WordsWhen.Under ? 0 : second == PhotoWord.Caption ? CaptionLines : 1);
        // Without a ground of their own they begin a little beneath the photo and need no air at their foot.
        return lines == 0 ? 0 : (lines * Letters() * LineHeight) + (Ground is null ? Padding : 2 * Padding);
    }

    /// <summary>Whatever a photo may show, in greys: what reads over the darkest and the lightest need not read over one between.</summary>
    static readonly Colour[] Greys = [.. Enumerable.Range(0, 18).Select(i => (byte)(i * 15)).Select(g => new Colour(g, g, g))];

    /// <summary>What words over a photo are written in, over whatever the photo shows, from black to white.</summary>
    public WordsOver OverPhotos() => OverPhotos(Dense);

    WordsOver OverPhotos(int dense)
    {
        var ground = Themes.Colour.Parse(Ground) ?? Themes.Colour.Ink;
        return WordsOver.OverColours(Themes.Colour.Parse(Colour), [.. Greys.Select(g => ground.Over(g, dense / 100.0))], WordsOver.Usual);
    }

    /// <summary>Where words over photos cannot be read: how dense their ground must be at least, percent; null where they can, and where no ground is enough.</summary>
    public int? LeastDense() => OverPhotos().IsEnough ? null : Enumerable.Range(Dense, 101 - Dense).Select(d => (int?)d).FirstOrDefault(d => OverPhotos(d!.Value).IsEnough);

    /// <summary>What words beneath a photo, or on its back, are written in.</summary>
    /// <param name="behind">What may lie there where they have no ground of their own.</param>
    public WordsOver OnGround(params IReadOnlyList<Colour> behind) => WordsOver.OverColours(Themes.Colour.Parse(Colour), Themes.Colour.Parse(Ground) is { } own ? [own] : behind, WordsOver.Usual);

    public WordsSet Bounded() => this with { Dense = Math.Clamp(Dense, 0, 100), Padding = Math.Clamp(Padding, 0, MostPadding) };

    public string? Fault() => new[] { Colour, Ground }.Any(c => c is not null && Themes.Colour.Parse(c) is null) ? Themes.Colour.Unknown : null;
}

/// <summary>The words that stand with each photo of a block.</summary>
/// <param name="First">What the first line says.</param>
/// <param name="Second">What the second says; null for none.</param>
/// <param name="Tablet">Null for as on a desktop.</param>
/// <param name="Phone">Null for as on a desktop.</param>
public sealed record FrameWords(PhotoWord? First, PhotoWord? Second, WordsSet Desktop, WordsSet? Tablet, WordsSet? Phone)
{
    /// <summary>None; in a list, which has its words beside each photo, the title and the caption.</summary>
    public static readonly FrameWords Usual = new(PhotoWord.Title, PhotoWord.Caption, WordsSet.None, null, null);

    /// <summary>What is set on a device; a line that says nothing stands nowhere.</summary>
    public WordsSet On(Device device)
    {
        var set = device switch { Device.Phone => Phone, Device.Tablet => Tablet, _ => null } ?? Desktop;
        return First is not null && Second is not null ? set : set with { First = First is null ? WordsWhen.Never : set.First, Second = Second is null ? WordsWhen.Never : set.Second };
    }

    /// <summary>The devices on which something holds.</summary>
    public IEnumerable<Device> Where(Func<WordsSet, bool> holds) => Enum.GetValues<Device>().Where(d => holds(On(d)));

    /// <summary>Words stand with the photos on some device, or come.</summary>
    public bool IsShown() => Where(s => s.IsShown()).Any();

    public FrameWords Bounded() => this with { Desktop = Desktop.Bounded(), Tablet = Tablet?.Bounded(), Phone = Phone?.Bounded() };

    public string? Fault() => Desktop.Fault() ?? Tablet?.Fault() ?? Phone?.Fault();
}
