using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Payments;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Acts;

/// <summary>The sentences of the history about the shop and its orders.</summary>
public static class OrderWords
{
    /// <summary>What was changed of the shop.</summary>
    public static string Changed(Shop before, Shop after) =>
        before.IsOpen != after.IsOpen ? (after.IsOpen ? "Opened the shop." : "Closed the shop.")
        : before.Currency != after.Currency ? $"The shop sells in {after.Currency} instead of {before.Currency}."
        : before.Postage != after.Postage ? "Said what sending an order costs."
        : before.Tax != after.Tax ? $"Said which tax goes with orders: {(after.Tax.Kind == TaxKind.None ? "none" : after.Tax.Said)}."
        : before.IsPaidOnline != after.IsPaidOnline ? (after.IsPaidOnline ? "Buyers pay online." : "Buyers do not pay online any more.")
        : before.Prints != after.Prints ? "Said how print files are made."
        : before.Invoices.AreWritten != after.Invoices.AreWritten ? (after.Invoices.AreWritten ? "Invoices are written of orders." : "No invoices are written of orders any more.")
        : before.Invoices != after.Invoices ? "Said what stands on invoices."
        : before.Forgetting != after.Forgetting ? "Said how long it is kept who bought."
        : "Said how buyers pay.";

    /// <summary>Who bought is forgotten.</summary>
    /// <param name="numbers">Of which orders.</param>
    public static string Forgot(IReadOnlyList<long> numbers) =>
        numbers is [var one] ? $"Order {one}: who bought is forgotten." : $"{ActWords.Things(numbers.Count, "order", "orders")}: who bought is forgotten.";

    /// <summary>What was done with an order: by its number, for whoever placed it may be forgotten one day.</summary>
    public static string Done(OrderStep step, long number) => $"Order {number}: {Step(step)}.";

    /// <summary>What was heard of a payment.</summary>
    public static string Heard(PaymentStanding before, PaymentStanding after, long number) =>
        after.Returned > before.Returned ? $"Order {number}: {Returned(after).Said} went back."
        : after is { State: PaymentState.Wrong, Came: { } came } ? $"Order {number}: {came.Said} came, and {after.Asked.Said} was asked."
        : $"Order {number}: it was paid online.";

    /// <summary>Why people have to look at a payment that has come; null for no reason.</summary>
    /// <param name="order">Where the order stood before.</param>
    public static string? ToLookAt(OrderStanding order, PaymentStanding after, Money came) =>
        after.State == PaymentState.Wrong ? $"{came.Said} came, and {after.Asked.Said} was asked. The order does not count as paid."
        : order.State == OrderState.Cancelled ? $"{came.Said} came for an order that is cancelled. Refund it, unless you send it after all."
        : order.IsPaid ? $"{came.Said} came for an order that was paid already. Refund what is too much."
        : null;

    static Money Returned(PaymentStanding after) => (after.Came ?? after.Asked) with { Minor = after.Returned };

    /// <summary>What was given back.</summary>
    public static string GaveBack(Money amount, long number) => $"Order {number}: {amount.Said} was refunded.";

    /// <summary>What is on its way back.</summary>
    public static string GivesBack(Money amount, long number) => $"Order {number}: {amount.Said} is to be refunded.";

    /// <summary>How the payments of an order stand, for those who sell: each that came, and while it is not paid the last one.</summary>
    /// <param name="payments">The first one first.</param>
    public static IEnumerable<string> Payments(IReadOnlyList<PaymentStanding> payments, OrderStanding order) =>
        payments.Where((p, i) => p.Came is not null || (!order.IsPaid && i == payments.Count - 1)).Select(Payment);

    static string Payment(PaymentStanding payment) => payment switch
    {
        { State: PaymentState.Paid, Came: { } came } => $"{came.Said} paid online",
        { State: PaymentState.Wrong, Came: { } came } => $"{came.Said} came online where {payment.Asked.Said} was asked",
        { State: PaymentState.Open } => "A payment online was begun",
        _ => "A payment online was begun and not made",
    };

    /// <summary>What went back, and what is on its way.</summary>
    public static IEnumerable<string> WentBack(Money returned, IEnumerable<Money> onItsWay) =>
        [.. returned.Minor > 0 ? (string[])[$"{returned.Said} refunded"] : [], .. onItsWay.Select(m => $"{m.Said} is on its way back")];

    /// <summary>What a payment service would not give back.</summary>
    public static string NotGivenBack(Money amount, long number) => $"Order {number}: {amount.Said} was not refunded, the payment service refuses it.";

    /// <summary>What was written of an order.</summary>
    public static string Wrote(IReadOnlyList<Invoice> invoices, long number) =>
        $"Order {number}: wrote {string.Join(" and ", invoices.Select(i => i.Kind == InvoiceKind.Invoice ? $"invoice {i.Called}" : $"credit note {i.Called} over {i.Amount.Said}"))}.";

    /// <summary>That one has a new link.</summary>
    public static string Linked(long number) => $"Order {number}: made a new link; the former one opens nothing any more.";

    /// <summary>What was noted of one.</summary>
    public static string Noted(long number) => $"Order {number}: noted something.";

    static string Step(OrderStep step) => step switch
    {
        OrderStep.Pay => "its money has come",
        OrderStep.Begin => "it is in work",
        OrderStep.Send => "it is sent",
        OrderStep.HandOver => "it is collected",
        _ => "it is cancelled",
    };

    /// <summary>Where an order stands, for its buyer and its seller.</summary>
    public static string Standing(OrderStanding order) => order.Refunded switch
    {
        Refunded.All => order.State == OrderState.Cancelled ? "Cancelled and refunded" : $"{Walked(order)}, refunded",
        Refunded.InPart => $"{Walked(order)}, refunded in part",
        _ => Walked(order),
    };

    static string Walked(OrderStanding order) => order.State switch
    {
        OrderState.Cancelled => "Cancelled",
        OrderState.Sent => order.IsPaid ? "Sent" : "Sent, not paid yet",
        OrderState.Collected => order.IsPaid ? "Collected" : "Collected, not paid yet",
        OrderState.InWork => order.IsPaid ? "Paid, in work" : "In work, not paid yet",
        _ => order.IsPaid ? "Paid" : "Waits for payment",
    };
}
