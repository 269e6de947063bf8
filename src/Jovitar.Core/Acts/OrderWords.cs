using Jovitar.Core.Sales.Ordering;

namespace Jovitar.Core.Acts;

/// <summary>The sentences of the history about the shop and its orders.</summary>
public static class OrderWords
{
    /// <summary>What was changed of the shop.</summary>
    public static string Changed(Shop before, Shop after) =>
        before.IsOpen != after.IsOpen ? (after.IsOpen ? "Opened the shop." : "Closed the shop.")
        : before.Currency != after.Currency ? $"The shop sells in {after.Currency} instead of {before.Currency}."
        : before.Postage != after.Postage ? "Said what sending an order costs."
        : before.Tax != after.Tax ? $"Said which tax goes with orders: {(after.Tax.Kind == TaxKind.None ? "none" : after.Tax.Called)}."
        : "Said how buyers pay.";

    /// <summary>What was done with an order: by its number, for whoever placed it may be forgotten one day.</summary>
    public static string Done(OrderStep step, long number) => $"Order {number}: {Step(step)}.";

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
    public static string Standing(OrderStanding order) => order.State switch
    {
        OrderState.Cancelled => "Cancelled",
        OrderState.Sent => order.IsPaid ? "Sent" : "Sent, not paid yet",
        OrderState.Collected => order.IsPaid ? "Collected" : "Collected, not paid yet",
        OrderState.InWork => order.IsPaid ? "Paid, in work" : "In work, not paid yet",
        _ => order.IsPaid ? "Paid" : "Waits for payment",
    };
}
