using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Sales.Invoicing;

/// <summary>When an order has its invoice. Kept by name.</summary>
public enum InvoiceTime
{
    /// <summary>It was placed while none were written.</summary>
    Never,

    /// <summary>As soon as it is paid, or has left.</summary>
    WhenDue,

    /// <summary>Whoever sells has asked for it, paid or not.</summary>
    Now,
}

/// <summary>What is written of an order. Kept by name.</summary>
public enum InvoiceKind
{
    Invoice,

    /// <summary>Takes back an invoice, or a part of it.</summary>
    CreditNote,
}

/// <summary>A paper that is to be written.</summary>
/// <param name="Amount">Minor units, more than 0.</param>
/// <param name="Begins">Where in the order's total it begins, minor units: credit notes take an invoice back one part after the other.</param>
public readonly record struct InvoiceStep(InvoiceKind Kind, long Amount, long Begins)
{
    public long Ends => Begins + Amount;
}

/// <summary>Which papers an order is to have. What is written is never changed: what has become otherwise is written anew, and the papers come to what is owed again.</summary>
public static class Billing
{
    /// <summary>What the papers of an order come to.</summary>
    /// <param name="written">Over how much each is, minor units.</param>
    public static long Balance(IEnumerable<(InvoiceKind Kind, long Amount)> written) => written.Sum(w => w.Kind == InvoiceKind.Invoice ? w.Amount : -w.Amount);

    /// <summary>
    /// What is to be written of an order, one after the other; nothing where its papers come to what it is owed for: all of it but what went
    /// back, and nothing once it is cancelled.
    /// </summary>
    /// <param name="total">Of the order, minor units.</param>
    /// <param name="returned">What went back of its price. Of what was paid too much nothing is owed, so that does not count.</param>
    /// <param name="balance">What its papers come to by now: never below 0.</param>
    public static IReadOnlyList<InvoiceStep> Next(OrderStanding standing, InvoiceTime time, long total, long returned, long balance)
    {
        var owed = standing.State == OrderState.Cancelled ? 0 : Math.Max(0, total - returned);
        if (balance > owed)
        {
            return [new(InvoiceKind.CreditNote, balance - owed, total - balance)];
        }

        if (balance == owed || !IsDue(standing, time))
        {
            return [];
        }

        // An invoice is always of the whole order: what is left of one that was taken back too far is taken back, too.
        return
        [
            .. balance > 0 ? (InvoiceStep[])[new(InvoiceKind.CreditNote, balance, total - balance)] : [],
            new(InvoiceKind.Invoice, total, 0),
            .. total > owed ? (InvoiceStep[])[new(InvoiceKind.CreditNote, total - owed, 0)] : [],
        ];
    }

    static bool IsDue(OrderStanding standing, InvoiceTime time) => time switch
    {
        InvoiceTime.Now => true,
        InvoiceTime.WhenDue => standing.IsPaid || standing.State is OrderState.Sent or OrderState.Collected,
        _ => false,
    };

    /// <summary>
    /// The tax in a part of an order, rate by rate: what is in all of it up to the part's end, less what is in all of it up to its beginning. So
    /// the taxes of parts that follow each other are together the tax of the whole, to the cent, and what each rate is of comes to the part and
    /// is never below 0.
    /// </summary>
    public static TaxSum TaxOf(PlacedOrder order, InvoiceStep part)
    {
        var whole = order.Tax.Parts;
        IReadOnlyList<long> Gross(long until) => Shares.Split(until, [.. whole.Select(p => p.Gross.Minor)]);
        long Tax(TaxPart of, long until) => Shares.Part(of.Amount.Minor, until, order.Total.Minor);
        var (from, to) = (Gross(part.Begins), Gross(part.Ends));
        return order.Tax with
        {
            Parts = [.. whole.Select((p, i) => new TaxPart(p.Percent, p.Gross with { Minor = to[i] - from[i] }, p.Amount with { Minor = Tax(p, part.Ends) - Tax(p, part.Begins) }))],
        };
    }
}
