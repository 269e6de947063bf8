using Jovitar.Core.Sales.Ordering;

namespace Jovitar.Core.Sales.Taxes;

/// <summary>How tax goes with prices. Kept by name.</summary>
public enum TaxKind
{
    /// <summary>None is named.</summary>
    None,

    /// <summary>Prices and postage have it in them: they are the same wherever a buyer is, only how much of them is tax differs.</summary>
    Included,

    /// <summary>It comes on top of prices and postage.</summary>
    Added,
}

/// <summary>How a shop is taxed: at which rates at home, and at which where its buyers are elsewhere.</summary>
/// <param name="Percent">At home, as most things are: more than 0, up to 100, two digits behind the point.</param>
/// <param name="Name">What it is called on the sum: VAT.</param>
public sealed record Tax(TaxKind Kind, decimal Percent, string Name)
{
    public const int LongestName = 40;
    public const int MostPlaces = 100;

    public static readonly Tax None = new(TaxKind.None, 0, "");

    /// <summary>At home, of what is reduced, per cent; null where that is taxed as everything is.</summary>
    public decimal? Reduced { get; init; }

    /// <summary>Other countries that have rates of their own; each stands in one of them.</summary>
    public IReadOnlyList<TaxPlace> Places { get; init; } = [];

    /// <summary>The rates in all countries that stand nowhere; null for as at home.</summary>
    public TaxRates? Elsewhere { get; init; }

    /// <summary>It is rounded for each line and then counted together, else once for all that has the same rate.</summary>
    public bool IsByLine { get; init; }

    /// <summary>It matters where a buyer is.</summary>
    public bool GoesByCountry => Places.Count > 0 || Elsewhere is not null;

    /// <summary>What is wrong with it; null for nothing.</summary>
    public string? Fault() =>
        !Enum.IsDefined(Kind) ? "There is no such way to reckon tax."
        : Kind == TaxKind.None ? null
        : !Percents.IsOne(Percent) || (Reduced is { } reduced && !Percents.IsOne(reduced)) ? "Tax is more than 0 and up to 100 per cent, two digits behind the point at most."
        : Name.Trim().Length == 0 ? "Say what the tax is called."
        : Text.Fault(Name, LongestName) is { } name ? name
        : Places.Count > MostPlaces ? $"Rates are said of {MostPlaces} places at most."
        : Places.SelectMany(p => p.Countries).Any(c => Country.Find(c) is null) ? "There is no such country."
        : Places.SelectMany(p => p.Countries).GroupBy(c => c).FirstOrDefault(c => c.Count() > 1) is { } twice ? $"Rates are said of {Country.Find(twice.Key)} twice."
        : Places.Select(p => p.Rates).Append(Elsewhere).Select(r => r?.Fault()).FirstOrDefault(f => f is not null);

    /// <summary>The same as it is kept.</summary>
    /// <param name="home">The country from which is sold, which has its rates already.</param>
    public Tax AsKept(string home) => Kind == TaxKind.None ? None : this with
    {
        Name = Text.Name(Name),
        Percent = Percents.AsKept(Percent),
        Reduced = new TaxRates(Percent, Reduced).AsKept().Reduced,
        Places = [.. Places.Select(p => new TaxPlace([.. p.Countries.Select(c => Country.Find(c)?.Code ?? c).Distinct().Where(c => c != home)], p.Rates.AsKept()))],
        Elsewhere = Elsewhere?.AsKept(),
    };

    /// <summary>What goes with an order.</summary>
    /// <param name="home">From where is sold.</param>
    /// <param name="to">Where its buyer is taxed: where it goes, or where they are who fetch files; null for at home, as who collects is.</param>
    public TaxTerms Terms(string home, Country? to) => new(Kind, Name, RatesIn(home, to), IsByLine);

    TaxRates RatesIn(string home, Country? to) =>
        to is not null && to.Code != home ? Places.FirstOrDefault(p => p.Countries.Contains(to.Code))?.Rates ?? Elsewhere ?? AtHome : AtHome;

    TaxRates AtHome => new(Percent, Reduced);

    /// <summary>What prices have in them or have not, where nobody knows yet how much: the rate, too, where there is only one.</summary>
    public string Said => Kind switch
    {
        TaxKind.Included => $"including {Rate}",
        TaxKind.Added => $"without {Rate}",
        _ => "",
    };

    /// <summary>What it is called; with how much it is, where that is always the same.</summary>
    public string Rate => Kind == TaxKind.None ? "" : GoesByCountry || Reduced is not null ? Name : TaxSum.RateOf(Percent, Name);

    public bool Equals(Tax? other) =>
        other is not null && (Kind, Percent, Name, Reduced, Elsewhere, IsByLine) == (other.Kind, other.Percent, other.Name, other.Reduced, other.Elsewhere, other.IsByLine) && Places.SequenceEqual(other.Places);

    public override int GetHashCode() => HashCode.Combine(Kind, Percent, Name, Reduced, Elsewhere, IsByLine, Places.Count);
}
