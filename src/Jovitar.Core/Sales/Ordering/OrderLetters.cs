using Jovitar.Core.People;
using Jovitar.Core.Sales.Coupons;
using Jovitar.Core.Sales.Invoicing;

namespace Jovitar.Core.Sales.Ordering;

/// <summary>The letters about orders.</summary>
public static class OrderLetters
{
    /// <summary>So many lines stand in a letter; the rest is behind its link.</summary>
    const int MostLines = 30;

    /// <summary>To who placed an order.</summary>
    /// <param name="link">Opens this order, and nothing else.</param>
    public static Letter Placed(string site, long number, PlacedOrder order, string link) => new(
        $"Your order {number} from {site}",
        $"""
        Dear {order.Buyer.Name},

        thank you. This is what you ordered from “{site}”:

        {Lines(order)}

        {Sum(order)}

        {(order.Payment.Length > 0 ? order.Payment : "It is paid online, on the page of the order; nothing is to be done if you have paid already.")}

        {(order.Way.Delivery == Delivery.Collect ? $"To be collected: {order.Way.Sentence}" : order.Way.Delivery == Delivery.Files ? "The files can be fetched from the order’s page as soon as it is paid." : $"It is sent to:\n\n{string.Join('\n', order.Buyer.Lines(order.Home))}")}

        What becomes of it is here; keep this link, it opens your order and nothing else:

        {link}
        """);

    /// <summary>To whose order has a new link.</summary>
    /// <param name="link">Opens this order, and nothing else.</param>
    public static Letter Linked(string site, long number, PlacedOrder order, string link) => new(
        $"The link of your order {number} from {site}",
        $"""
        Dear {order.Buyer.Name},

        this opens your order {number} from “{site}”; the link that you had before opens nothing any more:

        {link}
        """);

    /// <summary>To who sells.</summary>
    /// <param name="link">Where it is in the workroom; null where nobody knows where the site is to be reached.</param>
    public static Letter Came(string site, string name, long number, PlacedOrder order, string? link) => new(
        $"{site}: order {number} of {order.Buyer.Name}",
        $"""
        Dear {name},

        {order.Buyer.Name} has ordered:

        {Lines(order)}

        {Sum(order)}
        {(order.Message.Length > 0 ? $"\nThey say:\n\n{string.Join('\n', order.Message.Split('\n').Select(l => $"> {l.TrimEnd()}"))}\n" : "")}
        {(link is null ? "It waits in the workroom, among orders." : $"Here:\n\n{link}")}
        """);

    /// <summary>To who has paid online.</summary>
    public static Letter Paid(string site, long number, PlacedOrder order) => new(
        $"Your order {number} from {site} is paid",
        $"""
        Dear {order.Buyer.Name},

        thank you: {order.Total.Said} for your order {number} from “{site}” has come.

        What becomes of it is behind the link of the letter that you had when you ordered.{(order.Lines.Any(l => l.Option.IsFile) ? " The files can be fetched there now." : "")}
        """);

    /// <summary>To whose money goes back.</summary>
    public static Letter GaveBack(string site, long number, PlacedOrder order, Money amount) => new(
        $"{amount.Said} of your order {number} from {site} is refunded",
        $"""
        Dear {order.Buyer.Name},

        {amount.Said} of what you paid for your order {number} from “{site}” goes back to you, the way it came. It may take your bank some days.
        """);

    /// <summary>To whom an invoice or a credit note goes, which comes with it.</summary>
    public static Letter Invoiced(Invoice invoice) => invoice.Kind == InvoiceKind.Invoice
        ? new(
            $"Invoice {invoice.Called} for your order {invoice.Order} from {invoice.Site}",
            $"""
            Dear {invoice.Placed.Buyer.Name},

            with this letter comes invoice {invoice.Called} over {invoice.Amount.Said} for your order {invoice.Order} from “{invoice.Site}”.

            {(invoice.Paid is not null ? "It is paid; nothing is to be done." : invoice.ToPay)}
            """)
        : new(
            $"Credit note {invoice.Called} for your order {invoice.Order} from {invoice.Site}",
            $"""
            Dear {invoice.Placed.Buyer.Name},

            with this letter comes credit note {invoice.Called} over {invoice.Amount.Said} for your order {invoice.Order} from “{invoice.Site}”. {invoice.TakesBack}
            """);

    /// <summary>To who sells, of a payment that people have to look at.</summary>
    /// <param name="says">What is the matter, a sentence.</param>
    /// <param name="link">Where the order is in the workroom; null where nobody knows where the site is to be reached.</param>
    public static Letter LookAt(string site, string name, long number, string says, string? link) => new(
        $"{site}: a payment of order {number} is to be looked at",
        $"""
        Dear {name},

        {says}

        {(link is null ? "The order is in the workroom, among orders." : $"Here:\n\n{link}")}
        """);

    static string Lines(PlacedOrder order) => string.Join('\n', order.Lines.Take(MostLines).Select(l => $"{l.Called}, {l.Bought}{(l.Count > 1 ? $", {l.Count} pieces" : "")}: {l.Amount}")
        .Concat(order.Lines.Count > MostLines ? [$"and {order.Lines.Count - MostLines} more"] : []));

    static string Sum(PlacedOrder order)
    {
        static string Said(SumPart part) => $"{part.Words}: {part.Amount}";
        var within = string.Join("; ", OrderSums.Within(order.Tax).Select(Said));
        return string.Join('\n', [.. OrderSums.OnTop(order).Select(Said), $"Total: {order.Total.Said}{(within.Length > 0 ? $" ({within})" : "")}"]);
    }

    /// <summary>A coupon, as a sum names it.</summary>
    public static string Called(CouponOff off) => $"Coupon {off.Code}";

    /// <summary>What is taken off, as a sum has it.</summary>
    public static string Less(Money amount) => $"−{amount}";

    /// <summary>How an order comes, as a sum names it.</summary>
    public static string Called(Delivery delivery) => delivery switch
    {
        Delivery.Post => "Post",
        Delivery.Express => "Express post",
        Delivery.Collect => "Collected",
        _ => "Files to fetch",
    };
}
