using Jovitar.Core.Layout;
using Jovitar.Core.Themes;

namespace Jovitar.Core.Pages;

/// <summary>Whether a touched photo comes nearer. Kept by name.</summary>
public enum TouchZoom
{
    None,
    In,
    Out,
}

/// <summary>What becomes of the light and the colours of a touched photo. Kept by name.</summary>
public enum TouchTone
{
    None,
    Lighter,
    Darker,

    /// <summary>Its colours go.</summary>
    ToGrey,

    /// <summary>Without colours until it is touched.</summary>
    FromGrey,
}

/// <summary>What colour lies over a touched photo. Kept by name.</summary>
public enum TouchTint
{
    None,
    Even,

    /// <summary>From its foot, and less towards its top.</summary>
    Gradient,
}

/// <summary>How words come over a touched photo. Kept by name.</summary>
public enum WordsCome
{
    Fade,

    /// <summary>From its foot.</summary>
    Rise,

    /// <summary>From the side at which the pointer came.</summary>
    Side,
}

/// <summary>How photos enter as they come into view. Kept by name.</summary>
public enum Entrance
{
    None,
    Fade,
    Rise,
    Grow,
}

/// <summary>What becomes of a photo while the pointer, a finger or the keyboard is on it, on a device; and how photos enter there.</summary>
/// <param name="ZoomBy">How much nearer, percent.</param>
/// <param name="ToneBy">How much lighter or darker, percent, or how much of the colours goes.</param>
/// <param name="TintColour">As <c>#rrggbb</c>.</param>
/// <param name="TintBy">How much of the photo the tint hides where it is densest, percent.</param>
/// <param name="Border">Within the photo's edges, CSS pixels; 0 for none.</param>
/// <param name="BorderColour">As <c>#rrggbb</c>.</param>
public sealed record TouchSet(
    TouchZoom Zoom, int ZoomBy, TouchTone Tone, int ToneBy, TouchTint Tint, string TintColour, int TintBy, int Border, string BorderColour, WordsCome Come, Entrance Entrance)
{
    public const int MostZoom = 30;
    public const int MostTint = 90;
    public const int MostBorder = 20;

    public static readonly TouchSet Usual = new(TouchZoom.None, 6, TouchTone.Lighter, 7, TouchTint.None, "#161616", 50, 0, "#fafafa", WordsCome.Fade, Entrance.None);

    public TouchSet Bounded() => this with
    {
        ZoomBy = Math.Clamp(ZoomBy, 1, MostZoom),
        ToneBy = Math.Clamp(ToneBy, 1, 100),
        TintBy = Math.Clamp(TintBy, 1, MostTint),
        Border = Math.Clamp(Border, 0, MostBorder),
    };

    public string? Fault() => Colour.Parse(TintColour) is null || Colour.Parse(BorderColour) is null ? Colour.Unknown : null;
}

/// <summary>What becomes of the photos of a block when they are touched, and how they enter.</summary>
/// <param name="Tablet">Null for as on a desktop.</param>
/// <param name="Phone">Null for as on a desktop.</param>
public sealed record FrameTouch(TouchSet Desktop, TouchSet? Tablet, TouchSet? Phone)
{
    public static readonly FrameTouch Usual = new(TouchSet.Usual, null, null);

    public TouchSet On(Device device) => device switch { Device.Phone => Phone, Device.Tablet => Tablet, _ => null } ?? Desktop;

    public FrameTouch Bounded() => new(Desktop.Bounded(), Tablet?.Bounded(), Phone?.Bounded());

    public string? Fault() => Desktop.Fault() ?? Tablet?.Fault() ?? Phone?.Fault();
}
