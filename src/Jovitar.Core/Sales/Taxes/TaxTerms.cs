namespace Jovitar.Core.Sales.Taxes;

/// <summary>A line of what is taxed.</summary>
/// <param name="Amount">What it comes to before anything is taken off, minor units.</param>
/// <param name="IsSent">It goes by post, where there is any: postage is taxed as what it brings.</param>
public readonly record struct TaxedLine(TaxClass Class, long Amount, bool IsSent);

/// <summary>
/// What goes with an order: its rates, halves rounded up. Coupons take the same share off everything. Postage is taxed as what is sent: with
/// several rates each bears its share of it, by what it costs (common practice: postage is a part of what it brings). Shares are
/// whole minor units that come to the whole.
/// </summary>
/// <param name="IsByLine">Rounded for each line, and for each rate's share of postage; else once for all that has the same rate.</param>
public sealed record TaxTerms(TaxKind Kind, string Name, TaxRates Rates, bool IsByLine = false)
{
    public static readonly TaxTerms None = new(TaxKind.None, "", TaxRates.Nothing);

    /// <summary>The tax of an order, rate by rate, the highest first.</summary>
    /// <param name="off">What coupons take off the lines.</param>
    /// <param name="postage">What is left to pay of it.</param>
    public TaxSum Of(IReadOnlyList<TaxedLine> lines, Money off, Money postage)
    {
        if (Kind == TaxKind.None || lines.Count == 0)
        {
            return new TaxSum(Kind, Name, []);
        }

        var left = lines.Zip(Shares.Of(off.Minor, lines.Select(l => l.Amount)), (line, share) => (Percent: Rates.Of(line.Class), Brings: line.IsSent ? line.Amount : 0, line.IsSent, Left: line.Amount - share)).ToArray();
        var rates = left.GroupBy(l => l.Percent).OrderByDescending(g => g.Key).ToArray();
        var brought = rates.Select(r => r.Sum(l => l.Brings)).ToArray();
        var postages = Shares.Of(postage.Minor, brought.Any(b => b > 0) ? brought : rates.Select(r => r.Any(l => l.IsSent) ? 1L : 0));
        TaxPart[] parts = [.. rates.Zip(postages, (rate, share) => Part(rate.Key, [.. rate.Select(l => l.Left)], share, off.Currency))];
        return new TaxSum(Kind, Name, [.. parts.Where((part, i) => part.Gross.Minor > 0 || (i == 0 && parts.All(p => p.Gross.Minor == 0)))]);
    }

    TaxPart Part(decimal percent, IReadOnlyList<long> lines, long postage, Currency currency)
    {
        var sum = lines.Sum() + postage;
        var tax = IsByLine ? lines.Sum(l => In(l, percent)) + In(postage, percent) : In(sum, percent);
        return new TaxPart(percent, new Money(Kind == TaxKind.Added ? sum + tax : sum, currency), new Money(tax, currency));
    }

    long In(long minor, decimal percent) => (long)decimal.Round(minor * percent / (Kind == TaxKind.Included ? 100 + percent : 100), MidpointRounding.AwayFromZero);
}
