namespace Jovitar.Core.Sales.Ordering;

/// <summary>How tax goes with prices. Kept by name.</summary>
public enum TaxKind
{
    /// <summary>None is named.</summary>
    None,

    /// <summary>Prices and postage have it in them.</summary>
    Included,

    /// <summary>It comes on top of prices and postage.</summary>
    Added,
}

/// <summary>The tax of an order: reckoned once on its whole sum, goods and postage, and rounded once, halves up.</summary>
/// <param name="Percent">0 to 100, two digits behind the point.</param>
/// <param name="Name">What it is called on the sum: VAT.</param>
public sealed record Tax(TaxKind Kind, decimal Percent, string Name)
{
    public const int LongestName = 40;

    public static readonly Tax None = new(TaxKind.None, 0, "");

    /// <summary>What is wrong with it; null for nothing.</summary>
    public string? Fault() =>
        !Enum.IsDefined(Kind) ? "There is no such way to reckon tax."
        : Kind == TaxKind.None ? null
        : !Percents.IsOne(Percent) ? "Tax is more than 0 and up to 100 per cent, two digits behind the point at most."
        : Name.Trim().Length == 0 ? "Say what the tax is called."
        : Text.Fault(Name, LongestName);

    /// <summary>The same as it is kept.</summary>
    public Tax AsKept() => Kind == TaxKind.None ? None : this with { Name = Text.Name(Name), Percent = Percents.AsKept(Percent) };

    /// <summary>How much of a sum it is, or how much comes on top of it.</summary>
    public Money Of(Money sum) => sum with
    {
        Minor = Kind switch
        {
            TaxKind.Included => (long)decimal.Round(sum.Minor * Percent / (100 + Percent), MidpointRounding.AwayFromZero),
            TaxKind.Added => (long)decimal.Round(sum.Minor * Percent / 100, MidpointRounding.AwayFromZero),
            _ => 0,
        },
    };

    /// <summary>How much it is, and of what; empty for none.</summary>
    public string Rate => Kind == TaxKind.None ? "" : $"{Percents.Digits(Percent)} % {Name}";

    /// <summary>What stands beside it in a sum.</summary>
    public string Called => Kind == TaxKind.Included ? $"including {Rate}" : Rate;
}
