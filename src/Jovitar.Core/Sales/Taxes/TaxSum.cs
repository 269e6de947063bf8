namespace Jovitar.Core.Sales.Taxes;

/// <summary>The tax at one rate.</summary>
/// <param name="Percent">0 for what is not taxed.</param>
/// <param name="Gross">Of how much, the tax with it.</param>
/// <param name="Amount">The tax.</param>
public sealed record TaxPart(decimal Percent, Money Gross, Money Amount)
{
    /// <summary>The same without the tax.</summary>
    public Money Net => Gross - Amount;
}

/// <summary>The tax of an order, as it was reckoned then.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Parts">Rate by rate, the highest first; none where no tax is named.</param>
public sealed record TaxSum(TaxKind Kind, string Name, IReadOnlyList<TaxPart> Parts)
{
    public static readonly TaxSum None = new(TaxKind.None, "", []);

    /// <summary>All of it, minor units.</summary>
    public long Minor => Parts.Sum(p => p.Amount.Minor);

    /// <summary>The rates, in digits alone: 20 + 5.5; empty for none.</summary>
    public string Percent => string.Join(" + ", Parts.Select(p => Percents.Digits(p.Percent)));

    /// <summary>What a sum names of it: what is not taxed only where nothing is.</summary>
    public IEnumerable<TaxPart> Named => Parts.Where(p => p.Percent > 0 || Parts.Count == 1);

    /// <summary>How much it is, and of what.</summary>
    public string Rate(TaxPart part) => RateOf(part.Percent, Name);

    /// <summary>What stands beside a part of it in a sum.</summary>
    public string Called(TaxPart part) =>
        part.Percent == 0 ? Rate(part)
        : $"{(Kind == TaxKind.Included ? "including " : "")}{Rate(part)}{(Parts.Count == 1 ? "" : Kind == TaxKind.Included ? $" in {part.Gross}" : $" on {part.Net}")}";

    internal static string RateOf(decimal percent, string name) => percent == 0 ? $"without {name}" : $"{Percents.Digits(percent)} % {name}";

    public bool Equals(TaxSum? other) => other is not null && (Kind, Name) == (other.Kind, other.Name) && Parts.SequenceEqual(other.Parts);

    public override int GetHashCode() => HashCode.Combine(Kind, Name, Parts.Count);
}
