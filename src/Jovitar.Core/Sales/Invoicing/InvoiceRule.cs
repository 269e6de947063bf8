namespace Jovitar.Core.Sales.Invoicing;

/// <summary>How the site writes invoices.</summary>
/// <param name="AreWritten">Orders that are placed from now on have one as soon as they are paid or have left.</param>
/// <param name="Seller">Who sells, with the address, line by line.</param>
/// <param name="TaxNumber">By which the tax office knows them; empty for none.</param>
/// <param name="Prefix">What stands before the running number.</param>
/// <param name="First">The running number of the first one: whoever wrote invoices before goes on from there.</param>
/// <param name="Foot">What stands below the sum of each: an account, a register, why no tax is named.</param>
public sealed record InvoiceRule(bool AreWritten = false, string Seller = "", string TaxNumber = "", string Prefix = "", long First = 1, string Foot = "")
{
    public const int LongestSeller = 400;
    public const int MostSellerLines = 8;
    public const int LongestTaxNumber = 40;
    public const int LongestPrefix = 12;
    public const int LongestFoot = 600;

    /// <summary>The highest number to begin with: so many more fit that nobody comes to their end.</summary>
    public const long HighestFirst = 999_999_999;

    /// <summary>What is wrong with it; null for nothing. What is not written yet may be unfinished.</summary>
    public string? Fault() =>
        Text.Fault(Seller, LongestSeller) is { } seller ? seller
        : Text.Fault(TaxNumber, LongestTaxNumber) is { } number ? number
        : Text.Fault(Foot, LongestFoot) is { } foot ? foot
        : Prefix.Length > LongestPrefix || !Prefix.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '/' or '.') ? $"Before the number of invoices stand up to {LongestPrefix} plain letters, digits, hyphens, points and slashes."
        // So that no two are called the same: A1 with 1 and A with 11.
        : Prefix.Length > 0 && char.IsDigit(Prefix[^1]) ? "What stands before the number of invoices ends in a letter, a hyphen, a point or a slash."
        : First is < 1 or > HighestFirst ? $"Invoices are numbered from a number between 1 and {HighestFirst:#,0}."
        : SellerLines > MostSellerLines ? $"Who sells stands in {MostSellerLines} lines at most."
        : AreWritten && !HasSeller ? "Say who sells, with the address below the name, before invoices are written."
        : null;

    /// <summary>Enough is said of who sells.</summary>
    public bool HasSeller => SellerLines >= 2;

    int SellerLines => Seller.Split('\n').Count(l => l.Trim().Length > 0);

    /// <summary>The same as it is kept.</summary>
    public InvoiceRule AsKept() => this with { Seller = Lines(Seller), TaxNumber = Text.Name(TaxNumber), Prefix = Prefix.Trim(), Foot = Foot.ReplaceLineEndings("\n").Trim() };

    static string Lines(string text) => string.Join('\n', text.ReplaceLineEndings("\n").Split('\n').Select(Text.Name).Where(l => l.Length > 0));

    /// <summary>What a number is called.</summary>
    public string Call(long number) => FormattableString.Invariant($"{Prefix}{number}");

    /// <summary>When an order that is placed now has its invoice.</summary>
    public InvoiceTime ForOrders => Of(InvoiceTime.WhenDue);

    /// <summary>When an order has its invoice as things are now: never while none are written.</summary>
    public InvoiceTime Of(InvoiceTime time) => AreWritten ? time : InvoiceTime.Never;
}
