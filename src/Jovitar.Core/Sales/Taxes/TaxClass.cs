namespace Jovitar.Core.Sales.Taxes;

/// <summary>At which rate something is taxed. Kept by name.</summary>
public enum TaxClass
{
    /// <summary>As most things are.</summary>
    Standard,

    /// <summary>At the lower rate that some things have in many countries: books, or prints that count as works of art.</summary>
    Reduced,

    /// <summary>Not at all, wherever its buyer is.</summary>
    None,
}

/// <summary>The rates of a country.</summary>
/// <param name="Standard">Per cent; 0 where nothing is taxed.</param>
/// <param name="Reduced">Per cent; null where what is reduced elsewhere is taxed as everything is.</param>
public sealed record TaxRates(decimal Standard, decimal? Reduced = null)
{
    /// <summary>Where no tax goes with anything.</summary>
    public static readonly TaxRates Nothing = new(0);

    /// <summary>How many per cent something is taxed.</summary>
    public decimal Of(TaxClass of) => of switch { TaxClass.Standard => Standard, TaxClass.Reduced => Reduced ?? Standard, _ => 0 };

    /// <summary>What is wrong with them; null for nothing.</summary>
    internal string? Fault() => IsOne(Standard) && (Reduced is null || IsOne(Reduced.Value)) ? null : "Tax is 0 to 100 per cent, two digits behind the point at most.";

    static bool IsOne(decimal percent) => percent == 0 || Percents.IsOne(percent);

    /// <summary>The same as they are kept.</summary>
    internal TaxRates AsKept() => new(Percents.AsKept(Standard), Reduced is { } reduced && reduced != Standard ? Percents.AsKept(reduced) : null);
}

/// <summary>Countries whose buyers are taxed alike, and otherwise than at home.</summary>
/// <param name="Countries">Their codes (ISO 3166-1).</param>
public sealed record TaxPlace(IReadOnlyList<string> Countries, TaxRates Rates)
{
    public bool Equals(TaxPlace? other) => other is not null && Rates == other.Rates && Countries.SequenceEqual(other.Countries);

    public override int GetHashCode() => HashCode.Combine(Rates, Countries.Count);
}
