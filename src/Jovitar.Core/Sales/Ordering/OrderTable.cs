using System.Globalization;
using Jovitar.Core.Acts;
using Jovitar.Core.Describing;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Sales.Ordering;

/// <summary>Orders in a spreadsheet's file, as bookkeeping wants them: a row each, amounts in digits with a point, days as ISO 8601 has them.</summary>
public static class OrderTable
{
    public static readonly IReadOnlyList<string> Columns =
        ["order", "placed", "paid", "standing", "name", "e-mail", "country", "pieces", "goods", "postage", "taken off", "coupons", "tax, per cent", "tax", "tax is", "total", "refunded", "currency"];

    /// <summary>An order's cells, in the order of <see cref="Columns"/>.</summary>
    /// <param name="returned">What went back, minor units.</param>
    public static IReadOnlyList<string> Cells(long number, DateTimeOffset at, DateTimeOffset? paid, OrderStanding standing, PlacedOrder order, long returned) =>
    [
        number.ToString(CultureInfo.InvariantCulture), Day(at), paid is { } then ? Day(then) : "", OrderWords.Standing(standing), WordsTable.Cell(order.Buyer.Name), WordsTable.Cell(order.Buyer.Email), order.Buyer.Country,
        order.Lines.Sum(l => l.Count).ToString(CultureInfo.InvariantCulture), order.Goods.ToString(), order.Way.Costs.ToString(), order.TakenOff.ToString(), WordsTable.Cell(string.Join(" ", order.Off.Select(o => o.Code))),
        order.Tax.Percent, order.Taxed.ToString(), order.Tax.Kind switch { TaxKind.Included => "in it", TaxKind.Added => "on top", _ => "" }, order.Total.ToString(), (order.Total with { Minor = returned }).ToString(), order.Total.Currency.Code,
    ];

    static string Day(DateTimeOffset at) => at.UtcDateTime.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
