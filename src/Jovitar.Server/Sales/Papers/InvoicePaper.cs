using System.Globalization;
using Jovitar.Core;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Papers;
using Jovitar.Core.Sales.Taxes;
using Jovitar.Core.Themes;

namespace Jovitar.Server.Sales.Papers;

/// <summary>An invoice or a credit note on paper: as it was written, whatever has become of the order since.</summary>
internal static class InvoicePaper
{
    /// <summary>From the right margin: how wide the columns of amounts are.</summary>
    const double Amounts = 26;

    const double Counts = 10;

    public static byte[] Draw(Invoice invoice, Colour accent)
    {
        var title = $"{invoice.Title} {invoice.Called}";
        using var paper = new Paper(invoice.Site, title, PaperFormat.Of(invoice.Placed.Home), accent);
        Head(paper, invoice);
        if (invoice.Kind == InvoiceKind.Invoice)
        {
            Lines(paper, invoice.Placed);
            Sum(paper, invoice.Placed);
        }
        else
        {
            TakesBack(paper, invoice);
        }

        Tax(paper, invoice);
        Foot(paper, invoice);
        return paper.Finish();
    }

    static void Head(Paper paper, Invoice invoice)
    {
        var about = string.Create(CultureInfo.InvariantCulture, $"{Days.Said(invoice.Day)}\nOrder {invoice.Order} of {Days.Said(invoice.Ordered)}");
        paper.Head(invoice.To, invoice.Title, invoice.Called, invoice.TaxNumber.Length == 0 ? about : $"{about}\nTax number {invoice.TaxNumber}", invoice.Sender);
    }

    static void Lines(Paper paper, PlacedOrder placed)
    {
        void Columns()
        {
            var (y, quiet) = (paper.Y, new PaperType(8.5, IsQuiet: true));
            paper.Words(placed.Total.Currency.Code, Paper.Left, y, paper.Width, quiet, isRight: true);
            paper.Y += paper.Words("each", Paper.Left, y, paper.Width - Amounts, quiet, isRight: true) + 1;
            paper.Rule(paper.Y);
            paper.Y += 2;
        }

        Columns();
        var (x, wide) = (Paper.Left + Counts + 3, paper.Width - Counts - 3 - (2 * Amounts));
        var (strong, small) = (new PaperType(10.5, IsStrong: true), new PaperType(9, IsQuiet: true));
        foreach (var line in placed.Lines)
        {
            var (what, of) = (line.Bought, $"{line.Called}, {line.Gallery}");
            var high = paper.HeightOf(what, wide, strong) + Math.Min(paper.HeightOf(of, wide, small), 2 * small.Line);
            if (paper.Need(high + 3))
            {
                Columns();
            }

            var (y, type) = (paper.Y, new PaperType(10.5));
            paper.Words(string.Create(CultureInfo.InvariantCulture, $"{line.Count} ×"), Paper.Left, y, Counts, type, isRight: true);
            paper.Words(of, x, y + paper.Words(what, x, y, wide, strong), wide, small, most: 2);
            paper.Words(line.Each.ToString(), Paper.Left, y, paper.Width - Amounts, type, isRight: true);
            paper.Words(line.Amount.ToString(), Paper.Left, y, paper.Width, type, isRight: true);
            paper.Y += high + 3;
        }

        paper.Rule(paper.Y);
        paper.Y += 2;
    }

    static void Sum(Paper paper, PlacedOrder placed)
    {
        // A sum never stands without its last part on another page.
        paper.Need(40);
        Row(paper, "Together", placed.Goods.ToString());
        foreach (var part in OrderSums.OnTop(placed))
        {
            Row(paper, part.Words, part.Amount);
        }

        Row(paper, "Total", placed.Total.Said, isStrong: true);
    }

    static void TakesBack(Paper paper, Invoice invoice)
    {
        paper.Y += paper.Words(invoice.TakesBack, Paper.Left, paper.Y, paper.Width, new PaperType(10.5)) + 5;
        paper.Rule(paper.Y);
        paper.Y += 2;
        Row(paper, "To your credit", invoice.Amount.Said, isStrong: true);
    }

    static void Tax(Paper paper, Invoice invoice)
    {
        var tax = invoice.Tax;
        if (tax.Kind == TaxKind.None)
        {
            return;
        }

        Row(paper, "Without tax", invoice.Net.ToString(), isQuiet: true);
        foreach (var part in tax.Parts)
        {
            Row(paper, tax.Parts.Count == 1 ? tax.Rate(part) : $"{tax.Rate(part)} on {part.Net}", part.Amount.ToString(), isQuiet: true);
        }
    }

    static void Row(Paper paper, string words, string amount, bool isStrong = false, bool isQuiet = false)
    {
        var type = new PaperType(isStrong ? 13 : 10.5, isStrong, isQuiet);
        paper.Words(words, Paper.Left, paper.Y, paper.Width - 45, type, isRight: true, most: 1);
        paper.Y += paper.Words(amount, Paper.Left, paper.Y, paper.Width, type, isRight: true) + 1;
    }

    static void Foot(Paper paper, Invoice invoice)
    {
        paper.Y += 6;
        if (invoice.Kind == InvoiceKind.Invoice)
        {
            paper.Paragraph(invoice.Paid is { } paid ? $"Paid on {Days.Said(paid)}. {invoice.Delivered}" : invoice.Delivered);
            if (invoice.Paid is null)
            {
                paper.Paragraph(invoice.ToPay);
            }
        }

        paper.Paragraph(invoice.Foot);
        paper.Need(6 + (invoice.Seller.Split('\n').Length * new PaperType(9).Line));
        paper.Y += paper.Words(invoice.Seller, Paper.Left, paper.Y, paper.Width, new PaperType(9, IsQuiet: true));
    }
}
