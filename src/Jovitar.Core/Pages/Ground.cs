using System.Text.Json.Serialization;
using Jovitar.Core.Themes;

namespace Jovitar.Core.Pages;

/// <summary>What lies behind a block. Kept by name.</summary>
public enum GroundKind
{
    /// <summary>The page.</summary>
    None,
    Colour,
    Photo,

    /// <summary>What lies behind the block above goes on behind this one.</summary>
    AsAbove,
}

/// <summary>How high a ground is at least. Kept by name.</summary>
public enum GroundHeight
{
    /// <summary>As high as what stands on it.</summary>
    Content,
    Third,
    Half,

    /// <summary>As high as the window.</summary>
    Window,
}

/// <summary>What lies behind a block and its words. What was said for another kind is kept while it is not used.</summary>
/// <param name="Colour">As <c>#rrggbb</c>.</param>
/// <param name="Veil">How much of dark or of light lies over the photo, percent, so that words over it can be read.</param>
/// <param name="Words">What words are written in, as <c>#rrggbb</c>; null for dark or light by itself, whichever reads better.</param>
/// <param name="Height">Of a photo or a colour that is to be higher than what stands on it; that stands at its foot then.</param>
public sealed record Ground(GroundKind Kind, string Colour, PhotoId? Photo, int Veil, string? Words, GroundHeight Height)
{
    public static readonly Ground None = new(GroundKind.None, "#e8dfce", null, 35, null, GroundHeight.Content);

    /// <summary>It begins a ground of its own.</summary>
    [JsonIgnore]
    public bool Begins => Kind == GroundKind.Colour || (Kind == GroundKind.Photo && Photo is not null);

    /// <summary>The least share of the window's height that it takes, 0 to 1.</summary>
    [JsonIgnore]
    public double LeastHeight => Height switch
    {
        GroundHeight.Third => 1 / 3.0,
        GroundHeight.Half => 0.5,
        GroundHeight.Window => 1,
        _ => 0,
    };

    public string? Fault() =>
        Themes.Colour.Parse(Colour) is null || (Words is not null && Themes.Colour.Parse(Words) is null) ? Themes.Colour.Unknown
        : Veil is < 0 or > WordsOver.ThickestVeil ? $"The veil over a photo is between 0 and {WordsOver.ThickestVeil} percent."
        : null;
}

/// <summary>A ground that blocks stand on, and they.</summary>
/// <param name="Ground">Null where they stand on the page.</param>
public sealed record Band(Ground? Ground, IReadOnlyList<Block> Blocks)
{
    /// <summary>
    /// The blocks of a page by what lies behind them: a ground goes on for as long as the blocks that follow say so.
    /// Each block is in one of them, in order; those that stand on the page each by itself.
    /// </summary>
    public static IReadOnlyList<Band> Of(IReadOnlyList<Block> blocks)
    {
        var bands = new List<Band>();
        foreach (var block in blocks)
        {
            if (block.Frame.Ground.Begins)
            {
                bands.Add(new Band(block.Frame.Ground, [block]));
            }
            else if (block.Frame.Ground.Kind == GroundKind.AsAbove && bands.LastOrDefault() is { Ground: not null } last)
            {
                bands[^1] = last with { Blocks = [.. last.Blocks, block] };
            }
            else
            {
                bands.Add(new Band(null, [block]));
            }
        }

        return bands;
    }

    /// <summary>The contrast asked for of the words of a block on a ground; null where it has none on its ground.</summary>
    public static double? WantedOf(Block block) => block switch
    {
        HeadingBlock => WordsOver.Large,
        TextBlock { Words.Length: > 0 } or IndexBlock or FilesBlock or SoundBlock or ContactBlock => WordsOver.Usual,
        PhotoBlock { Line.Length: > 0 } or VideoBlock { Line.Length: > 0 } => WordsOver.Usual,
        PhotosBlock photos when photos.Bar.IsShown() || photos.Layout.Kind == Layout.LayoutKind.List || photos.Words.Where(w => w.Has(WordsWhen.Under)).Any() => WordsOver.Usual,
        BesideBlock beside => beside.Blocks.Where(b => !b.Frame.Ground.Begins).Max(WantedOf),
        _ => null,
    };
}
