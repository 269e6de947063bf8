using Jovitar.Core.Corrections;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Sales;

/// <summary>What is bought of a photo. Kept by name.</summary>
public enum OptionKind
{
    Print,

    /// <summary>A print drawn over a frame, with some of the picture round its edges.</summary>
    Wrap,
    Card,

    /// <summary>A file to save, with what may be done with it.</summary>
    Digital,

    /// <summary>Anything else by name, of which no size is known.</summary>
    Other,
}

/// <summary>What one costs from a number on.</summary>
/// <param name="From">So many of one option, 2 or more.</param>
public sealed record PriceBreak(int From, Money Each);

/// <summary>Something that can be bought of a photo, for a price. What does not go with its kind is nothing.</summary>
public sealed record SaleOption(Guid Id, OptionKind Kind)
{
    public const int LongestName = 80;
    public const int LongestDescription = 400;
    public const int LongestLicence = 4000;
    public const int MostBreaks = 6;
    const int MostCount = 10_000;
    const int MostEdge = 100;
    const int LeastPixels = 200;
    const int MostPixels = 30_000;
    const int MostDays = 3650;
    const int MostDownloads = 1000;
    const int MostWeight = 100_000;

    /// <summary>What it is called beside its size; empty where that says it all.</summary>
    public string Name { get; init; } = "";

    public string Description { get; init; } = "";

    /// <summary>The heading it stands beneath; empty for none.</summary>
    public string Group { get; init; } = "";

    /// <summary>Of a print, a wrap or a card.</summary>
    public PaperSize? Size { get; init; }

    /// <summary>How much of a wrap goes round each edge, millimetres.</summary>
    public int Edge { get; init; }

    /// <summary>Of a file, pixels; null for the photo's full size.</summary>
    public int? LongestEdge { get; init; }

    /// <summary>What may be done with a file.</summary>
    public string Licence { get; init; } = "";

    /// <summary>How often a file may be fetched; null for as often as they like.</summary>
    public int? Downloads { get; init; }

    /// <summary>For how many days; null for ever.</summary>
    public int? Days { get; init; }

    /// <summary>What one costs; null while nobody has said.</summary>
    public Money? Price { get; init; }

    /// <summary>What one costs the seller; null while nobody has said.</summary>
    public Money? Cost { get; init; }

    /// <summary>What one costs from larger numbers on, the smallest number first.</summary>
    public IReadOnlyList<PriceBreak> Breaks { get; init; } = [];

    /// <summary>Shapes of photos it is offered of (<see cref="PictureShape"/>); none for every shape.</summary>
    public IReadOnlyList<string> Shapes { get; init; } = [];

    /// <summary>So many of each photo are sold in all, a limited edition; null for as many as are wanted, as of files.</summary>
    public int? Edition { get; init; }

    /// <summary>What one weighs, grams; null while nobody has said, as of files.</summary>
    public int? Weight { get; init; }

    /// <summary>At which rate it is taxed.</summary>
    public TaxClass Tax { get; init; }

    /// <summary>It is kept, and not offered.</summary>
    public bool IsOff { get; init; }

    /// <summary>The list offers it, of photos that do not say otherwise.</summary>
    public bool IsOffered => !IsOff && Price is not null;

    /// <summary>It is put on paper, or what is like paper.</summary>
    public bool IsPrinted => Kind is OptionKind.Print or OptionKind.Wrap or OptionKind.Card;

    /// <summary>White can be left round the photo: not where it goes round the edges.</summary>
    public bool TakesBorder => Kind is OptionKind.Print or OptionKind.Card;

    /// <summary>A file that is fetched: nothing of it is made, and nothing sent.</summary>
    public bool IsFile => Kind == OptionKind.Digital;

    /// <summary>What buyers read.</summary>
    public string Called => Kind switch
    {
        OptionKind.Digital when Name.Length == 0 => LongestEdge is { } edge ? FormattableString.Invariant($"File, {edge:N0} pixels") : "File, full size",
        _ when !IsPrinted => Name,
        _ when Name.Length > 0 => $"{Size?.Said} {Name}".Trim(),
        OptionKind.Print => $"{Size?.Said} print".Trim(),
        OptionKind.Wrap => $"{Size?.Said} wrap".Trim(),
        _ => $"{Size?.Said} card".Trim(),
    };

    /// <summary>What the seller keeps of the price of one; null where price or cost is not said.</summary>
    public Money? Stays => Price is { } price && Cost is { } cost ? price - cost : null;

