using Jovitar.Core.Sales.Forgetting;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Printing;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Sales.Ordering;

/// <summary>How the site sells, as it is written.</summary>
/// <param name="Currency">Its code in ISO 4217.</param>
/// <param name="Prints">Null for as print files are made where nobody has said.</param>
/// <param name="Invoices">Null for none.</param>
/// <param name="Forgetting">Null for as buyers are forgotten where nobody has said.</param>
public sealed record ShopSaid(bool IsOpen, string Currency, PostageSaid Postage, TaxSaid Tax, string Payment, bool IsPaidOnline = false, PrintRule? Prints = null, InvoiceRule? Invoices = null, ForgettingRule? Forgetting = null)
{
    public static ShopSaid Of(Shop shop) => new(
        shop.IsOpen, shop.Currency.Code, PostageSaid.Of(shop.Postage), TaxSaid.Of(shop.Tax), shop.Payment, shop.IsPaidOnline, shop.Prints, shop.Invoices, shop.Forgetting);

    /// <summary>The shop it says, or why it says none.</summary>
    /// <returns>Beside the sentence, the field that it is about, where it is one.</returns>
    public (Shop? Shop, string? Wrong, string? Field) Read()
    {
        if (Sales.Currency.Find(Currency) is not { } currency)
        {
            return (null, "There is no such currency.", "currency");
        }

        if (Postage is null || Tax is null)
        {
            return (null, "Something of the shop is missing.", null);
        }

        var (postage, wrong, field) = Postage.Read(currency);
        if (postage is null)
        {
            return (null, wrong, field);
        }

        (var tax, wrong, field) = Tax.Read();
        if (tax is null)
        {
            return (null, wrong, field);
        }

        var shop = new Shop(IsOpen, currency, postage, tax, Payment, IsPaidOnline) { Prints = Prints ?? new PrintRule(), Invoices = Invoices ?? new InvoiceRule(), Forgetting = Forgetting ?? new ForgettingRule() }.AsKept();
        return shop.Fault() is { } fault ? (null, fault, fault == shop.Invoices.Fault() ? "invoices" : null) : (shop, null, null);
    }
}
