using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Sales.Invoicing;

/// <summary>An invoice or a credit note, as it was written: whatever becomes of the order, the shop or the site, this stays.</summary>
/// <param name="Called">Its number, as it stands on it.</param>
/// <param name="Day">On which it was written.</param>
/// <param name="Site">What the site was called.</param>
/// <param name="Seller">Who sells, with the address, line by line.</param>
/// <param name="Order">The order's number.</param>
/// <param name="Ordered">When it was placed.</param>
/// <param name="Paid">When its money had come; null where it had not.</param>
/// <param name="Corrects">Of a credit note, the invoice that it takes back; null otherwise.</param>
/// <param name="Amount">What it is about, tax with it.</param>
/// <param name="Tax">How much of that is tax, rate by rate.</param>
public sealed record Invoice(
    InvoiceKind Kind, string Called, DateOnly Day, string Site, string Seller, string TaxNumber, string Foot, long Order, DateOnly Ordered, DateOnly? Paid, PlacedOrder Placed, InvoiceNamed? Corrects, Money Amount, TaxSum Tax)
{
    /// <summary>What it is about, without tax.</summary>
    public Money Net => Amount - Taxed;

    /// <summary>All of the tax.</summary>
    public Money Taxed => Amount with { Minor = Tax.Minor };

    /// <summary>What it is, in words.</summary>
    public string Title => TitleOf(Kind);

    public static string TitleOf(InvoiceKind kind) => kind == InvoiceKind.Invoice ? "Invoice" : "Credit note";

    /// <summary>What its file is called.</summary>
    public string FileName => $"{Title.ToLowerInvariant()} {Called.Replace('/', '-')}.pdf";

    /// <summary>What a credit note takes back, a sentence.</summary>
    public string TakesBack =>
        $"This takes back {(Amount == Placed.Total ? "" : "a part of ")}{(Corrects is { } corrects ? $"invoice {corrects.Called} of {Days.Said(corrects.Day)}" : "the invoice")}{(Amount == Placed.Total ? " as a whole." : $", which was over {Placed.Total.Said}.")}";

    /// <summary>How an invoice that is not paid is to be paid.</summary>
    public string ToPay => Placed.Payment.Length > 0 ? Placed.Payment : "It is paid online, on the page of the order.";

    /// <summary>When what it is about comes, or came, to its buyer.</summary>
    public string Delivered =>
        Placed.Way.Delivery != Delivery.Files ? "Delivered on the day of this invoice, unless another was agreed."
        : Paid is null ? "The files can be fetched as soon as it is paid."
        : "The files can be fetched since then.";

    /// <summary>To whom it goes, line by line: of who had nothing sent no address is kept.</summary>
    public IReadOnlyList<string> To => Placed.Buyer.IsForgotten ? ["Who bought is forgotten."] : Placed.Buyer.Street.Length > 0 ? Placed.Buyer.Lines(Placed.Home) : [Placed.Buyer.Name, Placed.Buyer.Email, .. Placed.Buyer.Abroad(Placed.Home)];

    /// <summary>The same, over the same amount, of nobody knows whom.</summary>
    public Invoice Forgotten() => this with { Placed = Placed.Forgotten() };

    /// <summary>Who sells, in one line.</summary>
    public string Sender => string.Join(" · ", Seller.Split('\n'));
}

/// <summary>An invoice, as another paper names it.</summary>
public sealed record InvoiceNamed(string Called, DateOnly Day);

/// <summary>An invoice as it is written down: whole, and readable when all else is gone.</summary>
/// <param name="Tax">All of it.</param>
/// <param name="Taxes">Rate by rate; null where there is only the one.</param>
/// <inheritdoc cref="Invoice"/>
public sealed record InvoiceSaid(
    InvoiceKind Kind, string Called, DateOnly Day, string Site, string Seller, string TaxNumber, string Foot, long Order, DateOnly Ordered, DateOnly? Paid, PlacedSaid Placed, InvoiceNamed? Corrects, string Amount, string Tax,
    IReadOnlyList<TaxPartSaid>? Taxes = null)
{
    public static InvoiceSaid Of(Invoice invoice) => new(
        invoice.Kind, invoice.Called, invoice.Day, invoice.Site, invoice.Seller, invoice.TaxNumber, invoice.Foot, invoice.Order, invoice.Ordered, invoice.Paid, PlacedSaid.Of(invoice.Placed), invoice.Corrects,
        invoice.Amount.ToString(), invoice.Taxed.ToString(), invoice.Tax.Parts.Count < 2 ? null : [.. invoice.Tax.Parts.Select(TaxPartSaid.Of)]);

    /// <exception cref="InvalidDataException">It was written otherwise.</exception>
    public Invoice Read()
    {
        var placed = Placed.Read();
        Money Read(string text) => Money.Read(text, placed.Total.Currency, long.MaxValue) ?? throw new InvalidDataException($"“{text}” is no amount.");
        TaxPart[] parts = Taxes is null ? [.. placed.Tax.Parts.Take(1).Select(p => new TaxPart(p.Percent, Read(Amount), Read(Tax)))] : [.. Taxes.Select(t => t.Read(Read))];
        return new Invoice(Kind, Called, Day, Site, Seller, TaxNumber, Foot, Order, Ordered, Paid, placed, Corrects, Read(Amount), placed.Tax with { Parts = parts });
    }
}