    /// <summary>So many of a photo can still be sold; null for as many as are wanted.</summary>
    /// <param name="sold">So many of it were.</param>
    public int? Left(long sold) => Edition is { } all ? (int)Math.Max(0, all - sold) : null;

    /// <summary>What each of so many costs.</summary>
    public Money? Each(int count) => Breaks.LastOrDefault(b => b.From <= count)?.Each ?? Price;

    /// <summary>How a photo comes onto it; null where nothing is printed.</summary>
    /// <param name="middle">What stays in the middle when some is cut off; null for the photo's own.</param>
    /// <param name="isWhole">Nothing is cut off, and white is left instead; where there can be none, it is cut off.</param>
    public PrintFit? FitOf(PixelSize photo, Spot? middle, bool isWhole = false) =>
        !IsPrinted || Size is not { } size ? null
        : new PrintArea((double)size.Width, (double)size.Height, Edge) is var area && isWhole && TakesBorder ? PrintFit.Whole(photo, area)
        : PrintFit.Of(photo, area, middle);

    /// <summary>What is wrong with it; null for nothing. An option without a price may be kept, and is not offered.</summary>
    public string? Fault() =>
        !Enum.IsDefined(Kind) ? "There is no such kind of option."
        : !Enum.IsDefined(Tax) ? "There is no such rate of tax."
        : (Text.Fault(Name, LongestName) ?? Text.Fault(Description, LongestDescription) ?? Text.Fault(Group, LongestName) ?? Text.Fault(Licence, LongestLicence)) is { } words ? words
        : Kind == OptionKind.Other && Name.Length == 0 ? "Say what it is."
        : IsPrinted && Size is null ? PaperSize.Ask
        : Edge is < 0 or > MostEdge ? $"0 to {MostEdge} mm go round the edge of a wrap."
        : LongestEdge is < LeastPixels or > MostPixels ? $"The longest edge of a file is {LeastPixels} to {MostPixels:N0} pixels, or its full size."
        : Downloads is < 1 or > MostDownloads ? $"A file is fetched 1 to {MostDownloads:N0} times, or as often as they like."
        : Days is < 1 or > MostDays ? $"A file is there for 1 to {MostDays:N0} days, or for ever."
        : Edition is < 1 or > MostCount ? $"1 to {MostCount:N0} of each photo are an edition, or as many as are wanted."
        : Weight is < 1 or > MostWeight ? $"One weighs 1 to {MostWeight:N0} g."
        : Shapes.Any(s => !PictureShape.All.Contains(s)) ? "There is no such shape."
        : Price is null && Breaks.Count > 0 ? "Say what one costs before what several cost."
        : Breaks.Count > MostBreaks ? $"A price changes {MostBreaks} times at most by how many are bought."
        : Breaks.Any(b => b.From is < 2 or > MostCount) || Breaks.DistinctBy(b => b.From).Count() < Breaks.Count ? $"Prices for several go up from 2 to {MostCount:N0}, each number once."
        : null;

    /// <summary>The same as it is kept: without what does not go with its kind, and with every list in its order.</summary>
    public SaleOption AsKept() => this with
    {
        Name = Text.Name(Name),
        Description = Description.Trim(),
        Group = Text.Name(Group),
        Size = IsPrinted ? Size : null,
        Edge = Kind == OptionKind.Wrap ? Edge : 0,
        LongestEdge = Kind == OptionKind.Digital ? LongestEdge : null,
        Licence = Kind == OptionKind.Digital ? Licence.Trim() : "",
        Downloads = Kind == OptionKind.Digital ? Downloads : null,
        Days = Kind == OptionKind.Digital ? Days : null,
        Edition = Kind == OptionKind.Digital ? null : Edition,
        Weight = Kind == OptionKind.Digital ? null : Weight,
        Breaks = [.. Breaks.OrderBy(b => b.From)],
        Shapes = Shapes.Distinct().Count() == PictureShape.All.Count ? [] : [.. PictureShape.All.Where(Shapes.Contains)],
    };

    public bool Equals(SaleOption? other) =>
        other is not null && (Id, Kind, Name, Description, Group, Size, Edge) == (other.Id, other.Kind, other.Name, other.Description, other.Group, other.Size, other.Edge)
        && (LongestEdge, Licence, Downloads, Days, Price, Cost, Edition) == (other.LongestEdge, other.Licence, other.Downloads, other.Days, other.Price, other.Cost, other.Edition)
        && (Weight, Tax, IsOff) == (other.Weight, other.Tax, other.IsOff)
        && Breaks.SequenceEqual(other.Breaks) && Shapes.SequenceEqual(other.Shapes);

    public override int GetHashCode() => Id.GetHashCode();
}
