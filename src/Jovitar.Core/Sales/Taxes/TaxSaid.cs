namespace Jovitar.Core.Sales.Taxes;

/// <summary>The rates of a country as they are written: digits with a point or a comma.</summary>
/// <param name="Percent">0 where nothing is taxed.</param>
/// <param name="Reduced">Empty where what is reduced elsewhere is taxed as everything is.</param>
public sealed record TaxRatesSaid(string Percent, string Reduced = "")
{
    public static TaxRatesSaid Of(TaxRates rates) => new(Percents.Digits(rates.Standard), rates.Reduced is { } reduced ? Percents.Digits(reduced) : "");

    /// <summary>The rates it says; null for none.</summary>
    internal TaxRates? Read() =>
        Percents.Read(Percent ?? "") is not { } standard ? null
        : string.IsNullOrWhiteSpace(Reduced) ? new TaxRates(standard)
        : Percents.Read(Reduced) is { } reduced ? new TaxRates(standard, reduced)
        : null;
}

/// <summary>Countries whose buyers are taxed alike, as they are written.</summary>
/// <inheritdoc cref="TaxPlace"/>
public sealed record TaxPlaceSaid(IReadOnlyList<string> Countries, string Percent, string Reduced = "");

/// <summary>Tax as it is written.</summary>
/// <param name="Percent">Digits with a point or a comma; empty for none.</param>
/// <param name="Reduced">The same, of what is reduced; empty for as everything.</param>
/// <param name="Places">Null for none.</param>
/// <param name="Elsewhere">Null for as at home.</param>
/// <inheritdoc cref="Tax"/>
public sealed record TaxSaid(TaxKind Kind, string Percent, string Name, string Reduced = "", IReadOnlyList<TaxPlaceSaid>? Places = null, TaxRatesSaid? Elsewhere = null, bool IsByLine = false)
{
    public static TaxSaid Of(Tax tax) => tax.Kind == TaxKind.None ? new(tax.Kind, "", "") : new(
        tax.Kind, Percents.Digits(tax.Percent), tax.Name, tax.Reduced is { } reduced ? Percents.Digits(reduced) : "",
        tax.Places.Count == 0 ? null : [.. tax.Places.Select(p => (p.Countries, Rates: TaxRatesSaid.Of(p.Rates))).Select(p => new TaxPlaceSaid(p.Countries, p.Rates.Percent, p.Rates.Reduced))],
        tax.Elsewhere is { } elsewhere ? TaxRatesSaid.Of(elsewhere) : null, tax.IsByLine);

    /// <summary>The tax it says, or why it says none.</summary>
    /// <returns>Beside the sentence, the field that it is about: of a place “places” and where it stands, from 0 on.</returns>
    public (Tax? Tax, string? Wrong, string? Field) Read()
    {
        if (Kind == TaxKind.None)
        {
            return (Tax.None, null, null);
        }

        if (new TaxRatesSaid(Percent, Reduced).Read() is not { } home)
        {
            return (null, "Say how many per cent the tax is.", "percent");
        }

        var places = new List<TaxPlace>();
        foreach (var (said, i) in (Places ?? []).Select((p, i) => (p, i)))
        {
            if (said?.Countries is null || said.Countries.Contains(null!) || new TaxRatesSaid(said.Percent, said.Reduced).Read() is not { } rates)
            {
                return (null, "Say how many per cent the tax is there; 0 for none.", $"places{i}");
            }

            places.Add(new TaxPlace(said.Countries, rates));
        }

        var elsewhere = Elsewhere?.Read();
        return Elsewhere is not null && elsewhere is null ? (null, "Say how many per cent the tax is elsewhere; 0 for none.", "elsewhere")
            : (new Tax(Kind, home.Standard, Name) { Reduced = home.Reduced, Places = places, Elsewhere = elsewhere, IsByLine = IsByLine }, null, null);
    }
}
