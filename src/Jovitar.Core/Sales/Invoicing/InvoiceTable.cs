using System.Globalization;
using Jovitar.Core.Describing;
using Jovitar.Core.Sales.Ordering;

namespace Jovitar.Core.Sales.Invoicing;

/// <summary>Invoices in a spreadsheet's file, as bookkeeping wants them: a row each, what credit notes take back below 0, amounts in digits with a point, days as ISO 8601 has them.</summary>
public static class InvoiceTable
{
    public static readonly IReadOnlyList<string> Columns = ["number", "what", "day", "order", "takes back", "name", "country", "net", "tax, per cent", "tax", "amount", "currency"];

    /// <summary>An invoice's cells, in the order of <see cref="Columns"/>.</summary>
    public static IReadOnlyList<string> Cells(Invoice invoice)
    {
        string Signed(Money money) => (money with { Minor = invoice.Kind == InvoiceKind.CreditNote ? -money.Minor : money.Minor }).ToString();
        var (placed, tax) = (invoice.Placed, invoice.Placed.Tax);
        return
        [
            WordsTable.Cell(invoice.Called), invoice.Title, invoice.Day.ToString("O", CultureInfo.InvariantCulture), invoice.Order.ToString(CultureInfo.InvariantCulture), WordsTable.Cell(invoice.Corrects?.Called ?? ""),
            WordsTable.Cell(placed.Buyer.Name), placed.Buyer.Country, Signed(invoice.Net), tax.Kind == TaxKind.None ? "" : Percents.Digits(tax.Percent), Signed(invoice.Tax), Signed(invoice.Amount),
            invoice.Amount.Currency.Code,
        ];
    }
}
