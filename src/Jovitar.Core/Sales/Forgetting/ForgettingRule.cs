using Jovitar.Core.Sales.Ordering;

namespace Jovitar.Core.Sales.Forgetting;

/// <summary>How long it is kept who bought.</summary>
/// <param name="Months">So many months after an order was placed its buyer is forgotten without being asked for; null for never.</param>
/// <param name="InvoiceYears">Invoices name their buyers for so many years, counted from the end of the year in which they were written.</param>
public sealed record ForgettingRule(int? Months = null, int InvoiceYears = ForgettingRule.UsualYears)
{
    public const int MostMonths = 240;
    public const int MostYears = 30;

    /// <summary>As long as most tax laws ask for at most.</summary>
    const int UsualYears = 10;

    /// <summary>What is wrong with it; null for nothing.</summary>
    public string? Fault() =>
        Months is < 1 or > MostMonths ? $"Buyers are forgotten after 1 to {MostMonths} months, or never."
        : InvoiceYears is < 0 or > MostYears ? $"Invoices name their buyers for 0 to {MostYears} years."
        : null;

    /// <summary>Buyers of orders that were placed before are forgotten; null for none.</summary>
    public DateTimeOffset? PlacedBefore(DateTimeOffset now) => Months is { } months ? now.AddMonths(-months) : null;

    /// <summary>Invoices that were written before name nobody any more, once their buyer is forgotten.</summary>
    public DateTimeOffset WrittenBefore(DateTimeOffset now) => new(now.UtcDateTime.Year - InvoiceYears, 1, 1, 0, 0, 0, TimeSpan.Zero);

    /// <summary>The last year in which an invoice names its buyer.</summary>
    public int LastYear(DateTimeOffset written) => written.UtcDateTime.Year + InvoiceYears;

    /// <summary>Whether the buyer of an order can be forgotten: nothing of it is left to be done, neither by them nor for them.</summary>
    /// <param name="isOnItsWayBack">Money of it is.</param>
    public static bool CanForget(OrderStanding standing, bool isOnItsWayBack) => !isOnItsWayBack && !standing.IsOpen && (standing.IsPaid || !standing.Counts);
}
