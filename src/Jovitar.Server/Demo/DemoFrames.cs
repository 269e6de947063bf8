using Jovitar.Core.Pages;

namespace Jovitar.Server.Demo;

/// <summary>The words with the photos of a block.</summary>
/// <param name="First">What the first line says.</param>
/// <param name="Second">What the second says.</param>
/// <param name="One">When the first stands there.</param>
/// <param name="Two">When the second does.</param>
/// <param name="OnPhone">When both stand there on a phone; null for as on a desktop.</param>
internal sealed record DemoWords(PhotoWord? First, PhotoWord? Second, WordsWhen One, WordsWhen Two, WordsWhen? OnPhone = null)
{
    public WordsSize Size { get; init; } = WordsSize.Usual;

    public BlockAlign Align { get; init; } = BlockAlign.Left;

    public string? Ground { get; init; }

    public int Dense { get; init; } = WordsSet.None.Dense;

    public int Padding { get; init; } = WordsSet.None.Padding;

    public bool Whole { get; init; }

    public FrameWords Made()
    {
        var set = WordsSet.None with { First = One, Second = Two, Size = Size, Align = Align, Ground = Ground, Dense = Dense, Padding = Padding, Whole = Whole };
        return new FrameWords(First, Second, set, null, OnPhone is { } when ? set with { First = when, Second = when } : null);
    }
}

/// <summary>What becomes of the photos of a block that are touched.</summary>
internal sealed record DemoTouch
{
    public TouchZoom Zoom { get; init; }

    public TouchTone Tone { get; init; }

    public int ToneBy { get; init; } = TouchSet.Usual.ToneBy;

    public TouchTint Tint { get; init; }

    public int TintBy { get; init; } = TouchSet.Usual.TintBy;

    public int Border { get; init; }

    public WordsCome Come { get; init; }

    public Entrance Entrance { get; init; }

    public FrameTouch Made() => FrameTouch.Usual with
    {
        Desktop = TouchSet.Usual with { Zoom = Zoom, Tone = Tone, ToneBy = ToneBy, Tint = Tint, TintBy = TintBy, Border = Border, Come = Come, Entrance = Entrance },
    };
}
