using System.ComponentModel;
using Jovitar.Core;
using Jovitar.Core.Narrowings;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Photos;

/// <summary>Which photos a sheet shows, and in which order, as an address says it. Choices are joined by commas; a backslash stands before a comma within one.</summary>
internal sealed record SheetQuery
{
    [Description("Beginnings of words to look for in title, caption, alternative text, tags, people, place, creator and file name; all of them must be found.")]
    [FromQuery(Name = "q")]
    public string? Q { get; init; }

    [Description("In any of these albums (ids), or none.")]
    [FromQuery(Name = "album")]
    public string? Album { get; init; }

    [FromQuery(Name = "notAlbum")]
    public string? NotAlbum { get; init; }

    [Description("In any of these categories (ids) or beneath them, or none.")]
    [FromQuery(Name = "category")]
    public string? Category { get; init; }

    [FromQuery(Name = "notCategory")]
    public string? NotCategory { get; init; }

    [Description("With any of these tags (ids), or none.")]
    [FromQuery(Name = "tag")]
    public string? Tag { get; init; }

    [FromQuery(Name = "notTag")]
    public string? NotTag { get; init; }

    [Description("Brought by any of these intakes (ids).")]
    [FromQuery(Name = "intake")]
    public string? Intake { get; init; }

    [FromQuery(Name = "notIntake")]
    public string? NotIntake { get; init; }

    [Description("From any of these sources: computer, sent, watched:NAME, scanner:NAME, or none.")]
    [FromQuery(Name = "source")]
    public string? Source { get; init; }

    [FromQuery(Name = "notSource")]
    public string? NotSource { get; init; }

    [Description("Showing any of these people (names), or none.")]
    [FromQuery(Name = "people")]
    public string? People { get; init; }

    [FromQuery(Name = "notPeople")]
    public string? NotPeople { get; init; }

    [Description("Taken then: 2026, 2026-06, 2026-06-13, two of them with -- between, or none.")]
    [FromQuery(Name = "taken")]
    public string? Taken { get; init; }

    [FromQuery(Name = "notTaken")]
    public string? NotTaken { get; init; }

    [Description("Taken with any of these cameras, or none.")]
    [FromQuery(Name = "camera")]
    public string? Camera { get; init; }

    [FromQuery(Name = "notCamera")]
    public string? NotCamera { get; init; }

    [Description("Taken through any of these lenses, or none.")]
    [FromQuery(Name = "lens")]
    public string? Lens { get; init; }

    [FromQuery(Name = "notLens")]
    public string? NotLens { get; init; }

    [Description("Rated so, 0 to 5.")]
    [FromQuery(Name = "rating")]
    public string? Rating { get; init; }

    [FromQuery(Name = "notRating")]
    public string? NotRating { get; init; }

    [Description("Decided so: keep, doubt, leave_out, or none.")]
    [FromQuery(Name = "decision")]
    public string? Decision { get; init; }

    [FromQuery(Name = "notDecision")]
    public string? NotDecision { get; init; }

    [Description("Cleared so: cleared, not_cleared, or none while nobody has said or it is over.")]
    [FromQuery(Name = "clearance")]
    public string? Clearance { get; init; }

    [FromQuery(Name = "notClearance")]
    public string? NotClearance { get; init; }

    [Description("landscape, portrait, square, panorama.")]
    [FromQuery(Name = "shape")]
    public string? Shape { get; init; }

    [FromQuery(Name = "notShape")]
    public string? NotShape { get; init; }

    [Description("The longer edge in pixels: 1600-2399, 6000-.")]
    [FromQuery(Name = "pixels")]
    public string? Pixels { get; init; }

    [FromQuery(Name = "notPixels")]
    public string? NotPixels { get; init; }

    [Description("Without any of these: title, alt, credit, clearance.")]
    [FromQuery(Name = "missing")]
    public string? Missing { get; init; }

    [FromQuery(Name = "notMissing")]
    public string? NotMissing { get; init; }

    [Description("Corrected in any of these ways: turned, straightened, cropped, toned, grey, focus, print (cut from a scan), or none.")]
    [FromQuery(Name = "corrected")]
    public string? Corrected { get; init; }

    [FromQuery(Name = "notCorrected")]
    public string? NotCorrected { get; init; }

    [Description("What the sheet is sorted by: taken, arrived, name, title, rating, views, or, in one album, place. Anything else means taken.")]
    [FromQuery(Name = "sort")]
    public string? Sort { get; init; }

    [FromQuery(Name = "reversed")]
    public bool? Reversed { get; init; }

    /// <summary>What it narrows to.</summary>
    public Narrowing Narrowing() => Core.Narrowings.Narrowing.Read(name => name switch
    {
        "q" => Q,
        "album" => Album,
        "notAlbum" => NotAlbum,
        "category" => Category,
        "notCategory" => NotCategory,
        "tag" => Tag,
        "notTag" => NotTag,
        "intake" => Intake,
        "notIntake" => NotIntake,
        "source" => Source,
        "notSource" => NotSource,
        "people" => People,
        "notPeople" => NotPeople,
        "taken" => Taken,
        "notTaken" => NotTaken,
        "camera" => Camera,
        "notCamera" => NotCamera,
        "lens" => Lens,
        "notLens" => NotLens,
        "rating" => Rating,
        "notRating" => NotRating,
        "decision" => Decision,
        "notDecision" => NotDecision,
        "clearance" => Clearance,
        "notClearance" => NotClearance,
        "shape" => Shape,
        "notShape" => NotShape,
        "pixels" => Pixels,
        "notPixels" => NotPixels,
        "missing" => Missing,
        "notMissing" => NotMissing,
        "corrected" => Corrected,
        "notCorrected" => NotCorrected,
        _ => null,
    });

    /// <summary>What it is sorted by; the order made by hand only exists in one album.</summary>
    public SheetSort SortedBy() =>
        Enum.TryParse<SheetSort>(Sort, ignoreCase: true, out var named) && Enum.IsDefined(named) && (named != SheetSort.Place || ByHand() is not null) ? named : SheetSort.Taken;

    /// <summary>Whether it runs backward.</summary>
    public bool Down() => SortedBy().Down(Reversed ?? false);

    /// <summary>The one album that it shows; null when it shows several or none.</summary>
    public AlbumId? ByHand() => AlbumId.TryParse(Album, null, out var album) ? album : null;
}
