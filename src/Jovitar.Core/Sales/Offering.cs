using Jovitar.Core.Corrections;
using Jovitar.Core.Narrowings;

namespace Jovitar.Core.Sales;

/// <summary>Why an option is not offered of a photo.</summary>
public enum NotOffered
{
    /// <summary>It is offered.</summary>
    No,

    /// <summary>It is off, or has no price yet.</summary>
    ByList,

    /// <summary>Not in this sales gallery.</summary>
    ByAlbum,

    /// <summary>Not of this photo.</summary>
    ByPhoto,

    /// <summary>Not of photos of this shape.</summary>
    ByShape,
    TooSmall,

    /// <summary>As many of this photo were sold as there are.</summary>
    SoldOut,
}

/// <summary>A photo as it is sold.</summary>
/// <param name="Size">As it is corrected, pixels.</param>
/// <param name="Middle">What stays in a print when some is cut off; null for the photo's middle.</param>
/// <param name="Without">Options that are not offered of it.</param>
/// <param name="AlbumWithout">Options that are not offered in the sales gallery it stands in.</param>
/// <param name="Sold">So many were sold of it, by option; null where nobody asks.</param>
public sealed record ForSale(PixelSize Size, Spot? Middle, IReadOnlyCollection<Guid> Without, IReadOnlyCollection<Guid> AlbumWithout, IReadOnlyDictionary<Guid, long>? Sold = null);

/// <summary>Whether an option is offered of a photo, and how the photo fits it.</summary>
/// <param name="Grade">How large the photo is for it; null where that does not matter.</param>
/// <param name="Fit">How it comes onto paper; null where it does not.</param>
/// <param name="Left">So many can still be bought of it; null for as many as are wanted.</param>
public sealed record Offer(SaleOption Option, NotOffered Why, PrintGrade? Grade, PrintFit? Fit, int? Left)
{
    public bool IsOffered => Why == NotOffered.No;

    /// <summary>Something of the photo would be cut off, and white can be left instead.</summary>
    public bool CanBeWhole => Option.TakesBorder && Fit?.IsCut == true;

    /// <summary>What the photo's size comes to, where that is less than good; else empty.</summary>
    public string Sentence(PrintLimits limits, PixelSize photo) => (Grade, Fit) switch
    {
        (PrintGrade.TooSmall, null) => FormattableString.Invariant($"The photo has {Math.Max(photo.Width, photo.Height):N0} pixels at its longest edge."),
        (PrintGrade.TooSmall, { } fit) => FormattableString.Invariant($"{Math.Floor(fit.PixelsPerInch):0} pixels an inch: too small; it takes {limits.Least}."),
        (PrintGrade.Poor, { } fit) => FormattableString.Invariant($"{Math.Floor(fit.PixelsPerInch):0} pixels an inch: soft when looked at closely; {limits.Fair} are fair."),
        (PrintGrade.Fair, { } fit) => FormattableString.Invariant($"{Math.Floor(fit.PixelsPerInch):0} pixels an inch: fair; {limits.Good} are good."),
        _ => "",
    };
}

/// <summary>Which options of a price list are offered of a photo: those that nothing speaks against.</summary>
public static class Offering
{
    /// <summary>Every option of a list, in its order.</summary>
    public static IReadOnlyList<Offer> Of(PriceList list, ForSale photo) => [.. list.Options.Select(o => Of(o, list, photo))];

    static Offer Of(SaleOption option, PriceList list, ForSale photo)
    {
        var (grade, fit) = Fit(option, list.Limits, photo);
        var left = option.Left(photo.Sold?.GetValueOrDefault(option.Id) ?? 0);
        var why = !option.IsOffered ? NotOffered.ByList
            : photo.AlbumWithout.Contains(option.Id) ? NotOffered.ByAlbum
            : photo.Without.Contains(option.Id) ? NotOffered.ByPhoto
            : option.Shapes.Count > 0 && !option.Shapes.Contains(PictureShape.Of(photo.Size.Width, photo.Size.Height)) ? NotOffered.ByShape
            // A file that is larger than its photo would be made up: it is not sold, whatever is said of prints.
            : grade == PrintGrade.TooSmall && !(list.SellsSmall && option.IsPrinted) ? NotOffered.TooSmall
            : left == 0 ? NotOffered.SoldOut
            : NotOffered.No;
        return new Offer(option, why, grade, fit, left);
    }

    static (PrintGrade? Grade, PrintFit? Fit) Fit(SaleOption option, PrintLimits limits, ForSale photo)
    {
        if (option.IsFile)
        {
            return (option.LongestEdge > Math.Max(photo.Size.Width, photo.Size.Height) ? PrintGrade.TooSmall : null, null);
        }

        return option.FitOf(photo.Size, photo.Middle) is { } fit ? (limits.Of(fit.PixelsPerInch), fit) : (null, null);
    }
}
