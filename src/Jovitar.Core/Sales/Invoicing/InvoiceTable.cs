using System.Globalization;
using Jovitar.Core.Describing;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Sales.Invoicing;

/// <summary>Invoices in a spreadsheet's file, as bookkeeping wants them: a row for each rate of tax in each of them, what credit notes take back below 0, amounts in digits with a point, days as ISO 8601 has them.</summary>
public static class InvoiceTable
{
    public static readonly IReadOnlyList<string> Columns = ["number", "what", "day", "order", "takes back", "name", "country", "net", "tax, per cent", "tax", "amount", "currency"];

    /// <summary>An invoice's rows, their cells in the order of <see cref="Columns"/>.</summary>
    public static IEnumerable<IReadOnlyList<string>> Rows(Invoice invoice)
    {
        string Signed(Money money) => (money with { Minor = invoice.Kind == InvoiceKind.CreditNote ? -money.Minor : money.Minor }).ToString();
        var placed = invoice.Placed;
        var none = new TaxPart(0, invoice.Amount, invoice.Amount with { Minor = 0 });
        return invoice.Tax.Parts.DefaultIfEmpty(none).Select(IReadOnlyList<string> (part) =>
        [
            WordsTable.Cell(invoice.Called), invoice.Title, invoice.Day.ToString("O", CultureInfo.InvariantCulture), invoice.Order.ToString(CultureInfo.InvariantCulture), WordsTable.Cell(invoice.Corrects?.Called ?? ""),
            WordsTable.Cell(placed.Buyer.Name), placed.Buyer.Country, Signed(part.Net), ReferenceEquals(part, none) ? "" : Percents.Digits(part.Percent), Signed(part.Amount), Signed(part.Gross),
            invoice.Amount.Currency.Code,
        ]);
    }
}
